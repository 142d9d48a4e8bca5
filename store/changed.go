package store

import (
	"context"
	"strings"
	"time"
)

// Changed is a record that was made, changed, put into the bin or taken out of it, or a line of a ledger that was booked.
type Changed struct {
	Of      string // its table
	ID      int64
	Version int64 // 0: a line that never changes
	At      string
	Binned  bool
}

// writtenAt is how moments stand in the tables: texts that sort as the moments do.
const writtenAt = "2006-01-02 15:04:05.999999999 -0700 MST"

// booked are tables whose lines are only ever added, with their moment.
var booked = []string{"movements", "weighings", "run_entries"}

// ChangedSince lists what changed after a moment, at most so much, in the order of the moments, and whether there is more. What changed in
// one moment is never parted: there may be more of it than was asked for.
func (s *Store) ChangedSince(ctx context.Context, since time.Time, most int) (out []Changed, more bool, err error) {
	var of []string
	for _, v := range sorts {
		if v.Table != "settings" {
			of = append(of, `SELECT '`+v.Table+`' AS "of", id, version, updated_at || '' AS at, deleted_at IS NOT NULL AS binned FROM `+v.Table)
		}
	}
	for _, table := range booked {
		of = append(of, `SELECT '`+table+`' AS "of", id, 0 AS version, at || '' AS at, 0 AS binned FROM `+table)
	}
	all := `WITH changed AS (SELECT * FROM (` + strings.Join(of, " UNION ALL ") + `) WHERE at > @since) `
	err = s.reading(ctx).Raw(all+`SELECT * FROM changed WHERE at <= coalesce((SELECT at FROM changed ORDER BY at LIMIT 1 OFFSET @most - 1), at)
		ORDER BY at, "of", id`, map[string]any{"since": since.UTC().Format(writtenAt), "most": most}).Scan(&out).Error
	if err != nil || len(out) == 0 {
		return out, false, err
	}
	var rest int64
	err = s.reading(ctx).Raw(all+`SELECT count(*) FROM changed WHERE at > @last`,
		map[string]any{"since": since.UTC().Format(writtenAt), "last": out[len(out)-1].At}).Scan(&rest).Error
	for i := range out {
		if t, wrong := time.Parse(writtenAt, out[i].At); wrong == nil {
			out[i].At = t.Format(time.RFC3339Nano)
		}
	}
	return out, rest > 0, err
}
