package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// said are the findings of a code about an id.
func said(t *testing.T, s *shop.Shop, code, id string) (out []string) {
	require.NoError(t, s.Validate())
	found, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range found {
		if f.Code == code && f.Where == id {
			assert.False(t, f.Hard)
			out = append(out, f.String())
		}
	}
	return out
}

func TestWhatTipsHangsIntoOrIsNotRatedIsACaution(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	require.Empty(t, said(t, s, "into", "B1"))
	place(s, "B1").At.Z = mm(700)
	assert.Contains(t, said(t, s, "into", "B1")[0], "hangs 180 mm down into bench")

	s, err = shop.Read(demo.Slipway)
	require.NoError(t, err)
	b := place(s, "B1")
	b.Capacity = 0
	assert.Empty(t, said(t, s, "not-rated", "B1"), "it covers three studs")
	for i := range s.Areas[0].Walls {
		s.Areas[0].Walls[i].Studs = nil
	}
	assert.Contains(t, said(t, s, "not-rated", "B1")[0], "0 studs behind it")
	s.Areas[0].Walls[1].Surface = "brick"
	assert.Contains(t, said(t, s, "not-rated", "B1")[0], "hangs on brick")
	b.Capacity = weight.KG(80)
	assert.Empty(t, said(t, s, "not-rated", "B1"), "a rating wins")

	// A tall narrow trolley with everything at its top.
	s, err = shop.Read(demo.Pantry)
	require.NoError(t, err)
	s.Containers = append(s.Containers, shop.Container{ID: "Q1", Kind: "trolley", At: shop.At{Floor: &shop.Point{mm(1000), mm(1000)}}, W: mm(300), D: mm(300), H: mm(1800), KG: weight.KG(8)})
	s.Places = append(s.Places, shop.Place{ID: "Q1-1", Kind: "shelf", At: shop.At{In: "Q1", Z: mm(1300)}, W: mm(280), H: mm(400), D: mm(280)})
	assert.Contains(t, said(t, s, "tips", "Q1")[0], "fix it to the wall", "empty it tips at 8 degrees, under 10")
}
