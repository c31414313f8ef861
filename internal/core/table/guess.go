package table

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Use is what a column of a sheet is taken for.
type Use struct {
	Field string `json:"field" doc:"field of the thing; empty: the column is left out"`
	Unit  string `json:"unit" enum:",mm,cm,m,in,ft,kg,g,lb,oz" doc:"of numbers without one"`
}

// Mapping says how a sheet is read.
type Mapping struct {
	First   int   `json:"first" minimum:"0" doc:"row of the first thing, from 0; what stands above it are headings"`
	Columns []Use `json:"columns" maxItems:"400" nullable:"false"`
	Comma   bool  `json:"comma" doc:"numbers have decimal commas: 1,200 is 1.2 and not 1200"`
}

// Guess of a mapping, with its reasons.
type Guess struct {
	Mapping
	Headings []string `json:"headings" nullable:"false" doc:"heading of each column"`
	Why      []string `json:"why" nullable:"false" doc:"why each column is taken for what it is"`
}

// look at this many rows of content.
const sample = 200

var (
	plainNumber = regexp.MustCompile(`^\d+([.,]\d+)?$|^\d{1,3}([.,\x{a0}\x{202f} ]\d{3})+([.,]\d+)?$`)
	bareLength  = regexp.MustCompile(`^\d[\d.,]*( +\d+/\d+|-\d+/\d+|[½¼¾⅛⅜⅝⅞])?$|^\d+/\d+$|^[½¼¾⅛⅜⅝⅞]$`)
	sides       = regexp.MustCompile(`(?i)^\s*[\d.,/½¼¾⅛⅜⅝⅞ "'-]+(mm|cm|m|in|ft)?\s*[x×*]\s*[\d.,/½¼¾⅛⅜⅝⅞ "'-]+`)
	commaNumber = regexp.MustCompile(`^\d+,(\d{1,2}|\d{4,})$|^\d{1,3}(\.\d{3})+,\d+$|^0,\d+$`)
	pointNumber = regexp.MustCompile(`^\d+\.(\d{1,2}|\d{4,})$|^\d{1,3}(,\d{3})+\.\d+$|^0\.\d+$`)
	weighed     = regexp.MustCompile(`(?i)^[\d.,]+ ?(kg|g|lbs?|oz)\b`)
)

// Recognise guesses how a sheet is to be read: where its headings are, and what
// its columns hold. Semicolons tells that semicolons part its cells, as where
// decimal commas are used.
func Recognise(s *shop.Shop, rows [][]string, semicolons bool) Guess {
	width := 0
	for _, r := range rows {
		width = max(width, len(r))
	}
	g := Guess{Headings: make([]string, width), Why: make([]string, width)}
	g.Columns = make([]Use, width)
	top, last := headingRows(rows)
	g.First = last + 1
	for c := range width {
		g.Headings[c] = headingOf(rows, top, last, c)
	}
	taken := map[string]bool{}
	lengths, weights := units(s)
	for c := range width {
		for _, text := range headingTexts(rows, top, last, c) {
			col, unit, sure := heading(text)
			if col == nil || taken[col.Field] {
				continue
			}
			taken[col.Field] = true
			g.Columns[c].Field = col.Field
			g.Why[c] = fmt.Sprintf("headed %q", strings.TrimSpace(text))
			if !sure {
				g.Why[c] += ", taken for " + col.Title
			}
			g.unit(c, col, unit, lengths, weights)
			break
		}
		// A unit in the heading above counts for what stands below it.
		if col := column(g.Columns[c].Field); col != nil && col.Holds == "length" {
			for _, text := range headingTexts(rows, top, last, c) {
				if _, unit, _ := heading(text); slices.Contains(LengthUnits, unit) {
					g.Columns[c].Unit = unit
					break
				}
			}
		}
	}
	g.comma(rows, semicolons)
	g.byContent(s, rows, taken)
	return g
}

func (g *Guess) unit(c int, col *Column, unit, lengths, weights string) {
	switch col.Holds {
	case "length":
		g.Columns[c].Unit = lengths
		if slices.Contains(LengthUnits, unit) {
			g.Columns[c].Unit = unit
		}
	case "weight":
		g.Columns[c].Unit = weights
		if slices.Contains(WeightUnits, unit) {
			g.Columns[c].Unit = unit
		}
	}
	if col.Field == "size" {
		g.Columns[c].Unit = lengths
		if slices.Contains(LengthUnits, unit) {
			g.Columns[c].Unit = unit
		}
	}
}

