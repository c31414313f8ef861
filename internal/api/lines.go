package api

import (
	"context"
	"hobrak/internal/core/belongings"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) lineRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "read-line", Method: http.MethodPost, Path: "/api/v1/lines", Summary: "What would this line be taken for?", MaxBodyBytes: smallBody}), s.tellLine)
	huma.Register(s.api, described(huma.Operation{OperationID: "kinds", Method: http.MethodGet, Path: "/api/v1/kinds", Summary: "Kinds whose name begins like this", MaxBodyBytes: smallBody}), s.kinds)
}

// Read is a typed line with what it was taken for.
type Read struct {
	*line.Parsed
	Name    string      `json:"name"`
	Count   int         `json:"count"`
	Size    [3]float64  `json:"size" doc:"width, height and depth in mm"`
	KG      float64     `json:"kg"`
	Uses    float64     `json:"uses" doc:"a week"`
	UsedAt  []string    `json:"used_at" nullable:"false"`
	Hold    []shop.Hold `json:"hold" nullable:"false"`
	Flags   []shop.Flag `json:"flags" nullable:"false"`
	Family  string      `json:"family"`
	Assumed []string    `json:"assumed" nullable:"false"`
	Glyph   string      `json:"glyph"`
	Station string      `json:"station" doc:"what such a thing is called when one works at it, as a table saw; empty when nobody does"`
}

// KindName offers a kind while a line is typed.
type KindName struct {
	ID    string     `json:"id"`
	Name  string     `json:"name"`
	Group string     `json:"group"`
	Size  [3]float64 `json:"size"`
	KG    float64    `json:"kg"`
	Glyph string     `json:"glyph"`
}

func readLine(sh *shop.Shop, text string) Read {
	p := line.Parse(text, belongings.Context(sh))
	it := &p.Item
	return Read{Parsed: p, Name: it.Name, Count: it.Number(), Size: [3]float64{it.W.MM(), it.H.MM(), it.D.MM()}, KG: it.KG.KG(), Uses: it.UsesPerWeek,
		UsedAt: notNil(it.UsedAt), Hold: notNil(it.Hold), Flags: notNil(it.Flags), Family: it.Family, Assumed: notNil(it.Assumed), Glyph: kinds.Glyph(it.Kind), Station: worked(it)}
}

// worked is what a thing is called that stands on the floor and is worked at; empty when it is none.
func worked(it *shop.Item) string {
	if k := shop.StationKindOf(it.Name); k != "" && !k.Lodger() {
		return k.Says()
	}
	return ""
}

func (s *Server) tellLine(_ context.Context, in *struct {
	Body struct {
		Text string `json:"text" maxLength:"400"`
	}
}) (*body[Read], error) {
	sh, _ := s.store.Snapshot()
	return &body[Read]{readLine(sh, in.Body.Text)}, nil
}

func (s *Server) kinds(_ context.Context, in *struct {
	Q string `query:"q" maxLength:"60"`
}) (*body[[]KindName], error) {
	sh, _ := s.store.Snapshot()
	return &body[[]KindName]{kindsLike(in.Q, kinds.Rank(sh.Settings.Makes), 8)}, nil
}

// kindsLike lists kinds one of whose names, or a word of it, begins as typed.
func kindsLike(q string, rank kinds.Ranking, most int) []KindName {
	out := []KindName{}
	if strings.TrimSpace(q) == "" {
		return out
	}
	for _, k := range kinds.Like(q, rank) {
		out = append(out, KindName{k.ID, k.Name, k.Group, [3]float64{k.W, k.H, k.D}, k.KG, k.Glyph})
	}
	return out[:min(len(out), most)]
}
