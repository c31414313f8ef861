package next

import (
	"fmt"
	"strings"

	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
)

// Known is one thing that a first plan wants to know, and how far it is known.
type Known struct {
	ID   string `json:"id"`
	What string `json:"what" doc:"what is wanted"`
	Have string `json:"have" doc:"what there is of it, or what is missing"`
	Done bool   `json:"done"`
	Must bool   `json:"must" doc:"no plan without it; the others make it surer"`
	Go   Go     `json:"go" enum:"survey,floor,belongings,measure,places,fit,findings,facts" doc:"part of the work it is done in"`
}

// fewThings are enough for a first plan: with fewer there is nothing to choose between (estimate).
const fewThings = 10

// Enough says what a first plan wants to know and how far it is known: the room, where one works, what is owned; who works
// there, what is there to keep things in and where they are now make it surer.
func Enough(s *shop.Shop) (list []Known, ready bool) {
	add := func(k Known) { list = append(list, k) }
	walls, done := 0, 0
	for i := range s.Areas {
		w, d := measured(s, &s.Areas[i])
		walls, done = walls+w, done+d
	}
	have := fmt.Sprintf("%d of %s known", done, say.Count(walls, "wall is", "walls are"))
	add(Known{ID: "room", What: "The room: how long, wide and high it is, where doors and windows are", Have: have, Done: done > 0, Must: true, Go: ToSurvey})
	names := []string{}
	for i := range s.Stations {
		if !s.Stations[i].Kind.Lodger() {
			names = append(names, s.Stations[i].Name)
		}
	}
	have = "no bench or machine stands there yet"
	if n := len(names); n > 0 {
		have = strings.Join(names[:min(n, 4)], ", ")
		if n > 4 {
			have += fmt.Sprintf(" and %d more", n-4)
		}
	}
	add(Known{ID: "stations", What: "Where you work: a bench, the machines", Have: have, Done: len(names) > 0, Must: true, Go: ToFloor})
	owned, homed, known := 0, 0, 0
	ix := shop.NewIndex(s)
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Needs() {
			continue
		}
		owned++
		if ix.Homed(it) > 0 || it.Lies != "" {
			homed++
		}
		if len(it.Assumed) == 0 {
			known++
		}
	}
	have = fmt.Sprintf("%s listed; %d make a first plan worth while", say.Count(owned, "thing is", "things are"), fewThings)
	if owned >= fewThings {
		have = fmt.Sprintf("%s listed, of %d all is measured", say.Count(owned, "thing is", "things are"), known)
	}
	add(Known{ID: "things", What: "What you own, most of it", Have: have, Done: owned >= fewThings, Must: true, Go: ToBelongings})
	have = "an adult of usual height is assumed"
	if n := len(s.Settings.People); n > 0 {
		have = say.Count(n, "person", "people")
	}
	add(Known{ID: "people", What: "Who works there, and how tall they are", Have: have, Done: len(s.Settings.People) > 0, Go: ToFacts})
	have = "none is stated: the plan can only propose some"
	if n := len(s.Places); n > 0 {
		have = say.Count(n, "place", "places") + " to keep things"
	}
	add(Known{ID: "storage", What: "The storage that is there", Have: have, Done: len(s.Places) > 0, Must: true, Go: ToPlaces})
	add(Known{ID: "where", What: "Where things are now, to see what moves and what that brings", Have: fmt.Sprintf("said of %d of them", homed), Done: owned > 0 && 2*homed >= owned, Go: ToBelongings})
	ready = true
	for _, k := range list {
		ready = ready && (k.Done || !k.Must)
	}
	return list, ready
}
