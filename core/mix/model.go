// Package mix predicts the colour of fibres mixed by weight, and says how sure
// that is.
package mix

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
)

// Name is the name of a mixing model as the API writes it.
type Name string

// The three models. None has been checked here against measured fibre; hence
// the stated uncertainty.
const (
	StearnsNoechel Name = "stearns-noechel"
	Friele         Name = "friele"
	KubelkaMunk    Name = "kubelka-munk"
)

// Model is a mixing model with its parameter. Every model maps a reflectance,
// band by band, to a quantity that adds up in proportion to the shares.
//
//   - Stearns-Noechel ("Spectrophotometric prediction of color of wool
//     blends", 1944), parameter b: f = (1-R)/(b(R-0.01)+0.01) adds up. Here
//     in the form t = 1/(bR + a) with a = 0.01(1-b), which is f up to a
//     constant factor and summand and needs no clamp.
//   - Friele ("The application of the Kubelka-Munk theory to fibre blends",
//     1952), parameter s: exp(-s·K/S) adds up, K/S = (1-R)²/2R.
//   - Kubelka-Munk (1931), single constant: K/S adds up. Has no parameter.
//
// The last two hold R at 0.0001 or above.
type Model struct {
	Name      Name
	Parameter float64
}

// Default is Stearns-Noechel with b = 0.15.
func Default() Model { return Model{StearnsNoechel, 0.15} }

// NewModel checks a model's name and parameter. An empty name means the
// default model, a zero parameter the model's usual one.
func NewModel(name Name, parameter float64) (Model, error) {
	usual := map[Name]float64{StearnsNoechel: 0.15, Friele: 0.28, KubelkaMunk: 0}
	if name == "" {
		name = StearnsNoechel
	}
	p, ok := usual[name]
	if !ok {
		return Model{}, fault.New("model.name", "The mixing model is stearns-noechel, friele or kubelka-munk.")
	}
	if parameter == 0 || name == KubelkaMunk {
		return Model{name, p}, nil
	}
	if !(parameter > 0 && parameter <= 1) {
		return Model{}, fault.New("model.parameter", "The model's parameter lies above 0 and at most 1; the usual one for %s is %g.", name, p)
	}
	return Model{name, parameter}, nil
}

const floorR = 1e-4

func kOverS(r float64) float64 {
	r = max(r, floorR)
	return (1 - r) * (1 - r) / (2 * r)
}

func fromKOverS(q float64) float64 { return 1 / (1 + q + math.Sqrt(q*q+2*q)) }

// Prepared is a reflectance carried into the quantity that the model adds up
// (for Friele its logarithm, since the quantity itself underflows in dark
// bands). It belongs to the model that made it.
type Prepared [colour.Bands]float64

// Prepare carries a reflectance into the model's additive quantity.
func (m Model) Prepare(r *colour.Reflectance) (p Prepared) {
	switch m.Name {
	case Friele:
		for i, v := range r {
			p[i] = -m.Parameter * kOverS(v)
		}
	case KubelkaMunk:
		for i, v := range r {
			p[i] = kOverS(v)
		}
	default:
		b, a := m.Parameter, 0.01*(1-m.Parameter)
		for i, v := range r {
			p[i] = 1 / (b*v + a)
		}
	}
	return p
}

// Mix returns the reflectance of the even mix of prepared lots. shares has the
// length of lots, adds up to 1 and is not checked.
func (m Model) Mix(lots []Prepared, shares []float64) colour.Reflectance {
	var few [8]*Prepared
	refs := few[:0]
	for i := range lots {
		refs = append(refs, &lots[i])
	}
	return m.Blend(refs, shares)
}

// Blend is Mix for lots that are picked from among others. It allocates
// nothing.
func (m Model) Blend(lots []*Prepared, shares []float64) (r colour.Reflectance) {
	if m.Name == Friele {
		return m.mixFriele(lots, shares)
	}
	k := 0
	for ; k+4 <= len(shares); k += 4 { // four at a time, for speed
		s0, s1, s2, s3 := shares[k], shares[k+1], shares[k+2], shares[k+3]
		p0, p1, p2, p3 := lots[k], lots[k+1], lots[k+2], lots[k+3]
		for i := range r {
			r[i] += s0*p0[i] + s1*p1[i] + (s2*p2[i] + s3*p3[i])
		}
	}
	for ; k < len(shares); k++ {
		s, p := shares[k], lots[k]
		for i := range r {
			r[i] += s * p[i]
		}
	}
	if m.Name == KubelkaMunk {
		for i := range r {
			r[i] = fromKOverS(r[i])
		}
		return r
	}
	b, a := m.Parameter, 0.01*(1-m.Parameter)
	for i := range r {
		r[i] = (1/r[i] - a) / b
	}
	return r
}

// mixFriele adds exponentials by the log-sum-exp rule.
func (m Model) mixFriele(lots []*Prepared, shares []float64) (r colour.Reflectance) {
	for i := range r {
		top := math.Inf(-1)
		for k, s := range shares {
			if s > 0 {
				top = max(top, lots[k][i])
			}
		}
		var sum float64
		for k, s := range shares {
			if s > 0 {
				sum += s * math.Exp(lots[k][i]-top)
			}
		}
		r[i] = fromKOverS(max(0, -(top+math.Log(sum))/m.Parameter))
	}
	return r
}

// Even returns the reflectance of the even mix of lots in these shares.
func (m Model) Even(lots []colour.Reflectance, shares []float64) colour.Reflectance {
	p := make([]Prepared, len(lots))
	for i := range lots {
		p[i] = m.Prepare(&lots[i])
	}
	return m.Mix(p, shares)
}

// Area is the linear mean of reflectances, for patches that the eye still
// sees apart.
func Area(lots []colour.Reflectance, shares []float64) (r colour.Reflectance) {
	for k, s := range shares {
		for i := range r {
			r[i] += s * lots[k][i]
		}
	}
	return r
}

// Cover turns shares by weight into shares of visible fibre surface: a gram of
// fine light fibre shows more than a gram of coarse dense fibre, as
// 1/(density × mean diameter). thickness[i] is that product for component i,
// in g/cm³·µm; 0 means unknown and takes the weighted mean of the known ones.
// The result adds up to 1.
func Cover(shares, thickness []float64) []float64 {
	var known, sum float64
	for i, t := range thickness {
		if t > 0 {
			known += shares[i]
			sum += shares[i] * t
		}
	}
	mean := 1.0
	if known > 0 {
		mean = sum / known
	}
	out := make([]float64, len(shares))
	var total float64
	for i, t := range thickness {
		if t <= 0 {
			t = mean
		}
		out[i] = shares[i] / t
		total += out[i]
	}
	for i := range out {
		out[i] /= total
	}
	return out
}
