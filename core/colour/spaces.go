package colour

import "math"

// XYZ are CIE tristimulus values with Y = 1 for the perfect white.
type XYZ [3]float64

// Linear is linear-light sRGB; 0..1 inside the gamut, not clipped outside it.
type Linear [3]float64

// Lab is CIELAB under D65, 2 degree observer (CIE 15:2004).
type Lab struct{ L, A, B float64 }

// OKLab is Ottosson's perceptual space (2020).
type OKLab struct{ L, A, B float64 }

// Linear integrates a reflectance under D65 into linear sRGB.
func (r *Reflectance) Linear() Linear {
	var a, b, c float64
	for i := range Bands {
		t, v := &toLinearT[i], r[i]
		a += t[0] * v
		b += t[1] * v
		c += t[2] * v
	}
	return Linear{a, b, c}
}

// Lab is the CIELAB value of the reflectance under D65.
func (r *Reflectance) Lab() Lab { return r.Linear().Lab() }

// XYZ converts linear sRGB to tristimulus values.
func (c Linear) XYZ() XYZ { return apply(rgbToXYZ, c) }

// Lab converts linear sRGB to CIELAB.
func (c Linear) Lab() Lab { return c.XYZ().Lab() }

// Linear converts tristimulus values to linear sRGB, unclipped.
func (v XYZ) Linear() Linear { return apply(xyzToRGB, v) }

const (
	labEpsilon = 216.0 / 24389
	labKappa   = 24389.0 / 27
)

func labF(t float64) float64 {
	if t > labEpsilon {
		return math.Cbrt(t)
	}
	return (labKappa*t + 16) / 116
}

func labInverse(f float64) float64 {
	if t := f * f * f; t > labEpsilon {
		return t
	}
	return (116*f - 16) / labKappa
}

// Lab converts to CIELAB with the D65 white.
func (v XYZ) Lab() Lab {
	x, y, z := labF(v[0]/white[0]), labF(v[1]/white[1]), labF(v[2]/white[2])
	return Lab{116*y - 16, 500 * (x - y), 200 * (y - z)}
}

// XYZ converts CIELAB back to tristimulus values.
func (c Lab) XYZ() XYZ {
	y := (c.L + 16) / 116
	return XYZ{
		white[0] * labInverse(y+c.A/500),
		white[1] * labInverse(y),
		white[2] * labInverse(y-c.B/200),
	}
}

// Linear converts CIELAB to linear sRGB, unclipped.
func (c Lab) Linear() Linear { return c.XYZ().Linear() }

// Chroma is the distance from the neutral axis.
func (c Lab) Chroma() float64 { return math.Hypot(c.A, c.B) }

// Hue is the hue angle in degrees, 0 up to 360.
func (c Lab) Hue() float64 {
	h := math.Atan2(c.B, c.A) * 180 / math.Pi
	if h < 0 {
		h += 360
	}
	return h
}

// OKLab converts linear sRGB (Ottosson, "A perceptual color space for image
// processing", 2020, with the matrices as revised in January 2021).
func (c Linear) OKLab() OKLab {
	l := math.Cbrt(0.4122214708*c[0] + 0.5363325363*c[1] + 0.0514459929*c[2])
	m := math.Cbrt(0.2119034982*c[0] + 0.6806995451*c[1] + 0.1073969566*c[2])
	s := math.Cbrt(0.0883024619*c[0] + 0.2817188376*c[1] + 0.6299787005*c[2])
	return OKLab{
		0.2104542553*l + 0.7936177850*m - 0.0040720468*s,
		1.9779984951*l - 2.4285922050*m + 0.4505937099*s,
		0.0259040371*l + 0.7827717662*m - 0.8086757660*s,
	}
}

// LabSlope returns the CIELAB value of a linear colour and its derivatives by
// the three channels, slope[axis][channel].
func (c Linear) LabSlope() (lab Lab, slope [3][3]float64) {
	v := c.XYZ()
	var f, df [3]float64
	for i := range 3 {
		t := v[i] / white[i]
		f[i] = labF(t)
		if t > labEpsilon {
			df[i] = 1 / (3 * f[i] * f[i] * white[i])
		} else {
			df[i] = labKappa / 116 / white[i]
		}
	}
	for ch := range 3 {
		x, y, z := df[0]*rgbToXYZ[0][ch], df[1]*rgbToXYZ[1][ch], df[2]*rgbToXYZ[2][ch]
		slope[0][ch], slope[1][ch], slope[2][ch] = 116*y, 500*(x-y), 200*(y-z)
	}
	return Lab{116*f[1] - 16, 500 * (f[0] - f[1]), 200 * (f[1] - f[2])}, slope
}
