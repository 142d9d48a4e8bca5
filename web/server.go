// Package web serves the pages and the JSON API. Handlers decode, call the
// studio and render; they compute nothing.
package web

import (
	"crypto/subtle"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"fairtangle/studio"
)

// Options are what a server can be told.
type Options struct {
	Log        *slog.Logger
	Passphrase string // asked for by the browser where it is not empty
	Demo       bool   // the sample world, reset at each start
}

type server struct {
	studio *studio.Studio
	log    *slog.Logger
	demo   bool
	pages  pages
	assets assets
}

// policy lets the browser load nothing but what this program serves.
const policy = "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; base-uri 'none'; form-action 'self'; frame-ancestors 'none'; object-src 'none'"

// Limits of a request's body in bytes.
const (
	bodyLimit   = 1 << 20
	importLimit = 24 << 20
)

// New makes the handler for the whole program.
func New(st *studio.Studio, o Options) (http.Handler, error) {
	gin.SetMode(gin.ReleaseMode)
	s := &server{studio: st, log: o.Log, demo: o.Demo}
	var err error
	if s.assets, err = loadAssets(); err != nil {
		return nil, err
	}
	if s.pages, err = loadPages(s.assets); err != nil {
		return nil, err
	}
	e := gin.New()
	e.HandleMethodNotAllowed = true
	e.Use(s.logging, s.recovering, s.headers, limitBody, gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedPathsRegexs([]string{"/find/all$", "/picture"})))
	if o.Passphrase != "" {
		e.Use(passphrase(o.Passphrase))
	}
	s.routes(e)
	return http.NewCrossOriginProtection().Handler(e), nil
}

func (s *server) logging(c *gin.Context) {
	start := time.Now()
	c.Next()
	level := slog.LevelInfo
	if c.Writer.Status() >= 500 {
		level = slog.LevelError
	}
	s.log.Log(c.Request.Context(), level, "request", "method", c.Request.Method, "path", c.Request.URL.Path,
		"status", c.Writer.Status(), "ms", time.Since(start).Milliseconds(), "error", c.Errors.String())
}

func (s *server) recovering(c *gin.Context) {
	defer func() {
		if v := recover(); v != nil {
			s.fail(c, fmt.Errorf("panic: %v", v))
		}
	}()
	c.Next()
}

func (s *server) headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", policy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cache-Control", "no-store")
	c.Next()
}

func limitBody(c *gin.Context) {
	limit := int64(bodyLimit)
	path := strings.TrimPrefix(c.Request.URL.Path, api)
	if strings.HasPrefix(path, "/shelf/import") || path == "/photos" {
		limit = importLimit
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, limit)
	c.Next()
}

func passphrase(want string) gin.HandlerFunc {
	return func(c *gin.Context) {
		_, got, _ := c.Request.BasicAuth()
		if subtle.ConstantTimeCompare([]byte(got), []byte(want)) != 1 {
			time.Sleep(500 * time.Millisecond) // slows down guessing
			c.Header("WWW-Authenticate", `Basic realm="Fair Tangle", charset="UTF-8"`)
			c.AbortWithStatus(http.StatusUnauthorized)
			return
		}
		c.Next()
	}
}

// wantsJSON tells a script's or a program's request from a person's.
func wantsJSON(c *gin.Context) bool {
	return strings.HasPrefix(c.Request.URL.Path, "/api/v1") || strings.Contains(c.GetHeader("Accept"), "application/json")
}

// tooLarge tells whether err comes from a body over the limit.
func tooLarge(err error) bool {
	var m *http.MaxBytesError
	return errors.As(err, &m)
}
