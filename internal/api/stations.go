package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/supply"
	"hobrak/internal/core/weight"
	"hobrak/internal/store"
)

func (s *Server) stationRoutes() {
	listed(s, "stations", "station", func(sh *shop.Shop) []shop.Station { return sh.Stations }, func(x *shop.Station) string { return x.ID }, wantedStation)
	huma.Register(s.api, described(huma.Operation{OperationID: "new-station", Method: http.MethodPost, Path: "/api/v1/stations", Summary: "Make a station of its name or of a line, where it stands best or is said to stand", MaxBodyBytes: smallBody}), s.newStation)
	huma.Register(s.api, described(huma.Operation{OperationID: "change-station", Method: http.MethodPatch, Path: "/api/v1/stations/{id}", Summary: "Change what a station is called, its size, how it can be moved", MaxBodyBytes: smallBody}), s.changeStation)
	huma.Register(s.api, described(huma.Operation{OperationID: "station-needs", Method: http.MethodGet, Path: "/api/v1/stations/{id}/needs", Summary: "What a station usually needs, and what supplies it where it stands"}), s.stationNeeds)
	huma.Register(s.api, described(huma.Operation{OperationID: "try-station", Method: http.MethodPost, Path: "/api/v1/stations/{id}/try", Summary: "What putting a station there would do", MaxBodyBytes: smallBody}), s.tryStation)
	huma.Register(s.api, described(huma.Operation{OperationID: "move-station", Method: http.MethodPut, Path: "/api/v1/stations/{id}/spot", Summary: "Put a station there, or where it stands best", MaxBodyBytes: smallBody}), s.moveStation)
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-station", Method: http.MethodDelete, Path: "/api/v1/stations/{id}", Summary: "Take a station away"}), s.removeStation)
}

// stationsWanted is what a list of stations can be asked for.
type stationsWanted struct {
	Kind string `query:"kind" maxLength:"64"`
	Area string `query:"area" maxLength:"64"`
}

// wantedStation tells whether one is asked for.
func wantedStation(_ *shop.Shop, st *shop.Station, in *stationsWanted) bool {
	return asked(in.Kind, string(st.Kind)) && asked(in.Area, st.Area)
}

// Stood is what became of a station, or of storage that was stated.
type Stood struct {
	Revision store.Revision `json:"revision"`
	IDs      []string       `json:"ids" nullable:"false" doc:"what was added"`
	Blocked  string         `json:"blocked" doc:"what is in its way; empty when nothing is"`
}

func (s *Server) newStation(ctx context.Context, in *struct {
	Match
	Body struct {
		Name string `json:"name,omitempty" maxLength:"60"`
		Line string `json:"line,omitempty" maxLength:"400" doc:"as typed, in place of a name"`
	}
}) (*body[Stood], error) {
	if (in.Body.Name == "") == (in.Body.Line == "") {
		return nil, huma.Error422UnprocessableEntity("say a name or a line", &huma.ErrorDetail{Location: "body.name", Message: "say a name or a line"})
	}
	var id string
	var blocked *floor.Blocked
	rev, err := s.store.Change(ctx, in.rev, who, fmt.Sprintf("station %s", short(in.Body.Name+in.Body.Line)), func(sh *shop.Shop) (err error) {
		if in.Body.Line != "" {
			id, blocked, err = belongings.AddStation(sh, in.Body.Line)
		} else {
			id, err = belongings.NewStation(sh, in.Body.Name)
		}
		return err
	})
	if err != nil {
		return nil, itemProblem(err)
	}
	return &body[Stood]{Stood{rev, []string{id}, says(blocked)}}, nil
}

func says(b *floor.Blocked) string {
	if b == nil {
		return ""
	}
	return b.Says
}

func noStation(id string) error {
	return huma.Error404NotFound(fmt.Sprintf("there is no station %q", id), &huma.ErrorDetail{Location: "path.id", Value: id})
}

func stationOf(sh *shop.Shop, id string) (*shop.Station, error) {
	if st := shop.NewIndex(sh).Station(id); st != nil {
		return st, nil
	}
	return nil, noStation(id)
}

