package line_test

import (
	"bufio"
	"fmt"
	"math"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
)

func stations() []shop.Station {
	var out []shop.Station
	for _, s := range [][3]string{{"bench", "Main bench", "bench"}, {"drill-press", "Drill press", "drill-press"}, {"sharpening", "Sharpening bench", "sharpening"}, {"lathe", "Small lathe", "lathe"}, {"assembly", "Glue-up table", "table"}, {"finishing", "Varnish table", "finishing"}} {
		out = append(out, shop.Station{ID: s[0], Name: s[1], Kind: shop.StationKind(s[2])})
	}
	return out
}

func parse(text string, units length.System) *line.Parsed {
	return line.Parse(text, line.Context{Units: units, Stations: stations()})
}

// example of the corpus: a line and what it means.
type example map[string]string

func corpus(t require.TestingT) []example {
	f, err := os.Open("testdata/lines.tsv")
	require.NoError(t, err)
	defer f.Close()
	in := bufio.NewScanner(f)
	var heads []string
	var out []example
	for in.Scan() {
		cells := strings.Split(in.Text(), "\t")
		if heads == nil {
			heads = cells
			continue
		}
		e := example{}
		for i, h := range heads {
			e[h] = cells[i]
		}
		out = append(out, e)
	}
	require.NoError(t, in.Err())
	return out
}

// wrong says what of a line was read otherwise than meant, and whether a mark says so.
func (e example) wrong() (what []string, marked bool) {
	p := parse(e["line"], length.System(e["units"]))
	it := p.Item
	differ := func(field string, got any) {
		if want := e[field]; want != fmt.Sprint(got) {
			what = append(what, fmt.Sprintf("%s: %v, not %s", field, got, want))
		}
	}
	near := func(field string, got, within float64) {
		if e[field] == "" {
			return
		}
		want, _ := strconv.ParseFloat(e[field], 64)
		if math.Abs(want-got) > within {
			what = append(what, fmt.Sprintf("%s: %v, not %v", field, got, want))
		}
	}
	differ("name", it.Name)
	differ("kind", it.Kind)
	if e["count"] != "" || it.Count != 0 {
		differ("count", it.Count)
	}
	if e["size"] != "" {
		for i, s := range strings.Split(e["size"], "x") {
			want, _ := strconv.ParseFloat(s, 64)
			if got := []length.Length{it.W, it.H, it.D}[i].MM(); math.Abs(got-want) > .1 {
				what = append(what, fmt.Sprintf("size %d: %v, not %v", i, got, want))
			}
		}
	}
	near("kg", it.KG.KG(), .003)
	near("uses", it.UsesPerWeek, .01)
	if e["station"] != "" && !slices.Contains(it.UsedAt, e["station"]) {
		what = append(what, "station "+strings.Join(it.UsedAt, ","))
	}
	if e["hold"] != "" && (len(it.Hold) != 1 || string(it.Hold[0]) != e["hold"]) {
		what = append(what, fmt.Sprint("hold ", it.Hold))
	}
	if e["flag"] != "" && !it.Flagged(shop.Flag(e["flag"])) {
		what = append(what, fmt.Sprint("flags ", it.Flags))
	}
	differ("family", it.Family)
	differ("unknown", p.Unknown)
	marked = p.Unknown > 0 || !p.Known || slices.ContainsFunc(p.Chips, func(c line.Chip) bool { return !c.Sure })
	return what, marked
}

func TestTheCorpusIsReadRight(t *testing.T) {
	all := corpus(t)
	require.GreaterOrEqual(t, len(all), 400)
	right := 0
	for _, e := range all {
		what, marked := e.wrong()
		if len(what) == 0 {
			right++
			continue
		}
		t.Logf("%q: %s", e["line"], strings.Join(what, "; "))
		assert.True(t, marked, "wrong without a mark: %q: %s", e["line"], strings.Join(what, "; "))
	}
	share := 100 * float64(right) / float64(len(all))
	t.Logf("%d of %d lines read right: %.1f %%", right, len(all), share)
	assert.GreaterOrEqual(t, share, 98.0)
}

