package calc

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/walk"
	"hobrak/internal/core/weight"
)

var (
	stature = Input{"stature", "length", "", "body height without shoes"}
	lean    = Input{"lean", "length", "250 mm", "how far the person leans over an obstacle, at most 400 mm"}
)

const (
	bodySource  = "Drillis and Contini, Body Segment Parameters, 1966; shoes 25 mm"
	nioshSource = "Waters, Putz-Anderson, Garg: Applications Manual for the Revised NIOSH Lifting Equation, 1994 (metric form); applied from 3 kg. A lift is judged here, not a person: heed your own limits"
	mtmSource   = "MTM-1 motion times (Maynard, Stegemerten, Schwab, 1948); seconds for doors, drawers, search and the like are estimates of this project"
)

var registry = []Calculator{
	{
		Name: "length", About: "reads a length in any notation and writes it in both systems", Source: "1 in = 25.4 mm exactly",
		Inputs: []Input{{"value", "text", "", `a length as typed, such as 3' 11 1/4"`}},
		run: func(a *args) map[string]any {
			l := length.MM(a.length("value", math.Inf(-1)))
			return map[string]any{"mm": l.MM(), "metric": length.Style{System: length.Metric}.Format(l), "imperial": length.Style{System: length.Imperial}.Format(l)}
		},
	},
	{
		Name: "weight", About: "reads a weight in any notation and writes it in both systems", Source: "1 lb = 0.45359237 kg exactly",
		Inputs: []Input{{"value", "text", "", "a weight as typed, such as 2 lb 4 oz"}},
		run: func(a *args) map[string]any {
			w := weight.KG(a.kg("value"))
			return map[string]any{"kg": w.KG(), "metric": weight.Format(w, length.Metric), "imperial": weight.Format(w, length.Imperial)}
		},
	},
	{
		Name: "reach-band", About: "how a height is reached by a person standing before it", Source: bodySource,
		Inputs: []Input{stature, {"z", "length", "", "height above the floor"}, {"depth", "length", "0 mm", "depth of what stands before the wall"}, {"top", "length", "0 mm", "height of what stands before the wall"}, lean, {"step", "length", "400 mm", "height of the step stool"}},
		run: func(a *args) map[string]any {
			b := a.body()
			o := reach.Obstacle{Depth: a.length("depth", 0), Top: a.length("top", 0)}
			z := b.Zones(o, a.length("step", 0))
			at := a.length("z", 0)
			if a.err != nil {
				return nil
			}
			return map[string]any{"band": z.At(at).String(), "knee": tenth(z.Kneel), "fingertip": tenth(z.Bend), "shoulder": tenth(b.Shoulder), "stretch_to": tenth(z.Stretch), "step_to": tenth(z.Step)}
		},
	},
	{
		Name: "reach-over", About: "the heights reached over a bench or machine", Source: bodySource + "; z = shoulder ± √(a² − d²), a = arm + lean",
		Inputs: []Input{stature, {"depth", "length", "", "depth of the bench"}, {"top", "length", "", "height of the bench"}, lean},
		run: func(a *args) map[string]any {
			b := a.body()
			o := reach.Obstacle{Depth: a.length("depth", 0), Top: a.length("top", 0)}
			if a.err != nil {
				return nil
			}
			w := b.Over(o, b.Lean)
			out := map[string]any{"reachable": w.OK, "arm": tenth(b.Arm + b.Lean), "shoulder": tenth(b.Shoulder)}
			if w.OK {
				out["low"], out["high"] = tenth(w.Low), tenth(w.High)
			}
			return out
		},
	},
	{
		Name: "lift", About: "recommended weight limit and lifting index of one lift", Source: nioshSource,
		Inputs: []Input{{"weight", "weight", "", "what is lifted"}, {"from-height", "length", "", "hands above the floor at the place"}, {"from-reach", "length", "250 mm", "hands from the ankles at the place"},
			{"to-height", "length", "900 mm", "hands above the floor at the station"}, {"to-reach", "length", "300 mm", "hands from the ankles at the station"}, {"turn", "number", "0", "degrees the body turns"},
			{"frequency", "number", "1", "frequency factor, 1 for rare lifts"}, {"coupling", "number", "1", "coupling factor, 1 good, .95 fair, .9 poor"}},
		run: func(a *args) map[string]any {
			kg := a.kg("weight")
			l := reach.Lift{FromHeight: a.length("from-height", 0), FromReach: a.length("from-reach", 0), ToHeight: a.length("to-height", 0), ToReach: a.length("to-reach", 0),
				Turn: a.number("turn", 0, 180), Frequency: a.number("frequency", 0.1, 1), Coupling: a.number("coupling", 0.1, 1)}
			if a.err != nil {
				return nil
			}
			from, to := l.Limits()
			v := l.Judge(kg)
			out := map[string]any{"limit_from_kg": hundredth(from.Limit), "limit_to_kg": hundredth(to.Limit), "barred": v.Barred, "caution": v.Caution, "applied": kg >= reach.LiftFrom}
			if i := l.Index(kg); i < reach.NoLimit {
				out["index"] = hundredth(i)
			}
			if v.Why != "" {
				out["why"] = v.Why
			}
			return out
		},
	},
	{
		Name: "fetch-time", About: "seconds to fetch a thing and to put it back", Source: mtmSource,
		Inputs: []Input{stature, {"distance", "length", "", "way on foot, one way"}, {"band", "text", "easy", "kneel, bend, easy, stretch, step or ladder"},
			{"open", "list", "none", "what must be opened: door, drawer, lid, roll-out, hoist, joined by commas"}, {"search", "text", "in-sight", "in-sight, labelled, unlabelled or heap"},
			{"aside", "number", "0", "things to move aside"}, {"jumble", "text", "no", "yes when it is grasped out of many"}, {"uses", "number", "1", "uses a week"}},
		run: func(a *args) map[string]any {
			e := reach.Errand{Of: reach.NewBody(a.length("stature", 500), reach.DefaultLean, nil), Distance: a.length("distance", 0), Estimates: reach.DefaultEstimates()}
			bands := []string{"kneel", "bend", "easy", "stretch", "step", "ladder"}
			e.Band = reach.Band(max(0, slices.Index(bands, a.choice("band", bands...))))
			searches := []string{"in-sight", "labelled", "unlabelled", "heap"}
			e.Search = reach.Search(max(0, slices.Index(searches, a.choice("search", searches...))))
			if open := a.text("open"); open != "none" {
				for _, o := range strings.Split(open, ",") {
					if reach.Access(o).Seconds(&e.Estimates) == 0 {
						a.fail("open", "%q should be door, drawer, lid, roll-out or hoist", o)
					}
					e.Accesses = append(e.Accesses, reach.Access(o))
				}
			}
			e.Aside = int(a.number("aside", 0, 100))
			e.Jumble = a.choice("jumble", "yes", "no") == "yes"
			uses := a.number("uses", 0, 10000)
			if a.err != nil {
				return nil
			}
			t := reach.Fetch(e)
			parts := []map[string]any{}
			for _, p := range t.Parts {
				parts = append(parts, map[string]any{"name": p.Name, "seconds": hundredth(p.Seconds), "detail": p.Detail})
			}
			return map[string]any{"fetch": hundredth(t.Fetch), "put_back": hundredth(t.PutBack), "weekly": hundredth(uses * t.Both()), "order": reach.Order(e), "parts": parts}
		},
	},
	{
		Name: "path", About: "shortest way on foot in a rectangular room round boxes", Source: "visibility graph of the boxes grown by 250 mm (Lozano-Pérez, Wesley, 1979)",
		Inputs: []Input{{"room", "list", "", "width and depth of the room in mm, as 6000x4000"}, {"from", "list", "", "where one starts, x and y in mm, as 1000,1000"}, {"to", "list", "", "where one goes, as 3800,1000"},
			{"boxes", "list", "none", "what stands there: x,y,w,d in mm, several joined by semicolons"}},
		run: func(a *args) map[string]any {
			room := a.numbers("room", "x", 2)
			from, to := a.numbers("from", ",", 2), a.numbers("to", ",", 2)
			var boxes []geometry.Polygon
			if text := a.text("boxes"); text != "none" {
				for _, one := range strings.Split(text, ";") {
					v := a.split("boxes", one, ",", 4)
					if a.err == nil {
						boxes = append(boxes, geometry.Rectangle(v[0], v[1], v[2], v[3], 0))
					}
				}
			}
			if a.err != nil {
				return nil
			}
			outline := geometry.Polygon{{X: 0, Y: 0}, {X: 0, Y: room[1]}, {X: room[0], Y: room[1]}, {X: room[0], Y: 0}}
			f := walk.NewFloor(outline, boxes, walk.BodyRadius)
			p, ok := f.From(geometry.Point{X: from[0], Y: from[1]}).To(geometry.Point{X: to[0], Y: to[1]})
			out := map[string]any{"reachable": ok}
			if ok {
				points := [][2]float64{}
				for _, q := range p.Points {
					points = append(points, [2]float64{tenth(q.X), tenth(q.Y)})
				}
				out["length"], out["points"] = tenth(p.Length), points
			}
			return out
		},
	},
}

func (a *args) body() reach.Body {
	s, l := a.length("stature", 500), a.length("lean", 0)
	if s > 2500 {
		a.fail("stature", "%v mm is more than anybody's height", s)
	}
	if l > 400 {
		a.fail("lean", "%v mm is too far to lean; at most 400 mm", l)
	}
	return reach.NewBody(s, l, nil)
}

func (a *args) numbers(name, sep string, n int) []float64 { return a.split(name, a.text(name), sep, n) }

func (a *args) split(name, text, sep string, n int) []float64 {
	parts := strings.Split(text, sep)
	if len(parts) != n {
		a.fail(name, "%q should be %d numbers joined by %q", text, n, sep)
		return nil
	}
	out := make([]float64, n)
	for i, s := range parts {
		v, err := strconv.ParseFloat(strings.TrimSpace(s), 64)
		if err != nil || math.IsNaN(v) || math.Abs(v) > 1e6 {
			a.fail(name, "%q is not a number of millimetres", s)
		}
		out[i] = v
	}
	return out
}

func tenth(x float64) float64     { return math.Round(x*10) / 10 }
func hundredth(x float64) float64 { return math.Round(x*100) / 100 }
