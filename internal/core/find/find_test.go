package find_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/find"
)

var entries = []find.Entry{
	{ID: "dovetail-saw", Kind: "item", Texts: []find.Text{{"Dovetail saw", 1}, {"saws", .7}, {"N2", .6}}},
	{ID: "carcass-saw", Kind: "item", Texts: []find.Text{{"Carcass saw", 1}, {"saws", .7}, {"B1", .6}}},
	{ID: "spokeshave", Kind: "item", Texts: []find.Text{{"Spokeshave, round", 1}, {"planes", .7}}},
	{ID: "K2-1", Kind: "place", Texts: []find.Text{{"K2-1", 1}, {"Top drawer", .8}}},
}

func first(t *testing.T, q string) string {
	t.Helper()
	hits := find.Search(entries, q, 5)
	require.NotEmpty(t, hits, q)
	return hits[0].Entry.ID
}

func TestFindsByNameFamilyPlaceAndCode(t *testing.T) {
	for q, want := range map[string]string{
		"dove": "dovetail-saw", "saw carc": "carcass-saw", "k2-1": "K2-1", "top drawer": "K2-1", "n2": "dovetail-saw", "planes": "spokeshave",
	} {
		assert.Equal(t, want, first(t, q), q)
	}
}

func TestForgivesSlips(t *testing.T) {
	for q, want := range map[string]string{
		"dovtail": "dovetail-saw", "dovetial": "dovetail-saw", "carcas saw": "carcass-saw", "spokshave": "spokeshave", "spokehsav": "spokeshave", "darcass": "carcass-saw",
	} {
		assert.Equal(t, want, first(t, q), q)
	}
}

func TestGuessesNothingFromNoise(t *testing.T) {
	assert.Empty(t, find.Search(entries, "", 5))
	assert.Empty(t, find.Search(entries, "xqz", 5))
	assert.Empty(t, find.Search(entries, "refrigerator", 5))
}

func TestMarksAreAskedForAsTheyAre(t *testing.T) {
	marked := []find.Entry{
		{ID: "a", Kind: "item", Texts: []find.Text{{"Mallet", 1}}, Marks: []string{"@bench", "homeless"}},
		{ID: "b", Kind: "item", Texts: []find.Text{{"Jack plane", 1}}, Marks: []string{"@workbench", "@carving", "#sharp", "#rust"}},
		{ID: "c", Kind: "item", Texts: []find.Text{{"Block plane", 1}}, Marks: []string{"@lathe", "assumed"}},
	}
	for q, want := range map[string]string{"plane": "bc", "plane @bench": "b", "@bench": "ab", "#sha": "b", "#arp": "", "assumed": "c", "homeless": "a", "assume": "", "@lathe plain": "", "plnae @carving": "b", "@": "abc"} {
		got := ""
		for _, h := range find.Search(marked, q, 10) {
			got += h.Entry.ID
		}
		assert.Equal(t, want, got, q)
	}
}

func TestWhatIsTypedRightHidesGuesses(t *testing.T) {
	hits := find.Search(entries, "saw", 5)
	assert.Len(t, hits, 2)
}
