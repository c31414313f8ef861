package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// slots hold a piece each; several alike are in slots next to each other.
type slots struct{ plain }

func (slots) Name() shop.PlaceKind           { return Slots }
func (slots) Word() string                   { return "slots" }
func (slots) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"slot", "hang"} }
func (slots) Form() Form                     { return Slotted }
func (slots) Hangs() bool                    { return true }
func (slots) Ample() bool                    { return false }

// thin things are so many times as wide as deep; a slot takes them on edge.
const thin = 8

// Size: a blade or a sheet of paper goes in on edge.
func (slots) Size(it *shop.Item) shop.Size {
	if it.D*thin <= it.W {
		return shop.Size{W: it.D, H: it.H, D: it.W}
	}
	return shop.Size{W: it.W, H: it.H, D: it.D}
}

func (slots) Faults(p *shop.Place, bad shop.Complain) {
	if len(p.Slots) == 0 {
		bad("slots", "slots need at least one run, as { \"n\": 12, \"w\": 40, \"h\": 700, \"d\": 200 }")
	}
	var sum length.Length
	for _, r := range p.Slots {
		sum += length.Length(r.N) * r.W
	}
	if sum > p.W+shop.Tolerance {
		bad("slots", "the slots are %s wide together but the place only %s", sum, p.W)
	}
}

func (slots) Misplaced(p *shop.Place, h *shop.Home, n int, bad shop.Complain) {
	if h.Slot+n > p.SlotCount() {
		bad("slot", "%s has %d slots; this home ends at slot %d", p.ID, p.SlotCount(), h.Slot+n-1)
	}
}

func (slots) Space(p *shop.Place, _ length.Length) pack.Space {
	out := &pack.Slots{}
	for _, r := range p.Slots {
		for range r.N {
			out.Slots = append(out.Slots, pack.Slot{W: r.W, H: r.H, D: r.D})
		}
	}
	return out
}

func (k slots) Thing(it *shop.Item, n int) pack.Thing { return run(it, k.Size(it), n) }

func (slots) Home(h shop.Home, _ *shop.Place, _ *shop.Item, s pack.Spot) shop.Home {
	h.Slot = s.Slot
	return h
}
func (slots) Spot(h shop.Home) pack.Spot { return pack.Spot{X: h.X, Slot: h.Slot} }

func (k slots) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	return across(it, k.Size(it), n), k.Size(it).H.MM()
}

func (k slots) Grip(p *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	_, from := p.SlotAt(s.Slot)
	last, to := p.SlotAt(s.Slot + n - 1)
	return Grip{(from + to + last.W).MM() / 2, max(0, p.H.MM()-k.Size(it).H.MM()/2)}
}

func (k slots) Grips(p *shop.Place, it *shop.Item, at Where) (out []Grip) {
	for i := range p.SlotCount() {
		out = append(out, k.Grip(p, it, 1, pack.Spot{Slot: i}))
	}
	// Several take a run of slots, with the grip in its middle: anywhere between the
	// middles of the first slot and the last.
	if n := len(out); it.Number() > 1 && n > 1 {
		for _, x := range at.Columns(out[0].X, out[n-1].X) {
			out = append(out, Grip{x, out[0].Z})
		}
	}
	return out
}

func (slots) At(p *shop.Place, g Grip, w, _ float64) (pack.Spot, bool) {
	s := pack.Spot{X: leftOf(p, g, w), Slot: p.SlotCount() - 1}
	for i := range p.SlotCount() {
		if r, left := p.SlotAt(i); g.X < (left + r.W).MM() {
			s.Slot = i
			break
		}
	}
	return s, true
}

func (k slots) Boxes(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out []Box) {
	size := k.Size(it)
	for k := range n {
		r, x := p.SlotAt(s.Slot + k)
		out = append(out, Box{X: x.MM() + (r.W-size.W).MM()/2, Z: (p.H - size.H).MM(), W: size.W.MM(), D: size.D.MM(), H: size.H.MM()})
	}
	return out
}

func (k slots) Mass(p *shop.Place, it *shop.Item, _ int, _ pack.Spot) (out, up float64) {
	size := k.Size(it)
	return size.D.MM() / 2, p.H.MM() - size.H.MM()/2
}

func (slots) Lines(p *shop.Place) (out [][4]float64) {
	h := p.H.MM()
	out = append(out, [4]float64{0, h, p.W.MM(), h})
	x := 0.0
	for _, r := range p.Slots {
		for range r.N {
			out = append(out, [4]float64{x, h, x, h - 40})
			x += r.W.MM()
		}
	}
	return append(out, [4]float64{x, h, x, h - 40})
}

func (slots) Materials(p *shop.Place) (sheet, rail float64) { return 0, p.W.Metres() }

func (slots) Furnish(p *shop.Place, between func(least, most length.Length) length.Length) {
	const mm = length.Millimetre
	for left := p.W; left > 0 && len(p.Slots) < 4; {
		n := max(1, between(1*mm, 6*mm)/mm)
		r := shop.SlotRun{N: int(n), W: between(5*mm, max(5*mm, min(900*mm, left/n))), H: between(20*mm, 1500*mm), D: between(10*mm, 800*mm)}
		left -= length.Length(r.N) * r.W
		p.Slots = append(p.Slots, r)
	}
}
