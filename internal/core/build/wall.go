package build

import (
	"fmt"
	"math"
	"strings"
)

// Cleats: 18 mm thick, 75 to 100 high where the rows leave room; common practice.
const (
	cleatHigh  = 80.0
	cleatLeast = 40.0
	pegSheet   = 6.0
	battenW    = 60.0
)

// cleats are rails sawn at an angle along their upper edges, one for each row, screwed to the studs.
func (m *maker) cleats() error {
	p := m.places[0]
	w, d, h := m.size()
	t := m.c.T
	if t > d {
		return fmt.Errorf("%s is %s deep; cleats %s thick do not go into it", p.ID, p.D, mm(t))
	}
	rows := []float64{}
	for _, z := range p.Rows {
		rows = append(rows, z.MM())
	}
	if len(rows) == 0 {
		for z := h; z > 120; z -= 200 {
			rows = append([]float64{z}, rows...)
		}
	}
	if len(rows) == 0 {
		rows = []float64{h}
	}
	below := 0.0
	for i, z := range rows {
		high := min(cleatHigh, z-below-2)
		if high < cleatLeast {
			m.caution("row %d is %s over the one below: a cleat of %s is left, too low for what is heavy", i+1, mm(z-below), mm(max(high, 12)))
			high = max(high, 12)
		}
		k := m.sheet("the field", "Wall cleat", Box{0, d - t, z - high, w, t, high}, AxisX)
		m.u.Parts[k].Bevel = m.c.Bevel
		m.u.Parts[k].Joint = fmt.Sprintf("upper edge sawn at %g°, the high side to the front", m.c.Bevel)
		m.u.Fixed = append(m.u.Fixed, z-high/2)
		below = z
	}
	holders := 0
	for i := range m.s.Homes {
		if m.s.Homes[i].Place == p.ID {
			holders++
		}
	}
	m.rule("%d cleats, one for each row; rip them in pairs from a strip twice as wide: one goes to the wall, its twin onto a holder", len(rows))
	m.rule("each of %d holders gets a piece of the twin as wide as itself, and lower down a spacer %s thick, so that it hangs plumb", holders, mm(t))
	m.step("Rip the strips, then saw them in two along the middle at the angle.")
	m.step("Strike a level line for the lowest cleat and screw it to every stud; go up from there with a spacing stick.", all(m)...)
	m.caution("the sharp edge of a cleat at head height hurts: ease it with a plane")
	m.inside(p, w, h, d)
	return nil
}

func all(m *maker) (out []int) {
	for i := range m.u.Parts {
		out = append(out, i)
	}
	return out
}

// pegs are a perforated sheet off the wall on battens.
func (m *maker) pegs() error {
	w, d, h := m.size()
	t := m.c.T
	sheet := m.add("the field", "Perforated sheet", "hardboard", Box{0, d - t - pegSheet, 0, w, pegSheet, h}, AxisX)
	m.u.Parts[sheet].AnyWay = true
	if d < t+pegSheet {
		return fmt.Errorf("%s is %s deep; the sheet and its battens take %s", m.places[0].ID, mm(d), mm(t+pegSheet))
	}
	b := min(40.0, w/3, h/3)
	lower := m.sheet("the field", "Batten, across", Box{0, d - t, 0, w, t, b}, AxisX)
	upper := m.sheet("the field", "Batten, across", Box{0, d - t, h - b, w, t, b}, AxisX)
	n := max(2, int(math.Ceil(w/600))+1)
	for i := range n {
		x := (w - b) * float64(i) / float64(n-1)
		k := m.sheet("the field", "Batten, upright", Box{x, d - t, b, b, t, h - 2*b}, AxisZ)
		m.screw(sheet, k, AxisY)
	}
	m.screw(sheet, lower, AxisY)
	m.screw(sheet, upper, AxisY)
	m.u.Fixed = append(m.u.Fixed, b/2, h-b/2)
	m.rule("battens %s thick behind the sheet, so that pegs have room", mm(t))
	m.step("Screw the battens to the studs, level, then the sheet to the battens.", all(m)...)
	m.inside(m.places[0], w, h, d)
	return nil
}

