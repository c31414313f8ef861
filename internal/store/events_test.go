package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/event"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/store"
)

var noon = time.Date(2027, 5, 31, 12, 0, 0, 0, time.UTC)

func TestTheTablesAnswerAsTheListOfEventsDoes(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "shop.db")
	s := open(t, path)
	store.SetClock(s, func() time.Time { return noon })
	sh, revision := s.Shop()
	items := []string{sh.Items[0].ID, sh.Items[1].ID, sh.Items[2].ID, "gone-since"}
	var log event.Log
	rapid.Check(t, func(t *rapid.T) {
		// Each round goes on where the last one ended: all rounds are one long life.
		for range rapid.IntRange(1, 8).Draw(t, "events") {
			e := event.Event{At: noon.AddDate(0, 0, -rapid.IntRange(0, 400).Draw(t, "ago")).Format(time.DateOnly), Who: "me", What: rapid.SampledFrom([]event.Kind{event.Used, event.Taken, event.PutBack, event.Lent, event.Returned, event.Moved, event.Laid}).Draw(t, "what"),
				Item: rapid.SampledFrom(items).Draw(t, "item"), Place: rapid.SampledFrom([]string{"", "B1", "N1"}).Draw(t, "place"), N: rapid.IntRange(0, 4).Draw(t, "n")}
			if e.What == event.Laid {
				e.On = "the bench"
			}
			if len(log) > 0 && rapid.IntRange(0, 3).Draw(t, "not so") == 0 {
				e = event.Event{At: "2027-05-30", What: event.TakenBack, Corrects: log[rapid.IntRange(0, len(log)-1).Draw(t, "which")].ID}
			}
			var list []event.Event
			var err error
			if e.Corrects == 0 && rapid.Bool().Draw(t, "pressed") {
				list, err = s.Tap(ctx, "", noon, func(out event.Log) ([]event.Event, error) { return []event.Event{e}, nil })
			} else {
				list, err = s.Happened(ctx, e)
			}
			if e.Corrects != 0 && err != nil {
				var wrong *store.EventError // twice, or a taking back
				require.ErrorAs(t, err, &wrong)
				continue
			}
			require.NoError(t, err)
			log = append(log, list[0])
		}
		last, err := s.LastUsed(ctx)
		require.NoError(t, err)
		require.Equal(t, log.Last(), last)
		began, err := s.Began(ctx)
		require.NoError(t, err)
		require.Equal(t, log.Began(), began)
		out, err := s.Outstanding(ctx)
		require.NoError(t, err)
		require.Equal(t, log.Out(), out.Out())
		require.Equal(t, log.Valid().Outstanding(), out)
		at := noon.AddDate(0, 0, -rapid.IntRange(0, 400).Draw(t, "stayed from")).Format(time.DateOnly)
		stayed, err := s.Stayed(ctx, at)
		require.NoError(t, err)
		require.Equal(t, log.Stayed(at), stayed)
		from, to := noon.AddDate(0, 0, -rapid.IntRange(0, 400).Draw(t, "from")).Format(time.DateOnly), noon.AddDate(0, 0, -rapid.IntRange(0, 400).Draw(t, "to")).Format(time.DateOnly)
		uses, err := s.Uses(ctx, from, to)
		require.NoError(t, err)
		require.Equal(t, log.Uses(from, to), uses)
		since := map[string]string{items[0]: from, items[1]: to}
		seen, err := s.Seen(ctx, since, noon)
		require.NoError(t, err)
		want := learn.SeenIn(log, since, noon)
		maps.DeleteFunc(want.Count, func(_ string, n int) bool { return n == 0 })
		maps.DeleteFunc(seen.Count, func(_ string, n int) bool { return n == 0 })
		require.Equal(t, want, seen)
		f := event.Filter{Item: rapid.SampledFrom(append(items, "")).Draw(t, "of"), Place: rapid.SampledFrom([]string{"", "B1"}).Draw(t, "at"), What: rapid.SampledFrom([]event.Kind{"", event.Used, event.Taken}).Draw(t, "kind"), From: from,
			Text: rapid.SampledFrom([]string{"", "", "ME", "b1", "no such word", "50%", "e_", "me saw"}).Draw(t, "text")}
		found, err := s.Events(ctx, f, 0, 1000)
		require.NoError(t, err)
		require.Equal(t, log.Of(f), event.Log(found))
	})
	assert.Greater(t, len(log), 50)
	_, after := s.Shop()
	assert.Equal(t, revision, after, "the shop is as it was")
	require.NoError(t, s.Close())
	found, err := store.Examine(ctx, path)
	require.NoError(t, err)
	assert.Empty(t, found)
}

