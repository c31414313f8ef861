// Package kinds knows what workshop things are usually like: how large and
// heavy, how they are held, how often and where they are used. It answers a
// name typed by somebody with the kind that is meant. All its figures are
// assumed ones. Lengths are mm, weights kg, uses a week.
package kinds

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"

	"hobrak/internal/core/find"
	"hobrak/internal/core/shop"
)

// Kind of thing, with its usual figures.
type Kind struct {
	ID      string
	Name    string   // singular, as people say it
	Also    []string // other names
	Group   string
	W, H, D float64
	KG      float64
	Hold    []shop.Hold
	Flags   []shop.Flag
	Station string  // kind of station it is usually used at; empty when any
	Uses    float64 // a week
	Glyph   string  // silhouette
	// Series tells that its length is given in its name: an F-clamp of 600.
	Series *Series
	// Length tells that one size given is its length: a board of 2400.
	Length bool
	// Urgent things are needed at once when somebody is hurt or something burns.
	Urgent bool
}

// Series is how a kind grows with its nominal length: it is as long as the
// nominal plus Drop, and gets heavier by PerMetre for each metre.
type Series struct {
	Nominal  float64 // of the figures in the table, mm
	Drop     float64 // mm
	PerMetre float64 // kg
}

// Of gives the kind at a nominal length of so many mm.
func (k Kind) Of(nominal float64) Kind {
	s := k.Series
	if s == nil || nominal <= 0 {
		return k
	}
	k.KG = math.Max(.05, math.Round(100*(k.KG+s.PerMetre*(nominal-s.Nominal)/1000))/100)
	k.H = nominal + s.Drop
	return k
}

type group struct {
	name, station, glyph, hold, flags string
	uses                              float64
	rows                              []row
}

type row struct {
	name, also  string
	w, h, d, kg float64
	uses        float64
	more        string
}

var load = sync.OnceValue(func() []Kind {
	var out []Kind
	for _, g := range table {
		for _, r := range g.rows {
			k := Kind{ID: strings.ReplaceAll(strings.ReplaceAll(r.name, "'", ""), " ", "-"), Name: r.name, Group: g.name, W: r.w, H: r.h, D: r.d, KG: r.kg, Uses: r.uses,
				Hold: worded[shop.Hold](strings.Fields(g.hold)), Flags: worded[shop.Flag](strings.Fields(g.flags)), Station: g.station, Glyph: g.glyph}
			if r.also != "" {
				k.Also = strings.Split(r.also, "|")
			}
			for _, m := range strings.Fields(r.more) {
				k.set(m)
			}
			out = append(out, k)
		}
	}
	return out
})

// worded are texts as words of a kind.
func worded[T ~string](texts []string) []T {
	out := make([]T, len(texts))
	for i, t := range texts {
		out[i] = T(t)
	}
	return out
}

// set reads one of the further figures of a row.
func (k *Kind) set(more string) {
	number := func(s string) float64 {
		v, err := strconv.ParseFloat(s, 64)
		if err != nil {
			panic(fmt.Sprintf("kinds: %q of %s", more, k.Name))
		}
		return v
	}
	key, value, _ := strings.Cut(more, ":")
	switch {
	case key == "glyph":
		k.Glyph = value
	case key == "hold":
		k.Hold = worded[shop.Hold](strings.Split(value, ","))
	case key == "flags":
		k.Flags = worded[shop.Flag](strings.Split(value, ","))
	case key == "series":
		k.Series = &Series{Nominal: number(value)}
	case key == "drop":
		k.Series.Drop = number(value)
	case key == "perm":
		k.Series.PerMetre = number(value)
	case key == "length":
		k.Length = true
	case key == "urgent":
		k.Urgent = true
	case strings.HasPrefix(key, "@"):
		k.Station = key[1:]
	default:
		panic(fmt.Sprintf("kinds: %q of %s", more, k.Name))
	}
}

// All kinds, in the order of their groups.
func All() []Kind { return load() }

// Groups of kinds, in order.
func Groups() []string {
	var out []string
	for _, g := range table {
		out = append(out, g.name)
	}
	return out
}

// ByID finds a kind by its id.
func ByID(id string) (Kind, bool) {
	k, ok := byID()[id]
	if !ok {
		return Kind{}, false
	}
	return *k, true
}

var byID = sync.OnceValue(func() map[string]*Kind {
	all := load()
	out := make(map[string]*Kind, len(all))
	for i := range all {
		out[all[i].ID] = &all[i]
	}
	return out
})

// Glyph is the silhouette of a kind; the kind's own name when it is not known.
func Glyph(kind string) string {
	if k := byID()[kind]; k != nil {
		return k.Glyph
	}
	return kind
}

