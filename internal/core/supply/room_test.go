package supply_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/supply"
)

// Worked by hand from the sources named in the code.
func TestFormulasOfSupply(t *testing.T) {
	for _, x := range []struct {
		name      string
		got, want float64
	}{
		{"a flat lamp of 1000π lm right above, 2 m: 1000/4", supply.Straight(1000*math.Pi, 0, 2), 250},
		{"the same 2 m aside: cos² 45° / 8 of 1000", supply.Straight(1000*math.Pi, 2, 2), 62.5},
		{"below a lamp, not above", supply.Straight(1000, 1, -1), 0},
		{"two levels alike: 3 dB more", supply.Together([]float64{80, 80}), 83.0103},
		{"10 dB less adds .4 dB", supply.Together([]float64{90, 80}), 90.4139},
		{"85 dB(A) for eight hours", supply.Hours(85), 8},
		{"91 for two", supply.Hours(91), 2},
		{"as stated where it is stated", supply.At(92, 1, 10), 92},
		{"4 m off in a room that takes in 10 m²: .1592+.4 against .00995+.4", supply.At(92, 4, 10), 92 + 10*math.Log10(.409947/.559155)},
		{"5 m of smooth duct of 100 mm at 20 m/s: .018·5/.1·1.2·400/2", supply.Loss(20, .1, 5, 0, .018), 216},
		{"two bends more: .018·18·240", supply.Loss(20, .1, 5, 2, .018), 216 + 77.76},
	} {
		assert.InDelta(t, x.want, x.got, .01*max(1, math.Abs(x.want)), x.name)
	}
}

// hall is a room with machines, outlets and lamps at random.
func hall(t require.TestingT, seed uint64, machines, outlets int) *shop.Shop {
	rng := rand.New(rand.NewPCG(seed, 21))
	mm := length.MM
	w, d := float64(5000+rng.IntN(9000)), float64(4000+rng.IntN(6000))
	p := func(x, y float64) shop.Point { return shop.Point{mm(x), mm(y)} }
	a := shop.Area{ID: "main", Corners: []shop.Point{p(0, 0), p(0, d), p(w, d), p(w, 0)}}
	for i, long := range []float64{d, w, d, w} {
		a.Walls = append(a.Walls, shop.Wall{ID: string(rune('A' + i)), Claimed: true, Profile: []shop.Point{p(0, 2600), p(long, 2600)}})
	}
	a.Walls[0].Features = append(a.Walls[0].Features, shop.Feature{ID: "door", Kind: "door", X: mm(300), W: mm(900), H: mm(2000)})
	for i := range outlets {
		k := rng.IntN(4)
		long := []float64{d, w, d, w}[k]
		a.Walls[k].Features = append(a.Walls[k].Features, shop.Feature{ID: fmt.Sprintf("o%d", i), Kind: "outlet", X: mm(1300 + rng.Float64()*(long-1500)), Z: mm(300 + 900*rng.Float64()), W: mm(80), H: mm(80), Circuit: fmt.Sprintf("c%d", rng.IntN(4))})
	}
	a.Ceiling = &shop.Ceiling{}
	for i := range rng.IntN(4) {
		a.Ceiling.Features = append(a.Ceiling.Features, shop.CeilingFeature{ID: fmt.Sprintf("l%d", i), Kind: "light", X: mm(rng.Float64() * (w - 1200)), Y: mm(rng.Float64() * (d - 200)), W: mm(1200), D: mm(200), Drop: mm(100)})
	}
	s := &shop.Shop{Areas: []shop.Area{a}}
	s.Settings.Name = "hall"
	for i := range 4 {
		s.Circuits = append(s.Circuits, shop.Circuit{ID: fmt.Sprintf("c%d", i), Volts: 230, Amps: []float64{10, 16, 16, 20}[i]})
	}
	kinds := shop.StationKinds()
	for i := 0; len(s.Stations) < machines && i < 4000; i++ {
		k := kinds[rng.IntN(len(kinds))]
		size := k.Usual()
		if size.W == 0 || size.W > mm(2500) || size.D > mm(2000) {
			continue
		}
		x, y := rng.Float64()*(w-size.W.MM()), rng.Float64()*(d-size.D.MM())
		st := shop.Station{ID: fmt.Sprintf("s%d", len(s.Stations)), Name: fmt.Sprintf("machine %d", len(s.Stations)), Kind: k, X: mm(x), Y: mm(y), W: size.W, D: size.D, H: max(size.H, mm(500)), Tall: k.Tall(), Stand: p(x, max(0, y-300))}
		if slices.ContainsFunc(s.Stations, func(o shop.Station) bool { return o.Footprint().Overlaps(st.Footprint(), 1) }) {
			continue
		}
		st.Amps = math.Round(k.Supply().Watts/23) / 10
		if rng.IntN(2) == 0 {
			st.Cord = mm(1000 + 4000*rng.Float64())
		}
		s.Stations = append(s.Stations, st)
	}
	return s
}

