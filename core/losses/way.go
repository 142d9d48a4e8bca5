package losses

// MaxPasses is how many passes are planned or told of at most.
const MaxPasses = 20

// MaxAlone is how often a fibre is carded alone, before it is laid, at most.
const MaxAlone = 5

// Way is the road of a fibre through the carder: what it loses, how often it was carded alone before it is laid, the pass at
// which it joins (counted from 1; 0 is 1) and how many passes there are. What would join after the last pass joins at it. Where
// there are no passes, it loses nothing but what it lost alone.
//
// Every weight that is foreseen goes by it: what is weighed in for so much finished, and what is left
// after each pass of what was weighed in.
type Way struct {
	Fall
	Alone, Joins, Passes int
}

// joins is the pass at which it joins.
func (w Way) joins() int { return min(max(w.Joins, 1), max(w.Passes, 1)) }

// After is the part that is left after a pass: before it has joined, what came off when it was carded alone.
func (w Way) After(pass int) float64 {
	return w.Left(w.Alone + max(min(pass, w.Passes)-w.joins()+1, 0))
}

// Laid is the part of what was weighed in that is there when it is laid, after it was carded alone.
func (w Way) Laid() float64 { return w.Left(w.Alone) }

// Yield is the part that is left at the end.
func (w Way) Yield() float64 { return w.After(w.Passes) }

// WeighIn is what is weighed in for so much finished, in the same unit.
func (w Way) WeighIn(finished float64) float64 { return finished / w.Yield() }

// Finished is what is left at the end of so much that was weighed in, in the same unit.
func (w Way) Finished(weighedIn float64) float64 { return weighedIn * w.Yield() }

// leastLack is the least that counts as lacking, grams: less is rounding.
const leastLack = 0.0005

// Lack is what is lacking of what is weighed in where so much of it is there; 0 where it suffices.
// Amounts are grams.
func Lack(weighIn, there float64) float64 {
	if short := weighIn - there; short > leastLack {
		return short
	}
	return 0
}
