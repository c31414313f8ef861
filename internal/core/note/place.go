package note

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// PlaceReading is a line about storage that is there: a container with its places, or a place by itself, and where it
// is said to be. Neither has an id or a spot yet.
type PlaceReading struct {
	Reading
	Container *shop.Container
	Places    []shop.Place
	Where     floor.Wish
	Heights   []length.Length // said above the floor: of a shelf, of rails from below
	Usual     bool            // the height was not said: it is how high such storage usually hangs
	Drop      length.Length   // how low a rack hangs under the ceiling
	On        string          // the place it stands on, or the station it is over
	Under     string          // the station it is under
}

// stored is a kind of storage: what it is called, and how what was said becomes a place.
type stored struct {
	words []string
	// usual width, height and depth, mm (estimates).
	w, h, d float64
	// lying: its sizes are said width, depth, height.
	lying bool
	hung  bool
	z     float64 // how high it usually hangs
	make  func(*place)
}

var storedKinds = []stored{
	{words: []string{"shelving unit", "shelving", "shelves unit", "bookcase", "magazine shelf"}, w: 1000, h: 1800, d: 400, make: unitOf(shop.Shelving, "shelf", 4)},
	{words: []string{"chest of drawers", "drawer unit", "tool chest", "chest", "drawers"}, w: 700, h: 900, d: 450, make: unitOf(shop.Chest, "drawer", 5)},
	{words: []string{"wall cabinet", "hanging cabinet"}, w: 800, h: 800, d: 300, hung: true, z: 1400, make: unitOf(shop.Cabinet, "shelf", 3)},
	{words: []string{"cabinet", "cupboard"}, w: 800, h: 1800, d: 400, make: unitOf(shop.Cabinet, "shelf", 4)},
	{words: []string{"rolling cabinet", "tool cart", "cart"}, w: 800, h: 850, d: 500, make: unitOf(shop.Cart, "drawer", 5)},
	{words: []string{"crate", "tote", "box", "basket"}, w: 400, h: 280, d: 300, lying: true, make: unitOf(shop.Tote, "bin", 1)},
	{words: []string{"pegboard", "peg board"}, w: 1200, h: 600, d: 150, hung: true, z: 1200, make: fieldOf("peg")},
	{words: []string{"tool board"}, w: 1200, h: 800, d: 150, hung: true, z: 1100, make: fieldOf("board")},
	{words: []string{"cleat rails", "cleat field", "cleats", "wall rail for cleats", "french cleats"}, w: 1200, h: 900, d: 250, hung: true, z: 1000, make: cleats},
	{words: []string{"peg rail", "dowel rail", "rail"}, w: 900, h: 400, d: 100, hung: true, z: 1600, make: railOf("dowel")},
	{words: []string{"magnet rail", "magnetic rail"}, w: 600, h: 300, d: 60, hung: true, z: 1300, make: railOf("magnet")},
	{words: []string{"shelf"}, w: 1000, h: 300, d: 250, hung: true, z: 1500, make: single("shelf")},
	{words: []string{"ceiling rack", "ceiling deck"}, w: 1200, h: 300, d: 900, lying: true, make: single("deck")},
	{words: []string{"lumber rack", "wood rack", "rack arms", "timber rack", "arms"}, w: 2400, h: 900, d: 400, hung: true, z: 1600, make: arms},
	{words: []string{"sheet stand", "sheet bay", "sheet rack"}, w: 300, h: 1300, d: 1300, make: single("sheet-bay")},
	{words: []string{"floor space", "floor field", "standing room", "floor"}, w: 1200, h: 1500, d: 600, make: single("floor")},
	{words: []string{"bin", "offcut bin"}, w: 400, h: 600, d: 400, make: single("bin")},
}

