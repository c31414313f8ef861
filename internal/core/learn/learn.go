// Package learn works out from the days on which things were used how often they
// really are: an estimate that was typed counts as much as some weeks of the log,
// and the longer things are noted, the less it counts.
package learn

import (
	"cmp"
	"math"
	"slices"
	"time"

	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
)

const (
	// trusted is for how many weeks of the log what was said counts.
	trusted = 4.0
	// least weeks of a log say something.
	least = 1.0
	// told is by which factor a rate must differ from what was said to be told.
	told = 1.25
)

// Rate of use of an item.
type Rate struct {
	Item    string  `json:"item"`
	Name    string  `json:"name"`
	Said    float64 `json:"said" doc:"uses a week as typed or assumed"`
	Learned float64 `json:"learned" doc:"uses a week with what the log shows"`
	Uses    int     `json:"uses" doc:"in the log"`
	Weeks   float64 `json:"weeks" doc:"the log runs"`
	Last    string  `json:"last" doc:"day of the last use, empty when there is none"`
}

// Seen is what the log of events shows of the uses of things.
type Seen struct {
	Began string            // first day a use of anything was noted on; empty when none was
	Last  map[string]string // day of the last use, by item
	Count map[string]int    // uses by item, each from its own day on
}

// Since gives the days from which uses of items count, of those that say one.
func Since(s *shop.Shop) map[string]string {
	out := map[string]string{}
	for i := range s.Items {
		if it := &s.Items[i]; it.Since != "" {
			out[it.ID] = it.Since
		}
	}
	return out
}

// SeenIn a log of events, up to a day.
func SeenIn(log event.Log, since map[string]string, today time.Time) Seen {
	to := today.Format(time.DateOnly)
	out := Seen{Began: log.Began(), Last: log.Last(), Count: log.Uses("", to)}
	for item, from := range since {
		out.Count[item] = log.Uses(from, to)[item]
	}
	return out
}

// Rates of the things that are used otherwise than was said, as of a day; what differs
// most in uses a week comes first. The log of a shop runs from the first use that was
// noted of anything: what was not noted since was not used. The rate is
//
//	(k·said + uses) / (k + weeks), k = 4 weeks
//
// the mean of a gamma prior worth k weeks and of the uses counted.
func Rates(s *shop.Shop, seen Seen, today time.Time) []Rate {
	out := []Rate{}
	first := day(seen.Began)
	if first.IsZero() {
		return out
	}
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Needs() {
			continue
		}
		from := first
		if since := day(it.Since); since.After(from) {
			from = since
		}
		r := Rate{Item: it.ID, Name: it.Name, Said: it.UsesPerWeek, Weeks: today.Sub(from).Hours() / 24 / 7,
			Uses: seen.Count[it.ID], Last: seen.Last[it.ID]}
		if r.Weeks < least {
			continue
		}
		r.Learned = (trusted*r.Said + float64(r.Uses)) / (trusted + r.Weeks)
		if a, b := max(r.Said, r.Learned), min(r.Said, r.Learned); a > b*told && a-b > .01 {
			out = append(out, r)
		}
	}
	slices.SortStableFunc(out, func(a, b Rate) int {
		return cmp.Compare(math.Abs(b.Learned-b.Said), math.Abs(a.Learned-a.Said))
	})
	return out
}

// Take over the rates of some items; nil: of all that differ. It gives how many.
func Take(s *shop.Shop, seen Seen, today time.Time, items []string) int {
	n := 0
	for _, r := range Rates(s, seen, today) {
		if items != nil && !slices.Contains(items, r.Item) {
			continue
		}
		it := shop.NewIndex(s).Item(r.Item)
		it.UsesPerWeek = math.Round(r.Learned*1000) / 1000
		it.Since = today.Format(time.DateOnly)
		it.Assumed = slices.DeleteFunc(it.Assumed, func(a string) bool { return a == "uses_per_week" })
		n++
	}
	return n
}

// day of a date in the file; zero when left out. The file was checked when read.
func day(s string) time.Time {
	d, _ := time.Parse(time.DateOnly, s)
	return d
}

// idle is after how many weeks without a use a thing is said to be idle (estimate).
const idle = 8.0

// Idle gives how many weeks things were not used, by id, for those that were not for eight
// weeks or more. What was never noted counts from the day the log of the shop began.
func Idle(s *shop.Shop, seen Seen, today time.Time) map[string]float64 {
	out := map[string]float64{}
	first := day(seen.Began)
	if first.IsZero() {
		return out
	}
	for i := range s.Items {
		it := &s.Items[i]
		last := first
		if on := day(seen.Last[it.ID]); on.After(last) {
			last = on
		}
		if weeks := today.Sub(last).Hours() / 24 / 7; it.Needs() && weeks >= idle {
			out[it.ID] = weeks
		}
	}
	return out
}
