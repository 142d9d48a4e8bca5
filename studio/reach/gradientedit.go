package reach

import (
	"context"
	"fmt"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/gradient"
	"fairtangle/studio/floor"
)

// GradientChange is one thing done to a gradient. A stop is named by its Key,
// or without one by its place At.
//
//	name, school   they become Text
//	bridges        Value bridges between neighbours (of the school even)
//	passes         its blends go through Value passes
//	max-jump       the largest jump is Value
//	order          the stops in the order with the least sum of jumps
//	order-within   the same between the ends as they are
//	turn           the stops the other way round
//	bridge         By more bridges, or fewer, after the stop
//	add            Stop joins at the end
//	add-lot        the colours of the lot LotID join at the end
//	stop-name, hex the stop's become Text
//	grams          the stop weighs Value
//	remove         the stop goes away
//	move           the stop goes By places on, or takes the place of BeforeKey
type GradientChange struct {
	Verb      string  `json:"verb"`
	Key       int64   `json:"key"`
	At        int     `json:"at"`
	By        int     `json:"by"`
	BeforeKey int64   `json:"before_key"`
	Value     float64 `json:"value"`
	Text      string  `json:"text"`
	LotID     int64   `json:"lot_id"`
	Stop      *Stop   `json:"stop,omitempty"`
}

// ApplyGradient does one change to a gradient and looks at the result. Nothing
// is kept.
func (s *Room) ApplyGradient(ctx context.Context, in GradientInput, c *GradientChange) (Ladder, error) {
	if c != nil {
		var err error
		if in, err = s.changeGradient(ctx, in, *c); err != nil {
			return Ladder{}, err
		}
	}
	return s.WorkOutGradient(ctx, in)
}

func (s *Room) changeGradient(ctx context.Context, in GradientInput, c GradientChange) (GradientInput, error) {
	in.Stops = slices.Clone(in.Stops)
	switch c.Verb {
	case "name":
		in.Name = c.Text
	case "school":
		in.School, in.Extra = c.Text, nil
	case "bridges":
		if c.Value != float64(int(c.Value)) {
			return in, fault.New("bridges", "Bridges are counted in whole numbers.")
		}
		in.Bridges, in.Extra = int(c.Value), nil
	case "passes":
		if c.Value != float64(int(c.Value)) {
			return in, fault.New("passes", "Passes are counted in whole numbers.")
		}
		n := int(c.Value)
		in.Passes = &n
	case "max-jump":
		in.MaxJump = c.Value
	case "order", "order-within":
		return s.OrderGradient(ctx, in, c.Verb == "order-within")
	case "turn":
		slices.Reverse(in.Stops)
		in.Extra = nil
	case "add":
		if c.Stop == nil {
			return in, fault.New("stop", "Say what the bundle is.")
		}
		stop := *c.Stop
		stop.Key = 0
		in.Stops = append(in.Stops, stop)
	case "add-lot":
		more, err := s.StopsOfLot(ctx, c.LotID)
		if err != nil {
			return in, err
		}
		in.Stops = append(in.Stops, more...)
	default:
		return in, in.changeStop(c)
	}
	return in, nil
}

// changeStop does what is about one stop.
func (in *GradientInput) changeStop(c GradientChange) error {
	if !slices.Contains([]string{"bridge", "stop-name", "hex", "grams", "remove", "move"}, c.Verb) {
		return fault.New("verb", "There is no change called %q.", c.Verb)
	}
	of := func(v Stop) int64 { return v.Key }
	at, err := floor.Placed(in.Stops, c.Key, c.At, of, "This stop is not there any more.")
	if err != nil {
		return err
	}
	v := &in.Stops[at]
	switch c.Verb {
	case "bridge":
		extra := make([]int, max(len(in.Extra), at+1))
		copy(extra, in.Extra)
		extra[at] = min(max(extra[at]+c.By, -gradient.MaxBridges), gradient.MaxBridges)
		in.Extra = extra
	case "stop-name":
		v.Name = c.Text
	case "hex":
		v.Hex = c.Text
	case "grams":
		v.Grams = c.Value
		if !(c.Value > 0) {
			return fault.New(fmt.Sprintf("stops[%d].grams", at), "A stop weighs above 0.")
		}
	case "remove":
		in.Stops, in.Extra = slices.Delete(in.Stops, at, at+1), nil
	case "move":
		to := at + c.By
		if c.BeforeKey != 0 {
			if to, err = floor.Placed(in.Stops, c.BeforeKey, 0, of, "This stop is not there any more."); err != nil {
				return err
			}
		}
		to = min(max(to, 0), len(in.Stops)-1)
		moved := *v
		in.Stops, in.Extra = slices.Insert(slices.Delete(in.Stops, at, at+1), to, moved), nil
	}
	return nil
}

func keyStops(list []Stop) {
	keys := make([]*int64, len(list))
	for i := range list {
		keys[i] = &list[i].Key
	}
	floor.GiveKeys(keys...)
}

func keyScraps(list []Scrap) {
	keys := make([]*int64, len(list))
	for i := range list {
		keys[i] = &list[i].Key
	}
	floor.GiveKeys(keys...)
}

// ChangeGradient does one change to a kept gradient.
func (s *Room) ChangeGradient(ctx context.Context, id, version int64, c GradientChange) (Ladder, error) {
	return floor.Changed(ctx, id, version, s.Gradient, func(now Ladder) (Ladder, error) { return s.ApplyGradient(ctx, now.GradientInput, &c) },
		func(ctx context.Context, id, version int64, next Ladder) (Ladder, error) {
			return s.SaveGradient(ctx, id, version, next.GradientInput)
		})
}

// ChangeBag does one change to a kept bag of scraps.
func (s *Room) ChangeBag(ctx context.Context, id, version int64, c BagChange) (Bag, error) {
	return floor.Changed(ctx, id, version, s.Bag, func(now Bag) (Bag, error) { return s.ApplyBag(ctx, now.BagInput, &c) },
		func(ctx context.Context, id, version int64, next Bag) (Bag, error) {
			return s.SaveBag(ctx, id, version, next.BagInput)
		})
}
