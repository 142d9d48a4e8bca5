package laying

import (
	"context"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// LayupChange is one thing done to a lay-up.
//
//	lay            Lay goes into layer Layer, or (-1) on top: beside what lies
//	               there, or as a new layer
//	set            lay At of layer Layer becomes Lay
//	take           lay At of layer Layer goes away
//	take-layer     layer Layer goes away
//	move           layer Layer goes to the place To
//	split          layer Layer is laid in Times thinner ones
//	repeat         layers Layer to To are laid Times times over, with the same grams in all
//	mirror         left to right
//	place          what is left of component At is laid; -1: of all of them
//	fit            every component's lays are scaled to what there is of it
//	clear          locks come off the cuts
//	bury           extras come away from the first and the last layer
//	gather         what joins late lies together, between the halves of what is fed again
//	passes         it goes through Times times
//	refeed         strips go back as Text says: spread or own-place (left out)
//	strips         the batt is divided into Times strips for a later pass; 0: as usual
//	bare           it lies straight on the cloth on purpose (Times 1) or not (0)
//	more-units     what lies here is divided into Times units
//	uneven         thick and thin is meant (Times 1) or not (0)
//	mirror-pairs   every second unit is laid mirrored (Times 1) or not (0)
//	rolags         the board makes Times rolags; 0: it is not rolled
//	draft          the draft is Value
//	off            it comes off as Text says: batt, rolags, sheet, hole, strips, mini, punis, loose; left out, as usual
//	rods           it is rolled on what Text says: one, starter, two
//	tight          it is rolled tight (Times 1) or loose (0)
//	hole           it is drawn off through a hole of Value mm
//	joins          component At joins at pass Times
//	use            component At is there for what Text says: base, lane, scatter, veil, over, paint, spot, in the lanes of the
//	               components Near; left out, the usual
//	fed            component At, of several colours, is used as Text says, Times lengths abreast
//	alone          component At, or (-1) each that holds together, is carded alone Times times before it is laid
//	copy           component At is laid as component To lies, moved across by Value of the width, mirrored where Times is 1
//	turns-about    at a later pass strips and what joins are fed turn about, Times times
//	turn           the school of the matter Text, which gave way, holds after all
//	units          it serves Times units
//	equipment      it is laid on the equipment EquipmentID
//	name           it is called Text
//	mend           the mend of the second look that ends what the rule Text found of
//	               component At and layer Layer
//	build          a builder lays everything anew, as Build says
//
// LayerKey and LayKey name a layer and a lay in place of Layer and At, whatever
// has moved in the meantime; ToKey names the layer in place of To.
type LayupChange struct {
	Verb        string      `json:"verb"`
	LayerKey    int64       `json:"layer_key"`
	LayKey      int64       `json:"lay_key"`
	ToKey       int64       `json:"to_key"`
	Layer       int         `json:"layer"`
	At          int         `json:"at"`
	To          int         `json:"to"`
	Times       int         `json:"times"`
	Value       float64     `json:"value"`
	Text        string      `json:"text"`
	EquipmentID int64       `json:"equipment_id"`
	Near        []int       `json:"near,omitempty"`
	FadeMM      float64     `json:"fade_mm,omitempty"`
	Lay         *LayInput   `json:"lay,omitempty"`
	Build       *BuildInput `json:"build,omitempty"`
}

// BuildInput says which builder lays a blend, and how; what is left out follows the schools of the maker.
type BuildInput struct {
	Builder     layup.Builder `json:"builder"`
	Order       []int         `json:"order,omitempty"`
	Repeats     int           `json:"repeats"`
	Base        *int          `json:"base,omitempty"`
	Bare        *bool         `json:"bare,omitempty"`
	Over        []int         `json:"over,omitempty"`
	Rolags      int           `json:"rolags"`
	Draft       float64       `json:"draft"`
	Passes      int           `json:"passes"`
	DelicateNow *bool         `json:"delicate_now,omitempty"`
	StepG       float64       `json:"step_g"`
	// Smooth puts the components in the smoothest order of their colours, as OrderBy path does.
	Smooth  bool    `json:"smooth"`
	OrderBy OrderBy `json:"order_by,omitempty"`
	// Purposes are what the components are there for, by component; left out, the usual of their kind.
	Purposes []layup.Purpose `json:"purposes,omitempty"`
	// Turns is how often strips of the batt and what joins late are fed turn about; Mirrored lays lanes twice across.
	Turns    int  `json:"turns_about,omitempty"`
	Mirrored bool `json:"mirrored,omitempty"`
	// Thick is how thick stripes, or mirrored lanes, are by turns.
	Thick []float64 `json:"thick,omitempty"`
	// AloneFirst is how often each fibre that holds together is carded alone before it is laid.
	AloneFirst int `json:"alone_first,omitempty"`
}

// Options are what a builder is asked for on a bed by a maker of such schools, as core/layup has it.
func (in BuildInput) Options(b layup.Bed, schools map[string]string) layup.Options {
	o := layup.Options{
		Builder: in.Builder, Order: in.Order, Repeats: in.Repeats, Base: in.Base, Over: in.Over, Rolags: in.Rolags, Draft: in.Draft, Passes: in.Passes,
		Step: in.StepG, Purposes: in.Purposes, Turns: in.Turns, Mirrored: in.Mirrored, Thick: in.Thick, Alone: in.AloneFirst,
	}.Held(b, schools)
	if in.Bare != nil {
		o.Bare = *in.Bare
	}
	if in.DelicateNow != nil {
		o.DelicateNow = *in.DelicateNow
	}
	if o.Step == 0 {
		o.Step = 0.1
	}
	return o
}

// Ordered is the order of fibres that is asked for, nil where none is.
func (in BuildInput) Ordered(fibres []layup.Fibre) ([]int, error) {
	if in.Smooth && in.OrderBy == "" {
		return ByPath.Ordered(fibres)
	}
	return in.OrderBy.Ordered(fibres)
}

// ApplyLayup does one change to a lay-up and looks at the result. Nothing is
// kept.
func (s *Room) ApplyLayup(ctx context.Context, id int64, in LayupInput, c LayupChange) (Layup, error) {
	row, err := store.Piece[store.Layup](ctx, s.Store, id)
	if err != nil {
		return Layup{}, err
	}
	b, err := s.recipe.Blend(ctx, row.BlendID)
	if err != nil {
		return Layup{}, err
	}
	seen := in // as the maker sees it, before it follows the blend
	went := seen.matchBlend(b)
	now, err := s.WorkOutLayup(ctx, b, in, false)
	if err != nil || c.Verb == "" {
		return now, err
	}
	if c, err = now.named(c, went); err != nil {
		return Layup{}, err
	}
	if c.Verb == "mend" {
		return s.LayupMender.MendLayup(ctx, now, b, c.Text, c.At, c.Layer)
	}
	next, err := now.Change(c)
	if err != nil {
		return Layup{}, err
	}
	out, err := s.WorkOutLayup(ctx, b, next, false)
	if err != nil {
		return out, err
	}
	if slices.Contains([]string{"units", "more-units", "joins", "passes", "turn", "alone", "fed"}, c.Verb) {
		// There is more or less of it for each unit; it is fitted at once.
		next.PlanInput = PlanInputOf(out.LaidPlan.Refit(out.Bed, now.LaidFibres, out.LaidFibres, now.StepG))
		return s.WorkOutLayup(ctx, b, next, false)
	}
	return out, now.notMore(out, c)
}

// notMore refuses a lay that takes more than there is; what was laid before the
// blend changed is only found.
func (now Layup) notMore(next Layup, c LayupChange) error {
	if c.Verb != "lay" && c.Verb != "set" {
		return nil
	}
	for i, f := range next.Fibres {
		if f.UnplacedG < -0.0005 && (i >= len(now.Fibres) || f.UnplacedG < now.Fibres[i].UnplacedG-0.0005) {
			left := max(0, f.UnplacedG+c.Lay.Grams)
			return fault.New("grams", "Only %s of %s are left to lay; this is %s.", unit.Grams(left), f.Name, unit.Grams(c.Lay.Grams))
		}
	}
	return nil
}

// named turns the names in a change into places. went tells where the
// components that the maker counts in went when the blend changed.
func (now Layup) named(c LayupChange, went []int) (LayupChange, error) {
	moved := func(i int) int {
		if i >= 0 && i < len(went) && went[i] >= 0 {
			return went[i]
		}
		return i
	}
	if c.Lay != nil {
		lay := *c.Lay
		lay.Component = moved(lay.Component)
		c.Lay = &lay
	}
	if slices.Contains([]string{"place", "joins", "use", "copy", "fed", "alone"}, c.Verb) {
		c.At = moved(c.At)
	}
	if c.Verb == "copy" {
		c.To = moved(c.To)
	}
	for i, n := range c.Near {
		c.Near[i] = moved(n)
	}
	layer := func(v LayerInput) int64 { return v.Key }
	var err error
	if c.LayerKey != 0 {
		if c.Layer, err = floor.Placed(now.Layers, c.LayerKey, 0, layer, "This layer is not there any more."); err != nil {
			return c, err
		}
	}
	if c.ToKey != 0 {
		if c.To, err = floor.Placed(now.Layers, c.ToKey, 0, layer, "This layer is not there any more."); err != nil {
			return c, err
		}
	}
	if c.LayKey == 0 {
		return c, nil
	}
	for i, l := range now.Layers {
		for j, v := range l.Lays {
			if v.Key == c.LayKey {
				c.Layer, c.At = i, j
				if c.Lay != nil {
					c.Lay.Key = v.Key
				}
				return c, nil
			}
		}
	}
	return c, fault.New("at", "This lay is not there any more.")
}

// Change works out what a change makes of a lay-up.
func (now Layup) Change(c LayupChange) (LayupInput, error) {
	in, p := now.LayupInput, now.LaidPlan
	var err error
	switch c.Verb {
	case "lay", "set", "take", "take-layer":
		in.Layers, err = now.lays(c)
		return in, err
	case "equipment":
		in.EquipmentID = c.EquipmentID
		return in, nil // methods follow when it is looked at
	case "units":
		in.Units = c.Times
	case "more-units":
		in.Units *= max(1, c.Times)
	case "name":
		in.Name = c.Text
	case "build":
		p, err = now.build(in, c)
	default:
		do, known := planVerbs[c.Verb]
		if !known {
			return in, fault.New("verb", "There is no change called %q.", c.Verb)
		}
		if p, err = do(now, p, c); err != nil {
			return in, err
		}
	}
	in.PlanInput = PlanInputOf(p)
	return in, err
}

// lays does what is about single lays. Where a lay weighs 0 it takes all that
// is left.
func (now Layup) lays(c LayupChange) ([]LayerInput, error) {
	layers := now.Layers
	if c.Verb != "lay" || c.Layer != -1 {
		if c.Layer < 0 || c.Layer >= len(layers) {
			return nil, fault.New("layer", "There is no such layer.")
		}
		if (c.Verb == "set" || c.Verb == "take") && (c.At < 0 || c.At >= len(layers[c.Layer].Lays)) {
			return nil, fault.New("at", "There is no such lay.")
		}
	}
	switch c.Verb {
	case "take-layer":
		return slices.Delete(slices.Clone(layers), c.Layer, c.Layer+1), nil
	case "take":
		lays := slices.Delete(slices.Clone(layers[c.Layer].Lays), c.At, c.At+1)
		if len(lays) == 0 {
			return slices.Delete(slices.Clone(layers), c.Layer, c.Layer+1), nil
		}
		out := slices.Clone(layers)
		out[c.Layer].Lays = lays
		return out, nil
	}
	if c.Lay == nil {
		return nil, fault.New("lay", "Say what is laid.")
	}
	v := *c.Lay
	if v.Component < 0 || v.Component >= len(now.Fibres) {
		return nil, fault.New("component", "There is no such component in the blend.")
	}
	if v.Method == "" {
		v.Method = now.Fibres[v.Component].Usual
	}
	all := v.Grams == 0 && c.Verb == "lay"
	if all {
		v.Grams = max(now.Fibres[v.Component].UnplacedG, 0.001)
	}
	if err := v.span(); err != nil {
		return nil, err
	}
	if all && now.Fibres[v.Component].UnplacedG <= 0.0005 {
		return nil, fault.New("grams", "All of %s is laid; take some away from another place first.", now.Fibres[v.Component].Name)
	}
	out := slices.Clone(layers)
	switch {
	case c.Layer == -1 && len(out) > 0 && out[len(out)-1].room(v):
		top := &out[len(out)-1]
		top.Lays = append(slices.Clone(top.Lays), v)
	case c.Layer == -1:
		out = append(out, LayerInput{Lays: []LayInput{v}})
	case c.Verb == "set":
		out[c.Layer].Lays = slices.Clone(layers[c.Layer].Lays)
		out[c.Layer].Lays[c.At] = v
	default:
		out[c.Layer].Lays = append(slices.Clone(layers[c.Layer].Lays), v)
	}
	c.Lay.Grams = v.Grams
	return out, nil
}

// room reports whether a lay fits beside what lies in a layer.
func (l LayerInput) room(v LayInput) bool {
	apart := func(a0, a1, b0, b1 *float64) bool { return Or(a1, 1) <= Or(b0, 0)+1e-6 || Or(b1, 1) <= Or(a0, 0)+1e-6 }
	for _, o := range l.Lays {
		if !apart(o.From, o.To, v.From, v.To) && !apart(o.Start, o.End, v.Start, v.End) {
			return false
		}
	}
	return true
}

// span finds what is wrong with one lay's places and weight before it is laid,
// under the names of its own fields.
func (v LayInput) span() error {
	one := PlanInput{Layers: []LayerInput{{Lays: []LayInput{v}}}}.Plan()
	one.Layers[0].Lays[0].Component = 0
	list, wrong := fault.From(one.Check(layup.Bed{Type: layup.Drum}, []layup.Fibre{{StapleMM: 1}}, false))
	if !wrong {
		return nil
	}
	for i := range list {
		list[i].Field = strings.TrimPrefix(list[i].Field, "layers[0].lays[0].")
	}
	return list
}

// LayupMender mends a lay-up by what the second look found.
type LayupMender interface {
	MendLayup(ctx context.Context, now Layup, b recipe.Blend, rule string, component, layer int) (Layup, error)
	// WhatIf is a lay-up as it would be after the mend of a finding, and what that mend is.
	WhatIf(ctx context.Context, l Layup, name string) (Layup, unit.Sentence, error)
}

// KeyPlan gives each layer and each lay of a plan a key.
func KeyPlan(p *layup.Plan) {
	var keys []*int64
	for i := range p.Layers {
		keys = append(keys, &p.Layers[i].Key)
		for j := range p.Layers[i].Lays {
			keys = append(keys, &p.Layers[i].Lays[j].Key)
		}
	}
	floor.GiveKeys(keys...)
}

// ChangeLayup does one change to a kept lay-up.
func (s *Room) ChangeLayup(ctx context.Context, id, version int64, c LayupChange) (Layup, error) {
	return floor.Changed(ctx, id, version, s.Layup, func(now Layup) (Layup, error) { return s.ApplyLayup(ctx, id, now.LayupInput, c) },
		func(ctx context.Context, id, version int64, next Layup) (Layup, error) {
			return s.SaveLayup(ctx, id, version, next.LayupInput, false)
		})
}
