package say_test

import (
	"encoding/json"
	"math"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/say"
	"hobrak/internal/core/weight"
)

func TestASentenceIsWrittenInTheUnitsOfTheShop(t *testing.T) {
	for _, c := range []struct{ said, metric, imperial string }{
		{"at " + (1750 * length.Millimetre).String(), "at 1750 mm", `at 5' 8 7/8"`},
		{length.Size(304800, 406400) + " are free", "305 × 406 mm are free", `1' × 1' 4" are free`},
		{"sags " + length.Fine(.6), "sags 0.6 mm", `sags 1/32"`},
		{"sags " + length.Fine(.1), "sags 0.1 mm", `sags under 1/64"`},
		{(18 * length.Millimetre).Stock() + " plywood", "18 mm plywood", `23/32" plywood`},
		{"2 × " + length.OnFoot(4249), "2 × 4.2 m", "2 × 14 ft"},
		{weight.KG(2.25).String(), "2.25 kg", "4 lb 15.4 oz"},
		{weight.Rough(30), "30.0 kg", "66.1 lb"},
		{length.Area(1.5e6), "1.5 m²", "16.1 sq ft"},
		{length.Litres(7.2), "7.2 l", "1.9 gal"},
		{"no quantity", "no quantity", "no quantity"},
	} {
		assert.Equal(t, c.metric, say.In(length.Metric, c.said))
		assert.Equal(t, c.metric, quantity.Metric(c.said))
		assert.Equal(t, c.imperial, say.In(length.Imperial, c.said))
	}
}

var sentence = rapid.Custom(func(t *rapid.T) string {
	var b strings.Builder
	for range rapid.IntRange(0, 6).Draw(t, "parts") {
		b.WriteString(rapid.StringOf(rapid.RuneFrom([]rune("ab ×\"\\\n\ue000\ue001\ue002ü"))).Draw(t, "words"))
		mm := rapid.Float64Range(-3000, 50000).Draw(t, "mm")
		switch rapid.IntRange(0, 6).Draw(t, "kind") {
		case 0:
			b.WriteString(length.MM(mm).String())
		case 1:
			b.WriteString(length.Whole(mm))
		case 2:
			b.WriteString(length.Fine(mm / 1000))
		case 3:
			b.WriteString(length.Size(length.MM(mm), length.MM(mm/2), length.MM(mm/3)))
		case 4:
			b.WriteString(length.OnFoot(mm))
		case 5:
			b.WriteString(weight.KG(math.Abs(mm)).String())
		default:
			b.WriteString(weight.Rough(math.Abs(mm)))
		}
	}
	return b.String()
})

func TestHoweverATextIsCutItIsWrittenTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text, units := sentence.Draw(t, "text"), rapid.SampledFrom([]length.System{length.Metric, length.Imperial}).Draw(t, "units")
		var b strings.Builder
		w := say.To(&b, units)
		for rest := text; rest != ""; {
			n := rapid.IntRange(1, len(rest)).Draw(t, "cut")
			_, err := w.Write([]byte(rest[:n]))
			require.NoError(t, err)
			rest = rest[n:]
		}
		require.NoError(t, w.Close())
		require.Equal(t, say.In(units, text), b.String())
	})
}

func TestADocumentStaysADocument(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text, units := sentence.Draw(t, "text"), rapid.SampledFrom([]length.System{length.Metric, length.Imperial}).Draw(t, "units")
		doc, err := json.Marshal(map[string]string{"said": text})
		require.NoError(t, err)
		var got map[string]string
		require.NoError(t, json.Unmarshal(say.JSON(units, doc), &got))
		require.Equal(t, say.In(units, text), got["said"])
	})
}

// Whatever was typed in the shop's fractions of an inch is told as it was typed.
func TestAnInchIsNotLostInASentence(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := length.Length(rapid.Int64Range(1, 16*12*40).Draw(t, "sixteenths")) * length.Inch / 16
		typed := length.Style{System: length.Imperial}.Format(l)
		read, err := length.Parse(typed, length.Imperial)
		require.NoError(t, err)
		for _, said := range []string{read.String(), length.Whole(read.MM()), length.Size(read)} {
			require.Equal(t, typed, say.In(length.Imperial, said))
		}
	})
}

func TestFractionsAreSetOnAScreenAndReadBackWhenTyped(t *testing.T) {
	var out strings.Builder
	w := say.ToScreen(&out, say.Screen{Units: length.Imperial})
	_, err := w.Write([]byte(`{"says": "and/or ` + (1750 * length.Millimetre).String() + `"}`))
	require.NoError(t, err)
	require.NoError(t, w.Close())
	assert.Equal(t, `{"says": "and/or 5' 8 7⁄8\""}`, out.String())
	l, err := length.Parse("5' 8 7⁄8\"", length.Metric)
	require.NoError(t, err)
	assert.InDelta(t, 1750, l.MM(), 1)
}

func TestACommaIsSetInQuantitiesAlone(t *testing.T) {
	var out strings.Builder
	w := say.ToScreen(&out, say.Screen{Units: length.Metric, Comma: true})
	_, err := w.Write([]byte(`{"v": 1.5, "says": "plan 1.5: ` + weight.KG(1.5).String() + `"}`))
	require.NoError(t, err)
	require.NoError(t, w.Close())
	assert.Equal(t, `{"v": 1.5, "says": "plan 1.5: 1,5 kg"}`, out.String())
}

// A number that is no length or weight reads alike in feet and in metres; only the mark before its decimals is the reader's.
func TestAPlainNumberKeepsItsUnitAndGetsTheReadersMark(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := math.Round(rapid.Float64Range(0, 5000).Draw(t, "v")*10) / 10
		text := "draws " + quantity.Number(v, 3) + " A"
		for _, units := range []length.System{length.Metric, length.Imperial} {
			plain := say.In(units, text)
			assert.Equal(t, quantity.Metric(text), plain)
			got, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimPrefix(plain, "draws "), " A"), 64)
			require.NoError(t, err)
			assert.InDelta(t, v, got, math.Max(.051, v*.006))
			var out strings.Builder
			w := say.ToScreen(&out, say.Screen{Units: units, Comma: true})
			_, err = w.Write([]byte(text))
			require.NoError(t, err)
			require.NoError(t, w.Close())
			assert.Equal(t, strings.ReplaceAll(plain, ".", ","), out.String())
		}
	})
}
