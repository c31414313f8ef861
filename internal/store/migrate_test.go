package store_test

import (
	"context"
	"database/sql"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func TestTheDatabaseKeepsItsOwnRules(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", "file:"+s.Path()+"?_pragma=foreign_keys(1)")
	require.NoError(t, err)
	defer db.Close()
	var mode string
	require.NoError(t, db.QueryRow(`PRAGMA journal_mode`).Scan(&mode))
	assert.Equal(t, "wal", mode)
	_, err = db.Exec(`DELETE FROM items WHERE id = (SELECT item FROM homes LIMIT 1)`)
	assert.ErrorContains(t, err, "FOREIGN KEY", "an item with a home cannot vanish")
	_, err = db.Exec(`UPDATE places SET doc = 'no json' WHERE id = (SELECT id FROM places LIMIT 1)`)
	assert.ErrorContains(t, err, "CHECK")
}

func TestWhatIsNoDatabaseIsRefused(t *testing.T) {
	path := filepath.Join(t.TempDir(), "notes.txt")
	require.NoError(t, os.WriteFile(path, []byte("these are notes, not a database; there are enough of them to fill a header"), 0o644))
	_, err := store.Open(context.Background(), path, &shop.Shop{})
	require.ErrorContains(t, err, "notes.txt")
	kept, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Contains(t, string(kept), "these are notes", "the file is untouched")
}

func TestANewDatabaseNeedsAShopToBeginWith(t *testing.T) {
	_, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "empty.db"), nil)
	assert.ErrorContains(t, err, "no shop in it")
}

func TestTheDefaultFileIsInTheUsersDataFolder(t *testing.T) {
	t.Setenv("XDG_DATA_HOME", "/somewhere")
	path, err := store.DefaultPath()
	require.NoError(t, err)
	assert.Equal(t, filepath.Join("/somewhere", "hobrak", "shop.db"), path)
	t.Setenv("XDG_DATA_HOME", "")
	t.Setenv("HOME", "/home/somebody")
	path, err = store.DefaultPath()
	require.NoError(t, err)
	assert.Equal(t, filepath.Join("/home/somebody", ".local", "share", "hobrak", "shop.db"), path)
}

func TestUndoIsDroppedOnceSomethingElseIsDone(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	ctx := context.Background()
	_, err := s.Change(ctx, 1, "me", "A", rename("A"))
	require.NoError(t, err)
	r, err := s.Undo(ctx, 2, "me")
	require.NoError(t, err)
	assert.Equal(t, "undo", r.Kind)
	assert.Equal(t, "A", r.What, "an undo says what it takes back")
	_, err = s.Change(ctx, 3, "me", "B", rename("B"))
	require.NoError(t, err)
	_, err = s.Redo(ctx, 4, "me")
	assert.ErrorIs(t, err, store.ErrNothing)
	h, err := s.History(ctx, store.Wanted{Limit: 10})
	require.NoError(t, err)
	assert.Len(t, h, 4, "nothing is ever taken out of the history")
}

func TestTheOrderOfTheFileIsKept(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	ctx := context.Background()
	sh, _ := s.Shop()
	first, last := sh.Items[0].ID, sh.Items[len(sh.Items)-1].ID
	_, err := s.Change(ctx, 1, "me", "turn round", func(x *shop.Shop) error {
		for i, j := 0, len(x.Items)-1; i < j; i, j = i+1, j-1 {
			x.Items[i], x.Items[j] = x.Items[j], x.Items[i]
		}
		return nil
	})
	require.NoError(t, err)
	require.NoError(t, s.Close())
	again := open(t, s.Path())
	defer again.Close()
	sh, _ = again.Shop()
	assert.Equal(t, last, sh.Items[0].ID)
	assert.Equal(t, first, sh.Items[len(sh.Items)-1].ID)
}
