// Package worth judges what takes floor: how much of it, for how long between uses, and what could be done to win it back, with the
// seconds that costs. It proposes; people decide. Areas are m², times seconds a week.
package worth

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/chain"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Choice is something that could be done.
type Choice struct {
	Do   string  `json:"do" enum:"shelf,fold,nest,share,send-away,stand-in"`
	With string  `json:"with" doc:"id of the other station of share and nest; empty otherwise"`
	Says string  `json:"says"`
	Wins float64 `json:"wins" doc:"m² of floor"`
	Pays float64 `json:"pays" doc:"seconds a week"`
	Rate float64 `json:"rate" doc:"seconds a week for each m²; the lower the better"`
}

// Tenure is what something takes of the floor.
type Tenure struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Floor   float64  `json:"floor" doc:"m², with where one stands"`
	Uses    float64  `json:"uses" doc:"a week"`
	Days    float64  `json:"days" doc:"m² × days a use; how long a square metre is kept for one use"`
	Never   bool     `json:"never" doc:"nothing says that it is used"`
	Idle    string   `json:"idle" doc:"that it could fold or roll away and never does; empty otherwise"`
	Choices []Choice `json:"choices" nullable:"false" doc:"the cheapest for the floor it wins first"`
}

// What the choices take, seconds a use (estimates).
const (
	fromShelf = 40.0 // to lift it off and put it back
	folding   = 20.0
	nesting   = 20.0 // out and back
	flipping  = 30.0 // to flip the top, both ways
	fetching  = 1800.0
	doing     = 300.0 // more by another way of doing it

	shelfKG   = 20.0 // what is lifted from a shelf for every use
	flipKG    = 90.0 // both on a flip-top together
	flipSide  = 800.0
	flipApart = .35 // by how much their sides differ
	standing  = .25 // m² to stand at it
	rare      = .3  // uses a week below which sending it away is said
)

// stands in for a kind of station, and how.
var standIns = map[shop.StationKind]string{
	"jointer": "hand planes, or a sled on the thickness planer", "drum-sander": "hand planes, a scraper or a random-orbit sander", "mitre-saw": "a cross-cut sled on the table saw, or a hand saw and mitre box",
	"scroll-saw": "a coping saw", "mortiser": "a drill and chisels", "bench-drill": "a hand-held drill with a guide", "router-table": "a hand-held router with a fence", "spindle-sander": "a sanding drum in the drill press",
	"radial-arm-saw": "a mitre saw or a cross-cut sled", "edge-sander": "hand planes and a sander", "bandsaw": "a bow saw or a jigsaw", "slot-mortiser": "a router with a jig", "overarm-router": "a router table", "panel-saw": "a track saw on a cutting table",
}

// Of all stations of the floor, the largest in m² × days a use first.
func Of(s *shop.Shop) []Tenure {
	visits := chain.Visits(s)
	out := []Tenure{}
	for i := range s.Stations {
		st := &s.Stations[i]
		if st.Mobility == shop.HungUp || st.Wished != "" {
			continue
		}
		t := Tenure{ID: st.ID, Name: st.Name, Uses: visits[st.ID], Floor: area(st), Choices: []Choice{}}
		if !st.Kind.Lodger() {
			t.Floor += standing
		}
		t.Never = t.Uses == 0
		t.Days = t.Floor * 7 / max(t.Uses, 1.0/52)
		t.Idle = idle(s, st)
		t.choices(s, st, visits)
		out = append(out, t)
	}
	slices.SortStableFunc(out, func(a, b Tenure) int { return cmp.Compare(b.Days, a.Days) })
	return out
}

func area(st *shop.Station) float64 { return st.W.MM() * st.D.MM() / 1e6 }

// idle says that something folds or rolls and is never put out of the way.
func idle(s *shop.Shop, st *shop.Station) string {
	if len(s.Modes) == 0 || st.Mobility != shop.Folds && st.Mobility != shop.Rolls {
		return ""
	}
	for i := range s.Modes {
		if spot, own := s.Modes[i].Spots[st.ID]; own && (spot.State != "" || spot.Floor[0] != st.X || spot.Floor[1] != st.Y) {
			return ""
		}
	}
	if st.Mobility == shop.Folds {
		return "it folds, and no arrangement folds it"
	}
	return "it rolls, and stands in the same spot in every arrangement"
}

