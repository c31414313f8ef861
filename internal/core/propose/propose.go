// Package propose plans storage: from the walls, ceiling and floor that are free, from
// the things and from a way of working it makes places of fitting kinds and sizes,
// puts each where it is got at best, and gives everything a home. Sizing and the search
// for spots are package storage's, the homes package fit's.
package propose

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/free"
	"hobrak/internal/core/length"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// Style is a way of working that a plan follows.
type Style struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	About string `json:"about"`
}

// Styles that are proposed.
func Styles() []Style {
	return []Style{
		{"open", "Open, by machine", "in sight, beside the station that uses it"},
		{"closed", "Closed, by use", "each week's things at hand, the rest in drawers"},
		{"mobile", "On wheels", "carts that go to the work"},
		{"yours", "As you work", "as much in sight and as much by machine as your ways of working say"},
	}
}

// Options of a proposal.
type Options struct {
	Style string
	// Bare takes away all places and containers first, but for those kept.
	Bare bool
	Kept []string
	// Revisions are how often some of the storage is taken down again and put up otherwise; 0: never.
	Revisions int
	Seed      uint64
	Budget    Budget
	// Iterations of the search for homes at the end; 0 as usual.
	Iterations int
	Done       func() bool
	Progress   func(share float64, what string)
	// Spent is how much of the time given is gone, 0 to 1; nil when only the number of revisions counts. Some is left for the homes.
	Spent func() float64

	tier   float64 // share of the things that count as used most, and are kept apart; 0: none
	most   int     // that go together; 0: as usual
	grows  float64 // so many times as many in each next piece for the same; 0: as many
	prices shop.Prices
	known  *scene.Scenes // of an earlier state of the shop
	walls  *free.Result  // and what was free in it
	bare   *shop.Shop
	open   func() (*fit.Problem, error) // see opened
	light  bool                         // rules are judged once all is up, not piece by piece
}

// Budget is how much may be built; nil for no limit.
type Budget struct {
	Sheet    *float64 `json:"sheet,omitempty" minimum:"0" doc:"m² of sheet"`
	Money    *float64 `json:"money,omitempty" minimum:"0" doc:"at the shop's prices"`
	Pieces   *int     `json:"pieces,omitempty" minimum:"0" doc:"of storage, each with its own screws"`
	Hours    *float64 `json:"hours,omitempty" minimum:"0" doc:"of building, at one's own pace"`
	Evenings *int     `json:"evenings,omitempty" minimum:"0" doc:"of building, two hours each"`
	Holes    *int     `json:"holes,omitempty" minimum:"0" doc:"in walls"`
}

// Made is one place or container of a proposal.
type Made struct {
	ID      string  `json:"id"`
	Kind    string  `json:"kind" doc:"the builder that made it"`
	Title   string  `json:"title"`
	Wall    string  `json:"wall" doc:"empty on the floor, under the ceiling or a bench"`
	For     string  `json:"for" doc:"what it was made for"`
	Things  int     `json:"things"`
	Sheet   float64 `json:"sheet" doc:"m² of sheet for it"`
	Rail    float64 `json:"rail" doc:"m of rail"`
	Hours   float64 `json:"hours" doc:"to build it, at one's own pace"`
	Holes   int     `json:"holes" doc:"in the wall"`
	Caution string  `json:"caution"`

	on         string  // the wall, the ceiling or the station it is on, before or under
	x, z, w, h float64 // on it, mm; under the ceiling across the room
}

// Proposal is a complete plan.
type Proposal struct {
	Style     Style      `json:"style"`
	Shop      *shop.Shop `json:"-"`
	Made      []Made     `json:"made" nullable:"false"`
	Before    float64    `json:"before" doc:"weekly handling as it stands"`
	After     float64    `json:"after" doc:"weekly handling of the plan"`
	Homeless  []string   `json:"homeless" nullable:"false" doc:"names of what finds no home"`
	Sheet     float64    `json:"sheet" doc:"m² of sheet to build it"`
	Rail      float64    `json:"rail" doc:"m of rail"`
	Hours     float64    `json:"hours" doc:"to build it, at one's own pace"`
	Holes     int        `json:"holes" doc:"in the walls"`
	Money     float64    `json:"money" doc:"what that costs at the shop's prices; 0 when none are given"`
	FloorFree float64    `json:"floor_free" doc:"m² of floor nothing stands on"`
	WallFree  float64    `json:"wall_free" doc:"m² of claimed wall that hold nothing"`
	Left      []Unbuilt  `json:"left" nullable:"false" doc:"groups for which no place was found"`
	Least     float64    `json:"least" doc:"seconds a week below which no storage on the walls and at the stations comes; 0 when there was no time to work it out"`
	Plan      *fit.Plan  `json:"-"`
}

