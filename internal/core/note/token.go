package note

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"hobrak/internal/core/length"
)

// mostTyped is how much of a line is read, in bytes.
const mostTyped = 2000

type tokenKind int

const (
	word tokenKind = iota
	long           // a length, or a number by itself
	by             // the cross between two lengths
	amps
	kilos
	cut // a comma or the like: what follows is about something else
)

// token is a word or a figure of a line.
type token struct {
	kind     tokenKind
	from, to int    // bytes
	text     string // lower case, of a word
	raw      string // as typed
	value    float64
	bare     bool // a number without a unit
	used     bool
}

const (
	number = `(?:\d+[ -]\d+[/⁄]\d+|\d+[/⁄]\d+|\d+[.,]\d+|\.\d+|\d*[½¼¾⅓⅔⅛⅜⅝⅞]|\d+)`
	feet   = `\s*(?:'|′|’|ft\b|feet\b|foot\b)`
	inch   = `\s*(?:"|″|”|''|inch(?:es)?\b|in\b)`
)

var (
	ofLength = regexp.MustCompile(`(?i)^(?:` + number + feet + `(?:\s*-?\s*` + number + inch + `|\d+\b)?|` + number + inch + `|` + number + `\s*(?:mm|cm|m|metres?|meters?)\b|` + number + `)`)
	ofAmps   = regexp.MustCompile(`(?i)^(\d+(?:[.,]\d+)?)\s*(?:a|amps?|amperes?)\b`)
	ofWatts  = regexp.MustCompile(`(?i)^(\d+(?:[.,]\d+)?)\s*(?:w|watts?)\b`)
	ofWeight = regexp.MustCompile(`(?i)^(\d+(?:[.,]\d+)?)\s*(kg|kilos?|lbs?|pounds?)\b`)
	ofWord   = regexp.MustCompile(`^[\p{L}][\p{L}\p{N}'’&/-]*`)
	ofCross  = regexp.MustCompile(`(?i)^\s*(?:x|×|\*|by\b)\s*`)
	ofMixed  = regexp.MustCompile(`^\d+\p{L}[\p{L}\p{N}]*`)
	ofSize   = regexp.MustCompile(`(?i)^[\d.,]+\s*(?:x|×|by)\s*[\d.]`)
	within   = regexp.MustCompile(`(?i)^\s+(?:the|a|an|wall|corner|drawer|chest|cart|[\p{L}]+-?\d)`)
	figures  = regexp.MustCompile(`^` + number + `$`)
)

// tokens of a line. Commas between figures are decimal ones, others part what is said. Amperes and weights
// are only looked for where they can be: an A behind a figure may be a wall.
func tokens(text string, machines bool) (out []token) {
	for at := 0; at < len(text) && at < mostTyped; {
		rest := text[at:]
		add := func(kind tokenKind, n int) *token {
			raw := strings.TrimRight(rest[:n], " ")
			out = append(out, token{kind: kind, from: at, to: at + len(raw), text: strings.ToLower(raw), raw: raw})
			at += n
			return &out[len(out)-1]
		}
		figure := func(s string) float64 {
			v, _ := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
			return v
		}
		if len(out) > 0 && out[len(out)-1].kind == long {
			// "by" stands between two lengths; the cross needs a figure behind it.
			if m := ofCross.FindString(rest); m != "" && len(m) < len(rest) && ofLength.MatchString(rest[len(m):]) {
				add(by, len(m))
				continue
			}
		}
		switch {
		case rest[0] == ' ' || rest[0] == '\t' || rest[0] == '(' || rest[0] == ')':
			at++
		case rest[0] == ',' || rest[0] == ';' || rest[0] == '\n' || rest[0] == '.' && (len(rest) == 1 || rest[1] == ' ' || rest[1] == '\n') || rest[0] == ':':
			add(cut, 1)
		case machines && ofAmps.MatchString(rest):
			m := ofAmps.FindStringSubmatch(rest)
			add(amps, len(m[0])).value = figure(m[1])
		case machines && ofWatts.MatchString(rest):
			m := ofWatts.FindStringSubmatch(rest)
			t := add(amps, len(m[0]))
			t.value, t.bare = figure(m[1]), true // watts: what that is in amperes depends on the supply
		case machines && ofWeight.MatchString(rest):
			m := ofWeight.FindStringSubmatch(rest)
			t := add(kilos, len(m[0]))
			t.value = figure(m[1])
			if l := strings.ToLower(m[2]); l[0] == 'l' || l[0] == 'p' {
				t.value *= 0.45359237
			}
		case ofLength.MatchString(rest):
			m := ofLength.FindString(rest)
			if n := strings.TrimSuffix(strings.ToLower(m), " in"); len(n) < len(m) && within.MatchString(rest[len(m):]) {
				m = m[:len(n)] // "0.5 in the corner" is no half inch
			}
			if figures.MatchString(m) && ofMixed.MatchString(rest) && !ofSize.MatchString(rest) {
				add(word, len(ofMixed.FindString(rest))) // 3D
				continue
			}
			t := add(long, len(m))
			t.bare = figures.MatchString(t.raw)
			if t.bare {
				t.value = plainNumber(t.raw)
			}
		case ofWord.MatchString(rest):
			add(word, len(ofWord.FindString(rest)))
		default:
			_, n := utf8.DecodeRuneInString(rest)
			add(word, n)
		}
	}
	return out
}

