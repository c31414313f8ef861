// Package newroom carries a shop over into another room: stations and storage are put where they go there, what lives in what comes along
// stays in it, and what no longer fits is named, with what has to be split for a door, what is packed how, and what stays behind or has
// to be undone. Lengths are millimetres as floats, weights kilograms.
package newroom

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/free"
	"hobrak/internal/core/length"
	"hobrak/internal/core/passage"
	"hobrak/internal/core/shop"
)

// Options of a move.
type Options struct {
	// Stays are ids of containers and places that belong to the building or the landlord.
	Stays []string
	// Van is the inside of what it is carried in, mm; nothing is asked of it when it is zero.
	Van [3]float64
	// Stair is the clear width of a stair and of the landing on which it turns, mm; nothing is asked of it when it is zero.
	Stair [2]float64
}

// Moved is a shop in another room.
type Moved struct {
	Came      []string `json:"came" nullable:"false" doc:"names of stations and storage that have a spot there"`
	Left      []Lost   `json:"left" nullable:"false" doc:"what has none, with the reason and what lived in it"`
	Homeless  int      `json:"homeless" doc:"things that lost their home by that"`
	Unreached int      `json:"unreached" doc:"homes that came along and that nobody gets at there: their things have none"`
	Kept      int      `json:"kept" doc:"things that live where they did"`
	Found     int      `json:"found" doc:"things without a home for which a free spot was found there"`
	Open      float64  `json:"open" doc:"m² of the largest free rectangle of floor there"`
	OpenWas   float64  `json:"open_was"`
	Wall      float64  `json:"wall" doc:"m² of free wall there"`
	WallWas   float64  `json:"wall_was"`
	Packs     []Pack   `json:"packs" nullable:"false" doc:"unit by unit, what is needed first last, so that it comes out of the van first"`
	Wishes    []string `json:"wishes" nullable:"false" doc:"names of stations that were wished for and waited for the next room"`
	Undo      []string `json:"undo" nullable:"false" doc:"what is screwed to the building and stays or is made good"`
	Relics    []Relic  `json:"relics" nullable:"false" doc:"storage that is hardly worth its room, the worst first"`
	// Shop as it would be in the new room.
	Shop *shop.Shop `json:"-"`
}

// Lost is what has no spot.
type Lost struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Why    string `json:"why"`
	Things int    `json:"things" doc:"lines that lived in it"`
}

// Pack is a unit to be packed.
type Pack struct {
	Box     int     `json:"box" doc:"its number; the last loaded is 1"`
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	KG      float64 `json:"kg" doc:"with what is in it"`
	Empty   float64 `json:"empty" doc:"kg of it alone"`
	Fragile int     `json:"fragile" doc:"lines in it that break"`
	Care    string  `json:"care" doc:"what to do before it is carried"`
	Uses    float64 `json:"uses" doc:"a week of what is in it: what is needed first"`
	Door    string  `json:"door" enum:",goes,split" doc:"through the doors of both rooms in one piece, or to be split"`
	Van     string  `json:"van" enum:",goes,stuck" doc:"into the van"`
	Stair   string  `json:"stair" enum:",goes,stuck" doc:"up the stair and round its landing"`
}

// Relic is storage set against what is in it.
type Relic struct {
	ID   string  `json:"id"`
	Name string  `json:"name"`
	M2   float64 `json:"m2" doc:"of wall or floor it takes"`
	Uses float64 `json:"uses" doc:"a week of what is in it"`
	Says string  `json:"says"`
}

const twoCarry = 50.0 // kg, two people (the British HSE's guideline for one, twice)

