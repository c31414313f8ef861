package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/store"
)

func (s *Server) aboutRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "health", Method: http.MethodGet, Path: "/api/v1/health", Summary: "Does it answer?"}), s.health)
	huma.Register(s.api, described(huma.Operation{OperationID: "about", Method: http.MethodGet, Path: "/api/v1/about", Summary: "Which Hobrak this is, where the shop is kept, and its backups"}), s.tellAbout)
	huma.Register(s.api, described(huma.Operation{OperationID: "backup", Method: http.MethodPost, Path: "/api/v1/backups", Summary: "Make today's backup unless there is one"}), s.backup)
}

// Health says that the server answers and can read its shop.
type Health struct {
	OK       bool  `json:"ok"`
	Revision int64 `json:"revision" doc:"the newest"`
}

// About this Hobrak and where it keeps the shop.
type About struct {
	Version  string     `json:"version"`
	Database string     `json:"database" doc:"the file that is the shop"`
	Backups  store.Kept `json:"backups" doc:"one a day while it runs"`
	Phrase   bool       `json:"phrase" doc:"people are let in by a pass phrase"`
}

func (s *Server) health(_ context.Context, _ *struct{}) (*body[Health], error) {
	return &body[Health]{Health{true, s.store.Head()}}, nil
}

func (s *Server) tellAbout(_ context.Context, _ *struct{}) (*body[About], error) {
	kept, err := s.store.Backups()
	if err != nil {
		return nil, err
	}
	return &body[About]{About{s.version, s.store.Path(), kept, s.gate != nil}}, nil
}

func (s *Server) backup(ctx context.Context, _ *struct{}) (*body[store.Kept], error) {
	if _, err := s.store.BackupToday(ctx); err != nil {
		return nil, problem(err)
	}
	kept, err := s.store.Backups()
	return &body[store.Kept]{kept}, err
}
