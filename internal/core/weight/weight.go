// Package weight holds masses as whole milligrams and reads and writes them in
// kilograms and grams or pounds and ounces.
package weight

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
)

// Weight is a mass in milligrams. The zero value weighs nothing.
type Weight int64

// Common weights. A pound is 453.59237 g by definition.
const (
	Milligram Weight = 1
	Gram             = 1000 * Milligram
	Kilogram         = 1000 * Gram
)

// Pound and Ounce in milligrams.
const (
	Pound = 453592.37
	Ounce = Pound / 16
)

// Max is the heaviest weight Parse accepts.
const Max = 100_000 * Kilogram

// KG makes a weight of so many kilograms, rounded to the milligram.
func KG(kg float64) Weight { return Weight(math.Round(kg * 1e6)) }

// KG gives the weight in kilograms.
func (w Weight) KG() float64 { return float64(w) / 1e6 }

// String is the weight as a quantity of a sentence, which reads as "1.2 kg" until the edge
// puts it into the units of the shop: see package quantity.
func (w Weight) String() string {
	return quantity.Mark(quantity.Weight, Format(w, length.Metric), int64(w))
}

// Rough is a weight worked out in kg as a quantity of a sentence, to a tenth of a kilogram or
// of a pound.
func Rough(kg float64) string {
	return quantity.Mark(quantity.Rough, strconv.FormatFloat(kg, 'f', 1, 64)+" kg", int64(KG(kg)))
}

// MarshalJSON writes kilograms, as the shop file has them.
func (w Weight) MarshalJSON() ([]byte, error) {
	return []byte(strconv.FormatFloat(w.KG(), 'f', -1, 64)), nil
}

// UnmarshalJSON reads a number of kilograms.
func (w *Weight) UnmarshalJSON(b []byte) error {
	kg, err := strconv.ParseFloat(string(b), 64)
	if err != nil {
		return fmt.Errorf("a weight is a number of kilograms, not %s", b)
	}
	if math.Abs(kg) > Max.KG() {
		return fmt.Errorf("%s kg is heavier than anything in a shop", b)
	}
	*w = KG(kg)
	return nil
}

// ParseError says what could not be read and what would have been right.
type ParseError struct {
	Input  string
	Reason string
}

func (e *ParseError) Error() string { return fmt.Sprintf("%q: %s", e.Input, e.Reason) }

var units = map[string]float64{
	"kg": float64(Kilogram), "kilo": float64(Kilogram), "kilos": float64(Kilogram), "g": float64(Gram), "gram": float64(Gram), "grams": float64(Gram),
	"lb": Pound, "lbs": Pound, "pound": Pound, "pounds": Pound, "oz": Ounce, "ounce": Ounce, "ounces": Ounce,
}

// Parse reads "1.2 kg", "800 g", "5 lb" or "2 lb 4 oz". A bare number is
// kilograms or pounds by the system. The error is a *ParseError.
func Parse(s string, system length.System) (Weight, error) {
	fail := func(format string, args ...any) (Weight, error) {
		return 0, &ParseError{Input: s, Reason: fmt.Sprintf(format, args...)}
	}
	bare := "kg"
	if system == length.Imperial {
		bare = "lb"
	}
	fields := split(s)
	if len(fields) == 0 {
		return fail("nothing to read; write a weight such as 1.2 kg or 2 lb 4 oz")
	}
	total, last := 0.0, ""
	for i := 0; i < len(fields); i += 2 {
		v, err := strconv.ParseFloat(strings.Replace(fields[i], ",", ".", 1), 64)
		if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
			return fail("%q is not a number; write a weight such as 1.2 kg or 2 lb 4 oz", fields[i])
		}
		if v < 0 {
			return fail("a weight cannot be below 0")
		}
		name := bare
		if i+1 < len(fields) {
			name = strings.ToLower(strings.TrimSuffix(fields[i+1], "."))
		}
		unit, ok := units[name]
		if !ok {
			return fail("%q is not a unit of weight; use kg, g, lb or oz", fields[i+1])
		}
		if i > 0 && (last != "lb" || units[name] != Ounce) {
			return fail("only pounds can be followed by a second part, in ounces")
		}
		if unit == Pound {
			last = "lb"
		} else {
			last = name
		}
		total += v * unit
	}
	if total > float64(Max) {
		return fail("that is heavier than %d t", int(Max.KG()/1000))
	}
	return Weight(math.Round(total)), nil
}

// split cuts "2lb 4oz" into 2, lb, 4, oz.
func split(s string) []string {
	var out []string
	var cur strings.Builder
	kind := 0 // 1 in a number, 2 in a word
	flush := func() {
		if cur.Len() > 0 {
			out = append(out, cur.String())
			cur.Reset()
		}
		kind = 0
	}
	for _, r := range s {
		k := 2
		switch {
		case r >= '0' && r <= '9' || r == '.' && kind != 2 || r == ',' || r == '-' || r == '+':
			k = 1
		case r == ' ' || r == '\t' || r == '\n' || r == '\r':
			flush()
			continue
		}
		if k != kind {
			flush()
		}
		kind = k
		cur.WriteRune(r)
	}
	flush()
	return out
}

// Format writes a weight: grams below a kilogram, else kilograms; or pounds and ounces.
func Format(w Weight, system length.System) string {
	if system == length.Imperial {
		tenths := math.Round(float64(w) / Ounce * 10) // tenths of an ounce
		lb := math.Floor(tenths / 160)
		oz := (tenths - lb*160) / 10
		ozText := strconv.FormatFloat(oz, 'f', -1, 64) + " oz"
		switch {
		case lb == 0:
			return ozText
		case oz == 0:
			return fmt.Sprintf("%.0f lb", lb)
		default:
			return fmt.Sprintf("%.0f lb %s", lb, ozText)
		}
	}
	if w < Kilogram && w > -Kilogram {
		return strconv.FormatFloat(math.Round(float64(w)/float64(Gram)*10)/10, 'f', -1, 64) + " g"
	}
	return strconv.FormatFloat(math.Round(w.KG()*1000)/1000, 'f', -1, 64) + " kg"
}
