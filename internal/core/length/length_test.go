package length_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
)

func TestParseReadsWhatPeopleWrite(t *testing.T) {
	cases := []struct {
		in     string
		system length.System
		want   length.Length
	}{
		{"1200", length.Metric, 1200 * length.Millimetre},
		{"1200", length.Imperial, 1200 * length.Inch},
		{"1200mm", length.Imperial, 1200 * length.Millimetre},
		{"120 cm", length.Metric, 1200 * length.Millimetre},
		{"1.2 m", length.Metric, 1200 * length.Millimetre},
		{"1,2 m", length.Metric, 1200 * length.Millimetre},
		{`47 1/4"`, length.Metric, 47*length.Inch + length.Inch/4},
		{"47-1/4 in", length.Metric, 47*length.Inch + length.Inch/4},
		{`3' 11 1/4"`, length.Metric, 47*length.Inch + length.Inch/4},
		{"3ft 11in", length.Metric, 47 * length.Inch},
		{`3'11.25"`, length.Metric, 47*length.Inch + length.Inch/4},
		{"3' 11", length.Metric, 47 * length.Inch},
		{`¾"`, length.Metric, length.Inch * 3 / 4},
		{"1¾ in", length.Metric, length.Inch * 7 / 4},
		{"5/64 in", length.Metric, 1984},
		{"3''", length.Metric, 3 * length.Inch},
		{" -12 mm ", length.Metric, -12 * length.Millimetre},
	}
	for _, c := range cases {
		t.Run(c.in, func(t *testing.T) {
			got, err := length.Parse(c.in, c.system)
			require.NoError(t, err)
			assert.Equal(t, c.want, got)
		})
	}
}

func TestParseSaysWhatWasWrongAndKeepsWhatWasTyped(t *testing.T) {
	for in, reason := range map[string]string{
		"":            "nothing to read",
		"wide":        "not a number",
		"12 furlongs": "not a unit",
		"3/0 in":      "other than 0",
		"12 mm 3 cm":  "only feet",
		"99999 m":     "longer than",
		"3' 4\" 5\"":  "after the inches",
		"1 200":       "no unit",
	} {
		_, err := length.Parse(in, length.Metric)
		var pe *length.ParseError
		require.ErrorAs(t, err, &pe, in)
		assert.Equal(t, in, pe.Input)
		assert.Contains(t, pe.Reason, reason, in)
	}
}

func TestFormatThenParseGivesTheSameToTheRounding(t *testing.T) {
	styles := []struct {
		style length.Style
		step  length.Length
	}{
		{length.Style{System: length.Metric}, length.Millimetre / 10},
		{length.Style{System: length.Metric, Unit: "cm"}, length.Centimetre / 100},
		{length.Style{System: length.Metric, Unit: "m"}, length.Metre / 1000},
		{length.Style{System: length.Imperial}, length.Inch / 16},
		{length.Style{System: length.Imperial, Denominator: 32}, length.Inch / 32},
		{length.Style{System: length.Imperial, Denominator: 8}, length.Inch / 8},
	}
	rapid.Check(t, func(t *rapid.T) {
		l := length.Length(rapid.Int64Range(-20e6, 20e6).Draw(t, "micrometres"))
		s := rapid.SampledFrom(styles).Draw(t, "style")
		text := s.style.Format(l)
		back, err := length.Parse(text, s.style.System)
		if err != nil {
			t.Fatalf("%s: %v", text, err)
		}
		if d := back - l; d > s.step/2+1 || d < -s.step/2-1 {
			t.Fatalf("%d was written %s and read back as %d", l, text, back)
		}
		if again := s.style.Format(back); again != text {
			t.Fatalf("%s became %s", text, again)
		}
	})
}

func TestFormat(t *testing.T) {
	imperial := length.Style{System: length.Imperial}
	assert.Equal(t, `3' 11 1/4"`, imperial.Format(47*length.Inch+length.Inch/4))
	assert.Equal(t, `2'`, imperial.Format(2*length.Foot))
	assert.Equal(t, `1/2"`, imperial.Format(length.Inch/2))
	assert.Equal(t, `1'`, imperial.Format(length.Foot-1), "rounds up into the next foot")
	assert.Equal(t, "1200 mm", (1200 * length.Millimetre).Metric())
}

func TestJSONIsMillimetres(t *testing.T) {
	b, err := json.Marshal(length.MM(12.7))
	require.NoError(t, err)
	assert.Equal(t, "12.7", string(b))
	var l length.Length
	require.NoError(t, json.Unmarshal(b, &l))
	assert.Equal(t, length.Inch/2, l)
	assert.Error(t, json.Unmarshal([]byte("1e12"), &l))
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"1200", `3' 11 1/4"`, "47-1/4 in", "¾", "1,2 m", "--", "1/", "'", "9e9"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		l, err := length.Parse(s, length.Metric)
		if err != nil {
			var pe *length.ParseError
			require.ErrorAs(t, err, &pe)
			return
		}
		require.LessOrEqual(t, l, length.Max)
		require.GreaterOrEqual(t, l, -length.Max)
	})
}
