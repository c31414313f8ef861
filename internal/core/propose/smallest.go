package propose

import (
	"fmt"
	"slices"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// mostAnswered things without a home are looked for storage; the search for spots takes
// some tenths of a second for each.
const mostAnswered = 12

// Answer says for what a plan leaves without a home, and no change of what there is would
// give one, which place more would: its kind, its size and where it would be, found as for
// a proposal. The shop is the one the plan is for.
func Answer(s *shop.Shop, plan *fit.Plan, done func() bool) error {
	next := plan.Apply(s)
	next.Fit = nil
	answered := 0
	for i := range plan.Homeless {
		h := &plan.Homeless[i]
		if h.SmallestChange != "" || h.Why == fit.NotAsked {
			continue
		}
		it := shop.NewIndex(next).Item(h.Item)
		h.SmallestChange = "one place more; it is kept so: " + keeping.Either(it.Holding())
		if answered++; answered > mostAnswered || done() {
			continue
		}
		says, err := NewPlace(next, it)
		if err != nil {
			return err
		}
		h.SmallestChange = says
	}
	return nil
}

// NewPlace says which place more would hold an item, or that there is no room for one.
func NewPlace(s *shop.Shop, it *shop.Item) (string, error) {
	says, err := OnePlace(s, it)
	if err == nil && says == "" {
		says = "neither walls, ceiling nor floor have room for a place that would hold it"
	}
	return says, err
}

// OnePlace says which new place would hold an item, and where; empty when there is no
// room for any.
func OnePlace(s *shop.Shop, it *shop.Item) (string, error) {
	g := group{name: it.Name, items: []*shop.Item{it}, uses: it.UsesPerWeek}
	_, g.kinds = keep(s, it, "open", 0)
	if !g.locked() {
		for _, kind := range []string{"shelf", "hook", "floor-spot"} {
			if !slices.Contains(g.kinds, kind) {
				g.kinds = append(g.kinds, kind)
			}
		}
	}
	x, err := at(s, nil, nil)
	if err != nil {
		return "", err
	}
	best, _, err := x.choose(&g, false)
	if err != nil || best == nil {
		return "", err
	}
	d := best.design
	size := length.Size(d.W, d.H, d.D)
	at := "on the floor"
	switch {
	case best.at.Wall != "" && !best.at.FromFloor:
		at = fmt.Sprintf("on wall %s, %s from its left and %s up", best.at.Wall, length.MM(best.at.X), length.MM(best.at.Z))
	case best.at.Wall != "":
		at = fmt.Sprintf("before wall %s, %s from its left", best.at.Wall, length.MM(best.at.X))
	case best.at.Station != "":
		at = "under " + best.at.Station
	case best.at.At.Ceiling != nil:
		at = "under the ceiling"
	}
	return fmt.Sprintf("make a %s, %s, %s", lower(d.Title), size, at), nil
}

// lower makes a title part of a sentence.
func lower(s string) string {
	r := []rune(s)
	if len(r) > 1 && r[1] >= 'a' && r[1] <= 'z' && r[0] >= 'A' && r[0] <= 'Z' {
		r[0] += 'a' - 'A'
	}
	return string(r)
}
