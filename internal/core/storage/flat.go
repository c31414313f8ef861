package storage

import (
	"cmp"
	"hobrak/internal/core/reach"
	"math"
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/carry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// tray is a drawer or deck being filled.
type tray struct {
	p     shop.Place
	space pack.Space
	runs  []run
	spots []pack.Spot
}

// lay puts pieces into a tray at the free spot nearest to its front left corner;
// false when there is none, or the reserve would be used.
func (t *tray) lay(it *shop.Item, n int, share float64, upright bool) bool {
	th := keeping.Thing(&t.p, it, n)
	if t.space.Used()+t.space.Takes(th) > share*t.space.Room() {
		return false
	}
	spots := t.space.Spots(th, nil)
	if len(spots) == 0 {
		return false
	}
	s := slices.MinFunc(spots, func(a, b pack.Spot) int {
		if upright {
			return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y))
		}
		return cmp.Or(cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X))
	})
	t.space.Put(len(t.runs), th, s)
	t.runs, t.spots = append(t.runs, run{it: it, n: n}), append(t.spots, s)
	return true
}

// high is the height of what is highest in it.
func (t *tray) high() (h length.Length) {
	for _, r := range t.runs {
		h = max(h, r.it.SizeIn(t.p.Kind).H)
	}
	return h
}

func newTray(p shop.Place) *tray { return &tray{p: p, space: keeping.Of(&p).Space(&p, p.H)} }

// trays fills trays of a size one after the other; each thing goes into the
// first with room, several pieces together while they fit. Order decides how
// well: the best of some orders is kept.
func (b *builder) trays(items []*shop.Item, make func(n int) shop.Place) []*tray {
	share := 1 - b.need.Reserve
	kind := make(0).Kind
	area := func(it *shop.Item) float64 { s := it.SizeIn(kind); return float64(s.W) * float64(s.D) }
	long := func(it *shop.Item) length.Length { s := it.SizeIn(kind); return max(s.W, s.D) }
	orders := []func(a, c *shop.Item) int{
		func(a, c *shop.Item) int { return cmp.Compare(area(c), area(a)) },
		func(a, c *shop.Item) int { return cmp.Compare(long(c), long(a)) },
		func(a, c *shop.Item) int {
			return cmp.Or(cmp.Compare(c.SizeIn(kind).H, a.SizeIn(kind).H), cmp.Compare(area(c), area(a)))
		},
	}
	var found []*tray
	var list []*shop.Item
	least, most := math.Inf(1), 0.0
	keep := func(order []*shop.Item, upright bool) {
		out := fillTrays(order, make, share, upright)
		cost, dense := heights(out), density(out)
		if cost < least-1 || cost < least+1 && dense > most+1e-9 {
			found, least, most, list = out, cost, dense, slices.Clone(order)
		}
	}
	for _, order := range orders {
		o := slices.Clone(items)
		slices.SortStableFunc(o, order)
		keep(o, false)
		keep(o, true)
	}
	if len(list) < 2 {
		return found
	}
	// Then the best order with a few things swapped, as often as there is time for.
	rnd := rand.New(rand.NewPCG(1, uint64(len(items))))
	for try := range min(250, swaps/(len(items)*len(items))) {
		o := slices.Clone(list)
		for range 1 + rnd.IntN(3) {
			x, y := rnd.IntN(len(o)), rnd.IntN(len(o))
			o[x], o[y] = o[y], o[x]
		}
		keep(o, try%2 == 1)
	}
	return found
}

// swaps bounds the tries: laying a thing takes longer the more there are.
const swaps = 160_000

// fillTrays lays things in their order; upright fills from the left instead of from the front.
func fillTrays(list []*shop.Item, make func(n int) shop.Place, share float64, upright bool) []*tray {
	var out []*tray
	for _, it := range list {
		for rest := it.Number(); rest > 0; {
			took := 0
			for n := rest; n > 0 && took == 0; n /= 2 {
				if slices.ContainsFunc(out, func(t *tray) bool { return t.lay(it, n, share, upright) }) {
					took = n
				}
			}
			if took == 0 {
				t := newTray(make(len(out)))
				for n := rest; n > 0 && took == 0; n /= 2 {
					if t.lay(it, n, share, upright) {
						took = n
					}
				}
				if took == 0 && t.lay(it, 1, 1, upright) {
					took = 1 // larger than the share: alone it may use the reserve
				}
				if took == 0 {
					break // said before: it is larger than a tray
				}
				out = append(out, t)
			}
			rest -= took
		}
	}
	return out
}

