package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/access"
	"hobrak/internal/core/arrange"
	"hobrak/internal/core/chain"
	"hobrak/internal/core/feed"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/stature"
	"hobrak/internal/core/worth"
	"hobrak/internal/store"
)

func (s *Server) floorPlanRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "arrange", Method: http.MethodPost, Path: "/api/v1/arrange", Summary: "Look for better arrangements of a whole room", MaxBodyBytes: smallBody}), s.arrange)
	huma.Register(s.api, described(huma.Operation{OperationID: "accept-arrangement", Method: http.MethodPut, Path: "/api/v1/arrange", Summary: "Put stations where a proposal has them", MaxBodyBytes: smallBody}), s.acceptArrangement)
	huma.Register(s.api, described(huma.Operation{OperationID: "room-in-mode", Method: http.MethodPost, Path: "/api/v1/modes/{id}/room", Summary: "Make room for something in a mode, with the fewest things moved", MaxBodyBytes: smallBody}), s.roomInMode)
	huma.Register(s.api, described(huma.Operation{OperationID: "judge-floor", Method: http.MethodGet, Path: "/api/v1/floor-judged", Summary: "How the floor is used: what annoys, what the floor is worth, how material flows, how high one works"}), s.judgeFloor)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-jobs", Method: http.MethodPut, Path: "/api/v1/jobs", Summary: "Say what is made again and again, and the stops its material makes", MaxBodyBytes: smallBody}), s.setJobs)
	huma.Register(s.api, described(huma.Operation{OperationID: "bring-in", Method: http.MethodGet, Path: "/api/v1/stations/{id}/sets-off", Summary: "What bringing a station in would set off: its spot, and what is shifted for it, an evening at a time"}), s.setsOff)
	huma.Register(s.api, described(huma.Operation{OperationID: "swap-stations", Method: http.MethodPost, Path: "/api/v1/stations/{id}/swap", Summary: "Let two stations change places", MaxBodyBytes: smallBody}), s.swapStations)
}

// arrangingFor is how long better arrangements are looked for, where the machine is too slow for all tries.
const arrangingFor = 12 * time.Second

func (s *Server) arrange(ctx context.Context, in *struct {
	Body struct {
		Area   string   `json:"area,omitempty" maxLength:"64" doc:"the main one when left out"`
		Pinned []string `json:"pinned,omitempty" maxItems:"500" doc:"stations that stay where they are"`
	}
}) (*body[[]arrange.Proposal], error) {
	sh, _ := s.store.Snapshot()
	area := in.Body.Area
	if area == "" {
		area = sh.Areas[0].ID
	}
	began := time.Now()
	all, err := arrange.Whole(sh, arrange.Options{
		Area: area, Pinned: in.Body.Pinned,
		Done:  func() bool { return ctx.Err() != nil },
		Spent: func() float64 { return time.Since(began).Seconds() / arrangingFor.Seconds() },
	})
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.pinned", Message: err.Error()})
	}
	return &body[[]arrange.Proposal]{all}, nil
}

