package api

import (
	"bytes"
	"cmp"
	"context"
	"crypto/subtle"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/due"
	"hobrak/internal/core/event"
	"hobrak/internal/core/length"
	"hobrak/internal/core/project"
	"hobrak/internal/core/review"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

// The routes of upkeep: what is due, edges, consumables, what waits, trials, regrets, projects, and the calendar of it.

// feedPath is where a calendar reads what is due, by a secret.
const feedPath = "/api/v1/feed/"

func (s *Server) upkeepRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "due", Method: http.MethodGet, Path: "/api/v1/due", Summary: "What is due today, with edges, consumables and what waits"}), s.due)
	huma.Register(s.api, described(huma.Operation{OperationID: "due-calendar", Method: http.MethodGet, Path: "/api/v1/due/calendar", Summary: "What is due and comes in the year after, as a calendar file"}), s.dueCalendar)
	huma.Register(s.api, described(huma.Operation{OperationID: "feed", Method: http.MethodGet, Path: feedPath + "{secret}", Summary: "The same for a calendar that reads it again and again, by its secret"}), s.feed)
	huma.Register(s.api, described(huma.Operation{OperationID: "feed-address", Method: http.MethodGet, Path: "/api/v1/due/feed", Summary: "The address of the feed"}), s.feedAddress)
	huma.Register(s.api, described(huma.Operation{OperationID: "change-feed", Method: http.MethodPost, Path: "/api/v1/due/feed", Summary: "Another address for the feed: the old one answers no more", MaxBodyBytes: smallBody}), s.changeFeed)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-upkeep", Method: http.MethodPut, Path: "/api/v1/upkeep", Summary: "Say which work comes again", MaxBodyBytes: smallBody}), s.setUpkeep)
	huma.Register(s.api, described(huma.Operation{OperationID: "upkeep-done", Method: http.MethodPost, Path: "/api/v1/upkeep/{id}/done", Summary: "Upkeep was done", MaxBodyBytes: smallBody}), s.upkeepDone)
	huma.Register(s.api, described(huma.Operation{OperationID: "put-off-upkeep", Method: http.MethodPost, Path: "/api/v1/upkeep/{id}/put-off", Summary: "Put upkeep off, with a reason", MaxBodyBytes: smallBody}), s.putOff)
	huma.Register(s.api, described(huma.Operation{OperationID: "mark-dull", Method: http.MethodPut, Path: "/api/v1/items/{id}/dull", Summary: "An edge is dull, or not any more", MaxBodyBytes: smallBody}), s.markDull)
	huma.Register(s.api, described(huma.Operation{OperationID: "sharpened", Method: http.MethodPost, Path: "/api/v1/edges/sharpened", Summary: "A batch of edges was sharpened", MaxBodyBytes: smallBody}), s.sharpened)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-stock", Method: http.MethodPut, Path: "/api/v1/items/{id}/stock", Summary: "Say what there is of a consumable", MaxBodyBytes: smallBody}), s.setStock)
	huma.Register(s.api, described(huma.Operation{OperationID: "use-stock", Method: http.MethodPost, Path: "/api/v1/items/{id}/stock/used", Summary: "So much of a consumable was used up, or came with a negative number", MaxBodyBytes: smallBody}), s.useStock)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-limbo", Method: http.MethodPut, Path: "/api/v1/items/{id}/limbo", Summary: "A thing waits for repair, sale or a decision, or no more", MaxBodyBytes: smallBody}), s.setLimbo)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-records", Method: http.MethodPatch, Path: "/api/v1/records", Summary: "Say what is tried, regretted, aimed at, and from when on things are due", MaxBodyBytes: smallBody}), s.setRecords)
	huma.Register(s.api, described(huma.Operation{OperationID: "projects", Method: http.MethodGet, Path: "/api/v1/projects", Summary: "What is being made, with the room there is for it"}), s.projects)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-project", Method: http.MethodPut, Path: "/api/v1/projects/{id}", Summary: "Say what a project is like; a new one by the id new", MaxBodyBytes: smallBody}), s.setProject)
	huma.Register(s.api, described(huma.Operation{OperationID: "drop-project", Method: http.MethodPost, Path: "/api/v1/projects/{id}/drop", Summary: "Drop a project: what was promised to it is free", MaxBodyBytes: smallBody}), s.dropProject)
}

