// Package household says how much of each area the things of the household take that share it with the work: bicycles, garden
// things, what is stored for others. Areas are square metres.
package household

import "hobrak/internal/core/shop"

// Taken is what household things take of an area.
type Taken struct {
	Area        string
	Wall, Floor float64 // m²
	Things      int
}

// mm2 in a square metre.
const mm2 = 1e6

// Of each area of a shop, in their order: what hangs takes its front, what stands on the floor its footprint, what lives in a
// place with others its share of the room of what that place takes. What is not the shop's and only stands there, as a
// freezer or a bicycle among the stations, is the household's.
func Of(s *shop.Shop) []Taken {
	ix := shop.NewIndex(s)
	out := make([]Taken, len(s.Areas))
	at := map[string]int{}
	for i := range s.Areas {
		out[i].Area, at[s.Areas[i].ID] = s.Areas[i].ID, i
	}
	for i := range s.Stations {
		if st := &s.Stations[i]; st.Kind.Lodger() {
			t := &out[at[ix.Area(st.Area).ID]]
			t.Floor, t.Things = t.Floor+st.W.MM()*st.D.MM()/mm2, t.Things+1
		}
	}
	for i := range s.Homes {
		h := &s.Homes[i]
		it, p := ix.Item(h.Item), ix.Place(h.Place)
		if it == nil || p == nil || it.Realm != "household" {
			continue
		}
		_, where := ix.Chain(&p.At)
		area := ix.Area(where.Area)
		if area == nil || where.Away {
			continue
		}
		t, n, size := &out[at[area.ID]], float64(h.Number(it)), it.SizeIn(p.Kind)
		t.Things++
		switch {
		case where.Wall != "" && p.At.In == "":
			t.Wall += n * size.W.MM() * size.H.MM() / mm2
		case where.Floor != nil && p.At.In == "":
			t.Floor += n * size.W.MM() * size.D.MM() / mm2
		default:
			t.share(ix, p, it, n, where)
		}
	}
	return out
}

// share is what a thing takes of the wall or floor its container takes: by its volume.
func (t *Taken) share(ix *shop.Index, p *shop.Place, it *shop.Item, n float64, where *shop.At) {
	chain, _ := ix.Chain(&p.At)
	if len(chain) == 0 {
		return
	}
	c := chain[len(chain)-1]
	size := it.SizeIn(p.Kind)
	part := min(1, n*size.W.MM()*size.H.MM()*size.D.MM()/max(1, c.W.MM()*c.H.MM()*c.D.MM()))
	switch {
	case where.Wall != "":
		t.Wall += part * c.W.MM() * c.H.MM() / mm2
	case where.Floor != nil:
		t.Floor += part * c.W.MM() * c.D.MM() / mm2
	}
}

// Creeps tells whether household things take more than they may, of the wall and of the floor.
func (t *Taken) Creeps(q *shop.Quota) (wall, floor bool) {
	return q != nil && q.Wall > 0 && t.Wall > q.Wall, q != nil && q.Floor > 0 && t.Floor > q.Floor
}
