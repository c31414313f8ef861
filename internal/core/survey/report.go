package survey

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

// Report on the survey of an area: how it closes, what fits and what does not.
type Report struct {
	Corners  []Corner  `json:"corners" nullable:"false" doc:"adjusted, in the area's own frame"`
	Measures []Reading `json:"measures" nullable:"false" doc:"the measurements in the order they were taken"`
	Walls    []Side    `json:"walls" nullable:"false"`
	Closure  float64   `json:"closure" doc:"mm by which the walls miss the first corner before adjustment"`
	Share    float64   `json:"share" doc:"closure as a share of the way round"`
	Closes   bool      `json:"closes" doc:"enough is measured to speak of a closure"`
	Checked  bool      `json:"checked" doc:"something checks at least one of the lengths"`
	Fault    string    `json:"fault" doc:"why the corners stay as they were; empty when they follow the measurements"`
	Suspect  *Suspect  `json:"suspect,omitempty"`
	Propose  *Proposal `json:"propose,omitempty" doc:"the measurement that would check the most"`
}

// Corner of the adjusted room.
type Corner struct {
	Name   string  `json:"name"`
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	SDX    float64 `json:"sd_x" doc:"standard deviation, mm"`
	SDY    float64 `json:"sd_y" doc:"standard deviation, mm"`
	Inside float64 `json:"inside" doc:"angle inside the corner, degrees"`
	How    string  `json:"how" enum:"square,drawn,measured" doc:"taken as square, as drawn, or measured"`
}

// Side is a wall as the survey sees it.
type Side struct {
	Wall     string  `json:"wall"`
	Measured bool    `json:"measured"`
	Value    float64 `json:"value" doc:"the first reading, mm; 0 when there is none"`
	Adjusted float64 `json:"adjusted" doc:"mm"`
}

// Reading is a measurement with what the adjustment says of it.
type Reading struct {
	Name       string  `json:"name" doc:"in words: wall C, diagonal DA to BC"`
	Kind       string  `json:"kind"`
	Value      float64 `json:"value" doc:"mm or degrees as read"`
	Adjusted   float64 `json:"adjusted"`
	SD         float64 `json:"sd" doc:"standard deviation of the reading"`
	Residual   float64 `json:"residual" doc:"adjusted less read"`
	W          float64 `json:"w" doc:"standardised residual, over 3 is suspect"`
	Redundancy float64 `json:"redundancy" doc:"share of an error in it that would show, 0 to 1"`
	LeftOut    bool    `json:"left_out"`
}

// Suspect is the measurement that fits worst.
type Suspect struct {
	Measure int      `json:"measure" doc:"its number in the list"`
	Fits    float64  `json:"fits" doc:"the value that would fit the rest"`
	Says    string   `json:"says"`
	Rivals  []string `json:"rivals" nullable:"false" doc:"what else would explain the misfit about as well"`
}

// Proposal is the extra measurement that would check the most.
type Proposal struct {
	From   int     `json:"from"`
	To     int     `json:"to"`
	Name   string  `json:"name"`
	Length float64 `json:"length" doc:"what it should read, mm"`
	Says   string  `json:"says"`
}

// Bounds of what is taken for granted.
const (
	nearSquare   = 3.0    // degrees from 90 or 270 within which a drawn corner is meant to be square
	looseAngleSD = 10.0   // degrees, of a corner drawn askew that was not measured
	looseSD      = 2000.0 // mm, of a wall that was not measured
	maxMisclose  = 0.05   // of the way round
	checkedFrom  = 0.05   // redundancy from which a length counts as checked
)

// leg is a wall on the way round and the corner at its end.
type leg struct {
	long     float64
	measured bool
	inside   float64 // degrees, at the end of the wall
	how      string  // square, drawn or measured
}

