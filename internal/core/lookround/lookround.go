// Package lookround is walking round a shop to see whether everything is where it lives: which places there are to look at, what is
// there, missing, elsewhere or not known, and what comes of it.
package lookround

import (
	"cmp"
	"slices"

	"hobrak/internal/core/event"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
)

// States of a thing on a look.
const (
	There     = "there"
	Missing   = "missing"
	Elsewhere = "elsewhere"
	Out       = "out" // it is known to be out: nobody looks for it
)

// Thing that is looked for at a stop.
type Thing struct {
	Item  string `json:"item"`
	Name  string `json:"name"`
	N     int    `json:"n" doc:"how many live there"`
	Out   int    `json:"out" doc:"how many of them are known to be out"`
	State string `json:"state" enum:",there,missing,elsewhere,out" doc:"empty while nobody has looked"`
	Found int    `json:"found" doc:"how many were counted; 0 when nobody counted"`
	At    string `json:"at" doc:"where it was found, when elsewhere"`
}

// Stop is a place that is looked at.
type Stop struct {
	Place   string   `json:"place"`
	Name    string   `json:"name"`
	Wall    string   `json:"wall" doc:"what the wall or the unit is called"`
	Things  []Thing  `json:"things" nullable:"false"`
	Unknown []string `json:"unknown" nullable:"false" doc:"what was found there and is not on the list"`
	Seen    bool     `json:"seen" doc:"everything there has been looked for"`
	Photos  []string `json:"photos" nullable:"false" doc:"photographs of it as it was"`
}

// Stops of a round, clockwise from the main door, at those walls of a scope that have something living at them: area:wall, an area, or
// everything. Sights are the events of the look so far, out what is out by other events.
func Stops(s *shop.Shop, r *round.Round, scope string, sights, out event.Log) []Stop {
	ix := shop.NewIndex(s)
	away := out.Out()
	type seen struct {
		state, at string
		n         int
	}
	state := map[[2]string]seen{}
	unknown := map[string][]string{}
	for i := range sights {
		e := &sights[i]
		switch e.What {
		case event.Seen:
			home := e.Place
			x := seen{There, "", e.N}
			if e.Note != "" { // where it lives, when it was found elsewhere
				home, x = e.Note, seen{Elsewhere, e.Place, e.N}
			}
			state[[2]string{home, e.Item}] = x
		case event.Missed:
			state[[2]string{e.Place, e.Item}] = seen{state: Missing}
		case event.Noted:
			unknown[e.Place] = append(unknown[e.Place], e.Note)
		}
	}
	type spot struct {
		stop Stop
		el   int
		x, z float64
	}
	var list []spot
	for i := range r.Places {
		p := &r.Places[i]
		if p.Elevation < 0 || p.Elevation >= len(r.Elevations) {
			continue
		}
		w := &r.Elevations[p.Elevation]
		if scope != "" && scope != w.Area && scope != w.Area+":"+w.ID {
			continue
		}
		stop := Stop{Place: p.ID, Name: p.Name, Wall: w.Title, Things: []Thing{}, Unknown: append([]string{}, unknown[p.ID]...), Seen: true, Photos: append([]string{}, p.Photos...)}
		for _, lives := range ix.LivesIn(func(q *shop.Place) bool { return q.ID == p.ID }) {
			it, n := lives.Item, lives.N
			t := Thing{Item: it.ID, Name: it.Name, N: n, Out: min(n, away[it.ID])}
			x, ok := state[[2]string{p.ID, it.ID}]
			switch {
			case ok:
				t.State, t.At, t.Found = x.state, x.at, x.n
			case t.Out == n:
				t.State = Out
			default:
				stop.Seen = false
			}
			stop.Things = append(stop.Things, t)
		}
		if len(stop.Things) > 0 || len(stop.Unknown) > 0 {
			list = append(list, spot{stop, p.Elevation, p.X, p.Z})
		}
	}
	slices.SortStableFunc(list, func(a, b spot) int {
		return cmp.Or(cmp.Compare(a.el, b.el), cmp.Compare(a.x, b.x), cmp.Compare(b.z, a.z))
	})
	stops := []Stop{}
	for _, x := range list {
		stops = append(stops, x.stop)
	}
	return stops
}

// Counted is a thing of which there are more or fewer than the list says.
type Counted struct {
	Item  string `json:"item"`
	Name  string `json:"name"`
	Place string `json:"place"`
	Said  int    `json:"said"`
	Found int    `json:"found"`
}

// Strayed is a thing that was found elsewhere.
type Strayed struct {
	Item  string `json:"item"`
	Name  string `json:"name"`
	Home  string `json:"home"`
	Found string `json:"found" doc:"where"`
}

// Outcome of a look.
type Outcome struct {
	Looked  int       `json:"looked" doc:"at so many places"`
	There   int       `json:"there" doc:"so many things were where they live"`
	Missing []Thing   `json:"missing" nullable:"false"`
	Strayed []Strayed `json:"strayed" nullable:"false"`
	Unknown []string  `json:"unknown" nullable:"false" doc:"what is not on the list, with where it lies"`
	Counted []Counted `json:"counted" nullable:"false"`
	Left    int       `json:"left" doc:"places that were not looked at"`
}

// Sum of what was seen.
func Sum(stops []Stop) Outcome {
	out := Outcome{Missing: []Thing{}, Strayed: []Strayed{}, Unknown: []string{}, Counted: []Counted{}}
	for i := range stops {
		x := &stops[i]
		if !x.Seen {
			out.Left++
		} else {
			out.Looked++
		}
		for _, t := range x.Things {
			switch t.State {
			case There:
				out.There++
				if t.Found > 0 && t.Found != t.N-t.Out {
					out.Counted = append(out.Counted, Counted{t.Item, t.Name, x.Place, t.N - t.Out, t.Found})
				}
			case Missing:
				t.At = x.Place
				out.Missing = append(out.Missing, t)
			case Elsewhere:
				out.Strayed = append(out.Strayed, Strayed{t.Item, t.Name, x.Place, t.At})
			}
		}
		for _, u := range x.Unknown {
			out.Unknown = append(out.Unknown, u+" in "+x.Place)
		}
	}
	return out
}
