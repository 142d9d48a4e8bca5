package benches

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"gorm.io/gorm"

	"fairtangle/store"
)

// row is a row of a table, with moments as they are written.
type row []any

// table is a table with all its rows.
type table struct {
	name    string
	columns []string
	rows    []row
	byID    map[int64]row
	names   map[string]string // by column, the table of whose rows it holds the number
	index   map[string]map[int64][]row
}

// data is what a bench has: its tables by name, and where it came from.
type data struct {
	tables  map[string]*table
	origins map[string]string // from which moment on, by bench
	bench   string            // its own name: the last of its origins, empty where it began by itself
}

// part is a table whose rows belong to a piece; those of a growing one are added and never go, and each
// has a key.
type part struct {
	table, by string
	grows     bool
	of        string // what its column "of" says; empty: it has none
}

// parts are what belongs to the pieces of a table.
var parts = map[string][]part{
	"lots":   {{table: "tellings", by: "of_id", of: "lot"}},
	"blends": {{table: "blend_components", by: "blend_id"}, {table: "tellings", by: "of_id", of: "blend"}},
	"weighouts": {{table: "weighout_components", by: "weighout_id"}, {table: "weighout_cells", by: "weighout_id"},
		{table: "weighout_units", by: "weighout_id"}, {table: "weighings", by: "weighout_id", grows: true}},
	"runs": {{table: "run_entries", by: "run_id", grows: true}},
}

// ledger are the tables of what was booked; the lines of a parting belong to it.
var ledger = []string{"movements", "partings", "parting_parts"}

// follows are columns that follow from others, or that say when and how often a row was changed.
var follows = map[string]bool{
	"id": true, "version": true, "updated_at": true, "created_at": true, "grams_mg": true, "movement_count": true, "shelf_order": true,
	"came_off": true, "some_off": true,
}

// also are columns that hold the number of a row though the schema does not say so.
var also = map[string]map[string]string{"lots": {"photo_id": "photos"}, "blends": {"again_of": "runs"}, "silences": {"making_id": "makings"}}

// pieces are the tables of what is brought over one by one.
func pieces() (out []store.Sort) {
	for _, s := range store.Sorts() {
		if s.Table != "settings" {
			out = append(out, s)
		}
	}
	return out
}

// read reads all that a bench has.
func read(db *gorm.DB) (d data, err error) {
	d = data{map[string]*table{}, map[string]string{}, ""}
	list := slices.Clone(ledger)
	for _, s := range pieces() {
		list = append(list, s.Table)
		for _, p := range parts[s.Table] {
			list = append(list, p.table)
		}
	}
	for _, name := range list {
		if d.tables[name] != nil {
			continue
		}
		if d.tables[name], err = readTable(db, name); err != nil {
			return d, fmt.Errorf("read %s: %w", name, err)
		}
	}
	var origins []struct{ Bench, At string }
	if err := db.Raw("SELECT bench, at FROM origins ORDER BY rowid").Scan(&origins).Error; err != nil {
		return d, err
	}
	for _, o := range origins {
		d.origins[o.Bench], d.bench = o.At, o.Bench
	}
	return d, nil
}

func readTable(db *gorm.DB, name string) (*table, error) {
	t := &table{name: name, byID: map[int64]row{}, names: map[string]string{}, index: map[string]map[int64][]row{}}
	var columns []struct{ Name, Type string }
	if err := db.Raw("SELECT name, type FROM pragma_table_info(?)", name).Scan(&columns).Error; err != nil {
		return nil, err
	}
	as := make([]string, len(columns))
	for i, c := range columns {
		t.columns = append(t.columns, c.Name)
		if as[i] = `"` + c.Name + `"`; c.Type == "DATETIME" {
			as[i] += " || ''"
		}
	}
	var keys []struct{ From, Table string }
	if err := db.Raw(`SELECT "from", "table" FROM pragma_foreign_key_list(?)`, name).Scan(&keys).Error; err != nil {
		return nil, err
	}
	for _, k := range keys {
		t.names[k.From] = k.Table
	}
	for column, table := range also[name] {
		t.names[column] = table
	}
	rows, err := db.Raw("SELECT " + strings.Join(as, ", ") + ` FROM "` + name + `" ORDER BY rowid`).Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		r := make(row, len(columns))
		into := make([]any, len(columns))
		for i := range r {
			into[i] = &r[i]
		}
		if err := rows.Scan(into...); err != nil {
			return nil, err
		}
		t.rows = append(t.rows, r)
		if id := t.num(r, "id"); id != 0 {
			t.byID[id] = r
		}
	}
	return t, rows.Err()
}

