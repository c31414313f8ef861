package exchange_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
)

func pages(t *testing.T) []sheet.Page {
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	s.Areas[0].Name = "Pantry <old> & dry"
	return sheet.Survey(s.Settings.Name, &s.Areas[0], length.Style{System: s.Settings.Units})
}

func TestSVGIsWellFormedAndKeepsEveryWord(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, exchange.SVG(&b, "survey", pages(t)))
	d := xml.NewDecoder(bytes.NewReader(b.Bytes()))
	texts := 0
	for {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		if e, ok := tok.(xml.StartElement); ok && e.Name.Local == "text" {
			texts++
		}
	}
	want := 0
	for _, p := range pages(t) {
		want += len(p.Texts)
	}
	assert.Equal(t, want, texts)
	assert.Contains(t, b.String(), "Pantry &lt;old&gt; &amp; dry")
	assert.Contains(t, b.String(), `width="297mm"`)
}

func TestPDFHasItsPagesAndIsTheSameEachTime(t *testing.T) {
	var a, b bytes.Buffer
	require.NoError(t, exchange.PDF(&a, "survey", pages(t)))
	require.NoError(t, exchange.PDF(&b, "survey", pages(t)))
	assert.Equal(t, a.Bytes(), b.Bytes())
	assert.True(t, strings.HasPrefix(a.String(), "%PDF-"))
	assert.Equal(t, 3, strings.Count(a.String(), "/Type /Page\n"))
}
