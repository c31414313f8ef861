package storage

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
)

// State puts storage that is there into the shop, empty, where it is said to be or where there is room for it, and gives its
// address. Blocked is what is in its way where it is said exactly: a room may be as it is. What cannot be is an error.
func State(s *shop.Shop, r note.PlaceReading) (id, blocked string, err error) {
	at, w, h, d := shop.At{}, length.Length(0), length.Length(0), length.Length(0)
	if c := r.Container; c != nil {
		w, h, d = c.W, c.H, c.D
	} else {
		p := &r.Places[0]
		w, h, d = p.W, p.H, p.D
	}
	area := &s.Areas[0]
	switch {
	case r.Container == nil && r.Places[0].Kind == "deck":
		if at, err = statedUnderCeiling(s, area, r, w, h, d); err != nil {
			return "", "", err
		}
	case r.On != "" && r.Container != nil && shop.NewIndex(s).Place(r.On) != nil:
		at = shop.At{In: r.On}
	case r.Under != "":
		if at, err = statedUnder(s, r, w, h, d); err != nil {
			return "", "", err
		}
	case len(r.Heights) > 0:
		if at, err = statedOnWall(s, area, r, w, h); err != nil {
			return "", "", err
		}
	default:
		st := shop.Station{Name: "it", Kind: "wardrobe", W: w, D: d, H: h} // stands there, and nobody works at it
		wish := r.Where
		wish.Anyhow = true
		placed, in, err := floor.Put(s, st, wish)
		if err != nil {
			return "", "", err
		}
		if in != nil {
			blocked = in.Says
		}
		at = shop.At{Floor: &shop.Point{placed.X, placed.Y}, Rot: placed.Rot}
	}
	id = Address(s, at)
	places := slices.Clone(r.Places)
	if c := r.Container; c != nil {
		unit := *c
		unit.ID, unit.At = id, at
		s.Containers = append(s.Containers, unit)
		for i := range places {
			places[i].ID, places[i].At.In = fmt.Sprintf("%s-%d", id, i+1), id
		}
	} else {
		places[0].ID, places[0].At = id, at
	}
	s.Places = append(s.Places, places...)
	return id, blocked, nil
}

// statedOnWall is where something hangs: from the left as it was said, over a station, or where the wall is free.
func statedOnWall(s *shop.Shop, area *shop.Area, r note.PlaceReading, w, h length.Length) (shop.At, error) {
	z := r.Heights[0]
	wall, from := r.Where.Wall, r.Where.From
	if st := shop.NewIndex(s).Station(r.On); st != nil {
		// The wall behind it, its middle over the middle of the station.
		mid := geometry.Point{X: (st.X + st.W/2).MM(), Y: (st.Y + st.D/2).MM()}
		best := 0
		for i := range area.Walls {
			if area.Outline().Edge(i).Distance(mid) < area.Outline().Edge(best).Distance(mid) {
				best = i
			}
		}
		along, _ := area.Frame(best).Coordinates(mid)
		x := length.MM(min(max(0, along-w.MM()/2), max(0, area.Frame(best).Length.MM()-w.MM())))
		wall, from = area.Walls[best].ID, &x
		z = max(z, st.H+300*length.Millimetre)
	}
	k := area.WallIndex(wall)
	if k < 0 {
		return shop.At{}, fmt.Errorf("say on which wall it hangs, and how far from its left end: wall B 1.2")
	}
	if from == nil {
		m, err := access.NewMap(s)
		if err != nil {
			return shop.At{}, err
		}
		x, up, ok := freeOnWall(m, area.ID, wall, w, h, z, r.Usual)
		if !ok {
			return shop.At{}, fmt.Errorf("wall %s has no free %s × %s at that height; say where it hangs: wall %s 1.2", wall, w, h, wall)
		}
		from, z = &x, up
	}
	long := area.Frame(k).Length
	if *from+w > long {
		return shop.At{}, fmt.Errorf("%s from %s would reach past the end of wall %s, which is %s long", w, *from, wall, long)
	}
	if top := area.Walls[k].TopOver(*from, *from+w); z+h > top {
		return shop.At{}, fmt.Errorf("at %s and %s high it would reach up to %s, but wall %s is %s high there", z, h, z+h, wall, top)
	}
	return shop.At{Wall: wall, X: *from, Z: z}, nil
}

