// Package supply compares what a station usually needs with what the room gives it where it stands: mains, extraction,
// compressed air, light, and what its noise and weight ask of people. It informs; circuits and outlets are an electrician's.
// Lengths are millimetres as floats.
package supply

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Kinds of needs.
const (
	Power  = "power"
	Dust   = "dust"
	Air    = "air"
	Light  = "light"
	Noise  = "noise"
	Weight = "weight"
)

// Need of a station, and how it is met where it stands.
type Need struct {
	Kind string  `json:"kind" enum:"power,dust,air,light,noise,weight"`
	Says string  `json:"says" doc:"how much, and where it comes from"`
	By   string  `json:"by" doc:"id of what supplies it; empty when nothing does or nothing has to"`
	Far  float64 `json:"far" doc:"mm to that, in a straight line on the floor"`
	// Open tells that something is missing or must be minded.
	Open bool `json:"open" doc:"something is missing, or must be minded"`
}

const (
	// cord is how far an outlet may be before it is said to be far: what machines are sold with (estimate).
	cord = 3000.0
	// From so many dB(A) hearing protection is to be worn (directive 2003/10/EC, upper action value).
	loud = 85.0
	// Daylight from a window reaches about so far into a room for close work (estimate: twice its head height).
	daylight = 2.0
	// What one person carries at most (ISO 11228-1, reference mass 25 kg).
	carried = 25.0
)

// Needs of a station.
func Needs(s *shop.Shop, st *shop.Station) []Need {
	ix := shop.NewIndex(s)
	area := ix.Area(st.Area)
	foot := st.Footprint()
	mid := foot[0].Add(foot[2]).Mul(.5)
	usual := st.Kind.Supply()
	out := []Need{}
	if st.Amps > 0 {
		out = append(out, power(s, area, st, mid))
	}
	if usual.Dust > 0 {
		out = append(out, from(s, ix, st, mid, Dust, fmt.Sprintf("extraction of about %.0f m³/h", usual.Dust), []shop.StationKind{"extractor", "cyclone", "shop-vacuum"},
			"no extractor or vacuum stands in this area: a mask, and the door open"))
	}
	if usual.Air > 0 {
		out = append(out, from(s, ix, st, mid, Air, fmt.Sprintf("about %.0f l/min of compressed air", usual.Air), []shop.StationKind{"compressor"}, "no compressor stands in this area"))
	}
	if usual.Light > 0 {
		out = append(out, light(area, mid, usual.Light))
	}
	if usual.Noise > 0 {
		n := Need{Kind: Noise, Says: fmt.Sprintf("about %.0f dB(A) where one stands", usual.Noise)}
		if usual.Noise >= loud {
			n.Says, n.Open = n.Says+": wear hearing protection, and so should whoever is near", true
		}
		out = append(out, n)
	}
	if st.KG > 0 {
		n := Need{Kind: Weight, Says: weight.Rough(st.KG.KG()) + about(st, "kg")}
		if kg := st.KG.KG(); kg > carried && !st.Mobility.Aside() {
			n.Says, n.Open = n.Says+": two people or a trolley to move it, and its plug pulled first", true
		}
		out = append(out, n)
	}
	return out
}

func about(st *shop.Station, field string) string {
	if slices.Contains(st.Assumed, field) {
		return ", assumed"
	}
	return ""
}

// power is what it draws, and the outlet that is nearest.
func power(s *shop.Shop, area *shop.Area, st *shop.Station, mid geometry.Point) Need {
	n := Need{Kind: Power, Says: fmt.Sprintf("%s A%s", quantity.Number(st.Amps, 3), about(st, "amps")), Far: math.Inf(1)}
	var outlet *shop.Feature
	for i := range area.Walls {
		for k := range area.Walls[i].Features {
			f := &area.Walls[i].Features[k]
			if f.Kind != "outlet" {
				continue
			}
			if d := area.Frame(i).Spot((f.X + f.W/2).MM(), 0).Distance(mid); d < n.Far {
				n.Far, n.By, outlet = d, f.ID, f
			}
		}
	}
	if outlet == nil {
		n.Far, n.Open = 0, true
		n.Says += "; no outlet is marked on the walls of this area"
		return n
	}
	n.Says += fmt.Sprintf("; %s is %s away", outlet.Called(), length.OnFoot(n.Far))
	if n.Far > cord+math.Hypot(st.W.MM(), st.D.MM())/2 {
		n.Says, n.Open = n.Says+", farther than most cords: lead it along the wall, never across a way", true
	}
	for _, c := range s.Circuits {
		switch {
		case c.ID != outlet.Circuit || c.Amps <= 0:
		case st.Amps > c.Amps:
			n.Says, n.Open = n.Says+fmt.Sprintf(", and the breaker of %s carries %s A: an electrician judges that", c.ID, quantity.Number(c.Amps, 3)), true
		default:
			n.Says += fmt.Sprintf(", on %s of %s A", c.ID, quantity.Number(c.Amps, 3))
		}
	}
	return n
}

// from is a need that another station supplies.
func from(s *shop.Shop, ix *shop.Index, st *shop.Station, mid geometry.Point, kind, says string, by []shop.StationKind, missing string) Need {
	n := Need{Kind: kind, Far: math.Inf(1)}
	name := ""
	for i := range s.Stations {
		o := &s.Stations[i]
		if !slices.Contains(by, o.Kind) || ix.Area(o.Area) != ix.Area(st.Area) {
			continue
		}
		g := o.Footprint()
		if d := g[0].Add(g[2]).Mul(.5).Distance(mid); d < n.Far {
			n.Far, n.By, name = d, o.ID, o.Name
		}
	}
	if n.By == "" {
		n.Far, n.Says, n.Open = 0, says+"; "+missing, true
		return n
	}
	n.Says = fmt.Sprintf("%s; %s is %s away", says, name, length.OnFoot(n.Far))
	return n
}

// light is how bright the work should be (EN 12464-1, tasks in working with wood), and the window or lamp it may have.
func light(area *shop.Area, mid geometry.Point, lux float64) Need {
	n := Need{Kind: Light, Says: fmt.Sprintf("%.0f lx on the work", lux), Far: math.Inf(1)}
	what := ""
	for i := range area.Walls {
		for k := range area.Walls[i].Features {
			f := &area.Walls[i].Features[k]
			if !f.Kind.Lit() {
				continue
			}
			if d := area.Frame(i).Spot((f.X + f.W/2).MM(), 0).Distance(mid); d < daylight*(f.Z+f.H).MM() && d < n.Far {
				n.Far, n.By, what = d, f.ID, f.Called()
			}
		}
	}
	if n.By == "" && area.Ceiling != nil {
		for _, f := range area.Ceiling.Features {
			p := geometry.Point{X: (f.X + f.W/2).MM(), Y: (f.Y + f.D/2).MM()}
			if d := p.Distance(mid); f.Kind == "light" && d < n.Far {
				n.Far, n.By, what = d, f.ID, "lamp "+f.ID
			}
		}
	}
	if n.By == "" {
		n.Far, n.Open = 0, true
		n.Says += "; no window is near enough and no lamp is marked: a lamp of its own"
		return n
	}
	n.Says += fmt.Sprintf("; %s is %s away", what, length.OnFoot(n.Far))
	return n
}
