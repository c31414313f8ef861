// Package length holds distances as whole micrometres, exact enough for both
// the metric system and sixty-fourths of an inch, and reads and writes them
// the way people note them down in a workshop.
package length

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"hobrak/internal/core/quantity"
)

// Length is a distance in micrometres. The zero value is no distance.
type Length int64

// Common lengths.
const (
	Micrometre Length = 1
	Millimetre        = 1000 * Micrometre
	Centimetre        = 10 * Millimetre
	Metre             = 1000 * Millimetre
	Inch              = 25400 * Micrometre
	Foot              = 12 * Inch
)

// Max is the longest distance Parse accepts; no room is a kilometre long.
const Max = 1000 * Metre

// System is the way a length is written when no unit is given.
type System string

// The two systems. In Metric a bare number is millimetres, in Imperial inches.
const (
	Metric   System = "metric"
	Imperial System = "imperial"
)

// Words are the systems there are.
func (System) Words() []string { return []string{string(Metric), string(Imperial)} }

// MM makes a length of so many millimetres, rounded to the micrometre.
func MM(mm float64) Length { return Length(math.Round(mm * 1000)) }

// MM gives the length in millimetres.
func (l Length) MM() float64 { return float64(l) / 1000 }

// Metres gives the length in metres.
func (l Length) Metres() float64 { return float64(l) / 1e6 }

// String is the length as a quantity of a sentence, which reads as "1200 mm" until the edge
// puts it into the units of the shop: see package quantity.
func (l Length) String() string { return quantity.Mark(quantity.Length, l.Metric(), int64(l)) }

// Metric writes the length in millimetres, as "1200 mm".
func (l Length) Metric() string { return Style{System: Metric}.Format(l) }

// Whole is a length worked out in mm as a quantity of a sentence, to whole millimetres.
func Whole(mm float64) string { return Span(MM(mm)) }

// Span is a length as a quantity of a sentence, to whole millimetres.
func Span(l Length) string {
	return quantity.Mark(quantity.Whole, strconv.FormatFloat(math.Round(l.MM()), 'f', 0, 64)+" mm", int64(l))
}

// Fine is a gap, sag or other small length in mm as a quantity of a sentence, to a tenth of a
// millimetre or a 64th of an inch.
func Fine(mm float64) string {
	return quantity.Mark(quantity.Fine, MM(mm).Metric(), int64(MM(mm)))
}

// Stock is the thickness of sheets and boards as a quantity of a sentence.
func (l Length) Stock() string { return quantity.Mark(quantity.Stock, l.Metric(), int64(l)) }

// OnFoot is a distance in mm as a quantity of a sentence, to tenths of a metre or whole feet.
func OnFoot(mm float64) string {
	return quantity.Mark(quantity.Distance, strconv.FormatFloat(mm/1000, 'f', 1, 64)+" m", int64(MM(mm)))
}

// Size is lengths side by side as a quantity of a sentence, as "400 × 300 × 200 mm", to whole
// millimetres.
func Size(sides ...Length) string {
	text, values := make([]string, len(sides)), make([]int64, len(sides))
	for i, l := range sides {
		text[i], values[i] = strconv.FormatFloat(math.Round(l.MM()), 'f', 0, 64), int64(l)
	}
	return quantity.Mark(quantity.Whole, strings.Join(text, " × ")+" mm", values...)
}

// Area is so many mm² as a quantity of a sentence, in square metres or square feet.
func Area(mm2 float64) string {
	return quantity.Mark(quantity.Area, strconv.FormatFloat(mm2/1e6, 'f', 1, 64)+" m²", int64(math.Round(mm2)))
}

// MarshalJSON writes millimetres with at most three decimals, as the shop file has them.
func (l Length) MarshalJSON() ([]byte, error) {
	return []byte(strconv.FormatFloat(l.MM(), 'f', -1, 64)), nil
}

// UnmarshalJSON reads a number of millimetres.
func (l *Length) UnmarshalJSON(b []byte) error {
	mm, err := strconv.ParseFloat(string(b), 64)
	if err != nil {
		return fmt.Errorf("a length is a number of millimetres, not %s", b)
	}
	if math.Abs(mm) > Max.MM() {
		return fmt.Errorf("%s mm is longer than %d m, which no length in a shop is", b, int(Max.Metres()))
	}
	*l = MM(mm)
	return nil
}

// Style says how lengths are written.
type Style struct {
	System System
	// Unit is "mm", "cm" or "m" in the metric system; empty means mm.
	Unit string
	// Denominator is the finest fraction of an inch: 8, 16, 32 or 64; 0 means 16.
	Denominator int
}

// Typed writes a length as somebody types it into a field of the system: without mm, which a bare number means.
func (s Style) Typed(l Length) string {
	text := s.Format(l)
	if s.System != Imperial {
		text = strings.TrimSuffix(text, " mm")
	}
	return text
}

// Format writes a length in the style. What it writes, Parse reads back to
// within half of the last step written.
func (s Style) Format(l Length) string {
	if s.System == Imperial {
		return s.feetInches(l)
	}
	switch s.Unit {
	case "cm":
		return trimmed(l, Centimetre, 2) + " cm"
	case "m":
		return trimmed(l, Metre, 3) + " m"
	default:
		return trimmed(l, Millimetre, 1) + " mm"
	}
}

func trimmed(l, unit Length, decimals int) string {
	s := strconv.FormatFloat(float64(l)/float64(unit), 'f', decimals, 64)
	s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	if s == "-0" {
		return "0"
	}
	return s
}

func (s Style) feetInches(l Length) string {
	den := int64(s.Denominator)
	if den == 0 {
		den = 16
	}
	sign := ""
	if l < 0 {
		sign, l = "-", -l
	}
	// Steps of 1/den inch, rounded half up.
	steps := (int64(l)*den + int64(Inch)/2) / int64(Inch)
	if steps == 0 {
		return `0"`
	}
	feet := steps / (12 * den)
	steps -= feet * 12 * den
	inches, num := steps/den, steps%den
	d := den
	for num > 0 && num%2 == 0 {
		num, d = num/2, d/2
	}
	var out string
	if feet > 0 {
		out = fmt.Sprintf("%d'", feet)
	}
	switch {
	case inches > 0 && num > 0:
		out = join(out, fmt.Sprintf(`%d %d/%d"`, inches, num, d))
	case inches > 0:
		out = join(out, fmt.Sprintf(`%d"`, inches))
	case num > 0:
		out = join(out, fmt.Sprintf(`%d/%d"`, num, d))
	}
	return sign + out
}

func join(a, b string) string {
	if a == "" {
		return b
	}
	return a + " " + b
}

// Litres is a volume as a quantity of a sentence.
func Litres(l float64) string {
	return quantity.Mark(quantity.Volume, strconv.FormatFloat(l, 'f', 1, 64)+" l", int64(math.Round(l*1000)))
}
