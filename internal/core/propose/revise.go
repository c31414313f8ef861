package propose

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"

	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/free"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// state of a proposal while it is revised: bare walls with what was made so far, and homes for everything.
type state struct {
	shop    *shop.Shop // with the homes of the plan
	made    []Made
	plan    *fit.Plan
	problem *fit.Problem // of the shop
}

// settled with the homes of a plan for a problem.
func settled(p *fit.Problem, s *shop.Shop, made []Made, plan *fit.Plan) (*state, error) {
	next := plan.Apply(s)
	same, ok := s.PlacesChanged(next)
	if !ok {
		return nil, fmt.Errorf("a plan changed more than homes")
	}
	after, err := p.Next(next, same)
	if err != nil {
		return nil, err
	}
	return &state{next, made, plan, after}, nil
}

// lacks is what a thing without a home counts, in seconds a week: more than any handling.
const lacks = 1e5

// aPiece is what each piece of storage counts, in seconds a week (estimate): it has to be built, and its screws found again.
const aPiece = 1.0

// cost of a state: handling, what it has no home for, and its pieces.
func (x *state) cost() float64 {
	return x.plan.Objective + lacks*float64(len(x.plan.Homeless)) + aPiece*float64(len(x.made))
}

// evening of building is so long, in hours: what is left of a working day (estimate).
const evening = 2.0

// spent is what is used of each part of a budget that is limited, and what there is of it.
func (o *Options) spent(made ...Made) (out [][2]float64) {
	sheet, money, hours, holes := 0.0, 0.0, 0.0, 0
	for i := range made {
		m := &made[i]
		sheet, hours, holes = sheet+m.Sheet, hours+m.Hours, holes+m.Holes
		money += m.Sheet*o.prices.Sheet + m.Rail*o.prices.Rail
	}
	b := &o.Budget
	for _, x := range []struct {
		used float64
		most *float64
	}{{sheet, b.Sheet}, {money, b.Money}, {hours, b.Hours}} {
		if x.most != nil {
			out = append(out, [2]float64{x.used, *x.most})
		}
	}
	for _, x := range []struct {
		used float64
		most *int
	}{{float64(len(made)), b.Pieces}, {math.Ceil(hours/evening - 1e-9), b.Evenings}, {float64(holes), b.Holes}} {
		if x.most != nil {
			out = append(out, [2]float64{x.used, float64(*x.most)})
		}
	}
	return out
}

// over tells whether more is built than may be.
func (o *Options) over(made []Made) bool {
	return slices.ContainsFunc(o.spent(made...), func(x [2]float64) bool { return x[0] > x[1]+1e-9 })
}

// takes is what share of the budget a piece takes, for what is taken down first when there is too much of it.
func (o *Options) takes(m *Made) float64 {
	sum := .01
	for _, x := range o.spent(*m) {
		sum += x[0] / max(x[1], 1e-3)
	}
	return sum
}

// trim takes down what is used least for what it takes of the budget until no more is built than may be; what lived in it has no home then.
func trim(s *shop.Shop, made []Made, o *Options) ([]Made, error) {
	for o.over(made) && len(made) > 0 {
		ix := shop.NewIndex(s)
		uses := make([]float64, len(made))
		for i := range s.Items {
			for _, h := range ix.Homes(s.Items[i].ID) {
				id := pieceOf(ix, h.Place)
				if k := slices.IndexFunc(made, func(m Made) bool { return m.ID == id }); k >= 0 {
					uses[k] += s.Items[i].UsesPerWeek
				}
			}
		}
		least := 0
		for k := range made {
			if uses[k]/o.takes(&made[k]) < uses[least]/o.takes(&made[least]) {
				least = k
			}
		}
		if _, err := storage.Remove(s, made[least].ID); err != nil {
			return nil, err
		}
		made = slices.Delete(slices.Clone(made), least, least+1)
	}
	return made, nil
}

// How a revision begins: what is tried at random.
var (
	tiers = []float64{0, .2, .5}     // share of the things that count as used most
	mosts = []int{2, 4, 14, 28, 50}  // that go together
	bands = []int{1, 1, 2, 4, 8, 14} // things that get storage of their own
	large = []int{4, 8, 14, 28, 50}  // where not much more may be built
)

