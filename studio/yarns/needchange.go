package yarns

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/need"
	"fairtangle/studio/floor"
)

// NeedChange is one change to a need: set a field to a value or a text, lock one of three that
// follow from each other, take the usual again, use and look for what it is to be, part for the
// part of a blend.
type NeedChange struct {
	Verb  string  `json:"verb"` // set, lock, usual, use, part
	Field string  `json:"field"`
	Value float64 `json:"value"`
	Text  string  `json:"text"`
	Key   int64   `json:"key"` // of a blend
}

// ApplyNeed works out a need with a change, and keeps nothing.
func (s *Room) ApplyNeed(ctx context.Context, id int64, in NeedPlan, c *NeedChange) (Need, error) {
	now, err := s.Need(ctx, id)
	if err != nil {
		return now, err
	}
	if c != nil {
		if in, err = changeNeed(in, *c, now); err != nil {
			return now, err
		}
	}
	out, err := s.workOutNeed(ctx, now.MakingID, &in)
	if err == nil && c != nil && c.Verb == "set" {
		err = out.held(*c)
	}
	out.ID, out.Version, out.MakingID = now.ID, now.Version, now.MakingID
	return out, err
}

// held finds where a figure that was set is not what stands, since others hold it.
func (n Need) held(c NeedChange) error {
	for _, t := range triples {
		i := slices.Index(t.names[:], c.Field)
		if i < 0 || !n.Enough {
			continue
		}
		if now := *t.values(&n.NeedPlan)[i]; math.Abs(now-c.Value) <= 0.005*c.Value {
			continue
		}
		by := "the two others hold it"
		if n.Measured != "" {
			by = "the grist is that measured on " + n.Measured
		}
		if k := slices.IndexFunc(n.Locked, func(name string) bool { return slices.Contains(t.names[:], name) && name != c.Field }); k >= 0 {
			by += ", and the " + n.Locked[k] + " is locked: unlock it"
		}
		return fault.New(c.Field, "It can not be this: %s.", by)
	}
	return nil
}

// ChangeNeed does one change to a kept need.
func (s *Room) ChangeNeed(ctx context.Context, id, version int64, c NeedChange) (Need, error) {
	return floor.Changed(ctx, id, version, s.Need, func(now Need) (Need, error) { return s.ApplyNeed(ctx, id, now.NeedPlan, &c) },
		func(ctx context.Context, id, version int64, next Need) (Need, error) {
			return s.SaveNeed(ctx, id, version, next.NeedPlan)
		})
}

// triple is three fields of which the first two make the third, by a factor.
type triple struct {
	names  [3]string
	values func(in *NeedPlan) [3]*float64
	factor float64
	// follows is which of the others gives way first, by what is changed.
	follows [3][2]int
}

var triples = []triple{
	{[3]string{"weight", "grist", "length"}, func(in *NeedPlan) [3]*float64 { return [3]*float64{&in.Weight, &in.Grist, &in.Length} }, 100,
		[3][2]int{{2, 1}, {0, 2}, {0, 1}}},
	{[3]string{"area", "laid", "felt"}, func(in *NeedPlan) [3]*float64 { return [3]*float64{&in.Area, &in.Laid, &in.Felt} }, 1e4, [3][2]int{{2, 1}, {2,
		0}, {0, 1}}},
}

// set sets one of them; the others follow, as far as they are known.
func (t triple) set(in *NeedPlan, i int, v float64) error {
	if !(v > 0 && v <= 1e9) {
		return fault.New(t.names[i], "This is above 0.")
	}
	at := t.values(in)
	p := need.Product{Value: [3]float64{*at[0], *at[1] / t.factor, *at[2]}}
	for k, name := range t.names {
		p.Fixed[k] = slices.Contains(in.Locked, name)
	}
	if i == 1 {
		v /= t.factor
	}
	known := 0
	for k := range 3 {
		if k != i && *at[k] > 0 {
			known++
		}
	}
	switch known {
	case 0: // the others are not known yet
		p.Value[i] = v
	case 1: // the third follows from the two
		k := slices.IndexFunc([]int{0, 1, 2}, func(k int) bool { return k != i && *at[k] == 0 })
		p.Fixed = [3]bool{}
		p, _ = p.Set(i, v, [2]int{k, k})
	default:
		var ok bool
		if p, ok = p.Set(i, v, t.follows[i]); !ok {
			return need.Locked(t.names[i])
		}
	}
	*at[0], *at[1], *at[2] = p.Value[0], p.Value[1]*t.factor, p.Value[2]
	return nil
}

