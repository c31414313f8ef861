// Package api serves a shop over HTTP: JSON under /api, streams of what
// happens, and the front end. Errors are problem documents after RFC 9457 that
// name the offending field by its path.
package api

import (
	"context"
	"crypto/rand"
	"io/fs"
	"log/slog"
	"mime"
	"net/http"
	"path"
	"path/filepath"
	"reflect"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"hobrak/internal/device"
	"hobrak/internal/store"
)

// Limits of request bodies in bytes.
const (
	smallBody = 64 << 10
	largeBody = 4 << 20
)

// Server answers requests about one shop.
type Server struct {
	store *store.Store
	log   *slog.Logger
	http  http.Handler
	api   huma.API

	start   string // which start of the server this is
	views   views
	counted tallies
	mu      sync.Mutex // of the runs
	runs    map[int64]*run
	turn    chan struct{} // holds one: the search that runs
	stop    context.CancelFunc
	life    context.Context

	meter    device.Meter        // nil when there is none
	scale    device.Scale        // the same
	labeller device.LabelPrinter // the same
	cuts     cutPlans
	lain     lain

	bringing chan struct{} // holds one: files are opened one at a time, each may take much memory
	hosts    []string
	gate     *gate
	version  string
	shelf    Shelf // nil when this shop is the only one
	examples []Example
}

// Option of a server.
type Option func(*Server)

// WithMeter lets the interface press a distance meter that is not a keyboard.
func WithMeter(m device.Meter) Option { return func(s *Server) { s.meter = m } }

// WithScale lets the interface read a scale that is not a keyboard.
func WithScale(sc device.Scale) Option { return func(s *Server) { s.scale = sc } }

// WithHosts allows the server to be asked for by these names as well; its addresses and
// the machine's own names are known.
func WithHosts(names ...string) Option {
	return func(s *Server) {
		for _, n := range names {
			s.hosts = append(s.hosts, strings.ToLower(n))
		}
	}
}

// WithVersion says which Hobrak it is.
func WithVersion(v string) Option { return func(s *Server) { s.version = v } }

// New makes a server. Static holds the built front end; nil serves none.
func New(st *store.Store, log *slog.Logger, static fs.FS, options ...Option) *Server {
	gin.SetMode(gin.ReleaseMode)
	huma.DefaultArrayNullable = false // lists are lists, never null
	s := &Server{store: st, log: log, start: rand.Text(), runs: map[int64]*run{}, turn: make(chan struct{}, 1), bringing: make(chan struct{}, 1), hosts: LocalHosts(), version: "unversioned"}
	s.life, s.stop = context.WithCancel(context.Background())
	for _, o := range options {
		o(s)
	}
	g := gin.New()
	g.HandleMethodNotAllowed = true
	g.NoMethod(func(c *gin.Context) {
		refuse(c.Writer, http.StatusMethodNotAllowed, c.Request.Method+" is not possible at "+c.Request.URL.Path)
	})
	g.Use(s.logged, s.recovered, secured, gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedPathsRegexs([]string{`^/api/v1/(.*stream|plans/[^/]+/stream)$`, `^/assets/`})), s.inUnits)
	config := huma.DefaultConfig("Hobrak", "1")
	config.DocsPath, config.SchemasPath = "", ""
	config.Info.Description = "A workshop's room, things and homes. Lengths are mm, weights kg, times s, angles degrees anticlockwise. Answers about the shop carry its revision as ETag: send it as If-None-Match to hear whether anything changed, and as If-Match with a change. Problems are RFC 9457 documents with stable types."
	config.Info.License = &huma.License{Name: "see LICENSE"}
	config.Servers = []*huma.Server{{URL: "/", Description: "the machine Hobrak runs on"}}
	config.Tags = tags
	config.OpenAPIPath = "/api/v1/openapi"
	config.CreateHooks = nil
	config.Formats = map[string]huma.Format{"application/json": whole(log), "json": whole(log)}
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	describeWords(config.Components.Schemas)
	s.api = humagin.New(g, config)
	s.api.UseMiddleware(s.allowed, s.saysWhat, s.conditional)
	s.routes()
	if st != nil {
		if err := s.remember(s.life); err != nil {
			log.Error("the plans that were kept cannot be read", "what", err)
		}
	}
	if static != nil {
		serveStatic(g, static)
	}
	cross := http.NewCrossOriginProtection()
	cross.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		refuse(w, http.StatusForbidden, "A page from elsewhere may not change this shop.")
	}))
	s.http = timed(cross.Handler(g))
	if s.gate != nil {
		if s.gate.store == nil {
			if err := s.gate.open(s.life, st, log); err != nil {
				log.Error("the devices that are let in cannot be read", "what", err)
			}
		}
		s.http = timed(cross.Handler(s.gate.guarded(g)))
	}
	s.http = forHosts(s.hosts, s.http)
	return s
}