// strips across from below to the top, so far apart at most; where their middles are is what it gives. The error says that they are too
// thick.
func (m *maker) strips(of, name string, apart float64) ([]float64, error) {
	w, d, h := m.size()
	t := m.c.T
	if t > d {
		return nil, fmt.Errorf("%s is %s deep; %s %s thick do not go into it", m.places[0].ID, mm(d), strings.ToLower(name)+"s", mm(t))
	}
	b := min(battenW, h)
	n := 1
	if h > 2*b {
		n = int(math.Ceil((h-b)/apart)) + 1
	}
	var out []float64
	for i := range n {
		z := h - b
		if n > 1 {
			z *= float64(i) / float64(n-1)
		}
		m.sheet(of, name, Box{0, d - t, z, w, t, b}, AxisX)
		out = append(out, z+b/2)
	}
	return out, nil
}

// battens across the studs, into which screws go.
func (m *maker) battens() error {
	w, d, h := m.size()
	at, err := m.strips("the field", "Batten", 400)
	if err != nil {
		return err
	}
	m.u.Fixed = append(m.u.Fixed, at...)
	b := min(battenW, h)
	m.rule("battens of %s across the studs, %s apart: a screw holds anywhere on them", size(b, m.c.T), mm((h-b)/float64(max(1, len(at)-1))))
	m.step("Screw the battens to every stud, level.", all(m)...)
	m.inside(m.places[0], w, h, d)
	return nil
}

// bayStrips go from stud to stud in a bay.
func (m *maker) bayStrips() error {
	w, d, h := m.size()
	at, err := m.strips("the bay", "Strip", 350)
	if err != nil {
		return err
	}
	m.fit("Wood screw", 4*len(at), 60)
	m.rule("strips fit between the studs; two screws aslant into each stud hold an end")
	m.step("Cut each strip to its bay: bays differ by some mm.", all(m)...)
	m.caution("cables and pipes run between studs: look before a screw goes in")
	m.inside(m.places[0], w, h, d)
	return nil
}

// toolBoard is a sheet on the wall.
func (m *maker) toolBoard() error {
	w, d, h := m.size()
	t := m.c.T
	if t > d {
		return fmt.Errorf("%s is %s deep; a board %s thick does not go into it", m.places[0].ID, mm(d), mm(t))
	}
	k := m.sheet("the board", "Board", Box{0, d - t, 0, w, t, h}, AxisX)
	m.u.Parts[k].Edge = 2 * (w + h)
	m.u.Fixed = append(m.u.Fixed, min(40, h/4))
	for z := min(40, h/4) + 600; z < h-100; z += 600 {
		m.u.Fixed = append(m.u.Fixed, z)
	}
	m.u.Fixed = append(m.u.Fixed, h-min(40, h/4))
	m.step("Screw the board to every stud it crosses, level.", k)
	m.step("Lay the tools out on the floor as they will hang, draw round them, then make the holders.")
	m.inside(m.places[0], w, h, d)
	return nil
}

// doorBack is a board on the inside of a door.
func (m *maker) doorBack() error {
	w, d, h := m.size()
	t := m.c.T
	p := m.places[0]
	if t+p.D.MM() > d+.5 {
		t = d - p.D.MM()
		m.rule("the board is %s thick, so that the door closes", mm(t))
	}
	if t < 6 {
		return fmt.Errorf("%s is %s deep, of which %s are for the things: nothing is left for a board", m.u.Name, mm(d), p.D)
	}
	k := m.sheet("the board", "Board", Box{0, d - t, 0, w, t, h}, AxisZ)
	m.u.Parts[k].Edge = 2 * (w + h)
	ledge := min(p.D.MM(), 60)
	l := m.wood("the board", "Ledge with a lip", Box{0, d - t - ledge, 0, w, ledge, 18}, AxisX)
	m.screw(k, l, AxisY)
	m.fit("Machine screw through the door, with nut", 6, 40)
	m.step("Screw the ledge to the board, the board through the door's frame, not its panel.", k, l)
	m.caution("the door carries it: its hinges must hold its weight with what hangs there")
	m.inside(p, w, h, d-t)
	return nil
}

// stand is a board on a foot that turns.
func (m *maker) stand() error {
	w, d, h := m.size()
	p := m.places[0]
	t := min(m.c.T, d-p.D.MM())
	if t < 6 {
		return fmt.Errorf("%s is %s deep, of which %s are for the things: nothing is left for a board", m.u.Name, mm(d), p.D)
	}
	high := min(18, max(6, p.At.Z.MM()))
	foot := m.sheet("the stand", "Foot", Box{0, 0, 0, w, d - t, high}, AxisX)
	k := m.sheet("the stand", "Board", Box{0, d - t, 0, w, t, h}, AxisZ)
	m.u.Parts[k].Edge = 2 * (w + h)
	m.screw(k, foot, AxisY)
	m.fit("Turning plate with bearing, 300", 1, 0)
	m.fit("Ring of plywood under the plate, as wide as the foot is deep", 1, 0)
	m.step("Screw the board to the foot, then both to the turning plate.", foot, k)
	m.caution("it falls over its narrow side: bolt the plate to the floor, or load the foot")
	m.inside(p, w, h-high, d-t)
	return nil
}