// density is higher the more the first trays hold and the last is left empty.
func density(list []*tray) float64 {
	sum := 0.0
	for _, t := range list {
		f := t.space.Used() / t.space.Room()
		sum += f * f
	}
	return sum
}

// heights is the height of all trays, each as high as what lies in it.
func heights(list []*tray) float64 {
	total := 0.0
	for _, t := range list {
		total += float64(t.high() + overDrawer + board)
	}
	return total
}

// smaller leaves out what is larger than a tray of w × d.
func (b *builder) smaller(items []*shop.Item, kind shop.PlaceKind, w, d length.Length) []*shop.Item {
	return slices.DeleteFunc(items, func(it *shop.Item) bool {
		s := it.SizeIn(kind)
		if s.W <= w && s.D <= d || it.Turns(kind) && s.D <= w && s.W <= d {
			return false
		}
		b.leave(it, "it is %s; inside there are %s", length.Size(s.W, s.D), length.Size(w, d))
		return true
	})
}

// drawers makes a chest of drawers, each as high as what lies in it, the highest lowest.
func (b *builder) drawers(kind shop.ContainerKind, widest, deepest, highest length.Length) {
	widest, deepest, highest = limit(b.need.Width, widest), limit(b.need.Depth, deepest), limit(b.need.Height, highest)
	w, d := widest-2*board-2*runner-24*mm, deepest-40*mm // sides of the drawer, its back and the gap behind it
	if w <= 0 || d <= 0 {
		return
	}
	items := b.smaller(b.takers(&shop.Place{Kind: keeping.Drawer}, wider), keeping.Drawer, w, d)
	list := b.trays(items, func(int) shop.Place { return shop.Place{Kind: keeping.Drawer, W: w, D: d, H: 1000 * mm} })
	for _, t := range list {
		t.p.H = max(up(t.high()+overDrawer, 5*mm), 40*mm)
	}
	slices.SortStableFunc(list, func(a, c *tray) int { return cmp.Compare(c.p.H, a.p.H) })
	z := board
	kept := list[:0:0]
	for _, t := range list {
		if z+t.p.H+12*mm+front+board > highest {
			for _, r := range t.runs {
				b.leave(r.it, "there is no drawer left for it: the chest may be %s high", highest)
			}
			continue
		}
		t.p.At = shop.At{In: b.base, X: board + runner + 12*mm, Z: z + 12*mm}
		z += t.p.H + 12*mm + front
		kept = append(kept, t)
	}
	b.fill(kept, reach.Drawer)
	if len(kept) == 0 {
		return
	}
	c := &shop.Container{ID: b.base, Name: b.out.Title, Kind: kind, W: widest, H: z + board, D: deepest}
	b.out.Container = c
	b.out.W, b.out.H, b.out.D = c.W, c.H, c.D
	b.rule("%d drawers as high as what lies in them, the highest lowest; inside %s", len(kept), length.Size(w, d))
	b.spare("%.0f %% of the floor of the drawers", 100*(1-b.used/math.Max(1, b.room)))
}

// fill hands trays over as places with their homes.
func (b *builder) fill(list []*tray, access shop.Access) {
	for _, t := range list {
		t.p.ID, t.p.Access = b.part(), access
		b.hand(t)
	}
}

// hand a tray over as a place with its homes.
func (b *builder) hand(t *tray) {
	p := b.add(t.p, t.space.Used(), t.space.Room())
	for i, r := range t.runs {
		b.home(p, r, t.spots[i])
	}
}

// first of some trays, where there can be only one: what is in the others is left,
// with the reason. Nil when there is none.
func (b *builder) first(list []*tray, full string) *tray {
	if len(list) == 0 {
		return nil
	}
	for _, t := range list[1:] {
		for _, r := range t.runs {
			b.leave(r.it, "%s", full)
		}
	}
	return list[0]
}

