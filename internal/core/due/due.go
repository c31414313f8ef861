// Package due says what is to be done on a day to keep a shop going: upkeep by the calendar, by uses and by hours of a machine, dull edges
// that make a batch, consumables that run low or are past their date, things to inspect, what waits in limbo, what was lent, trials,
// projects, aims. One list, by where one is at and by minutes; empty when nothing is due. Days are as 2027-05-31, of the calendar where
// the shop is; no clock and no time of day counts, so neither does daylight saving.
package due

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
)

// Kind of what is due.
type Kind string

// Kinds of what is due.
const (
	Work     Kind = "work"     // upkeep that comes again
	Sharpen  Kind = "sharpen"  // a batch of dull edges
	Buy      Kind = "buy"      // a consumable runs low
	Expired  Kind = "expired"  // past the date it keeps once opened
	Inspect  Kind = "inspect"  // an extinguisher, a filter, a first-aid box
	Frost    Kind = "frost"    // what must not freeze comes in
	Limbo    Kind = "limbo"    // waits too long for repair, sale or a decision
	Lent     Kind = "lent"     // not back when it was to be
	Trial    Kind = "trial"    // doing without is judged
	Stalled  Kind = "stalled"  // a project nobody touched
	Wish     Kind = "wish"     // what is held for a wish is confirmed or given up
	AimDue   Kind = "aim"      // an aim's day has come
	Decision Kind = "decision" // a thing's own day of decision
	Dry      Kind = "dry"      // what was drying may be worked on again
	Full     Kind = "full"     // a bin of offcuts or scrap
	Came     Kind = "came"     // the condition of a wish came true
)

// Words of the kinds.
func (Kind) Words() []string {
	return []string{"work", "sharpen", "buy", "expired", "inspect", "frost", "limbo", "lent", "trial", "stalled", "wish", "aim", "decision", "dry", "full", "came"}
}

// Item is something that is due.
type Item struct {
	What    Kind    `json:"what" enum:"work,sharpen,buy,expired,inspect,frost,limbo,lent,trial,stalled,wish,aim,decision,dry,full,came"`
	ID      string  `json:"id" doc:"id of the upkeep, thing, project, trial or aim"`
	Name    string  `json:"name" doc:"what is to be done"`
	Where   string  `json:"where" doc:"id of the place or station it is done at; empty when nowhere in particular"`
	Due     string  `json:"due" doc:"day it became due, or will"`
	Minutes float64 `json:"minutes" doc:"about how long it takes"`
	Says    string  `json:"says" doc:"why it is due"`
	Care    string  `json:"care" doc:"what to mind; empty when nothing"`
}

// Counts answers how often things were used.
type Counts interface {
	// Uses of an item from a day on, that day not included, up to another, that one included.
	Uses(item, after, to string) int
}

// Estimates.
const (
	usualMinutes = 10.0 // that a piece of upkeep takes
	hoursAUse    = .1   // of a machine, each time something is used at it
	dullBatch    = 4
	limboDays    = 90
	stalledDays  = 30
	frostMoves   = "10-15"
	sharpenSetUp = 15.0 // minutes to get the stones out and put away
	sharpenEach  = 6.0  // minutes an edge
)

// Of lists what is due on a day, what became due first first. Out are the events by which pieces are out still.
func Of(s *shop.Shop, counts Counts, out event.Log, today string) ([]Item, error) {
	now, err := time.Parse(time.DateOnly, today)
	if err != nil {
		return nil, fmt.Errorf("%q should be a day as 2027-05-31", today)
	}
	l := &list{s: s, ix: shop.NewIndex(s), counts: counts, now: now, today: today, all: []Item{}}
	l.upkeep()
	l.edges()
	l.things()
	l.frost()
	l.lent(out)
	l.records()
	l.bins()
	l.wishes()
	slices.SortStableFunc(l.all, func(a, b Item) int {
		return cmp.Or(cmp.Compare(a.Due, b.Due), cmp.Compare(a.Minutes, b.Minutes), cmp.Compare(a.ID, b.ID))
	})
	return l.all, nil
}

// Ahead lists what will be due by its day after a day and up to another; what comes by use alone is not foreseen.
func Ahead(s *shop.Shop, out event.Log, today, until string) ([]Item, error) {
	to, err := time.Parse(time.DateOnly, until)
	if err != nil {
		return nil, fmt.Errorf("%q should be a day as 2027-05-31", until)
	}
	all, err := Of(s, none{}, out, to.AddDate(0, 0, 1).Format(time.DateOnly))
	if err != nil {
		return nil, err
	}
	return slices.DeleteFunc(all, func(x Item) bool { return x.Due <= today || x.Due > until }), nil
}

type none struct{}

func (none) Uses(string, string, string) int { return 0 }

