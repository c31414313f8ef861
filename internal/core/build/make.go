package build

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// construction is a way storage is made. A new one is a file with its maker, and a line in constructions.
type construction struct {
	kind, title string
	fits        func(j *job) bool
	make        func(m *maker) error
	asks        []string // choices that matter
}

// constructions there are; the first that fits makes a unit.
var constructions = []construction{
	{"tote", "Tote", func(j *job) bool { return j.is("tote") }, (*maker).tote, nil},
	{"door-back", "Board on a door", func(j *job) bool { return j.is("door-back") && j.only(keeping.WallField) }, (*maker).doorBack, []string{"sheet", "t"}},
	{"stand", "Turning stand", func(j *job) bool { return j.is("trolley") && j.only(keeping.WallField) }, (*maker).stand, []string{"sheet", "t"}},
	{"two-sided", "Two-sided cart", func(j *job) bool { return j.unit != nil && j.only(keeping.WallField) }, (*maker).twoSided, []string{"sheet", "t"}},
	{"sheet-cart", "Sheet cart", func(j *job) bool { return j.unit != nil && j.only(keeping.SheetBay) }, (*maker).sheetCart, []string{"sheet", "t"}},
	{"stand-bin", "Bin for what stands on end", func(j *job) bool { return j.unit != nil && j.only(keeping.Bin) && j.upright() }, (*maker).standBin, []string{"sheet"}},
	{"pigeonholes", "Small-parts case", func(j *job) bool { return j.unit != nil && j.only(keeping.Bin) }, (*maker).pigeonholes, []string{"sheet"}},
	{"case", "Case", func(j *job) bool { return j.unit != nil && j.only(keeping.Shelf, keeping.Drawer) }, (*maker).box, []string{"sheet", "t", "thin", "joint", "back", "runner", "front", "strip"}},

	{"cleats", "Cleat field", func(j *job) bool { return j.field("cleat") }, (*maker).cleats, []string{"sheet", "t", "bevel"}},
	{"pegs", "Peg field", func(j *job) bool { return j.field("peg") }, (*maker).pegs, []string{"t"}},
	{"battens", "Battens for screws", func(j *job) bool { return j.field("screw") }, (*maker).battens, []string{"sheet", "t"}},
	{"bay-strips", "Strips between studs", func(j *job) bool { return j.field("studs") }, (*maker).bayStrips, []string{"sheet", "t"}},
	{"board", "Tool board", func(j *job) bool { return j.only(keeping.WallField) }, (*maker).toolBoard, []string{"sheet", "t"}},
	{"rail", "Rail", func(j *job) bool { return j.only(keeping.Rail) }, (*maker).rail, []string{"sheet", "t"}},
	{"comb", "Slotted rack", func(j *job) bool { return j.only(keeping.Slots) }, (*maker).comb, []string{"sheet", "t"}},
	{"shelf", "Shelf on brackets", func(j *job) bool { return j.only(keeping.Shelf) }, (*maker).shelf, []string{"sheet", "t", "strip"}},
	{"drawer", "Drawer under a top", func(j *job) bool { return j.only(keeping.Drawer) }, (*maker).oneDrawer, []string{"sheet", "t", "thin", "runner"}},
	{"deck", "Deck under the ceiling", func(j *job) bool { return j.only(keeping.Deck) }, (*maker).deck, []string{"sheet", "t"}},
	{"arms", "Lumber rack", func(j *job) bool { return j.only(keeping.Arms) }, (*maker).arms, nil},
	{"rollers", "Roll holder", func(j *job) bool { return j.only(keeping.Roller) }, (*maker).rollers, []string{"sheet", "t"}},
	{"bay", "Sheet bay", func(j *job) bool { return j.only(keeping.SheetBay) }, (*maker).bay, []string{"sheet", "t"}},
	{"bin", "Bin", func(j *job) bool { return j.only(keeping.Bin) }, (*maker).oneBin, []string{"sheet"}},
	{"hook", "Hook on a block", func(j *job) bool { return j.only(keeping.Hook) }, (*maker).hook, []string{"sheet", "t"}},
	{"spot", "Spot on the floor", func(j *job) bool { return j.only(keeping.Floor) }, (*maker).spot, nil},
}

