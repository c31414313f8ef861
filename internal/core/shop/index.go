package shop

import (
	"cmp"
	"maps"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
)

// Index finds the parts of a shop by id. It holds for as long as the shop's
// lists are not changed.
type Index struct {
	shop       *Shop
	areas      map[string]*Area
	stations   map[string]*Station
	containers map[string]*Container
	places     map[string]*Place
	items      map[string]*Item
	homes      map[string][]*Home
}

// NewIndex indexes a shop. Of parts with the same id the first is found.
func NewIndex(s *Shop) *Index {
	ix := &Index{shop: s, areas: map[string]*Area{}, stations: map[string]*Station{}, containers: map[string]*Container{},
		places: map[string]*Place{}, items: map[string]*Item{}, homes: map[string][]*Home{}}
	for i := range s.Areas {
		first(ix.areas, s.Areas[i].ID, &s.Areas[i])
	}
	for i := range s.Stations {
		first(ix.stations, s.Stations[i].ID, &s.Stations[i])
	}
	for i := range s.Containers {
		first(ix.containers, s.Containers[i].ID, &s.Containers[i])
	}
	for i := range s.Places {
		first(ix.places, s.Places[i].ID, &s.Places[i])
	}
	for i := range s.Items {
		first(ix.items, s.Items[i].ID, &s.Items[i])
	}
	for i := range s.Homes {
		h := &s.Homes[i]
		ix.homes[h.Item] = append(ix.homes[h.Item], h)
	}
	return ix
}

func first[T any](m map[string]T, id string, v T) {
	if _, ok := m[id]; !ok {
		m[id] = v
	}
}

// Area by id; the empty id is the main area. Nil when there is none.
func (ix *Index) Area(id string) *Area {
	if id == "" && len(ix.shop.Areas) > 0 {
		return &ix.shop.Areas[0]
	}
	return ix.areas[id]
}

// Station by id, nil when there is none. The same holds for the others.
func (ix *Index) Station(id string) *Station     { return ix.stations[id] }
func (ix *Index) Container(id string) *Container { return ix.containers[id] }
func (ix *Index) Place(id string) *Place         { return ix.places[id] }
func (ix *Index) Item(id string) *Item           { return ix.items[id] }

// Name of a station, container or place as people know it; the id when it has none.
func (ix *Index) Name(id string) string {
	name := ""
	if st := ix.Station(id); st != nil {
		name = st.Name
	} else if c := ix.Container(id); c != nil {
		name = c.Name
	} else if p := ix.Place(id); p != nil {
		name = p.Name
	}
	if name == "" {
		return id
	}
	return name
}

// Homes of an item.
func (ix *Index) Homes(item string) []*Home { return ix.homes[item] }

// Chain lists the containers a position is in, innermost first, and the
// position of the outermost, which is not in a container. A container may be on a
// place, as a tote on a deck; then the chain goes on with what the place is in.
func (ix *Index) Chain(at *At) ([]*Container, *At) {
	var chain []*Container
	at = ix.climb(at, func(c *Container, _ *Place) {
		if c != nil {
			chain = append(chain, c)
		}
	})
	return chain, at
}

// Bearers are the places on which the containers of a position's chain are,
// innermost first.
func (ix *Index) Bearers(at *At) []*Place {
	var out []*Place
	ix.climb(at, func(_ *Container, p *Place) {
		if p != nil {
			out = append(out, p)
		}
	})
	return out
}

// Ground is the place on which the outermost container of a position's chain is;
// nil when it is on the floor, a wall or elsewhere by itself.
func (ix *Index) Ground(at *At) (ground *Place) {
	ix.climb(at, func(_ *Container, p *Place) { ground = p })
	return ground
}

