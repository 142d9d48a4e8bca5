package layup

// How fibre lies in what was carded decides how it is drawn: fibres side by side draw smooth, fibres round a roll or across each
// other draw airy; for felt they are to cross, since it shrinks most along the fibre.

// Lie is how the fibres lie.
type Lie string

// Side by side along it, round a roll, or one layer across the other.
const (
	Along   Lie = "along"
	Round   Lie = "round"
	Crossed Lie = "crossed"
)

// CanCross reports whether what comes off can be laid crosswise: what is flat.
func (o Off) CanCross() bool { return o.Way == OffBatt || o.Way == OffMini || o.Way == OffHands }

// LieOf is how the fibres lie in what comes off a bed.
func (p Plan) LieOf(b Bed) Lie {
	o := p.OffOf(b)
	switch {
	case o.Rolled():
		return Round
	case o.Crossed && o.CanCross():
		return Crossed
	}
	return Along
}