// ceiling is a deck under the ceiling as large as what lies on it.
func (b *builder) ceiling() {
	widest, deepest := limit(b.need.Width, 2400*mm), limit(b.need.Depth, 1200*mm)
	items := b.smaller(b.takers(&shop.Place{Kind: keeping.Deck}, wider), keeping.Deck, widest, deepest)
	list := b.trays(items, func(int) shop.Place { return shop.Place{Kind: keeping.Deck, W: widest, D: deepest, H: 1000 * mm} })
	t := b.first(list, "the deck is full; make it larger or make another")
	if t == nil {
		return
	}
	t.p.H = t.high() + overThings
	t.p.ID, t.p.Access = b.base, "open"
	b.hand(t)
	b.out.W, b.out.H, b.out.D = t.p.W, t.p.H, t.p.D
	b.rule("what lies there covers %.0f %% of the deck", 100*t.space.Used()/t.space.Room())
	b.spare("%.0f %% of the deck", 100*(1-t.space.Used()/t.space.Room()))
	b.caution("not rated: fix it to the joists with fixings rated for it; a qualified person judges the structure. What hangs overhead is lifted by two")
}

// chargers stand on a shelf with air between them, batteries on one below.
func (b *builder) chargers() {
	var above, below []*shop.Item
	probe := shop.Place{Kind: keeping.Shelf}
	for _, it := range b.takers(&probe, higher) {
		if slices.Contains(it.Flags, "charger") {
			above = append(above, it)
		} else {
			below = append(below, it)
		}
	}
	if len(above) == 0 {
		for _, it := range below {
			b.leave(it, "no charger is among the things; flag one as charger")
		}
		return
	}
	outlets := 1
	longest := length.Length(float64(limit(b.need.Width, 1800*mm)) * (1 - b.need.Reserve))
	long := func(items []*shop.Item, air length.Length) (w, h, d length.Length, r row) {
		for _, it := range items {
			s, gap := it.SizeIn(keeping.Shelf), max(air, it.KeptClear())
			x := w
			if w > 0 {
				x += gap
			}
			n := length.Length(it.Number())
			if x+n*(s.W+gap) > longest {
				b.leave(it, "the shelf is full: it may be %s long", longest)
				continue
			}
			r.runs = append(r.runs, run{it, it.Number(), x, n*s.W + (n-1)*it.KeptClear()})
			w = x + n*s.W + (n-1)*max(gap, it.KeptClear())
			h, d = max(h, s.H), max(d, s.D)
			r.kg += it.KG * weight.Weight(it.Number())
		}
		r.h, r.used = h, w
		return w, h, d, r
	}
	w, _, d, r := long(above, chargerGap)
	for _, x := range r.runs {
		outlets += x.n
	}
	if len(r.runs) == 0 {
		for _, it := range below {
			b.leave(it, "there is no room for a charger")
		}
		return
	}
	w2, _, d2, r2 := long(below, 10*mm)
	wide := up(length.Length(float64(max(w, w2))/(1-b.need.Reserve)), 10*mm)
	deep := max(d+cordSlot, d2+10*mm)
	c := &shop.Container{ID: b.base, Name: b.out.Title, Kind: "shelving", W: wide + 2*board, D: deep}
	z := board
	if len(below) > 0 {
		p := shop.Place{ID: b.part(), Kind: keeping.Shelf, D: deep, At: shop.At{In: b.base, X: board, Z: z}}
		r2.h = max(r2.h, batteries-overThings)
		b.shelf(&p, r2, wide)
		z += p.H + board
	}
	p := shop.Place{ID: b.part(), Kind: keeping.Shelf, D: deep, At: shop.At{In: b.base, X: board, Z: z}}
	b.shelf(&p, r, wide)
	c.H = z + p.H + board
	b.out.Container = c
	b.out.W, b.out.H, b.out.D = c.W, c.H, c.D
	b.rule("%s of chargers with %s of air between them, the deepest and %s for cords behind it", w, chargerGap, cordSlot)
	b.rule("%d outlets: one for each charger and one more; add up the currents on their plates against what the circuit may carry", outlets)
	b.spare("%s of its length", wide-w)
	b.caution("charge where you see it, on something that does not burn, away from solvents and dust; an electrician judges circuits and outlets")
}

