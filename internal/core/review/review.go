// Package review keeps how a shop was on a day and sets two days side by side: what moved, came, went and lay untouched, what handling takes
// a week, which walls are full, how much floor is free, which aims were reached; and it answers ten questions by the numbers. Areas are
// m², times seconds a week, days as 2027-05-31.
package review

import (
	"cmp"
	"math"
	"slices"
	"strings"
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
	Outside bool    `json:"outside,omitempty" doc:"used nearly every day, and got at in less than half of the hours"`
	Salvage bool    `json:"salvage,omitempty" doc:"wood from something taken apart"`
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
	Hours     float64 `json:"hours" doc:"in the shop in the year before, by the times of what was noted"`
	InOrder   float64 `json:"in_order" doc:"share of the neighbours of series that stand side by side, 0 to 1"`
	Empties   int     `json:"empties" doc:"places that hold nothing"`
	Creep     float64 `json:"creep" doc:"m² of wall and floor that household things take beyond what was agreed"`
}

// full is from how much a wall counts as full.
const full = .85

// Noted is what was noted in the year before a snapshot, and what else is known of its day.
type Noted struct {
	Uses    int
	Hours   float64
	InOrder float64 // share of the neighbours of series that stand side by side on that day, 0 to 1
}

// Sessions takes the times at which something was noted, as 2027-05-31T14:05:00Z in order, for sessions in the shop, and gives their hours: from
// the first to the last of those with less than an hour and a half between, and a quarter of an hour for what is not noted (estimates).
// What has a day only is left out.
func Sessions(at []string) (hours float64) {
	var first, last time.Time
	open := false
	for _, text := range at {
		t, err := time.Parse(time.RFC3339, text)
		if err != nil {
			continue
		}
		if open && t.Sub(last) < 90*time.Minute {
			last = t
			continue
		}
		if open {
			hours += last.Sub(first).Hours() + .25
		}
		first, last, open = t, t, true
	}
	if open {
		hours += last.Sub(first).Hours() + .25
	}
	return hours
}

// Take a snapshot of a shop as it lies: last is the day of the last use of each thing, began the day from which uses were noted.
func Take(s *shop.Shop, r *round.Round, last map[string]string, began, today string, noted Noted) *Snapshot {
	x := &Snapshot{Version: Version, Day: today, Things: []Thing{}, Places: []Filled{}, Walls: []Wall{}, Photos: []Photo{}, Aims: append([]shop.Aim{}, s.Settings.Aims...), Regrets: append([]shop.Regret{}, s.Settings.Regrets...)}
	f := &x.Figures
	f.Handling, f.Things, f.Homeless, f.Pieces, f.Uses, f.Hours, f.InOrder = r.Totals.Seconds, r.Totals.Lines, r.Totals.Homeless, r.Totals.Pieces, noted.Uses, noted.Hours, noted.InOrder
	ix := shop.NewIndex(s)
	year := yearBefore(today)
	untouched := 0
	for i := range r.Items {
		it := &r.Items[i]
		t := Thing{ID: it.ID, Name: it.Name, Kind: it.Kind, N: it.Count, Place: it.Place, Order: it.Order, Uses: it.Uses, Seconds: it.Seconds, M2: it.W * it.H * float64(max(1, it.Count)) / 1e6, Last: last[it.ID], Keep: it.Keep}
		if own := ix.Item(it.ID); own != nil {
			t.Outside = outside(s, ix, own)
			t.Limbo, t.Salvage = own.Limbo, own.Wood != nil && own.Wood.Salvaged
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
		if !slices.ContainsFunc(r.Items, func(it round.Item) bool { return it.Place == p.ID }) && p.Fill == 0 {
			f.Empties++
		}
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
		if a := ix.Area(t.Area); a != nil && a.Household != nil {
			if q := a.Household; q.Wall > 0 {
				f.Creep += max(0, t.Wall-q.Wall)
			}
			if q := a.Household; q.Floor > 0 {
				f.Creep += max(0, t.Floor-q.Floor)
			}
		}
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
	What   string  `json:"what" enum:"handling,things,pieces,homeless,open-floor,full-walls,untouched,unused-m2,household,projects,limbo,uses,hours,creep,in-order,empties"`
	Called string  `json:"called" doc:"it in words"`
	Then   float64 `json:"then"`
	Now    float64 `json:"now"`
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
	SalvIn   int      `json:"salvage_in" doc:"pieces of salvaged wood that came"`
	SalvOut  int      `json:"salvage_out" doc:"that went"`
	SalvM2   float64  `json:"salvage_m2" doc:"m² of front that what is there takes"`
	Score    float64  `json:"score" doc:"share of the aims reached, by their weights; 0 without aims"`
	Aims     []Judged `json:"aims" nullable:"false"`
	Asked    []Answer `json:"asked" nullable:"false" doc:"ten questions"`
	Form     string   `json:"form" doc:"what an older snapshot does not know; empty when it knows all"`
}

// figures of a snapshot by their names.
func (f *Figures) named() []Pair {
	return []Pair{{"handling", "handling a week", f.Handling, 0}, {"things", "lines of the list", float64(f.Things), 0}, {"pieces", "pieces", float64(f.Pieces), 0}, {"homeless", "without a home", float64(f.Homeless), 0},
		{"open-floor", "largest free floor", f.OpenFloor, 0}, {"full-walls", "full walls", float64(f.FullWalls), 0}, {"untouched", "not used for a year", f.Untouched, 0}, {"unused-m2", "front those take", f.UnusedM2, 0},
		{"household", "room of the household", f.Household, 0}, {"creep", "of that beyond what was agreed", f.Creep, 0}, {"projects", "open projects", float64(f.Projects), 0},
		{"limbo", "waiting to leave or for repair", float64(f.Limbo), 0}, {"uses", "uses noted in a year", float64(f.Uses), 0}, {"hours", "hours in the shop in a year", f.Hours, 0}, {"in-order", "of series in order one can see", f.InOrder, 0}, {"empties", "places that hold nothing", float64(f.Empties), 0}}
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
		if a.Things[i].Salvage {
			r.SalvOut += a.Things[i].N
		}
	}
	for i := range b.Things {
		t := &b.Things[i]
		if !t.Salvage {
			continue
		}
		r.SalvM2 += t.M2
		o := was[t.ID]
		switch { // more of it came, or some went
		case o == nil || !o.Salvage:
			r.SalvIn += t.N
		case t.N > o.N:
			r.SalvIn += t.N - o.N
			r.SalvOut -= o.N
		default:
			r.SalvOut -= t.N
		}
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
	case a.What == "open-floor" || a.What == "in-order":
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

// Regretted is what was regretted about something of a kind or with a word of its name, in the words it was written in; empty when nothing
// was.
func Regretted(s *shop.Shop, kind, name string) string {
	name = strings.ToLower(name)
	for _, r := range s.Settings.Regrets {
		if r.Kind != "" && (r.Kind == kind || strings.Contains(name, strings.ToLower(r.Kind))) {
			return r.Says
		}
	}
	return ""
}
