package fit

import (
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
)

// Half of the questions for the best spot in a place of a well-filled shop are answered with none. What was refused there before spares
// most of these answers: something no smaller, which wants no less clearance, finds no spot either, and none appears by putting things in.

// refusal is what found no spot in a place in a state.
type refusal struct {
	hash      uint64
	w, h, gap length.Length
}

// mostRefusals of a place are remembered, the latest.
const mostRefusals = 12

type refusals struct {
	all  [mostRefusals]refusal
	next int
}

// refuses tells whether something no larger than a thing found no spot in a place, at most things were put in since.
func (r *search) refuses(place int, t pack.Thing) bool {
	space, ok := r.spaces[place].(pack.Sided)
	if !ok {
		return false
	}
	w, h, turns, ok := space.Sides(t)
	if !ok {
		return false
	}
	return r.refusesSides(place, w, h, t.Clearance) && (!turns || w == h || r.refusesSides(place, h, w, t.Clearance))
}

func (r *search) refusesSides(place int, w, h, gap length.Length) bool {
	list := &r.refused[place]
	for i := range list.all {
		x := &list.all[i]
		if x.hash != 0 && x.w <= w && x.h <= h && x.gap <= gap && (x.hash == r.hash[place]^1 || slices.Contains(r.before[place], x.hash^1)) {
			return true
		}
	}
	return false
}

// refuse notes that a single piece finds no spot.
func (r *search) refuse(place int, t pack.Thing) {
	space, ok := r.spaces[place].(pack.Sided)
	if !ok || t.N > 1 {
		return
	}
	w, h, turns, ok := space.Sides(t)
	if !ok {
		return
	}
	note := func(w, h length.Length) {
		list := &r.refused[place]
		list.all[list.next] = refusal{r.hash[place] ^ 1, w, h, t.Clearance}
		list.next = (list.next + 1) % mostRefusals
	}
	note(w, h)
	if turns && w != h {
		note(h, w)
	}
}
