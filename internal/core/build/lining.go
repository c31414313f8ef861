package build

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/cutting"
	"hobrak/internal/core/shop"
)

// Lining is a way to have something on a wall that screws hold in.
type Lining struct {
	Kind   string  `json:"kind" enum:"bare,rails,boards"`
	Title  string  `json:"title"`
	Holds  float64 `json:"holds" doc:"share of the free wall in which a screw holds, 0 to 1"`
	Sheets int     `json:"sheets" doc:"whole sheets"`
	Waste  float64 `json:"waste" doc:"share of them that is left over, 0 to 1"`
	Rail   float64 `json:"rail" doc:"m"`
	Screws int     `json:"screws"`
	Hours  float64 `json:"hours" doc:"at one's own pace, an estimate"`
	Money  float64 `json:"money" doc:"by one's own prices; 0 when there are none"`
	Says   string  `json:"says"`
}

// Linings of a wall, compared.
type Linings struct {
	Wall    string   `json:"wall"`
	M2      float64  `json:"m2" doc:"of wall that is not door, window or the like, up to the height that is lined"`
	High    float64  `json:"high" doc:"mm up to which it is lined"`
	Studs   int      `json:"studs"`
	Ways    []Lining `json:"ways" nullable:"false"`
	Cutouts []string `json:"cutouts" nullable:"false" doc:"what is cut round"`
}

// Measures of linings, mm: sheets as they are sold, rails as they are sawn, screws at most so far apart.
const (
	liningT     = 18.0
	sheetLong   = 2440.0
	sheetWide   = 1220.0
	railHigh    = 90.0
	railEvery   = 400.0
	railFrom    = 300.0
	screwEvery  = 300.0
	screwOnWall = 300.0
)

// span of a wall, across or up.
type span struct{ from, to float64 }

// less are what is left of spans once others are taken out.
func less(all []span, out []span) []span {
	for _, o := range out {
		var next []span
		for _, s := range all {
			if o.to <= s.from || o.from >= s.to {
				next = append(next, s)
				continue
			}
			if o.from > s.from {
				next = append(next, span{s.from, o.from})
			}
			if o.to < s.to {
				next = append(next, span{o.to, s.to})
			}
		}
		all = next
	}
	return all
}

