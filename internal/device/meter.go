// Package device is what one holds in the hand while surveying and moving: for
// now the distance meter. Real meters type their reading into the field in
// focus like a keyboard and need nothing here; the simulated one stands in for
// a meter where there is none, and is plainly called simulated.
package device

import (
	"fmt"
	"math/rand/v2"
	"strconv"
	"strings"
	"sync"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Meter measures distances, one a press.
type Meter interface {
	// Name is shown to people.
	Name() string
	// Simulated tells whether no real meter is behind it.
	Simulated() bool
	// Press measures what it is aimed at and gives the reading as the meter
	// shows it, unit and all, such as "4.601 m" or `15' 1 1/8"`.
	Press(aim string, unit string) (string, error)
}

// Noise of the simulated meter: standard deviation in mm, and how often, one in
// so many, a reading is far off: aimed at the skirting, or held askew.
const (
	NoiseSD    = 1.5
	GrossEvery = 14
)

// SimulatedMeter measures a known room. What it is aimed at is named as the
// field of the survey in focus: walls/A/length, measures/+/diagonal:0-2,
// walls/A/features/A-door/x and so on.
type SimulatedMeter struct {
	mu   sync.Mutex
	room *shop.Area
	rnd  *rand.Rand
}

// NewSimulatedMeter makes a meter that measures the area. The same seed gives
// the same readings.
func NewSimulatedMeter(room *shop.Area, seed uint64) *SimulatedMeter {
	return &SimulatedMeter{room: room, rnd: rand.New(rand.NewPCG(seed, 0x6d657465))}
}

// Name of the meter.
func (m *SimulatedMeter) Name() string { return "Simulated meter" }

// Simulated is true.
func (m *SimulatedMeter) Simulated() bool { return true }

// Press measures. In "ft" it reads feet and inches to 1/16, else metres to a millimetre.
func (m *SimulatedMeter) Press(aim, unit string) (string, error) {
	exact, ok := m.truth(strings.Split(aim, "/"))
	if !ok {
		return "", fmt.Errorf("the simulated meter cannot be aimed at that: its room has no %q", aim)
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	mm := exact + NoiseSD*m.rnd.NormFloat64()
	if m.rnd.IntN(GrossEvery) == 0 {
		by := 100 + 200*m.rnd.Float64()
		if m.rnd.IntN(2) == 0 && mm > 2*by {
			by = -by
		}
		mm += by
	}
	l := length.MM(max(1, mm))
	if unit == "ft" {
		return length.Style{System: length.Imperial}.Format(l), nil
	}
	return strconv.FormatFloat(l.Metres(), 'f', 3, 64) + " m", nil
}

// truth is the distance of the simulated room that an aim means, in mm.
func (m *SimulatedMeter) truth(at []string) (float64, bool) {
	a := m.room
	switch {
	case len(at) == 3 && at[0] == "measures" && at[1] == "+":
		kind, what, _ := strings.Cut(at[2], ":")
		var i, j int
		switch kind {
		case "wall":
			return m.truth([]string{"walls", what, "length"})
		case "diagonal":
			if _, err := fmt.Sscanf(what, "%d-%d", &i, &j); err == nil && i >= 0 && j >= 0 && i < len(a.Corners) && j < len(a.Corners) {
				return a.Corners[i].Geometry().Distance(a.Corners[j].Geometry()), true
			}
		}
	case len(at) >= 3 && at[0] == "walls":
		i := a.WallIndex(at[1])
		if i < 0 {
			return 0, false
		}
		w := &a.Walls[i]
		switch {
		case at[2] == "length":
			return a.Frame(i).Length.MM(), true
		case at[2] == "top" && len(at) == 5:
			k, err := strconv.Atoi(at[3])
			if err != nil || k < 0 || k >= len(w.Profile) {
				return 0, false
			}
			if at[4] == "x" {
				return w.Profile[k][0].MM(), true
			}
			return w.Profile[k][1].MM(), true
		case at[2] == "features" && len(at) == 5:
			for _, f := range w.Features {
				if f.ID == at[3] {
					v, ok := map[string]length.Length{"x": f.X, "z": f.Z, "w": f.W, "h": f.H, "d": f.D}[at[4]]
					return v.MM(), ok && v > 0
				}
			}
		}
	}
	return 0, false
}