// DueToday is what is due, and what it is worked out from.
type DueToday struct {
	Day       string            `json:"day"`
	Due       []due.Item        `json:"due" nullable:"false"`
	Ahead     []due.Item        `json:"ahead" nullable:"false" doc:"what comes in the next sixty days"`
	Dull      []DullEdge        `json:"dull" nullable:"false"`
	Batch     int               `json:"batch" doc:"so many are worth a session"`
	Stocks    []due.Bought      `json:"stocks" nullable:"false"`
	Flammable float64           `json:"flammable" doc:"litres of what burns, in all"`
	Flames    int               `json:"flames" doc:"pieces of that"`
	Limbo     []Waiting         `json:"limbo" nullable:"false"`
	Upkeep    []shop.Upkeep     `json:"upkeep" nullable:"false"`
	Trials    []shop.Trial      `json:"trials" nullable:"false"`
	Regrets   []shop.Regret     `json:"regrets" nullable:"false"`
	Frost     string            `json:"frost" doc:"month and day on which what must not freeze comes in; empty for the usual"`
	LimboDays int               `json:"limbo_days" doc:"0 for the usual"`
	Names     map[string]string `json:"names" doc:"of all that is named here, by id"`
}

// DullEdge is a thing to sharpen.
type DullEdge struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Place string `json:"place" doc:"empty without a home"`
	Side  string `json:"side" enum:",left,right" doc:"of the rack it lives in, on which dull ones hang; empty where none is said"`
	Notes string `json:"notes" doc:"stones, angle: how it is set up, and what is noted of it"`
}

// Waiting is a thing in limbo, with what it costs meanwhile.
type Waiting struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Limbo  string  `json:"limbo" enum:"repair,sell,give,decide"`
	Since  string  `json:"since"`
	GoesTo string  `json:"goes_to"`
	Review string  `json:"review"`
	Place  string  `json:"place"`
	M2     float64 `json:"m2" doc:"of front it takes meanwhile"`
	Regret string  `json:"regret" doc:"what was regretted about something like it; empty when nothing"`
}

// tallies count the events once for each event that happens.
type tallies struct {
	mu    sync.Mutex
	head  int64
	tally *due.Tally
}

func (s *Server) tally(ctx context.Context) (*due.Tally, error) {
	s.counted.mu.Lock()
	defer s.counted.mu.Unlock()
	head := s.store.EventHead()
	if s.counted.tally == nil || s.counted.head != head {
		log, err := s.store.AllEvents(ctx)
		if err != nil {
			return nil, err
		}
		s.counted.tally, s.counted.head = due.NewTally(log.Valid()), head
	}
	return s.counted.tally, nil
}

func (s *Server) dueNow(ctx context.Context, days int) (sh *shop.Shop, list, ahead []due.Item, err error) {
	sh, _ = s.store.Snapshot()
	counts, err := s.tally(ctx)
	if err != nil {
		return nil, nil, nil, problem(err)
	}
	out, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, nil, nil, problem(err)
	}
	day := today().Format(time.DateOnly)
	if list, err = due.Of(sh, counts, out, day); err != nil {
		return nil, nil, nil, problem(err)
	}
	ahead, err = due.Ahead(sh, out, day, today().AddDate(0, 0, days).Format(time.DateOnly))
	return sh, list, ahead, err
}