// rail holds magnets, dowels or hooks side by side.
func (m *maker) rail() error {
	p := m.places[0]
	w, d, h := m.size()
	t := min(m.c.T, d)
	high := min(50.0, h)
	name := "Rail"
	k := m.wood("the rail", name, Box{0, d - t, h - high, w, t, high}, AxisX)
	pitch := p.Pitch.MM()
	if pitch <= 0 {
		pitch = 25
	}
	n := int(w / pitch)
	hole, deep, what := 10.0, 6.0, "a magnet"
	if p.Style != "magnet" {
		hole, deep, what = 12, t-4, "a dowel or hook"
	}
	for i := range n {
		m.u.Parts[k].Holes = append(m.u.Parts[k].Holes, Hole{X: pitch * (float64(i) + .5), Y: d - t, Z: h - high/2, Axis: AxisY, D: hole, Deep: max(2, deep), For: what})
	}
	if p.Style == "magnet" {
		m.fit("Magnet 10 across, 5 thick", n, 0)
		m.rule("a magnet every %s, under a skin of 1 mm at most: thicker and it does not hold", mm(pitch))
	} else {
		m.fit("Dowel or hook, 12 across", n, 60)
	}
	m.u.Fixed = append(m.u.Fixed, h-high/2)
	m.step("Drill the holes along one line with a stop, then screw the rail to the studs.", k)
	m.inside(p, w, h, d)
	return nil
}

// hook is a block on the wall with a hook or peg in it.
func (m *maker) hook() error {
	p := m.places[0]
	w, d, h := m.size()
	t := min(m.c.T, d)
	bw, bh := min(100.0, w), min(120.0, h)
	k := m.wood("the hook", "Block", Box{(w - bw) / 2, d - t, h - bh, bw, t, bh}, AxisZ)
	m.u.Parts[k].Holes = append(m.u.Parts[k].Holes, Hole{X: w / 2, Y: d - t, Z: h - bh/2, Axis: AxisY, D: 6, Deep: max(2, t-3), For: "the hook"})
	m.fit("Hook, rated for what hangs on it", 1, 0)
	m.u.Fixed = append(m.u.Fixed, h-20)
	if bh > 60 {
		m.u.Fixed = append(m.u.Fixed, h-bh+20)
	}
	m.step("Screw the block to a stud with two screws over each other, then the hook into the block.", k)
	m.inside(p, w, h, d)
	return nil
}

// spot on the floor is marked, not made.
func (m *maker) spot() error {
	p := m.places[0]
	around := 2 * (p.W.MM() + p.D.MM()) / 1000
	m.fit(fmt.Sprintf("Marking tape, %s round the spot", mm(1000*around)), 1, 0)
	m.step("Mark the spot on the floor, and write what stands there.")
	m.inside(p, p.W.MM(), p.H.MM(), p.D.MM())
	return nil
}

