package demo

import (
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"hobrak/internal/core/event"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Year gives a demo what a year of work in it leaves behind, up to a day: uses as its rates have them, edges that got dull, consumables that
// ran low, upkeep, projects, aims, a trial, a regret. Before is the shop as it was a year earlier: some of it came since, some went,
// some lived elsewhere. The same day gives the same year.
func Year(s *shop.Shop, today time.Time) (before *shop.Shop) {
	rng := rand.New(rand.NewPCG(1907, 4))
	day := func(ago int) string { return today.AddDate(0, 0, -ago).Format(time.DateOnly) }
	ix := shop.NewIndex(s)

	before = s.Clone()
	before.Events = nil
	came := map[string]bool{}
	for i := range before.Items { // one in twelve came within the year
		if it := &before.Items[i]; rng.IntN(12) == 0 && it.Kind != "first-aid-box" {
			came[it.ID] = true
		}
	}
	before.Items = slices.DeleteFunc(before.Items, func(it shop.Item) bool { return came[it.ID] })
	before.Homes = slices.DeleteFunc(before.Homes, func(h shop.Home) bool { return came[h.Item] || rng.IntN(9) == 0 })
	for _, x := range [][2]string{{"old-drill-press-vice", "Drill press vice, cracked"}, {"spare-router", "Router, second"}, {"paint-tray", "Paint trays"}} {
		before.Items = append(before.Items, shop.Item{ID: x[0], Name: x[1], W: 250 * length.Millimetre, H: 200 * length.Millimetre, D: 150 * length.Millimetre})
	}

	// What was used, a week at a time; some things are never taken, whatever was once typed of them.
	for i := range s.Items {
		it := &s.Items[i]
		if it.Status == "wished" || it.UsesPerWeek <= 0 || rng.IntN(8) == 0 {
			continue
		}
		from := 400
		if came[it.ID] {
			from = 30 + rng.IntN(280)
		}
		for ago := from; ago >= 0; ago-- {
			if n := draw(rng, it.UsesPerWeek/7); n > 0 {
				s.Events = append(s.Events, event.Event{At: day(ago), What: event.Used, Item: it.ID, N: n})
			}
		}
	}
	slices.SortStableFunc(s.Events, func(a, b event.Event) int { return strings.Compare(a.At, b.At) })

	dull := 0
	for i := range s.Items {
		it := &s.Items[i]
		if it.Flagged(shop.Sharp) && it.UsesPerWeek >= .5 && dull < 5 {
			it.Flags = append(slices.Clone(it.Flags), "dull")
			dull++
		}
	}
	stock := func(id string, k shop.Stock) {
		if it := ix.Item(id); it != nil {
			it.Stock = &k
		}
	}
	stock("sanding-blocks", shop.Stock{Has: 2, Unit: "sheets", Low: 5, Par: 20, At: "hardware", Size: "120 grit"})
	stock("wood-glue", shop.Stock{Has: 1, Low: 1, Par: 2, At: "hardware", Opened: day(430), Keeps: 12})
	stock("masking-tape", shop.Stock{Has: 4, Low: 1, At: "paint"})
	stock("spar-varnish", shop.Stock{Has: 3, Unit: "tins", Low: 1, At: "paint", Litres: .75, Opened: day(90), Keeps: 6})
	on := func(id string) string {
		if ix.Station(id) != nil || ix.Item(id) != nil {
			return id
		}
		return ""
	}
	s.Settings.Upkeep = []shop.Upkeep{
		{ID: "oil-bench", Name: "Oil the bench top", On: on("bench"), Months: 6, Last: day(200), Minutes: 30, Notes: "boiled linseed, two coats"},
		{ID: "knives", Name: "Look at the planer knives", On: on("planer"), Hours: 20, Last: day(150), Minutes: 25},
		{ID: "straps", Name: "Straps and cartridge of the respirator", Months: 12, Last: day(340), Minutes: 5},
		{ID: "wheel", Name: "Track and tension of the bandsaw", On: on("bandsaw"), Months: 3, Last: day(95), Minutes: 15},
		{ID: "gutter", Name: "Gutter over the slip door", Yearly: "10-01", Last: day(60), Minutes: 40},
	}
	for i := range s.Items {
		if it := &s.Items[i]; it.UsesPerWeek < .1 && !it.Keep && it.Status == "" {
			it.Limbo, it.LimboSince, it.GoesTo = "sell", day(120), "the boat club"
			break
		}
	}
	s.Settings.Trials = []shop.Trial{{ID: "trial-1", Without: "the drum sander", Item: "drum-sander", Instead: "scraper and palm sander", Lost: "wide panels in one go", Since: day(50), Review: today.AddDate(0, 0, 10).Format(time.DateOnly)}}
	s.Settings.Regrets = []shop.Regret{{ID: "regret-1", Kind: "router", Says: "the second one was sold, and every change of bit costs its set-up since", Day: day(210)}}
	mm := func(v float64) length.Length { return length.MM(v) }
	s.Settings.Projects = []shop.Project{
		{ID: "skiff", Name: "Skiff, garboards", Started: day(160), Touched: day(3), W: mm(3500), D: mm(1300), H: mm(700), Hours: 60},
		{ID: "oars", Name: "A pair of oars", Started: day(90), Touched: day(47), W: mm(2600), D: mm(200), H: mm(200)},
	}
	s.Settings.ProjectsMost = 2
	s.Settings.Aims = []shop.Aim{
		{ID: "aim-1", Name: "Everything has a home", What: "homeless", To: 5, Set: day(360), By: day(-30)},
		{ID: "aim-2", Name: "Room to plank a skiff", What: "open-floor", To: 7, Set: day(360), By: day(1), Weight: 2},
		{ID: "aim-3", Name: "The slip door does not stick", Set: day(360), By: day(20), State: "missed"},
	}
	return before
}

// draw a number of uses (Poisson, by gaps).
func draw(rng *rand.Rand, rate float64) (n int) {
	for gap := rng.ExpFloat64(); gap < rate; gap += rng.ExpFloat64() {
		n++
	}
	return n
}