func (s *Server) due(ctx context.Context, _ *struct{}) (*body[DueToday], error) {
	sh, list, ahead, err := s.dueNow(ctx, 60)
	if err != nil {
		return nil, problem(err)
	}
	counts, err := s.tally(ctx)
	if err != nil {
		return nil, problem(err)
	}
	set := &sh.Settings
	x := DueToday{Day: today().Format(time.DateOnly), Due: list, Ahead: ahead, Dull: []DullEdge{}, Stocks: due.Stocks(sh, counts, today()), Limbo: []Waiting{}, Upkeep: append([]shop.Upkeep{}, set.Upkeep...),
		Trials: append([]shop.Trial{}, set.Trials...), Regrets: append([]shop.Regret{}, set.Regrets...), Frost: set.FrostMoves, LimboDays: set.LimboDays, Names: map[string]string{}}
	x.Flammable, x.Flames = due.Flammable(sh)
	ix := shop.NewIndex(sh)
	place := func(id string) string {
		for _, h := range ix.Homes(id) {
			return h.Place
		}
		return ""
	}
	dull, batch := due.Dull(sh)
	x.Batch = batch
	for _, it := range dull {
		x.Dull = append(x.Dull, DullEdge{it.ID, it.Name, place(it.ID), due.Side(ix, it), strings.TrimSpace(it.SetUp + " " + it.Notes)})
	}
	for i := range sh.Items {
		it := &sh.Items[i]
		if it.Limbo == "" {
			continue
		}
		x.Limbo = append(x.Limbo, Waiting{it.ID, it.Name, it.Limbo, it.LimboSince, it.GoesTo, it.Review, place(it.ID), it.W.MM() * it.H.MM() * float64(it.Number()) / 1e6, review.Regretted(sh, it.Kind, it.Name)})
	}
	for _, l := range [][]due.Item{list, ahead} {
		for _, d := range l {
			x.Names[d.Where] = ix.Name(d.Where)
		}
	}
	for _, u := range set.Upkeep {
		if it := ix.Item(u.On); it != nil {
			x.Names[u.On] = it.Name
		} else if u.On != "" {
			x.Names[u.On] = ix.Name(u.On)
		}
	}
	delete(x.Names, "")
	return &body[DueToday]{x}, nil
}

func (s *Server) calendar(ctx context.Context) (*paper, error) {
	sh, list, ahead, err := s.dueNow(ctx, 365)
	if err != nil {
		return nil, problem(err)
	}
	var b bytes.Buffer
	if err := exchange.WriteCalendar(&b, sh.Settings.Name, append(list, ahead...), today()); err != nil {
		return nil, problem(err)
	}
	return &paper{"text/calendar; charset=utf-8", `attachment; filename="upkeep.ics"`, b.Bytes()}, nil
}

func (s *Server) dueCalendar(ctx context.Context, _ *struct{}) (*paper, error) {
	return s.calendar(ctx)
}

func (s *Server) feed(ctx context.Context, in *struct {
	Secret string `path:"secret" maxLength:"80"`
}) (*paper, error) {
	secret, err := s.store.Feed(ctx)
	if err != nil {
		return nil, problem(err)
	}
	if subtle.ConstantTimeCompare([]byte(strings.TrimSuffix(in.Secret, ".ics")), []byte(secret)) != 1 {
		return nil, huma.Error404NotFound("there is no feed at this address, or not any more")
	}
	return s.calendar(ctx)
}

// FeedAddress is the path at which a calendar reads what is due.
type FeedAddress struct {
	Path string `json:"path" doc:"after the address of this shop; whoever knows it reads what is due, without a pass phrase"`
}

