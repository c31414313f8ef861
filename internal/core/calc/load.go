package calc

import (
	"math"
	"slices"

	"hobrak/internal/core/carry"
	"hobrak/internal/core/load"
	"hobrak/internal/core/pack"
)

func init() { registry = slices.Concat(registry, loads) }

// loads are the calculators of screws, shelves, arms and carts.
var loads = []Calculator{
	{
		Name: "shelf-sag", About: "how much a shelf sags, and what it may carry until one sees it", Source: load.SagSource + "; " + load.WoodSource,
		Inputs: []Input{{"span", "length", "", "clear, between the supports"}, {"depth", "length", "", "of the shelf"}, {"thickness", "length", "18 mm", "of the shelf"}, {"load", "weight", "", "spread evenly"},
			{"wood", "text", "plywood", "material: plywood, birch-plywood, mdf, osb, white-pine, ash …"}, {"strip-thickness", "length", "0 mm", "of a strip along an edge"}, {"strip-height", "length", "0 mm", "of the strip"}, {"strips", "number", "1", "how many of them"}},
		run: func(a *args) map[string]any {
			b := load.Board{Span: a.length("span", 1), B: a.length("depth", 1), T: a.length("thickness", 1), Wood: a.wood("wood"), StripT: a.length("strip-thickness", 0), StripH: a.length("strip-height", 0), Strips: int(a.number("strips", 0, 4))}
			kg := a.kg("load")
			if a.err != nil {
				return nil
			}
			sag, err := b.Sag(kg)
			if a.refused("span", err) {
				return nil
			}
			most, err := b.Most()
			if a.refused("span", err) {
				return nil
			}
			limit := b.Span * load.SagShare
			out := map[string]any{"sag": hundredth(sag), "limit": hundredth(limit), "ok": sag <= limit, "most_kg": hundredth(most), "own_kg": hundredth(b.Own()), "inertia_mm4": math.Round(b.Inertia()), "e_gpa": b.Wood.E}
			if sag > limit {
				out["limiting"] = "the sag is more than a six-hundredth of the span"
			}
			return out
		},
	},
	{
		Name: "screw-withdrawal", About: "what one screw in a stud holds pulled straight out", Source: load.ScrewSource,
		Inputs: []Input{diameter, thread, studG},
		run: func(a *args) map[string]any {
			s := load.Screw{D: a.length("diameter", 1), Thread: a.length("thread", 1), StudG: a.number("stud-gravity", .3, .75)}
			if a.err != nil {
				return nil
			}
			n, err := s.Withdrawal()
			if a.refused("thread", err) {
				return nil
			}
			return map[string]any{"newton": tenth(n), "kg": hundredth(n / 9.80665), "per_mm": hundredth(n / s.Thread)}
		},
	},
	{
		Name: "screw-lateral", About: "what one screw in a stud holds sideways, by every way in which it gives way", Source: load.ScrewSource,
		Inputs: []Input{diameter, root, thread, side, sideG, studG},
		run: func(a *args) map[string]any {
			s := a.screw()
			if a.err != nil {
				return nil
			}
			l, err := s.Lateral()
			if a.refused("thread", err) {
				return nil
			}
			modes := []map[string]any{}
			for _, m := range l.Modes {
				modes = append(modes, map[string]any{"mode": m.Name, "gives_way": m.About, "newton": tenth(m.N)})
			}
			return map[string]any{"newton": tenth(l.N), "kg": hundredth(l.N / 9.80665), "limiting": l.Limit, "modes": modes, "bearing_stud_mpa": tenth(l.BearingM), "bearing_side_mpa": tenth(l.BearingS), "bending_mpa": tenth(l.Bending), "reduction": hundredth(l.Reduction)}
		},
	},
	{
		Name: "rail-load", About: "what a rail or ledger may carry by the screws of it that hit studs", Source: load.ScrewSource,
		Inputs: []Input{diameter, root, thread, side, sideG, studG, {"screws", "number", "", "those that hit studs; no others count"}, {"load", "weight", "", "all that hangs there"}, {"out", "length", "", "distance of its centre of mass from the wall"},
			{"lever", "length", "", "height of the screws over the lower edge on which it bears"}, {"wall", "text", "studs", "studs, timber, drywall, plaster, brick, block or concrete"}, {"rating", "weight", "0 kg", "as the maker rates the anchors, where there is a rating"}},
		run: func(a *args) map[string]any {
			h := load.Hung{Screw: a.screw(), Screws: int(a.number("screws", 0, 1000)), KG: a.kg("load"), Out: a.length("out", 0), Lever: a.length("lever", 0)}
			wall := a.choice("wall", "studs", "timber", "drywall", "plaster", "brick", "block", "concrete")
			h.Studded, h.Rating = wall == "studs" || wall == "timber", a.kg("rating")
			if a.err != nil {
				return nil
			}
			v, err := h.Judge()
			if a.refused("screws", err) {
				return nil
			}
			if !v.Rated {
				return map[string]any{"rated": false, "why": v.Why}
			}
			out := map[string]any{"rated": true, "may_carry_kg": tenth(v.KG), "used": hundredth(v.Use), "ok": v.Use <= 1, "limiting": v.Why}
			if h.Rating == 0 {
				out["shear_newton"], out["pull_newton"], out["angle"] = tenth(v.Shear), tenth(v.Pull), tenth(v.Angle)
				out["withdrawal_newton"], out["lateral_newton"], out["combined_newton"] = tenth(v.Withdrawal), tenth(v.Lateral.N), tenth(v.Combined)
			}
			return out
		},
	},
	{
		Name: "arm-load", About: "what boards on arms put on an arm, how far they reach past the ends and how much one sags between", Source: "statics: tributary lengths of a uniform load; " + load.SagSource + "; " + load.WoodSource,
		Inputs: []Input{{"length", "length", "", "of a board"}, {"run", "length", "", "from the first arm to the last"}, {"arms", "number", "", "on the level, two at least"}, {"load", "weight", "", "all boards of that length on the level"},
			{"width", "length", "", "of a board"}, {"thickness", "length", "", "of a board"}, {"wood", "text", "white-pine", "its wood"}},
		run: func(a *args) map[string]any {
			l, run, n, kg := a.length("length", 1), a.length("run", 1), int(a.number("arms", 2, 50)), a.kg("load")
			b := load.Board{B: a.length("width", 1), T: a.length("thickness", 1), Wood: a.wood("wood")}
			if a.err != nil {
				return nil
			}
			b.Span = run / float64(n-1)
			sag, err := b.Sag(0)
			if a.refused("run", err) {
				return nil
			}
			outer, inner := carry.ArmLoads(l, run, n)
			over, most := max(0, (l-run)/2), min(l/4, pack.MaxOverhang.MM())
			out := map[string]any{"spacing": tenth(b.Span), "outer_arm_kg": hundredth(outer * kg), "inner_arm_kg": hundredth(inner * kg), "overhang": tenth(over), "overhang_allowed": tenth(most), "sag": hundredth(sag), "sag_limit": hundredth(b.Span * carry.SagAlong), "ok": over <= most && sag <= b.Span*carry.SagAlong && (n >= 3 || l <= 2400)}
			switch {
			case over > most:
				out["limiting"] = "it reaches too far past the last arms"
			case l > 2400 && n < 3:
				out["limiting"] = "over 2.4 m three arms carry a board"
			case sag > b.Span*carry.SagAlong:
				out["limiting"] = "it sags more than 2 mm a metre between two arms"
			}
			return out
		},
	},
	{
		Name: "tip-angle", About: "by how much a cart or a tall case may still be tilted", Source: load.TipSource,
		Inputs: []Input{{"track", "length", "", "distance of its wheels or feet across"}, {"height", "length", "", "of the centre of mass"}, {"offset", "length", "0 mm", "of the centre of mass from the middle"}, {"fall", "number", "0", "of the floor, mm a metre"}},
		run: func(a *args) map[string]any {
			c := load.Cart{Track: a.length("track", 1), Height: a.length("height", 1), Offset: a.length("offset", 0), Fall: a.number("fall", 0, 200)}
			if a.err != nil {
				return nil
			}
			deg, err := c.Angle()
			if a.refused("track", err) {
				return nil
			}
			says := "fine"
			if deg < load.TipBarred {
				says = "no: it falls over at a push"
			} else if deg < load.TipCaution {
				says = "caution: heavy things low, push it at its foot"
			}
			return map[string]any{"degrees": hundredth(deg), "verdict": says, "caution_below": load.TipCaution, "no_below": load.TipBarred}
		},
	},
}

