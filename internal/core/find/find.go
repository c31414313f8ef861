// Package find answers where a thing is from a few typed letters. It forgives typing errors: a word matches when it begins like the
// query, contains it, is the plural of it, or is a small number of slips away (Damerau and Levenshtein's distance, a swap of
// neighbours counting once). Accents, the order of words, and whether a word is written in one or in two make no difference. Marks,
// as @bench, #sharp or assumed, are asked for as they are.
package find

import (
	"cmp"
	"math"
	"slices"
	"strings"
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

// Index of entries, for many queries. It is safe for concurrent use.
type Index struct {
	entries []Entry
	vocab   []word
	number  map[string]int32
	terms   [][]term  // of each entry
	names   []float64 // how many words of the full weight each entry has
}

// word as it is compared.
type word struct {
	text  string
	runes []rune
	stem  string
}

// term is a word of an entry.
type term struct {
	word   int32
	weight float32
}

// NewIndex prepares entries.
func NewIndex(entries []Entry) *Index {
	x := &Index{entries: entries, number: map[string]int32{}, terms: make([][]term, len(entries)), names: make([]float64, len(entries))}
	for i := range entries {
		best := map[int32]float32{}
		var order []int32
		add := func(text string, weight float64) {
			n, ok := x.number[text]
			if !ok {
				n = int32(len(x.vocab))
				x.number[text] = n
				x.vocab = append(x.vocab, word{text, []rune(text), stem(text)})
			}
			if _, ok := best[n]; !ok {
				order = append(order, n)
			}
			best[n] = max(best[n], float32(weight))
		}
		for _, t := range entries[i].Texts {
			words := fields(t.Words)
			for k, w := range words {
				weight := t.Weight
				if k > 0 {
					weight *= .97 // the first word of a name counts a little more
				}
				add(w, weight)
				if t.Weight == 1 {
					x.names[i]++
				}
				for _, part := range parts(w) {
					add(part, weight*.96)
				}
				if k > 0 { // a table saw is a tablesaw
					add(words[k-1]+w, weight*.96)
				}
			}
		}
		for _, n := range order {
			x.terms[i] = append(x.terms[i], term{n, best[n]})
		}
	}
	return x
}

// Search gives the best hits, at most limit of them, best first.
func (x *Index) Search(query string, limit int) []Hit { return x.Among(query, limit, nil) }

// Among is Search of the entries that may be.
func (x *Index) Among(query string, limit int, may func(*Entry) bool) []Hit {
	asked := typed(query)
	if len(asked) == 0 {
		return nil
	}
	scores := make([][]score, len(asked))
	for k, q := range asked {
		scores[k] = x.against(q)
	}
	var hits []Hit
	for i := range x.entries {
		e := &x.entries[i]
		if may != nil && !may(e) {
			continue
		}
		if s, exact := x.rate(i, asked, scores); s > 0 {
			hits = append(hits, Hit{e, s, exact})
		}
	}
	slices.SortStableFunc(hits, func(a, b Hit) int { return cmp.Compare(b.Score, a.Score) })
	// Once something was typed right, guesses about slips only distract.
	if slices.ContainsFunc(hits, func(h Hit) bool { return h.Exact }) {
		hits = slices.DeleteFunc(hits, func(h Hit) bool { return !h.Exact })
	}
	return hits[:min(limit, len(hits))]
}

// All are the entries that may be, in their order.
func (x *Index) All(limit int, may func(*Entry) bool) (out []Hit) {
	for i := range x.entries {
		if len(out) < limit && may(&x.entries[i]) {
			out = append(out, Hit{&x.entries[i], 1, true})
		}
	}
	return out
}

// Search gives the best hits of one query.
func Search(entries []Entry, query string, limit int) []Hit {
	return NewIndex(entries).Search(query, limit)
}

// score of a word of the vocabulary against what was typed.
type score struct {
	n     float32 // 0 when it does not match
	exact bool
}

// against all words there are. Of a word in which a slip is forgiven the like of it typed right counts more.
func (x *Index) against(q string) []score {
	out := make([]score, len(x.vocab))
	runes, root := []rune(q), stem(q)
	allowed := slips(len(runes))
	for n := range x.vocab {
		s, ok := match(q, runes, root, allowed, &x.vocab[n])
		out[n] = score{float32(s), ok}
	}
	return out
}

// rate multiplies how well each asked word is met; 0 when one is not met at all. Of two that are met alike the one whose name says
// less besides comes first.
func (x *Index) rate(i int, asked []string, scores [][]score) (float64, bool) {
	total, exact := 1.0, true
	met := 0.0
	for k, q := range asked {
		if slices.ContainsFunc(x.entries[i].Marks, func(m string) bool { return marked(q, m) }) {
			continue
		}
		best, right := float32(0), false
		for _, t := range x.terms[i] {
			if s := scores[k][t.word]; s.n > 0 {
				// Typed right with less weight beats a guess at the name.
				if v := s.n * t.weight; v > best {
					best, right = v, s.exact
				}
			}
		}
		if best == 0 {
			return 0, false
		}
		total *= float64(best)
		exact = exact && right
		met++
	}
	if n := x.names[i]; n > 0 {
		total *= 1 - .04*math.Max(0, n-met)/n
	}
	return total, exact
}

// match rates a typed word against a word: 1 the same, less for a beginning, a part, or a few slips.
func match(q string, runes []rune, root string, allowed int, w *word) (float64, bool) {
	switch {
	case q == w.text:
		return 1, true
	case root == w.stem && len(root) > 1:
		return .97, true
	case strings.HasPrefix(w.text, q):
		return .9 - .1*float64(len(w.text)-len(q))/float64(len(w.text)), true
	case len(q) >= 3 && strings.Contains(w.text, q):
		return .6, true
	}
	if allowed == 0 || len(w.runes) < len(runes)-allowed {
		return 0, false
	}
	// A word still being typed is held against the beginning of the other.
	d := allowed + 1
	if len(w.runes)-len(runes) <= allowed {
		d = Distance(runes, w.runes, allowed)
	}
	if len(w.runes) > len(runes) {
		d = min(d, Distance(runes, w.runes[:len(runes)], allowed))
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