// Match says which kind a name means.
type Match struct {
	Kind Kind
	Rest []string // words of the name that are not the kind's, before it and after
	Sure bool     // false when a slip in spelling was forgiven
}

// Told is the kind of a thing by its name where that is sure, else by its kind: of a box that is called a first-aid box the name says
// more.
func Told(kind, name string) (Kind, bool) {
	if m, sure := Sure(name); sure {
		return m.Kind, true
	}
	return ByID(kind)
}

// Find looks for the kind a name means: the longest of its runs of words that
// names one, its plural, or one with a slip. False when none does.
func Find(name string) (Match, bool) { return among(name, exact, slip) }

// Sure is Find that forgives no slip, and takes a thirtieth of the time.
func Sure(name string) (Match, bool) { return among(name, exact) }

func among(name string, looks ...func([]string) (Kind, bool)) (Match, bool) {
	words := Words(name)
	for n := min(len(words), 4); n > 0; n-- {
		for _, look := range looks {
			// The noun comes last: "old jack plane".
			for at := len(words) - n; at >= 0; at-- {
				run := singular(words[at : at+n])
				if k, ok := look(run); ok {
					_, sure := exact(run)
					return Match{k, append(slices.Clone(words[:at]), words[at+n:]...), sure}, true
				}
			}
		}
	}
	return Match{}, false
}

func exact(run []string) (Kind, bool) {
	k, ok := byName()[strings.Join(run, " ")]
	return k, ok
}

// Words of a name in lower case, hyphens and stops as blanks.
func Words(name string) []string {
	return strings.FieldsFunc(strings.ToLower(name), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '\'' && r != '½'
	})
}

// singular takes the plural ending off the last word.
func singular(words []string) []string {
	out := slices.Clone(words)
	out[len(out)-1] = one(out[len(out)-1])
	return out
}

func one(w string) string {
	switch {
	case len(w) < 4:
	case strings.HasSuffix(w, "ies"):
		return w[:len(w)-3] + "y"
	case strings.HasSuffix(w, "knives"):
		return strings.TrimSuffix(w, "knives") + "knife"
	case strings.HasSuffix(w, "shes"), strings.HasSuffix(w, "ches"), strings.HasSuffix(w, "sses"), strings.HasSuffix(w, "xes"):
		return w[:len(w)-2]
	case strings.HasSuffix(w, "ss"), strings.HasSuffix(w, "us"):
	case strings.HasSuffix(w, "s"):
		return w[:len(w)-1]
	}
	return w
}

var byName = sync.OnceValue(func() map[string]Kind {
	out := map[string]Kind{}
	for _, k := range load() {
		for _, n := range append([]string{k.Name}, k.Also...) {
			key := strings.Join(singular(Words(n)), " ")
			if _, taken := out[key]; !taken {
				out[key] = k
			}
		}
	}
	return out
})

// slip forgives slips in a run of words: in words of five letters and more one
// wrong, missing, extra or swapped letter, in those of nine and more two, never
// in the first. Of a run of several one word must be right.
func slip(run []string) (Kind, bool) {
	best, found, tie := math.MaxInt, Kind{}, false
	for _, c := range byCount()[len(run)] {
		sum, right := 0, len(run) == 1
		for i, w := range run {
			known := c.words[i]
			if w == known {
				right = true
				continue
			}
			allowed := 0
			switch n := len([]rune(w)); {
			case n >= 9:
				allowed = 2
			case n >= 5:
				allowed = 1
			}
			if w[0] != known[0] || allowed == 0 {
				sum = math.MaxInt
				break
			}
			d := find.Distance([]rune(w), []rune(known), allowed)
			if d > allowed {
				sum = math.MaxInt
				break
			}
			sum += d
		}
		switch {
		case sum == math.MaxInt || !right:
		case sum < best:
			best, found, tie = sum, c.kind, false
		case sum == best && c.kind.ID != found.ID:
			tie = true
		}
	}
	return found, best < math.MaxInt && !tie
}

// candidate is a name of a kind, in words.
type candidate struct {
	words []string
	kind  Kind
}

// byCount lists the names of kinds by how many words they have.
var byCount = sync.OnceValue(func() map[int][]candidate {
	out := map[int][]candidate{}
	for name, k := range byName() {
		w := strings.Fields(name)
		out[len(w)] = append(out[len(w)], candidate{w, k})
	}
	return out
})

// Emergency tells whether things of a kind must be had at once: what is there for first aid or against a small fire.
func Emergency(name string) bool {
	return name == "first-aid box" || name == "fire extinguisher" || name == "fire blanket"
}