// Into another room: area is measured, the first of a shop, whose own id is kept for it. The error says why nothing can be moved there.
func Into(s *shop.Shop, area *shop.Area, o Options) (*Moved, error) {
	if len(s.Areas) == 0 {
		return nil, fmt.Errorf("there is no room to move out of yet")
	}
	m := &Moved{Came: []string{}, Left: []Lost{}, Packs: []Pack{}, Undo: []string{}, Wishes: []string{}, Relics: []Relic{}}
	ix := shop.NewIndex(s)
	m.OpenWas, m.WallWas = figures(s)
	n := s.Clone()
	fresh := *area
	fresh.ID = s.Areas[0].ID
	n.Areas, n.Circuits, n.Modes, n.Targets = []shop.Area{fresh}, nil, nil, nil
	n.Settings.Mode, n.Settings.Target, n.Settings.Strips = "", "", nil
	n.Stations, n.Containers, n.Places, n.Homes = nil, nil, nil, nil
	mv := &mover{s: s, ix: ix, n: n, m: m, o: o, gone: map[string]bool{}}
	mv.stations()
	mv.containers()
	mv.places()
	mv.homes()
	m.Shop = n
	if err := n.Validate(); err != nil {
		return nil, err
	}
	if err := mv.reached(); err != nil {
		return nil, err
	}
	found, err := fit.Rehome(n)
	if err != nil {
		return nil, err
	}
	m.Found = found
	m.Open, m.Wall = figures(n)
	for i := range s.Stations {
		if st := &s.Stations[i]; st.Wished != "" && st.When == "next-room" {
			m.Wishes = append(m.Wishes, st.Name)
		}
	}
	m.packs(s, ix, area, o)
	m.relics(s, ix)
	return m, nil
}

// figures of the first room: free floor and free wall, m².
func figures(s *shop.Shop) (open, wall float64) {
	f := floor.OpenFloor(s, &s.Areas[0])
	if m, err := access.NewMap(s); err == nil {
		wall = free.Of(m).Totals.Wall
	}
	return f.W * f.D / 1e6, wall
}

type mover struct {
	s    *shop.Shop
	ix   *shop.Index
	n    *shop.Shop
	m    *Moved
	o    Options
	gone map[string]bool // stations, containers and places that do not come
}

func (v *mover) lose(id, name, why string) {
	v.gone[id] = true
	v.m.Left = append(v.m.Left, Lost{ID: id, Name: name, Why: why})
}

// room is the new one; it moves as the shop's lists grow.
func (v *mover) room() *shop.Area { return &v.n.Areas[0] }

func (v *mover) stations() {
	var list []shop.Station
	for _, st := range v.s.Stations {
		st.Area, st.Outlet = v.room().ID, ""
		if slices.Contains(v.o.Stays, st.ID) {
			v.lose(st.ID, st.Name, "it stays behind")
			continue
		}
		list = append(list, st)
	}
	placed, homeless, err := floor.Arrange(v.n, v.room(), list)
	if err != nil {
		placed = nil
		for i := range list {
			homeless = append(homeless, list[i].Name)
		}
	}
	for _, st := range placed {
		st.Placed = ""
		v.n.Stations = append(v.n.Stations, st)
		v.m.Came = append(v.m.Came, st.Name)
	}
	for i := range list {
		if !slices.ContainsFunc(placed, func(x shop.Station) bool { return x.ID == list[i].ID }) {
			v.lose(list[i].ID, list[i].Name, "no floor is free there for it with room to stand and walk")
		}
	}
}

// onFloor finds a spot for what stands on the floor and is no station.
func (v *mover) onFloor(w, d, h length.Length) (*shop.Point, float64, bool) {
	st := shop.Station{ID: "moving", Name: "moving", Kind: "wardrobe", Area: v.room().ID, W: w, D: d, H: max(h, 100)}
	at, _, err := floor.Put(v.n, st, floor.Wish{})
	if err != nil {
		return nil, 0, false
	}
	return &shop.Point{at.X, at.Y}, at.Rot, true
}

// onWall finds a spot for what hangs: in free wall that is deep enough, as near as can be to the height it hung at.
func (v *mover) onWall(w, h, d, z length.Length) (shop.At, bool) {
	m, err := access.NewMap(v.n)
	if err != nil {
		return shop.At{}, false
	}
	var best shop.At
	least := math.Inf(1)
	for _, wall := range free.Of(m).Walls {
		for _, r := range wall.Regions {
			if !wall.Claimed || r.W < w.MM()-1 || r.H < h.MM()-1 || r.Depth < d.MM()-1 {
				continue
			}
			at := min(max(z.MM(), r.Z), r.Z+r.H-h.MM())
			if off := math.Abs(at - z.MM()); off < least {
				least, best = off, shop.At{Area: v.room().ID, Wall: wall.ID, X: length.MM(math.Ceil(r.X)), Z: length.MM(math.Ceil(max(0, at)))}
			}
		}
	}
	return best, !math.IsInf(least, 1)
}

