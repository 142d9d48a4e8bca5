package benches

import (
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
)

// write writes what comes: the lines of the ledger, then the pieces that name them.
func (t *takeover) write() error {
	keys := make([]string, 0, len(t.coming))
	for key := range t.coming {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	for _, key := range keys {
		if v := t.things[key]; v.Table != "movements" {
			if err := t.writePiece(v); err != nil {
				return fmt.Errorf("take over %s %d: %w", v.Table, v.ID, err)
			}
		}
	}
	lots := make([]int64, 0, len(t.lines))
	for lot := range t.lines {
		lots = append(lots, lot)
	}
	slices.Sort(lots)
	for _, lot := range lots {
		if err := t.writeLines(lot); err != nil {
			return err
		}
	}
	for _, key := range keys {
		if v := t.things[key]; v.Table != "movements" {
			if err := t.writeGrowing(v); err != nil {
				return fmt.Errorf("take over %s %d: %w", v.Table, v.ID, err)
			}
			if err := t.remember(v); err != nil {
				return err
			}
		}
	}
	return t.writePartings()
}

// writePiece writes the row of a piece and what belongs to it but for what grows.
func (t *takeover) writePiece(v Thing) error {
	tb := t.there.tables[v.Table]
	r := tb.turned(tb.byID[v.ID], t.named)
	id := t.same[v.Table][v.ID]
	if v.Table == "photos" {
		if err := t.photoFile(tb.text(r, "file")); err != nil {
			return err
		}
	}
	set := func(column string, to any) {
		if i := slices.Index(tb.columns, column); i >= 0 {
			r[i] = to
		}
	}
	set("id", id)
	if v.Table == "lots" {
		set("grams_mg", 0)
		set("movement_count", 0)
	}
	if v.Here == 0 || t.beside(v) {
		if t.beside(v) {
			set("created_at", t.s.Now().UTC().Round(0).String())
			set("name", tb.text(r, "name")+" (other bench)")
		}
		if err := t.insert(v.Table, tb.columns, r); err != nil {
			return err
		}
	} else if err := t.replace(v, r); err != nil {
		return err
	}
	for _, p := range parts[v.Table] {
		if p.grows {
			continue
		}
		pt := t.there.tables[p.table]
		for _, r := range t.there.rowsOf(p, v.ID) {
			if err := t.insertPart(p, pt.turned(r, t.named), id); err != nil {
				return err
			}
		}
	}
	return nil
}

// insertPart writes a row that belongs to a piece, under a number of its own.
func (t *takeover) insertPart(p part, r row, of int64) error {
	pt := t.there.tables[p.table]
	r[slices.Index(pt.columns, p.by)] = of
	if i := slices.Index(pt.columns, "id"); i >= 0 {
		r[i] = nil
	}
	return t.insert(p.table, pt.columns, r)
}

// replace puts a piece in the place of what is here. What was gone back to here is no more.
func (t *takeover) replace(v Thing, r row) error {
	tb := t.there.tables[v.Table]
	var sets []string
	var values []any
	for i, c := range tb.columns {
		if c != "created_at" && c != "version" && (!follows[c] || c == "updated_at" || c == "shelf_order" || c == "came_off" || c == "some_off") {
			sets, values = append(sets, `"`+c+`" = ?`), append(values, r[i])
		}
	}
	sets, values = append(sets, "version = max(version + 1, ?)"), append(values, tb.num(r, "version"), v.Here)
	if err := t.tx.Exec(fmt.Sprintf(`UPDATE "%s" SET %s WHERE id = ?`, v.Table, strings.Join(sets, ", ")), values...).Error; err != nil {
		return err
	}
	if err := t.tx.Exec("DELETE FROM steps WHERE piece = ? AND piece_id = ?", v.Table, v.Here).Error; err != nil {
		return err
	}
	for _, p := range parts[v.Table] {
		if p.grows {
			continue
		}
		sql, args := fmt.Sprintf(`DELETE FROM "%s" WHERE "%s" = ?`, p.table, p.by), []any{v.Here}
		if p.of != "" {
			sql, args = sql+` AND "of" = ?`, append(args, p.of)
		}
		if err := t.tx.Exec(sql, args...).Error; err != nil {
			return err
		}
	}
	return nil
}

// writeGrowing adds what was weighed or told of a piece and is not here, with the lines of the ledger that it booked.
func (t *takeover) writeGrowing(v Thing) error {
	for _, p := range parts[v.Table] {
		if !p.grows {
			continue
		}
		pt, mine := t.there.tables[p.table], t.here.tables[p.table]
		have, undone := map[string]int64{}, map[int64]int64{}
		for _, r := range t.here.rowsOf(p, v.Here) {
			have[mine.text(r, "key")] = mine.num(r, "id")
			if was := mine.num(r, "undoes_id"); was != 0 {
				undone[was] = mine.num(r, "id")
			}
		}
		given := map[int64]int64{}
		for _, r := range t.there.rowsOf(p, v.ID) {
			key, was := pt.text(r, "key"), pt.num(r, "id")
			if here := undone[given[pt.num(r, "undoes_id")]]; here != 0 && !t.beside(v) { // undone on both, which is once
				given[was] = here
				continue
			}
			if here := have[key]; here != 0 && !t.beside(v) {
				given[was] = here
				if p.table == "weighings" {
					if err := t.tx.Exec("UPDATE weighings SET undone_at = ? WHERE id = ?", pt.get(r, "undone_at"), here).Error; err != nil {
						return err
					}
				}
				continue
			}
			given[was] = t.free(p.table)
			if err := t.insert(p.table, pt.columns, t.grown(p, v, r, given, have[key] != 0)); err != nil {
				return err
			}
		}
	}
	return nil
}

// grown is a row of what grows as it is written here: given are the numbers that its fellows have here; what was booked before they went
// apart is not booked by one that stands beside.
func (t *takeover) grown(p part, v Thing, r row, given map[int64]int64, before bool) row {
	pt := t.there.tables[p.table]
	key, was := pt.text(r, "key"), pt.num(r, "id")
	fellow := pt.num(r, "undoes_id")
	r = pt.turned(r, t.named)
	r[slices.Index(pt.columns, "id")] = given[was]
	r[slices.Index(pt.columns, p.by)] = t.same[v.Table][v.ID]
	if i := slices.Index(pt.columns, "undoes_id"); i >= 0 && fellow != 0 {
		r[i] = given[fellow]
	}
	if t.beside(v) { // its keys are here already
		r[slices.Index(pt.columns, "key")] = fmt.Sprintf("%.40s/%d", key, given[was])
		if before {
			r[slices.Index(pt.columns, "movement_id")] = nil
		}
	}
	return r
}

// remember notes how a thing is on both now, so that it is known later who changed it since.
func (t *takeover) remember(v Thing) error {
	if v.Table == "movements" {
		return nil
	}
	here := t.same[v.Table][v.ID]
	theirs := touched(t.there, v.Table, t.there.tables[v.Table].byID[v.ID])
	mine := theirs
	if t.chosen[v.Key()] == Mine || t.beside(v) {
		here, mine = v.Here, v.Mine
	}
	return t.tx.Exec("INSERT OR REPLACE INTO met (bench, piece, piece_id, there, here) VALUES (?, ?, ?, ?, ?)", t.there.bench, v.Table, here, theirs,
		mine).Error
}

// writeLines books what was booked there of a lot and is not here, in its order; where the lot would go below nothing on the way, what
// came in goes first; and where that does not do, it says that more was there than the ledger knew.
func (t *takeover) writeLines(lot int64) error {
	m := t.there.tables["movements"]
	var lines []row
	for _, r := range m.of("lot_id", lot) {
		if t.same["movements"][m.num(r, "id")] == 0 {
			lines = append(lines, r)
		}
	}
	here := t.same["lots"][lot]
	var at struct{ GramsMg, MovementCount int64 }
	if err := t.tx.Raw("SELECT grams_mg, movement_count FROM lots WHERE id = ?", here).Scan(&at).Error; err != nil {
		return err
	}
	least := func(list []row) int64 {
		low, sum := int64(0), at.GramsMg
		for _, r := range list {
			sum += m.num(r, "delta_mg")
			low = min(low, sum)
		}
		return low
	}
	if least(lines) < 0 {
		slices.SortStableFunc(lines, func(a, b row) int {
			switch {
			case m.num(a, "delta_mg") > 0 && m.num(b, "delta_mg") <= 0:
				return -1
			case m.num(a, "delta_mg") <= 0 && m.num(b, "delta_mg") > 0:
				return 1
			}
			return 0
		})
	}
	if short := -least(lines); short > 0 {
		name := t.there.tables["lots"].text(t.there.tables["lots"].byID[lot], "name")
		t.taken.Found = append(t.taken.Found, Found{name, here, unit.Milligrams(short)})
		found := make(row, len(m.columns))
		for c, v := range map[string]any{"at": t.s.Now().UTC().Round(0).String(), "delta_mg": short, "reason": store.Recount,
			"note": "More was weighed on two benches than the ledger knew of."} {
			found[slices.Index(m.columns, c)] = v
		}
		if err := t.line(found, 0, here, &at.GramsMg); err != nil {
			return err
		}
		at.MovementCount++
	}
	for _, r := range lines {
		if err := t.line(r, m.num(r, "id"), here, &at.GramsMg); err != nil {
			return err
		}
		at.MovementCount++
	}
	t.taken.Lines += len(lines)
	if unit.Milligrams(at.GramsMg).Grams() > unit.MaxGrams {
		return fault.New("take", "A lot would weigh more than a lot can.")
	}
	return t.tx.Exec("UPDATE lots SET grams_mg = ?, movement_count = ? WHERE id = ?", at.GramsMg, at.MovementCount, here).Error
}

// line books one line.
func (t *takeover) line(r row, was, lot int64, sum *int64) error {
	m := t.there.tables["movements"]
	id := t.free("movements")
	undoes := m.num(r, "undoes_id")
	r = slices.Clone(r)
	*sum += m.num(r, "delta_mg")
	for c, v := range map[string]any{"id": id, "lot_id": lot, "balance_mg": *sum} {
		r[slices.Index(m.columns, c)] = v
	}
	if undoes != 0 {
		r[slices.Index(m.columns, "undoes_id")] = t.same["movements"][undoes]
	}
	if was != 0 {
		t.same["movements"][was] = id
	}
	return t.insert("movements", m.columns, r)
}

// writePartings writes partings there whose lines have come.
func (t *takeover) writePartings() error {
	d, mine := t.there, t.here
	have := map[string]int64{}
	for _, r := range mine.tables["partings"].rows {
		have[fmt.Sprint(mine.tables["partings"].text(r, "at"), mine.tables["partings"].num(r, "movement_id"))] = mine.tables["partings"].num(r, "id")
	}
	for _, r := range d.tables["partings"].rows {
		p := d.tables["partings"]
		m := t.same["movements"][p.num(r, "movement_id")]
		if m == 0 {
			continue // its lot does not come
		}
		if here := have[fmt.Sprint(p.text(r, "at"), m)]; here != 0 {
			if err := t.tx.Exec("UPDATE partings SET undone = max(undone, ?) WHERE id = ?", p.num(r, "undone"), here).Error; err != nil {
				return err
			}
			continue
		}
		id := t.free("partings")
		turned := p.turned(r, t.named)
		turned[slices.Index(p.columns, "id")] = id
		if err := t.insert("partings", p.columns, turned); err != nil {
			return err
		}
		parts := d.tables["parting_parts"]
		for _, part := range parts.of("parting_id", p.num(r, "id")) {
			turned := parts.turned(part, t.named)
			turned[slices.Index(parts.columns, "parting_id")] = id
			if err := t.insert("parting_parts", parts.columns, turned); err != nil {
				return err
			}
		}
	}
	return nil
}
