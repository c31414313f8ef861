// Package cutting works out how parts are cut from boards and sheets: by cuts that go right through what is in the hand, one after the
// other, with the width of the saw counted. It says how far its plan may be from the best there is. Lengths are mm, areas mm²; costs are
// prices where they are given, else m² of stock.
package cutting

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync"
)

// Grain of a part: along which of its sides it runs.
type Grain string

// The ways grain runs. Along the length of the stock is along the length of the part, along its width, or it does not matter.
const (
	AlongL   Grain = "l"
	AlongW   Grain = "w"
	Whatever Grain = "none"
)

// Part is a kind of part that is wanted.
type Part struct {
	Name     string  `json:"name"`
	Count    int     `json:"count"`
	L        float64 `json:"l" doc:"mm"`
	W        float64 `json:"w" doc:"mm"`
	T        float64 `json:"t" doc:"mm"`
	Material string  `json:"material"`
	Grain    Grain   `json:"grain" enum:"l,w,none"`
}

// Stock is a kind of board or sheet there is, or that may be bought.
type Stock struct {
	Name     string  `json:"name"`
	Count    int     `json:"count" doc:"how many there are; -1 when it may be bought"`
	L        float64 `json:"l" doc:"mm, along the grain"`
	W        float64 `json:"w" doc:"mm"`
	T        float64 `json:"t" doc:"mm"`
	Material string  `json:"material"`
	Price    float64 `json:"price" doc:"of one; 0 when it has none"`
}

// Goals a plan is looked for by.
const (
	LeastWaste  = "least-waste"
	FewestCuts  = "fewest-cuts"
	FewestNew   = "fewest-new" // what there is first, however much is left of it
	SmallestOne = "small-first"
)

// Goals there are.
var Goals = []string{LeastWaste, FewestCuts, FewestNew, SmallestOne}

// Options of a plan.
type Options struct {
	Kerf   float64        // what the saw takes, mm
	Trim   float64        // taken off each edge first, mm
	Goal   string         // least waste when left out
	Spent  func() float64 // share of the time that is used up: from 0, over from 1 on
	Rounds int            // in place of time: so many rounds, for the same plan again
	Seed   uint64
	Stop   func() bool
}

// Rect is a piece that is left.
type Rect struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	L float64 `json:"l"`
	W float64 `json:"w"`
}

// Placed part.
type Placed struct {
	Part   string  `json:"part"`
	X      float64 `json:"x" doc:"mm from the left end of the stock"`
	Y      float64 `json:"y" doc:"mm from its lower edge"`
	L      float64 `json:"l" doc:"along the length of the stock"`
	W      float64 `json:"w"`
	Turned bool    `json:"turned" doc:"its length lies across the stock"`
}

// Cut goes right through a piece. Along l it runs along the length of the stock, at so much from the lower edge of the piece; along w it
// runs across, at so much from its left end. It gives that much first, then the rest less the kerf.
type Cut struct {
	N     int     `json:"n"`
	Along string  `json:"along" enum:"l,w"`
	At    float64 `json:"at"`
	Of    int     `json:"of" doc:"number of the piece; 0 is the whole, once it is trimmed"`
	Gives [2]int  `json:"gives"`
}

// Piece of stock that is cut.
type Piece struct {
	Stock   string   `json:"stock"`
	L       float64  `json:"length"`
	W       float64  `json:"width"`
	Trim    float64  `json:"trim" doc:"taken off each edge before the first cut"`
	Bought  bool     `json:"bought"`
	Cuts    []Cut    `json:"cuts" nullable:"false"`
	Parts   []Placed `json:"parts" nullable:"false"`
	Offcuts []Rect   `json:"offcuts" nullable:"false" doc:"what is left, the largest first"`
}

// Plan of cuts.
type Plan struct {
	Bound    float64  `json:"bound" doc:"no plan uses less: of the relaxed programme, rounded up to whole pieces of stock"`
	Used     float64  `json:"used" doc:"m² of stock, or its price where prices are given"`
	Gap      float64  `json:"gap" doc:"by which share it may be more than need be"`
	Pieces   []Piece  `json:"pieces" nullable:"false"`
	Unplaced []string `json:"unplaced" nullable:"false" doc:"names of parts for which there is no stock, one for each"`
	Area     float64  `json:"area" doc:"m² of the parts that are placed"`
	Stocked  float64  `json:"stocked" doc:"m² of the stock they are cut from"`
	Cuts     int      `json:"cut_count"`
	Kerf     float64  `json:"kerf" doc:"mm"`
}

// sizes that are looked at, mm, and how many parts.
const (
	largest   = 30_000
	mostParts = 5000
)

