package gradient

import (
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
)

// Range is a blend made lighter and darker in steps: what is added, and how much of it at most.
type Range struct {
	Base   []colour.Reflectance
	Shares []float64          // of the base, adding up to 1
	Added  colour.Reflectance // what lightens or darkens it
	Steps  int                // how many blends it makes
	Most   float64            // the share of it in the last of them
	Even   bool               // steps even to the eye; else by shares
	Model  mix.Model
}

// Limits of a range.
const (
	MostRangeSteps = 12
	LeastShare     = 0.01
	MostShare      = 0.99
)

// At is the colour of the base with a share of what is added.
func (r Range) At(share float64) colour.Reflectance {
	shares := make([]float64, len(r.Shares)+1)
	for i, v := range r.Shares {
		shares[i] = v * (1 - share)
	}
	shares[len(r.Shares)] = share
	return r.Model.Even(append(append([]colour.Reflectance{}, r.Base...), r.Added), shares)
}

// Places are the shares of what is added, from the base outwards, the last being Most: by equal shares, or so that each is as far
// from the one before as every other (CIEDE2000), as the bridges of a gradient are.
func (r Range) Places() ([]float64, error) {
	if r.Steps < 0 || r.Steps > MostRangeSteps {
		return nil, fault.New("steps", "A range has 0 to %d steps to each side.", MostRangeSteps)
	}
	if !(r.Most >= LeastShare && r.Most <= MostShare) {
		return nil, fault.New("largest_share", "The largest share lies from %g to %g.", LeastShare, MostShare)
	}
	out := make([]float64, r.Steps)
	for k := range out {
		out[k] = r.Most * float64(k+1) / float64(r.Steps)
	}
	if !r.Even || r.Steps < 2 {
		return out, nil
	}
	p := path{func(x float64) colour.Reflectance { return r.At(x * r.Most) }}
	shares, _ := p.even(r.Steps - 1)
	for k, x := range shares {
		out[k] = r.Most * x
	}
	return out, nil
}
