package wood

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// Reading of a line about wood.
type Reading struct {
	Count  int      `json:"count"`
	Of     string   `json:"of" doc:"kind of wood; empty when none was recognised"`
	Called string   `json:"called"`
	Form   string   `json:"form"`
	L      float64  `json:"l"`
	W      float64  `json:"w"`
	T      float64  `json:"t"`
	Place  string   `json:"place"`
	About  bool     `json:"about"`
	Across bool     `json:"across"`
	Price  float64  `json:"price"`
	Says   []string `json:"says" nullable:"false" doc:"what was taken for something, and might be otherwise"`
}

// alias is a name of a wood beside that of the table, as people say it.
type alias struct {
	word, id string
	begins   *regexp.Regexp // a word that begins so
}

var also = func() (out []alias) {
	for _, x := range [][2]string{
		{"birch ply", "birch-plywood"}, {"ply", "plywood"}, {"oak", "white-oak"}, {"maple", "hard-maple"}, {"birch", "yellow-birch"}, {"poplar", "yellow-poplar"}, {"tulipwood", "yellow-poplar"},
		{"pine", "white-pine"}, {"fir", "douglas-fir"}, {"spruce", "sitka-spruce"}, {"cedar", "redcedar"}, {"particle board", "particle-board"}, {"chipboard", "particle-board"}, {"fibreboard", "mdf"},
	} {
		out = append(out, alias{x[0], x[1], regexp.MustCompile(`\b` + x[0])})
	}
	return out
}()

var (
	one      = `((?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:[.,]\d+)?)(?:\s*(?:mm|cm|m|"|in|ft|'))?)`
	sizes    = regexp.MustCompile(`(?i)` + one + `\s*[x×]\s*` + one + `(?:\s*[x×]\s*` + one + `)?`)
	feet     = regexp.MustCompile(`(?i)(\d+(?:[.,]\d+)?)\s*(?:bf|bdft|board feet|board foot)\b`)
	quarters = regexp.MustCompile(`\b(\d{1,2})/4\b`)
	half     = regexp.MustCompile(`(?i)\b(1/2|1/4|half|quarter)\s+sheets?\b`)
	leading  = regexp.MustCompile(`^\s*(\d{1,4})\s*(?:x\s+|×\s+|\s)`)
	thick    = regexp.MustCompile(`(?i)\b(\d+(?:[.,]\d+)?)\s*mm\b`)
	costs    = regexp.MustCompile(`(?i)\bat\s+(\d+(?:[.,]\d+)?)\b`)
)

// Sheets as they are sold, mm.
const (
	sheetL, sheetW = 2440.0, 1220.0
)

// dressedTo are the sizes that softwood is planed to, by what its sides are called, inches (American Softwood Lumber Standard, PS 20).
var dressedTo = map[string]float64{"1": .75, "2": 1.5, "3": 2.5, "4": 3.5, "5": 4.5, "6": 5.5, "8": 7.25, "10": 9.25, "12": 11.25}

// dressed is the section, mm, of what is called by its nominal size: two bare numbers, and a length in feet or in an imperial shop.
func dressed(typed []string, imperial bool) (t, w float64, ok bool) {
	a, ok1 := dressedTo[typed[0]]
	b, ok2 := dressedTo[typed[1]]
	if !ok1 || !ok2 || !imperial && !strings.ContainsAny(typed[2], `'"fi`) {
		return 0, 0, false
	}
	return min(a, b) * 25.4, max(a, b) * 25.4, true
}

