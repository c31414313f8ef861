package api

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/survey"
	"hobrak/internal/store"
)

// BenchmarkRedrawAfterAnEdit is the work between an entry in the survey and its
// answer, and that of making the round anew.
func BenchmarkRedrawAfterAnEdit(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	b.Run("survey", func(b *testing.B) {
		for b.Loop() {
			next := s.Clone()
			_, err := survey.Enter(next, "main", survey.Entry{Path: "walls/A/length", Text: "4601"})
			require.NoError(b, err)
			require.NoError(b, next.Validate())
			_, err = surveyed(next, 2, "main")
			require.NoError(b, err)
		}
	})
	b.Run("round", func(b *testing.B) {
		for b.Loop() {
			_, err := look(s, 1)
			require.NoError(b, err)
		}
	})
	b.Run("free", func(b *testing.B) {
		for b.Loop() {
			v, err := look(s, 1)
			require.NoError(b, err)
			v.freeSpace()
		}
	})
}

// edits of one thing each, as people make them one after the other.
var edits = map[string]func(s *shop.Shop, n int){
	"a note":  func(s *shop.Shop, n int) { s.Items[n%len(s.Items)].Notes = fmt.Sprint("note ", n) },
	"a size":  func(s *shop.Shop, n int) { s.Items[n%len(s.Items)].W += length.MM(float64(1 - 2*(n/len(s.Items)%2))) },
	"a home":  func(s *shop.Shop, n int) { s.Homes[n%len(s.Homes)].Locked = !s.Homes[n%len(s.Homes)].Locked },
	"a place": func(s *shop.Shop, n int) { s.Places[n%len(s.Places)].Name = fmt.Sprint("place ", n) },
	"a field": func(s *shop.Shop, n int) { p := &s.Places[0]; p.H += length.MM(float64(2*(n%2) - 1)) },
}

// BenchmarkOneEdit is what passes from an edit in a large shop to the next answer: it is
// stored and the round is served. Whole is the same with everything made anew.
func BenchmarkOneEdit(b *testing.B) {
	for _, size := range []struct{ items, places int }{{600, 60}, {3000, 300}} {
		sh := shoptest.Made(size.items, size.places, 1)
		plan, err := fit.Run(sh, fit.Options{Seed: 1, Iterations: 1})
		require.NoError(b, err)
		sh.Homes = plan.Homes
		ctx := context.Background()
		st, err := store.Open(ctx, filepath.Join(b.TempDir(), "shop.db"), sh)
		require.NoError(b, err)
		s := New(st, slog.New(slog.NewTextHandler(io.Discard, nil)), nil)
		_, err = s.now()
		require.NoError(b, err)
		for _, what := range slices.Sorted(maps.Keys(edits)) {
			b.Run(fmt.Sprintf("%d×%d/%s", size.items, size.places, what), func(b *testing.B) {
				var stored, seen, whole time.Duration
				n := 0
				for b.Loop() {
					n++
					start := time.Now()
					_, err := st.Change(ctx, st.Head(), "me", what, func(x *shop.Shop) error { edits[what](x, n); return nil })
					require.NoError(b, err)
					stored += time.Since(start)
					start = time.Now()
					_, err = s.now()
					require.NoError(b, err)
					seen += time.Since(start)
					if n == 1 {
						start = time.Now()
						x, r := st.Shop()
						_, err = look(x, r)
						require.NoError(b, err)
						whole = time.Since(start)
					}
				}
				ms := func(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }
				b.ReportMetric(ms(stored)/float64(n), "stored-ms")
				b.ReportMetric(ms(seen)/float64(n), "seen-ms")
				b.ReportMetric(ms(whole), "whole-ms")
			})
		}
		s.Close()
		require.NoError(b, st.Close())
	}
}