func (t *table) get(r row, column string) any {
	if i := slices.Index(t.columns, column); i >= 0 {
		return r[i]
	}
	return nil
}

func (t *table) num(r row, column string) int64 {
	n, _ := t.get(r, column).(int64)
	return n
}

func (t *table) text(r row, column string) string {
	switch v := t.get(r, column).(type) {
	case string:
		return v
	case nil:
		return ""
	default:
		return fmt.Sprint(v)
	}
}

// of lists the rows that belong to one, by a column.
func (t *table) of(column string, id int64) []row {
	if t.index[column] == nil {
		all := map[int64][]row{}
		for _, r := range t.rows {
			n := t.num(r, column)
			all[n] = append(all[n], r)
		}
		t.index[column] = all
	}
	return t.index[column][id]
}

// rowsOf are the rows of a part that belong to a piece.
func (d data) rowsOf(p part, id int64) []row {
	t := d.tables[p.table]
	list := t.of(p.by, id)
	if p.of == "" {
		return list
	}
	return slices.DeleteFunc(slices.Clone(list), func(r row) bool { return t.text(r, "of") != p.of })
}

// numbers say the number here of a row there, 0 where there is none.
type numbers func(table string, there int64) int64

// named are the numbers of rows inside of what is kept as JSON, with the table that each is of. A quotation mark inside of a text has
// a stroke before it there, so that no text looks like one.
var named = regexp.MustCompile(`"(lot_id|lot|making_id|blend_id|run_id)":(\d+)|"(key)":"lot-(\d+)|"(kind)":"own-(\d+)"|"(lots)":\[([\d,]+)\]`)

var namedTables = map[string]string{"lot_id": "lots", "lot": "lots", "key": "lots", "lots": "lots", "making_id": "makings", "blend_id": "blends",
	"run_id": "runs", "kind": "kinds"}

// naming are the columns that are kept as JSON and may name rows.
var naming = map[string]bool{"made": true, "came": true, "plan": true, "scraps": true, "components": true, "told": true, "items": true, "lays": true}

// turned is a row with each number of another row as it is here.
func (t *table) turned(r row, to numbers) row {
	out := slices.Clone(r)
	for i, c := range t.columns {
		v := r[i]
		if table := t.names[c]; table != "" && v != nil {
			out[i] = to(table, v.(int64))
			continue
		}
		s, ok := v.(string)
		switch {
		case t.name == "run_entries" && c == "number" && v != nil:
			out[i] = turnedEntry(t.text(r, "what"), v, to)
		case !ok:
		case c == "kind" && strings.HasPrefix(s, "own-"):
			if n, err := strconv.ParseInt(s[len("own-"):], 10, 64); err == nil {
				out[i] = store.OwnKindKey(to("kinds", n))
			}
		case t.name == "buy_lists" && c == "makings":
			out[i] = "[" + turnedList(strings.Trim(s, "[]"), "makings", to) + "]"
		case naming[c]:
			out[i] = turnedJSON(s, to)
		}
	}
	return out
}

// entryNames are the entries of a run whose number is that of a row.
var entryNames = map[string]string{"photo": "photos", "shelved": "lots"}

func turnedEntry(what string, v any, to numbers) any {
	table, known := entryNames[what]
	n, ok := v.(float64)
	if !known || !ok || n == 0 {
		return v
	}
	return float64(to(table, int64(n)))
}

func turnedList(list, table string, to numbers) string {
	out := strings.Split(list, ",")
	for i, s := range out {
		if n, err := strconv.ParseInt(strings.TrimSpace(s), 10, 64); err == nil {
			out[i] = strconv.FormatInt(to(table, n), 10)
		}
	}
	return strings.Join(out, ",")
}

func turnedJSON(s string, to numbers) string {
	return named.ReplaceAllStringFunc(s, func(found string) string {
		m := named.FindStringSubmatch(found)
		for i := 1; i < len(m); i += 2 {
			if m[i] != "" {
				return strings.Replace(found, m[i+1], turnedList(m[i+1], namedTables[m[i]], to), 1)
			}
		}
		return found
	})
}