// freeOnWall is where a wall is free for w × h at a height, and how high that is: the first of its free stretches, or where the
// height may be another the one nearest to it.
func freeOnWall(m *access.Map, area, wall string, w, h, z length.Length, another bool) (x, up length.Length, ok bool) {
	off := math.Inf(1)
	for _, f := range free.Of(m).Walls {
		if f.Area != area || f.ID != wall {
			continue
		}
		for _, g := range f.Regions {
			at := min(max(z.MM(), g.Z), g.Z+g.H-h.MM())
			far := math.Abs(at - z.MM())
			if far <= 1 {
				at, far = z.MM(), 0
			}
			if g.W < w.MM() || g.H < h.MM()-1 || far >= off || far > 0 && !another {
				continue
			}
			x, up, ok, off = length.MM(g.X), length.MM(at), true, far
		}
	}
	return x, up, ok
}

// statedUnder is where something is under the top of a station: beside what is there already, from the left.
func statedUnder(s *shop.Shop, r note.PlaceReading, w, h, d length.Length) (shop.At, error) {
	st := shop.NewIndex(s).Station(r.Under)
	if st == nil {
		return shop.At{}, fmt.Errorf("there is no station %q", r.Under)
	}
	if h > st.H || d > st.D {
		return shop.At{}, fmt.Errorf("%s high and %s deep does not go under %s, which is %s high and %s deep", h, d, st.Name, st.H, st.D)
	}
	type stretch struct{ from, to length.Length }
	var taken []stretch
	for i := range s.Containers {
		if c := &s.Containers[i]; c.At.Station == st.ID {
			taken = append(taken, stretch{c.At.X, c.At.X + c.W})
		}
	}
	for i := range s.Places {
		if p := &s.Places[i]; p.At.Station == st.ID {
			taken = append(taken, stretch{p.At.X, p.At.X + p.W})
		}
	}
	slices.SortFunc(taken, func(a, b stretch) int { return int(a.from - b.from) })
	x := length.Length(0)
	for _, t := range taken {
		if t.from >= x+w {
			break
		}
		x = max(x, t.to)
	}
	if x+w > st.W {
		return shop.At{}, fmt.Errorf("under %s only %s of its %s are free; %s needs more", st.Name, st.W-x, st.W, w)
	}
	return shop.At{Station: st.ID, X: x}, nil
}

// statedUnderCeiling is where a rack hangs: in the middle of the room as far as that is free, so low as was said.
func statedUnderCeiling(s *shop.Shop, area *shop.Area, r note.PlaceReading, w, h, d length.Length) (shop.At, error) {
	low, high := area.Outline().Bounds()
	if w.MM() > high.X-low.X || d.MM() > high.Y-low.Y {
		return shop.At{}, fmt.Errorf("%s × %s is larger than the room", w, d)
	}
	lowest := area.Highest()
	for _, wall := range area.Walls {
		for _, p := range wall.Profile {
			lowest = min(lowest, p[1])
		}
	}
	z := lowest - max(h, r.Drop)
	if z < length.Metre {
		return shop.At{}, fmt.Errorf("%s below the ceiling would be only %s above the floor", max(h, r.Drop), z)
	}
	x, y := length.MM((low.X+high.X)/2)-w/2, length.MM((low.Y+high.Y)/2)-d/2
	return shop.At{Ceiling: &shop.Point{x, y}, Z: z}, nil
}

// Sizes of the floor before a wall that things are said to stand on, until it is drawn otherwise.
const (
	floorWide = 1200 * length.Millimetre
	floorDeep = 600 * length.Millimetre
	floorHigh = 1500 * length.Millimetre
)

// FloorAt gives the place on the floor before a wall, and makes it where there is none yet: where that wall is most free.
func FloorAt(s *shop.Shop, wall string) (id string, err error) {
	name := line.FloorName(wall)
	for i := range s.Places {
		if p := &s.Places[i]; p.Kind == "floor" && p.Name == name {
			return p.ID, nil
		}
	}
	w := floorWide
	if k := s.Areas[0].WallIndex(wall); k >= 0 {
		w = min(w, s.Areas[0].Frame(k).Length)
	}
	p := shop.Place{Kind: "floor", Name: name, W: w, D: floorDeep, H: floorHigh}
	id, _, err = State(s, note.PlaceReading{Places: []shop.Place{p}, Where: floor.Wish{Wall: wall}})
	return id, err
}
