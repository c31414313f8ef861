// Package body says what takes room in an area, in three dimensions: what stands and hangs there, what a bench has under
// its top, and the room that doors, drawers and lids take while they are open. Lengths are millimetres as floats.
package body

import (
	"math"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Part of a thing that a body is.
type Part string

// Parts.
const (
	Stands  Part = "stands"  // from the floor up
	Top     Part = "top"     // of a bench: what is lower goes beneath
	Hangs   Part = "hangs"   // on a wall or under the ceiling
	Hoisted Part = "hoisted" // pulled up under the ceiling in a mode
	Post    Part = "post"
	Door    Part = "door"   // the sweep of a door while it is opened
	Drawer  Part = "drawer" // a drawer pulled out
	Lid     Part = "lid"    // a lid put up
	Drum    Part = "drum"   // of an extractor, pulled out to be emptied
	Flip    Part = "flip"   // a top that is turned over
	Arm     Part = "arm"    // one that is swung to the side
)

// Solid tells whether it is always there: doors, drawers, lids and what swings are only while something is open or moves.
func (p Part) Solid() bool {
	switch p {
	case Door, Drawer, Lid, Drum, Flip, Arm:
		return false
	}
	return true
}

// Up tells whether it opens upwards, as a lid does, not out from a front.
func (p Part) Up() bool { return p == Lid || p == Flip }

// Body is a convex footprint from one height to another.
type Body struct {
	ID       string // of what takes the room: station, container, place or post
	Of       string // of what that is part of, as a drawer of a chest; its own id otherwise
	Part     Part
	Foot     geometry.Polygon
	From, To float64
	Movable  bool
	// Deep is how far something opens out from its front; 0 of what is solid.
	Deep float64
	// Front is the side of Foot from which it opens, as a segment.
	Front geometry.Segment
}

// Meets tells whether two bodies take the same room, by more than touch at the sides and in height.
func (b *Body) Meets(o *Body, touch float64) bool {
	return b.From < o.To-touch && o.From < b.To-touch && b.Foot.Overlaps(o.Foot, touch)
}

// TopThick is how much room the top of a bench takes with its rails, mm (estimate): what is lower can be put beneath.
const TopThick = 150.0

// Gone is as small as what a mode put out of the way is made; nothing is really so small.
const Gone = 2 * length.Millimetre

// In lists the bodies of an area.
func In(s *shop.Shop, ix *shop.Index, a *shop.Area) []Body {
	var out []Body
	for _, t := range access.StandingIn(s, ix, a) {
		b := Body{ID: t.ID, Of: t.ID, Part: Stands, Foot: t.Footprint, To: t.Height, Movable: t.Movable}
		if st := ix.Station(t.ID); st != nil {
			if st.W <= Gone && st.D <= Gone {
				continue
			}
			if st.Kind.Bench() && st.Tall <= st.H {
				b.Part, b.From = Top, max(0, st.H.MM()-TopThick)
			}
		}
		if t.Built {
			b.Part = Post
		}
		out = append(out, b)
	}
	for _, h := range access.HangingIn(s, ix, a) {
		out = append(out, Body{ID: h.ID, Of: h.ID, Part: Hangs, Foot: h.Footprint, From: h.From, To: h.To})
	}
	for i := range s.Stations {
		if st := &s.Stations[i]; ix.Area(st.Area) == a && st.W > Gone && st.Wished == "" && st.Mobility != shop.HungUp {
			out = append(out, moving(st)...)
		}
	}
	return append(out, opening(s, ix, a)...)
}

// What moves on a station needs, mm (estimates; its maker's sheet wins): the drum of an extractor is pulled out by its width, and
// an arm swings half a right angle to each side.
const (
	drumWide = 500.0
	drumHigh = 600.0
	armSwing = math.Sqrt2 / 2
)

// moving are the parts of a station that take room beside or above it while they move.
func moving(st *shop.Station) []Body {
	foot := st.Footprint()
	b := Body{ID: st.ID, Of: st.ID, To: st.H.MM()}
	side := func(e geometry.Segment, deep float64) Body {
		b := b
		along := e.B.Sub(e.A).Unit()
		out := geometry.Point{X: along.Y, Y: -along.X}.Mul(deep)
		b.Front, b.Deep, b.Foot = e, deep, geometry.Polygon{e.A, e.B, e.B.Add(out), e.A.Add(out)}
		return b
	}
	switch st.Kind {
	case "extractor", "cyclone":
		e := foot.Edge(0)
		mid, along := e.A.Add(e.B).Mul(.5), e.B.Sub(e.A).Unit()
		half := min(drumWide, st.W.MM()) / 2
		d := side(geometry.Segment{A: mid.Sub(along.Mul(half)), B: mid.Add(along.Mul(half))}, min(drumWide, st.D.MM()))
		d.Part, d.To = Drum, min(drumHigh, max(st.H, st.Tall).MM())
		return []Body{d}
	case "flip-top":
		// The top turns about its middle: half as high above as it is deep.
		b.Part, b.Foot, b.From, b.To = Flip, foot, st.H.MM(), st.H.MM()+st.D.MM()/2
		return []Body{b}
	case "radial-arm-saw":
		if over := st.D.MM()*armSwing - st.W.MM()/2; over > 0 {
			var out []Body
			for _, k := range [2]int{1, 3} {
				arm := side(foot.Edge(k), over)
				arm.Part, arm.From, arm.To = Arm, st.H.MM(), max(st.H, st.Tall).MM()
				out = append(out, arm)
			}
			return out
		}
	}
	return nil
}

// leafAtMost is how wide one leaf of a cabinet is made before there are two, mm (estimate).
const leafAtMost = 600.0

// opening are the doors, drawers and lids of what stands on the floor, hangs on a wall or is built into a station.
func opening(s *shop.Shop, ix *shop.Index, a *shop.Area) (out []Body) {
	add := func(id string, how shop.Access, at *shop.At, w, h, d float64) {
		if how.Free() {
			return
		}
		chain, root := ix.Chain(at)
		x, z := ix.Offset(at)
		front, deepOwn, of := geometry.Segment{}, d, id
		switch {
		case root.Away || ix.Area(root.Area) != a && root.Station == "":
			return
		case len(chain) > 0:
			of = chain[len(chain)-1].ID
		}
		var g geometry.Polygon // footprint of what it is in, whose front it opens from
		switch {
		case root.Floor != nil && len(chain) > 0:
			c := chain[len(chain)-1]
			g = geometry.Rectangle(root.Floor[0].MM(), root.Floor[1].MM(), c.W.MM(), c.D.MM(), root.Rot)
		case root.Floor != nil:
			g = geometry.Rectangle(root.Floor[0].MM(), root.Floor[1].MM(), w, d, root.Rot)
		case root.Station != "":
			st := ix.Station(root.Station)
			if st == nil || ix.Area(st.Area) != a || st.W <= Gone {
				return
			}
			g = st.Footprint()
			of = st.ID
		case root.Wall != "" && a.WallIndex(root.Wall) >= 0:
			deep := d
			if len(chain) > 0 {
				deep = chain[len(chain)-1].D.MM()
			}
			f := a.Frame(a.WallIndex(root.Wall))
			front = geometry.Segment{A: f.Spot(x.MM(), deep), B: f.Spot(x.MM()+w, deep)}
			out = append(out, opened(id, of, how, front, f.Inward, z.MM(), w, h, deepOwn)...)
			return
		default:
			return
		}
		e := g.Edge(0)
		along := e.B.Sub(e.A).Unit()
		outward := geometry.Point{X: along.Y, Y: -along.X}
		if at.Face == "back" {
			e = g.Edge(2)
			along, outward = along.Mul(-1), outward.Mul(-1)
		}
		front = geometry.Segment{A: e.A.Add(along.Mul(x.MM())), B: e.A.Add(along.Mul(x.MM() + w))}
		out = append(out, opened(id, of, how, front, outward, z.MM(), w, h, deepOwn)...)
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		at := c.At
		add(c.ID, c.Access, &at, c.W.MM(), c.H.MM(), c.D.MM())
	}
	for i := range s.Places {
		p := &s.Places[i]
		add(p.ID, p.Access, &p.At, p.W.MM(), p.H.MM(), p.D.MM())
	}
	return out
}

func opened(id, of string, how shop.Access, front geometry.Segment, outward geometry.Point, z, w, h, d float64) []Body {
	b := Body{ID: id, Of: of, Front: front, From: z, To: z + h}
	switch how {
	case reach.Drawer:
		b.Part, b.Deep = Drawer, d
	case reach.Door:
		b.Part, b.Deep = Door, w
		if w > leafAtMost {
			b.Deep = w / 2
		}
	case reach.Lid:
		// It swings up about its back: over the thing as high as that is deep.
		back := outward.Mul(-d)
		b.Part, b.From, b.To = Lid, z+h, z+h+d
		b.Foot = geometry.Polygon{front.A.Add(back), front.B.Add(back), front.B, front.A}
		return []Body{b}
	default:
		return nil
	}
	b.Foot = geometry.Polygon{front.A, front.B, front.B.Add(outward.Mul(b.Deep)), front.A.Add(outward.Mul(b.Deep))}
	return []Body{b}
}

// Opens is how far a body that opens can, before something of others that is solid; as far as it is deep when nothing
// stops it. By is the id of what does. What it is part of, and what is part of that, does not count.
func (b *Body) Opens(others []Body) (far float64, by string) {
	far = b.Deep
	if b.Part.Up() {
		far = b.To - b.From
	}
	full := far
	for i := range others {
		o := &others[i]
		if !o.Part.Solid() || o.ID == b.ID || o.ID == b.Of || o.Of == b.Of || !b.Meets(o, 5) {
			continue
		}
		d := full
		if b.Part.Up() {
			d = o.From - b.From
		} else {
			d = near(b, o.Foot)
		}
		if d < far {
			far, by = max(0, d), o.ID
		}
	}
	return far, by
}

// near is how far out from its front a footprint begins, within the width of the body.
func near(b *Body, foot geometry.Polygon) float64 {
	along := b.Front.B.Sub(b.Front.A)
	w := along.Norm()
	if w == 0 {
		return 0
	}
	along = along.Unit()
	out := b.Foot[3].Sub(b.Foot[0]).Unit()
	best := math.Inf(1)
	for i := range foot {
		e := foot.Edge(i)
		p, q := e.A.Sub(b.Front.A), e.B.Sub(b.Front.A)
		u0, v0, u1, v1 := p.Dot(along), p.Dot(out), q.Dot(along), q.Dot(out)
		if max(u0, u1) < 0 || min(u0, u1) > w {
			continue
		}
		for _, u := range []float64{0, w} {
			if (u0-u)*(u1-u) < 0 {
				best = min(best, v0+(v1-v0)*(u-u0)/(u1-u0))
			}
		}
		if u0 >= 0 && u0 <= w {
			best = min(best, v0)
		}
		if u1 >= 0 && u1 <= w {
			best = min(best, v1)
		}
	}
	return best
}
