package sheet

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/build"
	"hobrak/internal/core/length"
)

// face is a rectangle seen in a view: from the left and from below, mm, and how far off.
type face struct {
	x, y, w, h, far float64
	letter          string
	cut             bool // the plane of a section goes through it
}

// view of a unit from a side.
type view struct {
	title string
	faces []face
	w, h  float64
	x, y  float64   // of its lower left corner in the unit's own measures
	xs    []float64 // where dimensions begin and end, across
	ys    []float64 // and upwards
}

// letters of parts: A, B … Z, AA, AB.
func letter(n int) string {
	if n < 26 {
		return string(rune('A' + n))
	}
	return letter(n/26-1) + letter(n%26)
}

// viewOf a unit: across is the axis to the right, up the axis upwards; the third comes towards the eye when near is less.
func viewOf(u *build.Unit, title string, right, up build.Axis, sign float64, at *float64) view {
	v := view{title: title}
	deep := build.Across(right, up)
	seen := func(b build.Box, letter string) (face, float64, float64) { // with where it begins and ends in depth
		x, w := b.Span(right)
		y, h := b.Span(up)
		z, d := b.Span(deep)
		far := sign * z
		if sign < 0 {
			far = -(z + d)
		}
		return face{x: x - v.x, y: y - v.y, w: w, h: h, far: far, letter: letter}, z, z + d
	}
	outer := u.Outer()
	v.x, v.w = outer.Span(right)
	v.y, v.h = outer.Span(up)
	for n, l := range u.CutList() {
		for _, k := range l.Parts {
			f, from, to := seen(u.Parts[k].At, letter(n))
			if at != nil {
				if to < *at+.01 {
					continue // before the section
				}
				f.cut = from < *at-.01
			}
			v.faces = append(v.faces, f)
			if f.w > .6*v.w && f.h < 60 { // boards across say where shelves are
				v.ys = append(v.ys, f.y, f.y+f.h)
			}
			if f.h > .4*v.h && f.w < 60 {
				v.xs = append(v.xs, f.x, f.x+f.w)
			}
		}
	}
	for _, x := range u.Fittings {
		for _, b := range x.At {
			if f, from, _ := seen(b, ""); at == nil || from > *at {
				v.faces = append(v.faces, f)
			}
		}
	}
	v.xs, v.ys = stops(v.xs, v.w), stops(v.ys, v.h)
	slices.SortStableFunc(v.faces, func(a, b face) int { return cmp.Compare(b.far, a.far) })
	return v
}

// stops are where dimensions begin and end: both ends, and what is between, each once.
func stops(l []float64, whole float64) []float64 {
	l = append(l, 0, whole)
	slices.Sort(l)
	l = slices.CompactFunc(l, func(a, b float64) bool { return math.Abs(a-b) < 1 })
	l[len(l)-1] = whole
	return l
}

// Room below a view for its dimensions, mm of paper, and the size of their numbers.
const (
	chainRoom = 24.0
	figureMM  = 2.6
)

// figures is how wide the widest number beside a view is, mm of paper.
func (v *view) figures(say func(float64) string) (w float64) {
	for i := range len(v.ys) - 1 {
		w = max(w, (Text{Size: figureMM, Text: say(v.ys[i+1] - v.ys[i])}).Width())
	}
	return w
}

// beside is the room on the right of a view for its dimensions, mm of paper.
func (v *view) beside(say func(float64) string) float64 {
	room := 10.5 + v.figures(say) + 2
	if len(v.ys) > 2 {
		room += 2.5 + (Text{Size: figureMM, Text: say(v.h)}).Width()
	}
	return room
}

// takes is how far a view stands from the left of its room, and how wide that is, mm of paper: numbers below it may be wider than it is.
func (v *view) takes(scale float64, say func(float64) string) (pad, wide float64) {
	chain := 0.0
	for i := range len(v.xs) - 1 {
		chain += (Text{Size: figureMM, Text: say(v.xs[i+1] - v.xs[i])}).Width() + 1.2
	}
	chain = max(chain, (Text{Size: figureMM, Text: say(v.w)}).Width())
	pad = max(0, (chain-v.w/scale)/2) + 1
	return pad, max(pad+v.w/scale+max(v.beside(say), pad), pad+(Text{Size: 3.2, Text: v.title}).Width())
}