type list struct {
	s      *shop.Shop
	ix     *shop.Index
	counts Counts
	now    time.Time
	today  string
	all    []Item
}

func (l *list) add(x Item) { l.all = append(l.all, x) }

// since a day; the day itself when it is none or still to come: a clock that was set back or a slip makes nothing due for years.
func (l *list) since(day string) (t time.Time, ok bool) {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return l.now, false
	}
	if t.After(l.now) {
		return l.now, true
	}
	return t, true
}

// reached tells whether a day has come.
func (l *list) reached(day string) bool {
	_, err := time.Parse(time.DateOnly, day)
	return err == nil && day <= l.today
}

// where something lives or stands: its first place, else itself where it is a station or a place.
func (l *list) where(id string) string {
	if l.ix.Item(id) != nil {
		for _, h := range l.ix.Homes(id) {
			return h.Place
		}
		return ""
	}
	if l.ix.Station(id) != nil || l.ix.Place(id) != nil || l.ix.Container(id) != nil {
		return id
	}
	return ""
}

// AddMonths to a day: the same day of the month, or its last where it has no such day.
func AddMonths(t time.Time, n int) time.Time {
	first := time.Date(t.Year(), t.Month()+time.Month(n), 1, 0, 0, 0, 0, time.UTC)
	last := first.AddDate(0, 1, -1).Day()
	return first.AddDate(0, 0, min(t.Day(), last)-1)
}

// Yearly is the last time a day of the year came, up to a day: 02-29 is the last of February where there is none.
func Yearly(monthDay string, to time.Time) (time.Time, bool) {
	m, d, ok := strings.Cut(monthDay, "-")
	month, err := strconv.Atoi(m)
	day, err2 := strconv.Atoi(d)
	if !ok || err != nil || err2 != nil || month < 1 || month > 12 || day < 1 || day > 31 {
		return time.Time{}, false
	}
	for year := to.Year(); ; year-- {
		first := time.Date(year, time.Month(month), 1, 0, 0, 0, 0, time.UTC)
		at := first.AddDate(0, 0, min(day, first.AddDate(0, 1, -1).Day())-1)
		if !at.After(to) {
			return at, true
		}
	}
}

// Next day on which upkeep comes by its calendar, after it was done on a day; false when it comes by use alone. The error says that
// it never comes.
func Next(u *shop.Upkeep, last time.Time) (at time.Time, calendar bool, err error) {
	switch {
	case u.Days > 0:
		return last.AddDate(0, 0, u.Days), true, nil
	case u.Months > 0:
		return AddMonths(last, u.Months), true, nil
	case u.Yearly != "":
		at, ok := Yearly(u.Yearly, AddMonths(last, 12))
		if !ok {
			return at, true, fmt.Errorf("%q should be a month and a day as 10-15", u.Yearly)
		}
		return at, true, nil
	case u.Uses > 0 || u.Hours > 0:
		return last, false, nil
	}
	return last, false, fmt.Errorf("%s comes neither by days, months, uses nor hours: say how often", u.Name)
}

func (l *list) upkeep() {
	for i := range l.s.Settings.Upkeep {
		u := &l.s.Settings.Upkeep[i]
		last, known := l.since(u.Last)
		minutes := u.Minutes
		if minutes == 0 {
			minutes = usualMinutes
		}
		x := Item{What: Work, ID: u.ID, Name: u.Name, Where: l.where(u.On), Minutes: minutes, Care: care(u.Name)}
		at, calendar, err := Next(u, last)
		switch {
		case err != nil:
			continue // that is said where it is entered
		case !known:
			x.Due, x.Says = l.today, "nobody noted when it was done last"
		case calendar:
			x.Due, x.Says = at.Format(time.DateOnly), "last done on "+u.Last
		default:
			uses := l.uses(u.On, u.Last)
			if u.Uses > 0 && uses >= u.Uses {
				x.Due, x.Says = l.today, fmt.Sprintf("%d uses since it was done, each %d", uses, u.Uses)
			} else if u.Hours > 0 && float64(uses)*hoursAUse >= u.Hours {
				x.Due, x.Says = l.today, fmt.Sprintf("about %.0f hours since it was done, each %.0f", float64(uses)*hoursAUse, u.Hours)
			}
		}
		if u.Until != "" && u.Until > l.today {
			continue // put off
		}
		if x.Due != "" && x.Due <= l.today {
			l.add(x)
		}
	}
}

// uses of a thing, or of what is used at a station, after a day.
func (l *list) uses(id, after string) int {
	if l.ix.Station(id) == nil {
		return l.counts.Uses(id, after, l.today)
	}
	n := 0
	for i := range l.s.Items {
		if slices.Contains(l.s.Items[i].UsedAt, id) {
			n += l.counts.Uses(l.s.Items[i].ID, after, l.today)
		}
	}
	return n
}

