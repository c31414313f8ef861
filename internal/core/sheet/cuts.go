package sheet

import (
	"fmt"

	"hobrak/internal/core/cutting"
	"hobrak/internal/core/length"
)

// cutScales a piece of stock is drawn at, the largest that fits: 1 to so many.
var cutScales = []float64{5, 10, 15, 20, 25, 50}

// Cuts are drawings of a plan of cuts, a page for each piece of stock: parts with their sizes, offcuts grey, cuts numbered in the order
// in which they are made. What is alike is drawn once and counted.
func Cuts(p *cutting.Plan, title string, called func(stock string) string, paper Paper, units length.System) []Page {
	var out []Page
	style := length.Style{System: units}
	say := func(mm float64) string { return style.Typed(length.MM(mm)) }
	for i := range p.Pieces {
		x := &p.Pieces[i]
		pageW, pageH := paper.H, paper.W // on its side
		scale := cutScales[len(cutScales)-1]
		for _, s := range cutScales {
			if x.L/s < pageW-30 && x.W/s < pageH-70 {
				scale = s
				break
			}
		}
		page := Page{W: pageW, H: pageH}
		left, top := 15.0, 32.0
		at := func(px, py float64) (float64, float64) { return left + px/scale, top + (x.W-py)/scale }
		rect := func(px, py, l, w, grey, weight float64) {
			x0, y0 := at(px, py)
			x1, y1 := at(px+l, py+w)
			page.Paths = append(page.Paths, Outline([][2]float64{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}, grey, weight))
		}
		page.bold(left, 14, 5, "start", title)
		page.text(left, 21, 3.4, "start", fmt.Sprintf("%s, %s × %s, piece %d of %d, 1 : %.0f", called(x.Stock), say(x.L), say(x.W), i+1, len(p.Pieces), scale))
		rect(0, 0, x.L, x.W, .98, .4)
		for _, o := range x.Offcuts {
			rect(o.X, o.Y, o.L, o.W, .86, .12)
			label(&page, at, o.X, o.Y, o.L, o.W, scale, say(o.L)+" × "+say(o.W), "")
		}
		for _, part := range x.Parts {
			rect(part.X, part.Y, part.L, part.W, 1, .25)
			label(&page, at, part.X, part.Y, part.L, part.W, scale, part.Part, say(part.L)+" × "+say(part.W))
		}
		// Cuts in their order, in words: what is cut, how, at which measure of the fence.
		y := top + x.W/scale + 8
		col, rows := 0, int((pageH-y-8)/4.2)
		size := map[int][2]float64{0: {x.L - 2*x.Trim, x.W - 2*x.Trim}}
		for n, c := range x.Cuts {
			from := size[c.Of]
			how, rest := "across at", [2]float64{max(0, from[0]-c.At-p.Kerf), from[1]}
			first := [2]float64{c.At, from[1]}
			if c.Along == "l" {
				how, first, rest = "along at", [2]float64{from[0], c.At}, [2]float64{from[0], max(0, from[1]-c.At-p.Kerf)}
			}
			size[c.Gives[0]], size[c.Gives[1]] = first, rest
			if rows < 1 {
				break
			}
			if n > 0 && n%rows == 0 {
				col++
			}
			if lx := left + float64(col)*62; lx < pageW-60 {
				page.text(lx, y+float64(n%rows)*4.2, 2.8, "start", fmt.Sprintf("%d  %s × %s, %s %s", c.N, say(from[0]), say(from[1]), how, say(c.At)))
			}
		}
		page.control(left, pageH-5, units)
		out = append(out, page)
	}
	return out
}

// label writes one or two lines into a rectangle where there is room.
func label(page *Page, at func(x, y float64) (float64, float64), x, y, l, w, scale float64, first, second string) {
	cx, cy := at(x+l/2, y+w/2)
	size := min(3.2, w/scale/2.6)
	if size < 1.4 {
		return
	}
	t := Text{X: cx, Y: cy, Size: size, Text: first, Anchor: "middle"}.Cut(l/scale - 1)
	if second == "" {
		page.Texts = append(page.Texts, t)
		return
	}
	t.Y = cy - size*.2
	page.Texts = append(page.Texts, t, Text{X: cx, Y: cy + size, Size: size * .85, Text: second, Anchor: "middle"}.Cut(l/scale-1))
}