// Line compares a wall as it is, with rails across it, and lined with boards. The error says which wall there is not.
func Line(s *shop.Shop, area, wall string) (*Linings, error) {
	ix := shop.NewIndex(s)
	a := ix.Area(area)
	if a == nil || a.WallIndex(wall) < 0 {
		return nil, fmt.Errorf("there is no wall %q there", wall)
	}
	i := a.WallIndex(wall)
	w := &a.Walls[i]
	long := a.Frame(i).Length.MM()
	high := math.Inf(1)
	for _, p := range w.Profile {
		high = min(high, p[1].MM())
	}
	high = min(high, sheetLong)
	out := &Linings{Wall: wall, High: high, Ways: []Lining{}, Cutouts: []string{}}
	var holes []shop.Feature
	for k := range w.Features {
		f := w.Features[k]
		switch string(f.Kind) {
		case "outlet", "switch", "pipe", "beam", "tap", "data-socket":
			out.Cutouts = append(out.Cutouts, featureName(&f))
		case "keepsake":
		default:
			holes = append(holes, f)
		}
	}
	// Of a strip of the wall from x to x: what is free of it, from below.
	free := func(x0, x1 float64) []span {
		all := []span{{0, high}}
		for _, f := range holes {
			if f.X.MM() < x1-1 && f.X.MM()+f.W.MM() > x0+1 {
				all = less(all, []span{{f.Z.MM(), f.Z.MM() + f.H.MM()}})
			}
		}
		return all
	}
	// The wall in strips between whatever begins or ends on it.
	stops := []float64{0, long}
	for _, f := range holes {
		stops = append(stops, min(long, max(0, f.X.MM())), min(long, max(0, f.X.MM()+f.W.MM())))
	}
	slices.Sort(stops)
	whole := 0.0
	for k := range len(stops) - 1 {
		for _, v := range free(stops[k], stops[k+1]) {
			whole += (stops[k+1] - stops[k]) * (v.to - v.from)
		}
	}
	out.M2 = whole / 1e6
	if whole <= 0 {
		return nil, fmt.Errorf("nothing of wall %s is free", wall)
	}
	var studs []float64
	for _, x := range w.Studs.Centres(a.Frame(i).Length) {
		studs = append(studs, x.MM())
	}
	out.Studs = len(studs)
	pace := s.Settings.OwnPace()
	sheetPrice, railPrice := 0.0, 0.0
	if p := s.Settings.Prices; p != nil {
		sheetPrice, railPrice = p.Sheet, p.Rail
	}

	// As it is.
	bare := Lining{Kind: "bare", Title: "As it is"}
	switch w.Surface {
	case "timber", "plywood", "boards":
		bare.Holds, bare.Says = 1, "screws hold anywhere in it"
	case "brick", "block", "concrete":
		bare.Says = "anchors as their maker rates them, a hole drilled for each"
	default:
		if len(studs) == 0 {
			bare.Says = "no stud is known: find them first"
			break
		}
		held := 0.0
		wide := w.Studs.Width.MM()
		for _, x := range studs {
			for _, v := range free(x-wide/2, x+wide/2) {
				held += wide * (v.to - v.from)
			}
		}
		bare.Holds, bare.Says = min(1, held/whole), "at the studs alone"
	}
	out.Ways = append(out.Ways, bare)
	fixed := func(x0, x1 float64) int { // screws along a level line
		n := 0
		for _, x := range studs {
			if x > x0 && x < x1 {
				n++
			}
		}
		if len(studs) == 0 {
			n = int(math.Ceil((x1-x0)/screwOnWall)) + 1
		}
		return n
	}

	// Rails across.
	rails := Lining{Kind: "rails", Title: "Rails across", Says: "what hangs is screwed to a rail; between them the wall stays as it is"}
	held := 0.0
	for z := railFrom; z+railHigh <= high; z += railEvery {
		across := []span{{0, long}}
		for _, f := range holes {
			if f.Z.MM() < z+railHigh && f.Z.MM()+f.H.MM() > z {
				across = less(across, []span{{f.X.MM(), f.X.MM() + f.W.MM()}})
			}
		}
		for _, v := range across {
			if v.to-v.from < 150 {
				continue
			}
			rails.Rail += (v.to - v.from) / 1000
			held += (v.to - v.from) * railHigh
			rails.Screws += fixed(v.from, v.to)
		}
	}
	rails.Holds = min(1, max(bare.Holds, bare.Holds+(1-bare.Holds)*held/whole))
	rails.Hours = (20 + 10*rails.Rail + .7*float64(rails.Screws)) / 60 * pace
	rails.Money = rails.Rail * railPrice
	out.Ways = append(out.Ways, rails)

	// Boards all over: sheets stand, their seams on studs where these are known.
	boards := Lining{Kind: "boards", Title: fmt.Sprintf("Lined with sheets of %s", mm(liningT)), Holds: 1, Says: "screws hold anywhere; what hangs within its load counts on the boards' own screws in the studs"}
	var parts []cutting.Part
	covered := 0.0
	for x := 0.0; x < long-1; {
		end := min(long, x+sheetWide)
		if end < long { // back to the last stud before it
			for _, c := range studs {
				if c > x+300 && c <= x+sheetWide {
					end = c
				}
			}
			if !slices.ContainsFunc(studs, func(c float64) bool { return c > x+300 && c <= x+sheetWide }) {
				end = x + sheetWide
			}
		}
		// Pieces of it: strips between openings, those side by side that are free from and to the same joined.
		type piece struct{ x0, x1, z0, z1 float64 }
		var open []piece
		cuts := []float64{x, end}
		for _, v := range stops {
			if v > x && v < end {
				cuts = append(cuts, v)
			}
		}
		slices.Sort(cuts)
		for k := range len(cuts) - 1 {
			for _, v := range free(cuts[k], cuts[k+1]) {
				j := slices.IndexFunc(open, func(p piece) bool {
					return math.Abs(p.x1-cuts[k]) < .5 && math.Abs(p.z0-v.from) < .5 && math.Abs(p.z1-v.to) < .5
				})
				if j >= 0 {
					open[j].x1 = cuts[k+1]
					continue
				}
				open = append(open, piece{cuts[k], cuts[k+1], v.from, v.to})
			}
		}
		for _, p := range open {
			pw, ph := p.x1-p.x0, p.z1-p.z0
			if pw < 20 || ph < 20 {
				continue
			}
			covered += pw * ph
			parts = append(parts, cutting.Part{Name: fmt.Sprintf("panel %d", len(parts)+1), Count: 1, L: max(pw, ph), W: min(pw, ph), T: liningT, Material: "plywood", Grain: cutting.Whatever})
			boards.Screws += max(2, fixed(p.x0, p.x1)+1) * (int(math.Ceil(ph/screwEvery)) + 1)
		}
		x = end
	}
	stock := []cutting.Stock{{Name: "sheet", Count: -1, L: sheetLong, W: sheetWide, T: liningT, Material: "plywood"}}
	plan, err := cutting.Of(parts, stock, cutting.Options{Kerf: 3.2, Rounds: 6, Seed: 1})
	if err != nil {
		return nil, err
	}
	boards.Sheets = len(plan.Pieces)
	used := float64(boards.Sheets) * sheetLong * sheetWide
	boards.Waste = max(0, 1-covered/used)
	boards.Hours = (20 + 20*covered/1e6 + .7*float64(boards.Screws)) / 60 * pace
	boards.Money = used / 1e6 * sheetPrice
	out.Ways = append(out.Ways, boards)
	return out, nil
}
