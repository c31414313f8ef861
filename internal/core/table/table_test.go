package table_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/table"
	"hobrak/internal/core/weight"
)

func demoShop(t require.TestingT, data []byte) *shop.Shop {
	s, err := shop.Read(data)
	require.NoError(t, err)
	return s
}

// sheet makes rows of a text with | between cells.
func sheet(text string) (rows [][]string) {
	for _, l := range strings.Split(strings.Trim(text, "\n"), "\n") {
		rows = append(rows, strings.Split(l, "|"))
	}
	return rows
}

// imported reads a sheet into the shop as it is recognised.
func imported(t require.TestingT, s *shop.Shop, rows [][]string) (*table.Reading, []string) {
	g := table.Recognise(s, rows, false)
	r, err := table.Read(s, rows, g.Mapping, nil)
	require.NoError(t, err)
	notes, err := table.Apply(s, r)
	require.NoError(t, err)
	require.NoError(t, s.Validate())
	return r, notes
}

func homesByItem(s *shop.Shop) map[string][]shop.Home {
	out := map[string][]shop.Home{}
	for _, h := range s.Homes {
		out[h.Item] = append(out[h.Item], h)
	}
	return out
}

func TestBothDemosComeBackFromTheirOwnTables(t *testing.T) {
	for name, data := range map[string][]byte{"slipway": demo.Slipway, "pantry": demo.Pantry} {
		t.Run(name, func(t *testing.T) {
			before := demoShop(t, data)
			rows := table.Rows(before)
			again := demoShop(t, data)
			r, _ := imported(t, again, rows)
			assert.Equal(t, len(before.Items), r.Same, "read into the same shop nothing is new")
			assert.Equal(t, before, again)

			empty := demoShop(t, data)
			empty.Items, empty.Homes = nil, nil
			r, notes := imported(t, empty, rows)
			assert.Equal(t, len(before.Items), r.New)
			assert.Empty(t, notes)
			assert.Equal(t, before.Items, empty.Items)
			assert.Equal(t, homesByItem(before), homesByItem(empty))
		})
	}
}

func TestAnyListComesBackFromItsTable(t *testing.T) {
	text := rapid.StringMatching(`[A-Za-z=+@'#"-][A-Za-z0-9 =+@'",;#é-]{0,12}[a-z0-9]`)
	rapid.Check(t, func(t *rapid.T) {
		s := demoShop(t, demo.Pantry)
		s.Settings.Units = rapid.SampledFrom([]length.System{length.Metric, length.Imperial}).Draw(t, "units")
		s.Items, s.Homes = nil, nil
		micro := rapid.Int64Range(1, 3_000_000)
		for i := range rapid.IntRange(1, 6).Draw(t, "n") {
			side := func(name string) length.Length { return length.Length(micro.Draw(t, name)) }
			it := shop.Item{ID: fmt.Sprintf("t%d", i), Name: text.Draw(t, "name"), W: side("w"), H: side("h"), D: side("d"), KG: weight.Weight(rapid.Int64Range(0, 90_000_000).Draw(t, "mg")),
				UsesPerWeek: rapid.Float64Range(0, 50).Draw(t, "uses"), Count: rapid.SampledFrom([]int{0, 2, 40}).Draw(t, "count"), Keep: rapid.Bool().Draw(t, "keep"),
				Hold: rapid.SampledFrom([][]shop.Hold{nil, {"hang"}, {"flat", "stand"}}).Draw(t, "hold"), Flags: rapid.SampledFrom([][]shop.Flag{nil, {"sharp", "rust"}}).Draw(t, "flags"),
				Assumed: rapid.SampledFrom([][]string{nil, {"kg"}, {"w", "uses_per_week"}}).Draw(t, "assumed"), Status: rapid.SampledFrom([]string{"", "wished"}).Draw(t, "status")}
			if rapid.Bool().Draw(t, "more") {
				c, turn := side("clearance"), rapid.Bool().Draw(t, "turn")
				c = min(c, length.Metre)
				it.Clearance, it.Turn, it.Notes, it.Family = &c, &turn, text.Draw(t, "notes"), text.Draw(t, "family")
				it.Flat = &shop.Size{W: side("fw"), H: side("fh"), D: side("fd")}
				it.Twins, it.Review, it.GoesTo = 2, "2027-05-31", text.Draw(t, "to")
			}
			s.Items = append(s.Items, it)
		}
		rows := table.Rows(s)
		empty := s.Clone()
		empty.Items = nil
		imported(t, empty, rows)
		assert.Equal(t, s.Items, empty.Items)
	})
}

