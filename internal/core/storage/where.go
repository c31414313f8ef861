package storage

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/hazard"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
)

// Site where a design can go.
type Site struct {
	Area      string   `json:"area"`
	Wall      string   `json:"wall" doc:"empty under the ceiling and under a bench"`
	Station   string   `json:"station" doc:"bench it goes under"`
	On        string   `json:"on" doc:"place it goes on, at x from its left, y from its front and z up"`
	Over      string   `json:"over" doc:"door or window it is over"`
	Y         float64  `json:"y"`
	At        shop.At  `json:"-"`
	X         float64  `json:"x" doc:"along the wall, mm"`
	Z         float64  `json:"z"`
	Seconds   float64  `json:"seconds" doc:"weekly handling of what it holds, there"`
	Now       float64  `json:"now" doc:"weekly handling of the same things as they live now"`
	Band      string   `json:"band" doc:"how most of it is reached"`
	Studs     int      `json:"studs" doc:"studs behind it"`
	Holes     int      `json:"holes,omitempty" doc:"to fix it by, where few are wanted"`
	Price     float64  `json:"price,omitempty" doc:"what those holes count for, in seconds a week"`
	Surface   string   `json:"surface" doc:"of the wall"`
	Depth     float64  `json:"depth" doc:"how far it may stick out there"`
	Barred    []string `json:"barred" nullable:"false" doc:"things that cannot be reached or lifted there"`
	Cautions  []string `json:"cautions" nullable:"false"`
	FromFloor bool     `json:"from_floor" doc:"it stands on the floor before the wall"`
}

// Nowhere says why a wall takes the design nowhere.
type Nowhere struct {
	Area string `json:"area"`
	Wall string `json:"wall"`
	Why  string `json:"why"`
}

// Sites of a design, best first, and the walls that cannot take it.
type Sites struct {
	Sites   []Site    `json:"sites" nullable:"false"`
	Nowhere []Nowhere `json:"nowhere" nullable:"false"`
}

// onFloor is how low a free region must begin for what stands on the floor.
const onFloor = 30.0

// mostSpots are listed, the best first, at most a few on each wall.
const (
	mostSpots   = 24
	onOneWall   = 6
	sameSpot    = 120.0 // mm: nearer ones are the same to a person
	minStudHits = 2
)

// Where looks for free walls of a mapped shop that take a design, hung or standing before them,
// and ranks them by the weekly handling of what it holds there. The things keep
// their homes meanwhile; the room they take now is not free.
//
// Where few holes are wanted, each costs the estimate hole, and the sites are ranked with it.
func Where(m *access.Map, space *free.Result, d *Design) (*Sites, error) {
	return WhereIn(scene.One(m), space, d)
}

// WhereIn ranks them likewise by the mean over the modes of a shop; what cannot be reached in one of them counts as without a home there.
func WhereIn(scenes *scene.Scenes, space *free.Result, d *Design) (*Sites, error) {
	m := scenes.Base
	out, err := where(scenes, space, d)
	if err != nil || !hung(d) || m.Shop.Settings.Fixing != shop.FewHoles {
		return out, err
	}
	for i := range out.Sites {
		c := &out.Sites[i]
		c.Holes = holes(d, c.Studs)
		c.Price = float64(c.Holes) * m.Estimates.Hole
		c.Cautions = append(c.Cautions, fmt.Sprintf("%d holes, and few are wanted here: ask whose room it is before you drill, and use the ones there are", c.Holes))
	}
	slices.SortStableFunc(out.Sites, func(a, b Site) int {
		return cmp.Or(cmp.Compare(len(a.Barred), len(b.Barred)), cmp.Compare(a.Seconds+a.Price, b.Seconds+b.Price))
	})
	return out, nil
}

// hung tells whether a design is fixed to the building.
func hung(d *Design) bool {
	if d.Container != nil && d.Container.Portable || d.Builder == "under-bench" || d.Builder == "door-back" {
		return false
	}
	return !slices.ContainsFunc(builders, func(b Builder) bool { return b.ID == d.Builder && !b.Hung })
}

// holes that a design is fixed by: one at each stud behind it, two at least, and a second row of them where it is so
// high that one row would let it tip.
func holes(d *Design, studs int) int {
	n := max(2, studs)
	if d.H.MM() > oneRow {
		n *= 2
	}
	return n
}

// oneRow is how high in mm is what one row of screws holds.
const oneRow = 200.0

