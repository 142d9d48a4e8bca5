package plain

import (
	"context"
	"database/sql"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// List is a list of what a maker has, as a table for any program: weights in grams, lengths in the unit that a heading ends in, shares in
// percent, moments in UTC. What lies in the bin is not in it.
type List struct {
	Key, Name string
	What      string // what a line of it is
	query     string
}

const moment = `replace(substr(%[1]s || '', 1, 19), ' ', 'T') || 'Z'`

func at(column string) string { return fmt.Sprintf(moment, column) }

// read is something out of a column of JSON, nothing where that is damaged.
func read(column, path string) string {
	return fmt.Sprintf("CASE WHEN json_valid(%[1]s) THEN json_extract(%[1]s, %[2]s) END", column, path)
}

// told is a figure out of what was told of a piece of yarn; 0 is not told.
func told(name string) string { return "nullif(" + read("t.told", "'$."+name+"'") + ", 0)" }

var lists = []List{
	{"movements", "Ledger of the shelf", "each that was booked", `SELECT ` + at("m.at") + ` AS at, l.id AS lot_number, l.name AS lot, m.reason AS reason,
		m.delta_mg / 1000.0 AS change_g, m.balance_mg / 1000.0 AS then_g, m.note AS note, m.undoes_id AS takes_back_line, m.id AS line
		FROM movements m JOIN lots l ON l.id = m.lot_id ORDER BY m.id`},
	{"blends", "Blends", "a fibre in a blend", `SELECT k.name AS making, b.id AS blend_number, b.name AS blend, b.total_mg / 1000.0 AS blend_g, b.passes AS passes,
		c.position + 1 AS place, coalesce(l.name, nullif(c.name, '')) AS fibre, c.lot_id AS lot_number, coalesce(l.kind, nullif(c.kind, '')) AS kind,
		100.0 * c.parts / nullif(sum(c.parts) OVER (PARTITION BY b.id), 0) AS share_pct
		FROM blends b JOIN makings k ON k.id = b.making_id LEFT JOIN blend_components c ON c.blend_id = b.id LEFT JOIN lots l ON l.id = c.lot_id
		WHERE b.deleted_at IS NULL AND k.deleted_at IS NULL ORDER BY k.id, b.id, c.position`},
	{"weighings", "Weigh-outs", "a weighing", `SELECT ` + at("x.at") + ` AS at, k.name AS making, b.name AS blend, w.id AS weighout_number, w.name AS weighout,
		x.unit + 1 AS unit, coalesce(l.name, nullif(c.name, '')) AS fibre, c.lot_id AS lot_number, 100.0 * c.share AS share_pct, x.grams_mg / 1000.0 AS weighed_g,
		w.finished_mg / 1000.0 AS finished_unit_g, CASE WHEN x.undone_at IS NULL THEN '' ELSE 'taken back' END AS state
		FROM weighings x JOIN weighouts w ON w.id = x.weighout_id JOIN blends b ON b.id = w.blend_id JOIN makings k ON k.id = b.making_id
		LEFT JOIN weighout_components c ON c.weighout_id = w.id AND c.position = x.position LEFT JOIN lots l ON l.id = c.lot_id
		WHERE w.deleted_at IS NULL ORDER BY x.id`},
	{"runs", "Runs", "an entry of a run", `SELECT ` + at("e.at") + ` AS at, k.name AS making, r.id AS run_number, r.name AS run, r.sort AS sort, e.what AS what,
		e.unit + 1 AS unit, e.pass AS pass, nullif(e.mg, 0) / 1000.0 AS weight_g, nullif(e.number, 0) AS number, e.text AS text, e.undoes_id AS takes_back_line,
		e.id AS line FROM run_entries e JOIN runs r ON r.id = e.run_id JOIN makings k ON k.id = r.making_id WHERE r.deleted_at IS NULL ORDER BY e.id`},
	{"samples", "Samples of colour", "a fibre in a sample", `SELECT s.id AS sample_number, s.name AS sample, ` + at("s.created_at") + ` AS at,
		` + read("s.measured", "'$.hex'") + ` AS measured, ` + read("s.measured", "'$.source'") + ` AS measured_by,
		json_extract(s.components, c.fullkey || '.name') AS fibre, json_extract(s.components, c.fullkey || '.lot_id') AS lot_number,
		json_extract(s.components, c.fullkey || '.hex') AS colour, 100.0 * json_extract(s.components, c.fullkey || '.share') AS share_pct,
		s.note AS note FROM samples s, json_each(CASE WHEN json_valid(s.components) THEN s.components ELSE '[]' END) c
		WHERE s.deleted_at IS NULL ORDER BY s.id, c.key`},
	{"sales", "Sold, given, kept", "what went from the table", `SELECT ` + at("v.created_at") + ` AS at, v.id AS sale_number, v.name AS name, v.how AS how,
		v.pieces AS pieces, v.cents / 100.0 AS price_each, v.cost_cents / 100.0 AS cost_each, v.minutes AS minutes_each, v.blend_id AS blend_number,
		v.note AS note FROM sales v WHERE v.deleted_at IS NULL ORDER BY v.id`},
	{"yarnsamples", "Samples of yarn", "a sample", yarnList("yarn_samples", "sample")},
	{"skeins", "Skeins", "a skein", yarnList("skeins", "skein")},
}

func yarnList(table, what string) string {
	return `SELECT k.name AS making, t.id AS ` + what + `_number, t.name AS ` + what + `, ` + at("t.created_at") + ` AS at,
		` + read("t.told", "'$.ply'") + ` AS ply, ` +
		told("fibre_g") + ` AS fibre_g, ` + told("singles_m") + ` AS singles_m, ` + told("raw_m") + ` AS unwashed_m, ` + told("raw_g") + ` AS unwashed_g, ` +
		told("length_m") + ` AS length_m, ` + told("weight_g") + ` AS weight_g, ` + told("wpi") + ` AS wraps_per_inch, ` + read("t.told", "'$.note'") + ` AS note
		FROM ` + table + ` t JOIN makings k ON k.id = t.making_id WHERE t.deleted_at IS NULL ORDER BY t.id`
}

// Lists are all of them.
func Lists() []List { return slices.Clone(lists) }

// Read gives the headings of a list and then its lines to a function, as they are at one moment.
func (l List) Read(ctx context.Context, dir string, line func([]string) error) error {
	return seen(ctx, dir, func(tx *sql.Tx) error {
		rows, err := tx.QueryContext(ctx, l.query)
		if err != nil {
			return err
		}
		defer rows.Close()
		head, err := rows.Columns()
		if err != nil {
			return err
		}
		if err := line(head); err != nil {
			return err
		}
		values, into, text := make([]any, len(head)), make([]any, len(head)), make([]string, len(head))
		for i := range values {
			into[i] = &values[i]
		}
		for rows.Next() {
			if err := rows.Scan(into...); err != nil {
				return err
			}
			for i, v := range values {
				text[i] = cell(v)
			}
			if err := line(text); err != nil {
				return err
			}
		}
		return rows.Err()
	})
}

// cell is a value as it stands in a list: figures to twelve digits, so that a share of a sum does not end in …0004.
func cell(v any) string {
	switch x := v.(type) {
	case nil:
		return ""
	case float64:
		return strconv.FormatFloat(x, 'g', 12, 64)
	case []byte:
		return string(x)
	}
	return strings.TrimSpace(fmt.Sprint(v))
}
