package main

import (
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"hobrak/internal/core/cutting"
)

func cutCommand() *cobra.Command {
	var parts, stock, out string
	var o cutting.Options
	var seconds float64
	c := &cobra.Command{
		Use:   "cut --parts P.csv --stock S.csv --out C.json",
		Short: "Cut parts from boards and sheets, by cuts that go right through; says how far the plan may be from the best",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			p, err := readParts(parts)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			s, err := readStock(stock)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			if seconds <= 0 {
				seconds = 5
			}
			began := time.Now()
			o.Spent = func() float64 { return time.Since(began).Seconds() / seconds }
			plan, err := cutting.Of(p, s, o)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			if err := writeFile(out, func(w io.Writer) error {
				e := json.NewEncoder(w)
				e.SetIndent("", "  ")
				return e.Encode(plan)
			}); err != nil {
				return &exit{code: exitInput, err: err}
			}
			if n := len(plan.Unplaced); n > 0 {
				return &exit{code: exitBroken, err: fmt.Errorf("%d parts find no stock: %s", n, strings.Join(slices.Compact(plan.Unplaced), ", "))}
			}
			return nil
		},
	}
	f := c.Flags()
	f.StringVar(&parts, "parts", "", "CSV with columns name,count,l,w,t,material,grain (l, w or none), millimetres")
	f.StringVar(&stock, "stock", "", "CSV with columns name,count,l,w,t,material,price; an empty count may be bought")
	f.StringVar(&out, "out", "", "file for the plan, JSON")
	f.Float64Var(&o.Kerf, "kerf", 3.2, "what the saw takes, mm")
	f.Float64Var(&o.Trim, "trim", 0, "taken off each edge of the stock first, mm")
	f.Float64Var(&seconds, "seconds", 5, "how long to look")
	f.Uint64Var(&o.Seed, "seed", 1, "another number, another search")
	f.StringVar(&o.Goal, "goal", cutting.LeastWaste, "least-waste, fewest-cuts, fewest-new or small-first")
	required(c, "parts", "stock", "out")
	return c
}

// table of a CSV file whose first row names its columns.
type csvTable struct {
	file string
	at   map[string]int
	rows [][]string
}

func readCSV(file string, needed ...string) (*csvTable, error) {
	f, err := os.Open(file)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	r := csv.NewReader(io.LimitReader(f, 16<<20))
	r.TrimLeadingSpace, r.FieldsPerRecord = true, -1
	rows, err := r.ReadAll()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	if len(rows) == 0 {
		return nil, fmt.Errorf("%s is empty: its first row names the columns %s", file, strings.Join(needed, ", "))
	}
	t := &csvTable{file: file, at: map[string]int{}, rows: rows[1:]}
	for i, name := range rows[0] {
		t.at[strings.ToLower(strings.TrimSpace(strings.TrimPrefix(name, "\ufeff")))] = i
	}
	for _, name := range needed {
		if _, ok := t.at[name]; !ok {
			return nil, fmt.Errorf("%s has no column %q; its first row should name %s", file, name, strings.Join(needed, ", "))
		}
	}
	return t, nil
}

func (t *csvTable) text(row int, name string) string {
	i, ok := t.at[name]
	if !ok || i >= len(t.rows[row]) {
		return ""
	}
	return strings.TrimSpace(t.rows[row][i])
}

// number in a cell; empty is what is said for it.
func (t *csvTable) number(row int, name string, empty float64) (float64, error) {
	text := t.text(row, name)
	if text == "" {
		return empty, nil
	}
	v, err := strconv.ParseFloat(strings.ReplaceAll(text, ",", "."), 64)
	if err != nil {
		return 0, fmt.Errorf("%s, row %d, %s: %q is no number", t.file, row+2, name, text)
	}
	return v, nil
}

func readParts(file string) ([]cutting.Part, error) {
	t, err := readCSV(file, "name", "count", "l", "w", "t", "material")
	if err != nil {
		return nil, err
	}
	var out []cutting.Part
	for i := range t.rows {
		p := cutting.Part{Name: t.text(i, "name"), Material: t.text(i, "material"), Grain: cutting.Grain(strings.ToLower(t.text(i, "grain")))}
		n, err1 := t.number(i, "count", 1)
		l, err2 := t.number(i, "l", 0)
		w, err3 := t.number(i, "w", 0)
		th, err4 := t.number(i, "t", 0)
		if err := errors.Join(err1, err2, err3, err4); err != nil {
			return nil, err
		}
		p.Count, p.L, p.W, p.T = int(n), l, w, th
		out = append(out, p)
	}
	return out, nil
}

func readStock(file string) ([]cutting.Stock, error) {
	t, err := readCSV(file, "name", "count", "l", "w", "t", "material")
	if err != nil {
		return nil, err
	}
	var out []cutting.Stock
	for i := range t.rows {
		s := cutting.Stock{Name: t.text(i, "name"), Material: t.text(i, "material")}
		n, err1 := t.number(i, "count", -1)
		l, err2 := t.number(i, "l", 0)
		w, err3 := t.number(i, "w", 0)
		th, err4 := t.number(i, "t", 0)
		price, err5 := t.number(i, "price", 0)
		if err := errors.Join(err1, err2, err3, err4, err5); err != nil {
			return nil, err
		}
		s.Count, s.L, s.W, s.T, s.Price = int(n), l, w, th, price
		out = append(out, s)
	}
	return out, nil
}
