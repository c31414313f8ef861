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
}

// Breaks lists the heights above a place's lower edge, mm, at which the band changes in any of the scenes in the column of x, rising and each
// once. The list is shared: it must not be changed.
func (s *Scenes) Breaks(place int, x float64) []float64 {
	s.asked.Do(func() { s.breaks = make(breaks, len(s.Base.Shop.Places)) })
	of := s.breaks[place].Load()
	if of == nil {
		of = s.inColumns(place)
		s.breaks[place].Store(of)
	}
	if k := columnOf(s.Base.Front(place).X+x) - of.first; k >= 0 && k < len(of.heights) {
		return of.heights[k]
	}
	return s.breaksAt(place, x)
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
	}
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
