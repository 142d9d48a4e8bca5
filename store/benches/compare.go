// Package benches brings together what two programs of one maker hold, whose data began as one: what the other has that is not here, or
// is newer there, thing by thing. What was booked on both stands on both.
package benches

import (
	"cmp"
	"context"
	"fmt"
	"os"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/store/copies"
)

// State is how a thing of the other bench stands to what is here.
type State string

// The states of a thing.
const (
	New    State = "new"    // it is not here
	Newer  State = "newer"  // it was changed there alone
	Both   State = "both"   // it was changed there and here
	Booked State = "booked" // lines of a lot's ledger that are not here
)

// Thing is what the other bench has otherwise.
type Thing struct {
	Table  string
	ID     int64 // there
	Here   int64 // 0: it is not here
	Word   string
	Name   string
	Making string // that it belongs to
	State  State
	Binned bool     // it lies in the bin there
	Differ []string // in what it differs
	Sides  []Side   // of what can be said of that, where it was changed on both
	There  string   // when it was last changed, as it is kept
	Mine   string
	Lines  int             // of the ledger
	Mg     unit.Milligrams // that they add up to
	Can    []Choice        // what can become of it
}

// written is how a moment is kept.
const written = "2006-01-02 15:04:05.999999999 -0700 MST"

func moment(at string) time.Time {
	t, _ := time.Parse(written, at)
	return t
}

// Changed is when a thing was last changed there and here; zero where that is not known.
func (t Thing) Changed() (there, here time.Time) { return moment(t.There), moment(t.Mine) }

// Key names a thing among those of one comparison.
func (t Thing) Key() string { return fmt.Sprintf("%s-%d", t.Table, t.ID) }

// pair is two benches side by side.
type pair struct {
	here, there data
	same        map[string]map[int64]int64 // by table, the number here of a row there
	since       string                     // from when on they went apart, the first moment; empty: nobody knows
	met         map[string]meeting
}

// meeting is how a thing was on both when they were last brought together.
type meeting struct{ there, here string }

// Compare lists what a copy of another bench has otherwise than here.
func Compare(ctx context.Context, s *store.Store, c copies.Copy) (list []Thing, err error) {
	err = with(ctx, s, c, func(there *gorm.DB) error {
		return s.Seen(ctx, func(db *gorm.DB) error {
			p, err := paired(db, there)
			if err != nil {
				return err
			}
			list = p.things()
			return nil
		})
	})
	return list, err
}

// with opens the database of a copy as one of this release, without touching the copy.
func with(ctx context.Context, s *store.Store, c copies.Copy, f func(*gorm.DB) error) error {
	dir, err := os.MkdirTemp("", "fairtangle-check-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	if err := copies.Taken(c.Path, dir); err != nil {
		return err
	}
	other, err := store.Open(dir, s.Now)
	if err != nil {
		return err
	}
	defer other.Close()
	return other.Seen(ctx, f)
}

func paired(here, there *gorm.DB) (p pair, err error) {
	if p.here, err = read(here); err != nil {
		return p, err
	}
	if p.there, err = read(there); err != nil {
		return p, err
	}
	p.same, p.met = map[string]map[int64]int64{}, map[string]meeting{}
	for _, s := range pieces() {
		p.match(s.Table)
	}
	p.matchMovements()
	for _, d := range []struct{ a, b data }{{p.here, p.there}, {p.there, p.here}} {
		for bench, at := range d.a.origins {
			if _, both := d.b.origins[bench]; !both {
				if since := p.since; since == "" || at < since {
					p.since = at
				}
			}
		}
	}
	// What the other bench saw of this one counts as well: it looked at the same two.
	theirs, err := metBy(there, p.here.bench)
	if err != nil {
		return p, err
	}
	for _, r := range theirs {
		if here := p.same[r.Piece][r.PieceID]; here != 0 {
			p.met[fmt.Sprintf("%s-%d", r.Piece, here)] = meeting{there: r.Here, here: r.There}
		}
	}
	mine, err := metBy(here, p.there.bench)
	for _, r := range mine {
		p.met[fmt.Sprintf("%s-%d", r.Piece, r.PieceID)] = meeting{r.There, r.Here}
	}
	return p, err
}

// met is a row of what a bench saw of another.
type met struct {
	Piece       string
	PieceID     int64
	There, Here string
}

func metBy(db *gorm.DB, bench string) (list []met, err error) {
	return list, db.Raw("SELECT piece, piece_id, there, here FROM met WHERE bench = ?", bench).Scan(&list).Error
}

// number is the number here of a row there; one that is not here has a number that none here has.
func (p pair) number(table string, there int64) int64 {
	if here := p.same[table][there]; here != 0 {
		return here
	}
	return -there
}

// whole is a piece with all that belongs to it, in words that are the same on both where nothing differs, by what they are of.
func whole(d data, name string, r row, to numbers) map[string]string {
	t := d.tables[name]
	out := map[string]string{}
	turned := t.turned(r, to)
	for i, c := range t.columns {
		if !follows[c] {
			out[c] = fmt.Sprint(turned[i])
		}
	}
	for _, part := range parts[name] {
		pt := d.tables[part.table]
		var b strings.Builder
		for _, r := range d.rowsOf(part, t.num(r, "id")) {
			if part.grows {
				fmt.Fprintln(&b, pt.text(r, "key"), pt.text(r, "undone_at"))
				continue
			}
			for i, v := range pt.turned(r, to) {
				if c := pt.columns[i]; c != "id" && c != "version" && c != part.by {
					fmt.Fprint(&b, v, "|")
				}
			}
			b.WriteString("\n")
		}
		out[part.table] = b.String()
	}
	return out
}

