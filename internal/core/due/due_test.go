package due_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/due"
	"hobrak/internal/core/event"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func day(text string) time.Time {
	t, err := time.Parse(time.DateOnly, text)
	if err != nil {
		panic(err)
	}
	return t
}

// Worked calendars: month ends, leap years, the days on which clocks are changed, a clock that was set back, a day still to come.
func TestUpkeepComesByTheCalendar(t *testing.T) {
	for _, x := range []struct {
		u     shop.Upkeep
		today string
		due   string // empty: not yet
	}{
		{shop.Upkeep{Days: 30, Last: "2026-01-31"}, "2026-03-01", ""},
		{shop.Upkeep{Days: 30, Last: "2026-01-31"}, "2026-03-02", "2026-03-02"},
		{shop.Upkeep{Months: 1, Last: "2026-01-31"}, "2026-02-28", "2026-02-28"},
		{shop.Upkeep{Months: 1, Last: "2026-01-31"}, "2026-02-27", ""},
		{shop.Upkeep{Months: 1, Last: "2028-01-31"}, "2028-02-28", ""},
		{shop.Upkeep{Months: 1, Last: "2028-01-31"}, "2028-02-29", "2028-02-29"},
		{shop.Upkeep{Months: 12, Last: "2028-02-29"}, "2029-02-28", "2029-02-28"},
		{shop.Upkeep{Months: 3, Last: "2026-11-30"}, "2027-02-28", "2027-02-28"},
		{shop.Upkeep{Days: 1, Last: "2026-03-28"}, "2026-03-29", "2026-03-29"}, // the clock goes forward
		{shop.Upkeep{Days: 7, Last: "2026-10-21"}, "2026-10-28", "2026-10-28"}, // and back
		{shop.Upkeep{Yearly: "10-15", Last: "2025-10-15"}, "2026-10-14", ""},
		{shop.Upkeep{Yearly: "10-15", Last: "2025-10-20"}, "2026-10-15", "2026-10-15"},
		{shop.Upkeep{Yearly: "02-29", Last: "2026-03-01"}, "2027-02-28", "2027-02-28"},
		{shop.Upkeep{Days: 10, Last: "2030-01-01"}, "2026-01-05", ""}, // still to come: as if done today
		{shop.Upkeep{Days: 10}, "2026-01-05", "2026-01-05"},           // never noted
		{shop.Upkeep{Days: 10, Last: "2026-01-01", Until: "2026-02-01"}, "2026-01-31", ""},
		{shop.Upkeep{Days: 10, Last: "2026-01-01", Until: "2026-02-01"}, "2026-02-01", "2026-01-11"},
		{shop.Upkeep{}, "2026-01-05", ""}, // an interval of nothing never comes
	} {
		x.u.ID, x.u.Name = "u", "Oil the bench"
		s := &shop.Shop{Areas: []shop.Area{{ID: "main"}}, Settings: shop.Settings{Upkeep: []shop.Upkeep{x.u}}}
		list, err := due.Of(s, due.NewTally(nil), nil, x.today)
		require.NoError(t, err)
		if x.due == "" {
			assert.Empty(t, list, "%+v on %s", x.u, x.today)
		} else if assert.Len(t, list, 1, "%+v on %s", x.u, x.today) {
			assert.Equal(t, x.due, list[0].Due, "%+v on %s", x.u, x.today)
		}
	}
	_, err := due.Of(&shop.Shop{}, due.NewTally(nil), nil, "tomorrow")
	assert.ErrorContains(t, err, "2027-05-31")
	_, _, err = due.Next(&shop.Upkeep{Name: "Nothing"}, day("2026-01-01"))
	assert.ErrorContains(t, err, "say how often")
}