func where(scenes *scene.Scenes, space *free.Result, d *Design) (*Sites, error) {
	m := scenes.Base
	s := m.Shop
	out := &Sites{Sites: []Site{}, Nowhere: []Nowhere{}}
	stands := slices.ContainsFunc(builders, func(b Builder) bool { return b.ID == d.Builder && !b.Hung })
	if hung(d) && s.Settings.Fixing == shop.NoHoles {
		for _, w := range space.Walls {
			out.Nowhere = append(out.Nowhere, Nowhere{w.Area, w.ID, "nothing may be fixed to the building"})
		}
		return out, nil
	}
	switch d.Builder {
	case "ceiling-rack":
		return underCeiling(scenes, space, d)
	case "under-bench":
		return underBenches(scenes, d)
	case "door-back":
		return onDoors(scenes, d)
	case "stud-bays":
		return betweenStuds(scenes, space, d)
	}
	w, h, deep := d.W.MM(), d.H.MM(), d.D.MM()
	ix := shop.NewIndex(s)
	var all []Site
	if d.Container != nil && d.Container.Portable {
		all, out.Nowhere = onPlaces(m, d)
	}
	for i := range space.Walls {
		wall := &space.Walls[i]
		if !wall.Claimed {
			out.Nowhere = append(out.Nowhere, Nowhere{wall.Area, wall.ID, "left alone"})
			continue
		}
		area := ix.Area(wall.Area)
		k := area.WallIndex(wall.ID)
		found := false
		for _, r := range wall.Regions {
			if r.W < w-.5 || r.H < h-.5 || r.Depth < deep-.5 || stands && r.Z > onFloor {
				continue
			}
			found = true
			for _, x := range along(s, area, k, r, w, d) {
				for _, z := range levels(r, h, stands, s) {
					all = append(all, Site{Area: wall.Area, Wall: wall.ID, X: x, Z: z, Depth: r.Depth, Surface: area.Walls[k].Surface, FromFloor: stands, At: position(s, area, k, x, z, d, stands), Barred: []string{}, Cautions: []string{}})
				}
			}
		}
		if !found {
			out.Nowhere = append(out.Nowhere, Nowhere{wall.Area, wall.ID, tooSmall(wall, w, h, deep, stands)})
		}
	}
	if len(all) == 0 {
		return out, nil
	}
	if err := rate(scenes, d, all); err != nil {
		return nil, err
	}
	for i := range all {
		if all[i].On == "" {
			all[i].behind(ix.Area(all[i].Area), w, h)
		}
	}
	slices.SortStableFunc(all, func(a, b Site) int {
		return cmp.Or(cmp.Compare(len(a.Barred), len(b.Barred)), cmp.Compare(a.Seconds, b.Seconds), cmp.Compare(b.Studs, a.Studs))
	})
	onWall := map[string]int{}
	for _, c := range all {
		near := slices.ContainsFunc(out.Sites, func(o Site) bool {
			return o.On == "" && o.Area == c.Area && o.Wall == c.Wall && math.Abs(o.X-c.X) < sameSpot && math.Abs(o.Z-c.Z) < sameSpot
		})
		if c.On == "" && near || onWall[c.Area+" "+c.Wall] >= onOneWall || len(out.Sites) >= mostSpots {
			continue
		}
		onWall[c.Area+" "+c.Wall]++
		out.Sites = append(out.Sites, c)
	}
	return out, nil
}

