package keeping_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/check"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

func mm(x float64) length.Length { return length.MM(x) }

// room with one place of a kind on its longest wall, or on the floor before it.
func room(t *rapid.T, k keeping.Kind) *shop.Shop {
	size := func(name string, least, most float64) length.Length {
		return mm(float64(rapid.IntRange(int(least), int(most)).Draw(t, name)))
	}
	corners := []shop.Point{{0, 0}, {0, mm(4000)}, {mm(5000), mm(4000)}, {mm(5000), 0}}
	a := shop.Area{ID: "room", Corners: corners}
	for i := range corners {
		from, to := corners[i], corners[(i+1)%len(corners)]
		long := max(from[0]-to[0], to[0]-from[0], from[1]-to[1], to[1]-from[1])
		a.Walls = append(a.Walls, shop.Wall{ID: string(rune('A' + i)), Claimed: true, Profile: []shop.Point{{0, mm(2600)}, {long, mm(2600)}}})
	}
	p := shop.Place{ID: "P", Kind: k.Name(), Style: rapid.SampledFrom([]string{"", "cleat", "peg", "board"}).Draw(t, "style"), W: size("w", 100, 2400), H: size("h", 80, 1500), D: size("d", 50, 900),
		At: shop.At{Wall: "B", X: mm(300), Z: mm(500)}, Fill: .6}
	k.Furnish(&p, func(least, most length.Length) length.Length { return size("part", least.MM(), most.MM()) })
	return &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "test", Units: length.Metric}, Areas: []shop.Area{a}, Places: []shop.Place{p},
		Stations: []shop.Station{{ID: "bench", Name: "Bench", Kind: "bench", X: mm(1000), Y: mm(500), W: mm(1500), D: mm(700), H: mm(900), Stand: shop.Point{mm(1700), mm(1700)}}}}
}

func TestWhatAKindOffersIsRightByTheCheck(t *testing.T) {
	for _, k := range keeping.Kinds() {
		t.Run(string(k.Name()), func(t *testing.T) {
			lived := 0
			rapid.Check(t, func(t *rapid.T) {
				s := room(t, k)
				if s.Validate() != nil {
					t.Skip("a place that cannot be")
				}
				p := &s.Places[0]
				space := k.Space(p, mm(2000))
				for i := range rapid.IntRange(1, 14).Draw(t, "things") {
					side := func(name string) length.Length { return mm(float64(rapid.IntRange(3, 400).Draw(t, name))) }
					gap := mm(float64(rapid.IntRange(0, 40).Draw(t, "gap")))
					it := shop.Item{ID: fmt.Sprintf("i%d", i), Name: fmt.Sprintf("thing %d", i), W: side("iw"), H: side("ih"), D: side("id"), Count: rapid.IntRange(1, 4).Draw(t, "n"), Clearance: &gap,
						Hold: []shop.Hold{rapid.SampledFrom(k.Offers(p)).Draw(t, "hold")}, UsesPerWeek: 1}
					if rapid.Bool().Draw(t, "turn") {
						turn := rapid.Bool().Draw(t, "may turn")
						it.Turn = &turn
					}
					n := it.Number()
					if keeping.Barred(p, &it, n, space) != "" {
						continue
					}
					thing := keeping.Thing(p, &it, n)
					spots := space.Spots(thing, nil)
					if len(spots) == 0 {
						continue
					}
					spot := rapid.SampledFrom(spots).Draw(t, "spot")
					require.NoError(t, space.Allows(thing, spot), "what is offered is allowed")
					used := space.Used()
					space.Put(i, thing, spot)
					assert.InDelta(t, used+space.Takes(thing), space.Used(), 1e-6*math.Max(1, space.Used()))
					assert.LessOrEqual(t, space.Used(), space.Room()*(1+1e-9))
					h := keeping.Home(&it, p, n, spot)
					assert.Equal(t, h, keeping.Home(&it, p, n, keeping.SpotOf(p, &h)), "a home says the spot")
					boxes := keeping.BoxesOf(p, &it, &h)
					require.Len(t, boxes, n)
					g, low, high := keeping.GripOf(p, &it, &h), boxes[0], boxes[0]
					for _, b := range boxes {
						low.X, high.X = math.Min(low.X, b.X), math.Max(high.X, b.X+b.W)
					}
					if k.Form() != keeping.Heap && k.Form() != keeping.Leaning {
						assert.True(t, g.X >= low.X-1e-6 && g.X <= math.Max(high.X, p.W.MM())+1e-6, "the hand goes to the pieces: %v among %v", g, boxes)
					}
					if front, seen := keeping.Outlook(p, &it, &h); seen && !spot.Turned && spot.Cols == 0 {
						again := k.Boxes(p, &it, n, keeping.Dropped(p, &it, n, front.X+front.W/2, front.Z+front.H/2))
						assert.InDelta(t, boxes[0].X, again[0].X, 26, "dropped where it is it stays there, give or take a peg")
						assert.InDelta(t, boxes[0].Z, again[0].Z, 1)
					}
					s.Items, s.Homes = append(s.Items, it), append(s.Homes, h)
				}
				lived += len(s.Homes)
				require.NoError(t, s.Validate())
				found, err := check.Shop(s)
				require.NoError(t, err)
				for _, f := range found {
					if f.Hard && (strings.HasPrefix(f.Where, "homes") || f.Where == "P") {
						switch f.Code { // what is about the place, not about the spot in it
						case "reach", "lifting", "same-wall", "outside":
						default:
							t.Fatalf("%s in %+v: %+v", f, *p, s.Homes)
						}
					}
				}
				for i := range s.Homes {
					space.Take(i)
				}
			})
			assert.Greater(t, lived, 20, "the generator finds what a %s holds", k.Word())
		})
	}
}

