package main

import (
	"context"
	"database/sql"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/store"
)

// session is a weighing session that a script goes through, whatever happens to the
// program.
type session struct {
	id           any
	n            int // weighings that were sent; the last one may be open
	open         map[string]any
	acknowledged atomic.Int64
}

// goOn weighs on until the program is gone. What was not answered is sent again as it was.
func (s *session) goOn(t *testing.T, url string) (ended bool) {
	for {
		code, w, err := call("GET", fmt.Sprintf("%s/weighouts/%v", url, s.id), nil)
		if err != nil {
			return false
		}
		require.Equal(t, 200, code)
		for {
			if s.open == nil {
				at, ok := w["next"].(map[string]any)
				if !ok {
					return true
				}
				unit := w["units"].([]any)[int(at["unit"].(float64))].(map[string]any)
				cell := unit["cells"].([]any)[int(at["component"].(float64))].(map[string]any)
				s.n++
				s.open = map[string]any{"key": fmt.Sprintf("session-%d", s.n), "unit": at["unit"], "component": at["component"], "grams": cell["target_g"]}
			}
			s.open["version"] = w["version"]
			code, got, err := call("POST", fmt.Sprintf("%s/weighouts/%v/weighings", url, s.id), s.open)
			if err != nil {
				return false
			}
			if code == 409 { // it is further than was known
				break
			}
			require.Equal(t, 201, code, "%v", got)
			s.open, w = nil, got
			s.acknowledged.Add(1)
		}
	}
}

// TestKilledAgainAndAgain kills the program at random moments of one weighing session
// (six times; as often as KILLS says) and starts it again: nothing that was acknowledged is
// lost, nothing that was sent again is doubled, and the shelf is the sum of its ledger.
func TestKilledAgainAndAgain(t *testing.T) {
	kills := killsOf()
	bin, dir := program(t), t.TempDir()
	cmd, url := launch(t, bin, "demo", dir)
	create := func() any {
		code, w, err := call("POST", url+"/blends/3/weighouts", map[string]any{"units": 60, "finished_g": 0.05, "passes": 1, "step_g": 0.001})
		require.NoError(t, err)
		require.Equal(t, 201, code)
		return w["id"]
	}
	s := &session{id: create()}
	ids := []any{s.id}
	cmd, url = killed(t, kills, bin, dir, cmd, url, func(at string) {
		url = at
		if s.goOn(t, at) { // all weighed before the kill
			s.id = create()
			ids = append(ids, s.id)
		}
	})
	var kept int64
	for _, id := range ids {
		_, got, err := call("GET", fmt.Sprintf("%s/weighouts/%v", url, id), nil)
		require.NoError(t, err)
		kept += int64(got["done_cells"].(float64))
	}
	t.Logf("%d kills, %d weighings acknowledged, %d kept", kills, s.acknowledged.Load(), kept)
	assert.Positive(t, s.acknowledged.Load())
	assert.GreaterOrEqual(t, kept, s.acknowledged.Load())
	assert.LessOrEqual(t, kept, s.acknowledged.Load()+1, "the last one may be on disk unanswered")
	require.NoError(t, cmd.Process.Signal(os.Interrupt))
	require.NoError(t, cmd.Wait())
	raw := sound(t, dir)
	var doubled int
	require.NoError(t, raw.QueryRow("SELECT count(*) - count(DISTINCT movement_id) FROM weighings WHERE movement_id IS NOT NULL").Scan(&doubled))
	assert.Zero(t, doubled)
}

// sound opens the file of a directory: the shelf is the sum of its ledger, and the file whole.
func sound(t *testing.T, dir string) *sql.DB {
	db, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	drift, err := db.Drift(context.Background())
	require.NoError(t, err)
	assert.Empty(t, drift)
	require.NoError(t, db.Close())
	raw, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	t.Cleanup(func() { raw.Close() })
	var said string
	require.NoError(t, raw.QueryRow("PRAGMA integrity_check").Scan(&said))
	assert.Equal(t, "ok", said)
	return raw
}

// killed kills the program at random moments of what goOn does, and starts it again; goOn
// ends when the program is gone.
func killed(t *testing.T, kills int, bin, dir string, cmd *exec.Cmd, url string, goOn func(url string)) (*exec.Cmd, string) {
	rng := rand.New(rand.NewPCG(12, 7))
	for range kills {
		gone := make(chan error, 1)
		go func(cmd *exec.Cmd) {
			time.Sleep(time.Duration(rng.IntN(250_000)) * time.Microsecond)
			_ = cmd.Process.Signal(syscall.SIGKILL)
			gone <- cmd.Wait()
		}(cmd)
		goOn(url)
		<-gone
		cmd, url = launch(t, bin, "serve", dir)
	}
	return cmd, url
}

