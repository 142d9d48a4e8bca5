package floor

import "sort"

// InOrder puts a list in order, equals as they were. It is compiled once for lists of every sort of thing, which keeps the program small;
// what is sorted over and over is sorted by the standard library.
func InOrder[T any](list []T, by func(a, b T) int) {
	sort.SliceStable(list, func(i, j int) bool { return by(list[i], list[j]) < 0 })
}