// touched is when a piece, or what belongs to it, was last changed.
func touched(d data, name string, r row) (at string) {
	t := d.tables[name]
	at = max(t.text(r, "updated_at"), t.text(r, "deleted_at"))
	for _, part := range parts[name] {
		pt := d.tables[part.table]
		for _, r := range d.rowsOf(part, t.num(r, "id")) {
			at = max(at, pt.text(r, "at"), pt.text(r, "undone_at"))
		}
	}
	return at
}

// things lists what differs: pieces in the order of their sorts, then what was booked.
func (p pair) things() (list []Thing) {
	for _, s := range pieces() {
		t := p.there.tables[s.Table]
		for _, r := range t.rows {
			if v, differs := p.thing(s, r); differs {
				list = append(list, v)
			}
		}
	}
	return append(list, p.booked()...)
}

func (p pair) thing(s store.Sort, r row) (v Thing, differs bool) {
	t := p.there.tables[s.Table]
	v = Thing{Table: s.Table, ID: t.num(r, "id"), Word: s.Word, Name: t.text(r, "name"), Making: p.making(s, r), There: touched(p.there, s.Table, r)}
	v.Binned = t.get(r, "deleted_at") != nil
	v.Here = p.same[s.Table][v.ID]
	if v.Here == 0 {
		v.State, v.Can = New, []Choice{Theirs}
		return v, !v.Binned
	}
	mine := p.here.tables[s.Table].byID[v.Here]
	v.Mine = touched(p.here, s.Table, mine)
	a := whole(p.here, s.Table, mine, func(_ string, id int64) int64 { return id })
	for what, words := range whole(p.there, s.Table, r, p.number) {
		if a[what] != words {
			v.Differ = append(v.Differ, what)
		}
	}
	if len(v.Differ) == 0 {
		return v, false
	}
	slices.Sort(v.Differ)
	v.State = p.state(v, t.num(r, "version"), p.here.tables[s.Table].num(mine, "version"))
	v.Can = choices(v)
	if v.State == Both {
		v.Sides = p.sides(v)
	}
	return v, v.State != ""
}

// choices are what can become of a thing that is on both: what was weighed on both stands on both.
func choices(v Thing) []Choice {
	switch {
	case v.State != Both:
		return []Choice{Theirs}
	case v.Table == "weighouts" || v.Table == "runs":
		return []Choice{Beside}
	case v.Table == "blends" || v.Table == "layups" || v.Table == "gradients" || v.Table == "scrap_sets":
		return []Choice{Mine, Theirs, Beside}
	}
	return []Choice{Mine, Theirs}
}

// state says who changed a thing since they went apart, or since they were last brought together; empty where nobody or only this bench
// did.
func (p pair) state(v Thing, theirs, mine int64) State {
	here, there := v.Mine > p.since, v.There > p.since
	m, met := p.met[fmt.Sprintf("%s-%d", v.Table, v.Here)]
	if met {
		here, there = v.Mine != m.here, v.There != m.there
	}
	switch {
	case here && there:
		return Both
	case there:
		return Newer
	case here || met:
		return ""
	}
	switch cmp.Compare(theirs, mine) { // nobody's clock tells
	case 1:
		return Newer
	case -1:
		return ""
	}
	return Both
}

// making is the making that a piece belongs to, by name.
func (p pair) making(s store.Sort, r row) string {
	for s.Of != "" {
		id := p.there.tables[s.Table].num(r, s.By)
		of, _ := store.SortOf(s.Of)
		if r = p.there.tables[s.Of].byID[id]; r == nil {
			return ""
		}
		if s = of; s.Table == "makings" {
			return p.there.tables["makings"].text(r, "name")
		}
	}
	return ""
}

// booked lists the lots that are here and of which something was booked there.
func (p pair) booked() (list []Thing) {
	t, lots := p.there.tables["movements"], p.there.tables["lots"]
	of := map[int64]*Thing{}
	for _, r := range t.rows {
		lot := t.num(r, "lot_id")
		if p.same["movements"][t.num(r, "id")] != 0 || p.same["lots"][lot] == 0 {
			continue
		}
		v := of[lot]
		if v == nil {
			v = &Thing{Table: "movements", ID: lot, Can: []Choice{Theirs}, Here: p.same["lots"][lot], Word: "ledger of a lot", State: Booked,
				Name: lots.text(lots.byID[lot], "name")}
			of[lot] = v
		}
		v.Lines, v.Mg, v.There = v.Lines+1, v.Mg+unit.Milligrams(t.num(r, "delta_mg")), max(v.There, t.text(r, "at"))
	}
	for _, v := range of {
		list = append(list, *v)
	}
	slices.SortFunc(list, func(a, b Thing) int { return cmp.Compare(a.ID, b.ID) })
	return list
}
