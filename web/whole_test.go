package web

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"fmt"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"modernc.org/sqlite"

	"fairtangle/core/advice"
	"fairtangle/store"
	"fairtangle/studio/advising"
	"fairtangle/web/api"
)

// written is called before each row that is written in a directory whose name has watchedDir in it: those of this test alone.
var written atomic.Pointer[func()]

const watchedDir = "deed-"

func init() {
	sqlite.RegisterConnectionHook(func(conn sqlite.ExecQuerierContext, file string) error {
		if c, ok := conn.(sqlite.HookRegisterer); ok && strings.Contains(file, watchedDir) {
			c.RegisterPreUpdateHook(func(sqlite.SQLitePreUpdateData) {
				if f := written.Load(); f != nil {
					(*f)()
				}
			})
		}
		return nil
	})
}

// deed is a request that keeps something.
type deedCase struct {
	method, path, kind, body string
}

// deedsOf are the forms of all pages as they stand, filled in so that they are kept where that is
// possible, and calls that keep several things at once.
func deedsOf(t *testing.T, c client, db *sql.DB) (out []deedCase) {
	ask := func(path string) *httptest.ResponseRecorder {
		w := httptest.NewRecorder()
		c.h.ServeHTTP(w, httptest.NewRequest("GET", path, nil))
		return w
	}
	seen := map[string]bool{}
	number := regexp.MustCompile(`\d+`)
	for _, p := range siteMap(t, db) {
		if heavy.MatchString(p) || strings.HasPrefix(p, "/api") {
			continue
		}
		for _, f := range formsOf(ask(p).Body, p) {
			var names []string
			v := url.Values{}
			for _, x := range f.fields {
				names = append(names, x.name)
				switch {
				case x.fixed || x.value != "" && !x.maybe:
					v.Add(x.name, x.value)
				case x.maybe && v.Get(x.name) == "":
					v.Add(x.name, x.value)
				case !x.maybe:
					v.Add(x.name, sensible(x.name)[0])
				}
			}
			sort := number.ReplaceAllString(f.action, "N") + strings.Join(names, " ")
			if !strings.EqualFold(f.method, "post") || seen[sort] {
				continue
			}
			seen[sort] = true
			out = append(out, deedCase{"POST", f.action, "application/x-www-form-urlencoded", v.Encode()})
		}
	}
	for _, c := range []deedCase{
		{"POST", "/buylists", "", `{"making_ids":[1]}`},
		{"POST", "/buylists/1/came", "", `{"version":1,"item":1,"grams":50,"dye_lot":"7","price":4}`},
		{"POST", "/makings/1/skeins", "", `{"name":"two lots spun up","length_m":100,"weight_g":50,"lots":[1,2,3]}`},
		{"POST", "/needs/1/give", "", ``},
		{"POST", "/makings/1/weighlist", "", `{}`},
		{"POST", "/makings/1/copy", "", ``},
		{"POST", "/weighouts/1/order", "", `{"version":%v,"by_fibre":true}`},
		{"POST", "/lots/1/movements", "", `{"reason":"take-out","grams":2}`},
		{"DELETE", "/blends/1", "", ``},
		{"POST", "/runs/1/entries", "", `{"key":"a-key-of-its-own","pass":1,"what":"note","text":"soft"}`},
		{"POST", "/layups/1/changes", "", `{"version":1,"verb":"units","times":3}`},
		{"POST", "/weighouts/1/undo", "", `{"version":%v}`},
	} {
		if strings.Contains(c.body, "%v") {
			var version int64
			require.NoError(t, db.QueryRow("SELECT version FROM weighouts WHERE id = 1").Scan(&version))
			c.body = fmt.Sprintf(c.body, version)
		}
		out = append(out, deedCase{c.method, api.Root + c.path, "application/json", c.body})
	}
	return append(out, mendsOf(t, c, db)...)
}

// mendsOf are the mends of the second look that can be taken, each rule once.
func mendsOf(t *testing.T, c client, db *sql.DB) (out []deedCase) {
	rows, err := db.Query("SELECT id FROM blends WHERE deleted_at IS NULL ORDER BY id")
	require.NoError(t, err)
	defer rows.Close()
	seen := map[string]bool{}
	for rows.Next() {
		var id int64
		require.NoError(t, rows.Scan(&id))
		looks, err := c.s.Advising.LookFrom(t.Context(), advising.LookWhere{Place: advice.AtBlend, Blend: id})
		require.NoError(t, err)
		for _, f := range looks[0].Findings {
			if f.Mend == nil || looks[0].Mends(f.Mend) == "" || seen[f.Rule] {
				continue
			}
			seen[f.Rule] = true
			body := fmt.Sprintf(`{"at":"blend","blend":%d,"rule":%q,"component":%d,"layer":%d}`, id, f.Rule, f.Component, f.Layer)
			out = append(out, deedCase{"POST", "/second/mend", "application/json", body})
		}
	}
	return out
}

