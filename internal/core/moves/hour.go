package moves

import (
	"cmp"
	"fmt"
	"slices"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
)

// Worthwhile is something to do in a short while, without any plan.
type Worthwhile struct {
	Do      string      `json:"do" enum:"back,home,swap,look" doc:"put back what is out; give something a home; move things that do better elsewhere; decide on what gathers dust"`
	Items   []string    `json:"items" nullable:"false"`
	Names   []string    `json:"names" nullable:"false"`
	Homes   []shop.Home `json:"homes" nullable:"false" doc:"where they go"`
	Minutes float64     `json:"minutes"`
	Saves   float64     `json:"saves" doc:"seconds a week"`
	Says    string      `json:"says"`
}

// look takes so long a thing, minutes (estimate): in the hand, keep, move or let go.
const look = 1.0

// BestUse is what to do in so many minutes: what saves most seconds a week a minute first, as long as it fits; then what gathers
// dust, for whatever time is left. No thing is in two of them. What is out of its home, by item and pieces, lies about on a bench or
// elsewhere: as long as it does it is looked for like what has no home.
func BestUse(e *fit.Arrangement, out map[string]int, minutes float64) []Worthwhile {
	s := e.Map().Shop
	pace := s.Settings.OwnPace()
	var all []Worthwhile
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Needs() || len(e.Map().Index.Homes(it.ID)) > 0 {
			continue
		}
		if a, ok := e.Find(i); ok {
			all = append(all, Worthwhile{Do: "home", Items: []string{it.ID}, Names: []string{it.Name}, Homes: []shop.Home{a.Home}, Minutes: pace * (handled(it.Number()) + screwed), Saves: a.Now - a.Here,
				Says: fmt.Sprintf("give %s a home in %s", it.Name, a.Home.Place)})
		}
	}
	if w, ok := putBack(e, out); ok {
		all = append(all, w)
	}
	for _, x := range e.Swaps(40) {
		w := Worthwhile{Do: "swap", Items: x.Items, Homes: x.Homes, Names: []string{}, Minutes: pace * (begin + screwed) * float64(len(x.Items)), Saves: x.Saves()}
		for _, id := range x.Items {
			w.Names = append(w.Names, e.Map().Index.Item(id).Name)
		}
		w.Says = fmt.Sprintf("move %s to %s", w.Names[0], x.Homes[0].Place)
		if len(x.Items) > 1 {
			w.Says = fmt.Sprintf("let %s and %s change places", w.Names[0], w.Names[1])
		}
		all = append(all, w)
	}
	slices.SortStableFunc(all, func(a, b Worthwhile) int { return cmp.Compare(b.Saves/b.Minutes, a.Saves/a.Minutes) })
	list := []Worthwhile{}
	left, taken := minutes, map[string]bool{}
	rooms := map[string]bool{} // spots that are given away already
	for _, x := range all {
		if x.Saves <= 0 || x.Minutes > left || slices.ContainsFunc(x.Items, func(id string) bool { return taken[id] }) {
			continue
		}
		// Of two that want one place only the first is known to go.
		if x.Do == "home" && rooms[x.Homes[0].Place] {
			continue
		}
		for k, id := range x.Items {
			taken[id] = true
			rooms[x.Homes[min(k, len(x.Homes)-1)].Place] = true
		}
		left -= x.Minutes
		list = append(list, x)
	}
	w := Worthwhile{Do: "look", Items: []string{}, Names: []string{}, Homes: []shop.Home{}}
	for _, id := range belongings.Seldom(s).Items {
		if left < look*pace || len(w.Items) == 12 {
			break
		}
		if !taken[id] {
			left -= look * pace
			w.Minutes += look * pace
			w.Items, w.Names = append(w.Items, id), append(w.Names, e.Map().Index.Item(id).Name)
		}
	}
	if len(w.Items) > 0 {
		w.Says = fmt.Sprintf("decide on %d things that are used less than once a year: keep, or let go", len(w.Items))
		if len(w.Items) == 1 {
			w.Says = fmt.Sprintf("decide on %s, which is used less than once a year: keep it, or let it go", w.Names[0])
		}
		list = append(list, w)
	}
	return list
}

// putBack is one round with all that is out and has a home: that clears the benches.
func putBack(e *fit.Arrangement, out map[string]int) (Worthwhile, bool) {
	s := e.Map().Shop
	w := Worthwhile{Do: "back", Items: []string{}, Names: []string{}, Homes: []shop.Home{}}
	for i := range s.Items {
		it := &s.Items[i]
		n := min(out[it.ID], it.Number())
		homes := e.Map().Index.Homes(it.ID)
		if n < 1 || !it.Needs() || len(homes) == 0 {
			continue
		}
		u := e.Map().UseOf(it)
		h := homes[0]
		at := e.Map().PlaceNumber(h.Place)
		p := &s.Places[at]
		here, ok := e.Map().Weekly(&u, at, keeping.GripOf(p, it, h), keeping.Aside(p, keeping.SpotOf(p, h)))
		if !ok {
			continue
		}
		w.Items, w.Names, w.Homes = append(w.Items, it.ID), append(w.Names, it.Name), append(w.Homes, *h)
		w.Minutes += handled(n)
		w.Saves += (e.Map().Without(&u) - here) * float64(n) / float64(it.Number())
	}
	if len(w.Items) == 0 {
		return w, false
	}
	w.Minutes *= s.Settings.OwnPace()
	w.Says = fmt.Sprintf("put back what is out: %d things", len(w.Items))
	if len(w.Items) == 1 {
		w.Says = fmt.Sprintf("put %s back in %s", w.Names[0], w.Homes[0].Place)
	}
	return w, true
}
