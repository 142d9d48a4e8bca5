package device

import (
	"context"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// watched is what a scale said, for a test to wait on.
type watched struct {
	mu   sync.Mutex
	list []ScaleHeard
}

func (w *watched) hear(h ScaleHeard) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.list = append(w.list, h)
}

// until waits for something to be heard, and forgets what was heard before it.
func (w *watched) until(t *testing.T, what string, is func(ScaleHeard) bool) ScaleHeard {
	t.Helper()
	var found ScaleHeard
	require.Eventually(t, func() bool {
		w.mu.Lock()
		defer w.mu.Unlock()
		for i, h := range w.list {
			if is(h) {
				found, w.list = h, w.list[i+1:]
				return true
			}
		}
		w.list = nil
		return false
	}, 20*time.Second, 10*time.Millisecond, what)
	return found
}

// watchingPan starts a pan and a watcher of it.
func watchingPan(t *testing.T, p *Pan) (*Scale, *watched) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan error, 1)
	go func() { ended <- p.Serve(ctx, l) }()
	s, err := NewScale(l.Addr().String())
	require.NoError(t, err)
	w := &watched{}
	gone := make(chan bool)
	go func() { s.Watch(ctx, w.hear); close(gone) }()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-ended)
		<-gone
	})
	return s, w
}

func weighs(grams float64) func(ScaleHeard) bool {
	return func(h ScaleHeard) bool {
		return h.Problem == "" && h.Stable && !h.Over && h.Grams > grams-0.15 && h.Grams < grams+0.15
	}
}

// TestAPanIsWatched: it settles, is tared, unplugged in mid-reading and plugged in again,
// and overloaded.
func TestAPanIsWatched(t *testing.T) {
	p := NewPan(0.1, 200, 1, time.Now)
	s, w := watchingPan(t, p)
	w.until(t, "an empty pan", weighs(0))
	p.Put(12.5)
	w.until(t, "it swings", func(h ScaleHeard) bool { return h.Problem == "" && !h.Stable })
	w.until(t, "12.5 g", weighs(12.5))
	require.NoError(t, s.Tare())
	w.until(t, "tared", weighs(0))
	p.Unplug(true)
	w.until(t, "unplugged", func(h ScaleHeard) bool { return strings.Contains(h.Problem, "went away") })
	assert.Error(t, s.Zero())
	p.Put(3)
	p.Unplug(false)
	w.until(t, "plugged in again", weighs(3))
	p.Put(500)
	w.until(t, "too much", func(h ScaleHeard) bool { return h.Over && !h.Stable })
	p.Clear()
	w.until(t, "cleared", weighs(-12.5))
}

// TestOuncesAreGrams: a pan that writes ounces weighs the same.
func TestOuncesAreGrams(t *testing.T) {
	p := NewPan(0.1, 200, 2, time.Now)
	p.Ounces = true
	p.Put(56.7)
	_, w := watchingPan(t, p)
	assert.Equal(t, "OZ", w.until(t, "2 oz", weighs(56.7)).Unit)
}

// speaking is a scale that says what it is told to.
func speaking(t *testing.T, say func(net.Conn)) *watched {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { l.Close() })
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			go func() { defer c.Close(); say(c) }()
		}
	}()
	s, err := NewScale("tcp://" + l.Addr().String())
	require.NoError(t, err)
	w := &watched{}
	ctx, stop := context.WithCancel(t.Context())
	gone := make(chan bool)
	go func() { s.Watch(ctx, w.hear); close(gone) }()
	t.Cleanup(func() { stop(); <-gone })
	return w
}

// TestAFloodIsHeardCalmly: 20,000 lines at once, a line of 10 MB among them, take no room
// and are told twenty times a second at most; the last one counts.
func TestAFloodIsHeardCalmly(t *testing.T) {
	began := time.Now()
	w := speaking(t, func(c net.Conn) {
		for range 20_000 {
			if _, err := io.WriteString(c, "US,GS,+ 1.0 g\r\n"); err != nil {
				return
			}
		}
		_, _ = io.WriteString(c, strings.Repeat("7", 10<<20)+"\r")
		for range 1000 {
			if _, err := io.WriteString(c, "ST,GS,+ 2.0 g\r"); err != nil {
				return
			}
			time.Sleep(time.Millisecond)
		}
	})
	w.until(t, "the last", weighs(2))
	w.mu.Lock()
	n := len(w.list)
	w.mu.Unlock()
	assert.LessOrEqual(t, n, int(time.Since(began)/heardEvery)+2)
	var m runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&m)
	assert.Less(t, m.HeapAlloc, uint64(64<<20))
}

// TestWhatIsNoWeightIsSaid: nonsense, silence, and a value that stays the same without
// being called stable.
func TestWhatIsNoWeightIsSaid(t *testing.T) {
	w := speaking(t, func(c net.Conn) {
		_, _ = io.WriteString(c, "hello\r\n")
		time.Sleep(100 * time.Millisecond)
		for range 40 {
			_, _ = io.WriteString(c, "5.0\n")
			time.Sleep(50 * time.Millisecond)
		}
		time.Sleep(2 * silence)
	})
	w.until(t, "nonsense", func(h ScaleHeard) bool { return strings.Contains(h.Problem, "neither grams") })
	w.until(t, "not at once", func(h ScaleHeard) bool { return h.Grams == 5 && !h.Stable })
	w.until(t, "the same for a while", weighs(5))
	w.until(t, "silence", func(h ScaleHeard) bool { return strings.Contains(h.Problem, "says nothing") })
}

