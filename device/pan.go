package device

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"strings"
	"sync"
	"time"

	"fairtangle/core/unit"
)

// Pan is the simulated scale that ships with the program: what is put on it makes it
// swing and settle like a real pan, it drifts a little, shows whole steps, and can be
// unplugged. It speaks lines over TCP.
type Pan struct {
	Step     float64 // grams
	Capacity float64
	Ounces   bool

	mu        sync.Mutex
	rng       *rand.Rand
	now       func() time.Time
	on        float64 // grams that really lie there
	was       float64 // what it showed when that changed last
	since     time.Time
	tare      float64
	drift     float64
	drifted   time.Time
	unplugged bool
	conns     map[net.Conn]bool
}

// How a pan moves: it swings while it settles, and wanders by a part of a step.
const (
	panSettles  = 350 * time.Millisecond // to a third of the way
	panSwings   = 170 * time.Millisecond
	panStable   = 600 * time.Millisecond // at least, and until what is left is no step
	panDrift    = 0.12                   // steps, in the root of a second
	panDrifts   = 0.4                    // steps at most
	panRests    = 0.09                   // steps that are left of a swing where it rests: with the drift less than half a step, so that it shows one weight
	panEvery    = 100 * time.Millisecond
	panOverMost = 1.02 // of the capacity
)

// NewPan makes an empty pan.
func NewPan(step, capacity float64, seed uint64, now func() time.Time) *Pan {
	return &Pan{Step: step, Capacity: capacity, rng: rand.New(rand.NewPCG(seed, 7)), now: now, since: now().Add(-time.Hour), drifted: now(),
		conns: map[net.Conn]bool{}}
}

// Put lays so many grams on the pan; below 0 they are taken off, no more than are there.
func (p *Pan) Put(grams float64) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.was, _ = p.shows()
	p.on, p.since = max(0, p.on+grams), p.now()
}

// Clear takes everything off.
func (p *Pan) Clear() { p.Put(-p.On()) }

// On is what really lies there.
func (p *Pan) On() float64 {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.on
}

// Tare counts what lies there as nothing.
func (p *Pan) Tare() {
	p.mu.Lock()
	defer p.mu.Unlock()
	v, _ := p.shows()
	p.tare = p.round(v)
}

// Unplug cuts it off, or plugs it in again.
func (p *Pan) Unplug(out bool) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.unplugged = out
	for c := range p.conns {
		if out {
			c.Close()
		}
	}
}

// Unplugged reports whether it is cut off.
func (p *Pan) Unplugged() bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.unplugged
}

// shows is what it would show without rounding, and whether it has settled.
func (p *Pan) shows() (grams float64, stable bool) {
	t := p.now().Sub(p.since)
	for p.drifted.Add(time.Second).Before(p.now()) && t > 5*panStable {
		p.drifted = p.drifted.Add(time.Second)
		if behind := p.now().Add(-10 * time.Second); p.drifted.Before(behind) {
			p.drifted = behind
		}
		p.drift = max(-panDrifts*p.Step, min(panDrifts*p.Step, p.drift+panDrift*p.Step*p.rng.NormFloat64()))
	}
	far := math.Exp(-float64(t) / float64(panSettles))
	v := p.on + (p.was-p.on)*far*math.Cos(2*math.Pi*float64(t)/float64(3*panSwings))
	return v + p.drift, t >= panStable && far*math.Abs(p.was-p.on) < panRests*p.Step
}

func (p *Pan) round(v float64) float64 { return math.Round(v/p.Step) * p.Step }

// Line is what it sends now.
func (p *Pan) Line() string {
	p.mu.Lock()
	defer p.mu.Unlock()
	v, stable := p.shows()
	if v > panOverMost*p.Capacity {
		return "OL"
	}
	mark := "US"
	if stable {
		mark = "ST"
	}
	v = p.round(v) - p.tare
	digits := max(0, int(math.Ceil(-math.Log10(p.Step)-1e-9)))
	name := "g"
	if p.Ounces {
		v, name, digits = v/unit.GramsPerOunce, "oz", digits+2
	}
	sign := "+"
	if v < 0 {
		sign = "-"
	}
	return fmt.Sprintf("%s,GS,%s%9.*f %s", mark, sign, digits, math.Abs(v), name)
}

// Serve speaks on a listener until the context ends.
func (p *Pan) Serve(ctx context.Context, l net.Listener) error {
	stop := context.AfterFunc(ctx, func() { l.Close() })
	defer stop()
	for {
		c, err := l.Accept()
		if ctx.Err() != nil {
			if err == nil {
				c.Close()
			}
			return nil
		}
		if err != nil {
			return err
		}
		go p.talk(ctx, c)
	}
}

func (p *Pan) talk(ctx context.Context, c net.Conn) {
	defer c.Close()
	stop := context.AfterFunc(ctx, func() { c.Close() })
	defer stop()
	p.mu.Lock()
	cut := p.unplugged
	p.conns[c] = true
	p.mu.Unlock()
	defer func() {
		p.mu.Lock()
		delete(p.conns, c)
		p.mu.Unlock()
	}()
	if cut {
		return
	}
	go p.obey(c)
	for ctx.Err() == nil {
		if _, err := io.WriteString(c, p.Line()+"\r\n"); err != nil {
			return
		}
		time.Sleep(panEvery)
	}
}

// obey takes the commands of one connection: T tares, Z finds the zero.
func (p *Pan) obey(c net.Conn) {
	lines := bufio.NewScanner(c)
	lines.Buffer(make([]byte, 0, 64), 64)
	for lines.Scan() {
		switch strings.ToUpper(strings.TrimSpace(lines.Text())) {
		case "T", "Z", "TARE", "ZERO":
			p.Tare()
		}
	}
}
