package check_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

const guarded = `{"format":"hobrak-shop","version":1,"shop":{"name":"S","units":"metric"},"areas":[{"id":"main","corners":[[0,0],[0,4000],[5000,4000],[5000,0]],"walls":[
	{"id":"A","profile":[[0,2600],[4000,2600]],"claimed":true,"features":[{"id":"panel","kind":"panel","x":1500,"z":1200,"w":400,"h":600}]},
	{"id":"B","profile":[[0,2600],[5000,2600]],"claimed":true,"features":[{"id":"gate","kind":"sectional-door","x":1000,"z":0,"w":2400,"h":2100}]},
	{"id":"C","profile":[[0,2600],[4000,2600]],"claimed":true,"features":[{"id":"door","kind":"door","x":1000,"z":0,"w":900,"h":2000,"hinge":"left","swing":"in"}]},
	{"id":"D","profile":[[0,2600],[5000,2600]],"claimed":true}]}],
	"stations":[{"id":"bench","name":"Bench","kind":"bench","x":1000,"y":100,"w":1500,"d":600,"h":900,"stand":[1700,1000]},{"id":"saw","name":"Saw","kind":"table-saw","x":3800,"y":1500,"w":800,"d":800,"h":860,"stand":[4200,1200],"mobility":"rolls"}],
	"places":[%s],"modes":[{"id":"away","name":"Put away","spots":{%s}}]}`

func byKey(t *testing.T, places, spots string) map[string]check.Finding {
	t.Helper()
	s, err := shop.Read([]byte(fmt.Sprintf(guarded, places, spots)))
	require.NoError(t, err)
	list, err := check.Shop(s)
	require.NoError(t, err)
	out := map[string]check.Finding{}
	for _, f := range list {
		out[f.Code+" "+f.Where] = f
	}
	return out
}

func TestWhatHangsInTheRoomOfPanelDoorAndTracksIsFound(t *testing.T) {
	for code, place := range map[string]string{
		"panel":      `{"id":"P","kind":"shelf","at":{"wall":"A","x":1950,"z":1400},"w":600,"h":300,"d":600}`,
		"track":      `{"id":"P","kind":"deck","at":{"ceiling":[1500,2900],"z":2200},"w":1000,"h":200,"d":600}`,
		"door-swing": `{"id":"P","kind":"deck","at":{"ceiling":[4300,2400],"z":1500},"w":500,"h":200,"d":400}`,
	} {
		got := byKey(t, place, "")
		assert.Contains(t, got, code+" P")
	}
	clear := byKey(t, `{"id":"P","kind":"shelf","at":{"wall":"D","x":2800,"z":1400},"w":600,"h":300,"d":300}`, "")
	for key := range clear {
		assert.NotContains(t, []string{"panel P", "track P", "door-swing P"}, key)
	}
}

func TestASpotOfAModeInsideSomethingElseIsFound(t *testing.T) {
	assert.True(t, byKey(t, "", `"saw":{"floor":[1200,200]}`)["standing modes[0].spots.saw"].Hard, "on the bench")
	assert.True(t, byKey(t, "", `"saw":{"floor":[4500,3500]}`)["outside modes[0].spots.saw"].Hard, "through the wall")
	for key, f := range byKey(t, "", `"saw":{"floor":[3000,1500],"rot":90}`) {
		assert.False(t, f.Hard, key)
	}
	assert.NotContains(t, byKey(t, "", `"bench":"folded","saw":{"floor":[1200,220]}`), "standing modes[0].spots.saw", "it is folded then")
}

func TestAShopWithoutFirstAidOrAnExtinguisherIsTold(t *testing.T) {
	s, err := shop.Read([]byte(fmt.Sprintf(guarded, "", "")))
	require.NoError(t, err)
	codes := func() (n int) {
		list, err := check.Shop(s)
		require.NoError(t, err)
		for _, f := range list {
			if f.Code == "emergency" {
				n++
			}
		}
		return n
	}
	assert.Zero(t, codes(), "an empty shop is not nagged")
	for i := range 12 {
		s.Items = append(s.Items, shop.Item{ID: fmt.Sprintf("i%d", i), Name: "Chisel", W: length.MM(20), H: length.MM(200), D: length.MM(20)})
	}
	assert.Equal(t, 2, codes())
	s.Items[0].Name = "First aid kit"
	assert.Equal(t, 1, codes())
	s.Items[1].Name = "Fire extinguisher"
	assert.Zero(t, codes())
	s.Items[1].Status = "wished"
	assert.Equal(t, 1, codes(), "what is only wished for helps nobody")
}