func TestCellsThatWouldBeFormulasAreHarmless(t *testing.T) {
	s := demoShop(t, demo.Slipway)
	s.Items[0].Name, s.Items[1].Name, s.Items[2].Notes = `=HYPERLINK("x")`, "'@home", "-1 of two"
	for _, row := range table.Rows(s) {
		for _, c := range row {
			if c != "" {
				assert.NotContains(t, "=+-@\t\r", c[:1], c)
			}
		}
	}
}

func TestColumnsAreRecognisedByTheirHeadings(t *testing.T) {
	s := demoShop(t, demo.Slipway)
	for _, c := range []struct{ name, text, want string }{
		{"plain", "Tool|Qty|Width (in)|Height (in)|Depth (in)|Weight (lb)|Notes\nHammer|1|5|13|1.5|1.8|", "name,count,w:in,h:in,d:in,kg:lb,notes"},
		{"unit words", "Name|Width in mm|Weight in kg|Height cm\nA|1|2|3", "name,w:mm,kg:kg,h:cm"},
		{"German", "Bezeichnung|Anzahl|Breite [cm]|Höhe [cm]|Tiefe [cm]|Gewicht/kg|Lagerort\nHobel|1|6|36|14|2|B1", "name,count,w:cm,h:cm,d:cm,kg:kg,home"},
		{"a title above", "My tools||\n||\nItem|Size|Where used\nHammer|130x330x40|bench", "name,size:mm,used_at"},
		{"merged headings", "Item|Size (in)||\n|W|H|D\nHammer|5|13|1.5", "name,w:in,h:in,d:in"},
		{"merged above", "|Size cm||\nItem|W|H|D\nHammer|5|13|1.5", "name,w:cm,h:cm,d:cm"},
		{"a slip", "Thing|Catgeory|Qauntity\nHammer|striking|2", "name,family,count"},
		{"length first", "Item|Length|Width|Height\nBoard|2400|120|22", "name,length:mm,w:mm,h:mm"},
		{"what is not known is left out", "Item|Bought from|Price\nHammer|somewhere|12", "name,,"},
		{"no headings", "Hammer|2|130|330|40|0.8\nMallet|1|150|320|90|0.7\nAdze|11|90|300|60|0.9", "name,count,w:mm,h:mm,d:mm,kg:kg"},
		{"content", "Hammer|bench|hang|weekly|0.8 kg\nMallet|bench, carving|hang flat|monthly|0.7 kg\nRasp|carving|flat|rarely|200 g", "name,used_at,hold,uses,kg:kg"},
		{"lines that say how often", "8 f-clamp 600 daily\ntenon saw weekly @bench\nmarking knife daily", "line"},
		{"lines", "8 f-clamp 600\njack plane 360x65x140 weekly\ntenon saw", "line"},
	} {
		t.Run(c.name, func(t *testing.T) {
			g := table.Recognise(s, sheet(c.text), false)
			var got []string
			for _, u := range g.Columns {
				f := u.Field
				if u.Unit != "" {
					f += ":" + u.Unit
				}
				got = append(got, f)
			}
			assert.Equal(t, c.want, strings.Join(got, ","))
			for i, u := range g.Columns {
				assert.Equal(t, u.Field != "", g.Why[i] != "", "a reason for what is taken")
			}
		})
	}
}

func TestUnitsAndMarksOfOtherCountriesAreRead(t *testing.T) {
	s := demoShop(t, demo.Slipway)
	s.Items, s.Homes = nil, nil
	imported(t, s, sheet("Item|W (in)|H|D (cm)|Weight (lb)\nInch thing|2 1/2|1,200|1.5|2"))
	it := s.Items[0]
	assert.Equal(t, [3]float64{63.5, 1200, 15}, [3]float64{it.W.MM(), it.H.MM(), it.D.MM()})
	assert.InDelta(t, .907185, it.KG.KG(), 1e-6)
	assert.Equal(t, []string{"uses_per_week"}, it.Assumed, "what the table does not say is assumed")

	s.Items = nil
	rows := sheet("Bezeichnung|Breite mm|Höhe mm|Gewicht kg|wie oft\nGroße Säge|1.200|62,5|1,25|0,5")
	g := table.Recognise(s, rows, true)
	assert.True(t, g.Comma)
	r, err := table.Read(s, rows, g.Mapping, nil)
	require.NoError(t, err)
	_, err = table.Apply(s, r)
	require.NoError(t, err)
	it = s.Items[0]
	assert.Equal(t, [2]float64{1200, 62.5}, [2]float64{it.W.MM(), it.H.MM()})
	assert.Equal(t, 1.25, it.KG.KG())

	s.Items = nil
	imported(t, s, sheet("Item|Size|Weight\nShelf board|30 x 5 x 3/4 in|11 oz\nBox|1,5 x 2 x 3 m|2kg\nF-clamp 600|12 x 4 in|"))
	assert.InDelta(t, 30*25.4, s.Items[0].W.MM(), .001)
	assert.InDelta(t, 19.05, s.Items[0].H.MM(), .001, "a board is known: its thinnest side is its height")
	assert.Equal(t, 1500.0, s.Items[1].W.MM())
	assert.Equal(t, "f-clamp", s.Items[2].Kind)
	assert.Contains(t, s.Items[2].Assumed, "d")
}

