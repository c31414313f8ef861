package daily

import (
	"cmp"
	"hash/fnv"
	"slices"
	"time"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
)

// Lies is a thing that stays out: taken, and not put back the same day.
type Lies struct {
	Item   string  `json:"item"`
	Name   string  `json:"name"`
	Times  int     `json:"times" doc:"in the time that was looked at"`
	Place  string  `json:"place" doc:"where it lives; empty without a home"`
	Better string  `json:"better" doc:"free spot where it would do better; empty when there is none"`
	Saves  float64 `json:"saves" doc:"seconds a week"`
}

// Idle is a thing that was not used for long.
type Idle struct {
	Item   string  `json:"item"`
	Name   string  `json:"name"`
	Place  string  `json:"place"`
	Last   string  `json:"last" doc:"day of its last use; empty when none was noted"`
	Order  int     `json:"order" doc:"how hard it is to reach, 1 to 4"`
	Wall   float64 `json:"wall" doc:"m² of wall it takes"`
	Litres float64 `json:"litres" doc:"litres it takes elsewhere"`
}

// Habits are what the days teach.
type Habits struct {
	Began  string   `json:"began" doc:"first day of the log; empty when nothing was noted"`
	Lying  []Lies   `json:"lying" nullable:"false" doc:"what lands on the bench most, ten at most"`
	Near   []Idle   `json:"near" nullable:"false" doc:"within arm's reach and not used for a season: it is in the way of what is used"`
	Far    []Lies   `json:"far" nullable:"false" doc:"hard to reach and used: a better spot is free"`
	Season int      `json:"season" doc:"so many things were not used for a season"`
	Year   []Idle   `json:"year" nullable:"false" doc:"not used for a year; what takes most room first"`
	Three  []Lies   `json:"three" nullable:"false" doc:"three things from among odds and ends, without a home or a family, others each week"`
	Odds   *Odds    `json:"odds,omitempty" doc:"the place for odds and ends; left out where there is none"`
	Power  []Power  `json:"power" nullable:"false" doc:"batteries with what runs on them"`
	Bare   []string `json:"bare" nullable:"false" doc:"names of cordless tools of which nobody said on which battery they run"`
}

// Odds is the one place for what has no other.
type Odds struct {
	Place string `json:"place"`
	Lines int    `json:"lines" doc:"so many lines lie there"`
	Most  int    `json:"most" doc:"so many may"`
}

// Power is a kind of battery with what runs on it: what goes with a tool says on which, or the family both are in.
type Power struct {
	Battery  string   `json:"battery" doc:"id"`
	Name     string   `json:"name"`
	Count    int      `json:"count" doc:"so many of them"`
	Tools    []string `json:"tools" nullable:"false" doc:"names of what runs on them"`
	Chargers []string `json:"chargers" nullable:"false" doc:"names"`
	Uses     float64  `json:"uses" doc:"uses a week of all of these tools"`
	Says     string   `json:"says" doc:"what is odd about it; empty when nothing"`
}

// Batteries of a shop with what runs on each, those for most tools first, and cordless tools that run on none that is known.
func Batteries(s *shop.Shop) (list []Power, bare []string) {
	list, bare = []Power{}, []string{}
	at := map[string]int{}
	families := map[string]int{}
	for i := range s.Items {
		it := &s.Items[i]
		if k, _ := kinds.Told(it.Kind, it.Name); k.Name != "battery" || !it.Needs() {
			continue
		}
		at[it.ID] = len(list)
		if it.Family != "" {
			families[it.Family] = len(list)
		}
		list = append(list, Power{Battery: it.ID, Name: it.Name, Count: it.Number(), Tools: []string{}, Chargers: []string{}})
	}
	for i := range s.Items {
		it := &s.Items[i]
		k, _ := kinds.Told(it.Kind, it.Name)
		if !it.Needs() || k.Group != "cordless" && k.Name != "battery charger" && k.Name != "double charger" {
			continue
		}
		on := -1
		for _, with := range it.With {
			if n, ok := at[with]; ok {
				on = n
			}
		}
		if n, ok := families[it.Family]; ok && on < 0 && it.Family != "" {
			on = n
		}
		switch charger := k.Group != "cordless"; {
		case on < 0 && charger:
		case on < 0:
			bare = append(bare, it.Name)
		case charger:
			list[on].Chargers = append(list[on].Chargers, it.Name)
		default:
			list[on].Tools = append(list[on].Tools, it.Name)
			list[on].Uses += it.UsesPerWeek
		}
	}
	for i := range list {
		p := &list[i]
		switch n := len(p.Tools); {
		case n == 0:
			p.Says = "nothing here runs on it: it can go, or say what goes with it"
		case len(p.Chargers) == 0:
			p.Says = "nothing here charges it"
		case n == 1 && len(list) > 1:
			p.Says = "for one tool alone: when that goes, so do battery and charger"
		case p.Count > n+1:
			p.Says = "more batteries than tools: no more are needed"
		}
	}
	slices.SortStableFunc(list, func(a, b Power) int { return cmp.Compare(len(b.Tools), len(a.Tools)) })
	return list, bare
}

