package storage

import (
	"cmp"
	"fmt"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
)

// hosts other than a wall, the floor or the ceiling: the backs of doors, the bays
// between bare studs, and places that take a box.

// bestFirst rates spots and orders them: what can be reached before what cannot,
// then by weekly handling; at most so many.
func bestFirst(scenes *scene.Scenes, d *Design, all []Site, most int, out *Sites) (*Sites, error) {
	if len(all) == 0 {
		return out, nil
	}
	if err := rate(scenes, d, all); err != nil {
		return nil, err
	}
	slices.SortStableFunc(all, func(a, b Site) int {
		return cmp.Or(cmp.Compare(len(a.Barred), len(b.Barred)), cmp.Compare(a.Seconds, b.Seconds))
	})
	out.Sites = all[:min(len(all), most)]
	return out, nil
}

// Room a door leaf keeps round what hangs on its back, mm: for its frame and
// handle at the sides, its foot and the lintel.
const (
	besideLeaf = 50.0
	underLeaf  = 150.0
)

// onDoors looks for hinged doors whose back takes a rack.
func onDoors(scenes *scene.Scenes, d *Design) (*Sites, error) {
	m := scenes.Base
	s, out := m.Shop, &Sites{Sites: []Site{}, Nowhere: []Nowhere{}}
	w, h := d.W.MM(), d.H.MM()
	hands := access.BodyOf(s).Elbow + 150
	var all []Site
	for i := range s.Areas {
		a := &s.Areas[i]
		for j := range a.Walls {
			wall := &a.Walls[j]
			doors := 0
			for _, f := range wall.Features {
				if f.Kind.Leaves() == 0 {
					continue
				}
				doors++
				leaf := f.W.MM() / float64(f.Kind.Leaves())
				switch {
				case leaf-2*besideLeaf < w || f.H.MM()-2*underLeaf < h:
					out.Nowhere = append(out.Nowhere, Nowhere{a.ID, wall.ID, fmt.Sprintf("the back of %s takes %s; %s are needed", f.ID, size(leaf-2*besideLeaf, f.H.MM()-2*underLeaf), size(w, h))})
					continue
				case onLeaf(s, m.Index, a, wall.ID, &f):
					out.Nowhere = append(out.Nowhere, Nowhere{a.ID, wall.ID, "something is on the back of " + f.ID + " already"})
					continue
				}
				x := f.X.MM() + (leaf-w)/2
				z := f.Z.MM() + min(f.H.MM()-underLeaf-h, max(underLeaf, hands-h/2))
				spot := Site{Area: a.ID, Wall: wall.ID, X: x, Z: z, Depth: d.D.MM(), Surface: "the back of " + f.ID, Barred: []string{}, Cautions: []string{"not rated: the hinges carry it; a light door needs a third one"}}
				spot.At = shop.At{Wall: wall.ID, X: length.MM(x), Z: length.MM(z)}
				if i > 0 {
					spot.At.Area = a.ID
				}
				if f.Swing == "out" {
					spot.Cautions = append(spot.Cautions, f.ID+" opens outwards: it is got at with the door shut")
				} else {
					spot.Cautions = append(spot.Cautions, fmt.Sprintf("%s opens inwards: it needs %s between it and the wall", f.ID, d.D))
				}
				all = append(all, spot)
			}
			if doors == 0 {
				out.Nowhere = append(out.Nowhere, Nowhere{a.ID, wall.ID, "has no hinged door"})
			}
		}
	}
	return bestFirst(scenes, d, all, mostSpots, out)
}

// onLeaf tells whether something hangs on a door already.
func onLeaf(s *shop.Shop, ix *shop.Index, a *shop.Area, wall string, f *shop.Feature) bool {
	return slices.ContainsFunc(s.Containers, func(c shop.Container) bool {
		return c.Kind.OnDoor() && ix.Area(c.At.Area) == a && c.At.Wall == wall && c.At.X < f.X+f.W && c.At.X+c.W > f.X
	})
}

