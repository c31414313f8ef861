package round

import "hobrak/internal/core/shop"

// WallOf lays out wall j of an area by itself: no reach, at offset 0.
func WallOf(a *shop.Area, j int) Elevation {
	w := &a.Walls[j]
	g := Elevation{ID: w.ID, Area: a.ID, Title: "Wall " + w.ID, Claimed: w.Claimed, Surface: w.Surface, Length: a.Frame(j).Length.MM(),
		Studs: []float64{}, Features: []Feature{}, Reach: []ReachRun{}}
	for _, p := range w.Profile {
		g.Profile = append(g.Profile, [2]float64{p[0].MM(), p[1].MM()})
	}
	for _, x := range w.Studs.Centres(a.Frame(j).Length) {
		g.Studs = append(g.Studs, x.MM())
	}
	for _, f := range w.Features {
		g.Features = append(g.Features, Feature{f.ID, f.Kind, f.Called(), f.X.MM(), f.Z.MM(), f.W.MM(), f.H.MM(), f.Shape, f.Hinge})
	}
	return g
}

// RoomOf lays out the plan of an area.
func RoomOf(a *shop.Area) Room {
	r := Room{Area: a.ID, Gaps: []Gap{}, Corners: Corners(a.Outline())}
	for j := range a.Walls {
		f := a.Frame(j)
		mid := f.Spot(f.Length.MM()/2, 0)
		r.Gaps = append(r.Gaps, Gap{Kind: "wall", Wall: a.Walls[j].ID, From: pair(f.Spot(0, 0)), To: pair(f.Spot(f.Length.MM(), 0)), Mid: pair(mid)})
		for _, x := range a.Walls[j].Features {
			if x.Kind.Gap() {
				from, to := f.Spot(x.X.MM(), 0), f.Spot((x.X+x.W).MM(), 0)
				r.Gaps = append(r.Gaps, Gap{Kind: string(x.Kind), Wall: a.Walls[j].ID, From: pair(from), To: pair(to), Mid: pair(from.Add(to).Mul(.5))})
			}
		}
	}
	return r
}
