package load

import (
	"errors"
	"fmt"
	"hobrak/internal/core/length"
	"math"
)

// SagSource names the equation of a board on two supports.
const SagSource = "Euler-Bernoulli beam on two supports, uniform load: δ = 5 w L⁴ / 384 E I, I = b t³ / 12; limit L/600 (estimate, what the eye begins to see); creep can double it over years"

// SagShare is the sag the eye begins to see, as a share of the span: an estimate.
const SagShare = 1.0 / 600

// Board on two supports: a shelf, or a stretch of a board between two arms.
type Board struct {
	Span   float64 // clear, between the supports
	B, T   float64 // across and thick
	Wood   Wood
	StripT float64 // thickness of a strip along an edge; 0 when there is none
	StripH float64 // its height
	Strips int
}

func (b Board) check() error {
	switch {
	case b.Span <= 0 || b.Span > 10_000:
		return fmt.Errorf("the span should be more than 0 and at most %s, not %s", 10*length.Metre, length.MM(b.Span))
	case b.B <= 0 || b.T <= 0:
		return errors.New("width and thickness must be more than 0")
	case b.StripT < 0 || b.StripH < 0 || b.Strips < 0:
		return errors.New("a strip cannot be below 0")
	case b.Wood.E <= 0:
		return errors.New("without a modulus of elasticity there is no sag to work out")
	}
	return nil
}

// Inertia is the second moment of area in mm⁴, edge strips added.
func (b Board) Inertia() float64 {
	return b.B*math.Pow(b.T, 3)/12 + float64(b.Strips)*b.StripT*math.Pow(b.StripH, 3)/12
}

// Own is what the board weighs between its supports, in kg.
func (b Board) Own() float64 {
	return b.Wood.Density * (b.B*b.T + float64(b.Strips)*b.StripT*b.StripH) * b.Span * 1e-9
}

// Sag under kg spread evenly, its own weight counted, in mm.
func (b Board) Sag(kg float64) (float64, error) {
	if err := b.check(); err != nil {
		return 0, err
	}
	if kg < 0 {
		return 0, errors.New("a load cannot be below 0")
	}
	w := (kg + b.Own()) * gravity / b.Span // N/mm
	return 5 * w * math.Pow(b.Span, 4) / (384 * b.Wood.E * 1e3 * b.Inertia()), nil
}

// Most is the load in kg at which the sag reaches its limit; 0 when its own weight is too much.
func (b Board) Most() (float64, error) {
	if err := b.check(); err != nil {
		return 0, err
	}
	w := SagShare * b.Span * 384 * b.Wood.E * 1e3 * b.Inertia() / (5 * math.Pow(b.Span, 4))
	return max(0, w*b.Span/gravity-b.Own()), nil
}

// Widest is the longest span in mm at which a load of kg a metre keeps the sag
// under the share of the span given.
func (b Board) Widest(kgPerMetre, share float64) (float64, error) {
	b.Span = 1000
	if err := b.check(); err != nil {
		return 0, err
	}
	if share <= 0 {
		return 0, errors.New("a share of the span must be more than 0")
	}
	w := (kgPerMetre + b.Own()) * gravity / 1000
	return math.Cbrt(share * 384 * b.Wood.E * 1e3 * b.Inertia() / (5 * w)), nil
}

// TipSource names how tipping is judged.
const TipSource = "statics: a cart tips when its centre of mass passes the wheels; limits 15° and 10° are estimates for a push at shoulder height"

// Cart as it stands: track is the distance of its wheels across, offset how far
// its centre of mass is from the middle, height that of the centre of mass.
type Cart struct {
	Track, Offset, Height float64
	Fall                  float64 // of the floor, mm a metre
}

// Limits of the tipping angle in degrees: below the first it is not done, below the second with caution.
const (
	TipBarred  = 10.0
	TipCaution = 15.0
)

// Angle by which it may still be tilted, in degrees, the floor's fall taken off.
func (c Cart) Angle() (float64, error) {
	switch {
	case c.Track <= 0 || c.Height <= 0:
		return 0, errors.New("track and height of the centre of mass must be more than 0")
	case c.Fall < 0:
		return 0, errors.New("the fall of a floor cannot be below 0")
	}
	return (math.Atan((c.Track/2-math.Abs(c.Offset))/c.Height) - math.Atan(c.Fall/1000)) * 180 / math.Pi, nil
}
