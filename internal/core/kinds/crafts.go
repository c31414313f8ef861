package kinds

import (
	"cmp"
	"slices"
	"strings"
)

// Craft is what somebody makes, and the kinds of things such people have, the most common first.
type Craft struct {
	ID, Name string
	Kinds    []string
}

func ids(s string) []string { return strings.Fields(s) }

// Crafts there are; a new one is a line here.
var Crafts = []Craft{
	{"hand-tools", "furniture with hand tools", ids(`bench-chisel jack-plane smoothing-plane block-plane mallet dovetail-saw tenon-saw carcass-saw marking-gauge combination-square try-square steel-rule marking-knife sliding-bevel
		pencil tape-measure spokeshave card-scraper shooting-board bench-hook f-clamp sharpening-stone honing-guide rasp file screwdriver claw-hammer brace auger-bit hand-drill holdfast apron wood-glue winding-sticks rip-saw crosscut-saw shoulder-plane router-plane dividers awl coping-saw`)},
	{"machines", "furniture with machines", ids(`cordless-drill impact-driver f-clamp parallel-clamp pipe-clamp combination-square tape-measure steel-rule router-bits plunge-router trim-router random-orbit-sander sanding-discs saw-blade circular-saw track-saw guide-rail jigsaw push-stick featherboard crosscut-sled
		twist-bits forstner-bits screws pencil battery battery-charger ear-defenders safety-glasses dust-mask wood-glue biscuit-jointer loose-tenon-joiner dado-stack pocket-hole-jig spring-clamp shop-vacuum calliper fence template board plywood-sheet`)},
	{"turning", "turning", ids(`turning-gouge turning-chisel lathe-chuck turning-blank calliper sharpening-stone bench-grinder face-shield sandpaper oil-finish wax dust-mask bandsaw-blade twist-bits nail-set cordless-drill apron instant-glue`)},
	{"carving", "carving and green wood", ids(`carving-gouge carving-knife hook-knife carving-mallet drawknife spokeshave hand-axe adze rasp file strop sharpening-stone mallet template coping-saw bow-saw froe paintbrush paint sandpaper oil-finish gloves apron first-aid-box turning-blank pencil bench-chisel`)},
	{"instruments", "instruments", ids(`smoothing-plane block-plane card-scraper bench-chisel spool-clamp cam-clamp spring-clamp calliper thicknessing-calliper steel-rule straightedge fret-saw file carving-knife mould template bending-iron hide-glue shellac varnish glue-pot veneer rotary-tool scroll-saw wax sandpaper`)},
	{"boats", "boats", ids(`block-plane jack-plane spokeshave drawknife f-clamp g-clamp spring-clamp sliding-bevel batten epoxy mallet caulking-iron bench-chisel paint varnish paintbrush random-orbit-sander cordless-drill jigsaw electric-planer spirit-level plywood-sheet board screws gloves dust-mask rope`)},
	{"boxes", "boxes and small things", ids(`dovetail-saw bench-chisel block-plane marking-gauge band-clamp shooting-board small-parts-drawer-cabinet hinges scroll-saw dovetail-jig box-joint-jig sandpaper oil-finish wax trim-router router-bits template veneer-saw veneer wood-glue spring-clamp`)},
	{"repair", "repairs and the house", ids(`cordless-drill screwdriver-set screwdriver pliers spanner-set claw-hammer hex-keys tape-measure spirit-level utility-knife jigsaw wood-filler paint paintbrush paint-roller screws nails wall-plugs hinges adhesive-tape wood-glue step-stool ladder extension-lead pry-bar work-light scissors cord soldering-iron`)},
}

// CraftIDs are the ids of the crafts.
func CraftIDs() (out []string) {
	for _, c := range Crafts {
		out = append(out, c.ID)
	}
	return out
}

// Ranking orders kinds for somebody.
type Ranking struct {
	Of    map[string]int // from 0, by kind
	First int            // how many of them are of the crafts
}

// Rank orders kinds for somebody who makes some things: those of the crafts first, in turns, then all others as they are.
func Rank(makes []string) Ranking {
	rank := map[string]int{}
	longest := 0
	for _, c := range Crafts {
		longest = max(longest, len(c.Kinds))
	}
	for i := range longest {
		for _, m := range makes {
			k := slices.IndexFunc(Crafts, func(c Craft) bool { return c.ID == m })
			if k < 0 || i >= len(Crafts[k].Kinds) {
				continue
			}
			id := Crafts[k].Kinds[i]
			if _, ok := byID()[id]; !ok {
				continue
			}
			if _, ranked := rank[id]; !ranked {
				rank[id] = len(rank)
			}
		}
	}
	first := len(rank)
	for _, k := range All() {
		if _, ranked := rank[k.ID]; !ranked {
			rank[k.ID] = len(rank)
		}
	}
	return Ranking{rank, first}
}

// How well a text begins a kind: only another name of it, or nothing of it.
const (
	another = 3
	nothing = 4
)

// initials of the words of a name: "mk" of a marking knife.
func initials(name string) string {
	var out strings.Builder
	for _, w := range Words(name) {
		out.WriteByte(w[0])
	}
	return out.String()
}

// tier of a kind in a list: what the crafts have first, unless it only has another name that begins so.
func tier(quality int, own bool) int {
	switch {
	case quality == 0:
		return 0 // called just so
	case own && quality < another:
		return 1
	}
	return 1 + quality
}

// Like lists kinds one of whose names, or a word of it, begins as typed, or whose words have these first letters; all when nothing is. Those of the crafts come first,
// then those whose name begins so before those of which a later word, or another name, does, and among these the lower rank.
func Like(q string, rank Ranking) []Kind {
	q = strings.ToLower(strings.TrimSpace(q))
	type hit struct {
		kind    Kind
		quality int
	}
	var hits []hit
	for _, k := range All() {
		best := nothing
		for i, name := range append([]string{k.Name}, k.Also...) {
			switch {
			case q == "" || i == 0 && name == q:
				best = min(best, 0)
			case name == q:
				best = min(best, 1)
			case i > 0 && (strings.HasPrefix(name, q) || strings.Contains(name, " "+q)):
				best = min(best, another)
			case strings.HasPrefix(name, q):
				best = min(best, 1)
			case strings.Contains(name, " "+q), strings.Contains(name, "-"+q), i == 0 && len(q) > 1 && initials(name) == q:
				best = min(best, 2)
			}
		}
		if best < nothing {
			hits = append(hits, hit{k, best})
		}
	}
	slices.SortStableFunc(hits, func(a, b hit) int {
		ra, rb := rank.Of[a.kind.ID], rank.Of[b.kind.ID]
		return cmp.Or(cmp.Compare(tier(a.quality, ra < rank.First), tier(b.quality, rb < rank.First)), cmp.Compare(ra, rb))
	})
	out := make([]Kind, len(hits))
	for i, h := range hits {
		out[i] = h.kind
	}
	return out
}