// underCeiling looks for zones under the ceilings that take a deck: at their
// corners, in their middle and over each station.
func underCeiling(scenes *scene.Scenes, space *free.Result, d *Design) (*Sites, error) {
	m := scenes.Base
	s, out := m.Shop, &Sites{Sites: []Site{}, Nowhere: []Nowhere{}}
	w, h, deep := d.W.MM(), d.H.MM(), d.D.MM()
	var all []Site
	for i := range space.Ceilings {
		c := &space.Ceilings[i]
		widest := free.Zone{}
		for _, z := range c.Zones {
			if z.W*z.D > widest.W*widest.D {
				widest = z
			}
			if z.W < w-.5 || z.D < deep-.5 || z.Drop < h-.5 {
				continue
			}
			xs, ys := []float64{z.X, z.X + z.W - w, z.X + (z.W-w)/2}, []float64{z.Y, z.Y + z.D - deep, z.Y + (z.D-deep)/2}
			for k := range s.Stations {
				if st := &s.Stations[k]; st.Area == "" || st.Area == c.Area {
					xs = append(xs, min(z.X+z.W-w, max(z.X, st.Stand[0].MM()-w/2)))
					ys = append(ys, min(z.Y+z.D-deep, max(z.Y, st.Stand[1].MM()-deep/2)))
				}
			}
			for _, x := range apart(xs) {
				for _, y := range apart(ys) {
					at := shop.At{Area: c.Area, Ceiling: &shop.Point{length.MM(x), length.MM(y)}, Z: length.MM(z.Low + z.Drop - h)}
					if c.Area == s.Areas[0].ID {
						at.Area = ""
					}
					spot := Site{Area: c.Area, X: x, Z: at.Z.MM(), At: at, Depth: z.Drop, Surface: "ceiling", Barred: []string{}, Cautions: []string{"not rated: joists and fixings must be judged by a qualified person; mind what is under it"}}
					for _, j := range z.Joists {
						if z.Along == "x" && j >= y && j <= y+deep || z.Along == "y" && j >= x && j <= x+w {
							spot.Studs++
						}
					}
					if spot.Studs < minStudHits {
						spot.Cautions = append(spot.Cautions, studsSay(spot.Studs)+" over it (joists): it needs two at least")
					}
					all = append(all, spot)
				}
			}
		}
		if len(all) == 0 {
			out.Nowhere = append(out.Nowhere, Nowhere{c.Area, "ceiling", fmt.Sprintf("%s are free, %s down; %s are needed", size(widest.W, widest.D), length.Whole(widest.Drop), size(w, deep, h))})
		}
	}
	if len(all) == 0 {
		return out, nil
	}
	if len(all) > 120 {
		all = all[:120]
	}
	if err := rate(scenes, d, all); err != nil {
		return nil, err
	}
	slices.SortStableFunc(all, func(a, b Site) int {
		return cmp.Or(cmp.Compare(len(a.Barred), len(b.Barred)), cmp.Compare(a.Seconds, b.Seconds), cmp.Compare(b.Studs, a.Studs))
	})
	for _, c := range all {
		near := slices.ContainsFunc(out.Sites, func(o Site) bool {
			return o.Area == c.Area && math.Abs(o.X-c.X) < 3*sameSpot && math.Abs(o.At.Ceiling[1].MM()-c.At.Ceiling[1].MM()) < 3*sameSpot
		})
		if !near && len(out.Sites) < onOneWall {
			out.Sites = append(out.Sites, c)
		}
	}
	return out, nil
}

// underTop is what a bench has above its void: top and apron, in mm.
const underTop = 90.0

// underBenches looks for benches under which a chest fits, beside what is part
// of them already.
func underBenches(scenes *scene.Scenes, d *Design) (*Sites, error) {
	m := scenes.Base
	s, out := m.Shop, &Sites{Sites: []Site{}, Nowhere: []Nowhere{}}
	w, h, deep := d.W.MM(), d.H.MM(), d.D.MM()
	var all []Site
	for i := range s.Stations {
		st := &s.Stations[i]
		area := m.Index.Area(st.Area).ID
		if !st.Kind.Bench() {
			continue
		}
		if st.W.MM() < w || st.D.MM() < deep || st.H.MM()-underTop < h {
			out.Nowhere = append(out.Nowhere, Nowhere{area, st.Name, fmt.Sprintf("%s are under it; %s are needed", size(st.W.MM(), st.H.MM()-underTop, st.D.MM()), size(w, h, deep))})
			continue
		}
		found := false
		for _, x := range []float64{0, (st.W.MM() - w) / 2, st.W.MM() - w} {
			if takenUnder(s, st.ID, x, w, h) {
				continue
			}
			found = true
			all = append(all, Site{Area: area, Station: st.ID, X: x, At: shop.At{Station: st.ID, X: length.MM(x)}, Depth: st.D.MM(), Barred: []string{}, Cautions: []string{}})
		}
		if !found {
			out.Nowhere = append(out.Nowhere, Nowhere{area, st.Name, "something is under it already"})
		}
	}
	return bestFirst(scenes, d, all, onOneWall, out)
}

// takenUnder tells whether a part of a station is where a chest of that width
// would go, from the floor up to its height.
func takenUnder(s *shop.Shop, station string, x, w, h float64) bool {
	over := func(at *shop.At, width, high length.Length) bool {
		return at.Station == station && at.X.MM() < x+w-1 && at.X.MM()+width.MM() > x+1 && at.Z.MM() < h
	}
	for i := range s.Places {
		if p := &s.Places[i]; over(&p.At, p.W, p.H) {
			return true
		}
	}
	for i := range s.Containers {
		if c := &s.Containers[i]; over(&c.At, c.W, c.H) {
			return true
		}
	}
	return false
}

// apart sorts values and leaves out those next to another.
func apart(v []float64) []float64 {
	slices.Sort(v)
	out := v[:1:1]
	for _, x := range v[1:] {
		if x-out[len(out)-1] >= sameSpot {
			out = append(out, x)
		}
	}
	return out
}

