package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/supply"
	"hobrak/internal/store"
)

// The routes of supply: what the room supplies, where it reaches, and what is said of machines and lamps for that.

func (s *Server) supplyRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "supply", Method: http.MethodGet, Path: "/api/v1/supply", Summary: "Power, extraction, air, light and noise of a room, and where they reach"}), s.supply)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-supply", Method: http.MethodPatch, Path: "/api/v1/supply/stations/{id}", Summary: "Say what a machine needs and gives: cord, outlet, air flow, hose, noise, box", MaxBodyBytes: smallBody}), s.setSupply)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-lamp", Method: http.MethodPatch, Path: "/api/v1/supply/lamps/{id}", Summary: "Say how much light a lamp gives", MaxBodyBytes: smallBody}), s.setLamp)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-running", Method: http.MethodPut, Path: "/api/v1/supply/running", Summary: "Say which machines run at the same time", MaxBodyBytes: smallBody}), s.setRunning)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-room-supply", Method: http.MethodPatch, Path: "/api/v1/supply/room", Summary: "Say of a room what light, warmth, air and noise depend on", MaxBodyBytes: smallBody}), s.setRoomSupply)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-strips", Method: http.MethodPut, Path: "/api/v1/supply/strips", Summary: "Say which power strips and reels there are and what they are plugged into", MaxBodyBytes: smallBody}), s.setStrips)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-stored", Method: http.MethodPut, Path: "/api/v1/supply/stored", Summary: "Say what is worked from batteries", MaxBodyBytes: smallBody}), s.setStored)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-quiet", Method: http.MethodPut, Path: "/api/v1/supply/quiet", Summary: "Say from when to when it must be quiet", MaxBodyBytes: smallBody}), s.setQuiet)
	huma.Register(s.api, described(huma.Operation{OperationID: "sites", Method: http.MethodGet, Path: "/api/v1/supply/sites/{id}", Summary: "Where a station would stand best by what it needs of the room"}), s.sites)
}

// Supplied is what a room supplies, with what was said for it.
type Supplied struct {
	supply.Room
	Running   []shop.Together `json:"running" nullable:"false" doc:"machines that run at the same time, as somebody said"`
	Stations  []shop.Station  `json:"stations" nullable:"false" doc:"of the room"`
	Lamps     []LampSaid      `json:"lamps" nullable:"false"`
	Said      RoomSaid        `json:"said" doc:"what was said of the room"`
	Settled   []supply.Stands `json:"settled" nullable:"false" doc:"how long each machine that makes dust stands where it does"`
	AllStrips []shop.Strip    `json:"all_strips" nullable:"false" doc:"power strips and reels of the whole shop, as said"`
	Stored    *shop.Stored    `json:"stored,omitempty" doc:"what is worked from batteries, as said"`
	Budget    *supply.Budget  `json:"budget,omitempty" doc:"what that comes to in a session"`
	Warmth    *supply.Warmth  `json:"warmth,omitempty" doc:"when it was asked how long it takes to get warm"`
	Quiet     [2]string       `json:"quiet" doc:"times of day from and until which it must be quiet; empty when nobody said"`
	Exits     []Named         `json:"exits" nullable:"false" doc:"doors, windows and fans by which air can leave"`
}

// RoomSaid is what was said of a room for its supply.
type RoomSaid struct {
	Pale      bool       `json:"pale" doc:"walls and ceiling are painted pale"`
	Insulated bool       `json:"insulated"`
	Exhaust   string     `json:"exhaust" doc:"id of the opening by which air leaves; empty when nobody said"`
	Walls     []WallSaid `json:"walls" nullable:"false"`
}

// WallSaid is what was said of a wall for its supply.
type WallSaid struct {
	ID     string `json:"id"`
	Beyond string `json:"beyond" enum:",neighbour,bedroom"`
	Damp   bool   `json:"damp"`
}

// LampSaid is a lamp with what was said of it.
type LampSaid struct {
	ID    string  `json:"id"`
	Lumen float64 `json:"lumen" doc:"0 when nobody said"`
}

