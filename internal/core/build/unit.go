// Package build turns storage that is planned into what is made of it: parts with their sizes, grain, joints and holes, fittings, steps,
// and where its screws go on its wall. What a place or container holds and how large it is comes from the shop; how it is made is chosen.
// Lengths are mm, weights kg. A unit has x from its left, y from its front and z from its foot up; a block is a corner and three sizes.
package build

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/load"
)

// Box is a block: its left, front, lower corner, and how wide, deep and high it is.
type Box struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	Z float64 `json:"z"`
	W float64 `json:"w"`
	D float64 `json:"d"`
	H float64 `json:"h"`
}

// Meet is the block two blocks have in common; false when they have none.
func (b Box) Meet(o Box) (Box, bool) {
	x, y, z := max(b.X, o.X), max(b.Y, o.Y), max(b.Z, o.Z)
	m := Box{x, y, z, min(b.X+b.W, o.X+o.W) - x, min(b.Y+b.D, o.Y+o.D) - y, min(b.Z+b.H, o.Z+o.H) - z}
	return m, m.W > tiny && m.D > tiny && m.H > tiny
}

// tiny is a length that is none.
const tiny = 1e-6

// Axis of a unit.
type Axis string

// The axes.
const (
	AxisX Axis = "x"
	AxisY Axis = "y"
	AxisZ Axis = "z"
)

// along is how long a block is along an axis.
func (b Box) along(a Axis) float64 {
	switch a {
	case AxisX:
		return b.W
	case AxisY:
		return b.D
	default:
		return b.H
	}
}

// Hole is drilled: where its middle is on the face, which way it goes, how thick and how deep; right through when no depth is said.
type Hole struct {
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Z    float64 `json:"z"`
	Axis Axis    `json:"axis" enum:"x,y,z"`
	D    float64 `json:"d" doc:"mm across"`
	Deep float64 `json:"deep" doc:"0 right through"`
	For  string  `json:"for"`
}

// Part is a piece of wood or sheet that is made.
type Part struct {
	Name     string  `json:"name"`
	Of       string  `json:"of" doc:"what it belongs to: the case, drawer 2"`
	Material string  `json:"material" doc:"kind of wood, as in stock"`
	L        float64 `json:"l" doc:"mm along the grain, finished"`
	W        float64 `json:"w"`
	T        float64 `json:"t"`
	AnyWay   bool    `json:"any_way" doc:"the grain does not matter"`
	Grain    Axis    `json:"grain" enum:"x,y,z" doc:"along which its length lies in the unit"`
	Flat     Axis    `json:"flat" enum:"x,y,z" doc:"along which its thickness lies"`
	At       Box     `json:"at" doc:"the block it is cut from, in its place"`
	Cuts     []Box   `json:"cuts" nullable:"false" doc:"rebates, grooves and notches taken out of it"`
	Holes    []Hole  `json:"holes" nullable:"false"`
	Joint    string  `json:"joint" doc:"how it is joined; empty where that is said elsewhere"`
	Edge     float64 `json:"edge" doc:"mm of edge that shows, for edging"`
	Bevel    float64 `json:"bevel" doc:"degrees its upper edge is sawn at; 0 square"`
	Slides   bool    `json:"slides" doc:"comes out to the front with what it belongs to"`
}

// Fitting is what is bought: screws, runners, casters, hinges.
type Fitting struct {
	Name  string  `json:"name"`
	Count int     `json:"count"`
	Long  float64 `json:"long" doc:"mm; 0 where length says nothing of it"`
	At    []Box   `json:"at" nullable:"false" doc:"where it takes room"`
}

// Step of putting it together.
type Step struct {
	Says  string `json:"says"`
	Parts []int  `json:"parts" nullable:"false" doc:"numbers of the parts that are joined in it, from 0"`
}

// Unit is a piece of storage as it is made.
type Unit struct {
	ID       string       `json:"id"`
	Name     string       `json:"name"`
	Kind     string       `json:"kind" doc:"construction it is made by"`
	Title    string       `json:"title"`
	W        float64      `json:"w" doc:"outer"`
	D        float64      `json:"d"`
	H        float64      `json:"h"`
	Low      float64      `json:"low" doc:"how far it goes below what was planned, mm: its brackets, its deck"`
	Parts    []Part       `json:"parts" nullable:"false"`
	Fittings []Fitting    `json:"fittings" nullable:"false"`
	Steps    []Step       `json:"steps" nullable:"false"`
	Rules    []string     `json:"rules" nullable:"false" doc:"what decided how it is made"`
	Cautions []string     `json:"cautions" nullable:"false"`
	Choices  Choices      `json:"choices" doc:"as they were taken"`
	Asks     []string     `json:"asks" nullable:"false" doc:"names of the choices that matter to this unit"`
	KG       float64      `json:"kg" doc:"its own weight"`
	Holds    float64      `json:"holds" doc:"kg of what is to be in it"`
	Sheet    float64      `json:"sheet" doc:"m² of sheet in the parts"`
	Solid    float64      `json:"solid" doc:"m of solid wood in the parts"`
	Hours    float64      `json:"hours" doc:"to make it, at one's own pace"`
	Space    float64      `json:"space" doc:"litres of storage it gives"`
	Fixed    []float64    `json:"fixed" nullable:"false" doc:"heights over its foot at which it is screwed to the wall"`
	Inside   []Compliance `json:"inside" nullable:"false" doc:"its places as they come out against as they were planned"`
}

