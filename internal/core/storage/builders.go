package storage

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/carry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Measures that do not come from the things: round figures of common practice.
const (
	liftOff    = 40 * mm  // above what hangs, to lift it off its rail: half a rail of 60 and 10
	board      = 18 * mm  // thickness of cabinet parts
	overThings = 30 * mm  // above what stands on a shelf
	overDrawer = 10 * mm  // above what lies in a drawer
	runner     = 13 * mm  // on each side of a drawer
	front      = 6 * mm   // between drawer fronts
	cordSlot   = 25 * mm  // behind chargers
	chargerGap = 20 * mm  // beside chargers, for air
	bladePitch = 25 * mm  // of saw blades, at least
	armThick   = 60 * mm  // an arm with its fixing
	binFill    = .6       // of a bin's volume can be used
	fingers    = 15 * mm  // between things in slots
	fingersBig = 20 * mm  // between clamps with wide heads
	bitRoom    = 10 * mm  // between bits: they are taken by their shanks with two fingers
	bay        = 355 * mm // between studs 400 mm apart
	bayDepth   = 90 * mm  // of a bay
	footOff    = 150 * mm // a cart's deck over the floor
	casters    = 100 * mm // wheels with their plates
	doorDeep   = 20 * mm  // a door and the gap behind it
	binWall    = 5 * mm   // between bins side by side
	binFloor   = 10 * mm  // under a row of bins
	standWall  = 12 * mm  // round what stands on end
	toolDepth  = 60 * mm  // least depth of a field
	batteries  = 120 * mm // clear height of a battery shelf
)

var builders = []Builder{
	{"cleat-field", "Cleat field", "bevelled rails in rows; each holder lifts off and moves", true, func(b *builder) { b.field("cleat", 3000*mm, 1300*mm) }, nil},
	{"peg-field", "Peg field", "pegs an inch apart", true, func(b *builder) { b.field("peg", 2400*mm, 1200*mm) }, nil},
	{"tool-board", "Tool board", "a board with a holder made for each tool", true, func(b *builder) { b.field("board", 2400*mm, 1200*mm) }, nil},
	{"jig-wall", "Jig wall", "screws at the studs, for jigs and sleds", true, func(b *builder) { b.field("screw", 3000*mm, 1800*mm) }, nil},
	{"door-back", "Door-back rack", "the inside of a door", true, func(b *builder) { b.doorBack() }, nil},
	{"swivel-stand", "Swivel stand", "a board on a turning foot", false, func(b *builder) { b.stand() }, nil},
	{"stud-bays", "Stud bay", "between two bare studs, no deeper than they are", true, func(b *builder) { b.between() }, nil},
	{"magnet-rail", "Magnet rail", "steel side by side", true, func(b *builder) { b.rail() }, nil},
	{"clamp-rack", "Clamp rack", "a slot for each clamp, a run for each length", true, func(b *builder) { b.slots(clampPitch, 20*mm) }, words("clamp")},
	{"blade-rack", "Blade rack", "blades on edge, a slot for each", true, func(b *builder) { b.slots(bladeSlot, 20*mm) }, words("blade|saw disc|disc")},
	{"abrasives-rack", "Abrasives rack", "a slot for each grit", true, func(b *builder) { b.slots(narrowSlot, 10*mm) }, words("abrasive|sand|grit|paper")},
	{"bit-rack", "Bit rack", "a hole for each bit, largest first", true, func(b *builder) { b.slots(bitSlot, 15*mm) }, words("bit|cutter|reamer|countersink|collet")},
	{"file-rack", "Tool slots", "chisels, gouges and files in slots", true, func(b *builder) { b.slots(fingerSlot, 20*mm) }, words("chisel|gouge|file|rasp|knife|knives|screwdriver|driver|awl|scraper")},
	{"shelf", "Shelf", "one shelf on the wall", true, func(b *builder) { b.oneShelf() }, nil},
	{"shelf-unit", "Shelf unit", "shelves at the heights the things need", false, func(b *builder) { b.shelves("shelving", 900*mm, 400*mm, 2000*mm, false) }, nil},
	{"finishes-cabinet", "Finishes cabinet", "closed and lockable, for what must be kept from heat, frost and children", false, func(b *builder) { b.shelves("cabinet", 600*mm, 350*mm, 1500*mm, true) }, words("finish|varnish|oil|paint|glue|solvent|wax|alcohol|thinner|stain")},
	{"tote-rack", "Tote rack", "shelves for totes and boxes", false, func(b *builder) { b.shelves("shelving", 1300*mm, 600*mm, 2000*mm, false) }, words("tote|box|case|crate|kit")},
	{"cart", "Rolling cart", "shelves on casters", false, func(b *builder) { b.shelves("cart", 700*mm, 450*mm, 1100*mm, false); b.tips() }, nil},
	{"two-sided-cart", "Two-sided cart", "a board on each face of a cart; both are got at", false, func(b *builder) { b.twoSided() }, nil},
	{"charger-shelf", "Charger shelf", "chargers with air, batteries below", true, func(b *builder) { b.chargers() }, words("charg|batter")},
	{"drawer-bank", "Drawer bank", "drawers as deep as what lies in them", false, func(b *builder) { b.drawers("chest", 560*mm, 450*mm, 1000*mm) }, nil},
	{"under-bench", "Under-bench drawers", "drawers that go under a bench", false, func(b *builder) { b.drawers("chest", 700*mm, 500*mm, 700*mm) }, nil},
	{"tote", "Tote", "a box that is carried to the work with what is in it; it goes on a deck, a shelf or a rail", false, func(b *builder) { b.tote() }, nil},
	{"bins", "Small-parts bins", "a bin for each thing", true, func(b *builder) { b.bins() }, nil},
	{"offcut-bin", "Offcut bin", "offcuts on end", false, func(b *builder) { b.onEnd("offcuts", 1) }, words("offcut|board|billet|plank")},
	{"stock-bin", "Stock bin", "boards on end, sorted by length", false, func(b *builder) { b.onEnd("boards", 3) }, words("board|plank|larch|tonewood|lumber|stock|billet")},
	{"roll-bars", "Roll holder", "bars for rolls of paper, tape, hose and cord", true, func(b *builder) { b.rollers() }, words("roll|tape|hose|cord|rope|twine")},
	{"lumber-rack", "Lumber rack", "arms at the studs, boards in piles", true, func(b *builder) { b.arms() }, nil},
	{"sheet-bay", "Sheet bay", "sheets on edge, pulled out to the front", false, func(b *builder) { b.sheets(false) }, nil},
	{"sheet-cart", "Sheet cart", "a sheet bay on casters", false, func(b *builder) { b.sheets(true) }, nil},
	{"hook", "Hook", "one thing by itself", true, func(b *builder) { b.hook() }, nil},
	{"floor-spot", "Spot on the floor", "marked on the floor for what stands there", false, func(b *builder) { b.spot() }, nil},
	{"ceiling-rack", "Ceiling rack", "a deck hung from the joists", false, func(b *builder) { b.ceiling() }, nil},
}