func byID(s *shop.Shop, id string) *shop.Station {
	for i := range s.Stations {
		if s.Stations[i].ID == id {
			return &s.Stations[i]
		}
	}
	return nil
}

// Each cord goes round what stands on the floor, is as long as its path and its rises, and never shorter than the straight line; what is
// said to be short, to cross or to be too much is so, and nothing else is said.
func TestCordsAndLoadsAreWhatTheyAre(t *testing.T) {
	cords, over, short, advised := 0, 0, 0, 0
	for seed := range uint64(40) {
		s := hall(t, seed, 3+int(seed)%12, 1+int(seed)%9)
		r, err := supply.Of(s, "", "")
		require.NoError(t, err)
		said := map[string]string{}
		for _, c := range r.Cautions {
			require.NotEmpty(t, c.Do)
			said[c.Code+" "+c.On] = c.Says
		}
		circuitOf := map[string]string{}
		for _, p := range r.Plugs {
			st := byID(s, p.Station)
			require.Equal(t, p.Outlet == "", said["no-outlet "+p.Station] != "")
			if p.Outlet == "" {
				continue
			}
			cords++
			circuitOf[p.Station] = p.Circuit
			long := 0.0
			for k := range p.Path {
				q := geometry.Point{X: p.Path[k][0], Y: p.Path[k][1]}
				if k == 0 {
					continue
				}
				last := geometry.Point{X: p.Path[k-1][0], Y: p.Path[k-1][1]}
				long += last.Distance(q)
				for n := range 21 {
					m := last.Add(q.Sub(last).Mul(float64(n) / 20))
					for i := range s.Stations {
						o := &s.Stations[i]
						if o.ID == st.ID || o.Kind.Bench() {
							continue
						}
						if g := o.Footprint(); g.Contains(m) && n > 0 && k > 1 {
							require.Less(t, g.Distance(m), 1.0, "seed %d: the cord of %s goes through %s", seed, st.Name, o.Name)
						}
					}
				}
			}
			foot := st.Footprint()
			var f *shop.Feature
			var at geometry.Point
			for i := range s.Areas[0].Walls {
				for k := range s.Areas[0].Walls[i].Features {
					if x := &s.Areas[0].Walls[i].Features[k]; x.ID == p.Outlet {
						f, at = x, s.Areas[0].Frame(i).Spot((x.X+x.W/2).MM(), 20)
					}
				}
			}
			require.NotNil(t, f)
			rise := (f.Z + f.H/2).MM() + min(500, st.H.MM())
			require.InDelta(t, long+rise, p.Need, 1)
			straight := 0.0
			if !foot.Contains(at) {
				straight = foot.Distance(at)
			}
			require.GreaterOrEqual(t, p.Need, straight+rise-2)
			require.GreaterOrEqual(t, p.Wall, straight+rise-25)
			require.Equal(t, p.Need > p.Have+50, said["short-cord "+p.Station] != "")
			if p.Need > p.Have+50 {
				short++
			}
			require.Equal(t, p.Crossing > 0, said["crossing "+p.Station] != "")
		}
		for _, l := range r.Loads {
			rated := 0.0
			for _, c := range s.Circuits {
				if c.ID == l.Circuit {
					rated = c.Amps
				}
			}
			sum := 0.0
			for _, name := range l.Names {
				for i := range s.Stations {
					if s.Stations[i].Name == name {
						sum += s.Stations[i].Amps
						require.Equal(t, l.Circuit, circuitOf[s.Stations[i].ID])
					}
				}
			}
			require.InDelta(t, sum, l.Amps, 1e-9)
			require.Equal(t, sum > .8*rated+1e-9, l.Over)
			if !l.Over {
				continue
			}
			over++
			// What is advised brings it below.
			require.Equal(t, strings.HasPrefix(l.Advice, "plug "), l.Move != nil)
			if l.Move != nil {
				then := s.Clone()
				byID(then, l.Move.Station).Outlet = l.Move.Outlet
				for i := range then.Stations { // all others stay where they are plugged in
					if p := slices.IndexFunc(r.Plugs, func(p supply.Plug) bool { return p.Station == then.Stations[i].ID }); p >= 0 && then.Stations[i].Outlet == "" {
						then.Stations[i].Outlet = r.Plugs[p].Outlet
					}
				}
				later, err := supply.Of(then, "", "")
				require.NoError(t, err)
				for _, x := range later.Loads {
					if x.Set == l.Set {
						require.False(t, x.Over, "seed %d, %s: %s", seed, l.Set, l.Advice)
					}
				}
				advised++
			}
		}
		// Light: no station has less than the room throws back, none that is said to be dark has enough.
		for _, x := range r.Lit {
			require.InDelta(t, x.Lamps+x.Room, x.Evening, 1e-9)
			require.Equal(t, x.Evening < x.Wants, said["dark "+x.Station] != "")
		}
		// A lamp there does bring what was said.
		if r.Lamp != nil {
			then := s.Clone()
			then.Areas[0].Ceiling = &shop.Ceiling{Features: append(slices.Clone(s.Areas[0].Ceiling.Features), shop.CeilingFeature{ID: "new", Kind: "light", X: length.MM(r.Lamp.X - 10), Y: length.MM(r.Lamp.Y - 10), W: length.MM(20), D: length.MM(20), Drop: length.MM(100), Lumen: r.Lamp.Lumen})}
			later, err := supply.Of(then, "", "")
			require.NoError(t, err)
			dark := func(r *supply.Room) (n int) {
				for _, x := range r.Lit {
					if x.Evening < x.Wants {
						n++
					}
				}
				return n
			}
			require.LessOrEqual(t, dark(later), dark(r)-r.Lamp.Fewer)
		}
	}
	t.Logf("%d cords, %d short, %d loads over, %d advised", cords, short, over, advised)
	assert.Positive(t, short)
	assert.Positive(t, over)
	assert.Positive(t, advised)
}

