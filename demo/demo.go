// Package demo has the two shops that ship with Hobrak, as shop files.
package demo

import (
	_ "embed"

	_ "hobrak/internal/core/keeping" // the kinds of place in them
)

// Slipway is a boat bay in millimetres, Pantry a closet in feet and inches.
//
//go:embed slipway.json
var Slipway []byte

//go:embed pantry.json
var Pantry []byte
