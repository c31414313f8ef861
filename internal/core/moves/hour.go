package moves

import (
	"cmp"
	"fmt"
	"slices"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// Worthwhile is something to do in a short while, without any plan.
type Worthwhile struct {
	Do      string      `json:"do" enum:"home,swap,look" doc:"give something a home; move things that do better elsewhere; decide on what gathers dust"`
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
// dust, for whatever time is left. No thing is in two of them.
func BestUse(e *fit.Arrangement, minutes float64) []Worthwhile {
	s := e.Map().Shop
	pace := s.Settings.OwnPace()
	var all []Worthwhile
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Needs() || len(e.Map().Index.Homes(it.ID)) > 0 {
			continue
		}
		if a, ok := e.Find(i); ok {
			all = append(all, Worthwhile{Do: "home", Items: []string{it.ID}, Names: []string{it.Name}, Homes: []shop.Home{a.Home}, Minutes: pace * (begin + 2*grasp*float64(min(12, it.Number())) + screwed), Saves: a.Now - a.Here,
				Says: fmt.Sprintf("give %s a home in %s", it.Name, a.Home.Place)})
		}
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
	out := []Worthwhile{}
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
		out = append(out, x)
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
		out = append(out, w)
	}
	return out
}
