package belongings

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"hobrak/internal/core/shop"
)

// WoodText is what is said of a piece of wood in one cell of a list: "larch; board; came 2026-05-10; price 21".
func WoodText(w *shop.Wood) string {
	if w == nil {
		return ""
	}
	out := []string{w.Of, w.Form}
	if w.Of == "" {
		out[0] = "wood"
	}
	for _, x := range []struct {
		says bool
		word string
	}{{w.Across, "across"}, {w.About, "about"}, {w.Salvaged, "salvaged"}} {
		if x.says {
			out = append(out, x.word)
		}
	}
	number := func(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }
	for _, x := range []struct{ name, value string }{
		{"came", w.Came}, {"measured", w.Measured}, {"flaws", w.Flaws}, {"source", w.Source},
	} {
		if x.value != "" {
			out = append(out, x.name+" "+strings.ReplaceAll(x.value, ";", ","))
		}
	}
	if w.Moisture > 0 {
		out = append(out, "moisture "+number(w.Moisture))
	}
	if w.Price > 0 {
		out = append(out, "price "+number(w.Price))
	}
	return strings.Join(out, "; ")
}

// readWood reads it again; why says what would be right.
func readWood(text string) (w *shop.Wood, why string) {
	if strings.TrimSpace(text) == "" {
		return nil, ""
	}
	w = &shop.Wood{Form: "board"}
	for i, part := range strings.Split(text, ";") {
		part = strings.TrimSpace(part)
		name, value, _ := strings.Cut(part, " ")
		value = strings.TrimSpace(value)
		amount, err := strconv.ParseFloat(value, 64)
		switch name {
		case "":
		case "across":
			w.Across = true
		case "about":
			w.About = true
		case "salvaged":
			w.Salvaged = true
		case "came", "measured":
			if _, err := time.Parse(time.DateOnly, value); err != nil {
				return nil, fmt.Sprintf("%q should be a date as 2027-05-31", value)
			}
			if name == "came" {
				w.Came = value
			} else {
				w.Measured = value
			}
		case "flaws":
			w.Flaws = value
		case "source":
			w.Source = value
		case "moisture", "price":
			if err != nil || amount < 0 || name == "moisture" && amount > 200 || amount > 1e6 {
				return nil, fmt.Sprintf("%q should be a number for %s", value, name)
			}
			if name == "price" {
				w.Price = amount
			} else {
				w.Moisture = amount
			}
		default:
			switch {
			case slices.Contains(shop.Choices[shop.Wood]("form"), name):
				w.Form = name
			case i == 0 && name == "wood":
			case slices.Contains(shop.Choices[shop.Wood]("of"), name):
				w.Of = name
			default:
				return nil, fmt.Sprintf("%q is not known of wood; write it as larch; board; came 2026-05-10; price 21", part)
			}
		}
	}
	return w, ""
}
