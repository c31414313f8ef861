package calc

import (
	"math"
	"slices"

	"hobrak/internal/core/passage"
)

// The calculators of what goes into a room.
func init() {
	registry = append(registry,
		Calculator{
			Name: "stand-up", About: "whether a piece can be raised on its end under a ceiling", Source: "the far edge sweeps to √(L² + t²)",
			Inputs: []Input{{"length", "length", "", "length of the piece"}, {"thickness", "length", "25 mm", "thickness, or depth of a cabinet"}, {"ceiling", "length", "", "lowest ceiling, light, track or beam over the spot"}},
			run: func(a *args) map[string]any {
				l, t, c := a.length("length", 1), a.length("thickness", 0), a.length("ceiling", 1)
				if a.err != nil {
					return nil
				}
				needs := passage.StandUpHeight(l, t)
				out := map[string]any{"needs": tenth(needs), "spare": tenth(c - needs), "fits": needs <= c}
				if c > t {
					out["longest"] = tenth(math.Sqrt(c*c - t*t))
				}
				return out
			},
		},
		Calculator{
			Name: "turn", About: "the longest board that goes level round a square corner, and the disc it needs to turn on the spot", Source: "L = (a^⅔ + b^⅔)^(3/2) less the board's width; on the spot √(L² + width²)",
			Inputs: []Input{{"a", "length", "", "clear width of the one way"}, {"b", "length", "", "clear width of the other"}, {"width", "length", "0 mm", "width of the board"}, {"length", "length", "0 mm", "length of the board, to be judged"}},
			run: func(a *args) map[string]any {
				x, y, w, l := a.length("a", 1), a.length("b", 1), a.length("width", 0), a.length("length", 0)
				if a.err != nil {
					return nil
				}
				longest := passage.RoundCorner(x, y, w)
				out := map[string]any{"longest": tenth(longest)}
				if l > 0 {
					out["fits"], out["disc"] = l <= longest, tenth(math.Hypot(l, w))
				}
				return out
			},
		},
		Calculator{
			Name: "come-in", About: "whether a sheet or cabinet passes a door, upright, on its side or tilted", Source: "smallest cross-section through the clear opening; tilted after Carver, Amer. Math. Monthly 64, 1957",
			Inputs: []Input{{"door-width", "length", "", "clear width of the opening"}, {"door-height", "length", "", "clear height of the opening"}, {"width", "length", "", "one side of the piece"}, {"height", "length", "", "another side"}, {"depth", "length", "18 mm", "the third: thickness of a sheet, depth of a cabinet"}},
			run: func(a *args) map[string]any {
				dw, dh := a.length("door-width", 1), a.length("door-height", 1)
				sides := []float64{a.length("width", 1), a.length("height", 1), a.length("depth", 1)}
				if a.err != nil {
					return nil
				}
				slices.Sort(sides)
				straight := sides[1] <= max(dw, dh) && sides[0] <= min(dw, dh)
				return map[string]any{"fits": passage.Passes(sides[1], sides[0], dw, dh), "tilted": !straight, "diagonal": tenth(math.Hypot(dw, dh)), "section": []float64{sides[0], sides[1]}}
			},
		})
}