// Offset adds up how far a position is from the left and above the lower edge of
// what its chain is in or on, the outermost position included.
func (ix *Index) Offset(at *At) (x, z length.Length) {
	x, z = at.X, at.Z
	ix.climb(at, func(c *Container, p *Place) {
		if c != nil {
			x, z = x+c.At.X, z+c.At.Z
		} else {
			x, z = x+p.At.X, z+p.At.Z
		}
	})
	return x, z
}

// climb visits what a position is in or on, innermost first, and gives the
// position of the outermost.
func (ix *Index) climb(at *At, visit func(*Container, *Place)) *At {
	for range 64 {
		if c := ix.Container(at.In); c != nil {
			visit(c, nil)
			at = &c.At
		} else if p := ix.Place(at.In); p != nil {
			visit(nil, p)
			at = &p.At
		} else {
			break
		}
	}
	return at
}

// loops tells whether a container is inside itself.
func (ix *Index) loops(id string) bool {
	c := ix.Container(id)
	if c == nil {
		return false
	}
	steps, self := 0, false
	ix.climb(&c.At, func(k *Container, _ *Place) {
		steps++
		self = self || k == c
	})
	return self || steps >= 64
}

// Geometry of the point, in millimetres.
func (p Point) Geometry() geometry.Point { return geometry.Point{X: p[0].MM(), Y: p[1].MM()} }

// Called is what people call the area: its name, its id where it has none.
func (a *Area) Called() string { return cmp.Or(a.Name, a.ID) }

// Outline of the area on the floor.
func (a *Area) Outline() geometry.Polygon {
	out := make(geometry.Polygon, len(a.Corners))
	for i, c := range a.Corners {
		out[i] = c.Geometry()
	}
	return out
}

// WallIndex finds a wall by id, -1 when there is none.
func (a *Area) WallIndex(id string) int {
	return slices.IndexFunc(a.Walls, func(w Wall) bool { return w.ID == id })
}

// Wall by id, nil when there is none.
func (a *Area) Wall(id string) *Wall {
	if i := a.WallIndex(id); i >= 0 {
		return &a.Walls[i]
	}
	return nil
}

// Frame says how a wall lies on the floor: from Origin along Along, with Inward
// pointing into the area. Length is that of the side.
type Frame struct {
	Origin, Along, Inward geometry.Point
	Length                length.Length
}

// Frame of wall i.
func (a *Area) Frame(i int) Frame {
	e := a.Outline().Edge(i)
	d := e.B.Sub(e.A)
	u := d.Unit()
	return Frame{Origin: e.A, Along: u, Inward: geometry.Point{X: u.Y, Y: -u.X}, Length: length.MM(d.Norm())}
}

// Spot is the point x along the wall and out from it.
func (f Frame) Spot(x, out float64) geometry.Point {
	return f.Origin.Add(f.Along.Mul(x)).Add(f.Inward.Mul(out))
}

// Before is the footprint of what stands from x0 to x1 before the wall and
// reaches deep into the room. Corners run anticlockwise, as those of a rectangle.
func (f Frame) Before(x0, x1, deep float64) geometry.Polygon {
	return geometry.Polygon{f.Spot(x0, deep), f.Spot(x1, deep), f.Spot(x1, 0), f.Spot(x0, 0)}
}

// Coordinates of a point on the floor: along the wall and out from it.
func (f Frame) Coordinates(p geometry.Point) (x, out float64) {
	d := p.Sub(f.Origin)
	return d.Dot(f.Along), d.Dot(f.Inward)
}

// TopAt is the height of the wall at x.
func (w *Wall) TopAt(x length.Length) length.Length {
	p := w.Profile
	for i := 1; i < len(p); i++ {
		if x <= p[i][0] || i == len(p)-1 {
			run := float64(p[i][0] - p[i-1][0])
			share := min(1, max(0, float64(x-p[i-1][0])/run))
			return p[i-1][1] + length.Length(share*float64(p[i][1]-p[i-1][1]))
		}
	}
	return 0
}