// Unbuilt is a group of things no storage could be put up for.
type Unbuilt struct {
	For string `json:"for"`
	Why string `json:"why"`
}

// group of things that want one piece of storage.
type group struct {
	name  string
	kinds []string // builders, best first
	items []*shop.Item
	uses  float64
}

// mostIn one group: larger ones are made as several; and where not much may be built.
const (
	mostIn       = 28
	mostWhereFew = 60
)

// Plan works a proposal out for a valid shop, which stays as it is.
func Plan(s *shop.Shop, o Options) (*Proposal, error) {
	k := slices.IndexFunc(Styles(), func(x Style) bool { return x.ID == o.Style })
	if k < 0 {
		return nil, fmt.Errorf("there is no style %q; there are open, closed, mobile and yours", o.Style)
	}
	if o.Done == nil {
		o.Done = func() bool { return false }
	}
	var asked sync.Mutex // revisions beside each other ask
	done := o.Done
	o.Done = func() bool {
		asked.Lock()
		defer asked.Unlock()
		return done()
	}
	if o.Spent == nil {
		o.Spent = func() float64 { return 0 }
	}
	if o.Progress == nil {
		o.Progress = func(float64, string) {}
	}
	if s.Settings.Prices != nil {
		o.prices = *s.Settings.Prices
	}
	o.open = sync.OnceValues(func() (*fit.Problem, error) { return fit.ByHours(opened(s), o.Done) })
	now, err := fit.ByHours(s, func() bool { return false })
	if err != nil {
		return nil, err
	}
	out := &Proposal{Style: Styles()[k], Made: []Made{}, Homeless: []string{}, Left: []Unbuilt{}, Before: now.AsItStands()}
	standing, err := check.Shop(s)
	if err != nil {
		return nil, err
	}
	next := s.Clone()
	if o.Bare {
		if err := strip(next, o.Kept); err != nil {
			return nil, err
		}
	}
	o.bare = next.Clone()
	if len(o.spent()) > 0 { // few large pieces take less of a budget than many small ones
		o.most = mostWhereFew
	}
	before := faults(standing)
	begun, err := start(next, before, &o)
	if err != nil {
		return nil, err
	}
	x := begun.state
	out.Left = begun.left
	if o.Revisions > 0 {
		if x, err = revise(x, before, o, .5, .95); err != nil {
			return nil, err
		}
	}
	wishes := wishesOf(x.shop)
	o.Progress(.95, "homes")
	y, err := homes(x.shop, x.made, fit.Options{Seed: 1, Iterations: o.Iterations, Wishes: &wishes, Done: o.Done, Spent: func() float64 { return (o.Spent() - revising) / (1 - revising) }})
	if err != nil {
		return nil, err
	}
	if y.cost() < x.cost() {
		x = y
	} else {
		x.plan.Bound = y.plan.Bound // the same places
	}
	x.plan.Before = begun.before
	plan := x.plan
	next, out.Made = x.shop, x.made
	out.Shop, out.Plan, out.After = next, plan, plan.Objective
	ix := shop.NewIndex(s)
	for _, h := range plan.Homeless {
		out.Homeless = append(out.Homeless, ix.Item(h.Item).Name)
	}
	for _, m := range out.Made {
		out.Sheet += m.Sheet
		out.Rail += m.Rail
		out.Hours += m.Hours
		out.Holes += m.Holes
	}
	if p := s.Settings.Prices; p != nil {
		out.Money = out.Sheet*p.Sheet + out.Rail*p.Rail
	}
	if !o.Done() {
		open, err := o.open()
		if err != nil {
			return nil, err
		}
		out.Least = least(open, s)
	}
	return out, out.left()
}

// homes for everything, in all modes by their hours: storage that one does not get at half of the week is worth half as much.
func homes(s *shop.Shop, made []Made, o fit.Options) (*state, error) {
	p, err := fit.ByHours(s, func() bool { return false })
	if err != nil {
		return nil, err
	}
	return settled(p, s, made, p.Run(o))
}

