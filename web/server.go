// Package web puts the pages and the API behind one handler and guards it.
package web

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"path"
	"runtime"
	"runtime/debug"
	"strings"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/studio/floor"
	"fairtangle/web/answer"
	"fairtangle/web/api"
	"fairtangle/web/art"
	"fairtangle/web/pages"
)

// Options are what a server can be told.
type Options struct {
	Log        *slog.Logger
	Passphrase string                                      // asked for by the browser where it is not empty
	Demo       bool                                        // the sample world, reset at each start
	Sample     func(context.Context, *studio.Studio) error // fills an empty studio with the sample world
	Beyond     Beyond                                      // how it is reached from other devices
	Again      func()                                      // has the program begin again, with the data that it is to begin with
	Hosts      []string                                    // names that it answers to besides this machine's own
	Proxies    []string                                    // addresses of proxies whose word is taken for who asks
	Pans       []Pan                                       // simulated scales, to be worked by hand
}

// Beyond is how the program is reached from other devices.
type Beyond = pages.Beyond

// Pan is the page of a simulated scale that speaks at an address.
type Pan struct {
	Address string
	Page    http.Handler
}

type server struct {
	log  *slog.Logger
	fail func(*gin.Context, error)
}

// policy lets the browser load nothing but what this program serves.
const policy = "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; base-uri 'none'; form-action 'self'; " +
	"frame-ancestors 'none'; object-src 'none'"

// asItComes are the answers that are not packed: they come bit by bit, or are packed already.
var asItComes = []string{"/find/all$", "/needs$", "/fit$", "/live$", "\\.png$"}

// importLimit bounds the body of a request that brings a file, in bytes.
const importLimit = 24 << 20

// copyLimit bounds a copy that comes from another computer, in bytes.
const copyLimit = 4 << 30

// New makes the handler for the whole program.
func New(st *studio.Studio, o Options) (http.Handler, error) {
	gin.SetMode(gin.ReleaseMode)
	s := &server{log: o.Log}
	e := gin.New()
	e.HandleMethodNotAllowed, e.RedirectTrailingSlash = true, false // nothing is answered before who asks is known
	e.MaxMultipartMemory = answer.InMemory
	e.Use(s.logging, s.recovering, s.headers, limitBody, gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedPathsRegexs(asItComes)))
	e.Use(hosts(o.Hosts))
	var leave func(http.ResponseWriter, *http.Request) error
	if o.Passphrase != "" {
		d := newDoor(st.Workshop.Doors, o.Beyond.TLS)
		e.Use(newGuard(o.Passphrase, d, st.Practice, o.Proxies, o.Log).ask)
		leave = d.leave
	}
	art.Routes(e)
	away(e)
	turns := answer.NewTurns(runtime.GOMAXPROCS(0))
	api.Routes(e, st, turns)
	pans := map[string]string{}
	for i, p := range o.Pans {
		at := fmt.Sprintf("/pans/%d", i+1)
		pans[p.Address] = at + "/"
		e.Any(at+"/*path", gin.WrapH(http.StripPrefix(at, p.Page)))
	}
	people, err := pages.Routes(e, st, pages.World{Demo: o.Demo, Sample: o.Sample, Again: o.Again, Beyond: o.Beyond, Leave: leave}, turns, pans)
	if err != nil {
		return nil, err
	}
	s.fail = func(c *gin.Context, err error) {
		if strings.HasPrefix(c.Request.URL.Path, "/api/") {
			answer.Fail(c, err)
			return
		}
		people(c, err)
	}
	nowhere := func(c *gin.Context) {
		if at := path.Clean(c.Request.URL.Path); at != c.Request.URL.Path && c.Request.Method == http.MethodGet {
			c.Redirect(http.StatusMovedPermanently, at)
			return
		}
		s.fail(c, floor.ErrNotFound)
	}
	e.NoRoute(nowhere)
	e.NoMethod(func(c *gin.Context) { s.fail(c, answer.ErrMethod) })
	cross := http.NewCrossOriginProtection()
	cross.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		protect(w.Header())
		http.Error(w, "Another site sent this. Open the program in a window of its own.", http.StatusForbidden)
	}))
	return cross.Handler(heads(e)), nil
}

// heads answers HEAD as GET; the server leaves the body out.
func heads(h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodHead {
			r = r.WithContext(r.Context()) // a copy
			r.Method = http.MethodGet
		}
		h.ServeHTTP(w, r)
	})
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
		switch v := recover(); v {
		case nil:
		case http.ErrAbortHandler: // half of an answer went out: the connection ends there
			panic(v)
		default:
			s.fail(c, fmt.Errorf("panic: %v\n%s", v, debug.Stack()))
		}
	}()
	c.Next()
}

func (s *server) headers(c *gin.Context) {
	protect(c.Writer.Header())
	c.Next()
}

// protect puts the headers that every answer has.
func protect(h http.Header) {
	h.Set("Content-Security-Policy", policy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cache-Control", "no-store")
}

// hosts answers only to the names of this machine and those that were named: a
// page of another site that takes its own name to this address reads nothing.
func hosts(named []string) gin.HandlerFunc {
	answers := Hosts(named)
	return func(c *gin.Context) {
		if !answers(c.Request) {
			c.Abort()
			c.String(http.StatusMisdirectedRequest, notThisName)
			return
		}
		c.Next()
	}
}

const notThisName = "This program does not answer to that name. Start it with -host and the name, if it is yours."

// Hosts reports of a request whether it calls one of this machine's own names or of those named.
func Hosts(named []string) func(*http.Request) bool {
	known := map[string]bool{"localhost": true, "127.0.0.1": true, "::1": true}
	for _, n := range named {
		known[strings.ToLower(n)] = true
	}
	return func(r *http.Request) bool {
		host := r.Host
		if h, _, err := net.SplitHostPort(host); err == nil {
			host = h
		}
		return known[strings.ToLower(strings.Trim(host, "[]"))]
	}
}

// Only is a handler that answers to this machine's own names and those named, and to no page of
// another site.
func Only(named []string, h http.Handler) http.Handler {
	answers := Hosts(named)
	return http.NewCrossOriginProtection().Handler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !answers(r) {
			http.Error(w, notThisName, http.StatusMisdirectedRequest)
			return
		}
		h.ServeHTTP(w, r)
	}))
}

func limitBody(c *gin.Context) {
	limit := int64(answer.BodyLimit)
	at := strings.TrimPrefix(c.Request.URL.Path, api.Root)
	if strings.HasPrefix(at, "/shelf/import") || at == "/photos" || strings.HasPrefix(at, "/runs/") && strings.HasSuffix(at, "/photo") {
		limit = importLimit
	}
	if at == "/copies/in" {
		limit = copyLimit
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, limit)
	c.Next()
}