// reviser of a proposal.
type reviser struct {
	o       Options
	rng     *rand.Rand
	before  map[string]bool     // rules broken before anything was made
	ideal   map[string]float64  // seconds a week of an item if it had the best spot on the walls and at the stations to itself
	holders map[string][]string // kinds of storage that hold an item
	bare    *site               // before anything was made
	walls   *free.Result        // what is free now
}

// revise a proposal: again and again some of what was made is taken down, and what lived in it, or what costs most beyond its best, gets storage
// otherwise: another kind, another size, elsewhere, split or merged. What is quicker in use is kept (ruin and recreate, as for homes). The same
// tries give the same proposal.
func revise(x *state, before map[string]bool, o Options, from, to float64) (*state, error) {
	open, err := o.open()
	if err != nil {
		return x, nil //nolint:nilerr // stopped: what there is counts
	}
	ideal := idealOf(open, x.shop)
	holders := holdersOf(x.shop)
	bare, err := at(o.bare, x.problem.Scenes(), nil)
	if err != nil {
		return nil, err
	}
	walls := bare.free().Of(x.problem.Map())
	taken := 0
	for n := 0; n < o.Revisions && !o.Done() && o.Spent() < revising; n += beside {
		o.Progress(from+(to-from)*max(float64(n)/float64(o.Revisions), o.Spent()/revising), "revising")
		var tried [beside]*state
		var errs [beside]error
		var all sync.WaitGroup
		for k := range beside {
			r := &reviser{o, rand.New(rand.NewPCG(o.Seed, uint64(n+k))), before, ideal, holders, bare, walls}
			all.Go(func() { tried[k], errs[k] = r.revised(x) })
		}
		all.Wait()
		if err := errors.Join(errs[:]...); err != nil {
			return nil, err
		}
		best := x
		for _, y := range tried {
			if y != nil && y.cost() < best.cost()-1e-6 {
				best = y
			}
		}
		if best == x {
			continue
		}
		x = best
		if taken++; taken%polished == 0 {
			if x, err = polish(x, &o); err != nil {
				return nil, err
			}
		}
		walls = walls.Of(x.problem.Map())
	}
	return x, nil
}

// beside each other so many revisions of a state are tried, and the best of them is kept. Their number is fixed, so that the same tries give the
// same proposal.
const beside = 2

// polished is after how many revisions that were kept everything may move again.
const polished = 3

// polish lets everything move.
func polish(x *state, o *Options) (*state, error) {
	wishes := wishesOf(x.shop)
	plan := x.problem.Run(fit.Options{Seed: 1, Iterations: 4 * quick, Wishes: &wishes, Done: o.Done, Quick: true})
	y, err := settled(x.problem, x.shop, x.made, plan)
	if err != nil || y.cost() >= x.cost() {
		return x, err
	}
	return y, nil
}

// wishesOf a shop in which nothing hangs yet, so that moving costs nothing.
func wishesOf(s *shop.Shop) fit.Wishes {
	w := fit.WishesOf(s)
	w.Moving = 0
	return w
}

// lawful takes down what breaks a rule that was not broken before; what lived there has no home then.
func lawful(x *state, before map[string]bool, o *Options) (*state, error) {
	for !o.Done() {
		found, err := check.Shop(x.shop)
		if err != nil {
			return nil, err
		}
		k := -1
		if worse(found, before) {
			k = faulty(found, before, x.made)
		}
		if k < 0 {
			return x, nil
		}
		d := &draft{x.shop.Clone(), slices.Clone(x.made)}
		if err := d.down(k); err != nil {
			return nil, err
		}
		if x, err = homes(d.shop, d.made, fit.Options{Seed: 1, Iterations: 1, Done: o.Done, Quick: true, KeepHomes: true}); err != nil {
			return nil, err
		}
	}
	return x, nil
}

// draft of a revision: a shop with some of the storage taken down, and what is still up.
type draft struct {
	shop *shop.Shop
	made []Made
}

// down with a piece.
func (d *draft) down(k int) error {
	_, err := storage.Remove(d.shop, d.made[k].ID)
	d.made = slices.Delete(d.made, k, k+1)
	return err
}

// downs takes some pieces down, on one wall as a rule: what is left free there may be put to other use.
func (r *reviser) downs(d *draft, many int) error {
	if len(d.made) == 0 {
		return nil
	}
	wall := d.made[r.rng.IntN(len(d.made))].Wall
	for ; many > 0 && len(d.made) > 0; many-- {
		var of []int
		for k := range d.made {
			if d.made[k].Wall == wall {
				of = append(of, k)
			}
		}
		if len(of) == 0 || r.rng.IntN(4) == 0 {
			of = []int{r.rng.IntN(len(d.made))}
		}
		if err := d.down(of[r.rng.IntN(len(of))]); err != nil {
			return err
		}
	}
	return nil
}