func words(s string) []string { return strings.Split(s, "|") }

// field lays things out in rows on a wall: rails at their tops, the tallest and
// heaviest row lowest.
func (b *builder) field(style string, widest, highest length.Length) {
	p := shop.Place{ID: b.base, Kind: keeping.WallField, Style: style}
	items := b.takers(&p, higher)
	if len(items) == 0 {
		return
	}
	widest, highest = limit(b.need.Width, widest), limit(b.need.Height, highest)
	items = b.low(items, keeping.WallField, highest, liftOff)
	if len(items) == 0 {
		return
	}
	w := b.widthFor(items, keeping.WallField, widest, highest, liftOff)
	rows := b.rows(items, keeping.WallField, w)
	// What does not go into the height is left: the shortest rows first.
	for len(rows) > 0 && sum(rows, func(r row) length.Length { return r.h + liftOff }) > highest {
		last := rows[len(rows)-1]
		for _, r := range last.runs {
			b.leave(r.it, "there is no row left for %d of it: the field may be %s high", r.n, highest)
		}
		rows = rows[:len(rows)-1]
	}
	if len(rows) == 0 {
		return
	}
	p.W = w
	p.D = b.deepest(rows, keeping.WallField) + 10*mm
	p.D = max(up(p.D, 10*mm), toolDepth)
	if b.need.Depth > 0 && p.D > b.need.Depth {
		b.caution("it stands %s out; %s were allowed", p.D, b.need.Depth)
	}
	z := length.Length(0)
	var spots []pack.Spot
	var runs []run
	used := 0.0
	for _, r := range rows {
		z += r.h
		if style == "cleat" {
			p.Rows = append(p.Rows, z)
		}
		for _, x := range r.runs {
			spots = append(spots, pack.Spot{X: x.x, Y: z - x.it.SizeIn(keeping.WallField).H})
			runs = append(runs, x)
			used += float64(x.w) * float64(r.h+liftOff)
		}
		z += liftOff
	}
	p.H = z
	b.settle(&p, runs, spots, used, float64(p.W)*float64(p.H))
	b.rule("%d rows as high as their tallest thing, %s above each to lift off", len(rows), liftOff)
	if style == "peg" {
		b.rule("pegs stand %s apart: a holder may sit up to %s beside its spot", length.Inch, length.Inch/2)
	}
	b.spare("%.0f %% of every row", 100*b.need.Reserve)
	b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
}