var (
	diameter = Input{"diameter", "length", "", "outer diameter of the thread"}
	root     = Input{"root", "length", "0 mm", "diameter at the root of the thread; 0: 0.8 of the diameter, an estimate"}
	thread   = Input{"thread", "length", "", "length of thread in the stud"}
	side     = Input{"side", "length", "", "thickness of what is fixed"}
	sideG    = Input{"side-gravity", "number", "0.42", "specific gravity of what is fixed"}
	studG    = Input{"stud-gravity", "number", "0.42", "specific gravity of the stud"}
)

func (a *args) screw() load.Screw {
	return load.Screw{D: a.length("diameter", 1), Root: a.length("root", 0), Thread: a.length("thread", 1), Side: a.length("side", 0), SideG: a.number("side-gravity", .3, .75), StudG: a.number("stud-gravity", .3, .75)}
}

func (a *args) wood(name string) load.Wood {
	id := a.text(name)
	if a.err != nil {
		return load.Wood{}
	}
	w, err := load.WoodByID(id)
	if err != nil {
		a.fail(name, "%v", err)
	}
	return w
}

// refused keeps what the core refused as the fault of an input.
func (a *args) refused(name string, err error) bool {
	if err != nil {
		a.fail(name, "%v", err)
	}
	return err != nil
}
