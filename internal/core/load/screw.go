package load

import (
	"errors"
	"fmt"
	"hobrak/internal/core/length"
	"math"
)

// ScrewSource names the equations used for screws.
const ScrewSource = "AWC NDS 2018: withdrawal 12.2-1 (W = 2850 G² D), yield modes after AWC TR-12, interaction 12.4-1; wood screws, dry softwood, normal duration. Judge the wall yourself; where life depends on it ask an engineer"

const (
	inch      = 25.4
	poundF    = 4.4482216 // N
	psi       = 6894.757e-6
	gravity   = 9.80665
	rootShare = .8 // of the thread's diameter, an estimate: rolled wood screws have .78 to .82
)

// Screw through a rail or ledger into a stud.
type Screw struct {
	D      float64 // outer diameter of the thread
	Root   float64 // diameter at the root; 0: 0.8 of D, an estimate
	Thread float64 // length of thread in the stud
	Side   float64 // thickness of what is fixed
	SideG  float64 // its specific gravity; 0: that of the stud
	StudG  float64 // specific gravity of the stud; 0: 0.42
}

func (s Screw) filled() (Screw, error) {
	if s.Root == 0 {
		s.Root = rootShare * s.D
	}
	if s.StudG == 0 {
		s.StudG = .42
	}
	if s.SideG == 0 {
		s.SideG = s.StudG
	}
	switch {
	case s.D < 2.5 || s.D > 12:
		return s, fmt.Errorf("the screw's diameter should be from %s to %s, not %s", length.MM(2.5), 12*length.Millimetre, length.MM(s.D))
	case s.Root <= 0 || s.Root > s.D:
		return s, fmt.Errorf("the root diameter should be more than 0 and at most the thread's %s", length.MM(s.D))
	case s.Thread <= 0 || s.Thread > 300:
		return s, fmt.Errorf("the thread in the stud should be more than 0 and at most %s, not %s", 300*length.Millimetre, length.MM(s.Thread))
	case s.Side < 0 || s.Side > 200:
		return s, fmt.Errorf("what is fixed should be at most %s thick, not %s", 200*length.Millimetre, length.MM(s.Side))
	case s.StudG < .3 || s.StudG > .75 || s.SideG < .3 || s.SideG > .75:
		return s, errors.New("a specific gravity should be from 0.3 to 0.75")
	case s.Thread < 6*s.D:
		return s, fmt.Errorf("%s of thread in the stud is too short: at least 6 diameters, %s, are needed before a figure can be given", length.MM(s.Thread), length.Whole(6*s.D))
	}
	return s, nil
}

// Withdrawal is what one screw holds pulled straight out, in N.
func (s Screw) Withdrawal() (float64, error) {
	s, err := s.filled()
	if err != nil {
		return 0, err
	}
	perInch := 2850 * s.StudG * s.StudG * (s.D / inch) // lb per inch of thread
	return perInch * (s.Thread / inch) * poundF, nil
}

// Mode is one way in which a screw loaded sideways gives way.
type Mode struct {
	Name  string  // Im, Is, II, IIIm, IIIs, IV
	About string  // what gives way
	N     float64 // allowed
}

// Lateral is what one screw holds sideways, in N, with every mode; the lowest counts.
type Lateral struct {
	N         float64
	Limit     string // name of the mode
	Modes     []Mode
	BearingM  float64 // dowel bearing strength of the stud, MPa
	BearingS  float64 // of what is fixed, MPa
	Bending   float64 // bending yield strength of the screw, MPa
	Reduction float64 // Kd, by which the yield loads are divided
}

