package wood

import (
	"cmp"
	"slices"

	"hobrak/internal/core/cutting"
	"hobrak/internal/core/shop"
)

// Elsewhere is wood that lies outside the first area, the workroom.
type Elsewhere struct {
	Area    string   `json:"area"`
	Name    string   `json:"name"`
	Seconds float64  `json:"seconds" doc:"one way from the workroom"`
	Pieces  int      `json:"pieces"`
	M3      float64  `json:"m3"`
	Climate []string `json:"climate" nullable:"false" doc:"what the area does to wood: frost, damp, sun"`
	Says    []string `json:"says" nullable:"false"`
}

// climates in which wood is kept, with what to do. Movement follows moisture: the Wood Handbook (Forest Products Laboratory 2021,
// chapter 4) has wood settle to the air of the room it is in.
var climates = map[string]string{
	"damp":  "wood takes on moisture there: sheets off the floor and on edge, boards stickered, and in the workroom some weeks before they are cut",
	"frost": "it comes in cold: let it warm up before glue goes on",
	"sun":   "sun fades and checks it: cover the ends and the top",
}

// elsewhere groups the pieces by the area they lie in, but for the first.
func (st *Stock) elsewhere(s *shop.Shop) {
	st.Elsewhere = []Elsewhere{}
	ix := shop.NewIndex(s)
	for i := range st.Pieces {
		p := &st.Pieces[i]
		at := ix.Place(p.Place)
		if at == nil {
			continue
		}
		_, root := ix.Chain(&at.At)
		area := ix.Area(root.Area)
		if area == nil || root.Away || area == ix.Area("") {
			continue
		}
		id := area.ID
		p.Area = cmp.Or(area.Name, area.ID)
		k := slices.IndexFunc(st.Elsewhere, func(e Elsewhere) bool { return e.Area == id })
		if k < 0 {
			e := Elsewhere{Area: id, Name: p.Area, Seconds: area.WalkSeconds, Climate: slices.Clone(area.Climate), Says: []string{}}
			if e.Climate == nil {
				e.Climate = []string{}
			}
			for _, c := range area.Climate {
				if says := climates[c]; says != "" {
					e.Says = append(e.Says, says)
				}
			}
			if area.Kind == "outdoors" {
				e.Says = append(e.Says, "outdoors: under cover, air below it, wet ends sealed")
			}
			k = len(st.Elsewhere)
			st.Elsewhere = append(st.Elsewhere, e)
		}
		st.Elsewhere[k].Pieces += p.Count
		st.Elsewhere[k].M3 += p.M3
	}
	slices.SortStableFunc(st.Elsewhere, func(a, b Elsewhere) int { return cmp.Compare(a.Seconds, b.Seconds) })
}

// Fetched is what is got from one place for a plan of cuts.
type Fetched struct {
	Place   string   `json:"place" doc:"empty when it is not known where it lies"`
	Area    string   `json:"area" doc:"name; empty in the workroom"`
	Seconds float64  `json:"seconds" doc:"one way from the workroom"`
	Names   []string `json:"names" nullable:"false" doc:"with how many"`
	Counts  []int    `json:"counts" nullable:"false" doc:"of each"`
	Lift    []string `json:"lift" nullable:"false" doc:"what is lifted off first"`
}

// Fetch lists what is got for a plan, the farthest area first, so that one comes back to the saw with all of it.
func (st *Stock) Fetch(p *cutting.Plan) []Fetched {
	out := []Fetched{}
	for i := range st.Pieces {
		x := &st.Pieces[i]
		n := 0
		for k := range p.Pieces {
			if p.Pieces[k].Stock == x.Item {
				n++
			}
		}
		if n == 0 {
			continue
		}
		k := slices.IndexFunc(out, func(f Fetched) bool { return f.Place == x.Place })
		if k < 0 {
			f := Fetched{Place: x.Place, Area: x.Area, Names: []string{}, Counts: []int{}, Lift: []string{}}
			for _, e := range st.Elsewhere {
				if e.Name == x.Area {
					f.Seconds = e.Seconds
				}
			}
			k = len(out)
			out = append(out, f)
		}
		f := &out[k]
		f.Names, f.Counts = append(f.Names, x.Name), append(f.Counts, n)
		for _, l := range x.Lift {
			if !slices.Contains(f.Lift, l) {
				f.Lift = append(f.Lift, l)
			}
		}
	}
	for i := range out { // what is fetched itself is not lifted off for nothing
		out[i].Lift = slices.DeleteFunc(out[i].Lift, func(l string) bool { return slices.Contains(out[i].Names, l) })
	}
	slices.SortStableFunc(out, func(a, b Fetched) int {
		return cmp.Or(cmp.Compare(b.Seconds, a.Seconds), cmp.Compare(a.Place, b.Place))
	})
	return out
}
