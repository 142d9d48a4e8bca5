package studio

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
)

// Rows of a list are named by what they are, or by a key of their own, and not
// by their place: a change may arrive after others have moved them.

// keysOf names components: a lot, one colour of a lot, or what is still to
// buy. Two that are the same in everything are told apart by their order.
func keysOf(list []BlendComponent) []string {
	out := make([]string, len(list))
	seen := map[string]int{}
	for i, c := range list {
		key := fmt.Sprintf("buy-%s-%s-%s-%s", c.Kind, c.Preparation, c.Hex, c.Name)
		if c.LotID != nil {
			key = fmt.Sprintf("lot-%d%s", *c.LotID, c.Only)
		}
		if seen[key]++; seen[key] > 1 {
			key = fmt.Sprintf("%s-%d", key, seen[key])
		}
		out[i] = key
	}
	return out
}

// giveKeys returns each row without a key, or with another's, one of its own.
// Keys are drawn, so that one that went is never another's.
func giveKeys(keys ...*int64) {
	used := map[int64]bool{0: true}
	for _, k := range keys {
		for used[*k] {
			*k = 1 + rand.Int64N(1<<40)
		}
		used[*k] = true
	}
}

func keyStops(list []Stop) {
	keys := make([]*int64, len(list))
	for i := range list {
		keys[i] = &list[i].Key
	}
	giveKeys(keys...)
}

func keyScraps(list []Scrap) {
	keys := make([]*int64, len(list))
	for i := range list {
		keys[i] = &list[i].Key
	}
	giveKeys(keys...)
}

// keyPlan gives each layer and each lay of a plan a key.
func keyPlan(p *layup.Plan) {
	var keys []*int64
	for i := range p.Layers {
		keys = append(keys, &p.Layers[i].Key)
		for j := range p.Layers[i].Lays {
			keys = append(keys, &p.Layers[i].Lays[j].Key)
		}
	}
	giveKeys(keys...)
}

// placed finds a row by its key, or where it has none by its place.
func placed[T any](list []T, key int64, at int, of func(T) int64, gone string) (int, error) {
	if key != 0 {
		at = slices.IndexFunc(list, func(v T) bool { return of(v) == key })
	}
	if at < 0 || at >= len(list) {
		return 0, fault.New("at", "%s", gone)
	}
	return at, nil
}
