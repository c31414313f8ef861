package build

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// Measures of cases, common practice (see docs/rules/building.md).
const (
	sideRunner  = 12.7 // on each side of a drawer on side-mounted runners, ± .5
	underRunner = 5.5  // beside a drawer on undermount runners
	underBelow  = 14.0 // below it
	noRunner    = 1.0  // beside a drawer that slides on wood
	drawerSide  = 12.0 // thickness of drawer sides and back
	drawerLow   = 2.0  // a drawer's sides over the floor of its space
	bottomLip   = 10.0 // of the sides below the bottom of a drawer
	behind      = 4.0  // free behind a drawer
	reveal      = 3.0  // between fronts, and between doors
	doorGap     = 2.0  // behind a door, and round one that is set in
	hingeFrom   = 100.0
	stripHigh   = 40.0
	stripT      = 18.0
)

// column of a case: a part of its width with what is in it, from below.
type column struct {
	x0, x1 float64 // inside
	cells  []*shop.Place
}

// columns of the case by where its places begin.
func (m *maker) columns(w, t float64) ([]column, error) {
	clear := func(p *shop.Place) (x0, x1 float64) {
		x0, x1 = p.At.X.MM(), p.At.X.MM()+p.W.MM()
		if p.Kind == keeping.Drawer { // its sides and runners
			x0, x1 = x0-sideRunner-drawerSide, x1+sideRunner+drawerSide
		}
		return x0, x1
	}
	var out []column
	for _, p := range m.places {
		x0, x1 := clear(p)
		k := slices.IndexFunc(out, func(c column) bool { return x0 < c.x1-1 && x1 > c.x0+1 })
		if k < 0 {
			out = append(out, column{x0, x1, []*shop.Place{p}})
			continue
		}
		out[k].x0, out[k].x1, out[k].cells = min(out[k].x0, x0), max(out[k].x1, x1), append(out[k].cells, p)
	}
	slices.SortFunc(out, func(a, b column) int { return int(math.Copysign(1, a.x0-b.x0)) })
	// Inside they go from side to divider to side.
	for i := range out {
		slices.SortStableFunc(out[i].cells, func(a, b *shop.Place) int { return int(math.Copysign(1, float64(a.At.Z-b.At.Z))) })
		if i == 0 {
			out[i].x0 = t
		}
		if i == len(out)-1 {
			out[i].x1 = w - t
			continue
		}
		mid := (out[i].x1 + out[i+1].x0) / 2
		out[i].x1, out[i+1].x0 = mid-t/2, mid+t/2
	}
	for _, c := range out {
		if c.x1-c.x0 < 60 {
			return nil, fmt.Errorf("%s is %s wide; with parts %s thick %s are left inside", m.u.Name, mm(w), mm(t), mm(max(0, c.x1-c.x0)))
		}
	}
	return out, nil
}

