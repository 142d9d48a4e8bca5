package laying

import (
	"slices"

	"fairtangle/core/layup"
	"fairtangle/store"
)

// LayInput is a lay as it is asked for. Left out, from and start are 0, to and
// end are 1.
type LayInput struct {
	Component int          `json:"component"`
	From      *float64     `json:"from"`
	To        *float64     `json:"to"`
	Start     *float64     `json:"start"`
	End       *float64     `json:"end"`
	Grams     float64      `json:"grams"`
	Method    layup.Method `json:"method"`
	Key       int64        `json:"key,omitempty"`
}

// LayerInput is a layer as it is asked for.
type LayerInput struct {
	Lays []LayInput `json:"lays"`
	Key  int64      `json:"key,omitempty"`
}

// PlanInput is the layers of a lay-up as they are asked for.
type PlanInput struct {
	Layers      []LayerInput `json:"layers"`
	JoinsAtPass []int        `json:"joins_at_pass"`
	// Rolags of a board; left out, as many as the staple suggests.
	Rolags      *int    `json:"rolags"`
	Draft       float64 `json:"draft"`
	Uneven      bool    `json:"uneven"`
	MirrorPairs bool    `json:"mirror_pairs"`
	Bare        bool    `json:"bare"` // straight on the cloth, on purpose
	// Passes that it goes through; 0: as many as the blend. Refeed and Strips say
	// how the batt is divided and fed again for a later one.
	Passes int          `json:"passes"`
	Refeed layup.Refeed `json:"refeed"`
	Strips int          `json:"strips"`
	// TurnsAbout is how often strips and what joins are fed turn about; 0: what joins lies in one place.
	TurnsAbout int `json:"turns_about,omitempty"`
	// As is what each component is there for, Told which of them were told so by the maker.
	As   []layup.Use `json:"as,omitempty"`
	Told []int       `json:"told,omitempty"`
	// Fed is how fibres of several colours are used; left out, in their order.
	Fed []layup.FedAs `json:"fed,omitempty"`
	// AloneFirst is how often each component is carded alone before it is laid; left out, never.
	AloneFirst []int `json:"alone_first,omitempty"`
	// Off is how it comes off the tool; left out, as is usual there.
	Off layup.Off `json:"off,omitzero"`
	// Before and After are the tools that it goes through before it is laid, and after it came off.
	Before []layup.Tool `json:"before,omitempty"`
	After  []layup.Tool `json:"after,omitempty"`
	// Step is that of the scale which the grams were laid in; left out, that of now.
	Step float64 `json:"step_g,omitempty"`
}

// Plan fills in what was left out, but for the rolags.
func (in PlanInput) Plan() layup.Plan {
	p := layup.Plan{Layers: make([]layup.Layer, len(in.Layers)), Joins: in.JoinsAtPass, Draft: in.Draft, Uneven: in.Uneven, MirrorPairs: in.MirrorPairs,
		Bare: in.Bare, Passes: in.Passes, Refeed: in.Refeed, Strips: in.Strips, Turns: in.TurnsAbout, Uses: in.As, Told: in.Told, Fed: in.Fed, Step: in.Step,
		Alone: in.AloneFirst, Off: in.Off, Before: in.Before, After: in.After}
	if p.Draft == 0 {
		p.Draft = layup.DefaultDraft
	}
	if in.Rolags != nil {
		p.Rolags = *in.Rolags
	}
	for i, l := range in.Layers {
		p.Layers[i].Key = l.Key
		for _, v := range l.Lays {
			p.Layers[i].Lays = append(p.Layers[i].Lays, layup.Lay{
				Component: v.Component, From: Or(v.From, 0), To: Or(v.To, 1), Start: Or(v.Start, 0), End: Or(v.End, 1), Grams: v.Grams, Method: v.Method, Key: v.Key,
			})
		}
	}
	return p.OnGrid()
}

// Or is a value, or where none was told the other.
func Or(v *float64, other float64) float64 {
	if v == nil {
		return other
	}
	return *v
}

// PlanInputOf is a plan as it is asked for.
func PlanInputOf(p layup.Plan) PlanInput {
	in := PlanInput{
		Layers:      make([]LayerInput, len(p.Layers)),
		JoinsAtPass: p.Joins,
		Rolags:      &p.Rolags,
		Draft:       p.Draft,
		Uneven:      p.Uneven,
		MirrorPairs: p.MirrorPairs,
		Bare:        p.Bare,
		Passes:      p.Passes,
		Refeed:      p.Refeed,
		Strips:      p.Strips,
		TurnsAbout:  p.Turns,
		As:          p.Uses,
		Told:        p.Told,
		Fed:         p.Fed,
		AloneFirst:  p.Alone,
		Off:         p.Off,
		Before:      p.Before,
		After:       p.After,
		Step:        p.Step,
	}
	for i, l := range p.Layers {
		in.Layers[i] = LayerInput{Lays: []LayInput{}, Key: l.Key}
		for _, v := range l.Lays {
			in.Layers[i].Lays = append(in.Layers[i].Lays, LayInput{v.Component, &v.From, &v.To, &v.Start, &v.End, v.Grams, v.Method, v.Key})
		}
	}
	return in
}

