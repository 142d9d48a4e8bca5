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
// from the one before as every other (CIEDE2000), to a thousandth of the jump.
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
	seen := func(s float64) colour.Lab {
		c := r.At(s)
		return c.Lab()
	}
	low, high := 0.0, colour.CIEDE2000(seen(0), seen(r.Most))
	for range halvings {
		mid := (low + high) / 2
		if list, past := r.walk(seen, mid); past {
			high = mid
		} else {
			low, out = mid, list
		}
	}
	out[r.Steps-1] = r.Most
	return out, nil
}

// halvings of a jump or a share come to a millionth of it.
const halvings = 30

// walk goes on by jumps of a size; past is whether the last of them would lie beyond the largest share.
func (r Range) walk(seen func(float64) colour.Lab, jump float64) (out []float64, past bool) {
	at := 0.0
	for range r.Steps {
		from := seen(at)
		if colour.CIEDE2000(from, seen(r.Most)) < jump {
			return nil, true
		}
		low, high := at, r.Most
		for range halvings {
			if mid := (low + high) / 2; colour.CIEDE2000(from, seen(mid)) < jump {
				low = mid
			} else {
				high = mid
			}
		}
		at = high
		out = append(out, at)
	}
	return out, false
}
