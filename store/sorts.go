package store

import "fmt"

// Sort is a sort of record: what is the same for all pieces of work, so that each is kept, put into the
// bin, stepped through and found again in one way.
type Sort struct {
	Table  string
	Word   string // what a maker calls one
	List   string // the page where they are listed
	Page   string // of one, with its id; empty: it has none of its own and is shown in the list
	Binned bool   // it can go to the bin
	Of     string // the table of what it belongs to, by the column By
	By     string
}

// sorts are all of them, in the order in which the bin shows them.
var sorts = []Sort{
	{Table: "lots", Word: "lot", List: "/shelf", Page: "/lots/%d/edit", Binned: true},
	{Table: "makings", Word: "making", List: "/makings", Page: "/makings/%d", Binned: true},
	{Table: "blends", Word: "blend", List: "/makings", Page: "/blends/%d", Binned: true, Of: "makings", By: "making_id"},
	{Table: "weighouts", Word: "weigh-out", List: "/makings", Page: "/weighouts/%d", Binned: true, Of: "blends", By: "blend_id"},
	{Table: "equipment", Word: "equipment", List: "/workshop", Page: "/equipment/%d", Binned: true},
	{Table: "kinds", Word: "kind of fibre", List: "/kinds", Page: "/kinds/%d", Binned: true},
	{Table: "gradients", Word: "gradient", List: "/makings", Page: "/gradients/%d", Binned: true, Of: "makings", By: "making_id"},
	{Table: "scrap_sets", Word: "bag of scraps", List: "/scraps", Page: "/scraps/%d", Binned: true},
	{Table: "photos", Word: "photo", List: "/photos", Page: "/photos/%d", Binned: true},
	{Table: "samples", Word: "sample", List: "/calibration", Binned: true},
	{Table: "layups", Word: "lay-up", List: "/makings", Page: "/layups/%d", Binned: true, Of: "blends", By: "blend_id"},
	{Table: "scales", Word: "scale", List: "/scales", Binned: true},
	{Table: "containers", Word: "container", List: "/scales", Binned: true},
	{Table: "tools", Word: "tool", List: "/tools", Binned: true},
	{Table: "sales", Word: "sale", List: "/sold", Binned: true},
	{Table: "practices", Word: "practice", List: "/practise", Page: "/practised/%d", Binned: true},
	{Table: "rounds", Word: "round of a class", List: "/rounds", Page: "/rounds/%d", Binned: true},
	{Table: "runs", Word: "run", List: "/makings", Page: "/runs/%d", Binned: true, Of: "makings", By: "making_id"},
	{Table: "cleanings", Word: "cleaning", List: "/workshop", Binned: true},
	{Table: "sources", Word: "source", List: "/buy", Page: "/sources/%d", Binned: true},
	{Table: "offers", Word: "price", List: "/buy", Binned: true, Of: "sources", By: "source_id"},
	{Table: "buy_lists", Word: "list to buy", List: "/buy", Page: "/buy/%d", Binned: true},
	{Table: "yarn_samples", Word: "sample of yarn", List: "/makings", Page: "/yarnsamples/%d", Binned: true, Of: "makings", By: "making_id"},
	{Table: "skeins", Word: "skein", List: "/makings", Page: "/skeins/%d", Binned: true, Of: "makings", By: "making_id"},
	{Table: "silences", Word: "silence of a rule", List: "/advice", Binned: true},
	{Table: "needs", Word: "need", List: "/makings", Page: "/needs/%d", Of: "makings", By: "making_id"},
	{Table: "yarns", Word: "yarn", List: "/makings", Of: "layups", By: "layup_id"},
	{Table: "settings", Word: "workshop", List: "/workshop"},
}

// Sorts lists all of them.
func Sorts() []Sort { return sorts }

// SortOf finds a sort by its table, which a page or a program may have named.
func SortOf(table string) (Sort, bool) {
	for _, s := range sorts {
		if s.Table == table {
			return s, true
		}
	}
	return Sort{}, false
}

// Home is where a record of it is shown and changed.
func (s Sort) Home(id int64) string {
	if s.Page == "" {
		return s.List
	}
	return fmt.Sprintf(s.Page, id)
}
