package propose

import (
	"fmt"
	"slices"
	"sync"

	"hobrak/internal/core/build"
	"hobrak/internal/core/check"
	"hobrak/internal/core/free"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// widths tried one after the other where the usual one finds no spot, mm.
var widths = []float64{0, 1200, 800, 500}

// site of work: a shop while storage is put up in it, with what is known of its ways and its free walls.
type site struct {
	shop   *shop.Shop
	scenes *scene.Scenes
	space  *free.Result
	known  *free.Result // of an earlier state
}

// at work in a shop; ways and free walls that are known of an earlier state of it are taken over.
func at(s *shop.Shop, known *scene.Scenes, walls *free.Result) (*site, error) {
	if walls == nil {
		walls = &free.Result{}
	}
	var err error
	if known == nil {
		known, err = scene.ByHours(s)
	} else {
		known, err = known.Of(s)
	}
	if err != nil {
		return nil, err
	}
	return &site{shop: s, scenes: known, known: walls}, nil
}

// free walls, worked out when they are asked for.
func (x *site) free() *free.Result {
	if x.space == nil {
		x.space = x.known.Of(x.scenes.Base)
	}
	return x.space
}

// put up storage for a group where it is got at best; what is not held comes back.
func (x *site) put(g *group, out *Proposal, light bool) (rest group, err error) {
	rest = group{name: g.name, items: g.items, uses: g.uses}
	best, why, err := x.choose(g, light)
	if err != nil {
		return rest, err
	}
	if best == nil {
		out.Left = append(out.Left, Unbuilt{fmt.Sprintf("%s (%d)", g.name, len(g.items)), why})
		return rest, nil
	}
	held := best.held()
	next, err := at(best.shop, x.scenes, x.free())
	if err != nil {
		return rest, err
	}
	*x = *next
	built := madeAt(best.shop, best.design, best.at)
	built.For = g.name
	out.Made = append(out.Made, built)
	rest.items, rest.uses = nil, 0
	ix := x.scenes.Base.Index
	for _, it := range g.items {
		if !held[it.ID] {
			rest.items = append(rest.items, ix.Item(it.ID))
			rest.uses += it.UsesPerWeek
		}
	}
	// What it does not hold tries all kinds again; it holds something, so that this ends.
	if len(rest.items) > 0 {
		rest.kinds = g.kinds
	}
	return rest, nil
}

// madeAt a site of a design; in a shop with it, nil before it is there.
func madeAt(s *shop.Shop, d *storage.Design, at *storage.Site) Made {
	id := d.Places[0].ID
	if d.Container != nil {
		id = d.Container.ID
	}
	m := Made{ID: id, Kind: d.Builder, Title: d.Title, Wall: at.Wall, Things: len((&candidate{design: d}).held()), on: at.Area + " " + at.Wall + " " + at.Station}
	m.Sheet, m.Rail = materials(d)
	if len(d.Cautions) > 0 {
		m.Caution = d.Cautions[0]
	}
	if s != nil {
		if u, err := build.Of(s, id, build.Choices{}); err == nil { // the rest is bought, or only marked on the floor
			m.Hours = u.Hours
			if fixed := build.Fix(s, u); fixed != nil {
				m.Holes = len(fixed.Screws)
			}
		}
	}
	m.x, m.z, m.w, m.h = at.X, at.Z, d.W.MM(), d.H.MM()
	if at.Station != "" {
		m.x = at.At.X.MM()
	}
	if at.At.Ceiling != nil {
		m.on, m.z, m.h = "ceiling "+at.Area, at.At.Ceiling[1].MM(), d.D.MM()
	}
	return m
}

// overlaps tells whether two pieces would be in the same spot of a wall, of the ceiling or under a bench.
func (m *Made) overlaps(o *Made) bool {
	return m.on == o.on && m.x < o.x+o.w-1 && o.x < m.x+m.w-1 && m.z < o.z+o.h-1 && o.z < m.z+m.h-1
}

// choose among the kinds of storage for a group, each where it is got at best; nil, and
// why, when none can be put up.
func (x *site) choose(g *group, light bool) (best *candidate, why string, err error) {
	s := x.shop
	broken := sync.OnceValues(func() (map[string]bool, error) {
		now, err := check.Mapped(x.scenes.Base)
		return faults(now), err
	})
	why = "nothing holds them"
	for k, kind := range g.kinds {
		for _, w := range widths {
			d, err := storage.Size(kind, "new", storage.Need{Items: g.items, Reserve: s.Settings.GrowthReserve, Width: length.MM(w)})
			if err != nil || len(d.Homes) == 0 {
				if err != nil {
					why = err.Error()
				} else if len(d.Left) > 0 {
					why = d.Left[0].Why
				}
				continue
			}
			if w > 0 && d.W.MM() > w+1 {
				continue
			}
			found, err := storage.WhereIn(x.scenes, x.free(), d)
			if err != nil {
				return nil, "", err
			}
			c, err := first(s, broken, found, kind, g, w, light)
			if err != nil {
				return nil, "", err
			}
			if c == nil {
				if len(found.Nowhere) > 0 {
					why = found.Nowhere[0].Wall + ": " + found.Nowhere[0].Why
				}
				continue
			}
			c.kind, c.rank = kind, k
			if best == nil || c.score(g) < best.score(g) {
				best = c
			}
			break // narrower ones hold less
		}
		if best != nil && g.locked() {
			break // what locks comes before what is quick
		}
	}
	return best, why, nil
}

// candidate is a design put up at a spot.
type candidate struct {
	shop   *shop.Shop
	at     *storage.Site
	kind   string
	rank   int // of its kind: how well it suits the way of working
	design *storage.Design
}

func (c *candidate) held() map[string]bool {
	held := map[string]bool{}
	for _, h := range c.design.Homes {
		held[h.Item] = true
	}
	return held
}

// Prices a candidate is judged by, own estimates: a use of what it does not hold, in
// seconds, and a kind that suits the way of working less, a share of all.
const (
	unheld = 25.0
	suited = .04
)

// score of a candidate in seconds a week for all of a group; less is better.
func (c *candidate) score(g *group) float64 {
	held, sum := c.held(), c.at.Seconds+c.at.Price
	for _, it := range g.items {
		if !held[it.ID] {
			sum += unheld * (it.UsesPerWeek + .01)
		}
	}
	return sum * (1 + suited*float64(c.rank))
}

// mostTried spots of a design are put up to see whether they break a rule.
const mostTried = 5

// faults are the findings of a shop by their code and where they are.
func faults(found []check.Finding) map[string]bool {
	out := map[string]bool{}
	for _, f := range found {
		out[f.Code+f.Where] = true
	}
	return out
}

// worse tells whether a hard rule is broken that was not before.
func worse(found []check.Finding, before map[string]bool) bool {
	return slices.ContainsFunc(found, func(f check.Finding) bool { return f.Hard && !before[f.Code+f.Where] })
}

// first spot at which a design breaks no rule that is not broken already: what stands on
// the floor may be where somebody stands. It gives the shop with it there.
func first(s *shop.Shop, broken func() (map[string]bool, error), found *storage.Sites, kind string, g *group, w float64, light bool) (*candidate, error) {
	tried := 0
	for i := range found.Sites {
		c := &found.Sites[i]
		if len(c.Barred) > 0 || c.On != "" || tried >= mostTried {
			continue
		}
		tried++
		up, err := install(s.Clone(), kind, storage.Need{Items: g.items, Reserve: s.Settings.GrowthReserve, Width: length.MM(w)}, c)
		if err != nil {
			return nil, err
		}
		if up == nil {
			continue
		}
		if light {
			return up, nil
		}
		after, err := check.Shop(up.shop)
		if err != nil {
			return nil, err
		}
		before, err := broken()
		if err != nil {
			return nil, err
		}
		if !worse(after, before) {
			return up, nil
		}
	}
	return nil, nil
}

// install storage of a kind at a spot of a shop, under the next free address there; nil when the shop would not be one.
func install(s *shop.Shop, kind string, n storage.Need, at *storage.Site) (*candidate, error) {
	d, err := storage.Size(kind, storage.Address(s, at.At), n)
	if err != nil {
		return nil, err
	}
	if err := storage.Install(s, d, at.At); err != nil {
		return nil, err
	}
	if s.Validate() != nil {
		return nil, nil
	}
	return &candidate{shop: s, at: at, design: d}, nil
}

// materials of a design: m² of sheet for boards, cases and drawers, m of rail.
func materials(d *storage.Design) (sheet, rail float64) {
	area := func(a, b length.Length) float64 { return a.MM() * b.MM() / 1e6 }
	if c := d.Container; c != nil && !c.Kind.OnDoor() {
		sheet += 2*area(c.H, c.D) + 2*area(c.W, c.D) + area(c.W, c.H)
	}
	for i := range d.Places {
		p := &d.Places[i]
		s, r := keeping.Of(p).Materials(p)
		sheet, rail = sheet+s, rail+r
	}
	return sheet, rail
}