func (s *Server) acceptArrangement(ctx context.Context, in *struct {
	Match
	Body struct {
		Says  string          `json:"says,omitempty" maxLength:"80" doc:"what it is, for the history"`
		Moved []arrange.Moved `json:"moved" minItems:"1" maxItems:"500"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "arranged anew: "+short(in.Body.Says), func(sh *shop.Shop) error {
		err := arrange.Take(sh, in.Body.Moved)
		if err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.moved", Message: err.Error()})
		}
		return nil
	}))
}

// RoomMade is what became of making room.
type RoomMade struct {
	Revision store.Revision `json:"revision"`
	Made     arrange.Made   `json:"made"`
}

func (s *Server) roomInMode(ctx context.Context, in *struct {
	ID string `path:"id"`
	Match
	Body struct {
		Thing string `json:"thing" minLength:"1" maxLength:"64" doc:"what room is made for: a station or something on wheels, as a boat"`
	}
}) (*body[RoomMade], error) {
	var made *arrange.Made
	rev, err := s.store.Change(ctx, in.rev, who, fmt.Sprintf("room for %s in %s", short(in.Body.Thing), short(in.ID)), func(sh *shop.Shop) (err error) {
		area := areaOf(sh, in.Body.Thing)
		if made, err = arrange.MakeRoom(sh, in.ID, area, in.Body.Thing); err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.thing", Message: err.Error(), Value: in.Body.Thing})
		}
		sh.Modes = made.Shop.Modes
		return nil
	})
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[RoomMade]{RoomMade{rev, *made}}, nil
}

// SetOff is what bringing a station in sets off.
type SetOff struct {
	Steps   []arrange.Step  `json:"steps" nullable:"false" doc:"where it would stand, and what else is shifted for it"`
	Minutes float64         `json:"minutes" doc:"of shifting the others, all in all"`
	Before  float64         `json:"before" doc:"handling of things now, seconds a week"`
	After   float64         `json:"after" doc:"handling of things once all is shifted, seconds a week"`
	Nights  []moves.Evening `json:"nights" nullable:"false" doc:"shifting the others, an evening at a time"`
	Why     string          `json:"why" doc:"why it finds no spot; empty when it does"`
}

func (s *Server) setsOff(_ context.Context, in *struct {
	ID      string  `path:"id"`
	Minutes float64 `query:"minutes" minimum:"10" maximum:"600" default:"60" doc:"how long an evening is"`
}) (*body[SetOff], error) {
	sh, _ := s.store.Snapshot()
	if shop.NewIndex(sh).Station(in.ID) == nil {
		return nil, noStation(in.ID)
	}
	out := SetOff{Steps: []arrange.Step{}, Nights: []moves.Evening{}}
	made, err := arrange.BringIn(sh, in.ID, nil)
	if err != nil {
		out.Why = err.Error()
		return &body[SetOff]{out}, nil
	}
	out.Steps = made.Steps
	// While the others are shifted it is not there yet.
	now := sh.Clone()
	for i := range now.Stations {
		if st := &now.Stations[i]; st.ID == in.ID {
			*st = made.Shop.Stations[i]
			st.Wished = "2000-01-01"
			made.Shop.Stations[i] = *st
		}
	}
	plan, err := moves.Of(now, made.Shop, moves.Options{Minutes: in.Minutes, Pace: sh.Settings.OwnPace()})
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "path.id", Message: err.Error(), Value: in.ID})
	}
	out.Nights = append(out.Nights, plan.Evenings...)
	out.Minutes, out.Before, out.After = plan.Minutes, plan.Handling.Now, plan.Handling.Target
	return &body[SetOff]{out}, nil
}

// Judged is how a floor is used.
type Judged struct {
	Chains  []chain.Chain  `json:"chains" nullable:"false" doc:"what must be moved before something can be used, what costs most a week first"`
	Tenures []worth.Tenure `json:"tenures" nullable:"false" doc:"what stands on the floor, the longest kept for one use first"`
	Flows   []flow.Flow    `json:"flows" nullable:"false" doc:"the material of jobs"`
	Swaps   []flow.Swap    `json:"swaps" nullable:"false" doc:"stations that would better change places, the best first"`
	Heights []stature.Fit  `json:"heights" nullable:"false" doc:"what is furthest off first"`
	Pairs   []feed.Pair    `json:"pairs" nullable:"false" doc:"surfaces that are as high as a machine's table, or nearly; what needs the least first"`
	Jobs    []shop.Job     `json:"jobs" nullable:"false" doc:"the jobs as they are said; none when nobody said any"`
}

func (s *Server) judgeFloor(_ context.Context, in *struct {
	Mode string `query:"mode" maxLength:"64" doc:"as the room is in this mode; as it stands when left out"`
}) (*body[Judged], error) {
	sh, _ := s.store.Snapshot()
	then := sh
	if in.Mode != "" {
		var err error
		if then, err = sh.InMode(in.Mode); err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.mode", Message: err.Error(), Value: in.Mode})
		}
	}
	m, err := access.NewMap(then)
	if err != nil {
		return nil, problem(err)
	}
	chains, err := chain.Of(m, sh, in.Mode)
	if err != nil {
		return nil, problem(err)
	}
	out := Judged{Chains: chains, Tenures: worth.Of(sh), Flows: flow.Of(then, &then.Areas[0]), Swaps: []flow.Swap{}, Heights: stature.Of(sh), Pairs: feed.Pairs(sh), Jobs: append([]shop.Job{}, sh.Settings.Jobs...)}
	if out.Chains == nil {
		out.Chains = []chain.Chain{}
	}
	if in.Mode == "" {
		out.Swaps = flow.Swaps(sh, &sh.Areas[0])
	}
	return &body[Judged]{out}, nil
}

func (s *Server) setJobs(ctx context.Context, in *struct {
	Match
	Body struct {
		Jobs []shop.Job `json:"jobs" maxItems:"40"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "jobs", func(sh *shop.Shop) error {
		ix := shop.NewIndex(sh)
		for i, j := range in.Body.Jobs {
			at := fmt.Sprintf("body.jobs[%d]", i)
			if strings.TrimSpace(j.Name) == "" {
				return huma.Error422UnprocessableEntity("a job has a name, as “chair”", &huma.ErrorDetail{Location: at + ".name", Message: "a job has a name"})
			}
			for _, stop := range j.Path {
				if stop != flow.Door && ix.Station(stop) == nil && ix.Place(stop) == nil && ix.Container(stop) == nil {
					says := fmt.Sprintf("there is no station, place or container %q; door is the main door", stop)
					return huma.Error422UnprocessableEntity(says, &huma.ErrorDetail{Location: at + ".path", Message: says, Value: stop})
				}
			}
		}
		sh.Settings.Jobs = slices.Clone(in.Body.Jobs)
		return nil
	}))
}

func (s *Server) swapStations(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		With string `json:"with" minLength:"1" maxLength:"64"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, fmt.Sprintf("%s and %s change places", short(in.ID), short(in.Body.With)), func(sh *shop.Shop) error {
		if !arrange.Swap(sh, in.ID, in.Body.With) {
			return huma.Error422UnprocessableEntity("they do not fit on each other's spots")
		}
		return nil
	}))
}