// box is a case with shelves and drawers, on the floor, on a plinth or on casters, open or with doors.
func (m *maker) box() error {
	w, d, h := m.size()
	t := m.c.T
	if 2*t > w-60 || 2*t > h-40 {
		return fmt.Errorf("%s is %s by %s; parts %s thick leave no room in it", m.u.Name, mm(w), mm(h), mm(t))
	}
	doors := m.unit.Access == "door" || m.unit.Access == "lock"
	cols, err := m.columns(w, t)
	if err != nil {
		return err
	}
	// How far the lowest place is up says whether it stands on something.
	lowest := h
	floor := func(p *shop.Place) float64 {
		if p.Kind == keeping.Drawer {
			return p.At.Z.MM() - 12
		}
		return p.At.Z.MM()
	}
	for _, p := range m.places {
		lowest = min(lowest, floor(p))
	}
	foot := max(0, lowest-18)
	if foot < 25 {
		foot = 0
	}
	front := 0.0 // before the case
	drawers := slices.ContainsFunc(m.places, func(p *shop.Place) bool { return p.Kind == keeping.Drawer })
	if m.c.Front == Overlay {
		if drawers && !doors {
			front = t
		}
		if doors {
			front = t + doorGap
		}
	}
	deep := d - front
	back := 0.0
	if m.c.Back != NoBack {
		back = m.c.Thin
	}
	full := deep // of the sides
	if m.c.Back == OnBack {
		full = deep - back
	}
	inner := deep - back // of what lies between the sides
	behindDoors := 0.0   // what is inside stands back from the front of the case
	if doors && m.c.Front == Inset {
		behindDoors = t + doorGap
	}
	if inner-behindDoors < 20 {
		return fmt.Errorf("%s is %s deep; %s are left inside", m.u.Name, mm(d), mm(max(0, inner-behindDoors)))
	}
	set := 0.0 // into the sides
	switch m.c.Joint {
	case Dadoed, Rebated:
		set = math.Round(t / 3)
	}

	left := m.sheet("the case", "Side", Box{0, front, foot, t, full, h - foot}, AxisZ)
	right := m.sheet("the case", "Side", Box{w - t, front, foot, t, full, h - foot}, AxisZ)
	walls := []int{left}
	for i := range len(cols) - 1 {
		walls = append(walls, m.sheet("the case", "Divider", Box{cols[i].x1, front + behindDoors, foot + t, t, inner - behindDoors, h - foot - 2*t}, AxisZ))
	}
	walls = append(walls, right)
	across := func(name string, z, x0, x1 float64, a, b int, held bool, back float64) int {
		s := set
		if !held {
			s = 0
		}
		at := Box{x0 - s, front + back, z, x1 - x0 + 2*s, inner - back, t}
		p := m.sheet("the case", name, at, AxisX)
		for _, side := range []int{a, b} {
			if s > 0 {
				m.cut(side, at)
			}
			m.screw(side, p, AxisX)
		}
		return p
	}
	bottom := across("Bottom", foot, t, w-t, left, right, true, 0)
	top := across("Top", h-t, t, w-t, left, right, true, 0)
	for _, k := range walls[1 : len(walls)-1] {
		m.screw(bottom, k, AxisZ)
		m.screw(top, k, AxisZ)
	}
	if m.c.Joint != Screwed {
		m.u.Parts[bottom].Joint, m.u.Parts[top].Joint = fmt.Sprintf("sits %s deep in the sides", mm(set)), fmt.Sprintf("sits %s deep in the sides", mm(set))
	}
	m.step("Cut the parts and mark which end is up. Cut the rebates and dadoes before anything is put together.", left, right, bottom, top)
	m.step("Join bottom and top to the sides; measure both diagonals: when they are alike it is square.", append([]int{bottom, top}, walls...)...)

	// Back.
	behindAll := 0.0 // of a strip in its place
	switch m.c.Back {
	case OnBack:
		p := m.sheet("the case", "Back", Box{0, d - back, foot, w, back, h - foot}, AxisZ)
		m.thin(p)
		m.fit("Pan head screw", 2*int(math.Ceil(w/200))+2*int(math.Ceil(h/200)), 16)
		m.step("Screw the back on: it holds the case square.", p)
	case InBack:
		lap := min(t/2, 8)
		at := Box{t - lap, d - back, foot, w - 2*t + 2*lap, back, h - foot}
		p := m.sheet("the case", "Back", at, AxisZ)
		m.thin(p)
		m.cut(left, at)
		m.cut(right, at)
		m.fit("Pan head screw", 2*int(math.Ceil(w/200))+2*int(math.Ceil(h/200)), 16)
		m.step("Screw the back into its rebate.", p)
	default:
		// Something has to hold it square.
		high := 80.0
		for _, c := range cols {
			if last := c.cells[len(c.cells)-1]; last.Kind == keeping.Shelf && len(c.cells) > 1 {
				high = min(high, h-t-floor(last))
			}
		}
		high = min(high, h-foot-2*t)
		rail := m.sheet("the case", "Nailer", Box{t, front + inner - t, h - t - high, w - 2*t, t, high}, AxisX)
		behindAll = t
		m.screw(left, rail, AxisX)
		m.screw(right, rail, AxisX)
		for _, k := range walls[1 : len(walls)-1] {
			m.cut(k, m.u.Parts[rail].At)
		}
		m.rule("without a back a strip under the top holds it square")
		m.step("Set the strip under the top: it holds the case square, and the wall screws go through it.", rail)
		if len(cols) > 0 && inner < 2*t {
			return fmt.Errorf("%s is too shallow to go without a back", m.u.Name)
		}
	}
	m.footed(foot, w, d, front, full)

	number := 0
	for i, c := range cols {
		a, b := walls[i], walls[i+1]
		for k, p := range c.cells {
			base := foot + t
			if k > 0 {
				base = floor(p)
			}
			next := h - t
			if k+1 < len(c.cells) {
				next = floor(c.cells[k+1])
			}
			if p.Kind == keeping.Drawer {
				number++
				last := k+1 == len(c.cells) || c.cells[k+1].Kind != keeping.Drawer
				if k > 0 && c.cells[k-1].Kind != keeping.Drawer { // a board between shelves and drawers
					across("Shelf", base-t, c.x0, c.x1, a, b, m.c.Joint == Dadoed, behindDoors)
				}
				if last && k+1 < len(c.cells) {
					next -= t
				}
				if err := m.drawerIn(p, number, c, [2]int{a, b}, frame{inset: doors || m.c.Front == Inset, front: front + behindDoors, inner: inner - behindDoors - behindAll, base: base, next: next, first: k == 0, last: last, low: foot, high: h, left: i == 0, right: i == len(cols)-1, w: w}); err != nil {
					return err
				}
				continue
			}
			if k > 0 {
				strip := m.sags(p, c.x1-c.x0, inner-behindDoors, t)
				back := behindDoors
				if strip {
					back += stripT
				}
				shelf := across("Shelf", base-t, c.x0, c.x1, a, b, m.c.Joint == Dadoed, back)
				if strip {
					x := m.wood("the case", "Strip before a shelf", Box{c.x0, front + behindDoors, base - stripHigh, c.x1 - c.x0, stripT, stripHigh}, AxisX)
					m.screw(x, shelf, AxisY)
					m.step("Glue and screw the strip before "+shelfName(p)+", flush with its top.", shelf, x)
				}
			}
			clear := next - base
			if k+1 < len(c.cells) {
				clear -= t
				if q := c.cells[k+1]; q.Kind == keeping.Shelf && m.edged[q.ID] {
					clear -= stripHigh - t // a strip hangs that far below the shelf above
				}
			}
			room := inner - behindDoors
			if k+1 == len(c.cells) {
				room -= behindAll
			}
			m.inside(p, c.x1-c.x0, clear, room)
		}
	}
	if doors {
		m.doors(w, h, foot, front)
	}
	if m.at.Wall != "" {
		m.u.Fixed = append(m.u.Fixed, h-t-40)
		if h-foot > 600 {
			m.u.Fixed = append(m.u.Fixed, foot+t+40)
		}
		m.step("Hang it with two: screws through the back's upper strip into the studs, then the lower ones.")
		m.caution("one screw a stud at least, top and bottom; what hangs on plaster alone comes down with it")
	} else if m.c.Back == NoBack && h > 1200 {
		m.caution("screw the strip to the wall: without a back it sways")
	}
	return nil
}