func TestFaultsNameRowAndColumnAndTheGoodRowsGoIn(t *testing.T) {
	s := demoShop(t, demo.Slipway)
	n := len(s.Items)
	rows := sheet(strings.Join([]string{
		"id|Item|Count|Width|Weight|Station|Where|Decide by",
		"|Good one|2|100|1|bench|B1|46533",
		"|Bad count|two|100|1|bench||",
		"|Bad width|1|wide|1|bench||",
		"|Bad station|1|100|1|moon||",
		"|Bad place|1|100|1||Z9|",
		"|Formula|=2+3|100|1|||",
		"|Broken|1|#REF!|1|||",
		"||1|100|1|||",
		"|||||||",
		"a|First|1|100|1|||",
		"a|Again|1|100|1|||",
		"|Rubbish \uFFFD|1|100|1|||",
		"|Too wide|1|99 m|1|||",
		"|Bad date|1|100|1|||soon",
	}, "\n"))
	g := table.Recognise(s, rows, false)
	r, err := table.Read(s, rows, g.Mapping, nil)
	require.NoError(t, err)
	assert.Equal(t, [4]int{2, 0, 11, 1}, [4]int{r.New, r.Changed, r.Faulty, r.Empty})
	assert.Equal(t, []string{"moon"}, r.Stations)
	var said []string
	for _, row := range r.Rows {
		for _, f := range row.Faults {
			said = append(said, f.Error())
		}
	}
	for i, want := range []string{
		"row 3, column C: \"two\" should be a whole number", "row 4, column D: \"wide", "row 5, column F: there is no station", "row 6, column G: there is no place \"Z9\"",
		"row 7, column C: this is a formula", "row 8, column D: the spreadsheet itself failed", "row 9, column B: what is it?", "row 12, column A: row 11 has this id already",
		"row 13, column B: this is not text", "row 14, column D: 99 m", "row 15, column H: \"soon\" should be a date",
	} {
		if assert.Greater(t, len(said), i) {
			assert.Contains(t, strings.ReplaceAll(quantity.Metric(said[i]), "99000 mm", "99 m"), want)
		}
	}
	assert.Len(t, s.Items, n, "nothing happens before it is asked for")
	notes, err := table.Apply(s, r)
	require.NoError(t, err)
	require.NoError(t, s.Validate())
	assert.Len(t, s.Items, n+2)
	it := shop.NewIndex(s).Item("good-one")
	require.NotNil(t, it)
	assert.Equal(t, "2027-05-26", it.Review, "a spreadsheet's own way to keep a date")
	assert.Equal(t, 1, len(notes)+len(shop.NewIndex(s).Homes("good-one")), "a place without a spot: a spot is found, or it is said why not")
}

func TestReadAgainATableChangesAndDoublesNothing(t *testing.T) {
	s := demoShop(t, demo.Slipway)
	rows := sheet("Thing|Weight kg|Family\nSpare plane|1.5|\nSpare plane|1.6|planes\nJack plane|2.9|")
	r, _ := imported(t, s, rows)
	assert.Equal(t, [2]int{2, 1}, [2]int{r.New, r.Changed}, "two of a name in the table are two things; one that is there is changed")
	assert.Equal(t, []string{"weight"}, r.Rows[2].Changes)
	n := len(s.Items)
	r, _ = imported(t, s, rows)
	assert.Equal(t, [3]int{0, 0, 3}, [3]int{r.New, r.Changed, r.Same})
	assert.Len(t, s.Items, n)
	// By id, also under another name; an empty cell says nothing, a dash takes away.
	r, _ = imported(t, s, sheet("id|Thing|Family|Weight\nspare-plane-2|Second plane|-|"))
	assert.Equal(t, 1, r.Changed)
	it := shop.NewIndex(s).Item("spare-plane-2")
	assert.Equal(t, "Second plane", it.Name)
	assert.Empty(t, it.Family)
	assert.Equal(t, 1.6, it.KG.KG())
}

