package table_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/table"
)

func TestTheListOfAnyShopComesBackUnchanged(t *testing.T) {
	for seed := range shoptest.Seeds(40) {
		s := shoptest.Random(seed, shoptest.Few)
		if len(s.Items) == 0 {
			continue
		}
		rows := table.Rows(s)
		g := table.Recognise(s, rows, false)
		r, err := table.Read(s, rows, g.Mapping, nil)
		require.NoError(t, err, "seed %d", seed)
		require.Zero(t, r.Faulty, "seed %d: %v", seed, r.Rows)
		require.Zero(t, r.New, "seed %d", seed)
		next := s.Clone()
		_, err = table.Apply(next, r)
		require.NoError(t, err)
		require.NoError(t, next.Validate(), "seed %d", seed)
	}
}