// killsOf is how often a program is killed in a test: six times, or as KILLS says.
func killsOf() int {
	if n, err := strconv.Atoi(os.Getenv("KILLS")); err == nil {
		return n
	}
	return 6
}

// bench is a scripted run at the carder.
type bench struct {
	path         string
	n            int // that were sent; the last one may be open
	open         bool
	acknowledged int
}

// next is the n-th thing that is told: what came off of the passes of four batts, what fell
// out, the clock, checks, and a bit onto the shelf now and then.
func (b *bench) next() (path string, body map[string]any) {
	body = map[string]any{"key": fmt.Sprintf("bench-entry-%d", b.n), "unit": b.n / 8 % 4, "pass": b.n/4%2 + 1}
	switch b.n % 8 {
	case 7:
		return b.path + "/shelf", map[string]any{"key": body["key"], "unit": 0, "form": "roving", "grams": 0.001}
	case 0, 4:
		body["what"], body["grams"] = "off", 50+float64(b.n%70)/10
	case 1:
		body["what"], body["grams"] = "droppings", float64(b.n%9)/10
	case 2:
		body["what"], body["number"] = "step", b.n%6
	case 3:
		body["what"], body["text"] = "tick", "drum"
	case 5:
		body["what"], body["text"], body["grams"] = "residue", "kept", 0.2
	case 6:
		body["what"], body["text"] = "look", "marled"
	}
	return b.path + "/entries", body
}

func (b *bench) goOn(t *testing.T) {
	for {
		if !b.open {
			b.n++
			b.open = true
		}
		path, body := b.next()
		code, got, err := call("POST", path, body)
		if err != nil {
			return
		}
		require.Equal(t, 201, code, "%v", got)
		b.open = false
		b.acknowledged++
	}
}

// TestARunIsKilledAgainAndAgain does the same with a run at the carder: nothing that was
// acknowledged is lost, nothing is told twice, and what went onto the shelf lies there once.
func TestARunIsKilledAgainAndAgain(t *testing.T) {
	bin, dir := program(t), t.TempDir()
	cmd, url := launch(t, bin, "demo", dir)
	weigh := &session{id: 1}
	require.True(t, weigh.goOn(t, url))
	code, run, err := call("POST", url+"/weighouts/1/runs", map[string]any{})
	require.NoError(t, err)
	require.Equal(t, 201, code)
	for _, pass := range []int{1, 2} {
		code, _, err := call("POST", fmt.Sprintf("%s/runs/%v/entries", url, run["id"]), map[string]any{"key": fmt.Sprintf("first-of-%d", pass),
			"pass": pass, "what": "off", "grams": 55})
		require.NoError(t, err)
		require.Equal(t, 201, code)
	}
	b := &bench{}
	kills := killsOf()
	cmd, url = killed(t, kills, bin, dir, cmd, url, func(at string) {
		b.path = fmt.Sprintf("%s/runs/%v", at, run["id"])
		b.goOn(t)
	})
	_, got, err := call("GET", fmt.Sprintf("%s/runs/%v", url, run["id"]), nil)
	require.NoError(t, err)
	kept := len(got["entries"].([]any)) - 2
	t.Logf("%d kills, %d entries acknowledged, %d kept", kills, b.acknowledged, kept)
	assert.Positive(t, b.acknowledged)
	assert.GreaterOrEqual(t, kept, b.acknowledged)
	assert.LessOrEqual(t, kept, b.acknowledged+1, "the last one may be on disk unanswered")
	require.NoError(t, cmd.Process.Signal(os.Interrupt))
	require.NoError(t, cmd.Wait())
	raw := sound(t, dir)
	var shelved, lots int
	require.NoError(t, raw.QueryRow("SELECT count(*), count(DISTINCT number) FROM run_entries WHERE run_id = ? AND what = 'shelved'",
		run["id"]).Scan(&shelved, &lots))
	assert.Equal(t, shelved, lots, "each went onto the shelf as a lot of its own, once")
	var made int
	require.NoError(t, raw.QueryRow("SELECT count(*) FROM lots WHERE made LIKE ?", fmt.Sprintf(`%%"run_id":%v,%%`, run["id"])).Scan(&made))
	assert.Equal(t, lots, made)
}
