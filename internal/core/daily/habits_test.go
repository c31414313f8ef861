package daily_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/daily"
	"hobrak/internal/core/event"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/learn"
)

// A log of weeks in which one thing is left on the bench each time and another is put back: the first is named, with a home that would
// do better; of a season or a year nothing is said before the log is as old.
func TestWhatLandsOnTheBenchIsNamed(t *testing.T) {
	s := slipway(t)
	p, err := fit.New(s)
	require.NoError(t, err)
	e := p.AsItIs()
	lazy, tidy := s.Homes[3].Item, s.Homes[9].Item
	require.NotEqual(t, lazy, tidy)
	began := time.Date(2026, 3, 2, 0, 0, 0, 0, time.UTC)
	var log event.Log
	add := func(day int, what event.Kind, item string) {
		log = append(log, event.Event{ID: int64(len(log) + 1), At: began.AddDate(0, 0, day).Format(time.DateOnly), What: what, Item: item})
	}
	for week := range 8 {
		add(7*week, event.Taken, lazy)
		add(7*week, event.Taken, tidy)
		add(7*week, event.PutBack, tidy)
		add(7*week+4, event.PutBack, lazy)
	}
	learned := func(days int) daily.Habits {
		return daily.Learned(e, log.Stayed(""), learn.SeenIn(log, nil, began.AddDate(0, 0, days)), began.AddDate(0, 0, days))
	}
	h := learned(60)
	require.Len(t, h.Lying, 1)
	assert.Equal(t, lazy, h.Lying[0].Item)
	assert.Equal(t, 8, h.Lying[0].Times)
	assert.Zero(t, h.Season)
	assert.Empty(t, h.Year)
	h = learned(100)
	assert.Positive(t, h.Season, "a season has gone by")
	assert.Empty(t, h.Year)
	h = learned(420)
	homed := map[string]bool{}
	for _, x := range s.Homes {
		homed[x.Item] = true
	}
	kept := 0
	for i := range s.Items {
		if it := &s.Items[i]; homed[it.ID] && (it.Keep || !it.Needs()) {
			kept++
		}
	}
	assert.Len(t, h.Year, len(homed)-kept, "all of it, by then")
	for i := 1; i < len(h.Year); i++ {
		assert.GreaterOrEqual(t, 100*h.Year[i-1].Wall+h.Year[i-1].Litres, 100*h.Year[i].Wall+h.Year[i].Litres, "what takes most room first")
	}
	for _, x := range h.Near {
		assert.Equal(t, 1, x.Order)
	}
	// The same three all week, others in another week.
	weeks := map[string]bool{}
	for d := range 70 {
		h := learned(100 + d)
		require.Len(t, h.Three, 3)
		y, w := began.AddDate(0, 0, 100+d).ISOWeek()
		weeks[fmt.Sprint(y, w, h.Three)] = true
	}
	assert.LessOrEqual(t, len(weeks), 11)
	assert.Greater(t, len(weeks), 7)
}