// Check says which part or piece of stock is wrong, and what would be right.
func Check(parts []Part, stock []Stock, o Options) error {
	n := 0
	for i, p := range parts {
		where := fmt.Sprintf("part %d (%s)", i+1, p.Name)
		switch {
		case p.Count < 1:
			return fmt.Errorf("%s: a count of %d; at least 1", where, p.Count)
		case !(p.L > 0 && p.L <= largest && p.W > 0 && p.W <= largest && p.T > 0 && p.T <= largest):
			return fmt.Errorf("%s: %g x %g x %g; length, width and thickness are millimetres over 0 and up to %d", where, p.L, p.W, p.T, largest)
		case p.Grain != AlongL && p.Grain != AlongW && p.Grain != Whatever && p.Grain != "":
			return fmt.Errorf("%s: grain %q; it is l, w or none", where, p.Grain)
		}
		if n += p.Count; n > mostParts {
			return fmt.Errorf("%s: more than %d parts in one plan; make two of it", where, mostParts)
		}
	}
	for i, s := range stock {
		where := fmt.Sprintf("stock %d (%s)", i+1, s.Name)
		switch {
		case s.Count < -1:
			return fmt.Errorf("%s: a count of %d; leave it empty when it may be bought", where, s.Count)
		case !(s.L > 0 && s.L <= largest && s.W > 0 && s.W <= largest && s.T > 0 && s.T <= largest):
			return fmt.Errorf("%s: %g x %g x %g; length, width and thickness are millimetres over 0 and up to %d", where, s.L, s.W, s.T, largest)
		case s.Price < 0 || math.IsNaN(s.Price) || math.IsInf(s.Price, 0):
			return fmt.Errorf("%s: a price of %g", where, s.Price)
		}
	}
	if !(o.Kerf >= 0 && o.Kerf <= 20) {
		return fmt.Errorf("a kerf of %g mm; from 0 to 20", o.Kerf)
	}
	if !(o.Trim >= 0 && o.Trim <= 100) {
		return fmt.Errorf("a trim of %g mm; from 0 to 100", o.Trim)
	}
	return nil
}

// of the same thickness within, mm.
const same = .05

// Of is a plan for parts out of stock. Parts of each material and thickness are planned by themselves, in the order in which they are
// first named.
func Of(parts []Part, stock []Stock, o Options) (*Plan, error) {
	if err := Check(parts, stock, o); err != nil {
		return nil, err
	}
	if o.Spent == nil && o.Rounds <= 0 {
		o.Rounds = usualRounds
	}
	out := &Plan{Pieces: []Piece{}, Unplaced: []string{}, Kerf: o.Kerf}
	type group struct {
		material string
		t        float64
	}
	var groups []group
	for _, p := range parts {
		if !slices.ContainsFunc(groups, func(g group) bool { return g.material == p.Material && math.Abs(g.t-p.T) < same }) {
			groups = append(groups, group{p.Material, p.T})
		}
	}
	priced := slices.ContainsFunc(stock, func(s Stock) bool { return s.Price > 0 })
	for k, g := range groups {
		pr := &problem{o: o, rng: rand.New(rand.NewPCG(o.Seed, uint64(k)+1))}
		for _, p := range parts {
			if p.Material == g.material && math.Abs(p.T-g.t) < same {
				pr.parts = append(pr.parts, p)
			}
		}
		for _, s := range stock {
			if s.Material == g.material && math.Abs(s.T-g.t) < same && s.Count != 0 && s.L > 2*o.Trim && s.W > 2*o.Trim {
				pr.add(s, priced)
			}
		}
		pr.until = o.until(len(groups) - k)
		pr.solve(out)
	}
	if out.Used > 0 && len(out.Unplaced) == 0 {
		out.Gap = max(0, out.Used-out.Bound) / max(out.Bound, 1e-12)
	}
	slices.Sort(out.Unplaced)
	return out, nil
}

// usualRounds are made where neither time nor rounds are given.
const usualRounds = 20

// until gives what tells whether a part of the time is up that one of so many groups has, or of its rounds.
func (o *Options) until(groups int) func(part float64) func() bool {
	stopped := func() bool { return o.Stop != nil && o.Stop() }
	if o.Rounds > 0 {
		return func(part float64) func() bool {
			n := 0
			return func() bool { n++; return stopped() || float64(n) > part*float64(o.Rounds) }
		}
	}
	began := o.Spent()
	share := max(0, 1-began) / float64(groups)
	return func(part float64) func() bool {
		return func() bool { return stopped() || o.Spent() > began+part*share }
	}
}

// side is a part as it can lie: l along the stock, both with the kerf.
type side struct {
	kind   int
	l, w   float64
	turned bool
}

// bin is a kind of stock, with the kerf on its sides so that cuts need no room.
type bin struct {
	Stock
	l, w, cost float64
	left       int // how many there are; many when it may be bought
}

// many is more than any plan takes.
const many = 1 << 20

// problem is the parts of one material and thickness.
type problem struct {
	o     Options
	parts []Part
	areas []float64 // of a part of each kind with the kerf, mm²
	bins  []bin
	sides []side // of all kinds
	rng   *rand.Rand
	until func(part float64) func() bool
	over  func() bool // the whole time is up
}

func (pr *problem) add(s Stock, priced bool) {
	b := bin{Stock: s, l: s.L - 2*pr.o.Trim + pr.o.Kerf, w: s.W - 2*pr.o.Trim + pr.o.Kerf, cost: s.L * s.W / 1e6, left: s.Count}
	if s.Count < 0 {
		b.left = many
	}
	if priced {
		if b.cost *= 1e-6; s.Price > 0 {
			b.cost = s.Price
		}
	}
	pr.bins = append(pr.bins, b)
}

