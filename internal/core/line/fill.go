package line

import (
	"fmt"
	"slices"
	"sort"
	"unicode"
	"unicode/utf8"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

// fill completes the item from its kind, and says what each size was taken for.
func (r *reader) fill() {
	it := &r.out.Item
	k, known := kinds.ByID(r.out.Kind)
	if it.Kind != "" { // given by kind:
		k, known = kinds.ByID(it.Kind)
		r.out.Known, r.out.Kind = known, it.Kind
	}
	if known {
		it.Kind = k.ID
		if it.Name == "" {
			it.Name = Title(k.Name)
		}
	}
	if it.Name == "" {
		r.out.Why = "what is it? Begin with its name, as: jack plane 360x65x140"
		return
	}
	if r.count > 1 {
		it.Count = r.count
	}
	usual := DefaultSize
	if known {
		if r.one != nil && k.Series != nil {
			k = k.Of(r.one.MM())
		}
		usual = [3]float64{k.W, k.H, k.D}
		if r.one != nil && k.Length {
			usual[0] = r.one.MM()
		}
	}
	r.size(usual, known)
	r.say(func(c *Chip) bool { return c.Kind == "size" && c.Says == "" && r.one != nil }, fmt.Sprintf("%s long", r.lengthOf()))
	switch {
	case r.kg != nil:
		it.KG = *r.kg
	case known && k.Length && r.one != nil:
		full, _ := kinds.ByID(k.ID)
		it.KG = weight.KG(k.KG * r.one.MM() / full.W)
		it.Assumed = append(it.Assumed, "kg")
	case known:
		it.KG = weight.KG(k.KG)
		it.Assumed = append(it.Assumed, "kg")
	default:
		it.Assumed = append(it.Assumed, "kg")
	}
	if r.uses > 0 {
		it.UsesPerWeek = r.uses
	} else {
		it.Assumed = append(it.Assumed, "uses_per_week")
		it.UsesPerWeek = .25
		if known {
			it.UsesPerWeek = k.Uses
		}
	}
	if !known {
		return
	}
	if len(it.Hold) == 0 {
		it.Hold = slices.Clone(k.Hold)
	}
	for _, f := range k.Flags {
		if !slices.Contains(it.Flags, f) {
			it.Flags = append(it.Flags, f)
		}
	}
	if len(it.UsedAt) == 0 && k.Station != "" {
		if id, sure, _ := r.station(k.Station); id != "" && sure {
			it.UsedAt = []string{id}
		}
	}
}

func (r *reader) lengthOf() length.Length {
	if r.one != nil {
		return *r.one
	}
	return 0
}

func (r *reader) say(which func(*Chip) bool, says string) {
	for i := range r.out.Chips {
		if which(&r.out.Chips[i]) {
			r.out.Chips[i].Says = says
		}
	}
}

// Sides says in which order typed lengths go onto width (0), height (1) and
// depth (2), and gives them in that order: the longest onto the longest side and
// so on where the usual size in mm is known, else as typed.
func Sides(lengths []length.Length, usual [3]float64, known bool) (order []int, typed []length.Length) {
	order, typed = []int{0, 1, 2}, slices.Clone(lengths)
	if known {
		sort.SliceStable(order, func(i, j int) bool { return usual[order[i]] > usual[order[j]] })
		slices.SortFunc(typed, func(a, b length.Length) int { return int(b - a) })
	}
	return order, typed
}

// size puts what was typed onto the sides of the thing: for a kind that is
// known the longest onto its longest side and so on, else width, height, depth
// as typed. Sides not typed are the usual ones, assumed.
func (r *reader) size(usual [3]float64, known bool) {
	it := &r.out.Item
	side := []*length.Length{&it.W, &it.H, &it.D}
	names := []string{"w", "h", "d"}
	order, typed := Sides(r.dims, usual, known)
	for n, i := range order {
		if n < len(typed) {
			*side[i] = typed[n]
			continue
		}
		*side[i] = length.MM(usual[i])
		if r.one == nil || n > 0 {
			it.Assumed = append(it.Assumed, names[i])
		}
	}
	if r.long != nil && len(r.dims) == 0 {
		i := 0
		for k := range usual {
			if usual[k] > usual[i] {
				i = k
			}
		}
		*side[i] = *r.long
		it.Assumed = slices.DeleteFunc(it.Assumed, func(f string) bool { return f == names[i] })
	}
	for i, l := range r.sides {
		if l > 0 {
			*side[i] = l
			it.Assumed = slices.DeleteFunc(it.Assumed, func(f string) bool { return f == names[i] })
		}
	}
	slices.SortFunc(it.Assumed, func(a, b string) int { return slices.Index(names, a) - slices.Index(names, b) })
	if len(typed) > 0 {
		r.say(func(c *Chip) bool { return c.Kind == "size" && c.Says == "" }, fmt.Sprintf("%s wide, %s high, %s deep", it.W, it.H, it.D))
	}
}

// Title begins a name with a capital letter.
func Title(name string) string {
	first, n := utf8.DecodeRuneInString(name)
	if n == 0 || first == utf8.RuneError {
		return name
	}
	return string(unicode.ToUpper(first)) + name[n:]
}
