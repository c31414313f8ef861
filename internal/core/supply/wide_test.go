package supply_test

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/access"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/note"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/supply"
)

// Whatever a shop is like, all that is said is finite, each caution says what to do, has a known code and is said once of a thing; and the
// sums of strips, the reach of controls, what is in sight, what comes by hose and how loud it is beyond a wall are as a judge has them who
// works from the shop alone.
func TestWhateverAShopIsLikeItsSupplyIsTrue(t *testing.T) {
	n, found := uint64(0), map[string]int{}
	for seed := range shoptest.Seeds(70) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 9, Containers: 5, Places: 8, Items: 6, Modes: 2, Homes: true})
		if s.Validate() != nil {
			continue
		}
		for i := range s.Stations { // some extract, some of these with an arm
			if i%3 == 1 {
				s.Stations[i].Kind, s.Stations[i].Arm = []shop.StationKind{"extractor", "shop-vacuum"}[i%2], length.MM(float64(seed%3)*1500)
			}
		}
		n++
		modes := []string{""}
		for _, m := range s.Modes {
			modes = append(modes, m.ID)
		}
		for i := range s.Areas {
			for _, mode := range modes {
				r, err := supply.Of(s, s.Areas[i].ID, mode)
				require.NoError(t, err)
				require.NoError(t, shoptest.Finite(r), "seed %d", seed)
				for _, c := range r.Cautions {
					found[c.Code]++
					require.NotEmpty(t, c.Do)
					require.Contains(t, supply.Codes(), c.Code)
				}
				in := s
				if mode != "" {
					in, err = s.InMode(mode)
					require.NoError(t, err)
				}
				judged(t, in, r, seed)
			}
		}
	}
	t.Logf("%d shops, cautions: %v", n, found)
	for _, code := range []string{"strip", "reel", "stop", "control", "sight", "mat", "quiet", "guard", "no-air", "no-water", "no-network", "fine-dust", "down-wind", "fumes", "emptying", "no-drain", "hose-across"} {
		assert.Positive(t, found[code], code)
	}
}

// edge is how far a point is from the edge of a shape.
func edge(g geometry.Polygon, q geometry.Point) float64 {
	least := math.Inf(1)
	for k := range g {
		least = min(least, g.Edge(k).Nearest(q).Distance(q))
	}
	return least
}

// meets tells by points 4 mm apart on both whether a cord meets a way off the walls.
func meets(s *shop.Shop, cord [][2]float64) bool {
	a := &s.Areas[0]
	points := func(list [][2]float64, off bool) (out []geometry.Point) {
		for k := 1; k < len(list); k++ {
			p, q := geometry.Point{X: list[k-1][0], Y: list[k-1][1]}, geometry.Point{X: list[k][0], Y: list[k][1]}
			if off && edge(a.Outline(), p.Add(q).Mul(.5)) < 250 {
				continue
			}
			n := math.Ceil(p.Distance(q) / 4)
			for i := 0.0; i <= n; i++ {
				out = append(out, p.Add(q.Sub(p).Mul(i/math.Max(1, n))))
			}
		}
		return out
	}
	mine := points(cord, true)
	for _, f := range flow.Of(s, a) {
		for _, l := range f.Legs {
			for _, q := range points(l.Path, false) {
				if slices.ContainsFunc(mine, func(p geometry.Point) bool { return p.Distance(q) < 4 }) {
					return true
				}
			}
		}
	}
	return false
}