func TestEventsAreOutsideUndoAndStaleNothing(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	heard, stop := s.WatchEvents()
	defer stop()
	sh, base := s.Shop()
	_, err := s.Happened(ctx, event.Event{What: event.Used, Item: sh.Items[0].ID})
	require.NoError(t, err)
	<-heard
	require.NoError(t, s.Fresh(ctx, base), "what was looked at before is still fresh")
	_, err = s.Undo(ctx, base, "me")
	require.ErrorIs(t, err, store.ErrNothing, "there is nothing to take back")
	_, err = s.Happened(ctx, event.Event{What: event.Used, Item: sh.Items[0].ID, At: "2999-01-01"})
	require.ErrorContains(t, err, "yet to come")
	_, err = s.Happened(ctx, event.Event{What: event.Used, Item: "a", At: "2026-01-01"}, event.Event{What: event.Used})
	var wrong *store.EventError
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, store.EventError{Nth: 1, Field: "item", Reason: "used of what? the id of an item is needed"}, *wrong)
	all, err := s.AllEvents(ctx)
	require.NoError(t, err)
	assert.Len(t, all, 1, "all or none")
	db, err := sql.Open("sqlite", "file:"+s.Path())
	require.NoError(t, err)
	defer db.Close()
	for _, q := range []string{`UPDATE events SET n = 9`, `DELETE FROM events`} {
		_, err = db.Exec(q)
		assert.ErrorContains(t, err, "only ever added")
	}
}

func TestAFileBringsItsEventsOnceHoweverOftenItComes(t *testing.T) {
	ctx := context.Background()
	a, b := open(t, filepath.Join(t.TempDir(), "a.db")), open(t, filepath.Join(t.TempDir(), "b.db"))
	defer a.Close()
	defer b.Close()
	sh, _ := a.Shop()
	item := sh.Items[0].ID
	for _, e := range []event.Event{{What: event.Used, Item: item}, {What: event.Taken, Item: item, N: 2}, {What: event.TakenBack, Corrects: 1}} {
		_, err := a.Happened(ctx, e)
		require.NoError(t, err)
	}
	_, err := b.Happened(ctx, event.Event{What: event.Noted, Note: "swept"})
	require.NoError(t, err)
	for n := range 2 {
		file, _, err := a.File(ctx)
		require.NoError(t, err)
		again, err := shop.Read(shop.Write(file))
		require.NoError(t, err)
		again.Settings.Name = fmt.Sprint("shop ", n)
		_, err = b.Change(ctx, b.Head(), "me", "import", func(x *shop.Shop) error { *x = *again; return nil })
		require.NoError(t, err)
	}
	all, err := b.AllEvents(ctx)
	require.NoError(t, err)
	require.Len(t, all, 4)
	assert.Equal(t, all[1].ID, all[3].Corrects, "the numbers are new ones, what they mean is the same")
	out, err := b.Outstanding(ctx)
	require.NoError(t, err)
	require.Len(t, out, 1)
	assert.Equal(t, 2, out[0].N)
	now, _ := b.Shop()
	assert.Empty(t, now.Events, "beside the shop, not in it")
}

