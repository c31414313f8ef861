package event

import "slices"

// Outstanding are the events by which pieces are out of their homes still, oldest first, each with how many of its pieces are. What
// is put back or returned is what was taken or lent the same way, the last of it first; of what was lent, what was lent to the one who
// is named. It is given the valid events of a log, oldest first.
func (l Log) Outstanding() (out Log) {
	open := map[string]Log{}
	var order []string
	known := map[string]bool{}
	for _, e := range l {
		k := e.What.Out()
		switch {
		case k > 0:
			if !known[e.Item] { // what came back before it left is no reason to forget it
				known[e.Item] = true
				order = append(order, e.Item)
			}
			e.N = e.Number()
			open[e.Item] = append(open[e.Item], e)
		case k < 0:
			open[e.Item] = open[e.Item].less(&e)
		case e.What == Laid:
			open[e.Item] = open[e.Item].laid(&e)
		}
	}
	for _, item := range order {
		out = append(out, open[item]...)
	}
	slices.SortStableFunc(out, func(a, b Event) int { return int(a.ID - b.ID) })
	return out
}

// laid says of the pieces that left last where they are by now.
func (l Log) laid(at *Event) (out Log) {
	out = slices.Clone(l)
	left := at.Number()
	for i := len(out) - 1; i >= 0 && left > 0; i-- {
		e := &out[i]
		if e.What != Taken {
			continue
		}
		if e.N > left { // some of them stay where they were
			rest := *e
			rest.N = e.N - left
			e.N = left
			e.On = at.On
			return slices.Insert(out, i, rest)
		}
		e.On = at.On
		left -= e.N
	}
	return out
}

// less what a putting back or a return brought.
func (l Log) less(back *Event) Log {
	want := Taken
	if back.What == Returned {
		want = Lent
	}
	left := back.Number()
	for _, like := range []func(*Event) bool{
		func(e *Event) bool { return e.What == want && back.To != "" && e.To == back.To },
		func(e *Event) bool { return e.What == want },
		func(*Event) bool { return true },
	} {
		for i := len(l) - 1; i >= 0 && left > 0; i-- {
			if e := &l[i]; like(e) {
				n := min(left, e.N)
				e.N -= n
				left -= n
			}
		}
	}
	return slices.DeleteFunc(l, func(e Event) bool { return e.N <= 0 })
}
