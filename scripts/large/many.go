package main

import (
	"database/sql"
	"fmt"
	"path/filepath"
	"strings"

	"fairtangle/store" // with its driver
)

// How often the sample world is copied: its lots, its makings with all that is in them, and in each
// of those its runs.
const (
	shelves = 590
	worlds  = 250
	again   = 8
)

// copied is a table of the sample world: how often it is copied, and which of its columns name rows
// of others.
type copied struct {
	table string
	times int // of the shelf, of the world, or of a run
	names map[string]string
	key   string // a column that no two rows share
}

// tables come in an order in which what is named is there first.
var tables = []copied{
	{"lots", shelves, nil, ""},
	{"movements", shelves, map[string]string{"lot_id": "lots", "undoes_id": "movements"}, ""},
	{"makings", worlds, nil, ""},
	{"needs", worlds, map[string]string{"making_id": "makings"}, ""},
	{"blends", worlds, map[string]string{"making_id": "makings"}, ""},
	{"blend_components", worlds, map[string]string{"blend_id": "blends", "lot_id": "lots"}, ""},
	{"samples", 20, map[string]string{"blend_id": "blends"}, ""},
	{"gradients", worlds, map[string]string{"making_id": "makings"}, ""},
	{"scrap_sets", worlds, nil, ""},
	{"layups", worlds, map[string]string{"blend_id": "blends"}, ""},
	{"weighouts", worlds, map[string]string{"blend_id": "blends", "layup_id": "layups"}, ""},
	{"weighout_components", worlds, map[string]string{"weighout_id": "weighouts", "lot_id": "lots"}, ""},
	{"weighout_cells", worlds, map[string]string{"weighout_id": "weighouts"}, ""},
	{"weighings", worlds, map[string]string{"weighout_id": "weighouts", "movement_id": "movements"}, "key"},
	{"runs", worlds * again, map[string]string{
		"making_id": "makings", "weighout_id": "weighouts", "layup_id": "layups", "lot_id": "lots",
	}, ""},
	{"run_entries", worlds * again, map[string]string{"run_id": "runs"}, "key"},
	{"yarn_samples", worlds * 4, map[string]string{"making_id": "makings"}, ""},
}

// many copies every table of the sample world in dir; a copy is as many days older as its number.
func many(dir string) (err error) {
	db, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	if err != nil {
		return err
	}
	defer db.Close()
	tx, err := db.Begin()
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	rows := map[string]int64{} // the largest id of each
	times := map[string]int{}
	for _, t := range tables {
		var most int64
		if err := tx.QueryRow("SELECT max(id) FROM " + t.table).Scan(&most); err != nil {
			return err
		}
		rows[t.table], times[t.table] = most, t.times
	}
	for _, t := range tables {
		list, err := columns(tx, t.table)
		if err != nil {
			return err
		}
		var values []string
		for _, name := range list {
			values = append(values, t.value(name, rows, times))
		}
		_, err = tx.Exec(fmt.Sprintf(`WITH RECURSIVE n(k) AS (SELECT 1 UNION ALL SELECT k + 1 FROM n WHERE k < %d)
			INSERT INTO %s (%s) SELECT %s FROM n, %s t WHERE t.id <= %d`,
			t.times, t.table, strings.Join(quoted(list), ", "), strings.Join(values, ", "), t.table, rows[t.table]))
		if err != nil {
			return fmt.Errorf("%s: %w", t.table, err)
		}
	}
	if _, err := tx.Exec(`INSERT INTO yarns (version, created_at, updated_at, layup_id, plan)
		SELECT 1, created_at, updated_at, id, (SELECT plan FROM yarns WHERE id = 1) FROM layups WHERE id NOT IN (SELECT layup_id FROM yarns)`); err != nil {
		return err
	}
	return tx.Commit()
}

// value is what a column holds in copy n.k of row t.
func (t copied) value(name string, rows map[string]int64, times map[string]int) string {
	switch {
	case name == "id":
		return fmt.Sprintf("t.id + n.k * %d", rows[t.table])
	case name == t.key:
		return `t."key" || '-' || n.k`
	case name == "name" && t.table != "blend_components" && t.table != "weighout_components":
		return "t.name || ' ' || n.k"
	case name == "created_at" || name == "at":
		return fmt.Sprintf(`datetime(substr(t.%s, 1, 19), '-' || n.k || ' hours') || ' +0000 UTC'`, name)
	case t.names[name] != "":
		of := t.names[name]
		each := 1 // copies in one world
		if t.times > worlds && times[of] != t.times {
			each = t.times / worlds
		}
		return fmt.Sprintf("t.%s + (n.k / %d) * %d", name, each, rows[of])
	}
	return fmt.Sprintf("t.%q", name)
}

func quoted(list []string) (out []string) {
	for _, name := range list {
		out = append(out, fmt.Sprintf("%q", name))
	}
	return out
}

func columns(tx *sql.Tx, table string) (out []string, err error) {
	rows, err := tx.Query("SELECT name FROM pragma_table_info(?)", table)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, err
		}
		out = append(out, name)
	}
	return out, rows.Err()
}
