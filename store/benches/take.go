package benches

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"gorm.io/gorm"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/store/copies"
)

// Choice is what becomes of a thing.
type Choice string

// The choices: leave it; have it as it is there; have both side by side; keep it as it is here, which is not asked again.
const (
	Leave  Choice = ""
	Theirs Choice = "theirs"
	Beside Choice = "beside"
	Mine   Choice = "mine"
)

// Taken is what was taken over.
type Taken struct {
	Things int // that were chosen
	Along  int // that came along, since what was chosen needs them
	Lines  int // of the ledger
	// Found are the lots of which more was weighed, on both together, than there was: the ledger says that more was there.
	Found []Found
}

// Found is a lot of which more was there than the ledger knew.
type Found struct {
	Lot  string
	Here int64
	Mg   unit.Milligrams
}

// takeover is a taking over that is going on.
type takeover struct {
	pair
	s      *store.Store
	tx     *gorm.DB
	photos string // where those of the other bench lie
	chosen map[string]Choice
	things map[string]Thing
	todo   []string // keys of things that are to come
	coming map[string]bool
	next   map[string]int64 // numbers that were given, by table
	lines  map[int64]bool   // lots there whose ledger comes
	taken  Taken
}

// TakeOver takes over from a copy of another bench what was chosen, by the keys of Compare, and what that needs, in one deed.
func TakeOver(ctx context.Context, s *store.Store, c copies.Copy, chosen map[string]Choice) (taken Taken, err error) {
	err = with(ctx, s, c, func(there *gorm.DB) error {
		return s.Changed(ctx, func(tx *gorm.DB) error {
			p, err := paired(tx, there)
			if err != nil {
				return err
			}
			t := &takeover{pair: p, s: s, tx: tx, photos: filepath.Join(c.Path, store.PhotoDir), chosen: chosen, things: map[string]Thing{},
				coming: map[string]bool{}, next: map[string]int64{}, lines: map[int64]bool{}}
			err = t.all()
			taken = t.taken
			return err
		})
	})
	return taken, err
}

func (t *takeover) all() error {
	if err := t.tx.Exec("PRAGMA defer_foreign_keys = ON").Error; err != nil {
		return err
	}
	var keys []string
	for _, v := range t.pair.things() {
		t.things[v.Key()] = v
		keys = append(keys, v.Key())
	}
	for key, choice := range t.chosen {
		if v, differs := t.things[key]; differs && choice != Leave && !slices.Contains(v.Can, choice) { // one that differs no more was taken before
			return fault.New("take", "What was chosen is not as it was shown any more. Look it over again.")
		}
	}
	for _, key := range keys {
		switch t.chosen[key] {
		case Theirs, Beside:
			t.need(t.things[key])
			t.taken.Things++
		case Mine:
			if err := t.remember(t.things[key]); err != nil {
				return err
			}
		}
	}
	for len(t.todo) > 0 {
		key := t.todo[0]
		t.todo = t.todo[1:]
		if err := t.plan(t.things[key]); err != nil {
			return err
		}
	}
	t.taken.Along = len(t.coming) - t.taken.Things
	return t.write()
}

// need has a thing come, once.
func (t *takeover) need(v Thing) {
	key := v.Key()
	if t.coming[key] {
		return
	}
	t.coming[key] = true
	t.things[key] = v
	t.todo = append(t.todo, key)
	if v.Table == "movements" {
		t.lines[v.ID] = true
		return
	}
	if v.Here == 0 || t.beside(v) {
		t.same[v.Table][v.ID] = t.free(v.Table)
	}
	if v.Here == 0 && v.Table == "lots" {
		t.lines[v.ID] = true
	}
}

// beside reports whether a thing comes as one more, beside what is here.
func (t *takeover) beside(v Thing) bool {
	return v.State == Both && (len(v.Can) == 1 || t.chosen[v.Key()] == Beside)
}

// free is a number that no row of a table had.
func (t *takeover) free(name string) int64 {
	if t.next[name] == 0 {
		var seq int64
		t.tx.Raw("SELECT seq FROM sqlite_sequence WHERE name = ?", name).Scan(&seq)
		t.next[name] = seq
	}
	t.next[name]++
	return t.next[name]
}