// low leaves out what is higher than there is room for by itself.
func (b *builder) low(items []*shop.Item, kind shop.PlaceKind, highest, above length.Length) []*shop.Item {
	return slices.DeleteFunc(items, func(it *shop.Item) bool {
		h := it.SizeIn(kind).H
		if h+above <= highest {
			return false
		}
		b.leave(it, "it is %s high and needs %s above it; there are %s", h, above, highest)
		return true
	})
}

func (b *builder) spare(format string, args ...any) { b.out.Spare = fmt.Sprintf(format, args...) }

// widthFor is the width at which the rows of things take the least wall.
func (b *builder) widthFor(items []*shop.Item, kind shop.PlaceKind, widest, highest, above length.Length) length.Length {
	narrowest := length.Length(0)
	for _, it := range items {
		if w := it.SizeIn(kind).W; w <= widest {
			narrowest = max(narrowest, w)
		}
	}
	try := &builder{need: b.need, out: &Design{}}
	return best(up(max(narrowest, 200*mm), 50*mm), widest, 50*mm, highest, func(w length.Length) (length.Length, bool) {
		try.out.Left = nil
		rows := try.rows(items, kind, w)
		return sum(rows, func(r row) length.Length { return r.h + above }), true
	})
}

func (b *builder) deepest(rows []row, kind shop.PlaceKind) (d length.Length) {
	for _, r := range rows {
		for _, x := range r.runs {
			d = max(d, x.it.SizeIn(kind).D)
		}
	}
	return d
}

// settle puts runs into a place and keeps those its space allows; any other is a
// fault of the layout and is said as left.
func (b *builder) settle(p *shop.Place, runs []run, spots []pack.Spot, used, room float64) {
	space := keeping.Of(p).Space(p, p.H)
	kept := b.add(*p, used, room)
	for i, r := range runs {
		t := keeping.Thing(p, r.it, r.n)
		if err := space.Allows(t, spots[i]); err != nil {
			b.leave(r.it, "%v", err)
			continue
		}
		space.Put(i, t, spots[i])
		b.home(kept, r, spots[i])
	}
}

// doorBack is a shallow board in a frame on a door.
func (b *builder) doorBack() {
	b.shallow(limit(b.need.Depth, 120*mm), "it is %s deep; on a door %s are left when it closes")
	b.need.Width = limit(b.need.Width, 600*mm)
	b.field("board", b.need.Width, 1800*mm)
	b.inContainer("door-back")
	b.caution("the door carries it: count its weight with what hangs there against what the hinges may carry")
}

// shallow leaves out what is deeper than a field there can be; why names both depths.
func (b *builder) shallow(deep length.Length, why string) {
	b.need.Items = slices.DeleteFunc(b.need.Items, func(it *shop.Item) bool {
		d := it.SizeIn(keeping.WallField).D
		if d+10*mm > deep {
			b.leave(it, why, d, deep)
			return true
		}
		return false
	})
}

// between is a field between two bare studs.
func (b *builder) between() {
	b.shallow(limit(b.need.Depth, bayDepth), "it is %s deep; a bay is %s")
	b.need.Width = limit(b.need.Width, bay)
	b.field("studs", b.need.Width, 2200*mm)
	if len(b.out.Places) > 0 {
		b.rule("no wider than a bay and no deeper than the studs")
		b.caution("cables and pipes run between studs: look before a screw goes in")
	}
}

