package api

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"html"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/time/rate"

	"hobrak/internal/share"
	"hobrak/internal/store"
)

// Sharing is how a shop is opened to other devices.
type Sharing struct {
	Phrase    string   // what is kept of the pass phrase (share.Hash)
	Addresses []string // under which other devices reach it, as https://192.168.1.20:8443
	Authority []byte   // certificate that devices are told to trust, DER; nil when they trust it already or nothing is encrypted
	Here      bool     // requests marked by AtTheMachine come in without the pass phrase
}

// WithPhrase lets in only who gives the pass phrase.
func WithPhrase(phrase string) Option {
	return WithSharing(Sharing{Phrase: share.Hash(phrase)})
}

// WithSharing lets other devices in by the pass phrase or a pairing code, each with its role.
func WithSharing(sh Sharing) Option {
	return func(s *Server) { s.gate = newGate(sh) }
}

type hereKey struct{}

// AtTheMachine marks the requests of a listener that only the machine itself reaches.
func AtTheMachine(ctx context.Context) context.Context {
	return context.WithValue(ctx, hereKey{}, true)
}

// gate lets in who knows the pass phrase, or was given a pairing code by somebody who is in.
type gate struct {
	sharing Sharing
	store   *store.Store
	log     *slog.Logger

	mu    sync.Mutex
	in    map[[sha256.Size]byte]*store.Device // by the hash of the key they show
	tries map[string]*rate.Limiter            // of each address
	all   *rate.Limiter
	codes map[[sha256.Size]byte]pairing
	busy  sync.Mutex // one pass phrase at a time: each takes memory and time on purpose
}

// pairing lets one device in, once.
type pairing struct {
	name, role string
	until      time.Time
}

// Pass phrases and codes are tried out by guessing; so many may be guessed at once from one address and from all, and one more
// every so often.
const (
	guesses    = 5
	guessEvery = 10 * time.Second
	allGuesses = 30
	allEvery   = 2 * time.Second
	letInFor   = 30 * 24 * time.Hour
	codeFor    = 10 * time.Minute
	noteSeen   = time.Hour // how often it is noted that a device asked
	keyName    = "hobrak"
	mostCodes  = 100
)

func newGate(sh Sharing) *gate {
	return &gate{sharing: sh, in: map[[sha256.Size]byte]*store.Device{}, tries: map[string]*rate.Limiter{}, all: rate.NewLimiter(rate.Every(allEvery), allGuesses), codes: map[[sha256.Size]byte]pairing{}}
}

// open reads who is let in.
func (g *gate) open(ctx context.Context, st *store.Store, log *slog.Logger) error {
	g.store, g.log = st, log
	list, err := st.Devices(ctx)
	if err != nil {
		return err
	}
	g.mu.Lock()
	defer g.mu.Unlock()
	for i := range list {
		g.in[[sha256.Size]byte(list[i].Key)] = &list[i]
	}
	return nil
}

// name of the cookie: on an encrypted way browsers keep others from setting it.
func cookieName(r *http.Request) string {
	if r.TLS != nil {
		return "__Host-" + keyName
	}
	return keyName
}

// device that asks; nil when it is not let in.
func (g *gate) device(r *http.Request) *store.Device {
	c, err := r.Cookie(cookieName(r))
	if err != nil {
		return nil
	}
	key := sha256.Sum256([]byte(c.Value))
	g.mu.Lock()
	d := g.in[key]
	if d == nil {
		g.mu.Unlock()
		return nil
	}
	now := time.Now()
	if until, err := time.Parse(time.RFC3339, d.Until); err != nil || now.After(until) {
		delete(g.in, key)
		g.mu.Unlock()
		return nil
	}
	out := *d
	seen, err := time.Parse(time.RFC3339, d.Seen)
	late := err != nil || now.Sub(seen) > noteSeen
	if late {
		d.Seen = now.UTC().Format(time.RFC3339) // others that ask meanwhile need not note it as well
	}
	g.mu.Unlock()
	if late {
		if again, err := g.store.SeenAgain(context.WithoutCancel(r.Context()), out.ID, letInFor); err == nil {
			g.mu.Lock()
			d.Until = again.Until
			g.mu.Unlock()
		}
	}
	return &out
}

