// Package review keeps how a shop was on a day and sets two days side by side: what moved, came, went and lay untouched, what handling takes
// a week, which walls are full, how much floor is free, which aims were reached; and it answers ten questions by the numbers. Areas are
// m², times seconds a week, days as 2027-05-31.
package review

import (
	"cmp"
	"math"
	"slices"
	"time"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/household"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
)

// Version of the form of snapshots. Older ones are read as they are: what they do not know is not compared.
const Version = 1

// Snapshot is how a shop was on a day.
type Snapshot struct {
	ID      int64         `json:"id" doc:"its number; 0 before it is kept"`
	Version int           `json:"version"`
	Day     string        `json:"day"`
	Name    string        `json:"name" doc:"what it is called; empty when only its day is"`
	Things  []Thing       `json:"things" nullable:"false"`
	Places  []Filled      `json:"places" nullable:"false"`
	Walls   []Wall        `json:"walls" nullable:"false"`
	Figures Figures       `json:"figures"`
	Shares  []Share       `json:"shares" nullable:"false" doc:"of room against use, by group of kinds"`
	Photos  []Photo       `json:"photos" nullable:"false" doc:"of the walls"`
	Aims    []shop.Aim    `json:"aims" nullable:"false" doc:"as they stood then"`
	Regrets []shop.Regret `json:"regrets" nullable:"false"`
}

// Thing as it was.
type Thing struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Kind    string  `json:"kind"`
	N       int     `json:"n"`
	Place   string  `json:"place" doc:"empty without a home"`
	Order   int     `json:"order" doc:"1 within arm's reach to 4"`
	Uses    float64 `json:"uses" doc:"a week, as it was taken"`
	Seconds float64 `json:"seconds" doc:"a week"`
	M2      float64 `json:"m2" doc:"of front it takes"`
	Last    string  `json:"last" doc:"day of its last use; empty when none was noted"`
	Keep    bool    `json:"keep"`
	Limbo   string  `json:"limbo"`
}

// Share of a group of kinds: of the front that things take, and of the uses.
type Share struct {
	Group string  `json:"group"`
	Room  float64 `json:"room" doc:"0 to 1"`
	Uses  float64 `json:"uses" doc:"0 to 1"`
}

// Shares of room against use of each group of kinds, the largest in room first.
func Shares(r *round.Round) []Share {
	room, uses := map[string]float64{}, map[string]float64{}
	allRoom, allUses := 0.0, 0.0
	for i := range r.Items {
		it := &r.Items[i]
		g := "other"
		if k, ok := kinds.ByID(it.Kind); ok {
			g = k.Group
		} else if k, ok := kinds.Sure(it.Name); ok {
			g = k.Kind.Group
		}
		m2 := it.W * it.H * float64(max(1, it.Count))
		room[g] += m2
		uses[g] += it.Uses
		allRoom += m2
		allUses += it.Uses
	}
	out := []Share{}
	for g := range room {
		out = append(out, Share{g, room[g] / max(1, allRoom), uses[g] / max(1e-9, allUses)})
	}
	slices.SortFunc(out, func(a, b Share) int { return cmp.Or(cmp.Compare(b.Room, a.Room), cmp.Compare(a.Group, b.Group)) })
	return out
}

// Filled is how full a place was.
type Filled struct {
	ID   string  `json:"id"`
	Fill float64 `json:"fill"`
}

// Wall is how full the storage on a wall was.
type Wall struct {
	Area string  `json:"area"`
	ID   string  `json:"id"`
	Fill float64 `json:"fill" doc:"share of the room of its places that was taken"`
}

// Photo of a wall.
type Photo struct {
	Wall string `json:"wall" doc:"area and letter, as main/B"`
	Name string `json:"name" doc:"of the photo"`
}

// Figures of a shop.
type Figures struct {
	Handling  float64 `json:"handling" doc:"seconds a week"`
	Things    int     `json:"things" doc:"lines of the list"`
	Pieces    int     `json:"pieces"`
	Homeless  int     `json:"homeless"`
	OpenFloor float64 `json:"open_floor" doc:"m² of the largest free rectangle of the main area"`
	FullWalls int     `json:"full_walls" doc:"walls whose places are more than 85 per cent full"`
	Untouched float64 `json:"untouched" doc:"share of the things that were not used for a year or since anything was noted, by number"`
	UnusedM2  float64 `json:"unused_m2" doc:"of front those take"`
	Household float64 `json:"household" doc:"m² of wall and floor that household things take"`
	Projects  int     `json:"projects" doc:"open ones"`
	Limbo     int     `json:"limbo" doc:"things that wait for repair, sale or a decision"`
	Uses      int     `json:"uses" doc:"noted in the year before"`
}

// full is from how much a wall counts as full.
const full = .85