// along are places along a region worth trying: its ends, its middle, and level
// with the stations where the things are used.
func along(s *shop.Shop, a *shop.Area, wall int, r free.Region, w float64, d *Design) []float64 {
	low, high := r.X, r.X+r.W-w
	xs := []float64{low, high, (low + high) / 2}
	f := a.Frame(wall)
	for i := range s.Stations {
		st := &s.Stations[i]
		if st.Area != "" && st.Area != a.ID {
			continue
		}
		p := st.Stand.Geometry().Sub(f.Origin)
		xs = append(xs, min(high, max(low, p.Dot(f.Along)-w/2)))
	}
	return apart(xs)
}

// levels worth trying: the ends of the region, and with its middle where the
// hands are.
func levels(r free.Region, h float64, stands bool, s *shop.Shop) []float64 {
	if stands {
		return []float64{0}
	}
	low, high := r.Z, r.Z+r.H-h
	hands := access.BodyOf(s).Elbow + 150
	zs := []float64{low, high, min(high, max(low, hands-h/2))}
	slices.Sort(zs)
	return slices.Compact(zs)
}

// position of a design in the shop.
func position(s *shop.Shop, a *shop.Area, wall int, x, z float64, d *Design, stands bool) shop.At {
	at := shop.At{Area: a.ID}
	if a == &s.Areas[0] || a.ID == s.Areas[0].ID {
		at.Area = ""
	}
	if !stands {
		at.Wall, at.X, at.Z = a.Walls[wall].ID, length.MM(x), length.MM(z)
		return at
	}
	f := a.Frame(wall)
	mid := f.Spot(x+d.W.MM()/2, d.D.MM()/2)
	corner := shop.Point{length.MM(mid.X - d.W.MM()/2), length.MM(mid.Y - d.D.MM()/2)}
	at.Floor = &corner
	// At 0 its front looks down; it looks into the room.
	at.Rot = math.Round(math.Atan2(f.Inward.Y, f.Inward.X)*180/math.Pi + 90)
	if at.Rot > 180 {
		at.Rot -= 360
	}
	return at
}

// tooSmall says what a wall has at most.
func tooSmall(wall *free.Wall, w, h, deep float64, stands bool) string {
	best := free.Region{}
	for _, r := range wall.Regions {
		if stands && r.Z > onFloor {
			continue
		}
		if min(r.W/w, 1)*min(r.H/h, 1)*min(r.Depth/deep, 1) > min(best.W/w, 1)*min(best.H/h, 1)*min(best.Depth/deep, 1) {
			best = r
		}
	}
	if best.W == 0 {
		return "nothing is free there"
	}
	why := fmt.Sprintf("%s are free, %s deep; %s are needed", size(best.W, best.H), length.Whole(best.Depth), size(w, h, deep))
	if best.Depth < deep && best.Out.Says != "" {
		why += ": " + best.Out.Says
	}
	return why
}

// behind counts the studs behind a spot, and says what to mind of the wall.
func (c *Site) behind(a *shop.Area, w, h float64) {
	i := a.WallIndex(c.Wall)
	c.Over = overOpening(&a.Walls[i], c.X, c.Z, w)
	c.Studs += a.StudsBehind(i, c.X, c.X+w)
	if c.FromFloor {
		return
	}
	switch c.Surface {
	case "timber":
	case "drywall", "plaster", "plywood", "boards", "bare-studs":
		if c.Studs < minStudHits {
			c.Cautions = append(c.Cautions, studsSay(c.Studs)+" behind it: not rated, it needs two at least or an anchor's own rating")
		}
	default:
		c.Cautions = append(c.Cautions, "not rated: the anchor's own rating for this wall decides")
	}
}

func studsSay(n int) string {
	if n == 1 {
		return "one stud"
	}
	return fmt.Sprintf("%d studs", n)
}