// mayTry tells whether an address may guess once more.
func (g *gate) mayTry(r *http.Request) bool {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		host = r.RemoteAddr
	}
	g.mu.Lock()
	l := g.tries[host]
	if l == nil {
		if len(g.tries) >= 10_000 { // an attacker with many addresses meets the limit of all
			clear(g.tries)
		}
		l = rate.NewLimiter(rate.Every(guessEvery), guesses)
		g.tries[host] = l
	}
	g.mu.Unlock()
	return l.Allow() && g.all.Allow()
}

// letIn gives a device a key of its own.
func (g *gate) letIn(w http.ResponseWriter, r *http.Request, name, role string) error {
	raw := make([]byte, 32)
	_, _ = rand.Read(raw) // never fails
	key := hex.EncodeToString(raw)
	sum := sha256.Sum256([]byte(key))
	d, err := g.store.LetIn(r.Context(), store.Device{Name: name, Role: role, Key: sum[:]}, letInFor)
	if err != nil {
		return err
	}
	g.mu.Lock()
	g.in[sum] = &d
	g.mu.Unlock()
	http.SetCookie(w, &http.Cookie{Name: cookieName(r), Value: key, Path: "/", HttpOnly: true, Secure: r.TLS != nil, SameSite: http.SameSiteStrictMode, MaxAge: int((365 * 24 * time.Hour).Seconds())})
	return nil
}

// called is what a device is called when it says nothing.
func called(name string, now time.Time) string {
	if name = strings.Join(strings.Fields(name), " "); name == "" {
		return "Let in on " + now.Format("2 January")
	}
	return string([]rune(name)[:min(len([]rune(name)), 60)])
}