func (s *Server) supply(_ context.Context, in *struct {
	Area string `query:"area" maxLength:"64" doc:"the main one when left out"`
	Mode string `query:"mode" maxLength:"64" doc:"as it stands when left out"`
	// Outside and Wanted ask how long it takes to get warm.
	Outside float64 `query:"outside" minimum:"-60" maximum:"60" doc:"°C outside; with wanted"`
	Wanted  float64 `query:"wanted" minimum:"0" maximum:"60" doc:"°C wanted; nothing is asked when left out"`
}) (*body[Supplied], error) {
	sh, _ := s.store.Snapshot()
	r, err := supply.Of(sh, in.Area, in.Mode)
	if err != nil {
		return nil, huma.Error404NotFound(err.Error(), &huma.ErrorDetail{Location: "query", Message: err.Error()})
	}
	ix := shop.NewIndex(sh)
	a := ix.Area(in.Area)
	out := Supplied{Room: *r, Running: append([]shop.Together{}, sh.Settings.Running...), Stations: []shop.Station{}, Lamps: []LampSaid{},
		Said: RoomSaid{Pale: a.Pale, Insulated: a.Insulated, Exhaust: a.Exhaust, Walls: []WallSaid{}}, Settled: supply.Settled(sh, in.Area, today().Format(time.DateOnly)), AllStrips: append([]shop.Strip{}, sh.Settings.Strips...),
		Stored: sh.Settings.Stored, Budget: supply.Stored(sh), Quiet: [2]string{sh.Settings.QuietFrom, sh.Settings.QuietTo}, Exits: []Named{}}
	for i := range a.Walls {
		out.Said.Walls = append(out.Said.Walls, WallSaid{a.Walls[i].ID, a.Walls[i].Beyond, a.Walls[i].Damp})
	}
	for _, e := range supply.Exits(a) {
		out.Exits = append(out.Exits, Named{e.ID, e.Name})
	}
	if in.Wanted > 0 {
		if out.Warmth, err = supply.Warm(sh, in.Area, in.Outside, in.Wanted); err != nil {
			return nil, problem(err)
		}
	}
	for i := range sh.Stations {
		if ix.Area(sh.Stations[i].Area) == a {
			out.Stations = append(out.Stations, sh.Stations[i])
		}
	}
	if a.Ceiling != nil {
		for _, f := range a.Ceiling.Features {
			if f.Kind == "light" {
				out.Lamps = append(out.Lamps, LampSaid{f.ID, f.Lumen})
			}
		}
	}
	return &body[Supplied]{out}, nil
}