// care is the usual caution of some upkeep, by the words of it.
func care(name string) string {
	name = strings.ToLower(name)
	for _, x := range []struct{ words, says string }{
		{"oil finish rag linseed", "oily rags heat by themselves: flat outdoors or in closed metal, never in a heap"},
		{"filter bag dust", "outdoors or with the extractor running, a mask on: the finest dust is in the filter"},
		{"blade knife knives belt strap", "pull the plug first, gloves for blades"},
		{"respirator cartridge mask", "straps that are slack and cartridges that smell through go; dates as their maker says"},
		{"extinguisher", "look at its gauge and date; who may service it is ruled locally"},
		{"heater stove flue", "cold and off first; a licensed fitter for gas, a sweep for flues"},
		{"charger battery batteries", "on a bare surface, while somebody is there"},
	} {
		for _, w := range strings.Fields(x.words) {
			if strings.Contains(name, w) {
				return x.says
			}
		}
	}
	return ""
}

// Dull are the things with edges to sharpen, and how many are a batch.
func Dull(s *shop.Shop) (list []*shop.Item, batch int) {
	for i := range s.Items {
		if s.Items[i].Flagged("dull") && s.Items[i].Status == "" || s.Items[i].Flagged("dull") && s.Items[i].Status == "owned" {
			list = append(list, &s.Items[i])
		}
	}
	batch = s.Settings.DullBatch
	if batch == 0 {
		batch = dullBatch
	}
	return list, batch
}

// Side on which a thing hangs in the rack it lives in, by whether it is dull; empty where no side is said.
func Side(ix *shop.Index, it *shop.Item) string {
	for _, h := range ix.Homes(it.ID) {
		p := ix.Place(h.Place)
		if p == nil || p.Dull == "" {
			continue
		}
		if it.Flagged("dull") == (p.Dull == "left") {
			return "left"
		}
		return "right"
	}
	return ""
}

func (l *list) edges() {
	dull, batch := Dull(l.s)
	if len(dull) < batch {
		return
	}
	where := ""
	for i := range l.s.Stations {
		if l.s.Stations[i].Kind == "sharpening" {
			where = l.s.Stations[i].ID
			break
		}
	}
	names := make([]string, 0, 4)
	for _, it := range dull[:min(4, len(dull))] {
		names = append(names, it.Name)
	}
	l.add(Item{What: Sharpen, ID: "edges", Name: fmt.Sprintf("Sharpen %d edges", len(dull)), Where: where, Due: l.today, Minutes: sharpenSetUp + sharpenEach*float64(len(dull)),
		Says: strings.Join(names, ", "), Care: "an edge in the hand cuts: one at a time out of its place, and a break before the hand tires"})
}

// things: what runs low, is past its date, is to be inspected, waits or is to be decided.
func (l *list) things() {
	wait := l.s.Settings.LimboDays
	if wait == 0 {
		wait = limboDays
	}
	for i := range l.s.Items {
		it := &l.s.Items[i]
		x := Item{ID: it.ID, Name: it.Name, Where: l.where(it.ID), Minutes: 5}
		if it.Stock != nil && it.Status != "wished" {
			l.stock(it, x)
		}
		if l.reached(it.Due) {
			y := x
			y.What, y.Due, y.Name, y.Says, y.Care = Inspect, it.Due, "Look at "+it.Name, "to be inspected or replaced by "+it.Due, care(it.Name)
			l.add(y)
		}
		if it.Limbo != "" {
			if from, ok := l.since(it.LimboSince); ok {
				if at := from.AddDate(0, 0, wait).Format(time.DateOnly); l.reached(at) {
					y := x
					y.What, y.Due, y.Says = Limbo, at, fmt.Sprintf("waits since %s: %s", it.LimboSince, LimboSays(it.Limbo))
					l.add(y)
				}
			}
		}
		if l.reached(it.Review) {
			y := x
			y.What, y.Due, y.Name, y.Says = Decision, it.Review, "Decide about "+it.Name, "its day of decision was "+it.Review
			l.add(y)
		}
	}
	for i := range l.s.Stations {
		st := &l.s.Stations[i]
		if l.reached(st.Wished) {
			l.add(Item{What: Wish, ID: st.ID, Name: "Buy or give up " + st.Name, Where: st.ID, Due: st.Wished, Minutes: 5, Says: "its place was held until " + st.Wished})
		}
	}
}

// LimboSays is what something in limbo waits for, in words.
func LimboSays(limbo string) string {
	return map[string]string{"repair": "to be repaired", "sell": "to be sold", "give": "to be given away", "decide": "to be decided"}[limbo]
}

