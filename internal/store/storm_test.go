package store_test

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/photo"
	"hobrak/internal/store"
)

// long tells whether the long form of a test is asked for (make check-long).
var long = os.Getenv("HOBRAK_LONG") != ""

func TestTwoProgramsWriteToOneFileAndLoseNothing(t *testing.T) {
	// Changes, undos, redos and photos from two open stores at once: every acknowledged revision
	// is there, in order, and each sees what the other did.
	lasting := 2 * time.Second
	if long {
		lasting = time.Minute
	}
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "shop.db")
	both := []*store.Store{open(t, path), open(t, path)}
	var mu sync.Mutex
	acknowledged := map[int64]string{1: ""}
	refused := 0
	var wait sync.WaitGroup
	end := time.Now().Add(lasting)
	for k, s := range both {
		wait.Go(func() {
			rng := rand.New(rand.NewPCG(uint64(k), 5))
			for n := 0; time.Now().Before(end); n++ {
				base := s.Head()
				var r store.Revision
				var err error
				what := fmt.Sprintf("%d of %d", n, k)
				switch rng.IntN(6) {
				case 0:
					r, err = s.Undo(ctx, base, what)
				case 1:
					r, err = s.Redo(ctx, base, what)
				default:
					r, err = s.Change(ctx, base, what, what, edit(n%20, rng.IntN(5)))
				}
				var stale *store.StaleError
				var faults *shop.Faults
				switch {
				case err == nil:
					mu.Lock()
					assert.NotContains(t, acknowledged, r.ID, "a number is given once")
					acknowledged[r.ID] = what
					mu.Unlock()
				case errors.As(err, &stale), errors.Is(err, store.ErrNothing), errors.As(err, &faults), errors.Is(err, store.ErrBusy):
					mu.Lock()
					refused++
					mu.Unlock()
				default:
					assert.NoError(t, err)
				}
			}
		})
	}
	wait.Wait()
	newest := int64(len(acknowledged))
	for _, s := range both {
		require.Eventually(t, func() bool { return s.Head() == newest }, 20*time.Second, 10*time.Millisecond, "each sees the other's")
	}
	assert.Equal(t, text(both[0]), text(both[1]))
	h, err := both[0].History(ctx, store.Wanted{Limit: int(newest)})
	require.NoError(t, err)
	require.Len(t, h, int(newest))
	for _, r := range h[:len(h)-1] {
		assert.Equal(t, acknowledged[r.ID], r.Who)
	}
	want := text(both[0])
	for _, s := range both {
		require.NoError(t, s.Close())
	}
	again := open(t, path)
	assert.Equal(t, want, text(again))
	require.NoError(t, again.Close())
	found, err := store.Examine(ctx, path)
	require.NoError(t, err)
	assert.Empty(t, found)
	t.Logf("%d writes acknowledged, %d refused", newest-1, refused)
}

func TestAnotherProgramsWriteIsHeardWithinASecond(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	a, b := open(t, path), open(t, path)
	defer a.Close()
	defer b.Close()
	heard, stop := b.Watch()
	defer stop()
	_, err := a.Change(context.Background(), 1, "me", "A", rename("A"))
	require.NoError(t, err)
	select {
	case r := <-heard:
		assert.Equal(t, "A", r.What)
		assert.Equal(t, []store.Changed{{Part: "settings", ID: "shop"}}, r.Changed)
	case <-time.After(time.Minute):
		assert.Fail(t, "nothing was heard")
	}
	assert.Equal(t, "A", name(b))
	_, err = b.Change(context.Background(), 1, "me", "B", rename("B"))
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	_, err = b.Change(context.Background(), 2, "me", "B", rename("B"))
	require.NoError(t, err, "and it goes on writing")
}

