package api

import (
	"io"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"hobrak/internal/core/say"
)

// inUnits writes the quantities in the sentences of an answer in the units of the shop.
func (s *Server) inUnits(c *gin.Context) {
	if s.store == nil || !strings.HasPrefix(c.Request.URL.Path, "/api/") {
		c.Next()
		return
	}
	w := &spoken{ResponseWriter: c.Writer, screen: func() say.Screen {
		sh, _ := s.store.Snapshot()
		return say.Screen{Units: sh.Settings.Units, Comma: sh.Settings.Decimal == "comma"}
	}}
	c.Writer = w
	c.Next()
	w.end()
}

// spoken is an answer whose sentences are written out; files pass as they are.
type spoken struct {
	gin.ResponseWriter
	screen func() say.Screen
	said   *say.Writer
	begun  bool
}

func (w *spoken) Write(p []byte) (int, error) {
	if !w.begun {
		w.begun = true
		switch t := w.Header().Get("Content-Type"); {
		case strings.Contains(t, "json"), strings.HasPrefix(t, "text/event-stream"):
			w.said = say.ToScreen(w.ResponseWriter, w.screen())
		}
	}
	if w.said == nil {
		return w.ResponseWriter.Write(p)
	}
	return w.said.Write(p)
}

func (w *spoken) WriteString(text string) (int, error) { return io.WriteString(writerOnly{w}, text) }

// writerOnly hides WriteString, which would call itself.
type writerOnly struct{ io.Writer }

// Unwrap lets the deadline of a stream be set.
func (w *spoken) Unwrap() http.ResponseWriter { return w.ResponseWriter }

func (w *spoken) end() {
	if w.said != nil {
		_ = w.said.Close() // who asked is gone when it cannot be written
	}
}