func (s *Server) feedAddress(ctx context.Context, _ *struct{}) (*body[FeedAddress], error) {
	secret, err := s.store.Feed(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return &body[FeedAddress]{FeedAddress{feedPath + secret + ".ics"}}, nil
}

func (s *Server) changeFeed(ctx context.Context, _ *struct{}) (*body[FeedAddress], error) {
	secret, err := s.store.ChangeFeed(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return &body[FeedAddress]{FeedAddress{feedPath + secret + ".ics"}}, nil
}

// isDay refuses what is no day, and one that is still to come where that cannot be.
func isDay(where, text string, past bool) error {
	if err := dayOrNone(text, "body."+where); err != nil {
		return err
	}
	if past && text > today().Format(time.DateOnly) {
		return wrong(where, text, errors.New("that day is still to come"))
	}
	return nil
}

func (s *Server) setUpkeep(ctx context.Context, in *struct {
	Match
	Body struct {
		Upkeep []shop.Upkeep `json:"upkeep" maxItems:"500"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "upkeep", func(sh *shop.Shop) error {
		taken := map[string]bool{}
		for _, u := range in.Body.Upkeep {
			taken[u.ID] = true
		}
		for i := range in.Body.Upkeep {
			u := &in.Body.Upkeep[i]
			at := fmt.Sprintf("upkeep[%d]", i)
			if strings.TrimSpace(u.Name) == "" {
				return wrong(at+".name", u.Name, errors.New("say what is done: empty the bag, oil the bench top"))
			}
			if u.ID == "" {
				u.ID = freeID("upkeep", func(id string) bool { return taken[id] })
				taken[u.ID] = true
			}
			if _, _, err := due.Next(u, today()); err != nil {
				return wrong(at+".days", fmt.Sprint(u.Days), err)
			}
			if err := errors.Join(isDay(at+".last", u.Last, true), isDay(at+".until", u.Until, false)); err != nil {
				return err
			}
		}
		sh.Settings.Upkeep = in.Body.Upkeep
		return nil
	}))
}

// upkeepOf an id.
func upkeepOf(sh *shop.Shop, id string) (*shop.Upkeep, error) {
	sh.Settings.Upkeep = slices.Clone(sh.Settings.Upkeep)
	for i := range sh.Settings.Upkeep {
		if sh.Settings.Upkeep[i].ID == id {
			return &sh.Settings.Upkeep[i], nil
		}
	}
	return nil, huma.Error404NotFound(fmt.Sprintf("there is no upkeep %q", id), &huma.ErrorDetail{Location: "path.id", Value: id})
}

func (s *Server) upkeepDone(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Day string `json:"day,omitempty" maxLength:"10" doc:"today when left out"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "upkeep done", func(sh *shop.Shop) error {
		u, err := upkeepOf(sh, in.ID)
		if err != nil {
			return err
		}
		if err := isDay("day", in.Body.Day, true); err != nil {
			return err
		}
		u.Last, u.Until, u.Why = cmp.Or(in.Body.Day, today().Format(time.DateOnly)), "", ""
		return nil
	}))
}

func (s *Server) putOff(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Until string `json:"until" maxLength:"10"`
		Why   string `json:"why" maxLength:"200"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "upkeep put off", func(sh *shop.Shop) error {
		u, err := upkeepOf(sh, in.ID)
		if err != nil {
			return err
		}
		if err := isDay("until", in.Body.Until, false); err != nil {
			return err
		}
		if in.Body.Until <= today().Format(time.DateOnly) {
			return wrong("until", in.Body.Until, errors.New("put it off until a day to come"))
		}
		if strings.TrimSpace(in.Body.Why) == "" {
			return wrong("why", in.Body.Why, errors.New("say why, so that it is not put off for ever"))
		}
		u.Until, u.Why = in.Body.Until, in.Body.Why
		return nil
	}))
}

func (s *Server) markDull(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Dull bool `json:"dull"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, in.ID+" is dull", func(sh *shop.Shop) error {
		it := shop.NewIndex(sh).Item(in.ID)
		if it == nil {
			return noItem(in.ID)
		}
		it.Flags = slices.DeleteFunc(slices.Clone(it.Flags), func(f shop.Flag) bool { return f == "dull" })
		if in.Body.Dull {
			it.Flags = append(it.Flags, "dull")
		}
		return nil
	}))
}

func (s *Server) sharpened(ctx context.Context, in *struct {
	Match
	Body struct {
		Items []string `json:"items,omitempty" maxItems:"1000" doc:"ids; all that are dull when left out"`
	}
}) (*body[store.Revision], error) {
	var done []event.Event
	rev, err := s.store.Change(ctx, in.rev, who, "sharpened", func(sh *shop.Shop) error {
		dull, _ := due.Dull(sh)
		for _, it := range dull {
			if len(in.Body.Items) > 0 && !slices.Contains(in.Body.Items, it.ID) {
				continue
			}
			it.Flags = slices.DeleteFunc(slices.Clone(it.Flags), func(f shop.Flag) bool { return f == "dull" })
			done = append(done, event.Event{At: today().Format(time.DateOnly), What: event.Noted, Item: it.ID, Note: "sharpened"})
		}
		if len(done) == 0 {
			return huma.Error422UnprocessableEntity("none of them is dull")
		}
		return nil
	})
	if err == nil {
		_, err = s.store.Happened(ctx, done...)
	}
	return revised(rev, err)
}