// draw a view with its lower left corner at a spot of the page, so many to one, with its dimensions: the whole and, outside of it,
// from stop to stop. Numbers that would not fit between their stops are drawn aside, with a line to where they belong.
func (p *Page) view(v *view, left, bottom, scale float64, say func(float64) string, names bool) {
	at := func(x, y float64) (float64, float64) { return left + x/scale, bottom - y/scale }
	var taken []Box
	for _, f := range v.faces {
		x0, y0 := at(f.x, f.y)
		x1, y1 := at(f.x+f.w, f.y+f.h)
		grey := 1.0
		if f.cut {
			grey = .82
		}
		if f.letter == "" {
			grey = .93
		}
		p.Paths = append(p.Paths, Outline([][2]float64{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}, grey, .2))
	}
	if names {
		named := map[string]bool{}
		for i := len(v.faces) - 1; i >= 0; i-- { // the nearest first
			f := &v.faces[i]
			cx, cy := at(f.x+f.w/2, f.y+f.h/2)
			b := Box{X: cx - 2.4, Y: cy - 2.2, W: 4.8, H: 4.4}
			mx, my, half := f.x+f.w/2, f.y+f.h/2, 2*scale // the letter's own room is seen
			covered := slices.ContainsFunc(v.faces[i+1:], func(n face) bool {
				return n.x < mx+half && mx-half < n.x+n.w && n.y < my+half && my-half < n.y+n.h
			})
			if f.letter == "" || named[f.letter] || covered || f.w/scale < 4 || f.h/scale < 4 || meets(taken, b) {
				continue
			}
			named[f.letter] = true
			taken = append(taken, b)
			p.bold(cx, cy+1.1, 3, "middle", f.letter)
		}
	}
	// Across, below; upwards, to the right.
	x0, y0 := at(0, 0)
	x1, y1 := at(v.w, v.h)
	p.chain(v.xs, func(x float64) (float64, float64) { ax, _ := at(x, 0); return ax, y0 + 6 }, true, say)
	p.chain(v.ys, func(y float64) (float64, float64) { _, ay := at(0, y); return x1 + 6, ay }, false, say)
	if len(v.xs) > 2 {
		p.span(x0, y0+15, x1, y0+15, say(v.w))
	}
	if len(v.ys) > 2 {
		x := x1 + 10.5 + v.figures(say) + 2.5
		p.span(x, y0, x, y1, say(v.h))
	}
	p.text(x0, y0+21.5, 3.2, "start", v.title)
}

// span is a dimension with its number beside the middle of its line.
func (p *Page) span(x1, y1, x2, y2 float64, s string) {
	p.line(x1, y1, x2, y2, .15)
	for _, e := range [][2]float64{{x1, y1}, {x2, y2}} {
		if y1 == y2 {
			p.line(e[0], e[1]-1.2, e[0], e[1]+1.2, .3)
		} else {
			p.line(e[0]-1.2, e[1], e[0]+1.2, e[1], .3)
		}
	}
	if y1 == y2 {
		p.text((x1+x2)/2, y1-1, figureMM, "middle", s)
	} else {
		p.text(x1+1.5, (y1+y2)/2+1, figureMM, "start", s)
	}
}

