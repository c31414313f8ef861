package table

import (
	"fmt"
	"hobrak/internal/core/keeping"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

var spotPart = regexp.MustCompile(`\s+(x|y|z|rot|row|slot|level|n|cols)=(-?[\d.]+)|\s+(locked)\b`)

// place finds a place by its address or name.
func place(s *shop.Shop, text string) *shop.Place {
	i := slices.IndexFunc(s.Places, func(p shop.Place) bool { return strings.EqualFold(p.ID, text) })
	if i < 0 {
		i = slices.IndexFunc(s.Places, func(p shop.Place) bool { return p.Name != "" && strings.EqualFold(p.Name, text) })
	}
	if i < 0 {
		return nil
	}
	return &s.Places[i]
}

// readHomes reads homes such as "B1 x=120 z=400; K3-1 slot=8 n=2". One that
// gives a place and no spot has Item "?": the spot is still to be found.
func readHomes(s *shop.Shop, text string) (homes []shop.Home, why string) {
	for _, part := range strings.Split(text, ";") {
		part = strings.TrimSpace(part)
		if part == "" {
			continue
		}
		address, rest := part, ""
		if at := spotPart.FindStringIndex(part); at != nil {
			address, rest = part[:at[0]], part[at[0]:]
		}
		p := place(s, strings.TrimSpace(address))
		if p == nil {
			return nil, fmt.Sprintf("there is no place %q", address)
		}
		h := shop.Home{Place: p.ID, Item: "?"}
		for _, m := range spotPart.FindAllStringSubmatch(rest, -1) {
			h.Item = ""
			if m[3] != "" {
				h.Locked = true
				continue
			}
			v, err := strconv.ParseFloat(m[2], 64)
			if least, most, _ := shop.Limits[shop.Home](m[1]); err != nil || v < least || v > most || m[1] == "rot" && v != 0 && v != 90 {
				return nil, fmt.Sprintf("%s=%s cannot be; it goes from %g to %g", m[1], m[2], least, most)
			}
			put(&h, m[1], v)
		}
		if left := strings.TrimSpace(spotPart.ReplaceAllString(rest, "")); left != "" {
			return nil, fmt.Sprintf("%q is not understood; a home is written as B1 x=120 z=400", left)
		}
		if keeping.Of(p).Form() == keeping.Heap {
			h.Item = "" // needs no spot
		}
		homes = append(homes, h)
	}
	return homes, ""
}

func put(h *shop.Home, key string, v float64) {
	n := int(v)
	switch key {
	case "x":
		h.X = length.MM(v)
	case "y":
		h.Y = length.MM(v)
	case "z":
		h.Z = length.MM(v)
	case "rot":
		h.Rot = n
	case "row":
		h.Row = n
	case "slot":
		h.Slot = n
	case "level":
		h.Level = n
	case "n":
		h.N = n
	case "cols":
		h.Cols = n
	}
}

// writeHomes is what readHomes reads. A home at 0, 0 says x=0, so that it is
// not taken for one whose spot is still to be found.
func writeHomes(homes []*shop.Home) string {
	var parts []string
	for _, h := range homes {
		var b strings.Builder
		b.WriteString(h.Place)
		number := func(key string, v float64) {
			if v != 0 {
				fmt.Fprintf(&b, " %s=%s", key, strconv.FormatFloat(v, 'f', -1, 64))
			}
		}
		number("x", h.X.MM())
		number("y", h.Y.MM())
		number("z", h.Z.MM())
		number("rot", float64(h.Rot))
		number("row", float64(h.Row))
		number("slot", float64(h.Slot))
		number("level", float64(h.Level))
		number("n", float64(h.N))
		number("cols", float64(h.Cols))
		if h.Locked {
			b.WriteString(" locked")
		}
		if b.Len() == len(h.Place) {
			b.WriteString(" x=0")
		}
		parts = append(parts, b.String())
	}
	return strings.Join(parts, "; ")
}
