package build

import (
	"fmt"
	"math"

	"hobrak/internal/core/shop"
)

// frame is the space in a case that a drawer has.
type frame struct {
	inset        bool    // its front lies in the case
	front, inner float64 // where the case begins, and how deep it is inside
	base, next   float64 // its lowest, and where the next thing begins
	first, last  bool    // of the drawers over each other
	low, high    float64 // of the case
	left, right  bool    // its column is the first or last
	w            float64 // of the case
}

// beside is what runners take on each side of a drawer, and below it.
func (m *maker) beside() (side, below float64) {
	switch m.c.Runner {
	case Under:
		return underRunner, underBelow
	case Bare:
		return noRunner, 0
	}
	return sideRunner, 0
}

// slide is how wide and high the strips are that drawers slide on, mm.
const slide = 12.0

// runnersSold are the lengths runners are sold in, mm.
var runnersSold = []float64{250, 300, 350, 400, 450, 500, 550, 600, 650, 700}

// runners are the longest that go beside a drawer so long; the error says that none do.
func runners(of string, long float64) (sold float64, err error) {
	for _, l := range runnersSold {
		if l <= long {
			sold = l
		}
	}
	if sold == 0 {
		return 0, fmt.Errorf("%s is %s long; runners begin at %s: let it slide on wood", of, mm(long), mm(runnersSold[0]))
	}
	return sold, nil
}

// lipUnder is how much of the sides of a drawer is below its bottom.
func lipUnder(high float64) float64 {
	if high < 60 {
		return 5
	}
	return bottomLip
}

// drawerBox makes a drawer: sides, back and bottom behind a front that is there. The box outlines the sides, the bottom lies so much over
// their lower edge in a groove; the back stands on it, so that it slides in from behind and can be changed. It gives all its parts.
func (m *maker) drawerBox(of string, front int, b Box, lip float64) []int {
	left := m.sheet(of, "Drawer side", Box{b.X, b.Y, b.Z, drawerSide, b.D, b.H}, AxisY)
	right := m.sheet(of, "Drawer side", Box{b.X + b.W - drawerSide, b.Y, b.Z, drawerSide, b.D, b.H}, AxisY)
	backZ := b.Z + lip + m.c.Thin
	back := m.sheet(of, "Drawer back", Box{b.X + drawerSide, b.Y + b.D - drawerSide, backZ, b.W - 2*drawerSide, drawerSide, b.Z + b.H - backZ}, AxisX)
	groove := math.Round(drawerSide / 3)
	at := Box{b.X + drawerSide - groove, b.Y - groove, b.Z + lip, b.W - 2*drawerSide + 2*groove, b.D + groove, m.c.Thin}
	bottom := m.sheet(of, "Drawer bottom", at, AxisX)
	m.u.Parts[bottom].AnyWay = true
	for _, k := range []int{left, right, front} {
		m.cut(k, at)
	}
	all := []int{front, left, right, back, bottom}
	for _, k := range all {
		m.u.Parts[k].Slides = true
	}
	m.screw(left, back, AxisX)
	m.screw(right, back, AxisX)
	m.screw(front, left, AxisY)
	m.screw(front, right, AxisY)
	return all
}

// drawerIn makes a drawer in a space of a case: its front is its fourth side, its bottom lies in a groove.
func (m *maker) drawerIn(p *shop.Place, n int, c column, walls [2]int, f frame) error {
	of := fmt.Sprintf("drawer %d", n)
	t := m.c.T
	gap, below := m.beside()
	inset := f.inset
	y0 := f.front - t // of its front
	if inset {
		y0 = f.front
	}
	// How long: from its front to what is free behind it.
	long := f.front + f.inner - behind - (y0 + t)
	x0, x1 := c.x0+gap, c.x1-gap
	low := f.base + max(drawerLow, below)
	high := f.next - 6
	switch {
	case f.last:
		high = f.next - 4
	case m.c.Runner == Bare:
		high -= slide // what the drawer above slides on
	}
	sideH := high - low
	wide := x1 - x0
	if wide < 2*drawerSide+40 || long < 80 || sideH < 25 {
		return fmt.Errorf("%s comes out %s: no drawer goes in there with what it runs on", p.ID, size(wide, sideH, long))
	}
	// The front.
	fx0, fx1, fz0, fz1 := c.x0+doorGap, c.x1-doorGap, f.base+1, f.next-1
	if !inset {
		fx0, fx1 = c.x0-t/2+reveal/2, c.x1+t/2-reveal/2
		if f.left {
			fx0 = 0
		}
		if f.right {
			fx1 = f.w
		}
		fz0, fz1 = f.base-reveal/2, f.next-1.5*reveal // the gap is half way between their spaces
		if f.first {
			fz0 = f.low
		}
		switch {
		case f.last && f.next < f.high-t-1: // something else is over it
			fz1 = f.next + t/2
		case f.last:
			fz1 = f.high
		}
	} else if !f.last {
		fz1 = f.next - reveal
	}
	thin := m.c.Thin
	front := m.sheet(of, "Drawer front", Box{fx0, y0, fz0, fx1 - fx0, t, fz1 - fz0}, AxisX)
	m.u.Parts[front].Edge = 2 * (fx1 - fx0 + fz1 - fz0)
	y := y0 + t
	lip := lipUnder(sideH)
	parts := m.drawerBox(of, front, Box{x0, y, low, wide, long, sideH}, lip)
	switch m.c.Runner {
	case Side:
		sold, err := runners(of, long)
		if err != nil {
			return err
		}
		z := low + max(0, min(sideH-45, sideH/2-22))
		m.fit("Pair of side-mounted runners, full extension", 1, sold,
			Box{c.x0, y, z, gap, sold, min(45, sideH)}, Box{x1, y, z, gap, sold, min(45, sideH)})
		m.u.Parts[front].Joint = "screwed from within the drawer once it runs"
	case Under:
		sold, err := runners(of, long)
		if err != nil {
			return err
		}
		m.fit("Pair of undermount runners", 1, sold, Box{c.x0, y, f.base, gap + drawerSide, sold, below}, Box{x1 - drawerSide, y, f.base, gap + drawerSide, sold, below})
	default:
		// Strips it lies on, in the walls beside it; they are waxed.
		for i, x := range []float64{c.x0, c.x1 - slide} {
			if f.first {
				break // it lies on the bottom
			}
			s := m.wood(of, "Strip a drawer slides on", Box{x, y0 + t, f.base - slide, slide, f.front + f.inner - y0 - t, slide}, AxisY)
			m.screw(walls[i], s, AxisX)
		}
	}
	m.step(fmt.Sprintf("Make %s: bottom into its groove, back last; %s of play on each side.", of, mm(gap)), parts...)
	clear := f.next - (low + lip + thin)
	if !f.last {
		clear += max(drawerLow, below)
	}
	m.inside(p, wide-2*drawerSide, clear, long-drawerSide)
	return nil
}