func (s *Server) setSupply(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		// Typed are lengths as typed: cord, lead, hose, arm and the mat; empty takes what was said away.
		Typed  map[string]string `json:"typed,omitempty"`
		Outlet *string           `json:"outlet,omitempty" maxLength:"64" doc:"id of the outlet it is plugged into; empty for the nearest"`
		Amps   *float64          `json:"amps,omitempty" minimum:"0" maximum:"400"`
		Flow   *float64          `json:"flow,omitempty" minimum:"0" maximum:"20000" doc:"m³/h by its plate; 0 when nobody read it"`
		DB     *float64          `json:"db,omitempty" minimum:"0" maximum:"140" doc:"dB(A) as stated; 0 when nobody did"`
		Boxed  *bool             `json:"boxed,omitempty"`
		Air    *string           `json:"air,omitempty" enum:",dusty,clean,fumes" doc:"what is done there to the air, or wants of it; empty for what is usual"`
		Wants  *[]string         `json:"wants,omitempty" maxItems:"3" enum:"air,water,network" doc:"what must get there beside power and extraction"`
		Sees   *[]string         `json:"sees,omitempty" maxItems:"20" doc:"ids of stations that are to be in sight"`
		Placed *string           `json:"placed,omitempty" maxLength:"10" doc:"day since which it stands there, as 2027-05-31; empty when not known"`
		// Controls are all of them, with lengths as typed.
		Controls *[]ControlTyped `json:"controls,omitempty" maxItems:"20"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "supply of "+in.ID, func(sh *shop.Shop) error {
		st := shop.NewIndex(sh).Station(in.ID)
		if st == nil {
			return noStation(in.ID)
		}
		for field, text := range in.Body.Typed {
			to := map[string]*length.Length{"cord": &st.Cord, "lead": &st.Lead, "hose": &st.Hose, "arm": &st.Arm, "mat_w": &st.Mat[0], "mat_d": &st.Mat[1]}[field]
			if to == nil {
				return unreadable(field, text, fmt.Errorf("it has cord, lead, hose, arm, mat_w and mat_d, not %q", field))
			}
			if strings.TrimSpace(text) == "" {
				*to = 0
				continue
			}
			l, err := length.Parse(text, sh.Settings.Units)
			most := 50 * length.Metre
			if field == "arm" {
				most = 10 * length.Metre
			}
			if err == nil && (l < 0 || l > most) {
				err = fmt.Errorf("%s should be from 0 to %s", l, most)
			}
			if err != nil {
				return unreadable(field, text, err)
			}
			*to = l
		}
		if o := in.Body.Outlet; o != nil && *o != "" {
			if !outletIn(sh, *o) && !slices.ContainsFunc(sh.Settings.Strips, func(x shop.Strip) bool { return x.ID == *o }) {
				return huma.Error422UnprocessableEntity(fmt.Sprintf("there is no outlet and no power strip %q", *o), &huma.ErrorDetail{Location: "body.outlet", Value: *o})
			}
		}
		set(&st.Outlet, in.Body.Outlet)
		set(&st.Flow, in.Body.Flow)
		set(&st.DB, in.Body.DB)
		set(&st.Boxed, in.Body.Boxed)
		set(&st.Air, in.Body.Air)
		set(&st.Wants, in.Body.Wants)
		if p := in.Body.Placed; p != nil {
			if err := isDay("placed", *p, true); err != nil {
				return err
			}
			st.Placed = *p
		}
		if in.Body.Sees != nil {
			for _, id := range *in.Body.Sees {
				if shop.NewIndex(sh).Station(id) == nil {
					return noStation(id)
				}
			}
			st.Sees = *in.Body.Sees
		}
		if in.Body.Controls != nil {
			list, err := controls(*in.Body.Controls, sh.Settings.Units)
			if err != nil {
				return err
			}
			st.Controls = list
		}
		if in.Body.Amps != nil {
			st.Amps = *in.Body.Amps
			st.Measured("amps")
		}
		return nil
	}))
}

func (s *Server) setLamp(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Area string `query:"area" maxLength:"64"`
	Body struct {
		Lumen float64 `json:"lumen" minimum:"0" maximum:"200000" doc:"0 for a usual one"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "lamp "+in.ID, func(sh *shop.Shop) error {
		if a := shop.NewIndex(sh).Area(in.Area); a != nil && a.Ceiling != nil {
			for i := range a.Ceiling.Features {
				if f := &a.Ceiling.Features[i]; f.ID == in.ID && f.Kind == "light" {
					f.Lumen = in.Body.Lumen
					return nil
				}
			}
		}
		return huma.Error404NotFound(fmt.Sprintf("there is no lamp %q under that ceiling", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
	}))
}