func judged(t *testing.T, s *shop.Shop, r *supply.Room, seed uint64) {
	said := func(code, on string) bool {
		return slices.ContainsFunc(r.Cautions, func(c supply.Caution) bool { return c.Code == code && c.On == on })
	}
	amps := map[string]float64{}
	for _, p := range r.Plugs {
		amps[p.Name] = p.Amps
	}
	// A strip carries at most all that hangs on it, and at least the largest of it.
	for _, x := range r.Strips {
		all, most := 0.0, 0.0
		for _, m := range x.Machines {
			all += amps[m]
			most = max(most, amps[m])
		}
		require.LessOrEqual(t, x.Amps, all+1e-9, "seed %d", seed)
		require.GreaterOrEqual(t, x.Amps, most-1e-9, "seed %d", seed)
		var first string
		for _, p := range r.Plugs {
			if first == "" && slices.Contains(x.Machines, p.Name) {
				first = p.Station
			}
		}
		if first != "" {
			require.Equal(t, x.Chain > 1, slices.ContainsFunc(r.Cautions, func(c supply.Caution) bool {
				return c.Code == "chained" && strings.HasPrefix(c.Says, x.Name+" ")
			}), "seed %d %s", seed, x.Name)
		}
	}
	// Controls: by turning the station's own corner, not by its footprint.
	k := 0
	for i := range s.Stations {
		st := &s.Stations[i]
		if !slices.ContainsFunc(r.Plan.Stations, func(d supply.DrawnShape) bool { return d.ID == st.ID }) {
			continue
		}
		stops := 0
		for _, c := range st.Controls {
			x := r.Controls[k]
			k++
			require.Equal(t, st.ID, x.Station)
			dx, dy := c.X.MM()-st.W.MM()/2, c.Y.MM()-st.D.MM()/2
			sin, cos := math.Sincos(st.Rot * math.Pi / 180)
			at := geometry.Point{X: st.X.MM() + st.W.MM()/2 + dx*cos - dy*sin, Y: st.Y.MM() + st.D.MM()/2 + dx*sin + dy*cos}
			out := false
			for _, b := range access.Bodies(s) {
				d := at.Distance(geometry.Point{X: st.Stand[0].MM(), Y: st.Stand[1].MM()})
				out = out || math.Sqrt(d*d+(c.Z.MM()-b.Shoulder)*(c.Z.MM()-b.Shoulder)) > b.Arm+b.Lean
			}
			require.Equal(t, out, x.Out, "seed %d, %s of %s", seed, c.Kind, st.ID)
			if c.Kind == "stop" && (x.Out || x.Over != "") {
				stops++
			}
		}
		require.Equal(t, stops > 0, said("stop", st.ID), "seed %d", seed)
	}
	// What comes by hose is never nearer than the straight line.
	for _, x := range r.Reached {
		a, b := byID(s, x.Station), byID(s, x.From)
		require.Equal(t, x.From == "", said("no-"+x.What, x.Station))
		if b != nil && x.Have > 0 {
			require.GreaterOrEqual(t, x.Long, a.Footprint().Gap(b.Footprint()), "seed %d", seed)
			require.Equal(t, x.Long > x.Have+50, x.Short)
		}
	}
	for _, x := range r.Sights {
		require.Equal(t, x.Behind != "", said("sight", x.Station) && x.Behind != "")
	}
	for _, b := range r.Breaths {
		if b.Air == "clean" && b.By != "" {
			least := math.Inf(1)
			for i := range s.Stations {
				o := &s.Stations[i]
				if o.ID != b.Station && (o.Breath() == "dusty" || o.Breath() == "fumes") && slices.ContainsFunc(r.Plan.Stations, func(d supply.DrawnShape) bool { return d.ID == o.ID }) {
					least = min(least, byID(s, b.Station).Footprint().Gap(o.Footprint()))
				}
			}
			require.InDelta(t, least, b.Apart, 1e-6)
		}
	}
	// A hose on an arm lies across no way; the bin of an extractor comes out unless a point of something fixed is before it.
	for _, x := range r.Runs {
		from, st := byID(s, x.From), byID(s, x.Station)
		if from == nil {
			continue
		}
		require.Equal(t, from.Arm > 0 && from.Footprint().Gap(st.Footprint()) <= from.Arm.MM(), x.Arm, "seed %d", seed)
		require.False(t, x.Arm && x.Crosses > 0)
		if x.Crosses > 0 {
			require.True(t, slices.ContainsFunc(r.Cautions, func(c supply.Caution) bool { return c.Code == "hose-across" && strings.Contains(c.Says, x.Name) }), "seed %d", seed)
		}
	}
	for _, d := range r.Plan.Stations {
		st := byID(s, d.ID)
		if !served.Extracts(st.Kind) || st.Mobility.Aside() {
			continue
		}
		sin, cos := math.Sincos(st.Rot * math.Pi / 180)
		deep := math.Min(600, math.Max(300, st.D.MM()))
		inner := false // a point well inside of something else
		for a := 1.0; a < 20; a++ {
			for b := 1.0; b < 20; b++ {
				dx, dy := st.W.MM()*(a/20-.5), -st.D.MM()/2-deep*b/20
				q := geometry.Point{X: st.X.MM() + st.W.MM()/2 + dx*cos - dy*sin, Y: st.Y.MM() + st.D.MM()/2 + dx*sin + dy*cos}
				for _, o := range r.Plan.Stations {
					other := byID(s, o.ID)
					g := other.Footprint()
					inner = inner || o.ID != d.ID && !other.Mobility.Aside() && g.Contains(q) && edge(g, q) > 45
				}
			}
		}
		if inner {
			require.True(t, said("emptying", d.ID), "seed %d: the bin of %s", seed, d.Name)
		}
	}
	// A lamp hung elsewhere leaves less missing: by hanging it there.
	for _, l := range r.Lit {
		require.GreaterOrEqual(t, l.Evening, l.Room-1e-9)
	}
}