func (v *mover) containers() {
	list := slices.Clone(v.s.Containers)
	// Outer ones first, large ones first.
	slices.SortStableFunc(list, func(a, b shop.Container) int {
		return cmp.Or(cmp.Compare(v.depth(&a.At), v.depth(&b.At)), cmp.Compare(b.W.MM()*b.D.MM(), a.W.MM()*a.D.MM()))
	})
	for _, c := range list {
		name := v.ix.Name(c.ID)
		c.Area = v.room().ID
		switch at := c.At; {
		case slices.Contains(v.o.Stays, c.ID):
			v.lose(c.ID, name, "it stays behind")
			continue
		case at.In != "" || at.Station != "":
			if v.gone[at.In] || v.gone[at.Station] {
				v.lose(c.ID, name, "what it was in or part of does not come")
				continue
			}
		case at.Wall != "":
			spot, ok := v.onWall(c.W, c.H, c.D, at.Z)
			if !ok {
				v.lose(c.ID, name, "no free wall there is large and deep enough")
				continue
			}
			c.At, c.Fixing = spot, nil
		case at.Floor != nil:
			spot, rot, ok := v.onFloor(c.W, c.D, c.H)
			if !ok {
				v.lose(c.ID, name, "no floor is free there for it")
				continue
			}
			c.At.Floor, c.At.Rot, c.At.Area = spot, rot, v.room().ID
		case at.Ceiling != nil:
			v.lose(c.ID, name, "it hangs from the ceiling: its spot there is for you to say")
			continue
		}
		v.n.Containers = append(v.n.Containers, c)
		if v.n.Validate() != nil {
			v.n.Containers = v.n.Containers[:len(v.n.Containers)-1]
			v.lose(c.ID, name, "it does not go where there was room for it: say its spot yourself")
			continue
		}
		v.m.Came = append(v.m.Came, name)
	}
}

// depth is in how many others something is.
func (v *mover) depth(at *shop.At) int {
	chain, _ := v.ix.Chain(at)
	return len(chain)
}

func (v *mover) places() {
	for _, p := range v.s.Places {
		name := v.ix.Name(p.ID)
		chain, root := v.ix.Chain(&p.At)
		switch {
		case slices.Contains(v.o.Stays, p.ID):
			v.lose(p.ID, name, "it stays behind")
			continue
		case slices.ContainsFunc(chain, func(c *shop.Container) bool { return v.gone[c.ID] }) || v.gone[root.Station]:
			v.gone[p.ID] = true // what it is in is named
			continue
		case len(chain) > 0 || root.Station != "" || p.At.Away:
		case p.At.Wall != "":
			spot, ok := v.onWall(p.W, p.H, p.D, p.At.Z)
			if !ok {
				v.lose(p.ID, name, "no free wall there is large and deep enough")
				continue
			}
			p.At, p.Fixing = spot, nil
		case p.At.Floor != nil:
			spot, rot, ok := v.onFloor(p.W, p.D, p.H)
			if !ok {
				v.lose(p.ID, name, "no floor is free there for it")
				continue
			}
			p.At.Floor, p.At.Rot, p.At.Area = spot, rot, v.room().ID
		default:
			v.lose(p.ID, name, "its spot there is for you to say")
			continue
		}
		p.When = nil
		v.n.Places = append(v.n.Places, p)
		if v.n.Validate() != nil {
			v.n.Places = v.n.Places[:len(v.n.Places)-1]
			v.lose(p.ID, name, "it does not go where there was room for it: say its spot yourself")
			continue
		}
		if len(chain) == 0 && root.Station == "" {
			v.m.Came = append(v.m.Came, name)
		}
	}
}