// chain of dimensions along a line, from stop to stop.
func (p *Page) chain(stops []float64, at func(float64) (float64, float64), level bool, say func(float64) string) {
	if len(stops) < 2 {
		return
	}
	x0, y0 := at(stops[0])
	x1, y1 := at(stops[len(stops)-1])
	p.line(x0, y0, x1, y1, .15)
	for _, s := range stops {
		x, y := at(s)
		if level {
			p.line(x, y-1.2, x, y+1.2, .3)
		} else {
			p.line(x-1.2, y, x+1.2, y, .3)
		}
	}
	type mark struct{ want, half float64 }
	var marks []mark
	var texts []string
	for i := range len(stops) - 1 {
		x, y := at((stops[i] + stops[i+1]) / 2)
		s := say(stops[i+1] - stops[i])
		half := figureMM * .62
		want := y
		if level {
			half, want = (Text{Size: figureMM, Text: s}).Width()/2+.6, x
		}
		marks, texts = append(marks, mark{want, half}), append(texts, s)
	}
	if !level { // upwards stops go up, marks down the page
		slices.Reverse(marks)
		slices.Reverse(texts)
	}
	spots := make([]float64, len(marks))
	halves, wants := make([]float64, len(marks)), make([]float64, len(marks))
	for i, m := range marks {
		wants[i], halves[i] = m.want, m.half
	}
	spread(spots, wants, halves)
	for i, s := range texts {
		moved := math.Abs(spots[i]-wants[i]) > .5
		if level {
			p.text(spots[i], y0+4.2, figureMM, "middle", s)
			if moved {
				p.line(wants[i], y0+.4, spots[i], y0+1.8, .1)
			}
		} else {
			p.text(x0+4.5, spots[i]+figureMM*.36, figureMM, "start", s)
			if moved {
				p.line(x0+.4, wants[i], x0+4, spots[i], .1)
			}
		}
	}
}

// spread moves marks along a line as little as is needed, so that none lies on another: groups that touch share their shift (pool
// adjacent violators, least squares).
func spread(spots, wants, halves []float64) {
	type group struct {
		from, to int
		at, long float64 // middle of all, and how long they are together
	}
	var groups []group
	place := func(g *group) {
		sum, off := 0.0, 0.0
		for i := g.from; i < g.to; i++ {
			sum += wants[i] - (off + halves[i])
			off += 2 * halves[i]
		}
		g.at, g.long = sum/float64(g.to-g.from), off // where the first begins
	}
	for i := range wants {
		g := group{from: i, to: i + 1}
		place(&g)
		for len(groups) > 0 && groups[len(groups)-1].at+groups[len(groups)-1].long > g.at {
			g.from = groups[len(groups)-1].from
			groups = groups[:len(groups)-1]
			place(&g)
		}
		groups = append(groups, g)
	}
	for _, g := range groups {
		off := g.at
		for i := g.from; i < g.to; i++ {
			spots[i] = off + halves[i]
			off += 2 * halves[i]
		}
	}
}

func meets(list []Box, b Box) bool {
	return slices.ContainsFunc(list, func(o Box) bool {
		return o.X < b.X+b.W && b.X < o.X+o.W && o.Y < b.Y+b.H && b.Y < o.Y+o.H
	})
}

// wrapped is a text in lines of about so many letters.
func wrapped(s string, long int) (out []string) {
	line := ""
	for _, word := range strings.Fields(s) {
		if line != "" && len([]rune(line))+1+len([]rune(word)) > long {
			out = append(out, line)
			line = ""
		}
		line = strings.TrimSpace(line + " " + word)
	}
	return append(out, line)
}

// UnitSheets are the drawings of a unit: views and section with dimensions, the parts apart with their list, each part with what is cut
// and drilled, the steps, and where it is screwed to its wall.
// Said writes the quantities of a sentence in the units of the shop.
func UnitSheets(u *build.Unit, wall *build.OnWall, paper Paper, units length.System, said func(string) string) []Page {
	style := length.Style{System: units}
	say := func(v float64) string { return style.Typed(length.MM(v)) }
	w, h := paper.H, paper.W
	out := []Page{unitViews(u, w, h, say, units)}
	out = append(out, unitParts(u, w, h, say, said)...)
	out = append(out, unitFaces(u, w, h, say, units)...)
	out = append(out, unitSteps(u, wall, w, h, say, said)...)
	return out
}