// revised once; nil when it comes to nothing, or more is built than may be.
func (r *reviser) revised(x *state) (*state, error) {
	d := &draft{x.shop.Clone(), slices.Clone(x.made)}
	try := r.o
	try.light, try.Progress = true, func(float64, string) {}
	var todo []group
	switch k := r.rng.IntN(20); {
	case k < 15: // storage of its own for what costs most beyond its best, and what is used with it, wherever it would go on bare walls
		ok := false
		for n := 0; n < drawn && !ok; n++ {
			var err error
			if ok, err = r.inset(x, d); err != nil {
				return nil, err
			}
		}
		if !ok {
			return nil, nil
		}
		if r.rng.IntN(3) > 0 { // what had to make room gets storage, too
			todo = groups(d.shop, try.Style, &try)
		}
	case k < 18: // some of it anew
		if err := r.downs(d, 1+r.rng.IntN(3)); err != nil {
			return nil, err
		}
		if r.rng.IntN(2) == 0 {
			dearest(d.shop, x.problem, 8+r.rng.IntN(16))
		}
		try.tier = tiers[r.rng.IntN(len(tiers))]
		if r.few(x) {
			try.most = large[r.rng.IntN(len(large))]
		} else {
			try.most, try.grows = mosts[r.rng.IntN(len(mosts))], 1.5
		}
		style := try.Style
		if r.rng.IntN(3) == 0 {
			all := Styles()
			style = all[r.rng.IntN(len(all))].ID
		}
		todo = groups(d.shop, style, &try)
	default: // less of it: what lived there goes where there is room
		if err := r.downs(d, 1+r.rng.IntN(2)); err != nil {
			return nil, err
		}
	}
	try.known, try.walls = x.problem.Scenes(), r.walls
	scratch := &Proposal{}
	next, err := putUp(d.shop, todo, scratch, try, 0, 1)
	if err != nil {
		return nil, err
	}
	d.shop, d.made = next, append(d.made, scratch.Made...)
	if r.o.Done() {
		return nil, nil
	}
	if r.o.over(d.made) { // something else has to go for it
		d.shop = d.shop.Clone() // it shares lists with the shop whose ways it took over
		if d.made, err = trim(d.shop, d.made, &r.o); err != nil {
			return nil, err
		}
	}
	y, err := r.housed(x, d)
	if err != nil || y == nil || y.cost() >= x.cost()-1e-6 {
		return nil, err
	}
	// What breaks a rule where it was put comes down again; its things go where there is room.
	for range 3 {
		found, err := check.Shop(y.shop)
		if err != nil {
			return nil, err
		}
		if !worse(found, r.before) {
			return y, nil
		}
		k := faulty(found, r.before, d.made)
		if k < 0 {
			return nil, nil
		}
		d = &draft{y.shop.Clone(), slices.Clone(d.made)}
		if err := d.down(k); err != nil {
			return nil, err
		}
		if y, err = r.housed(y, d); err != nil || y == nil || y.cost() >= x.cost()-1e-6 {
			return nil, err
		}
	}
	return nil, nil
}

// inset makes storage for a group where it would be got at best on bare walls, and takes down what is in its way.
func (r *reviser) inset(x *state, d *draft) (bool, error) {
	g := r.dear(x)
	if g == nil {
		return false, nil
	}
	best, need, err := r.spot(x, g)
	if err != nil || best == nil {
		return false, err
	}
	gain, held := -best.at.Seconds-best.at.Price, best.held()
	for i := range x.shop.Items {
		if held[x.shop.Items[i].ID] {
			gain += x.problem.Seconds(i)
		}
	}
	for _, h := range x.plan.Homeless {
		if held[h.Item] {
			gain += lacks
		}
	}
	if gain < -aPiece { // though nothing were in the way
		return false, nil
	}
	for _, it := range g.items {
		d.shop.Homes = slices.DeleteFunc(d.shop.Homes, func(h shop.Home) bool { return h.Item == it.ID && !h.Locked })
	}
	fresh := madeAt(nil, best.design, best.at)
	for k := len(d.made) - 1; k >= 0; k-- {
		if d.made[k].overlaps(&fresh) {
			if err := d.down(k); err != nil {
				return false, err
			}
		}
	}
	up, err := install(d.shop, best.kind, need, best.at)
	if err != nil || up == nil {
		return false, err
	}
	fresh = madeAt(d.shop, up.design, best.at)
	fresh.For = g.name
	d.made = append(d.made, fresh)
	return true, nil
}

