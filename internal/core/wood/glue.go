package wood

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// Glue is a panel that is glued up.
type Glue struct {
	L     float64 // along the joints, mm
	W     float64 // across them
	T     float64
	Outer float64 // width of the outermost strip with its caul; 80 when 0
	Of    string
}

// Clamping is what a glue-up asks for.
type Clamping struct {
	Count    int      `json:"count" doc:"so many clamps"`
	Spacing  float64  `json:"spacing" doc:"mm at most"`
	Force    float64  `json:"force" doc:"N of each"`
	Pressure float64  `json:"pressure" doc:"MPa on the joint"`
	Reach    float64  `json:"reach" doc:"how far they open, mm"`
	Have     int      `json:"have" doc:"so many there are that open so far"`
	Which    []string `json:"which" nullable:"false" doc:"those, the strongest first"`
	Short    int      `json:"short"`
	Says     []string `json:"says" nullable:"false"`
}

// Pressures on a joint, MPa, and the force of clamps, N, where it is not rated (estimates; USDA Wood Handbook, chapter 10: .7 to 1.2).
const (
	softPressure = .7
	hardPressure = 1.2
	barForce     = 4000.0
	fForce       = 2000.0
	springForce  = 200.0
	hardFrom     = 550.0 // kg/m³
	outerStrip   = 80.0
	overhang     = 60.0 // cauls and feet of the clamp
)

// Clamps a glue-up asks for and what there is. Pressure spreads at 45° from each clamp, so they stand no further apart than twice the
// width of what is outermost; and together they give the pressure the joint wants.
func Clamps(s *shop.Shop, g Glue) Clamping {
	out := Clamping{Which: []string{}, Says: []string{}, Pressure: softPressure, Reach: g.W + overhang}
	if w, err := load.WoodByID(g.Of); err == nil && w.Density > hardFrom {
		out.Pressure = hardPressure
	}
	outer := g.Outer
	if outer == 0 {
		outer = outerStrip
	}
	out.Spacing = 2 * outer
	type own struct {
		name  string
		n     int
		force float64
	}
	var list []own
	for i := range s.Items {
		it := &s.Items[i]
		if !strings.Contains(strings.ToLower(it.Kind+" "+it.Name), "clamp") || !it.Needs() {
			continue
		}
		name := strings.ToLower(it.Kind + " " + it.Name)
		// A clamp is about so much longer than it opens.
		opens := max(it.W.MM(), it.H.MM(), it.D.MM()) - 120
		if opens < out.Reach {
			continue
		}
		f := fForce
		switch {
		case strings.Contains(name, "spring"):
			f = springForce
		case strings.Contains(name, "bar"), strings.Contains(name, "pipe"), strings.Contains(name, "sash"):
			f = barForce
		}
		list = append(list, own{it.Name, it.Number(), f})
	}
	slices.SortStableFunc(list, func(a, b own) int { return int(b.force - a.force) })
	out.Force = barForce
	if len(list) > 0 {
		out.Force = list[0].force
	}
	area := g.L * g.T
	need := out.Pressure * area // N
	bySpacing := int(math.Ceil(g.L/out.Spacing)) + 1
	out.Count = max(2, bySpacing, int(math.Ceil(need/out.Force)))
	for _, x := range list {
		out.Have += x.n
		out.Which = append(out.Which, fmt.Sprintf("%d × %s", x.n, x.name))
	}
	out.Short = max(0, out.Count-out.Have)
	if g.L/float64(out.Count) < out.Spacing {
		out.Spacing = g.L / float64(max(1, out.Count-1))
	}
	out.Says = append(out.Says, "alternate them above and below the panel so that it stays flat", "a dry run first: glue does not wait")
	if out.Short > 0 {
		out.Says = append(out.Says, "wider cauls let them stand further apart; or glue it in two goes")
	}
	return out
}
