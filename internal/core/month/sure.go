package month

import (
	"math"
	"math/rand/v2"
	"slices"
)

// Sure is how sure a gain is: over months in which the uses of each thing are drawn by its rate, what is assumed turns out otherwise, and things
// come. Times are seconds a week.
type Sure struct {
	Mean  float64 `json:"mean" doc:"saved in the mean of all months"`
	Low   float64 `json:"low" doc:"nine of ten months save more"`
	High  float64 `json:"high" doc:"nine of ten months save less"`
	Share float64 `json:"share" doc:"of the months in which anything is saved, 0 to 1"`
	Uses  float64 `json:"uses" doc:"share of the gain that hangs on the one thing that brings most of it"`
	// What makes it unsure: the variance that comes from each, as a share of all.
	Draw   float64 `json:"draw" doc:"share of the spread that comes from how often things happen to be used in a month"`
	Rates  float64 `json:"rates" doc:"from uses a week that are only assumed"`
	Sizes  float64 `json:"sizes" doc:"from sizes and weights that are only assumed"`
	Growth float64 `json:"growth" doc:"from what comes in a year"`
}

// Use of a thing with what it saves each time.
type Use struct {
	Rate    float64 // uses a week
	Saves   float64 // seconds each time; negative where it costs more
	Guessed bool    // the rate is only assumed
	// Larger is what is lost, seconds a week, when what is assumed of its size turns out larger, in each of some ways alike; as likely as not it does
	// not turn out larger. Nil when nothing is assumed.
	Larger []float64
	Comes  float64 // how many more like it come in a year, in the mean
	Room   float64 // seconds a week each of those costs less
}

// doubt is by how much a rate that is only assumed may be off: the standard deviation of its logarithm, so that two of three are within a factor of
// 1.65 (estimate).
const doubt = .5

// HowSure draws so many months: uses by Poisson by each rate, rates that are assumed off by a factor (log-normal, right in the mean), sizes that are
// assumed larger as often as not, and what comes by Poisson. The same seed draws the same.
func HowSure(uses []Use, months int, seed uint64) (out Sure) {
	rng := rand.New(rand.NewPCG(seed, 24))
	all := make([]float64, months)
	var parts [4][]float64
	for k := range parts {
		parts[k] = make([]float64, months)
	}
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
		for i := range uses {
			u := &uses[i]
			rate := u.Rate
			if u.Guessed {
				rate *= math.Exp(doubt*rng.NormFloat64() - doubt*doubt/2)
				parts[1][k] += u.Saves * (rate - u.Rate)
			}
			drawn := u.Saves * float64(poisson(rng, rate*weeks)) / weeks
			parts[0][k] += drawn - u.Saves*rate
			all[k] += drawn
			if len(u.Larger) > 0 && rng.IntN(2) == 0 {
				lost := u.Larger[rng.IntN(len(u.Larger))]
				all[k] -= lost
				parts[2][k] -= lost
			}
			if u.Comes > 0 && u.Room != 0 {
				more := float64(poisson(rng, u.Comes)) * u.Room
				all[k] += more
				parts[3][k] += more
			}
		}
		out.Mean += all[k] / float64(months)
		if all[k] > 0 {
			out.Share += 1 / float64(months)
		}
	}
	var spread [4]float64
	sum := 0.0
	for k := range parts {
		spread[k] = variance(parts[k])
		sum += spread[k]
	}
	if sum > 0 {
		out.Draw, out.Rates, out.Sizes, out.Growth = spread[0]/sum, spread[1]/sum, spread[2]/sum, spread[3]/sum
	}
	slices.Sort(all)
	if months > 0 {
		out.Low, out.High = all[months/10], all[months-1-months/10]
	}
	return out
}

func variance(list []float64) (sum float64) {
	mean := 0.0
	for _, x := range list {
		mean += x / float64(len(list))
	}
	for _, x := range list {
		sum += (x - mean) * (x - mean) / float64(len(list))
	}
	return sum
}