// job is storage that is to be made.
type job struct {
	s      *shop.Shop
	ix     *shop.Index
	unit   *shop.Container // nil of a place by itself
	places []*shop.Place   // the place, or those in the container
	at     shop.At
}

func (j *job) is(kind shop.ContainerKind) bool { return j.unit != nil && j.unit.Kind == kind }

// only tells whether all places are of some kinds.
func (j *job) only(kinds ...shop.PlaceKind) bool {
	return len(j.places) > 0 && !slices.ContainsFunc(j.places, func(p *shop.Place) bool { return !slices.Contains(kinds, p.Kind) })
}

func (j *job) field(style string) bool {
	return j.only(keeping.WallField) && j.places[0].Style == style
}

// upright tells whether bins stand side by side between a front and a back, for what stands in them.
func (j *job) upright() bool {
	return !slices.ContainsFunc(j.places, func(p *shop.Place) bool { return p.At.Z != j.places[0].At.Z || j.unit.D-p.D < 20*length.Millimetre })
}

// Of is how the storage with an id is made: a container with what is in it, or a place by itself. The error says why it is not made of
// parts, or which choice cannot be.
func Of(s *shop.Shop, id string, c Choices) (*Unit, error) {
	ix := shop.NewIndex(s)
	j := &job{s: s, ix: ix}
	switch {
	case ix.Container(id) != nil:
		j.unit = ix.Container(id)
		j.at = j.unit.At
		for i := range s.Places {
			if s.Places[i].At.In == id {
				j.places = append(j.places, &s.Places[i])
			}
		}
		if len(j.places) == 0 {
			return nil, fmt.Errorf("nothing is in %s: say its shelves or drawers first", ix.Name(id))
		}
	case ix.Place(id) != nil:
		p := ix.Place(id)
		if ix.Container(p.At.In) != nil {
			return nil, fmt.Errorf("%s is part of %s; that is what is made", id, ix.Name(p.At.In))
		}
		j.places, j.at = []*shop.Place{p}, p.At
	default:
		return nil, fmt.Errorf("there is no storage %q", id)
	}
	slices.SortStableFunc(j.places, func(a, b *shop.Place) int {
		switch {
		case a.At.X != b.At.X:
			return int(math.Copysign(1, float64(a.At.X-b.At.X)))
		case a.At.Z != b.At.Z:
			return int(math.Copysign(1, float64(a.At.Z-b.At.Z)))
		}
		return 0
	})
	chosen, why, err := Chosen(s, c)
	if err != nil {
		return nil, err
	}
	for i := range constructions {
		k := &constructions[i]
		if !k.fits(j) {
			continue
		}
		m := &maker{job: j, c: chosen, u: &Unit{ID: id, Name: ix.Name(id), Kind: k.kind, Title: k.title, Parts: []Part{}, Fittings: []Fitting{}, Steps: []Step{}, Rules: []string{}, Cautions: []string{}, Choices: chosen, Asks: append([]string{}, k.asks...), Fixed: []float64{}, Inside: []Compliance{}}}
		if slices.Contains(k.asks, "joint") {
			m.u.Rules = append(m.u.Rules, why...)
		}
		if err := k.make(m); err != nil {
			return nil, err
		}
		m.finish()
		return m.u, nil
	}
	return nil, fmt.Errorf("%s holds things of several kinds together; make its parts one by one", ix.Name(id))
}

// maker makes a unit.
type maker struct {
	*job
	c     Choices
	u     *Unit
	edged map[string]bool // shelves that get a strip before them
}

// solid is what rails, posts and bearers are made of where nothing else is said.
const solid = "white-pine"

// size of the container, or of the place.
func (m *maker) size() (w, d, h float64) {
	if m.unit != nil {
		return m.unit.W.MM(), m.unit.D.MM(), m.unit.H.MM()
	}
	p := m.places[0]
	return p.W.MM(), p.D.MM(), p.H.MM()
}

// sheet adds a part of sheet that is cut so thick; its grain runs along an axis.
func (m *maker) sheet(of, name string, at Box, grain Axis) int {
	return m.add(of, name, m.c.Sheet, at, grain)
}

