package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/demo"
	"fairtangle/store"
)

// builtIn is where the real binary lies, made once for all tests that start it; TestMain takes it away.
var builtIn string

var built = sync.OnceValues(func() (bin string, err error) {
	if builtIn, err = os.MkdirTemp("", "fairtangle-built-"); err != nil {
		return "", err
	}
	bin = filepath.Join(builtIn, "fairtangle")
	cmd := exec.Command("go", "build", "-o", bin, ".")
	cmd.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := cmd.CombinedOutput(); err != nil {
		return bin, fmt.Errorf("%w: %s", err, out)
	}
	return bin, nil
})

func TestMain(m *testing.M) {
	code := m.Run()
	if builtIn != "" {
		_ = os.RemoveAll(builtIn)
	}
	os.Exit(code)
}

func program(t *testing.T) string {
	bin, err := built()
	require.NoError(t, err)
	return bin
}

func launch(t *testing.T, bin, verb, dir string) (*exec.Cmd, string) {
	cmd := exec.Command(bin, verb, "-addr", "127.0.0.1:0", "-data", dir)
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	url, ok := strings.CutPrefix(strings.TrimSpace(line), "listening on ")
	require.True(t, ok, line)
	return cmd, url + "/api/v1"
}

func call(method, url string, body any) (int, map[string]any, error) {
	data, err := json.Marshal(body)
	if err != nil {
		return 0, nil, err
	}
	req, err := http.NewRequest(method, url, bytes.NewReader(data))
	if err != nil {
		return 0, nil, err
	}
	req.Header.Set("Content-Type", "application/json")
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, nil, err
	}
	defer res.Body.Close()
	var got map[string]any
	err = json.NewDecoder(res.Body).Decode(&got)
	return res.StatusCode, got, err
}

// Killed in the middle of a series of weighings, the program has every one
// that it acknowledged, and a ledger that adds up.
func TestKilledInTheMiddleOfWeighing(t *testing.T) {
	bin, dir := program(t), t.TempDir()
	cmd, url := launch(t, bin, "demo", dir)
	code, w, err := call("POST", url+"/blends/3/weighouts", map[string]any{"units": 60, "finished_g": 2, "passes": 1, "step_g": 0.001})
	require.NoError(t, err)
	require.Equal(t, 201, code)
	id := w["id"]
	var acknowledged atomic.Int64
	done := make(chan struct{})
	go func() {
		defer close(done)
		for i := 0; ; i++ {
			at, ok := w["next"].(map[string]any)
			if !ok {
				return
			}
			unit := w["units"].([]any)[int(at["unit"].(float64))].(map[string]any)
			cell := unit["cells"].([]any)[int(at["component"].(float64))].(map[string]any)
			code, got, err := call("POST", fmt.Sprintf("%s/weighouts/%v/weighings", url, id), map[string]any{
				"key": fmt.Sprintf("series-%d", i), "version": w["version"], "unit": at["unit"], "component": at["component"], "grams": cell["target_g"],
			})
			if err != nil || code != 201 {
				return
			}
			w = got
			acknowledged.Add(1)
		}
	}()
	for acknowledged.Load() < 25 {
		select {
		case <-done:
			t.Fatal("the series ended before the kill")
		case <-time.After(time.Millisecond):
		}
	}
	require.NoError(t, cmd.Process.Signal(syscall.SIGKILL))
	_ = cmd.Wait()
	<-done

	cmd, url = launch(t, bin, "serve", dir)
	_, got, err := call("GET", fmt.Sprintf("%s/weighouts/%v", url, id), nil)
	require.NoError(t, err)
	kept := int64(got["done_cells"].(float64))
	// One more may be on disk whose answer did not get through.
	assert.GreaterOrEqual(t, kept, acknowledged.Load())
	assert.LessOrEqual(t, kept, acknowledged.Load()+1)
	require.NoError(t, cmd.Process.Signal(os.Interrupt))
	require.NoError(t, cmd.Wait(), "stops cleanly")

	db, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	defer db.Close()
	drift, err := db.Drift(context.Background())
	require.NoError(t, err)
	assert.Empty(t, drift)
}

func TestListensBeyondThisMachineOnlyWithAPassphrase(t *testing.T) {
	for _, addr := range []string{"0.0.0.0:0", ":0", "192.0.2.1:0", "[::]:0"} {
		for _, pass := range []string{"short", "äöüäöü", "aaaaaaaaaaaaaaaaaaaa", "abcabcabcabcabc"} { // six signs are twelve bytes
			_, err := listen(addr, pass)
			assert.ErrorContains(t, err, "passphrase", addr)
		}
	}
	l, err := listen("127.0.0.1:0", "")
	require.NoError(t, err)
	require.NoError(t, l.Close())
}

func TestTheSampleWorldNeverTakesTheMakersData(t *testing.T) {
	dir := t.TempDir()
	db, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	assert.ErrorContains(t, demo.Clear(dir), "left as it is")
	assert.FileExists(t, filepath.Join(dir, store.FileName))
}

// A second program changes nothing, whatever it is asked to do; what was served as
// the maker's own is never made anew; a kill leaves no lock behind.
func TestASecondProgramTouchesNothing(t *testing.T) {
	bin, dir := program(t), t.TempDir()
	first, url := launch(t, bin, "demo", dir)
	_, got, err := call("POST", url+"/makings", map[string]any{"name": "mine"})
	require.NoError(t, err)
	id := got["id"]
	require.NotNil(t, id)
	for _, verb := range []string{"demo", "serve"} {
		said, err := exec.Command(bin, verb, "-addr", "127.0.0.1:0", "-data", dir).CombinedOutput()
		assert.Error(t, err)
		assert.Contains(t, string(said), "another Fair Tangle works in")
	}
	_, got, err = call("GET", fmt.Sprintf("%s/makings/%v", url, id), nil)
	require.NoError(t, err)
	assert.Equal(t, "mine", got["name"])
	require.NoError(t, first.Process.Signal(syscall.SIGKILL))
	_ = first.Wait()

	second, url := launch(t, bin, "serve", dir)
	_, got, err = call("GET", fmt.Sprintf("%s/makings/%v", url, id), nil)
	require.NoError(t, err)
	assert.Equal(t, "mine", got["name"])
	require.NoError(t, second.Process.Signal(os.Interrupt))
	require.NoError(t, second.Wait())
	said, err := exec.Command(bin, "demo", "-addr", "127.0.0.1:0", "-data", dir).CombinedOutput()
	assert.Error(t, err)
	assert.Contains(t, string(said), "left as it is")
}

// A port that is taken is found out before the sample world is made anew.
func TestATakenPortLeavesTheSampleWorldAlone(t *testing.T) {
	l, err := listen("127.0.0.1:0", "")
	require.NoError(t, err)
	defer l.Close()
	dir := t.TempDir()
	require.NoError(t, demo.Clear(dir))
	kept := filepath.Join(dir, store.FileName)
	require.NoError(t, os.WriteFile(kept, []byte("as it was"), 0o600))
	assert.Error(t, run(t.Context(), []string{"demo", "-addr", l.Addr().String(), "-data", dir}, io.Discard, io.Discard))
	got, err := os.ReadFile(kept)
	require.NoError(t, err)
	assert.Equal(t, "as it was", string(got))
}