// twoSided is a cart with a board on its front and one on its back. What is used
// most is in front, as long as one side takes it.
func (b *builder) twoSided() {
	items := slices.Clone(b.need.Items)
	slices.SortStableFunc(items, func(a, c *shop.Item) int { return cmp.Compare(c.UsesPerWeek, a.UsesPerWeek) })
	half, area := 0.0, func(it *shop.Item) float64 {
		s := it.SizeIn(keeping.WallField)
		return float64(s.W+it.KeptClear()) * float64(s.H+liftOff) * float64(it.Number())
	}
	for _, it := range items {
		half += area(it) / 2
	}
	k, sum := 0, 0.0
	for k < len(items) && (k == 0 || sum < half) {
		sum += area(items[k])
		k++
	}
	c := &shop.Container{ID: b.base, Name: b.out.Title, Kind: "cart"}
	b.need.Height = limit(b.need.Height, 1300*mm) - footOff
	if b.need.Height <= 0 {
		return
	}
	for i, side := range [][]*shop.Item{items[:k], items[k:]} {
		if len(side) == 0 {
			continue
		}
		b.need.Items = side
		n := len(b.out.Places)
		b.field("board", 900*mm, 1300*mm)
		if len(b.out.Places) == n {
			continue
		}
		p := &b.out.Places[n]
		old := p.ID
		p.ID, p.At = fmt.Sprintf("%s-%d", b.base, n+1), shop.At{In: b.base, Z: footOff}
		if i == 1 {
			p.At.Face = "back"
		}
		for h := range b.out.Homes {
			if b.out.Homes[h].Place == old {
				b.out.Homes[h].Place = p.ID
			}
		}
		c.W, c.H, c.D = max(c.W, p.W), max(c.H, p.H+footOff), c.D+p.D
	}
	b.need.Items = items
	if len(b.out.Places) == 0 {
		return
	}
	c.D = max(c.D+board, 500*mm) // narrower it would fall over
	b.out.Container = c
	b.out.W, b.out.H, b.out.D = c.W, c.H, c.D
	b.rule("what is used most is in front; a face against a wall costs rolling the cart out")
	b.caution("things on a cart shake loose: holders that keep them, and brakes on two wheels")
	b.tips()
}

// carried is the most one person should carry in a box, kg: an estimate, under
// the 25 kg of the lifting equation's best case.
const carried = 15.0

// tote is a box with a floor as large as what lies in it.
func (b *builder) tote() {
	widest, deepest, highest := limit(b.need.Width, 600*mm), limit(b.need.Depth, 400*mm), limit(b.need.Height, 320*mm)
	wall := 10 * mm
	w, d := widest-2*wall, deepest-2*wall
	if w <= 0 || d <= 0 {
		return
	}
	items := slices.DeleteFunc(b.smaller(b.takers(&shop.Place{Kind: keeping.Drawer}, wider), keeping.Drawer, w, d), func(it *shop.Item) bool {
		if h := it.SizeIn(keeping.Drawer).H; h+overDrawer+wall > highest {
			b.leave(it, "it is %s high; the box may be %s", h, highest)
			return true
		}
		return false
	})
	list := b.trays(items, func(int) shop.Place { return shop.Place{Kind: keeping.Drawer, W: w, D: d, H: highest} })
	t := b.first(list, "the box is full; make another")
	if t == nil {
		return
	}
	t.p.H = up(t.high()+overDrawer, 5*mm)
	t.p.At = shop.At{In: b.base, X: wall, Z: wall}
	b.fill([]*tray{t}, "open")
	c := &shop.Container{ID: b.base, Name: b.out.Title, Kind: "tote", W: widest, H: t.p.H + wall, D: deepest, Portable: true}
	b.out.Container = c
	b.out.W, b.out.H, b.out.D = c.W, c.H, c.D
	b.rule("one layer, inside %s, as high as what is highest", length.Size(w, d))
	b.spare("%.0f %% of its floor", 100*(1-t.space.Used()/t.space.Room()))
	kg := 0.0
	for _, r := range t.runs {
		kg += r.it.KG.KG() * float64(r.n)
	}
	if kg > carried {
		b.caution("full it weighs %s and more: over %s two carry it, or make two of it", weight.Rough(kg), weight.KG(carried))
	}
}