func TestEveryPieceOfALineIsAccountedFor(t *testing.T) {
	for _, e := range corpus(t) {
		p := parse(e["line"], length.System(e["units"]))
		covered := []rune(e["line"])
		for _, c := range p.Chips {
			require.True(t, c.From >= 0 && c.From < c.To && c.To <= len(covered), "%q %+v", e["line"], c)
			assert.NotEmpty(t, c.Says, "%q: %+v", e["line"], c)
			for i := c.From; i < c.To; i++ {
				covered[i] = ' '
			}
		}
		assert.Empty(t, strings.Trim(string(covered), " ,;()"), "%q leaves %q", e["line"], string(covered))
	}
}

func TestWhatWasNotSaidIsAssumed(t *testing.T) {
	p := parse("jack plane", length.Metric)
	assert.Equal(t, []string{"w", "h", "d", "kg", "uses_per_week"}, p.Item.Assumed)
	assert.Equal(t, []shop.Flag{"rust", "sharp"}, p.Item.Flags)
	assert.Equal(t, []string{"bench"}, p.Item.UsedAt)
	p = parse("jack plane 360x65x140 2.3kg weekly", length.Metric)
	assert.Empty(t, p.Item.Assumed)
	p = parse("2440 by 1220 plywood sheet", length.Metric)
	assert.Equal(t, []string{"d", "kg", "uses_per_week"}, p.Item.Assumed, "two sides given, the thickness assumed")
	assert.NotEmpty(t, parse("", length.Metric).Why)
	assert.NotEmpty(t, parse("360x65x140 @bench", length.Metric).Why)
}

func TestWhatIsNotUnderstoodIsMarkedWithWhatWouldBeRight(t *testing.T) {
	for text, says := range map[string]string{
		"jack plane @moon":        "there is no station \"moon\"; there are @bench",
		"jack plane #sparkly":     "is no flag",
		"tenon saw 7":             "7 of what?",
		"mallet 0x0x0":            "more than 0",
		"mallet kind:moonbeam":    "there is no kind",
		"mallet count:many":       "whole number",
		"mallet 90000 kg":         "a weight is written as",
		"brace colour:red":        "is not understood",
		"mallet 300x90 parsecs x": "",
	} {
		p := parse(text, length.Metric)
		if says == "" {
			continue
		}
		i := slices.IndexFunc(p.Chips, func(c line.Chip) bool { return c.Kind == "unknown" })
		require.GreaterOrEqual(t, i, 0, text)
		assert.Contains(t, p.Chips[i].Says, says, text)
	}
}

func FuzzParse(f *testing.F) {
	for _, e := range corpus(f) {
		f.Add(e["line"])
	}
	f.Fuzz(func(t *testing.T, text string) {
		p := parse(text, length.Metric)
		n := utf8.RuneCountInString(text)
		for _, c := range p.Chips {
			if c.From < 0 || c.From >= c.To || c.To > n {
				t.Fatalf("%q: chip %+v", text, c)
			}
		}
		if p.Why == "" {
			it := p.Item
			if it.Name == "" || it.W <= 0 || it.H <= 0 || it.D <= 0 || it.KG < 0 || it.UsesPerWeek < 0 {
				t.Fatalf("%q makes %+v", text, it)
			}
		}
	})
}

// BenchmarkParse reads the corpus; reported is the time a line takes.
func BenchmarkParse(b *testing.B) {
	all := corpus(b)
	right := 0
	for b.Loop() {
		for _, e := range all {
			parse(e["line"], length.System(e["units"]))
		}
	}
	for _, e := range all {
		if what, _ := e.wrong(); len(what) == 0 {
			right++
		}
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N*len(all)), "µs/line")
	b.ReportMetric(100*float64(right)/float64(len(all)), "%right")
}
