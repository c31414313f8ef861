package api

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// What an answer depends on; it says which ETag it has.
const (
	ofShop   = "shop"   // the revision alone
	ofEvents = "events" // also what happened
	live     = "live"   // something that has no ETag
)

// conditional answers 304 when who asks has what there is already. The ETag is taken before
// the answer is worked out: at worst the answer is newer than its tag says, and is asked for
// once more.
func (s *Server) conditional(ctx huma.Context, next func(huma.Context)) {
	of, _ := ctx.Operation().Metadata["of"].(string)
	if ctx.Operation().Method != http.MethodGet || of == live {
		next(ctx)
		return
	}
	etag := tag(s.store.Head())
	if of == ofEvents {
		etag = fmt.Sprintf("%q", fmt.Sprintf("%d-%d", s.store.Head(), s.store.EventHead()))
	}
	ctx.SetHeader("ETag", etag)
	for _, has := range strings.Split(ctx.Header("If-None-Match"), ",") {
		if strings.TrimPrefix(strings.TrimSpace(has), "W/") == etag {
			ctx.SetStatus(http.StatusNotModified)
			return
		}
	}
	next(ctx)
}
