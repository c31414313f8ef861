// Package carry works out what places and containers carry as they are filled:
// weight and centre of mass, what their screws hold, how their boards sag, how far
// a case may be tilted. The strength of things is package load's; this package
// takes the figures from a shop. Lengths are mm, weights kg.
package carry

import (
	"fmt"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/weight"

	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// Stock is what is there: a whole shop, or one design.
type Stock struct {
	Containers []shop.Container
	Places     []shop.Place
	Homes      []shop.Home
	Item       func(id string) *shop.Item
}

// Of a shop.
func Of(s *shop.Shop, ix *shop.Index) Stock {
	return Stock{s.Containers, s.Places, s.Homes, ix.Item}
}

// Held is a weight and where its centre of mass is.
type Held struct {
	KG  float64
	Out float64 // from the back, or from the wall
	Up  float64 // above the lower edge of what holds it
}

// add another weight.
func (h *Held) add(kg, out, up float64) {
	if kg <= 0 {
		return
	}
	all := h.KG + kg
	h.Out, h.Up = (h.Out*h.KG+out*kg)/all, (h.Up*h.KG+up*kg)/all
	h.KG = all
}

// Place with what lives in it and what is on it.
func (k Stock) Place(p *shop.Place) (held Held) {
	for i := range k.Homes {
		h := &k.Homes[i]
		if h.Place != p.ID {
			continue
		}
		it := k.Item(h.Item)
		if it == nil {
			continue
		}
		out, up := keeping.Of(p).Mass(p, it, h.Number(it), keeping.SpotOf(p, h))
		held.add(it.KG.KG()*float64(h.Number(it)), out, up)
	}
	for i := range k.Containers {
		if c := &k.Containers[i]; c.At.In == p.ID {
			in := k.Container(c)
			if keeping.Of(p).Bears() == shop.BearsHung {
				held.add(in.KG, in.Out, c.At.Z.MM()+in.Up)
			} else {
				held.add(in.KG, p.D.MM()-c.At.Y.MM()-c.D.MM()+in.Out, in.Up)
			}
		}
	}
	return held
}

// sheet is what plywood of 18 mm weighs, kg a mm².
const sheet = 600 * 1e-9 * 18

// Own is the weight of an empty container: as said, or else as heavy as a case of
// 18 mm plywood with three shelves.
func Own(c *shop.Container) float64 {
	if kg := c.KG.KG(); kg > 0 {
		return kg
	}
	w, h, d := c.W.MM(), c.H.MM(), c.D.MM()
	return sheet * (2*h*d + 3*w*d)
}

// Container with its own weight and all that is in it.
func (k Stock) Container(c *shop.Container) (held Held) {
	held.add(Own(c), c.D.MM()/2, c.H.MM()/2)
	for i := range k.Places {
		if p := &k.Places[i]; p.At.In == c.ID {
			in := k.Place(p)
			held.add(in.KG, in.Out, p.At.Z.MM()+in.Up)
		}
	}
	for i := range k.Containers {
		if b := &k.Containers[i]; b.At.In == c.ID && b.ID != c.ID {
			in := k.Container(b)
			held.add(in.KG, in.Out, b.At.Z.MM()+in.Up)
		}
	}
	return held
}

// wheels stand this far inside the case, mm.
const wheels = 60.0

// Tilt is the angle in degrees at which a container falls over its narrow side;
// fall is that of the floor in mm a metre.
func (k Stock) Tilt(c *shop.Container, fall float64) (float64, error) {
	return load.Cart{Track: min(c.W, c.D).MM() - wheels, Height: k.Container(c).Up, Fall: fall}.Angle()
}

// Anchored tells whether a wall takes anchors and no wood screws: what hangs there is
// rated by its anchors alone.
func Anchored(surface string) bool {
	switch surface {
	case "brick", "block", "concrete", "sheet-metal":
		return true
	}
	return false
}

// Screwed judges a fixing of what is held, on a wall of that surface. Rating is
// what the maker states in kg, 0 without. What is not known of the screws is
// said and no figure is made of it.
func Screwed(f *shop.Fixing, rating float64, surface string, held Held) load.Verdict {
	if rating <= 0 && f == nil {
		return load.Verdict{Why: "not rated: how it is fixed is not said"}
	}
	h := load.Hung{KG: held.KG, Out: held.Out, Rating: rating}
	h.Studded = !Anchored(surface)
	if rating <= 0 && h.Studded {
		for _, x := range []struct {
			given bool
			what  string
		}{{f.Screws > 0, "how many screws hit studs"}, {f.D > 0, "the diameter of the screws"}, {f.Thread > 0, "how much thread is in the stud"}, {f.Side > 0, "how thick what they fix is"}, {f.Lever > 0, "how high the screws are over the lower edge it bears on"}} {
			if !x.given {
				return load.Verdict{Why: "not rated: " + x.what + " is not said"}
			}
		}
		h.Screws, h.Lever = f.Screws, f.Lever.MM()
		h.Screw = load.Screw{D: f.D.MM(), Thread: f.Thread.MM(), Side: f.Side.MM()}
	}
	v, err := h.Judge()
	if err != nil {
		return load.Verdict{Why: "not rated: " + err.Error()}
	}
	return v
}

// Sagging is how a board bends under what is on it.
type Sagging struct {
	Sag, Limit float64 // mm
	Board      load.Board
	Assumed    bool // what it is made of is not said: 18 mm plywood
}

// Shelf sags between its ends under kg spread over it.
func Shelf(p *shop.Place, kg float64) (Sagging, error) {
	b, assumed := p.Board, p.Board == nil
	if assumed {
		b = &shop.Board{Wood: "plywood", T: 18 * length.Millimetre}
	}
	wood, err := load.WoodByID(b.Wood)
	if err != nil {
		return Sagging{}, err
	}
	out := Sagging{Board: load.Board{Span: p.W.MM(), B: p.D.MM(), T: b.T.MM(), Wood: wood}, Limit: p.W.MM() * load.SagShare, Assumed: assumed}
	if b.Strip > 0 {
		out.Board.Strips, out.Board.StripT, out.Board.StripH = 1, 18, b.Strip.MM()
	}
	out.Sag, err = out.Board.Sag(kg)
	return out, err
}

// What it says in words, as "sags 3.0 mm under 30 kg; 1.5 mm are seen".
func (g Sagging) What(kg float64) string {
	of := ""
	if g.Assumed {
		of = ", were it " + (18 * length.Millimetre).Stock() + " plywood,"
	}
	return fmt.Sprintf("on its ends only it sags%s %s under %s; %s are seen", of, length.Fine(g.Sag), weight.Rough(kg), length.Fine(g.Limit))
}

// fall of an area's floor, mm a metre.
func fall(a *shop.Area) float64 {
	if a == nil || a.Floor == nil || a.Floor.Fall == nil {
		return 0
	}
	return a.Floor.Fall.MMPerM
}

// TiltOn is Tilt on the floor of an area.
func (k Stock) TiltOn(c *shop.Container, a *shop.Area) (float64, error) { return k.Tilt(c, fall(a)) }