// Lateral load of the screw in single shear.
func (s Screw) Lateral() (Lateral, error) {
	s, err := s.filled()
	if err != nil {
		return Lateral{}, err
	}
	if s.Side == 0 {
		return Lateral{}, errors.New("how thick is what is fixed? Without it there is no lateral load")
	}
	d := s.Root / inch
	em, es := bearing(s.StudG), bearing(s.SideG)
	fyb := bendingYield(s.D / inch)
	kd := 2.2
	if d > .17 {
		kd = 10*d + .5
	}
	lm, ls := s.Thread/inch, s.Side/inch
	qm, qs, m := em*d, es*d, fyb*d*d*d/6
	// General dowel equations of TR-12 without a gap: P from A P² + B P + C = 0.
	solve := func(a, b, c float64) float64 { return (-b + math.Sqrt(b*b-4*a*c)) / (2 * a) }
	modes := []Mode{
		{"Im", "the stud is crushed", qm * lm},
		{"Is", "what is fixed is crushed", qs * ls},
		{"II", "the screw turns in both", solve(1/(4*qs)+1/(4*qm), ls/2+lm/2, -qs*ls*ls/4-qm*lm*lm/4)},
		{"IIIm", "the screw bends at what is fixed and turns in the stud", solve(1/(2*qs)+1/(4*qm), lm/2, -m-qm*lm*lm/4)},
		{"IIIs", "the screw bends in the stud and turns in what is fixed", solve(1/(4*qs)+1/(2*qm), ls/2, -qs*ls*ls/4-m)},
		{"IV", "the screw bends in both", solve(1/(2*qs)+1/(2*qm), 0, -2*m)},
	}
	out := Lateral{N: math.Inf(1), BearingM: em * psi, BearingS: es * psi, Bending: fyb * psi, Reduction: kd}
	for _, x := range modes {
		x.N *= poundF / kd
		out.Modes = append(out.Modes, x)
		if x.N < out.N {
			out.N, out.Limit = x.N, x.Name
		}
	}
	return out, nil
}

// bearing strength of wood for dowels under a quarter inch, psi.
func bearing(g float64) float64 { return 16600 * math.Pow(g, 1.84) }

// bendingYield of wood screws by diameter in inches, psi (NDS table 12L, note 2).
func bendingYield(d float64) float64 {
	switch {
	case d <= .142:
		return 100_000
	case d <= .177:
		return 90_000
	case d <= .236:
		return 80_000
	default:
		return 70_000
	}
}

// Combined is what one screw holds when it is pulled out and loaded sideways at
// once; deg is the angle between the load and the wood's face, 0 sideways only.
func Combined(withdrawal, lateral, deg float64) float64 {
	s, c := math.Sincos(deg * math.Pi / 180)
	return withdrawal * lateral / (withdrawal*c*c + lateral*s*s)
}

// Hung is something hung from a rail that is screwed to studs.
type Hung struct {
	Screw   Screw
	Screws  int     // that hit studs; those that do not are not counted
	KG      float64 // of all that hangs there
	Out     float64 // distance of its centre of mass from the wall
	Lever   float64 // height of the screws over the edge on which it bears below
	Studded bool    // the wall has studs or solid timber to screw into
	Rating  float64 // kg, as the maker states it; 0 when there is none
}

// Verdict on a fixing, with every figure it comes from.
type Verdict struct {
	Rated      bool    // false: no figure can be given
	Why        string  // why not, or what limits it
	KG         float64 // what it may carry
	Use        float64 // share of it that is used
	Shear      float64 // N on a screw, sideways
	Pull       float64 // N on a screw, outwards
	Angle      float64 // degrees of their resultant to the wall
	Withdrawal float64 // N a screw holds
	Lateral    Lateral
	Combined   float64 // N a screw holds at that angle
}

// Judge a fixing. A rating wins over the calculation.
func (h Hung) Judge() (Verdict, error) {
	if h.KG < 0 || h.Out < 0 || h.Screws < 0 {
		return Verdict{}, errors.New("weight, distance and number of screws cannot be below 0")
	}
	if h.Rating > 0 {
		return Verdict{Rated: true, KG: h.Rating, Use: h.KG / h.Rating, Why: "as its maker rates it"}, nil
	}
	if !h.Studded {
		return Verdict{Why: "not rated: in drywall alone, plaster, brick, block or concrete the anchor's own rating decides; type it in"}, nil
	}
	if h.Screws == 0 {
		return Verdict{Why: "not rated: no screw hits a stud"}, nil
	}
	if h.Lever <= 0 {
		return Verdict{}, errors.New("how high are the screws over the edge it bears on below? It must be more than 0")
	}
	w, err := h.Screw.Withdrawal()
	if err != nil {
		return Verdict{}, err
	}
	l, err := h.Screw.Lateral()
	if err != nil {
		return Verdict{}, err
	}
	v := Verdict{Rated: true, Withdrawal: w, Lateral: l}
	n := float64(h.Screws)
	v.Shear = h.KG * gravity / n
	v.Pull = v.Shear * h.Out / h.Lever
	ratio := h.Out / h.Lever
	v.Angle = math.Atan(ratio) * 180 / math.Pi
	v.Combined = Combined(w, l.N, v.Angle)
	v.KG = v.Combined * n / (gravity * math.Hypot(1, ratio))
	v.Use = h.KG / v.KG
	v.Why = fmt.Sprintf("%d screws, mode %s sideways, pulled out by %.0f %% of the weight", h.Screws, l.Limit, 100*ratio)
	return v, nil
}