// unitViews is the page with front, side, top and section, all at one scale.
func unitViews(u *build.Unit, w, h float64, say func(float64) string, units length.System) Page {
	p := Page{W: w, H: h}
	outer := u.Outer()
	mid := outer.X + outer.W*.46
	front := viewOf(u, "Front", build.AxisX, build.AxisZ, 1, nil)
	side := viewOf(u, "Section, from the right", build.AxisY, build.AxisZ, -1, nil)
	cut := viewOf(u, "Section, from the left", build.AxisY, build.AxisZ, 1, &mid)
	side.title = "Side, from the right"
	top := viewOf(u, "From above", build.AxisX, build.AxisY, -1, nil)
	p.bold(margin, 12, 5, "start", u.Name+": "+u.Title)
	// Widths and heights side by side: front, side, section over each other with the view from above.
	room := func(s float64) bool {
		_, a := front.takes(s, say)
		_, b := top.takes(s, say)
		_, c := side.takes(s, say)
		_, d := cut.takes(s, say)
		return max(a, b)+c+d+12+2*margin < w && max(front.h, side.h)/s+top.h/s+2*chainRoom+34 < h
	}
	scale := 0.0
	for _, s := range []float64{1, 2, 2.5, 5, 10, 15, 20, 25, 50, 75, 100} {
		if room(s) {
			scale = s
			break
		}
	}
	if scale == 0 {
		scale = 150
	}
	p.text(margin, 18, 3.2, "start", fmt.Sprintf("%s wide, %s deep, %s high, 1 : %g", say(outer.W), say(outer.D), say(outer.H), scale))
	y := 28 + front.h/scale
	pad, wide := front.takes(scale, say)
	pad2, wide2 := top.takes(scale, say)
	x := margin
	p.view(&front, x+pad, y, scale, say, true)
	p.view(&top, x+pad2, y+chainRoom+8+top.h/scale, scale, say, true)
	x += max(wide, wide2) + 4
	pad, wide = side.takes(scale, say)
	p.view(&side, x+pad, y, scale, say, false)
	x += wide + 4
	pad, _ = cut.takes(scale, say)
	p.view(&cut, x+pad, y, scale, say, true)
	p.control(w-margin-90, h-6, units)
	return p
}