// thin corrects the thickness of a part that is not cut from the sheet of the rest.
func (m *maker) thin(part int) { m.u.Parts[part].AnyWay = true }

// footed puts a case on casters or on a plinth.
func (m *maker) footed(foot, w, d, front, full float64) {
	if foot == 0 {
		return
	}
	t := m.c.T
	if m.unit.Kind == "cart" || m.unit.Kind == "trolley" {
		m.casters(0, front, w, full, foot)
		m.caution("brakes on two casters, things that cannot shake out, and push it at its foot")
		m.step("Screw the casters under the bottom, those with brakes in front.")
		return
	}
	set := min(50.0, full/4)
	front2 := m.sheet("the plinth", "Plinth, front", Box{0, front + set, 0, w, t, foot}, AxisX)
	back2 := m.sheet("the plinth", "Plinth, back", Box{0, front + full - t, 0, w, t, foot}, AxisX)
	for _, x := range []float64{0, w - t} {
		p := m.sheet("the plinth", "Plinth, side", Box{x, front + set + t, 0, t, full - set - 2*t, foot}, AxisY)
		m.screw(front2, p, AxisY)
		m.screw(back2, p, AxisY)
	}
	m.step("Level the plinth on the floor with wedges first; then the case stands level on it.", front2, back2)
}

// casters under a corner each of what is so wide and deep, from x and y on.
func (m *maker) casters(x, y, w, d, high float64) {
	plate := min(60, w/2-1, d/2-1)
	in := func(l float64) float64 { return min(10, (l-2*plate)/2) }
	var at []Box
	for _, cx := range []float64{x + in(w), x + w - in(w) - plate} {
		for _, cy := range []float64{y + in(d), y + d - in(d) - plate} {
			at = append(at, Box{cx, cy, 0, plate, plate, high})
		}
	}
	if min(w, d) < 200 {
		m.caution("%s wide and %s deep it falls from its casters: give it a wider floor", mm(w), mm(d))
	}
	m.fit(fmt.Sprintf("Caster, %s high with its plate", mm(high)), 4, 0, at...)
	m.rule("four casters of %s, two of them with brakes, rated for %s each: three of four carry on an uneven floor", mm(high), m.third())
}

// third is what each of four casters has to carry, a third of all.
func (m *maker) third() any {
	kg := 0.0
	for _, p := range m.places {
		kg += max(m.held(p), p.Capacity.KG())
	}
	for i := range m.u.Parts {
		p := &m.u.Parts[i]
		if w, err := load.WoodByID(p.Material); err == nil {
			kg += p.L * p.W * p.T / 1e9 * w.Density
		}
	}
	return rough(kg / 3)
}

// sags looks how far a shelf sags under what is on it, and tells whether it gets a strip.
func (m *maker) sags(p *shop.Place, span, deep, thick float64) bool {
	wood, err := load.WoodByID(m.c.Sheet)
	if err != nil {
		return false
	}
	kg := m.held(p)
	s := load.Board{Span: span, B: deep, T: thick, Wood: wood}
	sag, err := s.Sag(kg)
	if err != nil {
		return false
	}
	seen := span * load.SagShare
	strip := m.c.Strip == "always" || m.c.Strip == "where-it-sags" && sag > seen
	if strip {
		s.Strips, s.StripT, s.StripH = 1, stripT, stripHigh
		if stiff, err := s.Sag(kg); err == nil {
			m.rule("%s would sag %s under %s; with a strip of %s before it %s", shelfName(p), fine(sag), rough(kg), size(stripT, stripHigh), fine(stiff))
			sag = stiff
		}
		if m.edged == nil {
			m.edged = map[string]bool{}
		}
		m.edged[p.ID] = true
	}
	if sag > seen {
		m.caution("%s sags %s under %s, %s are seen: make it thicker, or halve its span", shelfName(p), fine(sag), rough(kg), fine(seen))
	}
	return strip
}

func shelfName(p *shop.Place) string { return "the shelf " + p.ID }
