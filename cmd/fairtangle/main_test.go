package main

import (
	"bytes"
	"context"
	"net/http"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/device"
)

func TestWrongCommandLines(t *testing.T) {
	for _, args := range [][]string{{"fly"}, {"stop", "-data", t.TempDir()}, {"start", "-nope"}, {"serve", "-nope"}, {"serve", "-addr", "nowhere", "-data", t.TempDir()}, {"serve", "-addr", "0.0.0.0:0",
		"-data", t.TempDir()}} {
		var out bytes.Buffer
		err := run(context.Background(), args, &out, &bytes.Buffer{})
		assert.Error(t, err, args)
		assert.Empty(t, out.String(), "nothing listens")
	}
	dir, err := dataDir("", true)
	require.NoError(t, err)
	own, err := dataDir("", false)
	require.NoError(t, err)
	assert.NotEqual(t, dir, own, "the sample world lives apart")
	asked, err := dataDir(filepath.Join("a", "b"), true)
	require.NoError(t, err)
	assert.Equal(t, filepath.Join("a", "b"), asked)
}

// firstLine passes on the first line written to it.
type firstLine chan string

func (f firstLine) Write(p []byte) (int, error) {
	f <- string(p)
	return len(p), nil
}

// It says where it listens once it does, answers, and ends when told to.
func TestServesAndStops(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	line, ended := make(firstLine, 1), make(chan error, 1)
	go func() {
		ended <- run(ctx, []string{"demo", "-addr", "127.0.0.1:0", "-data", t.TempDir()}, line, &bytes.Buffer{})
	}()
	var url string
	select {
	case said := <-line:
		url = strings.TrimSpace(strings.TrimPrefix(said, "listening on "))
	case err := <-ended:
		t.Fatal(err)
	}
	res, err := http.Get(url + "/makings")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	assert.Equal(t, 200, res.StatusCode)
	stop()
	select {
	case err := <-ended:
		assert.NoError(t, err)
	case <-time.After(10 * time.Second):
		t.Fatal("does not stop")
	}
}

// The simulated colour reader says where it listens, reads, and ends.
func TestReaderRunsAlone(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	line, ended := make(firstLine, 1), make(chan error, 1)
	go func() { ended <- run(ctx, []string{"reader", "-addr", "127.0.0.1:0"}, line, &bytes.Buffer{}) }()
	said := <-line
	address := strings.TrimSpace(said[strings.LastIndex(said, " "):])
	r, err := device.ReadColour(ctx, address, nil)
	require.NoError(t, err)
	assert.Equal(t, device.StandIn, r.Reader)
	stop()
	select {
	case err := <-ended:
		assert.NoError(t, err)
	case <-time.After(10 * time.Second):
		t.Fatal("does not stop")
	}
	assert.Error(t, run(context.Background(), []string{"reader", "-addr", "nowhere"}, &bytes.Buffer{}, &bytes.Buffer{}))
}

// Started where the port is taken it answers at the next one; started again it only shows what runs; stopped by its secret alone.
func TestStartsNearByAndIsStopped(t *testing.T) {
	l, err := listen("127.0.0.1:0", "")
	require.NoError(t, err)
	defer l.Close()
	t.Setenv("PATH", t.TempDir()) // no browser here
	dir := t.TempDir()
	line, ended := make(firstLine, 4), make(chan error, 1)
	go func() {
		ended <- run(t.Context(), []string{"start", "-addr", l.Addr().String(), "-data", dir}, line, &bytes.Buffer{})
	}()
	url := strings.TrimSpace(strings.TrimPrefix(<-line, "listening on "))
	assert.NotContains(t, url, l.Addr().String())
	var out bytes.Buffer
	require.NoError(t, run(t.Context(), []string{"start", "-data", dir}, &out, &bytes.Buffer{}))
	assert.Contains(t, out.String(), "it runs already at "+url)
	for _, secret := range []string{"", "made up"} {
		r, err := http.NewRequest("POST", url+stopPath, nil)
		require.NoError(t, err)
		r.Header.Set("X-Stop", secret)
		res, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		assert.Equal(t, 404, res.StatusCode)
	}
	out.Reset()
	require.NoError(t, run(t.Context(), []string{"stop", "-data", dir}, &out, &bytes.Buffer{}))
	assert.Contains(t, out.String(), "it has ended")
	require.NoError(t, <-ended)
	assert.ErrorContains(t, run(t.Context(), []string{"stop", "-data", dir}, &out, &bytes.Buffer{}), "nothing runs in")
	out.Reset()
	require.NoError(t, run(t.Context(), []string{"version"}, &out, &bytes.Buffer{}))
	assert.Regexp(t, `^Fair Tangle .+ \w+/\w+\n$`, out.String())
}
