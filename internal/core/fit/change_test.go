package fit_test

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

var largerSays = regexp.MustCompile(`^(?:free )?(\d+) mm (?:more (height|width|depth|drop) )?(?:in|under) (\S+)$`)

// some of several found no home.
var some = regexp.MustCompile(`^\d+ of \d+: `)

// Every smallest change is tried: what is done as it says gives the thing a home, and
// ten millimetres less would not.
func TestTheSmallestChangeGivesAHome(t *testing.T) {
	kinds := map[string]int{}
	for seed := range uint64(5) {
		s := made(t, 170, 16, seed+1)
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 300})
		require.NoError(t, err)
		now := plan.Apply(s)
		now.Fit = nil
		rng := rand.New(rand.NewPCG(seed, 3))
		for i := range 24 {
			hold := []shop.Hold{"hang", "stand", "flat", "magnet"}[i%4]
			mm := func(a, b float64) length.Length { return length.MM(float64(int(a + (b-a)*rng.Float64()))) }
			now.Items = append(now.Items, shop.Item{ID: fmt.Sprintf("new%d", i), Name: "New thing", W: mm(60, 500), H: mm(60, 420), D: mm(30, 330), KG: weight.KG(.5), Hold: []shop.Hold{hold}, UsesPerWeek: 1, UsedAt: []string{"s0"}})
		}
		require.NoError(t, now.Validate())
		after, err := fit.Run(now, fit.Options{Seed: 1, Iterations: 1, KeepHomes: true})
		require.NoError(t, err)
		settled := after.Apply(now)
		for _, h := range after.Homeless {
			h.SmallestChange = quantity.Metric(h.SmallestChange)
			if h.SmallestChange == "" {
				kinds["none"]++
				continue
			}
			item := -1
			for i := range settled.Items {
				if settled.Items[i].ID == h.Item {
					item = i
				}
			}
			hasHome := func(s *shop.Shop) bool {
				problem, err := fit.New(s)
				require.NoError(t, err)
				e := problem.AsItIs()
				_, ok := e.Find(item)
				return ok
			}
			if some.MatchString(h.Why) {
				kinds["some"]++ // the others have a home: Find is about all of them
				continue
			}
			require.False(t, hasHome(settled))
			switch m := largerSays.FindStringSubmatch(h.SmallestChange); {
			case m != nil:
				kinds["larger"]++
				grown := func(mm float64) *shop.Shop {
					out := settled.Clone()
					p := shop.NewIndex(out).Place(m[3])
					switch m[2] {
					case "height", "drop":
						p.H += length.MM(mm)
					case "depth":
						p.D += length.MM(mm)
					default:
						p.W += length.MM(mm)
					}
					return out
				}
				mm, err := strconv.ParseFloat(m[1], 64)
				require.NoError(t, err)
				assert.True(t, hasHome(grown(mm)), "%s: %s", h.Item, h.SmallestChange)
				if mm > 10 {
					assert.False(t, hasHome(grown(mm-10)), "%s: less than %s", h.Item, h.SmallestChange)
				}
			case strings.HasPrefix(h.SmallestChange, "let it"):
				kinds["held"]++ // see TestWhatIsHeldOtherwiseWouldHaveAHome
			case strings.Contains(h.SmallestChange, ": then"):
				kinds["others move"]++
				problem, err := fit.New(settled)
				require.NoError(t, err)
				e := problem.AsItIs()
				assert.True(t, e.Admit(item, 2).Found, h.SmallestChange)
			case strings.HasPrefix(h.SmallestChange, "move "):
				kinds["put out"]++
				m := regexp.MustCompile(`^move (.+) out of (\S+)$`).FindStringSubmatch(h.SmallestChange)
				require.NotNil(t, m, h.SmallestChange)
				freed := false
				for i := range settled.Homes { // several may be called the same
					if it := shop.NewIndex(settled).Item(settled.Homes[i].Item); it.Name == m[1] && settled.Homes[i].Place == m[2] {
						out := settled.Clone()
						out.Homes = append(out.Homes[:i], out.Homes[i+1:]...)
						freed = freed || hasHome(out)
					}
				}
				assert.True(t, freed, h.SmallestChange)
			default:
				assert.Fail(t, "no such change", h.SmallestChange)
			}
		}
	}
	t.Log(kinds)
	assert.GreaterOrEqual(t, len(kinds), 3, kinds)
}
