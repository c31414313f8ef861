package next

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/survey"
)

// measured counts the walls of an area, and those of which length and height are known.
func measured(s *shop.Shop, a *shop.Area) (walls, done int) {
	for _, w := range survey.Notes(s, a).Walls {
		walls++
		if w.Done {
			done++
		}
	}
	return walls, done
}

// measureRoom comes first: nothing can be fitted to walls that nobody has measured.
func measureRoom(s *seen) *Step {
	if slices.ContainsFunc(s.done, func(done int) bool { return done > 0 }) {
		return nil
	}
	return &Step{ID: "room", Go: ToSurvey, Do: "Measure the room",
		What: "The room is not measured yet",
		Why:  "every place and every reach depends on its walls; four lengths and a height are enough to begin"}
}

// finishWalls wants the walls that are left once a room is begun.
func finishWalls(s *seen) *Step {
	left := 0
	for i, done := range s.done {
		if done > 0 {
			left += s.walls[i] - done
		}
	}
	if left == 0 {
		return nil
	}
	return &Step{ID: "walls", N: left, Go: ToSurvey, Do: "Go on measuring",
		What: say.Count(left, "wall is", "walls are") + " still to be measured",
		Why:  "until then lengths and heights there are assumed"}
}

// standStations wants a place to work at: everything is fetched to one.
func standStations(s *seen) *Step {
	if len(s.shop.Stations) > 0 || !slices.ContainsFunc(s.done, func(done int) bool { return done > 0 }) {
		return nil
	}
	return &Step{ID: "stand", Go: ToFloor, Do: "Put in a bench",
		What: "Nothing stands on the floor yet",
		Why:  "a bench and the machines, one a line: things want to be near where they are used"}
}

// placeLodgers wants what else lives in the room on the floor, before everything is planned over its spot.
func placeLodgers(s *seen) *Step {
	var missing []string
	for _, kind := range s.shop.Settings.Shares {
		if !slices.ContainsFunc(s.shop.Stations, func(st shop.Station) bool { return string(st.Kind) == kind }) {
			missing = append(missing, strings.ReplaceAll(kind, "-", " "))
		}
	}
	if len(missing) == 0 || len(s.shop.Stations) == 0 {
		return nil
	}
	return &Step{ID: "lodgers", N: len(missing), Go: ToFloor, Do: "Give it its room",
		What: "The " + strings.Join(missing, " and the ") + " you share the room with " + map[bool]string{true: "is", false: "are"}[len(missing) == 1] + " not on the floor",
		Why:  "otherwise things are planned where it stands"}
}

// listThings wants something to find homes for.
func listThings(s *seen) *Step {
	if len(s.shop.Items) > 0 {
		return nil
	}
	return &Step{ID: "things", Go: ToBelongings, Do: "List what you own",
		What: "Nothing is listed yet",
		Why:  "type one thing a line, or import a table; sizes you leave out are assumed and can be measured later"}
}

// fewWithout may lack a station before it is worth a word: a shop has things that are used nowhere in particular.
const fewWithout = .25

// sayWhere wants to know where things are used: they count as used at the first station otherwise.
func sayWhere(s *seen) *Step {
	if len(s.shop.Stations) < 2 {
		return nil // it makes no difference
	}
	without := 0
	for i := range s.shop.Items {
		if len(s.shop.Items[i].UsedAt) == 0 && s.shop.Items[i].Needs() {
			without++
		}
	}
	if float64(without) <= fewWithout*float64(len(s.shop.Items)) {
		return nil
	}
	return &Step{ID: "stations", N: without, Go: ToBelongings, Do: "Say where",
		What: fmt.Sprintf("%s no station they are used at", say.Count(without, "thing has", "things have")),
		Why:  fmt.Sprintf("they count as used at %s, and walking is most of what a home costs", s.shop.Stations[0].Name)}
}

// mostAsked of the things without a home are looked at one by one.
const mostAsked = 200

// dearest are things without a home, those first that cost most as long as they have none.
func (s *seen) dearest() []int {
	list := slices.Clone(s.homeless)
	slices.SortStableFunc(list, func(a, b int) int { return cmp.Compare(s.now.Seconds(b), s.now.Seconds(a)) })
	return list[:min(len(list), mostAsked)]
}

