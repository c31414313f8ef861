package scene

import (
	"math"
	"slices"
	"sync/atomic"

	"hobrak/internal/core/access"
)

// breaks remembers the heights of each column of each place at which the band changes: they are asked for again for each thing.
type breaks []atomic.Pointer[inColumns]

// inColumns are the heights in the columns of a place from the first on.
type inColumns struct {
	first   int
	heights [][]float64
	all     []float64 // of any column
}

// Breaks lists the heights above a place's lower edge, mm, at which the band changes in any of the scenes in the column of x, rising and each
// once. The list is shared: it must not be changed.
func (s *Scenes) Breaks(place int, x float64) []float64 {
	of := s.columns(place)
	if k := columnOf(s.Base.Front(place).X+x) - of.first; k >= 0 && k < len(of.heights) {
		return of.heights[k]
	}
	return s.breaksAt(place, x)
}

// Columns of a place: the heights of Breaks in any of them, rising and each once, how many columns there are, and the number
// of the first along what it is on; none where Breaks must be asked at each x. The list is shared: it must not be changed.
func (s *Scenes) Columns(place int) (heights []float64, columns, first int) {
	of := s.columns(place)
	return of.all, len(of.heights), of.first
}

func (s *Scenes) columns(place int) *inColumns {
	s.asked.Do(func() { s.breaks = make(breaks, len(s.Base.Shop.Places)) })
	of := s.breaks[place].Load()
	if of == nil {
		of = s.inColumns(place)
		s.breaks[place].Store(of)
	}
	return of
}

// inColumns are the heights of a place; none where it is elsewhere along what it is on in some of the scenes, as its columns begin elsewhere then.
func (s *Scenes) inColumns(place int) *inColumns {
	left := s.Base.Front(place).X
	out := &inColumns{first: columnOf(left)}
	if slices.ContainsFunc(s.All, func(x Scene) bool { return x.Map.Front(place).X != left }) {
		return out
	}
	for k := out.first; k <= columnOf(left+s.Base.Shop.Places[place].W.MM()); k++ {
		out.heights = append(out.heights, s.breaksAt(place, (float64(k)+.5)*access.ColumnWidth-left))
		out.all = append(out.all, out.heights[len(out.heights)-1]...)
	}
	slices.Sort(out.all)
	out.all = slices.Compact(out.all)
	return out
}

func columnOf(x float64) int { return int(math.Floor(x / access.ColumnWidth)) }

func (s *Scenes) breaksAt(place int, x float64) (out []float64) {
	for i := range s.All {
		out = append(out, s.All[i].Map.Breaks(place, x)...)
	}
	slices.Sort(out)
	return slices.Compact(out)
}
