// Package month plays a month through many times: the jobs of a shop drawn at random, the things that are fetched for them, the ways of the
// material and the change-overs of the floor between jobs that need different ones. It gives a spread, not one number. Times are
// seconds a month, ways metres.
package month

import (
	"fmt"
	"math"
	"math/rand/v2"
	"runtime"
	"slices"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
)

// Options of playing.
type Options struct {
	Replications int // 1000 when 0
	Seed         uint64
	Jobs         []shop.Job // instead of the shop's own; nil for those
}

// Spread of a figure over the months played.
type Spread struct {
	Mean float64 `json:"mean"`
	P10  float64 `json:"p10" doc:"a tenth of the months had less"`
	P90  float64 `json:"p90" doc:"a tenth of the months had more"`
}

// Played is what the months were like.
type Played struct {
	Months   int      `json:"months"`
	Handling Spread   `json:"handling" doc:"seconds a month to fetch and put back"`
	Walking  Spread   `json:"walking" doc:"metres that material of jobs is carried"`
	Changes  Spread   `json:"changes" doc:"change-overs of the floor"`
	Changing Spread   `json:"changing" doc:"seconds that those take"`
	Annoying Spread   `json:"annoying" doc:"times something takes over twenty seconds to fetch and put back, or has no home"`
	Never    []string `json:"never_used" nullable:"false" doc:"ids of things not used in nine of ten months"`
	Usual    bool     `json:"usual" doc:"the shop has no jobs: a usual one was played"`
}

// Estimates.
const (
	weeks     = 52.0 / 12
	homeless  = 60.0 // seconds a use of what has no home, as everywhere
	tooLong   = 20.0 // seconds from which fetching annoys
	usualReps = 1000
)

// job as it is played.
type job struct {
	rate   float64 // a month
	metres float64
	visits map[string]int // of each station
	mode   int            // it needs; -1 any
}

// thing as it is fetched.
type thing struct {
	id      string
	rate    float64 // a month
	seconds float64 // a use
	at      []string
}

// Of plays months of a shop. The error says what jobs cannot be played.
func Of(s *shop.Shop, o Options) (*Played, error) {
	if o.Replications <= 0 {
		o.Replications = usualReps
	}
	if len(o.Jobs) > 0 {
		c := s.Clone()
		c.Settings.Jobs = o.Jobs
		if err := c.Validate(); err != nil {
			return nil, err
		}
		s = c
	}
	if len(s.Areas) == 0 {
		return nil, fmt.Errorf("the shop has no room yet")
	}
	p, err := newPlay(s)
	if err != nil {
		return nil, err
	}
	n := o.Replications
	figures := make([][5]float64, n)
	used := make([][]uint16, runtime.GOMAXPROCS(0))
	var wait sync.WaitGroup
	for w := range used {
		used[w] = make([]uint16, len(p.things))
		wait.Go(func() {
			for k := w; k < n; k += len(used) {
				figures[k] = p.play(rand.New(rand.NewPCG(o.Seed, uint64(k))), used[w])
			}
		})
	}
	wait.Wait()
	out := &Played{Months: n, Never: []string{}, Usual: p.usual}
	for k, to := range []*Spread{&out.Handling, &out.Walking, &out.Changes, &out.Changing, &out.Annoying} {
		list := make([]float64, n)
		for i := range list {
			list[i] = figures[i][k]
		}
		*to = spread(list)
	}
	for i := range p.things {
		months := 0
		for w := range used {
			months += int(used[w][i])
		}
		if months*10 <= n {
			out.Never = append(out.Never, p.things[i].id)
		}
	}
	slices.Sort(out.Never)
	return out, nil
}

func spread(list []float64) Spread {
	slices.Sort(list)
	sum := 0.0
	for _, v := range list {
		sum += v
	}
	at := func(share float64) float64 { return list[min(len(list)-1, int(share*float64(len(list))))] }
	return Spread{sum / float64(len(list)), at(.1), at(.9)}
}

// play holds what is drawn from.
type play struct {
	jobs   []job
	usual  bool
	things []thing
	visits map[string]float64 // expected of each station in a month
	change [][]float64        // seconds from a mode to another; the last is as it stands
}

