package build

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/shop"
)

// tote is an open box with a hand hole in each end.
func (m *maker) tote() error {
	p := m.places[0]
	w, d, h := m.size()
	t := (w - p.W.MM()) / 2
	if t < 4 {
		t = 10
	}
	if w < 3*t || d < 3*t || h < 2*t {
		return fmt.Errorf("%s is %s: with sides %s thick nothing is left", m.u.Name, size(w, d, h), mm(t))
	}
	front := m.sheet("the tote", "Long side", Box{0, 0, 0, w, t, h}, AxisX)
	back := m.sheet("the tote", "Long side", Box{0, d - t, 0, w, t, h}, AxisX)
	l := m.sheet("the tote", "End", Box{0, t, 0, t, d - 2*t, h}, AxisY)
	r := m.sheet("the tote", "End", Box{w - t, t, 0, t, d - 2*t, h}, AxisY)
	bottom := m.sheet("the tote", "Bottom", Box{t, t, 0, w - 2*t, d - 2*t, t}, AxisX)
	for _, end := range []int{l, r} {
		m.screw(front, end, AxisY)
		m.screw(back, end, AxisY)
		m.screw(end, bottom, AxisX)
		if h > 120 && d > 200 {
			m.cut(end, Box{m.u.Parts[end].At.X, d/2 - 50, h - 60, t, 100, 32})
		}
	}
	if h > 120 && d > 200 {
		m.rule("a hand hole of %s in each end, rounded", size(100, 32))
	}
	m.step("Glue and screw the sides round the ends, the bottom between them.", front, back, l, r, bottom)
	m.inside(p, w-2*t, h-t, d-2*t)
	return nil
}

// pigeonholes is a case with a bin for each thing.
func (m *maker) pigeonholes() error {
	w, d, h := m.size()
	const wall, floor = 5.0, 10.0
	if w < 60 || d < 40 {
		return fmt.Errorf("%s is %s: too small for bins", m.u.Name, size(w, d, h))
	}
	back := m.sheet("the case", "Back", Box{0, d - wall, 0, w, wall, h}, AxisX)
	rows := map[float64][]*shop.Place{}
	var at []float64
	for _, p := range m.places {
		z := p.At.Z.MM()
		if rows[z] == nil {
			at = append(at, z)
		}
		rows[z] = append(rows[z], p)
	}
	slices.Sort(at)
	left := m.sheet("the case", "Side", Box{0, 0, 0, wall, d - wall, h}, AxisZ)
	right := m.sheet("the case", "Side", Box{w - wall, 0, 0, wall, d - wall, h}, AxisZ)
	for i, z := range at {
		under := max(0, z-floor)
		m.sheet("the case", "Floor", Box{wall, 0, under, w - 2*wall, d - wall, z - under}, AxisX)
		high := h - z
		if i+1 < len(at) {
			high = at[i+1] - floor - z
		}
		row := rows[z]
		slices.SortStableFunc(row, func(a, b *shop.Place) int { return int(math.Copysign(1, float64(a.At.X-b.At.X))) })
		for k, p := range row {
			x1 := p.At.X.MM() + p.W.MM()
			if k+1 < len(row) || x1 < w-2*wall-1 {
				m.sheet("the case", "Divider", Box{x1, 0, z, wall, d - wall, min(high, maxHigh(row))}, AxisY)
			}
			m.inside(p, p.W.MM(), high, d-wall)
		}
	}
	m.fit("Brad", 8*len(m.u.Parts), 20)
	m.fit("Label holder", len(m.places), 0)
	m.rule("dividers %s, floors %s thick", mm(wall), mm(floor))
	m.step("Saw all dividers of a row from one strip; glue and pin floors and dividers between the sides, the back on.", append([]int{left, right, back}, all(m)...)...)
	if m.at.Wall != "" {
		m.u.Fixed = append(m.u.Fixed, h-30)
	}
	return nil
}

func maxHigh(row []*shop.Place) (h float64) {
	for _, p := range row {
		h = max(h, p.H.MM())
	}
	return h
}

// standBin is a bin in parts for what stands on end.
func (m *maker) standBin() error {
	w, d, h := m.size()
	t := (d - m.places[0].D.MM()) / 2
	if t < 5 {
		t = 12
	}
	bottom := m.sheet("the bin", "Bottom", Box{0, 0, 0, w, d, t}, AxisX)
	front := m.sheet("the bin", "Front", Box{0, 0, t, w, t, (h - t) * .6}, AxisX)
	back := m.sheet("the bin", "Back", Box{0, d - t, t, w, t, h - t}, AxisX)
	walls := []int{}
	add := func(name string, x, high float64) {
		k := m.sheet("the bin", name, Box{x, t, t, t, d - 2*t, high}, AxisZ)
		m.screw(front, k, AxisY)
		m.screw(back, k, AxisY)
		m.screw(bottom, k, AxisZ)
		walls = append(walls, k)
	}
	add("End", 0, h-t)
	for i, p := range m.places {
		x1 := p.At.X.MM() + p.W.MM()
		if i+1 < len(m.places) {
			add("Divider", min(x1, w-2*t), min(h-t, max(p.H.MM(), m.places[i+1].H.MM())))
		}
		m.inside(p, p.W.MM(), h-t, d-2*t)
	}
	add("End", w-t, h-t)
	m.screw(bottom, front, AxisZ)
	m.screw(bottom, back, AxisZ)
	m.fit("Chain with two hooks", 1, math.Round(w*1.1))
	m.rule("the front is lower than the back: what is short can be seen")
	m.step("Screw ends and dividers between front and back, all of it onto the bottom.", append(walls, bottom, front, back)...)
	m.caution("long pieces on end fall: hang the chain across them, and stand the bin against a wall")
	return nil
}