// enter lets a device in for the right pass phrase: whoever knows it may do everything.
func (g *gate) enter(w http.ResponseWriter, r *http.Request) {
	if !g.mayTry(r) {
		g.ask(w, http.StatusTooManyRequests, "Too many tries. Wait a minute and try again.")
		return
	}
	r.Body = http.MaxBytesReader(w, r.Body, 8<<10)
	g.busy.Lock()
	right, err := share.Right(g.sharing.Phrase, r.PostFormValue("phrase"))
	g.busy.Unlock()
	if err != nil {
		g.log.Error("the pass phrase", "what", err)
	}
	if !right {
		g.ask(w, http.StatusForbidden, "That is not the pass phrase.")
		return
	}
	if err := g.letIn(w, r, called(r.PostFormValue("name"), time.Now()), store.Maker); err != nil {
		g.log.Error("letting a device in", "what", err)
		g.ask(w, http.StatusInternalServerError, "It is the right pass phrase, but this device could not be noted. Try again.")
		return
	}
	to := r.PostFormValue("to")
	if !strings.HasPrefix(to, "/") || strings.HasPrefix(to, "//") || strings.ContainsAny(to, "\\\r\n") {
		to = "/"
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
}

func (g *gate) leave(w http.ResponseWriter, r *http.Request) {
	if d := g.device(r); d != nil {
		if err := g.showOut(r.Context(), d.ID); err != nil && !errors.Is(err, store.ErrNoDevice) {
			g.log.Error("showing a device out", "what", err)
		}
	}
	http.SetCookie(w, &http.Cookie{Name: cookieName(r), Path: "/", HttpOnly: true, Secure: r.TLS != nil, MaxAge: -1})
	// What the device keeps for when the machine is out of reach goes with it.
	w.Header().Set("Clear-Site-Data", `"cache", "storage"`)
	g.ask(w, http.StatusOK, "You are signed out.")
}

// showOut lets a device in no more, from the next thing it asks.
func (g *gate) showOut(ctx context.Context, id int64) error {
	g.mu.Lock()
	for key, d := range g.in {
		if d.ID == id {
			delete(g.in, key)
		}
	}
	g.mu.Unlock()
	return g.store.ShowOut(ctx, id)
}

// code for one device to be paired by, good for ten minutes and once.
func (g *gate) code(name, role string) (string, time.Time, error) {
	code := rand.Text()
	now := time.Now()
	g.mu.Lock()
	defer g.mu.Unlock()
	for k, p := range g.codes {
		if now.After(p.until) {
			delete(g.codes, k)
		}
	}
	if len(g.codes) >= mostCodes {
		return "", now, errors.New("many codes wait to be used already; wait ten minutes")
	}
	until := now.Add(codeFor)
	g.codes[sha256.Sum256([]byte(code))] = pairing{name, role, until}
	return code, until, nil
}

// roles in words, as a device is told.
var roles = map[string]string{
	store.Maker:     "see and change everything",
	store.Household: "find things, take them and put them back",
	store.Guest:     "look at the shop",
}

// oldCode is said to who comes with a code that lets nobody in any more.
const oldCode = "That code was used or is too old. Make a new one at the shop's machine, or give the pass phrase."

// offer shows a device what it is paired as; only pressing the button uses the code up, so that a preview of the link does not.
func (g *gate) offer(w http.ResponseWriter, r *http.Request) {
	code := r.URL.Query().Get("code")
	g.mu.Lock()
	p, ok := g.codes[sha256.Sum256([]byte(code))]
	g.mu.Unlock()
	if !ok || time.Now().After(p.until) {
		g.ask(w, http.StatusGone, oldCode)
		return
	}
	g.page(w, http.StatusOK, fmt.Sprintf(`<p role="status">This device may %s.</p><form method="post" action="/pair"><input type="hidden" name="code" value="%s"><label>Name of this device<input name="name" value="%s" maxlength="60" required autofocus></label><button>Come in</button></form>`,
		roles[p.role], html.EscapeString(code), html.EscapeString(p.name)))
}

// pair uses a code up.
func (g *gate) pair(w http.ResponseWriter, r *http.Request) {
	r.Body = http.MaxBytesReader(w, r.Body, 8<<10)
	key := sha256.Sum256([]byte(r.PostFormValue("code")))
	g.mu.Lock()
	p, ok := g.codes[key]
	delete(g.codes, key)
	g.mu.Unlock()
	if !ok && !g.mayTry(r) {
		g.ask(w, http.StatusTooManyRequests, "Too many tries. Wait a minute and try again.")
		return
	}
	if !ok || time.Now().After(p.until) {
		g.ask(w, http.StatusGone, oldCode)
		return
	}
	name := r.PostFormValue("name")
	if strings.TrimSpace(name) == "" {
		name = p.name
	}
	if err := g.letIn(w, r, called(name, time.Now()), p.role); err != nil {
		g.log.Error("letting a device in", "what", err)
		g.ask(w, http.StatusInternalServerError, "This device could not be noted. Make a new code and try again.")
		return
	}
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

// gateStyle is the paper and ink of the front end, which is not served before somebody is let in.
const gateStyle = `:root{color-scheme:light dark}body{margin:0;display:grid;place-items:center;min-height:100vh;background:#f3eee2;color:#1f2b26;font:16px/1.5 system-ui,sans-serif}` +
	`main{background:#fbf8f1;border:1px solid #c9bfa6;padding:28px 32px;box-sizing:border-box;width:min(384px,92vw)}h1{margin:0;font-size:26px}label{display:block;font-weight:600}` +
	`input{display:block;box-sizing:border-box;width:100%;margin:4px 0 16px;padding:10px;font:inherit;border:1px solid #1f2b26;background:#fff;color:#1f2b26}` +
	`button{font:inherit;font-weight:700;padding:10px 16px;border:0;background:#1d5a8f;color:#fff}` +
	`@media(prefers-color-scheme:dark){body{background:#1b211e;color:#ece5d6}main{background:#232a26;border-color:#4c5650}input{background:#1b211e;color:#ece5d6;border-color:#ece5d6}}`

func (g *gate) page(w http.ResponseWriter, status int, inner string) {
	h := w.Header()
	h.Set("Content-Type", "text/html; charset=utf-8")
	h.Set("Cache-Control", "no-store")
	sum := sha256.Sum256([]byte(gateStyle))
	h.Set("Content-Security-Policy", "default-src 'none'; style-src 'sha256-"+base64.StdEncoding.EncodeToString(sum[:])+"'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Referrer-Policy", "no-referrer")
	w.WriteHeader(status)
	fmt.Fprintf(w, `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>Hobrak</title><style>%s</style>
<main><h1>Hobrak</h1>%s</main></html>`, gateStyle, inner)
}

// ask shows the page that asks for the pass phrase.
func (g *gate) ask(w http.ResponseWriter, status int, says string) { g.askFor(w, status, says, "/") }

// askFor leads on to a path once it is given.
func (g *gate) askFor(w http.ResponseWriter, status int, says, to string) {
	g.page(w, status, fmt.Sprintf(`<p role="status">%s</p><form method="post" action="/enter"><input type="hidden" name="to" value="%s"><label>Pass phrase<input type="password" name="phrase" autocomplete="current-password" autofocus required></label><label>Name of this device<input name="name" maxlength="60" placeholder="as phone in the shop"></label><button>Open the shop</button></form>`, html.EscapeString(says), html.EscapeString(to)))
}

type visitorKey struct{}

// visitor is the device that asks; nil at the machine itself and where nobody is asked.
func visitor(ctx context.Context) *store.Device {
	d, _ := ctx.Value(visitorKey{}).(*store.Device)
	return d
}

// open to everybody: what a device loads before it is let in.
var public = []string{"/api/v1/health", "/manifest.webmanifest", "/mark.svg", "/icon-192.png", "/icon-512.png"}

// guarded lets nobody past who has not been let in.
func (g *gate) guarded(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		here, _ := r.Context().Value(hereKey{}).(bool)
		if here && g.sharing.Here {
			next.ServeHTTP(w, r)
			return
		}
		switch {
		case r.URL.Path == "/enter" && r.Method == http.MethodPost:
			g.enter(w, r)
			return
		case r.URL.Path == "/leave" && r.Method == http.MethodPost:
			g.leave(w, r)
			return
		case r.URL.Path == "/pair" && r.Method == http.MethodGet:
			g.offer(w, r)
			return
		case r.URL.Path == "/pair" && r.Method == http.MethodPost:
			g.pair(w, r)
			return
		case r.URL.Path == "/trust.crt" && g.sharing.Authority != nil:
			w.Header().Set("Content-Type", "application/x-x509-ca-cert")
			w.Header().Set("Content-Disposition", `attachment; filename="hobrak-trust.crt"`)
			_, _ = w.Write(g.sharing.Authority)
			return
		case slices.Contains(public, r.URL.Path), strings.HasPrefix(r.URL.Path, feedPath) && r.Method == http.MethodGet: // its address is the secret
			next.ServeHTTP(w, r)
			return
		}
		d := g.device(r)
		switch {
		case d != nil:
			ctx := context.WithValue(store.ByDevice(r.Context(), d.Name), visitorKey{}, d)
			next.ServeHTTP(w, r.WithContext(ctx))
		case strings.HasPrefix(r.URL.Path, "/api/") || strings.Contains(r.URL.Path, "/api/v1/"):
			refuse(w, http.StatusUnauthorized, "This shop is behind a pass phrase; open its first page and give it.")
		default:
			g.askFor(w, http.StatusUnauthorized, "This shop is behind a pass phrase.", r.URL.RequestURI())
		}
	})
}

