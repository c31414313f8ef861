package learn_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

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

func TestTheLogCorrectsWhatWasSaid(t *testing.T) {
	s := &shop.Shop{Items: []shop.Item{
		{ID: "plane", Name: "Plane", UsesPerWeek: 1, Assumed: []string{"kg", "uses_per_week"}},
		{ID: "saw", Name: "Saw", UsesPerWeek: 3},
		{ID: "file", Name: "File", UsesPerWeek: .5},
		{ID: "wish", Name: "Wish", UsesPerWeek: 5, Status: "wished"},
	}}
	assert.Empty(t, learn.Rates(s, on("2026-11-25")), "without a log nothing is learned")
	// Six weeks: the plane every day but Sundays, the file as said, the saw never.
	for d := on("2026-10-14"); d.Before(on("2026-11-25")); d = d.AddDate(0, 0, 1) {
		if d.Weekday() != time.Sunday {
			learn.Note(&s.Items[0], d)
		}
		if d.Day()%14 == 0 {
			learn.Note(&s.Items[2], d)
		}
	}
	learn.Note(&s.Items[0], on("2026-11-24"))
	assert.Equal(t, 2, s.Items[0].Log[len(s.Items[0].Log)-1].Times, "twice on one day is one line")
	got := learn.Rates(s, on("2026-11-25"))
	require.Len(t, got, 2)
	// (4·1 + 37) / (4 + 6) and (4·3 + 0) / 10.
	assert.Equal(t, "plane", got[0].Item)
	assert.Equal(t, 37, got[0].Uses)
	assert.InDelta(t, 4.1, got[0].Learned, 1e-9)
	assert.InDelta(t, 1.2, got[1].Learned, 1e-9)
	assert.Empty(t, got[1].Last)

	assert.Equal(t, 1, learn.Take(s, on("2026-11-25"), []string{"plane"}))
	assert.InDelta(t, 4.1, s.Items[0].UsesPerWeek, 1e-9)
	assert.Equal(t, []string{"kg"}, s.Items[0].Assumed, "it is known now")
	assert.Len(t, learn.Rates(s, on("2026-11-30")), 1, "the log before counts once, the saw is still told")
}

func TestTheRateLiesBetweenWhatWasSaidAndWhatWasSeen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		said := rapid.Float64Range(0, 20).Draw(t, "said")
		days := rapid.IntRange(8, 700).Draw(t, "days")
		n := rapid.IntRange(0, 300).Draw(t, "uses")
		today := on("2026-11-25")
		s := &shop.Shop{Items: []shop.Item{{ID: "a", UsesPerWeek: said}, {ID: "b", UsesPerWeek: 1}}}
		learn.Note(&s.Items[1], today.AddDate(0, 0, -days))
		for range n {
			learn.Note(&s.Items[0], today.AddDate(0, 0, -rapid.IntRange(0, days).Draw(t, "ago")))
		}
		seen := float64(n) / (float64(days) / 7)
		for _, r := range learn.Rates(s, today) {
			if r.Item == "a" {
				assert.GreaterOrEqual(t, r.Learned, min(said, seen)-1e-9)
				assert.LessOrEqual(t, r.Learned, max(said, seen)+1e-9)
			}
		}
	})
}

func TestWhatWasNotUsedForEightWeeksIsIdle(t *testing.T) {
	s := &shop.Shop{Items: []shop.Item{
		{ID: "noted lately", Log: []shop.Used{{Day: "2026-05-01"}, {Day: "2026-08-20"}}},
		{ID: "noted long ago", Log: []shop.Used{{Day: "2026-06-01"}}},
		{ID: "never noted"},
		{ID: "wished for", Status: "wished"},
	}}
	today := time.Date(2026, 9, 4, 0, 0, 0, 0, time.UTC)
	idle := learn.Idle(s, today)
	assert.InDelta(t, 95.0/7, idle["noted long ago"], 1e-9)
	assert.InDelta(t, 126.0/7, idle["never noted"], 1e-9, "from the first day anything was noted")
	assert.NotContains(t, idle, "noted lately")
	s.Items = s.Items[2:]
	assert.Empty(t, learn.Idle(s, today), "nothing is known before the first note")
}
