package sheet_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shoptest"
)

func TestTheSheetOfAnyRoomIsFinite(t *testing.T) {
	for seed := range shoptest.Seeds(60) {
		s := shoptest.Random(seed, shoptest.Few)
		for i := range s.Areas {
			pages := sheet.Survey(s.Settings.Name, &s.Areas[i], length.Style{System: s.Settings.Units})
			require.NotEmpty(t, pages)
			require.NoError(t, shoptest.Finite(pages), "seed %d", seed)
		}
	}
}