// look asks for a free spot for each of the dearest, which is dear itself where there is none.
func (s *seen) look() (waiting int, nowhere []*shop.Item) {
	for _, i := range s.dearest() {
		if _, ok := s.now.Find(i); ok {
			waiting++
		} else {
			nowhere = append(nowhere, &s.shop.Items[i])
		}
	}
	return waiting, nowhere
}

// giveHomes is for things that a free spot waits for.
func giveHomes(s *seen) *Step {
	waiting, _ := s.spots()
	if waiting == 0 {
		return nil
	}
	why := fmt.Sprintf("there is a free spot for %d of them", waiting)
	if len(s.homeless) == 1 {
		why = "there is a free spot for it"
	} else if waiting == len(s.homeless) {
		why = "there is a free spot for each of them"
	}
	return &Step{ID: "homes", N: len(s.homeless), Go: ToFit, Do: "Find homes",
		What: say.Count(len(s.homeless), "thing has", "things have") + " no home", Why: why}
}

// mostBuilt kinds of storage are tried on the walls.
const mostBuilt = 3

// makeStorage is for things that no place there is takes: the kind of storage on a wall that
// would hold most of them, where a free wall takes it.
func makeStorage(s *seen) *Step {
	_, nowhere := s.spots()
	if len(nowhere) == 0 {
		return nil
	}
	need := storage.Need{Items: nowhere, Reserve: storage.UsualReserve}
	step := &Step{ID: "storage", N: len(need.Items), Go: ToPlaces, Do: "Make a place",
		What: say.Count(len(need.Items), "thing fits", "things fit") + " in none of the places there are",
		Why:  "say what a new place should hold, and it is sized and put on the wall that suits it best"}
	offers := slices.DeleteFunc(storage.Offers("new", need), func(o storage.Offer) bool { return !o.Builder.Hung })
	for _, o := range offers[:min(len(offers), mostBuilt)] {
		found, err := storage.Where(s.now.Map(), s.free(), o.Design)
		if err != nil || len(found.Sites) == 0 || found.Sites[0].Wall == "" {
			continue
		}
		held := map[string]bool{}
		for _, h := range o.Design.Homes {
			held[h.Item] = true
		}
		takes := fmt.Sprintf("%d of them", len(held))
		switch {
		case len(need.Items) == 1:
			takes = "it"
		case len(held) == len(need.Items):
			takes = "all of them"
		}
		step.Why = fmt.Sprintf("the best free wall, %s, has room for a %s that takes %s", found.Sites[0].Wall, strings.ToLower(o.Builder.Title), takes)
		return step
	}
	return step
}

// mendBroken wants rules kept that things as they stand break.
func mendBroken(s *seen) *Step {
	if s.hard == 0 {
		return nil
	}
	return &Step{ID: "broken", N: s.hard, Go: ToFindings, Do: "See which",
		What: say.Count(s.hard, "rule is", "rules are") + " broken as things stand",
		Why:  "something is overloaded, in the way, or where it must not be"}
}

// measureThings wants those sizes measured that most depends on.
func measureThings(s *seen) *Step {
	d := s.now.Doubts()
	if d.Sizes == 0 || d.First == 0 {
		return nil
	}
	return &Step{ID: "sizes", N: d.Sizes, Go: ToMeasure, Do: "Measure first",
		What: say.Count(d.Sizes, "size is", "sizes are") + " assumed",
		Why:  fmt.Sprintf("four fifths of what depends on them hangs on %d of them", d.First)}
}

// worthSwapping is what swaps must save in a week to be a step, in seconds (estimate).
const worthSwapping = 60

// swapHomes is for a shop that has everything and could have it nearer.
func swapHomes(s *seen) *Step {
	swaps := s.now.Swaps(3)
	saved := 0.0
	for i := range swaps {
		saved += swaps[i].Saves()
	}
	if saved < worthSwapping {
		return nil
	}
	return &Step{ID: "swaps", N: len(swaps), Go: ToFit, Do: "See them",
		What: fmt.Sprintf("%s would save about %d min a week", say.Count(len(swaps), "move or swap", "moves or swaps"), int(saved/60+.5)),
		Why:  "each stands for itself and needs no plan"}
}