func TestAPlaceWithoutASpotIsEnough(t *testing.T) {
	s := demoShop(t, demo.Slipway)
	ix := shop.NewIndex(s)
	drawer := ""
	for _, p := range s.Places {
		if p.Kind == "drawer" {
			drawer = p.ID
		}
	}
	at := ix.Homes("jack-plane")[0].Place
	r, notes := imported(t, s, sheet(fmt.Sprintf("Thing|Width|Height|Depth|Lives in\nTiny rule|20|20|5|%s\nHuge crate|3000|3000|3000|%s\nJack plane||||%s", drawer, drawer, at)))
	assert.Equal(t, "same", r.Rows[2].Does, "it lives there already")
	require.Len(t, notes, 1)
	assert.Contains(t, notes[0], "Huge crate lies in "+drawer+" without a spot of its own")
	assert.Equal(t, drawer, shop.NewIndex(s).Homes("tiny-rule")[0].Place)
}

func TestAMappingThatCannotBeIsRefused(t *testing.T) {
	s := demoShop(t, demo.Slipway)
	rows := sheet("A|B\n1|2")
	for _, c := range []struct {
		uses []table.Use
		says string
	}{
		{[]table.Use{{Field: "w"}, {Field: "h"}}, "no column says what the things are called"},
		{[]table.Use{{Field: "name"}, {Field: "name"}}, "columns A and B are both taken for thing"},
		{[]table.Use{{Field: "name"}, {Field: "colour"}}, `column B: there is no field "colour"`},
	} {
		_, err := table.Read(s, rows, table.Mapping{Columns: c.uses}, nil)
		assert.ErrorContains(t, err, c.says)
	}
	wide := [][]string{make([]string, table.MaxColumns+1)}
	_, err := table.Read(s, wide, table.Mapping{Columns: []table.Use{{Field: "name"}}}, nil)
	assert.ErrorContains(t, err, "401 columns")
	_, err = table.Read(s, make([][]string, table.MaxRows+1), table.Mapping{Columns: []table.Use{{Field: "name"}}}, nil)
	assert.ErrorContains(t, err, "20001 rows")
	_, err = table.Read(s, table.Rows(s), table.Recognise(s, table.Rows(s), false).Mapping, func(int, int) error { return fmt.Errorf("stopped") })
	assert.ErrorContains(t, err, "stopped")
}

// manyRows is a table of n different things.
func manyRows(n int) [][]string {
	rows := [][]string{{"Thing", "Count", "Width mm", "Height mm", "Depth mm", "Weight kg", "Times a week", "Used at", "Held", "Mind"}}
	names := []string{"Jack plane", "Tenon saw", "F-clamp 600", "Old brace of the harbour", "Spare glass jar", "Marking knife", "Moulding iron", "Tin of wax"}
	for i := range n {
		rows = append(rows, []string{fmt.Sprintf("%s %d", names[i%len(names)], i), "1", "60", "360", "140", "2.3", "1", "bench", "hang", "rust"})
	}
	return rows
}

func BenchmarkReadingFiveThousandRows(b *testing.B) {
	s := demoShop(b, demo.Slipway)
	rows := manyRows(5000)
	for b.Loop() {
		g := table.Recognise(s, rows, false)
		r, err := table.Read(s, rows, g.Mapping, nil)
		if err != nil || r.New != 5000 {
			b.Fatal(err, r)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add("Item|W (in)|Where\nHammer|2 1/2|B1 x=3 z=4 locked; K3-1 slot=8 n=2\nB|1,200|\n")
	f.Add("Size cm||\nW|H|D\n5|6|7")
	f.Add("8 f-clamp 600\n=1+1\n'@x")
	f.Add("a|l|w|h|d\nx|1|2|3|4\ny|=|#REF!||")
	s := demoShop(f, demo.Pantry)
	s.Items, s.Homes = s.Items[:3], nil
	f.Fuzz(func(t *testing.T, text string) {
		rows := sheet(text)
		g := table.Recognise(s, rows, len(text)%2 == 0)
		r, err := table.Read(s, rows, g.Mapping, nil)
		if err != nil {
			return
		}
		next := s.Clone()
		if _, err := table.Apply(next, r); err != nil {
			t.Fatal(err)
		}
		if _, err := shop.Read(shop.Write(next)); err != nil {
			t.Fatalf("rows said to be good made a shop that is not: %v", err)
		}
	})
}
