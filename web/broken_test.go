package web

import (
	"database/sql"
	"fmt"
	"net/http/httptest"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// worldIn is the program with a world in it, and its file to be worked on by hand.
func worldIn(t testing.TB, world string) (client, *sql.DB) {
	c, db := openWorld(t, t.TempDir(), world, quiet)
	c.t = t
	return c, db
}

// breakage is what is done to one value of one row by hand.
type breakage struct {
	table, column, value string
}

// breakages are all values of all tables, each with what can not be there.
func breakages(t *testing.T, db *sql.DB) (out []breakage) {
	rows, err := db.Query(`SELECT m.name, c.name, c.type FROM sqlite_master m JOIN pragma_table_info(m.name) c
		WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite%' AND m.name NOT IN ('migrations', 'sent_keys', 'steps') ORDER BY m.name, c.cid`)
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var table, column, kind string
		require.NoError(t, rows.Scan(&table, &column, &kind))
		var values []string
		switch {
		case column == "id" && table == "settings":
			values = []string{"7"}
		case column == "id":
			values = []string{"-id"} // the row is gone, and those that name it stay
		case kind == "DATETIME", slices.Contains([]string{"version", "name", "note", "key"}, column):
			continue
		case kind == "TEXT":
			values = []string{"'unicorn{'", "'[{}]'"}
		case strings.HasSuffix(column, "_id"):
			values = []string{"987654"}
		case kind == "INTEGER":
			values = []string{"-5", "9000000000000"}
		default:
			values = []string{"-5", "1e300"}
		}
		for _, v := range values {
			out = append(out, breakage{table, column, v})
		}
	}
	return out
}

// own is the record that an address is about: its first word and number.
var ownPage = regexp.MustCompile(`^(?:/api/v1)?/(\w+)/(\d+)`)

// Every stored value is broken in turn, as a damaged disk or a hand may do, and every page opened:
// none is a 5xx, and only the page of a record that itself can not be worked out says so in place
// of showing it. What is shown of it is said in words, with the way to it.
func TestABrokenRecordHoldsUpNoOther(t *testing.T) {
	for half := range 2 { // each in a world of its own
		t.Run(fmt.Sprintf("half %d", half+1), func(t *testing.T) {
			t.Parallel()
			breakAll(t, half, 2)
		})
	}
}

// breakAll breaks what is at from, and each step-th value after it.
func breakAll(t *testing.T, from, step int) {
	c, db := worldIn(t, "sample")
	for _, name := range []string{"movements_stay", "movements_never_go", "run_entries_stay", "run_entries_never_go"} {
		_, err := db.Exec("DROP TRIGGER " + name)
		require.NoError(t, err)
	}
	r := c.opened("count", "2", "skill", "weighing")
	ada := c.comesIn(r, "Ada")
	e, err := c.s.Practice.Task(t.Context(), r, 1)
	require.NoError(t, err)
	said := bestForm(e)
	said.Set("n", "1")
	require.Equal(t, 303, c.do("POST", ada, formType, said.Encode()).Code)
	var list []string
	seen := map[string]int{}
	for _, p := range siteMap(t, db) {
		key := regexp.MustCompile(`\d+`).ReplaceAllString(p, "N")
		if seen[key]++; !heavy.MatchString(p) && (seen[key] <= 3 || seen[key]%5 == 0) { // some of each sort
			list = append(list, p)
		}
	}
	opened := func(path string) int {
		w := httptest.NewRecorder()
		c.h.ServeHTTP(w, httptest.NewRequest("GET", path, nil))
		return w.Code
	}
	refused := map[string]bool{} // as it is: what asks for more than an address
	for _, p := range list {
		if code := opened(p); code >= 400 && code != 404 {
			refused[p] = true
			require.Less(t, code, 500, p)
		}
	}
	pages, turn := 0, 0
	for at, b := range breakages(t, db) {
		if at%step != from {
			continue
		}
		column := `"` + b.column + `"`
		var row, was any
		if db.QueryRow(fmt.Sprintf("SELECT rowid, %s FROM %s WHERE %s IS NOT NULL ORDER BY rowid LIMIT 1 OFFSET (SELECT count(*) / 3 FROM %s)",
			column, b.table, column, b.table)).Scan(&row, &was) != nil {
			continue // there is none
		}
		if _, err := db.Exec(fmt.Sprintf("UPDATE %s SET %s = %s WHERE rowid = ?", b.table, column, b.value), row); err != nil {
			continue // its file does not take that
		}
		for i, p := range list {
			own := ownPage.FindStringSubmatch(p)
			if turn++; turn%40 != 0 && own != nil && !(tableOf[own[1]] == b.table && own[2] == fmt.Sprint(row)) && i%30 != 0 {
				continue // all lists, its own pages, and the others in turn
			}
			code := opened(p)
			pages++
			if code < 400 || code == 404 || refused[p] {
				continue
			}
			alone := code == 422 && own != nil
			assert.True(t, alone, "%s.%s = %s (row %v): %s answers %d", b.table, b.column, b.value, row, p, code)
		}
		back := fmt.Sprintf("UPDATE %s SET %s = ? WHERE rowid = ?", b.table, column)
		if b.column == "id" {
			back = fmt.Sprintf("UPDATE %s SET id = ? WHERE id = %s", b.table, map[bool]string{true: "-?1", false: "7"}[b.value == "-id"])
			_, err := db.Exec(back, was)
			require.NoError(t, err)
			continue
		}
		_, err := db.Exec(back, was, row)
		require.NoError(t, err)
	}
	t.Logf("%d pages opened", pages)
}
