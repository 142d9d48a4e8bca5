package fibre

import "math"

// Portion is a kind of fibre in a blend, by its share of the weight. StapleMM is what was
// measured of it; 0: that of the kind.
type Portion struct {
	Kind
	Share    float64
	StapleMM float64
}

// Together is the kind that a blend is, carded: what a fibre of it is on average. What is
// told by a word is that of the largest portion; staple, loss and its decay are means by weight;
// density is mass over the sum of volumes, and the diameter is such that a gram covers as
// much as its portions together. Shares add up to 1.
func Together(name string, list []Portion) Kind {
	var out Kind
	var most, volume, cover float64
	for _, p := range list {
		if p.Share > most {
			most, out = p.Share, p.Kind
		}
	}
	out.Key, out.Name, out.Note, out.MaxPct, out.Blended = "", name, "", 0, true
	out.StapleMM, out.LossPct, out.Decay, out.MinTPI, out.MaxTPI, out.Fragile = Range{}, Range{}, 0, 0, 0, false
	for _, p := range list {
		staple := p.Kind.StapleMM
		if p.StapleMM > 0 {
			staple = Range{p.StapleMM, p.StapleMM}
		}
		out.StapleMM = out.StapleMM.plus(staple, p.Share)
		out.LossPct = out.LossPct.plus(p.LossPct, p.Share)
		out.Decay += p.Share * p.Decay
		volume += p.Share / p.Density
		cover += p.Share / p.Thickness()
		if p.Share >= tellingShare {
			out.MinTPI = max(out.MinTPI, p.MinTPI)
			out.Fragile = out.Fragile || p.Fragile
		}
	}
	out.Density = 1 / volume
	mid := 1 / cover / out.Density
	if out.Family == "sparkle" { // its thickness is not its diameter
		mid = out.DiameterUM.Mid()
	}
	wide := out.DiameterUM.High - out.DiameterUM.Low
	out.DiameterUM = Range{math.Max(1, mid-wide/2), 0}
	out.DiameterUM.High = 2*mid - out.DiameterUM.Low
	return out
}

// tellingShare is the share from which a fibre tells how the whole is handled.
const tellingShare = 0.1

func (r Range) plus(o Range, share float64) Range {
	return Range{r.Low + share*o.Low, r.High + share*o.High}
}