// bins makes a bin for each thing, large enough for all its pieces.
func (b *builder) bins() {
	items := b.takers(&shop.Place{Kind: keeping.Bin}, wider)
	width := limit(b.need.Width, 900*mm)
	x, z, high, deep := binWall, binFloor, length.Length(0), length.Length(0)
	used, room := 0.0, 0.0
	for _, it := range items {
		volume := it.W.MM() * it.H.MM() * it.D.MM() * float64(it.Number())
		side := math.Cbrt(volume / binFill / (1 - b.need.Reserve))
		longest := max(it.W, it.H, it.D)
		w := up(length.MM(math.Max(side, 60)), 10*mm)
		d := up(max(longest, w), 10*mm)
		h := up(max(length.MM(volume/binFill/(1-b.need.Reserve)/w.MM()/d.MM()), min(it.W, it.H, it.D), 40*mm), 10*mm)
		p := shop.Place{ID: b.part(), Kind: keeping.Bin, W: w, H: h, D: d}
		if x > binWall && x+w > width {
			x, z = binWall, z+high+binFloor
			high = 0
		}
		p.At = shop.At{In: b.base, X: x, Z: z}
		space := keeping.Of(&p).Space(&p, h)
		t := keeping.Thing(&p, it, it.Number())
		if err := space.Allows(t, pack.Spot{}); err != nil {
			b.leave(it, "%v", err)
			continue
		}
		kept := b.add(p, volume, w.MM()*h.MM()*d.MM())
		b.home(kept, run{it: it, n: it.Number()}, pack.Spot{})
		used, room = used+volume, room+w.MM()*h.MM()*d.MM()
		x += w + binWall
		b.out.W = max(b.out.W, x)
		high, deep = max(high, h), max(deep, d)
	}
	if len(b.out.Places) == 0 {
		return
	}
	b.out.H, b.out.D = z+high, deep+binWall
	b.out.Container = &shop.Container{ID: b.base, Name: b.out.Title, Kind: "shelving", W: b.out.W, H: b.out.H, D: b.out.D}
	b.rule("each bin holds its pieces at %.0f %% of its volume, and as long as the longest piece", 100*binFill)
	b.spare("%.0f %% of every bin", 100*b.need.Reserve)
}

// onEnd makes a bin, in parts by length, for what stands on end.
func (b *builder) onEnd(what string, parts int) {
	items := b.takers(&shop.Place{Kind: keeping.Bin}, func(a, c shop.Size) int { return cmp.Compare(max(c.W, c.H, c.D), max(a.W, a.H, a.D)) })
	if len(items) == 0 {
		return
	}
	parts = min(parts, len(items))
	x := standWall
	for k := range parts {
		part := items[len(items)*k/parts : len(items)*(k+1)/parts]
		d := limit(b.need.Depth, 300*mm)
		w, h, volume := b.standing(part, d)
		for widest := limit(b.need.Width, 3000*mm) / length.Length(parts); w > widest && len(part) > 0; w, h, volume = b.standing(part, d) {
			b.leave(part[len(part)-1], "the bin is full: it may be %s wide", limit(b.need.Width, 3000*mm))
			part = part[:len(part)-1]
		}
		if len(part) == 0 {
			continue
		}
		p := shop.Place{ID: b.part(), Kind: keeping.Bin, W: w, H: h, D: d, At: shop.At{In: b.base, X: x, Z: standWall}}
		space := keeping.Of(&p).Space(&p, 6000*mm)
		kept := b.add(p, volume, w.MM()*h.MM()*d.MM()*binFill)
		for i, it := range part {
			t := keeping.Thing(&p, it, it.Number())
			if err := space.Allows(t, pack.Spot{}); err != nil {
				b.leave(it, "%v", err)
				continue
			}
			space.Put(i, t, pack.Spot{})
			b.home(kept, run{it: it, n: it.Number()}, pack.Spot{})
		}
		x += w + standWall
		b.out.H, b.out.D = max(b.out.H, h+standWall), max(b.out.D, d+2*standWall)
	}
	if len(b.out.Places) == 0 {
		return
	}
	b.out.W = x
	b.out.Container = &shop.Container{ID: b.base, Name: b.out.Title, Kind: "shelving", W: x, H: b.out.H, D: b.out.D}
	b.rule("%s on end fill %.0f %% of the floor at most; the sides are six tenths of the longest high", what, 100*binFill)
	b.spare("%.0f %% of the floor", 100*b.need.Reserve)
	b.caution("long pieces on end fall: a chain or bar before them, and the ceiling must be higher than the longest tilted in")
}

