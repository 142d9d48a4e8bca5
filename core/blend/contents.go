package blend

import (
	"cmp"
	"slices"
)

// Content is a fibre that lies in something, by its share of the weight. Lot is 0 where
// it came from no lot.
type Content struct {
	Lot       int64
	Name      string
	Kind      string
	Superwash bool
	Share     float64
}

// Ingredient is what went into something: finished grams of a fibre, or of what is itself
// a blend of others.
type Ingredient struct {
	Content
	Grams float64
	Of    []Content // what it is a blend of; empty: it is one fibre
}

// Contents are the fibres in what these ingredients make, through blends of blends down
// to what was never blended: shares add up to 1, the most first, and what is the same
// stands there once.
func Contents(list []Ingredient) (out []Content) {
	var all float64
	for _, v := range list {
		all += v.Grams
	}
	if !(all > 0) {
		return nil
	}
	put := func(c Content, share float64) {
		if share <= 0 {
			return
		}
		c.Share = 0
		i := slices.IndexFunc(out, func(o Content) bool {
			o.Share = 0
			return o == c || c.Lot != 0 && o.Lot == c.Lot && o.Name == c.Name
		})
		if i < 0 {
			out, i = append(out, c), len(out)
		}
		out[i].Share += share
	}
	for _, v := range list {
		if len(v.Of) == 0 {
			put(v.Content, v.Grams/all)
			continue
		}
		var whole float64
		for _, c := range v.Of {
			whole += c.Share
		}
		for _, c := range v.Of {
			put(c, v.Grams/all*c.Share/whole)
		}
	}
	slices.SortStableFunc(out, func(a, b Content) int { return cmp.Compare(b.Share, a.Share) })
	return out
}