// wood adds a part of solid wood.
func (m *maker) wood(of, name string, at Box, grain Axis) int {
	return m.add(of, name, solid, at, grain)
}

func (m *maker) add(of, name, material string, at Box, grain Axis) int {
	flat := AxisX
	if grain == AxisX {
		flat = AxisY
	}
	if wide := Across(grain, flat); at.along(wide) < at.along(flat) {
		flat = wide
	}
	if at.along(grain) < at.along(flat) { // a block cut across: its grain lies as it is cut
		grain, flat = flat, grain
	}
	l, t := at.along(grain), at.along(flat)
	w := at.along(Across(grain, flat))
	m.u.Parts = append(m.u.Parts, Part{Name: name, Of: of, Material: material, L: l, W: w, T: t, Grain: grain, Flat: flat, At: at, Cuts: []Box{}, Holes: []Hole{}})
	return len(m.u.Parts) - 1
}

// cut takes a block out of a part; what does not reach into it is not cut.
func (m *maker) cut(part int, b Box) {
	if in, ok := m.u.Parts[part].At.Meet(b); ok {
		m.u.Parts[part].Cuts = append(m.u.Parts[part].Cuts, in)
	}
}

// screw goes through a part along an axis into another, several along the joint: where their blocks touch, at most 150 apart and 40
// from the ends. It says how many there are.
func (m *maker) screw(through, into int, axis Axis) int {
	a, b := m.u.Parts[through].At, m.u.Parts[into].At
	grown := b
	switch axis {
	case AxisX:
		grown.X, grown.W = grown.X-.01, grown.W+.02
	case AxisY:
		grown.Y, grown.D = grown.Y-.01, grown.D+.02
	default:
		grown.Z, grown.H = grown.Z-.01, grown.H+.02
	}
	face, ok := a.Meet(grown)
	if !ok {
		return 0
	}
	mid := [3]float64{face.X + face.W/2, face.Y + face.D/2, face.Z + face.H/2}
	long, run := AxisX, 0.0
	for _, x := range []Axis{AxisX, AxisY, AxisZ} {
		if x != axis && face.along(x) > run {
			long, run = x, face.along(x)
		}
	}
	n := max(1, int(math.Ceil((run-80)/150))+1)
	if run < 100 {
		n = 1
	} else {
		n = max(n, 2)
	}
	for i := range n {
		at := mid
		if n > 1 {
			v := 40 + (run-80)*float64(i)/float64(n-1)
			switch long {
			case AxisX:
				at[0] = face.X + v
			case AxisY:
				at[1] = face.Y + v
			default:
				at[2] = face.Z + v
			}
		}
		m.u.Parts[through].Holes = append(m.u.Parts[through].Holes, Hole{X: at[0], Y: at[1], Z: at[2], Axis: axis, D: 4, For: "a screw into " + m.u.Parts[into].Name})
	}
	thick := a.along(axis)
	m.fit("Wood screw", n, stocked(thick+min(2*thick, 32)))
	return n
}

// stocked is the next length of screw that is sold.
func stocked(long float64) float64 {
	for _, l := range []float64{16, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 100, 120} {
		if l >= long-2.5 {
			return l
		}
	}
	return 120
}

// fit adds what is bought, to what there is of it already.
func (m *maker) fit(name string, n int, long float64, at ...Box) {
	for i := range m.u.Fittings {
		if f := &m.u.Fittings[i]; f.Name == name && f.Long == long {
			f.Count += n
			f.At = append(f.At, at...)
			return
		}
	}
	if n > 0 {
		m.u.Fittings = append(m.u.Fittings, Fitting{name, n, long, append([]Box{}, at...)})
	}
}

func (m *maker) step(says string, parts ...int) {
	m.u.Steps = append(m.u.Steps, Step{says, append([]int{}, parts...)})
}

// Rules and cautions carry lengths as quantities: they are written in the shop's units at the edge.
func (m *maker) rule(format string, args ...any) {
	m.u.Rules = append(m.u.Rules, fmt.Sprintf(format, args...))
}

