package event

// Stays are the days on which something was put back that had been taken on another day, with how many pieces.
type Stays struct {
	Back map[string]int
	open []string // the days on which pieces were taken that are out still, one for each
	out  int      // taken or lent
}

// mostPieces of one event are followed one by one.
const mostPieces = 50

// Stays of one item, by its valid events in their order: what was taken last is put back first.
func (l Log) Stays(item string) Stays {
	out := Stays{Back: map[string]int{}}
	for i := range l {
		if e := &l[i]; e.Item == item {
			out.add(e)
		}
	}
	return out
}

func (s *Stays) add(e *Event) {
	defer func() {
		if s.out = max(0, s.out+e.What.Out()*e.Number()); s.out == 0 {
			s.open = nil // nothing is out any more, whatever was said to have come back
		}
	}()
	switch e.What {
	case Taken:
		for range min(e.Number(), mostPieces) {
			s.open = append(s.open, e.Day())
		}
	case PutBack:
		for range min(e.Number(), len(s.open)) {
			last := len(s.open) - 1
			if s.open[last] != e.Day() {
				s.Back[e.Day()]++
			}
			s.open = s.open[:last]
		}
	}
}

// Stayed counts how often pieces of each item were taken and not put back the same day, as far as they were put back from a day on or
// are out still.
func (l Log) Stayed(from string) map[string]int {
	valid := l.Valid()
	items := map[string]bool{}
	for i := range valid {
		items[valid[i].Item] = true
	}
	out := map[string]int{}
	for item := range items {
		for day, k := range valid.Stays(item).Back {
			if day >= from {
				out[item] += k
			}
		}
	}
	for _, e := range valid.Outstanding() {
		if e.What == Taken {
			out[e.Item] += e.Number()
		}
	}
	return out
}