// spot for a group on bare walls, by what its things would cost there and what lives there now, with some luck; nil when there is none.
func (r *reviser) spot(x *state, g *group) (best *candidate, need storage.Need, err error) {
	least := math.Inf(1)
	loss, lived := losses[r.rng.IntN(len(losses))], x.lived()
	for _, kind := range g.kinds {
		n := storage.Need{Items: g.items, Reserve: x.shop.Settings.GrowthReserve, Width: length.MM(widths[r.rng.IntN(len(widths))]), Height: length.MM(heights[r.rng.IntN(len(heights))])}
		d, err := storage.Size(kind, "new", n)
		if err != nil || len(d.Homes) == 0 {
			continue
		}
		found, err := storage.WhereIn(r.bare.scenes, r.bare.free(), d)
		if err != nil {
			return nil, n, err
		}
		sites := slices.DeleteFunc(found.Sites, func(s storage.Site) bool { return len(s.Barred) > 0 || s.On != "" })
		for i := range sites[:min(len(sites), sitesTried)] {
			c := &candidate{at: &sites[i], design: d, kind: kind}
			score := c.score(g) * (1 + .2*r.rng.Float64())
			fresh := madeAt(nil, d, c.at)
			for k := range x.made {
				if x.made[k].overlaps(&fresh) {
					score += loss * lived[x.made[k].ID]
				}
			}
			if score < least {
				best, need, least = c, n, score
			}
		}
	}
	return best, need, nil
}

// heights at most of storage that is inset, mm; 0 as usual.
var heights = []float64{0, 0, 350, 700}

// drawn are so many groups at most until one would be quicker to get at.
const drawn = 4

// sitesTried are how many of the best sites of a design on bare walls are drawn from.
const sitesTried = 6

// losses are shares of their seconds a week that what has to make room is taken to lose.
var losses = []float64{0, .1, .3, .6}

// housed finds homes in a draft for what has none, and better ones for what would gain in what is new.
func (r *reviser) housed(x *state, d *draft) (*state, error) {
	p, err := x.after(d.shop)
	if err != nil {
		return nil, err
	}
	fresh := map[string]bool{}
	for i := range d.shop.Places {
		if id := d.shop.Places[i].ID; x.problem.Map().Index.Place(id) == nil {
			fresh[id] = true
		}
	}
	asked := p.WouldGain(fresh)
	for i := range d.shop.Items { // some luck
		if r.rng.IntN(12) == 0 {
			asked = append(asked, d.shop.Items[i].ID)
		}
	}
	wishes := wishesOf(d.shop)
	plan := p.Run(fit.Options{Seed: 1, Iterations: quick, Items: asked, Wishes: &wishes, Done: r.o.Done, Quick: true})
	return settled(p, d.shop, d.made, plan)
}

// after is the problem of a later state of the shop.
func (x *state) after(next *shop.Shop) (*fit.Problem, error) {
	if c, few := x.shop.PlacesChanged(next); few {
		return x.problem.Next(next, c)
	}
	return fit.ByHours(next, func() bool { return false })
}

// pieceOf is the piece of storage that a place is, or is in.
func pieceOf(ix *shop.Index, place string) string {
	p := ix.Place(place)
	if p == nil {
		return ""
	}
	if chain, _ := ix.Chain(&p.At); len(chain) > 0 {
		return chain[len(chain)-1].ID
	}
	return p.ID
}

// lived gives the seconds a week of what lives in each piece, by its id.
func (x *state) lived() map[string]float64 {
	ix := x.problem.Map().Index
	out := map[string]float64{}
	for i := range x.shop.Items {
		for _, h := range ix.Homes(x.shop.Items[i].ID) {
			out[pieceOf(ix, h.Place)] += x.problem.Seconds(i)
			break // several alike are fetched from the first
		}
	}
	return out
}

// few tells whether not much more may be built.
func (r *reviser) few(x *state) bool {
	return slices.ContainsFunc(r.o.spent(x.made...), func(b [2]float64) bool { return b[0] > .8*b[1] })
}