// doors before a case or in it: two where one would be wider than 600.
func (m *maker) doors(w, h, foot, front float64) {
	t := m.c.T
	x0, x1, z0, z1, y := 0.0, w, foot, h, 0.0
	if m.c.Front == Inset {
		x0, x1, z0, z1, y = t+doorGap, w-t-doorGap, foot+t+doorGap, h-t-doorGap, front
	}
	n := 1
	if x1-x0 > 600 {
		n = 2
	}
	wide := (x1 - x0 - float64(n-1)*reveal) / float64(n)
	var all []int
	for i := range n {
		p := m.sheet("the doors", "Door", Box{x0 + float64(i)*(wide+reveal), y, z0, wide, t, z1 - z0}, AxisZ)
		m.u.Parts[p].Edge = 2 * (wide + z1 - z0)
		side := m.u.Parts[p].At.X + 21.5
		if i == 1 {
			side = m.u.Parts[p].At.X + wide - 21.5
		}
		hinges := 2
		if z1-z0 > 900 {
			hinges = 3
		}
		if z1-z0 > 1600 {
			hinges = 4
		}
		from := min(hingeFrom, (z1-z0)/4)
		for k := range hinges {
			z := z0 + from + (z1-z0-2*from)*float64(k)/float64(hinges-1)
			m.u.Parts[p].Holes = append(m.u.Parts[p].Holes, Hole{X: side, Y: y + t, Z: z, Axis: AxisY, D: 35, Deep: min(13, t-3), For: "a cup hinge"})
		}
		m.fit("Cup hinge, "+m.c.Front, hinges, 0)
		all = append(all, p)
	}
	if m.unit.Lockable {
		m.fit("Lock", 1, 0)
	}
	m.fit("Handle", n, 0)
	m.step("Hang the doors and set the hinges until the gaps are even.", all...)
}

// oneDrawer hangs under a top, a bench or a shelf, on a pair of runners between two bearers.
func (m *maker) oneDrawer() error {
	p := m.places[0]
	gap, below := m.beside()
	t := m.c.T
	wide, long, high := p.W.MM()+2*drawerSide, p.D.MM()+drawerSide+t, p.H.MM()
	x0 := gap + t
	lip, low, y := lipUnder(high), below, t
	top := low + lip + m.c.Thin + high
	l := m.sheet("the bearers", "Bearer", Box{0, t, 0, t, long, top + 6}, AxisY)
	r := m.sheet("the bearers", "Bearer", Box{x0 + wide + gap, t, 0, t, long, top + 6}, AxisY)
	front := m.sheet("the drawer", "Drawer front", Box{0, 0, 0, 2*x0 + wide, t, top + 6}, AxisX)
	m.u.Parts[front].Edge = 2 * (2*x0 + wide + top + 6)
	deep := long - t
	parts := m.drawerBox("the drawer", front, Box{x0, y, low, wide, deep, top - low - 4}, lip)
	if m.c.Runner != Bare {
		sold, err := runners(p.ID, deep)
		if err != nil {
			return err
		}
		name := "Pair of side-mounted runners, full extension"
		z, h := low+max(0, (top-low)/2-22), min(45.0, top-low-4)
		if m.c.Runner == Under {
			name, z, h = "Pair of undermount runners", 0, below
		}
		at := []Box{{t, y, z, gap, sold, h}, {x0 + wide, y, z, gap, sold, h}}
		m.fit(name, 1, sold, at...)
	} else {
		const under = 11.0 // of the drawer's sides
		for _, x := range []float64{0, x0 + wide - under} {
			k := m.wood("the bearers", "Strip a drawer slides on", Box{x, t, -slide, t + gap + under, long, slide}, AxisY)
			m.u.Parts[k].Joint = "screwed under the bearer"
		}
		m.fit("Wood screw", 6, 30)
	}
	m.step("Make the drawer: bottom into its groove, back last.", parts...)
	m.step("Screw the bearers under the top, square to its front edge, and hang the drawer.", l, r)
	m.inside(p, wide-2*drawerSide, high, deep-drawerSide)
	return nil
}