func (s *Server) changeStation(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Name     *string        `json:"name,omitempty" minLength:"1" maxLength:"60"`
		Mobility *shop.Mobility `json:"mobility,omitempty"`
		Amps     *float64       `json:"amps,omitempty" minimum:"0" maximum:"400"`
		Wished   *string        `json:"wished,omitempty" maxLength:"10" doc:"the day until which it is only wished for and holds its place, as 2027-05-31; empty when it is here"`
		When     *string        `json:"when,omitempty" enum:",circuit,next-room" doc:"what one that is wished for waits for"`
		Casters  *string        `json:"casters,omitempty" enum:"locking,plain," doc:"what it rolls on; empty when that is not known"`
		// Typed are lengths and weights as typed, in either system: w, d, h, tall; in, out, wide and thick of what is fed through it;
		// kg and rated.
		Typed map[string]string `json:"typed,omitempty"`
	}
}) (*body[Stood], error) {
	sh, _ := s.store.Snapshot()
	st, err := stationOf(sh, in.ID)
	if err != nil {
		return nil, err
	}
	sizes, feed, weighs, err := measures(in.Body.Typed, st, sh.Settings.Units)
	if err != nil {
		return nil, err
	}
	if w := in.Body.Wished; w != nil {
		if err := dayOrNone(*w, "body.wished"); err != nil {
			return nil, err
		}
	}
	var blocked *floor.Blocked
	rev, err := s.store.Change(ctx, in.rev, who, "station "+st.Name, func(sh *shop.Shop) (err error) {
		if len(sizes) > 0 {
			if blocked, err = floor.Sized(sh, in.ID, sizes); err != nil {
				return err
			}
		}
		st := shop.NewIndex(sh).Station(in.ID)
		if in.Body.Name != nil {
			st.Name = *in.Body.Name
		}
		if in.Body.Mobility != nil {
			st.Mobility = *in.Body.Mobility
		}
		if in.Body.Amps != nil {
			st.Amps = *in.Body.Amps
			st.Measured("amps")
		}
		if in.Body.Wished != nil {
			st.Wished = *in.Body.Wished
		}
		set(&st.When, in.Body.When)
		if in.Body.Casters != nil {
			st.Casters = shop.Casters(*in.Body.Casters)
		}
		if kg, ok := weighs["kg"]; ok {
			st.KG = kg
			st.Measured("kg")
		}
		if kg, ok := weighs["rated"]; ok {
			st.Rated = kg
		}
		for field, l := range feed {
			*map[string]*length.Length{"in": &st.Feed.In, "out": &st.Feed.Out, "wide": &st.Feed.Wide, "thick": &st.Feed.Thick}[field] = l
		}
		return nil
	})
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[Stood]{Stood{rev, []string{}, says(blocked)}}, nil
}

// measures reads what was typed of a station: its sizes, those of what is fed through it, and weights.
func measures(typed map[string]string, st *shop.Station, units length.System) (sizes, feed map[string]length.Length, weighs map[string]weight.Weight, err error) {
	sizes, feed, weighs = map[string]length.Length{}, map[string]length.Length{}, map[string]weight.Weight{}
	for field, text := range typed {
		switch field {
		case "kg", "rated":
			w, err := weight.Parse(text, units)
			if err == nil && (w < 0 || w > weight.KG(10000)) {
				err = fmt.Errorf("it should be from 0 to %s; 0 takes what is said away", weight.KG(10000))
			}
			if err != nil {
				return nil, nil, nil, unreadable(field, text, err)
			}
			weighs[field] = w
		case "w", "d", "h", "tall", "in", "out", "wide", "thick":
			l, err := length.Parse(text, units)
			most, to, zero := 20*length.Metre, sizes, field == "tall"
			if field == "h" || field == "tall" || field == "thick" {
				most = 6 * length.Metre
			}
			if field == "in" || field == "out" || field == "wide" || field == "thick" {
				to, zero = feed, true
			}
			switch {
			case err == nil && (l < 0 || l == 0 && !zero || l > most):
				err = fmt.Errorf("%s should be more than 0 and at most %s", l, most)
			case err == nil && zero && field != "tall" && st.Feed == nil:
				err = fmt.Errorf("nothing is fed through %s", st.Name)
			}
			if err != nil {
				return nil, nil, nil, unreadable(field, text, err)
			}
			to[field] = l
		default:
			return nil, nil, nil, unreadable(field, text, fmt.Errorf("a station has w, d, h, tall, in, out, wide, thick, kg and rated, not %q", field))
		}
	}
	return sizes, feed, weighs, nil
}

func unreadable(field, text string, err error) error {
	return wrong("typed."+field, text, err)
}