// plainNumber is the value of a number that has no unit, read in millimetres.
func plainNumber(s string) float64 {
	l, err := length.Parse(s, length.Metric)
	if err != nil {
		return 0
	}
	return l.MM()
}

// scan goes through the tokens of one clause.
type scan struct {
	text  string
	units length.System
	all   []token
	chips []Chip
	// bigBare is up to where a number without a unit is in the larger unit, metres or feet.
	bigBare float64
}

// chip says what a piece of the line was taken for.
func (c *scan) chip(from, to int, kind, says string, sure bool) {
	runes := func(n int) int { return utf8.RuneCountInString(c.text[:n]) }
	c.chips = append(c.chips, Chip{From: runes(from), To: runes(to), Kind: kind, Text: c.text[from:to], Says: says, Sure: sure})
}

// length of a token. A number by itself is in metres, or feet, when it is too small to be meant otherwise;
// sure is false then.
func (c *scan) length(t *token) (l length.Length, sure bool, err error) {
	text := t.raw
	if t.bare && t.value <= c.bigBare {
		if c.units == length.Imperial {
			text += " ft"
		} else {
			text += " m"
		}
		sure = strings.ContainsAny(t.raw, ".,")
	} else {
		sure = true
	}
	l, err = length.Parse(text, c.units)
	return l, sure, err
}

// is tells whether token i is one of these words.
func (c *scan) is(i int, words ...string) bool {
	return i >= 0 && i < len(c.all) && c.all[i].kind == word && !c.all[i].used && slices.Contains(words, c.all[i].text)
}

// isLong tells whether token i is a length nothing was made of yet.
func (c *scan) isLong(i int) bool {
	return i >= 0 && i < len(c.all) && c.all[i].kind == long && !c.all[i].used
}

// use marks tokens as understood.
func (c *scan) use(from, to int) {
	for i := from; i < to && i < len(c.all); i++ {
		c.all[i].used = true
	}
}

// phrase finds several words in a row; n is how many tokens they are, 0 when they are not there.
func (c *scan) phrase(i int, text string) (n int) {
	for _, w := range strings.Fields(text) {
		if !c.is(i+n, w) {
			return 0
		}
		n++
	}
	return n
}

// filler are words that say nothing by themselves.
var filler = []string{"the", "a", "an", "on", "of", "with", "and", "in", "is", "are", "wall", "walls", "room", "to", "about", "each", "every"}

// leftover marks what was not understood; reason says what would be.
func (c *scan) leftover(reason string) (any bool) {
	for i := range c.all {
		t := &c.all[i]
		if t.used || t.kind == word && slices.Contains(filler, t.text) {
			continue
		}
		any = true
		c.chip(t.from, t.to, unknown, fmt.Sprintf("%q was not understood; %s", t.raw, reason), true)
	}
	return any
}

// span is the part of the line the clause takes.
func (c *scan) span() (from, to int) {
	if len(c.all) == 0 {
		return 0, 0
	}
	return c.all[0].from, c.all[len(c.all)-1].to
}

// clauses parts tokens at commas and the like.
func clauses(all []token) (out [][]token) {
	var now []token
	for _, t := range all {
		if t.kind == cut {
			if len(now) > 0 {
				out = append(out, now)
			}
			now = nil
			continue
		}
		now = append(now, t)
	}
	if len(now) > 0 {
		out = append(out, now)
	}
	return out
}
