package review

import (
	"cmp"
	"fmt"
	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"math"
	"slices"
)

// ask the ten questions, each with an answer by the numbers.
func (r *Review) ask(a, b *Snapshot, began string) {
	add := func(asks, says string, things []Thing) {
		x := Answer{Asks: asks, Says: says, Things: []string{}}
		for _, t := range things[:min(len(things), 8)] {
			x.Things = append(x.Things, t.ID)
		}
		r.Asked = append(r.Asked, x)
	}
	pick := func(wanted func(*Thing) bool, by func(a, b *Thing) int) (out []Thing) {
		for i := range b.Things {
			if wanted(&b.Things[i]) {
				out = append(out, b.Things[i])
			}
		}
		slices.SortStableFunc(out, func(x, y Thing) int { return by(&x, &y) })
		return out
	}
	large := func(x, y *Thing) int { return cmp.Compare(y.M2, x.M2) }
	idle := func(t *Thing) bool { return t.Idle(a.Day, began) }

	dusty := pick(func(t *Thing) bool { return idle(t) && !t.Keep && t.Place != "" }, large)
	add("What gathers dust?", fmt.Sprintf("%s not used since %s and take %s of wall or drawer front", say.Count(len(dusty), "thing was", "things were"), a.Day, m2(sum(dusty))), dusty)

	add("What is near and not used?", fmt.Sprintf("%s at hand that was not used: %s would be free for what is", say.Count(len(r.NearIdle), "thing is", "things are"), m2(sum(r.NearIdle))), r.NearIdle)

	far := pick(func(t *Thing) bool { return t.Order >= 3 && t.Uses >= 1 }, func(x, y *Thing) int { return cmp.Compare(y.Seconds, x.Seconds) })
	away := fmt.Sprintf("%s opened, climbed or walked for: %s a week", say.Count(len(far), "thing is", "things are"), minutes(seconds(far)))
	if out := pick(func(t *Thing) bool { return t.Outside }, large); len(out) > 0 {
		away += fmt.Sprintf("; %s used nearly every day and cannot be got at in most of the hours, as the room is shared", say.Count(len(out), "thing is", "things are"))
		far = append(out, slices.DeleteFunc(far, func(t Thing) bool { return t.Outside })...)
	}
	add("What is used every week and far away?", away, far)

	homeless := pick(func(t *Thing) bool { return t.Place == "" && t.Limbo == "" }, func(x, y *Thing) int { return cmp.Compare(y.Uses, x.Uses) })
	add("What still has no home?", fmt.Sprintf("%s now, %d then", say.Count(len(homeless), "thing", "things"), a.Figures.Homeless), homeless)

	limbo := pick(func(t *Thing) bool { return t.Limbo != "" }, large)
	add("What waits to leave or to be repaired?", fmt.Sprintf("%s, and %s with them", say.Count(len(limbo), "thing", "things"), m2(sum(limbo))), limbo)

	var walls []string
	for _, w := range b.Walls {
		if w.Fill > full {
			walls = append(walls, w.ID)
		}
	}
	switch len(walls) {
	case 0:
		add("Which walls are full?", "none: each has room for what comes", nil)
	default:
		add("Which walls are full?", fmt.Sprintf("%s: what comes there needs something to go", say.Listed(walls)), nil)
	}

	came := pick(func(t *Thing) bool { return slices.ContainsFunc(r.Came, func(c Change) bool { return c.ID == t.ID }) }, large)
	used := 0
	for i := range came {
		if came[i].Last > a.Day {
			used++
		}
	}
	worth := fmt.Sprintf("%s, %d of them used since; %s went", say.Count(len(came), "thing came", "things came"), used, say.Count(len(r.Went), "thing", "things"))
	if r.SalvM2 > 0 || r.SalvIn+r.SalvOut > 0 {
		worth += fmt.Sprintf("; of salvaged wood %d came in and %d went out, and what is there takes %s", r.SalvIn, r.SalvOut, m2(r.SalvM2))
	}
	add("Was what came worth its room?", worth, came)

	change := b.Figures.Handling - a.Figures.Handling
	word := "less"
	if change > 0 {
		word = "more"
	}
	add("Does fetching take less than it did?", fmt.Sprintf("%s a week, %s %s than on %s", minutes(b.Figures.Handling), minutes(math.Abs(change)), word, a.Day), pick(func(t *Thing) bool { return t.Seconds > 30 }, func(x, y *Thing) int { return cmp.Compare(y.Seconds, x.Seconds) }))

	reached, missed := 0, 0
	for _, j := range r.Aims {
		switch {
		case j.Reached:
			reached++
		case !j.Open && j.State != "dropped":
			missed++
		}
	}
	switch {
	case len(r.Aims) == 0:
		add("Which aims were reached?", "none was written down: write the next ones now", nil)
	default:
		add("Which aims were reached?", fmt.Sprintf("%d reached, %d missed, %d open; by what they count %.0f %%", reached, missed, len(r.Aims)-reached-missed, 100*finite(r.Score)), nil)
	}

	kept := pick(func(t *Thing) bool { return t.Keep && idle(t) }, large)
	add("What is kept for love?", fmt.Sprintf("%s that was not used and stays: %s, and no number asks for it", say.Count(len(kept), "thing", "things"), m2(sum(kept))), kept)
}

func sum(list []Thing) (m2 float64) {
	for i := range list {
		m2 += list[i].M2
	}
	return m2
}

func seconds(list []Thing) (s float64) {
	for i := range list {
		s += list[i].Seconds
	}
	return s
}

func minutes(s float64) string {
	if s < 90 {
		return fmt.Sprintf("%.0f s", s)
	}
	return fmt.Sprintf("%.0f min", s/60)
}

func m2(v float64) string { return length.Area(v * 1e6) }
