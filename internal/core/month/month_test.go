package month_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/month"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func slipway(t require.TestingT) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return s
}

// The mean of many months is what the rates come to, worked out by themselves; the same seed gives the same, another not.
func TestTheMeanIsWhatTheRatesComeTo(t *testing.T) {
	s := slipway(t)
	a, err := month.Of(s, month.Options{Replications: 4000, Seed: 1})
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	want := 0.0
	for i := range s.Items {
		it := &s.Items[i]
		if it.Status == "wished" {
			continue
		}
		sum, n := 0.0, 0
		for _, h := range m.Index.Homes(it.ID) {
			u := m.UseOf(it)
			p := m.Index.Place(h.Place)
			if w, ok := m.Weekly(&u, m.PlaceNumber(p.ID), keeping.GripOf(p, it, h), 0); ok {
				sum += w * float64(h.Number(it))
				n += h.Number(it)
			}
		}
		if n == 0 {
			want += 60 * it.UsesPerWeek * 52 / 12
		} else {
			want += sum / float64(n) * 52 / 12
		}
	}
	assert.InDelta(t, want, a.Handling.Mean, .02*want)
	assert.Less(t, a.Handling.P10, a.Handling.Mean)
	assert.Greater(t, a.Handling.P90, a.Handling.Mean)
	b, err := month.Of(s, month.Options{Replications: 4000, Seed: 1})
	require.NoError(t, err)
	assert.Equal(t, a, b)
	c, err := month.Of(s, month.Options{Replications: 4000, Seed: 2})
	require.NoError(t, err)
	assert.NotEqual(t, a.Handling.Mean, c.Handling.Mean)
	t.Logf("%.0f s a month expected, %.0f played, from %.0f to %.0f; %.0f m; %d never used", want, a.Handling.Mean, a.Handling.P10, a.Handling.P90, a.Walking.Mean, len(a.Never))
}

// What is used twice a week is used in nearly every month, what is used once in three years in hardly any; jobs as given are played.
func TestWhatIsRareIsNeverUsedAndJobsAreAsGiven(t *testing.T) {
	s := slipway(t)
	s.Items[0].UsesPerWeek, s.Items[1].UsesPerWeek = 2, 1./150
	s.Items[0].UsedAt, s.Items[1].UsedAt = nil, nil
	p, err := month.Of(s, month.Options{Seed: 3, Jobs: []shop.Job{{Name: "stool", PerMonth: 3, Path: []string{s.Stations[0].ID, s.Stations[1].ID}}}})
	require.NoError(t, err)
	assert.NotContains(t, p.Never, s.Items[0].ID)
	assert.Contains(t, p.Never, s.Items[1].ID)
	assert.False(t, p.Usual)
	_, err = month.Of(s, month.Options{Jobs: []shop.Job{{Name: "stool", PerMonth: 3, Path: []string{"nowhere"}}}})
	assert.Error(t, err)
	_, err = month.Of(&shop.Shop{}, month.Options{})
	assert.ErrorContains(t, err, "no room")
}

func TestWhateverAShopIsLikeAMonthIsFinite(t *testing.T) {
	for seed := range shoptest.Seeds(40) {
		s := shoptest.Random(seed, shoptest.Few)
		p, err := month.Of(s, month.Options{Replications: 20, Seed: seed})
		require.NoError(t, err, "seed %d", seed)
		require.NoError(t, shoptest.Finite(p))
		require.GreaterOrEqual(t, p.Handling.P90, p.Handling.P10)
		require.False(t, math.IsNaN(p.Handling.Mean))
	}
}

// BenchmarkMonth plays 1 000 months of the demo.
func BenchmarkMonth(b *testing.B) {
	s := slipway(b)
	for b.Loop() {
		_, err := month.Of(s, month.Options{Seed: 1})
		require.NoError(b, err)
	}
	b.ReportMetric(b.Elapsed().Seconds()/float64(b.N), "s/1000-months")
}

// The mean of the months is what the rates say, their spread what Poisson says; one thing that is hardly used makes a gain unsure, many make
// it sure.
func TestHowSureAGainIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 60).Draw(t, "things")
		rate := rapid.Float64Range(.2, 20).Draw(t, "rate")
		saves := rapid.Float64Range(-3, 9).Draw(t, "saves")
		uses := make([]month.Use, n)
		for i := range uses {
			uses[i] = month.Use{Rate: rate, Saves: saves}
		}
		s := month.HowSure(uses, 2000, 1)
		mean := float64(n) * rate * saves
		months := 52.0 / 12
		sigma := math.Abs(saves) * math.Sqrt(float64(n)*rate*months) / months // of one month
		require.InDelta(t, mean, s.Mean, 5*sigma/math.Sqrt(2000)+1e-9)
		require.LessOrEqual(t, s.Low, s.High)
		if n*int(rate*10) > 200 { // as good as normal: a tenth lies beyond 1.28 of it
			require.InDelta(t, mean-1.2816*sigma, s.Low, .25*sigma+math.Abs(saves)/months)
			require.InDelta(t, mean+1.2816*sigma, s.High, .25*sigma+math.Abs(saves)/months)
		}
		if saves > 0 {
			require.InDelta(t, 1/float64(n), s.Uses, 1e-9)
		}
		require.Equal(t, s, month.HowSure(uses, 2000, 1))
	})
	// Each doubt moves the mean by what it says, and widens the spread.
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(5, 40).Draw(t, "things")
		lost := rapid.Float64Range(0, 5).Draw(t, "lost")
		room := rapid.Float64Range(-5, 5).Draw(t, "room")
		comes := rapid.Float64Range(.05, 2).Draw(t, "comes")
		plain, larger, guessed, grows := make([]month.Use, n), make([]month.Use, n), make([]month.Use, n), make([]month.Use, n)
		for i := range plain {
			u := month.Use{Rate: rapid.Float64Range(.5, 9).Draw(t, "rate"), Saves: rapid.Float64Range(.5, 4).Draw(t, "saves")}
			plain[i], larger[i], guessed[i], grows[i] = u, u, u, u
			larger[i].Larger, guessed[i].Guessed, grows[i].Comes, grows[i].Room = []float64{0, lost, 2 * lost}, true, comes, room
		}
		const months = 3000
		p := month.HowSure(plain, months, 1)
		require.InDelta(t, 1, p.Draw, 1e-9)
		l := month.HowSure(larger, months, 1)
		require.InDelta(t, p.Mean-float64(n)*lost/2, l.Mean, .05*p.Mean+.2*lost*math.Sqrt(float64(n)))
		g := month.HowSure(guessed, months, 1)
		require.InDelta(t, p.Mean, g.Mean, .1*p.Mean)
		require.Greater(t, g.High-g.Low, p.High-p.Low)
		require.Positive(t, g.Rates)
		c := month.HowSure(grows, months, 1)
		require.InDelta(t, p.Mean+float64(n)*comes*room, c.Mean, .05*p.Mean+.3*math.Abs(room)*math.Sqrt(float64(n)*comes))
		require.InDelta(t, 1, c.Draw+c.Rates+c.Sizes+c.Growth, 1e-9)
	})
	seldom := month.HowSure([]month.Use{{Rate: .1, Saves: 300}}, 1000, 2)
	often := month.HowSure([]month.Use{{Rate: 30, Saves: 1}}, 1000, 2)
	assert.Zero(t, seldom.Low, "in most months it is not used at all")
	assert.Positive(t, often.Low)
}
