package floor

import (
	"math/rand/v2"
	"slices"

	"fairtangle/core/fault"
)

// GiveKeys returns each row without a key, or with another's, one of its own.
// Keys are drawn, so that one that went is never another's.
func GiveKeys(keys ...*int64) {
	used := map[int64]bool{0: true}
	for _, k := range keys {
		for used[*k] {
			*k = 1 + rand.Int64N(1<<40)
		}
		used[*k] = true
	}
}

// Placed finds a row by its key, or where it has none by its place.
func Placed[T any](list []T, key int64, at int, of func(T) int64, gone string) (int, error) {
	if key != 0 {
		at = slices.IndexFunc(list, func(v T) bool { return of(v) == key })
	}
	if at < 0 || at >= len(list) {
		return 0, fault.New("at", "%s", gone)
	}
	return at, nil
}