// By a calendar that is gone through day by day, upkeep is due from its day on and on no day before, whatever the interval.
func TestUpkeepIsDueFromItsDayOnAndNoDayBefore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		last := day("2023-01-01").AddDate(0, 0, rapid.IntRange(0, 2000).Draw(t, "last"))
		u := shop.Upkeep{ID: "u", Name: "Work", Last: last.Format(time.DateOnly)}
		if rapid.Bool().Draw(t, "months") {
			u.Months = rapid.IntRange(1, 30).Draw(t, "n")
		} else {
			u.Days = rapid.IntRange(1, 900).Draw(t, "n")
		}
		// The judge counts days, and looks for the month that is over.
		var first time.Time
		for d, n := last, 0; ; n++ {
			d = last.AddDate(0, 0, n)
			if u.Days > 0 && n == u.Days {
				first = d
				break
			}
			months := 12*(d.Year()-last.Year()) + int(d.Month()-last.Month())
			tomorrow := d.AddDate(0, 0, 1)
			if u.Months > 0 && months == u.Months && (d.Day() == last.Day() || tomorrow.Month() != d.Month() && d.Day() < last.Day()) {
				first = d
				break
			}
		}
		s := &shop.Shop{Areas: []shop.Area{{ID: "main"}}, Settings: shop.Settings{Upkeep: []shop.Upkeep{u}}}
		for _, x := range []struct {
			on   time.Time
			want int
		}{{first.AddDate(0, 0, -1), 0}, {first, 1}, {first.AddDate(0, 0, 40), 1}} {
			list, err := due.Of(s, due.NewTally(nil), nil, x.on.Format(time.DateOnly))
			require.NoError(t, err)
			if x.on.Before(last) {
				continue
			}
			require.Len(t, list, x.want, "%+v on %s, first %s", u, x.on.Format(time.DateOnly), first.Format(time.DateOnly))
		}
		ahead, err := due.Ahead(s, nil, last.Format(time.DateOnly), first.Format(time.DateOnly))
		require.NoError(t, err)
		require.Len(t, ahead, 1)
		require.Equal(t, first.Format(time.DateOnly), ahead[0].Due)
	})
}

func uses(item string, n int, on string) event.Event {
	return event.Event{At: on, What: event.Used, Item: item, N: n}
}

// By uses and hours: of the thing itself, or of all that is used at the station.
func TestUpkeepComesByUse(t *testing.T) {
	s := &shop.Shop{Areas: []shop.Area{{ID: "main"}}, Stations: []shop.Station{{ID: "planer", Name: "Planer"}},
		Items: []shop.Item{{ID: "plane", Name: "Plane"}, {ID: "fence", Name: "Fence", UsedAt: []string{"planer"}}, {ID: "knives", Name: "Knives", UsedAt: []string{"planer"}}}}
	s.Settings.Upkeep = []shop.Upkeep{{ID: "a", Name: "Strop", On: "plane", Uses: 20, Last: "2026-01-01"}, {ID: "b", Name: "Grease", On: "planer", Hours: 5, Last: "2026-01-01"}}
	on := func(log event.Log) (ids []string) {
		list, err := due.Of(s, due.NewTally(log), nil, "2026-06-01")
		require.NoError(t, err)
		for _, x := range list {
			ids = append(ids, x.ID)
		}
		return ids
	}
	assert.Empty(t, on(event.Log{uses("plane", 19, "2026-02-01"), uses("plane", 30, "2026-01-01"), uses("plane", 30, "2026-06-02")}), "before, on the day itself, and still to come")
	assert.Equal(t, []string{"a"}, on(event.Log{uses("plane", 19, "2026-02-01"), uses("plane", 1, "2026-06-01")}))
	assert.Equal(t, []string{"b"}, on(event.Log{uses("fence", 30, "2026-02-01"), uses("knives", 20, "2026-03-01")}))
	assert.Empty(t, on(event.Log{uses("fence", 30, "2026-02-01"), uses("knives", 19, "2026-03-01")}))
}

