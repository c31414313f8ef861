package store_test

import (
	"context"
	"database/sql"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/store"
)

// damaged makes a database of a few revisions and does something to it by hand.
func damaged(t *testing.T, revisions int, statements ...string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "shop.db")
	s := open(t, path)
	for i := range revisions - 1 {
		_, err := s.Change(context.Background(), int64(i+1), "me", "note "+string(rune('a'+i)), edit(i, 4))
		require.NoError(t, err)
	}
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	defer db.Close()
	for _, x := range statements {
		_, err := db.Exec(x)
		require.NoError(t, err, x)
	}
	return path
}

const wideJoists = `UPDATE areas SET doc = json_set(doc, '$.ceiling', json('{"joists":{"along":"x","spacing":6000,"first":0}}'))`

func TestADamagedFileIsRefusedWithWhatHelps(t *testing.T) {
	for name, path := range map[string]string{
		"a value that cannot be read": damaged(t, 3, wideJoists),
		"a missing part":              damaged(t, 3, `DELETE FROM settings`),
		"no reader for it":            damaged(t, 3, `UPDATE items SET format = 99 WHERE id = (SELECT id FROM items LIMIT 1)`),
	} {
		_, err := store.Open(context.Background(), path, nil)
		var d *store.DamagedError
		require.ErrorAs(t, err, &d, name)
		assert.ErrorContains(t, err, "hobrak doctor --db "+path, name)
		found, err := store.Examine(context.Background(), path)
		require.NoError(t, err, name)
		assert.NotEmpty(t, found, name)
	}
}

func TestADoctorFindsNothingWhereNothingIs(t *testing.T) {
	path := damaged(t, 6)
	found, err := store.Examine(context.Background(), path)
	require.NoError(t, err)
	assert.Empty(t, found)
	s := open(t, path)
	defer s.Close()
	_, err = s.Undo(context.Background(), 6, "me")
	require.NoError(t, err)
	found, err = store.Examine(context.Background(), path)
	require.NoError(t, err)
	assert.Empty(t, found, "beside a running server, after an undo")
}

func TestADoctorNamesWhatIsWrong(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	for says, statement := range map[string]string{
		"ceiling.joists.spacing":        wideJoists,
		"is not what this revision":     `UPDATE items SET doc = json_set(doc, '$.name', 'Otherwise') WHERE id = (SELECT id FROM items LIMIT 1)`,
		"revision 2 is missing":         `DELETE FROM revisions WHERE id = 2`,
		"refers to a row of items":      `DELETE FROM items WHERE id = (SELECT item FROM homes LIMIT 1)`,
		"up to version 2":               `UPDATE places SET format = 7 WHERE id = (SELECT id FROM places LIMIT 1)`,
		"no revision brought circuits":  `INSERT INTO circuits (id, position, doc) VALUES ('c9', 99, '{"id":"c9"}')`,
		"this is not a database of Hob": `DROP TABLE settings`,
	} {
		found, err := store.Examine(context.Background(), damaged(t, 3, statement))
		require.NoError(t, err)
		all := ""
		for _, f := range found {
			all += f.Where + ": " + f.What + "\n"
		}
		assert.Contains(t, all, says, statement)
	}
}

func TestWhatCanBeReadIsRescued(t *testing.T) {
	for _, c := range []struct {
		name, statement string
		revision        int64
		lost            string // part of what is lost
		notes           string // of the shop that comes out
	}{
		{"nothing wrong", `SELECT 1`, 5, "", "abcd"},
		{"a document spoilt after its revision", wideJoists, 5, "", "abcd"},
		{"a revision that cannot be read", `UPDATE settings SET doc = json_set(doc, '$.units', 'cubits');
			UPDATE parts_changed SET after = json_set(after, '$.units', 'cubits') WHERE revision = 5`, 4, "revision 5: note d", "abc"},
		{"the log is gone and a document spoilt", `DELETE FROM parts_changed; UPDATE items SET doc = json_set(doc, '$.w', -1) WHERE id = (SELECT item FROM homes LIMIT 1)`, 5, "too small", "abcd"},
		{"the items are gone", `DELETE FROM homes; DELETE FROM items`, 5, "", "abcd"},
	} {
		path := damaged(t, 5, c.statement)
		before, err := os.ReadFile(path)
		require.NoError(t, err)
		r, err := store.Rescue(context.Background(), path)
		require.NoError(t, err, c.name)
		assert.EqualValues(t, c.revision, r.Revision, c.name)
		assert.Equal(t, c.notes, r.Shop.Settings.Notes, c.name)
		_, err = shop.Read(shop.Write(r.Shop))
		assert.NoError(t, err, "%s: what is rescued can be read", c.name)
		if c.lost == "" {
			assert.Empty(t, r.Lost, c.name)
		} else {
			assert.Contains(t, r.Lost[0], c.lost, c.name)
		}
		after, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, before, after, "%s: the file is left as it is", c.name)
	}
}