// ownKey is a name that the program draws for a stop, a lay or a layer.
var ownKey = regexp.MustCompile(`"key":\d+,?`)

// stateOf is all that is kept, but for the moments at which it was and the keys drawn for it.
func stateOf(t *testing.T, db *sql.DB) string {
	var out strings.Builder
	tables, err := db.Query("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' ORDER BY name")
	require.NoError(t, err)
	var names []string
	for tables.Next() {
		var n string
		require.NoError(t, tables.Scan(&n))
		names = append(names, n)
	}
	require.NoError(t, tables.Close())
	for _, table := range names {
		rows, err := db.Query("SELECT * FROM " + table + " ORDER BY 1")
		require.NoError(t, err)
		columns, err := rows.Columns()
		require.NoError(t, err)
		values, into := make([]any, len(columns)), make([]any, len(columns))
		for i := range values {
			into[i] = &values[i]
		}
		for rows.Next() {
			require.NoError(t, rows.Scan(into...))
			for i, v := range values {
				if _, moment := v.(time.Time); !moment && columns[i] != "hash" && columns[i] != "at" && !strings.HasSuffix(columns[i], "_at") {
					fmt.Fprintf(&out, "%s|", ownKey.ReplaceAllString(fmt.Sprint(v), ""))
				}
			}
			out.WriteString("\n")
		}
		require.NoError(t, rows.Close())
	}
	return fmt.Sprintf("%x", sha256.Sum256([]byte(out.String())))
}

// stateIn is what a program finds that starts with the files as a kill left them.
func stateIn(t *testing.T, files map[string][]byte) string {
	dir := t.TempDir()
	for name, data := range files {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), data, 0o600))
	}
	db, err := sql.Open("sqlite", "file:"+filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	defer db.Close()
	return stateOf(t, db)
}

// Every form of every page and the calls that keep several things are killed, and left, between
// any two rows that they write: what is kept then is what was before, or what is after.
func TestEveryDeedIsWholeOrNotDone(t *testing.T) {
	t.Parallel()
	defer written.Store(nil)
	begin := func() (client, *sql.DB, string) {
		dir, err := os.MkdirTemp(t.TempDir(), watchedDir+"*")
		require.NoError(t, err)
		c, db := openWorld(t, dir, "odd", quiet)
		return c, db, dir
	}
	c, db, _ := begin()
	list := deedsOf(t, c, db)
	kept, kills, leavings := 0, 0, 0
	for _, d := range list {
		send := func(c client, ctx context.Context) int {
			r := httptest.NewRequestWithContext(ctx, d.method, d.path, strings.NewReader(d.body))
			r.Header.Set("Content-Type", d.kind)
			w := httptest.NewRecorder()
			c.h.ServeHTTP(w, r)
			return w.Code
		}
		// Killed: the files as they lie before each row that is written.
		c, db, dir := begin()
		before := stateOf(t, db)
		var at []map[string][]byte
		snapshot := func() {
			files := map[string][]byte{}
			for _, end := range []string{"", "-wal"} {
				if data, err := os.ReadFile(filepath.Join(dir, store.FileName+end)); err == nil {
					files[store.FileName+end] = data
				}
			}
			at = append(at, files)
		}
		written.Store(&snapshot)
		code := send(c, context.Background())
		written.Store(nil)
		after := stateOf(t, db)
		if code >= 400 {
			require.Less(t, code, 500, "%s %s", d.method, d.path)
			assert.Equal(t, before, after, "%s %s answered %d and kept something", d.method, d.path, code)
			continue
		}
		kept++
		for i, files := range at {
			got := stateIn(t, files)
			kills++
			assert.True(t, got == before || got == after, "%s %s killed before row %d of %d: half of it stays", d.method, d.path, i+1, len(at))
		}
		// Left: the client goes before each row that is written.
		for i := range at {
			c, db, _ := begin()
			ctx, leave := context.WithCancel(context.Background())
			n := 0
			count := func() {
				if n == i {
					leave()
				}
				n++
			}
			written.Store(&count)
			send(c, ctx)
			written.Store(nil)
			leave()
			got := stateOf(t, db)
			leavings++
			assert.True(t, got == before || got == after, "%s %s left before row %d of %d: half of it stays", d.method, d.path, i+1, len(at))
		}
	}
	t.Logf("%d deeds, of which %d keep something; %d kills, %d leavings", len(list), kept, kills, leavings)
	assert.Greater(t, kills, 250)
}
