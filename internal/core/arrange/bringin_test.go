package arrange_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/arrange"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// A machine that is only wished for is brought into small rooms: the room breaks no rule with it, and when others are shifted for it
// there is no spot on a grid at which nothing is.
func TestBringingInShiftsOnlyWhatMustBe(t *testing.T) {
	shifted, free, none := 0, 0, 0
	for seed := range shoptest.Seeds(24) {
		rng := rand.New(rand.NewPCG(seed, 21))
		w, d := 24+rng.IntN(7), 22+rng.IntN(5)
		s := room(t, fmt.Sprintf("%.1f x %.1f x 2.4, door A 800x2000 at 300", float64(w)/10, float64(d)/10))
		lines := []string{"bench 1400x700x880", "bandsaw 500x500x1700", "small lathe 1000x500x1050", "drill press 500x500x1600", "sharpening bench 800x500x900"}
		rng.Shuffle(len(lines), func(i, k int) { lines[i], lines[k] = lines[k], lines[i] })
		full := true
		for i, line := range lines[:2+rng.IntN(4)] {
			st := *note.Station(s, line).Station
			st.ID = fmt.Sprintf("s%d", i)
			at, _, err := floor.Put(s, st, floor.Wish{})
			if err != nil {
				full = false
				break
			}
			s.Stations = append(s.Stations, at)
		}
		if l, err := mode.Of(s, "", s.Areas[0].ID); err != nil || l.Hard() || !full {
			continue
		}
		wished := *note.Station(s, []string{"planer 1100x600x900", "assembly table 1300x900x860"}[seed%2]).Station
		wished.ID, wished.Wished = "wished", "2030-01-01"
		at, _, err := floor.Put(s, wished, floor.Wish{Anyhow: true})
		if err != nil {
			continue
		}
		s.Stations = append(s.Stations, at)
		made, err := arrange.BringIn(s, "wished", nil)
		if err != nil {
			none++
			continue
		}
		require.Equal(t, "wished", made.Steps[0].ID)
		l, err := mode.Of(made.Shop, "", s.Areas[0].ID)
		require.NoError(t, err)
		require.False(t, l.Hard(), "%+v", l.Breaches)
		moved := 0
		for i := range s.Stations {
			if a, b := &s.Stations[i], &made.Shop.Stations[i]; a.ID != "wished" && (a.X != b.X || a.Y != b.Y || a.Rot != b.Rot) {
				moved++
			}
		}
		require.Equal(t, len(made.Steps)-1, moved)
		if moved == 0 {
			free++
			continue
		}
		shifted++
		for _, rot := range []float64{0, 90, 180, 270} {
			for x := 0; x < 100*w; x += 300 {
				for y := 0; y < 100*d; y += 300 {
					try := s.Clone()
					st := &try.Stations[len(try.Stations)-1]
					st.Wished, st.X, st.Y, st.Rot = "", length.MM(float64(x)), length.MM(float64(y)), rot
					st.Stand = floor.Stand(st)
					l, err := mode.Of(try, "", s.Areas[0].ID)
					require.NoError(t, err)
					require.True(t, l.Hard(), "seed %d: it would stand at %d, %d turned by %g with nothing shifted", seed, x, y, rot)
				}
			}
		}
	}
	t.Logf("%d rooms in which others are shifted, %d with a free spot, %d without any", shifted, free, none)
	assert.Positive(t, shifted)
	assert.Positive(t, free)
	_, err := arrange.BringIn(&shop.Shop{}, "nothing", nil)
	assert.ErrorContains(t, err, "there is no station")
}
