package exchange_test

import (
	"bytes"
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tealeg/xlsx/v3"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/table"
	"hobrak/internal/exchange"
)

// formula is a cell that is worked out; the program that wrote it kept its value.
type formula struct{ is, value string }

// merged spans so many columns.
type merged struct {
	text string
	over int
}

// workbook as another program writes it.
func workbook(t *testing.T, rows [][]any) []byte {
	f := xlsx.NewFile()
	sheet, err := f.AddSheet("Tools")
	require.NoError(t, err)
	for _, cells := range rows {
		row := sheet.AddRow()
		for _, v := range cells {
			c := row.AddCell()
			switch v := v.(type) {
			case nil:
			case formula:
				c.SetFormula(v.is)
				c.Value = v.value
			case merged:
				c.SetString(v.text)
				c.Merge(v.over-1, 0)
				for range v.over - 1 {
					row.AddCell()
				}
			default:
				c.SetValue(v)
			}
		}
	}
	var b bytes.Buffer
	require.NoError(t, f.Write(&b))
	return b.Bytes()
}

// thing is what a row is about: its name, how many, and its size and place.
func thing(it *shop.Item, place string) string {
	return fmt.Sprintf("%d %s %gx%gx%g %s", it.Number(), it.Name, it.W.MM(), it.H.MM(), it.D.MM(), place)
}

// Lists as people keep them: a title, heads over several columns, inches in the head, a place, sums, remarks beside.
func TestWorkbooksOfOthersComeInAsTheyAreMeant(t *testing.T) {
	for _, c := range []struct {
		name string
		rows [][]any
		want []string
		left int
	}{
		{"a title, inches in the head, a total", [][]any{
			{merged{"My tools, spring 2026", 4}}, {},
			{"Tool", "Qty", "W (in)", "H (in)", "D (in)"},
			{"Jack plane", 1, 2.5, 14, 5.5}, {"Mallet", 3, 6, 12.5, 3.5},
			{"Total", formula{"SUM(B4:B5)", "4"}}},
			[]string{"1 Jack plane 63.5x355.6x139.7 ", "3 Mallet 152.4x317.5x88.9 "}, 1},
		{"a sum with its number in the name", [][]any{
			{"Item", "Count"}, {"Hammer", 4}, {"Pliers", 5}, {"Total 9"}},
			[]string{"4 Hammer 130x330x40 ", "5 Pliers 60x190x22 "}, 1},
		{"two rows of heads, the upper ones over three columns", [][]any{
			{"What", merged{"Size in mm", 3}, "Where"}, {nil, "W", "H", "D", nil},
			{"Box of bits", 200, 60, 150, nil}, {"Tin of wax", 90, 70, 90, nil}},
			[]string{"1 Box of bits 200x60x150 ", "1 Tin of wax 90x70x90 "}, 0},
		{"headings in between, in capitals", [][]any{
			{"Tool", "Number"}, {"PLANES"}, {"Jack plane", 2}, {"SAWS"}, {"Tenon saw", 1}},
			[]string{"2 Jack plane 65x360x140 ", "1 Tenon saw 130x470x28 "}, 2},
		{"remarks in the margin and an empty column", [][]any{
			{"Name", nil, "Qty", "Notes"}, {"Rasp", nil, 3, "coarse"}, {nil, nil, nil, "ask Ann which of these are hers"}, {"File", nil, 6, nil}},
			[]string{"3 Rasp 32x330x14 ", "6 File 28x300x12 "}, 1},
		{"sums with no name, worked out", [][]any{
			{"Thing", "Count", "Weight kg"}, {"Vice", 1, 12.5}, {"Anvil stand", 1, 30}, {nil, formula{"SUM(B2:B3)", "2"}, formula{"SUM(C2:C3)", "42.5"}}},
			[]string{"1 Vice 200x200x300 ", "1 Anvil stand 200x150x120 "}, 1},
		{"figures that are formulas", [][]any{
			{"Thing", "Width mm", "Height mm", "Depth mm"}, {"Sled", formula{"2*350", "700"}, formula{"60+60", "120"}, 600}},
			[]string{"1 Sled 700x120x600 "}, 0},
		{"the heads once more on the second page", [][]any{
			{"Tool", "Qty"}, {"Square", 2}, {"Tool", "Qty"}, {"Bevel", 1}},
			[]string{"2 Square 120x250x25 ", "1 Bevel 60x250x25 "}, 1},
		{"sizes in one cell, feet and inches", [][]any{
			{"Tools of the lean-to"}, {"Tool", "Size", "How many"}, {"Ladder", `1' 6" x 5' x 6"`, 1}, {"Crate", "24 x 16 x 14 in", 2}, {"Sum:", nil, 3}},
			[]string{"1 Ladder 457.2x1524x152.4 ", "2 Crate 609.6x406.4x355.6 "}, 1},
		{"a column that says where", [][]any{
			{"Gegenstand", "Anzahl", "Ort"}, {"Hobel", 2, "K2-1"}, {"Stechbeitel", 8, "K2-1"}, {"Gesamt", 10}},
			[]string{"2 Hobel 200x150x120 K2-1", "8 Stechbeitel 200x150x120 K2-1"}, 1},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := exchange.ReadTable(context.Background(), workbook(t, c.rows), "", "")
			require.NoError(t, err)
			s, err := shop.Read(demo.Slipway)
			require.NoError(t, err)
			s.Items, s.Homes = nil, nil
			g := table.Recognise(s, got.Rows, false)
			r, err := table.Read(s, got.Rows, g.Mapping, nil)
			require.NoError(t, err)
			assert.Equal(t, c.left, r.Left, "%+v", r.Rows)
			assert.Zero(t, r.Faulty, "%+v", r.Rows)
			_, err = table.Apply(s, r)
			require.NoError(t, err)
			var list []string
			for i := range s.Items {
				place := s.Items[i].Lies
				for _, h := range s.Homes {
					if h.Item == s.Items[i].ID {
						place = h.Place
					}
				}
				list = append(list, thing(&s.Items[i], place))
			}
			assert.Equal(t, c.want, list)
		})
	}
}
