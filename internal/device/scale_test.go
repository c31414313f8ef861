package device_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
	"hobrak/internal/device"
)

func TestTheSimulatedScaleReadsLikeOne(t *testing.T) {
	s := device.NewSimulatedScale(1)
	assert.True(t, s.Simulated())
	plane := &shop.Item{ID: "p", Name: "Jack plane", KG: weight.KG(2.3)}
	low, high := 99.0, 0.0
	for range 200 {
		text, err := s.Weigh(plane, length.Metric)
		require.NoError(t, err)
		w, err := weight.Parse(text, length.Metric)
		require.NoError(t, err, "what it shows can be read")
		low, high = min(low, w.KG()), max(high, w.KG())
	}
	assert.InDelta(t, 2.3, (low+high)/2, 2.3*.16)
	assert.Less(t, high-low, .05, "the same thing weighs nearly the same each time")
	text, err := s.Weigh(plane, length.Imperial)
	require.NoError(t, err)
	assert.Contains(t, text, "lb")
	text, err = s.Weigh(&shop.Item{ID: "x", Kind: "mallet"}, length.Metric)
	require.NoError(t, err)
	assert.NotEqual(t, "0.000 kg", text, "what its kind usually weighs")
	_, err = s.Weigh(&shop.Item{ID: "saw", KG: weight.KG(120)}, length.Metric)
	assert.ErrorContains(t, err, "40 kg at most")
}
