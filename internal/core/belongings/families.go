package belongings

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

// Relatives are things that may want one home together.
type Relatives struct {
	Family string   `json:"family" doc:"what the family would be called"`
	Items  []string `json:"items" nullable:"false" doc:"those that are not in it yet"`
	Has    int      `json:"has" doc:"how many are in it already"`
	Says   string   `json:"says" doc:"why they belong together"`
}

// kin is how many relatives make a family worth proposing.
const kin = 3

// Families proposes families from names and stations: a length or size series,
// what belongs to a machine, things named after the same one, and what was left
// out of a family that is there. A thing is proposed for one family only, and
// never when it has one.
func Families(s *shop.Shop) []Relatives {
	f := &families{s: s, taken: map[int]bool{}, out: []Relatives{}}
	f.leftOut()
	f.ofMachines()
	f.series()
	f.firstWord()
	slices.SortStableFunc(f.out, func(a, b Relatives) int { return cmp.Compare(len(b.Items), len(a.Items)) })
	return f.out
}

type families struct {
	s     *shop.Shop
	taken map[int]bool
	out   []Relatives
}

// free are things without a family, grouped by a key; an empty key leaves a thing out.
func (f *families) free(key func(*shop.Item) string) (keys []string, groups map[string][]int) {
	groups = map[string][]int{}
	for i := range f.s.Items {
		it := &f.s.Items[i]
		if it.Family != "" || f.taken[i] || it.Status == "wished" {
			continue
		}
		if k := key(it); k != "" {
			if groups[k] == nil {
				keys = append(keys, k)
			}
			groups[k] = append(groups[k], i)
		}
	}
	return keys, groups
}

func (f *families) propose(name string, list []int, has int, says string) {
	r := Relatives{Family: name, Has: has, Says: says}
	for _, i := range list {
		f.taken[i] = true
		r.Items = append(r.Items, f.s.Items[i].ID)
	}
	f.out = append(f.out, r)
}

// leftOut finds things of a kind most of which are in one family.
func (f *families) leftOut() {
	in := map[string]map[string]int{} // kind, family, how many
	for i := range f.s.Items {
		if it := &f.s.Items[i]; it.Family != "" && it.Kind != "" {
			if in[it.Kind] == nil {
				in[it.Kind] = map[string]int{}
			}
			in[it.Kind][it.Family]++
		}
	}
	keys, groups := f.free(func(it *shop.Item) string { return it.Kind })
	for _, kind := range keys {
		for family, n := range in[kind] {
			if len(in[kind]) == 1 && n >= 2 && len(groups[kind]) <= n {
				f.propose(family, groups[kind], n, fmt.Sprintf("%d others of their kind are in it", n))
			}
		}
	}
}

// accessory groups of kinds belong to the machine they are used at.
var accessory = []string{"blades bits and abrasives", "jigs and sleds"}

// ofMachines finds what is used at one machine only and is an accessory by its
// kind, or is named after the machine.
func (f *families) ofMachines() {
	machine := func(it *shop.Item) string {
		if len(it.UsedAt) != 1 {
			return ""
		}
		i := slices.IndexFunc(f.s.Stations, func(st shop.Station) bool { return st.ID == it.UsedAt[0] })
		if i < 0 {
			return ""
		}
		st := &f.s.Stations[i]
		if st.Kind.Bench() {
			return ""
		}
		k, known := kinds.ByID(it.Kind)
		name := strings.ToLower(it.Name)
		if known && slices.Contains(accessory, k.Group) || strings.HasPrefix(name, strings.ToLower(st.Name)) || strings.HasPrefix(name, strings.ReplaceAll(string(st.Kind), "-", " ")) {
			return st.ID
		}
		return ""
	}
	keys, groups := f.free(machine)
	for _, id := range keys {
		if len(groups[id]) < 2 {
			continue
		}
		i := slices.IndexFunc(f.s.Stations, func(st shop.Station) bool { return st.ID == id })
		f.propose(strings.ToLower(f.s.Stations[i].Name), groups[id], 0, "accessories used at the "+strings.ToLower(f.s.Stations[i].Name)+" only")
	}
}

// series finds things of one kind in several lengths or sizes.
func (f *families) series() {
	keys, groups := f.free(func(it *shop.Item) string {
		if _, known := kinds.ByID(it.Kind); known {
			return it.Kind
		}
		return ""
	})
	for _, id := range keys {
		k, _ := kinds.ByID(id)
		pieces := 0
		for _, i := range groups[id] {
			pieces += f.s.Items[i].Number()
		}
		switch n := len(groups[id]); {
		case k.Series != nil && n >= 2:
			f.propose(plural(k.Name), groups[id], 0, fmt.Sprintf("a length series of %d, %d pieces", n, pieces))
		case n >= kin:
			f.propose(plural(k.Name), groups[id], 0, fmt.Sprintf("%d of a kind", n))
		}
	}
}

// firstWord finds things named after the same one: router collet, router guide.
func (f *families) firstWord() {
	keys, groups := f.free(func(it *shop.Item) string {
		w := kinds.Words(it.Name)
		if len(w) < 2 || len([]rune(w[0])) < 4 || slices.Contains(idle, w[0]) || slices.Contains(plain, w[0]) {
			return ""
		}
		return w[0]
	})
	for _, w := range keys {
		if len(groups[w]) >= kin {
			f.propose(w, groups[w], 0, "named after the same thing")
		}
	}
}

// plain words before a name say how a thing is, not what it belongs to.
var plain = []string{"small", "large", "long", "short", "wide", "narrow", "heavy", "light", "thin", "thick", "round", "flat", "wooden", "steel", "brass", "plastic", "fine", "coarse", "red", "blue", "black", "white", "green", "left", "right"}

func plural(name string) string {
	switch {
	case strings.HasSuffix(name, "s"), strings.HasSuffix(name, "x"), strings.HasSuffix(name, "ch"), strings.HasSuffix(name, "sh"):
		return name + "es"
	case strings.HasSuffix(name, "knife"):
		return strings.TrimSuffix(name, "fe") + "ves"
	}
	return name + "s"
}