// Place reads storage that is there, as "shelving 1000x2000x450 5 shelves wall B 4.6m" or "pegboard 1200x600 over
// bench". Sizes are width, height, depth; of what lies or is carried width, depth, height.
func Place(s *shop.Shop, text string) PlaceReading {
	r := &place{station: *begun(s, text)}
	out := PlaceReading{}
	if strings.TrimSpace(text) == "" {
		out.Chips, out.Why = r.chips, "nothing is said yet"
		return out
	}
	r.kindOf()
	r.each()
	r.counts()
	r.rated()
	r.over()
	r.where()
	r.heights()
	r.sizesOf()
	r.called()
	if r.kind != nil {
		r.kind.make(r)
	}
	r.leftover("storage is written as: shelving 1000x2000x450 5 shelves wall B 4.6m")
	slices.SortStableFunc(r.chips, func(a, b Chip) int { return a.From - b.From })
	out.Chips = r.chips
	switch {
	case r.kind == nil:
		out.Why = "say what it is: shelving, drawers, cabinet, cart, crate, pegboard, cleat rails, rail, shelf, ceiling rack, lumber rack or sheet stand"
	case out.Unclear():
		out.Why = "something is not clear"
	default:
		out.Container, out.Places, out.Where, out.Heights, out.Drop, out.On, out.Under = r.container, r.places, r.at, r.zs, r.drop, r.on, r.under
		if r.kind.hung && len(out.Heights) == 0 {
			out.Heights, out.Usual = []length.Length{length.MM(r.kind.z)}, true
		}
		if out.Container != nil {
			out.Entry = struct {
				Container *shop.Container `json:"container"`
				Places    []shop.Place    `json:"places"`
			}{out.Container, out.Places}
		} else {
			out.Entry = out.Places[0]
		}
	}
	return out
}

type place struct {
	station
	kind      *stored
	name      string
	n         int             // shelves, drawers, levels
	apart     length.Length   // from arm to arm
	unlike    []length.Length // their heights from the top, where they differ
	doors     bool
	capacity  weight.Weight
	w, h, d   length.Length
	zs        []length.Length
	drop      length.Length
	on, under string
	container *shop.Container
	places    []shop.Place
}

func (r *place) kindOf() {
	best, at := 0, 0
	for i := range r.all {
		for k := range storedKinds {
			for _, w := range storedKinds[k].words {
				for _, form := range []string{w, w + "s"} {
					if n := r.phrase(i, form); n > best {
						best, at, r.kind = n, i, &storedKinds[k]
					}
				}
			}
		}
		if best > 0 {
			break
		}
	}
	if best > 0 {
		r.name = r.text[r.all[at].from:r.all[at+best-1].to]
		r.piece(at, at+best, "name", "%s that is there", strings.ToLower(r.name))
	}
}

func (r *place) counts() {
	for i := range r.all {
		t := &r.all[i]
		if t.kind != long || t.used || !t.bare || t.value != float64(int(t.value)) || t.value < 1 || t.value > 60 {
			continue
		}
		switch {
		case r.is(i+1, "shelves", "shelf", "drawers", "drawer", "levels", "level", "arms", "rows"):
			r.n = int(t.value)
			r.piece(i, i+2, "count", "%d %s", r.n, r.all[i+1].text)
		case r.is(i+1, "doors", "door"):
			r.doors = true
			r.piece(i, i+2, "count", "opens with a door")
		}
	}
	for i := range r.all {
		if r.is(i, "two", "one", "with") && r.is(i+1, "doors", "door") || r.is(i, "doors") {
			k := i + 1
			if r.is(k, "doors", "door") {
				k++
			}
			r.doors = true
			r.piece(i, k, "count", "opens with a door")
		}
	}
}

// each reads the heights of drawers or shelves that are not alike, from the top: "heights 60 60 100 200".
func (r *place) each() {
	for i := range r.all {
		if !r.is(i, "heights", "high") || !r.isLong(i+1) {
			continue
		}
		k := i + 1
		for r.isLong(k) {
			l, ok := r.lengthAt(k, true)
			if !ok {
				return
			}
			r.unlike = append(r.unlike, l)
			if k++; r.is(k, "and") && r.isLong(k+1) {
				k++
			}
		}
		r.n = len(r.unlike)
		r.piece(i, k, "size", "%d from the top, %s to %s high", r.n, slices.Min(r.unlike), slices.Max(r.unlike))
		return
	}
}

func (r *place) rated() {
	for i := range r.all {
		if t := &r.all[i]; t.kind == kilos && !t.used {
			r.capacity = weight.KG(t.value)
			from := i
			if r.is(i-1, "rated", "carries", "for") {
				from--
			}
			r.piece(from, i+1, "weight", "rated for %s", r.capacity)
		}
	}
}