// schemaName is the name of a type in the description: that of the round's and
// the API's own types as it is, that of others behind their package's.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	switch pkg := path.Base(t.PkgPath()); pkg {
	case "free", "survey", "passage", "table", "storage", "propose", "shop", "between", "facts", "feed", "shift", "supply", "mode", "arrange", "chain", "worth", "flow", "stature", "moves", "gather", "lookround", "inorder", "wood", "cutting", "build", "outline", "reuse", "closely", "due", "review", "project", "month", "newroom":
		return strings.ToUpper(pkg[:1]) + pkg[1:] + name
	}
	return name
}

// Handler of all requests.
func (s *Server) Handler() http.Handler { return s.http }

// Close ends the runs and streams that go on.
func (s *Server) Close() { s.stop() }

// OpenAPI is the description of the API the front end's types are made from.
func (s *Server) OpenAPI() ([]byte, error) { return s.api.OpenAPI().MarshalJSON() }

func (s *Server) logged(c *gin.Context) {
	started := time.Now()
	c.Request = c.Request.WithContext(context.WithValue(c.Request.Context(), logKey{}, s.log))
	c.Next()
	if strings.HasPrefix(c.Request.URL.Path, "/api") {
		s.log.Info("request", "method", c.Request.Method, "path", c.Request.URL.Path, "status", c.Writer.Status(), "millis", time.Since(started).Milliseconds())
	}
}

func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			s.log.Error("internal failure", "path", c.Request.URL.Path, "what", r)
			refuse(c.Writer, http.StatusInternalServerError, "Something went wrong inside Hobrak; the shop is as it was. The log of the server says more.")
			c.Abort()
		}
	}()
	c.Next()
}

// serveStatic serves the front end; unknown paths are its own and get its page.
func serveStatic(g *gin.Engine, static fs.FS) {
	files := http.FileServerFS(static)
	g.NoRoute(func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if strings.HasPrefix(path, "api/") {
			refuse(c.Writer, http.StatusNotFound, "there is nothing at "+c.Request.URL.Path)
			return
		}
		asset := strings.HasPrefix(path, "assets/")
		if _, err := fs.Stat(static, path); asset && err != nil {
			// A page from before an update asks for code that is no longer there: it must not get a page for it.
			refuse(c.Writer, http.StatusNotFound, "there is no "+path+"; Hobrak was updated, reload the page")
			return
		} else if path == "" || err != nil {
			c.Request.URL.Path = "/"
			c.Header("Cache-Control", "no-cache")
		} else if asset {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
			packed(c, static, path)
		}
		files.ServeHTTP(c.Writer, c.Request)
	})
}

// packings are the forms a file of the front end is packed in, the tightest first.
var packings = []struct{ name, suffix string }{{"br", ".br"}, {"gzip", ".gz"}}

// packed has the form of a file sent that the browser unpacks and that there is.
func packed(c *gin.Context, static fs.FS, path string) {
	c.Header("Vary", "Accept-Encoding")
	for _, p := range packings {
		if _, err := fs.Stat(static, path+p.suffix); err != nil || !strings.Contains(c.GetHeader("Accept-Encoding"), p.name) {
			continue
		}
		c.Header("Content-Encoding", p.name)
		c.Header("Content-Type", mime.TypeByExtension(filepath.Ext(path)))
		c.Request.URL.Path += p.suffix
		return
	}
}
