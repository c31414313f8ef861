// Package note reads what somebody jots down about their shop: a room, a station, a place or a thing, each in a
// line, as
//
//	5.6 x 4.1 x 2.4, door A 850x1980 at 400, window C 1200x1000 at 1450 up 950, studs 600 from 320
//
// It says for every piece of the line what it took it for, marks what it did not understand or what cannot
// be, and gives the entry of the shop file that the line comes to. It never guesses silently. A line either
// comes to a whole entry or to none. Lengths are those of package length.
package note

import (
	"slices"
	"strings"

	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
)

// Chip is a piece of a line and what it was taken for.
type Chip = line.Chip

// Reading of a line.
type Reading struct {
	Chips []Chip `json:"chips" nullable:"false"`
	Entry any    `json:"entry" doc:"as in the shop file; null when the line comes to none"`
	Why   string `json:"why" doc:"why no entry can be made of it; empty when one can"`
}

// Unclear tells whether there is something in the line that was not understood or cannot be.
func (r *Reading) Unclear() bool {
	return slices.ContainsFunc(r.Chips, func(c Chip) bool { return c.Kind == unknown })
}

// Wrong is the first piece that was not understood or cannot be; of a line without one, that nothing can be made of it
// and why.
func (r *Reading) Wrong() Chip {
	for _, c := range r.Chips {
		if c.Kind == unknown {
			return c
		}
	}
	return Chip{Says: r.Why}
}

// unknown is the kind of chip that was not understood.
const unknown = "unknown"

// readers of what a line can be about.
var readers = []struct {
	about string
	read  func(*shop.Shop, string) Reading
}{
	{"room", func(s *shop.Shop, text string) Reading { return Room(s, text).Reading }},
	{"station", func(s *shop.Shop, text string) Reading { return Station(s, text).Reading }},
	{"place", func(s *shop.Shop, text string) Reading { return Place(s, text).Reading }},
	{"item", item},
}

// Abouts are what a line can be about.
func Abouts() (all []string) {
	for _, r := range readers {
		all = append(all, r.about)
	}
	return all
}

// Read a line about something, in the units of a shop and with what is in it; ok is false when nothing
// is read about that.
func Read(s *shop.Shop, about, text string) (r Reading, ok bool) {
	for _, x := range readers {
		if x.about == about {
			return x.read(s, strings.ToValidUTF8(text, "?")), true
		}
	}
	return Reading{}, false
}

func item(s *shop.Shop, text string) Reading {
	p := line.Parse(text, line.Context{Units: s.Settings.Units, Stations: s.Stations, Areas: s.Areas, Containers: s.Containers, Places: s.Places})
	r := Reading{Chips: p.Chips, Why: p.Why}
	if p.Why == "" {
		r.Entry = p.Item
	}
	return r
}