// headingRows finds the first and last row of headings among the first ten
// rows; last is -1 when there are none.
func headingRows(rows [][]string) (top, last int) {
	best, at := 0, -1
	for r := range min(len(rows), 10) {
		if n := recognised(rows[r]); n > best {
			best, at = n, r
		}
	}
	if at < 0 || best == 1 && filled(rows[at]) > 3 && !slices.ContainsFunc(rows[at], namesThings) {
		return 0, -1 // one word alike is no row of headings
	}
	top, last = at, at
	// Further headings below, as W, H, D under a size that spans three columns.
	for last+1 < len(rows) && filled(rows[last+1]) > 0 && recognised(rows[last+1]) == filled(rows[last+1]) {
		last++
	}
	// One above that spans several columns.
	if top > 0 && filled(rows[top-1]) > 0 && filled(rows[top-1]) < filled(rows[top]) && recognised(rows[top-1]) == filled(rows[top-1]) {
		top--
	}
	return top, last
}

func namesThings(cell string) bool {
	c, _, _ := heading(cell)
	return c != nil && c.Field == "name"
}

func recognised(row []string) int {
	n := 0
	for _, cell := range row {
		if c, _, _ := heading(cell); c != nil {
			n++
		}
	}
	return n
}

func filled(row []string) int {
	n := 0
	for _, cell := range row {
		if strings.TrimSpace(cell) != "" {
			n++
		}
	}
	return n
}

func cell(rows [][]string, r, c int) string {
	if r < 0 || r >= len(rows) || c >= len(rows[r]) {
		return ""
	}
	return strings.TrimSpace(rows[r][c])
}

// headingTexts of a column, the lowest first; one that spans columns counts for
// the empty ones to its right.
func headingTexts(rows [][]string, top, last, c int) []string {
	var out []string
	for r := last; r >= top && last >= 0; r-- {
		text := cell(rows, r, c)
		for k := c - 1; text == "" && r < last && cell(rows, last, c) != "" && k >= 0; k-- {
			if cell(rows, r, k) != "" {
				text = cell(rows, r, k)
			}
		}
		if text != "" {
			out = append(out, text)
		}
	}
	return out
}

func headingOf(rows [][]string, top, last, c int) string {
	texts := headingTexts(rows, top, last, c)
	slices.Reverse(texts)
	return strings.Join(texts, " ")
}

// comma decides whether numbers are written with decimal commas.
func (g *Guess) comma(rows [][]string, semicolons bool) {
	commas, points := 0, 0
	for r := g.First; r < min(len(rows), g.First+sample); r++ {
		for _, text := range rows[r] {
			text = strings.TrimSpace(text)
			switch {
			case commaNumber.MatchString(text):
				commas++
			case pointNumber.MatchString(text):
				points++
			}
		}
	}
	g.Comma = commas > points || semicolons && points == 0
}

