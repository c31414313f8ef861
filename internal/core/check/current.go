package check

import (
	"slices"

	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

// current cautions about a machine that draws more than any breaker of the shop carries. While a breaker is not known,
// that one may carry it.
func (c *checker) current() {
	most := shop.Circuit{}
	for _, x := range c.s.Circuits {
		if x.Amps == 0 {
			return
		}
		if x.Amps > most.Amps {
			most = x
		}
	}
	for i := range c.s.Stations {
		st, about := &c.s.Stations[i], ""
		if slices.Contains(st.Assumed, "amps") {
			about = " about"
		}
		if most.Amps > 0 && st.Amps > most.Amps {
			c.add(false, "current", st.ID, st.Amps-most.Amps, "A", "%s draws%s %s A, and no breaker carries more than the %s A of %s: don't plug it in; an electrician judges circuits and outlets", st.Name, about, quantity.Number(st.Amps, 3), quantity.Number(most.Amps, 3), most.ID)
		}
	}
}