// What the roles may do beside reading, and what of reading is not for them, by operation.
var (
	// a member of the household finds, a piece of wood as well, takes and puts back
	householdDoes = []string{"tap", "read-code", "find-wood"}
	makersRead    = []string{"about", "devices", "export", "export-events"}
	// a guest does not see who has what
	guestsMiss = []string{"list-out", "list-events", "get-event", "list-revisions", "get-revision", "compare-revisions", "closing", "habits", "list-uses", "learned", "list-people", "get-person", "shops"}
)

// Allowed tells whether a role may do an operation.
func Allowed(role, method, operation string) bool {
	switch role {
	case store.Maker:
		return true
	case store.Household:
		return method == http.MethodGet && !slices.Contains(makersRead, operation) || slices.Contains(householdDoes, operation)
	case store.Guest:
		return method == http.MethodGet && !slices.Contains(makersRead, operation) && !slices.Contains(guestsMiss, operation)
	}
	return false
}

// allowed refuses what the role of a device does not cover.
func (s *Server) allowed(ctx huma.Context, next func(huma.Context)) {
	d := visitor(ctx.Context())
	if d == nil || Allowed(d.Role, ctx.Operation().Method, ctx.Operation().OperationID) {
		next(ctx)
		return
	}
	_ = huma.WriteErr(s.api, ctx, http.StatusForbidden, fmt.Sprintf("%s may only %s. Whoever looks after the shop can change that under Devices.", d.Name, roles[d.Role]))
}