func TestUsesThatWereInTheThingsBecomeEvents(t *testing.T) {
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "shop.db")
	require.NoError(t, os.WriteFile(path, fixture(t, "format1/shop.db"), 0o600))
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	var id string
	require.NoError(t, db.QueryRow(`SELECT id FROM items ORDER BY position LIMIT 1`).Scan(&id))
	log := `'[{"day":"2026-10-02"},{"day":"2026-10-04","times":3}]'`
	_, err = db.Exec(`UPDATE items SET doc = json_set(doc, '$.log', json(`+log+`)) WHERE id = ?`, id)
	require.NoError(t, err)
	_, err = db.Exec(`UPDATE parts_changed SET after = json_set(after, '$.log', json(`+log+`)) WHERE part = 'items' AND id = ? AND after IS NOT NULL`, id)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	rescued, err := store.Rescue(ctx, path)
	require.NoError(t, err)
	require.Len(t, rescued.Shop.Events, 3, "a rescue has them, too")
	for range 2 { // opened twice they are there once
		s, err := store.Open(ctx, path, nil)
		require.NoError(t, err)
		all, err := s.AllEvents(ctx)
		require.NoError(t, err)
		require.Len(t, all, 3)
		assert.Equal(t, event.Event{ID: 2, At: "2026-10-04", What: event.Used, Item: id, N: 3}, all[1])
		// The first change touches what it changes and nothing else.
		r, err := s.Change(ctx, s.Head(), "me", "x", func(sh *shop.Shop) error { sh.Items[1].Notes += "x"; return nil })
		require.NoError(t, err)
		assert.Len(t, r.Changed, 1, "%v", r.Changed)
		require.NoError(t, s.Close())
	}
	found, err := store.Examine(ctx, path)
	require.NoError(t, err)
	assert.Empty(t, found)
}

// BenchmarkEvents asks every question of a log of 100 000, and tells how much longer the last
// of them takes to be noted than the first thousand did.
func BenchmarkEvents(b *testing.B) {
	ctx := context.Background()
	s := open(b, filepath.Join(b.TempDir(), "shop.db"))
	defer s.Close()
	store.SetClock(s, func() time.Time { return noon })
	sh, _ := s.Shop()
	rng := rand.New(rand.NewPCG(1, 2))
	const all, batch = 100_000, 1000
	kinds := []event.Kind{event.Used, event.Used, event.Used, event.Taken, event.PutBack, event.Moved}
	one := func() event.Event {
		it := &sh.Items[rng.IntN(len(sh.Items))]
		return event.Event{At: noon.AddDate(0, 0, -rng.IntN(5000)).Format(time.DateOnly), What: kinds[rng.IntN(len(kinds))], Item: it.ID, Place: sh.Places[rng.IntN(len(sh.Places))].ID}
	}
	single := func() time.Duration { // the middle of some, each by itself
		var took []time.Duration
		for range 101 {
			start := time.Now()
			_, err := s.Happened(ctx, one())
			require.NoError(b, err)
			took = append(took, time.Since(start))
		}
		return median(took)
	}
	first := single()
	for n := 202; n < all; n += batch {
		list := make([]event.Event, batch)
		for i := range list {
			list[i] = one()
		}
		_, err := s.Happened(ctx, list...)
		require.NoError(b, err)
	}
	b.Run("one more", func(b *testing.B) {
		for b.Loop() {
			b.ReportMetric(float64(single())/float64(first), "last/first")
		}
	})
	for name, ask := range map[string]func() error{
		"last used": func() error { _, err := s.LastUsed(ctx); return err },
		"in 90 days": func() error {
			_, err := s.Uses(ctx, noon.AddDate(0, 0, -90).Format(time.DateOnly), noon.Format(time.DateOnly))
			return err
		},
		"out":        func() error { _, err := s.Outstanding(ctx); return err },
		"of a place": func() error { _, err := s.Events(ctx, event.Filter{Place: sh.Places[3].ID}, 0, 100); return err },
		"of a thing": func() error { _, err := s.Events(ctx, event.Filter{Item: sh.Items[7].ID}, 0, 100); return err },
		"of a day": func() error {
			_, err := s.Events(ctx, event.Filter{From: "2027-01-15", To: "2027-01-15"}, 0, 1000)
			return err
		},
		"learned": func() error { _, err := s.Seen(ctx, map[string]string{sh.Items[0].ID: "2027-01-01"}, noon); return err },
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				require.NoError(b, ask())
			}
			b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms")
		})
	}
}

func median(list []time.Duration) time.Duration {
	for i := range list {
		for k := i; k > 0 && list[k] < list[k-1]; k-- {
			list[k], list[k-1] = list[k-1], list[k]
		}
	}
	return list[len(list)/2]
}