func TestARollGoesOnItsBarByItsWidth(t *testing.T) {
	p := &shop.Place{ID: "R", Kind: keeping.Roller, W: mm(700), H: mm(400), D: mm(200), Levels: []shop.Level{{Z: 0, H: mm(180)}, {Z: mm(200), H: mm(120)}}}
	paper := &shop.Item{ID: "paper", Name: "Paper", W: mm(150), H: mm(600), D: mm(150), Hold: []shop.Hold{shop.OnBar}}
	tape := &shop.Item{ID: "tape", Name: "Tape", W: mm(25), H: mm(110), D: mm(110), Count: 3, Hold: []shop.Hold{shop.OnBar}}
	k := keeping.Of(p)
	assert.Equal(t, shop.Size{W: mm(600), H: mm(150), D: mm(150)}, k.Size(paper), "however it was measured")
	assert.Equal(t, shop.Size{W: mm(25), H: mm(110), D: mm(110)}, k.Size(tape))
	space := k.Space(p, 0)
	spots := space.Spots(k.Thing(paper, 1), nil)
	require.NotEmpty(t, spots)
	for _, s := range spots {
		assert.Zero(t, s.Level, "too thick for the upper bar")
	}
	space.Put(0, k.Thing(paper, 1), spots[0])
	assert.ErrorContains(t, space.Allows(k.Thing(tape, 3), pack.Spot{X: mm(600)}), "stick out")
	assert.ErrorContains(t, space.Allows(k.Thing(tape, 3), pack.Spot{X: mm(500)}), "too close")
	up := pack.Spot{X: mm(10), Level: 1}
	require.NoError(t, space.Allows(k.Thing(tape, 3), up))
	boxes := k.Boxes(p, tape, 3, up)
	assert.Equal(t, keeping.Box{X: 10, Y: 45, Z: 205, W: 25, D: 110, H: 110}, boxes[0], "round its bar, which is 260 up")
	assert.Equal(t, 10+45.0, boxes[1].X, "with clearance between them")
	assert.Contains(t, keeping.Barred(p, &shop.Item{W: mm(30), H: mm(30), D: mm(30), Hold: []shop.Hold{shop.Hang}}, 1, space), "holds roll")
	// The far roll: a fat one bars, and by how much is said.
	fat := &shop.Item{W: mm(50), H: mm(240), D: mm(240), Hold: []shop.Hold{shop.OnBar}}
	assert.Contains(t, quantity.Metric(keeping.Barred(p, fat, 1, space)), "40 mm too thick")
	assert.InDelta(t, 60, k.Short(p, k.Size(fat)), 1e-9)
}