// putUp storage for groups, one after the other, and give the shop with it.
func putUp(s *shop.Shop, todo []group, out *Proposal, o Options, from, to float64) (*shop.Shop, error) {
	x, err := at(s, o.known, o.walls)
	if err != nil {
		return nil, err
	}
	for n := 0; n < len(todo) && !o.Done(); n++ {
		g := todo[n]
		o.Progress(from+(to-from)*float64(n)/float64(len(todo)), g.name)
		rest, err := x.put(&g, out, o.light)
		if err != nil {
			return nil, err
		}
		// What the chosen kind does not hold tries the next ones.
		if len(rest.items) > 0 && len(rest.kinds) > 0 {
			todo = slices.Insert(todo, n+1, rest)
		}
	}
	return x.shop, nil
}

// left measures what floor and wall the plan leaves.
func (p *Proposal) left() error {
	m, err := access.NewMap(p.Shop)
	if err != nil {
		return err
	}
	f := free.Of(m)
	p.WallFree = f.Totals.Free
	p.FloorFree = f.Totals.Floor
	for i := range p.Shop.Areas {
		for _, t := range access.StandingIn(p.Shop, m.Index, &p.Shop.Areas[i]) {
			p.FloorFree -= t.Footprint.Area() / 1e6
		}
	}
	return nil
}

// strip takes away all storage but what is kept and what is not in the shop.
func strip(s *shop.Shop, kept []string) error {
	keeps := func(id string) bool { return slices.Contains(kept, id) }
	for {
		gone := ""
		for i := range s.Containers {
			if c := &s.Containers[i]; !keeps(c.ID) && !c.At.Away && !slices.ContainsFunc(s.Places, func(p shop.Place) bool { return p.At.In == c.ID && keeps(p.ID) }) {
				gone = c.ID
				break
			}
		}
		for i := range s.Places {
			if p := &s.Places[i]; gone == "" && !keeps(p.ID) && !keeps(p.At.In) && !away(s, p) {
				gone = p.ID
			}
		}
		if gone == "" {
			return nil
		}
		if _, err := storage.Remove(s, gone); err != nil {
			return err
		}
	}
}

func away(s *shop.Shop, p *shop.Place) bool {
	_, at := shop.NewIndex(s).Chain(&p.At)
	return at.Away
}

// groups sorts what has no home into what wants to be kept together, what is used
// most first.
func groups(s *shop.Shop, style string, o *Options) []group {
	most := mostIn
	if o.most > 0 {
		most = o.most
	}
	ix := shop.NewIndex(s)
	by := map[string]*group{}
	var order []string
	often := oftenest(s)
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Needs() || len(ix.Homes(it.ID)) > 0 {
			continue
		}
		name, kinds := keep(s, it, style, often[i])
		if o.tier > 0 && often[i] < o.tier {
			name += ", used most"
		}
		g, ok := by[name]
		if !ok {
			g = &group{name: name, kinds: kinds}
			by[name] = g
			order = append(order, name)
		}
		g.items = append(g.items, it)
		g.uses += it.UsesPerWeek
	}
	var out []group
	for _, name := range order {
		g := by[name]
		slices.SortStableFunc(g.items, func(a, b *shop.Item) int { return cmp.Compare(b.UsesPerWeek, a.UsesPerWeek) })
		size := most
		for from := 0; from < len(g.items); {
			part := g.items[from:min(len(g.items), from+size)]
			one := group{name: g.name, kinds: g.kinds, items: part}
			for _, it := range part {
				one.uses += it.UsesPerWeek
			}
			out = append(out, one)
			from += size
			size = max(size, int(math.Ceil(float64(size)*o.grows)))
		}
	}
	slices.SortStableFunc(out, func(a, b group) int {
		return cmp.Or(cmp.Compare(b.long(), a.long()), cmp.Compare(b.uses, a.uses))
	})
	return out
}

// oftenest gives for every item the share of the things that are used more than it.
func oftenest(s *shop.Shop) []float64 {
	order := make([]int, len(s.Items))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(s.Items[b].UsesPerWeek, s.Items[a].UsesPerWeek) })
	out := make([]float64, len(s.Items))
	for rank, i := range order {
		out[i] = float64(rank) / float64(len(order))
	}
	return out
}