func (t *Tenure) add(c Choice) {
	if c.Wins <= 0 {
		return
	}
	c.Rate = c.Pays / c.Wins
	t.Choices = append(t.Choices, c)
}

func (t *Tenure) choices(s *shop.Shop, st *shop.Station, visits map[string]float64) {
	kg := st.KG.KG()
	if kg > 0 && kg <= shelfKG && !st.Kind.Bench() {
		t.add(Choice{Do: "shelf", Says: "keep it on a shelf and lift it onto the bench", Wins: t.Floor, Pays: fromShelf * t.Uses})
	}
	if st.Kind.Bench() && st.Mobility != shop.Folds && t.Uses < 20 {
		t.add(Choice{Do: "fold", Says: "hinge it to the wall, or give it folding legs", Wins: max(0, area(st)-st.W.MM()*.1/1000), Pays: folding * t.Uses})
	}
	if st.Mobility == shop.Rolls {
		for k := range s.Stations {
			o := &s.Stations[k]
			if room := o.H - 150*length.Millimetre; o.Kind.Bench() && o.ID != st.ID && max(st.H, st.Tall) <= room && st.W <= o.W && st.D <= o.D+100*length.Millimetre && !holds(s, o) {
				t.add(Choice{Do: "nest", With: o.ID, Says: "roll it beneath " + o.Name, Wins: area(st), Pays: nesting * t.Uses})
				break
			}
		}
	}
	for k := range s.Stations {
		o := &s.Stations[k]
		if o.ID <= st.ID || !flips(st, o) || together(s, st.ID, o.ID) {
			continue
		}
		less := min(t.Uses, visits[o.ID])
		t.add(Choice{Do: "share", With: o.ID, Says: fmt.Sprintf("a flip-top with %s: they are never used for one after the other", o.Name), Wins: math.Min(area(st), area(o)), Pays: flipping * less})
	}
	if t.Uses < rare {
		t.add(Choice{Do: "send-away", Says: "hire or borrow one, or keep it elsewhere", Wins: t.Floor, Pays: fetching * t.Uses})
	}
	if by := standIns[st.Kind]; by != "" {
		t.add(Choice{Do: "stand-in", Says: "try two months with " + by, Wins: t.Floor, Pays: doing * t.Uses})
	}
	slices.SortStableFunc(t.Choices, func(a, b Choice) int { return cmp.Compare(a.Rate, b.Rate) })
}

// flips tells whether two machines could share a flip-top: small, of like size, light enough together, neither a bench.
func flips(a, b *shop.Station) bool {
	if a.Kind.Bench() || b.Kind.Bench() || a.Kind.Lodger() || b.Kind.Lodger() || a.Area != b.Area {
		return false
	}
	if a.Tall > 0 && (a.Tall-a.H).MM() > 600 || b.Tall > 0 && (b.Tall-b.H).MM() > 600 {
		return false // it would not swing through
	}
	if a.KG.KG() == 0 || b.KG.KG() == 0 || a.KG.KG()+b.KG.KG() > flipKG {
		return false
	}
	like := func(x, y float64) bool { return math.Abs(x-y) <= flipApart*max(x, y) }
	big := max(a.W, a.D, b.W, b.D).MM()
	return big <= flipSide && like(a.W.MM(), b.W.MM()) && like(a.D.MM(), b.D.MM())
}

// together tells whether two stations follow each other in a job: then flipping is in the way of the work.
func together(s *shop.Shop, a, b string) bool {
	for _, j := range s.Settings.Jobs {
		for i := 1; i < len(j.Path); i++ {
			if j.Path[i-1] == a && j.Path[i] == b || j.Path[i-1] == b && j.Path[i] == a {
				return true
			}
		}
	}
	return false
}

// holds tells whether something is beneath a station already.
func holds(s *shop.Shop, st *shop.Station) bool {
	foot := st.Footprint()
	for i := range s.Containers {
		c := &s.Containers[i]
		if c.At.Station == st.ID {
			return true
		}
		if f := c.At.Floor; f != nil && foot.Overlaps(geometry.Rectangle(f[0].MM(), f[1].MM(), c.W.MM(), c.D.MM(), c.At.Rot), 1) {
			return true
		}
	}
	return slices.ContainsFunc(s.Places, func(p shop.Place) bool { return p.At.Station == st.ID })
}
