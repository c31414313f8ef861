package device

import (
	"fmt"
	"hash/fnv"
	"math"
	"math/rand/v2"
	"strconv"
	"sync"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Scale weighs what lies on it. Real scales type their reading into the field in
// focus like a keyboard and need nothing here.
type Scale interface {
	// Name is shown to people.
	Name() string
	// Simulated tells whether no real scale is behind it.
	Simulated() bool
	// Weigh gives the reading as the scale shows it, unit and all, such as
	// "2.315 kg" or "5 lb 1.5 oz". The item says what is said to lie on it; a
	// real scale does not need it.
	Weigh(on *shop.Item, units length.System) (string, error)
}

// What the simulated scale can do: its steps and its range, in kg, and the
// standard deviation of a reading, as a share of it.
const (
	ScaleStep  = .005
	ScaleMost  = 40.0
	ScaleNoise = .002
)

// SimulatedScale weighs things as if what was assumed of them were a little
// wrong, each thing always by the same share.
type SimulatedScale struct {
	mu  sync.Mutex
	rnd *rand.Rand
}

// NewSimulatedScale makes a scale. The same seed gives the same readings.
func NewSimulatedScale(seed uint64) *SimulatedScale {
	return &SimulatedScale{rnd: rand.New(rand.NewPCG(seed, 0x7363616c65))}
}

// Name of the scale.
func (s *SimulatedScale) Name() string { return "Simulated scale" }

// Simulated is true.
func (s *SimulatedScale) Simulated() bool { return true }

// Weigh gives a reading for one of the item: in kg to 5 g, in pounds to half an ounce.
func (s *SimulatedScale) Weigh(on *shop.Item, units length.System) (string, error) {
	kg := on.KG.KG()
	if k, ok := kinds.ByID(on.Kind); ok && kg == 0 {
		kg = k.KG
	}
	if kg == 0 {
		kg = .5
	}
	h := fnv.New32a()
	h.Write([]byte(on.ID + on.Name))
	kg *= .85 + .3*float64(h.Sum32()%1000)/999
	s.mu.Lock()
	kg *= 1 + ScaleNoise*s.rnd.NormFloat64()
	s.mu.Unlock()
	if kg > ScaleMost {
		return "", fmt.Errorf("the simulated scale carries %g kg at most; weigh yourself with it and without", ScaleMost)
	}
	if units == length.Imperial {
		half := math.Max(1, math.Round(kg*1e6/weight.Ounce*2))
		return weight.Format(weight.Weight(half*weight.Ounce/2), length.Imperial), nil
	}
	steps := math.Max(1, math.Round(kg/ScaleStep))
	return strconv.FormatFloat(steps*ScaleStep, 'f', 3, 64) + " kg", nil
}
