package device

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"strings"
	"sync"
)

// ServeStandIn answers as a colour reader on a listener until the context
// ends: what was PUT under it (a mid grey at first), with noise like that of a
// small instrument, about 0.003 of reflectance.
func ServeStandIn(ctx context.Context, l net.Listener, seed uint64) error {
	s := standIn{rng: rand.New(rand.NewPCG(seed, 36))}
	for i := range s.under {
		s.under[i] = 0.2
	}
	closed := make(chan struct{})
	stop := context.AfterFunc(ctx, func() {
		defer close(closed)
		l.Close() // waits until nobody can connect any more
	})
	defer stop()
	for {
		c, err := l.Accept()
		if ctx.Err() != nil {
			if err == nil {
				c.Close()
			}
			<-closed
			return nil
		}
		if err != nil {
			return err
		}
		go s.talk(ctx, c)
	}
}

type standIn struct {
	mu    sync.Mutex
	rng   *rand.Rand
	under [Bands]float64
}

func (s *standIn) talk(ctx context.Context, c net.Conn) {
	defer c.Close()
	stop := context.AfterFunc(ctx, func() { c.Close() })
	defer stop()
	lines := bufio.NewScanner(c)
	lines.Buffer(make([]byte, 0, longest), longest)
	for lines.Scan() {
		if _, err := io.WriteString(c, s.answer(strings.TrimSpace(lines.Text()))+"\n"); err != nil {
			return
		}
	}
}

func (s *standIn) answer(request string) string {
	s.mu.Lock()
	defer s.mu.Unlock()
	verb, rest, _ := strings.Cut(request, " ")
	switch verb {
	case "ID":
		return "ID " + StandIn + " 380 730 10"
	case "PUT":
		v, err := parse(rest)
		if err != nil {
			return "ERR " + err.Error()
		}
		s.under = v
		return "OK"
	case "READ":
		v := s.under
		for i := range v {
			v[i] = min(max(v[i]*(1+0.004*s.rng.NormFloat64())+0.0015*s.rng.NormFloat64(), 0), 1)
		}
		return "R " + format(&v)
	}
	return fmt.Sprintf("ERR %.20q is no request", verb)
}
