package keeping

import (
	"fmt"
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Roller is a stand or bracket with bars on which rolls of paper, tape, hose and cord
// hang side by side. Each of its levels is a bar in the middle of the height it has; the
// highest roll on it is as thick as the level is high.
const Roller shop.PlaceKind = "roller"

type roller struct{ plain }

func (roller) Name() shop.PlaceKind           { return Roller }
func (roller) Word() string                   { return "roller" }
func (roller) Offers(*shop.Place) []shop.Hold { return []shop.Hold{shop.OnBar} }
func (roller) Form() Form                     { return Boxed }
func (roller) Hangs() bool                    { return true }

// Size of a roll on a bar: the side unlike the other two is its width, the larger of
// those its diameter.
func (roller) Size(it *shop.Item) shop.Size {
	s := [3]length.Length{it.W, it.H, it.D}
	slices.Sort(s[:])
	wide, thick := s[0], s[2]
	if s[2]-s[1] > s[1]-s[0] {
		wide, thick = s[2], s[1]
	}
	return shop.Size{W: wide, H: thick, D: thick}
}

func (roller) Faults(p *shop.Place, bad shop.Complain) { levels(p, "the bars of a roller", bad) }

func (roller) Misplaced(p *shop.Place, h *shop.Home, _ int, bad shop.Complain) { level(p, h, bad) }

func (roller) Space(p *shop.Place, _ length.Length) pack.Space {
	b := &bars{wide: p.W, thick: make([]length.Length, len(p.Levels))}
	for k, l := range p.Levels {
		b.thick[k] = thickest(p, l)
	}
	return b
}

func (r roller) Thing(it *shop.Item, n int) pack.Thing { return thing(it, r.Size(it), n) }

func (roller) Home(h shop.Home, _ *shop.Place, _ *shop.Item, s pack.Spot) shop.Home {
	h.X, h.Level = s.X, s.Level
	return h
}

func (roller) Spot(h shop.Home) pack.Spot { return pack.Spot{X: h.X, Level: h.Level} }

func (r roller) Block(it *shop.Item, n int, _ pack.Spot) (w, up float64) {
	s := r.Size(it)
	return across(it, s, n), s.H.MM()
}

// axis is the height of a bar.
func axis(l shop.Level) length.Length { return l.Z + l.H/2 }

// thickest roll that turns on a bar: it stays within its level, within the place, which the
// top level may pass a little, and within its depth.
func thickest(p *shop.Place, l shop.Level) length.Length {
	return min(l.H, 2*(p.H-axis(l)), p.D)
}

// Grip: a roll is lifted off, or pulled from, at its middle.
func (r roller) Grip(p *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	w, _ := r.Block(it, n, s)
	return Grip{s.X.MM() + w/2, axis(levelOf(p, s)).MM()}
}

func (r roller) Grips(p *shop.Place, it *shop.Item, at Where) (out []Grip) {
	for _, l := range p.Levels {
		out = append(out, runGrips(p, r.Size(it), axis(l).MM(), at)...)
	}
	return out
}

func (roller) At(p *shop.Place, g Grip, w, _ float64) (pack.Spot, bool) {
	s := pack.Spot{X: leftOf(p, g, w)}
	for k, l := range p.Levels {
		if l.Z.MM() <= g.Z {
			s.Level = k
		}
	}
	return s, true
}

func (r roller) Boxes(p *shop.Place, it *shop.Item, n int, s pack.Spot) []Box {
	size := r.Size(it)
	return runBoxes(it, size, n, Box{X: s.X.MM(), Y: (p.D - size.D).MM() / 2, Z: axis(levelOf(p, s)).MM() - size.H.MM()/2})
}

func (roller) Mass(p *shop.Place, _ *shop.Item, _ int, s pack.Spot) (out, up float64) {
	return p.D.MM() / 2, axis(levelOf(p, s)).MM()
}

func (roller) Over(p *shop.Place, s shop.Size) (length.Length, string) { return s.D - p.D, "thick" }

func (roller) Short(p *shop.Place, s shop.Size) float64 {
	room := length.Length(0)
	for _, l := range p.Levels {
		room = max(room, thickest(p, l))
	}
	return short([2]length.Length{s.W, p.W}, [2]length.Length{s.H, room})
}

func (roller) Growing() []Growth {
	return []Growth{{wide, "free %s in %s"}, {deep, "%s more depth in %s"}}
}

func (roller) Cells(p *shop.Place) (Cells, int) { return InRows, len(p.Levels) }

func (r roller) Row(p *shop.Place, it *shop.Item, _ float64, k int) (rows []int, z float64, aside int, ok bool) {
	l := p.Levels[k]
	return []int{k}, axis(l).MM(), 0, r.Size(it).H <= thickest(p, l)
}

func (roller) RowOf(_ *shop.Place, s pack.Spot, _ float64) int { return s.Level }

func (roller) Lines(p *shop.Place) (out [][4]float64) {
	for _, l := range p.Levels {
		out = append(out, [4]float64{0, axis(l).MM(), p.W.MM(), axis(l).MM()})
	}
	return out
}

// Materials: a bar a level and two sides of sheet.
func (roller) Materials(p *shop.Place) (sheet, rail float64) {
	return 2 * area(p.H, p.D), float64(len(p.Levels)) * p.W.Metres()
}

func (roller) Furnish(p *shop.Place, between func(least, most length.Length) length.Length) {
	arms{}.Furnish(p, between)
}

// bars are the space of a roller: rolls side by side on each.
type bars struct {
	wide   length.Length
	thick  []length.Length // the thickest roll each takes
	placed []onBar
}

type onBar struct {
	id, level int
	x, w, gap length.Length
	takes     float64
}

func (b *bars) width(t pack.Thing) length.Length {
	n := length.Length(max(t.N, 1))
	return n*t.W + (n-1)*t.Clearance
}

// Spots on each bar, from the left, past each roll, and at its right end.
func (b *bars) Spots(t pack.Thing, dst []pack.Spot) []pack.Spot {
	w := b.width(t)
	for k := range b.thick {
		xs := []length.Length{0, b.wide - w}
		for i := range b.placed {
			if o := &b.placed[i]; o.level == k {
				xs = append(xs, o.x+o.w+max(o.gap, t.Clearance), o.x-w-max(o.gap, t.Clearance))
			}
		}
		slices.Sort(xs)
		for _, x := range slices.Compact(xs) {
			if s := (pack.Spot{X: x, Level: k}); b.Allows(t, s) == nil {
				dst = append(dst, s)
			}
		}
	}
	return dst
}

// Allows checks a spot on a bar.
func (b *bars) Allows(t pack.Thing, s pack.Spot) error {
	w := b.width(t)
	switch {
	case s.Level < 0 || s.Level >= len(b.thick):
		return fmt.Errorf("there is no such bar")
	case w > b.wide:
		return fmt.Errorf("%s too wide for the bar", w-b.wide)
	case t.H > b.thick[s.Level]:
		return fmt.Errorf("%s too thick for the bar", t.H-b.thick[s.Level])
	case s.X < 0 || s.X+w > b.wide:
		return fmt.Errorf("it would stick out at the end of the bar")
	case len(b.Clashes(t, s)) > 0:
		return fmt.Errorf("too close to what is beside it")
	}
	return nil
}

// Clashes lists what is in the way of a roll at a spot.
func (b *bars) Clashes(t pack.Thing, s pack.Spot) (ids []int) {
	w := b.width(t)
	for i := range b.placed {
		o := &b.placed[i]
		if g := max(o.gap, t.Clearance); o.level == s.Level && o.x < s.X+w+g && s.X < o.x+o.w+g {
			ids = append(ids, o.id)
		}
	}
	return ids
}

// Corners are the left ends of what is placed.
func (b *bars) Corners() (out []pack.Spot) {
	for i := range b.placed {
		out = append(out, pack.Spot{X: b.placed[i].x, Level: b.placed[i].level})
	}
	return out
}

// Put a roll.
func (b *bars) Put(id int, t pack.Thing, s pack.Spot) {
	b.placed = append(b.placed, onBar{id, s.Level, s.X, b.width(t), t.Clearance, b.Takes(t)})
}

// Take a roll.
func (b *bars) Take(id int) {
	b.placed = slices.DeleteFunc(b.placed, func(o onBar) bool { return o.id == id })
}

// Used length of the bars in µm.
func (b *bars) Used() (sum float64) {
	for i := range b.placed {
		sum += b.placed[i].takes
	}
	return sum
}

// Room is the length of all bars.
func (b *bars) Room() float64 { return float64(b.wide) * float64(len(b.thick)) }

// Takes is the length the rolls cover.
func (b *bars) Takes(t pack.Thing) float64 { return float64(max(t.N, 1)) * float64(t.W) }
