package table

import (
	"strconv"
	"strings"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Rows writes the belongings of a shop as a table: a row of headings, then one
// row for each thing. Read with Recognise they give the same things and homes.
func Rows(s *shop.Shop) [][]string {
	ix := shop.NewIndex(s)
	lengths, weights := units(s)
	var head []string
	for _, c := range Columns {
		switch {
		case c.only:
		case c.Holds == "length":
			head = append(head, c.Title+" "+lengths)
		case c.Holds == "weight":
			head = append(head, c.Title+" "+weights)
		default:
			head = append(head, c.Title)
		}
	}
	out := [][]string{head}
	for i := range s.Items {
		var row []string
		for _, c := range Columns {
			if !c.only {
				row = append(row, quoted(value(ix, &s.Items[i], c.Field, lengths, weights)))
			}
		}
		out = append(out, row)
	}
	return out
}

// dangerous are characters that make a spreadsheet take a cell for a formula.
const dangerous = "=+-@\t\r"

// quoted makes a cell harmless that a spreadsheet would take for a formula, by
// an apostrophe before it; unquoted takes it away again.
func quoted(text string) string {
	if t := strings.TrimLeft(text, "'"); t != "" && strings.ContainsRune(dangerous, rune(t[0])) {
		return "'" + text
	}
	return text
}

func unquoted(text string) string {
	if t := strings.TrimLeft(text, "'"); strings.HasPrefix(text, "'") && t != "" && strings.ContainsRune(dangerous, rune(t[0])) {
		return text[1:]
	}
	return text
}

// list of words with commas between them.
func list[T ~string](words []T) string {
	var b strings.Builder
	for i, w := range words {
		if i > 0 {
			b.WriteString(", ")
		}
		b.WriteString(string(w))
	}
	return b.String()
}

func value(ix *shop.Index, it *shop.Item, field, lengths, weights string) string {
	switch field {
	case "id":
		return it.ID
	case "name":
		return it.Name
	case "kind":
		return it.Kind
	case "count":
		return strconv.Itoa(it.Number())
	case "w":
		return decimal(it.W, lengths)
	case "h":
		return decimal(it.H, lengths)
	case "d":
		return decimal(it.D, lengths)
	case "kg":
		if weights == "lb" {
			return trim(strconv.FormatFloat(float64(it.KG)/weight.Pound, 'f', 7, 64))
		}
		return strconv.FormatFloat(it.KG.KG(), 'f', -1, 64)
	case "uses":
		return strconv.FormatFloat(it.UsesPerWeek, 'f', -1, 64)
	case "used_at":
		return list(it.UsedAt)
	case "hold":
		return list(it.Hold)
	case "family":
		return it.Family
	case "flags":
		return list(it.Flags)
	case "assumed":
		return list(it.Assumed)
	case "clearance":
		if it.Clearance == nil {
			return ""
		}
		return decimal(*it.Clearance, lengths)
	case "turn":
		if it.Turn == nil {
			return ""
		}
		return yes(*it.Turn)
	case "flat":
		if it.Flat == nil {
			return ""
		}
		return decimal(it.Flat.W, "mm") + " x " + decimal(it.Flat.H, "mm") + " x " + decimal(it.Flat.D, "mm") + " mm"
	case "realm":
		return it.Realm
	case "whose":
		return it.Whose
	case "lies":
		return it.Lies
	case "status":
		return it.Status
	case "keep":
		if it.Keep {
			return "yes"
		}
	case "promised_to":
		return it.PromisedTo
	case "goes_to":
		return it.GoesTo
	case "review":
		return it.Review
	case "twins":
		if it.Twins > 0 {
			return strconv.Itoa(it.Twins)
		}
	case "photos":
		return list(it.Photos)
	case "with":
		return strings.Join(it.With, ", ")
	case "set_up":
		return it.SetUp
	case "due":
		return it.Due
	case "wood":
		return belongings.WoodText(it.Wood)
	case "notes":
		return it.Notes
	case "home":
		return writeHomes(ix.Homes(it.ID))
	}
	return ""
}

func yes(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}

// decimal writes a length so that reading it gives the same micrometre.
func decimal(l length.Length, unit string) string {
	if unit == "in" {
		return trim(strconv.FormatFloat(float64(l)/float64(length.Inch), 'f', 6, 64))
	}
	return strconv.FormatFloat(l.MM(), 'f', -1, 64)
}

func trim(number string) string {
	return strings.TrimRight(strings.TrimRight(number, "0"), ".")
}