func (s *Server) setStock(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Stock *shop.Stock `json:"stock,omitempty" doc:"it is no consumable when left out"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "stock of "+in.ID, func(sh *shop.Shop) error {
		it := shop.NewIndex(sh).Item(in.ID)
		if it == nil {
			return noItem(in.ID)
		}
		if k := in.Body.Stock; k != nil {
			if err := isDay("stock.opened", k.Opened, true); err != nil {
				return err
			}
			if k.Par > 0 && k.Par < k.Low {
				return wrong("stock.par", fmt.Sprint(k.Par), fmt.Errorf("less is wanted than it is bought from on, %g", k.Low))
			}
		}
		it.Stock = in.Body.Stock
		return nil
	}))
}

func (s *Server) useStock(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		N int `json:"n" minimum:"-100000" maximum:"10000" doc:"used; below 0 so many came"`
	}
}) (*body[store.Revision], error) {
	if in.Body.N == 0 {
		return nil, wrong("n", "0", errors.New("say how much was used or came"))
	}
	rev, err := s.store.Change(ctx, in.rev, who, "used of "+in.ID, func(sh *shop.Shop) error {
		it := shop.NewIndex(sh).Item(in.ID)
		if it == nil || it.Stock == nil {
			return huma.Error404NotFound(fmt.Sprintf("%q is no consumable", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
		}
		k := *it.Stock
		k.Has = max(0, k.Has-float64(in.Body.N))
		it.Stock = &k
		return nil
	})
	if err == nil && in.Body.N > 0 {
		_, err = s.store.Happened(ctx, event.Event{At: today().Format(time.DateOnly), What: event.Used, Item: in.ID, N: in.Body.N})
	}
	if errors.Is(err, store.ErrNothing) { // it was empty already
		err = nil
	}
	return revised(rev, err)
}

func (s *Server) setLimbo(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Limbo  string `json:"limbo" enum:",repair,sell,give,decide" doc:"empty when it waits no more"`
		GoesTo string `json:"goes_to,omitempty" maxLength:"200"`
		Review string `json:"review,omitempty" maxLength:"10" doc:"day it is decided"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, in.ID+" waits", func(sh *shop.Shop) error {
		it := shop.NewIndex(sh).Item(in.ID)
		if it == nil {
			return noItem(in.ID)
		}
		if err := isDay("review", in.Body.Review, false); err != nil {
			return err
		}
		if in.Body.Limbo != "" && it.Limbo == "" {
			it.LimboSince = today().Format(time.DateOnly)
		}
		it.Limbo, it.GoesTo, it.Review = in.Body.Limbo, in.Body.GoesTo, in.Body.Review
		if it.Limbo == "" {
			it.LimboSince = ""
		}
		return nil
	}))
}

