package length

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"
)

// ParseError says what could not be read and what would have been right.
type ParseError struct {
	Input  string // as typed
	Reason string // one plain sentence
}

func (e *ParseError) Error() string { return fmt.Sprintf("%q: %s", e.Input, e.Reason) }

var units = map[string]Length{
	"mm": Millimetre, "millimetre": Millimetre, "millimetres": Millimetre, "millimeter": Millimetre, "millimeters": Millimetre,
	"cm": Centimetre, "centimetre": Centimetre, "centimetres": Centimetre, "centimeter": Centimetre, "centimeters": Centimetre,
	"m": Metre, "metre": Metre, "metres": Metre, "meter": Metre, "meters": Metre,
	"in": Inch, "inch": Inch, "inches": Inch, `"`: Inch, "″": Inch, "”": Inch, "''": Inch, "“": Inch,
	"ft": Foot, "foot": Foot, "feet": Foot, "'": Foot, "′": Foot, "’": Foot,
}

var vulgar = map[rune][2]int64{
	'½': {1, 2}, '¼': {1, 4}, '¾': {3, 4}, '⅓': {1, 3}, '⅔': {2, 3},
	'⅛': {1, 8}, '⅜': {3, 8}, '⅝': {5, 8}, '⅞': {7, 8},
}

// Parse reads a length. A number without a unit is taken in the unit of the
// system: millimetres or inches. Feet and inches, fractions ("47 1/4", "47-1/4",
// "¾", "3⁄4"), decimals with point or comma and any of the units may be mixed as in
// 3' 11 1/4". The error is a *ParseError and quotes what was typed.
func Parse(s string, system System) (Length, error) {
	fail := func(format string, args ...any) (Length, error) {
		return 0, &ParseError{Input: s, Reason: fmt.Sprintf(format, args...)}
	}
	p := &scanner{in: []rune(strings.TrimSpace(s))}
	if len(p.in) == 0 {
		return fail(`nothing to read; write a length such as 1200, 120 cm or 3' 11 1/4"`)
	}
	negative := p.accept('-')
	if !negative {
		p.accept('+')
	}
	bare := Millimetre
	if system == Imperial {
		bare = Inch
	}
	total := 0.0
	last := Length(math.MaxInt64) // each part must be in a smaller unit than the one before
	for parts := 0; ; parts++ {
		p.space()
		if p.end() {
			break
		}
		if parts == 2 {
			return fail("there is something after the inches: %q", string(p.in[p.at:]))
		}
		value, err := p.number()
		if err != "" {
			return fail("%s", err)
		}
		p.space()
		name := p.unit()
		unit, known := units[strings.ToLower(name)]
		switch {
		case name == "" && last == Foot:
			unit = Inch // 3' 11 means eleven inches
		case name == "":
			unit = bare
			if parts > 0 {
				return fail("%q has no unit", string(p.in[p.at:]))
			}
		case !known:
			return fail("%q is not a unit of length; use mm, cm, m, in or ft", name)
		}
		if parts > 0 && (last != Foot || unit != Inch) {
			return fail("only feet can be followed by a second part, in inches")
		}
		last = unit
		total += value * float64(unit)
	}
	if math.IsNaN(total) || math.Abs(total) > float64(Max) {
		return fail("that is longer than %s", OnFoot(Max.MM()))
	}
	l := Length(math.Round(total))
	if negative {
		l = -l
	}
	return l, nil
}

type scanner struct {
	in []rune
	at int
}

func (p *scanner) end() bool { return p.at >= len(p.in) }

func (p *scanner) peek() rune {
	if p.end() {
		return 0
	}
	return p.in[p.at]
}

func (p *scanner) accept(r rune) bool {
	if p.peek() == r {
		p.at++
		return true
	}
	return false
}

func (p *scanner) space() {
	for !p.end() && unicode.IsSpace(p.in[p.at]) {
		p.at++
	}
}

func (p *scanner) digits() string {
	from := p.at
	for !p.end() && p.in[p.at] >= '0' && p.in[p.at] <= '9' {
		p.at++
	}
	return string(p.in[from:p.at])
}

// number reads 12, 12.5, 12,5, 3/4, 12 3/4, 12-3/4, ¾ and 12¾.
func (p *scanner) number() (float64, string) {
	const want = "write a number such as 12, 12.5 or 12 3/4"
	whole := p.digits()
	if v, ok := vulgar[p.peek()]; ok {
		p.at++
		f := float64(v[0]) / float64(v[1])
		if whole != "" {
			w, _ := strconv.ParseFloat(whole, 64)
			f += w
		}
		return f, ""
	}
	if p.peek() == '.' || p.peek() == ',' {
		p.at++
		frac := p.digits()
		if whole == "" && frac == "" {
			return 0, want
		}
		f, err := strconv.ParseFloat("0"+whole+"."+frac+"0", 64)
		if err != nil {
			return 0, want
		}
		return f, ""
	}
	if whole == "" {
		return 0, fmt.Sprintf("%q is not a number; %s", string(p.in[p.at:]), want)
	}
	w, err := strconv.ParseFloat(whole, 64)
	if err != nil {
		return 0, want
	}
	if p.stroke() {
		return p.denominator(w)
	}
	// A fraction may follow after a blank or a hyphen: look ahead, go back if there is none.
	mark := p.at
	p.space()
	p.accept('-')
	p.space()
	if v, ok := vulgar[p.peek()]; ok && p.at > mark {
		p.at++
		return w + float64(v[0])/float64(v[1]), ""
	}
	num := p.digits()
	if num != "" && p.stroke() {
		n, _ := strconv.ParseFloat(num, 64)
		f, why := p.denominator(n)
		return w + f, why
	}
	p.at = mark
	return w, ""
}

// stroke of a fraction, as on a keyboard or as it is set.
func (p *scanner) stroke() bool { return p.accept('/') || p.accept('\u2044') }

func (p *scanner) denominator(num float64) (float64, string) {
	den := p.digits()
	d, err := strconv.ParseFloat(den, 64)
	if err != nil || d == 0 {
		return 0, "a fraction needs a number other than 0 below the stroke, as in 3/4"
	}
	return num / d, ""
}

func (p *scanner) unit() string {
	from := p.at
	if !p.end() && strings.ContainsRune(`"″”“'′’`, p.in[p.at]) {
		p.at++
		if p.in[from] == '\'' && p.peek() == '\'' {
			p.at++
		}
		return string(p.in[from:p.at])
	}
	for !p.end() && unicode.IsLetter(p.in[p.at]) {
		p.at++
	}
	name := string(p.in[from:p.at])
	p.accept('.')
	if name == "" && p.at > from {
		p.at = from
	}
	if name == "" && !p.end() && !unicode.IsDigit(p.in[p.at]) {
		p.at = len(p.in)
		return string(p.in[from:])
	}
	return name
}