// tight is by how much sums of sizes may be off, mm.
const tight = 1e-6

// lay finds how parts can lie, and sets aside those for which no stock is large enough.
func (pr *problem) lay() (want []int, none []string) {
	want = make([]int, len(pr.parts))
	for i, p := range pr.parts {
		pr.areas = append(pr.areas, (p.L+pr.o.Kerf)*(p.W+pr.o.Kerf))
		want[i] = p.Count
		fits := false
		for _, turned := range []bool{false, true} {
			if turned && (p.Grain == AlongL || p.L == p.W) || !turned && p.Grain == AlongW {
				continue
			}
			s := side{i, p.L + pr.o.Kerf, p.W + pr.o.Kerf, turned}
			if turned {
				s.l, s.w = s.w, s.l
			}
			if slices.ContainsFunc(pr.bins, func(b bin) bool { return s.l <= b.l+tight && s.w <= b.w+tight }) {
				pr.sides = append(pr.sides, s)
				fits = true
			}
		}
		if !fits {
			want[i] = 0
			for range p.Count {
				none = append(none, p.Name)
			}
		}
	}
	return want, none
}

// cutFrom is a piece of stock with how it is cut.
type cutFrom struct {
	bin  int
	tree *node
}

func (pr *problem) cost(list []cutFrom) (sum float64) {
	for _, c := range list {
		sum += pr.bins[c.bin].cost
	}
	return sum
}

// solve adds the plan of this material to the whole.
func (pr *problem) solve(out *Plan) {
	want, none := pr.lay()
	out.Unplaced = append(out.Unplaced, none...)
	bound, duals := pr.relaxed(want)
	best, missing := pr.together(want, bound, duals)
	if pr.o.Goal == FewestCuts && missing == 0 {
		best = pr.fewer(best, want)
	}
	for i, n := range pr.lacking(best, want) {
		for range n {
			out.Unplaced = append(out.Unplaced, pr.parts[i].Name)
		}
	}
	slices.SortStableFunc(best, func(a, b cutFrom) int { return cmp.Compare(a.bin, b.bin) })
	for _, c := range best {
		p := pr.written(c)
		out.Pieces = append(out.Pieces, p)
		out.Cuts += len(p.Cuts)
		out.Stocked += p.L * p.W / 1e6
		for _, x := range p.Parts {
			out.Area += x.L * x.W / 1e6
		}
	}
	out.Used += pr.cost(best)
	if missing == 0 {
		out.Bound += min(bound, pr.cost(best))
	} else {
		out.Bound += pr.cost(best)
	}
}

// searchers look for plans side by side, each in its own way.
const searchers = 2

// searched is the part of the time in which the stock that is used is looked for; with fewer cuts wanted, the rest goes to those.
func (pr *problem) searched() float64 {
	if pr.o.Goal == FewestCuts {
		return .7
	}
	return 1
}

// together gives the best plan of some searches at the same time, and how many parts it lacks.
func (pr *problem) together(want []int, bound float64, duals []float64) (best []cutFrom, missing int) {
	lists, lacks := make([][]cutFrom, searchers), make([]int, searchers)
	var wg sync.WaitGroup
	for k := range searchers {
		own := *pr
		own.rng = rand.New(rand.NewPCG(pr.o.Seed, uint64(100+k)))
		own.over = pr.until(pr.searched())
		wg.Go(func() { lists[k], lacks[k] = own.search(want, bound, duals) })
	}
	wg.Wait()
	for k := range searchers {
		if k == 0 || lacks[k] < missing || lacks[k] == missing && pr.cost(lists[k]) < pr.cost(best)-1e-12 {
			best, missing = lists[k], lacks[k]
		}
	}
	return best, missing
}

// missing is how many parts a plan does not have.
func (pr *problem) missing(list []cutFrom, want []int) (n int) {
	for _, k := range pr.lacking(list, want) {
		n += k
	}
	return n
}

// sum of what is given for each kind over the parts of a tree: their values, their areas.
func (pr *problem) sum(t *node, of []float64) (sum float64) {
	pr.kinds(t, func(k int) { sum += of[k] })
	return sum
}

// need is the area of so many parts of each kind.
func (pr *problem) need(want []int) (sum float64) {
	for i, n := range want {
		sum += pr.areas[i] * float64(n)
	}
	return sum
}

// unused is how many there are of each kind of stock beside those of a plan.
func (pr *problem) unused(list []cutFrom) []int {
	out := make([]int, len(pr.bins))
	for b := range pr.bins {
		out[b] = pr.bins[b].left
	}
	for _, c := range list {
		out[c.bin]--
	}
	return out
}

// lacking is how many of each part a plan does not have.
func (pr *problem) lacking(list []cutFrom, want []int) []int {
	left := slices.Clone(want)
	for _, c := range list {
		pr.kinds(c.tree, func(k int) { left[k]-- })
	}
	for i := range left {
		left[i] = max(0, left[i])
	}
	return left
}