// Read takes a line for wood: how many, of what, length x width x thickness, where. Sizes without a unit are the shop's. The error says
// what is missing.
func Read(s *shop.Shop, text string) (*Reading, error) {
	r := &Reading{Count: 1, Form: Board, Says: []string{}}
	rest := " " + strings.TrimSpace(text) + " "
	if strings.TrimSpace(rest) == "" {
		return nil, fmt.Errorf("say what: 8 oak 2600x180x30 C2")
	}
	units := s.Settings.Units
	imperial := units == length.Imperial
	number := func(t string) float64 {
		v, _ := strconv.ParseFloat(strings.ReplaceAll(t, ",", "."), 64) // the pattern is one of a number
		return v
	}
	cut := func(at []int) { rest = rest[:at[0]] + " " + rest[at[1]:] }
	if m := half.FindStringSubmatchIndex(rest); m != nil {
		r.Form, r.L, r.W = Sheet, sheetL/2, sheetW
		if w := strings.ToLower(rest[m[2]:m[3]]); w == "1/4" || w == "quarter" {
			r.W = sheetW / 2
		}
		cut(m[:2])
	}
	if m := feet.FindStringSubmatchIndex(rest); m != nil {
		volume := number(rest[m[2]:m[3]]) * boardFoot * 1e9 // mm³
		cut(m[:2])
		t := 25.4
		if q := quarters.FindStringSubmatchIndex(rest); q != nil {
			t = number(rest[q[2]:q[3]]) / 4 * 25.4
			cut(q[:2])
		}
		// So many board feet of a usual board: 8 ft long, as wide as it then is, in pieces of 8 in at most.
		l := 2438.0
		r.Count = int(math.Max(1, math.Ceil(volume/(l*203*t))))
		r.L, r.T = l, t
		r.W = math.Round(volume / (l * t * float64(r.Count)))
		r.About = true
		r.Says = append(r.Says, fmt.Sprintf("board feet say no sizes: taken for %d boards 8 ft long; type their sizes once they are there", r.Count))
	}
	if m := sizes.FindStringSubmatchIndex(rest); m != nil {
		var v []float64
		var typed []string
		for k := 1; k <= 3; k++ {
			if m[2*k] < 0 {
				continue
			}
			typed = append(typed, strings.TrimSpace(rest[m[2*k]:m[2*k+1]]))
			l, err := length.Parse(typed[k-1], units)
			if err != nil {
				return nil, err
			}
			v = append(v, l.MM())
		}
		cut(m[:2])
		r.L, r.W = v[0], v[1]
		if len(v) == 3 {
			r.T = v[2]
			if t, w, ok := dressed(typed, imperial); ok && v[2] > 2*max(v[0], v[1]) {
				r.T, r.W, r.L = t, w, v[2]
				style := length.Style{System: units}
				r.Says = append(r.Says, fmt.Sprintf("%s × %s was taken for its nominal size: dressed it is %s × %s; type the unit with it if it measures what it is called", typed[0], typed[1], style.Typed(length.MM(t)), style.Typed(length.MM(w))))
			}
		}
		if imperial && len(v) == 2 && v[0] < 310 && v[1] < 310 && r.T == 0 {
			return nil, fmt.Errorf("%s is a section: say the length as well, as 2x4x8'", strings.TrimSpace(text))
		}
	}
	if q := quarters.FindStringSubmatchIndex(rest); q != nil && r.T == 0 {
		r.T = number(rest[q[2]:q[3]]) / 4 * 25.4
		r.Says = append(r.Says, "quarters are rough thickness: planed it is 5 mm less or so")
		cut(q[:2])
	}
	if m := costs.FindStringSubmatchIndex(rest); m != nil {
		r.Price = number(rest[m[2]:m[3]])
		cut(m[:2])
	}
	if m := thick.FindStringSubmatchIndex(rest); m != nil && r.T == 0 {
		r.T = number(rest[m[2]:m[3]])
		cut(m[:2])
	}
	if m := leading.FindStringSubmatchIndex(rest); m != nil {
		n := int(number(rest[m[2]:m[3]]))
		if n < 1 || n > shop.MostCount {
			return nil, fmt.Errorf("%d pieces; from 1 to %d", n, shop.MostCount)
		}
		r.Count = n
		cut(m[:2])
	}
	lower := strings.ToLower(rest)
	for _, w := range load.Woods {
		if strings.Contains(lower, strings.ToLower(w.Name)) && (r.Of == "" || len(w.Name) > len(Called(r.Of))) {
			r.Of = w.ID
		}
	}
	if r.Of == "" || r.Of == "plywood" {
		for _, a := range also {
			if a.begins.MatchString(lower) {
				r.Of = a.id
				if Called(a.id) != a.word {
					r.Says = append(r.Says, a.word+" was taken for "+Called(a.id))
				}
				break
			}
		}
	}
	switch {
	case strings.Contains(lower, "offcut"), strings.Contains(lower, "scrap"):
		r.Form = Offcut
	case strings.Contains(lower, "billet"), strings.Contains(lower, "blank"):
		r.Form = Billet
	case strings.Contains(lower, "veneer"):
		r.Form = Veneer
	case strings.Contains(lower, "moulding"):
		r.Form = Moulding
	case strings.Contains(lower, "sheet"), r.Of == "plywood", r.Of == "birch-plywood", r.Of == "mdf", r.Of == "particle-board", r.Of == "osb":
		r.Form = Sheet
		if r.L == 0 {
			r.L, r.W = sheetL, sheetW
			r.Says = append(r.Says, "taken for a whole sheet")
		}
	}
	r.About = r.About || strings.Contains(lower, "about") || strings.Contains(lower, "~")
	r.Across = strings.Contains(lower, "across")
	for _, word := range strings.Fields(rest) {
		for i := range s.Places {
			if strings.EqualFold(s.Places[i].ID, word) {
				r.Place = s.Places[i].ID
			}
		}
	}
	r.Called = Called(r.Of)
	if r.Of == "" {
		r.Says = append(r.Says, "which wood is not known; say it when you do")
	}
	if r.T == 0 && r.L > 0 {
		return nil, fmt.Errorf("how thick? as %s", example(imperial))
	}
	if r.L == 0 || r.W == 0 {
		return nil, fmt.Errorf("which size? as %s", example(imperial))
	}
	if r.L < r.W {
		r.L, r.W = r.W, r.L
		r.Across = !r.Across && r.Form == Sheet
	}
	if r.T > r.W {
		r.W, r.T = r.T, r.W
	}
	if !imperial && r.L < 12 && r.Form == Board {
		return nil, fmt.Errorf("%g mm long? sizes without a unit are millimetres here; write 2.4 m or 8 ft", r.L)
	}
	for _, v := range []float64{r.L, r.W, r.T} {
		if v > shop.MostSide.MM() {
			return nil, fmt.Errorf("%g mm is more than any board", v)
		}
	}
	return r, nil
}