func TestAPowerCutLeavesTheLastWholeRevision(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	// The write-ahead log is cut at random points, as when the power goes while it is written.
	// The file opens at a revision that was whole, and nothing before it is lost.
	cuts := 60
	if long {
		cuts = 3000
	}
	ctx := context.Background()
	dir := t.TempDir()
	path := filepath.Join(dir, "shop.db")
	s := open(t, path)
	defer s.Close()
	texts := map[int64]string{1: text(s)}
	store.HoldStill(s) // nothing is put from the log into the file meanwhile
	for i := range 40 {
		r, err := s.Change(ctx, s.Head(), "me", "edit", edit(i, i%5))
		if err != nil {
			continue
		}
		texts[r.ID] = text(s)
	}
	whole := map[string][]byte{}
	for _, end := range []string{"", "-wal"} {
		data, err := os.ReadFile(path + end)
		require.NoError(t, err)
		whole[end] = data
	}
	require.Greater(t, len(whole["-wal"]), 100_000)
	rng := rand.New(rand.NewPCG(1, 2))
	opened := map[int64]bool{}
	for range cuts {
		cut := filepath.Join(t.TempDir(), "cut.db")
		require.NoError(t, os.WriteFile(cut, whole[""], 0o600))
		at := rng.IntN(len(whole["-wal"]) + 1)
		log := append([]byte(nil), whole["-wal"][:at]...)
		if rng.IntN(2) == 0 && at > 0 { // the last page half written
			for i := max(0, at-2000); i < at; i++ {
				log[i] = byte(rng.IntN(256))
			}
		}
		require.NoError(t, os.WriteFile(cut+"-wal", log, 0o600))
		x, err := store.Open(ctx, cut, nil)
		if err != nil {
			require.ErrorContains(t, err, "no shop in it", "before the first revision was whole")
			continue
		}
		require.Equal(t, texts[x.Head()], text(x), "revision %d", x.Head())
		opened[x.Head()] = true
		require.NoError(t, x.Close())
		found, err := store.Examine(ctx, cut)
		require.NoError(t, err)
		require.Empty(t, found)
	}
	assert.Greater(t, len(opened), 10)
}

func TestAFullDiskChangesNothingAndIsSaidInWords(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	_, err := s.Change(ctx, 1, "me", "A", rename("A"))
	require.NoError(t, err)
	before := text(s)
	picture := &photo.Photo{Name: "a.jpg", W: 1, H: 1, Large: make([]byte, 300_000), Small: make([]byte, 9000)}
	free := store.Fill(s)
	long := func(x *shop.Shop) error {
		for i := range x.Items {
			x.Items[i].Notes = fmt.Sprintf("%0900d", i)
		}
		return nil
	}
	for what, write := range map[string]func() error{
		"a change": func() error { _, err := s.Change(ctx, s.Head(), "me", "long", long); return err },
		"a photo":  func() error { _, _, err := s.KeepPhoto(ctx, picture); return err },
		"a plan":   func() error { return keepPlan(ctx, s) },
	} {
		err := write()
		require.ErrorIs(t, err, store.ErrFull, what)
		assert.Contains(t, err.Error(), "disk is full", what)
		assert.Equal(t, before, text(s), what)
	}
	free()
	_, err = s.Change(ctx, s.Head(), "me", "long", long)
	require.NoError(t, err, "and with room it goes on")
	_, err = s.Undo(ctx, s.Head(), "me")
	require.NoError(t, err)
	assert.Equal(t, before, text(s))
}

// keepPlan keeps a plan too large for a disk that is full.
func keepPlan(ctx context.Context, s *store.Store) error {
	id, err := s.NewPlan(ctx, 1)
	if err != nil {
		return err
	}
	return s.KeepPlan(ctx, id, []byte(fmt.Sprintf(`{"x":"%0300000d"}`, 1)))
}

func TestABackupOntoAFullDiskLeavesNothing(t *testing.T) {
	small := filepath.Join(t.TempDir(), "small")
	require.NoError(t, os.Mkdir(small, 0o700))
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=64k", "tmpfs", small).CombinedOutput(); err != nil {
		t.Skipf("no small disk can be made here: %s", out)
	}
	defer func() { _ = exec.Command("umount", small).Run() }()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	to := filepath.Join(small, "copy.db")
	err := s.Backup(context.Background(), to)
	require.ErrorIs(t, err, store.ErrFull)
	left, err := os.ReadDir(small)
	require.NoError(t, err)
	assert.Empty(t, left, "nothing blocks the next")
}

func TestAPlainCopyOfTheFileHasAllButTheLastMoment(t *testing.T) {
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "shop.db")
	s := open(t, path)
	defer s.Close()
	for i := range 30 {
		_, err := s.Change(ctx, s.Head(), "me", "A", rename(fmt.Sprint(i)))
		require.NoError(t, err)
	}
	copied := filepath.Join(t.TempDir(), "copy.db")
	require.Eventually(t, func() bool {
		data, err := os.ReadFile(path)
		require.NoError(t, err)
		_ = os.Remove(copied)
		require.NoError(t, os.WriteFile(copied, data, 0o600))
		c, err := store.Open(ctx, copied, nil)
		if err != nil {
			return false
		}
		defer c.Close()
		return c.Head() == s.Head()
	}, time.Minute, 200*time.Millisecond)
}

