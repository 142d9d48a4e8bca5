package advice

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/unit"
)

// Stocked is a fibre that lies on the shelf and is not in the plan.
type Stocked struct {
	Fibre                                   // Share is 0; HaveG is how much of it nobody else was promised
	Lot   int64                             // whose fibre it is
	Mix   func(shares []float64) colour.Lab // of the fibres of the plan with it as the last; nil where colours are not known
}

// What is added from the shelf: how many lots are tried, and the least and the most that one becomes.
const (
	mostTried  = 3
	leastAdded = 0.01
	mostAdded  = 0.9
)

// fromShelf adds the least share, in whole percent, of a wool of the shelf that ends a finding and makes no further stop;
// the others give way in proportion. The shelf gives what is nearest in colour first.
func fromShelf(p Plan, f Finding, b Bounds, before Answer) *Mend {
	if p.Shelf == nil || len(p.Layers) > 0 || len(p.Fibres) == 0 {
		return nil
	}
	for i, s := range p.Shelf() {
		if i == mostTried {
			break
		}
		most := mostAdded
		if s.HaveG != nil && p.TotalG > 0 {
			most = math.Min(most, *s.HaveG/p.TotalG)
		}
		ends := func(percent int) (Plan, Answer, bool) {
			after, ok := p.with(s, float64(percent)/100)
			if !ok {
				return after, Answer{}, false
			}
			now := judged(after, b)
			return after, now, !now.has(f) && now.Stops() <= before.Stops()
		}
		low, high := int(100*leastAdded)-1, int(100*most+near)
		if _, _, ok := ends(high); !ok {
			continue
		}
		for high-low > 1 { // high ends it, low does not
			if at := (low + high) / 2; func() bool { _, _, ok := ends(at); return ok }() {
				high = at
			} else {
				low = at
			}
		}
		after, now, _ := ends(high)
		out := Mend{
			Verb: "add", Preview: unit.Say("Add %g %% %s, from the shelf.", float64(high), s.Name), After: after, Add: s.Lot,
			Ends: lacks(before.rules(), now.rules()), Comes: lacks(now.rules(), before.rules()),
		}
		return &out
	}
	return nil
}

// with is a plan with so much of a fibre of the shelf in it; what is not locked gives way in proportion. ok is false
// where too much is locked.
func (p Plan) with(s Stocked, share float64) (Plan, bool) {
	free := 0.0
	for _, f := range p.Fibres {
		if !f.Locked {
			free += f.Share
		}
	}
	if !(share > 0 && free > share) {
		return p, false
	}
	after := p.clone()
	for i, f := range after.Fibres {
		if !f.Locked {
			after.Fibres[i].Share = f.Share * (free - share) / free
		}
	}
	added := s.Fibre
	added.Share, added.Joins = share, 1
	after.Fibres = append(after.Fibres, added)
	after.Mix, after.Shelf = s.Mix, nil
	return after, true
}
