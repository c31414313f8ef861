package sheet

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/silhouette"
)

// around is room round a drawing for its dimensions and words, in mm of paper.
const around = 18.0

// greys of silhouettes and of what holds them.
var greys = map[silhouette.Tone]float64{silhouette.Dark: .35, silhouette.Wood: .68, silhouette.Light: .9}

const (
	wallGrey  = .97
	placeGrey = .92
	bodyGrey  = .86
)

// picture is a drawing that is made: x and z in mm of the shop.
type picture struct {
	*Page
	scale, left, top float64 // one to so many; x and z of the upper left corner
	units            length.System
}

func newPicture(left, w, h, scale float64, units length.System) *picture {
	return &picture{&Page{W: w/scale + 2*around, H: h/scale + 2*around}, scale, left, h, units}
}

func (p *picture) at(x, z float64) [2]float64 {
	return [2]float64{around + (x-p.left)/p.scale, around + (p.top-z)/p.scale}
}

// say writes a length of mm without its unit where that is plain.
func (p *picture) say(mm float64) string {
	if p.units == length.Imperial {
		return length.Style{System: length.Imperial}.Format(length.MM(mm))
	}
	return fmt.Sprintf("%.0f", mm)
}

func (p *picture) outline(pts [][2]float64, grey, weight float64) {
	on := make([][2]float64, len(pts))
	for i, q := range pts {
		on[i] = p.at(q[0], q[1])
	}
	p.Paths = append(p.Paths, Outline(on, grey, weight))
}

func (p *picture) rect(x, z, w, h, grey, weight float64) {
	p.outline([][2]float64{{x, z}, {x + w, z}, {x + w, z + h}, {x, z + h}}, grey, weight)
}

// stroke is a line that things are drawn over.
func (p *picture) stroke(l [4]float64, weight float64, dashed bool) {
	a, b := p.at(l[0], l[1]), p.at(l[2], l[3])
	p.Paths = append(p.Paths, Path{[]silhouette.Seg{{Op: 'M', P: [3][2]float64{a}}, {Op: 'L', P: [3][2]float64{b}}}, -1, weight, dashed})
}

// name writes words that fit a width of the shop, shortened when they do not.
func (p *picture) name(x, z, room, size float64, anchor string, bold bool, words string) {
	if words = strings.TrimSpace(words); words == "" {
		return
	}
	t := Text{Size: size, Text: words, Anchor: anchor, Bold: bold}
	t = t.Cut(room / p.scale)
	if t.Width() > room/p.scale || 2*len([]rune(t.Text)) < len([]rune(words)) {
		return // so little of it says nothing
	}
	q := p.at(x, z)
	t.X, t.Y = q[0], q[1]
	p.Texts = append(p.Texts, t)
}

// thing draws a silhouette into its box.
func (p *picture) thing(name string, q round.Piece, out bool) {
	g := silhouette.Of(name)
	turn := g.Turn(q.W, q.H)
	at := func(v [2]float64) [2]float64 {
		x, y := v[0]/100, v[1]/100
		if turn {
			x, y = y, 1-x
		}
		return p.at(q.X+x*q.W, q.Z+q.H-y*q.H)
	}
	for _, s := range g.Strokes {
		path := Path{Grey: greys[s.Tone], Weight: .12, Dashed: out}
		if out {
			path.Grey = -1
		}
		for _, seg := range s.Path {
			n := silhouette.Seg{Op: seg.Op}
			for i := range seg.P {
				n.P[i] = at(seg.P[i])
			}
			path.Segs = append(path.Segs, n)
		}
		p.Paths = append(p.Paths, path)
	}
}