// plan finds what a thing needs: what it names that is not here, and, for what was weighed, the lines of the ledger, which come with all
// that was booked by them.
func (t *takeover) plan(v Thing) error {
	if v.Table == "movements" {
		t.planLines(v.ID)
		return nil
	}
	d := t.there
	name := func(tb *table, r row) { tb.turned(r, t.named) }
	r := d.tables[v.Table].byID[v.ID]
	name(d.tables[v.Table], r)
	for _, p := range parts[v.Table] {
		pt := d.tables[p.table]
		for _, r := range d.rowsOf(p, v.ID) {
			name(pt, r)
			if m := pt.num(r, "movement_id"); m != 0 {
				t.lineOf(d.tables["movements"].byID[m])
			}
		}
	}
	if v.Table == "lots" && v.Here == 0 {
		t.planLines(v.ID)
	}
	return nil
}

// lineOf has the ledger of the lot of a line come, where the line is not here.
func (t *takeover) lineOf(r row) {
	m := t.there.tables["movements"]
	if r == nil {
		return
	}
	lot := m.num(r, "lot_id")
	if t.same["movements"][m.num(r, "id")] != 0 || t.lines[lot] {
		return
	}
	if t.same["lots"][lot] == 0 {
		t.named("lots", lot)
		return
	}
	t.need(Thing{Table: "movements", ID: lot, Here: t.same["lots"][lot], State: Booked})
}

// planLines has come what was booked by lines of a lot that are not here: weigh-outs, runs, and the other lots of a parting.
func (t *takeover) planLines(lot int64) {
	d := t.there
	for _, m := range d.tables["movements"].of("lot_id", lot) {
		id := d.tables["movements"].num(m, "id")
		if t.same["movements"][id] != 0 {
			continue
		}
		for _, owner := range []struct{ table, by, of string }{{"weighings", "weighout_id", "weighouts"}, {"run_entries", "run_id", "runs"}} {
			o := d.tables[owner.table]
			for _, r := range o.of("movement_id", id) {
				t.piece(owner.of, o.num(r, owner.by))
			}
		}
		for _, r := range t.partingsOf(id) {
			for _, lot := range t.lotsOf(r) {
				t.named("lots", lot)
				for _, line := range d.tables["movements"].of("lot_id", lot) {
					t.lineOf(line)
				}
			}
		}
	}
}

// partingsOf are the partings there that booked a line.
func (t *takeover) partingsOf(movement int64) (out []row) {
	d := t.there
	out = slices.Clone(d.tables["partings"].of("movement_id", movement))
	for _, r := range d.tables["parting_parts"].of("movement_id", movement) {
		if whole := d.tables["partings"].byID[d.tables["parting_parts"].num(r, "parting_id")]; whole != nil {
			out = append(out, whole)
		}
	}
	return out
}

func (t *takeover) lotsOf(parting row) []int64 {
	d := t.there
	out := []int64{d.tables["partings"].num(parting, "lot_id")}
	for _, r := range d.tables["parting_parts"].of("parting_id", d.tables["partings"].num(parting, "id")) {
		out = append(out, d.tables["parting_parts"].num(r, "lot_id"))
	}
	return out
}

// piece has a piece come if it is not here as it is there.
func (t *takeover) piece(name string, id int64) {
	if v, differs := t.things[fmt.Sprintf("%s-%d", name, id)]; differs {
		t.need(v)
		return
	}
	t.named(name, id)
}

// lost and more are the numbers of rows that are not there any more: no row here has or will have one.
const lost = 1 << 40

// named is the number that a row will have here; one that is not here comes.
func (t *takeover) named(name string, there int64) int64 {
	if here := t.same[name][there]; here != 0 {
		return here
	}
	s, known := store.SortOf(name)
	if known && t.there.tables[name].byID[there] == nil {
		return lost + there%lost
	}
	if known {
		t.need(Thing{Table: name, ID: there, Word: s.Word, State: New})
	}
	return t.same[name][there]
}

// photoFile has the picture of a photo here too.
func (t *takeover) photoFile(file string) error {
	to := filepath.Join(t.s.Dir(), store.PhotoDir, filepath.Base(file))
	if _, err := os.Stat(to); err == nil {
		return nil
	}
	from, err := os.Open(filepath.Join(t.photos, filepath.Base(file)))
	if err != nil {
		return err
	}
	defer from.Close()
	picture, err := io.ReadAll(from)
	if err != nil {
		return err
	}
	_, err = t.s.KeepFile(picture)
	return err
}

// insert writes a row.
func (t *takeover) insert(name string, columns []string, r row) error {
	quoted := make([]string, len(columns))
	for i, c := range columns {
		quoted[i] = `"` + c + `"`
	}
	sql := fmt.Sprintf(`INSERT INTO "%s" (%s) VALUES (?%s)`, name, strings.Join(quoted, ", "), strings.Repeat(", ?", len(columns)-1))
	return t.tx.Exec(sql, r...).Error
}
