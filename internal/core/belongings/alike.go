package belongings

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/find"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

// Alike are things that may be the same, or one more than is wanted.
type Alike struct {
	Items []string `json:"items" nullable:"false" doc:"the most used first"`
	Says  string   `json:"says" doc:"the question in words"`
}

// Choices of what to make of things that are alike.
const (
	KeepAll = "all"   // each is wanted: they are not asked about again
	Spare   = "spare" // the most used one is wanted, the others are spares
	Merge   = "merge" // one entry for several alike
	Twice   = "twice" // the same thing was listed twice
)

// idle words do not tell one thing from another.
var idle = []string{"old", "second", "spare", "other", "another", "new", "my", "the", "extra", "a", "of"}

// Duplicates finds things that are called alike and are about the same size.
// Things of which more than one are said to be wanted (twins) are left out.
func Duplicates(s *shop.Shop) []Alike {
	byKey := map[string][]int{}
	alikeTo := map[string][]string{} // keys by kind and first letter: slips are looked for among those
	var order []string
	for i := range s.Items {
		it := &s.Items[i]
		if it.Status == "wished" || it.Twins > 1 {
			continue
		}
		key := sameName(it.Name)
		if _, seen := byKey[key]; !seen {
			shelf := it.Kind + " " + string([]rune(key + " ")[:1])
			was := key
			if len([]rune(key)) >= 6 {
				// A slip in the name is still the same name.
				for _, k := range alikeTo[shelf] {
					if digits(k) == digits(key) && find.Distance([]rune(key), []rune(k), 1) <= 1 {
						key = k
						break
					}
				}
			}
			if key == was {
				order = append(order, key)
				alikeTo[shelf] = append(alikeTo[shelf], key)
			}
		}
		byKey[key] = append(byKey[key], i)
	}
	out := []Alike{}
	for _, key := range order {
		for _, group := range bySize(s, byKey[key]) {
			if len(group) > 1 {
				slices.SortStableFunc(group, func(a, b int) int { return cmp.Compare(s.Items[b].UsesPerWeek, s.Items[a].UsesPerWeek) })
				out = append(out, alike(s, group))
			}
		}
	}
	return out
}

func alike(s *shop.Shop, group []int) Alike {
	a := Alike{}
	n := 0
	for _, i := range group {
		a.Items = append(a.Items, s.Items[i].ID)
		n += s.Items[i].Number()
	}
	name := s.Items[group[0]].Name
	if len(group) == 2 && n == 2 {
		a.Says = name + " is listed twice: keep both, or one as a spare?"
	} else {
		a.Says = fmt.Sprintf("%s is there in %d entries, %d pieces: which are wanted?", name, len(group), n)
	}
	return a
}

// sameName is a name without what does not tell things apart.
func sameName(name string) string {
	words := kinds.Words(name)
	var kept []string
	for i, w := range words {
		number := digits(w) == w
		sized := i > 0 && slices.Contains([]string{"no", "nr", "number", "grit", "size"}, words[i-1])
		if slices.Contains(idle, w) || number && len(w) == 1 && !sized && i == len(words)-1 {
			continue
		}
		kept = append(kept, strings.TrimSuffix(w, "s"))
	}
	if len(kept) == 0 {
		kept = words
	}
	return strings.Join(kept, " ")
}

func digits(s string) string {
	return strings.Map(func(r rune) rune {
		if r >= '0' && r <= '9' {
			return r
		}
		return -1
	}, s)
}

// bySize parts things whose measured sides differ by more than a fifth.
func bySize(s *shop.Shop, list []int) [][]int {
	var groups [][]int
next:
	for _, i := range list {
		for g := range groups {
			if near(&s.Items[groups[g][0]], &s.Items[i]) {
				groups[g] = append(groups[g], i)
				continue next
			}
		}
		groups = append(groups, []int{i})
	}
	return groups
}

func near(a, b *shop.Item) bool {
	sides := []struct {
		name string
		x, y float64
	}{{"w", a.W.MM(), b.W.MM()}, {"h", a.H.MM(), b.H.MM()}, {"d", a.D.MM(), b.D.MM()}}
	for _, side := range sides {
		if slices.Contains(a.Assumed, side.name) || slices.Contains(b.Assumed, side.name) {
			continue
		}
		if max(side.x, side.y) > 1.2*min(side.x, side.y) {
			return false
		}
	}
	return true
}

// Resolve makes of things that are alike what was chosen. The first of the ids
// is the one that stays as it is. No home is lost: merged things keep all theirs.
func Resolve(s *shop.Shop, ids []string, choice string) error {
	if len(ids) < 2 {
		return &FieldError{"", "ids", "at least two things can be alike"}
	}
	var list []*shop.Item
	for _, id := range ids {
		i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
		if i < 0 {
			return &FieldError{id, "ids", fmt.Sprintf("there is no item %q", id)}
		}
		list = append(list, &s.Items[i])
	}
	first := list[0]
	switch choice {
	case KeepAll, Spare:
		for i, it := range list {
			it.Twins = min(50, len(list))
			if choice == Spare && i > 0 {
				it.UsesPerWeek = yearly
				known(it, "uses_per_week")
			}
		}
		return nil
	case Merge:
		for i := range s.Homes {
			h := &s.Homes[i]
			if k := slices.Index(ids, h.Item); k >= 0 {
				h.N = h.Number(list[k])
				h.Item = first.ID
			}
		}
		n, uses := 0, 0.0
		for _, it := range list {
			n += it.Number()
			uses += it.UsesPerWeek
			first.Photos = append(first.Photos, missing(first.Photos, it.Photos)...)
			if it != first && it.Notes != "" && !strings.Contains(first.Notes, it.Notes) {
				first.Notes = strings.TrimSpace(first.Notes + " " + it.Notes)
			}
		}
		first.Count, first.UsesPerWeek = n, uses
		return Remove(s, ids[1:])
	case Twice:
		for _, it := range list[1:] {
			first.Photos = append(first.Photos, missing(first.Photos, it.Photos)...)
		}
		return Remove(s, ids[1:])
	}
	return &FieldError{"", "choice", fmt.Sprintf("%q should be %s, %s, %s or %s", choice, KeepAll, Spare, Merge, Twice)}
}

func missing(have, more []string) (out []string) {
	for _, m := range more {
		if !slices.Contains(have, m) {
			out = append(out, m)
		}
	}
	return out
}
