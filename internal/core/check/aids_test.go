package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/shop"
)

// coded are the findings of a code.
func coded(t *testing.T, s *shop.Shop, code string) (out []check.Finding) {
	t.Helper()
	found, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range found {
		if f.Code == code {
			assert.False(t, f.Hard)
			out = append(out, f)
		}
	}
	return out
}

func TestHighStorageAsksForSomethingToStepOn(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	for i := range s.Places {
		if s.Places[i].ID == "A3" {
			s.Places[i].At.Z = mm(2700)
		}
	}
	list := coded(t, s, "step")
	require.Len(t, list, 2)
	assert.Contains(t, list[0].What, "things are got at from a step")
	assert.Contains(t, list[1].What, "from a ladder")
	for _, p := range s.Places {
		if p.Kind == "floor" {
			s.Homes = append(s.Homes, shop.Home{Item: "step-stool", Place: p.ID})
			break
		}
	}
	list = coded(t, s, "step")
	require.Len(t, list, 1)
	assert.Contains(t, list[0].What, "from a ladder", "a stool is not enough for that")
	item(s, "step-stool").Name = "Ladder"
	assert.Empty(t, coded(t, s, "step"))
}

func TestProtectiveGearLivesNearWhereItIsWorn(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	ears := item(s, "ear-defenders")
	require.Equal(t, []string{"bandsaw", "planer"}, ears.UsedAt)
	var both []string
	for _, station := range ears.UsedAt {
		near, far := "", ""
		for _, p := range s.Places {
			if p.Kind != "wall-field" {
				continue
			}
			out := s.Clone()
			item(out, "ear-defenders").UsedAt = []string{station}
			out.Homes = append(out.Homes, shop.Home{Item: "ear-defenders", Place: p.ID})
			list := coded(t, out, "gear")
			if len(list) == 0 {
				near = p.ID
				continue
			}
			far = p.ID
			require.Len(t, list, 1)
			assert.Positive(t, list[0].By)
			assert.Equal(t, "mm", list[0].Unit)
			assert.Contains(t, list[0].What, "Ear defenders in "+p.ID)
		}
		require.NotEmpty(t, near, station)
		require.NotEmpty(t, far, station)
		both = append(both, near)
	}
	// A pair of its own at each machine is at hand at both.
	second := *ears
	second.ID = "ear-defenders-2"
	s.Items = append(s.Items, second)
	s.Homes = append(s.Homes, shop.Home{Item: "ear-defenders", Place: both[0]}, shop.Home{Item: second.ID, Place: both[1]})
	assert.Empty(t, coded(t, s, "gear"))
	s.Homes[len(s.Homes)-1].Place = both[0]
	assert.Len(t, coded(t, s, "gear"), 1, "one of the machines has none near")
}
