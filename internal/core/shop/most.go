package shop

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

// What an item is at most, as the tags of its fields say. None of it is negative, and sides
// are more than 0.
var (
	MostSide      = length.MM(most[Item]("w"))
	MostWeight    = weight.KG(most[Item]("kg"))
	MostCount     = int(most[Item]("count"))
	MostUses      = most[Item]("uses_per_week")
	MostClearance = length.MM(most[Item]("clearance"))
)

func most[T any](name string) float64 {
	_, m, _ := Limits[T](name)
	return m
}