// unitParts is the unit with its parts apart, and the list of parts and of what is bought.
func unitParts(u *build.Unit, w, h float64, say func(float64) string, said func(string) string) []Page {
	p := Page{W: w, H: h}
	p.bold(margin, 12, 5, "start", u.Name+": parts")
	list := u.CutList()
	// Apart: every part moved away from the middle, seen from the front, above and right; what is behind is drawn first.
	outer := u.Outer()
	c := [3]float64{outer.X + outer.W/2, outer.Y + outer.D/2, outer.Z + outer.H/2}
	const apart = 1.5
	type block struct {
		b      build.Box
		letter string
	}
	var blocks []block
	for n, l := range list {
		for _, k := range l.Parts {
			b := u.Parts[k].At
			b.X += (b.X + b.W/2 - c[0]) * (apart - 1)
			b.Y += (b.Y + b.D/2 - c[1]) * (apart - 1)
			b.Z += (b.Z + b.H/2 - c[2]) * (apart - 1)
			blocks = append(blocks, block{b, letter(n)})
		}
	}
	flat := func(x, y, z float64) (float64, float64) { return x + .42*y, -(z + .3*y) }
	minX, minY, maxX, maxY := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, b := range blocks {
		for _, q := range [][3]float64{{0, 0, 0}, {1, 1, 1}, {1, 0, 0}, {0, 1, 1}, {0, 0, 1}, {1, 1, 0}, {0, 1, 0}, {1, 0, 1}} {
			x, y := flat(b.b.X+q[0]*b.b.W, b.b.Y+q[1]*b.b.D, b.b.Z+q[2]*b.b.H)
			minX, minY, maxX, maxY = min(minX, x), min(minY, y), max(maxX, x), max(maxY, y)
		}
	}
	if len(blocks) > 0 {
		roomW, roomH := w*.5-margin, h-36
		scale := max((maxX-minX)/roomW, (maxY-minY)/roomH, .1)
		at := func(x, y, z float64) [2]float64 {
			fx, fy := flat(x, y, z)
			return [2]float64{margin + (fx-minX)/scale, 20 + (fy-minY)/scale}
		}
		slices.SortStableFunc(blocks, func(a, b block) int {
			return cmp.Or(cmp.Compare(b.b.Y+b.b.D/2, a.b.Y+a.b.D/2), cmp.Compare(a.b.Z+a.b.H/2, b.b.Z+b.b.H/2), cmp.Compare(a.b.X, b.b.X))
		})
		var taken []Box
		named := map[string]bool{}
		for _, b := range blocks {
			x0, y0, z0, x1, y1, z1 := b.b.X, b.b.Y, b.b.Z, b.b.X+b.b.W, b.b.Y+b.b.D, b.b.Z+b.b.H
			p.Paths = append(p.Paths,
				Outline([][2]float64{at(x0, y0, z1), at(x1, y0, z1), at(x1, y1, z1), at(x0, y1, z1)}, .96, .18),
				Outline([][2]float64{at(x1, y0, z0), at(x1, y1, z0), at(x1, y1, z1), at(x1, y0, z1)}, .86, .18),
				Outline([][2]float64{at(x0, y0, z0), at(x1, y0, z0), at(x1, y0, z1), at(x0, y0, z1)}, 1, .18))
		}
		for i := len(blocks) - 1; i >= 0; i-- {
			b := blocks[i]
			q := at(b.b.X+b.b.W/2, b.b.Y, b.b.Z+b.b.H/2)
			box := Box{X: q[0] - 2.4, Y: q[1] - 2.2, W: 4.8, H: 4.4}
			if !named[b.letter] && !meets(taken, box) {
				named[b.letter] = true
				taken = append(taken, box)
				p.Boxes = append(p.Boxes, Box{X: q[0] - 2, Y: q[1] - 2, W: 4, H: 4, Empty: true})
				p.bold(q[0], q[1]+1.1, 3, "middle", b.letter)
			}
		}
	}
	// The list.
	out := []Page{p}
	page := &out[0]
	x, y := w*.53, 24.0
	head := func() {
		page.text(x, y, 2.8, "start", "part")
		page.text(x+88, y, 2.8, "end", "long × wide × thick")
		page.text(x+92, y, 2.8, "start", "of")
		page.line(x, y+1.2, w-margin, y+1.2, .2)
		y += 5.5
	}
	turn := func() {
		if y < h-14 {
			return
		}
		out = append(out, Page{W: w, H: h})
		page = &out[len(out)-1]
		page.bold(margin, 12, 5, "start", u.Name+": parts, continued")
		y = 24
		head()
	}
	head()
	for n, l := range list {
		turn()
		page.bold(x, y, 2.8, "start", letter(n))
		page.Texts = append(page.Texts, Text{X: x + 6, Y: y, Size: 2.8, Anchor: "start", Text: fmt.Sprintf("%d × %s", l.Count, l.Name)}.Cut(42))
		page.text(x+88, y, 2.8, "end", say(l.L)+" × "+say(l.W)+" × "+say(l.T))
		page.Texts = append(page.Texts, Text{X: x + 92, Y: y, Size: 2.8, Anchor: "start", Text: l.Material}.Cut(w-margin-x-92))
		y += 4.6
	}
	y += 3
	turn()
	page.text(x, y, 2.8, "start", "to buy")
	page.line(x, y+1.2, w-margin, y+1.2, .2)
	y += 5.5
	for _, f := range u.Fittings {
		turn()
		s := fmt.Sprintf("%d × %s", f.Count, f.Name)
		if f.Long > 0 {
			s += " " + say(f.Long)
		}
		page.Texts = append(page.Texts, Text{X: x, Y: y, Size: 2.8, Anchor: "start", Text: said(s)}.Cut(w-margin-x))
		y += 4.6
	}
	return out
}

// PartSheet is a part at full size: its outline, what is cut out, let in and drilled, from its lower left corner. It is to be tiled.
func PartSheet(p *build.Part) Page {
	laid := p.Lay()
	const round = 4.0
	page := Page{W: laid.L + 2*round, H: laid.W + 2*round}
	page.part(&laid, round, page.H-round, 1)
	return page
}

