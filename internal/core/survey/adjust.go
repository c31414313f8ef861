// Package survey turns measurements of a room into its corners: it adjusts them
// by least squares, says how sure each corner is, names the measurement that
// does not fit and what would, and proposes what to measure next. It also keeps
// the notes of a survey: a change to one field at a time, as it is typed.
//
// Lengths are millimetres and angles degrees, as floats, unless they belong to
// the shop file. Sources: least squares with data snooping as in W. Baarda, A
// Testing Procedure for Use in Geodetic Networks, 1968; Gauss-Newton iteration.
package survey

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/mat"

	"hobrak/internal/core/geometry"
)

// Kind of an observation.
type Kind int

// Lengths between two corners, and the angle inside a corner.
const (
	Distance Kind = iota
	Angle
)

// Observation of a room with n corners, numbered 0 to n-1 clockwise.
type Observation struct {
	Kind     Kind
	From, To int     // corners of a distance
	Corner   int     // corner of an angle
	Value    float64 // mm, or degrees inside the corner
	SD       float64 // standard deviation in the same unit
	Assumed  bool    // not measured: a corner taken as square, a length as drawn
}

// Standard deviations of what people measure with.
const (
	SquareSD = 0.5 // degrees, of a corner taken as square
	AngleSD  = 0.3 // degrees, of an angle measured with a bevel (estimate)
)

// TapeSD and LaserSD are the standard deviations, mm, of a length of so many mm.
func TapeSD(mm float64) float64  { return 2 + mm/1000 }
func LaserSD(mm float64) float64 { return 1.5 + mm/10000 }

// Limit is the standardised residual beyond which an observation is suspect.
const Limit = 3.0

// Result of an adjustment.
type Result struct {
	Corners []geometry.Point // adjusted; corner 0 in the origin, wall A along y
	SD      []geometry.Point // standard deviation of each corner's x and y
	// Observed tells about each observation in the order given.
	Observed []Observed
	// Suspect is the observation that fits worst, -1 when all fit.
	Suspect int
	// Rivals are observations that would explain the misfit about as well.
	Rivals []int
	hat    mat.Dense    // A N⁻¹ Aᵀ in units of standard deviations
	half   mat.Dense    // A N⁻¹
	cov    mat.SymDense // N⁻¹
}

// gain is by how much the redundancy of the observations that count would grow
// with one more: each grows by (aᵢᵀ N⁻¹ a)² / (1 + aᵀ N⁻¹ a).
func (r *Result) gain(obs []Observation, extra Observation) float64 {
	_, unknown := r.half.Dims()
	a := mat.NewDense(1, unknown, nil)
	design(a, mat.NewVecDense(1, nil), r.Corners, []Observation{extra})
	var with mat.Dense
	with.Mul(&r.half, a.T())
	sum, own := 0.0, r.variance(a)
	for i, o := range obs {
		if !o.Assumed {
			h := with.At(i, 0)
			sum += h * h / (1 + own)
		}
	}
	return sum
}

// variance of what a row of derivatives computes.
func (r *Result) variance(a *mat.Dense) float64 {
	var t mat.Dense
	t.Mul(a, &r.cov)
	var s mat.Dense
	s.Mul(&t, a.T())
	return s.At(0, 0)
}

// Correlation of the tests of two observations: at 1 they cannot be told apart.
func (r *Result) Correlation(i, j int) float64 {
	if i == j {
		return 1
	}
	return -r.hat.At(i, j) / math.Sqrt(max(unchecked, r.Observed[i].Redundancy)*max(unchecked, r.Observed[j].Redundancy))
}

// Observed is an observation after the adjustment.
type Observed struct {
	Residual float64 // adjusted less observed
	// Redundancy is the share of an error in it that shows, 0 unchecked to 1.
	Redundancy float64
	// W is the standardised residual; 0 when nothing checks it.
	W float64
	// Fits is the value that would agree with the rest.
	Fits float64
}

// unchecked is the redundancy below which an observation counts as not checked.
const unchecked = 1e-3

// ErrLoose is returned when the observations do not fix the room.
var ErrLoose = errors.New("the measurements do not fix the shape of the room")

