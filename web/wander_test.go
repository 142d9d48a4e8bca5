package web

import (
	"context"
	"database/sql"
	"encoding/json"
	"flag"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/web/api"
)

// The wanderer does what nobody meant: from a seed it opens any page, fills any form with sensible
// and silly values, sends it, sends it again, puts things into the bin and takes them out, undoes.
// After every few acts all that is there still opens, nothing is logged as an error, every lot
// weighs what its movements say, nothing acknowledged is gone, and what stands in two places says
// the same. A fault is shrunk to the shortest list of acts that shows it.

// wanderer is one walk through a world of its own.
type wanderer struct {
	*rapid.T
	c      client
	db     *sql.DB
	logged *loggedErrors
	rows   map[string]int64 // of each table, as last seen
	last   *sentForm
	acts   []string
}

// sentForm is a form as it was sent.
type sentForm struct {
	path   string
	values url.Values
	code   int
}

// loggedErrors keeps what the program logged as an error.
type loggedErrors struct {
	slog.Handler
	mu   sync.Mutex
	list []string
}

func (l *loggedErrors) Enabled(context.Context, slog.Level) bool { return true }
func (l *loggedErrors) Handle(_ context.Context, r slog.Record) error {
	if r.Level < slog.LevelError {
		return nil
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	var said strings.Builder
	r.Attrs(func(a slog.Attr) bool {
		fmt.Fprintf(&said, "%s=%.1500s ", a.Key, a.Value)
		return true
	})
	l.list = append(l.list, said.String())
	return nil
}

// wandersIn begins a walk.
func wandersIn(t *rapid.T, world string) *wanderer {
	dir, err := os.MkdirTemp("", "walk-*")
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(dir) })
	logged := &loggedErrors{Handler: slog.DiscardHandler}
	w := &wanderer{T: t, logged: logged}
	w.c, w.db = openWorld(t, dir, world, slog.New(logged))
	w.rows = w.count()
	return w
}

// ask sends a request as the program meets it.
func (w *wanderer) ask(method, path, kind, body string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, "http://example.com/", strings.NewReader(body))
	u, err := url.Parse(path)
	require.NoError(w, err, path)
	r.URL, r.RequestURI = u, path
	if kind != "" {
		r.Header.Set("Content-Type", kind)
	}
	if kind == "application/json" {
		r.Header.Set("Accept", kind)
	}
	out := httptest.NewRecorder()
	w.c.h.ServeHTTP(out, r)
	return out
}

func (w *wanderer) act(format string, args ...any) {
	said := fmt.Sprintf(format, args...)
	w.acts = append(w.acts, said)
	w.Logf("%d. %.300s", len(w.acts), said)
}

// address draws an address of the site map that answers with a page.
func (w *wanderer) address(pages bool) string {
	var list []string
	for _, p := range w.siteMap() {
		if strings.HasPrefix(p, "/api") != pages {
			list = append(list, p)
		}
	}
	return rapid.SampledFrom(list).Draw(w.T, "address")
}

var heavy = regexp.MustCompile(`\.png|\.json$|/beside|/ways|/parts|/needs$|/looks|/static|/export|\.zip$|\.csv|\.ics|/bench$|/card$|/yarn$|/now$`)

// siteMap is every page and call that shows what is kept, the heavy pictures left out.
func (w *wanderer) siteMap() (out []string) {
	for _, p := range siteMap(w.T, w.db) {
		if !heavy.MatchString(p) {
			out = append(out, p)
		}
	}
	return out
}

// silly are values that nobody means.
var silly = []string{"", "-1", "0", "1e9", "NaN", "99999999999999", "<b>x</b>", "🧶", "0.00001", "1,5", "½", "#12", "  ", "null",
	"../..", strings.Repeat("long ", 60), "'; --"}

// sensible are values that somebody may mean, by what the field is called.
func sensible(name string) []string {
	switch {
	case strings.Contains(name, "hex") || strings.Contains(name, "target") || strings.Contains(name, "colour"):
		return []string{"#336699", "#c04020", "#e8e0d0"}
	case strings.Contains(name, "name"):
		return []string{"grey water", "Low light", "test"}
	case name == "at":
		return []string{"09:30"}
	}
	return []string{"1", "2", "3", "12.5", "40", "7"}
}

func (w *wanderer) value(name, was string, options []string) string {
	switch n := rapid.IntRange(0, 9).Draw(w.T, "as"); {
	case n < 5 && (was != "" || len(options) == 0 && n < 2):
		return was
	case n < 9 && len(options) > 0:
		return rapid.SampledFrom(options).Draw(w.T, name)
	case n < 8:
		return rapid.SampledFrom(sensible(name)).Draw(w.T, name)
	}
	return rapid.SampledFrom(silly).Draw(w.T, name)
}

