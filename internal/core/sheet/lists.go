package sheet

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/weight"
)

// Emergencies says where what is needed at once lives, and what of it is nowhere.
func Emergencies(r *round.Round) string {
	var said []string
	aid, fire := false, false
	for i := range r.Items {
		it := &r.Items[i]
		k, ok := kinds.Sure(it.Name)
		if !ok || !kinds.Emergency(k.Kind.Name) || it.Place == "" {
			continue
		}
		if k.Kind.Name == "first-aid box" {
			aid = true
		} else {
			fire = true
		}
		said = append(said, it.Name+" in "+it.Place)
	}
	if !aid {
		said = append(said, "no first-aid box has a home")
	}
	if !fire {
		said = append(said, "no fire extinguisher has a home")
	}
	return "In an emergency: " + strings.Join(said, " · ")
}

// Emergency writes a line along the upper edge of a sheet.
func (p *Page) Emergency(says string) {
	p.Texts = append(p.Texts, Text{X: edge, Y: 4, Size: 2.4, Anchor: "start", Text: says}.Cut(p.W-2*edge))
}

// Belongings lists everything owned by name: how many, how large, how heavy, and where it lives.
func Belongings(r *round.Round, paper Paper) []Page {
	items := slices.Clone(r.Items)
	slices.SortStableFunc(items, func(a, b round.Item) int { return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) })
	imperial := length.Style{System: r.Units}
	size := func(i *round.Item) string {
		if r.Units == length.Imperial {
			return imperial.Format(length.MM(i.W)) + " × " + imperial.Format(length.MM(i.H)) + " × " + imperial.Format(length.MM(i.D))
		}
		return fmt.Sprintf("%.0f × %.0f × %.0f mm", i.W, i.H, i.D)
	}
	kg := func(i *round.Item) string {
		if i.KG == 0 {
			return ""
		}
		text := weight.Format(weight.KG(i.KG), r.Units)
		if r.Comma {
			text = strings.ReplaceAll(text, ".", ",")
		}
		return text
	}
	inner := paper.W - 2*margin
	columns := []struct {
		title string
		at, w float64 // shares of the width
		end   bool
		of    func(*round.Item) string
	}{
		{"thing", 0, .44, false, func(i *round.Item) string { return i.Name }},
		{"count", .44, .07, true, func(i *round.Item) string { return fmt.Sprint(i.Count) }},
		{"width × height × depth", .53, .25, false, size},
		{"weight", .78, .1, true, kg},
		{"lives in", .9, .1, false, func(i *round.Item) string { return cmp.Or(i.Place, "no home") }},
	}
	const letters, step = 2.9, 4.6
	top := margin + 10
	rows := int((paper.H - margin - top) / step)
	var pages []Page
	for from := 0; from == 0 || from < len(items); from += rows {
		p := Page{W: paper.W, H: paper.H}
		p.bold(margin, margin+2, 5, "start", r.Name+": belongings")
		p.line(margin, margin+5, paper.W-margin, margin+5, .3)
		row := func(y float64, bold bool, of func(k int) string) {
			for k, c := range columns {
				t := Text{X: margin + c.at*inner, Y: y, Size: letters, Anchor: "start", Bold: bold, Text: of(k)}
				if t = t.Cut(c.w*inner - 1); c.end {
					t.X, t.Anchor = margin+(c.at+c.w)*inner, "end"
				}
				if t.Text != "" {
					p.Texts = append(p.Texts, t)
				}
			}
		}
		row(top, true, func(k int) string { return columns[k].title })
		for n := range min(rows-1, len(items)-from) {
			it := &items[from+n]
			y := top + float64(n+1)*step
			row(y, false, func(k int) string { return columns[k].of(it) })
			p.line(margin, y+1.3, paper.W-margin, y+1.3, .05)
		}
		from-- // the heading takes a row of each page
		pages = append(pages, p)
	}
	for i := range pages {
		pages[i].text(paper.W-margin, paper.H-6, 2.6, "end", fmt.Sprintf("page %d of %d", i+1, len(pages)))
	}
	return pages
}

// Contents lists every place with what lives there, and at the end what has no home, on pages of a paper.
func Contents(r *round.Round, paper Paper) []Page {
	type line struct {
		text, right string
		head        bool
	}
	var lines []line
	things := func(place string) {
		for i := range r.Items {
			it := &r.Items[i]
			if it.Place != place {
				continue
			}
			text := it.Name
			if it.Count > 1 {
				text = fmt.Sprintf("%d × %s", it.Count, it.Name)
			}
			lines = append(lines, line{text: text, right: it.Family})
		}
	}
	for i := range r.Places {
		p := &r.Places[i]
		lines = append(lines, line{text: strings.TrimSpace(p.ID + "  " + p.Name), right: fmt.Sprintf("%d", p.Items), head: true})
		things(p.ID)
	}
	if r.Totals.Homeless > 0 {
		lines = append(lines, line{text: "No home yet", right: fmt.Sprintf("%d", r.Totals.Homeless), head: true})
		things("")
	}
	const (
		size, step = 3.0, 4.4
		cols       = 2
		gutter     = 8.0
	)
	colW := (paper.W - 2*margin - (cols-1)*gutter) / cols
	top, bottom := margin+10, paper.H-margin
	var pages []Page
	col, y := cols, bottom
	for i, l := range lines {
		need := step
		if l.head {
			need = 2 * step // never a head alone at the foot of a column
			if i+1 < len(lines) {
				need += step
			}
		}
		if y+need > bottom {
			y = top
			if col++; col >= cols {
				col = 0
				p := Page{W: paper.W, H: paper.H}
				p.bold(margin, margin+2, 5, "start", r.Name+": what lives where")
				p.line(margin, margin+5, paper.W-margin, margin+5, .3)
				pages = append(pages, p)
			}
		}
		p := &pages[len(pages)-1]
		x := margin + float64(col)*(colW+gutter)
		if l.head {
			y += step * .6
			p.line(x, y+1.2, x+colW, y+1.2, .2)
		}
		t := Text{X: x, Y: y, Size: size, Text: l.text, Anchor: "start", Bold: l.head}
		p.Texts = append(p.Texts, t.Cut(colW-Text{Size: size, Text: l.right}.Width()-2))
		if l.right != "" {
			p.text(x+colW, y, size*.85, "end", l.right)
		}
		y += step
		if l.head {
			y += .4
		}
	}
	if len(pages) == 0 {
		p := Page{W: paper.W, H: paper.H}
		p.bold(margin, margin+2, 5, "start", r.Name+": what lives where")
		p.text(margin, margin+12, 3.2, "start", "No places yet.")
		pages = append(pages, p)
	}
	for i := range pages {
		pages[i].text(paper.W-margin, paper.H-6, 2.6, "end", fmt.Sprintf("page %d of %d", i+1, len(pages)))
	}
	return pages
}