// hook holds one thing.
func (b *builder) hook() {
	p := shop.Place{ID: b.base, Kind: keeping.Hook}
	items := b.takers(&p, higher)
	for i, it := range items {
		if i > 0 || it.Number() > 1 {
			b.leave(it, "a hook holds one thing")
			continue
		}
		size := it.SizeIn(keeping.Hook)
		if b.need.Width > 0 && size.W > b.need.Width || b.need.Height > 0 && size.H > b.need.Height || b.need.Depth > 0 && size.D+10*mm > b.need.Depth {
			b.leave(it, "it is %s, more than is allowed", length.Size(size.W, size.H, size.D))
			continue
		}
		p.W, p.H, p.D = size.W, size.H, size.D+10*mm
		b.settle(&p, []run{{it: it, n: 1, w: size.W}}, []pack.Spot{{}}, 1, 1)
		b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
		b.rule("as large as the thing")
		b.spare("nothing: it is for this one")
	}
}

// spot is a marked piece of floor.
func (b *builder) spot() {
	widest, deepest := limit(b.need.Width, 1200*mm), limit(b.need.Depth, 800*mm)
	items := b.smaller(b.takers(&shop.Place{Kind: keeping.Floor}, wider), keeping.Floor, widest, deepest)
	if b.need.Height > 0 {
		items = b.low(items, keeping.Floor, b.need.Height, 0)
	}
	list := b.trays(items, func(int) shop.Place { return shop.Place{Kind: keeping.Floor, W: widest, D: deepest, H: 3000 * mm} })
	t := b.first(list, "the spot is full; make it larger or make another")
	if t == nil {
		return
	}
	t.p.H, t.p.ID, t.p.Access = t.high(), b.base, "open"
	b.hand(t)
	b.out.W, b.out.H, b.out.D = t.p.W, t.p.H, t.p.D
	b.rule("what stands there covers %.0f %% of it", 100*t.space.Used()/t.space.Room())
	b.spare("%.0f %% of the floor", 100*(1-t.space.Used()/t.space.Room()))
}

// stand is a board on a foot that turns.
func (b *builder) stand() {
	b.field("board", 600*mm, 1400*mm)
	b.inContainer("trolley")
	if c := b.out.Container; c != nil { // its foot
		b.out.Places[0].At.Z, c.H = board, c.H+board
		b.out.H = c.H
	}
	b.tips()
}

// inContainer puts the one place of a design into a container of its size.
func (b *builder) inContainer(kind shop.ContainerKind) {
	if len(b.out.Places) == 0 {
		return
	}
	p := &b.out.Places[0]
	old := p.ID
	p.ID = b.base + "-1"
	p.At = shop.At{In: b.base}
	for i := range b.out.Homes {
		if b.out.Homes[i].Place == old {
			b.out.Homes[i].Place = p.ID
		}
	}
	b.out.Container = &shop.Container{ID: b.base, Name: b.out.Title, Kind: kind, W: p.W, H: p.H, D: p.D + board}
	b.out.D = p.D + board
}

// rail holds things side by side at positions of its pitch.
func (b *builder) rail() {
	p := shop.Place{ID: b.base, Kind: keeping.Rail, Style: "magnet", Pitch: 25 * mm}
	items := b.takers(&p, higher)
	if len(items) == 0 {
		return
	}
	var runs []run
	var spots []pack.Spot
	slot, gap := 0, length.Length(0)
	end := length.Length(0)
	longest := length.Length(float64(limit(b.need.Width, 3000*mm)) * (1 - b.need.Reserve))
	for _, it := range items {
		next := length.Length(it.Number())*it.W + length.Length(it.Number()-1)*it.KeptClear()
		if end+max(gap, it.KeptClear())+p.Pitch+next > longest {
			b.leave(it, "the rail is full: it may be %s long", limit(b.need.Width, 3000*mm))
			continue
		}
		if end > 0 {
			slot = int((end + max(gap, it.KeptClear()) + p.Pitch - 1) / p.Pitch)
		}
		w := length.Length(it.Number())*it.W + length.Length(it.Number()-1)*it.KeptClear()
		runs = append(runs, run{it, it.Number(), length.Length(slot) * p.Pitch, w})
		spots = append(spots, pack.Spot{Slot: slot})
		end, gap = length.Length(slot)*p.Pitch+w, it.KeptClear()
		p.H, p.D = max(p.H, it.H), max(p.D, it.D)
	}
	if len(runs) == 0 {
		return
	}
	p.W = up(length.Length(float64(end)/(1-b.need.Reserve)), p.Pitch)
	p.D = max(p.D, 20*mm)
	b.settle(&p, runs, spots, float64(end), float64(p.W))
	b.rule("things side by side with clearance between them, at steps of %s", p.Pitch)
	b.spare("%s of its length", p.W-end)
	b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
}