// press opens a page, fills one of its forms and sends it.
func (w *wanderer) press() {
	at := w.address(true)
	page := w.ask("GET", at, "", "")
	forms := slices.DeleteFunc(formsOf(page.Body, at), func(f form) bool { return f.action == "/ground" }) // on every page
	if len(forms) == 0 {
		w.act("open %s", at)
		return
	}
	f := forms[rapid.IntRange(0, len(forms)-1).Draw(w.T, "form")]
	if f.method != "POST" {
		f.method = "GET"
	}
	values := url.Values{}
	for _, v := range f.fields {
		switch {
		case v.fixed && rapid.IntRange(0, 19).Draw(w.T, "hidden") > 0:
			values.Add(v.name, v.value)
		case v.maybe:
			if rapid.Bool().Draw(w.T, "tick") {
				values.Add(v.name, v.value)
			}
		default:
			values.Add(v.name, w.value(v.name, v.value, v.options))
		}
	}
	w.send(f.method, f.action, values)
}

func (w *wanderer) send(method, action string, values url.Values) {
	w.act("%s %s %s", method, action, values.Encode())
	if method == "GET" {
		path, _, _ := strings.Cut(action, "?")
		w.fine(path, w.ask("GET", path+"?"+values.Encode(), "", ""))
		return
	}
	r := w.ask("POST", action, "application/x-www-form-urlencoded", values.Encode())
	w.fine(action, r)
	w.last = &sentForm{action, values, r.Code}
	if r.Code == http.StatusSeeOther {
		to := r.Header().Get("Location")
		got := w.ask("GET", to, "", "")
		require.Contains(w, []int{200, 303, 404}, got.Code, "%s leads to %s: %.400s", action, to, got.Body)
	}
}

// fine holds an answer to be one that the program meant.
func (w *wanderer) fine(what string, r *httptest.ResponseRecorder) {
	w.logged.mu.Lock()
	defer w.logged.mu.Unlock()
	require.Empty(w, w.logged.list, "%s", what)
	require.Less(w, r.Code, 500, "%s: %.500s", what, r.Body)
}

// again sends the last form once more, as a double press does: where it carries a key nothing
// more is there than before.
func (w *wanderer) again() {
	if w.last == nil || w.last.code != http.StatusSeeOther || w.last.values.Get("key") == "" {
		w.press()
		return
	}
	before := w.count()
	w.act("again %s", w.last.path)
	r := w.ask("POST", w.last.path, "application/x-www-form-urlencoded", w.last.values.Encode())
	w.fine(w.last.path, r)
	require.Equal(w, before, w.count(), "%s was done twice", w.last.path)
}

// bin puts a row of any table into the bin, or takes it out.
func (w *wanderer) bin() {
	table := rapid.SampledFrom([]string{"lots", "makings", "blends", "weighouts", "equipment", "kinds", "gradients", "scrap_sets", "photos", "samples", "layups",
		"runs", "sources", "offers", "buy_lists", "yarn_samples", "skeins"}).Draw(w.T, "table")
	var ids []int64
	rows, err := w.db.Query("SELECT id FROM " + table + " ORDER BY id")
	require.NoError(w, err)
	for rows.Next() {
		var id int64
		require.NoError(w, rows.Scan(&id))
		ids = append(ids, id)
	}
	require.NoError(w, rows.Close())
	if len(ids) == 0 {
		return
	}
	way := rapid.SampledFrom([]string{"discard", "restore"}).Draw(w.T, "way")
	w.send("POST", "/bin/"+way, url.Values{"table": {table}, "id": {strconv.FormatInt(rapid.SampledFrom(ids).Draw(w.T, "row"), 10)}})
}