// Wall draws an elevation of the round at a scale of one to so many: the wall, what is in it, what
// stands before it, the places with what lives there, and its dimensions. Title is written above.
func Wall(r *round.Round, elevation int, scale float64) Page {
	e := &r.Elevations[elevation]
	// What is longer than the wall, or sticks out beyond it, is on the paper as well.
	left, right, top := 0.0, e.Length, 0.0
	reaches := func(x, w, z float64) { left, right, top = min(left, x), max(right, x+w), max(top, z) }
	for _, q := range e.Profile {
		top = max(top, q[1])
	}
	for i := range r.Things {
		if t := &r.Things[i]; t.Elevation == elevation {
			reaches(t.X, t.W, t.Z+t.Tall)
		}
	}
	for i := range r.Places {
		if pl := &r.Places[i]; pl.Elevation == elevation {
			reaches(pl.X, pl.W, pl.Z+pl.H)
		}
	}
	for i := range r.Items {
		if r.Items[i].Elevation == elevation && !r.Items[i].Hidden {
			for _, q := range r.Items[i].Pieces {
				reaches(q.X, q.W, q.Z+q.H)
			}
		}
	}
	p := newPicture(left, right-left, top, scale, r.Units)
	p.Page.bold(around, 7, 4, "start", r.Name+", "+e.Title)
	p.Page.text(p.W-around, 7, 3, "end", fmt.Sprintf("1 : %.0f", scale))
	if !e.Middle {
		pts := [][2]float64{{0, 0}}
		pts = append(pts, e.Profile...)
		p.outline(append(pts, [2]float64{e.Length, 0}), wallGrey, .4)
		for _, x := range e.Studs {
			p.stroke([4]float64{x, 0, x, heightAt(e.Profile, x)}, .1, true)
		}
	}
	for _, f := range e.Features {
		p.rect(f.X, f.Z, f.W, f.H, 1, .3)
		p.name(f.X+f.W/2, f.Z+f.H/2, f.W, 2.6, "middle", false, f.Name)
	}
	for i := range r.Places {
		if r.Places[i].Elevation == elevation && r.Places[i].Host == "" {
			p.place(r, i)
		}
	}
	for i := range r.Things {
		t := &r.Things[i]
		if t.Elevation != elevation {
			continue
		}
		p.rect(t.X, t.Z, t.W, t.H, bodyGrey, .25)
		if t.Tall > t.H {
			p.rect(t.X+.15*t.W, t.Z+t.H, .7*t.W, t.Tall-t.H, bodyGrey, .2)
		}
		p.name(t.X+t.W/2, t.Z+30*scale/25, t.W, 2.4, "middle", false, t.Name)
		for k := range r.Places {
			if r.Places[k].Elevation == elevation && r.Places[k].Host == t.ID {
				p.place(r, k)
			}
		}
	}
	a, b := p.at(0, 0), p.at(e.Length, 0)
	p.line(a[0], a[1], b[0], b[1], .6)
	if !e.Middle {
		p.dimension(a[0], a[1]+7, b[0], b[1]+7, p.say(e.Length))
		left := heightAt(e.Profile, 0)
		c := p.at(0, left)
		p.dimension(a[0]-7, a[1], c[0]-7, c[1], p.say(left))
		if right := heightAt(e.Profile, e.Length); math.Abs(right-left) > 1 {
			d := p.at(e.Length, right)
			p.dimension(b[0]+7, b[1], d[0]+7, d[1], p.say(right))
		}
	}
	return *p.Page
}

// heightAt is the height of a wall's top edge.
func heightAt(profile [][2]float64, x float64) float64 {
	for i := 1; i < len(profile); i++ {
		a, b := profile[i-1], profile[i]
		if x <= b[0] || i == len(profile)-1 {
			if b[0] == a[0] {
				return b[1]
			}
			return a[1] + (b[1]-a[1])*min(max((x-a[0])/(b[0]-a[0]), 0), 1)
		}
	}
	return 0
}

// place draws a place with its address and what can be seen in it.
func (p *picture) place(r *round.Round, k int) {
	pl := &r.Places[k]
	p.rect(pl.X, pl.Z, pl.W, pl.H, placeGrey, .25)
	for _, l := range pl.Lines {
		p.stroke(l, .2, false)
	}
	if !pl.Closed {
		for i := range r.Items {
			it := &r.Items[i]
			if it.Place != pl.ID {
				continue
			}
			pieces := slices.Clone(it.Pieces)
			slices.SortStableFunc(pieces, func(a, b round.Piece) int { // what is behind first
				switch {
				case a.Behind == b.Behind:
					return 0
				case a.Behind:
					return -1
				}
				return 1
			})
			for _, q := range pieces {
				p.thing(it.Glyph, q, it.Out)
			}
		}
	}
	// The address inside at the top, where it is free most often; what is closed has its name too.
	words := pl.ID
	if pl.Closed && pl.Name != "" {
		words += " " + pl.Name
	}
	size := min(2.6, pl.H/p.scale*.8)
	if size < 1.2 {
		return
	}
	p.name(pl.X+1.2*p.scale, pl.Z+pl.H-(size+.2)*p.scale, pl.W, size, "start", true, words)
}

