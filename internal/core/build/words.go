package build

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

// What is said carries quantities; they are written at the edge, in the shop's units.

func rough(kg float64) string { return weight.Rough(kg) }
func fine(v float64) string   { return length.Fine(v) }

func size(v ...float64) string {
	out := make([]length.Length, len(v))
	for i, x := range v {
		out[i] = mm(x)
	}
	return length.Size(out...)
}
