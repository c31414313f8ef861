package weight_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

func TestParseReadsWhatPeopleWrite(t *testing.T) {
	for in, want := range map[string]weight.Weight{
		"1.2 kg":    1200 * weight.Gram,
		"1,2kg":     1200 * weight.Gram,
		"800 g":     800 * weight.Gram,
		"5 lb":      weight.Weight(math.Round(5 * weight.Pound)),
		"2 lb 4 oz": weight.Weight(math.Round(2.25 * weight.Pound)),
		"2lb 4oz":   weight.Weight(math.Round(2.25 * weight.Pound)),
		"3":         3 * weight.Kilogram,
	} {
		got, err := weight.Parse(in, length.Metric)
		require.NoError(t, err, in)
		assert.Equal(t, want, got, in)
	}
	got, err := weight.Parse("3", length.Imperial)
	require.NoError(t, err)
	assert.Equal(t, weight.Weight(math.Round(3*weight.Pound)), got)
}

func TestParseSaysWhatWasWrong(t *testing.T) {
	for in, reason := range map[string]string{
		"":           "nothing to read",
		"heavy":      "not a number",
		"3 stone":    "not a unit",
		"-1 kg":      "below 0",
		"1 kg 2 lb":  "only pounds",
		"1000000 kg": "heavier than",
	} {
		_, err := weight.Parse(in, length.Metric)
		var pe *weight.ParseError
		require.ErrorAs(t, err, &pe, in)
		assert.Equal(t, in, pe.Input)
		assert.Contains(t, pe.Reason, reason, in)
	}
}

func TestFormatThenParseGivesTheSameToTheRounding(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := weight.Weight(rapid.Int64Range(0, 5e9).Draw(t, "milligrams"))
		system := rapid.SampledFrom([]length.System{length.Metric, length.Imperial}).Draw(t, "system")
		text := weight.Format(w, system)
		back, err := weight.Parse(text, system)
		if err != nil {
			t.Fatalf("%s: %v", text, err)
		}
		step := float64(weight.Gram)
		if system == length.Imperial {
			step = weight.Ounce / 10
		}
		if math.Abs(float64(back-w)) > step/2+1 {
			t.Fatalf("%d was written %s and read back as %d", w, text, back)
		}
	})
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"1.2 kg", "2 lb 4 oz", "oz", "1 kg kg", "NaN kg", "1e99"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		w, err := weight.Parse(s, length.Metric)
		if err == nil {
			require.GreaterOrEqual(t, w, weight.Weight(0))
			require.LessOrEqual(t, w, weight.Max)
		}
	})
}
