// Package daily is the day in the shop: what is taken, put back and lent, alone, in a box or as a kit; what is wanted for a task; and
// the round in the evening.
package daily

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/event"
	"hobrak/internal/core/gather"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

// Tap is what somebody says with one press: that things are taken, put back, lent or returned.
type Tap struct {
	What  event.Kind    `json:"what" enum:"taken,put-back,lent,returned,used,laid" doc:"laid: what is out is somewhere for now; what is not out yet is taken there"`
	Items []gather.Want `json:"items,omitempty" maxItems:"500"`
	Boxes []string      `json:"boxes,omitempty" maxItems:"100" doc:"ids of portable boxes, with all that is in them"`
	Kits  []string      `json:"kits,omitempty" maxItems:"50" doc:"ids of kits"`
	With  bool          `json:"with,omitempty" doc:"with what is wanted whenever a thing is used, as far as it is there"`
	To    string        `json:"to,omitempty" maxLength:"100" doc:"to whom it is lent"`
	Due   string        `json:"due,omitempty" maxLength:"10" doc:"day on which it is to be back"`
	On    string        `json:"on,omitempty" maxLength:"100" doc:"where it is meanwhile"`
	Note  string        `json:"note,omitempty" maxLength:"500"`
}

// Refused is why a tap is not so, with the thing that it is about.
type Refused struct {
	Item string
	Why  string
}

func (r *Refused) Error() string { return r.Why }

// Events a tap comes to, given what is out of each thing by the valid events of it. What is in a box or kit counts as far as it is
// there: what is out already stays out. The error is *Refused.
func Events(s *shop.Shop, t *Tap, out event.Log) ([]event.Event, error) {
	ix := shop.NewIndex(s)
	gone := out.Out()
	leaves := t.What.Out() > 0
	type part struct {
		gather.Want
		all  bool // of a box or kit: as much of it as there is
		note string
	}
	var parts []part
	for _, w := range t.Items {
		parts = append(parts, part{Want: gather.Want{Item: w.Item, N: max(1, w.N)}})
		if it := ix.Item(w.Item); it != nil && t.With {
			for _, id := range it.With {
				if ix.Item(id) != nil {
					parts = append(parts, part{Want: gather.Want{Item: id, N: 1}, all: true, note: "with " + it.Name})
				}
			}
		}
	}
	for _, id := range t.Boxes {
		c := ix.Container(id)
		switch {
		case c == nil:
			return nil, &Refused{id, fmt.Sprintf("there is no box %q", id)}
		case !c.Portable:
			return nil, &Refused{id, fmt.Sprintf("%s is not carried as a whole: say on its sheet that it is portable, or take things out of it", ix.Name(id))}
		}
		in := In(s, ix, id)
		if len(in) == 0 {
			return nil, &Refused{id, fmt.Sprintf("nothing lives in %s", ix.Name(id))}
		}
		for _, w := range in {
			parts = append(parts, part{Want: w, all: true, note: "in " + ix.Name(id)})
		}
	}
	for _, id := range t.Kits {
		k := slices.IndexFunc(s.Kits, func(k shop.Kit) bool { return k.ID == id })
		if k < 0 {
			return nil, &Refused{id, fmt.Sprintf("there is no kit %q", id)}
		}
		for _, x := range s.Kits[k].Items {
			if ix.Item(x.Item) != nil {
				parts = append(parts, part{Want: gather.Want{Item: x.Item, N: x.Number()}, all: true, note: s.Kits[k].Name})
			}
		}
	}
	if len(parts) == 0 {
		return nil, &Refused{"", "say what: a thing, a box or a kit"}
	}
	var list []event.Event
	for _, p := range parts {
		it := ix.Item(p.Item)
		if it == nil {
			return nil, &Refused{p.Item, fmt.Sprintf("there is no thing %q any more", p.Item)}
		}
		there := it.Number() - gone[it.ID]
		if !leaves {
			there = gone[it.ID]
		}
		what := t.What
		switch {
		case t.What == event.Used:
			there = p.N
		case t.What == event.Laid && gone[it.ID] == 0: // straight from its home
			what, there = event.Taken, it.Number()
		}
		n := p.N
		if n > there {
			if !p.all {
				return nil, &Refused{it.ID, short(it, what, there, gone[it.ID], out)}
			}
			n = max(0, there)
		}
		if n == 0 {
			continue
		}
		gone[it.ID] += n * what.Out()
		e := event.Event{What: what, Item: it.ID, N: n, To: t.To, Due: t.Due, On: t.On, Note: t.Note}
		if e.Note == "" {
			e.Note = p.note
		}
		if homes := ix.Homes(it.ID); len(homes) > 0 {
			e.Place = homes[0].Place
		}
		if n == 1 {
			e.N = 0
		}
		list = append(list, e)
	}
	if len(list) == 0 {
		if leaves {
			return nil, &Refused{"", "all of it is out already"}
		}
		return nil, &Refused{"", "nothing of it is out"}
	}
	return list, nil
}

// short says why so many are not there to be taken, or not out to be put back.
func short(it *shop.Item, what event.Kind, there, gone int, out event.Log) string {
	if what.Out() < 0 || what == event.Laid {
		if gone == 0 {
			return fmt.Sprintf("%s is not out: it is on record in its home", it.Name)
		}
		return fmt.Sprintf("only %d of %s are out", gone, it.Name)
	}
	where := ""
	for i := len(out) - 1; i >= 0; i-- {
		if e := &out[i]; e.Item == it.ID {
			switch {
			case e.What == event.Lent && e.To != "":
				where = fmt.Sprintf(", lent to %s on %s", e.To, e.Day())
			case e.On != "":
				where = fmt.Sprintf(", on %s since %s", e.On, e.Day())
			default:
				where = ", since " + e.Day()
			}
			break
		}
	}
	if there <= 0 {
		if it.Number() == 1 {
			return fmt.Sprintf("%s is out already%s", it.Name, where)
		}
		return fmt.Sprintf("all %d of %s are out%s", it.Number(), it.Name, where)
	}
	return fmt.Sprintf("only %d of %d of %s are there%s", there, it.Number(), it.Name, where)
}

// In are the things that live or lie in a container, or in what is in it.
func In(s *shop.Shop, ix *shop.Index, box string) (list []gather.Want) {
	for _, x := range ix.LivesIn(func(p *shop.Place) bool { return ix.Within(p, box) }) {
		list = append(list, gather.Want{Item: x.Item.ID, N: x.N})
	}
	for i := range s.Items {
		it := &s.Items[i]
		if p := ix.Place(it.Lies); p != nil && len(ix.Homes(it.ID)) == 0 && ix.Within(p, box) {
			list = append(list, gather.Want{Item: it.ID, N: it.Number()})
		}
	}
	return list
}

// cautions that go with a thing, by its flag.
var cautions = []struct {
	flag shop.Flag
	says string
}{
	{shop.Sharp, "its edges covered"},
	{shop.NotForChild, "not into the hands of children"},
	{shop.Flammable, "away from fire and sparks"},
	{shop.Fragile, "it breaks"},
}

// Caution is what is said to whom a thing is lent, or who takes it.
func Caution(it *shop.Item) string {
	var out []string
	for _, c := range cautions {
		if it.Flagged(c.flag) {
			out = append(out, c.says)
		}
	}
	if k, ok := kinds.Told(it.Kind, it.Name); ok && k.Name == "extension lead" {
		out = append(out, "unrolled all the way; outdoors only a lead made for it, plugged in behind a residual-current device, its joints off wet ground")
	}
	return strings.Join(out, "; ")
}