// clampPitch is the width of a slot for a clamp: its widest part and finger room.
func clampPitch(it *shop.Item) length.Length {
	switch it.Kind {
	case "parallel-clamp", "pipe-clamp", "bar-clamp":
		return it.W + fingersBig
	}
	return it.W + fingers
}

func bladeSlot(it *shop.Item) length.Length {
	return max(bladePitch, it.SizeIn(keeping.Slots).W+fingers)
}
func narrowSlot(it *shop.Item) length.Length { return it.SizeIn(keeping.Slots).W + 5*mm }
func fingerSlot(it *shop.Item) length.Length { return it.SizeIn(keeping.Slots).W + fingers }
func bitSlot(it *shop.Item) length.Length    { return it.SizeIn(keeping.Slots).W + bitRoom }

// slots makes a run of equal slots for each size of thing, the longest first.
func (b *builder) slots(pitch func(*shop.Item) length.Length, drop length.Length) {
	p := shop.Place{ID: b.base, Kind: keeping.Slots}
	items := b.takers(&p, higher)
	if len(items) == 0 {
		return
	}
	var runs []run
	var spots []pack.Spot
	slot, used := 0, 0
	for _, it := range items {
		n := it.Number()
		free := int(math.Ceil(float64(n)*b.need.Reserve - 1e-9))
		size := it.SizeIn(keeping.Slots)
		w := max(up(pitch(it), 5*mm), size.W)
		r := shop.SlotRun{N: n + free, W: w, H: size.H + drop, D: size.D + 10*mm}
		if widest := limit(b.need.Width, 6000*mm); p.W+length.Length(r.N)*w > widest {
			b.leave(it, "%s more are needed than the %s there are", p.W+length.Length(r.N)*w-widest, widest)
			continue
		}
		if b.need.Height > 0 && r.H > b.need.Height {
			b.leave(it, "it hangs %s down; %s are free", r.H, b.need.Height)
			continue
		}
		p.Slots = append(p.Slots, r)
		runs, spots = append(runs, run{it: it, n: n}), append(spots, pack.Spot{Slot: slot})
		slot += r.N
		used += n
		p.W += length.Length(r.N) * w
		p.H, p.D = max(p.H, r.H), max(p.D, r.D)
	}
	if slot == 0 {
		return
	}
	b.settle(&p, runs, spots, float64(used), float64(slot))
	b.rule("each slot as wide as the widest part and finger room; %s must be clear below the rail", p.H)
	b.spare("%d of %d slots", slot-used, slot)
	b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
}

// oneShelf is a shelf on the wall as long as what stands on it.
func (b *builder) oneShelf() {
	p := shop.Place{ID: b.base, Kind: keeping.Shelf}
	items := b.takers(&p, higher)
	rows := b.rows(items, keeping.Shelf, limit(b.need.Width, 2400*mm))
	if len(rows) == 0 {
		return
	}
	for _, r := range rows[1:] {
		for _, x := range r.runs {
			b.leave(x.it, "the shelf is full; a shelf unit has more of them")
		}
	}
	b.shelf(&p, rows[0], up(length.Length(float64(rows[0].used)/(1-b.need.Reserve)), 10*mm))
	b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
	b.spare("%s of its length", p.W-rows[0].used)
	b.sags(p.W, p.D, rows[0])
}

// shelf puts a row onto a shelf of a width.
func (b *builder) shelf(p *shop.Place, r row, w length.Length) {
	p.W, p.H, p.D = w, r.h+overThings, max(p.D, b.deepest([]row{r}, keeping.Shelf)+10*mm)
	spots := make([]pack.Spot, len(r.runs))
	area := 0.0
	for i, x := range r.runs {
		spots[i] = pack.Spot{X: x.x}
		area += float64(x.w)
	}
	b.settle(p, r.runs, spots, area, float64(w))
}

