package calls

import (
	"fmt"
	"math"
	"slices"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/studio/workshop"
)

// ManyColours are the colours of a component of more than one, in place of its colour.
type ManyColours struct {
	Colours []struct {
		Colour workshop.ColourInput `json:"colour"`
		Share  float64              `json:"share"`
		RunCM  float64              `json:"run_cm"`
	} `json:"colours,omitempty"`
	Lies     string  `json:"lies,omitempty"`
	PatchCM  float64 `json:"patch_cm,omitempty"`
	TipShare float64 `json:"tip_share,omitempty"`
	Fed      string  `json:"fed,omitempty"`
	Abreast  int     `json:"abreast,omitempty"`
	TopGPerM float64 `json:"top_g_per_m,omitempty"`
}

// Usual figures of a fibre of many colours, and what they can be.
const (
	mostColours   = 24
	usualRunCM    = 12.0
	usualPatchCM  = 2.0
	usualTopGPerM = 25.0
	tornCM        = 6.0 // of a piece that is torn off
	patchPart     = 3.0 // a blotch covers a third of the top's width
)

// stirred says that a fibre of many colours shows one.
const stirred = "stirred"

func (c ManyColours) any() bool { return len(c.Colours) > 0 }

// check finds what is wrong, at fields below at.
func (c ManyColours) check(at string, l *fault.List) {
	n := len(c.Colours)
	if n < 2 || n > mostColours {
		l.Add(at+"colours", "A fibre of many colours has 2 to %d.", mostColours)
		return
	}
	var sum float64
	for i, v := range c.Colours {
		if !(v.Share > 0 && v.Share <= 1) {
			l.Add(fmt.Sprintf("%scolours[%d].share", at, i), "A share is above 0 and at most 1.")
		}
		if !(v.RunCM >= 0 && v.RunCM <= 1e4) {
			l.Add(fmt.Sprintf("%scolours[%d].run_cm", at, i), "A run is above 0 cm and at most 100 m; left out, it is as long as its share of 12 cm.")
		}
		sum += v.Share
	}
	if math.Abs(sum-1) > 1e-3 {
		l.Add(at+"colours", "The shares of its colours add up to %.4g, not to 1.", sum)
	}
	if !slices.Contains([]string{"", "along", "across", "patches", "tips", stirred}, c.Lies) {
		l.Add(at+"lies", "Colours lie along, across, in patches, at the tips, or stirred.")
	}
	if !slices.Contains([]string{"", "in-order", "abreast", "torn-up", "stirred-first"}, c.Fed) {
		l.Add(at+"fed", "It is fed in-order, abreast, torn-up or stirred-first.")
	}
	if c.Lies == "tips" && n != 2 {
		l.Add(at+"colours", "A staple with a tip has two colours.")
	}
	for _, v := range []struct {
		field       string
		v           float64
		least, most float64
	}{{"patch_cm", c.PatchCM, 0, 100}, {"tip_share", c.TipShare, 0, 0.9}, {"top_g_per_m", c.TopGPerM, 0, 500}, {"abreast", float64(c.Abreast), 0, 24}} {
		if !(v.v >= v.least && v.v <= v.most) {
			l.Add(at+v.field, "This lies between %g and %g.", v.least, v.most)
		}
	}
}

// read reads the colours, with their shares; those of tips follow from the share of the tip where that is told.
func (c ManyColours) read(at string, l *fault.List) (list []colour.Reflectance, shares []float64) {
	var sum float64
	for i, v := range c.Colours {
		r, _, err := v.Colour.Read()
		l.Take(fmt.Sprintf("%scolours[%d].colour", at, i), err)
		list, shares, sum = append(list, r), append(shares, v.Share), sum+v.Share
	}
	for i := range shares {
		shares[i] /= sum
	}
	if c.Lies == "tips" && c.TipShare > 0 && len(shares) == 2 {
		shares[0], shares[1] = 1-c.TipShare, c.TipShare
	}
	return list, shares
}