// oneBin is an open box.
func (m *maker) oneBin() error {
	p := m.places[0]
	w, d, h := m.size()
	const t = 12.0
	front := m.sheet("the bin", "Long side", Box{-t, -t, 0, w + 2*t, t, h}, AxisX)
	back := m.sheet("the bin", "Long side", Box{-t, d, 0, w + 2*t, t, h}, AxisX)
	l := m.sheet("the bin", "End", Box{-t, 0, 0, t, d, h}, AxisY)
	r := m.sheet("the bin", "End", Box{w, 0, 0, t, d, h}, AxisY)
	bottom := m.sheet("the bin", "Bottom", Box{-t, -t, -t, w + 2*t, d + 2*t, t}, AxisX)
	for _, end := range []int{l, r} {
		m.screw(front, end, AxisY)
		m.screw(back, end, AxisY)
		m.screw(bottom, end, AxisZ)
	}
	m.step("Glue and screw the sides round the ends, the bottom under all.", front, back, l, r, bottom)
	m.inside(p, w, h, d)
	return nil
}

// bayOf is two frames and a floor between which sheets stand on edge, from x on, so far up.
func (m *maker) bayOf(x, z, w, d, h, t float64) {
	floor := m.sheet("the bay", "Floor", Box{x - t, 0, z - t, w + 2*t, d, t}, AxisY)
	side := min(h*.66, h-1)
	l := m.sheet("the bay", "Side", Box{x - t, 0, z, t, d, side}, AxisY)
	r := m.sheet("the bay", "Side", Box{x + w, 0, z, t, d, side}, AxisY)
	m.screw(floor, l, AxisZ)
	m.screw(floor, r, AxisZ)
	for _, up := range []float64{z, z + side - 80} {
		if up != z && side < 200 {
			break
		}
		k := m.wood("the bay", "Rail across the back", Box{x, d - 18, up, w, 18, min(80, side)}, AxisX)
		m.screw(l, k, AxisX)
		m.screw(r, k, AxisX)
	}
	m.fit("Strap with buckle", 1, math.Round(2*(w+2*t)))
	m.rule("the floor of the bay slopes to the back, or a batten before it keeps sheets from sliding out")
	m.step("Screw the sides onto the floor, the rails between them.", all(m)...)
	m.caution("sheets that fall hurt: let them lean by 5° and hold them with a strap; keep children away")
}

func (m *maker) bay() error {
	p := m.places[0]
	w, d, h := m.size()
	m.bayOf(0, 0, w, d, h, m.c.T)
	m.rule("it is %s wider than the place inside: its sides stand beside it", mm(2*m.c.T))
	m.inside(p, w, h, d)
	return nil
}

// sheetCart is a sheet bay on casters.
func (m *maker) sheetCart() error {
	p := m.places[0]
	w, d, h := m.size()
	x, z := p.At.X.MM(), p.At.Z.MM()
	t := min(m.c.T, x)
	if t < 6 || z < 60 {
		return fmt.Errorf("%s is as large outside as inside: no side or caster has room; draw it anew", m.u.Name)
	}
	m.bayOf(t, z, w-2*t, d, h-z, t)
	foot := z - t
	m.casters(0, 0, w, d, foot)
	m.inside(p, w-2*t, h-z, d)
	return nil
}

// twoSided is a cart with a board that is hung on from both sides.
func (m *maker) twoSided() error {
	w, d, h := m.size()
	foot := h
	deep, behind := 0.0, 0.0
	for _, p := range m.places {
		foot = min(foot, p.At.Z.MM())
		if p.At.Face != "back" {
			deep = max(deep, p.D.MM())
		} else {
			behind = max(behind, p.D.MM())
		}
	}
	t := m.c.T
	if foot < 60+t {
		return fmt.Errorf("the boards of %s begin %s over the floor: casters and a deck need %s", m.u.Name, mm(foot), mm(60+t))
	}
	deck := m.sheet("the cart", "Deck", Box{0, 0, foot - t, w, d, t}, AxisX)
	y := min(deep+max(0, d-t-deep-behind)/2, d-t) // what is to spare on both sides
	board := m.sheet("the cart", "Board", Box{0, y, foot, w, t, h - foot}, AxisX)
	m.screw(deck, board, AxisZ)
	m.u.Parts[board].Edge = w + 2*(h-foot)
	m.fit("Steel angle 150 x 150", 4, 0)
	m.casters(0, 0, w, d, foot-t)
	m.step("Screw the board upright onto the deck, with two angles at each end.", deck, board)
	m.caution("things on a cart shake loose: holders that keep them, and brakes on two wheels")
	for _, p := range m.places {
		room := y
		if p.At.Face == "back" {
			room = d - y - t
		}
		m.inside(p, w, h-foot, room)
	}
	return nil
}