// over or under a station, or on a place.
func (r *place) over() {
	for i := range r.all {
		if !r.is(i, "over", "on", "under") {
			continue
		}
		k := i + 1
		for r.is(k, "the") {
			k++
		}
		if k >= len(r.all) || r.all[k].kind != word {
			continue
		}
		id := r.all[k].raw
		if r.is(i, "on") && r.is(k, "floor", "casters", "castors", "wheels") {
			r.piece(i, k+1, "at", "stands on the floor")
			return
		}
		if p := shop.NewIndex(r.shop).Place(strings.ToUpper(id)); p != nil && r.is(i, "on") {
			r.on = p.ID
			r.piece(i, k+1, "at", "on %s", p.ID)
			return
		}
		for _, st := range r.shop.Stations {
			if !strings.EqualFold(st.ID, id) && !strings.EqualFold(string(st.Kind), id) && !strings.Contains(strings.ToLower(st.Name), r.all[k].text) {
				continue
			}
			if r.is(i, "over") {
				r.on = st.ID
				r.piece(i, k+1, "at", "over %s", st.Name)
				return
			}
			if r.is(i, "under") {
				r.under = st.ID
				r.piece(i, k+1, "at", "under %s", st.Name)
				return
			}
		}
	}
}

// heights above the floor that are said with "at" or "up", and the drop under a ceiling.
func (r *place) heights() {
	for i := range r.all {
		if r.is(i, "drop") && r.isLong(i+1) {
			if l, ok := r.lengthAt(i+1, false); ok {
				r.drop = l
				r.piece(i, i+2, "size", "hangs %s below the ceiling", l)
			}
		}
		if !r.is(i, "at", "up", "bottom", "above") || !r.isLong(i+1) || i+2 < len(r.all) && r.all[i+2].kind == by {
			continue
		}
		k := i + 1
		var zs []length.Length
		for r.isLong(k) {
			l, ok := r.lengthAt(k, true)
			if !ok {
				return
			}
			zs = append(zs, l)
			k++
			if r.is(k, "and", "to") && r.isLong(k+1) {
				k++
			}
		}
		r.zs = append(r.zs, zs...)
		r.piece(i, k, "at", "%s above the floor", zs[0])
	}
	slices.Sort(r.zs)
}

func (r *place) sizesOf() {
	r.sizes()
	if r.kind == nil {
		return
	}
	usual := []float64{r.kind.w, r.kind.h, r.kind.d}
	if r.kind.lying {
		usual = []float64{r.kind.w, r.kind.d, r.kind.h}
	}
	side := make([]length.Length, 3)
	for i := range side {
		side[i] = length.MM(usual[i])
		if i < len(r.dims) {
			side[i] = r.dims[i]
		}
	}
	for i := range r.all { // arms are so far apart, and what stands by itself then is how long they are
		if r.isLong(i) && r.is(i+1, "apart") {
			if l, ok := r.lengthAt(i, true); ok {
				r.apart = l
				r.piece(i, i+2, "size", "arms %s apart", l)
			}
		}
	}
	for i := range r.all { // one length by itself is the width; a number behind drawers is how many
		if !r.isLong(i) {
			continue
		}
		t := &r.all[i]
		if t.bare && t.value <= 30 && r.n == 0 && len(r.dims) > 0 {
			r.n = int(t.value)
			r.piece(i, i+1, "count", "%d inside", r.n)
			continue
		}
		if l, ok := r.lengthAt(i, !t.bare); ok && len(r.dims) == 0 {
			side[0] = l
			k := i + 1
			if r.is(k, "long", "wide") {
				k++
			}
			r.piece(i, k, "size", "%s wide", l)
			r.dims = append(r.dims, l)
		}
	}
	r.w, r.h, r.d = side[0], side[1], side[2]
	if r.kind.lying {
		r.h, r.d = side[2], side[1]
	}
	for i := range r.chips {
		if c := &r.chips[i]; c.Kind == "size" && c.Says == "" {
			c.Says = fmt.Sprintf("%s wide, %s high, %s deep", r.w, r.h, r.d)
		}
	}
}

// adjectives say nothing of where storage is or how large.
var adjectives = []string{"steel", "metal", "wooden", "plastic", "old", "new", "big", "large", "small", "tall", "low", "high", "white", "open", "my", "his", "her"}

// called takes what is said behind "called" for the name.
func (r *place) called() {
	for i := range r.all {
		if r.is(i, adjectives...) {
			r.use(i, i+1)
		}
		if r.is(i, "called", "for") && i+1 < len(r.all) {
			k := i + 1
			for k < len(r.all) && r.all[k].kind == word && !r.all[k].used {
				k++
			}
			if k > i+1 {
				r.name = r.text[r.all[i+1].from:r.all[k-1].to]
				r.piece(i, k, "name", "called %s", r.name)
				return
			}
		}
	}
}