// Take a snapshot of a shop as it lies: last is the day of the last use of each thing, began the day from which uses were noted, uses how
// many were in the year before.
func Take(s *shop.Shop, r *round.Round, last map[string]string, began, today string, uses int) *Snapshot {
	x := &Snapshot{Version: Version, Day: today, Things: []Thing{}, Places: []Filled{}, Walls: []Wall{}, Photos: []Photo{}, Aims: append([]shop.Aim{}, s.Settings.Aims...), Regrets: append([]shop.Regret{}, s.Settings.Regrets...)}
	f := &x.Figures
	f.Handling, f.Things, f.Homeless, f.Pieces, f.Uses = r.Totals.Seconds, r.Totals.Lines, r.Totals.Homeless, r.Totals.Pieces, uses
	ix := shop.NewIndex(s)
	year := yearBefore(today)
	untouched := 0
	for i := range r.Items {
		it := &r.Items[i]
		t := Thing{ID: it.ID, Name: it.Name, Kind: it.Kind, N: it.Count, Place: it.Place, Order: it.Order, Uses: it.Uses, Seconds: it.Seconds, M2: it.W * it.H * float64(max(1, it.Count)) / 1e6, Last: last[it.ID], Keep: it.Keep}
		if own := ix.Item(it.ID); own != nil {
			t.Limbo = own.Limbo
		}
		if t.Limbo != "" {
			f.Limbo++
		}
		if t.Idle(year, began) {
			untouched++
			f.UnusedM2 += t.M2
		}
		x.Things = append(x.Things, t)
	}
	if len(r.Items) > 0 {
		f.Untouched = float64(untouched) / float64(len(r.Items))
	}
	x.Shares = Shares(r)
	type sum struct{ room, taken float64 }
	walls := map[[2]string]*sum{}
	for i := range r.Places {
		p := &r.Places[i]
		x.Places = append(x.Places, Filled{p.ID, p.Fill})
		if p.Elevation < 0 || p.Elevation >= len(r.Elevations) || r.Elevations[p.Elevation].Middle {
			continue
		}
		e := &r.Elevations[p.Elevation]
		k := [2]string{e.Area, e.ID}
		if walls[k] == nil {
			walls[k] = &sum{}
		}
		walls[k].room += p.W * p.H
		walls[k].taken += p.Fill * p.W * p.H
	}
	for i := range r.Elevations {
		e := &r.Elevations[i]
		if w := walls[[2]string{e.Area, e.ID}]; w != nil && w.room > 0 && !e.Middle {
			x.Walls = append(x.Walls, Wall{e.Area, e.ID, w.taken / w.room})
			if w.taken/w.room > full {
				f.FullWalls++
			}
		}
	}
	if len(s.Areas) > 0 {
		o := floor.OpenFloor(s, &s.Areas[0])
		f.OpenFloor = o.W * o.D / 1e6
	}
	for _, t := range household.Of(s) {
		f.Household += t.Wall + t.Floor
	}
	for i := range s.Settings.Projects {
		if p := &s.Settings.Projects[i]; p.State == "" || p.State == "open" {
			f.Projects++
		}
	}
	return x
}

// yearBefore a day.
func yearBefore(day string) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return ""
	}
	return t.AddDate(-1, 0, 0).Format(time.DateOnly)
}

// Idle tells whether a thing was not used since a day: by its last use; where none was noted, only when uses were noted since before then.
func (t *Thing) Idle(since, began string) bool {
	if t.Last != "" {
		return t.Last < since
	}
	return began != "" && began <= since
}

// Pair is a figure then and now.
type Pair struct {
	What string  `json:"what" enum:"handling,things,pieces,homeless,open-floor,full-walls,untouched,unused-m2,household,projects,limbo,uses"`
	Then float64 `json:"then"`
	Now  float64 `json:"now"`
}

// Change of a thing between two snapshots.
type Change struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	From string `json:"from"`
	To   string `json:"to"`
}

// Answer to a question that a review asks.
type Answer struct {
	Asks   string   `json:"asks"`
	Says   string   `json:"says"`
	Things []string `json:"things" nullable:"false" doc:"ids of what it is about, those first that count most"`
}

// Judged is an aim with its figure.
type Judged struct {
	shop.Aim
	Now     float64 `json:"now" doc:"what its figure is; 0 when it has none"`
	Reached bool    `json:"reached"`
	Open    bool    `json:"open" doc:"it is neither reached nor past its day"`
}