// Compliance is a place as it comes out.
type Compliance struct {
	Place   string     `json:"place"`
	Planned [3]float64 `json:"planned" doc:"width, height, depth inside"`
	Made    [3]float64 `json:"made"`
	Short   string     `json:"short" doc:"what it is short of; empty when everything fits"`
}

// Across is the third axis.
func Across(a, b Axis) Axis {
	for _, x := range []Axis{AxisX, AxisY, AxisZ} {
		if x != a && x != b {
			return x
		}
	}
	return a
}

// Span is where a block begins along an axis, and how long it is along it.
func (b Box) Span(a Axis) (from, long float64) { return b.from(a), b.along(a) }

// from is where a block begins along an axis.
func (b Box) from(a Axis) float64 {
	switch a {
	case AxisX:
		return b.X
	case AxisY:
		return b.Y
	default:
		return b.Z
	}
}

// Laid is a part laid on the bench: what is cut out of it and drilled into it, from its lower left corner, mm along its length and its
// width.
type Laid struct {
	L, W, T float64
	Out     []Flat // cut right through
	Let     []Flat // rebates and grooves
	Holes   []Spot
}

// Flat is a rectangle on the face of a part, so deep.
type Flat struct{ X, Y, L, W, Deep float64 }

// Spot of a hole in the face of a part; Deep 0 goes through.
type Spot struct {
	X, Y, D, Deep float64
	For           string
}

// Lay a part on the bench.
func (p *Part) Lay() Laid {
	wide := Across(p.Grain, p.Flat)
	out := Laid{L: p.L, W: p.W, T: p.T}
	for _, c := range p.Cuts {
		f := Flat{c.from(p.Grain) - p.At.from(p.Grain), c.from(wide) - p.At.from(wide), c.along(p.Grain), c.along(wide), c.along(p.Flat)}
		if f.Deep > p.T-.01 {
			out.Out = append(out.Out, f)
		} else {
			out.Let = append(out.Let, f)
		}
	}
	for _, h := range p.Holes {
		if h.Axis == p.Flat {
			at := Box{X: h.X, Y: h.Y, Z: h.Z}
			out.Holes = append(out.Holes, Spot{at.from(p.Grain) - p.At.from(p.Grain), at.from(wide) - p.At.from(wide), h.D, h.Deep, h.For})
		}
	}
	return out
}

// List is the parts that are alike together, the largest first.
type List struct {
	Name     string  `json:"name"`
	Count    int     `json:"count"`
	L        float64 `json:"l"`
	W        float64 `json:"w"`
	T        float64 `json:"t"`
	Material string  `json:"material"`
	AnyWay   bool    `json:"any_way"`
	Bevel    float64 `json:"bevel"`
	Edge     float64 `json:"edge" doc:"mm of edge that shows, of all of them"`
	Parts    []int   `json:"parts" nullable:"false" doc:"their numbers"`
}

// CutList is the list of parts of a unit, alike ones together.
func (u *Unit) CutList() []List {
	out := []List{}
	for i := range u.Parts {
		p := &u.Parts[i]
		k := slices.IndexFunc(out, func(l List) bool {
			return l.Name == p.Name && l.Material == p.Material && math.Abs(l.L-p.L) < .05 && math.Abs(l.W-p.W) < .05 && math.Abs(l.T-p.T) < .05
		})
		if k < 0 {
			out = append(out, List{Name: p.Name, L: p.L, W: p.W, T: p.T, Material: p.Material, AnyWay: p.AnyWay, Bevel: p.Bevel})
			k = len(out) - 1
		}
		out[k].Count++
		out[k].Edge += p.Edge
		out[k].Parts = append(out[k].Parts, i)
	}
	slices.SortStableFunc(out, func(a, b List) int { return cmp.Compare(b.L*b.W, a.L*a.W) })
	return out
}

// Lines are the parts of a cut list as they are typed for a plan of cuts: 2 side 720x300x18 birch plywood.
func (u *Unit) Lines() []string {
	out := []string{}
	for _, l := range u.CutList() {
		wood, err := load.WoodByID(l.Material)
		if err != nil {
			continue
		}
		line := fmt.Sprintf("%d %s %smm x %smm x %smm %s", l.Count, strings.ToLower(l.Name), number(l.L), number(l.W), number(l.T), wood.Name)
		if l.AnyWay {
			line += " any way"
		}
		out = append(out, line)
	}
	return out
}

func number(v float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.1f", v), "0"), ".")
}

// Outer is the block round all parts, and round the fittings that take room.
func (u *Unit) Outer() Box {
	low, high := [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}, [3]float64{math.Inf(-1), math.Inf(-1), math.Inf(-1)}
	take := func(b Box) {
		for i, v := range [3]float64{b.X, b.Y, b.Z} {
			low[i] = min(low[i], v)
		}
		for i, v := range [3]float64{b.X + b.W, b.Y + b.D, b.Z + b.H} {
			high[i] = max(high[i], v)
		}
	}
	for i := range u.Parts {
		take(u.Parts[i].At)
	}
	for _, f := range u.Fittings {
		for _, b := range f.At {
			take(b)
		}
	}
	if math.IsInf(low[0], 1) {
		return Box{}
	}
	return Box{low[0], low[1], low[2], high[0] - low[0], high[1] - low[1], high[2] - low[2]}
}
