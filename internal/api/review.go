package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/daily"
	"hobrak/internal/core/length"
	"hobrak/internal/core/month"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/newroom"
	"hobrak/internal/core/note"
	"hobrak/internal/core/review"
	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"hobrak/internal/photo"
	"hobrak/internal/store"
)

// The routes of review: days that are kept, two of them side by side, a month played through, the next room.

func (s *Server) reviewRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "snapshots", Method: http.MethodGet, Path: "/api/v1/snapshots", Summary: "Days that are kept, and how the shop is now"}), s.snapshots)
	huma.Register(s.api, described(huma.Operation{OperationID: "keep-snapshot", Method: http.MethodPost, Path: "/api/v1/snapshots", Summary: "Keep how the shop is today", MaxBodyBytes: smallBody}), s.keepSnapshot)
	huma.Register(s.api, described(huma.Operation{OperationID: "forget-snapshot", Method: http.MethodDelete, Path: "/api/v1/snapshots/{id}", Summary: "Let go of a day that was kept"}), s.forgetSnapshot)
	huma.Register(s.api, described(huma.Operation{OperationID: "snapshot-photo", Method: http.MethodPost, Path: "/api/v1/snapshots/{id}/photos/{wall}", Summary: "A photo of a wall on that day: JPEG, PNG or WebP",
		MaxBodyBytes: photo.MaxFile, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(photo.MaxFile, "photo")}}), s.snapshotPhoto)
	huma.Register(s.api, described(huma.Operation{OperationID: "review", Method: http.MethodGet, Path: "/api/v1/review", Summary: "Two days side by side"}), s.review)
	huma.Register(s.api, described(huma.Operation{OperationID: "review-page", Method: http.MethodGet, Path: "/api/v1/review/page", Summary: "The same as one HTML page to print or to give to somebody"}), s.reviewPage)
	huma.Register(s.api, described(huma.Operation{OperationID: "cautions-page", Method: http.MethodGet, Path: "/api/v1/cautions/page", Summary: "All cautions of the shop on one HTML page to print beside the door"}), s.cautionsPage)
	huma.Register(s.api, described(huma.Operation{OperationID: "month", Method: http.MethodGet, Path: "/api/v1/month", Summary: "A month played through many times"}), s.month)
	huma.Register(s.api, described(huma.Operation{OperationID: "new-room", Method: http.MethodPost, Path: "/api/v1/new-room", Summary: "The shop in another room: what fits and what does not", MaxBodyBytes: smallBody}), s.newRoom)
	huma.Register(s.api, described(huma.Operation{OperationID: "new-room-file", Method: http.MethodPost, Path: "/api/v1/new-room/file", Summary: "The same as a shop file of its own", MaxBodyBytes: smallBody}), s.newRoomFile)
}

// KeptDay is a day that is kept.
type KeptDay struct {
	ID      int64          `json:"id" doc:"0 is the shop as it is now"`
	Day     string         `json:"day"`
	Name    string         `json:"name"`
	Figures review.Figures `json:"figures"`
	Photos  []review.Photo `json:"photos" nullable:"false"`
}

// KeptDays are the days that are kept, the oldest first, with the aims.
type KeptDays struct {
	Days  []KeptDay       `json:"days" nullable:"false"`
	Now   KeptDay         `json:"now"`
	Aims  []review.Judged `json:"aims" nullable:"false"`
	Walls []string        `json:"walls" nullable:"false" doc:"as main/B, of which a photo can be kept"`
}

// nowTaken is a snapshot of the shop as it is.
func (s *Server) nowTaken(ctx context.Context) (*review.Snapshot, string, error) {
	v, err := s.now()
	if err != nil {
		return nil, "", err
	}
	last, err := s.store.LastUsed(ctx)
	if err != nil {
		return nil, "", err
	}
	began, err := s.store.Began(ctx)
	if err != nil {
		return nil, "", err
	}
	n, err := s.store.Uses(ctx, today().AddDate(-1, 0, 0).Format(time.DateOnly), today().Format(time.DateOnly))
	if err != nil {
		return nil, "", err
	}
	uses := 0
	for _, k := range n {
		uses += k
	}
	at, err := s.store.Times(ctx, today().AddDate(-1, 0, 0).Format(time.DateOnly), today().Format(time.DateOnly))
	if err != nil {
		return nil, "", err
	}
	return review.Take(v.shop, v.round, last, began, today().Format(time.DateOnly), review.Noted{Uses: uses, Hours: review.Sessions(at), InOrder: v.orderly()}), began, nil
}

