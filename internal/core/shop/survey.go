package shop

import (
	"fmt"

	"hobrak/internal/core/length"
)

// Survey is what was measured of an area. The corners of the area are what
// fits these measurements best; a wall without one is as it was drawn.
type Survey struct {
	Instrument string    `json:"instrument,omitempty" enum:"tape,laser" doc:"what lengths are measured with unless a measurement says otherwise; tape when left out"`
	Angles     []float64 `json:"angles,omitempty" min:"0" max:"360" doc:"what each corner is taken for while its angle is not measured, from corner 0 on: 90 or 270 when it is square, 0 when it is as drawn"`
	Measures   []Measure `json:"measures,omitempty" doc:"the measurements in the order they were taken"`
}

// Measure is one observation. Corner k is the one at which wall k begins, so
// corner 0 lies between the last wall and wall A.
type Measure struct {
	Kind       string        `json:"kind" need:"yes" enum:"wall,diagonal,angle" doc:"length of a wall, distance between two corners, or angle inside a corner"`
	Wall       string        `json:"wall,omitempty" doc:"the wall measured"`
	From       int           `json:"from,omitempty" min:"0" max:"200" doc:"first corner of a diagonal"`
	To         int           `json:"to,omitempty" min:"0" max:"200" doc:"second corner of a diagonal"`
	Corner     int           `json:"corner,omitempty" min:"0" max:"200" doc:"corner whose angle was measured"`
	Length     length.Length `json:"length,omitempty" min:"0" max:"200000" doc:"what was read, of a wall or a diagonal"`
	Degrees    float64       `json:"degrees,omitempty" min:"0" max:"360" doc:"what was read, of an angle: on the inside, 90 is square, over 180 a corner that stands into the room"`
	Instrument string        `json:"instrument,omitempty" enum:"tape,laser" doc:"what it was measured with, where that differs"`
	LeftOut    bool          `json:"left_out,omitempty" doc:"kept but not used"`
}

// Clearances are the room kept free round what belongs to the building. They
// are the usual cautious figures; local codes may ask more.
type Clearances struct {
	AisleMain  *length.Length `json:"aisle_main,omitempty" min:"300" max:"3000" doc:"width of the ways from the main door to the stations; 760 when left out"`
	AisleSide  *length.Length `json:"aisle_side,omitempty" min:"300" max:"3000" doc:"width of all other ways; 600 when left out"`
	PanelWide  *length.Length `json:"panel_wide,omitempty" min:"0" max:"3000" doc:"working space before an electrical panel, across; 762 when left out"`
	PanelDeep  *length.Length `json:"panel_deep,omitempty" min:"0" max:"3000" doc:"the same, out from the wall; 914 when left out"`
	PanelHigh  *length.Length `json:"panel_high,omitempty" min:"0" max:"4000" doc:"the same, up from the floor; 1981 when left out"`
	Heater     *length.Length `json:"heater,omitempty" min:"0" max:"5000" doc:"distance to a heater; 900 when left out"`
	Head       *length.Length `json:"head,omitempty" min:"0" max:"1000" doc:"head room above the tallest person; 100 when left out"`
	OverThings *length.Length `json:"over_things,omitempty" min:"0" max:"2000" doc:"room above a bench, machine or vehicle under what hangs from the ceiling; 150 when left out"`
}

// Clear is the clearances of a shop in mm, the usual ones where none are given.
type Clear struct {
	AisleMain, AisleSide, PanelWide, PanelDeep, PanelHigh, Heater, Head, OverThings float64
}

// Clearances of the shop in mm.
func (s *Settings) Clearances() Clear {
	var c Clearances
	if s.Clear != nil {
		c = *s.Clear
	}
	or := func(l *length.Length, usual float64) float64 {
		if l == nil {
			return usual
		}
		return l.MM()
	}
	return Clear{AisleMain: or(c.AisleMain, 760), AisleSide: or(c.AisleSide, 600), PanelWide: or(c.PanelWide, 762), PanelDeep: or(c.PanelDeep, 914),
		PanelHigh: or(c.PanelHigh, 1981), Heater: or(c.Heater, 900), Head: or(c.Head, 100), OverThings: or(c.OverThings, 150)}
}

// Centres of the studs of a wall of that length, from the left. Nil studs have none.
func (s *Studs) Centres(long length.Length) []length.Length {
	switch {
	case s == nil:
		return nil
	case len(s.List) > 0:
		return s.List
	case s.Spacing <= 0:
		return nil
	}
	var out []length.Length
	for x := s.First; x < long; x += s.Spacing {
		out = append(out, x)
	}
	return out
}

// StudsBehind counts the studs of wall i of the area from one x to another, in mm.
func (a *Area) StudsBehind(i int, from, to float64) (n int) {
	for _, x := range a.Walls[i].Studs.Centres(a.Frame(i).Length) {
		if x.MM() >= from && x.MM() <= to {
			n++
		}
	}
	return n
}

// collides tells whether two features claim the same piece of wall. Pipes and
// beams may run across others.
func (f *Feature) collides(o *Feature) bool {
	const touch = length.Millimetre
	for _, x := range []*Feature{f, o} {
		if x.Kind.Across() {
			return false
		}
	}
	return min(f.X+f.W, o.X+o.W)-max(f.X, o.X) > touch && min(f.Z+f.H, o.Z+o.H)-max(f.Z, o.Z) > touch
}

// CornerName names corner k by the walls that meet there: DA, AB and so on.
func (a *Area) CornerName(k int) string {
	n := len(a.Walls)
	if n == 0 {
		return ""
	}
	return a.Walls[(k+n-1)%n].ID + a.Walls[k%n].ID
}

func (v validator) survey(path string, a *Area) {
	n := len(a.Corners)
	if k := len(a.Survey.Angles); k != 0 && k != n {
		v.f.add(path+".angles", "there are %d angles for %d corners", k, n)
	}
	for k, m := range a.Survey.Measures {
		at := fmt.Sprintf("%s.measures[%d]", path, k)
		switch m.Kind {
		case "wall":
			if a.WallIndex(m.Wall) < 0 {
				v.f.add(at+".wall", "there is no wall %q in this area", m.Wall)
			}
		case "diagonal":
			if m.From >= n || m.To >= n || m.From == m.To {
				v.f.add(at, "a diagonal runs between two of the corners 0 to %d", n-1)
			}
		case "angle":
			if m.Corner >= n {
				v.f.add(at+".corner", "there is no corner %d; the last one is %d", m.Corner, n-1)
			}
		}
		switch {
		case m.Kind == "angle" && (m.Degrees <= 0 || m.Degrees >= 360):
			v.f.add(at+".degrees", "an angle inside a corner is more than 0 and less than 360")
		case m.Kind != "angle" && m.Length <= 0:
			v.f.add(at+".length", "a length is more than 0")
		}
	}
}
