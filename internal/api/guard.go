package api

import (
	"bytes"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
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
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
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

// gate lets in who knows the pass phrase.
type gate struct {
	phrase [sha256.Size]byte
	tries  *rate.Limiter

	mu   sync.Mutex
	keys map[[sha256.Size]byte]time.Time // of those let in, until when
}

// Pass phrases are tried out by guessing; so many may be guessed at once, and one more every
// so often.
const (
	guesses    = 5
	guessEvery = 10 * time.Second
	letInFor   = 30 * 24 * time.Hour
	keyName    = "hobrak"
)

func newGate(phrase string) *gate {
	return &gate{phrase: sha256.Sum256([]byte(phrase)), tries: rate.NewLimiter(rate.Every(guessEvery), guesses), keys: map[[sha256.Size]byte]time.Time{}}
}

func (g *gate) knows(r *http.Request) bool {
	c, err := r.Cookie(keyName)
	if err != nil {
		return false
	}
	g.mu.Lock()
	defer g.mu.Unlock()
	until, ok := g.keys[sha256.Sum256([]byte(c.Value))]
	return ok && time.Now().Before(until)
}

// enter gives a key for the right pass phrase.
func (g *gate) enter(w http.ResponseWriter, r *http.Request) {
	if !g.tries.Allow() {
		g.ask(w, http.StatusTooManyRequests, "Too many tries. Wait a minute and try again.")
		return
	}
	r.Body = http.MaxBytesReader(w, r.Body, 4<<10)
	given := sha256.Sum256([]byte(r.PostFormValue("phrase")))
	if subtle.ConstantTimeCompare(given[:], g.phrase[:]) != 1 {
		g.ask(w, http.StatusForbidden, "That is not the pass phrase.")
		return
	}
	raw := make([]byte, 32)
	_, _ = rand.Read(raw) // never fails
	key := hex.EncodeToString(raw)
	g.mu.Lock()
	for k, until := range g.keys {
		if time.Now().After(until) {
			delete(g.keys, k)
		}
	}
	g.keys[sha256.Sum256([]byte(key))] = time.Now().Add(letInFor)
	g.mu.Unlock()
	http.SetCookie(w, &http.Cookie{Name: keyName, Value: key, Path: "/", HttpOnly: true, Secure: r.TLS != nil, SameSite: http.SameSiteStrictMode, MaxAge: int(letInFor.Seconds())})
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

func (g *gate) leave(w http.ResponseWriter, r *http.Request) {
	if c, err := r.Cookie(keyName); err == nil {
		g.mu.Lock()
		delete(g.keys, sha256.Sum256([]byte(c.Value)))
		g.mu.Unlock()
	}
	http.SetCookie(w, &http.Cookie{Name: keyName, Path: "/", HttpOnly: true, MaxAge: -1})
	g.ask(w, http.StatusOK, "You are signed out.")
}

// gateStyle is the paper and ink of the front end, which is not served before the phrase is given.
const gateStyle = `:root{color-scheme:light dark}body{margin:0;display:grid;place-items:center;min-height:100vh;background:#f3eee2;color:#1f2b26;font:16px/1.5 system-ui,sans-serif}` +
	`main{background:#fbf8f1;border:1px solid #c9bfa6;padding:28px 32px;width:min(320px,86vw)}h1{margin:0;font-size:26px}label{display:block;font-weight:600}` +
	`input{display:block;box-sizing:border-box;width:100%;margin:4px 0 16px;padding:10px;font:inherit;border:1px solid #1f2b26;background:#fff;color:#1f2b26}` +
	`button{font:inherit;font-weight:700;padding:10px 16px;border:0;background:#1d5a8f;color:#fff}` +
	`@media(prefers-color-scheme:dark){body{background:#1b211e;color:#ece5d6}main{background:#232a26;border-color:#4c5650}input{background:#1b211e;color:#ece5d6;border-color:#ece5d6}}`

// ask shows the page that asks for the pass phrase.
func (g *gate) ask(w http.ResponseWriter, status int, says string) {
	h := w.Header()
	h.Set("Content-Type", "text/html; charset=utf-8")
	h.Set("Cache-Control", "no-store")
	sum := sha256.Sum256([]byte(gateStyle))
	h.Set("Content-Security-Policy", "default-src 'none'; style-src 'sha256-"+base64.StdEncoding.EncodeToString(sum[:])+"'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "no-referrer")
	w.WriteHeader(status)
	fmt.Fprintf(w, `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>Hobrak</title><style>%s</style>
<main><h1>Hobrak</h1><p role="status">%s</p><form method="post" action="/enter"><label>Pass phrase<input type="password" name="phrase" autocomplete="current-password" autofocus required></label><button>Open the shop</button></form></main></html>`, gateStyle, says)
}

// guarded lets nobody past who has not given the pass phrase.
func (g *gate) guarded(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch {
		case r.URL.Path == "/enter" && r.Method == http.MethodPost:
			g.enter(w, r)
		case r.URL.Path == "/leave" && r.Method == http.MethodPost:
			g.leave(w, r)
		case g.knows(r) || r.URL.Path == "/api/v1/health":
			next.ServeHTTP(w, r)
		case strings.HasPrefix(r.URL.Path, "/api/"):
			refuse(w, http.StatusUnauthorized, "This shop is behind a pass phrase; open its first page and give it.")
		default:
			g.ask(w, http.StatusUnauthorized, "This shop is behind a pass phrase.")
		}
	})
}