// KeptLay and keptPlan are what is stored of a plan, lay and planOf what it means
// today.
func KeptLay(v layup.Lay) store.PlanLay {
	return store.PlanLay{
		Component: v.Component, From: v.From, To: v.To, Start: v.Start, End: v.End, Grams: v.Grams, Method: string(v.Method), Key: v.Key,
	}
}

// Lay is a kept lay as core/layup has it.
func Lay(r store.PlanLay) layup.Lay {
	return layup.Lay{
		Component: r.Component, From: r.From, To: r.To, Start: r.Start, End: r.End, Grams: r.Grams, Method: layup.Method(r.Method), Key: r.Key,
	}
}

// KeptPlan is a plan as it is kept.
func KeptPlan(p layup.Plan) store.LayupPlan {
	r := store.LayupPlan{
		Layers: make([]store.PlanLayer, len(p.Layers)), Joins: p.Joins, Rolags: p.Rolags, Draft: p.Draft, Uneven: p.Uneven,
		MirrorPairs: p.MirrorPairs, Bare: p.Bare, Passes: p.Passes, Refeed: string(p.Refeed), Strips: p.Strips, Turns: p.Turns,
		Told: p.Told, Fed: fedKept(p.Fed), Alone: p.Alone, Off: offKept(p.Off), StepG: p.Step,
	}
	for _, v := range p.Uses {
		r.Uses = append(r.Uses, string(v))
	}
	r.Before, r.After = toolsKept(p.Before), toolsKept(p.After)
	for i, l := range p.Layers {
		r.Layers[i] = store.PlanLayer{Key: l.Key, Lays: make([]store.PlanLay, len(l.Lays))}
		for j, v := range l.Lays {
			r.Layers[i].Lays[j] = KeptLay(v)
		}
	}
	return r
}

func toolsKept(list []layup.Tool) (out []string) {
	for _, t := range list {
		out = append(out, string(t))
	}
	return out
}

// toolsOf are kept tools; what a file that was changed by hand says wrong is left out.
func toolsOf(list []string, all []layup.Tool) (out []layup.Tool) {
	for _, v := range list {
		if t := layup.Tool(v); slices.Contains(all, t) && !slices.Contains(out, t) {
			out = append(out, t)
		}
	}
	return out
}

func offKept(o layup.Off) store.PlanOff {
	return store.PlanOff{Way: string(o.Way), Rods: o.Rods, Tight: o.Tight, HoleMM: o.HoleMM, Crossed: o.Crossed}
}

// offOf is how it comes off as core/layup has it; what a file that was changed by hand says wrong is as usual.
func offOf(r store.PlanOff) layup.Off {
	o := layup.Off{Way: layup.OffWay(r.Way), Rods: r.Rods, Tight: r.Tight, HoleMM: r.HoleMM, Crossed: r.Crossed}
	if (layup.Plan{Off: o}).OffFault() != nil {
		return layup.Off{}
	}
	return o
}

func fedKept(fed []layup.FedAs) (out []store.PlanFed) {
	for _, v := range fed {
		out = append(out, store.PlanFed(v))
	}
	return out
}

// PlanOf is a kept plan as core/layup has it.
func PlanOf(r store.LayupPlan) layup.Plan {
	p := layup.Plan{
		Layers: make([]layup.Layer, len(r.Layers)), Joins: r.Joins, Rolags: r.Rolags, Draft: r.Draft, Uneven: r.Uneven,
		MirrorPairs: r.MirrorPairs, Bare: r.Bare, Passes: r.Passes, Refeed: layup.Refeed(r.Refeed), Strips: r.Strips,
		Turns: r.Turns, Told: r.Told, Alone: r.Alone, Off: offOf(r.Off), Step: r.StepG,
		Before: toolsOf(r.Before, layup.ToolsBefore), After: toolsOf(r.After, layup.ToolsAfter),
	}
	for _, v := range r.Fed {
		p.Fed = append(p.Fed, layup.FedAs(v))
	}
	for _, v := range r.Uses {
		use := layup.Use(v)
		if !slices.Contains(layup.Uses(), use) { // of a file that was changed by hand: as usual
			use = ""
		}
		p.Uses = append(p.Uses, use)
	}
	for i, l := range r.Layers {
		p.Layers[i] = layup.Layer{Key: l.Key, Lays: make([]layup.Lay, len(l.Lays))}
		for j, v := range l.Lays {
			p.Layers[i].Lays[j] = Lay(v)
		}
	}
	return p
}
