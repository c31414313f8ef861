package belongings_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/belongings"
	"hobrak/internal/core/check"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
)

// listed is a shop with the demo's room and just these lines on its list.
func listed(t require.TestingT, lines ...string) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Items, s.Homes = nil, nil
	for _, l := range lines {
		_, err := belongings.Add(s, line.Parse(l, belongings.Context(s)))
		require.NoError(t, err, l)
	}
	return s
}

func TestDuplicatesAreFoundByNameAndSize(t *testing.T) {
	for _, c := range []struct {
		name  string
		lines []string
		want  []string // ids of the first pair; none when they are not alike
	}{
		{"the same name", []string{"block plane 55x165x65", "block plane 56x160x60 uses:20"}, []string{"block-plane-2", "block-plane"}},
		{"an idle word", []string{"tenon saw", "old tenon saw"}, []string{"tenon-saw", "old-tenon-saw"}},
		{"a number behind", []string{"mallet", "mallet called:\"Mallet 2\""}, []string{"mallet", "mallet-2"}},
		{"a slip", []string{"called:\"Marking gauge\" kind:mallet", "called:\"Marking guage\" kind:mallet"}, []string{"marking-gauge", "marking-guage"}},
		{"another size", []string{"block plane 55x165x65", "block plane 75x265x65"}, nil},
		{"another number", []string{"called:\"No 4 plane\"", "called:\"No 5 plane\""}, nil},
		{"another grit", []string{"sandpaper 80 grit", "sandpaper 240 grit"}, nil},
		{"another sort", []string{"spokeshave called:\"Round spokeshave\"", "spokeshave called:\"Flat spokeshave\""}, nil},
		{"a length series", []string{"f-clamp 300", "f-clamp 600"}, nil},
		{"only wished for", []string{"block plane", "block plane wished"}, nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			got := belongings.Duplicates(listed(t, c.lines...))
			if c.want == nil {
				assert.Empty(t, got)
				return
			}
			require.Len(t, got, 1)
			assert.Equal(t, c.want, got[0].Items)
			assert.Contains(t, got[0].Says, "keep both")
		})
	}
}

func TestDuplicatesAreResolvedAndNotAskedAboutAgain(t *testing.T) {
	ids := []string{"block-plane", "block-plane-2"}
	two := func() *shop.Shop {
		s := listed(t, "block plane daily", "2 block plane weekly")
		s.Items[1].Photos, s.Items[1].Notes = []string{"x.jpg"}, "from a neighbour"
		s.Homes = []shop.Home{{Item: "block-plane", Place: "B1", X: 5}, {Item: "block-plane-2", Place: "B1", X: 9}}
		return s
	}
	for _, choice := range []string{belongings.KeepAll, belongings.Spare, belongings.Merge, belongings.Twice} {
		s := two()
		require.NoError(t, belongings.Resolve(s, ids, choice))
		require.NoError(t, s.Validate(), choice)
		assert.Empty(t, belongings.Duplicates(s), choice)
		switch choice {
		case belongings.KeepAll:
			assert.InDelta(t, 1, s.Items[1].UsesPerWeek, .01)
		case belongings.Spare:
			assert.InDelta(t, 1./52, s.Items[1].UsesPerWeek, 1e-9)
			assert.NotContains(t, s.Items[1].Assumed, "uses_per_week")
		case belongings.Merge:
			require.Len(t, s.Items, 1)
			assert.Equal(t, 3, s.Items[0].Number())
			assert.Equal(t, []shop.Home{{Item: "block-plane", Place: "B1", X: 5, N: 1}, {Item: "block-plane", Place: "B1", X: 9, N: 2}}, s.Homes, "all keep their spots")
			assert.Equal(t, "from a neighbour", s.Items[0].Notes)
		case belongings.Twice:
			require.Len(t, s.Items, 1)
			assert.Equal(t, 1, s.Items[0].Number())
			assert.Equal(t, []string{"x.jpg"}, s.Items[0].Photos)
		}
	}
	assert.ErrorContains(t, belongings.Resolve(two(), ids, "burn"), "should be all, spare, merge or twice")
	assert.ErrorContains(t, belongings.Resolve(two(), ids[:1], "all"), "at least two")
	assert.ErrorContains(t, belongings.Resolve(two(), []string{"block-plane", "ghost"}, "all"), "there is no item")
}

func TestResolvingNeverLosesAHomeOrMakesAShopThatCannotBe(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := listed(t, "3 mallet", "mallet", "2 mallet")
		for _, it := range s.Items {
			if rapid.Bool().Draw(t, "homed") {
				s.Homes = append(s.Homes, shop.Home{Item: it.ID, Place: "B1"})
			}
		}
		homes := len(s.Homes)
		choice := rapid.SampledFrom([]string{belongings.KeepAll, belongings.Spare, belongings.Merge}).Draw(t, "choice")
		if err := belongings.Resolve(s, []string{"mallet-2", "mallet", "mallet-3"}, choice); err != nil {
			t.Fatal(err)
		}
		if err := s.Validate(); err != nil || len(s.Homes) != homes {
			t.Fatal(err, len(s.Homes), homes)
		}
	})
}

