package api

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
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
