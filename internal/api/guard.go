package api

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
)

// refuse answers with a problem document.
func refuse(w http.ResponseWriter, status int, detail string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(huma.ErrorModel{Title: http.StatusText(status), Status: status, Detail: detail})
}

// LocalHosts are the names under which this machine may be asked for itself.
func LocalHosts() []string {
	out := []string{"localhost"}
	if name, err := os.Hostname(); err == nil {
		out = append(out, strings.ToLower(name), strings.ToLower(name)+".local")
	}
	return out
}

// forHosts answers only requests that were sent to this machine by a name of its own or by
// its address. A page elsewhere whose name was made to point here (DNS rebinding) asks for
// that name.
func forHosts(names []string, next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host := r.Host
		if h, _, err := net.SplitHostPort(host); err == nil {
			host = h
		}
		host = strings.ToLower(strings.Trim(host, "[]"))
		if net.ParseIP(host) == nil && !slices.Contains(names, strings.TrimSuffix(host, ".")) {
			refuse(w, http.StatusMisdirectedRequest, "This Hobrak is not called that. Open it by the address it printed when it started, or start it with --host and the name you use.")
			return
		}
		next.ServeHTTP(w, r)
	})
}

// bodyTime is how long a request may take to send its body.
const bodyTime = 60 * time.Second

// timedBody gives up on a body that does not arrive. A request that has been read may take
// as long as it needs.
type timedBody struct {
	io.ReadCloser
	rc *http.ResponseController
}

func (b *timedBody) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	if err != nil {
		_ = b.rc.SetReadDeadline(time.Time{})
	}
	return n, err
}

func timed(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Body != nil && r.Body != http.NoBody {
			rc := http.NewResponseController(w)
			if rc.SetReadDeadline(time.Now().Add(bodyTime)) == nil {
				r.Body = &timedBody{r.Body, rc}
			}
		}
		next.ServeHTTP(w, r)
	})
}

// secured keeps the pages to themselves: nothing is loaded from elsewhere, and nothing of the
// shop is kept by caches.
func secured(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	h.Set("Permissions-Policy", "geolocation=(), microphone=(), camera=(self)")
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		h.Set("Cache-Control", "no-store")
	}
	c.Next()
}

// saysWhat refuses a body that does not say that it is JSON, where JSON is asked for. A page
// elsewhere may send other bodies without being asked first; files are recognised by their head.
func (s *Server) saysWhat(ctx huma.Context, next func(huma.Context)) {
	op := ctx.Operation()
	if op.RequestBody == nil || op.SkipValidateBody || ctx.Header("Content-Length") == "0" {
		next(ctx)
		return
	}
	if t, _, err := mime.ParseMediaType(ctx.Header("Content-Type")); err != nil || t != "application/json" {
		_ = huma.WriteErr(s.api, ctx, http.StatusUnsupportedMediaType, "Send JSON, and say so with Content-Type: application/json.")
		return
	}
	next(ctx)
}

// whole is JSON that is written when all of it is there: an answer that cannot be written is
// an error, and not half an answer.
func whole(log *slog.Logger) huma.Format {
	f := huma.DefaultJSONFormat
	f.Marshal = func(w io.Writer, v any) error {
		var b bytes.Buffer
		enc := json.NewEncoder(&b)
		enc.SetEscapeHTML(false)
		err := enc.Encode(v)
		if err == nil {
			_, err = b.WriteTo(w)
			return err
		}
		log.Error("an answer has no JSON form", "what", err, "of", fmt.Sprintf("%T", v))
		rw, ok := w.(http.ResponseWriter)
		if !ok {
			return err
		}
		refuse(rw, http.StatusInternalServerError, "Something went wrong inside Hobrak: the answer cannot be written. The shop is as it was; the log of the server says more.")
		return nil
	}
	return f
}

// logKey finds the log in the context of a request.
type logKey struct{}

// What went wrong inside is for the log: whoever asked gets a sentence and what to do.
func init() {
	usual := huma.NewErrorWithContext
	huma.NewErrorWithContext = func(ctx huma.Context, status int, msg string, errs ...error) huma.StatusError {
		if status != http.StatusInternalServerError || len(errs) == 0 {
			return usual(ctx, status, msg, errs...)
		}
		if log, ok := ctx.Context().Value(logKey{}).(*slog.Logger); ok {
			log.Error("internal failure", "path", ctx.URL().Path, "what", errors.Join(errs...))
		}
		for _, err := range errs {
			var said huma.StatusError
			if p := problem(err); errors.As(p, &said) {
				return said
			}
		}
		return usual(ctx, status, "Something went wrong inside Hobrak; the shop is as it was. The log of the server says more.")
	}
}