// dear is a group of things that cost much beyond their best: one drawn by that, and others used at its station.
func (r *reviser) dear(x *state) *group {
	over := make([]float64, len(x.shop.Items))
	sum := 0.0
	for i := range x.shop.Items {
		it := &x.shop.Items[i]
		if best, ok := r.ideal[it.ID]; ok && it.Needs() {
			over[i] = max(0, x.problem.Seconds(i)-best)
			sum += over[i]
		}
	}
	if n := len(x.plan.Homeless); n > 0 { // as dear as all others together, however seldom they are used
		sum = max(sum, 1)
		for i := range x.shop.Items {
			if slices.ContainsFunc(x.plan.Homeless, func(h shop.Homeless) bool { return h.Item == x.shop.Items[i].ID }) {
				over[i] += sum / float64(n)
			}
		}
		sum *= 2
	}
	if sum <= 0 {
		return nil
	}
	first, at := 0, r.rng.Float64()*sum
	for first < len(over)-1 && at >= over[first] {
		at -= over[first]
		first++
	}
	one := &x.shop.Items[first]
	var near []int
	for i := range x.shop.Items {
		it := &x.shop.Items[i]
		together := slices.ContainsFunc(it.UsedAt, func(st string) bool { return slices.Contains(one.UsedAt, st) })
		if i != first && it.Needs() && together && slices.ContainsFunc(it.Holding(), func(h shop.Hold) bool { return slices.Contains(one.Holding(), h) }) {
			near = append(near, i)
		}
	}
	slices.SortStableFunc(near, func(a, b int) int { return cmp.Compare(over[b], over[a]) })
	g := &group{name: one.Name, items: []*shop.Item{one}, uses: one.UsesPerWeek}
	sizes := bands
	if r.few(x) {
		sizes = large
	}
	many := sizes[r.rng.IntN(len(sizes))] - 1
	for _, i := range near {
		if len(g.items) > many {
			break
		}
		if r.rng.IntN(3) > 0 {
			g.items = append(g.items, &x.shop.Items[i])
			g.uses += x.shop.Items[i].UsesPerWeek
		}
	}
	kinds := slices.Clone(r.holders[one.ID])
	r.rng.Shuffle(len(kinds), func(i, j int) { kinds[i], kinds[j] = kinds[j], kinds[i] })
	g.kinds = kinds[:min(len(kinds), kindsTried)]
	return g
}

// kindsTried are how many kinds of storage a revision weighs against each other.
const kindsTried = 4

// holdersOf lists for each item, by id, the kinds of storage that hold it by itself and are meant for such things.
func holdersOf(s *shop.Shop) map[string][]string {
	out := map[string][]string{}
	for i := range s.Items {
		it := &s.Items[i]
		for _, b := range storage.Builders() {
			if !b.Suits(it) {
				continue
			}
			if d, err := storage.Size(b.ID, "new", storage.Need{Items: []*shop.Item{it}}); err == nil && len(d.Homes) > 0 && (!guarded(it) || d.Container != nil && d.Container.Lockable) {
				out[it.ID] = append(out[it.ID], b.ID)
			}
		}
	}
	return out
}

// guarded tells whether a thing belongs behind a lock.
func guarded(it *shop.Item) bool {
	return slices.Contains(it.Flags, "flammable") || slices.Contains(it.Flags, "child") && slices.Contains(it.Holding(), "stand")
}

// faulty is the number of a piece that breaks a rule which was not broken before; -1 when none is named.
func faulty(found []check.Finding, before map[string]bool, made []Made) int {
	for _, f := range found {
		if !f.Hard || before[f.Code+f.Where] {
			continue
		}
		names := func(m Made) bool { return f.Where == m.ID || slices.Contains(strings.Fields(f.What), m.ID) }
		if k := slices.IndexFunc(made, names); k >= 0 {
			return k
		}
	}
	return -1
}

// revising is the share of the time after which only the homes are looked for.
const revising = .94

// quick is how many tries the homes of a revision get.
const quick = 500

// dearest takes the homes of the things away that cost most where they are, so that they are thought of anew.
func dearest(s *shop.Shop, p *fit.Problem, many int) {
	cost := p.AsItIs().Dearest(many)
	s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return !h.Locked && slices.Contains(cost, h.Item) })
}