// A wall somebody lives behind hears what stands nearest to it most.
func TestANeighbourHearsTheNearest(t *testing.T) {
	for seed := range uint64(40) {
		s := hall(t, seed, 6, 4)
		a := &s.Areas[0]
		a.Walls[1].Beyond = "neighbour"
		r, err := supply.Of(s, "", "")
		require.NoError(t, err)
		area := 0.0
		w, d := a.Walls[1].Profile[1][0].MM()/1000, a.Walls[0].Profile[1][0].MM()/1000
		area = .1 * (2*w*d + 2*(w+d)*2.6)
		loudest := 0.0
		for _, h := range r.Heard {
			if h.Where != "wall B" {
				continue
			}
			loudest = max(loudest, h.DB)
			// One machine by itself: as At has it, to the nearest point of the wall y = d.
			for i := range s.Stations {
				st := &s.Stations[i]
				if h.Set != st.Name || st.Kind.Supply().Dust > 0 {
					continue
				}
				foot := st.Footprint()
				mid := foot[0].Add(foot[2]).Mul(.5)
				far := max(0, d*1000-mid.Y)
				require.InDelta(t, supply.At(served.Level(st), far/1000, area), h.DB, .05, "seed %d %s", seed, st.Kind)
			}
		}
		require.Equal(t, loudest >= 75, slices.ContainsFunc(r.Cautions, func(c supply.Caution) bool { return c.Code == "quiet" }), "seed %d: %.1f", seed, loudest)
	}
}

