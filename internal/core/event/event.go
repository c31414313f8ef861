// Package event says what happened in a shop, day by day: what was used, taken, put
// back, moved, lent. Events are beside the shop, not in it: they are only ever added to,
// undo leaves them alone, and no plan grows stale by one. What was noted wrongly is
// taken back by one more event that says so.
package event

import (
	"fmt"
	"slices"
	"strings"
	"time"
)

// Kind of event.
type Kind string

const (
	Used      Kind = "used"
	Taken     Kind = "taken"
	PutBack   Kind = "put-back"
	Lent      Kind = "lent"
	Returned  Kind = "returned"
	Moved     Kind = "moved"
	Laid      Kind = "laid"   // it is out, and somewhere for now
	Seen      Kind = "seen"   // where one looked for it, or where it was found
	Missed    Kind = "missed" // it was not where it lives
	Noted     Kind = "noted"
	TakenBack Kind = "taken-back" // an event that was not so
)

// kinds and what each does to the number of an item that is out of its home.
var kinds = []struct {
	kind Kind
	out  int
}{{Used, 0}, {Taken, 1}, {PutBack, -1}, {Lent, 1}, {Returned, -1}, {Moved, 0}, {Laid, 0}, {Seen, 0}, {Missed, 0}, {Noted, 0}, {TakenBack, 0}}

// Words of the kinds.
func (Kind) Words() (out []string) {
	for _, k := range kinds {
		out = append(out, string(k.kind))
	}
	return out
}

// Out is 1 when an item is out of its home after such an event, -1 when it is back, 0
// when nothing is said of that.
func (k Kind) Out() int {
	for _, x := range kinds {
		if x.kind == k {
			return x.out
		}
	}
	return 0
}

// Use tells whether it was fetched to be used.
func (k Kind) Use() bool { return k == Used || k == Taken }

// Event that happened.
type Event struct {
	ID       int64  `json:"id,omitempty" min:"0" max:"9007199254740991" doc:"its number, by which another takes it back"`
	At       string `json:"at" need:"yes" doc:"when: a day as 2027-05-31, or a time as 2027-05-31T14:05:00Z"`
	Who      string `json:"who,omitempty" doc:"whose doing it was"`
	What     Kind   `json:"what" need:"yes" doc:"what happened"`
	Item     string `json:"item,omitempty" doc:"id of the item, which may be gone since"`
	Place    string `json:"place,omitempty" doc:"id of the place, which may be gone since"`
	N        int    `json:"n,omitempty" min:"0" max:"10000" doc:"how many, or how often that day; 1 when left out"`
	To       string `json:"to,omitempty" doc:"to whom it was lent, or from whom it came back"`
	Due      string `json:"due,omitempty" doc:"day on which what was lent is to be back, as 2027-05-31"`
	On       string `json:"on,omitempty" doc:"where what was taken is meanwhile: a station, a place, or in words"`
	Note     string `json:"note,omitempty" doc:"free text"`
	Device   string `json:"device,omitempty" doc:"what it was noted with"`
	Corrects int64  `json:"corrects,omitempty" min:"0" max:"9007199254740991" doc:"number of the event that was not so"`
}

// Number is how many, or how often.
func (e *Event) Number() int { return max(1, e.N) }

// Day it was on, where it happened.
func (e *Event) Day() string { return e.At[:min(len(e.At), len(time.DateOnly))] }