// byContent recognises the columns that no heading told.
func (g *Guess) byContent(s *shop.Shop, rows [][]string, taken map[string]bool) {
	lengths, weights := units(s)
	take := func(c int, field, unit, why string) {
		g.Columns[c] = Use{field, unit}
		g.Why[c] = why
		taken[field] = true
	}
	var texts, numbers []int
	blank := map[int]bool{}
	for c := range g.Columns {
		if g.Columns[c].Field != "" {
			continue
		}
		cells := g.cells(rows, c)
		if len(cells) == 0 {
			blank[c] = true
			continue
		}
		switch {
		case !taken["size"] && share(cells, sides.MatchString) > .6:
			take(c, "size", lengths, "sides with an x between them")
		case !taken["kg"] && share(cells, weighed.MatchString) > .6:
			take(c, "kg", weights, "looks like weights")
		case !taken["uses"] && share(cells, func(t string) bool {
			return !plainNumber.MatchString(t) && belongings.Put(s, &shop.Item{}, "uses", t) == ""
		}) > .6:
			take(c, "uses", "", "says how often")
		case !taken["home"] && len(s.Places) > 0 && share(cells, func(t string) bool { h, why := readHomes(s, t); return why == "" && len(h) > 0 }) > .6:
			take(c, "home", "", "names places")
		case !taken["hold"] && share(cells, func(t string) bool { return belongings.Put(s, &shop.Item{}, "hold", t) == "" }) > .6:
			take(c, "hold", "", "says how it is held")
		case !taken["flags"] && share(cells, func(t string) bool { return belongings.Put(s, &shop.Item{}, "flags", t) == "" }) > .6:
			take(c, "flags", "", "says what care it needs")
		case !taken["used_at"] && len(s.Stations) > 0 && share(cells, func(t string) bool { return belongings.Put(s, &shop.Item{}, "used_at", t) == "" }) > .6:
			take(c, "used_at", "", "names stations")
		case share(cells, func(t string) bool {
			_, err := length.Parse(t, length.Metric)
			return plainNumber.MatchString(t) || err == nil
		}) > .8:
			numbers = append(numbers, c)
		default:
			texts = append(texts, c)
		}
	}
	if !taken["name"] && !taken["line"] && len(texts) > 0 {
		best := texts[0]
		for _, c := range texts {
			if different(g.cells(rows, c)) > different(g.cells(rows, best))+.3 {
				best = c
			}
		}
		if len(taken) == 0 && len(texts) == 1 && len(numbers) == 0 {
			take(best, "line", "", "one text a row, read as a line of the list")
		} else {
			take(best, "name", "", "the first text that tells things apart")
		}
	}
	// Columns of numbers nobody named: only where no heading could have told.
	if g.First > 0 {
		return
	}
	g.numbers(rows, numbers, taken, take, lengths, weights)
}

// numbers takes three columns of numbers for the sides, a column of small whole
// ones before them for the count and one behind them for the weight.
func (g *Guess) numbers(rows [][]string, cols []int, taken map[string]bool, take func(int, string, string, string), lengths, weights string) {
	whole := func(c int) bool {
		return share(g.cells(rows, c), func(t string) bool { return len(t) <= 2 && !strings.ContainsAny(t, ".,") }) > .95
	}
	if len(cols) > 0 && !taken["count"] && whole(cols[0]) && (len(cols) != 3 || !whole(cols[1])) {
		take(cols[0], "count", "", "small whole numbers")
		cols = cols[1:]
	}
	if len(cols) >= 3 && !taken["w"] && !taken["size"] {
		for i, f := range []string{"w", "h", "d"} {
			take(cols[i], f, lengths, "one of three numbers side by side; check the order")
		}
		cols = cols[3:]
	}
	if len(cols) == 1 && !taken["kg"] {
		take(cols[0], "kg", weights, "a number behind the sides")
	}
}

// cells of a column that hold something, from the first rows.
func (g *Guess) cells(rows [][]string, c int) []string {
	var out []string
	for r := g.First; r < min(len(rows), g.First+sample); r++ {
		if t := unquoted(cell(rows, r, c)); t != "" {
			out = append(out, t)
		}
	}
	return out
}

func share(cells []string, is func(string) bool) float64 {
	n := 0
	for _, c := range cells {
		if is(c) {
			n++
		}
	}
	return float64(n) / float64(len(cells))
}

func different(cells []string) float64 {
	seen := map[string]bool{}
	for _, c := range cells {
		seen[c] = true
	}
	return float64(len(seen)) / float64(max(1, len(cells)))
}

// number takes the marks and blanks between thousands out of a number, so that
// length, weight and strconv read it; a decimal comma they read themselves.
func (m *Mapping) number(text string) string {
	grouped := groupedPoint
	if m.Comma {
		grouped = groupedComma
	}
	at := grouped.FindStringIndex(text)
	if at == nil || at[1] < len(text) && text[at[1]] >= '0' && text[at[1]] <= '9' {
		return text
	}
	mark := ","
	if m.Comma {
		mark = "."
	}
	head := strings.NewReplacer("\u00a0", "", "\u202f", "", " ", "", mark, "").Replace(text[:at[1]])
	return head + text[at[1]:]
}

var (
	groupedPoint = regexp.MustCompile(`^[1-9]\d{0,2}([,\x{a0}\x{202f} ]\d{3})+(\.\d+)?`)
	groupedComma = regexp.MustCompile(`^[1-9]\d{0,2}([.\x{a0}\x{202f} ]\d{3})+(,\d+)?`)
)

// measured puts the unit of its column behind a number that has none.
func measured(text, unit string) string {
	if unit != "" && bareLength.MatchString(text) {
		return text + " " + unit
	}
	return text
}