// Worked by hand.
func TestBudgetWarmthAndMonths(t *testing.T) {
	s := hall(t, 3, 4, 4)
	assert.Nil(t, supply.Stored(s))
	s.Settings.Stored = &shop.Stored{Hours: 3, Batteries: []shop.Battery{{Name: "packs", N: 2, Volts: 18, AH: 5}}, Draws: []shop.Draw{{Name: "lamp", Watts: 20}, {Name: "drill", Watts: 300, Minutes: 12}}}
	b := supply.Stored(s)
	// 2 · 18 · 5 = 180 Wh, 153 of them usable; 20 · 3 + 300 · .2 = 120 Wh a session; a pack gives 76.5, so one change; 120 / .85 / 90 h.
	x := b.Batteries[0]
	assert.InDelta(t, 180, x.Holds, 1e-9)
	assert.InDelta(t, 153, x.Gives, 1e-9)
	assert.InDelta(t, 120, x.Draws, 1e-9)
	assert.InDelta(t, 1.275, x.Sessions, 1e-9)
	assert.Equal(t, 1, x.Changes)
	assert.InDelta(t, 94.12, b.Charge, .01)
	assert.True(t, b.Enough)
	s.Settings.Stored.Draws[0].Watts = 60 // 240 Wh: empty after 3 · 153 / 240 h
	b = supply.Stored(s)
	assert.False(t, b.Enough)
	assert.InDelta(t, 1.9125, b.Batteries[0].Lasts, 1e-9)

	// A room of 5 · 4 · 2.5 m: 85 m² of skin, 50 m³. Boards lose 170 W/K; 85 · 12 000 + 50 · 1 200 = 1.08 MJ/K. From 0 to 15 °C it loses
	// 2 550 W; with 4 600 W: −1.08e6 / 170 · ln(1 − 2550/4600) s = 85.6 min.
	mm := length.MM
	p := func(x, y float64) shop.Point { return shop.Point{mm(x), mm(y)} }
	room := shop.Area{ID: "main", Corners: []shop.Point{p(0, 0), p(0, 4000), p(5000, 4000), p(5000, 0)}}
	for i, long := range []float64{4000, 5000, 4000, 5000} {
		room.Walls = append(room.Walls, shop.Wall{ID: string(rune('A' + i)), Profile: []shop.Point{p(0, 2500), p(long, 2500)}})
	}
	cold := &shop.Shop{Areas: []shop.Area{room}, Circuits: []shop.Circuit{{ID: "c", Volts: 230, Amps: 20}}, Stations: []shop.Station{{ID: "h", Name: "Heater", Kind: "heater", X: mm(2000), Y: mm(2000), W: mm(400), D: mm(300), H: mm(500), Amps: 20, Stand: p(2000, 1500)}}}
	w, err := supply.Warm(cold, "", 0, 15)
	require.NoError(t, err)
	assert.InDelta(t, 2550, w.Keeps, .01*2550)
	assert.InDelta(t, 85.6, w.Minutes, .01*85.6)
	w, _ = supply.Warm(cold, "", -20, 15)
	assert.True(t, w.Never)
	cold.Areas[0].Insulated = true
	w, _ = supply.Warm(cold, "", -20, 15)
	assert.False(t, w.Never)
	_, err = supply.Warm(cold, "nowhere", 0, 15)
	assert.ErrorContains(t, err, "no area")

	for _, x := range []struct {
		from, to string
		want     int
	}{{"2026-01-31", "2026-02-28", 1}, {"2026-01-31", "2026-02-27", 0}, {"2024-01-30", "2024-02-29", 1}, {"2025-11-30", "2026-11-30", 12}, {"2025-12-01", "2026-11-30", 11}, {"2027-01-01", "2026-01-01", 0}, {"", "2026-01-01", -1}, {"soon", "2026-01-01", -1}} {
		assert.Equal(t, x.want, supply.Months(x.from, x.to), x)
	}
}

// By a calendar that goes day by day, a month is over on the same day of the next, or on its last where there is no such day.
func TestMonthsAgreeWithTheCalendar(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		from := time.Date(2020, 1, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, rapid.IntRange(0, 3000).Draw(t, "from"))
		to := from.AddDate(0, 0, rapid.IntRange(0, 1500).Draw(t, "days"))
		n := 0
		for k := 1; ; k++ {
			first := time.Date(from.Year(), from.Month()+time.Month(k), 1, 0, 0, 0, 0, time.UTC)
			due := first.AddDate(0, 0, min(from.Day(), first.AddDate(0, 1, -1).Day())-1)
			if due.After(to) {
				break
			}
			n = k
		}
		if got := supply.Months(from.Format(time.DateOnly), to.Format(time.DateOnly)); got != n {
			t.Fatalf("%s to %s: %d, want %d", from.Format(time.DateOnly), to.Format(time.DateOnly), got, n)
		}
	})
}

// A better spot for a machine is clear, costs less than where it stands, and once it is there what was said of it is so.
func TestASiteIsAsItIsSaid(t *testing.T) {
	better, moved := 0, 0
	for seed := range uint64(7) {
		s := hall(t, seed, 5+int(seed)%4, 2+int(seed)%5)
		s.Settings.People = []shop.Person{{ID: "me", Stature: length.MM(1750)}}
		if seed%3 == 0 {
			s.Areas[0].Walls[2].Beyond = "neighbour"
		}
		for i := range s.Stations {
			st := &s.Stations[i]
			sites, err := supply.Sites(s, "", st.ID)
			require.NoError(t, err)
			now := sites[len(sites)-1]
			require.True(t, now.Now)
			for _, x := range sites[:len(sites)-1] {
				better++
				require.Less(t, x.Price, now.Price)
				then := s.Clone()
				_, err := floor.Move(then, st.ID, shop.Point{length.MM(x.X), length.MM(x.Y)}, x.Rot)
				require.NoError(t, err)
				at := byID(then, st.ID)
				g, err := floor.Of(then, &then.Areas[0], st.ID)
				require.NoError(t, err)
				require.Nil(t, g.At(at), "seed %d %s", seed, st.Kind)
				again, err := supply.Sites(then, "", st.ID)
				require.NoError(t, err)
				last := again[len(again)-1]
				require.InDelta(t, x.Price, last.Price, .01)
				require.InDelta(t, x.Light, last.Light, .01)
				moved++
				r, err := supply.Of(then, "", "")
				require.NoError(t, err)
				for _, p := range r.Plugs { // straight is never longer than along the floor
					if p.Station == st.ID && p.Outlet != "" {
						require.LessOrEqual(t, x.Cord, max(0, p.Need-p.Have)+1, "seed %d", seed)
					}
				}
			}
		}
	}
	t.Logf("%d better spots, each tried", moved)
	assert.Positive(t, better)
	_, err := supply.Sites(hall(t, 1, 2, 2), "", "nothing")
	assert.ErrorContains(t, err, "no station")
}

