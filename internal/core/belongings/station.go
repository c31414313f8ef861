package belongings

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// onStand is the height of what stands on a stand of its own.
const onStand = 850 * length.Millimetre

// stand is how far before a station one stands, in mm.
const stand = 350.0

// NewStation puts a station of that name where the floor of the main area is
// free and no rule is broken by it, as large as such a station usually is, until somebody says where it
// really stands. It gives the station's id.
func NewStation(s *shop.Shop, name string) (string, error) {
	name = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(name), "@"))
	if name == "" {
		return "", &FieldError{"", "name", "a station needs a name"}
	}
	id := ID(name, func(id string) bool {
		return slices.ContainsFunc(s.Stations, func(st shop.Station) bool { return st.ID == id }) || slices.ContainsFunc(s.Containers, func(c shop.Container) bool { return c.ID == id })
	})
	kind := shop.StationKindOf(strings.Join(kinds.Words(name), " "))
	size := kind.Usual()
	if kind == "" {
		kind, size = shop.StationKind(strings.Join(kinds.Words(name), "-")), shop.Bench.Usual()
		if m, ok := kinds.Find(name); ok && m.Kind.Group == "bench machines" {
			kind, size = shop.StationKind(m.Kind.ID), shop.Size{W: length.MM(m.Kind.W), D: length.MM(m.Kind.D), H: onStand}
		}
	}
	area := &s.Areas[0]
	x, y, ok := freeFloor(s, area, size.W.MM(), size.D.MM())
	if !ok {
		return "", &FieldError{"", "name", fmt.Sprintf("no floor is free for the station %q; make room or survey the room first", name)}
	}
	title := line.Title(strings.ReplaceAll(name, "-", " "))
	s.Stations = append(s.Stations, shop.Station{ID: id, Name: title, Kind: kind, X: length.MM(x), Y: length.MM(y), W: size.W, D: size.D, H: size.H,
		Stand: shop.Point{length.MM(x) + size.W/2, length.MM(y - stand)}})
	return id, nil
}

// freeFloor looks for a spot of w by d with room to stand before it, clear of whatever stands
// there, of where one stands at other stations, and of what doors and panels keep free. False
// when there is none: then it would break a rule wherever it stood.
func freeFloor(s *shop.Shop, area *shop.Area, w, d float64) (x, y float64, ok bool) {
	m, err := access.NewMap(s)
	if err != nil {
		return 0, 0, false
	}
	outline := area.Outline()
	var things, stands []geometry.Polygon
	for _, t := range access.StandingIn(s, m.Index, area) {
		things = append(things, t.Footprint)
	}
	for i := range s.Modes { // nor where something goes when the room is arranged otherwise
		if then, err := s.InMode(s.Modes[i].ID); err == nil {
			ix := shop.NewIndex(then)
			for _, t := range access.StandingIn(then, ix, ix.Area(area.ID)) {
				things = append(things, t.Footprint)
			}
		}
	}
	kept, _ := free.KeptClear(m, area)
	for _, k := range kept {
		if k.From < tallest {
			things = append(things, k.Foot)
		}
	}
	for i := range s.Stations {
		if st := &s.Stations[i]; m.Index.Area(st.Area) == area {
			p := st.Stand.Geometry()
			stands = append(stands, geometry.Rectangle(p.X-walk.BodyRadius, p.Y-walk.BodyRadius, 2*walk.BodyRadius, 2*walk.BodyRadius, 0))
		}
	}
	low, high := outline.Bounds()
	const step = 100
	for y := high.Y - d - step; y >= low.Y+stand; y -= step {
		for x := low.X + step; x+w <= high.X-step; x += step {
			body, whole := geometry.Rectangle(x, y, w, d, 0), geometry.Rectangle(x, y-stand, w, d+stand, 0)
			if !within(outline, x, y-stand, w, d+stand) ||
				slices.ContainsFunc(things, func(p geometry.Polygon) bool { return whole.Overlaps(p, 1) }) ||
				slices.ContainsFunc(stands, func(p geometry.Polygon) bool { return body.Overlaps(p, 1) }) {
				continue
			}
			return x, y, true
		}
	}
	return 0, 0, false
}

// tallest such a machine is, in mm: what is kept free above it does not matter.
const tallest = 1500.0

func within(outline geometry.Polygon, x, y, w, h float64) bool {
	r := geometry.Rectangle(x, y, w, h, 0)
	for i, c := range r {
		if !outline.Contains(c) {
			return false
		}
		for k := range outline {
			if outline.Edge(k).Crosses(r.Edge(i)) {
				return false
			}
		}
	}
	return true
}