func changeNeed(in NeedPlan, c NeedChange, now Need) (NeedPlan, error) {
	in.Locked, in.Parts, in.Uses = slices.Clone(in.Locked), slices.Clone(in.Parts), slices.Clone(in.Uses)
	in.Looks = slices.Clone(in.Looks)
	switch c.Verb {
	case "set":
		return in, setNeed(&in, c)
	case "lock":
		return in, lockNeed(&in, c.Field)
	case "usual":
		p, ok := allowancesOf(&in)[c.Field]
		if !ok {
			return in, fault.New("field", "There is no such allowance.")
		}
		*p = nil
	case "use":
		if i := slices.Index(in.Uses, c.Text); i >= 0 {
			in.Uses = slices.Delete(in.Uses, i, i+1)
		} else {
			in.Uses = append(in.Uses, c.Text)
		}
	case "part":
		return in, partNeed(&in, c, now)
	case "look":
		return in, wantLook(&in, c, now)
	default:
		return in, fault.New("verb", "A need is changed by set, lock, usual, use, part or look.")
	}
	return in, nil
}

func allowancesOf(in *NeedPlan) map[string]**float64 {
	return map[string]**float64{
		"margin_pct": &in.MarginPct, "waste_pct": &in.WastePct, "finishing_pct": &in.FinishingPct, "take_up_pct": &in.TakeUpPct,
		"shrinkage_pct": &in.ShrinkagePct, "sample_g": &in.SampleG,
	}
}

func setNeed(in *NeedPlan, c NeedChange) error {
	whole := func(to *int, sentence string) error {
		if c.Value != math.Trunc(c.Value) || c.Value < 1 || c.Value > 1e6 {
			return fault.New(c.Field, "%s", sentence)
		}
		*to = int(c.Value)
		return nil
	}
	for _, t := range triples {
		if i := slices.Index(t.names[:], c.Field); i >= 0 {
			was := in.Grist
			if err := t.set(in, i, c.Value); err != nil {
				return err
			}
			if c.Field == "grist" || in.Grist != was { // told, or it follows from what is told: the wraps only estimated it
				in.WPI = 0
			}
			return nil
		}
	}
	if p, ok := allowancesOf(in)[c.Field]; ok {
		v := c.Value
		*p = &v
		return nil
	}
	switch c.Field {
	case "what":
		in.What = c.Text
	case "way":
		if in.Way != c.Text && (in.Way == wayFigure || c.Text == wayFigure) {
			in.Parts = nil // they were parts, and are grams now, or the other way
		}
		in.Way = c.Text
	case "look":
		in.Look = c.Text
	case "wpi":
		if !(c.Value > 0 && c.Value <= 200) {
			return fault.New("wpi", "Wraps per inch are above 0 and at most 200.")
		}
		if err := triples[0].set(in, 1, need.GristOf(c.Value)); err != nil {
			return err
		}
		in.WPI = c.Value
	case "plies":
		return whole(&in.Plies, "Plies are counted in whole numbers from 1.")
	case "count":
		return whole(&in.Count, "Count whole ones, from 1.")
	case "each":
		if !(c.Value > 0) {
			return fault.New("each", "This is above 0.")
		}
		in.Each = c.Value
	case "lot":
		id := int64(c.Value)
		in.LotID = &id
	default:
		return fault.New("field", "A need has no such field.")
	}
	return nil
}

// lockNeed locks one of three that follow from each other, or unlocks it; one of them stays free.
func lockNeed(in *NeedPlan, field string) error {
	if i := slices.Index(in.Locked, field); i >= 0 {
		in.Locked = slices.Delete(in.Locked, i, i+1)
		return nil
	}
	for _, t := range triples {
		if !slices.Contains(t.names[:], field) {
			continue
		}
		for _, name := range t.names { // of three one is locked: two others must be able to agree
			if k := slices.Index(in.Locked, name); k >= 0 {
				in.Locked = slices.Delete(in.Locked, k, k+1)
			}
		}
		in.Locked = append(in.Locked, field)
		return nil
	}
	return fault.New("field", "This can not be locked.")
}

// wantLook has a blend look otherwise than the whole, or, without a word, as the whole.
func wantLook(in *NeedPlan, c NeedChange, now Need) error {
	if !slices.ContainsFunc(now.Blends, func(b NeedBlend) bool { return b.ID == c.Key }) {
		return fault.New("look", "The blend is not in this making any more.")
	}
	in.Looks = slices.DeleteFunc(in.Looks, func(v NeedLook) bool { return v.BlendID == c.Key })
	if c.Text != "" {
		in.Looks = append(in.Looks, NeedLook{BlendID: c.Key, Look: c.Text})
	}
	return nil
}

// partNeed gives a blend another part; what was not said of the others is kept as it counts now.
func partNeed(in *NeedPlan, c NeedChange, now Need) error {
	if !(c.Value >= 0 && c.Value <= 1e6) {
		return fault.New("part", "Parts are from 0 to a million.")
	}
	found := false
	in.Parts = in.Parts[:0]
	for _, b := range now.Blends {
		p := NeedPart{BlendID: b.ID, Parts: b.Parts}
		if b.ID == c.Key {
			p.Parts, found = c.Value, true
		}
		in.Parts = append(in.Parts, p)
	}
	if !found {
		return fault.New("part", "The blend is not in this making any more.")
	}
	return nil
}