// Floor draws the plan of the areas of the shop at a scale of one to so many, seen from above.
func Floor(r *round.Round, scale float64) Page {
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, room := range r.Plan.Rooms {
		for _, c := range room.Corners {
			for k := range c {
				low[k], high[k] = min(low[k], c[k]), max(high[k], c[k])
			}
		}
	}
	if len(r.Plan.Rooms) == 0 {
		low, high = [2]float64{}, [2]float64{1000, 1000}
	}
	p := newPicture(0, high[0]-low[0], high[1]-low[1], scale, r.Units)
	moved := func(list [][2]float64) [][2]float64 {
		out := make([][2]float64, len(list))
		for i, c := range list {
			out[i] = [2]float64{c[0] - low[0], c[1] - low[1]}
		}
		return out
	}
	p.Page.bold(around, 7, 4, "start", r.Name+", floor plan")
	p.Page.text(p.W-around, 7, 3, "end", fmt.Sprintf("1 : %.0f", scale))
	for _, room := range r.Plan.Rooms {
		p.outline(moved(room.Corners), wallGrey, .7)
	}
	named := map[string]string{}
	for i := range r.Things {
		named[r.Things[i].ID] = r.Things[i].Name
	}
	for _, t := range r.Plan.Things {
		c := moved(t.Corners)
		grey := placeGrey
		if t.Station {
			grey = bodyGrey
		}
		p.outline(c, grey, .3)
		if len(c) == 0 {
			continue
		}
		lo, hi := c[0], c[0]
		for _, q := range c {
			lo, hi = [2]float64{min(lo[0], q[0]), min(lo[1], q[1])}, [2]float64{max(hi[0], q[0]), max(hi[1], q[1])}
		}
		name := named[t.ID]
		if name == "" {
			name = t.ID
		}
		p.name((lo[0]+hi[0])/2, (lo[1]+hi[1])/2-.9*scale, hi[0]-lo[0], 2.4, "middle", false, name)
	}
	for _, room := range r.Plan.Rooms {
		for _, g := range room.Gaps {
			ends := moved([][2]float64{g.From, g.To, g.Mid})
			a, b := p.at(ends[0][0], ends[0][1]), p.at(ends[1][0], ends[1][1])
			switch g.Kind {
			case "wall":
				p.dimensioned(a, b, room.Corners, low, g)
			case "panel":
			default: // a door or window is an opening in the line of the wall
				p.Page.Lines = append(p.Page.Lines, Line{X1: a[0], Y1: a[1], X2: b[0], Y2: b[1], Weight: 1.4, White: g.Kind != "window"})
				if g.Kind == "window" {
					p.line(a[0], a[1], b[0], b[1], 1.4)
				}
			}
		}
	}
	return *p.Page
}

// dimensioned writes the length of a wall outside of it, and its letter.
func (p *picture) dimensioned(a, b [2]float64, corners [][2]float64, low [2]float64, g round.Gap) {
	cx, cy := 0.0, 0.0
	for _, c := range corners {
		cx, cy = cx+c[0]/float64(len(corners)), cy+c[1]/float64(len(corners))
	}
	m := p.at(cx-low[0], cy-low[1])
	dx, dy := b[0]-a[0], b[1]-a[1]
	l := math.Hypot(dx, dy)
	if l == 0 {
		return
	}
	nx, ny := dy/l, -dx/l
	if (a[0]+dx/2-m[0])*nx+(a[1]+dy/2-m[1])*ny < 0 {
		nx, ny = -nx, -ny
	}
	p.dimension(a[0]+6*nx, a[1]+6*ny, b[0]+6*nx, b[1]+6*ny, p.say(math.Hypot(g.To[0]-g.From[0], g.To[1]-g.From[1])))
	p.Page.bold(a[0]+dx/4+3*nx, a[1]+dy/4+3*ny+1.2, 3.4, "middle", g.Wall)
}
