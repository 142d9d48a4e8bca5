// Package blend does the arithmetic of a recipe: shares with locks, what the
// shelf allows, and how small a sample can be.
package blend

import (
	"fmt"
	"math"

	"fairtangle/core/fault"
)

// Part is a component's say in a blend: any positive number of parts, and
// whether its share is locked.
type Part struct {
	Parts  float64
	Locked bool
}

// Blend is the parts of the components in their order. Methods that change it
// give a new Blend and leave the old one as it was.
type Blend []Part

// MaxParts bounds the number of parts that can be entered.
const MaxParts = 1e9

// slack is the share below which two shares count as equal.
const slack = 1e-12

// Check finds parts that are not a positive, finite number.
func (b Blend) Check() error {
	var l fault.List
	if len(b) == 0 {
		l.Add("components", "A blend has at least one component.")
	}
	for i, p := range b {
		if !(p.Parts > 0 && p.Parts <= MaxParts) {
			l.Add(fmt.Sprintf("components[%d].parts", i), "Parts are a number above 0 and at most %.0f.", MaxParts)
		}
	}
	return l.Err()
}

// Total is the sum of the parts.
func (b Blend) Total() (sum float64) {
	for _, p := range b {
		sum += p.Parts
	}
	return sum
}

// Shares returns each component's fraction of the weight. They add up to 1.
func (b Blend) Shares() []float64 {
	total := b.Total()
	out := make([]float64, len(b))
	for i, p := range b {
		out[i] = p.Parts / total
	}
	return out
}

// Room is the smallest and the largest share that component i can take: the
// locked others keep theirs, the unlocked others give way to a sliver. With no
// unlocked other both are the present share.
func (b Blend) Room(i int) (least, most float64) {
	locked, free := b.others(i)
	s := b.Shares()[i]
	if free <= slack {
		return s, s
	}
	return 0, 1 - locked
}

// others sums the shares of the locked and of the unlocked components but i.
func (b Blend) others(i int) (locked, free float64) {
	for j, s := range b.Shares() {
		switch {
		case j == i:
		case b[j].Locked:
			locked += s
		default:
			free += s
		}
	}
	return locked, free
}

// SetShare returns component i the share x. Locked others keep their share, the
// unlocked others scale by (1 - x - Σ locked) / Σ unlocked; the sum of parts
// stays. Refused when there is no unlocked other, or when x is not above 0 or
// beyond what the locks leave; the refusal names the largest x possible.
func (b Blend) SetShare(i int, x float64) (Blend, error) {
	field := fmt.Sprintf("components[%d].share", i)
	locked, free := b.others(i)
	if len(b) == 1 {
		if math.Abs(x-1) < slack {
			return b.with(), nil
		}
		return nil, fault.New(field, "The only component is all of the blend: its share is 100 %%. Add another one first.")
	}
	if free <= slack {
		s := b.Shares()[i]
		if math.Abs(x-s) < slack {
			return b.with(), nil
		}
		return nil, fault.New(field, "All other components are locked, so this one stays at %s %%. Unlock one of them.", percent(s))
	}
	most := 1 - locked
	if !(x > 0) {
		return nil, fault.New(field, "A share is above 0 %%. To leave the component out, remove it.")
	}
	if x >= most-slack {
		if locked == 0 {
			return nil, fault.New(field, "A share stays below 100 %% while there are other components.")
		}
		return nil, fault.New(field, "The locks leave less than %s %% for this one.", percent(most))
	}
	out := b.with()
	total := b.Total()
	scale := (1 - x - locked) / free
	for j := range out {
		switch {
		case j == i:
			out[j].Parts = x * total
		case !out[j].Locked:
			out[j].Parts *= scale
		}
	}
	return out, nil
}

// percent writes a share to a tenth of a percent, rounded down, so that "at
// most" stays true.
func percent(s float64) string { return fmt.Sprintf("%g", math.Floor(s*1000+1e-9)/10) }

// SetParts returns component i a number of parts. The unlocked others keep their
// parts; locked others keep their share, so their parts follow.
func (b Blend) SetParts(i int, parts float64) (Blend, error) {
	field := fmt.Sprintf("components[%d].parts", i)
	if !(parts > 0 && parts <= MaxParts) {
		return nil, fault.New(field, "Parts are a number above 0 and at most %.0f.", MaxParts)
	}
	locked, _ := b.others(i)
	if locked > 0 {
		var free float64
		for j, p := range b {
			if j != i && !p.Locked {
				free += p.Parts
			}
		}
		if free == 0 {
			return nil, fault.New(field, "All other components are locked, so this one can not change. Unlock one of them.")
		}
		shares, total := b.Shares(), (parts+free)/(1-locked)
		out := b.with()
		for j := range out {
			if j != i && out[j].Locked {
				out[j].Parts = shares[j] * total
			}
		}
		out[i].Parts = parts
		return out, nil
	}
	out := b.with()
	out[i].Parts = parts
	return out, nil
}

// Slide moves the edge between component i and the next one: i takes the share
// x, the next one gives or takes the difference, all others stay. Refused when
// either is locked or the edge would pass its neighbour.
func (b Blend) Slide(i int, x float64) (Blend, error) {
	field := fmt.Sprintf("components[%d].share", i)
	if i+1 >= len(b) {
		return nil, fault.New(field, "There is no next component to share with.")
	}
	if b[i].Locked || b[i+1].Locked {
		return nil, fault.New(field, "One side of this edge is locked.")
	}
	s := b.Shares()
	both := s[i] + s[i+1]
	if !(x > 0 && x < both) {
		return nil, fault.New(field, "Between these two there are %s %% to divide.", percent(both))
	}
	out, total := b.with(), b.Total()
	out[i].Parts, out[i+1].Parts = x*total, (both-x)*total
	return out, nil
}

// Add puts a component with share x at the end, as if it were set: locked
// others keep their share. Into an empty blend it goes as all of it.
func (b Blend) Add(x float64) (Blend, error) {
	if len(b) == 0 {
		return Blend{{Parts: 100}}, nil
	}
	var locked float64
	for j, s := range b.Shares() {
		if b[j].Locked {
			locked += s
		}
	}
	total, last := b.Total(), len(b)
	field := fmt.Sprintf("components[%d].share", last)
	switch {
	case 1-locked <= slack:
		return nil, fault.New(field, "Everything is locked. Unlock a component to make room.")
	case !(x > 0 && x < 1-locked-slack):
		return nil, fault.New(field, "The new component can have more than 0 and less than %s %%.", percent(1-locked))
	}
	out := b.with()
	scale := (1 - x - locked) / (1 - locked)
	for j := range out {
		if !out[j].Locked {
			out[j].Parts *= scale
		}
	}
	return append(out, Part{Parts: x * total}), nil
}

// Remove takes component i out; the others, locked ones too, keep their
// proportions and so scale up. The total weight stays.
func (b Blend) Remove(i int) (Blend, error) {
	if len(b) == 1 {
		return nil, fault.New("components", "The last component can not be removed. Delete the blend instead.")
	}
	return append(b[:i:i], b[i+1:]...).with(), nil
}

// RemoveShrinking takes component i out and leaves every other component's
// weight as it was: left is the fraction of the total weight that remains.
func (b Blend) RemoveShrinking(i int) (out Blend, left float64, err error) {
	s := b.Shares()[i]
	out, err = b.Remove(i)
	return out, 1 - s, err
}

func (b Blend) with() Blend { return append(Blend(nil), b...) }
