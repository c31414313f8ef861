package daily

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"hobrak/internal/core/event"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

// States of what guards, the worst first.
const (
	GuardMissing = "missing" // it was looked for and not there
	GuardOverdue = "overdue" // the day by which it is inspected or replaced is past
	GuardOut     = "out"     // it is not where one reaches for it
	GuardDue     = "due"     // the day is near
)

// soon is how many days before its day something is told.
const soon = 30

// Guard is something people rely on when it matters: protective gear, an extinguisher, first aid, and whatever has a day by which it is
// inspected or replaced; told when it is not as it should be.
type Guard struct {
	Item  string `json:"item"`
	Name  string `json:"name"`
	Place string `json:"place" doc:"where it lives; empty without a home"`
	State string `json:"state" enum:"missing,overdue,out,due"`
	Day   string `json:"day" doc:"since when it is missing or out, or by which day it is inspected or replaced"`
	At    string `json:"at" doc:"where it is meanwhile, or who has it; empty when that is not known"`
	Says  string `json:"says" doc:"what to do"`
}

// guards tells whether a thing protects, and whether it is needed at once.
func guards(it *shop.Item) (protects, urgent bool) {
	k, ok := kinds.Told(it.Kind, it.Name)
	return ok && (k.Group == "safety gear" || k.Urgent), ok && k.Urgent
}

// Guards are those that are not as they should be, missing ones first of all. Missing has the day on which each was looked for in vain
// last and not seen since.
func Guards(s *shop.Shop, out event.Log, missing map[string]string, today time.Time) []Guard {
	ix := shop.NewIndex(s)
	day, near := today.Format(time.DateOnly), today.AddDate(0, 0, soon).Format(time.DateOnly)
	away := map[string]event.Event{}
	for _, e := range out {
		away[e.Item] = e
	}
	list := []Guard{}
	for i := range s.Items {
		it := &s.Items[i]
		protects, urgent := guards(it)
		if !it.Needs() || !protects && it.Due == "" {
			continue
		}
		g := Guard{Item: it.ID, Name: it.Name}
		if homes := ix.Homes(it.ID); len(homes) > 0 {
			g.Place = homes[0].Place
		}
		e, gone := away[it.ID]
		switch {
		case missing[it.ID] != "":
			g.State, g.Day, g.Says = GuardMissing, missing[it.ID], "find or replace it before the work it is for"
		case it.Due != "" && it.Due < day:
			g.State, g.Day, g.Says = GuardOverdue, it.Due, "inspect or replace it, as its maker says; until then do not rely on it"
		case gone && (urgent || e.What == event.Lent):
			g.State, g.Day, g.At, g.Says = GuardOut, e.Day(), e.On, "bring it back: it is needed where everybody looks for it"
			if e.To != "" {
				g.At = e.To
			}
		case it.Due != "" && it.Due <= near:
			g.State, g.Day, g.Says = GuardDue, it.Due, "inspect or replace it by then"
		default:
			continue
		}
		list = append(list, g)
	}
	order := []string{GuardMissing, GuardOverdue, GuardOut, GuardDue}
	slices.SortStableFunc(list, func(a, b Guard) int {
		return cmp.Or(cmp.Compare(slices.Index(order, a.State), slices.Index(order, b.State)), cmp.Compare(a.Day, b.Day), strings.Compare(a.Name, b.Name))
	})
	return list
}
