// Package say writes the sentences of the core out: every quantity in them in the units of
// the shop. It stands at the edge; nothing in the core asks it.
package say

import (
	"bytes"
	"io"
	"math"
	"regexp"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/weight"
)

// In writes a sentence in a system of units.
func In(units length.System, text string) string {
	return quantity.Write(text, func(kind quantity.Kind, metric string, values []int64) string {
		if units != length.Imperial || kind == quantity.Plain {
			return metric
		}
		out := make([]string, len(values))
		for i, v := range values {
			out[i] = imperial(kind, v)
		}
		return strings.Join(out, " × ")
	})
}

// A gallon here is the US liquid gallon of 231 cubic inches.
const (
	squareFoot = 304.8 * 304.8
	gallon     = 3785.411784
)

func imperial(kind quantity.Kind, v int64) string {
	switch kind {
	case quantity.Fine:
		if l := length.Length(v); l != 0 && l < length.Inch/128 && l > -length.Inch/128 {
			return `under 1/64"`
		}
		return length.Style{System: length.Imperial, Denominator: 64}.Format(length.Length(v))
	case quantity.Stock:
		return length.Style{System: length.Imperial, Denominator: 32}.Format(length.Length(v))
	case quantity.Distance:
		return strconv.FormatFloat(math.Round(float64(v)/float64(length.Foot)), 'f', 0, 64) + " ft"
	case quantity.Weight:
		return weight.Format(weight.Weight(v), length.Imperial)
	case quantity.Rough:
		return strconv.FormatFloat(float64(v)/weight.Pound, 'f', 1, 64) + " lb"
	case quantity.Area:
		return strconv.FormatFloat(float64(v)/squareFoot, 'f', 1, 64) + " sq ft"
	case quantity.Volume:
		return strconv.FormatFloat(float64(v)/gallon, 'f', 1, 64) + " gal"
	default:
		return length.Style{System: length.Imperial}.Format(length.Length(v))
	}
}

// JSON writes the sentences within a JSON document out.
func JSON(units length.System, doc []byte) []byte {
	if !bytes.Contains(doc, quantity.Sign) {
		return doc
	}
	return []byte(inJSON(units, string(doc)))
}

// inJSON writes sentences within JSON: the sign of inches is escaped there.
func inJSON(units length.System, doc string) string {
	return quantity.Write(doc, func(kind quantity.Kind, metric string, values []int64) string {
		return strings.ReplaceAll(In(units, quantity.Mark(kind, metric, values...)), `"`, `\"`)
	})
}

// Writer writes what passes through it out, as In does. Close writes what is left when a
// quantity was begun and never ended; it does not close what is under it.
type Writer struct {
	to   io.Writer
	say  func(string) string
	rest string
}

// To makes a writer over another.
func To(w io.Writer, units length.System) *Writer {
	return &Writer{to: w, say: func(text string) string { return In(units, text) }}
}

// ToJSON makes a writer of JSON over another.
func ToJSON(w io.Writer, units length.System) *Writer {
	return &Writer{to: w, say: func(text string) string { return inJSON(units, text) }}
}

// Screen is how figures are set where people read them.
type Screen struct {
	Units length.System
	Comma bool // before decimals
}

// set a sentence: the figures of fractions are small, with the stroke that fonts do it for.
func (s Screen) set(doc string) string {
	return quantity.Write(doc, func(kind quantity.Kind, metric string, values []int64) string {
		text := strings.ReplaceAll(inJSON(s.Units, quantity.Mark(kind, metric, values...)), "/", "\u2044")
		if s.Comma {
			text = decimals.ReplaceAllString(text, "$1,$2")
		}
		return text
	})
}

var decimals = regexp.MustCompile(`(\d)\.(\d)`)

// ToScreen makes a writer of JSON that people will see set in a font, over another.
func ToScreen(w io.Writer, s Screen) *Writer {
	return &Writer{to: w, say: s.set}
}

// Write takes part of a text; a quantity may be cut between two parts.
func (w *Writer) Write(p []byte) (int, error) {
	text := w.rest + string(p)
	whole := quantity.Open(text)
	w.rest = text[whole:]
	if _, err := io.WriteString(w.to, w.say(text[:whole])); err != nil {
		return 0, err
	}
	return len(p), nil
}

// Close writes what is left.
func (w *Writer) Close() error {
	_, err := io.WriteString(w.to, w.rest)
	w.rest = ""
	return err
}

// Listed are names in a sentence: a, b and c; empty without any.
func Listed(names []string) string {
	n := len(names)
	if n < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:n-1], ", ") + " and " + names[n-1]
}

// Count is a number with the word for one or for several.
func Count(n int, one, several string) string {
	if n == 1 {
		return "1 " + one
	}
	return strconv.Itoa(n) + " " + several
}