func (s *Server) setRecords(ctx context.Context, in *struct {
	Match
	Body struct {
		Trials       *[]shop.Trial  `json:"trials,omitempty" maxItems:"200"`
		Regrets      *[]shop.Regret `json:"regrets,omitempty" maxItems:"500"`
		Aims         *[]shop.Aim    `json:"aims,omitempty" maxItems:"200"`
		DullBatch    *int           `json:"dull_batch,omitempty" minimum:"1" maximum:"100"`
		LimboDays    *int           `json:"limbo_days,omitempty" minimum:"1" maximum:"3650"`
		StalledDays  *int           `json:"stalled_days,omitempty" minimum:"1" maximum:"3650"`
		ProjectsMost *int           `json:"projects_most,omitempty" minimum:"0" maximum:"100" doc:"0 for no limit"`
		FrostMoves   *string        `json:"frost_moves,omitempty" maxLength:"5" doc:"month and day, as 10-15"`
	}
}) (*body[store.Revision], error) {
	b := &in.Body
	return revised(s.store.Change(ctx, in.rev, who, "records", func(sh *shop.Shop) error {
		x := &sh.Settings
		set(&x.DullBatch, b.DullBatch)
		set(&x.LimboDays, b.LimboDays)
		set(&x.StalledDays, b.StalledDays)
		set(&x.ProjectsMost, b.ProjectsMost)
		if b.FrostMoves != nil {
			if _, ok := due.Yearly(*b.FrostMoves, today()); *b.FrostMoves != "" && !ok {
				return wrong("frost_moves", *b.FrostMoves, errors.New("a month and a day are written as 10-15"))
			}
			x.FrostMoves = *b.FrostMoves
		}
		if b.Trials != nil {
			for i := range *b.Trials {
				t := &(*b.Trials)[i]
				at := fmt.Sprintf("trials[%d]", i)
				if strings.TrimSpace(t.Without) == "" {
					return wrong(at+".without", t.Without, errors.New("say what you do without"))
				}
				if err := errors.Join(isDay(at+".since", t.Since, true), isDay(at+".review", t.Review, false)); err != nil {
					return err
				}
				t.ID = cmp.Or(t.ID, freeID("trial", func(id string) bool {
					return slices.ContainsFunc(*b.Trials, func(o shop.Trial) bool { return o.ID == id })
				}))
				t.Since = cmp.Or(t.Since, today().Format(time.DateOnly))
			}
			x.Trials = *b.Trials
		}
		if b.Regrets != nil {
			for i := range *b.Regrets {
				r := &(*b.Regrets)[i]
				at := fmt.Sprintf("regrets[%d]", i)
				if strings.TrimSpace(r.Kind) == "" || strings.TrimSpace(r.Says) == "" {
					return wrong(at+".says", r.Says, errors.New("say of what kind of thing, and what you would not do again"))
				}
				r.ID = cmp.Or(r.ID, freeID("regret", func(id string) bool {
					return slices.ContainsFunc(*b.Regrets, func(o shop.Regret) bool { return o.ID == id })
				}))
				r.Day = cmp.Or(r.Day, today().Format(time.DateOnly))
			}
			x.Regrets = *b.Regrets
		}
		if b.Aims != nil {
			for i := range *b.Aims {
				a := &(*b.Aims)[i]
				at := fmt.Sprintf("aims[%d]", i)
				if strings.TrimSpace(a.Name) == "" {
					return wrong(at+".name", a.Name, errors.New("say what is aimed at"))
				}
				if err := isDay(at+".by", a.By, false); err != nil {
					return err
				}
				a.ID = cmp.Or(a.ID, freeID("aim", func(id string) bool { return slices.ContainsFunc(*b.Aims, func(o shop.Aim) bool { return o.ID == id }) }))
				a.Set = cmp.Or(a.Set, today().Format(time.DateOnly))
			}
			x.Aims = *b.Aims
		}
		return nil
	}))
}

// ProjectsNow are the projects with their limit.
type ProjectsNow struct {
	Projects []project.Seen    `json:"projects" nullable:"false"`
	Most     int               `json:"most" doc:"open at a time; 0 for no limit"`
	Over     bool              `json:"over" doc:"more are open than that"`
	Stalled  int               `json:"stalled" doc:"days after which one has stalled; 0 for the usual"`
	Names    map[string]string `json:"names" doc:"of things and places, by id"`
}

func (s *Server) projects(_ context.Context, _ *struct{}) (*body[ProjectsNow], error) {
	sh, _ := s.store.Snapshot()
	out := ProjectsNow{Projects: []project.Seen{}, Most: sh.Settings.ProjectsMost, Stalled: sh.Settings.StalledDays, Names: map[string]string{}}
	if len(sh.Areas) > 0 {
		out.Projects, out.Over = project.Of(sh, today().Format(time.DateOnly))
	}
	ix := shop.NewIndex(sh)
	for _, p := range out.Projects {
		for _, id := range p.Promised {
			out.Names[id] = ix.Item(id).Name
		}
		if p.Parking.Place != "" {
			out.Names[p.Parking.Place] = ix.Name(p.Parking.Place)
		}
	}
	return &body[ProjectsNow]{out}, nil
}

