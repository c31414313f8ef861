// Package project knows what is being made: where its parts are kept meanwhile, whether what it comes to has room on the floor in each
// arrangement, what was promised to it, and which projects have stalled. Lengths are millimetres as floats, areas m².
package project

import (
	"cmp"
	"slices"
	"time"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/passage"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Seen is a project with what follows for it.
type Seen struct {
	shop.Project
	Stalled  int      `json:"stalled" doc:"days since it was touched, where that is longer than agreed; else 0"`
	Promised []string `json:"promised" nullable:"false" doc:"ids of things and wood that are kept for it"`
	Parking  Parking  `json:"parking"`
	Floors   []Floor  `json:"floors" nullable:"false" doc:"whether it has room put together, in each arrangement of the floor"`
	Wet      bool     `json:"wet" doc:"it dries still"`
	Mind     []string `json:"mind" nullable:"false" doc:"names of what must not be used near it while it dries: it makes dust in the same room, or burns, glows or throws sparks near the fumes"`
	Out      string   `json:"out" enum:",goes,stuck" doc:"whether it goes out of the main door in one piece; empty when its size is not known or there is no door"`
}

// Parking is the place its parts are kept in.
type Parking struct {
	Place string  `json:"place" doc:"empty when nobody said, or it is gone"`
	M2    float64 `json:"m2" doc:"of floor or shelf it has"`
	Long  float64 `json:"long" doc:"mm of the longest part that lies in it"`
}

// Floor is an arrangement with the largest project it has room for.
type Floor struct {
	Mode string  `json:"mode" doc:"id; empty as it stands"`
	Name string  `json:"name"`
	W    float64 `json:"w" doc:"mm of the largest that can be walked round"`
	D    float64 `json:"d"`
	High float64 `json:"high"`
	Fits bool    `json:"fits"`
}

const stalledDays = 30

// Of lists the projects of a shop on a day, open ones first, those that were touched last first; over tells that more are open than agreed.
func Of(s *shop.Shop, today string) (out []Seen, over bool) {
	ix := shop.NewIndex(s)
	floors := arrangements(s)
	days := cmp.Or(s.Settings.StalledDays, stalledDays)
	open := 0
	out = []Seen{}
	for i := range s.Settings.Projects {
		p := s.Settings.Projects[i]
		x := Seen{Project: p, Promised: []string{}, Floors: []Floor{}, Mind: []string{}}
		if Open(&p) {
			open++
			if n := since(cmp.Or(p.Touched, p.Started), today); n >= days {
				x.Stalled = n
			}
		}
		for k := range s.Items {
			if s.Items[k].PromisedTo == p.Name {
				x.Promised = append(x.Promised, s.Items[k].ID)
			}
		}
		if x.Wet = Open(&p) && p.Dries > today; x.Wet {
			x.Mind = mind(s, ix, &p)
		}
		if place := ix.Place(p.Place); place != nil {
			x.Parking = Parking{place.ID, place.W.MM() * place.D.MM() / 1e6, max(place.W.MM(), place.D.MM())}
		}
		if p.W > 0 && p.D > 0 {
			for _, f := range floors {
				f.Fits = fits(&p, &f)
				x.Floors = append(x.Floors, f)
			}
			x.Out = leaves(s, &p)
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b Seen) int {
		if x, y := Open(&a.Project), Open(&b.Project); x != y {
			if x {
				return -1
			}
			return 1
		}
		return cmp.Compare(cmp.Or(b.Touched, b.Started), cmp.Or(a.Touched, a.Started))
	})
	return out, s.Settings.ProjectsMost > 0 && open > s.Settings.ProjectsMost
}

// Open tells whether it is under way.
func Open(p *shop.Project) bool { return p.State == "" || p.State == "open" }

// mind what must not be used near a project that dries: what makes dust in the same room settles in the finish, what burns, glows or
// throws sparks may light its fumes.
func mind(s *shop.Shop, ix *shop.Index, p *shop.Project) []string {
	out := []string{}
	place := ix.Place(p.Place)
	if place == nil {
		return out
	}
	_, root := ix.Chain(&place.At)
	area := ix.Area(root.Area)
	if st := ix.Station(root.Station); st != nil {
		area = ix.Area(st.Area)
	}
	for i := range s.Stations {
		st := &s.Stations[i]
		if ix.Area(st.Area) != area || st.Wished != "" {
			continue
		}
		if flow, _ := served.Wants(st); flow > 0 || st.Breath() == "dusty" || st.Kind.Flame() || st.Kind.Sparks() {
			out = append(out, st.Name)
		}
	}
	return out
}

func since(day, today string) int {
	a, err := time.Parse(time.DateOnly, day)
	b, err2 := time.Parse(time.DateOnly, today)
	if err != nil || err2 != nil || b.Before(a) {
		return 0
	}
	return int(b.Sub(a).Hours()/24 + .5)
}

// arrangements of the main area's floor.
func arrangements(s *shop.Shop) (out []Floor) {
	add := func(in *shop.Shop, mode, name string) {
		o := floor.OpenFloor(in, &in.Areas[0])
		out = append(out, Floor{Mode: mode, Name: name, W: o.ProjectW, D: o.ProjectD, High: o.High})
	}
	add(s, "", "as it stands")
	for i := range s.Modes {
		if in, err := s.InMode(s.Modes[i].ID); err == nil {
			add(in, s.Modes[i].ID, s.Modes[i].Name)
		}
	}
	return out
}

func fits(p *shop.Project, f *Floor) bool {
	w, d := max(p.W, p.D).MM(), min(p.W, p.D).MM()
	return w <= max(f.W, f.D)+1 && d <= min(f.W, f.D)+1 && (p.H == 0 || p.H.MM() <= f.High)
}

// leaves is whether it goes through the widest door of the main area.
func leaves(s *shop.Shop, p *shop.Project) string {
	a := &s.Areas[0]
	any, goes := false, false
	sides := []float64{p.W.MM(), p.D.MM(), max(p.H.MM(), 1)}
	slices.Sort(sides)
	for i := range a.Walls {
		for k := range a.Walls[i].Features {
			if f := &a.Walls[i].Features[k]; f.Kind.Passage() {
				any = true
				goes = goes || passage.Passes(sides[1], sides[0], f.W.MM(), f.H.MM())
			}
		}
	}
	switch {
	case !any:
		return ""
	case goes:
		return "goes"
	}
	return "stuck"
}

// Drop a project: what was promised to it is free again. It gives how many things were.
func Drop(s *shop.Shop, id string) (freed int) {
	for i := range s.Settings.Projects {
		p := &s.Settings.Projects[i]
		if p.ID != id {
			continue
		}
		p.State = "dropped"
		for k := range s.Items {
			if s.Items[k].PromisedTo == p.Name {
				s.Items[k].PromisedTo = ""
				freed++
			}
		}
	}
	return freed
}
