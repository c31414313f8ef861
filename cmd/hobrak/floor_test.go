package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/due"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/month"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/supply"
)

// answered runs a command and reads the JSON it prints.
func answered(t *testing.T, into any, code int, args ...string) {
	t.Helper()
	r := hobrak(t, args...)
	require.Equal(t, code, r.code, "%s%s", r.out, r.err)
	require.NoError(t, json.Unmarshal([]byte(r.out), into), r.out)
}

// What the floor commands print agrees with each other: steps lead to the spots of the mode, a longest piece has what limits it,
// and the shop that arrange writes is one in which less is walked and nothing more clashes.
func TestTheFloorFromTheCommandLine(t *testing.T) {
	in := file(t, "s.json", demo.Slipway)
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	var seen struct {
		Modes    []floorMode
		Machines []floorMachine
	}
	answered(t, &seen, 0, "floor", "--shop", in)
	require.Len(t, seen.Modes, 1+len(s.Modes))
	for _, m := range seen.Modes {
		assert.Positive(t, m.LargestFree.W*m.LargestFree.D, m.ID)
		assert.NotNil(t, m.NarrowestW, m.ID)
	}
	require.NotEmpty(t, seen.Machines)
	for _, m := range seen.Machines {
		assert.Positive(t, m.Longest, m.Station)
		assert.NotEmpty(t, m.Limits.In+m.Limits.Out)
		for _, x := range m.Steps {
			assert.GreaterOrEqual(t, x.Longest, m.Longest, "a step never shortens")
		}
	}
	var change struct {
		Seconds float64
		Steps   []struct {
			What      string
			To        json.RawMessage
			Temporary bool
			Seconds   float64
			People    int
		}
	}
	answered(t, &change, 0, "change", "--shop", in, "--from", "milling", "--to", "evening")
	m, err := s.Mode("evening")
	require.NoError(t, err)
	sum, last := 0.0, map[string]json.RawMessage{}
	for _, x := range change.Steps {
		sum += x.Seconds
		last[x.What] = x.To
		assert.Positive(t, x.People)
	}
	assert.InDelta(t, change.Seconds, sum, 1e-6)
	for id, to := range last {
		if spot, ok := m.Spots[id]; ok {
			var at struct{ Floor shop.Point }
			if json.Unmarshal(to, &at) != nil {
				var state string
				require.NoError(t, json.Unmarshal(to, &state))
				assert.Equal(t, spot.State, state, id)
				continue
			}
			assert.Equal(t, spot.Floor, at.Floor, id)
		}
	}
	out := filepath.Join(t.TempDir(), "arranged.json")
	var sums struct {
		Walking struct{ Before, After, Bound float64 }
		Moved   int
	}
	answered(t, &sums, 0, "arrange", "--shop", in, "--out", out, "--seconds", "3")
	assert.LessOrEqual(t, sums.Walking.Bound, sums.Walking.After)
	assert.Less(t, sums.Walking.After, sums.Walking.Before)
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	then, err := shop.Read(data)
	require.NoError(t, err)
	assert.Equal(t, s.Homes, then.Homes, "homes stay unless they are asked for")
	for _, m := range append([]shop.Mode{{}}, then.Modes...) {
		l, err := mode.Of(then, m.ID, then.Areas[0].ID)
		require.NoError(t, err)
		assert.False(t, l.Hard(), m.ID)
	}
	r := hobrak(t, "change", "--shop", in, "--from", "milling", "--to", "nonsense")
	assert.Equal(t, 2, r.code)
	assert.Contains(t, r.err, "nonsense")
	assert.Equal(t, 2, hobrak(t, "floor", "--shop", in, "--mode", "nonsense").code)
}

// What the command says of supply is what the core has, for the mode that was asked.
func TestSupplyFromTheCommandLine(t *testing.T) {
	in := file(t, "s.json", demo.Slipway)
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	for _, mode := range []string{"", s.Modes[0].ID} {
		args := []string{"supply", "--shop", in}
		if mode != "" {
			args = append(args, "--mode", mode)
		}
		var seen supplied
		answered(t, &seen, 0, args...)
		findings, over := 0, 0
		for i := range s.Areas {
			r, err := supply.Of(s, s.Areas[i].ID, mode)
			require.NoError(t, err)
			findings += len(r.Cautions)
			for _, l := range r.Loads {
				if l.Over {
					over++
				}
			}
		}
		assert.Len(t, seen.Findings, findings)
		for _, x := range seen.Circuits {
			for _, y := range x.Sets {
				sum := 0.0
				for _, id := range y.Stations {
					sum += shop.NewIndex(s).Station(id).Amps
				}
				assert.InDelta(t, sum, y.Amps, 1e-9)
				assert.Equal(t, sum > .8*x.Limit, y.Over)
				if y.Over {
					over--
				}
			}
		}
		assert.Zero(t, over)
		assert.NotEmpty(t, seen.Cords)
		assert.NotEmpty(t, seen.Light)
	}
	assert.Equal(t, exitInput, hobrak(t, "supply", "--shop", in, "--mode", "nothing").code)
}

// What is due on a day and a month played are as the core has them; a calendar is written beside; what cannot be is refused.
func TestUpkeepFromTheCommandLine(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	demo.Year(s, time.Date(2026, 11, 30, 0, 0, 0, 0, time.UTC))
	in, cal := file(t, "s.json", shop.Write(s)), filepath.Join(t.TempDir(), "due.ics")
	var list []due.Item
	answered(t, &list, 0, "due", "--shop", in, "--day", "2026-11-30", "--ics", cal)
	want, err := due.Of(s, due.NewTally(s.Events), nil, "2026-11-30")
	require.NoError(t, err)
	assert.Equal(t, want, list)
	raw, err := os.ReadFile(cal)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, strings.Count(string(raw), "BEGIN:VEVENT"), len(list))
	assert.Equal(t, exitInput, hobrak(t, "due", "--shop", in, "--day", "tomorrow").code)
	var a, b month.Played
	answered(t, &a, 0, "month", "--shop", in, "--replications", "200", "--seed", "4")
	answered(t, &b, 0, "month", "--shop", in, "--replications", "200", "--seed", "4")
	assert.Equal(t, a, b)
	assert.Equal(t, 200, a.Months)
	assert.LessOrEqual(t, a.Handling.P10, a.Handling.P90)
	jobs := file(t, "jobs.json", []byte(`[{"name": "stool", "per_month": 2, "path": ["nowhere"]}]`))
	assert.Equal(t, exitInput, hobrak(t, "month", "--shop", in, "--jobs", jobs).code)
	assert.Equal(t, exitInput, hobrak(t, "month", "--shop", in, "--replications", "0").code)
}