// part draws a part that lies flat, its lower left corner at a spot.
func (p *Page) part(l *build.Laid, left, bottom, scale float64) {
	at := func(x, y float64) [2]float64 { return [2]float64{left + x/scale, bottom - y/scale} }
	for _, edge := range rim(l) {
		a, b := at(edge[0], edge[1]), at(edge[2], edge[3])
		p.line(a[0], a[1], b[0], b[1], .3)
	}
	for _, f := range l.Let {
		q := [4][2]float64{at(f.X, f.Y), at(f.X+f.L, f.Y), at(f.X+f.L, f.Y+f.W), at(f.X, f.Y+f.W)}
		for i := range 4 {
			p.dashed(q[i][0], q[i][1], q[(i+1)%4][0], q[(i+1)%4][1], .15)
		}
	}
	for _, h := range l.Holes {
		q := at(h.X, h.Y)
		r := max(h.D/2/scale, .4)
		p.line(q[0]-r-.8, q[1], q[0]+r+.8, q[1], .1)
		p.line(q[0], q[1]-r-.8, q[0], q[1]+r+.8, .1)
		var ring [][2]float64
		for k := range 24 {
			a := float64(k) * math.Pi / 12
			ring = append(ring, [2]float64{q[0] + r*math.Cos(a), q[1] + r*math.Sin(a)})
		}
		p.Paths = append(p.Paths, Outline(ring, -1, .15))
	}
}

// rim of a part: the edges between it and what is not of it, mm, as lines from one spot to another.
func rim(l *build.Laid) (out [][4]float64) {
	xs, ys := []float64{0, l.L}, []float64{0, l.W}
	for _, f := range l.Out {
		xs, ys = append(xs, max(0, f.X), min(l.L, f.X+f.L)), append(ys, max(0, f.Y), min(l.W, f.Y+f.W))
	}
	same := func(a, b float64) bool { return math.Abs(a-b) < 1e-6 }
	slices.Sort(xs)
	slices.Sort(ys)
	xs, ys = slices.CompactFunc(xs, same), slices.CompactFunc(ys, same)
	there := func(i, k int) bool {
		if i < 0 || k < 0 || i >= len(xs)-1 || k >= len(ys)-1 {
			return false
		}
		x, y := (xs[i]+xs[i+1])/2, (ys[k]+ys[k+1])/2
		return !slices.ContainsFunc(l.Out, func(f build.Flat) bool { return x > f.X && x < f.X+f.L && y > f.Y && y < f.Y+f.W })
	}
	for k := range ys { // level edges
		for i := 0; i < len(xs)-1; i++ {
			if there(i, k) == there(i, k-1) {
				continue
			}
			n := i
			for n+1 < len(xs)-1 && there(n+1, k) != there(n+1, k-1) && there(n+1, k) == there(i, k) {
				n++
			}
			out = append(out, [4]float64{xs[i], ys[k], xs[n+1], ys[k]})
			i = n
		}
	}
	for i := range xs {
		for k := 0; k < len(ys)-1; k++ {
			if there(i, k) == there(i-1, k) {
				continue
			}
			n := k
			for n+1 < len(ys)-1 && there(i, n+1) != there(i-1, n+1) && there(i, n+1) == there(i, k) {
				n++
			}
			out = append(out, [4]float64{xs[i], ys[k], xs[i], ys[n+1]})
			k = n
		}
	}
	return out
}

