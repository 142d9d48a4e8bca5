// Package colour holds spectra and colour values: 36-band reflectances, CIE
// XYZ, CIELAB, OKLab and sRGB, the difference between two colours, and a
// plausible reflectance for a colour of which only the value is known.
//
// Conventions: 36 bands from 380 to 730 nm by 10 nm, the CIE 1931 2 degree
// observer, illuminant D65, the sRGB primaries of IEC 61966-2-1.
package colour

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"strconv"
	"strings"
)

// Bands is the number of bands of a Reflectance.
const Bands = 36

// Reflectance is the fraction of light returned in each band, 380..730 nm by
// 10 nm, each normally within 0..1.
type Reflectance [Bands]float64

//go:embed cie.csv
var cieCSV string

// Derived once at start from the CIE table and the sRGB chromaticities.
var (
	white      XYZ           // D65 as x = 0.3127, y = 0.3290 gives it
	rgbToXYZ   [3][3]float64 // linear sRGB to XYZ
	xyzToRGB   [3][3]float64
	toLinear   [3][Bands]float64 // T: reflectance to linear sRGB, each row sums to 1
	toLinearT  [Bands][3]float64 // the same, band by band
	cieRecords = readCIE()
)

func init() {
	const x, y = 0.3127, 0.3290
	white = XYZ{x / y, 1, (1 - x - y) / y}
	rgbToXYZ = primaries([3][2]float64{{0.64, 0.33}, {0.30, 0.60}, {0.15, 0.06}}, white)
	xyzToRGB = inverse(rgbToXYZ)

	var norm float64
	for _, r := range cieRecords {
		norm += r[1] * r[3]
	}
	for i := range 3 {
		var sum float64
		for b, r := range cieRecords {
			for j := range 3 {
				toLinear[i][b] += xyzToRGB[i][j] * r[j] * r[3] / norm
			}
			sum += toLinear[i][b]
		}
		// A flat reflectance is to come out exactly neutral.
		for b := range Bands {
			toLinear[i][b] /= sum
			toLinearT[b][i] = toLinear[i][b]
		}
	}
}

// readCIE returns x-bar, y-bar, z-bar and the power of D65 for each band.
func readCIE() [Bands][4]float64 {
	rows, err := csv.NewReader(strings.NewReader(cieCSV)).ReadAll()
	if err != nil || len(rows) != Bands+1 {
		panic(fmt.Sprintf("colour: embedded cie.csv is damaged: %d rows, %v", len(rows), err))
	}
	var out [Bands][4]float64
	for b, row := range rows[1:] {
		for j := range 4 {
			if out[b][j], err = strconv.ParseFloat(row[j+1], 64); err != nil {
				panic("colour: embedded cie.csv is damaged: " + err.Error())
			}
		}
	}
	return out
}

// primaries returns the matrix from linear RGB to XYZ for three chromaticities
// and a white (Lindbloom's derivation; SMPTE RP 177, 1993).
func primaries(xy [3][2]float64, w XYZ) [3][3]float64 {
	var m [3][3]float64
	for j, c := range xy {
		m[0][j], m[1][j], m[2][j] = c[0]/c[1], 1, (1-c[0]-c[1])/c[1]
	}
	s := apply(inverse(m), w)
	for i := range 3 {
		for j := range 3 {
			m[i][j] *= s[j]
		}
	}
	return m
}

func apply(m [3][3]float64, v [3]float64) [3]float64 {
	return [3]float64{
		m[0][0]*v[0] + m[0][1]*v[1] + m[0][2]*v[2],
		m[1][0]*v[0] + m[1][1]*v[1] + m[1][2]*v[2],
		m[2][0]*v[0] + m[2][1]*v[1] + m[2][2]*v[2],
	}
}

func inverse(m [3][3]float64) [3][3]float64 {
	var c [3][3]float64
	for i := range 3 {
		for j := range 3 {
			a, b, d, e := (j+1)%3, (i+1)%3, (j+2)%3, (i+2)%3
			c[i][j] = m[a][b]*m[d][e] - m[a][e]*m[d][b]
		}
	}
	det := m[0][0]*c[0][0] + m[0][1]*c[1][0] + m[0][2]*c[2][0]
	for i := range 3 {
		for j := range 3 {
			c[i][j] /= det
		}
	}
	return c
}

// Sight is T transposed: what each band of a reflectance adds to each channel
// of linear sRGB. The caller must not change it.
func Sight() *[Bands][3]float64 { return &toLinearT }