// homes that are where they were; who lost one is counted, and by what.
func (v *mover) homes() {
	nix := shop.NewIndex(v.n)
	for _, h := range v.s.Homes {
		if nix.Place(h.Place) != nil {
			v.n.Homes = append(v.n.Homes, h)
			v.m.Kept++
			continue
		}
		by := h.Place
		if p := v.ix.Place(h.Place); p != nil {
			chain, root := v.ix.Chain(&p.At)
			for _, c := range chain {
				if v.gone[c.ID] {
					by = c.ID
				}
			}
			if v.gone[root.Station] {
				by = root.Station
			}
		}
		for i := range v.m.Left {
			if v.m.Left[i].ID == by {
				v.m.Left[i].Things++
			}
		}
	}
	for i := range v.n.Items {
		it := &v.n.Items[i]
		if it.Lies != "" && nix.Place(it.Lies) == nil {
			it.Lies = ""
		}
		it.UsedAt = slices.DeleteFunc(slices.Clone(it.UsedAt), func(id string) bool { return nix.Station(id) == nil })
	}
	v.n.Tidy()
}

// reached takes the homes away that nobody gets at where their places are now, or that break another rule there which they did not before.
func (v *mover) reached() error {
	found, err := check.Shop(v.n)
	if err != nil {
		return err
	}
	old, err := check.Shop(v.s)
	if err != nil {
		return err
	}
	was := map[string]bool{} // by the thing and its place: the numbers of homes are others now
	for _, f := range old {
		if k := homeOf(v.s, &f); f.Hard && k != "" {
			was[f.Code+k] = true
		}
	}
	drop := map[string]bool{}
	for _, f := range found {
		if k := homeOf(v.n, &f); f.Hard && k != "" && !was[f.Code+k] {
			drop[k] = true
		}
	}
	v.n.Homes = slices.DeleteFunc(v.n.Homes, func(h shop.Home) bool { return drop[h.Item+" "+h.Place] })
	v.m.Kept = len(v.n.Homes)
	ix := shop.NewIndex(v.n)
	v.m.Homeless = 0
	for i := range v.s.Items {
		if it := &v.s.Items[i]; v.ix.Homed(it) > ix.Homed(it) {
			v.m.Homeless++
		}
	}
	v.m.Unreached = len(drop)
	return nil
}

// homeOf a finding: its thing and place.
func homeOf(s *shop.Shop, f *check.Finding) string {
	var i int
	if _, err := fmt.Sscanf(f.Where, "homes[%d]", &i); err != nil || i >= len(s.Homes) {
		return ""
	}
	return s.Homes[i].Item + " " + s.Homes[i].Place
}

// packs are the units with what is in them, as they are loaded.
func (m *Moved) packs(s *shop.Shop, ix *shop.Index, to *shop.Area, o Options) {
	doors := append(doorsOf(&s.Areas[0]), doorsOf(to)...)
	unit := func(id string, at *shop.At) string {
		chain, root := ix.Chain(at)
		switch {
		case len(chain) > 0:
			return chain[len(chain)-1].ID
		case root.Station != "":
			return root.Station
		}
		return id
	}
	by := map[string]*Pack{}
	pack := func(id, name string, kg float64, size [3]float64) *Pack {
		if by[id] == nil {
			by[id] = &Pack{ID: id, Name: name, KG: kg, Empty: kg, Door: through(size, doors), Van: into(size, o.Van), Stair: up(size, o.Stair)}
		}
		return by[id]
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		if unit(c.ID, &c.At) == c.ID && c.At.In == "" && c.At.Station == "" {
			pack(c.ID, ix.Name(c.ID), c.KG.KG(), [3]float64{c.W.MM(), c.D.MM(), c.H.MM()})
		}
		if c.Fixing != nil || c.At.Wall != "" {
			m.Undo = append(m.Undo, ix.Name(c.ID)+": screws out, holes filled")
		}
	}
	for i := range s.Stations {
		st := &s.Stations[i]
		pack(st.ID, st.Name, st.KG.KG(), [3]float64{st.W.MM(), st.D.MM(), max(st.H, st.Tall).MM()})
	}
	for i := range s.Places {
		if p := &s.Places[i]; p.At.Wall != "" {
			m.Undo = append(m.Undo, ix.Name(p.ID)+": down, holes filled")
		}
	}
	for i := range s.Homes {
		h := &s.Homes[i]
		it, p := ix.Item(h.Item), ix.Place(h.Place)
		if it == nil || p == nil {
			continue
		}
		id := unit(p.ID, &p.At)
		x := by[id]
		if x == nil {
			x = pack("loose", "Boxes for what hangs and lies open", 0, [3]float64{})
		}
		x.KG += it.KG.KG() * float64(h.Number(it))
		x.Uses += it.UsesPerWeek
		if it.Flagged(shop.Fragile) {
			x.Fragile++
		}
	}
	for _, x := range by {
		switch {
		case x.KG > twoCarry && x.KG-x.Empty > 10:
			x.Care = "empty it first: together it is more than two carry"
		case x.KG > twoCarry:
			x.Care = "a trolley and straps: it is more than two carry"
		case x.Fragile > 0:
			x.Care = "what breaks out of it, in cloth"
		case x.ID != "loose" && ix.Container(x.ID) != nil:
			x.Care = "drawers and doors taped shut, what is in it may stay"
		}
		m.Packs = append(m.Packs, *x)
	}
	slices.SortFunc(m.Packs, func(a, b Pack) int { return cmp.Or(cmp.Compare(b.Uses, a.Uses), cmp.Compare(a.ID, b.ID)) })
	for i := range m.Packs {
		m.Packs[i].Box = i + 1
	}
}