func TestFamiliesAreProposedWithAReason(t *testing.T) {
	s := listed(t, "f-clamp 300", "4 f-clamp 600", "bandsaw blade @bandsaw", "called:\"Bandsaw fence\" @bandsaw", "bench chisel called:\"Chisel 6\"", "bench chisel called:\"Chisel 12\"", "bench chisel called:\"Chisel 25\"",
		"called:\"Purfling cutter\"", "called:\"Purfling channel\"", "called:\"Purfling bender\"", "called:\"Small thing\"", "called:\"Small box\"", "called:\"Small tin\"",
		"dovetail saw family:saws", "tenon saw family:saws", "tenon saw called:\"Tenon two\" family:saws", "tenon saw called:\"Tenon three\"", "mallet")
	got := map[string][]string{}
	for _, r := range belongings.Families(s) {
		got[r.Family] = r.Items
		assert.NotEmpty(t, r.Says)
	}
	assert.Equal(t, map[string][]string{
		"f-clamps": {"f-clamp-300-mm", "f-clamp-600-mm"}, "bandsaw": {"bandsaw-blade", "bandsaw-fence"}, "bench chisels": {"chisel-6", "chisel-12", "chisel-25"},
		"purfling": {"purfling-cutter", "purfling-channel", "purfling-bender"}, "saws": {"tenon-three"},
	}, got)
	for family, items := range got {
		require.NoError(t, belongings.Set(s, items, "family", family))
	}
	assert.Empty(t, belongings.Families(s), "what is in a family is not proposed again")
}

func TestWhatIsUsedLessThanOnceAYearIsSummedUpWithTheWallItTakes(t *testing.T) {
	s := listed(t, "mallet 100x300x90 hang daily", "2 frame saw 200x500x30 hang uses:0.01", "called:\"Grandfather's adze\" 100x400x50 hang uses:0 keep", "wax", "fire blanket uses:0.01")
	s.Items[2].UsesPerWeek = 0
	s.Items[2].Assumed = nil
	s.Homes = []shop.Home{{Item: s.Items[0].ID, Place: "B1"}, {Item: s.Items[1].ID, Place: "B1", X: 500_000}}
	d := belongings.Seldom(s)
	assert.Equal(t, []string{s.Items[1].ID}, d.Items)
	assert.Equal(t, [2]int{2, 1}, [2]int{d.Pieces, d.Kept}, "what is kept in any case is counted by itself")
	assert.InDelta(t, 2*.2*.5, d.Wall, 1e-9)
	assert.InDelta(t, .2/.23, d.WallShare, 1e-9)
	assert.InDelta(t, 2./6, d.Share, 1e-9, "a fire blanket does not gather dust")
}

func TestWhatMightLeaveWhenSomethingComesIn(t *testing.T) {
	s := listed(t, "block plane daily", "block plane called:\"Worn plane\" monthly", "block plane called:\"Gift\" monthly keep", "tenon saw family:planes", "mallet daily", "block plane called:\"New one\" family:planes")
	assert.Equal(t, []string{"worn-plane", "block-plane", "tenon-saw"}, belongings.Leaving(s, "new-one", 9))
	assert.Equal(t, []string{"worn-plane"}, belongings.Leaving(s, "new-one", 1))
	assert.Nil(t, belongings.Leaving(s, "ghost", 3))
}

func TestAStationThatIsNamedIsPutWhereTheFloorIsFree(t *testing.T) {
	s := listed(t)
	n := len(s.Stations)
	for name, kind := range map[string]string{"@router-table": "router-table", "Spray corner": "spray-corner", "second bandsaw": "bandsaw", "spindle sander": "spindle-sander"} {
		id, err := belongings.NewStation(s, name)
		require.NoError(t, err, name)
		require.NoError(t, s.Validate())
		assert.Equal(t, shop.StationKind(kind), shop.NewIndex(s).Station(id).Kind)
	}
	assert.Len(t, s.Stations, n+4)
	found, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range found {
		assert.False(t, f.Hard, "%s", f)
	}
	// On a full floor a station is put all the same, since it is there and its real spot is still to be said: never unsaid.
	said := func(id string) bool {
		found, err := check.Shop(s)
		require.NoError(t, err)
		return slices.ContainsFunc(found, func(f check.Finding) bool { return strings.Contains(f.Where, id) })
	}
	for i := 0; ; i++ {
		require.Less(t, i, 30, "the floor is never full")
		id, err := belongings.NewStation(s, fmt.Sprintf("bench %d", i))
		require.NoError(t, err)
		require.NoError(t, s.Validate())
		if said(id) {
			break
		}
	}
	assert.Equal(t, "Éclair bench", line.Title("éclair bench"))
	assert.Equal(t, []string{"router-table"}, line.Parse("router bit @router-table", belongings.Context(s)).Item.UsedAt)
	_, err = belongings.NewStation(s, " @ ")
	assert.ErrorContains(t, err, "needs a name")
}
