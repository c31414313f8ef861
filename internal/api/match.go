package api

import (
	"net/http"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// Match says on which revision of the shop a change was made: the ETag of what was looked
// at. A change on another revision is refused, with what happened since.
type Match struct {
	IfMatch string `header:"If-Match" maxLength:"40" doc:"the ETag of the shop the change was made on: its revision in quotes" example:"\"42\""`
	rev     int64
}

// Resolve reads the revision.
func (m *Match) Resolve(huma.Context) []error {
	if m.IfMatch == "" {
		return []error{&huma.ErrorModel{Type: problemType("revision-missing"), Title: "Precondition Required", Status: http.StatusPreconditionRequired,
			Detail: "Say on which revision the change was made, in the header If-Match: the ETag of the shop you looked at. So nobody's change is lost."}}
	}
	text := strings.TrimPrefix(m.IfMatch, "W/")
	n, err := strconv.ParseInt(strings.Trim(text, `"`), 10, 64)
	if err != nil || n < 1 || len(text) < 3 || text[0] != '"' {
		return []error{&huma.ErrorDetail{Location: "header.If-Match", Message: "this should be the revision in quotes, as an ETag has it", Value: m.IfMatch}}
	}
	m.rev = n
	return nil
}

// tag is the ETag of a revision.
func tag(revision int64) string { return strconv.Quote(strconv.FormatInt(revision, 10)) }

// byID asks for one thing by its name.
type byID struct {
	ID string `path:"id"`
}