// Review of a time between two snapshots.
type Review struct {
	From     string   `json:"from" doc:"day"`
	To       string   `json:"to"`
	Figures  []Pair   `json:"figures" nullable:"false"`
	Moved    []Change `json:"moved" nullable:"false"`
	Came     []Change `json:"came" nullable:"false"`
	Went     []Change `json:"went" nullable:"false"`
	Same     int      `json:"same" doc:"things that live where they did"`
	Untaken  float64  `json:"untaken" doc:"share of the things of both days that were not used between them, 0 to 1"`
	UntakenM float64  `json:"untaken_m2" doc:"m² of front those take"`
	NearIdle []Thing  `json:"near_idle" nullable:"false" doc:"within arm's reach and not used between them: near and dusty"`
	Score    float64  `json:"score" doc:"share of the aims reached, by their weights; 0 without aims"`
	Aims     []Judged `json:"aims" nullable:"false"`
	Asked    []Answer `json:"asked" nullable:"false" doc:"ten questions"`
	Form     string   `json:"form" doc:"what an older snapshot does not know; empty when it knows all"`
}

// figures of a snapshot by their names.
func (f *Figures) named() []Pair {
	return []Pair{{"handling", f.Handling, 0}, {"things", float64(f.Things), 0}, {"pieces", float64(f.Pieces), 0}, {"homeless", float64(f.Homeless), 0}, {"open-floor", f.OpenFloor, 0}, {"full-walls", float64(f.FullWalls), 0},
		{"untouched", f.Untouched, 0}, {"unused-m2", f.UnusedM2, 0}, {"household", f.Household, 0}, {"projects", float64(f.Projects), 0}, {"limbo", float64(f.Limbo), 0}, {"uses", float64(f.Uses), 0}}
}

// Compare two snapshots, the older first. Began is the day from which uses were noted.
func Compare(a, b *Snapshot, began string) *Review {
	r := &Review{From: a.Day, To: b.Day, Figures: a.Figures.named(), Moved: []Change{}, Came: []Change{}, Went: []Change{}, NearIdle: []Thing{}, Aims: []Judged{}, Asked: []Answer{}}
	for i, p := range b.Figures.named() {
		r.Figures[i].Now = p.Then
	}
	if a.Version < Version {
		r.Form = "the older of the two was kept by an earlier version: what it does not know is 0"
	}
	was := map[string]*Thing{}
	for i := range a.Things {
		was[a.Things[i].ID] = &a.Things[i]
	}
	both, untaken := 0, 0
	for i := range b.Things {
		t := &b.Things[i]
		o := was[t.ID]
		delete(was, t.ID)
		switch {
		case o == nil:
			r.Came = append(r.Came, Change{ID: t.ID, Name: t.Name, To: t.Place})
			continue
		case o.Place != t.Place:
			r.Moved = append(r.Moved, Change{t.ID, t.Name, o.Place, t.Place})
		default:
			r.Same++
		}
		both++
		if t.Idle(a.Day, began) {
			untaken++
			r.UntakenM += t.M2
			if t.Order == 1 || t.Order == 2 && t.M2 > .05 {
				r.NearIdle = append(r.NearIdle, *t)
			}
		}
	}
	for i := range a.Things {
		if o := was[a.Things[i].ID]; o != nil {
			r.Went = append(r.Went, Change{ID: o.ID, Name: o.Name, From: o.Place})
		}
	}
	if both > 0 {
		r.Untaken = float64(untaken) / float64(both)
	}
	slices.SortStableFunc(r.NearIdle, func(x, y Thing) int { return cmp.Or(x.Order-y.Order, cmp.Compare(y.M2, x.M2)) })
	r.aims(b)
	r.ask(a, b, began)
	return r
}

// Judge an aim by the figures of a day.
func Judge(a *shop.Aim, f *Figures, today string) Judged {
	j := Judged{Aim: *a}
	known := false
	for _, p := range f.named() {
		if p.What == a.What {
			j.Now, known = p.Then, true
		}
	}
	switch {
	case a.State != "":
		j.Reached = a.State == "reached"
	case !known:
		j.Open = a.By == "" || a.By > today
	case a.What == "open-floor":
		j.Reached = j.Now >= a.To-1e-9
		j.Open = !j.Reached && (a.By == "" || a.By > today)
	default:
		j.Reached = j.Now <= a.To+1e-9
		j.Open = !j.Reached && (a.By == "" || a.By > today)
	}
	return j
}

func (r *Review) aims(b *Snapshot) {
	sum, all := 0.0, 0.0
	for i := range b.Aims {
		j := Judge(&b.Aims[i], &b.Figures, b.Day)
		r.Aims = append(r.Aims, j)
		if j.State == "dropped" || j.Open {
			continue
		}
		w := j.Weight
		if w == 0 {
			w = 1
		}
		all += w
		if j.Reached {
			sum += w
		}
	}
	if all > 0 {
		r.Score = sum / all
	}
}

// finite keeps a share that is not one out of sentences.
func finite(v float64) float64 {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return 0
	}
	return v
}