func (l *list) stock(it *shop.Item, x Item) {
	k := it.Stock
	if low := Low(it, Rate(l.counts, it.ID, l.now)); k.Has <= low && (low > 0 || k.Has == 0) {
		y := x
		y.What, y.Due, y.Name = Buy, l.today, "Buy "+it.Name
		y.Says = fmt.Sprintf("%s left, bought from %s on", amount(k.Has, k.Unit), amount(low, ""))
		l.add(y)
	}
	if k.Opened != "" && k.Keeps > 0 {
		if from, ok := l.since(k.Opened); ok {
			if at := AddMonths(from, int(k.Keeps)).Format(time.DateOnly); l.reached(at) {
				y := x
				y.What, y.Due, y.Says = Expired, at, fmt.Sprintf("opened on %s, keeps %.0f months", k.Opened, k.Keeps)
				y.Name, y.Care = "Try or throw out "+it.Name, "glue and solvents go where your council takes them, not down the drain"
				l.add(y)
			}
		}
	}
}

func amount(n float64, unit string) string {
	text := strconv.FormatFloat(n, 'f', -1, 64)
	if unit != "" {
		text += " " + unit
	}
	return text
}

// frost: what must not freeze and lives where it does, from the day in autumn on until spring.
func (l *list) frost() {
	day := l.s.Settings.FrostMoves
	if day == "" {
		day = frostMoves
	}
	from, ok := Yearly(day, l.now)
	if !ok || l.now.After(from.AddDate(0, 5, 0)) {
		return
	}
	var names []string
	where := ""
	for i := range l.s.Items {
		it := &l.s.Items[i]
		if !it.Flagged("freeze") {
			continue
		}
		for _, h := range l.ix.Homes(it.ID) {
			p := l.ix.Place(h.Place)
			if p == nil {
				continue
			}
			if _, root := l.ix.Chain(&p.At); slices.Contains(l.areaOf(root).Climate, "frost") {
				names, where = append(names, it.Name), h.Place
				break
			}
		}
	}
	if len(names) > 0 {
		l.add(Item{What: Frost, ID: "frost", Name: fmt.Sprintf("Bring in what must not freeze: %d", len(names)), Where: where, Due: from.Format(time.DateOnly), Minutes: 5 + float64(len(names)), Says: strings.Join(names[:min(4, len(names))], ", ")})
	}
}

// areaOf a root: of what it is part of, where it is part of a station.
func (l *list) areaOf(root *shop.At) *shop.Area {
	if st := l.ix.Station(root.Station); root.Station != "" && st != nil {
		return l.ix.Area(st.Area)
	}
	if a := l.ix.Area(root.Area); a != nil {
		return a
	}
	return l.ix.Area("")
}

// lent too long.
func (l *list) lent(out event.Log) {
	for _, e := range out {
		if e.What == event.Lent && l.reached(e.Due) {
			name := e.Item
			if it := l.ix.Item(e.Item); it != nil {
				name = it.Name
			}
			l.add(Item{What: Lent, ID: e.Item, Name: "Ask for " + name, Due: e.Due, Minutes: 2, Says: "lent to " + e.To + ", to be back on " + e.Due})
		}
	}
}

// records: trials, projects, aims.
func (l *list) records() {
	set := &l.s.Settings
	for i := range set.Trials {
		if t := &set.Trials[i]; t.State == "" && l.reached(t.Review) {
			l.add(Item{What: Trial, ID: t.ID, Name: "Judge doing without " + t.Without, Where: l.where(t.Item), Due: t.Review, Minutes: 5, Says: "tried since " + t.Since})
		}
	}
	stalled := set.StalledDays
	if stalled == 0 {
		stalled = stalledDays
	}
	for i := range set.Projects {
		p := &set.Projects[i]
		if p.State != "" && p.State != "open" {
			continue
		}
		if p.Dries != "" && l.reached(p.Dries) && p.Touched < p.Dries {
			l.add(Item{What: Dry, ID: p.ID, Name: "Go on with " + p.Name, Where: l.where(p.Place), Due: p.Dries, Minutes: 5, Says: "it was to be dry by " + p.Dries})
		}
		if from, ok := l.since(max(cmp.Or(p.Touched, p.Started), p.Dries)); ok {
			if at := from.AddDate(0, 0, stalled).Format(time.DateOnly); l.reached(at) {
				l.add(Item{What: Stalled, ID: p.ID, Name: "Go on with " + p.Name + ", or drop it", Where: l.where(p.Place), Due: at, Minutes: 5, Says: fmt.Sprintf("not touched for %d days", int(l.now.Sub(from).Hours()/24+.5))})
			}
		}
	}
	for i := range set.Aims {
		if a := &set.Aims[i]; a.State == "" && l.reached(a.By) {
			l.add(Item{What: AimDue, ID: a.ID, Name: "Judge the aim: " + a.Name, Due: a.By, Minutes: 5, Says: "it was to be reached by " + a.By})
		}
	}
}
