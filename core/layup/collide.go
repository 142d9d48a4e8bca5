package layup

import (
	"fmt"
	"slices"
)

// GaveWay is a school that does not hold in a lay-up, since another choice or the fibre does not let it.
type GaveWay struct {
	School string `json:"school"` // the matter whose school gave way
	For    string `json:"for"`    // passes, equipment, fibre, builder
	Why    string `json:"why"`
	// Turn is how many passes would let it hold; 0: nothing would.
	Turn int `json:"turn_passes,omitempty"`
}

// Held has what is open in options follow the schools of a maker.
func (o Options) Held(b Bed, schools map[string]string) Options {
	chosen := Chosen(schools)
	if o.Passes == 0 && b.Type == Drum && chosen["passes"] == "one" {
		o.Passes = 1
	}
	o.Bare = o.Bare || o.Base == nil && chosen["first"] == "bare"
	o.DelicateNow = o.DelicateNow || chosen["delicate"] == "between"
	if o.Rolags == 0 && b.Type == Board {
		o.Rolags = RolagsBy(schools)
	}
	return o
}

// RolagsBy is how many rolags the school of a maker makes of a board; 0: as the staple suggests.
func RolagsBy(schools map[string]string) int {
	return map[string]int{"one": 1, "three": 3, "five": 5}[Chosen(schools)["rolags"]]
}

// Collide lists the schools of a maker that do not hold in a lay-up of fibres, where the blend plans so many passes (0: not known),
// with the reason and what would turn it round.
func (p Plan) Collide(b Bed, fibres []Fibre, schools map[string]string, blendPasses int) []GaveWay {
	out := []GaveWay{}
	chosen, last := Chosen(schools), p.Last(b, blendPasses)
	if first := p.delicateFirst(fibres); first != "" && chosen["delicate"] == "late" {
		switch {
		case !slices.ContainsFunc(fibres, func(f Fibre) bool { return f.Ground() && f.Grams > speck && !f.delicate() }):
			out = append(out, GaveWay{"delicate", "fibre", "All of it is delicate: there is nothing sturdier to be carded first.", 0})
		case b.Type != Drum:
			out = append(out, GaveWay{"delicate", "equipment", fmt.Sprintf("%s has no second pass to wait for on this equipment.", first), 0})
		case last == 1:
			out = append(out, GaveWay{"delicate", "passes", fmt.Sprintf("It goes through once, so that %s can not wait for a second pass.", first), 2})
		}
	}
	if b.Type == Drum && chosen["passes"] == "few" && last == 1 && blendPasses > 1 && p.placed() {
		out = append(out, GaveWay{"passes", "builder", "What lies side by side, or is painted on, keeps its place for one pass only.", blendPasses})
	}
	if b.Pins() && chosen["first"] == "base" && p.Bare && p.Bottom(fibres).Slides {
		out = append(out, GaveWay{"first", "fibre", "No wool that grips is there to be laid first.", 0})
	}
	return out
}

// TurnRound lets the school of a matter hold after all, in so many passes: delicate fibre waits for the last of them.
func (p Plan) TurnRound(school string, passes int, fibres []Fibre, step float64) Plan {
	p.Passes = passes
	if school != "delicate" {
		return p
	}
	joins := make([]int, len(fibres))
	for i, f := range fibres {
		if joins[i] = p.JoinsAt(i); f.delicate() {
			joins[i] = passes
		}
	}
	p.Joins = joins
	return p.Gather(fibres, step)
}

// placed reports whether something lies beside something else, or over a part of the length: what a later pass would undo.
func (p Plan) placed() bool {
	return slices.ContainsFunc(p.Layers, func(l Layer) bool {
		return slices.ContainsFunc(l.Lays, func(v Lay) bool { return v.To-v.From < 0.999 || v.End-v.Start < 0.999 })
	})
}

// delicateFirst is a delicate fibre that lies in the first pass; empty where none does.
func (p Plan) delicateFirst(fibres []Fibre) string {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if f := fibres[v.Component]; f.delicate() && p.JoinsAt(v.Component) <= 1 {
				return f.Name
			}
		}
	}
	return ""
}
