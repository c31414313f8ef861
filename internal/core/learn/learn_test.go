package learn_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/event"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
)

func on(day string) time.Time {
	d, err := time.Parse(time.DateOnly, day)
	if err != nil {
		panic(err)
	}
	return d
}

func used(item string, d time.Time) event.Event {
	return event.Event{At: d.Format(time.DateOnly), What: event.Used, Item: item}
}

func TestTheLogCorrectsWhatWasSaid(t *testing.T) {
	s := &shop.Shop{Items: []shop.Item{
		{ID: "plane", Name: "Plane", UsesPerWeek: 1, Assumed: []string{"kg", "uses_per_week"}},
		{ID: "saw", Name: "Saw", UsesPerWeek: 3},
		{ID: "file", Name: "File", UsesPerWeek: .5},
		{ID: "wish", Name: "Wish", UsesPerWeek: 5, Status: "wished"},
	}}
	log := event.Log{}
	note := func(item string, d time.Time) { log = append(log, used(item, d)) }
	rates := func(day string) []learn.Rate {
		return learn.Rates(s, learn.SeenIn(log, learn.Since(s), on(day)), on(day))
	}
	assert.Empty(t, rates("2026-11-25"), "without a log nothing is learned")
	// Six weeks: the plane every day but Sundays, the file as said, the saw never.
	for d := on("2026-10-14"); d.Before(on("2026-11-25")); d = d.AddDate(0, 0, 1) {
		if d.Weekday() != time.Sunday {
			note("plane", d)
		}
		if d.Day()%14 == 0 {
			note("file", d)
		}
	}
	note("plane", on("2026-11-24"))
	got := rates("2026-11-25")
	require.Len(t, got, 2)
	// (4·1 + 37) / (4 + 6) and (4·3 + 0) / 10.
	assert.Equal(t, "plane", got[0].Item)
	assert.Equal(t, 37, got[0].Uses)
	assert.InDelta(t, 4.1, got[0].Learned, 1e-9)
	assert.InDelta(t, 1.2, got[1].Learned, 1e-9)
	assert.Empty(t, got[1].Last)

	assert.Equal(t, 1, learn.Take(s, learn.SeenIn(log, learn.Since(s), on("2026-11-25")), on("2026-11-25"), []string{"plane"}))
	assert.InDelta(t, 4.1, s.Items[0].UsesPerWeek, 1e-9)
	assert.Equal(t, []string{"kg"}, s.Items[0].Assumed, "it is known now")
	assert.Len(t, rates("2026-11-30"), 1, "the log before counts once, the saw is still told")
}

func TestTheRateLiesBetweenWhatWasSaidAndWhatWasSeen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		said := rapid.Float64Range(0, 20).Draw(t, "said")
		days := rapid.IntRange(8, 700).Draw(t, "days")
		n := rapid.IntRange(0, 300).Draw(t, "uses")
		today := on("2026-11-25")
		s := &shop.Shop{Items: []shop.Item{{ID: "a", UsesPerWeek: said}, {ID: "b", UsesPerWeek: 1}}}
		log := event.Log{used("b", today.AddDate(0, 0, -days))}
		for range n {
			log = append(log, used("a", today.AddDate(0, 0, -rapid.IntRange(0, days).Draw(t, "ago"))))
		}
		seen := float64(n) / (float64(days) / 7)
		for _, r := range learn.Rates(s, learn.SeenIn(log, learn.Since(s), today), today) {
			if r.Item == "a" {
				assert.GreaterOrEqual(t, r.Learned, min(said, seen)-1e-9)
				assert.LessOrEqual(t, r.Learned, max(said, seen)+1e-9)
			}
		}
	})
}

func TestWhatWasNotUsedForEightWeeksIsIdle(t *testing.T) {
	s := &shop.Shop{Items: []shop.Item{
		{ID: "noted lately"},
		{ID: "noted long ago"},
		{ID: "never noted"},
		{ID: "wished for", Status: "wished"},
	}}
	today := time.Date(2026, 9, 4, 0, 0, 0, 0, time.UTC)
	log := event.Log{used("noted lately", on("2026-05-01")), used("noted lately", on("2026-08-20")), used("noted long ago", on("2026-06-01"))}
	idle := learn.Idle(s, learn.SeenIn(log, nil, today), today)
	assert.InDelta(t, 95.0/7, idle["noted long ago"], 1e-9)
	assert.InDelta(t, 126.0/7, idle["never noted"], 1e-9, "from the first day anything was noted")
	assert.NotContains(t, idle, "noted lately")
	assert.Empty(t, learn.Idle(s, learn.Seen{}, today), "nothing is known before the first note")
}
