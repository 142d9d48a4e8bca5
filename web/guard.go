package web

import (
	"crypto/subtle"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// guard asks for the passphrase, and slows down who guesses at it.
type guard struct {
	want string
	log  *slog.Logger
	mu   sync.Mutex
	from map[string]*rate.Limiter // wrong ones, by address
}

// How many wrong passphrases in a row an address may send, how soon it may send
// one more, and how many addresses are remembered.
const (
	wrongInARow = 10
	oneMoreIn   = 3 * time.Second
	remembered  = 4096
)

func newGuard(want string, log *slog.Logger) *guard {
	return &guard{want: want, log: log, from: map[string]*rate.Limiter{}}
}

// ask lets pass who knows the passphrase. From an address that sent too many wrong
// ones nothing is looked at for a while, so that a right one can not be told.
func (g *guard) ask(c *gin.Context) {
	at := source(c.Request.RemoteAddr)
	if g.tooMany(at) {
		c.Header("Retry-After", "3")
		c.AbortWithStatus(http.StatusTooManyRequests)
		return
	}
	_, got, said := c.Request.BasicAuth()
	if subtle.ConstantTimeCompare([]byte(got), []byte(g.want)) == 1 {
		c.Next()
		return
	}
	if said {
		g.wrong(at)
		g.log.Warn("wrong passphrase", "address", at)
	}
	c.Header("WWW-Authenticate", `Basic realm="Fair Tangle", charset="UTF-8"`)
	c.AbortWithStatus(http.StatusUnauthorized)
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