func (s *Server) snapshots(ctx context.Context, _ *struct{}) (*body[KeptDays], error) {
	list, err := s.store.Snapshots(ctx)
	if err != nil {
		return nil, problem(err)
	}
	now, _, err := s.nowTaken(ctx)
	if err != nil {
		return nil, problem(err)
	}
	out := KeptDays{Days: []KeptDay{}, Now: KeptDay{0, now.Day, "", now.Figures, []review.Photo{}}, Aims: []review.Judged{}, Walls: []string{}}
	for i := range list {
		x := &list[i]
		out.Days = append(out.Days, KeptDay{x.ID, x.Day, x.Name, x.Figures, append([]review.Photo{}, x.Photos...)})
	}
	sh, _ := s.store.Snapshot()
	for i := range sh.Settings.Aims {
		out.Aims = append(out.Aims, review.Judge(&sh.Settings.Aims[i], &now.Figures, now.Day))
	}
	for _, a := range sh.Areas {
		for _, w := range a.Walls {
			out.Walls = append(out.Walls, a.ID+"/"+w.ID)
		}
	}
	return &body[KeptDays]{out}, nil
}

func (s *Server) keepSnapshot(ctx context.Context, in *struct {
	Body struct {
		Name string `json:"name,omitempty" maxLength:"100" doc:"spring, before the move"`
	}
}) (*body[KeptDay], error) {
	x, _, err := s.nowTaken(ctx)
	if err != nil {
		return nil, problem(err)
	}
	x.Name = in.Body.Name
	id, err := s.store.KeepSnapshot(ctx, x)
	if err != nil {
		return nil, problem(err)
	}
	return &body[KeptDay]{KeptDay{id, x.Day, x.Name, x.Figures, x.Photos}}, nil
}

func noSnapshot(id int64) error {
	return huma.Error404NotFound(fmt.Sprintf("no day is kept under %d", id), &huma.ErrorDetail{Location: "path.id", Value: id})
}

func (s *Server) forgetSnapshot(ctx context.Context, in *struct {
	ID int64 `path:"id"`
}) (*struct{}, error) {
	switch err := s.store.ForgetSnapshot(ctx, in.ID); {
	case errors.Is(err, store.ErrNoSnapshot):
		return nil, noSnapshot(in.ID)
	case err != nil:
		return nil, problem(err)
	}
	return nil, nil
}

func (s *Server) snapshotPhoto(ctx context.Context, in *struct {
	ID      int64  `path:"id"`
	Wall    string `path:"wall" maxLength:"100" doc:"area and letter with a dot, as main.B"`
	RawBody []byte
}) (*body[review.Photo], error) {
	if _, err := s.store.KeptSnapshot(ctx, in.ID); errors.Is(err, store.ErrNoSnapshot) {
		return nil, noSnapshot(in.ID)
	}
	p, err := s.prepared(ctx, in.RawBody)
	if err != nil {
		return nil, err
	}
	name, _, err := s.store.KeepPhoto(ctx, p)
	if err != nil {
		return nil, problem(err)
	}
	out := review.Photo{Wall: strings.Replace(in.Wall, ".", "/", 1), Name: name}
	if err := s.store.Picture(ctx, in.ID, out); err != nil {
		return nil, problem(err)
	}
	return &body[review.Photo]{out}, nil
}

// between are the two days that are asked for.
func (s *Server) between(ctx context.Context, from, to int64) (*review.Review, *review.Snapshot, error) {
	now, began, err := s.nowTaken(ctx)
	if err != nil {
		return nil, nil, problem(err)
	}
	a, err := s.store.KeptSnapshot(ctx, from)
	if errors.Is(err, store.ErrNoSnapshot) {
		return nil, nil, noSnapshot(from)
	} else if err != nil {
		return nil, nil, problem(err)
	}
	b := now
	if to != 0 {
		if b, err = s.store.KeptSnapshot(ctx, to); errors.Is(err, store.ErrNoSnapshot) {
			return nil, nil, noSnapshot(to)
		} else if err != nil {
			return nil, nil, problem(err)
		}
	}
	if b.Day < a.Day {
		a, b = b, a
	}
	return review.Compare(a, b, began), b, nil
}

// Reviewed are two days side by side, with the shares of groups of kinds.
type Reviewed struct {
	review.Review
	Shares []review.Share `json:"shares" nullable:"false" doc:"of room against use on the later day"`
}

func (s *Server) review(ctx context.Context, in *struct {
	From int64 `query:"from" required:"true"`
	To   int64 `query:"to" doc:"0 or left out for now"`
}) (*body[Reviewed], error) {
	r, b, err := s.between(ctx, in.From, in.To)
	if err != nil {
		return nil, err
	}
	sh, _ := s.store.Snapshot()
	for i := range r.Asked {
		r.Asked[i].Says = say.In(sh.Settings.Units, r.Asked[i].Says)
	}
	return &body[Reviewed]{Reviewed{*r, append([]review.Share{}, b.Shares...)}}, nil
}