// wrong is a part of the body that cannot be, at its path in it.
func wrong(where, text string, err error) error {
	return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body." + where, Message: err.Error(), Value: text})
}

// Standpoint is where a station is to stand: on the floor, or where it stands best by a wish.
type Standpoint struct {
	Floor  *[2]float64 `json:"floor,omitempty" doc:"left and lower edge of its footprint at rot 0, mm"`
	Rot    float64     `json:"rot,omitempty" minimum:"-360" maximum:"360" doc:"degrees anticlockwise"`
	Wall   string      `json:"wall,omitempty" maxLength:"16" doc:"best at this wall"`
	By     string      `json:"by,omitempty" maxLength:"32" doc:"best by the window or a door"`
	Middle bool        `json:"middle,omitempty" doc:"best away from the walls"`
}

// put a station of a shop there.
func (p *Standpoint) put(sh *shop.Shop, id string) (*floor.Blocked, error) {
	if p.Floor != nil {
		return floor.Move(sh, id, shop.Point{length.MM(p.Floor[0]), length.MM(p.Floor[1])}, p.Rot)
	}
	st := shop.NewIndex(sh).Station(id)
	at, blocked, err := floor.Put(sh, *st, floor.Wish{Wall: p.Wall, By: p.By, Middle: p.Middle})
	if err == nil {
		*st = at
	}
	return blocked, err
}

// StationTrial is what putting a station somewhere would do.
type StationTrial struct {
	Allowed bool       `json:"allowed" doc:"false when it cannot stand there at all"`
	Blocked string     `json:"blocked" doc:"what is in its way; empty when nothing is"`
	Floor   [2]float64 `json:"floor" doc:"where it would stand"`
	Rot     float64    `json:"rot"`
	Now     float64    `json:"now" doc:"weekly handling as it stands, seconds"`
	Then    float64    `json:"then" doc:"weekly handling with it there, seconds"`
}

func (s *Server) tryStation(_ context.Context, in *struct {
	ID   string `path:"id"`
	Body Standpoint
}) (*body[StationTrial], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	if _, err := stationOf(v.shop, in.ID); err != nil {
		return nil, err
	}
	next := v.shop.Clone()
	blocked, err := in.Body.put(next, in.ID)
	var none *floor.NoSpot
	if errors.As(err, &none) {
		return &body[StationTrial]{StationTrial{Blocked: none.Why}}, nil
	} else if err != nil {
		return nil, problem(err)
	}
	then, err := v.next(next, v.revision, &shop.Changes{Stations: true})
	if err != nil {
		return nil, problem(err)
	}
	st := shop.NewIndex(next).Station(in.ID)
	return &body[StationTrial]{StationTrial{Allowed: true, Blocked: says(blocked), Floor: [2]float64{st.X.MM(), st.Y.MM()}, Rot: st.Rot, Now: v.round.Totals.Seconds, Then: then.round.Totals.Seconds}}, nil
}

func (s *Server) moveStation(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body Standpoint
}) (*body[Stood], error) {
	sh, _ := s.store.Snapshot()
	st, err := stationOf(sh, in.ID)
	if err != nil {
		return nil, err
	}
	var blocked *floor.Blocked
	rev, err := s.store.Change(ctx, in.rev, who, st.Name+" moved", func(sh *shop.Shop) (err error) {
		blocked, err = in.Body.put(sh, in.ID)
		return err
	})
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[Stood]{Stood{rev, []string{}, says(blocked)}}, nil
}

func (s *Server) removeStation(ctx context.Context, in *struct {
	Match
	ID      string `path:"id"`
	Instead string `query:"instead" maxLength:"64" doc:"station where what is used here is used from then on"`
}) (*body[store.Revision], error) {
	sh, _ := s.store.Snapshot()
	st, err := stationOf(sh, in.ID)
	if err != nil {
		return nil, err
	}
	rev, err := s.store.Change(ctx, in.rev, who, st.Name+" removed", func(sh *shop.Shop) error { return floor.Remove(sh, in.ID, in.Instead) })
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[store.Revision]{rev}, nil
}

func (s *Server) stationNeeds(_ context.Context, in *struct {
	ID string `path:"id"`
}) (*body[[]supply.Need], error) {
	sh, _ := s.store.Snapshot()
	st, err := stationOf(sh, in.ID)
	if err != nil {
		return nil, err
	}
	return &body[[]supply.Need]{supply.Needs(sh, st)}, nil
}
