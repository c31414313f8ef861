package api

import (
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/event"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// worded types of the core are texts of which only some words are known.
type worded interface {
	~string
	Words() []string
}

// words describes such a type: the core knows its words, this what a description is.
type words[T worded] string

// Schema of the type: its words.
func (words[T]) Schema(huma.Registry) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeString}
	for _, w := range T("").Words() {
		s.Enum = append(s.Enum, w)
	}
	s.PrecomputeMessages()
	return s
}

func describe[T worded](r huma.Registry) {
	r.RegisterTypeAlias(reflect.TypeFor[T](), reflect.TypeFor[words[T]]())
}

// describeWords makes the words of the core's types part of the description.
func describeWords(r huma.Registry) {
	r.RegisterTypeAlias(reflect.TypeFor[length.Length](), reflect.TypeFor[float64]()) // mm, as the shop file has them
	r.RegisterTypeAlias(reflect.TypeFor[weight.Weight](), reflect.TypeFor[float64]()) // kg
	r.RegisterTypeAlias(reflect.TypeFor[shop.Standing](), reflect.TypeFor[spotted]())
	describe[length.System](r)
	describe[event.Kind](r)
	describe[shop.PlaceKind](r)
	describe[shop.ContainerKind](r)
	describe[shop.FeatureKind](r)
	describe[shop.Hold](r)
	describe[shop.Flag](r)
	describe[shop.Access](r)
	describe[shop.Mobility](r)
	describe[shop.Casters](r)
}

// spotted is where something is in a mode: a state, or a spot on the floor.
type spotted struct{}

// Schema of a spot.
func (spotted) Schema(huma.Registry) *huma.Schema {
	number := &huma.Schema{Type: huma.TypeNumber}
	two := 2
	return &huma.Schema{OneOf: []*huma.Schema{
		{Type: huma.TypeString, Enum: []any{"folded", "hoisted", "outdoors", "away"}},
		{Type: huma.TypeObject, Required: []string{"floor"}, Properties: map[string]*huma.Schema{"floor": {Type: huma.TypeArray, Items: number, MinItems: &two, MaxItems: &two}, "rot": number}},
	}}
}
