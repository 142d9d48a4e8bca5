package main

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/demo"
	"fairtangle/store"
	"fairtangle/store/copies"
	"fairtangle/studio"
	"fairtangle/studio/recipe"
)

// pressed sends a form as a page does; "" where nobody answered.
func pressed(at, path string, fields ...string) string {
	q := url.Values{}
	for i := 0; i+1 < len(fields); i += 2 {
		q.Set(fields[i], fields[i+1])
	}
	to := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	res, err := to.PostForm(strings.TrimSuffix(at, "/api/v1")+path, q)
	if err != nil {
		return ""
	}
	defer res.Body.Close()
	return res.Header.Get("Location")
}

// makingsIn are the makings of a data directory by name.
func makingsIn(t *testing.T, dir string) map[string]bool {
	db := sound(t, dir)
	defer db.Close()
	rows, err := db.Query("SELECT name FROM makings")
	require.NoError(t, err)
	defer rows.Close()
	out := map[string]bool{}
	for rows.Next() {
		var name string
		require.NoError(t, rows.Scan(&name))
		out[name] = true
	}
	return out
}

// A copy is begun with while four work on: who asks meanwhile waits, nobody is told of an error, and each making that was acknowledged is
// either in the data before or in the data after.
func TestItBeginsAgainWhileItIsWorkedIn(t *testing.T) {
	bin, dir := program(t), filepath.Join(t.TempDir(), "data")
	cmd, at := launch(t, bin, "serve", dir)
	_, _, err := call("POST", at+"/makings", map[string]any{"name": "in the copy"})
	require.NoError(t, err)
	require.NotEmpty(t, pressed(at, "/copies"))
	list, err := copies.List(copies.Beside(dir))
	require.NoError(t, err)
	require.Len(t, list, 1)

	var stop atomic.Bool
	var mu sync.Mutex
	acknowledged := []string{}
	var all sync.WaitGroup
	for n := range 4 {
		all.Go(func() {
			for i := 0; !stop.Load(); i++ {
				name := fmt.Sprintf("%d of %d", i, n)
				code, _, err := call("POST", at+"/makings", map[string]any{"name": name})
				if assert.NoError(t, err) && assert.Equal(t, 201, code) {
					mu.Lock()
					acknowledged = append(acknowledged, name)
					mu.Unlock()
				}
			}
		})
	}
	time.Sleep(200 * time.Millisecond)
	require.Contains(t, pressed(at, "/copies/begin", "copy", list[0].Name), "did=begun")
	res, err := http.Get(at + "/makings")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	said, err := exec.Command(bin, "serve", "-addr", "127.0.0.1:0", "-data", dir).CombinedOutput()
	assert.Error(t, err)
	assert.Contains(t, string(said), "another Fair Tangle works in", "what took its place is locked as well")
	time.Sleep(200 * time.Millisecond)
	stop.Store(true)
	all.Wait()
	require.NoError(t, cmd.Process.Kill())
	_ = cmd.Wait()
	aside, err := filepath.Glob(dir + "-before-*")
	require.NoError(t, err)
	require.Len(t, aside, 1)
	before, after := makingsIn(t, aside[0]), makingsIn(t, dir)
	assert.True(t, after["in the copy"])
	both := 0
	for _, name := range acknowledged {
		assert.True(t, before[name] || after[name], name)
		if before[name] && after[name] {
			both++
		}
	}
	assert.Zero(t, both, "none is in both")
	assert.NotEmpty(t, acknowledged)
}

// Killed while it begins again, the data is that of before or of the copy, whole, and locked by who works in it next.
func TestKilledWhileItBeginsAgain(t *testing.T) {
	bin, dir := program(t), filepath.Join(t.TempDir(), "data")
	cmd, at := launch(t, bin, "serve", dir)
	_, _, err := call("POST", at+"/makings", map[string]any{"name": "in the copy"})
	require.NoError(t, err)
	require.NotEmpty(t, pressed(at, "/copies"))
	list, err := copies.List(copies.Beside(dir))
	require.NoError(t, err)
	swapped := 0
	for i := range max(6, killsOf()/4) {
		name := fmt.Sprintf("later %d", i)
		code, _, err := call("POST", at+"/makings", map[string]any{"name": name})
		require.NoError(t, err)
		require.Equal(t, 201, code)
		go pressed(at, "/copies/begin", "copy", list[0].Name)
		time.Sleep(time.Duration(rand.IntN(120)) * time.Millisecond)
		require.NoError(t, cmd.Process.Kill())
		_ = cmd.Wait()
		report, err := copies.Check(t.Context(), dir)
		require.NoError(t, err)
		require.Empty(t, report.Wrong)
		names := makingsIn(t, dir)
		require.True(t, names["in the copy"])
		if !names[name] {
			swapped++
			require.Len(t, names, 1, "it is the copy")
		}
		cmd, at = launch(t, bin, "serve", dir)
	}
	t.Logf("%d of them were after", swapped)
	require.NoError(t, cmd.Process.Kill())
	_ = cmd.Wait()
}

// Killed while it takes over from another bench, the data is whole, and has all that was chosen or nothing of it.
func TestKilledWhileItTakesOver(t *testing.T) {
	bin, dir, other := program(t), filepath.Join(t.TempDir(), "data"), filepath.Join(t.TempDir(), "other")
	s, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	st, err := studio.New(t.Context(), s)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(t.Context(), st))
	require.NoError(t, s.Close())
	made, err := copies.Make(t.Context(), dir, copies.Beside(dir), time.Now())
	require.NoError(t, err)
	_, err = copies.Restore(t.Context(), made.Path, other, time.Now())
	require.NoError(t, err)
	s, err = store.Open(other, time.Now)
	require.NoError(t, err)
	defer s.Close()
	st, err = studio.New(t.Context(), s)
	require.NoError(t, err)
	taken := 0
	for i := range max(6, killsOf()/4) {
		name := fmt.Sprintf("there %d", i)
		making, err := st.Recipe.CreateMaking(t.Context(), recipe.MakingInput{Name: name})
		require.NoError(t, err)
		one := int64(1)
		_, err = st.Recipe.CreateBlend(t.Context(), making.ID, recipe.BlendInput{Name: name, TotalG: 9, Passes: 1,
			Components: []recipe.BlendComponent{{LotID: &one, Parts: 1}}})
		require.NoError(t, err)
		c, err := copies.Make(t.Context(), other, copies.Beside(dir), time.Now().Add(time.Duration(i+1)*time.Minute))
		require.NoError(t, err)
		cmd, at := launch(t, bin, "serve", dir)
		go pressed(at, "/copies/"+url.PathEscape(c.Name)+"/newer", fmt.Sprintf("makings-%d", making.ID), "theirs", fmt.Sprintf("blends-%d", i+13), "theirs")
		time.Sleep(time.Duration(rand.IntN(400)) * time.Millisecond)
		require.NoError(t, cmd.Process.Kill())
		_ = cmd.Wait()
		report, err := copies.Check(t.Context(), dir)
		require.NoError(t, err)
		require.Empty(t, report.Wrong)
		db := sound(t, dir)
		var makings, blends int
		require.NoError(t, db.QueryRow("SELECT count(*) FROM makings WHERE name = ?", name).Scan(&makings))
		require.NoError(t, db.QueryRow("SELECT count(*) FROM blends WHERE name = ?", name).Scan(&blends))
		require.NoError(t, db.Close())
		require.Equal(t, makings, blends)
		taken += makings
	}
	t.Logf("%d of them were taken over", taken)
}