// legs of an area: what was measured, and for the rest what is drawn.
func legs(a *shop.Area) []leg {
	outline := a.Outline()
	n := len(outline)
	out := make([]leg, n)
	taken := takenFor(a)
	for i := range out {
		k := (i + 1) % n
		inside, how := Inside(outline, k), "drawn"
		if taken[k] > 0 {
			inside, how = taken[k], "square"
		}
		out[i] = leg{long: outline.Edge(i).B.Distance(outline.Edge(i).A), inside: inside, how: how}
	}
	if a.Survey == nil {
		return out
	}
	sum, count := make([]float64, n), make([]float64, n)
	turn, turns := make([]float64, n), make([]float64, n)
	for _, m := range a.Survey.Measures {
		switch i := a.WallIndex(m.Wall); {
		case m.LeftOut:
		case m.Kind == "wall" && i >= 0:
			sum[i] += m.Length.MM()
			count[i]++
		case m.Kind == "angle":
			k := (m.Corner + n - 1) % n
			turn[k] += m.Degrees
			turns[k]++
		}
	}
	for i := range out {
		if count[i] > 0 {
			out[i].long, out[i].measured = sum[i]/count[i], true
		}
		if turns[i] > 0 {
			out[i].inside, out[i].how = turn[i]/turns[i], "measured"
		}
	}
	return out
}

// takenFor gives for each corner 90 or 270 when it is taken as square, else 0.
// Without notes a corner that is drawn nearly square is meant to be so.
func takenFor(a *shop.Area) []float64 {
	if a.Survey != nil && len(a.Survey.Angles) == len(a.Corners) {
		return a.Survey.Angles
	}
	outline := a.Outline()
	out := make([]float64, len(outline))
	for k := range out {
		out[k] = squared(Inside(outline, k))
	}
	return out
}

// squared is 90 or 270 for an angle near it, else 0.
func squared(inside float64) float64 {
	for _, sq := range []float64{90, 270} {
		if math.Abs(inside-sq) < nearSquare {
			return sq
		}
	}
	return 0
}

// trace walks the legs. Lengths that were not measured are changed by as little
// as closes the way; what is left is the closure.
func trace(ls []leg) (corners []geometry.Point, closure geometry.Point) {
	n := len(ls)
	dirs := make([]geometry.Point, n)
	bearing := 90.0
	var unknown []int
	for i, l := range ls {
		dirs[i] = geometry.Point{X: 1}.Turned(bearing)
		bearing -= 180 - l.inside
		closure = closure.Add(dirs[i].Mul(l.long))
		if !l.measured {
			unknown = append(unknown, i)
		}
	}
	long := make([]float64, n)
	for i := range ls {
		long[i] = ls[i].long
	}
	if len(unknown) > 0 {
		d := mat.NewDense(2, len(unknown), nil)
		for k, i := range unknown {
			d.Set(0, k, dirs[i].X)
			d.Set(1, k, dirs[i].Y)
		}
		var svd mat.SVD
		if svd.Factorize(d, mat.SVDThin) {
			var change mat.VecDense
			svd.SolveVecTo(&change, mat.NewVecDense(2, []float64{-closure.X, -closure.Y}), svd.Rank(1e-6))
			for k, i := range unknown {
				was := long[i]
				long[i] = max(shortest, was+change.AtVec(k))
				closure = closure.Add(dirs[i].Mul(long[i] - was))
			}
		}
	}
	at := geometry.Point{}
	for i := range ls {
		corners = append(corners, at)
		ls[i].long = long[i]
		at = at.Add(dirs[i].Mul(long[i]))
	}
	return corners, closure
}

// shortest wall there may be, mm.
const shortest = 20.0

