package web

import (
	"crypto/subtle"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// guard asks for the passphrase, and slows down who guesses at it.
type guard struct {
	want    string
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

func newGuard(want string, proxies []string, log *slog.Logger) *guard {
	g := &guard{want: want, proxies: map[string]bool{}, log: log, from: map[string]*rate.Limiter{}}
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

// ask lets pass who knows the passphrase, whatever others have sent from the same address: behind
// a proxy all come from one. Who sends too many wrong ones has to wait.
func (g *guard) ask(c *gin.Context) {
	_, got, said := c.Request.BasicAuth()
	if subtle.ConstantTimeCompare([]byte(got), []byte(g.want)) == 1 {
		c.Next()
		return
	}
	at := g.source(c.Request)
	if g.tooMany(at) {
		c.Header("Retry-After", "3")
		c.AbortWithStatus(http.StatusTooManyRequests)
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
