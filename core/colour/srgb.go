package colour

import (
	"fmt"
	"math"
	"strconv"

	"fairtangle/core/fault"
)

// gamutSlack is how far beyond 0..1 a channel may lie by arithmetic noise
// before a colour counts as outside sRGB.
const gamutSlack = 1e-9

// ParseHex reads "#rrggbb" into linear light. Anything else is a fault on the
// field "hex".
func ParseHex(s string) (Linear, error) {
	if len(s) == 7 && s[0] == '#' {
		if n, err := strconv.ParseUint(s[1:], 16, 32); err == nil {
			return Linear{decoded[n>>16], decoded[n>>8&255], decoded[n&255]}, nil
		}
	}
	return Linear{}, fault.New("hex", "A colour is written as # and six digits or letters a to f, such as #7d8f92.")
}

var decoded = func() (t [256]float64) {
	for i := range t {
		v := float64(i) / 255
		if v <= 0.04045 {
			t[i] = v / 12.92
		} else {
			t[i] = math.Pow((v+0.055)/1.055, 2.4)
		}
	}
	return t
}()

// SRGB255 returns gamma-encoded channels on a scale of 255, not clipped and not
// rounded (IEC 61966-2-1).
func (c Linear) SRGB255() [3]float64 {
	var out [3]float64
	for i, v := range c {
		if v <= 0.0031308 {
			out[i] = 255 * 12.92 * v
		} else {
			out[i] = 255 * (1.055*math.Pow(v, 1/2.4) - 0.055)
		}
	}
	return out
}

// Hex returns "#rrggbb", each channel clipped to the gamut and rounded.
func (c Linear) Hex() string {
	v := c.SRGB255()
	var n [3]int
	for i := range v {
		n[i] = int(math.Floor(min(max(v[i], 0), 255) + 0.5))
	}
	return fmt.Sprintf("#%02x%02x%02x", n[0], n[1], n[2])
}

// InGamut reports whether sRGB can show the colour without clipping.
func (c Linear) InGamut() bool {
	for _, v := range c {
		if v < -gamutSlack || v > 1+gamutSlack {
			return false
		}
	}
	return true
}

// Clipped moves each channel into 0..1.
func (c Linear) Clipped() Linear {
	for i := range c {
		c[i] = min(max(c[i], 0), 1)
	}
	return c
}
