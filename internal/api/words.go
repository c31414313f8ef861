package api

import (
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
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
	describe[event.Kind](r)
	describe[shop.PlaceKind](r)
	describe[shop.ContainerKind](r)
	describe[shop.FeatureKind](r)
	describe[shop.Hold](r)
	describe[shop.Flag](r)
	describe[shop.Access](r)
	describe[shop.Mobility](r)
}
