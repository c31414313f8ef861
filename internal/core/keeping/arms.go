package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// arms of a rack, on which boards lie in piles.
type arms struct{ plain }

func (arms) Name() shop.PlaceKind           { return Arms }
func (arms) Word() string                   { return "rack with arms" }
func (arms) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"arms"} }
func (arms) Form() Form                     { return Piles }
func (arms) View() View                     { return FromEnd }

func (arms) Faults(p *shop.Place, bad shop.Complain) { levels(p, "arms", bad) }

// levels checks that those of a place are over each other and inside it.
func levels(p *shop.Place, what string, bad shop.Complain) {
	if len(p.Levels) == 0 {
		bad("levels", "%s need at least one level, as { \"z\": 0, \"h\": 250 }", what)
	}
	for k := 1; k < len(p.Levels); k++ {
		if p.Levels[k].Z < p.Levels[k-1].Z+p.Levels[k-1].H {
			bad(shop.Nth("levels", k)+".z", "this level begins at %s, inside the one below", p.Levels[k].Z)
		}
	}
	if n := len(p.Levels); n > 0 && p.Levels[n-1].Z+p.Levels[n-1].H > p.H+shop.Tolerance {
		bad("levels", "the top level ends above the height of the place, %s", p.H)
	}
}

func (arms) Misplaced(p *shop.Place, h *shop.Home, _ int, bad shop.Complain) { level(p, h, bad) }

// level checks that a home is on one that there is.
func level(p *shop.Place, h *shop.Home, bad shop.Complain) {
	if h.Level >= len(p.Levels) {
		bad("level", "%s has no level %d; the highest is %d", p.ID, h.Level, len(p.Levels)-1)
	}
}

// levelOf a spot; the lowest when there is no such one.
func levelOf(p *shop.Place, s pack.Spot) shop.Level {
	if s.Level < len(p.Levels) {
		return p.Levels[s.Level]
	}
	return shop.Level{}
}

func (arms) Space(p *shop.Place, _ length.Length) pack.Space {
	out := &pack.Arms{W: p.W, D: p.D}
	for _, l := range p.Levels {
		out.Levels = append(out.Levels, pack.ArmLevel{Z: l.Z, H: l.H})
	}
	return out
}

func (a arms) Thing(it *shop.Item, n int) pack.Thing { return run(it, a.Size(it), n) }

// Home: a board lies with its middle in the middle of the arms.
func (arms) Home(h shop.Home, p *shop.Place, it *shop.Item, s pack.Spot) shop.Home {
	h.Level, h.Y, h.Z = s.Level, s.Y, s.Z
	h.X = (p.W - it.W) / 2
	return h
}

func (arms) Spot(h shop.Home) pack.Spot {
	return pack.Spot{X: h.X, Y: h.Y, Z: h.Z, Level: h.Level}
}

func (a arms) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	return block(a.Size(it).W.MM(), a.Size(it).H.MM(), it.KeptClear().MM(), n, s.Cols)
}

func (a arms) Grip(p *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	return Grip{p.W.MM() / 2, (s.Z + levelOf(p, s).Z).MM() + a.Size(it).H.MM()/2}
}

func (a arms) Grips(p *shop.Place, it *shop.Item, at Where) (out []Grip) {
	half := a.Size(it).H.MM() / 2
	for _, l := range p.Levels {
		for _, z := range at.Heights(p.W.MM()/2, l.Z.MM()+half, (l.Z+l.H).MM()-half) {
			out = append(out, Grip{p.W.MM() / 2, z})
		}
	}
	return out
}

func (a arms) Boxes(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out []Box) {
	size := a.Size(it)
	cols := columns(n, s.Cols)
	for k := range n {
		col, row := k%cols, k/cols
		out = append(out, Box{X: s.X.MM(), Y: (s.Y + length.Length(col)*size.D).MM(), Z: (levelOf(p, s).Z + s.Z + length.Length(row)*size.H).MM(),
			W: size.W.MM(), D: size.D.MM(), H: size.H.MM(), Behind: s.Y > 0 || col > 0})
	}
	return out
}

func (a arms) Mass(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out, up float64) {
	size := a.Size(it)
	return s.Y.MM() + size.D.MM()/2, (s.Z + levelOf(p, s).Z).MM() + size.H.MM()/2
}

func (arms) Lines(p *shop.Place) (out [][4]float64) {
	for _, l := range p.Levels {
		out = append(out, [4]float64{0, l.Z.MM(), p.W.MM(), l.Z.MM()})
	}
	return out
}

func (arms) Materials(p *shop.Place) (sheet, rail float64) {
	return 0, float64(len(p.Levels)*max(2, p.Arms)) * p.D.Metres()
}

func (arms) Furnish(p *shop.Place, between func(least, most length.Length) length.Length) {
	const mm = length.Millimetre
	for z := length.Length(0); z < p.H && len(p.Levels) < 5; {
		l := shop.Level{Z: z + between(0, 50*mm), H: between(20*mm, 400*mm)}
		z = l.Z + l.H
		p.Levels = append(p.Levels, l)
	}
}
