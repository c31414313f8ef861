package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// rail that things hang from side by side, at positions of equal pitch.
type rail struct{ plain }

func (rail) Name() shop.PlaceKind           { return Rail }
func (rail) Word() string                   { return "rail" }
func (rail) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"hang", "magnet", "slot"} }
func (rail) Form() Form                     { return Run }
func (rail) Hangs() bool                    { return true }

func (rail) Space(p *shop.Place, _ length.Length) pack.Space {
	return &pack.Rail{W: p.W, Pitch: p.RailPitch()}
}
func (r rail) Thing(it *shop.Item, n int) pack.Thing { return run(it, r.Size(it), n) }

func (rail) Home(h shop.Home, _ *shop.Place, _ *shop.Item, s pack.Spot) shop.Home {
	h.Slot = s.Slot
	return h
}
func (rail) Spot(h shop.Home) pack.Spot { return pack.Spot{X: h.X, Slot: h.Slot} }

func (r rail) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	return across(it, r.Size(it), n), r.Size(it).H.MM()
}

func (r rail) Grip(p *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	w, up := r.Block(it, n, s)
	return Grip{float64(s.Slot)*p.RailPitch().MM() + w/2, max(0, p.H.MM()-up/2)}
}

func (r rail) Grips(p *shop.Place, it *shop.Item, at Where) []Grip {
	return runGrips(p, r.Size(it), max(0, p.H.MM()-r.Size(it).H.MM()/2), at)
}

func (rail) At(p *shop.Place, g Grip, w, _ float64) (pack.Spot, bool) {
	x := leftOf(p, g, w)
	return pack.Spot{X: x, Slot: int(x / p.RailPitch())}, true
}

func (r rail) Boxes(p *shop.Place, it *shop.Item, n int, s pack.Spot) []Box {
	return runBoxes(it, r.Size(it), n, Box{X: float64(s.Slot) * p.RailPitch().MM(), Z: (p.H - r.Size(it).H).MM()})
}

func (r rail) Mass(p *shop.Place, it *shop.Item, _ int, _ pack.Spot) (out, up float64) {
	return hook{}.Mass(p, it, 1, pack.Spot{})
}

func (rail) Over(p *shop.Place, s shop.Size) (length.Length, string) {
	if s.D > p.D {
		return s.D - p.D, "deep"
	}
	return s.H - p.H, "long"
}

func (rail) Short(p *shop.Place, s shop.Size) float64 { return all3(p, s) }

func (rail) Growing() []Growth {
	return []Growth{{wide, "free %s in %s"}, {high, "%s more drop under %s"}}
}

func (rail) Cells(*shop.Place) (Cells, int) { return InRows, 1 }

func (r rail) Row(p *shop.Place, it *shop.Item, _ float64, _ int) (rows []int, z float64, aside int, ok bool) {
	return []int{0}, max(0, p.H.MM()-r.Size(it).H.MM()/2), 0, true
}

func (rail) Lines(p *shop.Place) [][4]float64 {
	return [][4]float64{{0, p.H.MM(), p.W.MM(), p.H.MM()}}
}

func (rail) Materials(p *shop.Place) (sheet, rail float64) { return 0, p.W.Metres() }
