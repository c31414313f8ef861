package find

import (
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/runes"
	"golang.org/x/text/transform"
	"golang.org/x/text/unicode/norm"
)

// typed cuts a query into words and marks.
func typed(query string) (out []string) {
	for _, w := range strings.Fields(strings.ToLower(query)) {
		if w[0] == '@' || w[0] == '#' {
			out = append(out, w)
		} else {
			out = append(out, fields(w)...)
		}
	}
	// Of a question the words that name something count.
	named := make([]string, 0, len(out))
	for _, w := range out {
		if !slices.Contains(filler, w) {
			named = append(named, w)
		}
	}
	if len(named) > 0 {
		return named
	}
	return out
}

// filler are words of questions that name nothing.
var filler = []string{"the", "a", "an", "my", "our", "where", "wheres", "is", "are", "for", "of", "what", "do", "does", "i", "we", "need", "find", "and", "with"}

// fields cuts a text into words of letters and digits as they are compared; a code such as B3-2 stays one word.
func fields(s string) []string {
	words := strings.FieldsFunc(plain(s), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '-' && r != '.'
	})
	out := words[:0]
	for _, w := range words {
		if w = strings.Trim(w, "-."); w != "" {
			out = append(out, w)
		}
	}
	return out
}

// without are letters that no accent is taken from.
var without = strings.NewReplacer("ß", "ss", "æ", "ae", "œ", "oe", "ø", "o", "ł", "l", "đ", "d", "ð", "d", "þ", "th", "ı", "i", "’", "", "'", "")

// plain is a text in small letters without accents.
func plain(s string) string {
	s = strings.ToLower(s)
	ascii := true
	for i := range len(s) {
		ascii = ascii && s[i] < 0x80
	}
	if ascii {
		return strings.ReplaceAll(s, "'", "")
	}
	bare, _, err := transform.String(transform.Chain(norm.NFD, runes.Remove(runes.In(unicode.Mn)), norm.NFC), s)
	if err != nil {
		bare = s
	}
	return without.Replace(bare)
}

// parts of a word that is written with a hyphen, and the whole without it: an F-clamp is an fclamp, and a clamp. Of a number with its
// unit, as 600mm, the number.
func parts(w string) (out []string) {
	if strings.ContainsAny(w, "-") {
		for _, p := range strings.Split(w, "-") {
			if len(p) > 1 {
				out = append(out, p)
			}
		}
		out = append(out, strings.ReplaceAll(w, "-", ""))
	}
	if n := strings.TrimRight(w, "abcdefghijklmnopqrstuvwxyz"); n != w && n != "" && strings.Trim(n, "0123456789.") == "" {
		out = append(out, n)
	}
	return out
}

// ends of plurals and what they stand for; the longest first.
var ends = []struct{ of, to string }{{"knives", "knife"}, {"shelves", "shelf"}, {"scarves", "scarf"}, {"ies", "y"}, {"sses", "ss"}, {"shes", "sh"}, {"ches", "ch"}, {"xes", "x"}, {"ss", "ss"}, {"us", "us"}, {"s", ""}}

// stem of a word: its singular, where that can be told.
func stem(w string) string {
	if len(w) < 4 || strings.ContainsAny(w, "0123456789") {
		return w
	}
	for _, e := range ends {
		if strings.HasSuffix(w, e.of) {
			return w[:len(w)-len(e.of)] + e.to
		}
	}
	return w
}
