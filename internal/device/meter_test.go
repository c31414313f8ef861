package device_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/device"
)

func meter(t *testing.T, seed uint64) *device.SimulatedMeter {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return device.NewSimulatedMeter(&s.Areas[0], seed)
}

func TestReadingsScatterAsStatedAndNowAndThenAreFarOff(t *testing.T) {
	m := meter(t, 1)
	assert.True(t, m.Simulated())
	var sum, n, gross float64
	const presses = 4000
	for range presses {
		text, err := m.Press("walls/B/length", "m")
		require.NoError(t, err)
		l, err := length.Parse(text, length.Metric)
		require.NoError(t, err, text)
		if off := l.MM() - 7300; math.Abs(off) > 50 {
			gross++
		} else {
			sum += off * off
			n++
		}
	}
	assert.InDelta(t, device.NoiseSD, math.Sqrt(sum/n), .1)
	assert.InDelta(t, 1.0/device.GrossEvery, gross/presses, .015)
}

func TestWhatTheMeterCanBeAimedAt(t *testing.T) {
	m := meter(t, 2)
	for aim, mm := range map[string]float64{"walls/A/length": 4600, "measures/+/diagonal:0-2": 8628.4, "measures/+/wall:C": 4600, "walls/A/top/1/z": 3100, "walls/A/features/A-door/x": 300, "walls/C/features/C-window/w": 1000} {
		text, err := m.Press(aim, "ft")
		require.NoError(t, err)
		l, err := length.Parse(text, length.Metric)
		require.NoError(t, err, text)
		assert.InDelta(t, mm, l.MM(), 310, aim)
		assert.Contains(t, text, `"`)
	}
	for _, aim := range []string{"", "name", "walls/Q/length", "walls/A/features/ghost/x", "measures/+/diagonal:0-99", "walls/A/top/9/z"} {
		_, err := m.Press(aim, "m")
		assert.ErrorContains(t, err, "cannot be aimed at that", aim)
	}
}