func TestARescueReadsRoundTornPages(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	// Every page but the first is torn in turn: what is rescued reads, or is refused; no panic, and mostly something comes out.
	path := damaged(t, 5)
	whole, err := os.ReadFile(path)
	require.NoError(t, err)
	const page = 4096
	rescued, tried := 0, 0
	for at := page; at < len(whole); at += page {
		torn := append([]byte(nil), whole...)
		for i := range page {
			torn[at+i] = byte(i * 7)
		}
		other := filepath.Join(t.TempDir(), "torn.db")
		require.NoError(t, os.WriteFile(other, torn, 0o600))
		tried++
		r, err := store.Rescue(context.Background(), other)
		if err != nil {
			continue
		}
		rescued++
		_, err = shop.Read(shop.Write(r.Shop))
		require.NoError(t, err)
		if s, err := store.Open(context.Background(), other, nil); err == nil {
			require.NoError(t, s.Close())
		} else {
			require.ErrorContains(t, err, "doctor")
		}
	}
	t.Logf("%d of %d torn files gave a shop", rescued, tried)
	assert.Greater(t, rescued, tried/2)
}

func TestABackupTakesThePlaceOfADatabase(t *testing.T) {
	ctx := context.Background()
	dir := t.TempDir()
	path, copied := filepath.Join(dir, "shop.db"), filepath.Join(dir, "copy.db")
	s := open(t, path)
	_, err := s.Change(ctx, 1, "me", "A", rename("A"))
	require.NoError(t, err)
	require.NoError(t, s.Backup(ctx, copied))
	_, err = s.Change(ctx, 2, "me", "B", rename("B"))
	require.NoError(t, err)
	at := time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)
	_, err = store.Restore(ctx, copied, path, at)
	require.ErrorIs(t, err, store.ErrInUse, "beside a running server")
	assert.Equal(t, "B", name(s))
	require.NoError(t, s.Close())
	sum, err := os.ReadFile(copied)
	require.NoError(t, err)
	kept, err := store.Restore(ctx, copied, path, at)
	require.NoError(t, err)
	after, err := os.ReadFile(copied)
	require.NoError(t, err)
	assert.Equal(t, sum, after, "a backup is not changed by being used")
	for file, want := range map[string]string{path: "A", kept: "B"} {
		x := open(t, file)
		assert.Equal(t, want, name(x), file)
		require.NoError(t, x.Close())
	}
	require.NoError(t, os.WriteFile(copied, sum[:len(sum)/2], 0o600))
	_, err = store.Restore(ctx, copied, path, at.Add(time.Hour))
	require.ErrorContains(t, err, "no backup that can be used")
	x := open(t, path)
	assert.Equal(t, "A", name(x), "a broken backup replaces nothing")
	require.NoError(t, x.Close())
}

func name(s *store.Store) string { sh, _ := s.Shop(); return sh.Settings.Name }

func TestWhatALogHeldIsNotLostWhenADatabaseIsSetAside(t *testing.T) {
	// As after a kill: the file as it was, and beside it a log with all that was done since.
	ctx := context.Background()
	dir := t.TempDir()
	path := filepath.Join(dir, "shop.db")
	s := open(t, path)
	backup := filepath.Join(dir, "backup.db")
	require.NoError(t, s.Backup(ctx, backup))
	_, err := s.Change(ctx, 1, "me", "late", rename("Late"))
	require.NoError(t, err)
	killed := filepath.Join(dir, "killed.db")
	for _, end := range []string{"", "-wal"} {
		data, err := os.ReadFile(path + end)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(killed+end, data, 0o600))
	}
	require.NoError(t, s.Close())
	kept, err := store.Restore(ctx, backup, killed, time.Now())
	require.NoError(t, err)
	x := open(t, kept)
	defer x.Close()
	assert.Equal(t, "Late", name(x))
}

func TestEveryDayHasABackupAndTheOldestGo(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	day := time.Date(2026, 5, 1, 9, 0, 0, 0, time.Local)
	for i := range 20 {
		store.SetClock(s, func() time.Time { return day.AddDate(0, 0, i) })
		made, err := s.BackupToday(ctx)
		require.NoError(t, err)
		assert.True(t, made)
		made, err = s.BackupToday(ctx)
		require.NoError(t, err)
		assert.False(t, made, "one a day")
	}
	kept, err := s.Backups()
	require.NoError(t, err)
	require.Len(t, kept.List, kept.Keep)
	assert.Equal(t, "shop-2026-05-20.db", kept.List[0].File)
	info, err := os.Stat(filepath.Join(kept.Folder, kept.List[0].File))
	require.NoError(t, err)
	assert.EqualValues(t, 0o600, info.Mode().Perm())
	folder, err := os.Stat(kept.Folder)
	require.NoError(t, err)
	assert.EqualValues(t, 0o700, folder.Mode().Perm())
}

func TestABackupThatFailsLeavesNothing(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	to := filepath.Join(t.TempDir(), "copy.db")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	require.Error(t, s.Backup(ctx, to))
	entries, err := os.ReadDir(filepath.Dir(to))
	require.NoError(t, err)
	assert.Empty(t, entries)
	require.NoError(t, s.Backup(context.Background(), to), "and the next works")
}

func TestTheFileIsItsOwnersAlone(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	s := open(t, filepath.Join(dir, "shop.db"))
	defer s.Close()
	_, err := s.Change(context.Background(), 1, "me", "A", rename("A"))
	require.NoError(t, err)
	info, err := os.Stat(dir)
	require.NoError(t, err)
	assert.EqualValues(t, 0o700, info.Mode().Perm())
	for _, end := range []string{"", "-wal", "-shm", ".lock"} {
		info, err := os.Stat(s.Path() + end)
		require.NoError(t, err)
		assert.EqualValues(t, 0o600, info.Mode().Perm(), end)
	}
}
