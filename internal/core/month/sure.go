package month

import (
	"math/rand/v2"
	"slices"
)

// Sure is how sure a gain is: over months in which the uses of each thing are drawn by its rate. Times are seconds a week.
type Sure struct {
	Mean  float64 `json:"mean" doc:"saved in the mean of all months"`
	Low   float64 `json:"low" doc:"nine of ten months save more"`
	High  float64 `json:"high" doc:"nine of ten months save less"`
	Share float64 `json:"share" doc:"of the months in which anything is saved, 0 to 1"`
	Uses  float64 `json:"uses" doc:"share of the gain that hangs on the one thing that brings most of it"`
}

// Use of a thing with what it saves each time.
type Use struct {
	Rate  float64 // uses a week
	Saves float64 // seconds each time; negative where it costs more
}

// HowSure draws so many months (Poisson by each rate); the same seed draws the same.
func HowSure(uses []Use, months int, seed uint64) (out Sure) {
	rng := rand.New(rand.NewPCG(seed, 24))
	all := make([]float64, months)
	most, gain := 0.0, 0.0
	for _, u := range uses {
		if x := u.Rate * u.Saves; x > 0 {
			most, gain = max(most, x), gain+x
		}
	}
	if gain > 0 {
		out.Uses = most / gain
	}
	for k := range all {
		for _, u := range uses {
			all[k] += u.Saves * float64(poisson(rng, u.Rate*weeks)) / weeks
		}
		out.Mean += all[k] / float64(months)
		if all[k] > 0 {
			out.Share += 1 / float64(months)
		}
	}
	slices.Sort(all)
	if months > 0 {
		out.Low, out.High = all[months/10], all[months-1-months/10]
	}
	return out
}