// comb is a rack of slots: a back, a comb that the things hang or stand in, and brackets under it.
func (m *maker) comb() error {
	p := m.places[0]
	w, d, h := m.size()
	t := m.c.T
	if d < 2*t+10 {
		t = (d - 5) / 2
	}
	if t = min(t, h/3); t < 2.5 {
		return fmt.Errorf("%s is %s deep: no comb goes into it", p.ID, mm(d))
	}
	hangs := false // clamps hang from the comb by their heads, other things stand in it
	for i := range m.s.Homes {
		if x := &m.s.Homes[i]; x.Place == p.ID {
			if it := m.ix.Item(x.Item); it != nil {
				hangs = hangs || len(it.Kind) > 5 && it.Kind[len(it.Kind)-5:] == "clamp"
			}
		}
	}
	backH := min(h, 160.0)
	z0 := h - backH
	if !hangs {
		backH, z0 = min(h, 120.0), 0
	}
	back := m.sheet("the rack", "Back", Box{0, d - t, z0, w, t, backH}, AxisX)
	top := z0 + backH - t
	comb := m.sheet("the rack", "Comb", Box{0, 0, top, w, d - t, t}, AxisX)
	m.screw(back, comb, AxisY)
	x := 0.0
	for _, r := range p.Slots {
		pitch, depth := r.W.MM(), min(r.D.MM(), d-t-12)
		notch := pitch - 15 + 3
		if hangs {
			notch = (pitch - 15) / 2
		}
		notch = min(max(notch, 4), pitch-6)
		if pitch < 14 {
			notch = max(2, pitch-6)
		}
		for range r.N {
			m.cut(comb, Box{x + (pitch-notch)/2, -1, top - 1, notch, min(max(6, depth-6), d-t-3) + 1, t + 2})
			x += pitch
		}
	}
	n := max(2, int(math.Ceil(w/600))+1)
	if w < 120 {
		n = 1
	}
	braceH := min(backH-t, max(40, (d-t)*.6))
	var braces []int
	for i := range n {
		bx := (w - t) * float64(i) / float64(max(1, n-1))
		if n == 1 {
			bx = (w - t) / 2
		}
		if w < t {
			break
		}
		bd := min(d-t, max(30, (d-t)*.35))
		k := m.sheet("the rack", "Bracket", Box{bx, d - t - bd, top - braceH, t, bd, braceH}, AxisZ)
		m.screw(back, k, AxisY)
		m.screw(comb, k, AxisZ)
		braces = append(braces, k)
	}
	if !hangs {
		floor := m.sheet("the rack", "Floor", Box{0, 0, -t, w, d, t}, AxisX)
		m.screw(floor, back, AxisZ)
		for _, k := range braces {
			if b := &m.u.Parts[k]; b.At.Z > .5 {
				// the bracket reaches to the floor
				b.At.H += b.At.Z
				b.At.Z = 0
				b.L = max(b.At.H, b.At.D)
				b.W = min(b.At.H, b.At.D)
			}
			m.screw(floor, k, AxisZ)
		}
	}
	m.u.Fixed = append(m.u.Fixed, z0+backH/2)
	if backH > 120 {
		m.u.Fixed = []float64{z0 + 30, z0 + backH - t - 30}
	}
	if hangs {
		m.rule("each notch half as wide as the head of its clamp: measure yours before you saw them all")
	} else {
		m.rule("each notch as wide as its thing and 3 mm: try one before you saw them all")
	}
	m.step("Saw the notches of the comb in one go; round their mouths.", comb)
	m.step("Screw comb and brackets to the back, then all of it to the studs.", append(braces, back, comb)...)
	m.inside(p, w, h, d)
	return nil
}

// shelf is a board on brackets.
func (m *maker) shelf() error {
	p := m.places[0]
	w, d, _ := m.size()
	t := m.c.T
	if p.Board != nil {
		t = p.Board.T.MM()
		m.c.Sheet = p.Board.Wood
	}
	n := max(2, int(math.Ceil(w/800))+1)
	first, span := 0.0, (w-t)/float64(n-1)
	if w < 3*t { // one in its middle
		n, first, span = 1, max(0, (w-t)/2), w
	}
	strip := m.sags(p, span, d, t)
	back := 0.0
	if strip {
		back = stripT
	}
	k := m.sheet("the shelf", "Shelf", Box{0, back, -t, w, d - back, t}, AxisX)
	m.u.Parts[k].Edge = w + 2*d
	if strip {
		x := m.wood("the shelf", "Strip before a shelf", Box{0, 0, -stripHigh, w, stripT, stripHigh}, AxisX)
		m.screw(x, k, AxisY)
		m.step("Glue and screw the strip before the shelf, flush with its top.", k, x)
	}
	const ledge = 60.0
	thick := min(18, d/2)
	if d < 60 { // so shallow it needs no brackets
		n = 0
	}
	l := m.wood("the shelf", "Ledger", Box{0, d - thick, -t - ledge, w, thick, ledge}, AxisX)
	m.screw(k, l, AxisZ)
	for i := range n {
		x := first + (w-t)*float64(i)/float64(max(1, n-1))
		long := min(d-back-18, d*.75)
		b := m.sheet("the shelf", "Bracket", Box{x, d - 18 - long, -t - min(200, long), min(t, w), long, min(200, long)}, AxisZ)
		m.u.Parts[b].Joint = "its front corner sawn off aslant"
		m.screw(k, b, AxisZ)
		m.screw(l, b, AxisY)
	}
	m.u.Fixed = append(m.u.Fixed, -t-ledge/2)
	m.rule("a bracket every %s at most", mm(800))
	m.step("Screw the ledger to every stud, level; brackets to the ledger, the shelf on top.", all(m)...)
	m.inside(p, w, p.H.MM(), d)
	return nil
}