// Adjust finds the corners that fit the observations best, starting from
// approximate corners. The room must have at least 3 of them.
func Adjust(start []geometry.Point, obs []Observation) (*Result, error) {
	x := place(start)
	n := len(x)
	unknown := 2*n - 3 // corner 0 and the direction of wall A are given
	if len(obs) < unknown {
		return nil, ErrLoose
	}
	a := mat.NewDense(len(obs), unknown, nil)
	l := mat.NewVecDense(len(obs), nil)
	for round := 0; ; round++ {
		design(a, l, x, obs)
		var qr mat.QR
		qr.Factorize(a)
		if qr.Cond() > 1e10 {
			return nil, ErrLoose
		}
		var step mat.VecDense
		if err := qr.SolveVecTo(&step, false, l); err != nil {
			return nil, ErrLoose
		}
		far := 0.0
		for i := range unknown {
			far = max(far, math.Abs(step.AtVec(i)))
		}
		if math.IsNaN(far) || far > 1e6 || round == 30 {
			return nil, ErrLoose
		}
		move(x, &step)
		if far < 1e-6 {
			break
		}
	}
	design(a, l, x, obs)
	// The covariance of the corners is the inverse of the normal matrix.
	var normal mat.SymDense
	normal.SymOuterK(1, a.T())
	var chol mat.Cholesky
	if !chol.Factorize(&normal) {
		return nil, ErrLoose
	}
	r := &Result{Corners: x, SD: make([]geometry.Point, n), Suspect: -1}
	if err := chol.InverseTo(&r.cov); err != nil {
		return nil, ErrLoose
	}
	r.half.Mul(a, &r.cov)
	for i := range r.SD {
		if j := column(i, 0); j >= 0 {
			r.SD[i].X = math.Sqrt(r.cov.At(j, j))
		}
		if j := column(i, 1); j >= 0 {
			r.SD[i].Y = math.Sqrt(r.cov.At(j, j))
		}
	}
	// In units of standard deviations the cofactors of the residuals are I - A N⁻¹ Aᵀ.
	r.hat.Mul(&r.half, a.T())
	worst := Limit
	for i, o := range obs {
		red := 1 - r.hat.At(i, i)
		v := -l.AtVec(i) // adjusted less observed, in standard deviations
		out := Observed{Residual: v * o.SD, Redundancy: max(0, red), Fits: o.Value}
		if red > unchecked {
			out.W = v / math.Sqrt(red)
			out.Fits = o.Value + v*o.SD/red
		}
		r.Observed = append(r.Observed, out)
		if math.Abs(out.W) > worst && !o.Assumed {
			worst, r.Suspect = math.Abs(out.W), i
		}
	}
	if r.Suspect >= 0 {
		// Leaving i out makes the sum of squares smaller by its w²: a ratio of
		// likelihoods below 20 does not tell two apart.
		for i, o := range r.Observed {
			if i != r.Suspect && !obs[i].Assumed && math.Abs(o.W) > Limit && worst*worst-o.W*o.W < 2*math.Log(20) {
				r.Rivals = append(r.Rivals, i)
			}
		}
	}
	return r, nil
}

// place moves corners so that corner 0 is the origin and wall A runs along y.
func place(p []geometry.Point) []geometry.Point {
	d := p[1].Sub(p[0])
	turn := 90 - math.Atan2(d.Y, d.X)*180/math.Pi
	out := make([]geometry.Point, len(p))
	for i := range p {
		out[i] = p[i].Sub(p[0]).Turned(turn)
	}
	out[1].X = 0
	return out
}

// column of a coordinate among the unknowns; -1 when it is given.
func column(corner, axis int) int {
	switch {
	case corner == 0, corner == 1 && axis == 0:
		return -1
	case corner == 1:
		return 0
	}
	return 2*corner - 3 + axis
}

func move(x []geometry.Point, step *mat.VecDense) {
	for i := range x {
		if j := column(i, 0); j >= 0 {
			x[i].X += step.AtVec(j)
		}
		if j := column(i, 1); j >= 0 {
			x[i].Y += step.AtVec(j)
		}
	}
}

// design fills in the derivatives of the observations and observed less
// computed, both divided by the standard deviation.
func design(a *mat.Dense, l *mat.VecDense, x []geometry.Point, obs []Observation) {
	a.Zero()
	put := func(row, corner int, d geometry.Point, sd float64) {
		if j := column(corner, 0); j >= 0 {
			a.Set(row, j, a.At(row, j)+d.X/sd)
		}
		if j := column(corner, 1); j >= 0 {
			a.Set(row, j, a.At(row, j)+d.Y/sd)
		}
	}
	n := len(x)
	for i, o := range obs {
		switch o.Kind {
		case Distance:
			d := x[o.To].Sub(x[o.From])
			long := max(d.Norm(), 1e-3)
			u := d.Mul(1 / long)
			put(i, o.To, u, o.SD)
			put(i, o.From, u.Mul(-1), o.SD)
			l.SetVec(i, (o.Value-long)/o.SD)
		case Angle:
			before, at, after := (o.Corner+n-1)%n, o.Corner, (o.Corner+1)%n
			p, q := x[before].Sub(x[at]), x[after].Sub(x[at])
			// The bearing of a vector changes across it by one over its length.
			across := func(v geometry.Point) geometry.Point {
				return geometry.Point{X: -v.Y, Y: v.X}.Mul(180 / math.Pi / max(v.Dot(v), 1e-6))
			}
			dp, dq := across(p), across(q)
			put(i, before, dp.Mul(-1), o.SD)
			put(i, after, dq, o.SD)
			put(i, at, dp.Sub(dq), o.SD)
			l.SetVec(i, half(o.Value-Inside(x, o.Corner))/o.SD)
		}
	}
}

// Inside is the angle inside corner k of a room whose corners run clockwise, 0
// to 360 degrees.
func Inside(x []geometry.Point, k int) float64 {
	n := len(x)
	p, q := x[(k+n-1)%n].Sub(x[k]), x[(k+1)%n].Sub(x[k])
	deg := (math.Atan2(q.Y, q.X) - math.Atan2(p.Y, p.X)) * 180 / math.Pi
	return math.Mod(deg+720, 360)
}

// half brings an angle into -180 to 180 degrees.
func half(deg float64) float64 { return deg - 360*math.Round(deg/360) }