// unitFaces are the parts one by one, with the measures of what is let in and drilled, from the lower left corner.
func unitFaces(u *build.Unit, w, h float64, say func(float64) string, units length.System) []Page {
	var out []Page
	const cols, rows = 2, 2
	list := u.CutList()
	n := 0
	for k, l := range list {
		p := &u.Parts[l.Parts[0]]
		laid := p.Lay()
		if len(laid.Let)+len(laid.Out)+len(laid.Holes) == 0 && p.Bevel == 0 {
			continue
		}
		if n%(cols*rows) == 0 {
			page := Page{W: w, H: h}
			page.bold(margin, 12, 5, "start", u.Name+": what is cut and drilled, from the lower left corner")
			page.control(margin, h-5, units)
			out = append(out, page)
		}
		page := &out[len(out)-1]
		cw, ch := (w-2*margin)/cols, (h-26)/rows
		x, y := margin+float64(n%cols)*cw, 20+float64(n/cols%rows)*ch
		n++
		page.bold(x, y+3, 3.2, "start", letter(k))
		page.Texts = append(page.Texts, Text{X: x + 6, Y: y + 3, Size: 3.2, Anchor: "start", Text: fmt.Sprintf("%d × %s, %s × %s × %s", l.Count, l.Name, say(l.L), say(l.W), say(l.T))}.Cut(cw-10))
		drawW, drawH := cw*.6, ch-20
		scale := 0.0
		for _, s := range []float64{1, 2, 2.5, 5, 10, 15, 20, 25, 50} {
			if laid.L/s < drawW && laid.W/s < drawH {
				scale = s
				break
			}
		}
		if scale == 0 {
			scale = 100
		}
		page.part(&laid, x, y+6+laid.W/scale, scale)
		page.text(x, y+11+laid.W/scale, 2.4, "start", fmt.Sprintf("1 : %g", scale))
		// What is done to it, in words.
		ty, most := y+9, int((ch-12)/3.6)
		rows := []string{}
		if p.Bevel > 0 {
			rows = append(rows, fmt.Sprintf("upper edge at %g°", p.Bevel))
		}
		for _, f := range laid.Let {
			rows = append(rows, fmt.Sprintf("from %s, %s: %s × %s, %s deep", say(f.X), say(f.Y), say(f.L), say(f.W), say(f.Deep)))
		}
		for _, f := range laid.Out {
			rows = append(rows, fmt.Sprintf("out from %s, %s: %s × %s", say(f.X), say(f.Y), say(f.L), say(f.W)))
		}
		for _, hole := range laid.Holes {
			s := fmt.Sprintf("hole %s at %s, %s", say(hole.D), say(hole.X), say(hole.Y))
			if hole.Deep > 0 {
				s += ", " + say(hole.Deep) + " deep"
			}
			rows = append(rows, s)
		}
		for i, s := range rows {
			if i == most-1 && len(rows) > most {
				page.text(x+cw*.62, ty, 2.4, "start", fmt.Sprintf("and %d more, drawn", len(rows)-i))
				break
			}
			page.Texts = append(page.Texts, Text{X: x + cw*.62, Y: ty, Size: 2.4, Anchor: "start", Text: s}.Cut(cw*.36))
			ty += 3.6
		}
	}
	return out
}

// unitSteps are the steps, the rules and cautions, and the screws in the wall.
func unitSteps(u *build.Unit, wall *build.OnWall, w, h float64, say func(float64) string, said func(string) string) []Page {
	out := []Page{{W: w, H: h}}
	p := &out[0]
	p.bold(margin, 12, 5, "start", u.Name+": putting it together")
	y := 22.0
	write := func(mark, s string) {
		for i, line := range wrapped(said(s), 120) {
			if y > h-12 {
				out = append(out, Page{W: w, H: h})
				p = &out[len(out)-1]
				p.bold(margin, 12, 5, "start", u.Name+": putting it together, continued")
				y = 22
			}
			if i == 0 {
				p.bold(margin, y, 3.2, "start", mark)
			}
			p.text(margin+8, y, 3.2, "start", line)
			y += 4.8
		}
	}
	for i, s := range u.Steps {
		write(fmt.Sprint(i+1), s.Says)
	}
	y += 3
	for _, s := range u.Rules {
		write("–", s)
	}
	for _, s := range u.Cautions {
		write("!", s)
	}
	if wall == nil {
		return out
	}
	y += 3
	for _, s := range wall.Says {
		write("–", s)
	}
	for _, s := range wall.Cautions {
		write("!", s)
	}
	by := map[float64][]float64{}
	var zs []float64
	for _, f := range wall.Screws {
		if by[f.Z] == nil {
			zs = append(zs, f.Z)
		}
		by[f.Z] = append(by[f.Z], f.X)
	}
	for _, z := range zs {
		s := say(z) + " up, from corner " + wall.From + ":"
		for i, x := range by[z] {
			if i > 0 {
				s += ","
			}
			s += " " + say(x)
		}
		write("×", s)
	}
	return out
}