// What else becomes due, each by its own rule, and nothing before.
func TestThresholdsAndDays(t *testing.T) {
	s := &shop.Shop{Areas: []shop.Area{{ID: "main"}, {ID: "shed", Climate: []string{"frost"}}}, Stations: []shop.Station{{ID: "stones", Name: "Stones", Kind: "sharpening"}, {ID: "lathe", Name: "Lathe", Wished: "2026-05-01"}},
		Places: []shop.Place{{ID: "P", Kind: "shelf", At: shop.At{Area: "shed", Floor: &shop.Point{}}}}}
	for i := range 4 {
		s.Items = append(s.Items, shop.Item{ID: fmt.Sprintf("c%d", i), Name: fmt.Sprintf("Chisel %d", i), Flags: []shop.Flag{"dull"}})
	}
	s.Items = append(s.Items,
		shop.Item{ID: "glue", Name: "Glue", Flags: []shop.Flag{"freeze"}, Stock: &shop.Stock{Has: 2, Low: 1, Opened: "2025-05-31", Keeps: 12}},
		shop.Item{ID: "paper", Name: "Paper", Stock: &shop.Stock{Has: 3, Low: 3, Unit: "sheets"}},
		shop.Item{ID: "saw", Name: "Old saw", Limbo: "sell", LimboSince: "2026-01-01"},
		shop.Item{ID: "bottle", Name: "Extinguisher", Due: "2026-04-01"},
		shop.Item{ID: "vise", Name: "Vice", Review: "2026-05-30"})
	s.Homes = []shop.Home{{Item: "glue", Place: "P"}}
	s.Settings.Trials = []shop.Trial{{ID: "t", Without: "mitre saw", Since: "2026-03-01", Review: "2026-05-01"}}
	s.Settings.Projects = []shop.Project{{ID: "p", Name: "Chest", Touched: "2026-04-15"}, {ID: "q", Name: "Stool", State: "done", Touched: "2024-01-01"}}
	s.Settings.Aims = []shop.Aim{{ID: "a", Name: "Less out", By: "2026-05-31"}}
	out := event.Log{{At: "2026-04-01", What: event.Lent, Item: "vise", To: "a neighbour", Due: "2026-05-20"}}
	kinds := func(today string) map[due.Kind]string {
		list, err := due.Of(s, due.NewTally(nil), out, today)
		require.NoError(t, err)
		got := map[due.Kind]string{}
		for _, x := range list {
			got[x.What] = x.Due
		}
		return got
	}
	assert.Equal(t, map[due.Kind]string{due.Sharpen: "2026-05-31", due.Buy: "2026-05-31", due.Expired: "2026-05-31", due.Limbo: "2026-04-01", due.Inspect: "2026-04-01", due.Decision: "2026-05-30", due.Trial: "2026-05-01", due.Stalled: "2026-05-15",
		due.AimDue: "2026-05-31", due.Lent: "2026-05-20", due.Wish: "2026-05-01"}, kinds("2026-05-31"))
	assert.Equal(t, map[due.Kind]string{due.Sharpen: "2026-03-31", due.Buy: "2026-03-31"}, kinds("2026-03-31"), "in March it is frost no more, and little has come")
	assert.Contains(t, kinds("2026-11-01"), due.Frost)
	s.Items[0].Flags = nil
	assert.NotContains(t, kinds("2026-03-31"), due.Sharpen, "three edges are no batch")
	s = &shop.Shop{Areas: []shop.Area{{ID: "main"}}}
	list, err := due.Of(s, due.NewTally(nil), nil, "2026-05-31")
	require.NoError(t, err)
	assert.Empty(t, list, "empty when nothing is due")
}

// In simulated shops, after twelve weeks of use by Poisson, what was learned is within a fifth of the true rate, in the mean of 50.
func TestWhatIsLearnedOfUseIsNearTheTruth(t *testing.T) {
	for _, rate := range []float64{.5, 1, 3, 8, 20} {
		off, par := 0.0, 0.0
		for seed := range uint64(50) {
			rng := rand.New(rand.NewPCG(seed, 3))
			var log event.Log
			for d := range 84 {
				// Poisson by exponential gaps within the day.
				n := 0
				for gap := rng.ExpFloat64(); gap < rate/7; gap += rng.ExpFloat64() {
					n++
				}
				if n > 0 {
					log = append(log, uses("paper", n, day("2026-01-01").AddDate(0, 0, d).Format(time.DateOnly)))
				}
			}
			got := due.Rate(due.NewTally(log), "paper", day("2026-01-01").AddDate(0, 0, 83))
			off += (got - rate) / rate / 50
			it := &shop.Item{Stock: &shop.Stock{}}
			par += due.Par(it, got) / 50
			require.GreaterOrEqual(t, due.Par(it, got), due.Low(it, got)-1)
		}
		assert.Less(t, math.Abs(off), .2, "rate %.1f: mean off by %.1f %%", rate, 100*off)
		assert.InDelta(t, 4*rate, par, .2*4*rate+1)
		t.Logf("%.1f a week: learned %.1f %% off in the mean, par %.1f", rate, 100*off, par)
	}
}

// Whatever a shop is like, no day breaks the list, and each line has a day that has come, a name and a reason.
func TestWhateverAShopIsLikeItsListHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		today := day("2026-01-01").AddDate(0, 0, rapid.IntRange(-4000, 4000).Draw(t, "day")).Format(time.DateOnly)
		list, err := due.Of(s, due.NewTally(s.Events), s.Events, today)
		require.NoError(t, err)
		for i, x := range list {
			require.LessOrEqual(t, x.Due, today)
			require.NotEmpty(t, x.Name)
			require.NotEmpty(t, x.Says)
			require.Contains(t, due.Work.Words(), string(x.What))
			if i > 0 {
				require.LessOrEqual(t, list[i-1].Due, x.Due)
			}
		}
		for _, b := range due.Stocks(s, due.NewTally(s.Events), day(today)) {
			require.GreaterOrEqual(t, b.Buy, 0.0)
		}
	})
}