// rate works out the weekly handling of what a design holds at each spot. All of
// them are hung into one copy of the shop at once: they do not know of each other.
func rate(scenes *scene.Scenes, d *Design, all []Site) error {
	now := scenes.Base
	s := now.Shop
	try := *s
	try.Homes, try.Places, try.Containers = nil, slices.Clone(s.Places), slices.Clone(s.Containers)
	known := map[string]int{}
	for i := range s.Items {
		known[s.Items[i].ID] = i
	}
	for i := range all {
		for _, p := range d.Places {
			c := p
			c.ID = fmt.Sprintf("%d %s", i, p.ID)
			c.At = shop.At{Area: all[i].Area, Wall: all[i].Wall, X: length.MM(all[i].X) + p.At.X, Z: length.MM(all[i].Z) + p.At.Z}
			if all[i].At.Ceiling != nil {
				c.At = all[i].At
			}
			if all[i].Station != "" {
				c.At = shop.At{Station: all[i].Station, X: all[i].At.X + p.At.X, Z: all[i].At.Z + p.At.Z}
			}
			if all[i].On != "" {
				c.At = shop.At{In: boxAt(&try, d.Container, i, &all[i].At), X: p.At.X, Z: p.At.Z}
			}
			if p.At.Face != "" && all[i].At.Floor != nil {
				c.At = shop.At{In: boxAt(&try, d.Container, i, &all[i].At), X: p.At.X, Z: p.At.Z, Face: p.At.Face}
			}
			if d.Container != nil && d.Container.Access != "" {
				c.Access = d.Container.Access
			}
			try.Places = append(try.Places, c)
		}
	}
	then, err := scenes.Of(&try)
	if err != nil {
		return err
	}
	m := then.Base
	before := 0.0
	uses := make([]access.Use, len(d.Homes))
	counted := map[string]bool{} // pieces of an item may have several homes
	for k := range d.Homes {
		i, ok := known[d.Homes[k].Item]
		if !ok {
			return fmt.Errorf("there is no item %q", d.Homes[k].Item)
		}
		uses[k] = m.UseOf(&s.Items[i])
		if !counted[d.Homes[k].Item] {
			counted[d.Homes[k].Item] = true
			before += asItIs(now, &s.Items[i])
		}
	}
	for i := range all {
		c := &all[i]
		c.Now = before
		bands := map[string]float64{}
		for k := range d.Homes {
			h := &d.Homes[k]
			u := &uses[k]
			place := m.PlaceNumber(fmt.Sprintf("%d %s", i, h.Place))
			g := keeping.GripOf(&try.Places[place], u.Item, h)
			share := float64(h.Number(u.Item)) / float64(u.Item.Number())
			t, ok := then.Weekly(u, place, g, h.Row)
			band, _ := m.Band(u, place, g)
			v := then.Lift(u, place, g)
			switch {
			case !ok:
				c.bar(u.Item.Name + ": out of reach")
				t = m.Estimates.Homeless * u.Rate
			case v.Barred:
				c.bar(u.Item.Name + ": " + v.Why)
			case v.Caution:
				c.Cautions = append(c.Cautions, u.Item.Name+": "+v.Why)
			}
			if slices.Contains(u.Item.Flags, "child") {
				if z := try.Places[place].At.Z.MM() + g.Z; z < hazard.ChildReach(s) && (d.Container == nil || !d.Container.Lockable) {
					c.Cautions = append(c.Cautions, u.Item.Name+": a child reaches it there")
				}
			}
			c.Seconds += t * share
			bands[band.String()] += u.Rate * share
		}
		for b, n := range bands {
			if c.Band == "" || n > bands[c.Band] || n == bands[c.Band] && b < c.Band {
				c.Band = b
			}
		}
		if len(c.Cautions) > 4 {
			c.Cautions = append(c.Cautions[:4], fmt.Sprintf("and %d more", len(c.Cautions)-4))
		}
	}
	return nil
}

// boxAt puts a copy of a design's container at spot i, once, and gives its id.
func boxAt(s *shop.Shop, c *shop.Container, i int, at *shop.At) string {
	id := fmt.Sprintf("%d %s", i, c.ID)
	if n := len(s.Containers); n == 0 || s.Containers[n-1].ID != id {
		b := *c
		b.ID, b.At = id, *at
		s.Containers = append(s.Containers, b)
	}
	return id
}

func (c *Site) bar(why string) {
	if len(c.Barred) < 12 {
		c.Barred = append(c.Barred, why)
	}
}

// asItIs is the weekly handling of an item as it lives.
func asItIs(m *access.Map, it *shop.Item) float64 {
	u := m.UseOf(it)
	rest, sum := it.Number(), 0.0
	for _, h := range m.Index.Homes(it.ID) {
		place := m.PlaceNumber(h.Place)
		n := h.Number(it)
		if t, ok := m.Weekly(&u, place, keeping.GripOf(m.Index.Place(h.Place), it, h), h.Row); ok {
			sum += t * float64(n) / float64(it.Number())
			rest -= n
		}
	}
	return sum + m.Estimates.Homeless*it.UsesPerWeek*float64(rest)/float64(it.Number())
}

// size of what is free or needed, in mm, within a sentence.
func size(mm ...float64) string {
	sides := make([]length.Length, len(mm))
	for i, v := range mm {
		sides[i] = length.MM(v)
	}
	return length.Size(sides...)
}
