package next_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/free"
	"hobrak/internal/core/next"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func steps(t require.TestingT, s *shop.Shop) []next.Step {
	p, err := fit.New(s)
	require.NoError(t, err)
	found, err := check.Mapped(p.Map())
	require.NoError(t, err)
	return next.Steps(p.AsItIs(), func() *free.Result { return free.Of(p.Map()) }, found)
}

func of(list []next.Step, id string) *next.Step {
	for i := range list {
		if list[i].ID == id {
			return &list[i]
		}
	}
	return nil
}

func TestAShopThatIsJustBegunIsMeasuredAndListedFirst(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Items, s.Homes = nil, nil
	for i := range s.Areas {
		s.Areas[i].Survey = &shop.Survey{}
		for k := range s.Areas[i].Walls {
			s.Areas[i].Walls[k].Assumed = []string{"top"}
		}
	}
	list := steps(t, s)
	require.GreaterOrEqual(t, len(list), 2)
	assert.Equal(t, "room", list[0].ID)
	assert.Equal(t, "things", list[1].ID)
	assert.Nil(t, of(list, "homes"), "there is nothing to find a home for")
}

// Who has no home and could have one is counted by the same question asked one by one.
func TestWhatIsSaidOfThingsWithoutAHomeIsSo(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		keep := rapid.IntRange(0, len(s.Homes)).Draw(t, "homes kept")
		s.Homes = s.Homes[:keep]
		p, err := fit.New(s)
		require.NoError(t, err)
		a := p.AsItIs()
		homeless, waiting := 0, 0
		for i := range s.Items {
			n := 0
			for _, h := range s.Homes {
				if h.Item == s.Items[i].ID {
					n += h.Number(&s.Items[i])
				}
			}
			if s.Items[i].Needs() && n < s.Items[i].Number() {
				homeless++
				if _, ok := a.Find(i); ok {
					waiting++
				}
			}
		}
		list := steps(t, s)
		homes, storage := of(list, "homes"), of(list, "storage")
		assert.Equal(t, waiting > 0 && len(s.Places) > 0, homes != nil)
		assert.Equal(t, waiting < homeless, storage != nil)
		if homes != nil {
			assert.Equal(t, homeless, homes.N)
		}
		if storage != nil {
			assert.Equal(t, homeless-waiting, storage.N)
		}
		for _, step := range list {
			assert.NotRegexp(t, `\b1 (things|walls|sizes|rules)`, step.What+"; "+step.Why)
			assert.False(t, strings.HasSuffix(step.What+step.Why, "."), "%+v", step)
			assert.NotEmpty(t, step.Do)
		}
	})
}

func TestAShopWithNothingMissingHasNothingToSay(t *testing.T) {
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	plan, err := fit.Run(s, fit.Options{Seed: 1})
	require.NoError(t, err)
	s.Homes = plan.Homes
	assert.Nil(t, of(steps(t, s), "homes"))
}

func BenchmarkSteps(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	for b.Loop() {
		steps(b, s)
	}
}
