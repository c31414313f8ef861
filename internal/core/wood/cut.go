package wood

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/cutting"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// ForCutting is what of the stock parts can be cut from: by the wood of each part, from pieces as thick or thicker by no more than is
// planed off. What is promised to another project, goes, or has a size that is a guess stays out of it.
func (st *Stock) ForCutting(parts []cutting.Part, plane float64, project string) []cutting.Stock {
	out := []cutting.Stock{}
	for i := range st.Pieces {
		p := &st.Pieces[i]
		if p.Promised != "" && !strings.EqualFold(p.Promised, project) || p.GoesTo != "" || p.About {
			continue
		}
		t := math.Inf(-1) // the thickest part it is thick enough for
		for _, x := range parts {
			if x.Material == p.Of && x.T <= p.T+.05 && p.T-x.T <= plane+.05 {
				t = max(t, x.T)
			}
		}
		if math.IsInf(t, -1) {
			continue
		}
		l, w := p.L, p.W
		if p.Across { // the grain is along the length of what is cut
			l, w = w, l
		}
		out = append(out, cutting.Stock{Name: p.Item, Count: p.Count, L: l, W: w, T: t, Material: p.Of})
	}
	return out
}

// Came is an offcut that comes into stock.
type Came struct {
	Name  string `json:"name"`
	Place string `json:"place" doc:"empty when no bin or rack has room for it"`
}

// Take books a plan that was carried out: what was cut is gone from the stock, offcuts that are worth keeping are in it, with a place
// where there is room. The error says what is not there any more.
func Take(s *shop.Shop, p *cutting.Plan, materials map[string]cutting.Stock, today string) ([]Came, error) {
	used := map[string]int{}
	for _, x := range p.Pieces {
		if !x.Bought {
			used[x.Stock]++
		}
	}
	ix := shop.NewIndex(s)
	for id, n := range used {
		it := ix.Item(id)
		if it == nil || it.Wood == nil {
			return nil, fmt.Errorf("%s is not in stock any more: make the plan again", id)
		}
		if it.Number() < n {
			return nil, fmt.Errorf("of %s there are %d, the plan cuts %d: make the plan again", it.Name, it.Number(), n)
		}
	}
	var left []shop.Item
	for _, x := range p.Pieces {
		of, t, salvaged := "", 0.0, false
		if it := ix.Item(x.Stock); it != nil && !x.Bought {
			of, salvaged = it.Wood.Of, it.Wood.Salvaged
			_, _, t = Sides(it)
		} else {
			of, t = materials[x.Stock].Material, materials[x.Stock].T
		}
		for _, o := range x.Offcuts {
			if max(o.L, o.W) < s.Settings.UsefulLength().MM() || min(o.L, o.W) < usefulWide {
				continue
			}
			r := Reading{Count: 1, Of: of, Called: Called(of), Form: Offcut, L: math.Floor(o.L), W: math.Floor(o.W), T: t}
			if r.L < r.W {
				r.L, r.W, r.Across = r.W, r.L, true
			}
			it := r.Item(s, today)
			it.Wood.Salvaged = salvaged
			left = append(left, it)
		}
	}
	for id, n := range used {
		less(s, id, n)
	}
	came := []Came{}
	for _, it := range left {
		it.ID = freshID(s, it.Name)
		s.Items = append(s.Items, it)
		came = append(came, Came{Name: it.Name})
	}
	if len(left) == 0 {
		return came, nil
	}
	h, err := fit.NewHands(s)
	if err != nil {
		return nil, err
	}
	ix = shop.NewIndex(s)
	first := len(s.Items) - len(left)
	for i := range left {
		k := h.Pick(first+i, 1)
		if at, ok := h.Room(k, func(id string) bool { q := ix.Place(id); return q != nil && holds(q) }); ok && h.Lay(k, &at) == nil {
			at.Item = s.Items[first+i].ID
			s.Homes = append(s.Homes, at)
			came[i].Place = at.Place
		}
	}
	return came, nil
}

// less takes some pieces of a thing away, with their homes; all of them take it off the list.
func less(s *shop.Shop, id string, n int) {
	k := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
	it := &s.Items[k]
	left := it.Number() - n
	if left <= 0 {
		s.Items = slices.Delete(s.Items, k, k+1)
		s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == id })
		return
	}
	number := it.Number()
	for i := range s.Homes { // from the end: what lies on top goes first
		h := &s.Homes[len(s.Homes)-1-i]
		if h.Item != id || n == 0 {
			continue
		}
		there := h.N
		if there == 0 {
			there = number
		}
		taken := min(n, there)
		n -= taken
		if h.N = there - taken; h.N == 0 {
			h.N = -1
		}
	}
	s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == id && h.N < 0 })
	it.Count = left
	if left == 1 {
		it.Count = 0
	}
	for i := range s.Homes {
		if h := &s.Homes[i]; h.Item == id && h.N == left {
			h.N = 0
		}
	}
}

