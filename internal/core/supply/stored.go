package supply

import (
	"math"

	"hobrak/internal/core/shop"
)

// Budget is what a session draws from batteries, against what they hold.
type Budget struct {
	Batteries []StoredIn `json:"batteries" nullable:"false"`
	Hours     float64    `json:"hours" doc:"of a session"`
	Enough    bool       `json:"enough" doc:"all of it lasts a session without charging meanwhile"`
	Charge    float64    `json:"charge" doc:"minutes to charge what a session takes, with the chargers there are"`
}

// StoredIn is what batteries of a name hold and give in a session.
type StoredIn struct {
	Name     string  `json:"name"`
	Holds    float64 `json:"holds" doc:"Wh of all of them, as printed"`
	Gives    float64 `json:"gives" doc:"Wh of that which can be used"`
	Draws    float64 `json:"draws" doc:"Wh a session"`
	Sessions float64 `json:"sessions" doc:"sessions that they last fully charged; 0 when nothing draws from them"`
	Changes  int     `json:"changes" doc:"times a session one is changed for a full one"`
	Lasts    float64 `json:"lasts" doc:"hours of a session until they are empty; 0 when they last all of it"`
}

const (
	usable      = .85  // of what is printed on a battery (an estimate: cold, age, the tool's own limit)
	usualCharge = 60.0 // minutes to charge a battery (an estimate)
)

// Stored works out the budget of a session: V · Ah = Wh of each battery, W · h of each that draws. Nil when nothing is worked from batteries.
func Stored(s *shop.Shop) *Budget {
	x := s.Settings.Stored
	if x == nil {
		return nil
	}
	out := &Budget{Batteries: []StoredIn{}, Hours: x.Hours, Enough: true}
	chargers := max(1, x.Chargers)
	minutes := 0.0
	for i, b := range x.Batteries {
		one := b.Volts * b.AH
		in := StoredIn{Name: b.Name, Holds: one * float64(b.N)}
		in.Gives = usable * in.Holds
		for _, d := range x.Draws {
			if d.Battery == b.Name || d.Battery == "" && i == 0 {
				long := d.Minutes
				if long == 0 {
					long = 60 * x.Hours
				}
				in.Draws += d.Watts * long / 60
			}
		}
		if in.Draws > 0 {
			in.Sessions = in.Gives / in.Draws
			in.Changes = max(0, int(math.Ceil(in.Draws/(usable*one)-1e-9))-1)
			if in.Sessions < 1 {
				out.Enough = false
				in.Lasts = x.Hours * in.Sessions
			}
			each := b.Charge
			if each == 0 {
				each = usualCharge
			}
			minutes += in.Draws / usable / one * each
		}
		out.Batteries = append(out.Batteries, in)
	}
	out.Charge = minutes / float64(chargers)
	return out
}