// Of reports on the survey of an area. It says what it found in sentences.
func Of(a *shop.Area) *Report {
	say := func(mm float64) string { return length.MM(mm).String() }
	r := &Report{Corners: []Corner{}, Measures: []Reading{}, Walls: []Side{}}
	ls := legs(a)
	start, closure := trace(ls)
	round, missing, inside := 0.0, []string{}, 0.0
	for i, l := range ls {
		round += l.long
		inside += l.inside
		side := Side{Wall: a.Walls[i].ID, Measured: l.measured}
		if k := reading(a, a.Walls[i].ID); k >= 0 {
			side.Value = a.Survey.Measures[k].Length.MM()
		}
		r.Walls = append(r.Walls, side)
		if !l.measured {
			missing = append(missing, a.Walls[i].ID)
		}
	}
	r.Closure, r.Closes = closure.Norm(), len(missing) < len(ls)-1
	r.Share = r.Closure / max(round, 1)
	obs, from := observations(a, ls)
	res, err := Adjust(start, obs)
	want := float64(180 * (len(ls) - 2))
	switch i, j, crosses := geometry.Polygon(start).Crossing(); {
	case math.Abs(inside-want) > 2+float64(len(ls))/2:
		r.Fault = fmt.Sprintf("the angles inside the corners add up to %.1f°, but with %d walls they should to %.0f°; measure the corners that are not square again", inside, len(ls), want)
	case r.Share > maxMisclose:
		r.Fault = fmt.Sprintf("the walls miss the first corner by %s, %.0f %% of the way round; over 5 %% one of them must be wrong. Measure the longest again", say(r.Closure), 100*r.Share)
		if len(missing) > 0 {
			r.Fault += ", or wall " + strings.Join(missing, ", ")
		}
	case crosses:
		r.Fault = fmt.Sprintf("with these lengths the outline crosses itself: wall %s meets wall %s", a.Walls[i].ID, a.Walls[j].ID)
	case err != nil:
		r.Fault = err.Error()
	default:
		if i, j, crosses := geometry.Polygon(res.Corners).Crossing(); crosses {
			r.Fault = fmt.Sprintf("with these lengths the outline crosses itself: wall %s meets wall %s", a.Walls[i].ID, a.Walls[j].ID)
		}
	}
	r.tell(a, ls, res, obs, from)
	if res == nil {
		return r
	}
	if res.Suspect >= 0 {
		r.accuse(a, res, from, say)
	}
	if r.Fault == "" && r.Suspect == nil || r.Suspect != nil && len(r.Suspect.Rivals) > 0 {
		r.propose(a, res, obs, say)
	}
	return r
}

// reading is the number of the first reading of a wall, -1 when there is none.
func reading(a *shop.Area, wall string) int {
	if a.Survey == nil {
		return -1
	}
	return slices.IndexFunc(a.Survey.Measures, func(m shop.Measure) bool { return m.Kind == "wall" && m.Wall == wall })
}

// observations of an area for the adjustment; from gives the measurement each
// comes from, -1 for what is assumed.
func observations(a *shop.Area, ls []leg) (obs []Observation, from []int) {
	n := len(ls)
	instrument := ""
	var measures []shop.Measure
	if a.Survey != nil {
		instrument, measures = a.Survey.Instrument, a.Survey.Measures
	}
	for k, m := range measures {
		if m.LeftOut {
			continue
		}
		o := Observation{Value: m.Length.MM()}
		with := m.Instrument
		if with == "" {
			with = instrument
		}
		o.SD = TapeSD(o.Value)
		if with == "laser" {
			o.SD = LaserSD(o.Value)
		}
		switch m.Kind {
		case "wall":
			o.From = a.WallIndex(m.Wall)
			o.To = (o.From + 1) % n
		case "diagonal":
			o.From, o.To = m.From, m.To
		case "angle":
			o.Kind, o.Corner, o.Value, o.SD = Angle, m.Corner, m.Degrees, AngleSD
		}
		obs, from = append(obs, o), append(from, k)
	}
	for i, l := range ls {
		if !l.measured {
			obs, from = append(obs, Observation{From: i, To: (i + 1) % n, Value: l.long, SD: looseSD, Assumed: true}), append(from, -1)
		}
		if l.how != "measured" {
			sd := SquareSD
			if l.how == "drawn" {
				sd = looseAngleSD
			}
			obs, from = append(obs, Observation{Kind: Angle, Corner: (i + 1) % n, Value: l.inside, SD: sd, Assumed: true}), append(from, -1)
		}
	}
	return obs, from
}

// tell fills in corners, walls and readings. Without a result the area's own
// corners stand.
func (r *Report) tell(a *shop.Area, ls []leg, res *Result, obs []Observation, from []int) {
	n := len(ls)
	outline := []geometry.Point(a.Outline())
	if res != nil && r.Fault == "" {
		outline = framed(a, res.Corners)
	}
	for k, p := range outline {
		c := Corner{Name: a.CornerName(k), X: p.X, Y: p.Y, Inside: Inside(outline, k), How: ls[(k+n-1)%n].how}
		if res != nil {
			c.SDX, c.SDY = res.SD[k].X, res.SD[k].Y
		}
		r.Corners = append(r.Corners, c)
		r.Walls[k].Adjusted = geometry.Polygon(outline).Edge(k).B.Distance(p)
	}
	if a.Survey == nil {
		return
	}
	for _, m := range a.Survey.Measures {
		r.Measures = append(r.Measures, Reading{Name: name(a, &m), Kind: m.Kind, LeftOut: m.LeftOut, Value: value(&m), Adjusted: value(&m)})
	}
	for i, k := range from {
		if k < 0 {
			continue
		}
		x := &r.Measures[k]
		x.SD = obs[i].SD
		if res != nil {
			o := res.Observed[i]
			x.Residual, x.W, x.Redundancy, x.Adjusted = o.Residual, o.W, o.Redundancy, x.Value+o.Residual
			r.Checked = r.Checked || obs[i].Kind == Distance && o.Redundancy >= checkedFrom
		}
	}
}