// deck hangs from the joists.
func (m *maker) deck() error {
	p := m.places[0]
	w, d, _ := m.size()
	t := m.c.T
	k := m.sheet("the deck", "Deck", Box{0, 0, -t, w, d, t}, AxisX)
	n := max(2, int(math.Ceil(w/600))+1)
	const bw, bh = 38.0, 63.0
	for i := range n {
		b := m.add("the deck", "Bearer", "stud", Box{(w - bw) * float64(i) / float64(n-1), 0, -t - bh, bw, d, bh}, AxisY)
		m.screw(k, b, AxisZ)
	}
	m.fit("Hanger to a joist, rated, with its bolts", 2*n, 0)
	m.rule("a bearer under the deck every %s, a hanger at each of its ends", mm(w/float64(n-1)))
	m.caution("not rated: fix it to the joists with fixings rated for it; a qualified person judges the structure. What hangs overhead is lifted by two")
	m.step("Find the joists from below and mark them; two hold the bearers while the hangers are bolted.", all(m)...)
	m.inside(p, w, p.H.MM(), d)
	return nil
}

// arms is a rack for boards: uprights at the studs with arms through them.
func (m *maker) arms() error {
	p := m.places[0]
	w, d, h := m.size()
	n := p.Arms
	if n < 2 {
		n = max(2, int(math.Ceil(w/800))+1)
	}
	const uw, ud, ah = 38.0, 89.0, 50.0
	levels := 0
	for i := range n {
		x := (w - uw) * float64(i) / float64(n-1)
		up := m.add("the rack", "Upright", "stud", Box{x, d, 0, uw, ud, h}, AxisZ)
		for k, l := range p.Levels {
			z := l.Z.MM() - ah
			if z < 0 {
				z = 0
			}
			if k == 0 || l.Z.MM()-ah >= p.Levels[k-1].Z.MM() {
				a := m.add("the rack", "Arm", "stud", Box{x, 0, z, uw, d + ud/2, l.Z.MM() - z}, AxisY)
				m.cut(up, m.u.Parts[a].At)
				m.u.Parts[a].Joint = "let into the upright and glued, with a bolt through both; its end 3° higher than its root"
				m.fit("Carriage bolt 10 with washer and nut", 1, 100)
				levels++
			}
		}
	}
	m.rule("%d uprights, one at every stud that carries; arms end %s out", n, mm(d))
	m.caution("not rated: each arm must be fixed to a stud, and be rated or proven for its load; long boards are carried by two")
	m.step("Cut the housings of all uprights at once, clamped side by side, so that the arms lie in line.", all(m)...)
	m.step("Bolt each upright to its stud in two places, then the arms.")
	for z := 150.0; z < h; z += 600 {
		m.u.Fixed = append(m.u.Fixed, z)
	}
	if h > 300 {
		m.u.Fixed = append(m.u.Fixed, h-100)
	}
	m.inside(p, w, h, d)
	return nil
}

// rollers are bars between two cheeks.
func (m *maker) rollers() error {
	p := m.places[0]
	w, d, h := m.size()
	t := m.c.T
	a := m.sheet("the holder", "Cheek", Box{-t, 0, 0, t, d, h}, AxisZ)
	b := m.sheet("the holder", "Cheek", Box{w, 0, 0, t, d, h}, AxisZ)
	back := m.sheet("the holder", "Back", Box{-t, d, 0, w + 2*t, 12, h}, AxisX)
	m.screw(back, a, AxisY)
	m.screw(back, b, AxisY)
	const bar = 25.0
	for _, l := range p.Levels {
		z := l.Z.MM() + l.H.MM()/2
		k := m.wood("the holder", "Bar", Box{-t / 2, d/2 - bar/2, z - bar/2, w + t, bar, bar}, AxisX)
		m.u.Parts[k].Joint = "round, 25 across; lies in notches that are open above, so that rolls change"
		m.cut(a, m.u.Parts[k].At)
		m.cut(b, m.u.Parts[k].At)
	}
	m.u.Fixed = append(m.u.Fixed, 40, h-40)
	m.step("Drill the cheeks together and saw the holes open to the front; screw them to the back.", all(m)...)
	m.inside(p, w, h, d)
	return nil
}
