package check

import "hobrak/internal/core/shop"

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
		if st := &c.s.Stations[i]; most.Amps > 0 && st.Amps > most.Amps {
			c.add(false, "current", st.ID, st.Amps-most.Amps, "A", "%s draws %.3g A, and no breaker carries more than the %.3g A of %s: don't plug it in; an electrician judges circuits and outlets", st.Name, st.Amps, most.Amps, most.ID)
		}
	}
}