// framed turns adjusted corners into the frame of the area as it is drawn, to a
// tenth of a millimetre: finer than any instrument.
func framed(a *shop.Area, corners []geometry.Point) []geometry.Point {
	outline := a.Outline()
	d := outline.Edge(0).B.Sub(outline[0])
	turn := math.Atan2(d.Y, d.X)*180/math.Pi - 90
	out := make([]geometry.Point, len(corners))
	for i, p := range corners {
		q := p.Turned(turn).Add(outline[0])
		out[i] = geometry.Point{X: math.Round(q.X*10) / 10, Y: math.Round(q.Y*10) / 10}
	}
	return out
}

func value(m *shop.Measure) float64 {
	if m.Kind == "angle" {
		return m.Degrees
	}
	return m.Length.MM()
}

// name of a measurement in words.
func name(a *shop.Area, m *shop.Measure) string {
	switch m.Kind {
	case "wall":
		return "wall " + m.Wall
	case "diagonal":
		return "diagonal " + a.CornerName(m.From) + " to " + a.CornerName(m.To)
	}
	return "angle at " + a.CornerName(m.Corner)
}

func (r *Report) accuse(a *shop.Area, res *Result, from []int, say func(float64) string) {
	k := from[res.Suspect]
	m := &a.Survey.Measures[k]
	fits := res.Observed[res.Suspect].Fits
	if m.Kind == "angle" {
		say = func(deg float64) string { return quantity.Number(math.Round(10*deg)/10, 4) + "°" }
	}
	r.Suspect = &Suspect{Measure: k, Fits: fits, Rivals: []string{}, Says: fmt.Sprintf("%s: %s measured, %s fits the rest; measure it again", name(a, m), say(value(m)), say(fits))}
	for _, i := range res.Rivals {
		r.Suspect.Rivals = append(r.Suspect.Rivals, name(a, &a.Survey.Measures[from[i]]))
	}
}

// propose looks for the diagonal that would check the most. One can measure it
// when it runs inside the room.
func (r *Report) propose(a *shop.Area, res *Result, obs []Observation, say func(float64) string) {
	g := geometry.Polygon(res.Corners)
	n := len(g)
	best := 1e-9
	for i := range n {
		for j := i + 2; j < n; j++ {
			if i == 0 && j == n-1 || measured(a, i, j) || !sees(g, i, j) {
				continue
			}
			d := g[i].Distance(g[j])
			gain := res.gain(obs, Observation{From: i, To: j, Value: d, SD: TapeSD(d)})
			if gain > best*1.001 {
				best = gain
				r.Propose = &Proposal{From: i, To: j, Name: name(a, &shop.Measure{Kind: "diagonal", From: i, To: j}), Length: d}
			}
		}
	}
	if p := r.Propose; p != nil {
		lead := "It would check the most"
		switch {
		case r.Suspect != nil:
			lead = "To tell them apart"
		case !r.Checked:
			lead = "Nothing checks these lengths yet"
		}
		p.Says = fmt.Sprintf("%s: measure the %s, about %s", lead, p.Name, say(p.Length))
	}
}

func measured(a *shop.Area, i, j int) bool {
	return a.Survey != nil && slices.ContainsFunc(a.Survey.Measures, func(m shop.Measure) bool {
		return m.Kind == "diagonal" && !m.LeftOut && (m.From == i && m.To == j || m.From == j && m.To == i)
	})
}

// sees tells whether the line between two corners runs inside the room.
func sees(g geometry.Polygon, i, j int) bool {
	s := geometry.Segment{A: g[i], B: g[j]}
	for k := range g {
		if e := g.Edge(k); k != i && k != j && (k+1)%len(g) != i && (k+1)%len(g) != j && e.Crosses(s) {
			return false
		}
	}
	for _, share := range []float64{.02, .5, .98} {
		if !g.Contains(g[i].Add(g[j].Sub(g[i]).Mul(share))) {
			return false
		}
	}
	return true
}