func (s *Server) setProject(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Name    *string           `json:"name,omitempty" maxLength:"200"`
		State   *string           `json:"state,omitempty" enum:",open,done" doc:"dropping one has a path of its own"`
		Started *string           `json:"started,omitempty" maxLength:"10"`
		Touched *string           `json:"touched,omitempty" maxLength:"10" doc:"day it was worked on last; today for today"`
		Place   *string           `json:"place,omitempty" maxLength:"64"`
		Typed   map[string]string `json:"typed,omitempty" doc:"w, d and h of it put together, as typed"`
		Hours   *float64          `json:"hours,omitempty" minimum:"0" maximum:"100000"`
		Dries   *string           `json:"dries,omitempty" maxLength:"10" doc:"day until which finish or glue on it dries"`
		Notes   *string           `json:"notes,omitempty" maxLength:"4000"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "project "+in.ID, func(sh *shop.Shop) error {
		list := slices.Clone(sh.Settings.Projects)
		i := slices.IndexFunc(list, func(p shop.Project) bool { return p.ID == in.ID })
		if in.ID == "new" {
			list = append(list, shop.Project{ID: freeID("project", func(id string) bool {
				return slices.ContainsFunc(list, func(p shop.Project) bool { return p.ID == id })
			}), Started: today().Format(time.DateOnly)})
			i = len(list) - 1
		}
		if i < 0 {
			return huma.Error404NotFound(fmt.Sprintf("there is no project %q", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
		}
		p, was := &list[i], list[i].Name
		set(&p.Name, in.Body.Name)
		set(&p.State, in.Body.State)
		set(&p.Started, in.Body.Started)
		set(&p.Hours, in.Body.Hours)
		set(&p.Dries, in.Body.Dries)
		set(&p.Notes, in.Body.Notes)
		set(&p.Place, in.Body.Place)
		if t := in.Body.Touched; t != nil {
			p.Touched = *t
			if *t == "today" {
				p.Touched = today().Format(time.DateOnly)
			}
		}
		if strings.TrimSpace(p.Name) == "" {
			return wrong("name", p.Name, errors.New("say what is made"))
		}
		if err := errors.Join(isDay("started", p.Started, true), isDay("touched", p.Touched, true), isDay("dries", p.Dries, true)); err != nil {
			return err
		}
		if p.Place != "" && shop.NewIndex(sh).Place(p.Place) == nil {
			return wrong("place", p.Place, fmt.Errorf("there is no place %q", p.Place))
		}
		for field, text := range in.Body.Typed {
			to := map[string]*length.Length{"w": &p.W, "d": &p.D, "h": &p.H}[field]
			if to == nil {
				return wrong(field, text, errors.New("it has w, d and h"))
			}
			if strings.TrimSpace(text) == "" {
				*to = 0
				continue
			}
			l, err := length.Parse(text, sh.Settings.Units)
			if err == nil && (l < 0 || l > 20*length.Metre) {
				err = fmt.Errorf("%s should be from 0 to %s", l, 20*length.Metre)
			}
			if err != nil {
				return wrong("typed."+field, text, err)
			}
			*to = l
		}
		for k := range sh.Items { // what was promised to it by its old name is by its new one
			if was != "" && was != p.Name && sh.Items[k].PromisedTo == was {
				sh.Items[k].PromisedTo = p.Name
			}
		}
		sh.Settings.Projects = list
		return nil
	}))
}

func (s *Server) dropProject(ctx context.Context, in *struct {
	Match
	ID string `path:"id"`
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "project dropped", func(sh *shop.Shop) error {
		sh.Settings.Projects = slices.Clone(sh.Settings.Projects)
		if !slices.ContainsFunc(sh.Settings.Projects, func(p shop.Project) bool { return p.ID == in.ID }) {
			return huma.Error404NotFound(fmt.Sprintf("there is no project %q", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
		}
		project.Drop(sh, in.ID)
		return nil
	}))
}
