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
	kills := 6
	if n, err := strconv.Atoi(os.Getenv("KILLS")); err == nil {
		kills = n
	}
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
	rng := rand.New(rand.NewPCG(12, 7))
	for range kills {
		gone := make(chan error, 1)
		go func(cmd *exec.Cmd) {
			time.Sleep(time.Duration(rng.IntN(250_000)) * time.Microsecond)
			_ = cmd.Process.Signal(syscall.SIGKILL)
			gone <- cmd.Wait()
		}(cmd)
		if s.goOn(t, url) { // all weighed before the kill
			<-gone
			cmd, url = launch(t, bin, "serve", dir)
			s.id = create()
			ids = append(ids, s.id)
			continue
		}
		<-gone
		cmd, url = launch(t, bin, "serve", dir)
	}
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

	db, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	drift, err := db.Drift(context.Background())
	require.NoError(t, err)
	assert.Empty(t, drift)
	require.NoError(t, db.Close())
	raw, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	defer raw.Close()
	var said string
	require.NoError(t, raw.QueryRow("PRAGMA integrity_check").Scan(&said))
	assert.Equal(t, "ok", said)
	var doubled int
	require.NoError(t, raw.QueryRow("SELECT count(*) - count(DISTINCT movement_id) FROM weighings WHERE movement_id IS NOT NULL").Scan(&doubled))
	assert.Zero(t, doubled)
}