// back changes a blend and goes back: it is as it was, and on again as it became.
func (w *wanderer) back() {
	var id int64
	if w.db.QueryRow("SELECT id FROM blends WHERE deleted_at IS NULL ORDER BY id LIMIT 1 OFFSET ?",
		rapid.IntRange(0, 12).Draw(w.T, "blend")).Scan(&id) != nil {
		return
	}
	at := fmt.Sprintf("%s/blends/%d", api.Root, id)
	read := func() (v map[string]any) {
		got := w.ask("GET", at, "", "")
		if got.Code != http.StatusOK {
			return nil
		}
		require.NoError(w, json.Unmarshal(got.Body.Bytes(), &v))
		return v
	}
	recipe := func(v map[string]any) string {
		list, _ := v["components"].([]any)
		said := fmt.Sprint(v["name"], v["total_g"], v["passes"])
		for _, c := range list {
			m := c.(map[string]any)
			said += fmt.Sprint(m["lot_id"], m["name"], m["parts"], m["locked"], ";")
		}
		return said
	}
	before := read()
	if before == nil {
		return
	}
	verb := rapid.SampledFrom([]string{"share", "parts", "grams", "total", "passes", "name", "remove", "lock", "even"}).Draw(w.T, "verb")
	change := fmt.Sprintf(`{"version":%v,"verb":%q,"at":%d,"value":%v,"text":"changed"}`, before["version"], verb, rapid.IntRange(0, 4).Draw(w.T, "at"),
		rapid.SampledFrom([]float64{0, 0.3, 1, 2, 40, 1e9, -1}).Draw(w.T, "value"))
	w.act("change blend %d: %s", id, change)
	r := w.ask("POST", at+"/changes", "application/json", change)
	w.fine(at, r)
	after := read()
	if r.Code != http.StatusOK || fmt.Sprint(after["version"]) == fmt.Sprint(before["version"]) || recipe(after) == recipe(before) {
		return
	}
	for _, way := range []struct {
		move string
		want map[string]any
	}{{"undo", before}, {"redo", after}} {
		w.act("%s blend %d", way.move, id)
		r := w.ask("POST", at+"/steps", "application/json", fmt.Sprintf(`{"version":%v,"way":%q}`, read()["version"], way.move))
		w.fine(at, r)
		require.Equal(w, http.StatusOK, r.Code, "%s: %s", way.move, r.Body)
		require.Equal(w, recipe(way.want), recipe(read()), way.move)
	}
}

var countedTables = []string{"lots", "movements", "makings", "blends", "weighouts", "weighings", "runs", "run_entries", "layups", "needs", "gradients",
	"scrap_sets", "photos", "samples", "skeins", "yarn_samples", "yarns", "buy_lists", "sources", "offers", "cleanings", "equipment",
	"kinds", "scales", "containers", "tools", "sales", "practices", "rounds"}

// count is how many rows each table has.
func (w *wanderer) count() map[string]int64 {
	out := map[string]int64{}
	for _, table := range countedTables {
		var n int64
		require.NoError(w, w.db.QueryRow("SELECT count(*) FROM "+table).Scan(&n))
		out[table] = n
	}
	return out
}

// look opens what is there, and holds the laws.
func (w *wanderer) look(most int) {
	list := w.siteMap()
	if len(list) > most { // always the lists, and others by chance
		first := rapid.IntRange(0, len(list)-1).Draw(w.T, "from")
		var some []string
		for i := range most {
			some = append(some, list[(first+i*7)%len(list)])
		}
		list = append(some, "/shelf", "/makings", "/buy", "/notebook", "/day", "/bin", "/workshop", "/scraps", "/stock", api.Root+"/claims")
	}
	for _, p := range list {
		r := w.ask("GET", p, "", "")
		w.fine(p, r)
		if strings.HasPrefix(p, api.Root) {
			require.Contains(w, []int{200, 404, 422}, r.Code, "%s: %.300s", p, r.Body)
			continue
		}
		require.Contains(w, []int{200, 301, 303, 404, 422}, r.Code, "%s: %.300s", p, r.Body)
	}
	for _, p := range []string{"/shelf", "/makings", "/buy", "/notebook", "/day", "/bin", "/workshop", "/scraps", "/stock", "/photos", "/kinds",
		"/calibration", "/advice"} {
		r := w.ask("GET", p, "", "")
		require.Equal(w, 200, r.Code, "%s: %.600s", p, r.Body)
	}
	w.laws()
}

// wander is for how long it goes on with new seeds.
var wander = flag.Duration("wander", 0, "walk on new seeds for so long, in place of those of the check")

// TestWanderer walks on the seeds of the check, or for as long as is said with -wander.
func TestWanderer(t *testing.T) {
	t.Parallel()
	if *wander == 0 {
		require.NoError(t, flag.Set("rapid.checks", "14"))
		t.Cleanup(func() { _ = flag.Set("rapid.checks", "100") })
	}
	began := time.Now()
	for i, world := range []string{"sample", "odd", "empty"} {
		t.Run(world, rapid.MakeCheck(func(t *rapid.T) {
			if *wander > 0 && time.Since(began) > *wander*time.Duration(i+1)/3 {
				return
			}
			w := wandersIn(t, world)
			n := 0
			defer func() { walked.Add(int64(len(w.acts))) }()
			t.Repeat(map[string]func(*rapid.T){
				"press": func(*rapid.T) { w.press() },
				"again": func(*rapid.T) { w.again() },
				"bin":   func(*rapid.T) { w.bin() },
				"back":  func(*rapid.T) { w.back() },
				"call":  func(*rapid.T) { w.call() },
				"": func(*rapid.T) {
					if n++; n%10 == 0 {
						w.look(25)
					}
				},
			})
			w.look(60)
			w.same()
			w.claimsAgree()
			w.runsAgree()
		}))
	}
	t.Logf("%d acts", walked.Load())
}