// Check says what is wrong with an event by itself, by the name of its field.
func (e *Event) Check() (field, says string) {
	if _, err := time.Parse(time.DateOnly, e.At); err != nil {
		if _, err := time.Parse(time.RFC3339, e.At); err != nil {
			return "at", fmt.Sprintf("%q is neither a day, as 2027-05-31, nor a time, as 2027-05-31T14:05:00Z", e.At)
		}
	}
	switch {
	case !slices.Contains(e.What.Words(), string(e.What)):
		return "what", fmt.Sprintf("%q is not known here; it should be one of %s", e.What, strings.Join(e.What.Words(), ", "))
	case e.What != Noted && e.What != TakenBack && e.Item == "":
		return "item", fmt.Sprintf("%s of what? the id of an item is needed", e.What)
	case e.What == Noted && e.Note == "":
		return "note", "what is noted is needed"
	case e.What == TakenBack && e.Corrects == 0:
		return "corrects", "the number of the event that was not so is needed"
	case e.What == Laid && e.On == "":
		return "on", "where it was laid is needed: a place, a station, or in words"
	case e.What != Lent && e.What != Returned && e.To != "":
		return "to", "only what is lent is lent to somebody"
	case e.What != Lent && e.Due != "":
		return "due", "only what is lent is to be back on a day"
	case e.Due != "" && badDay(e.Due):
		return "due", fmt.Sprintf("%q should be a day as 2027-05-31", e.Due)
	case e.What != Taken && e.What != Laid && e.On != "":
		return "on", "only of what was taken it is said where it is meanwhile"
	case e.What != TakenBack && e.Corrects != 0:
		return "corrects", "only what is taken-back corrects another event"
	}
	return "", ""
}

func badDay(text string) bool {
	_, err := time.Parse(time.DateOnly, text)
	return err != nil
}

// Log answers questions of a list of events; it is the plain form of what a store
// answers by its tables.
type Log []Event

// Valid are the events that were not taken back, in their order.
func (l Log) Valid() (out Log) {
	gone := map[int64]bool{}
	for i := range l {
		if l[i].What == TakenBack {
			gone[l[i].Corrects] = true
		}
	}
	for _, e := range l {
		if e.What != TakenBack && (e.ID == 0 || !gone[e.ID]) {
			out = append(out, e)
		}
	}
	return out
}

// Began is the first day on which a use was noted; empty when none was.
func (l Log) Began() (day string) {
	for _, e := range l.Valid() {
		if e.What.Use() && (day == "" || e.Day() < day) {
			day = e.Day()
		}
	}
	return day
}

// Last day of use of each item.
func (l Log) Last() map[string]string {
	out := map[string]string{}
	for _, e := range l.Valid() {
		if e.What.Use() {
			out[e.Item] = max(out[e.Item], e.Day())
		}
	}
	return out
}

// Uses of each item from a day to another, both included.
func (l Log) Uses(from, to string) map[string]int {
	out := map[string]int{}
	for _, e := range l.Valid() {
		if d := e.Day(); e.What.Use() && d >= from && d <= to {
			out[e.Item] += e.Number()
		}
	}
	return out
}

// Out are the items that are out of their homes, and how many of each.
func (l Log) Out() map[string]int {
	out := map[string]int{}
	for _, e := range l.Valid() {
		if k := e.What.Out(); k != 0 {
			if out[e.Item] += k * e.Number(); out[e.Item] <= 0 {
				delete(out, e.Item)
			}
		}
	}
	return out
}

// Of lists the valid events that a filter lets pass, the newest first.
func (l Log) Of(f Filter) (out Log) {
	for _, e := range slices.Backward(l.Valid()) {
		if f.Passes(&e) {
			out = append(out, e)
		}
	}
	return out
}

// Filter of events; what is empty lets everything pass.
type Filter struct {
	Item, Place string
	What        Kind
	From, To    string // days, both included
	Text        string // words of which each stands in the thing's id, the place, a person, a note, or where it is meanwhile
}

// Words of the text.
func (f *Filter) Words() []string { return strings.Fields(f.Text) }

// Says is the text that words are looked for in.
func (e *Event) Says() string {
	return strings.Join([]string{strings.ReplaceAll(e.Item, "-", " "), e.Place, e.Who, e.To, e.On, e.Note, e.Device}, " ")
}

// small makes the letters of the alphabet small, as the store compares them.
func small(s string) string {
	return strings.Map(func(r rune) rune {
		if r >= 'A' && r <= 'Z' {
			return r + 'a' - 'A'
		}
		return r
	}, s)
}

// Passes tells whether an event is meant.
func (f *Filter) Passes(e *Event) bool {
	d := e.Day()
	for _, w := range f.Words() {
		if !strings.Contains(small(e.Says()), small(w)) {
			return false
		}
	}
	return (f.Item == "" || f.Item == e.Item) && (f.Place == "" || f.Place == e.Place) && (f.What == "" || f.What == e.What) &&
		(f.From == "" || d >= f.From) && (f.To == "" || d <= f.To)
}
