package layup

import "math"

// Rolag is what one rolag gets of a board.
type Rolag struct {
	Start  float64   `json:"start"`
	End    float64   `json:"end"`
	Grams  float64   `json:"grams"`
	Shares []float64 `json:"shares"` // by component
}

// Stretch is a part of the length or the width.
type Stretch struct {
	Start float64 `json:"start"`
	End   float64 `json:"end"`
}

// Rolls is how a board is rolled off.
type Rolls struct {
	Count     int     `json:"count"`
	Suggested int     `json:"suggested"`
	ZoneMM    float64 `json:"zone_mm"` // of the board, for each
	WrapMM    float64 `json:"wrap_mm"` // drawn off for each
	// Staples is the wrap over the staple of the longest main fibre; 1.5 to 2
	// is right.
	Staples  float64   `json:"wrap_staples"`
	StapleMM float64   `json:"staple_mm"`
	Cuts     []float64 `json:"cut_lines"`
	// Clear is where the middle of a lock must not lie.
	Clear []Stretch `json:"keep_clear"`
	Each  []Rolag   `json:"each"`
}

// mainShare is the share from which a fibre is a main one.
const mainShare = 0.1

// aTenth is the least share of what is planned as a tenth: what the steps of a scale and the losses of fibres make of it as it is weighed in.
const aTenth = 0.93 * mainShare

// longest is the staple of the longest main fibre in mm: at least about a tenth of
// the weight, and neither texture nor sparkle nor a lock laid for its curl.
func longest(fibres []Fibre) (out float64) {
	var sum float64
	for _, f := range fibres {
		sum += f.Grams
	}
	for _, f := range fibres {
		if f.Ground() && f.Grams >= aTenth*sum {
			out = max(out, f.StapleMM)
		}
	}
	if out == 0 {
		for _, f := range fibres {
			out = max(out, f.StapleMM)
		}
	}
	return out
}

// SuggestRolags is how many rolags a board makes: so many that what is drawn
// off for each is nearest to 1.75 staples of the longest main fibre.
func SuggestRolags(b Bed, draft float64, fibres []Fibre) int {
	return int(min(max(1, math.Round(b.LengthMM*draft/(1.75*longest(fibres)))), MaxRolags))
}

// Rolls works out the rolags of a board; nil for a drum, for cards, and for a
// board that is not rolled, or in one sheet.
func (p Plan) Rolls(b Bed, fibres []Fibre) *Rolls {
	if b.Type != Board || p.Rolags == 0 || p.OffOf(b).Way != OffRolags {
		return nil
	}
	n := float64(p.Rolags)
	staple := longest(fibres)
	r := &Rolls{
		Count: p.Rolags, Suggested: SuggestRolags(b, p.Draft, fibres), ZoneMM: b.LengthMM / n, WrapMM: b.LengthMM / n * p.Draft, StapleMM: staple,
		Cuts: []float64{}, Clear: []Stretch{},
	}
	r.Staples = r.WrapMM / staple
	half := lockLength(fibres) / 2 / b.LengthMM
	for i := 1; i < p.Rolags; i++ {
		cut := float64(i) / n
		r.Cuts = append(r.Cuts, cut)
		if half > 0 {
			r.Clear = append(r.Clear, Stretch{max(0, cut-half), min(1, cut+half)})
		}
	}
	for i := range p.Rolags {
		v := Rolag{Start: float64(i) / n, End: float64(i+1) / n, Shares: make([]float64, len(fibres))}
		v.Grams = p.gramsIn(along, v.Start, v.End, v.Shares)
		for j := range v.Shares {
			v.Shares[j] /= max(v.Grams, speck)
		}
		r.Each = append(r.Each, v)
	}
	return r
}

// lockLength is the length of the longest lock in mm, 0 without locks.
func lockLength(fibres []Fibre) (out float64) {
	for _, f := range fibres {
		if f.Lock() {
			out = max(out, f.StapleMM)
		}
	}
	return out
}

// Crosses reports whether a lock laid there would cross a cut: its lay does, or
// the lay is shorter than the lock, which then hangs out of it.
func (v Lay) Crosses(f Fibre, b Bed, cuts []float64) bool {
	mid, half := (v.Start+v.End)/2, f.StapleMM/2/b.LengthMM
	from, to := min(v.Start, mid-half), max(v.End, mid+half)
	for _, c := range cuts {
		if from < c-1e-9 && to > c+1e-9 {
			return true
		}
	}
	return false
}
