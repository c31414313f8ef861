// Package next works out what is worth doing next in a shop: what is missing before anything
// can be worked out, then what costs most as it stands. Steps come in the order of the work,
// since each rests on those before it: the room, what is owned, where it is used, storage,
// homes. It looks at a shop and changes nothing.
package next

import (
	"sync"

	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/free"
	"hobrak/internal/core/shop"
)

// Go says in which part of the work a step is taken.
type Go string

// The parts of the work.
const (
	ToSurvey     Go = "survey"
	ToBelongings Go = "belongings"
	ToMeasure    Go = "measure" // the list of what is assumed
	ToPlaces     Go = "places"
	ToFloor      Go = "floor"
	ToFacts      Go = "facts"
	ToFit        Go = "fit"
	ToFindings   Go = "findings"
)

// Words are the parts there are.
func (Go) Words() []string {
	return []string{string(ToSurvey), string(ToBelongings), string(ToMeasure), string(ToPlaces), string(ToFloor), string(ToFacts), string(ToFit), string(ToFindings)}
}

// Step is one thing worth doing.
type Step struct {
	ID   string `json:"id" doc:"which step it is: the same as long as the same is missing"`
	What string `json:"what" doc:"what is missing, one plain sentence without its full stop"`
	Why  string `json:"why" doc:"what doing it brings"`
	Do   string `json:"do" doc:"what to press"`
	Go   Go     `json:"go" enum:"survey,floor,belongings,measure,places,fit,findings,facts" doc:"part of the work it is done in"`
	N    int    `json:"n" doc:"how many it is about, 0 when that makes no sense; who put the step away may want it back when there are more"`
}

// seen is a shop with what several rules ask of it.
type seen struct {
	shop *shop.Shop
	now  *fit.Arrangement
	free func() *free.Result
	hard int // rules that are broken
	// walls of each area, and of how many of them length and height are known.
	walls, done []int
	// homeless are the indexes of owned things with a piece that has no home.
	homeless []int
	// spots is for how many of them a free spot waits, and which of them fit nowhere.
	spots func() (waiting int, nowhere []*shop.Item)
}

// rules in the order of the work; each knows one kind of step.
var rules = []func(s *seen) *Step{measureRoom, finishWalls, standStations, placeLodgers, listThings, sayWhere, giveHomes, makeStorage, mendBroken, measureThings, swapHomes}

// Steps are what is worth doing next, the most important first. The arrangement is asked
// questions that move things to find out, so nobody else may ask it meanwhile; free space is
// asked for only when a step depends on it. Found is what the check says.
func Steps(now *fit.Arrangement, space func() *free.Result, found []check.Finding) []Step {
	s := &seen{shop: now.Map().Shop, now: now, free: space}
	for _, f := range found {
		if f.Hard {
			s.hard++
		}
	}
	for i := range s.shop.Areas {
		walls, done := measured(s.shop, &s.shop.Areas[i])
		s.walls, s.done = append(s.walls, walls), append(s.done, done)
	}
	ix := now.Map().Index
	for i := range s.shop.Items {
		it := &s.shop.Items[i]
		if !it.Needs() {
			continue
		}
		homed := 0
		for _, h := range ix.Homes(it.ID) {
			homed += h.Number(it)
		}
		if homed < it.Number() {
			s.homeless = append(s.homeless, i)
		}
	}
	s.spots = sync.OnceValues(s.look)
	out := []Step{}
	for _, rule := range rules {
		if step := rule(s); step != nil {
			out = append(out, *step)
		}
	}
	return out
}
