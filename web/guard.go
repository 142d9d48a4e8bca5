package web

import (
	"context"
	"crypto/subtle"
	"errors"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"sync"
	"time"

	"fairtangle/studio/floor"
	"fairtangle/studio/practising"
	"fairtangle/web/pages"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// guard asks for the passphrase, and slows down who guesses at it.
type guard struct {
	want    string
	door    door
	class   class
	proxies map[string]bool // whose word for an address is taken
	log     *slog.Logger
	mu      sync.Mutex
	from    map[string]*rate.Limiter // wrong ones, by address
}

// How many wrong passphrases in a row an address may send, how soon it may send
// one more, and how many addresses are remembered.
const (
	wrongInARow = 10
	oneMoreIn   = 3 * time.Second
	remembered  = 4096
)

// class are the rounds of classes, whose pupils come in without the passphrase.
type class interface {
	ByCode(ctx context.Context, code string) (practising.Round, error)
	AnyOpen(ctx context.Context) (bool, error)
}

func newGuard(want string, d door, rounds class, proxies []string, log *slog.Logger) *guard {
	g := &guard{want: want, door: d, class: rounds, proxies: map[string]bool{}, log: log, from: map[string]*rate.Limiter{}}
	for _, p := range proxies {
		g.proxies[source(p)] = true
	}
	return g
}

// source is who sends a request: its address, or, where that is a proxy that was named, the last
// one that the proxy says it passed on for.
func (g *guard) source(r *http.Request) string {
	at := source(r.RemoteAddr)
	said := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
	for i := len(said) - 1; i >= 0 && g.proxies[at] && strings.TrimSpace(said[i]) != ""; i-- {
		at = source(strings.TrimSpace(said[i]))
	}
	return at
}

// ask lets pass who knows the passphrase, has signed in with it, or sends a token that was not withdrawn, whatever others have sent from
// the same address: behind a proxy all come from one. Who sends too many wrong ones has to wait. A browser is shown the page to sign in,
// the same one wherever it asked.
func (g *guard) ask(c *gin.Context) {
	if c.Request.URL.Path == signIn && c.Request.Method == http.MethodPost {
		g.enter(c)
		return
	}
	_, got, said := c.Request.BasicAuth()
	token, bears := strings.CutPrefix(c.GetHeader("Authorization"), "Bearer ")
	if bears {
		got, said = token, true
	}
	at := g.source(c.Request)
	in, err := g.knows(c, got, said)
	if err == nil && !in && !said {
		in, err = g.guest(c.Request, at)
	}
	switch {
	case err != nil:
		_ = c.Error(err)
		c.AbortWithStatus(http.StatusInternalServerError)
	case in:
		c.Next()
	case g.tooMany(at):
		g.turnAway(c, http.StatusTooManyRequests)
	default:
		if said {
			g.wrong(at)
			g.log.Warn("wrong passphrase", "address", at)
		}
		g.turnAway(c, http.StatusUnauthorized)
	}
}

// guest reports whether who asks may as a pupil: for the pages of a class whose code it knows, and for what they are drawn with, as
// long as a round is open. Wrong codes count as wrong passphrases do; the page says that it is none.
func (g *guard) guest(r *http.Request, at string) (bool, error) {
	code, is := pages.ForGuests(r.URL.Path)
	if !is && !strings.HasPrefix(r.URL.Path, "/static/") {
		return false, nil
	}
	switch open, err := g.class.AnyOpen(r.Context()); {
	case err != nil || !open:
		return false, err
	case !is || code == "":
		return true, nil
	}
	_, err := g.class.ByCode(r.Context(), code)
	if !errors.Is(err, floor.ErrNotFound) {
		return err == nil, err
	}
	if g.tooMany(at) {
		return false, nil
	}
	g.wrong(at)
	return true, nil
}

// knows reports whether who asks may: by what was said, else by having signed in.
func (g *guard) knows(c *gin.Context, got string, said bool) (bool, error) {
	if said && g.right(got) {
		return true, nil
	}
	if said {
		return g.door.doors.Admits(c.Request.Context(), got)
	}
	return g.door.in(c.Request)
}

func (g *guard) right(got string) bool {
	return subtle.ConstantTimeCompare([]byte(got), []byte(g.want)) == 1
}

// enter signs in who sends the passphrase by the page.
func (g *guard) enter(c *gin.Context) {
	at := g.source(c.Request)
	if !g.right(c.PostForm("passphrase")) {
		if g.tooMany(at) {
			g.turnAway(c, http.StatusTooManyRequests)
			return
		}
		g.wrong(at)
		g.log.Warn("wrong passphrase", "address", at)
		g.turnAway(c, http.StatusUnauthorized)
		return
	}
	if err := g.door.open(c.Writer, c.Request); err != nil {
		_ = c.Error(err)
		c.AbortWithStatus(http.StatusInternalServerError)
		return
	}
	c.Abort()
	c.Redirect(http.StatusSeeOther, pages.OwnPath(c.PostForm("to")))
}

// turnAway answers who may not: a browser with the page to sign in, a program with what is wanted of it.
func (g *guard) turnAway(c *gin.Context, status int) {
	if status == http.StatusTooManyRequests {
		c.Header("Retry-After", "3")
	}
	if strings.Contains(c.GetHeader("Accept"), "text/html") {
		g.door.show(c, status)
		return
	}
	if status == http.StatusUnauthorized {
		c.Header("WWW-Authenticate", `Basic realm="Fair Tangle", charset="UTF-8"`)
	}
	c.AbortWithStatus(status)
}

func (g *guard) tooMany(at string) bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	l := g.from[at]
	return l != nil && l.Tokens() < 1
}

func (g *guard) wrong(at string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	l := g.from[at]
	if l == nil {
		if len(g.from) >= remembered {
			clear(g.from)
		}
		l = rate.NewLimiter(rate.Every(oneMoreIn), wrongInARow)
		g.from[at] = l
	}
	l.Allow()
}

// source is who sends, as far as an address tells: of the newer sort a network of
// 64 bits belongs to one.
func source(remote string) string {
	host, _, err := net.SplitHostPort(remote)
	if err != nil {
		host = remote
	}
	ip, err := netip.ParseAddr(host)
	if err != nil {
		return host
	}
	if ip = ip.Unmap().WithZone(""); ip.Is4() {
		return ip.String()
	}
	p, _ := ip.Prefix(64)
	return p.String()
}
