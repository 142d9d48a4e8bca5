package floor

import (
	"errors"
	"maps"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	lru "github.com/hashicorp/golang-lru/v2"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/store"
)

// There finds the data removed or replaced under the program.
func (s *Floor) There() error { return s.Store.There() }

// ConvertStale turns the row in a store.Stale into what the pages and the API
// show of it.
func ConvertStale[R, V any](err error, convert func(R) (V, error)) error {
	var stale store.Stale
	if !errors.As(err, &stale) {
		return err
	}
	row, ok := stale.Current.(R)
	if !ok {
		return err
	}
	v, convErr := convert(row)
	if convErr != nil {
		return convErr
	}
	return store.Stale{Current: v}
}

// Longest texts that can be entered, in characters.
const (
	MaxName = 120
	MaxFew  = 200
	MaxNote = 4000
)

// CheckText trims a text and finds it too long, or empty where it must not be.
func CheckText(l *fault.List, field, what string, s *string, most int, needed bool) {
	*s = strings.TrimSpace(strings.ToValidUTF8(*s, ""))
	*s = strings.Map(func(r rune) rune {
		switch {
		case (r == '\n' || r == '\t') && most <= MaxName: // a name stands in one line
			return ' '
		case r < ' ' && r != '\n' && r != '\t', r == 0x7f, unicode.Is(unicode.Bidi_Control, r), r == '\u2028', r == '\u2029':
			return -1
		}
		return r
	}, *s)
	*s = strings.TrimSpace(*s)
	switch n := utf8.RuneCountInString(*s); {
	case needed && n == 0:
		l.Add(field, "Give %s a name.", what)
	case n > most:
		l.Add(field, "This is %d characters long; %d is the most.", n, most)
	}
}

// CheckGrams finds a weight out of bounds.
func CheckGrams(l *fault.List, field string, g float64) {
	if !(g >= 0 && g <= float64(unit.MaxGrams)) {
		l.Add(field, "A weight is 0 or more and at most %s.", unit.MaxGrams)
	}
}

// ReflectanceOf returns the reflectance of a stored colour.
func ReflectanceOf(hex string) colour.Reflectance {
	if r, ok := recovered.Get(hex); ok {
		return r
	}
	c, err := colour.ParseHex(hex)
	if err != nil {
		c = colour.Linear{0.5, 0.5, 0.5}
	}
	r, _ := c.Reflectance()
	recovered.Add(hex, r)
	return r
}

// recovered are the reflectances of the colours met last; each takes a search of its own.
var recovered, _ = lru.New[string, colour.Reflectance](4096)

// ReflectanceIn returns what was measured of a colour, or what follows from it.
func ReflectanceIn(c store.Colour) (r colour.Reflectance) {
	if len(c.Reflectance) == colour.Bands {
		copy(r[:], c.Reflectance)
		return r
	}
	return ReflectanceOf(c.Hex)
}

// SigmaOf is how unsure a colour is.
func SigmaOf(c store.Colour) float64 {
	if mix.Source(c.Source) == mix.Foreseen && c.Sigma > 0 {
		return c.Sigma
	}
	return mix.Source(c.Source).Sigma()
}

// MeanColour is the even mix of a lot's colours by their shares, and how unsure the least
// sure of them is.
func MeanColour(colours []store.Colour) (colour.Reflectance, float64) {
	if len(colours) == 0 {
		return ReflectanceOf("#808080"), mix.Picker.Sigma()
	}
	lots, shares := make([]colour.Reflectance, len(colours)), make([]float64, len(colours))
	var sum, sigma float64
	for i, c := range colours {
		lots[i], shares[i] = ReflectanceIn(c), c.Share
		sum += c.Share
		sigma = max(sigma, SigmaOf(c))
	}
	for i := range shares {
		shares[i] /= sum
	}
	if len(lots) == 1 {
		return lots[0], sigma
	}
	return mix.Default().Even(lots, shares), sigma
}

// MeanLinear is meanColour as it looks, without its reflectance.
func MeanLinear(colours []store.Colour) colour.Linear {
	if len(colours) == 1 {
		if c, err := colour.ParseHex(colours[0].Hex); err == nil {
			return c
		}
	}
	mean, _ := MeanColour(colours)
	return mean.Linear()
}

// IsStale reports that another window was first.
func IsStale(err error) bool {
	var stale store.Stale
	return errors.As(err, &stale)
}

// KnownSource reports whether a colour can come from there.
func KnownSource(s mix.Source) bool { return slices.Contains(mix.Sources(), s) }

// SortedKeys are the keys of a map in their order.
func SortedKeys[V any](m map[int64]V) []int64 { return slices.Sorted(maps.Keys(m)) }
