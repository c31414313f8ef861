package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/exchange"
	"hobrak/internal/share"
	"hobrak/internal/store"
)

func (s *Server) deviceRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "session", Method: http.MethodGet, Path: "/api/v1/session", Summary: "What whoever asks may do"}), s.session)
	huma.Register(s.api, described(huma.Operation{OperationID: "devices", Method: http.MethodGet, Path: "/api/v1/devices", Summary: "The devices that are let in, and how others reach the shop"}), s.devices)
	huma.Register(s.api, described(huma.Operation{OperationID: "pair-device", Method: http.MethodPost, Path: "/api/v1/devices/pairing", Summary: "A code by which one device is let in, once", MaxBodyBytes: smallBody}), s.pairDevice)
	huma.Register(s.api, described(huma.Operation{OperationID: "change-device", Method: http.MethodPatch, Path: "/api/v1/devices/{id}", Summary: "Call a device otherwise, or let it do more or less", MaxBodyBytes: smallBody}), s.changeDevice)
	huma.Register(s.api, described(huma.Operation{OperationID: "show-out", Method: http.MethodDelete, Path: "/api/v1/devices/{id}", Summary: "Let a device in no more"}), s.showOut)
}

// Session is what whoever asks may do.
type Session struct {
	Shared bool   `json:"shared" doc:"other devices can be let in"`
	Here   bool   `json:"here" doc:"it is the machine itself, or nobody is asked who he is"`
	Name   string `json:"name" doc:"of the device"`
	Role   string `json:"role" enum:"maker,household,guest"`
}

func (s *Server) session(ctx context.Context, _ *struct{}) (*body[Session], error) {
	out := Session{Shared: s.gate != nil, Here: true, Role: store.Maker}
	if d := visitor(ctx); d != nil {
		out.Here, out.Name, out.Role = false, d.Name, d.Role
	}
	return &body[Session]{out}, nil
}

// Devices that are let in.
type Devices struct {
	Shared      bool           `json:"shared" doc:"other devices can be let in"`
	Addresses   []string       `json:"addresses" nullable:"false" doc:"under which they reach the shop"`
	Encrypted   bool           `json:"encrypted"`
	Fingerprint string         `json:"fingerprint" doc:"of the certificate devices are told to trust, SHA-256; empty where there is none of the shop's own"`
	Devices     []store.Device `json:"devices" nullable:"false"`
	This        int64          `json:"this" doc:"number of the one that asks; 0 at the machine itself"`
}

func (s *Server) devices(ctx context.Context, _ *struct{}) (*body[Devices], error) {
	out := Devices{Addresses: []string{}, Devices: []store.Device{}}
	if s.gate == nil {
		return &body[Devices]{out}, nil
	}
	sh := &s.gate.sharing
	out.Shared, out.Addresses = true, append(out.Addresses, sh.Addresses...)
	for _, a := range sh.Addresses {
		out.Encrypted = out.Encrypted || len(a) > 5 && a[:5] == "https"
	}
	if sh.Authority != nil {
		out.Fingerprint = share.Fingerprint(sh.Authority)
	}
	list, err := s.gate.store.Devices(ctx)
	if err != nil {
		return nil, problem(err)
	}
	out.Devices = list
	if d := visitor(ctx); d != nil {
		out.This = d.ID
	}
	return &body[Devices]{out}, nil
}

// Pairing is a code for one device.
type Pairing struct {
	URL   string `json:"url" doc:"to be opened on the device"`
	Until string `json:"until" doc:"until when"`
	QR    string `json:"qr" doc:"the same as a picture, SVG"`
}

// notShared says why there are no devices.
func notShared() error {
	return huma.Error409Conflict("This shop is not shared: start it with hobrak serve --share first.")
}

func (s *Server) pairDevice(ctx context.Context, in *struct {
	Body struct {
		Name    string `json:"name,omitempty" maxLength:"60" doc:"what the device is called; it may say otherwise"`
		Role    string `json:"role" enum:"maker,household,guest"`
		Address string `json:"address,omitempty" maxLength:"200" doc:"one of those under which the shop is reached; the first when left out"`
	}
}) (*body[Pairing], error) {
	if s.gate == nil {
		return nil, notShared()
	}
	at := in.Body.Address
	known := false
	for _, a := range s.gate.sharing.Addresses {
		known = known || a == at
	}
	switch {
	case at != "" && !known:
		return nil, huma.Error422UnprocessableEntity("the shop is not reached under "+at, &huma.ErrorDetail{Location: "body.address", Message: "the shop is not reached under it", Value: at})
	case at == "" && len(s.gate.sharing.Addresses) == 0:
		return nil, huma.Error409Conflict("This machine is in no network other devices reach: connect it first, then start Hobrak again.")
	case at == "":
		at = s.gate.sharing.Addresses[0]
	}
	code, until, err := s.gate.code(in.Body.Name, in.Body.Role)
	if err != nil {
		return nil, huma.Error429TooManyRequests(err.Error())
	}
	url := fmt.Sprintf("%s/pair?code=%s", at, code)
	qr, err := exchange.Code(url)
	if err != nil {
		return nil, err
	}
	return &body[Pairing]{Pairing{url, until.UTC().Format(time.RFC3339), exchange.CodeSVG(qr)}}, nil
}

func (s *Server) changeDevice(ctx context.Context, in *struct {
	ID   int64 `path:"id" minimum:"1"`
	Body struct {
		Name *string `json:"name,omitempty" minLength:"1" maxLength:"60"`
		Role *string `json:"role,omitempty" enum:"maker,household,guest"`
	}
}) (*struct{}, error) {
	if s.gate == nil {
		return nil, notShared()
	}
	if err := s.gate.store.ChangeDevice(ctx, in.ID, in.Body.Name, in.Body.Role); err != nil {
		return nil, noDevice(err)
	}
	s.gate.mu.Lock()
	defer s.gate.mu.Unlock()
	for _, d := range s.gate.in {
		if d.ID == in.ID {
			if in.Body.Name != nil {
				d.Name = *in.Body.Name
			}
			if in.Body.Role != nil {
				d.Role = *in.Body.Role
			}
		}
	}
	return nil, nil
}

func (s *Server) showOut(ctx context.Context, in *struct {
	ID int64 `path:"id" minimum:"1"`
}) (*struct{}, error) {
	if s.gate == nil {
		return nil, notShared()
	}
	return nil, noDevice(s.gate.showOut(ctx, in.ID))
}

// noDevice says an error of one in words.
func noDevice(err error) error {
	if errors.Is(err, store.ErrNoDevice) {
		return huma.Error404NotFound(err.Error())
	}
	if err != nil {
		return problem(err)
	}
	return nil
}
