// Package demo has the two shops that ship with Hobrak, as shop files.
package demo

import _ "embed"

// Slipway is a boat bay in millimetres, Pantry a closet in feet and inches.
//
//go:embed slipway.json
var Slipway []byte

//go:embed pantry.json
var Pantry []byte