func TestManyThingsPutInAtOneSpotKeepTheirOrder(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	want := []string{}
	for i := range 120 {
		_, err := s.Change(ctx, s.Head(), "me", "in", func(x *shop.Shop) error {
			n := x.Items[0]
			n.ID = fmt.Sprintf("new-%d", i)
			x.Items = append(x.Items[:1], append([]shop.Item{n}, x.Items[1:]...)...)
			want = want[:0]
			for _, it := range x.Items {
				want = append(want, it.ID)
			}
			return nil
		})
		require.NoError(t, err)
	}
	require.NoError(t, s.Close())
	again := open(t, s.Path())
	defer again.Close()
	sh, _ := again.Shop()
	for i, it := range sh.Items {
		require.Equal(t, want[i], it.ID)
	}
}

func TestAStaleWriteIsToldTheNewestOfWhatHappened(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	for i := range 50 {
		_, err := s.Change(ctx, s.Head(), "me", fmt.Sprint(i), rename(fmt.Sprint(i)))
		require.NoError(t, err)
	}
	_, err := s.Change(ctx, 1, "me", "late", rename("late"))
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	assert.Len(t, stale.Since, 20)
	assert.Equal(t, "49", stale.Since[19].What)
}

func TestPhotosThatNothingShowsAreCollectedAndNamesAreNeverTakenTwice(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	pic := func(name string, b byte) *photo.Photo {
		return &photo.Photo{Name: name, W: 1, H: 1, Large: []byte{b, b, b}, Small: []byte{b}}
	}
	first, made, err := s.KeepPhoto(ctx, pic("bench.jpg", 1))
	require.NoError(t, err)
	assert.True(t, made)
	same, made, err := s.KeepPhoto(ctx, pic("bench.jpg", 1))
	require.NoError(t, err)
	assert.False(t, made)
	other, made, err := s.KeepPhoto(ctx, pic("bench.jpg", 2))
	require.NoError(t, err)
	assert.True(t, made)
	assert.Equal(t, first, same)
	assert.NotEqual(t, first, other, "another picture of the same name has a name of its own")
	_, err = s.Change(ctx, 1, "me", "photo", func(x *shop.Shop) error { x.Items[0].Photos = []string{first}; return nil })
	require.NoError(t, err)
	_, err = s.Undo(ctx, 2, "me")
	require.NoError(t, err)
	n, err := s.CollectPhotos(ctx)
	require.NoError(t, err)
	assert.Zero(t, n, "not on the day they came")
	store.SetClock(s, func() time.Time { return time.Now().AddDate(0, 0, 3) })
	n, err = s.CollectPhotos(ctx)
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	data, err := s.Photo(ctx, first, false)
	require.NoError(t, err)
	assert.Equal(t, []byte{1, 1, 1}, data, "undo may bring it back")
}

func TestTheShopAsItWasAtEveryRevision(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "shop.db"))
	defer s.Close()
	texts := map[int64]string{1: text(s)}
	for i := range 12 {
		if r, err := s.Change(ctx, s.Head(), "me", "edit", edit(i, i%5)); err == nil {
			texts[r.ID] = text(s)
		}
	}
	for revision, want := range texts {
		sh, err := s.At(ctx, revision)
		require.NoError(t, err)
		assert.Equal(t, want, string(shop.Write(sh)), "revision %d", revision)
	}
	_, err := s.At(ctx, 99)
	assert.ErrorContains(t, err, "no revision 99")
}

// Readers beside a writer that commits all the time: how long they wait at most, but for one
// in a hundred.
func BenchmarkReadersBesideAWriter(b *testing.B) {
	path := filepath.Join(b.TempDir(), "shop.db")
	sh, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	first := sh.Items[0]
	for i := range 2800 {
		it := first
		it.ID = fmt.Sprintf("more-%d", i)
		sh.Items = append(sh.Items, it)
	}
	s, err := store.Open(context.Background(), path, sh)
	require.NoError(b, err)
	defer s.Close()
	stop := make(chan struct{})
	var wait sync.WaitGroup
	writes := 0
	wait.Go(func() {
		for {
			select {
			case <-stop:
				return
			default:
			}
			_, err := s.Change(context.Background(), s.Head(), "me", "note", func(x *shop.Shop) error { x.Items[writes%100].Notes = fmt.Sprint(writes); return nil })
			if err == nil {
				writes++
			}
		}
	})
	var took []float64
	for b.Loop() {
		begun := time.Now()
		s.Head()
		s.Shop()
		took = append(took, float64(time.Since(begun).Microseconds())/1000)
	}
	close(stop)
	wait.Wait()
	slices.Sort(took)
	b.ReportMetric(took[len(took)*99/100], "ms-p99")
	b.ReportMetric(took[len(took)/2], "ms-median")
	b.ReportMetric(float64(writes), "writes")
}