func example(imperial bool) string {
	if imperial {
		return `8 oak 96x7x1 C2`
	}
	return "8 oak 2600x180x30 C2"
}

// Item is the thing a reading comes to.
func (r *Reading) Item(s *shop.Shop, today string) shop.Item {
	name := strings.ToUpper(r.Called[:1]) + r.Called[1:]
	if r.Of == "" {
		name = "Wood"
	}
	if r.Form != Board {
		name += " " + r.Form
	}
	style := length.Style{System: s.Settings.Units}
	name += fmt.Sprintf(" %s × %s × %s", style.Typed(length.MM(r.L)), style.Typed(length.MM(r.W)), style.Typed(length.MM(r.T)))
	it := shop.Item{Name: name, Kind: "board", W: length.MM(r.L), H: length.MM(r.T), D: length.MM(r.W), Count: r.Count, Hold: []shop.Hold{"arms", "flat"}, UsesPerWeek: .2,
		Wood: &shop.Wood{Of: r.Of, Form: r.Form, About: r.About, Across: r.Across, Price: r.Price, Came: today}, Assumed: []string{"uses_per_week"}}
	switch {
	case r.Form == Sheet || r.Form == Veneer:
		it.Kind, it.H, it.D, it.Hold = "sheet", length.MM(r.W), length.MM(r.T), []shop.Hold{"lean", "flat"}
	case r.L < 1000:
		it.Kind, it.Hold = "offcut", []shop.Hold{"bin", "lean", "flat", "stand", "arms"}
	}
	if it.Count == 1 {
		it.Count = 0
	}
	return it
}

// Size reads length x width x thickness as typed, mm; units where none are said are the shop's.
func Size(s *shop.Shop, text string) (l, w, t float64, err error) {
	m := sizes.FindStringSubmatch(text)
	if m == nil || m[3] == "" {
		return 0, 0, 0, fmt.Errorf("%q should be length x width x thickness, as %s", strings.TrimSpace(text), map[bool]string{true: "25x3 1/2x3/4", false: "640x90x20"}[s.Settings.Units == length.Imperial])
	}
	var v [3]float64
	for k := range v {
		x, err := length.Parse(strings.TrimSpace(m[k+1]), s.Settings.Units)
		if err != nil {
			return 0, 0, 0, err
		}
		if v[k] = x.MM(); v[k] <= 0 || v[k] > shop.MostSide.MM() {
			return 0, 0, 0, fmt.Errorf("%s is not possible for a side", m[k+1])
		}
	}
	return v[0], v[1], v[2], nil
}