func newPlay(s *shop.Shop) (*play, error) {
	m, err := access.NewMap(s)
	if err != nil {
		return nil, err
	}
	p := &play{visits: map[string]float64{}}
	area := &s.Areas[0]
	jobs, usual := flow.Jobs(s, area)
	p.usual = usual
	flows := flow.Of(s, area)
	for i := range jobs {
		j := job{rate: jobs[i].PerMonth, visits: map[string]int{}, mode: needs(s, &jobs[i])}
		for k := range flows {
			if flows[k].Name == jobs[i].Name {
				j.metres = flows[k].Metres
				break
			}
		}
		for _, stop := range jobs[i].Path {
			if m.Index.Station(stop) != nil {
				j.visits[stop]++
				p.visits[stop] += j.rate
			}
		}
		p.jobs = append(p.jobs, j)
	}
	for i := range s.Items {
		it := &s.Items[i]
		if it.Status == "wished" || it.UsesPerWeek <= 0 {
			if it.Status != "wished" {
				p.things = append(p.things, thing{id: it.ID})
			}
			continue
		}
		p.things = append(p.things, thing{it.ID, it.UsesPerWeek * weeks, eachUse(m, it), it.UsedAt})
	}
	return p, p.changes(s)
}

// eachUse is what a thing takes each time, as its pieces live.
func eachUse(m *access.Map, it *shop.Item) float64 {
	sum, n := 0.0, 0
	for _, h := range m.Index.Homes(it.ID) {
		place := m.Index.Place(h.Place)
		if place == nil {
			continue
		}
		u := m.UseOf(it)
		if s, ok := m.Weekly(&u, m.PlaceNumber(place.ID), keeping.GripOf(place, it, h), 0); ok {
			sum += float64(h.Number(it)) * s / it.UsesPerWeek
			n += h.Number(it)
		}
	}
	if n == 0 {
		return homeless
	}
	return sum / float64(n)
}

// needs is the first mode in which all stations of a job stand, -1 when they stand as they are.
func needs(s *shop.Shop, j *shop.Job) int {
	stands := func(spots map[string]shop.Standing) bool {
		return !slices.ContainsFunc(j.Path, func(stop string) bool {
			spot, ok := spots[stop]
			return ok && spot.State != ""
		})
	}
	for i := range s.Modes {
		own := slices.ContainsFunc(j.Path, func(stop string) bool { _, ok := s.Modes[i].Spots[stop]; return ok })
		if own && stands(s.Modes[i].Spots) {
			return i
		}
	}
	return -1
}

// changes are the seconds from each mode to each other that jobs need, worked out once.
func (p *play) changes(s *shop.Shop) error {
	var wanted []int
	for _, j := range p.jobs {
		if j.mode >= 0 && !slices.Contains(wanted, j.mode) {
			wanted = append(wanted, j.mode)
		}
	}
	p.change = make([][]float64, len(s.Modes))
	for i := range p.change {
		p.change[i] = make([]float64, len(s.Modes))
	}
	for _, a := range wanted {
		for _, b := range wanted {
			if a == b {
				continue
			}
			plan, err := shift.Between(s, s.Modes[a].ID, s.Modes[b].ID)
			if err != nil {
				continue // what cannot be changed over takes no time that is known
			}
			p.change[a][b] = plan.Seconds
		}
	}
	return nil
}

// play one month: handling, walking, change-overs, the seconds of those, annoyances. Used counts the months in which each thing was.
func (p *play) play(rng *rand.Rand, used []uint16) (out [5]float64) {
	var order []int
	visits := map[string]int{}
	for i := range p.jobs {
		n := poisson(rng, p.jobs[i].rate)
		for range n {
			order = append(order, i)
		}
		out[1] += float64(n) * p.jobs[i].metres
		for stop, k := range p.jobs[i].visits {
			visits[stop] += n * k
		}
	}
	rng.Shuffle(len(order), func(i, k int) { order[i], order[k] = order[k], order[i] })
	at := -1
	for _, i := range order {
		m := p.jobs[i].mode
		if m >= 0 && at >= 0 && m != at {
			out[2]++
			out[3] += p.change[at][m]
		}
		if m >= 0 {
			at = m
		}
	}
	for i := range p.things {
		t := &p.things[i]
		// What is used where jobs come to is used as often as they come there.
		share, known := 0.0, 0.0
		for _, st := range t.at {
			if v := p.visits[st]; v > 0 {
				share += float64(visits[st]) / v
				known++
			}
		}
		rate := t.rate
		if known > 0 {
			rate *= (share + float64(len(t.at)) - known) / float64(len(t.at))
		}
		n := poisson(rng, rate)
		if n == 0 {
			continue
		}
		used[i]++
		out[0] += float64(n) * t.seconds
		if t.seconds > tooLong {
			out[4] += float64(n)
		}
	}
	return out
}

// poisson draws by gaps between events (Knuth), large rates in parts.
func poisson(rng *rand.Rand, rate float64) (n int) {
	for rate > 0 {
		part := min(rate, 30)
		rate -= part
		for p, limit := rng.Float64(), math.Exp(-part); p > limit; p *= rng.Float64() {
			n++
		}
	}
	return n
}
