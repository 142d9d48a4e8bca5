package device

import (
	"bufio"
	"context"
	"net"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestReaderSeesWhatLiesUnderIt(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	done := make(chan error)
	go func() { done <- ServeStandIn(ctx, l, 1) }()
	var under [Bands]float64
	for i := range under {
		under[i] = 0.05 + 0.9*float64(i)/Bands
	}
	r, err := ReadColour(t.Context(), l.Addr().String(), &under)
	require.NoError(t, err)
	assert.True(t, r.Simulated)
	assert.Positive(t, r.Noise, "an instrument has noise")
	for i := range under {
		assert.InDelta(t, under[i], r.Reflectance[i], 0.01)
	}
	again, err := ReadColour(t.Context(), l.Addr().String(), nil)
	require.NoError(t, err)
	assert.NotEqual(t, r.Reflectance, again.Reflectance)
	assert.InDelta(t, under[20], again.Reflectance[20], 0.01, "it still lies there")
	cancel()
	require.NoError(t, <-done)
	_, err = ReadColour(t.Context(), l.Addr().String(), nil)
	assert.ErrorContains(t, err, "no colour reader answers")
}

// talker answers every line it gets with the next of its answers.
func talker(t *testing.T, answers ...string) string {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { l.Close() })
	go func() {
		c, err := l.Accept()
		if err != nil {
			return
		}
		defer c.Close()
		lines := bufio.NewScanner(c)
		for _, a := range answers {
			if !lines.Scan() {
				return
			}
			_, _ = c.Write([]byte(a))
		}
	}()
	return l.Addr().String()
}

func TestReadersThatMisbehave(t *testing.T) {
	id := "ID bench 380 730 10\n"
	same := "R " + strings.Repeat("0.5 ", 36) + "\n"
	for name, c := range map[string]struct {
		answers []string
		want    string
	}{
		"goes away":      {[]string{}, "does not answer"},
		"speaks other":   {[]string{"HTTP/1.1 400 Bad Request\r\n"}, "no reading"},
		"other bands":    {[]string{"ID bench 400 700 10\n"}, "380 to 730"},
		"too few":        {[]string{id, "R 0.5 0.5\n"}, "has 2"},
		"no number":      {[]string{id, "R " + strings.Repeat("NaN ", 36) + "\n"}, "number 1 of the reading"},
		"endless line":   {[]string{strings.Repeat("x", 1<<20)}, "does not answer"},
		"says something": {[]string{id, "ERR lamp is cold\n"}, "lamp is cold"},
		"moved":          {[]string{id, same, same, same, same, "R " + strings.Repeat("0.9 ", 36) + "\n"}, "hold the reader still"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := ReadColour(t.Context(), talker(t, c.answers...), nil)
			assert.ErrorContains(t, err, c.want)
		})
	}
}

// Whatever a line holds, it is a reading of 36 reflectances or an error.
func FuzzParse(f *testing.F) {
	f.Add(strings.Repeat("0.5 ", 36))
	f.Add("R NaN Inf 1e400 -1")
	f.Fuzz(func(t *testing.T, line string) {
		v, err := parse(line)
		if err != nil {
			return
		}
		for _, r := range v {
			if !(r > -0.1 && r < 1.2) {
				t.Fatalf("%v is no reflectance", r)
			}
		}
	})
}

// The stand-in answers any request with one line and goes on.
func TestTheStandInRefusesWhatItDoesNotKnow(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	go func() { _ = ServeStandIn(ctx, l, 1) }()
	c, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	defer c.Close()
	r := bufio.NewReader(c)
	for request, want := range map[string]string{
		"ID": "ID stand-in 380 730 10", "FLY": `ERR "FLY" is no request`, "PUT 0.5": "ERR a reading has 36 numbers, this one has 1",
		"PUT " + strings.Repeat("0.5 ", 36): "OK", "": `ERR "" is no request`,
	} {
		_, err := c.Write([]byte(request + "\n"))
		require.NoError(t, err)
		answer, err := r.ReadString('\n')
		require.NoError(t, err)
		assert.Equal(t, want, strings.TrimSpace(answer), request)
	}
}

// Nothing is called beyond the machine's own network, open port or not.
func TestTheReaderIsNear(t *testing.T) {
	for _, address := range []string{"192.0.2.1:80", "198.51.100.7:22", "[2001:db8::1]:80"} {
		_, err := ReadColour(t.Context(), address, nil)
		require.ErrorIs(t, err, errFar, address)
	}
	_, err := ReadColour(t.Context(), "127.0.0.1:1", nil)
	require.ErrorContains(t, err, "no colour reader answers")
}
