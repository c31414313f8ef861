package api

import (
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// Problems are RFC 9457 documents. Their type is a stable name by which a program tells
// them apart; where they are about a field, errors say at which: a path that begins with
// body, path, query or header for what was asked, with shop for what the shop would become.

// problemType is the stable name of a kind of problem.
func problemType(name string) string { return "urn:hobrak:problem:" + name }

// typed are the names of problems that their status says enough of.
var typed = map[int]string{
	http.StatusBadRequest: "not-understood", http.StatusUnauthorized: "phrase-missing", http.StatusForbidden: "forbidden", http.StatusNotFound: "not-found",
	http.StatusMethodNotAllowed: "not-possible", http.StatusConflict: "conflict", http.StatusPreconditionFailed: "stale", http.StatusRequestEntityTooLarge: "too-large",
	http.StatusUnsupportedMediaType: "media-type", http.StatusUnprocessableEntity: "invalid", http.StatusPreconditionRequired: "revision-missing",
	http.StatusTooManyRequests: "too-often", http.StatusInternalServerError: "internal", http.StatusServiceUnavailable: "busy", http.StatusInsufficientStorage: "disk-full",
}

// newError gives every problem its type.
func newError(status int, says string, errs ...error) huma.StatusError {
	p := &huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: says}
	if name := typed[status]; name != "" {
		p.Type = problemType(name)
	}
	for _, err := range errs {
		if err == nil {
			continue
		}
		var whole *huma.ErrorModel
		if errors.As(err, &whole) { // it says by itself what is wrong, and how bad that is
			return whole
		}
		if d, ok := err.(huma.ErrorDetailer); ok {
			p.Errors = append(p.Errors, d.ErrorDetail())
		} else {
			p.Errors = append(p.Errors, &huma.ErrorDetail{Message: err.Error()})
		}
	}
	return p
}

func init() { huma.NewError = newError }

// problem turns an error into a problem document.
func problem(err error) error {
	var faults *shop.Faults
	var stale *store.StaleError
	switch {
	case errors.As(err, &faults):
		p := newError(http.StatusUnprocessableEntity, faults.List[0].Message).(*huma.ErrorModel)
		p.Type = problemType("shop-invalid")
		if more := len(faults.List) + faults.More - 1; more > 0 {
			p.Detail += " (and more, see errors)"
		}
		for _, f := range faults.List {
			p.Errors = append(p.Errors, &huma.ErrorDetail{Message: f.Message, Location: strings.TrimSuffix("shop."+f.Path, ".")})
		}
		return p
	case errors.As(err, &stale):
		p := newError(http.StatusPreconditionFailed, "The shop has changed meanwhile; look at it again and repeat what you did. "+stale.Error()).(*huma.ErrorModel)
		for _, r := range stale.Since {
			p.Errors = append(p.Errors, &huma.ErrorDetail{Message: r.What + " (" + r.Who + ")", Location: "header.If-Match", Value: strconv.FormatInt(r.ID, 10)})
		}
		return p
	case errors.Is(err, store.ErrFull):
		return huma.NewError(http.StatusInsufficientStorage, "The disk is full, so nothing was changed. Free some space and try again.")
	case errors.Is(err, store.ErrBusy):
		return huma.Error503ServiceUnavailable("Another program is using the shop's file, so nothing was changed. Try again when it is done.")
	case errors.Is(err, store.ErrNothing):
		p := newError(http.StatusConflict, "There is nothing to do: the shop is like that already.").(*huma.ErrorModel)
		p.Type = problemType("nothing-to-do")
		return p
	}
	return err
}