// betweenStuds looks for bays of bare studs that take a field.
func betweenStuds(scenes *scene.Scenes, space *free.Result, d *Design) (*Sites, error) {
	m := scenes.Base
	s, out := m.Shop, &Sites{Sites: []Site{}, Nowhere: []Nowhere{}}
	w, h := d.W.MM(), d.H.MM()
	var all []Site
	for i := range space.Walls {
		free := &space.Walls[i]
		a := m.Index.Area(free.Area)
		k := a.WallIndex(free.ID)
		wall := &a.Walls[k]
		switch {
		case !free.Claimed:
			out.Nowhere = append(out.Nowhere, Nowhere{free.Area, free.ID, "left alone"})
			continue
		case wall.Surface != "bare-studs":
			out.Nowhere = append(out.Nowhere, Nowhere{free.Area, free.ID, fmt.Sprintf("its studs are not bare (%s)", wall.Surface)})
			continue
		}
		found, widest := len(all), 0.0
		centres := wall.Studs.Centres(a.Frame(k).Length)
		for n := 1; n < len(centres); n++ {
			from, to := (centres[n-1] + wall.Studs.Width/2).MM(), (centres[n] - wall.Studs.Width/2).MM()
			widest = max(widest, to-from)
			if to-from < w-.5 {
				continue
			}
			for _, r := range free.Regions {
				if r.X > from || r.X+r.W < to || r.H < h {
					continue
				}
				for _, z := range levels(r, h, false, s) {
					all = append(all, Site{Area: free.Area, Wall: free.ID, X: from, Z: z, Depth: bayDepth.MM(), Surface: wall.Surface, At: position(s, a, k, from, z, d, false), Barred: []string{}, Cautions: []string{}, Studs: 2})
				}
				break // the largest region with this bay in it
			}
		}
		if len(all) == found {
			out.Nowhere = append(out.Nowhere, Nowhere{free.Area, free.ID, fmt.Sprintf("no bay of %s is free; the widest is %s", size(w, h), length.Whole(widest))})
		}
	}
	return bestFirst(scenes, d, all, mostSpots, out)
}

// onPlaces looks for decks, shelves, floors and cleat fields with room for a box
// beside what lives there.
func onPlaces(m *access.Map, d *Design) ([]Site, []Nowhere) {
	s := m.Shop
	var all []Site
	var nowhere []Nowhere
	for i := range s.Places {
		p := &s.Places[i]
		switch {
		case keeping.Of(p).Bears() == shop.BearsStanding:
		case keeping.Of(p).Bears() == shop.BearsHung && p.Style == "cleat":
		default:
			continue
		}
		area := m.Index.Area(p.At.Area).ID
		if m.Front(i).Area != nil {
			area = m.Front(i).Area.ID
		}
		no := func(format string, args ...any) {
			nowhere = append(nowhere, Nowhere{area, p.ID, fmt.Sprintf(format, args...)})
		}
		if d.D > p.D || d.H > p.H || d.W > p.W {
			no("%s; %s are needed", length.Size(p.W, p.H, p.D), length.Size(d.W, d.H, d.D))
			continue
		}
		if p.Capacity > 0 && d.KG > p.Capacity {
			no("may carry %s; it has %s", p.Capacity, d.KG)
			continue
		}
		t := pack.Thing{W: d.W, H: d.H, D: d.D, N: 1, Clearance: 20 * mm}
		if keeping.Of(p).Form() == keeping.Lying {
			t.H = d.D
		}
		spots := filled(s, m.Index, p).Spots(t, nil)
		if len(spots) == 0 {
			no("no room beside what lives there")
			continue
		}
		// The front of a deck and the lowest rail are got at best; the ends of a row are the same.
		best := slices.MinFunc(spots, func(a, b pack.Spot) int {
			return cmp.Or(cmp.Compare(a.Row, b.Row), cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X))
		})
		if best.Row > 0 {
			no("only behind what stands there")
			continue
		}
		at := shop.At{In: p.ID, X: best.X}
		if keeping.Of(p).Bears() == shop.BearsHung {
			at.Z = best.Y
		} else {
			at.Y = best.Y
		}
		all = append(all, Site{Area: area, On: p.ID, X: at.X.MM(), Y: at.Y.MM(), Z: at.Z.MM(), At: at, Depth: p.D.MM(), Surface: string(p.Kind), Barred: []string{}, Cautions: []string{}})
	}
	return all, nowhere
}

// filled is the space of a place with what lives in it.
func filled(s *shop.Shop, ix *shop.Index, p *shop.Place) pack.Space {
	space := keeping.SpaceIn(s, p, p.H)
	for i := range s.Homes {
		h := &s.Homes[i]
		if it := ix.Item(h.Item); h.Place == p.ID && it != nil {
			space.Put(i, keeping.Thing(p, it, h.Number(it)), keeping.SpotOf(p, h))
		}
	}
	return space
}

// overOpening names the door or window a spot is over, empty when it is over none.
func overOpening(w *shop.Wall, x, z, width float64) string {
	for _, f := range w.Features {
		if f.Kind.Passage() || f.Kind.Lit() {
			if z >= (f.Z+f.H).MM()-1 && x < (f.X+f.W).MM()-1 && x+width > f.X.MM()+1 {
				return f.ID
			}
		}
	}
	return ""
}
