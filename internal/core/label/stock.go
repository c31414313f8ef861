package label

import (
	"fmt"

	"hobrak/internal/core/sheet"
)

// Stock is a sheet of labels as it is bought, by its measures, mm.
type Stock struct {
	Paper string  `json:"paper" enum:"A4,Letter"`
	W     float64 `json:"w" minimum:"5" maximum:"300"`
	H     float64 `json:"h" minimum:"5" maximum:"420"`
	Cols  int     `json:"cols" minimum:"1" maximum:"20"`
	Rows  int     `json:"rows" minimum:"1" maximum:"50"`
	Left  float64 `json:"left" doc:"to the left edge of the first label"`
	Top   float64 `json:"top" doc:"to the upper edge of the first label"`
	StepX float64 `json:"step_x" doc:"from one left edge to the next"`
	StepY float64 `json:"step_y" doc:"from one upper edge to the next"`
}

// even is a stock without gaps between rows, in the middle of its paper.
func even(paper sheet.Paper, w, h float64, cols, rows int, gap float64) Stock {
	s := Stock{Paper: paper.Name, W: w, H: h, Cols: cols, Rows: rows, StepX: w + gap, StepY: h}
	s.Left = (paper.W - float64(cols)*w - float64(cols-1)*gap) / 2
	s.Top = (paper.H - float64(rows)*h) / 2
	return s
}

// Stocks that are common; a new one is a line here.
var Stocks = []Stock{
	even(sheet.A4, 63.5, 38.1, 3, 7, 2.5),
	even(sheet.A4, 63.5, 33.9, 3, 8, 2.5),
	even(sheet.A4, 70, 37, 3, 8, 0),
	even(sheet.A4, 99.1, 38.1, 2, 7, 2.5),
	even(sheet.A4, 99.1, 57, 2, 5, 2.5),
	even(sheet.A4, 99.1, 67.7, 2, 4, 2.5),
	even(sheet.A4, 105, 74, 2, 4, 0),
	even(sheet.A4, 48.5, 25.4, 4, 10, 0),
	even(sheet.A4, 38.1, 21.2, 5, 13, 2.5),
	even(sheet.A4, 52.5, 29.7, 4, 10, 0),
	even(sheet.Letter, 66.7, 25.4, 3, 10, 3.2),
	even(sheet.Letter, 101.6, 33.9, 2, 7, 4.8),
	even(sheet.Letter, 101.6, 50.8, 2, 5, 4.8),
	even(sheet.Letter, 101.6, 84.7, 2, 3, 4.8),
	even(sheet.Letter, 44.5, 12.7, 4, 20, 7.6),
}

// PaperOf a stock.
func (s *Stock) PaperOf() (sheet.Paper, error) {
	for _, p := range []sheet.Paper{sheet.A4, sheet.Letter} {
		if p.Name == s.Paper {
			return p, nil
		}
	}
	return sheet.Paper{}, fmt.Errorf("%q is not a paper there is; say A4 or Letter", s.Paper)
}

// Check says what is wrong with the measures of a stock, and at which.
func (s *Stock) Check() (field string, err error) {
	p, err := s.PaperOf()
	if err != nil {
		return "paper", err
	}
	for _, x := range []struct {
		field       string
		v, least, m float64
	}{{"w", s.W, 5, p.W}, {"h", s.H, 5, p.H}, {"left", s.Left, 0, p.W}, {"top", s.Top, 0, p.H}, {"cols", float64(s.Cols), 1, 20}, {"rows", float64(s.Rows), 1, 50}} {
		if !(x.v >= x.least && x.v <= x.m) {
			return x.field, fmt.Errorf("%g is not possible; it should be from %g to %g", x.v, x.least, x.m)
		}
	}
	if s.Cols > 1 && s.StepX < s.W {
		return "step_x", fmt.Errorf("labels of %g mm would lie over each other; from one to the next it is at least as much", s.W)
	}
	if s.Rows > 1 && s.StepY < s.H {
		return "step_y", fmt.Errorf("labels of %g mm would lie over each other; from one to the next it is at least as much", s.H)
	}
	const slack = .6 // a sheet may be cut that far off
	if end := s.Left + float64(s.Cols-1)*s.StepX + s.W; end > p.W+slack {
		return "cols", fmt.Errorf("%d beside each other are %.1f mm wide, the paper is %.1f", s.Cols, end, p.W)
	}
	if end := s.Top + float64(s.Rows-1)*s.StepY + s.H; end > p.H+slack {
		return "rows", fmt.Errorf("%d below each other are %.1f mm high, the paper is %.1f", s.Rows, end, p.H)
	}
	return "", nil
}