func (s *Server) setRunning(ctx context.Context, in *struct {
	Match
	Body struct {
		Running []shop.Together `json:"running" maxItems:"50"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "what runs together", func(sh *shop.Shop) error {
		ix := shop.NewIndex(sh)
		for i, x := range in.Body.Running {
			if strings.TrimSpace(x.Name) == "" {
				return huma.Error422UnprocessableEntity("say what is done then: dimensioning, sanding", &huma.ErrorDetail{Location: fmt.Sprintf("body.running[%d].name", i)})
			}
			for _, id := range x.Stations {
				if ix.Station(id) == nil {
					return huma.Error422UnprocessableEntity(fmt.Sprintf("there is no station %q", id), &huma.ErrorDetail{Location: fmt.Sprintf("body.running[%d].stations", i), Value: id})
				}
			}
		}
		sh.Settings.Running = in.Body.Running
		return nil
	}))
}

// ControlTyped is a control with its lengths as typed.
type ControlTyped struct {
	Kind string `json:"kind" enum:"stop,switch,crank,remote"`
	X    string `json:"x" maxLength:"40" doc:"from the left of the station's front; minus is left of it"`
	Y    string `json:"y" maxLength:"40" doc:"behind its front; minus is before it"`
	Z    string `json:"z" maxLength:"40" doc:"above the floor"`
}

// controls as they are kept; the error says which of them cannot be read.
func controls(typed []ControlTyped, units length.System) (out []shop.Control, err error) {
	for i, c := range typed {
		x := shop.Control{Kind: c.Kind}
		for _, f := range []struct {
			name, text string
			to         *length.Length
			low        length.Length
		}{{"x", c.X, &x.X, -5 * length.Metre}, {"y", c.Y, &x.Y, -5 * length.Metre}, {"z", c.Z, &x.Z, 0}} {
			text, minus := strings.CutPrefix(strings.TrimSpace(f.text), "-")
			l, err := length.Parse(text, units)
			if minus {
				l = -l
			}
			if err == nil && (l < f.low || l > 5*length.Metre) {
				err = fmt.Errorf("%s should be from %s to %s", l, f.low, 5*length.Metre)
			}
			if err != nil {
				return nil, wrong(fmt.Sprintf("controls[%d].%s", i, f.name), f.text, err)
			}
			*f.to = l
		}
		out = append(out, x)
	}
	return out, nil
}

func (s *Server) setRoomSupply(ctx context.Context, in *struct {
	Match
	Area string `query:"area" maxLength:"64"`
	Body struct {
		Pale      *bool      `json:"pale,omitempty"`
		Insulated *bool      `json:"insulated,omitempty"`
		Exhaust   *string    `json:"exhaust,omitempty" maxLength:"64" doc:"id of a door, window or fan; empty for the nearest to what makes most dust"`
		Walls     []WallSaid `json:"walls,omitempty" maxItems:"200" doc:"of those that change"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "what the room is like", func(sh *shop.Shop) error {
		a := shop.NewIndex(sh).Area(in.Area)
		if a == nil {
			return huma.Error404NotFound(fmt.Sprintf("there is no area %q", in.Area), &huma.ErrorDetail{Location: "query.area", Value: in.Area})
		}
		if e := in.Body.Exhaust; e != nil && *e != "" && !slices.ContainsFunc(supply.Exits(a), func(x supply.Exit) bool { return x.ID == *e }) {
			return huma.Error422UnprocessableEntity(fmt.Sprintf("there is no door, window or fan %q in that room", *e), &huma.ErrorDetail{Location: "body.exhaust", Value: *e})
		}
		set(&a.Pale, in.Body.Pale)
		set(&a.Insulated, in.Body.Insulated)
		set(&a.Exhaust, in.Body.Exhaust)
		for i, w := range in.Body.Walls {
			k := a.WallIndex(w.ID)
			if k < 0 {
				return huma.Error422UnprocessableEntity(fmt.Sprintf("there is no wall %q in that room", w.ID), &huma.ErrorDetail{Location: fmt.Sprintf("body.walls[%d].id", i), Value: w.ID})
			}
			a.Walls[k].Beyond, a.Walls[k].Damp = w.Beyond, w.Damp
		}
		return nil
	}))
}

