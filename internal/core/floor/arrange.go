package floor

import (
	"math"
	"slices"
	"sort"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// with is the ground with a station more on it.
func (g *Ground) with(st *shop.Station) *Ground {
	next := *g
	foot := st.Footprint()
	at := st.Stand.Geometry()
	b := body{id: st.ID, name: st.Name, foot: foot, lodger: st.Kind.Lodger(), bench: st.Kind.Bench(), at: at}
	next.things = append(slices.Clip(g.things), b)
	next.solid = append(slices.Clip(g.solid), foot)
	b.foot = spot(at)
	next.stands = append(slices.Clip(g.stands), b)
	return &next
}

// Spots are where a station may stand, against the walls and, where that suits it or anyhow is said, in the middle of the room;
// what is in the way there is not looked at.
func (g *Ground) Spots(st *shop.Station, anyhow bool) (out []shop.Station) {
	for _, c := range g.spots(st, Wish{Anyhow: anyhow}) {
		out = append(out, c.st)
	}
	return out
}

// best is the cheapest spot that is allowed for a station.
func (g *Ground) best(st *shop.Station, wish Wish) (shop.Station, float64, bool) {
	spots := g.spots(st, wish)
	sort.SliceStable(spots, func(i, j int) bool { return spots[i].cost < spots[j].cost })
	for _, wide := range []float64{g.clear.AisleMain, g.clear.AisleSide} {
		asked := 0
		for i := range spots {
			if at := &spots[i].st; g.At(at) == nil {
				// Wider ways end farther from where one stands: those who get there so must do it on the narrower ones, too.
				if g.Reached(at, wide) == nil && g.Reached(at, g.clear.AisleSide) == nil {
					return *at, spots[i].cost, true
				}
				if asked++; asked == mostAsked {
					break // the ways are searched anew for each
				}
			}
		}
	}
	if wish.Anyhow {
		for i := range spots {
			if g.At(&spots[i].st) == nil {
				return spots[i].st, spots[i].cost, true
			}
		}
	}
	return *st, 0, false
}

// mostAsked is for how many spots the ways are searched before it is given up.
const mostAsked = 20

// Arrange puts several stations where together they are walked between the least: one after the other, benches
// and large ones first, then each anew while that helps. Those that find no spot are named.
func Arrange(s *shop.Shop, area *shop.Area, stations []shop.Station) (placed []shop.Station, homeless []string, err error) {
	bare := *s
	bare.Stations = slices.DeleteFunc(slices.Clone(s.Stations), func(st shop.Station) bool {
		return slices.ContainsFunc(stations, func(x shop.Station) bool { return x.ID == st.ID })
	})
	g, err := Of(&bare, area, "")
	if err != nil {
		return nil, nil, err
	}
	left := slices.Clone(stations)
	sort.SliceStable(left, func(i, j int) bool {
		if a, b := left[i].Kind.Bench(), left[j].Kind.Bench(); a != b {
			return a
		}
		return left[i].W*left[i].D/1000 > left[j].W*left[j].D/1000
	})
	on := g
	for i := range left {
		at, _, ok := on.best(&left[i], Wish{})
		if !ok {
			homeless = append(homeless, left[i].ID)
			continue
		}
		placed = append(placed, at)
		on = on.with(&at)
	}
	for range rounds {
		better := false
		for i := range placed {
			others := g
			for k := range placed {
				if k != i {
					others = others.with(&placed[k])
				}
			}
			was := others.costOf(&placed[i])
			if at, cost, ok := others.best(&placed[i], Wish{}); ok && cost < was-1 {
				placed[i], better = at, true
			}
		}
		if !better {
			break
		}
	}
	return placed, homeless, nil
}

// rounds of trying each station anew.
const rounds = 6

// costOf a station where it stands.
func (g *Ground) costOf(st *shop.Station) float64 {
	for _, c := range g.spots(st, Wish{}) {
		if c.st.X == st.X && c.st.Y == st.Y && c.st.Rot == st.Rot {
			return c.cost
		}
	}
	return math.Inf(1)
}

// Walking is what is walked between the stations of an area and from its main door, each way weighted by how
// often it is gone: in mm of ways round what stands there, infinite when there is no way.
func Walking(s *shop.Shop, area *shop.Area) (float64, error) {
	g, err := Of(s, area, "")
	if err != nil {
		return 0, err
	}
	return g.walking(), nil
}

func (g *Ground) walking() float64 {
	f := walk.NewFloor(g.outline, g.solid, walk.BodyRadius)
	door := f.From(g.door)
	sum := 0.0
	var worked []body
	var goals []*walk.Goal
	for _, t := range g.stands {
		if t.lodger {
			continue
		}
		goal, ways := f.Goal(t.at), f.From(t.at)
		sum += toDoor * door.Length(goal)
		for k, other := range worked {
			weight := toMachine
			if t.bench || other.bench {
				weight = toBench
			}
			sum += weight * ways.Length(goals[k])
		}
		worked, goals = append(worked, t), append(goals, goal)
	}
	return sum
}