// A season, days; and how many of a list are told.
const (
	season = 91
	told   = 10
	far    = 3 // the order from which something is hard to reach
)

// Learned from what was seen up to a day, and how often each thing was taken and not put back the same day. Nothing is said of a season before the log is one, nor of a year.
func Learned(e *fit.Arrangement, stayed map[string]int, seen learn.Seen, today time.Time) Habits {
	s := e.Map().Shop
	ix := e.Map().Index
	out := Habits{Began: seen.Began, Lying: []Lies{}, Near: []Idle{}, Far: []Lies{}, Year: []Idle{}, Three: []Lies{}}
	old := func(days int) bool {
		return seen.Began != "" && seen.Began <= today.AddDate(0, 0, -days).Format(time.DateOnly)
	}
	since := func(days int) string { return today.AddDate(0, 0, -days).Format(time.DateOnly) }
	better := func(i int) (place string, saves float64) {
		a, ok := e.Find(i)
		if !ok || a.Now-a.Here < 1 {
			return "", 0
		}
		return a.Home.Place, a.Now - a.Here
	}
	out.Power, out.Bare = Batteries(s)
	var loose, odd []int
	if ix.Place(s.Settings.Odds) != nil {
		out.Odds = &Odds{Place: s.Settings.Odds, Most: s.Settings.OddsCap()}
	}
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Needs() {
			continue
		}
		homes := ix.Homes(it.ID)
		place, order := "", 0
		x := Idle{Item: it.ID, Name: it.Name, Last: seen.Last[it.ID]}
		for _, h := range homes {
			place = h.Place
			order = max(order, e.OrderOf(i, h))
		}
		x.Wall, x.Litres = belongings.Takes(ix, it)
		x.Place, x.Order = place, order
		if n := stayed[it.ID]; n > 1 {
			l := Lies{Item: it.ID, Name: it.Name, Times: n, Place: place}
			l.Better, l.Saves = better(i)
			out.Lying = append(out.Lying, l)
		}
		idle := x.Last < since(season)
		if old(season) && idle && place != "" {
			out.Season++
			if order == 1 && !it.Keep {
				out.Near = append(out.Near, x)
			}
		}
		if old(365) && x.Last < since(365) && place != "" && !it.Keep {
			out.Year = append(out.Year, x)
		}
		if order >= far && seen.Count[it.ID] > 2 && !idle {
			l := Lies{Item: it.ID, Name: it.Name, Times: seen.Count[it.ID], Place: place}
			if l.Better, l.Saves = better(i); l.Better != "" {
				out.Far = append(out.Far, l)
			}
		}
		if out.Odds != nil && place == out.Odds.Place {
			out.Odds.Lines++
			odd = append(odd, i)
		}
		if place == "" || it.Family == "" && it.Kind == "" {
			loose = append(loose, i)
		}
	}
	slices.SortStableFunc(out.Lying, func(a, b Lies) int { return cmp.Compare(b.Times, a.Times) })
	slices.SortStableFunc(out.Far, func(a, b Lies) int { return cmp.Compare(b.Saves, a.Saves) })
	room := func(x *Idle) float64 { return 100*x.Wall + x.Litres }
	byRoom := func(a, b Idle) int { return cmp.Compare(room(&b), room(&a)) }
	slices.SortStableFunc(out.Near, byRoom)
	slices.SortStableFunc(out.Year, byRoom)
	out.Lying, out.Far, out.Near = out.Lying[:min(told, len(out.Lying))], out.Far[:min(told, len(out.Far))], out.Near[:min(told, len(out.Near))]
	if len(odd) > 0 { // what lies there is what it is for
		loose = odd
	}
	for _, i := range thisWeek(s, loose, today) {
		l := Lies{Item: s.Items[i].ID, Name: s.Items[i].Name}
		if homes := ix.Homes(l.Item); len(homes) > 0 {
			l.Place = homes[0].Place
		}
		l.Better, l.Saves = better(i)
		out.Three = append(out.Three, l)
	}
	return out
}

// thisWeek chooses three of some things by the week, the same all week on every device.
func thisWeek(s *shop.Shop, loose []int, today time.Time) []int {
	year, week := today.ISOWeek()
	key := func(i int) uint64 {
		h := fnv.New64a()
		_, _ = h.Write([]byte{byte(year), byte(year >> 8), byte(week)})
		_, _ = h.Write([]byte(s.Items[i].ID))
		return h.Sum64()
	}
	out := slices.Clone(loose)
	slices.SortFunc(out, func(a, b int) int { return cmp.Compare(key(a), key(b)) })
	return out[:min(3, len(out))]
}