func (s *Server) setStrips(ctx context.Context, in *struct {
	Match
	Body struct {
		Strips []StripTyped `json:"strips" maxItems:"100"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "power strips", func(sh *shop.Shop) error {
		var out []shop.Strip
		ids := map[string]bool{}
		for _, t := range in.Body.Strips {
			ids[t.ID] = t.ID != ""
		}
		for i, t := range in.Body.Strips {
			at := fmt.Sprintf("strips[%d]", i)
			x := shop.Strip{ID: t.ID, Name: strings.TrimSpace(t.Name), Into: t.Into, Rated: t.Rated, Reel: t.Reel, Overhead: t.Overhead}
			if x.Name == "" {
				return wrong(at+".name", t.Name, errors.New("say what it is called: the strip at the bench"))
			}
			if x.ID == "" {
				x.ID = freeID("strip", func(id string) bool { return ids[id] || outletIn(sh, id) })
				ids[x.ID] = true
			}
			l, err := length.Parse(t.Lead, sh.Settings.Units)
			if err == nil && (l < 0 || l > 100*length.Metre) {
				err = fmt.Errorf("%s should be from 0 to %s", l, 100*length.Metre)
			}
			if err != nil {
				return wrong(at+".lead", t.Lead, err)
			}
			x.Lead = l
			if x.Into != "" && !outletIn(sh, x.Into) && !ids[x.Into] {
				return wrong(at+".into", x.Into, errors.New("there is no such outlet or strip"))
			}
			out = append(out, x)
		}
		for i := range out { // one into another, and round: no current comes from nowhere
			seen := map[string]bool{}
			for at := &out[i]; at != nil; {
				if seen[at.ID] {
					return wrong(fmt.Sprintf("strips[%d].into", i), at.Into, fmt.Errorf("%s would be plugged into itself", at.Name))
				}
				seen[at.ID] = true
				next := slices.IndexFunc(out, func(x shop.Strip) bool { return x.ID == at.Into })
				if next < 0 {
					break
				}
				at = &out[next]
			}
		}
		sh.Settings.Strips = out
		return nil
	}))
}

// StripTyped is a power strip with its lead as typed.
type StripTyped struct {
	ID       string  `json:"id,omitempty" maxLength:"64" doc:"empty for a new one"`
	Name     string  `json:"name" maxLength:"80"`
	Into     string  `json:"into,omitempty" maxLength:"64" doc:"id of the outlet or strip it is plugged into"`
	Lead     string  `json:"lead" maxLength:"40" doc:"length of its lead, as typed"`
	Rated    float64 `json:"rated,omitempty" minimum:"0" maximum:"400" doc:"A, as printed on it; 0 when nobody read it"`
	Reel     bool    `json:"reel,omitempty"`
	Overhead bool    `json:"overhead,omitempty" doc:"it hangs from the ceiling"`
}

// outletIn tells whether there is an outlet of an id.
func outletIn(sh *shop.Shop, id string) bool {
	for i := range sh.Areas {
		for k := range sh.Areas[i].Walls {
			if slices.ContainsFunc(sh.Areas[i].Walls[k].Features, func(f shop.Feature) bool { return f.ID == id && f.Kind == "outlet" }) {
				return true
			}
		}
	}
	return false
}

// freeID is the first of name-1, name-2 and so on that is not taken.
func freeID(name string, taken func(string) bool) string {
	for n := 1; ; n++ {
		if id := fmt.Sprintf("%s-%d", name, n); !taken(id) {
			return id
		}
	}
}

func (s *Server) setStored(ctx context.Context, in *struct {
	Match
	Body struct {
		Stored *shop.Stored `json:"stored,omitempty" doc:"nothing is worked from batteries when left out"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "batteries", func(sh *shop.Shop) error {
		if x := in.Body.Stored; x != nil {
			names := map[string]bool{}
			for i, b := range x.Batteries {
				if strings.TrimSpace(b.Name) == "" || names[b.Name] {
					return wrong(fmt.Sprintf("stored.batteries[%d].name", i), b.Name, errors.New("say what these are called, each name once: lamp battery, 18 V packs"))
				}
				names[b.Name] = true
			}
			for i, d := range x.Draws {
				if strings.TrimSpace(d.Name) == "" {
					return wrong(fmt.Sprintf("stored.draws[%d].name", i), d.Name, errors.New("say what draws: lamp, drill driver"))
				}
				if d.Battery != "" && !names[d.Battery] {
					return wrong(fmt.Sprintf("stored.draws[%d].battery", i), d.Battery, errors.New("there are no batteries of that name"))
				}
			}
		}
		sh.Settings.Stored = in.Body.Stored
		return nil
	}))
}

func (s *Server) setQuiet(ctx context.Context, in *struct {
	Match
	Body struct {
		From string `json:"from" maxLength:"5" doc:"time of day, as 20:00; empty for never"`
		To   string `json:"to" maxLength:"5"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "quiet hours", func(sh *shop.Shop) error {
		for field, text := range map[string]string{"from": in.Body.From, "to": in.Body.To} {
			if _, err := time.Parse("15:04", text); text != "" && err != nil {
				return wrong(field, text, errors.New("a time of day is written as 20:00"))
			}
		}
		if (in.Body.From == "") != (in.Body.To == "") {
			return wrong("to", in.Body.To, errors.New("say both, from when and until when, or neither"))
		}
		sh.Settings.QuietFrom, sh.Settings.QuietTo = in.Body.From, in.Body.To
		return nil
	}))
}

func (s *Server) sites(_ context.Context, in *struct {
	ID   string `path:"id"`
	Mode string `query:"mode" maxLength:"64"`
}) (*body[[]supply.Site], error) {
	sh, _ := s.store.Snapshot()
	if _, err := stationOf(sh, in.ID); err != nil {
		return nil, err
	}
	out, err := supply.Sites(sh, in.Mode, in.ID)
	if err != nil {
		return nil, huma.Error404NotFound(err.Error(), &huma.ErrorDetail{Location: "query.mode", Message: err.Error()})
	}
	return &body[[]supply.Site]{out}, nil
}
