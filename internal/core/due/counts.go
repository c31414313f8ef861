package due

import (
	"slices"
	"sort"

	"hobrak/internal/core/event"
)

// Tally counts the uses in a log.
type Tally struct {
	days map[string][]string // of each item, sorted; a day as often as there were uses
}

// NewTally of the valid events of a log.
func NewTally(log event.Log) *Tally {
	t := &Tally{days: map[string][]string{}}
	for i := range log {
		if e := &log[i]; e.What.Use() && e.Item != "" {
			for range e.Number() {
				t.days[e.Item] = append(t.days[e.Item], e.Day())
			}
		}
	}
	for _, d := range t.days {
		if !slices.IsSorted(d) { // most logs are in the order of their days
			slices.Sort(d)
		}
	}
	return t
}

// Uses of an item after a day, up to another.
func (t *Tally) Uses(item, after, to string) int {
	d := t.days[item]
	return sort.SearchStrings(d, to+"~") - sort.SearchStrings(d, after+"~")
}
