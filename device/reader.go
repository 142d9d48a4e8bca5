// Package device talks to what stands beside the computer: a colour reader that
// speaks a line protocol over TCP, and the simulated stand-in for it that ships
// with the program.
//
// The protocol is plain text, one line a request and one line an answer:
//
//	ID                 -> ID <name> 380 730 10
//	READ               -> R <36 reflectances 0..1, 380 to 730 nm by 10>
//	PUT <36 numbers>   -> OK        (the stand-in only: what lies under it)
//	anything wrong     -> ERR <sentence>
package device

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"net"
	"net/netip"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Bands is how many numbers a reading has.
const Bands = 36

// Reading is what a reader saw: the mean of several takes and the largest
// standard deviation of a band between them.
type Reading struct {
	Reader      string
	Simulated   bool
	Reflectance [Bands]float64
	Takes       int
	Noise       float64
}

const (
	takes    = 5
	patience = 4 * time.Second
	longest  = 2048 // bytes of a line
	unsteady = 0.02 // noise above which the sample must have moved
)

// StandIn is the name by which the simulated reader is known.
const StandIn = "stand-in"

// ReadColour asks the reader at an address for five takes of what lies under
// it. under is laid under the simulated stand-in first; a real reader is not
// told about it. Errors are sentences for the maker.
func ReadColour(ctx context.Context, address string, under *[Bands]float64) (Reading, error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	d := net.Dialer{Control: near}
	c, err := d.DialContext(ctx, "tcp", address)
	if errors.Is(err, errFar) {
		return Reading{}, errFar
	}
	if err != nil {
		return Reading{}, fmt.Errorf("no colour reader answers at %s", address)
	}
	defer c.Close()
	if at, ok := ctx.Deadline(); ok {
		if err := c.SetDeadline(at); err != nil {
			return Reading{}, err
		}
	}
	l := line{c, bufio.NewReader(io.LimitReader(c, 64*longest))}
	name, err := l.ask("ID", "ID ")
	if err != nil {
		return Reading{}, err
	}
	fields := strings.Fields(name)
	if len(fields) != 4 || strings.Join(fields[1:], " ") != "380 730 10" {
		return Reading{}, fmt.Errorf("the reader does not measure 380 to 730 nm by 10")
	}
	r := Reading{Reader: fields[0], Simulated: fields[0] == StandIn}
	if r.Simulated && under != nil {
		if _, err := l.ask("PUT "+format(under), "OK"); err != nil {
			return Reading{}, err
		}
	}
	return r, l.measure(&r)
}

var errFar = errors.New("a colour reader stands on this machine or in its own network; this address lies beyond it, and nothing was sent there")

// near refuses to call anything beyond the machine and its own network, so that an
// address that was put into the workshop by someone else tells them nothing.
func near(_, address string, _ syscall.RawConn) error {
	at, err := netip.ParseAddrPort(address)
	if err != nil {
		return err
	}
	if ip := at.Addr().Unmap(); ip.IsLoopback() || ip.IsPrivate() || ip.IsLinkLocalUnicast() {
		return nil
	}
	return errFar
}

func (l line) measure(r *Reading) error {
	var sum, squares [Bands]float64
	for range takes {
		answer, err := l.ask("READ", "R ")
		if err != nil {
			return err
		}
		v, err := parse(answer)
		if err != nil {
			return err
		}
		for i := range v {
			sum[i] += v[i]
			squares[i] += v[i] * v[i]
		}
	}
	r.Takes = takes
	for i := range sum {
		mean := sum[i] / takes
		r.Reflectance[i] = min(max(mean, 0), 1)
		r.Noise = max(r.Noise, math.Sqrt(max(0, squares[i]/takes-mean*mean)))
	}
	if r.Noise > unsteady {
		return fmt.Errorf("the takes differ by more than %.0f %%; hold the reader still and read again", 100*unsteady)
	}
	return nil
}

// line is the connection to a reader.
type line struct {
	w io.Writer
	r *bufio.Reader
}

// ask sends a line and gives the answer without its prefix.
func (l line) ask(request, prefix string) (string, error) {
	if _, err := io.WriteString(l.w, request+"\n"); err != nil {
		return "", fmt.Errorf("the colour reader went away")
	}
	answer, err := l.r.ReadSlice('\n')
	if err != nil {
		return "", fmt.Errorf("the colour reader does not answer")
	}
	text := strings.TrimSpace(string(answer))
	if len(text) > longest {
		return "", fmt.Errorf("the colour reader sends something that is no reading")
	}
	if said, wrong := strings.CutPrefix(text, "ERR "); wrong {
		return "", fmt.Errorf("the colour reader says: %.200s", strings.ToValidUTF8(said, "?"))
	}
	rest, ok := strings.CutPrefix(text, prefix)
	if !ok {
		return "", fmt.Errorf("the colour reader sends something that is no reading")
	}
	return rest, nil
}

func parse(s string) (v [Bands]float64, err error) {
	fields := strings.Fields(s)
	if len(fields) != Bands {
		return v, fmt.Errorf("a reading has %d numbers, this one has %d", Bands, len(fields))
	}
	for i, f := range fields {
		if v[i], err = strconv.ParseFloat(f, 64); err != nil || !(v[i] > -0.1 && v[i] < 1.2) {
			return v, fmt.Errorf("number %d of the reading is no reflectance", i+1)
		}
	}
	return v, nil
}

func format(v *[Bands]float64) string {
	out := make([]string, Bands)
	for i := range v {
		out[i] = strconv.FormatFloat(v[i], 'f', 5, 64)
	}
	return strings.Join(out, " ")
}
