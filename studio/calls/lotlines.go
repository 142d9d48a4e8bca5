package calls

import (
	"fmt"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/stash"
	"fairtangle/core/unit"
	"fairtangle/studio/workshop"
)

// LotsReadRequest asks what lines about fibre mean.
type LotsReadRequest struct {
	Lines      []string `json:"lines"`
	WeightUnit string   `json:"weight_unit"` // of bare numbers: g or oz
	// Kinds are more names of kinds, with the key of each.
	Kinds map[string]string `json:"kinds"`
}

// ReadLot is a line as it was understood.
type ReadLot struct {
	Line        int                    `json:"line"`
	Name        string                 `json:"name"`
	Kind        string                 `json:"kind"` // empty: none was understood
	Preparation string                 `json:"preparation"`
	Colour      *workshop.ColourOutput `json:"colour"` // null: none was named
	Grams       *float64               `json:"grams"`  // null: no amount is in the line
	Unsure      []string               `json:"unsure"`
	Instead     map[string][]string    `json:"instead"`
	Left        string                 `json:"left"`
}

// LotsReadAnswer is what was understood.
type LotsReadAnswer struct {
	Lots []ReadLot `json:"lots"`
}

// ReadLots understands lines about fibre, from nothing but the request; empty lines are passed over.
func ReadLots(q LotsReadRequest) (LotsReadAnswer, error) {
	if len(q.Lines) > stash.MostLines {
		return LotsReadAnswer{}, fault.New("lines", "There are at most %d lines.", stash.MostLines)
	}
	if q.WeightUnit != "" && q.WeightUnit != "g" && q.WeightUnit != "oz" {
		return LotsReadAnswer{}, fault.New("weight_unit", "A weight is in g or oz.")
	}
	if len(q.Kinds) > workshop.MostShortNames {
		return LotsReadAnswer{}, fault.New("kinds", "There are at most %d names.", workshop.MostShortNames)
	}
	names := stash.Named(q.Kinds)
	a := LotsReadAnswer{Lots: []ReadLot{}}
	for i, line := range q.Lines {
		l, ok := stash.ReadLine(line, q.WeightUnit, names)
		if !ok {
			continue
		}
		out := ReadLot{Line: i, Name: l.Name, Kind: l.Kind, Preparation: l.Preparation, Unsure: l.Unsure, Instead: map[string][]string{}, Left: l.Left}
		if len(l.Kinds) > 0 {
			out.Instead["kind"] = l.Kinds
		}
		if l.Grams != nil {
			g := unit.Clean(*l.Grams)
			out.Grams = &g
		}
		if l.Hex != "" {
			c, err := colour.ParseHex(l.Hex)
			if err != nil {
				return a, fmt.Errorf("colour of a word: %w", err)
			}
			r, _ := c.Reflectance()
			seen := workshop.ColourOut(r)
			out.Colour = &seen
		}
		a.Lots = append(a.Lots, out)
	}
	return a, nil
}