// even is how people work who have not said it: half and half.
var even = shop.Working{Open: .5, ByMachine: .5}

// locked tells whether a group wants a case that locks.
func (g *group) locked() bool { return slices.Contains(g.kinds, "finishes-cabinet") }

// long tells which groups choose first: 2 for what needs a locked case, 1 for things
// so long that few walls take them.
func (g *group) long() int {
	if g.locked() {
		return 2
	}
	for _, it := range g.items {
		if max(it.W, it.H, it.D) > 1200*length.Millimetre {
			return 1
		}
	}
	return 0
}

// keep says with what a thing is kept, and in which kinds of storage. Often is the share
// of the things that are used more than it.
func keep(s *shop.Shop, it *shop.Item, style string, often float64) (name string, kinds []string) {
	holds := func(way shop.Hold) bool { return slices.Contains(it.Holding(), way) }
	flag := func(f shop.Flag) bool { return slices.Contains(it.Flags, f) }
	text := strings.ToLower(it.Kind + " " + it.Name + " " + it.Family)
	has := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(text, w) })
	}
	switch {
	case flag("flammable"), flag("child") && holds("stand"):
		return "finishes and what children must not reach", []string{"finishes-cabinet", "shelf-unit"}
	case holds(shop.OnBar):
		return "rolls", []string{"roll-bars", "hook"}
	case holds("arms"):
		return "boards", []string{"lumber-rack", "stock-bin"}
	case holds("lean"):
		return "sheets and long things", []string{"sheet-bay", "offcut-bin"}
	case flag("charger") || has("batter"):
		return "chargers and batteries", []string{"charger-shelf", "shelf"}
	case has("clamp") && (holds("slot") || holds("hang")):
		return "clamps", []string{"clamp-rack", "cleat-field", "jig-wall"}
	case holds("bin") && !holds("flat") && !holds("stand"):
		return "small parts", []string{"bins", "offcut-bin"}
	}
	station := "the first bench"
	if len(it.UsedAt) > 0 {
		if st := shop.NewIndex(s).Station(it.UsedAt[0]); st != nil {
			station = st.Name
		}
	}
	dusty := flag("dust")
	if style == "yours" {
		ways := even
		if s.Settings.Ways != nil {
			ways = *s.Settings.Ways
		}
		// What is used most is what one wants in sight, and at its machine.
		style = "closed"
		if often < ways.Open {
			style = "open"
		}
		if often >= ways.ByMachine {
			station = "the first bench"
		}
	}
	switch style {
	case "open":
		switch {
		case dusty && holds("flat"):
			return "to be kept clean, at " + station, []string{"drawer-bank", "under-bench"}
		case holds("hang"):
			return "hung at " + station, []string{"cleat-field", "tool-board", "peg-field", "jig-wall", "door-back"}
		case holds("magnet"), holds("slot") && !holds("flat"):
			return "edge tools at " + station, []string{"file-rack", "magnet-rail"}
		case holds("stand"):
			return "standing at " + station, []string{"shelf", "shelf-unit", "ceiling-rack"}
		}
		return "lying at " + station, []string{"under-bench", "drawer-bank", "shelf", "ceiling-rack"}
	case "closed":
		if it.UsesPerWeek >= 1 && holds("hang") && !dusty {
			return "each week, at " + station, []string{"cleat-field", "tool-board", "door-back"}
		}
		what := it.Family
		if what == "" {
			what = "the rest"
		}
		switch {
		case holds("flat"):
			return "drawers at " + station, []string{"drawer-bank", "under-bench", "shelf-unit"}
		case holds("stand"):
			return "shelves for what stands", []string{"shelf-unit", "tote-rack", "shelf"}
		case holds("hang"):
			return "seldom, hung", []string{"jig-wall", "tool-board", "door-back"}
		}
		return what, []string{"drawer-bank", "shelf-unit"}
	default:
		switch {
		case it.KG.KG() > 8 || max(it.W, it.H, it.D) > length.Metre:
			return "heavy and long", []string{"jig-wall", "shelf-unit", "tool-board"}
		case holds("hang"):
			return "cart for " + station, []string{"two-sided-cart", "cleat-field", "tool-board"}
		case holds("stand"):
			return "cart with shelves", []string{"cart", "shelf-unit", "shelf"}
		}
		return "drawers on wheels", []string{"under-bench", "drawer-bank", "tote"}
	}
}
