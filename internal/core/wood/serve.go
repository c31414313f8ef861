package wood

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hobrak/internal/core/shop"
)

// Wish for a part.
type Wish struct {
	L      float64 `json:"-"` // finished, mm
	W      float64 `json:"-"`
	T      float64 `json:"-"`
	Of     string  `json:"of,omitempty" maxLength:"40" doc:"kind of wood; any when left out"`
	Count  int     `json:"count,omitempty" minimum:"0" maximum:"1000" doc:"how many; 1 when left out"`
	Across bool    `json:"across,omitempty" doc:"the grain runs across its length"`
	Extra  float64 `json:"extra,omitempty" minimum:"0" maximum:"100" doc:"allowance on each side, mm"`
	Kerf   float64 `json:"kerf,omitempty" minimum:"0" maximum:"20" doc:"what the saw takes, mm"`
}

// Serves is a piece that gives a part.
type Serves struct {
	Piece
	Gives int     `json:"gives" doc:"so many of the part from one piece"`
	Waste float64 `json:"waste" doc:"share of what is used up that is not in the parts"`
	Plane float64 `json:"plane" doc:"mm to plane off; 0 when it is as thick as is wanted"`
	Says  string  `json:"says" doc:"what to mind: it is promised, where it lies, what lies on it"`
}

// allowed is how much thicker than wanted a piece may be before resawing it is better than planing (an estimate), mm.
const allowed = 15.0

// Find the pieces that serve, those that waste least first, to a tenth; of equals those that are easier to get, then the smaller: offcuts
// before whole boards. What is promised comes last.
func (st *Stock) Find(w Wish) []Serves {
	n := max(1, w.Count)
	out := []Serves{}
	t := w.T + 2*w.Extra
	l, wide := w.L+2*w.Extra, w.W+2*w.Extra
	for i := range st.Pieces {
		p := &st.Pieces[i]
		if w.Of != "" && p.Of != w.Of || p.T < w.T-1e-9 || p.T > t+allowed && p.Form != Billet {
			continue
		}
		pl, pw := l, wide
		if w.Across != p.Across {
			pl, pw = wide, l
		}
		per := fits(p.L, pl, w.Kerf) * fits(p.W, pw, w.Kerf)
		if per == 0 {
			continue
		}
		need := min(n, per)
		// What is used up is the strip or the length that is cut off, whichever is less.
		rows := math.Ceil(float64(need) / float64(fits(p.L, pl, w.Kerf)))
		cols := math.Ceil(float64(need) / float64(fits(p.W, pw, w.Kerf)))
		strip := min(p.L*min(p.W, rows*(pw+w.Kerf)), p.W*min(p.L, cols*(pl+w.Kerf)))
		if rest := p.L - cols*(pl+w.Kerf); rest < 300 { // what would be left of the length is of no use
			strip = p.L * min(p.W, rows*(pw+w.Kerf))
		}
		x := Serves{Piece: *p, Gives: per, Waste: max(0, 1-float64(need)*w.L*w.W*w.T/(strip*p.T))}
		var says []string
		if p.Promised != "" {
			says = append(says, "promised to "+p.Promised)
		}
		if p.T > t+.5 {
			x.Plane = p.T - t
		}
		if p.Area != "" {
			says = append(says, "in "+p.Area)
		}
		if len(p.Lift) > 0 {
			says = append(says, "lift off first: "+strings.Join(p.Lift[:min(3, len(p.Lift))], ", "))
		}
		if p.Flaws != "" {
			says = append(says, p.Flaws)
		}
		x.Says = strings.Join(says, "; ")
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b Serves) int {
		return cmp.Or(cmp.Compare(min(1, len(a.Promised)), min(1, len(b.Promised))), cmp.Compare(math.Round(10*a.Waste), math.Round(10*b.Waste)), cmp.Compare(len(a.Lift), len(b.Lift)), cmp.Compare(a.L*a.W*a.T, b.L*b.W*b.T))
	})
	return out
}

// fits is how often a side goes into another, with the saw between.
func fits(whole, side, kerf float64) int { return int((whole + kerf + 1e-9) / (side + kerf)) }

// Leave is a piece that may go, with why.
type Leave struct {
	Item   string  `json:"item"`
	Name   string  `json:"name"`
	Why    string  `json:"why"`
	Days   int     `json:"days" doc:"since it came; -1 when that is not known"`
	M3     float64 `json:"m3"`
	GoesTo string  `json:"goes_to"`
	Review string  `json:"review"`
}

// usefulWide is how wide an offcut must be to be of use, mm, where it is no strip (an estimate).
const usefulWide = 40.0

// Letting are the pieces that may go by the shop's rules: shorter or narrower than is of use, or untouched for too long; not what is
// promised, kept whatever is said, or to be decided on later. Used has the day of the last use of each.
func (st *Stock) Letting(s *shop.Shop, used map[string]string, today time.Time) []Leave {
	out := []Leave{}
	ix := shop.NewIndex(s)
	useful, months := s.Settings.UsefulLength().MM(), s.Settings.MonthsOfWood()
	for i := range st.Pieces {
		p := &st.Pieces[i]
		it := ix.Item(p.Item)
		if it == nil || it.Keep || p.Promised != "" || it.Review > today.Format(time.DateOnly) {
			continue
		}
		touched := max(p.Came, used[p.Item])
		x := Leave{Item: p.Item, Name: p.Name, Days: days(touched, today), M3: p.M3, GoesTo: p.GoesTo, Review: it.Review}
		switch {
		case p.GoesTo != "":
			x.Why = "it goes: " + p.GoesTo
		case p.Form != Veneer && p.Form != Billet && p.L < useful:
			x.Why = "shorter than is kept"
		case p.Form == Offcut && p.W < usefulWide && p.T < usefulWide && p.L < 2*useful:
			x.Why = "narrow and short"
		case x.Days >= 0 && float64(x.Days) > months*30.4:
			x.Why = fmt.Sprintf("untouched for %d months", int(float64(x.Days)/30.4))
		default:
			continue
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b Leave) int { return cmp.Compare(b.M3, a.M3) })
	return out
}
