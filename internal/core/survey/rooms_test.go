package survey_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/survey"
)

func TestNotesAndReportOfAnyRoomAreFinite(t *testing.T) {
	for seed := range shoptest.Seeds(80) {
		s := shoptest.Random(seed, shoptest.Few)
		for i := range s.Areas {
			require.NoError(t, shoptest.Finite(survey.Notes(s, &s.Areas[i])), "seed %d", seed)
			require.NoError(t, shoptest.Finite(survey.Of(&s.Areas[i])), "seed %d", seed)
			next := s.Clone()
			survey.Begin(&next.Areas[i])
			require.NoError(t, shoptest.Finite(survey.Adopt(next, &next.Areas[i])), "seed %d", seed)
		}
	}
}
