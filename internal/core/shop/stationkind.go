package shop

import (
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

// StationKind is what a station is. Any word will do, as nobody can list all machines; what
// is known of some is one line of the table below each.
type StationKind string

// station is what is known of a kind. Sizes are estimates, taken until somebody measures.
type station struct {
	name StationKind
	says string   // as it is called
	also []string // what else people call it
	// usual width, depth, height of the table or top, and overall where that is more, mm.
	w, d, h, tall length.Length
	// bench: one works by hand at its top, which stands on legs with room under it;
	// footed: it stands on a foot of its own with nothing under its table;
	// lodger: nobody works at it, it only lives there.
	bench, footed, lodger bool
	// the axis of its own footprint that pieces pass along, and the room for the longest of them.
	along   string
	in, out length.Length
	// usual weight, kg; what it draws at full load, W; air that extraction should move, m³/h; noise where one stands,
	// dB(A); compressed air, l/min; light wanted on the work, lx.
	kg, watts, dust, db, air, lux float64
}

const (
	Bench    StationKind = "bench"
	Assembly StationKind = "assembly"
)

// StationKinds are those of which something is known.
func StationKinds() []StationKind {
	return listOf(stations, func(i int) StationKind { return stations[i].name })
}

// StationKindOf is the kind that a name speaks of, as router-table of "my router table": the
// longest of the known ones in it, empty when there is none.
func StationKindOf(name string) (k StationKind) {
	words := "-" + strings.Join(strings.Fields(strings.ToLower(strings.ReplaceAll(name, "-", " "))), "-") + "-"
	most := 0
	for _, s := range stations {
		for _, name := range append([]string{string(s.name), s.says}, s.also...) {
			name = strings.ToLower(strings.ReplaceAll(name, " ", "-"))
			if strings.Contains(words, "-"+name+"-") && len(name) > most {
				k, most = s.name, len(name)
			}
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

// Says is how a kind is called.
func (k StationKind) Says() string {
	if s, ok := k.known(); ok {
		return s.says
	}
	return strings.ReplaceAll(string(k), "-", " ")
}

// Tall is how high one usually is overall, where that is more than its table; else 0.
func (k StationKind) Tall() length.Length {
	s, _ := k.known()
	return s.tall * mm
}

// Supply is what a station usually weighs and needs; 0 is nothing, or not known.
type Supply struct {
	Weight weight.Weight
	Watts  float64 // at full load
	Dust   float64 // m³/h that extraction should move
	Noise  float64 // dB(A) where one stands
	Air    float64 // l/min of compressed air
	Light  float64 // lx on the work
}

// Supply that one usually needs.
func (k StationKind) Supply() Supply {
	s, _ := k.known()
	return Supply{weight.KG(s.kg), s.watts, s.dust, s.db, s.air, s.lux}
}

// breathes are what kinds do to the air, where that does not follow from the dust they make; clean is what wants none of it.
var breathes = map[StationKind]string{
	"finishing": "fumes", "paint": "fumes", "spray-booth": "fumes", "welding": "fumes", "laser": "fumes",
	"desk": "clean", "drawing": "clean", "electronics": "clean", "sewing": "clean", "leather": "clean", "printer": "clean", "vacuum-press": "clean",
}

// From so much air a machine wants extracted, m³/h, it is called dusty.
const dustyFrom = 100

// Breath is what is done at a station to the air, or wants of it: dusty, clean, fumes, or nothing of that.
func (st *Station) Breath() string {
	switch usual := st.Kind.Supply(); {
	case st.Air != "":
		return st.Air
	case breathes[st.Kind] != "":
		return breathes[st.Kind]
	case usual.Dust >= dustyFrom || st.Flow >= dustyFrom && usual.Dust > 0:
		return "dusty"
	}
	return ""
}

// Burning are kinds at which something burns, glows or throws sparks.
func (k StationKind) Burning() bool {
	return slices.Contains([]StationKind{"stove", "heater", "water-heater", "forge", "welding", "welder", "bench-grinder", "knife-grinder"}, k)
}

// Flame tells whether it burns something in the room.
func (k StationKind) Flame() bool { return slices.Contains([]StationKind{"stove", "forge"}, k) }

// Sparks tells whether sparks fly from it.
func (k StationKind) Sparks() bool {
	return slices.Contains([]StationKind{"welding", "welder", "bench-grinder", "knife-grinder", "forge"}, k)
}

// pipes are what kinds want beside power and extraction.
var pipes = map[StationKind][]string{"spray-booth": {"air"}, "wet-grinder": {"water"}, "desk": {"network"}, "cnc": {"network"}, "printer": {"network"}}

// Piped is what must get to a station beside power and extraction: air, water, network.
func (st *Station) Piped() []string {
	if len(st.Wants) > 0 {
		return st.Wants
	}
	return pipes[st.Kind]
}

// Volts of the mains: what the circuits say, or what is usual with the shop's units.
func (s *Shop) Volts() float64 {
	for _, c := range s.Circuits {
		if c.Volts > 0 {
			return c.Volts
		}
	}
	if s.Settings.Units == length.Imperial {
		return 120
	}
	return 230
}

// Assume gives a station the usual weight and current of its kind where none is said, and marks them as assumed.
func (s *Shop) Assume(st *Station) {
	usual := st.Kind.Supply()
	if st.KG == 0 && usual.Weight > 0 {
		st.KG, st.Assumed = usual.Weight, append(st.Assumed, "kg")
	}
	if st.Amps == 0 && usual.Watts > 0 {
		st.Amps, st.Assumed = math.Round(10*usual.Watts/s.Volts())/10, append(st.Assumed, "amps")
	}
}

// Footprint of a station on the floor: its front runs from the first corner to the second.
func (st *Station) Footprint() geometry.Polygon {
	return geometry.Rectangle(st.X.MM(), st.Y.MM(), st.W.MM(), st.D.MM(), st.Rot)
}

// Measured says that a value of a station is assumed no more.
func (st *Station) Measured(field string) {
	st.Assumed = slices.DeleteFunc(st.Assumed, func(f string) bool { return f == field })
}

// Lodger tells whether nobody works at it: it only lives in the shop.
func (k StationKind) Lodger() bool {
	s, _ := k.known()
	return s.lodger
}

// Feed is how long pieces usually pass through it; nil when none do.
func (k StationKind) Feed() *Feed {
	s, _ := k.known()
	if s.along == "" {
		return nil
	}
	return &Feed{Along: s.along, In: s.in * mm, Out: s.out * mm}
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