// board is how thick shelves and bottoms are taken to be.
const board = 18 * length.Millimetre

func unitOf(kind shop.ContainerKind, inside shop.PlaceKind, usual int) func(*place) {
	return func(r *place) {
		n := r.n
		if n == 0 {
			n = usual
		}
		r.container = &shop.Container{Name: line.Title(r.name), Kind: kind, W: r.w, H: r.h, D: r.d, Capacity: r.capacity, Portable: kind == shop.Tote}
		if r.doors || kind == shop.Cabinet {
			r.container.Access = "door"
		}
		each := (r.h - board) / length.Length(n)
		if each < 30*length.Millimetre {
			from, to := r.span()
			r.chip(from, to, unknown, fmt.Sprintf("%d in %s leaves %s each; say fewer, or a higher one", n, r.h, each), true)
			return
		}
		sum := length.Length(0)
		for _, l := range r.unlike {
			sum += l
		}
		if sum > r.h {
			from, to := r.span()
			r.chip(from, to, unknown, fmt.Sprintf("the heights come to %s, but it is %s high; make it higher, or them lower", sum, r.h), true)
			return
		}
		top := r.h
		for i := range n {
			p := shop.Place{Kind: inside, At: shop.At{X: board, Z: board + each*length.Length(n-1-i)}, W: max(r.w-2*board, r.w/2), H: each - board, D: r.d}
			if len(r.unlike) > 0 {
				top -= r.unlike[i]
				p.At.Z, p.H = top, r.unlike[i]
			}
			switch inside {
			case "drawer":
				p.Access, p.W, p.D = "drawer", max(p.W-26*length.Millimetre, r.w/2), max(r.d-50*length.Millimetre, r.d/2)
			case "bin":
				p.At.Z, p.H, p.Access = 0, r.h, "lid"
			}
			if p.H <= 0 {
				p.H = each / 2
			}
			r.places = append(r.places, p)
		}
	}
}

func fieldOf(style string) func(*place) {
	return func(r *place) {
		r.places = []shop.Place{{Name: line.Title(r.name), Kind: "wall-field", Style: style, W: r.w, H: r.h, D: r.d, Capacity: r.capacity}}
	}
}

// cleats hang things with their tops at the rails: the field reaches from one usual length below the lowest rail
// to just above the highest.
func cleats(r *place) {
	fieldOf("cleat")(r)
	p := &r.places[0]
	if len(r.zs) == 0 {
		p.Rows = []length.Length{p.H - 50*length.Millimetre}
		return
	}
	low := max(0, r.zs[0]-600*length.Millimetre)
	p.H = r.zs[len(r.zs)-1] - low + 50*length.Millimetre
	for _, z := range r.zs {
		p.Rows = append(p.Rows, z-low)
	}
	r.zs = []length.Length{low}
}

func railOf(style string) func(*place) {
	return func(r *place) {
		p := shop.Place{Name: line.Title(r.name), Kind: "rail", Style: style, W: r.w, H: r.h, D: r.d, Capacity: r.capacity}
		if len(r.zs) == 1 { // what is said is where the rail is; things hang below it
			r.zs[0] = max(0, r.zs[0]-p.H)
		}
		r.places = []shop.Place{p}
	}
}

func single(kind shop.PlaceKind) func(*place) {
	return func(r *place) {
		r.places = []shop.Place{{Name: line.Title(r.name), Kind: kind, W: r.w, H: r.h, D: r.d, Capacity: r.capacity}}
	}
}

func arms(r *place) {
	n := r.n
	if n == 0 {
		n = 3
	}
	p := shop.Place{Name: line.Title(r.name), Kind: "arms", W: r.w, H: r.h, D: r.d, Capacity: r.capacity}
	if r.apart > 0 && len(r.dims) <= 1 {
		if len(r.dims) == 1 {
			p.D = r.w
		}
		p.W, p.Arms = r.apart, 2
	}
	if len(r.zs) >= 2 {
		p.H = r.zs[len(r.zs)-1] - r.zs[0] + 200*length.Millimetre
		r.zs = r.zs[:1]
	}
	each := p.H / length.Length(n)
	for i := range n {
		p.Levels = append(p.Levels, shop.Level{Z: each * length.Length(i), H: max(each-40*length.Millimetre, each/2)})
	}
	r.places = []shop.Place{p}
}
