package store

import (
	"context"
	"time"
)

// NotebookRow is a line of the notebook: a run or a sample.
type NotebookRow struct {
	Sort     string // carding, fleece, trial (a sample that was carded), sample (of its colour alone), yarn (a sample), skein
	ID       int64
	MakingID int64
	Making   string
	Name     string
	At       time.Time
}

// NotebookFilter picks lines of the notebook. Zero values choose everything.
type NotebookFilter struct {
	Search string
	Making int64
	Sort   string // as in NotebookRow
	Offset int
	Limit  int
}

// The sources of the notebook. Each is read from an index in the order of time, so that
// their union needs no sorting.
const (
	notedRuns = `FROM runs WHERE deleted_at IS NULL AND making_id NOT IN (SELECT id FROM makings WHERE deleted_at IS NOT NULL)`
	runSort   = `CASE WHEN sample THEN 'trial' ELSE sort END`

	notedSamples = `FROM samples WHERE deleted_at IS NULL`
	sampleMaking = `(SELECT b.making_id FROM blends b WHERE b.id = samples.blend_id)`

	notedYarns  = `FROM yarn_samples WHERE deleted_at IS NULL AND making_id NOT IN (SELECT id FROM makings WHERE deleted_at IS NOT NULL)`
	notedSkeins = `FROM skeins WHERE deleted_at IS NULL AND making_id NOT IN (SELECT id FROM makings WHERE deleted_at IS NOT NULL)`
)

// where is the condition of a filter for a source, of which sort and making are expressions.
func (f NotebookFilter) where(sort, making string) (text string, values []any) {
	if f.Sort != "" {
		text, values = text+" AND "+sort+" = ?", append(values, f.Sort)
	}
	if f.Making != 0 {
		text, values = text+" AND "+making+" = ?", append(values, f.Making)
	}
	for _, word := range searched(f.Search) {
		text += ` AND (name LIKE ? ESCAPE '\' OR ` + making + ` IN (SELECT id FROM makings WHERE name LIKE ? ESCAPE '\'))`
		values = append(values, word, word)
	}
	return text, values
}

// Notebook lists runs, samples and skeins, the latest first, and how many there are in all.
func (s *Store) Notebook(ctx context.Context, f NotebookFilter) (out []NotebookRow, total int64, err error) {
	var values []any
	count, lines := "", ""
	for _, v := range []struct{ sort, making, from string }{
		{runSort, "making_id", notedRuns}, {"'sample'", sampleMaking, notedSamples}, {"'yarn'", "making_id", notedYarns}, {"'skein'", "making_id", notedSkeins},
	} {
		where, of := f.where(v.sort, v.making)
		values = append(values, of...)
		if count != "" {
			count, lines = count+" + ", lines+" UNION ALL "
		}
		count += "(SELECT count(*) " + v.from + where + ")"
		lines += "SELECT " + v.sort + " AS sort, id, " + v.making + " AS making_id, name, created_at AS at " + v.from + where
	}
	if err = s.reading(ctx).Raw("SELECT "+count, values...).Scan(&total).Error; err != nil {
		return nil, 0, err
	}
	page := `SELECT l.sort, l.id, coalesce(l.making_id, 0) AS making_id, coalesce(m.name, '') AS making, l.name, l.at FROM (` + lines +
		` ORDER BY at DESC, id DESC, sort LIMIT ? OFFSET ?) l LEFT JOIN makings m ON m.id = l.making_id ORDER BY l.at DESC, l.id DESC, l.sort`
	return out, total, s.reading(ctx).Raw(page, append(values, f.Limit, f.Offset)...).Scan(&out).Error
}