// doorsOf an area, wide and high.
func doorsOf(a *shop.Area) (out [][2]float64) {
	best := [2]float64{}
	for i := range a.Walls {
		for k := range a.Walls[i].Features {
			if f := &a.Walls[i].Features[k]; f.Kind.Passage() && f.W.MM()*f.H.MM() > best[0]*best[1] {
				best = [2]float64{f.W.MM(), f.H.MM()}
			}
		}
	}
	if best[0] > 0 {
		out = append(out, best)
	}
	return out
}

// through the largest door of each room, the longest side first.
func through(size [3]float64, doors [][2]float64) string {
	if size[0] == 0 || len(doors) == 0 {
		return ""
	}
	s := size
	slices.Sort(s[:])
	for _, d := range doors {
		if !passage.Passes(s[1], s[0], d[0], d[1]) {
			return "split"
		}
	}
	return "goes"
}

func into(size, van [3]float64) string {
	if van[0] == 0 || size[0] == 0 {
		return ""
	}
	a, b := size, van
	slices.Sort(a[:])
	slices.Sort(b[:])
	if a[0] <= b[0] && a[1] <= b[1] && a[2] <= b[2] {
		return "goes"
	}
	return "stuck"
}

// up a stair of some clear width and round a landing: carried level on its narrow side, as long as goes round the corner (passage).
func up(size [3]float64, stair [2]float64) string {
	if stair[0] == 0 || size[0] == 0 {
		return ""
	}
	s := size
	slices.Sort(s[:])
	landing := stair[1]
	if landing == 0 { // it goes straight up
		landing = math.Inf(1)
	}
	if s[0] <= min(stair[0], landing) && (math.IsInf(landing, 1) || s[2] <= passage.RoundCorner(stair[0], landing, s[0])) {
		return "goes"
	}
	return "stuck"
}

// relics: storage by the uses of what is in it for each square metre.
func (m *Moved) relics(s *shop.Shop, ix *shop.Index) {
	for i := range s.Containers {
		c := &s.Containers[i]
		if c.At.In != "" || c.At.Station != "" {
			continue
		}
		x := Relic{ID: c.ID, Name: ix.Name(c.ID), M2: c.W.MM() * c.D.MM() / 1e6}
		if c.At.Wall != "" {
			x.M2 = c.W.MM() * c.H.MM() / 1e6
		}
		for k := range s.Homes {
			h := &s.Homes[k]
			p, it := ix.Place(h.Place), ix.Item(h.Item)
			if p == nil || it == nil {
				continue
			}
			if chain, _ := ix.Chain(&p.At); slices.Contains(chain, c) {
				x.Uses += it.UsesPerWeek
			}
		}
		switch {
		case x.Uses == 0:
			x.Says = "nothing in it is used: other things in it, its boards into stock, or leave it"
		case x.Uses < x.M2:
			x.Says = "less than one use a week for each square metre: let something better have the room"
		default:
			continue
		}
		m.Relics = append(m.Relics, x)
	}
	slices.SortStableFunc(m.Relics, func(a, b Relic) int { return cmp.Compare(a.Uses/max(.01, a.M2), b.Uses/max(.01, b.M2)) })
}