// lying is how they lie for a forecast; nil where one colour shows: they were stirred together.
func (c ManyColours) lying(shares []float64) *carding.Coloured {
	if c.Lies == stirred || c.Fed == "stirred-first" {
		return nil
	}
	out := &carding.Coloured{Shares: shares, Lies: carding.Lies(c.Lies), Fed: carding.Fed(c.Fed), Abreast: c.Abreast}
	if out.Lies == "" {
		out.Lies = carding.Along
	}
	if out.Abreast == 0 {
		out.Abreast = len(shares)
	}
	perM := c.TopGPerM
	if perM == 0 {
		perM = usualTopGPerM
	}
	most := 0.0
	for i, v := range c.Colours {
		run := v.RunCM
		if run == 0 {
			run = usualRunCM * shares[i] * float64(len(shares))
		}
		out.RunsG = append(out.RunsG, perM*run/100)
		most = max(most, out.RunsG[i])
	}
	out.PieceG = min(most, perM*tornCM/100)
	if out.Lies == carding.Patches {
		patch := c.PatchCM
		if patch == 0 {
			patch = usualPatchCM
		}
		out.PieceG = perM * patch / 100 / patchPart
	}
	return out
}

// one is the colour of a component as one: its own, or of its many the even mix. Faults are below at.
func (c ManyColours) one(own *workshop.ColourInput, m mix.Model, at string, l *fault.List) colour.Reflectance {
	told := own != nil && (own.Hex != nil || own.Lab != nil || own.Reflectance != nil)
	switch {
	case c.any() && told:
		l.Add(at+"colour", "A component has a colour, or colours.")
	case c.any():
		var wrong fault.List
		c.check(at, &wrong)
		list, shares := c.read(at, &wrong)
		*l = append(*l, wrong...)
		if len(wrong) == 0 {
			return m.Even(list, shares)
		}
	default:
		r, _, err := own.Read()
		l.Take(at+"colour", err)
		return r
	}
	return colour.Reflectance{}
}

// colourLot are the colours of a component as they are followed: each the mean of its members among the own ones.
type colourLot struct {
	own     []float64 // shares of the colours as they were told
	colours []colour.Reflectance
	shares  []float64
	members [][]int
	many    *carding.Coloured // nil: one colour
}

func lotOf(colours []colour.Reflectance, shares []float64, many *carding.Coloured) colourLot {
	out := colourLot{own: shares, colours: slices.Clone(colours), shares: slices.Clone(shares), many: many}
	for i := range colours {
		out.members = append(out.members, []int{i})
	}
	return out
}

// mergeNearest has the two nearest colours of one component followed as one; ok is false where each has one already.
func mergeNearest(lots []colourLot, m mix.Model) (deltaE float64, ok bool) {
	at, a, b := -1, 0, 0
	deltaE = math.Inf(1)
	for i, l := range lots {
		for j := range l.colours {
			for k := range j {
				if d := colour.CIEDE2000(l.colours[j].Lab(), l.colours[k].Lab()); d < deltaE {
					deltaE, at, a, b = d, i, k, j
				}
			}
		}
	}
	if at < 0 {
		return 0, false
	}
	l := &lots[at]
	l.colours[a] = m.Even(
		[]colour.Reflectance{l.colours[a], l.colours[b]},
		[]float64{l.shares[a] / (l.shares[a] + l.shares[b]), l.shares[b] / (l.shares[a] + l.shares[b])},
	)
	l.shares[a] += l.shares[b]
	l.members[a] = append(l.members[a], l.members[b]...)
	l.colours, l.shares, l.members = slices.Delete(l.colours, b, b+1), slices.Delete(l.shares, b, b+1), slices.Delete(l.members, b, b+1)
	many := *l.many
	many.Shares, many.RunsG = l.shares, slices.Clone(l.many.RunsG)
	many.RunsG[a] += many.RunsG[b]
	many.RunsG = slices.Delete(many.RunsG, b, b+1)
	l.many = &many
	return deltaE, true
}
