package sheet

import (
	"fmt"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

// Survey draws the sheets to take to a room: its plan and every wall to scale,
// with what is measured, and empty boxes for what is not. Values in words
// follow the style.
func Survey(name string, a *shop.Area, style length.Style) []Page {
	d := surveyor{area: a, report: survey.Of(a), style: style}
	pages := []Page{d.plan()}
	pages = append(pages, d.walls()...)
	for i := range pages {
		p := &pages[i]
		p.bold(margin, margin+2, 5, "start", name+" · "+areaName(a))
		p.text(paperW-margin, margin+2, 3.2, "end", fmt.Sprintf("survey sheet %d of %d", i+1, len(pages)))
		p.line(margin, margin+5, paperW-margin, margin+5, .3)
		p.text(margin, paperH-7, 2.8, "start", "An empty box is not measured yet. Values are "+unitName(style)+". Measured on: ____________  by: ____________")
	}
	return pages
}

func areaName(a *shop.Area) string {
	if a.Name != "" {
		return a.Name
	}
	return a.ID
}

func unitName(s length.Style) string {
	if s.System == length.Imperial {
		return "feet and inches"
	}
	return "millimetres"
}

type surveyor struct {
	area   *shop.Area
	report *survey.Report
	style  length.Style
}

// say writes a length without its unit where that is plain: "4600", 9' 2".
func (d *surveyor) say(l length.Length) string {
	if d.style.System == length.Imperial {
		return d.style.Format(l)
	}
	return fmt.Sprintf("%.0f", l.MM())
}

func (d *surveyor) plan() Page {
	p := Page{W: paperW, H: paperH}
	outline := d.area.Outline()
	low, high := outline.Bounds()
	w, h := high.X-low.X, high.Y-low.Y
	const boxW, boxH = 190.0, 140.0
	s := fitting(w, h, boxW, boxH)
	left, top := margin+14+(boxW-w/s)/2, margin+20+(boxH-h/s)/2
	at := func(x, y float64) (float64, float64) { return left + (x-low.X)/s, top + (high.Y-y)/s }
	p.shade(outline, at)
	p.text(paperW-margin, paperH-7, 3, "end", fmt.Sprintf("scale 1 : %.0f", s))
	for i := range outline {
		f := d.area.Frame(i)
		e := outline.Edge(i)
		x1, y1 := at(e.A.X, e.A.Y)
		x2, y2 := at(e.B.X, e.B.Y)
		p.line(x1, y1, x2, y2, .7)
		// The dimension runs outside of the wall, its letter inside.
		ox, oy := -f.Inward.X*7, f.Inward.Y*7
		v := ""
		if d.report.Walls[i].Measured {
			v = d.say(length.MM(d.report.Walls[i].Value))
		}
		p.dimension(x1+ox, y1+oy, x2+ox, y2+oy, v)
		p.bold((x1+x2)/2+f.Inward.X*6, (y1+y2)/2-f.Inward.Y*6+1.5, 4.5, "middle", d.area.Walls[i].ID)
		if !d.area.Walls[i].Claimed {
			p.text((x1+x2)/2+f.Inward.X*12, (y1+y2)/2-f.Inward.Y*12+1, 2.8, "middle", "left alone")
		}
		for _, x := range d.area.Walls[i].Features {
			q1, q2 := f.Spot(x.X.MM(), 0), f.Spot((x.X+x.W).MM(), 0)
			ax, ay := at(q1.X, q1.Y)
			bx, by := at(q2.X, q2.Y)
			switch {
			case x.Kind.Lit():
				p.line(ax, ay, bx, by, 1.6)
			case x.Kind.Passage():
				in1, in2 := f.Spot(x.X.MM(), 120), f.Spot((x.X+x.W).MM(), 120)
				cx, cy := at(in1.X, in1.Y)
				dx, dy := at(in2.X, in2.Y)
				p.line(ax, ay, cx, cy, .4)
				p.line(bx, by, dx, dy, .4)
				p.dashed(cx, cy, dx, dy, .25)
			}
		}
	}
	for k := range outline {
		x, y := at(outline[k].X, outline[k].Y)
		fw, fb := d.area.Frame(k), d.area.Frame((k+len(outline)-1)%len(outline))
		p.text(x-(fw.Inward.X+fb.Inward.X)*3.4, y+(fw.Inward.Y+fb.Inward.Y)*3.4+1, 3, "middle", d.area.CornerName(k))
	}
	d.diagonals(&p, at)
	d.notes(&p)
	return p
}

func (p *Page) shade(outline geometry.Polygon, at func(x, y float64) (float64, float64)) {
	points := make([][2]float64, len(outline))
	for i, q := range outline {
		points[i][0], points[i][1] = at(q.X, q.Y)
	}
	p.Paths = append(p.Paths, Outline(points, .96, 0))
}

// diagonals that were measured, and the one that would check the most.
func (d *surveyor) diagonals(p *Page, at func(x, y float64) (float64, float64)) {
	outline := d.area.Outline()
	draw := func(i, j int, v string) {
		x1, y1 := at(outline[i].X, outline[i].Y)
		x2, y2 := at(outline[j].X, outline[j].Y)
		p.dashed(x1, y1, x2, y2, .2)
		// Off the middle, where two of them cross.
		p.value(x1+(x2-x1)*.36, y1+(y2-y1)*.36-.6, 3, v)
	}
	if d.area.Survey != nil {
		for _, m := range d.area.Survey.Measures {
			if m.Kind == "diagonal" && !m.LeftOut {
				draw(m.From, m.To, d.say(m.Length))
			}
		}
	}
	if q := d.report.Propose; q != nil {
		draw(q.From, q.To, "")
	}
}

// notes beside the plan: what to measure still, ceiling and floor.
func (d *surveyor) notes(p *Page) {
	x, y := 232.0, margin+16
	head := func(s string) { p.bold(x, y, 3.6, "start", s); y += 6 }
	row := func(what, v string) {
		p.text(x, y, 3, "start", what)
		p.value(paperW-margin-9, y, 3, v)
		y += 6.5
	}
	head("Ceiling")
	j := (*shop.Joists)(nil)
	if d.area.Ceiling != nil {
		j = d.area.Ceiling.Joists
	}
	if j != nil {
		row("joists run along", j.Along)
		row("first joist", d.say(j.First))
		row("spacing", d.say(j.Spacing))
	} else {
		row("joists run along", "")
		row("first joist", "")
		row("spacing", "")
	}
	y += 3
	head("Floor")
	if d.area.Floor != nil && d.area.Floor.Fall != nil {
		row("fall, mm per m", fmt.Sprintf("%.0f", d.area.Floor.Fall.MMPerM))
		row("towards wall", d.area.Floor.Fall.Toward)
	} else {
		row("fall, mm per m", "")
		row("towards wall", "")
	}
	y += 3
	if d.report.Propose != nil {
		head("Measure this, too")
		row(d.report.Propose.Name, "")
	}
	y += 3
	head("Remarks")
	for ; y < paperH-22; y += 8 {
		p.line(x, y, paperW-margin, y, .15)
	}
}

// walls draws the elevations, two to a page, all to one scale.
func (d *surveyor) walls() []Page {
	long, high := 0.0, 0.0
	for i := range d.area.Walls {
		long = max(long, d.area.Frame(i).Length.MM())
		for _, q := range d.area.Walls[i].Profile {
			high = max(high, q[1].MM())
		}
	}
	s := fitting(long, high, paperW-2*margin-34, 63)
	var out []Page
	for i := range d.area.Walls {
		if i%2 == 0 {
			out = append(out, Page{W: paperW, H: paperH})
			out[len(out)-1].text(paperW-margin, paperH-7, 3, "end", fmt.Sprintf("scale 1 : %.0f", s))
		}
		p := &out[len(out)-1]
		for y := margin + 20.0 + float64(i%2)*86; long/s < 150 && y < margin+76+float64(i%2)*86; y += 8 {
			p.line(margin+20+long/s+28, y, paperW-margin, y, .12) // for remarks
		}
		d.elevation(&out[len(out)-1], i, s, margin+72+float64(i%2)*86)
	}
	return out
}

// elevation of wall i with its floor at y.
func (d *surveyor) elevation(p *Page, i int, s, floor float64) {
	w := &d.area.Walls[i]
	long := d.area.Frame(i).Length
	left := margin + 20
	x := func(l length.Length) float64 { return left + l.MM()/s }
	z := func(l length.Length) float64 { return floor - l.MM()/s }
	p.bold(margin, floor, 6, "start", w.ID)
	var what string
	switch {
	case !w.Claimed:
		what = "left alone"
	case w.Surface != "" && !slices.Contains(w.Assumed, "surface"):
		what = w.Surface
	default:
		what = "surface: ______________"
	}
	p.text(left, floor+20, 2.8, "start", what)
	p.line(x(0), floor, x(long), floor, .6)
	p.line(x(0), floor, x(0), z(w.Profile[0][1]), .4)
	p.line(x(long), floor, x(long), z(w.Profile[len(w.Profile)-1][1]), .4)
	topMeasured := !slices.Contains(w.Assumed, "top")
	for k := 1; k < len(w.Profile); k++ {
		a, b := w.Profile[k-1], w.Profile[k]
		p.line(x(a[0]), z(a[1]), x(b[0]), z(b[1]), .4)
	}
	for k, q := range w.Profile {
		v := ""
		if topMeasured {
			v = d.say(q[1])
		}
		switch {
		case k == 0:
			p.value(left-9, z(q[1])+(floor-z(q[1]))/2, 3, v)
			p.line(left-3, floor, left-3, z(q[1]), .15)
		case k == len(w.Profile)-1 && q[1] != w.Profile[0][1]:
			p.value(x(long)+9, z(q[1])+(floor-z(q[1]))/2, 3, v)
			p.line(x(long)+3, floor, x(long)+3, z(q[1]), .15)
		case k > 0 && k < len(w.Profile)-1:
			p.value(x(q[0]), z(q[1])-2, 3, v)
		}
	}
	for _, c := range w.Studs.Centres(long) {
		p.dashed(x(c), floor, x(c), z(w.TopAt(c)), .1)
	}
	if w.Studs == nil && w.Claimed {
		p.text(x(long), floor+20, 2.8, "end", "studs: first ________ spacing ________")
	}
	v := ""
	if d.report.Walls[i].Measured {
		v = d.say(length.MM(d.report.Walls[i].Value))
	}
	p.dimension(x(0), floor+14, x(long), floor+14, v)
	d.features(p, w, x, z, floor)
}

// features with their sizes, and their distances from the left under the floor.
func (d *surveyor) features(p *Page, w *shop.Wall, x, z func(length.Length) float64, floor float64) {
	var ends [2]float64 // where each row of numbers under the floor is taken up to
	var taken []Box
	for _, f := range w.Features {
		taken = append(taken, Box{X: x(f.X), Y: z(f.Z + f.H), W: x(f.X+f.W) - x(f.X), H: z(f.Z) - z(f.Z+f.H)})
	}
	list := slices.Clone(w.Features)
	slices.SortStableFunc(list, func(a, b shop.Feature) int { return int(a.X - b.X) })
	for _, f := range list {
		assumed := func(name string) bool { return slices.Contains(f.Assumed, name) }
		p.Boxes = append(p.Boxes, Box{X: x(f.X), Y: z(f.Z + f.H), W: x(f.X+f.W) - x(f.X), H: z(f.Z) - z(f.Z+f.H), Weight: .35})
		name := f.Called()
		size := ""
		if !assumed("w") && !assumed("h") {
			size = d.say(f.W) + " × " + d.say(f.H)
		}
		mid := x(f.X) + (x(f.X+f.W)-x(f.X))/2
		big := x(f.X+f.W)-x(f.X) > 16
		if big {
			p.text(mid, z(f.Z+f.H)+4, 2.6, "middle", name)
			p.value(mid, z(f.Z+f.H)+8.5, 2.6, size)
			if f.Z > 0 {
				sill := ""
				if !assumed("z") {
					sill = "at " + d.say(f.Z)
				}
				p.value(mid, z(f.Z)-1.5, 2.6, sill)
			}
		} else {
			tag := name
			if size != "" && f.Kind != "outlet" && f.Kind != "switch" {
				tag += " " + size
			}
			switch {
			case assumed("z"):
				tag += " at ______"
			case f.Z > 0:
				tag += " at " + d.say(f.Z)
			}
			taken = append(taken, p.tag(tag, taken, x(f.X), z(f.Z+f.H), x(f.X+f.W)-x(f.X), z(f.Z)-z(f.Z+f.H)))
		}
		// Where it begins, from the left.
		v := ""
		if !assumed("x") {
			v = d.say(f.X)
		}
		t := Text{Text: v, Size: 2.6}
		half := max(t.Width(), 11) / 2
		row := 0
		if x(f.X)-half < ends[0] {
			row = 1
		}
		ends[row] = x(f.X) + half + 1
		y := floor + 4.5 + 4.5*float64(row)
		p.line(x(f.X), floor, x(f.X), y-2.6, .15)
		p.value(x(f.X), y, 2.6, v)
	}
}

// tag writes a small label beside a box: to its right, above, below or to its
// left, wherever nothing is yet. It returns the room it takes.
func (p *Page) tag(s string, taken []Box, x, y, w, h float64) Box {
	const size = 2.4
	t := Text{Text: s, Size: size, Anchor: "start"}
	wide := t.Width() + 1
	spots := []Box{{X: x + w + .8, Y: y + h/2 - size/2}, {X: x, Y: y - size - 1}, {X: x, Y: y + h + .8}, {X: x - wide - .8, Y: y + h/2 - size/2}, {X: x + w + .8, Y: y - size - 1}}
	for _, b := range spots {
		b.W, b.H = wide, size*1.1
		free := !slices.ContainsFunc(taken, func(o Box) bool {
			return o.X < b.X+b.W && b.X < o.X+o.W && o.Y < b.Y+b.H && b.Y < o.Y+o.H
		})
		if free || b.X == spots[len(spots)-1].X && b.Y == spots[len(spots)-1].Y {
			t.X, t.Y = b.X+.3, b.Y+size*.85
			p.Texts = append(p.Texts, t)
			p.Boxes = append(p.Boxes, Box{X: b.X, Y: b.Y, W: b.W, H: b.H, Empty: true})
			return b
		}
	}
	return Box{}
}