func TestAddressesOfScales(t *testing.T) {
	for _, a := range []string{"127.0.0.1:7040", "tcp://scale.local:23", "/dev/ttyUSB0", "/dev/ttyACM1@4800", "COM3", "/dev/serial/by-id/usb-1a86"} {
		_, err := NewScale(a)
		assert.NoError(t, err, a)
	}
	for _, a := range []string{"", "nowhere", "/etc/passwd", "/dev/../etc/passwd", "/dev/tty/../../etc/passwd", "/dev/sda", ":80", "host:", "COM3@x"} {
		_, err := NewScale(a)
		assert.Error(t, err, a)
	}
	far, err := NewScale("192.0.2.1:80")
	require.NoError(t, err)
	_, err = far.open(t.Context())
	assert.ErrorContains(t, err, "beyond it")
	none, err := NewScale("/dev/ttyNONE9")
	require.NoError(t, err)
	_, err = none.open(t.Context())
	assert.ErrorContains(t, err, "no scale at /dev/ttyNONE9")
}

// TestThePanIsWorkedByItsPage puts fibre on and takes it off as its page does; another
// page of the browser can not.
func TestThePanIsWorkedByItsPage(t *testing.T) {
	p := NewPan(0.01, 100, 3, time.Now)
	page := httptest.NewServer(p.Page())
	defer page.Close()
	post := func(path string, ours bool) int {
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, page.URL+path, nil)
		require.NoError(t, err)
		if ours {
			req.Header.Set("X-Pan", "1")
		}
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		return res.StatusCode
	}
	assert.Equal(t, 200, post("/put?grams=7.5", true))
	assert.Equal(t, 200, post("/put?grams=-0.5", true))
	assert.InDelta(t, 7, p.On(), 1e-9)
	for _, path := range []string{"/put?grams=x", "/put?grams=NaN", "/put?grams=1e9"} {
		assert.Equal(t, 400, post(path, true), path)
	}
	assert.Equal(t, 400, post("/put?grams=5", false))
	assert.Equal(t, 200, post("/unplug?out=yes", true))
	assert.True(t, p.Unplugged())
	assert.Equal(t, 200, post("/clear", true))
	assert.Zero(t, p.On())
	res, err := http.Get(page.URL + "/")
	require.NoError(t, err)
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	assert.Contains(t, string(body), "The simulated scale")
}

// TestAPanIsStableOnceItRests: the heavier, the longer it swings; what it calls stable is
// what lies there, to the step.
func TestAPanIsStableOnceItRests(t *testing.T) {
	now := time.Unix(0, 0)
	p := NewPan(0.1, 3000, 4, func() time.Time { return now })
	var last time.Duration
	for _, grams := range []float64{1, 30, 900} {
		p.Clear()
		now = now.Add(time.Minute)
		p.Put(grams)
		began := now
		for {
			now = now.Add(10 * time.Millisecond)
			l, err := ParseScaleLine(p.Line())
			require.NoError(t, err)
			if l.Mark == Stable {
				assert.InDelta(t, grams, l.Grams, 0.1001)
				break
			}
		}
		assert.GreaterOrEqual(t, now.Sub(began), last)
		last = now.Sub(began)
	}
	assert.Greater(t, last, 2*time.Second)
}

// What takes a call and hangs up unheard is called less and less often, not for ever at once.
// A pan that says that it rests shows one weight: that of what lies there, whole steps of it.
func TestARestingPanShowsOneWeight(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		now := time.Unix(1_800_000_000, 0)
		p := NewPan(0.1, 3000, rapid.Uint64().Draw(t, "seed"), func() time.Time { return now })
		var on int
		for range rapid.IntRange(1, 6).Draw(t, "puts") {
			by := rapid.IntRange(0, 300).Draw(t, "tenths")
			on += by
			p.Put(float64(by) / 10)
			for range rapid.IntRange(1, 80).Draw(t, "lines") {
				now = now.Add(time.Duration(rapid.IntRange(20, 900).Draw(t, "ms")) * time.Millisecond)
				h, err := ParseScaleLine(p.Line())
				require.NoError(t, err)
				if h.Mark == Stable {
					require.InDelta(t, float64(on)/10, h.Grams, 1e-9)
				}
			}
		}
	})
}

func TestWhatHangsUpUnheardIsNotCalledAtOnce(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	calls := make(chan time.Time, 100)
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			c.Close()
			calls <- time.Now()
		}
	}()
	s, err := NewScale(l.Addr().String())
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	go s.Watch(ctx, func(ScaleHeard) {})
	var at []time.Time
	for range 4 {
		at = append(at, <-calls)
	}
	assert.Greater(t, at[3].Sub(at[2]), at[1].Sub(at[0]), "each time it waits longer")
	_, err = NewScale(strings.Repeat("a", 300) + ":80")
	require.Error(t, err)
}