// Highest is the highest top of a wall of the area.
func (a *Area) Highest() (top length.Length) {
	for i := range a.Walls {
		for _, p := range a.Walls[i].Profile {
			top = max(top, p[1])
		}
	}
	return top
}

// TopOver is the lowest height of the wall between two spots.
func (w *Wall) TopOver(from, to length.Length) length.Length {
	low := min(w.TopAt(from), w.TopAt(to))
	for _, p := range w.Profile {
		if p[0] > from && p[0] < to {
			low = min(low, p[1])
		}
	}
	return low
}

// SlotCount is the number of slots of a place.
func (p *Place) SlotCount() int {
	n := 0
	for _, r := range p.Slots {
		n += r.N
	}
	return n
}

// SlotAt gives the size of slot i and its left edge.
func (p *Place) SlotAt(i int) (SlotRun, length.Length) {
	var x length.Length
	for _, r := range p.Slots {
		if i < r.N {
			return r, x + length.Length(i)*r.W
		}
		i -= r.N
		x += length.Length(r.N) * r.W
	}
	return SlotRun{}, x
}

// RailPitch is the spacing of a rail's positions.
func (p *Place) RailPitch() length.Length {
	if p.Pitch > 0 {
		return p.Pitch
	}
	return 25 * length.Millimetre
}

// FillFactor is the share of a bin's volume that can be used.
func (p *Place) FillFactor() float64 {
	if p.Fill > 0 {
		return p.Fill
	}
	return 0.6
}

// Number is how many of the item live in this home.
func (h *Home) Number(it *Item) int {
	if h.N > 0 {
		return h.N
	}
	return it.Number()
}

// Holding lists the ways an item can be held: what it says, else what its kind suggests.
func (it *Item) Holding() []Hold {
	if len(it.Hold) > 0 {
		return it.Hold
	}
	switch it.Kind {
	case "board":
		return []Hold{"arms"}
	case "sheet":
		return []Hold{"lean"}
	case "f-clamp", "bar-clamp", "parallel-clamp", "pipe-clamp", "saw", "square", "hammer", "mallet", "jig", "template":
		return []Hold{"hang", "flat"}
	default:
		return []Hold{"flat", "stand"}
	}
}

// Takes tells whether the place offers a way the item can be held.
func (p *Place) Takes(it *Item) bool {
	offers := p.Offers()
	return slices.ContainsFunc(it.Holding(), func(h Hold) bool { return slices.Contains(offers, h) })
}

func sortedKeys[V any](m map[string]V) []string { return slices.Sorted(maps.Keys(m)) }

// Homed is how many pieces of an item have a home.
func (ix *Index) Homed(it *Item) (n int) {
	for _, h := range ix.homes[it.ID] {
		n += h.Number(it)
	}
	return n
}

// Lives is a thing with how many pieces of it live somewhere.
type Lives struct {
	Item *Item
	N    int
}

// LivesIn are the things of which pieces live in places that are meant, in the order of the shop.
func (ix *Index) LivesIn(meant func(*Place) bool) (out []Lives) {
	for i := range ix.shop.Items {
		x := Lives{Item: &ix.shop.Items[i]}
		for _, h := range ix.homes[x.Item.ID] {
			if p := ix.Place(h.Place); p != nil && meant(p) {
				x.N += h.Number(x.Item)
			}
		}
		if x.N > 0 {
			out = append(out, x)
		}
	}
	return out
}

// Within tells whether a place is in a container, or in what is in it.
func (ix *Index) Within(p *Place, container string) bool {
	chain, _ := ix.Chain(&p.At)
	return slices.ContainsFunc(chain, func(c *Container) bool { return c.ID == container })
}

// Loose are how many pieces of an item lie somewhere without a spot of their own.
func (ix *Index) Loose(it *Item) int {
	if it.Lies == "" || !it.Needs() {
		return 0
	}
	return max(0, it.Number()-ix.Homed(it))
}
