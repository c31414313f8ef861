package supply

import (
	"fmt"
	"math"
	"slices"
	"time"

	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Warmth is how long a room takes to get warm before a session.
type Warmth struct {
	Watts   float64 `json:"watts" doc:"of its heaters, by their current"`
	Outside float64 `json:"outside" doc:"°C"`
	Wanted  float64 `json:"wanted" doc:"°C"`
	Keeps   float64 `json:"keeps" doc:"W to keep it so"`
	Minutes float64 `json:"minutes" doc:"to get there from as cold as outside; 0 when it never does"`
	Never   bool    `json:"never" doc:"the heaters give less than the room loses"`
}

// Estimates and sources of heat. A room is one body (lumped capacity): C·dT/dt = P − U·A·(T − T₀), so T rises as 1 − e^(−t·UA/C).
const (
	lossRaw   = 2.0   // W/m²K through a wall of boards or one leaf (an estimate; ISO 6946 gives it layer by layer)
	lossLined = .5    // insulated
	soaks     = 12e3  // J/m²K that the inside of a wall takes up while it gets warm (an estimate: 10 mm of wood and air at it)
	airHolds  = 1.2e3 // J/m³K
)

// Warm works out how long the heaters of a room take from the cold outside to what is wanted, °C. The error says which area there is not.
func Warm(s *shop.Shop, area string, outside, wanted float64) (*Warmth, error) {
	ix := shop.NewIndex(s)
	a := ix.Area(area)
	if a == nil {
		return nil, fmt.Errorf("there is no area %q", area)
	}
	w := &worker{s: s, ix: ix, area: a}
	x := &Warmth{Outside: outside, Wanted: wanted}
	for i := range s.Stations {
		if st := &s.Stations[i]; ix.Area(st.Area) == a && st.Wished == "" && st.Kind == "heater" {
			x.Watts += st.Amps * s.Volts()
		}
	}
	floor := math.Abs(a.Outline().Area()) / 1e6
	skin := 2*floor + w.girth()*w.high()/1e6
	loss := lossRaw
	if a.Insulated {
		loss = lossLined
	}
	x.Keeps, x.Minutes, x.Never = warmUp(x.Watts, loss*skin, soaks*skin+airHolds*floor*w.high()/1000, max(0, wanted-outside))
	return x, nil
}

// warmUp of a body that loses so many W/K and takes up so many J/K, by so many kelvin: W to keep it there, and minutes until then.
func warmUp(watts, loss, holds, by float64) (keeps, minutes float64, never bool) {
	keeps = loss * by
	switch {
	case by == 0:
		return 0, 0, false
	case watts <= keeps:
		return keeps, 0, true
	}
	return keeps, -holds / loss * math.Log(1-keeps/watts) / 60, false
}

// Stands is how long a machine stands where it does.
type Stands struct {
	Station string `json:"station"`
	Name    string `json:"name"`
	Since   string `json:"since" doc:"day; empty when nobody noted it"`
	Months  int    `json:"months" doc:"whole months since; -1 when not known"`
	Settled bool   `json:"settled" doc:"long enough for something fixed to be led to it"`
	Rolls   bool   `json:"rolls" doc:"it rolls or folds: a hose, whatever its age there"`
}

// settledAfter so many months a duct or a conduit is worth it (an estimate: people rearrange most in the first year).
const settledAfter = 12

// Settled lists the machines that make dust with how long they stand where they do on a day, those first that stand longest.
func Settled(s *shop.Shop, area, today string) []Stands {
	ix := shop.NewIndex(s)
	a := ix.Area(area)
	out := []Stands{}
	for i := range s.Stations {
		st := &s.Stations[i]
		if flow, _ := served.Wants(st); ix.Area(st.Area) != a || st.Wished != "" || flow == 0 {
			continue
		}
		x := Stands{Station: st.ID, Name: st.Name, Since: st.Placed, Months: Months(st.Placed, today), Rolls: st.Mobility.Aside()}
		x.Settled = x.Months >= settledAfter && !x.Rolls
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b Stands) int { return b.Months - a.Months })
	return out
}

// Months are whole months from a day to another, both as 2027-05-31; -1 when one of them is no day, 0 when the first is the later.
func Months(from, to string) int {
	a, err := time.Parse(time.DateOnly, from)
	b, err2 := time.Parse(time.DateOnly, to)
	if err != nil || err2 != nil {
		return -1
	}
	n := 12*(b.Year()-a.Year()) + int(b.Month()-a.Month())
	if b.Day() < a.Day() && b.Day() < lastOf(b) { // the 30th is a month after the 31st where there is no 31st
		n--
	}
	return max(0, n)
}

// lastOf the month of a day.
func lastOf(d time.Time) int { return time.Date(d.Year(), d.Month()+1, 0, 0, 0, 0, 0, time.UTC).Day() }
