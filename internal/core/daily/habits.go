package daily

import (
	"cmp"
	"hash/fnv"
	"slices"
	"time"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/event"
	"hobrak/internal/core/fit"
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
	Began  string `json:"began" doc:"first day of the log; empty when nothing was noted"`
	Lying  []Lies `json:"lying" nullable:"false" doc:"what lands on the bench most, ten at most"`
	Near   []Idle `json:"near" nullable:"false" doc:"within arm's reach and not used for a season: it is in the way of what is used"`
	Far    []Lies `json:"far" nullable:"false" doc:"hard to reach and used: a better spot is free"`
	Season int    `json:"season" doc:"so many things were not used for a season"`
	Year   []Idle `json:"year" nullable:"false" doc:"not used for a year; what takes most room first"`
	Three  []Lies `json:"three" nullable:"false" doc:"three things without a home or a family, others each week"`
}

// A season, days; and how many of a list are told.
const (
	season = 91
	told   = 10
	far    = 3 // the order from which something is hard to reach
)

// Learned from a log that is given oldest first, up to a day. Nothing is said of a season before the log is one, nor of a year.
func Learned(e *fit.Arrangement, log event.Log, seen learn.Seen, today time.Time) Habits {
	s := e.Map().Shop
	ix := e.Map().Index
	out := Habits{Began: seen.Began, Lying: []Lies{}, Near: []Idle{}, Far: []Lies{}, Year: []Idle{}, Three: []Lies{}}
	stayed := staysOut(log)
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
	var loose []int
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

// staysOut counts how often each thing was taken and not put back the same day.
func staysOut(log event.Log) map[string]int {
	out := map[string]int{}
	open := map[string][]string{} // days on which what is out was taken
	for i := range log {
		e := &log[i]
		switch {
		case e.What == event.Taken:
			for range min(e.Number(), 50) {
				open[e.Item] = append(open[e.Item], e.Day())
			}
		case e.What == event.PutBack:
			for range min(e.Number(), len(open[e.Item])) {
				last := len(open[e.Item]) - 1
				if open[e.Item][last] != e.Day() {
					out[e.Item]++
				}
				open[e.Item] = open[e.Item][:last]
			}
		}
	}
	for item, days := range open {
		out[item] += len(days)
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
