package build

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/shop"
)

// Fixing is a screw in a wall.
type Fixing struct {
	X    float64 `json:"x" doc:"mm from the wall's left end"`
	Z    float64 `json:"z" doc:"mm over the floor at the wall's left end, level"`
	Up   float64 `json:"up" doc:"mm over the floor right below it, where the floor falls"`
	Stud bool    `json:"stud" doc:"a stud is there"`
}

// OnWall is where a unit is screwed to its wall.
type OnWall struct {
	Wall     string   `json:"wall"`
	From     string   `json:"from" doc:"corner that is measured from"`
	Studs    float64  `json:"studs" doc:"how many studs it crosses"`
	Screws   []Fixing `json:"screws" nullable:"false"`
	Line     float64  `json:"line" doc:"mm over the floor at the wall's left end of the level line that is struck first"`
	Says     []string `json:"says" nullable:"false"`
	Cautions []string `json:"cautions" nullable:"false"`
}

// Fix says where a unit is screwed to its wall: at the height of each of its fixings, at every stud behind it. Nil when it does not
// hang on a wall.
func Fix(s *shop.Shop, u *Unit) *OnWall {
	ix := shop.NewIndex(s)
	var at *shop.At
	if c := ix.Container(u.ID); c != nil {
		at = &c.At
	} else if p := ix.Place(u.ID); p != nil {
		at = &p.At
	}
	if at == nil || at.Wall == "" || len(u.Fixed) == 0 {
		return nil
	}
	a := ix.Area(at.Area)
	i := a.WallIndex(at.Wall)
	if i < 0 {
		return nil
	}
	w := &a.Walls[i]
	out := &OnWall{Wall: at.Wall, From: a.CornerName(i), Screws: []Fixing{}, Says: []string{}, Cautions: []string{}}
	outer := u.Outer()
	left, right := at.X.MM()+outer.X, at.X.MM()+outer.X+outer.W
	var studs []float64
	for _, x := range w.Studs.Centres(a.Frame(i).Length) {
		if x.MM() > left+10 && x.MM() < right-10 {
			studs = append(studs, x.MM())
		}
	}
	out.Studs = float64(len(studs))
	xs, stud := studs, true
	solidWall := slices.Contains([]string{"timber", "plywood", "boards"}, w.Surface)
	masonry := slices.Contains([]string{"brick", "block", "concrete"}, w.Surface)
	if len(studs) == 0 {
		stud = false
		n := max(2, int(math.Ceil((right-left-80)/400))+1)
		for k := range n {
			xs = append(xs, left+40+(right-left-80)*float64(k)/float64(max(1, n-1)))
		}
	}
	floor := floorAlong(a, i)
	for _, z := range u.Fixed {
		for _, x := range xs {
			f := Fixing{X: x, Z: at.Z.MM() + z, Stud: stud}
			f.Up = f.Z - floor(x)
			out.Screws = append(out.Screws, f)
		}
	}
	lowest := slices.Min(u.Fixed)
	out.Line = at.Z.MM() + lowest
	out.Says = append(out.Says, fmt.Sprintf("Strike a level line %s over the floor at corner %s; measure everything from it, the floor is not level.", mm(out.Line), out.From))
	if low, high := floor(left), floor(right); math.Abs(high-low) > 1 {
		out.Says = append(out.Says, fmt.Sprintf("Below it the floor differs by %s from one end to the other.", mm(math.Abs(high-low))))
	}
	switch {
	case stud && len(studs) == 1:
		out.Says = append(out.Says, "It crosses one stud only: screw a rail across two studs first and hang it on that, or line the wall with boards.")
		out.Cautions = append(out.Cautions, "with one stud it turns about its screws: nothing heavy before a rail across two carries it")
	case stud:
		out.Says = append(out.Says, fmt.Sprintf("It crosses %d studs: a screw at each, at every height.", len(studs)))
	case solidWall:
		out.Says = append(out.Says, "The wall is boarded: screws hold anywhere in it; those that go on into a stud hold most.")
	case masonry:
		out.Says = append(out.Says, "The wall is masonry: plugs or anchors as their maker rates them for this wall; type that rating as what it may carry.")
		out.Cautions = append(out.Cautions, "what an anchor holds depends on the wall and is said by its maker: no figure is worked out here")
	default:
		out.Says = append(out.Says, "No stud is known behind it: find the studs first, or screw a rail across two beside it, or line the wall with boards.")
		out.Cautions = append(out.Cautions, "where no stud is known no load is worked out: find the studs, or type what the fixings are rated for")
	}
	out.Cautions = append(out.Cautions, "locate cables and pipes before drilling, and switch off what may be behind")
	for k := range w.Features {
		f := &w.Features[k]
		kind := string(f.Kind)
		near := f.X.MM()+f.W.MM() > left-150 && f.X.MM() < right+150
		switch {
		case (kind == "outlet" || kind == "switch" || kind == "panel") && near:
			out.Cautions = append(out.Cautions, fmt.Sprintf("%s is within %s: its cable runs straight up or down, or across, from it", featureName(f), mm(150)))
		case (kind == "pipe" || kind == "water") && near:
			out.Cautions = append(out.Cautions, fmt.Sprintf("%s is in the wall there: do not drill within %s of it", featureName(f), mm(100)))
		}
	}
	return out
}

// floorAlong is how high the floor is along a wall, against its left end, mm.
func floorAlong(a *shop.Area, wall int) func(x float64) float64 {
	if a.Floor == nil || a.Floor.Fall == nil || a.WallIndex(a.Floor.Fall.Toward) < 0 {
		return func(float64) float64 { return 0 }
	}
	down := a.Frame(a.WallIndex(a.Floor.Fall.Toward)).Inward.Mul(-a.Floor.Fall.MMPerM / 1000)
	along := a.Frame(wall).Along
	return func(x float64) float64 { return -down.Dot(along) * x }
}

func featureName(f *shop.Feature) string {
	if f.Name != "" {
		return f.Name
	}
	return string(f.Kind)
}