func (s *Server) reviewPage(ctx context.Context, in *struct {
	From int64 `query:"from" required:"true"`
	To   int64 `query:"to"`
}) (*paper, error) {
	r, _, err := s.between(ctx, in.From, in.To)
	if err != nil {
		return nil, err
	}
	sh, _ := s.store.Snapshot()
	var b bytes.Buffer
	if err := exchange.WriteReview(&b, r, sh.Settings.Units); err != nil {
		return nil, problem(err)
	}
	return &paper{"text/html; charset=utf-8", `attachment; filename="review.html"`, b.Bytes()}, nil
}

func (s *Server) cautionsPage(_ context.Context, _ *struct{}) (*paper, error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	leaving := []string{}
	for _, c := range daily.Leaving(v.shop) {
		leaving = append(leaving, c.Says)
	}
	var b bytes.Buffer
	if err := exchange.WriteCautions(&b, v.shop.Settings.Name, today().Format(time.DateOnly), leaving, slices.Concat(v.findings(), v.supplied()), v.shop.Settings.Units); err != nil {
		return nil, problem(err)
	}
	return &paper{"text/html; charset=utf-8", `inline; filename="beside-the-door.html"`, b.Bytes()}, nil
}

func (s *Server) month(_ context.Context, in *struct {
	Replications int    `query:"replications" minimum:"1" maximum:"20000" default:"1000"`
	Seed         uint64 `query:"seed" default:"1"`
	Target       string `query:"target" maxLength:"64" doc:"a plan that is kept, instead of as it stands"`
}) (*body[month.Played], error) {
	sh, _ := s.store.Snapshot()
	if in.Target != "" {
		t, err := targetOf(sh, in.Target)
		if err != nil {
			return nil, err
		}
		if sh, _, err = moves.Toward(sh, t); err != nil {
			return nil, problem(err)
		}
	}
	p, err := month.Of(sh, month.Options{Replications: in.Replications, Seed: in.Seed})
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return &body[month.Played]{*p}, nil
}

// Moving is another room, and what does not come along.
type Moving struct {
	Line  string   `json:"line" maxLength:"2000" doc:"the room in a line, as on Survey"`
	Stays []string `json:"stays,omitempty" maxItems:"500" doc:"ids of stations and storage that stay behind"`
	Stair string   `json:"stair,omitempty" maxLength:"80" doc:"clear width of a stair and of the landing it turns on, as typed, as 850x900; only the first where it goes straight"`
	Van   string   `json:"van,omitempty" maxLength:"80" doc:"inside of the van as typed, as 2500x1700x1800; nothing is asked of it when left out"`
}

func (s *Server) moveInto(in *Moving) (*newroom.Moved, error) {
	sh, _ := s.store.Snapshot()
	r := note.Room(sh, in.Line)
	if r.Area == nil || r.Why != "" {
		why := r.Why
		if why == "" {
			why = "a room in a line is length x width x height, then its doors and windows: 5.6 x 4.1 x 2.4, door A 850x1980 at 400"
		}
		return nil, wrong("line", in.Line, errors.New(why))
	}
	van := [3]float64{}
	if sides := strings.FieldsFunc(strings.ToLower(in.Van), func(r rune) bool { return r == 'x' || r == '×' }); len(sides) > 0 {
		if len(sides) != 3 {
			return nil, wrong("van", in.Van, errors.New("length, width and height, as 2500x1700x1800"))
		}
		for i, text := range sides {
			l, err := length.Parse(strings.TrimSpace(text), sh.Settings.Units)
			if err != nil || l <= 0 {
				return nil, wrong("van", in.Van, errors.New("length, width and height, as 2500x1700x1800"))
			}
			van[i] = l.MM()
		}
	}
	stair := [2]float64{}
	if sides := strings.FieldsFunc(strings.ToLower(in.Stair), func(r rune) bool { return r == 'x' || r == '×' }); len(sides) > 0 {
		for i, text := range sides {
			l, err := length.Parse(strings.TrimSpace(text), sh.Settings.Units)
			if err != nil || l <= 0 || len(sides) > 2 {
				return nil, wrong("stair", in.Stair, errors.New("its clear width and that of the landing, as 850x900"))
			}
			stair[i] = l.MM()
		}
	}
	m, err := newroom.Into(sh, r.Area, newroom.Options{Stays: in.Stays, Van: van, Stair: stair})
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return m, nil
}

func (s *Server) newRoom(_ context.Context, in *struct{ Body Moving }) (*body[newroom.Moved], error) {
	m, err := s.moveInto(&in.Body)
	if err != nil {
		return nil, err
	}
	return &body[newroom.Moved]{*m}, nil
}

func (s *Server) newRoomFile(_ context.Context, in *struct{ Body Moving }) (*paper, error) {
	m, err := s.moveInto(&in.Body)
	if err != nil {
		return nil, err
	}
	return &paper{"application/json", `attachment; filename="next-room.json"`, shop.Write(m.Shop)}, nil
}
