package shift

import (
	"container/heap"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// Pose of something on its way: its middle and its turn.
type Pose struct {
	X   float64 `json:"x"`
	Y   float64 `json:"y"`
	Rot float64 `json:"rot"`
}

const (
	sweepStep = 50.0
	sweepTurn = 5.0
	// a turn on the spot counts as much as so many mm of way, so that it is driven rather than turned (estimate)
	turnCost = 100.0
	// haste counts what is left of the way so many times: the first way found is good enough.
	haste = 2.0
	// mostPoses are looked at before it is given up.
	mostPoses = 120000
	// vehicle is from how long something is that its whole length counts on the way in, not its width alone.
	vehicle = 1800.0
)

// sweep is the way of something long from outside through a door to where it is to stand, with nothing of it in anything on the
// way; false when there is none. It is looked for from its spot outwards, in steps of 50 mm and turns of 5 degrees, and given
// from outside in.
func sweep(a *shop.Area, solid []geometry.Polygon, w, d float64, goal Pose) (path []Pose, ok bool) {
	outline := a.Outline()
	walls, doors := barriers(a, max(w, d)/2)
	all := append(slices.Clone(solid), walls...)
	boxes := make([][2]geometry.Point, len(all))
	for i, o := range all {
		boxes[i][0], boxes[i][1] = o.Bounds()
	}
	if len(doors) == 0 {
		return nil, false
	}
	low, high := outline.Bounds()
	long := math.Hypot(w, d)
	type key struct{ x, y, t int }
	pose := func(k key) Pose {
		return Pose{goal.X + float64(k.x)*sweepStep, goal.Y + float64(k.y)*sweepStep, goal.Rot + float64(k.t)*sweepTurn}
	}
	free := func(p Pose) bool {
		foot := footAt(p, w, d)
		from, to := foot.Bounds()
		for i, o := range all {
			if boxes[i][0].X < to.X && boxes[i][1].X > from.X && boxes[i][0].Y < to.Y && boxes[i][1].Y > from.Y && o.Overlaps(foot, touching) {
				return false
			}
		}
		return true
	}
	out := func(p Pose) bool {
		return !slices.ContainsFunc(footAt(p, w, d), outline.Contains) && !outline.Contains(geometry.Point{X: p.X, Y: p.Y})
	}
	left := func(p Pose) float64 {
		best := math.Inf(1)
		for _, door := range doors {
			best = min(best, door.Distance(geometry.Point{X: p.X, Y: p.Y}))
		}
		return best
	}
	cost, from := map[key]float64{{}: 0}, map[key]key{}
	open := &poses{{k: [3]int{}, f: 0}}
	for n := 0; open.Len() > 0 && n < mostPoses; n++ {
		x := heap.Pop(open).(waitingPose)
		k := key{x.k[0], x.k[1], x.k[2]}
		if x.g > cost[k] {
			continue
		}
		p := pose(k)
		if out(p) {
			for {
				path = append(path, pose(k))
				prev, more := from[k]
				if !more {
					return path, true
				}
				k = prev
			}
		}
		next := func(dx, dy, dt int, step float64) {
			to := key{k.x + dx, k.y + dy, (k.t + dt + turns) % turns}
			q := pose(to)
			if q.X < low.X-long || q.X > high.X+long || q.Y < low.Y-long || q.Y > high.Y+long {
				return
			}
			g := cost[k] + step
			if was, seen := cost[to]; seen && was <= g || !free(q) {
				return
			}
			cost[to], from[to] = g, k
			heap.Push(open, waitingPose{[3]int{to.x, to.y, to.t}, g, g + haste*left(q)})
		}
		for dx := -1; dx <= 1; dx++ {
			for dy := -1; dy <= 1; dy++ {
				if dx != 0 || dy != 0 {
					next(dx, dy, 0, sweepStep*math.Hypot(float64(dx), float64(dy)))
				}
			}
		}
		next(0, 0, 1, turnCost)
		next(0, 0, -1, turnCost)
	}
	return nil, false
}

const turns = 72 // of 5 degrees

func footAt(p Pose, w, d float64) geometry.Polygon {
	return geometry.Rectangle(p.X-w/2, p.Y-d/2, w, d, p.Rot)
}

// barriers are the walls of an area but for its doors, as thick as a hand outside, and spots so far out before the doors.
func barriers(a *shop.Area, out float64) (walls []geometry.Polygon, doors []geometry.Point) {
	const thick = 100.0
	for i := range a.Walls {
		f := a.Frame(i)
		at := 0.0
		put := func(to float64) {
			if to > at+1 {
				walls = append(walls, f.Before(at, to, -thick))
			}
		}
		var gaps [][2]float64
		for k := range a.Walls[i].Features {
			if x := &a.Walls[i].Features[k]; x.Kind.Passage() {
				gaps = append(gaps, [2]float64{x.X.MM(), (x.X + x.W).MM()})
				doors = append(doors, f.Spot((x.X+x.W/2).MM(), -out))
			}
		}
		slices.SortFunc(gaps, func(a, b [2]float64) int { return int(a[0] - b[0]) })
		for _, g := range gaps {
			put(g[0])
			at = max(at, g[1])
		}
		put(f.Length.MM())
	}
	return walls, doors
}

// waitingPose is still to be gone on from.
type waitingPose struct {
	k    [3]int
	g, f float64
}

type poses []waitingPose

func (q poses) Len() int           { return len(q) }
func (q poses) Less(i, j int) bool { return q[i].f < q[j].f }
func (q poses) Swap(i, j int)      { q[i], q[j] = q[j], q[i] }
func (q *poses) Push(x any)        { *q = append(*q, x.(waitingPose)) }
func (q *poses) Pop() any {
	old := *q
	x := old[len(old)-1]
	*q = old[:len(old)-1]
	return x
}

// swept gives what is long and comes in or goes out its way through the door, as everything else stands at that moment; what
// does not get through at its whole length is stuck.
func (p *problem) swept(out *Plan) {
	at := map[string]geometry.Polygon{}
	area := map[string]*shop.Area{}
	for i := range p.bodies {
		b := &p.bodies[i]
		area[b.id] = b.area
		if b.at[start].on {
			at[b.id] = b.at[start].foot
		}
	}
	for i := range out.Moves {
		m := &out.Moves[i]
		foot, to := m.Is, m.To
		if m.Do == "take away" {
			foot, to = m.Was, m.From
		}
		if (m.Do == "bring in" || m.Do == "take away") && len(foot) == 4 && to != nil {
			w, d := foot[0].Distance(foot[1]), foot[1].Distance(foot[2])
			if max(w, d) >= vehicle {
				solid := slices.Clone(p.static[area[m.ID]])
				for id, o := range at {
					if id != m.ID && area[id] == area[m.ID] {
						solid = append(solid, o)
					}
				}
				mid := middle(foot)
				path, ok := sweep(area[m.ID], solid, w, d, Pose{mid.X, mid.Y, to.Rot})
				if m.Do == "take away" {
					slices.Reverse(path)
				}
				m.Path = path
				if !ok {
					out.Stuck = append(out.Stuck, m.Name+" does not get through the door to its spot at its whole length: what stands beside the way is in it")
				}
			}
		}
		delete(at, m.ID)
		if len(m.Is) > 0 {
			at[m.ID] = m.Is
		}
	}
}
