// Package find answers where a thing is from a few typed letters. It forgives
// typing errors: a word matches when it begins like the query, contains it, or
// is a small number of slips away (Damerau and Levenshtein's distance, a
// swap of neighbours counting once). Marks, as @bench, #sharp or assumed, are
// asked for as they are.
package find

import (
	"cmp"
	"slices"
	"strings"
	"unicode"
)

// Entry is something that can be found under several texts.
type Entry struct {
	ID    string
	Kind  string // item, place, container or station
	Texts []Text
	Marks []string // what it is marked with: @ a station, # a flag, or a word of its own
}

// Text is one thing an entry is called; a higher weight counts more.
type Text struct {
	Words  string
	Weight float64
}

// Hit is an entry that answers the query.
type Hit struct {
	Entry *Entry
	Score float64
	Exact bool // every word was typed right
}

// Search gives the best hits, at most limit of them, best first.
func Search(entries []Entry, query string, limit int) []Hit {
	asked := typed(query)
	if len(asked) == 0 {
		return nil
	}
	var hits []Hit
	for i := range entries {
		if score, exact := rate(&entries[i], asked); score > 0 {
			hits = append(hits, Hit{&entries[i], score, exact})
		}
	}
	slices.SortStableFunc(hits, func(a, b Hit) int { return cmp.Compare(b.Score, a.Score) })
	// Once something was typed right, guesses about slips only distract.
	if len(hits) > 0 && slices.ContainsFunc(hits, func(h Hit) bool { return h.Exact }) {
		hits = slices.DeleteFunc(hits, func(h Hit) bool { return !h.Exact })
	}
	return hits[:min(limit, len(hits))]
}

// rate multiplies how well each asked word is met; 0 when one is not met at all.
func rate(e *Entry, asked []string) (float64, bool) {
	total, exact := 1.0, true
	for _, q := range asked {
		best, right := 0.0, false
		if slices.ContainsFunc(e.Marks, func(m string) bool { return marked(q, m) }) {
			continue
		}
		for _, t := range e.Texts {
			for i, w := range fields(t.Words) {
				s, ok := match(q, w)
				if i > 0 {
					s *= .97 // the first word of a name counts a little more
				}
				if s *= t.Weight; s > best {
					best, right = s, ok
				}
			}
		}
		if best == 0 {
			return 0, false
		}
		total *= best
		exact = exact && right
	}
	return total, exact
}

// match rates a typed word against a word: 1 the same, less for a beginning,
// a part, or a few slips.
func match(q, w string) (float64, bool) {
	switch {
	case q == w:
		return 1, true
	case strings.HasPrefix(w, q):
		return .9 - .1*float64(len(w)-len(q))/float64(len(w)), true
	case len(q) >= 3 && strings.Contains(w, q):
		return .6, true
	}
	allowed := slips(len([]rune(q)))
	if allowed == 0 {
		return 0, false
	}
	// A word still being typed is held against the beginning of the other.
	d := Distance([]rune(q), []rune(w), allowed)
	if r := []rune(w); len(r) > len([]rune(q)) {
		d = min(d, Distance([]rune(q), r[:len([]rune(q))], allowed))
	}
	if d > allowed {
		return 0, false
	}
	return .5 - .12*float64(d), false
}

func slips(letters int) int {
	switch {
	case letters < 4:
		return 0
	case letters < 7:
		return 1
	default:
		return 2
	}
}

// Distance counts insertions, deletions, replacements and swaps of neighbours;
// anything over limit may come out as limit+1.
func Distance(a, b []rune, limit int) int {
	if d := len(a) - len(b); d > limit || -d > limit {
		return limit + 1
	}
	prev2, prev, cur := make([]int, len(b)+1), make([]int, len(b)+1), make([]int, len(b)+1)
	for j := range prev {
		prev[j] = j
	}
	for i := 1; i <= len(a); i++ {
		cur[0] = i
		for j := 1; j <= len(b); j++ {
			cost := 1
			if a[i-1] == b[j-1] {
				cost = 0
			}
			cur[j] = min(prev[j]+1, cur[j-1]+1, prev[j-1]+cost)
			if i > 1 && j > 1 && a[i-1] == b[j-2] && a[i-2] == b[j-1] {
				cur[j] = min(cur[j], prev2[j-2]+1)
			}
		}
		prev2, prev, cur = prev, cur, prev2
	}
	return prev[len(b)]
}

// typed cuts a query into words and marks.
func typed(query string) (out []string) {
	for _, w := range strings.Fields(strings.ToLower(query)) {
		if w[0] == '@' || w[0] == '#' {
			out = append(out, w)
		} else {
			out = append(out, fields(w)...)
		}
	}
	return out
}

// marked tells whether a word asks for a mark: a station by any part of its name, a flag by
// its beginning, another mark as it is.
func marked(q, mark string) bool {
	switch q[0] {
	case '@':
		return mark[0] == '@' && strings.Contains(mark, q[1:])
	case '#':
		return strings.HasPrefix(mark, q)
	default:
		return q == mark
	}
}

// fields cuts a text into lower-case words of letters and digits; a code such
// as B3-2 stays one word and is also cut.
func fields(s string) []string {
	return strings.FieldsFunc(strings.ToLower(s), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '-' && r != '.'
	})
}
