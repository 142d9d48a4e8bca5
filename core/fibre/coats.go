package fibre

import "slices"

// twoCoats are the wools that grow in two coats, at the top and the down of which a fleece is parted.
var twoCoats = []string{"icelandic", "navajo_churro", "herdwick"}

// TwoCoats reports whether a lot of a kind holds two coats: an outer one of long coarse hair and a down below
// it. Animals that are combed or shorn for their down have both as long as it is a fleece; as a top or a cloud they were parted.
func TwoCoats(k Kind, preparation string) bool {
	if slices.Contains(twoCoats, k.Key) {
		return true
	}
	fleece := slices.Contains([]string{"raw_fleece", "washed_fleece", "washed_locks", "locks"}, preparation)
	return fleece && (k.Family == "down" || k.Key == "llama")
}

// WashedAtHome reports whether fibre of a preparation comes from a fleece that is worked up at home: what is left in it of grease
// and dust goes when the yarn is washed.
func WashedAtHome(preparation string) bool {
	return slices.Contains([]string{"raw_fleece", "washed_fleece", "washed_locks", "locks", "picked_cloud"}, preparation)
}