// Rooms as somebody jots them down, with what is wrong put there on purpose: each trip, short cord, crossing and hose is found, and none else
// is claimed.
func TestInRoomsAsJottedDownWhatIsWrongIsFound(t *testing.T) {
	rooms := []struct {
		name, room string
		stations   []string
		units      length.System
	}{
		{"bay", "6.2x3x2.55, floor falls 12mm a metre toward A, roller door A 2.5x2.2 at .25, B and D block, C boards studs 60cm, door C .8x2 at 2.05 opens in hinges right, outlets B 1, 3.2, 5.4, outlet C .4, panel C 300x450 bottom 1.4 at 1.55, joists across every 40cm",
			[]string{"bench 1800x600x880 at C end of wall D fixed", "table saw 800x750x860 wheels 9A", "planer thicknesser 1100x600 table 860 wheels 10A", "band saw 600x550 table 950 tall 1750 wheels 6A", "extractor 650x500x1500 wheels 5A", "compressor 450x400x600 7A"}, length.Metric},
		{"attic", "5.6x4.1, knee walls 1.1, ridge 2.85, door A .85x1.98 at 1.05 opens in hinges right, B plasterboard studs 60cm first 32cm, window C 1.2x1 at 1.45 up .95, outlet C .6 up .3, D boards, outlet D 4.8, chimney .5x.5 in the corner CD, rafters every 75cm",
			[]string{"carving bench 1400x600x860 by window", "small bandsaw 500x450x1450 table 1000 2A", "shop vacuum 380x380x520 5A", "sharpening shelf 700x300x900"}, length.Metric},
		{"lean-to", `12' x 8'6", slopes from 9'2" at B to 6'10" at D, B brick, A and C boards on studs 16" first 8", door A 2'8" x 6'6" at 1' opens out, outlets B at 2'6", 9' up 4'2", door C 2'6" x 6'6" at 5' opens out`,
			[]string{`bench 5' x 22" x 34"`, `drill press 18" x 24" table 44" 5A`, `scroll saw 26" x 14" x 38" 1.5A`, `vacuum 15" x 15" x 22" 9A`}, length.Imperial},
	}
	led, crossing := 0, 0
	defer func() {
		t.Logf("%d cords led, %d across a way", led, crossing)
		assert.Positive(t, crossing)
	}()
	for _, x := range rooms {
		s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: x.name, Units: x.units, People: []shop.Person{{ID: "me", Stature: length.MM(1750)}}}}
		read := note.Room(s, x.room)
		require.NotNil(t, read.Area, x.name)
		s.Areas = []shop.Area{*read.Area}
		for _, line := range x.stations {
			r := note.Station(s, line)
			require.NotNil(t, r.Station, line)
			st := *r.Station
			st.ID = strings.ReplaceAll(strings.ToLower(st.Name), " ", "-")
			at, _, err := floor.Put(s, st, r.Where)
			require.NoError(t, err, line)
			at.Cord, at.Hose = length.MM(12000), length.MM(12000)
			s.Stations = append(s.Stations, at)
		}
		s.Circuits = []shop.Circuit{{ID: "one", Volts: 230, Amps: 40}}
		for i := range s.Areas[0].Walls {
			for k := range s.Areas[0].Walls[i].Features {
				if f := &s.Areas[0].Walls[i].Features[k]; f.Kind == "outlet" {
					f.Circuit = "one"
				}
			}
		}
		codes := func() map[string][]string {
			r, err := supply.Of(s, "", "")
			require.NoError(t, err)
			out := map[string][]string{}
			for _, c := range r.Cautions {
				out[c.Code] = append(out[c.Code], c.On)
			}
			return out
		}
		was := codes()
		for _, code := range []string{"overload", "short-cord", "strip", "chained", "far-hose"} {
			assert.Empty(t, was[code], "%s: %s before anything was wrong", x.name, code)
		}
		// A breaker that carries each machine that makes dust with its extractor but one too many.
		var worst string
		sum, second := 0.0, 0.0
		extractor := 0.0
		for i := range s.Stations {
			if served.Extracts(s.Stations[i].Kind) {
				extractor = s.Stations[i].Amps
			}
		}
		for i := range s.Stations {
			if d, _ := served.Wants(&s.Stations[i]); d > 0 {
				if a := s.Stations[i].Amps + extractor; a > sum {
					worst, second, sum = s.Stations[i].ID, sum, a
				} else {
					second = max(second, a)
				}
			}
		}
		s.Circuits[0].Amps = math.Ceil(10*max(second, sum-.5)/.8) / 10
		if sum > .8*s.Circuits[0].Amps {
			assert.Equal(t, []string{worst}, codes()["overload"], x.name)
		}
		s.Circuits[0].Amps = 40
		// One cord that is too short, and no other.
		for i := range s.Stations {
			st := &s.Stations[i]
			if st.Amps == 0 {
				continue
			}
			r, err := supply.Of(s, "", "")
			require.NoError(t, err)
			p := slices.IndexFunc(r.Plugs, func(p supply.Plug) bool { return p.Station == st.ID })
			was := st.Cord
			st.Cord = length.MM(r.Plugs[p].Need - 60)
			assert.Equal(t, []string{st.ID}, codes()["short-cord"], "%s: %s", x.name, st.Name)
			st.Cord = length.MM(r.Plugs[p].Need - 40)
			assert.Empty(t, codes()["short-cord"], "%s: %s", x.name, st.Name)
			st.Cord = was
		}
		// Each cord led to each outlet of the room: those that then lie across a way are named, and no others.
		for i := range s.Stations {
			st := &s.Stations[i]
			for w := range s.Areas[0].Walls {
				for _, f := range s.Areas[0].Walls[w].Features {
					if f.Kind != "outlet" || st.Amps == 0 {
						continue
					}
					st.Outlet = f.ID
					r, err := supply.Of(s, "", "")
					require.NoError(t, err)
					for _, p := range r.Plugs {
						led++
						across := meets(s, p.Path)
						if across {
							crossing++
						}
						assert.Equal(t, across, slices.ContainsFunc(r.Cautions, func(c supply.Caution) bool { return c.Code == "crossing" && c.On == p.Station }), "%s: %s led to %s", x.name, st.Name, f.ID)
					}
				}
			}
			st.Outlet = ""
		}
		// A hose that is too short for those beyond it, and for no others.
		r, err := supply.Of(s, "", "")
		require.NoError(t, err)
		for i := range s.Stations {
			if served.Extracts(s.Stations[i].Kind) {
				longs := []float64{}
				for _, run := range r.Runs {
					longs = append(longs, run.Long)
				}
				slices.Sort(longs)
				s.Stations[i].Hose = length.MM(longs[len(longs)-1] - 1)
				assert.Len(t, codes()["far-hose"], 1, x.name)
				s.Stations[i].Hose = length.MM(12000)
			}
		}
		// Everything on one strip of 10 A that hangs in another: the chain is named once, the strip where the sum is over 10.
		first := s.Areas[0]
		outlet := ""
		for i := range first.Walls {
			for _, f := range first.Walls[i].Features {
				if f.Kind == "outlet" {
					outlet = f.ID
				}
			}
		}
		s.Settings.Strips = []shop.Strip{{ID: "strip-1", Name: "Long strip", Into: outlet, Lead: length.MM(3000)}, {ID: "strip-2", Name: "Short strip", Into: "strip-1", Lead: length.MM(1000), Rated: 10}}
		for i := range s.Stations {
			s.Stations[i].Outlet = "strip-2"
		}
		now := codes()
		assert.Len(t, now["chained"], 1, x.name)
		assert.Equal(t, sum > 10, len(now["strip"]) > 0, "%s: %.1f A", x.name, sum)
	}
}
