package storage_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/check"
	"hobrak/internal/core/free"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/storage"
)

func TestStorageIsDrawnMovedAndTriedInAnyRoom(t *testing.T) {
	tried := 0
	for seed := range shoptest.Seeds(25) {
		s := shoptest.Random(seed, shoptest.Few)
		m, err := access.NewMap(s)
		require.NoError(t, err)
		before, err := check.Mapped(m)
		require.NoError(t, err)
		var ids []string
		for i := range s.Places {
			require.NoError(t, shoptest.Finite(storage.As(s, m.Index, &s.Places[i])), "seed %d", seed)
			if s.Places[i].At.Wall != "" {
				ids = append(ids, s.Places[i].ID)
			}
		}
		for _, id := range ids[:min(2, len(ids))] {
			a := &s.Areas[0]
			got, err := storage.Try(m, before, id, shop.At{Wall: a.Walls[int(seed)%len(a.Walls)].ID})
			if err != nil {
				continue
			}
			tried++
			require.NoError(t, shoptest.Finite(got), "seed %d", seed)
		}
		space := free.Of(m)
		for k, b := range storage.Builders() {
			if k >= 6 || len(s.Items) == 0 {
				break
			}
			d, err := storage.Size(b.ID, "Z1", storage.Need{Items: []*shop.Item{&s.Items[0]}})
			if err != nil {
				continue
			}
			spots, err := storage.Where(m, space, d)
			require.NoError(t, err)
			require.NoError(t, shoptest.Finite(spots), "seed %d", seed)
		}
	}
	require.Positive(t, tried)
}

func TestASecondOverlapIsNotTakenForTheFirst(t *testing.T) {
	// X hangs over Y already; moved so that it hangs over Z instead, that is another broken rule.
	s, err := shop.Read([]byte(`{"format":"hobrak-shop","version":1,"shop":{"name":"S","units":"metric"},"areas":[{"id":"main","corners":[[0,0],[0,4000],[5000,4000],[5000,0]],"walls":[
		{"id":"A","profile":[[0,2600],[4000,2600]],"claimed":true},{"id":"B","profile":[[0,2600],[5000,2600]],"claimed":true},{"id":"C","profile":[[0,2600],[4000,2600]],"claimed":true},{"id":"D","profile":[[0,2600],[5000,2600]],"claimed":true}]}],
		"places":[{"id":"Y","kind":"wall-field","style":"screw","at":{"wall":"B","x":500,"z":1000},"w":600,"h":600,"d":200},
		{"id":"Z","kind":"wall-field","style":"screw","at":{"wall":"B","x":3000,"z":1000},"w":600,"h":600,"d":200},
		{"id":"X","kind":"wall-field","style":"screw","at":{"wall":"B","x":800,"z":1000},"w":600,"h":600,"d":200}]}`))
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	before, err := check.Mapped(m)
	require.NoError(t, err)
	got, err := storage.Try(m, before, "X", shop.At{Wall: "B", X: s.Places[1].At.X + 100_000, Z: s.Places[1].At.Z})
	require.NoError(t, err)
	require.False(t, got.Allowed)
	require.Contains(t, got.Broken[0], "X and Z overlap")
}
