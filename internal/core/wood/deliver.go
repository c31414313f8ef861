package wood

import (
	"fmt"
	"slices"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// Arrival is some wood of a delivery with where it would lie.
type Arrival struct {
	Name  string `json:"name"`
	Count int    `json:"count"`
	Place string `json:"place" doc:"empty when it fits nowhere"`
	Says  string `json:"says"`
}

// Delivery is what comes.
type Delivery struct {
	Arrivals []Arrival `json:"arrivals" nullable:"false"`
	Fits     bool      `json:"fits"`
	Leave    []string  `json:"leave" nullable:"false" doc:"names of what lies on racks and is no wood: with it gone, more fits"`
	M3       float64   `json:"m3" doc:"in stock with it"`
	Over     float64   `json:"over" doc:"m³ over the limit with it; 0 when it is not"`
	Says     []string  `json:"says" nullable:"false"`
	Racks    []NewRack `json:"racks" nullable:"false" doc:"storage that would hold what fits nowhere"`
}

// holds tells whether wood is brought to a place.
func holds(p *shop.Place) bool { return p.Kind == "arms" || p.Kind == "sheet-bay" || p.Kind == "bin" }

// Deliver says where a delivery would lie, before it is bought: beside what is there, else once what is no wood has left the racks. The
// things get their homes in the shop that is given back; what fits nowhere has none there.
func Deliver(s *shop.Shop, st *Stock, list []Reading, today string) (*Delivery, *shop.Shop, error) {
	out := &Delivery{Arrivals: []Arrival{}, Fits: true, Leave: []string{}, M3: st.M3, Says: []string{}, Racks: []NewRack{}}
	then := s.Clone()
	for i := range list {
		it := list[i].Item(then, today)
		it.ID = freshID(then, it.Name)
		then.Items = append(then.Items, it)
	}
	h, err := fit.NewHands(then)
	if err != nil {
		return nil, nil, err
	}
	ix := shop.NewIndex(then)
	may := func(wanted string) func(string) bool {
		return func(id string) bool {
			p := ix.Place(id)
			return p != nil && (wanted == id || wanted == "" && holds(p))
		}
	}
	for i := range list {
		r := &list[i]
		it := &then.Items[len(s.Items)+i]
		p := PieceOf(it)
		out.M3 += p.M3
		a := Arrival{Name: it.Name, Count: r.Count}
		k := h.Pick(len(s.Items)+i, r.Count)
		at, ok := h.Room(k, may(r.Place))
		if !ok && r.Place != "" {
			if at, ok = h.Room(k, may("")); ok {
				a.Says = "not in " + r.Place + ": no room there"
			}
		}
		if ok && h.Lay(k, &at) == nil {
			a.Place = at.Place
			at.Item = it.ID
			then.Homes = append(then.Homes, at)
		} else {
			out.Fits = false
			a.Says = fmt.Sprintf("no rack has room for %d of them together", r.Count)
		}
		out.Arrivals = append(out.Arrivals, a)
	}
	if !out.Fits {
		for _, r := range st.Racks {
			out.Leave = append(out.Leave, r.Guests...)
		}
	}
	if st.Cap > 0 && out.M3 > st.Cap {
		out.Over = out.M3 - st.Cap
		out.Says = append(out.Says, "it is more than you want in stock: decide what goes before it comes")
	}
	return out, then, nil
}

// freshID is an id nothing has yet.
func freshID(s *shop.Shop, name string) string {
	return belongings.ID(name, func(id string) bool {
		return slices.ContainsFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
	})
}