// decade of events, 80 000 of them, and upkeep, stock and limbo of a large shop.
func decade() (*shop.Shop, event.Log) {
	s := shoptest.Made(600, 60, 5)
	rng := rand.New(rand.NewPCG(1, 2))
	var log event.Log
	for k := range 80000 {
		log = append(log, uses(s.Items[rng.IntN(len(s.Items))].ID, 1, day("2016-01-01").AddDate(0, 0, k*3650/80000).Format(time.DateOnly)))
	}
	for i := range s.Items {
		if i%3 == 0 {
			s.Items[i].Stock = &shop.Stock{Has: 3}
		}
		if i%5 == 0 {
			s.Settings.Upkeep = append(s.Settings.Upkeep, shop.Upkeep{ID: fmt.Sprint(i), Name: "Work", On: s.Items[i].ID, Uses: 30, Last: "2025-01-01"})
		}
	}
	return s, log
}

// BenchmarkDue lists what is due after ten years of events, counted already.
func BenchmarkDue(b *testing.B) {
	s, log := decade()
	tally := due.NewTally(log)
	for b.Loop() {
		_, err := due.Of(s, tally, nil, "2026-01-01")
		require.NoError(b, err)
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms/list")
}

// BenchmarkTally counts the events of ten years.
func BenchmarkTally(b *testing.B) {
	_, log := decade()
	for b.Loop() {
		due.NewTally(log)
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms/tally")
}

// A blade hangs on the side of its rack that says whether it is dull.
func TestDullBladesHangOnTheirSide(t *testing.T) {
	for _, x := range []struct {
		rack, side string
		dull       bool
	}{{"left", "left", true}, {"left", "right", false}, {"right", "right", true}, {"right", "left", false}, {"", "", true}} {
		s := &shop.Shop{Places: []shop.Place{{ID: "R", Dull: x.rack}}, Items: []shop.Item{{ID: "b", Name: "Blade"}}, Homes: []shop.Home{{Item: "b", Place: "R"}}}
		if x.dull {
			s.Items[0].Flags = []shop.Flag{"dull"}
		}
		assert.Equal(t, x.side, due.Side(shop.NewIndex(s), &s.Items[0]), "%+v", x)
	}
}

// A bin that is full is due for sorting, one that is nearly so is not; a wish is when a circuit carries it; a project when it is dry, and
// not again once it was worked on.
func TestBinsWishesAndWhatDries(t *testing.T) {
	mm := length.MM
	s := &shop.Shop{Areas: []shop.Area{{ID: "main"}},
		Places:   []shop.Place{{ID: "S1", Kind: "bin", W: mm(1000), D: mm(500), H: mm(1000)}, {ID: "S2", Kind: "shelf", W: mm(100), D: mm(100), H: mm(100)}},
		Items:    []shop.Item{{ID: "off", Name: "Offcut", Count: 27, W: mm(500), H: mm(100), D: mm(200)}},
		Homes:    []shop.Home{{Item: "off", Place: "S1", N: 27}},
		Circuits: []shop.Circuit{{ID: "one", Amps: 16}},
		Stations: []shop.Station{{ID: "saw", Name: "Saw", Wished: "2027-01-01", When: "circuit", Amps: 13}, {ID: "lathe", Name: "Lathe", Wished: "2027-01-01", When: "next-room", Amps: 1}},
		Settings: shop.Settings{Projects: []shop.Project{{ID: "p", Name: "Chest", Touched: "2026-06-01", Dries: "2026-06-04"}}}}
	is := func(today string) (out []string) {
		list, err := due.Of(s, due.NewTally(nil), nil, today)
		require.NoError(t, err)
		for _, x := range list {
			out = append(out, string(x.What)+" "+x.ID)
		}
		return out
	}
	// 27 pieces of 10 litres in 500 litres, of which 300 go in loosely: nine tenths of them.
	assert.Equal(t, []string{"full S1"}, is("2026-06-03"))
	s.Homes[0].N, s.Items[0].Count = 26, 26
	assert.Empty(t, is("2026-06-03"))
	assert.Equal(t, []string{"dry p"}, is("2026-06-04"))
	s.Settings.Projects[0].Touched = "2026-06-04"
	assert.Empty(t, is("2026-06-05"))
	s.Circuits = append(s.Circuits, shop.Circuit{ID: "two", Amps: 16.25}) // four fifths of it are 13 A
	assert.Equal(t, []string{"came saw"}, is("2026-06-05"))
}
