package wood

import (
	"hobrak/internal/core/cutting"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shop"
)

// Handled is a piece of stock that is too much for one pair of hands until it is cut in smaller ones.
type Handled struct {
	Stock string   `json:"stock"`
	KG    float64  `json:"kg" doc:"of the whole"`
	Most  float64  `json:"most" doc:"kg that one person lifts here"`
	Cuts  int      `json:"cuts" doc:"so many cuts are made before nothing in the hand is over that"`
	After float64  `json:"after" doc:"kg of the largest piece then"`
	Long  float64  `json:"long" doc:"free floor it wants, mm: itself, and room to walk round it"`
	Wide  float64  `json:"wide"`
	Here  bool     `json:"here" doc:"there is so much free floor as it stands"`
	Modes []string `json:"modes" nullable:"false" doc:"names of the arrangements of the floor in which there is"`
}

// oneLifts is what one person lifts at best, the load constant of the revised NIOSH lifting equation (Waters, Putz-Anderson and Garg
// 1994), kg; somebody of whom less is said lifts that.
const oneLifts = 23.0

// Handling says of the pieces of a plan that are too heavy for one person how many cuts it takes to make them lighter, and in which
// arrangement of the floor there is room to walk round them.
func Handling(s *shop.Shop, p *cutting.Plan, stock map[string]cutting.Stock) []Handled {
	most := oneLifts
	for i := range s.Settings.People {
		if x := &s.Settings.People[i]; x.Lifts > 0 && !x.Child {
			most = min(most, x.Lifts.KG())
		}
	}
	type open struct {
		mode string
		l, w float64
	}
	var floors []open
	look := func() {
		if floors != nil || len(s.Areas) == 0 {
			return
		}
		floors = []open{}
		ids := []string{""}
		for i := range s.Modes {
			ids = append(ids, s.Modes[i].ID)
		}
		for _, id := range ids {
			if l, err := mode.Of(s, id, s.Areas[0].ID); err == nil {
				floors = append(floors, open{l.Name, max(l.Open.ProjectW, l.Open.ProjectD), min(l.Open.ProjectW, l.Open.ProjectD)})
				if id == "" {
					floors[len(floors)-1].mode = ""
				}
			}
		}
	}
	out := []Handled{}
	seen := map[string]int{}
	for i := range p.Pieces {
		x := &p.Pieces[i]
		per := density(stock[x.Stock].Material) * stock[x.Stock].T / 1000 // kg of a m²
		whole := x.L * x.W / 1e6 * per
		if whole <= most {
			continue
		}
		h := Handled{Stock: x.Stock, KG: whole, Most: most, Long: max(x.L, x.W) + 2*floor.Round, Wide: min(x.L, x.W) + 2*floor.Round, Modes: []string{}}
		for n, area := range x.InHand(p.Kerf) {
			h.Cuts, h.After = n, area*per
			if h.After <= most {
				break
			}
		}
		look()
		for _, f := range floors {
			if f.l >= max(x.L, x.W) && f.w >= min(x.L, x.W) {
				if f.mode == "" {
					h.Here = true
				} else {
					h.Modes = append(h.Modes, f.mode)
				}
			}
		}
		if k, ok := seen[x.Stock]; ok { // of several alike the one that takes most cuts
			if h.Cuts > out[k].Cuts {
				out[k] = h
			}
			continue
		}
		seen[x.Stock] = len(out)
		out = append(out, h)
	}
	return out
}
