package benches

import "fmt"

// match finds the rows of a table that are the same on both: they began in the same moment. Of several of one moment it is the one with
// the same number, then with the same name, then in their order.
func (p pair) match(name string) {
	a, b := p.here.tables[name], p.there.tables[name]
	same, taken := map[int64]int64{}, map[int64]bool{}
	p.same[name] = same
	if of, by := onlyOneOf(name); of != "" {
		mine := map[int64]int64{}
		for _, r := range a.rows {
			mine[a.num(r, by)] = a.num(r, "id")
		}
		for _, r := range b.rows {
			if here := mine[p.same[of][b.num(r, by)]]; here != 0 {
				same[b.num(r, "id")] = here
			}
		}
		return
	}
	began := map[string][]int64{}
	for _, r := range a.rows {
		at := a.text(r, "created_at")
		began[at] = append(began[at], a.num(r, "id"))
	}
	for _, fits := range []func(mine, theirs row) bool{
		func(mine, theirs row) bool { return a.num(mine, "id") == b.num(theirs, "id") },
		func(mine, theirs row) bool { return a.text(mine, "name") == b.text(theirs, "name") },
		func(mine, theirs row) bool { return true },
	} {
		for _, r := range b.rows {
			id := b.num(r, "id")
			if same[id] != 0 {
				continue
			}
			for _, mine := range began[b.text(r, "created_at")] {
				if !taken[mine] && fits(a.byID[mine], r) {
					same[id], taken[mine] = mine, true
					break
				}
			}
		}
	}
}

// onlyOneOf is what a table has one row of, and by which column.
func onlyOneOf(name string) (of, by string) {
	switch name {
	case "needs":
		return "makings", "making_id"
	case "yarns":
		return "layups", "layup_id"
	}
	return "", ""
}

// matchMovements finds the lines of the ledger that are the same on both. Both have the same columns.
func (p pair) matchMovements() {
	t := p.here.tables["movements"]
	key := func(r row, lot int64) string {
		return fmt.Sprint(lot, "|", t.text(r, "at"), "|", t.num(r, "delta_mg"), "|", t.text(r, "reason"))
	}
	mine, undone := map[string][]int64{}, map[int64]int64{}
	for _, r := range t.rows {
		k := key(r, t.num(r, "lot_id"))
		mine[k] = append(mine[k], t.num(r, "id"))
		undone[t.num(r, "undoes_id")] = t.num(r, "id")
	}
	same := map[int64]int64{}
	for _, r := range p.there.tables["movements"].rows {
		if was := same[t.num(r, "undoes_id")]; was != 0 && undone[was] != 0 { // undone on both, which is once
			same[t.num(r, "id")] = undone[was]
			continue
		}
		k := key(r, p.same["lots"][t.num(r, "lot_id")])
		if list := mine[k]; len(list) > 0 {
			same[t.num(r, "id")], mine[k] = list[0], list[1:]
		}
	}
	p.same["movements"] = same
}