// standing is the size of a bin of that depth for things on end, and their volume in mm³.
func (b *builder) standing(part []*shop.Item, d length.Length) (w, h length.Length, volume float64) {
	longest, area := length.Length(0), 0.0
	for _, it := range part {
		l := max(it.W, it.H, it.D)
		longest = max(longest, l)
		v := it.W.MM() * it.H.MM() * it.D.MM() * float64(it.Number())
		area += v / l.MM()
		volume += v
	}
	h = up(max(longest*6/10, 300*mm), 50*mm)
	share := binFill * (1 - b.need.Reserve)
	w = up(length.MM(math.Max(area/share/d.MM(), volume/share/d.MM()/h.MM())), 20*mm)
	return max(w, min(150*mm, limit(b.need.Width, 150*mm))), h, volume
}

// sheets makes a bay for sheets on edge.
func (b *builder) sheets(rolling bool) {
	p := shop.Place{ID: b.base, Kind: keeping.SheetBay}
	items := b.takers(&p, func(a, c shop.Size) int { return cmp.Compare(max(c.W, c.H, c.D), max(a.W, a.H, a.D)) })
	if len(items) == 0 {
		return
	}
	thick := length.Length(0)
	var kept []*shop.Item
	for _, it := range items {
		s := []length.Length{it.W, it.H, it.D}
		slices.Sort(s)
		more := length.Length(it.Number()) * (s[0] + pack.SheetGap)
		if widest := length.Length(float64(limit(b.need.Width, 1200*mm)) * (1 - b.need.Reserve)); thick+more > widest {
			b.leave(it, "the bay is full: it may be %s wide", limit(b.need.Width, 1200*mm))
			continue
		}
		kept = append(kept, it)
		thick += more
		p.H, p.D = max(p.H, s[1]+20*mm), max(p.D, s[2]+20*mm)
	}
	p.W = up(length.Length(float64(thick)/(1-b.need.Reserve)), 10*mm)
	if len(kept) == 0 {
		return
	}
	space := keeping.Of(&p).Space(&p, p.H)
	place := b.add(p, float64(thick), float64(p.W))
	for i, it := range kept {
		t := keeping.Thing(&p, it, it.Number())
		spots := space.Spots(t, nil)
		if len(spots) == 0 {
			b.leave(it, "it does not go into the bay")
			continue
		}
		space.Put(i, t, spots[0])
		b.home(place, run{it: it, n: it.Number()}, spots[0])
	}
	b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
	b.rule("each sheet takes its thickness and %s; to pull one out %s of floor must be free before it", pack.SheetGap, p.D)
	b.spare("%s of %s", p.W-thick, p.W)
	b.caution("sheets that fall hurt: let them lean by 5° and hold them with a strap")
	if rolling {
		b.inContainer("cart")
		c, in := b.out.Container, &b.out.Places[0]
		c.W, c.H, in.At.X, in.At.Z = c.W+2*board, c.H+casters+board, board, casters+board
		b.out.W, b.out.H = c.W, c.H
		b.tips()
	}
}

