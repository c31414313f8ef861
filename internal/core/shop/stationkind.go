package shop

import (
	"strings"

	"hobrak/internal/core/length"
)

// StationKind is what a station is. Any word will do, as nobody can list all machines; what
// is known of some is one line of the table below each.
type StationKind string

// station is what is known of a kind.
type station struct {
	name StationKind
	// usual width, depth and height of the top, mm (estimates).
	w, d, h length.Length
	// bench: one works by hand at its top, which stands on legs with room under it;
	// footed: it stands on a foot of its own with nothing under its table.
	bench, footed bool
}

const (
	Bench    StationKind = "bench"
	Assembly StationKind = "assembly"
)

var stations = []station{
	{name: Bench, w: 1500, d: 650, h: 880, bench: true},
	{name: "table", w: 1200, d: 800, h: 850, bench: true},
	{name: Assembly, w: 1200, d: 800, h: 850, bench: true},
	{name: "carving", w: 900, d: 500, h: 950, bench: true},
	{name: "sharpening", w: 800, d: 450, h: 900, bench: true},
	{name: "finishing", w: 1200, d: 600, h: 900, bench: true},
	{name: "bandsaw", w: 600, d: 700, h: 950, footed: true},
	{name: "table-saw", w: 900, d: 800, h: 880},
	{name: "drill-press", w: 450, d: 550, h: 950, footed: true},
	{name: "lathe", w: 1100, d: 400, h: 1000},
	{name: "planer", w: 600, d: 600, h: 850},
	{name: "jointer", w: 1200, d: 450, h: 850},
	{name: "router-table", w: 800, d: 550, h: 880},
	{name: "sander", w: 700, d: 600, h: 900},
	{name: "drum-sander", w: 900, d: 600, h: 950},
	{name: "bench-grinder", w: 400, d: 240, h: 950, footed: true},
}

// StationKinds are those of which something is known.
func StationKinds() []StationKind {
	return listOf(stations, func(i int) StationKind { return stations[i].name })
}

// StationKindOf is the kind that a name speaks of, as router-table of "my router table": the
// longest of the known ones in it, empty when there is none.
func StationKindOf(name string) (k StationKind) {
	words := "-" + strings.Join(strings.Fields(strings.ToLower(strings.ReplaceAll(name, "-", " "))), "-") + "-"
	for _, s := range stations {
		if strings.Contains(words, "-"+string(s.name)+"-") && len(s.name) > len(k) {
			k = s.name
		}
	}
	return k
}

func (k StationKind) known() (station, bool) {
	for _, s := range stations {
		if s.name == k {
			return s, true
		}
	}
	return station{}, false
}

// Usual is how wide, deep and high one usually is; all zero when that is not known.
func (k StationKind) Usual() Size {
	s, _ := k.known()
	return Size{W: s.w * mm, D: s.d * mm, H: s.h * mm}
}

// Bench tells whether one works there by hand, at a top on legs with room under it. A kind
// nobody knows is one when its name ends so.
func (k StationKind) Bench() bool {
	if s, ok := k.known(); ok {
		return s.bench
	}
	return strings.HasSuffix(string(k), string(Bench)) || strings.HasSuffix(string(k), "table")
}

// Footed tells whether it stands on a foot with nothing under its table.
func (k StationKind) Footed() bool {
	s, _ := k.known()
	return s.footed
}
