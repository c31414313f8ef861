// Package hold says how a place holds things: the space it offers, an item as
// that space sees it, and what the numbers of a home mean there.
package hold

import (
	"fmt"
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// SpaceOf makes the empty space of a place. Head is the height from a bin's floor
// to what is over it.
func SpaceOf(p *shop.Place, head length.Length) pack.Space {
	switch p.Kind {
	case "wall-field":
		pl := &pack.Plane{W: p.W, H: p.H}
		if p.Style == "cleat" {
			pl.Rails = p.Rows
		}
		return pl
	case "hook":
		return &pack.Plane{W: p.W, H: p.H, Single: true}
	case "drawer", "deck", "floor":
		return &pack.Plane{W: p.W, H: p.D, Lying: true}
	case "shelf":
		return &pack.Shelf{W: p.W, D: p.D}
	case "rail":
		return &pack.Rail{W: p.W, Pitch: p.RailPitch()}
	case "slots":
		out := &pack.Slots{}
		for _, r := range p.Slots {
			for range r.N {
				out.Slots = append(out.Slots, pack.Slot{W: r.W, H: r.H, D: r.D})
			}
		}
		return out
	case "arms":
		out := &pack.Arms{W: p.W, D: p.D}
		for _, l := range p.Levels {
			out.Levels = append(out.Levels, pack.ArmLevel{Z: l.Z, H: l.H})
		}
		return out
	case "sheet-bay":
		return &pack.SheetBay{W: p.W, H: p.H, D: p.D}
	default: // bin
		return &pack.Bin{W: p.W, H: p.H, D: p.D, Fill: p.FillFactor(), Head: head}
	}
}

// SpaceIn is the space of a place of a shop: what SpaceOf gives, less the room of
// the containers that are on it.
func SpaceIn(s *shop.Shop, p *shop.Place, head length.Length) pack.Space {
	space := SpaceOf(p, head)
	for i := range s.Containers {
		c := &s.Containers[i]
		if c.At.In != p.ID {
			continue
		}
		t := pack.Thing{W: c.W, H: c.H, D: c.D, N: 1}
		spot := pack.Spot{X: c.At.X, Y: c.At.Z}
		if p.Kind != "wall-field" {
			spot.Y = c.At.Y
		}
		if p.Kind == "deck" || p.Kind == "floor" {
			t.H = c.D
		}
		space.Put(-1-i, t, spot)
	}
	return space
}

// Thing is n pieces of an item as the space of a place sees them.
func Thing(p *shop.Place, it *shop.Item, n int) pack.Thing {
	size := it.SizeIn(p.Kind)
	t := pack.Thing{W: size.W, H: size.H, D: size.D, N: n, Gap: it.HandRoom(), Turn: it.Turns(p.Kind),
		Lean: p.Kind == "bin" && !slices.Contains(it.Holding(), "bin")}
	switch p.Kind {
	case "drawer", "deck", "floor":
		t.H = size.D
	}
	return t
}

// Barred tells what forbids an item in an empty place, leaving reach and lifting
// aside; empty when nothing does.
func Barred(p *shop.Place, it *shop.Item, n int, space pack.Space) string {
	if !p.Takes(it) {
		return fmt.Sprintf("holds %s; this is kept %s", List(p.Offers()), List(it.Holding()))
	}
	size := it.SizeIn(p.Kind)
	switch p.Kind {
	case "wall-field", "hook", "rail":
		if size.D > p.D {
			return fmt.Sprintf("%s too deep", size.D-p.D)
		}
		if p.Kind == "rail" && size.H > p.H {
			return fmt.Sprintf("%s too long", size.H-p.H)
		}
	case "drawer", "deck", "floor", "shelf":
		if size.H > p.H {
			return fmt.Sprintf("%s too high", size.H-p.H)
		}
	}
	if p.Capacity > 0 && it.KG*weight.Weight(n) > p.Capacity {
		return fmt.Sprintf("%s too heavy for its capacity of %s", it.KG*weight.Weight(n)-p.Capacity, p.Capacity)
	}
	t := Thing(p, it, n)
	if len(space.Spots(t, nil)) > 0 {
		return ""
	}
	if err := space.Allows(t, FirstSpot(p, t)); err != nil {
		return err.Error()
	}
	return "it does not fit in"
}

// FirstSpot is where one would try first, to hear why not.
func FirstSpot(p *shop.Place, t pack.Thing) pack.Spot {
	s := pack.Spot{}
	if p.Kind == "wall-field" && p.Style == "cleat" && len(p.Rows) > 0 {
		s.Y = p.Rows[len(p.Rows)-1] - t.H
	}
	return s
}

func List(words []string) string {
	out := ""
	for i, w := range words {
		switch {
		case i == 0:
		case i == len(words)-1:
			out += " or "
		default:
			out += ", "
		}
		out += w
	}
	return out
}

// Home turns a spot into a home of the shop file.
func Home(it *shop.Item, p *shop.Place, n int, s pack.Spot) shop.Home {
	h := shop.Home{Item: it.ID, Place: p.ID}
	if n != it.Number() {
		h.N = n
	}
	if s.Turned {
		h.Rot = 90
	}
	if s.Cols > 0 && s.Cols < n {
		h.Cols = s.Cols
	}
	switch p.Kind {
	case "wall-field", "hook":
		h.X, h.Z = s.X, s.Y
	case "drawer", "deck", "floor":
		h.X, h.Y = s.X, s.Y
	case "shelf":
		h.X, h.Row = s.X, s.Row
	case "rail", "slots":
		h.Slot = s.Slot
	case "sheet-bay":
		h.X = s.X
	case "arms":
		h.Level, h.Y, h.Z = s.Level, s.Y, s.Z
		h.X = (p.W - it.W) / 2
	}
	return h
}

// SpotOf is the reverse of Home.
func SpotOf(p *shop.Place, h *shop.Home) pack.Spot {
	s := pack.Spot{Cols: h.Cols, Row: h.Row, Slot: h.Slot, Level: h.Level}
	switch p.Kind {
	case "wall-field", "hook":
		s.X, s.Y, s.Turned = h.X, h.Z, h.Rot == 90
	case "arms":
		s.Y, s.Z = h.Y, h.Z
	case "drawer", "deck", "floor":
		s.X, s.Y, s.Turned = h.X, h.Y, h.Rot == 90
	default: // nothing is turned there
		s.X, s.Y = h.X, h.Y
	}
	return s
}
