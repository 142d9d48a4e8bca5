package colour

import "math"

const (
	recoverResidual   = 1e-10
	recoverIterations = 40
	blackReflectance  = 1e-4
)

// Reflectance returns a smooth, physically possible reflectance that has this
// colour under D65: Burns' least slope of the hyperbolic tangent ("Numerical
// methods for smoothest reflectance reconstruction", 2019). With
// R = (1 + tanh z)/2 it minimises the sum of (z[i+1] - z[i])² subject to
// T·R = c. Black gives 0.0001 in every band, white 1. A colour that no
// reflectance can have is clipped to the sRGB gamut first; ok tells whether
// the colour asked for was met.
func (c Linear) Reflectance() (r Reflectance, ok bool) {
	if c.InGamut() {
		return solve(c.Clipped())
	}
	if r, ok = solve(c); ok {
		return r, true
	}
	r, _ = solve(c.Clipped())
	return r, false
}

func solve(c Linear) (Reflectance, bool) {
	switch c {
	case Linear{}:
		return flat(blackReflectance), true
	case Linear{1, 1, 1}:
		return flat(1), true
	}
	var z [Bands]float64
	var lambda [3]float64
	var r Reflectance
	var s step
	for range recoverIterations {
		s.build(&z, &lambda, c)
		if s.residual < recoverResidual {
			for i := range Bands {
				r[i] = (1 + s.tanh[i]) / 2
			}
			return r, true
		}
		if !s.advance(&z, &lambda) {
			break
		}
	}
	// Unreached inside the gamut (a test walks a grid of it): answer with the
	// flat reflectance of the same luminance instead of noise.
	return flat(min(max(c.XYZ()[1], blackReflectance), 1)), false
}

func flat(v float64) (r Reflectance) {
	for i := range r {
		r[i] = v
	}
	return r
}

// step is one Newton step on
//
//	K z + ½ sech²(z)·Tᵀλ = 0
//	T (1 + tanh z)/2     = rgb
//
// K is tridiagonal. All of K but its last row and column is eliminated along
// the band; the last z and the three λ remain as a dense system of four. (The
// whole of K can not be eliminated: at z = λ = 0 it is singular.)
type step struct {
	tanh, sech2 [Bands]float64
	f1          [Bands]float64
	f2          [3]float64
	diag        [Bands]float64
	residual    float64
}

// build fills the system at (z, λ).
func (s *step) build(z *[Bands]float64, lambda *[3]float64, c Linear) {
	s.f2 = [3]float64{-c[0], -c[1], -c[2]}
	s.residual = 0
	for i := range Bands {
		t := math.Tanh(z[i])
		h := 1 - t*t
		s.tanh[i], s.sech2[i] = t, h
		tt := &toLinearT[i]
		tl := tt[0]*lambda[0] + tt[1]*lambda[1] + tt[2]*lambda[2]
		k, kz := 4.0, 4*z[i]
		if i == 0 || i == Bands-1 {
			k, kz = 2, 2*z[i]
		}
		if i > 0 {
			kz -= 2 * z[i-1]
		}
		if i < Bands-1 {
			kz -= 2 * z[i+1]
		}
		s.f1[i] = kz + h*tl/2
		s.diag[i] = k - h*t*tl
		s.residual = max(s.residual, math.Abs(s.f1[i]))
		r := (1 + t) / 2
		for j := range 3 {
			s.f2[j] += tt[j] * r
		}
	}
	for _, v := range s.f2 {
		s.residual = max(s.residual, math.Abs(v))
	}
}

// advance solves for the step and adds it; false when the system is singular.
func (s *step) advance(z *[Bands]float64, lambda *[3]float64) bool {
	const n = Bands - 1
	// Columns: the last z, the three λ, the right-hand side.
	var x [n][5]float64
	var up [n]float64 // eliminated super-diagonal
	for i := range n {
		h := s.sech2[i] / 2
		tt := &toLinearT[i]
		row := [5]float64{0, h * tt[0], h * tt[1], h * tt[2], -s.f1[i]}
		if i == n-1 {
			row[0] = -2
		}
		d := s.diag[i]
		if i > 0 {
			d += 2 * up[i-1]
			for j := range 5 {
				row[j] += 2 * x[i-1][j]
			}
		}
		if d == 0 {
			return false
		}
		up[i] = -2 / d
		for j := range 5 {
			x[i][j] = row[j] / d
		}
	}
	for i := n - 2; i >= 0; i-- {
		for j := range 5 {
			x[i][j] -= up[i] * x[i+1][j]
		}
	}
	// Schur complement on (last z, λ).
	var m [4][5]float64
	m[0][0] = s.diag[n] + 2*x[n-1][0]
	m[0][4] = -s.f1[n] + 2*x[n-1][4]
	for j := range 3 {
		b := s.sech2[n] / 2 * toLinearT[n][j]
		m[0][1+j] = b + 2*x[n-1][1+j]
		m[1+j][0] = b
		m[1+j][4] = -s.f2[j]
	}
	for i := range n {
		h := s.sech2[i] / 2
		for j := range 3 {
			b := h * toLinearT[i][j]
			for k := range 5 {
				m[1+j][k] -= b * x[i][k]
			}
		}
	}
	y, ok := solve4(&m)
	if !ok {
		return false
	}
	for i := range n {
		z[i] += x[i][4] - x[i][0]*y[0] - x[i][1]*y[1] - x[i][2]*y[2] - x[i][3]*y[3]
	}
	z[n] += y[0]
	for j := range 3 {
		lambda[j] += y[1+j]
	}
	return true
}

// solve4 is Gaussian elimination with partial pivoting on a 4 × 4 system with
// its right-hand side in the fifth column.
func solve4(m *[4][5]float64) (y [4]float64, ok bool) {
	for c := range 4 {
		p := c
		for r := c + 1; r < 4; r++ {
			if math.Abs(m[r][c]) > math.Abs(m[p][c]) {
				p = r
			}
		}
		if m[p][c] == 0 || math.IsNaN(m[p][c]) {
			return y, false
		}
		m[c], m[p] = m[p], m[c]
		for r := c + 1; r < 4; r++ {
			f := m[r][c] / m[c][c]
			for k := c; k < 5; k++ {
				m[r][k] -= f * m[c][k]
			}
		}
	}
	for r := 3; r >= 0; r-- {
		v := m[r][4]
		for k := r + 1; k < 4; k++ {
			v -= m[r][k] * y[k]
		}
		y[r] = v / m[r][r]
	}
	return y, true
}