// shelves makes a case with a shelf for each row of things.
func (b *builder) shelves(kind shop.ContainerKind, widest, deepest, highest length.Length, closed bool) {
	probe := shop.Place{Kind: keeping.Shelf}
	widest, deepest, highest = limit(b.need.Width, widest), limit(b.need.Depth, deepest), limit(b.need.Height, highest)
	items := slices.DeleteFunc(b.takers(&probe, higher), func(it *shop.Item) bool {
		if d := it.SizeIn(keeping.Shelf).D; d+10*mm > deepest {
			b.leave(it, "it is %s deep; the case is %s", d, deepest)
			return true
		}
		return false
	})
	inside, foot := widest-2*board, board
	if kind == "cart" {
		foot += casters
	}
	items = b.low(items, keeping.Shelf, highest, overThings+board+foot)
	if inside <= 0 || len(items) == 0 {
		return
	}
	w := b.widthFor(items, keeping.Shelf, inside, highest, overThings+board)
	rows := b.rows(items, keeping.Shelf, w)
	for len(rows) > 0 && sum(rows, func(r row) length.Length { return r.h + overThings + board })+foot > highest {
		for _, x := range rows[len(rows)-1].runs {
			b.leave(x.it, "there is no shelf left for it: the case may be %s high", highest)
		}
		rows = rows[:len(rows)-1]
	}
	if len(rows) == 0 {
		return
	}
	// The heaviest shelf lowest.
	slices.SortStableFunc(rows, func(a, c row) int { return cmp.Compare(c.kg, a.kg) })
	least := leastCase
	if kind == "cart" {
		least = leastCart
	}
	deep := min(max(up(b.deepest(rows, keeping.Shelf)+10*mm, 10*mm), least), deepest)
	z := foot
	heaviest := rows[0]
	for _, r := range rows {
		p := shop.Place{ID: b.part(), Kind: keeping.Shelf, D: deep, At: shop.At{In: b.base, X: board, Z: z}}
		b.shelf(&p, r, w)
		z += r.h + overThings + board
	}
	c := &shop.Container{ID: b.base, Name: b.out.Title, Kind: kind, W: w + 2*board, H: z, D: deep}
	if closed {
		c.Access, c.DustTight, c.Lockable = "door", true, true
		c.D += doorDeep
		b.caution("solvents and finishes: keep it away from heaters, chargers and flames, and follow what their labels and your local rules ask")
	}
	b.out.Container = c
	b.out.W, b.out.H, b.out.D = c.W, c.H, c.D
	b.rule("%d shelves as high as their tallest thing and %s, the heaviest lowest", len(rows), overThings)
	b.spare("%.0f %% of every shelf", 100*b.need.Reserve)
	b.sags(w, deep, heaviest)
}

// What a case of shelves and a cart are deep at least, however thin the things are (estimates): what is less is hardly
// built, and does not stand on casters.
const (
	leastCase = 100 * mm
	leastCart = 300 * mm
)

// sags says how much a plywood shelf of 18 mm sags under its row, and what cures it.
func (b *builder) sags(w, d length.Length, r row) {
	wood, err := load.WoodByID("plywood")
	if err != nil {
		return
	}
	s := load.Board{Span: w.MM(), B: d.MM(), T: board.MM(), Wood: wood}
	sag, err := s.Sag(r.kg.KG())
	if err != nil {
		return
	}
	b.rule("%s plywood over %s sags %s under %s; %s are seen", (18 * length.Millimetre).Stock(), w, length.Fine(sag), r.kg, length.Fine(w.MM()*load.SagShare))
	if sag > w.MM()*load.SagShare {
		s.Strips, s.StripT, s.StripH = 1, 18, 40
		if stiff, err := s.Sag(r.kg.KG()); err == nil {
			b.caution("the fullest shelf sags: with a strip of %s along its edge %s", length.Size(18*length.Millimetre, 40*length.Millimetre), length.Fine(stiff))
		}
	}
}

// tips says how far a cart or stand may be tilted.
func (b *builder) tips() {
	c := b.out.Container
	if c == nil {
		return
	}
	stock := carry.Stock{Places: b.out.Places, Homes: b.out.Homes, Item: b.item}
	a, err := stock.Tilt(c, 0)
	if err != nil {
		b.caution("it is too narrow to stand on wheels")
		return
	}
	b.rule("full it tips at %.0f° over its narrow side on a level floor", a)
	if a < load.TipBarred {
		b.caution("it tips at %.0f°: make it wider or lower, or fix it to the wall", a)
	} else if a < load.TipCaution {
		b.caution("it tips at %.0f°: keep the heavy things low and push it at its foot", a)
	}
}
