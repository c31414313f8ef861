package daily_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/daily"
	"hobrak/internal/core/event"
	"hobrak/internal/core/gather"
	"hobrak/internal/core/shop"
)

// What is out and laid down somewhere is there for now, as many pieces of it as were laid; from its home it is taken there at once.
func TestWhatIsLaidDownIsThereForNow(t *testing.T) {
	s := &shop.Shop{Items: []shop.Item{{ID: "clamp", Name: "Clamp", Count: 6}}}
	var log event.Log
	press := func(what event.Kind, n int, on string) error {
		list, err := daily.Events(s, &daily.Tap{What: what, Items: []gather.Want{{Item: "clamp", N: n}}, On: on}, log.Outstanding())
		for _, e := range list {
			e.ID, e.At = int64(len(log)+1), "2027-05-31"
			log = append(log, e)
		}
		return err
	}
	where := func() map[string]int {
		out := map[string]int{}
		for _, e := range log.Outstanding() {
			out[e.On] += e.Number()
		}
		return out
	}
	require.NoError(t, press(event.Laid, 2, "Assembly table"))
	assert.Equal(t, map[string]int{"Assembly table": 2}, where(), "taken from its home and laid there")
	require.NoError(t, press(event.Taken, 3, ""))
	require.NoError(t, press(event.Laid, 1, "D2"))
	assert.Equal(t, map[string]int{"Assembly table": 2, "": 2, "D2": 1}, where())
	require.NoError(t, press(event.Laid, 5, "the boot of the car"))
	assert.Equal(t, map[string]int{"the boot of the car": 5}, where())
	assert.ErrorContains(t, press(event.Laid, 6, "E"), "only 5 of Clamp are out")
	require.NoError(t, press(event.PutBack, 5, ""))
	assert.Empty(t, where())
	uses := 0
	for _, e := range log {
		if e.What.Use() {
			uses += e.Number()
		}
	}
	assert.Equal(t, 5, uses, "to lay it elsewhere is no use")
}

// Every thing that guards is told once, when and only when it is not as it should be, the worst first.
func TestWhatGuardsIsToldWhenItIsNotAsItShouldBe(t *testing.T) {
	today := time.Date(2027, 3, 1, 0, 0, 0, 0, time.UTC)
	s := &shop.Shop{Items: []shop.Item{
		{ID: "plane", Name: "Jack plane", Kind: "jack-plane"},
		{ID: "ext", Name: "Extinguisher", Kind: "fire-extinguisher", Due: "2027-02-28"},
		{ID: "aid", Name: "First aid box", Kind: "box"},
		{ID: "mask", Name: "Mask", Kind: "dust-mask", Due: "2027-03-20"},
		{ID: "far", Name: "Filter", Kind: "dust-mask", Due: "2028-03-20"},
		{ID: "strap", Name: "Lashing strap", Due: "2027-03-30"},
		{ID: "wish", Name: "Face shield", Kind: "face-shield", Status: "wished", Due: "2020-01-01"},
	}}
	told := func(out event.Log, missing map[string]string) (list []string) {
		for _, g := range daily.Guards(s, out, missing, today) {
			require.NotEmpty(t, g.Says)
			list = append(list, fmt.Sprintf("%s %s %s", g.State, g.Item, g.Day))
		}
		return list
	}
	assert.Equal(t, []string{"overdue ext 2027-02-28", "due mask 2027-03-20", "due strap 2027-03-30"}, told(nil, nil))
	out := event.Log{{ID: 1, At: "2027-02-20", What: event.Taken, Item: "aid"}, {ID: 2, At: "2027-02-21", What: event.Taken, Item: "plane"}, {ID: 3, At: "2027-02-21", What: event.Taken, Item: "far"}}
	assert.Equal(t, []string{"missing mask 2027-02-27", "overdue ext 2027-02-28", "out aid 2027-02-20", "due strap 2027-03-30"},
		told(out, map[string]string{"mask": "2027-02-27", "plane": "2027-02-27"}), "a mask in use is where it should be; a plane that is missing guards nobody")
}

func TestBatteriesAndWhatRunsOnThem(t *testing.T) {
	s := &shop.Shop{Items: []shop.Item{
		{ID: "b18", Name: "18 V battery", Kind: "battery", Count: 2, Family: "18 V"},
		{ID: "b12", Name: "12 V battery", Kind: "battery"},
		{ID: "old", Name: "Old battery", Kind: "battery"},
		{ID: "drill", Name: "Cordless drill", Kind: "drill", With: []string{"b18"}, UsesPerWeek: 3},
		{ID: "driver", Name: "Driver", Kind: "impact-driver", Family: "18 V", UsesPerWeek: 2},
		{ID: "multi", Name: "Multi-tool", Kind: "cordless-multi-tool", With: []string{"b12"}},
		{ID: "saw", Name: "Cordless saw", Kind: "cordless-circular-saw"},
		{ID: "ch", Name: "Charger", Kind: "battery-charger", Family: "18 V"},
		{ID: "plane", Name: "Jack plane", Kind: "jack-plane", Family: "18 V"},
	}}
	list, bare := daily.Batteries(s)
	assert.Equal(t, []string{"Cordless saw"}, bare)
	require.Len(t, list, 3)
	assert.Equal(t, daily.Power{Battery: "b18", Name: "18 V battery", Count: 2, Tools: []string{"Cordless drill", "Driver"}, Chargers: []string{"Charger"}, Uses: 5}, list[0])
	assert.Contains(t, list[1].Says, "nothing here charges it")
	assert.Contains(t, list[2].Says, "nothing here runs on it")
}