func (m *maker) caution(format string, args ...any) {
	if says := fmt.Sprintf(format, args...); !slices.Contains(m.u.Cautions, says) {
		m.u.Cautions = append(m.u.Cautions, says)
	}
}

func mm(v float64) length.Length { return length.MM(v) }

// held is what is to be in a place, kg.
func (m *maker) held(p *shop.Place) float64 {
	kg := 0.0
	for i := range m.s.Homes {
		if h := &m.s.Homes[i]; h.Place == p.ID {
			if it := m.ix.Item(h.Item); it != nil {
				kg += it.KG.KG() * float64(h.Number(it))
			}
		}
	}
	return kg
}

// inside notes how a place comes out, and what it is short of what lives in it.
func (m *maker) inside(p *shop.Place, w, h, d float64) {
	c := Compliance{Place: p.ID, Planned: [3]float64{p.W.MM(), p.H.MM(), p.D.MM()}, Made: [3]float64{w, h, d}}
	need := [3]float64{}
	for i := range m.s.Homes {
		if x := &m.s.Homes[i]; x.Place == p.ID {
			if it := m.ix.Item(x.Item); it != nil {
				size := it.SizeIn(p.Kind)
				need[1], need[2] = max(need[1], size.H.MM()), max(need[2], size.D.MM())
			}
		}
	}
	switch {
	case w < p.W.MM()-.5:
		c.Short = fmt.Sprintf("%s is %s wide inside, %s were planned", p.ID, mm(w), p.W)
	case h < min(p.H.MM(), max(need[1], p.H.MM()-10))-.5:
		c.Short = fmt.Sprintf("%s is %s high inside, %s were planned", p.ID, mm(h), p.H)
	case d < min(p.D.MM(), max(need[2], p.D.MM()-10))-.5:
		c.Short = fmt.Sprintf("%s is %s deep inside, %s were planned", p.ID, mm(d), p.D)
	}
	if c.Short != "" {
		m.caution("%s", c.Short)
	}
	m.u.Inside = append(m.u.Inside, c)
}

// Times of making, estimates: an hour for the cuts and edges of a square metre of sheet, five minutes a part, a minute a screw or hole,
// twenty minutes to begin and put up.
const (
	perSquare = 60.0
	perPart   = 5.0
	perHole   = .7
	perUnit   = 20.0
)

func (m *maker) finish() {
	u := m.u
	outer := u.Outer()
	u.W, u.D, u.H = outer.W, outer.D, outer.H
	u.Low = max(0, -outer.Z)
	minutes := perUnit
	for i := range u.Parts {
		p := &u.Parts[i]
		wood, err := load.WoodByID(p.Material)
		if err == nil {
			u.KG += p.L * p.W * p.T / 1e9 * wood.Density
		}
		if p.Material == solid {
			u.Solid += p.L / 1000
		} else {
			u.Sheet += p.L * p.W / 1e6
		}
		minutes += perPart + perHole*float64(len(p.Holes)) + 3*float64(len(p.Cuts))
	}
	minutes += perSquare * u.Sheet
	u.Hours = minutes / 60 * m.s.Settings.OwnPace()
	for _, p := range m.places {
		u.Holds += m.held(p)
		u.Space += p.W.MM() * p.H.MM() * p.D.MM() / 1e6
	}
	m.common()
}

// common cautions: of work with blades and dust, of what is heavy or hangs.
func (m *maker) common() {
	u := m.u
	if len(u.Parts) == 0 {
		return
	}
	if u.KG > 25 {
		m.caution("it weighs %s by itself: two carry it, and two hold it while it is fixed", weight.KG(u.KG))
	}
	if m.at.Wall == "" && m.at.Ceiling == nil && m.unit != nil && m.unit.Kind != "cart" && m.unit.Kind != "tote" && u.H > 3*u.D && u.H > 900 {
		m.caution("it is tall for its depth: fix it to the wall with an angle at its top before anything is put in")
	}
	if m.c.Sheet == "mdf" || m.c.Sheet == "particle-board" {
		m.caution("dust of %s is very fine: extraction at the blade, and a mask that fits", m.c.Sheet)
	}
}
