// Package quantity sets off the lengths, weights and areas in a sentence from its words, so
// that the sentence can leave the core without a choice of units: who writes it out (package
// say, at the edge) puts each quantity into the units of the shop.
//
// A quantity in a sentence is text in metric, for whoever reads the sentence as it is, then
// its exact value, held together by three code points of the private use area that nobody
// types. Sentences stay strings that can be compared, joined and sorted.
package quantity

import (
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Kind of quantity, and how finely it is written.
type Kind byte

// The kinds. Lengths are in micrometres, weights in milligrams, areas in mm², volumes in ml.
const (
	Length   Kind = 'l' // to a tenth of a millimetre, or the shop's fraction of an inch
	Whole    Kind = 'w' // to whole millimetres, or the shop's fraction of an inch
	Fine     Kind = 'f' // a gap or a sag: to a tenth of a millimetre, or a 64th of an inch
	Stock    Kind = 's' // thickness of sheets and boards: to a tenth of a millimetre, or a 32nd of an inch
	Distance Kind = 'd' // on foot: metres or feet
	Weight   Kind = 'k' // to the gram, or a tenth of an ounce
	Rough    Kind = 'r' // worked out: to 100 g, or a tenth of a pound
	Area     Kind = 'a' // square metres or square feet
	Volume   Kind = 'v' // litres or US gallons
	Plain    Kind = 'n' // a number of something else, as amperes: alike in all systems, but for the mark before decimals
)

const (
	start = "\uE000"
	exact = "\uE001"
	end   = "\uE002"
)

// Sign is in every text that holds a quantity.
var Sign = []byte(start)

var marked = regexp.MustCompile(start + `([^` + start + end + `]*)` + exact + `([a-z])(-?\d+(?:,-?\d+)*)` + end)

// Mark makes a quantity of one or several values (a size) that reads as metric for now.
func Mark(kind Kind, metric string, values ...int64) string {
	var b strings.Builder
	b.WriteString(start)
	b.WriteString(metric)
	b.WriteString(exact)
	b.WriteByte(byte(kind))
	for i, v := range values {
		if i > 0 {
			b.WriteByte(',')
		}
		b.WriteString(strconv.FormatInt(v, 10))
	}
	b.WriteString(end)
	return b.String()
}

// Number makes a number of a sentence, to so many significant figures, with the mark before its decimals left to the edge.
func Number(v float64, figures int) string {
	text := strconv.FormatFloat(v, 'g', figures, 64)
	if strings.Contains(text, "e") {
		text = strconv.FormatFloat(v, 'f', 0, 64)
	}
	return Mark(Plain, text, int64(math.Round(v*1000)))
}

// Write puts what read says in the place of every quantity of a sentence.
func Write(text string, read func(kind Kind, metric string, values []int64) string) string {
	if !strings.Contains(text, start) {
		return text
	}
	return marked.ReplaceAllStringFunc(text, func(m string) string {
		p := marked.FindStringSubmatch(m)
		var values []int64
		for s := range strings.SplitSeq(p[3], ",") {
			v, err := strconv.ParseInt(s, 10, 64)
			if err != nil {
				return p[1] // a number no quantity of ours has: as it reads
			}
			values = append(values, v)
		}
		return read(Kind(p[2][0]), p[1], values)
	})
}

// longest text a quantity may take, in bytes.
const longest = 400

// Open tells from where on a text may hold a quantity whose end is still to come; the length
// of the text when there is none.
func Open(text string) int {
	if i := strings.LastIndex(text, start); i >= 0 && len(text)-i < longest && !strings.Contains(text[i:], end) {
		return i
	}
	for n := len(start) - 1; n > 0; n-- { // a code point may be cut as well
		if strings.HasSuffix(text, start[:n]) {
			return len(text) - n
		}
	}
	return len(text)
}

// Metric is a sentence with its quantities as they read in metric.
func Metric(text string) string {
	return Write(text, func(_ Kind, metric string, _ []int64) string { return metric })
}
