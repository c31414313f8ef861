package due

import (
	"cmp"
	"fmt"
)

// Estimates of bins.
const (
	lyingLoose = .6 // share of a bin that things thrown into it fill (random packing of mixed pieces)
	fullFrom   = .9 // share of that from which it is sorted out
)

// bins that are full: offcuts and scrap are sorted before more goes in.
func (l *list) bins() {
	filled, lines := map[string]float64{}, map[string]int{} // mm³ by place
	for i := range l.s.Items {
		it := &l.s.Items[i]
		for _, h := range l.ix.Homes(it.ID) {
			filled[h.Place] += it.W.MM() * it.H.MM() * it.D.MM() * float64(h.Number(it))
			lines[h.Place]++
		}
	}
	for i := range l.s.Places {
		p := &l.s.Places[i]
		room := p.W.MM() * p.D.MM() * p.H.MM() * cmp.Or(p.Fill, lyingLoose)
		if p.Kind != "bin" || room <= 0 {
			continue
		}
		if f := filled[p.ID] / room; f >= fullFrom {
			l.add(Item{What: Full, ID: p.ID, Name: "Sort out " + l.ix.Name(p.ID), Where: p.ID, Due: l.today, Minutes: 5 + float64(lines[p.ID]), Says: fmt.Sprintf("about %.0f %% of what goes into it loosely lies in it", 100*f),
				Care: "gloves: what was thrown in has edges and splinters"})
		}
	}
}

// wishes whose condition came true.
func (l *list) wishes() {
	for i := range l.s.Stations {
		st := &l.s.Stations[i]
		if st.Wished == "" || st.When != "circuit" || st.Amps <= 0 {
			continue
		}
		for _, c := range l.s.Circuits {
			if st.Amps <= .8*c.Amps {
				l.add(Item{What: Came, ID: st.ID, Name: "Decide on " + st.Name, Where: st.ID, Due: l.today, Minutes: 10, Says: fmt.Sprintf("it waited for a circuit that carries it: %s does, %g A of %g A", c.ID, st.Amps, c.Amps),
					Care: "an electrician judges whether it may"})
				break
			}
		}
	}
}