// ReadPart reads a line of a cut list: name, count, length x width x thickness, wood, grain. The rest is its name.
func ReadPart(s *shop.Shop, text string) (cutting.Part, error) {
	r, err := Read(s, text)
	if err != nil {
		return cutting.Part{}, err
	}
	p := cutting.Part{Count: r.Count, L: r.L, W: r.W, T: r.T, Material: r.Of, Grain: cutting.AlongL}
	lower := strings.ToLower(text)
	if r.Across {
		p.Grain = cutting.AlongW
	}
	if strings.Contains(lower, "any way") || strings.Contains(lower, "either way") || r.Of == "mdf" || r.Of == "particle-board" || r.Of == "osb" {
		p.Grain = cutting.Whatever
	}
	// The name is what stands before the first number that is a size, less the count.
	name := strings.TrimSpace(sizes.ReplaceAllString(text, ""))
	for _, w := range append([]string{r.Called, "any way", "either way", "across", "sheet", "mm"}, words()...) {
		name = replaceWord(name, w)
	}
	name = strings.Trim(leading.ReplaceAllString(" "+name+" ", " "), " ,;:×x")
	name = strings.Join(strings.Fields(name), " ")
	if name == "" {
		name = "part"
	}
	p.Name = name
	return p, nil
}

func words() (out []string) {
	for _, a := range also {
		out = append(out, a.word)
	}
	slices.SortFunc(out, func(a, b string) int { return cmp.Compare(len(b), len(a)) })
	return out
}

func replaceWord(text, word string) string {
	lower := strings.ToLower(text)
	i := strings.Index(lower, strings.ToLower(word))
	if i < 0 || word == "" {
		return text
	}
	before, after := i == 0 || lower[i-1] == ' ', i+len(word) == len(lower) || strings.ContainsRune(" ,;", rune(lower[i+len(word)]))
	if !before || !after {
		return text
	}
	return text[:i] + text[i+len(word):]
}

// Bins are for a cutting station: what is kept and what is waste, each as large as falls in a week.
type Bins struct {
	Station string  `json:"station"`
	Name    string  `json:"name"`
	Keep    float64 `json:"keep" doc:"litres"`
	Waste   float64 `json:"waste" doc:"litres"`
	Have    int     `json:"have" doc:"bins within reach of it"`
	Says    string  `json:"says"`
}

// reachOf a bin from where one stands at the saw, mm, and what falls at one in a week (estimates): litres a use.
const (
	binReach   = 1500.0
	keptLitres = 1.5
	fallLitres = 4.0
	leastBin   = 15.0
)

// BinsAt says for each station that cuts which bins it wants, and whether they are there.
func BinsAt(s *shop.Shop) []Bins {
	out := []Bins{}
	ix := shop.NewIndex(s)
	used := map[string]float64{}
	for i := range s.Items {
		for _, id := range s.Items[i].UsedAt {
			used[id] += s.Items[i].UsesPerWeek
		}
	}
	for i := range s.Stations {
		st := &s.Stations[i]
		kind := string(st.Kind)
		if st.Wished != "" || !strings.Contains(kind, "saw") {
			continue
		}
		n := min(10, max(2, used[st.ID]/3)) // cuts a week, as far as what is used there tells
		b := Bins{Station: st.ID, Name: st.Name, Keep: max(leastBin, math.Ceil(n*keptLitres/5)*5), Waste: max(leastBin, math.Ceil(n*fallLitres/5)*5)}
		for k := range s.Places {
			p := &s.Places[k]
			if p.Kind != "bin" {
				continue
			}
			_, at := ix.Chain(&p.At)
			near := at.Station == st.ID
			if at.Floor != nil {
				near = near || math.Hypot(at.Floor[0].MM()-st.Stand[0].MM(), at.Floor[1].MM()-st.Stand[1].MM()) < binReach
			}
			if near {
				b.Have++
			}
		}
		switch b.Have {
		case 0:
			b.Says = "two bins within reach: one for what is kept, one for waste"
		case 1:
			b.Says = "one bin is there; a second keeps what is kept out of the waste"
		default:
			b.Says = "two bins are there"
		}
		out = append(out, b)
	}
	return out
}