// What was put wrong on purpose in the demo is found, each by its name.
func TestWhatIsWrongOnPurposeIsFound(t *testing.T) {
	read := func() *shop.Shop {
		s, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		for i := range s.Areas[0].Ceiling.Features {
			s.Areas[0].Ceiling.Features[i].Lumen = 7200
		}
		return s
	}
	codes := func(s *shop.Shop) map[string]int {
		out := map[string]int{}
		for _, a := range s.Areas[:1] {
			r, err := supply.Of(s, a.ID, "")
			require.NoError(t, err)
			for _, c := range r.Cautions {
				out[c.Code]++
			}
		}
		return out
	}
	was := codes(read())
	for code, change := range map[string]func(s *shop.Shop){
		"overload": func(s *shop.Shop) { s.Circuits[0].Amps, s.Circuits[1].Amps = 3, 3 },
		"boxed": func(s *shop.Shop) {
			for i := range s.Stations {
				s.Stations[i].Boxed = true
			}
		},
		"no-outlet": func(s *shop.Shop) {
			for i := range s.Areas[0].Walls {
				w := &s.Areas[0].Walls[i]
				w.Features = slices.DeleteFunc(slices.Clone(w.Features), func(f shop.Feature) bool { return f.Kind == "outlet" })
			}
		},
		"long-cord": func(s *shop.Shop) {
			for i := range s.Stations {
				s.Stations[i].Lead = length.MM(49000)
			}
		},
		"short-cord": func(s *shop.Shop) {
			for i := range s.Stations {
				s.Stations[i].Cord = length.MM(100)
			}
		},
		"dark": func(s *shop.Shop) { s.Areas[0].Ceiling.Features = nil },
	} {
		s := read()
		change(s)
		now := codes(s)
		assert.Greater(t, now[code], was[code], code)
		for other, n := range now {
			if other != code && other != "start" && other != "crossing" {
				assert.LessOrEqual(t, n, was[other], "%s brought %s", code, other)
			}
		}
	}
	_, err := supply.Of(read(), "nowhere", "")
	assert.ErrorContains(t, err, "there is no area")
	_, err = supply.Of(read(), "", "nothing")
	assert.Error(t, err)
}

// BenchmarkRoom works out all that a room with forty stations and sixty outlets supplies.
func BenchmarkRoom(b *testing.B) {
	s := hall(b, 5, 40, 60)
	for b.Loop() {
		_, err := supply.Of(s, "", "")
		require.NoError(b, err)
	}
	b.ReportMetric(float64(len(s.Stations)), "stations")
	b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N), "ms/room")
}
