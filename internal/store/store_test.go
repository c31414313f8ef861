package store_test

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/store"
)

func open(t testing.TB, path string) *store.Store {
	t.Helper()
	first, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	s, err := store.Open(context.Background(), path, first)
	require.NoError(t, err)
	return s
}

func text(s *store.Store) string {
	sh, _, err := s.File(context.Background())
	if err != nil {
		panic(err)
	}
	return string(shop.Write(sh))
}

func rename(to string) func(*shop.Shop) error {
	return func(s *shop.Shop) error { s.Settings.Name = to; return nil }
}

func TestAShopComesBackFromItsFile(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop with blank?.db")
	s := open(t, path)
	assert.Equal(t, string(demo.Pantry), text(s))
	_, err := s.Change(context.Background(), 1, "me", "rename", rename("Cupboard"))
	require.NoError(t, err)
	want := text(s)
	require.NoError(t, s.Close())

	again := open(t, path)
	defer again.Close()
	assert.Equal(t, want, text(again))
	h, err := again.History(context.Background(), store.Wanted{Limit: 10})
	require.NoError(t, err)
	require.Len(t, h, 2)
	assert.Equal(t, "rename", h[0].What)
	assert.Equal(t, "me", h[0].Who)
	assert.Equal(t, []store.Changed{{Part: "settings", ID: "shop"}}, h[0].Changed)
	assert.False(t, h[0].At.IsZero())
}

func TestAStaleWriteIsRefusedWithWhatChanged(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	ctx := context.Background()
	_, err := s.Change(ctx, 1, "one", "first", rename("First"))
	require.NoError(t, err)
	before := text(s)
	_, err = s.Change(ctx, 1, "two", "second", rename("Second"))
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	assert.EqualValues(t, 2, stale.Head)
	require.Len(t, stale.Since, 1)
	assert.Equal(t, "first", stale.Since[0].What)
	assert.Equal(t, before, text(s), "nothing was merged")
	_, err = s.Undo(ctx, 1, "two")
	assert.ErrorAs(t, err, &stale)
}

func TestAFaultyChangeLeavesTheShopUntouched(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	before := text(s)
	_, err := s.Change(context.Background(), 1, "me", "spoil", func(x *shop.Shop) error { x.Homes[0].Item = "nothing"; return nil })
	var faults *shop.Faults
	require.ErrorAs(t, err, &faults)
	assert.Equal(t, "homes[0].item", faults.List[0].Path)
	boom := errors.New("boom")
	_, err = s.Change(context.Background(), 1, "me", "stop", func(x *shop.Shop) error { x.Items = nil; return boom })
	require.ErrorIs(t, err, boom)
	_, err = s.Change(context.Background(), 1, "me", "nothing", func(*shop.Shop) error { return nil })
	require.ErrorIs(t, err, store.ErrNothing)
	assert.Equal(t, before, text(s))
}

func TestUndoAndRedoWalkTheRevisions(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	// Random edits, undos and redos against a plain stack of texts.
	ctx := context.Background()
	for seed := range uint64(6) {
		rng := rand.New(rand.NewPCG(seed, 0))
		s := open(t, filepath.Join(t.TempDir(), "shop.db"))
		past, future := []string{text(s)}, []string(nil)
		base := int64(1)
		for step := range 20 {
			var r store.Revision
			var err error
			switch do := rng.IntN(4); {
			case do < 2:
				r, err = s.Change(ctx, base, "me", "edit", edit(step, rng.IntN(5)))
				require.NoError(t, err)
				past, future = append(past, text(s)), nil
			case do == 2 && len(past) == 1:
				_, err = s.Undo(ctx, base, "me")
				require.ErrorIs(t, err, store.ErrNothing)
				continue
			case do == 2:
				r, err = s.Undo(ctx, base, "me")
				require.NoError(t, err)
				future, past = append(future, past[len(past)-1]), past[:len(past)-1]
			case len(future) == 0:
				_, err = s.Redo(ctx, base, "me")
				require.ErrorIs(t, err, store.ErrNothing)
				continue
			default:
				r, err = s.Redo(ctx, base, "me")
				require.NoError(t, err)
				past, future = append(past, future[len(future)-1]), future[:len(future)-1]
			}
			base = r.ID
			require.Equal(t, past[len(past)-1], text(s), "seed %d, step %d", seed, step)
		}
		want := text(s)
		require.NoError(t, s.Close())
		again := open(t, s.Path())
		require.Equal(t, want, text(again), "opened again")
		require.NoError(t, again.Close())
	}
}

// edit takes away, inserts, swaps or notes something.
func edit(step, kind int) func(*shop.Shop) error {
	return func(x *shop.Shop) error {
		k := step % max(1, len(x.Homes))
		switch {
		case kind == 0 && len(x.Homes) > 0:
			x.Homes = append(x.Homes[:k], x.Homes[k+1:]...)
		case kind == 1:
			n := shop.Item{ID: fmt.Sprintf("new-%d", step), Name: "New", W: length.MM(10), H: length.MM(10), D: length.MM(10)}
			x.Items = slices.Insert(x.Items, step, n)
		case kind == 2 && len(x.Homes) > 1:
			x.Homes[0], x.Homes[1] = x.Homes[1], x.Homes[0]
		default:
			x.Settings.Notes += string(rune('a' + step))
		}
		return nil
	}
}

func TestWatchersHearOfTheNewestRevision(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	heard, stop := s.Watch()
	for i, name := range []string{"A", "B", "C"} {
		_, err := s.Change(context.Background(), int64(1+i), "me", name, rename(name))
		require.NoError(t, err)
	}
	assert.Equal(t, "C", (<-heard).What)
	stop()
	_, open := <-heard
	assert.False(t, open)
}

func TestABackupIsAShopOfItsOwn(t *testing.T) {
	dir := t.TempDir()
	s := open(t, filepath.Join(dir, "shop.db"))
	defer s.Close()
	to := filepath.Join(dir, "copy.db")
	require.NoError(t, s.Backup(context.Background(), to))
	assert.ErrorContains(t, s.Backup(context.Background(), to), "there already")
	c := open(t, to)
	defer c.Close()
	assert.Equal(t, text(s), text(c))
}
