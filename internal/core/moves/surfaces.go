package moves

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/shop"
)

// surface is somewhere things can be put for a while that is no place.
type surface struct {
	name string
	main bool // the main bench, on which one works
	w, d float64
	// Rows of what lies there.
	rows []row
	on   int
}

type row struct{ y, deep, x float64 }

// put finds room for something so wide and deep on it.
func (s *surface) put(w, d float64) bool {
	try := func(w, d float64) bool {
		for i := range s.rows {
			if r := &s.rows[i]; r.x+w <= s.w && d <= r.deep {
				r.x += w
				return true
			}
		}
		y := 0.0
		for _, r := range s.rows {
			y += r.deep
		}
		if y+d > s.d || w > s.w {
			return false
		}
		s.rows = append(s.rows, row{y, d, w})
		return true
	}
	if try(w, d) || try(d, w) {
		s.on++
		return true
	}
	return false
}

// off takes one thing away; the room is free once all are.
func (s *surface) off() {
	if s.on--; s.on == 0 {
		s.rows = nil
	}
}

// room finds the benches and free floor things can be put on for a while, the main bench last.
func (w *work) room() {
	var main []surface
	for i := range w.now.Stations {
		st := &w.now.Stations[i]
		if !st.Kind.Bench() || st.Wished != "" {
			continue
		}
		x := surface{name: st.Name, w: st.W.MM(), d: st.D.MM()}
		if main == nil && st.Kind == "bench" {
			x.main = true
			main = []surface{x}
			continue
		}
		w.surfaces = append(w.surfaces, x)
	}
	slices.SortStableFunc(w.surfaces, func(a, b surface) int { return cmp.Compare(b.w*b.d, a.w*a.d) })
	for i := range w.now.Areas {
		if o := openFloor(w.now, &w.now.Areas[i]); o.w > 0 {
			w.surfaces = append(w.surfaces, o)
		}
	}
	w.surfaces = append(w.surfaces, main...)
}

// openFloor is what of the largest free floor can be lain on with a way beside it left free.
func openFloor(s *shop.Shop, a *shop.Area) surface {
	o := floor.OpenFloor(s, a)
	x := surface{name: "the free floor", w: max(o.W, o.D), d: min(o.W, o.D) - s.Settings.Clearances().AisleMain}
	if x.d < 400 {
		return surface{}
	}
	return x
}

// lain is how wide and deep n pieces lie beside each other or stacked to some hand's breadths, mm.
func lain(it *shop.Item, n int) (w, d float64) {
	sides := []float64{it.W.MM(), it.H.MM(), it.D.MM()}
	slices.Sort(sides)
	layers := max(1, math.Floor(300/max(1, sides[0])))
	return sides[2], sides[1] * math.Ceil(float64(n)/layers)
}
