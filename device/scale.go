package device

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"time"

	"go.bug.st/serial"
)

// ScaleHeard is what a watched scale says, or why it says nothing.
type ScaleHeard struct {
	ScaleLine
	Stable  bool // marked so, or the same for a while
	Problem string
}

// Scale is a bench scale that sends lines, at a serial port or over TCP.
type Scale struct {
	address string
	mu      sync.Mutex
	conn    io.Writer // nil while there is none
}

// Moments of watching a scale.
const (
	heardEvery  = 50 * time.Millisecond // at most; of more, the latest
	silence     = 3 * time.Second
	settles     = time.Second // the same for so long is stable, where it says nothing of that
	againAtMost = 2 * time.Second
)

var serialPath = regexp.MustCompile(`^(/dev/(tty|serial/|cu\.)[\w./:-]*|COM\d{1,3})(@\d{3,6})?$`)

// longestAddress is how many bytes the address of a scale has at most.
const longestAddress = 200

// NewScale checks the address of a scale: HOST:PORT, or a serial port such as
// /dev/ttyUSB0 or COM3, with its speed where that is not 9600: /dev/ttyUSB0@4800.
func NewScale(address string) (*Scale, error) {
	address = strings.TrimPrefix(strings.TrimSpace(address), "tcp://")
	if len(address) > longestAddress {
		return nil, fmt.Errorf("an address has at most %d signs", longestAddress)
	}
	if serialPath.MatchString(address) {
		if strings.Contains(address, "..") {
			return nil, errors.New("a serial port is named without two dots")
		}
		return &Scale{address: address}, nil
	}
	if host, port, err := net.SplitHostPort(address); err != nil || host == "" || port == "" {
		return nil, errors.New("a scale stands at HOST:PORT, or at a serial port such as /dev/ttyUSB0 or COM3")
	}
	return &Scale{address: address}, nil
}

// open connects to the scale.
func (s *Scale) open(ctx context.Context) (io.ReadWriteCloser, error) {
	if serialPath.MatchString(s.address) {
		path, speed, _ := strings.Cut(s.address, "@")
		mode := serial.Mode{BaudRate: 9600}
		if speed != "" {
			mode.BaudRate, _ = strconv.Atoi(speed)
		}
		p, err := serial.Open(path, &mode)
		if err != nil {
			return nil, fmt.Errorf("no scale at %s", path)
		}
		return p, nil
	}
	d := net.Dialer{Control: near, Timeout: patience}
	c, err := d.DialContext(ctx, "tcp", s.address)
	if errors.Is(err, errFar) {
		return nil, errors.New("a scale stands on this machine or in its own network; this address lies beyond it")
	}
	if err != nil {
		return nil, fmt.Errorf("no scale answers at %s", s.address)
	}
	return c, nil
}

// Watch tells hear what the scale says, some twenty times a second at most, and why it
// says nothing. It connects again by itself, until the context ends.
func (s *Scale) Watch(ctx context.Context, hear func(ScaleHeard)) {
	wait := 100 * time.Millisecond
	for ctx.Err() == nil {
		c, err := s.open(ctx)
		if err == nil {
			s.hold(c)
			stop := context.AfterFunc(ctx, func() { c.Close() })
			if s.listen(ctx, c, hear) { // one that hangs up unheard is not called more often
				wait = 100 * time.Millisecond
			}
			stop()
			s.hold(nil)
			c.Close()
			err = errors.New("the scale went away; it is looked for again")
		}
		if ctx.Err() != nil {
			return
		}
		hear(ScaleHeard{Problem: err.Error()})
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
		wait = min(2*wait, againAtMost)
	}
}

func (s *Scale) hold(c io.Writer) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.conn = c
}

// listen hears one connection out, and reports whether it said anything.
func (s *Scale) listen(ctx context.Context, c io.Reader, hear func(ScaleHeard)) (said bool) {
	latest := make(chan string, 1)
	go func() {
		defer close(latest)
		lines := scaleLines{r: bufio.NewReader(c)}
		for {
			line, err := lines.next()
			if err != nil {
				return
			}
			select { // the latest takes the place of one that nobody heard yet
			case <-latest:
			default:
			}
			latest <- line // there is room: nobody else sends
		}
	}()
	var steady steady
	for {
		select {
		case line, ok := <-latest:
			if !ok {
				return said
			}
			said = true
			hear(steady.heard(line, time.Now()))
			select {
			case <-ctx.Done():
			case <-time.After(heardEvery):
			}
		case <-time.After(silence):
			hear(ScaleHeard{Problem: "the scale is connected and says nothing; is it switched on, and does it send by itself?"})
		case <-ctx.Done():
		}
		if ctx.Err() != nil {
			return said
		}
	}
}

// steady finds out what stays the same.
type steady struct {
	grams float64
	since time.Time
}

func (s *steady) heard(line string, now time.Time) ScaleHeard {
	l, err := ParseScaleLine(line)
	if err != nil {
		return ScaleHeard{Problem: err.Error()}
	}
	if l.Grams != s.grams || s.since.IsZero() {
		s.grams, s.since = l.Grams, now
	}
	return ScaleHeard{ScaleLine: l, Stable: !l.Over && (l.Mark == Stable || l.Mark == Unmarked && now.Sub(s.since) >= settles)}
}

// Tare and Zero ask the scale to count what lies there as nothing, and to find its zero.
func (s *Scale) Tare() error { return s.send("T\r\n") }

// Zero is Tare for an empty pan.
func (s *Scale) Zero() error { return s.send("Z\r\n") }

func (s *Scale) send(command string) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.conn == nil {
		return errors.New("no scale is connected")
	}
	if d, ok := s.conn.(interface{ SetWriteDeadline(time.Time) error }); ok {
		if err := d.SetWriteDeadline(time.Now().Add(patience)); err != nil {
			return err
		}
	}
	if _, err := io.WriteString(s.conn, command); err != nil {
		return errors.New("the scale did not take the command")
	}
	return nil
}
