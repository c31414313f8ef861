package belongings

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// usual sizes in mm of stations that are no kind of thing: width, depth, height of the top.
var usual = map[string][3]float64{
	"bench": {1500, 650, 880}, "assembly": {1200, 800, 850}, "carving": {900, 500, 950}, "sharpening": {800, 450, 900},
	"bandsaw": {600, 700, 950}, "table-saw": {900, 800, 880}, "drill-press": {450, 550, 950}, "lathe": {1100, 400, 1000},
	"planer": {600, 600, 850}, "jointer": {1200, 450, 850}, "router-table": {800, 550, 880}, "sander": {700, 600, 900},
}

// stand is how far before a station one stands, in mm.
const stand = 350.0

// NewStation puts a station of that name where the floor of the main area is
// free, as large as such a station usually is, until somebody says where it
// really stands. It gives the station's id.
func NewStation(s *shop.Shop, name string) (string, error) {
	name = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(name), "@"))
	if name == "" {
		return "", &FieldError{"", "name", "a station needs a name"}
	}
	id := ID(name, func(id string) bool {
		return slices.ContainsFunc(s.Stations, func(st shop.Station) bool { return st.ID == id }) || slices.ContainsFunc(s.Containers, func(c shop.Container) bool { return c.ID == id })
	})
	kind, size := "bench", usual["bench"]
	words := strings.Join(kinds.Words(name), "-")
	for k, u := range usual {
		if strings.Contains(words, k) && (kind == "bench" || len(k) > len(kind)) {
			kind, size = k, u
		}
	}
	if kind == "bench" && !strings.Contains(words, "bench") {
		kind = words
		if m, ok := kinds.Find(name); ok && m.Kind.Group == "bench machines" {
			kind, size = m.Kind.ID, [3]float64{m.Kind.W, m.Kind.D, 850}
		}
	}
	area := &s.Areas[0]
	x, y, ok := freeFloor(s, area, size[0], size[1])
	if !ok {
		return "", &FieldError{"", "name", fmt.Sprintf("no floor is free for the station %q; make room or survey the room first", name)}
	}
	title := strings.ToUpper(name[:1]) + strings.ReplaceAll(name[1:], "-", " ")
	s.Stations = append(s.Stations, shop.Station{ID: id, Name: title, Kind: kind, X: length.MM(x), Y: length.MM(y), W: length.MM(size[0]), D: length.MM(size[1]), H: length.MM(size[2]),
		Stand: shop.Point{length.MM(x + size[0]/2), length.MM(y - stand)}})
	return id, nil
}

// freeFloor looks for a spot of w by d with room to stand before it, clear of
// other stations and containers; where there is none, for one that is clear of
// stations only, then for any.
func freeFloor(s *shop.Shop, area *shop.Area, w, d float64) (x, y float64, ok bool) {
	outline := area.Outline()
	var stations, containers []geometry.Polygon
	for i := range s.Stations {
		if st := &s.Stations[i]; st.Area == "" || st.Area == area.ID {
			stations = append(stations, geometry.Rectangle(st.X.MM(), st.Y.MM(), st.W.MM(), st.D.MM(), st.Rot))
		}
	}
	for i := range s.Containers {
		if c := &s.Containers[i]; c.At.Floor != nil {
			containers = append(containers, geometry.Rectangle(c.At.Floor[0].MM(), c.At.Floor[1].MM(), c.W.MM(), c.D.MM(), c.At.Rot))
		}
	}
	low, high := outline.Bounds()
	const step = 100
	for _, avoid := range [][]geometry.Polygon{append(slices.Clone(stations), containers...), stations, nil} {
		for y := high.Y - d - step; y >= low.Y+stand; y -= step {
			for x := low.X + step; x+w <= high.X-step; x += step {
				if within(outline, x, y-stand, w, d+stand) && !slices.ContainsFunc(avoid, func(p geometry.Polygon) bool { return geometry.Rectangle(x, y-stand, w, d+stand, 0).Overlaps(p, 1) }) {
					return x, y, true
				}
			}
		}
	}
	return 0, 0, false
}

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
