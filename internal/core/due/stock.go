package due

import (
	"cmp"
	"math"
	"slices"
	"time"

	"hobrak/internal/core/shop"
)

// Estimates of consumables.
const (
	learnDays  = 84  // of use that a rate is learned from: twelve weeks
	coverWeeks = 4.0 // that a full stock is to last
	leadWeeks  = 1.0 // until one gets to the shop
)

// Rate is how much of a consumable is used in a week, by the uses noted of it in the last twelve weeks up to a day; 0 when none were.
func Rate(counts Counts, item string, to time.Time) float64 {
	n := counts.Uses(item, to.AddDate(0, 0, -learnDays).Format(time.DateOnly), to.Format(time.DateOnly))
	return float64(n) * 7 / learnDays
}

// Low is from how much on it is bought: as said, else what a week and the unevenness of use take, by Poisson's square root.
func Low(it *shop.Item, rate float64) float64 {
	if it.Stock.Low > 0 || rate == 0 {
		return it.Stock.Low
	}
	return math.Ceil(leadWeeks*rate + math.Sqrt(leadWeeks*rate))
}

// Par is how much is wanted: as said, else what four weeks take beyond the low mark.
func Par(it *shop.Item, rate float64) float64 {
	if it.Stock.Par > 0 || rate == 0 {
		return max(it.Stock.Par, it.Stock.Low)
	}
	return math.Ceil(coverWeeks * rate)
}

// Bought is a line of a shopping list.
type Bought struct {
	Item string  `json:"item"`
	Name string  `json:"name"`
	At   string  `json:"at" doc:"kind of shop; empty when nobody said"`
	Size string  `json:"size" doc:"size or grit one keeps to"`
	Has  float64 `json:"has"`
	Low  float64 `json:"low"`
	Par  float64 `json:"par"`
	Rate float64 `json:"rate" doc:"used in a week, learned from twelve of them; 0 when nothing was noted"`
	Buy  float64 `json:"buy" doc:"to have as much as is wanted; 0 when it is not low"`
	Unit string  `json:"unit"`
	Near string  `json:"near" doc:"another of the list of the same size: refills of it fit; empty when none"`
}

// Stocks of all consumables, by the kind of shop and name; those to be bought are low.
func Stocks(s *shop.Shop, counts Counts, today time.Time) []Bought {
	out := []Bought{}
	for i := range s.Items {
		it := &s.Items[i]
		if it.Stock == nil || it.Status == "wished" {
			continue
		}
		rate := Rate(counts, it.ID, today)
		b := Bought{Item: it.ID, Name: it.Name, At: it.Stock.At, Size: it.Stock.Size, Has: it.Stock.Has, Low: Low(it, rate), Par: Par(it, rate), Rate: rate, Unit: it.Stock.Unit}
		if b.Has <= b.Low && (b.Low > 0 || b.Has == 0) {
			b.Buy = max(1, b.Par-b.Has)
		}
		for k := range s.Items {
			if o := &s.Items[k]; k != i && o.Stock != nil && o.Stock.Size != "" && o.Stock.Size == it.Stock.Size && o.Kind == it.Kind {
				b.Near = o.Name
			}
		}
		out = append(out, b)
	}
	slices.SortStableFunc(out, func(a, b Bought) int { return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Name, b.Name)) })
	return out
}

// Flammable is how much there is in all of what burns, litres: as said of each, else by its size, of which three quarters are filled (an
// estimate).
func Flammable(s *shop.Shop) (litres float64, n int) {
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Flagged("flammable") || it.Status == "wished" {
			continue
		}
		n += it.Number()
		each := .75 * it.W.MM() * it.H.MM() * it.D.MM() / 1e6
		if it.Stock != nil && it.Stock.Litres > 0 {
			each = it.Stock.Litres
		}
		litres += each * float64(it.Number())
	}
	return litres, n
}
