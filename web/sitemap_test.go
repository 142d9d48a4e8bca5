package web

import (
	"database/sql"
	"fmt"
	"net/http"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"

	"fairtangle/core/train"
	"fairtangle/studio"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/api"
	"fairtangle/web/pages"
)

// tableOf is the table whose rows an address with an id is about, by its first word.
var tableOf = map[string]string{
	"lots": "lots", "makings": "makings", "blends": "blends", "layups": "layups", "weighouts": "weighouts", "runs": "runs", "needs": "needs", "buy": "buy_lists",
	"buylists": "buy_lists", "sources": "sources", "gradients": "gradients", "scraps": "scrap_sets", "photos": "photos", "equipment": "equipment",
	"kinds": "kinds", "skeins": "skeins", "yarnsamples": "yarn_samples", "yarns": "yarns", "samples": "samples",
	"practised": "practices", "rounds": "rounds",
}

// routes lists the addresses that are registered, pages and API, by method.
var routes = sync.OnceValue(func() map[string][]string {
	e := gin.New()
	st := &studio.Studio{}
	if _, err := pages.Routes(e, st, pages.World{}, answer.NewTurns(1), nil); err != nil {
		panic(err)
	}
	api.Routes(e, st, answer.NewTurns(1))
	out := map[string][]string{}
	for _, r := range e.Routes() {
		if !strings.HasPrefix(r.Path, "/static") {
			out[r.Method] = append(out[r.Method], r.Path)
		}
	}
	return out
})

// siteMap is every address that is there to be opened, of every row that is kept. Streams are
// left out: they do not end.
func siteMap(t require.TestingT, db *sql.DB) (out []string) {
	for _, path := range routes()[http.MethodGet] {
		if strings.HasSuffix(path, "/live") {
			continue
		}
		if path == "/advice/:rule" {
			out = append(out, "/advice/R08")
			continue
		}
		if path == "/out/lists/:list" {
			for _, l := range workshop.ListsOut() {
				out = append(out, "/out/lists/"+l.Key)
			}
			continue
		}
		if strings.HasSuffix(path, "/:form") {
			path = strings.TrimSuffix(path, ":form") + "palette.gpl"
		}
		// Nothing that is kept stands in an exercise: those whose batt is carded to be made are not made for every look at all pages.
		switch path {
		case "/practise/:skill":
			for _, skill := range []train.Skill{train.Weighing, train.Faults, train.Within} {
				out = append(out, strings.Replace(path, ":skill", string(skill), 1)+"?seed=7&level=3")
			}
			continue
		case "/practise/:skill/batt.png", "/rounds/:id/batt/:n", "/class/:code/:word/batt/:n":
			continue
		case "/practise/sheet":
			path += "?skill=weighing&count=2&seed=7"
		}
		path = strings.Replace(path, ":n", "1", 1)
		if strings.HasPrefix(path, "/class/") {
			out = append(out, classMap(t, db, path)...)
			continue
		}
		if strings.HasSuffix(path, "/:of") {
			path = strings.TrimSuffix(path, ":of") + "bar.svg"
		}
		if strings.HasPrefix(path, "/copies/:name/") { // of a folder, not of a row
			continue
		}
		if !strings.Contains(path, ":") {
			out = append(out, path)
			continue
		}
		word := strings.Split(strings.TrimPrefix(strings.TrimPrefix(path, api.Root), "/"), "/")[0]
		table := tableOf[word]
		require.NotEmpty(t, table, path)
		rows, err := db.Query("SELECT id FROM " + table + " ORDER BY id")
		require.NoError(t, err)
		for rows.Next() {
			var id int64
			require.NoError(t, rows.Scan(&id))
			if id > 0 {
				out = append(out, strings.Replace(path, ":id", fmt.Sprint(id), 1))
			}
		}
		require.NoError(t, rows.Err())
		require.NoError(t, rows.Close())
	}
	return append(out, "/second.json?place=blend&blend=1", "/second.json?place=fibres&making=1", "/shelf/pick?q=a", "/day?blends=1", "/bin")
}

// classMap is an address of a class, of every round that is open and every seat in it.
func classMap(t require.TestingT, db *sql.DB, path string) (out []string) {
	rows, err := db.Query("SELECT r.code, COALESCE(s.word, '') FROM rounds r LEFT JOIN seats s ON s.round_id = r.id WHERE NOT r.over AND r.deleted_at IS NULL")
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var code, word string
		require.NoError(t, rows.Scan(&code, &word))
		if word != "" || !strings.Contains(path, ":word") {
			out = append(out, strings.NewReplacer(":code", code, ":word", word).Replace(path))
		}
	}
	require.NoError(t, rows.Err())
	return out
}
