package reuse_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/build"
	"hobrak/internal/core/check"
	"hobrak/internal/core/free"
	"hobrak/internal/core/reuse"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/wood"
	"time"
)

func slipway(t require.TestingT) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return s
}

// hard findings of a shop, by what they say.
func hard(t require.TestingT, s *shop.Shop) map[string]bool {
	found, err := check.Shop(s)
	require.NoError(t, err)
	out := map[string]bool{}
	for _, f := range found {
		if f.Hard {
			out[f.Code+" "+f.What] = true
		}
	}
	return out
}

// Furniture of any size and inside: what is said to go into it does, by the checker, once it stands where it would go; a shelf more never
// holds fewer things; cut down it is as high as was asked and no opening has grown.
func TestWhatFoundFurnitureHoldsGoesIn(t *testing.T) {
	stood, more, cut := 0, 0, 0
	for seed := range uint64(14) {
		s := slipway(t)
		rng := rand.New(rand.NewPCG(seed, 9))
		f := reuse.Found{Name: "found", W: float64(400 + rng.IntN(900)), D: float64(250 + rng.IntN(400)), Drawers: rng.IntN(3) == 0}
		high := 60.0
		for range 1 + rng.IntN(4) {
			h := float64(100 + rng.IntN(500))
			f.Openings = append(f.Openings, h)
			high += h + 20
		}
		f.H = high
		if rng.IntN(2) == 0 {
			f.InW, f.InD = f.W-float64(20+rng.IntN(60)), f.D-float64(5+rng.IntN(60))
		}
		if rng.IntN(2) == 0 {
			f.Carries = float64(5 + rng.IntN(40))
		}
		homed := map[string]bool{}
		for _, h := range s.Homes {
			homed[h.Item] = true
		}
		var things []string
		for i := range s.Items {
			if !homed[s.Items[i].ID] || rng.IntN(6) == 0 {
				things = append(things, s.Items[i].ID)
			}
		}
		m, err := access.NewMap(s)
		require.NoError(t, err)
		lower := 0.0
		if rng.IntN(2) == 0 {
			lower = 100 + float64(rng.IntN(int(f.H-130)))
		}
		ways, err := reuse.Judge(m, free.Of(m), &f, things, lower)
		require.NoError(t, err, "%+v", f)
		asIs := ways[0]
		require.Equal(t, reuse.AsIs, asIs.Way)
		was := hard(t, s)
		for i := range ways {
			v := &ways[i]
			switch v.Way {
			case reuse.Shelf:
				more++
				assert.Greater(t, len(v.Holds), len(asIs.Holds))
				assert.Len(t, v.Openings, len(f.Openings)+1)
				assert.False(t, f.Drawers)
			case reuse.CutDown:
				cut++
				if lower > 0 {
					assert.InDelta(t, lower, v.H, 0)
				}
				assert.Less(t, v.H, f.H)
				for k, h := range v.Openings {
					assert.LessOrEqual(t, h, f.Openings[k]+1e-9)
				}
			}
			assert.Equal(t, v.Nowhere == "", len(v.Sites) > 0)
			assert.Len(t, things, len(v.Holds)+len(v.Left), "each thing goes in or is left")
			if len(v.Sites) == 0 {
				continue
			}
			then := s.Clone()
			at := v.Sites[0].At
			d := v.Found().Design(storage.Address(then, at))
			require.NoError(t, reuse.Keep(then, v, d, at))
			require.NoError(t, then.Validate())
			stood++
			for _, h := range v.Holds {
				in := 0
				for _, home := range then.Homes {
					if home.Item == h.Item {
						require.True(t, strings.HasPrefix(home.Place, d.Container.ID+"-"), home.Place)
						in++
					}
				}
				require.Equal(t, 1, in)
			}
			for what := range hard(t, then) {
				if !was[what] && strings.Contains(what, d.Container.ID) {
					require.Fail(t, "broken by what was found", "%s: %+v", what, f)
				}
			}
		}
	}
	t.Logf("%d ways stand in the room, %d with a shelf more, %d cut down", stood, more, cut)
	assert.Positive(t, stood)
	assert.Positive(t, more)
	assert.Positive(t, cut)
}

func TestSizesThatCannotBe(t *testing.T) {
	ok := reuse.Found{Name: "x", W: 800, H: 1000, D: 400, Openings: []float64{300, 400}}
	require.NoError(t, ok.Check())
	for says, change := range map[string]func(*reuse.Found){
		"outer width":    func(f *reuse.Found) { f.W = 0 },
		"outer height":   func(f *reuse.Found) { f.H = 9000 },
		"outer depth":    func(f *reuse.Found) { f.D = 10 },
		"clear height":   func(f *reuse.Found) { f.Openings = nil },
		"together they":  func(f *reuse.Found) { f.Openings = []float64{600, 600} },
		"at least 60 mm": func(f *reuse.Found) { f.Openings = []float64{20} },
		"inner width":    func(f *reuse.Found) { f.InW = 900 },
		"inner depth":    func(f *reuse.Found) { f.InD = 401 },
		"2000 kg":        func(f *reuse.Found) { f.Carries = -1 },
	} {
		f := ok
		change(&f)
		assert.ErrorContains(t, f.Check(), says)
	}
}

// What storage gives when it is taken apart is no more than its parts, comes into stock as salvaged, and what lived there is homeless.
func TestTakenApartItIsWood(t *testing.T) {
	s := slipway(t)
	came := 0
	for _, c := range s.Containers {
		y, err := reuse.Apart(s, c.ID, build.Choices{})
		if err != nil {
			continue // not made of parts
		}
		u, err := build.Of(s, c.ID, build.Choices{})
		require.NoError(t, err)
		all := 0.0
		for _, p := range u.Parts {
			all += p.L * p.W * p.T / 1e9
		}
		assert.Less(t, y.M3, all)
		day := time.Date(2027, 3, 1, 0, 0, 0, 0, time.UTC)
		st, err := wood.Of(s, day)
		require.NoError(t, err)
		_, then, err := reuse.TakeApart(s, c.ID, build.Choices{}, st, day.Format(time.DateOnly))
		require.NoError(t, err)
		require.NoError(t, then.Validate())
		ix := shop.NewIndex(then)
		assert.Nil(t, ix.Container(c.ID))
		after, err := wood.Of(then, day)
		require.NoError(t, err)
		assert.InDelta(t, st.M3+y.M3, after.M3, 1e-6)
		n := 0
		for _, it := range then.Items {
			if it.Wood != nil && it.Wood.Salvaged {
				n += it.Number()
			}
		}
		want := 0
		for _, p := range y.Pieces {
			want += p.Count
		}
		assert.Equal(t, want, n, fmt.Sprint(c.ID))
		came += n
	}
	assert.Positive(t, came)
}
