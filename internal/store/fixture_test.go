package store_test

import (
	"bytes"
	"context"
	"database/sql"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

// fixture is a file as a released Hobrak wrote it. One of each is kept for every version of
// the format, and every later Hobrak must open it.
func fixture(t *testing.T, name string) []byte {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata", name))
	require.NoError(t, err)
	return data
}

func TestWhatEarlierVersionsWroteOpensWithAllItsHistory(t *testing.T) {
	ctx := context.Background()
	formats, err := os.ReadDir("testdata")
	require.NoError(t, err)
	tried := 0
	for _, f := range formats {
		if !f.IsDir() || f.Name() == "rapid" {
			continue
		}
		tried++
		want, err := shop.Read(fixture(t, filepath.Join(f.Name(), "shop.json")))
		require.NoError(t, err, f.Name())
		for i := range want.Events { // the uses of version 1 get numbers when they come in
			want.Events[i].ID = int64(i + 1)
		}
		photos := map[string][]byte{}
		zip := fixture(t, filepath.Join(f.Name(), "shop.zip"))
		packed, err := exchange.ReadZip(bytes.NewReader(zip), int64(len(zip)), func(p exchange.Photo) (string, error) { photos[p.Name] = p.Data; return p.Name, nil })
		require.NoError(t, err, f.Name())
		for i := range packed.Events {
			packed.Events[i].ID = int64(i + 1)
		}
		assert.Equal(t, string(shop.Write(want)), string(shop.Write(packed)), "%s: zip and file hold the same", f.Name())
		assert.NotEmpty(t, photos)

		path := filepath.Join(t.TempDir(), "shop.db")
		require.NoError(t, os.WriteFile(path, fixture(t, filepath.Join(f.Name(), "shop.db")), 0o600))
		found, err := store.Examine(ctx, path)
		require.NoError(t, err)
		assert.Empty(t, found, "%s before it is brought on", f.Name())
		s, err := store.Open(ctx, path, nil)
		require.NoError(t, err, f.Name())
		assert.Equal(t, string(shop.Write(want)), text(s), f.Name())
		for name, data := range photos {
			kept, err := s.Photo(ctx, name, false)
			require.NoError(t, err)
			assert.Equal(t, data, kept)
		}
		undone := 0
		for ; ; undone++ {
			if _, err := s.Undo(ctx, s.Head(), "me"); err != nil {
				require.ErrorIs(t, err, store.ErrNothing, f.Name())
				break
			}
		}
		assert.Greater(t, undone, 1, "%s: what was done then can be taken back", f.Name())
		for range undone {
			_, err := s.Redo(ctx, s.Head(), "me")
			require.NoError(t, err)
		}
		assert.Equal(t, string(shop.Write(want)), text(s), f.Name())
		require.NoError(t, s.Close())
		found, err = store.Examine(ctx, path)
		require.NoError(t, err)
		assert.Empty(t, found, f.Name())
	}
	assert.Equal(t, shop.Version, tried, "every version of the format has its files")
}

func TestADatabaseOfALaterHobrakIsRefusedInWords(t *testing.T) {
	path := damaged(t, 2, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)`)
	_, err := store.Open(context.Background(), path, nil)
	require.ErrorContains(t, err, "tables are of version 99")
	require.ErrorContains(t, err, "a newer one")
	path = damaged(t, 2, `UPDATE areas SET format = 3`)
	_, err = store.Open(context.Background(), path, nil)
	require.ErrorContains(t, err, "version 3 of the format; this Hobrak reads up to version 2")
	other := filepath.Join(t.TempDir(), "other.db")
	db, err := sql.Open("sqlite", other)
	require.NoError(t, err)
	_, err = db.Exec(`CREATE TABLE recipes (name TEXT)`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = store.Open(context.Background(), other, nil)
	require.ErrorContains(t, err, "made by another program")
}