// arms makes a rack for boards: levels, arms as far apart as the thinnest board
// bears, an arm's load.
func (b *builder) arms() {
	p := shop.Place{ID: b.base, Kind: keeping.Arms}
	items := b.takers(&p, func(a, c shop.Size) int { return cmp.Or(cmp.Compare(c.W, a.W), cmp.Compare(c.H, a.H)) })
	if len(items) == 0 {
		return
	}
	longest := items[0].W
	over := min(longest/4, pack.MaxOverhang)
	p.W = longest - 2*over
	if b.need.Width > 0 {
		p.W = min(b.need.Width, max(p.W, 800*mm))
	}
	p.W = max(p.W, 600*mm)
	p.D = limit(b.need.Depth, 300*mm)
	highest := limit(b.need.Height, 1800*mm)
	clear := 140 * mm
	for _, it := range items {
		clear = max(clear, up(it.H+20*mm, 10*mm))
	}
	levels := max(1, int(highest/(clear+armThick)))
	for i := range levels {
		p.Levels = append(p.Levels, shop.Level{Z: length.Length(i)*(clear+armThick) + armThick, H: clear})
	}
	space := keeping.Of(&p).Space(&p, p.H)
	share := 1 - b.need.Reserve
	var runs []run
	var spots []pack.Spot
	perLevel := map[int]weight.Weight{}
	for _, it := range items {
		for rest := it.Number(); rest > 0; {
			took := 0
			for n := rest; n > 0 && took == 0; n /= 2 {
				t := keeping.Thing(&p, it, n)
				if space.Used()+space.Takes(t) > share*space.Room() {
					continue
				}
				all := space.Spots(t, nil)
				if len(all) == 0 {
					continue
				}
				s := slices.MinFunc(all, func(a, c pack.Spot) int {
					return cmp.Or(cmp.Compare(a.Level, c.Level), cmp.Compare(a.Z, c.Z), cmp.Compare(a.Y, c.Y))
				})
				space.Put(len(runs), t, s)
				runs, spots = append(runs, run{it: it, n: n}), append(spots, s)
				perLevel[s.Level] += it.KG * weight.Weight(n)
				took = n
			}
			if took == 0 {
				t := keeping.Thing(&p, it, 1)
				why := "the rack is full"
				if err := space.Allows(t, pack.Spot{}); err != nil {
					why = err.Error()
				}
				b.leave(it, "%d of it: %s", rest, why)
				break
			}
			rest -= took
		}
	}
	// Only as many levels as are used.
	top := 0
	for _, s := range spots {
		top = max(top, s.Level)
	}
	p.Levels = p.Levels[:top+1]
	p.H = p.Levels[top].Z + clear
	kept := b.add(p, space.Used(), space.Room()*float64(top+1)/float64(levels))
	for i, r := range runs {
		b.home(kept, r, spots[i])
	}
	b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
	b.spacing(items, p.W, perLevel)
	b.spare("%.0f %% of the levels", 100*b.need.Reserve)
	b.caution("not rated: each arm must be fixed to a stud, and be rated or proven for its load; long boards are carried by two")
}

// spacing says how many arms a level needs and what the heaviest level puts on one.
func (b *builder) spacing(items []*shop.Item, w length.Length, perLevel map[int]weight.Weight) {
	pine, err := load.WoodByID("white-pine")
	if err != nil {
		return
	}
	closest := math.Inf(1)
	var thinnest *shop.Item
	for _, it := range items {
		span, err := load.Board{B: it.D.MM(), T: it.H.MM(), Wood: pine}.Widest(0, carry.SagAlong)
		if err == nil && span < closest {
			closest, thinnest = span, it
		}
	}
	if thinnest == nil {
		return
	}
	n := max(2, int(math.Ceil(w.MM()/closest))+1)
	if items[0].W > 2400*mm {
		n = max(n, 3)
	}
	heaviest := weight.Weight(0)
	for _, kg := range perLevel {
		heaviest = max(heaviest, kg)
	}
	outer, inner := carry.ArmLoads(items[0].W.MM(), w.MM(), n)
	b.out.Places[0].Arms = n
	b.rule("%d arms a level, %s apart: %s, %s thick, would sag more than 1 in 500 over %s (assumed to be pine)", n, length.Whole(w.MM()/float64(n-1)), thinnest.Name, thinnest.H.Stock(), length.Whole(closest))
	b.rule("the heaviest level has %s: %s on one arm", heaviest, weight.Rough(heaviest.KG()*math.Max(outer, inner)))
}
