package carder

import (
	"context"
	"slices"
	"strings"

	"fairtangle/core/run"
	"fairtangle/core/trouble"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
)

// Amiss is what is known where something does not go as it should.
type Amiss struct {
	Facts     trouble.Facts
	Equipment int64 // on which it is carded; 0: none
	Unit      int
}

// AmissInRun is what is known at a step of a run.
func (s *Room) AmissInRun(v Run, unit, pass int, step trouble.Stage) Amiss {
	bed := v.Equipment.Bed()
	a := Amiss{Facts: trouble.Facts{Bed: &bed, Pass: pass, Step: step}, Unit: min(max(unit, 0), len(v.State.Units)-1), Equipment: v.Row.Plan.Equipment.ID}
	if v.EquipmentID != nil {
		a.Equipment = *v.EquipmentID
	}
	for _, c := range v.Weighout.Components {
		seen := floor.ReflectanceOf(c.Hex)
		lab := seen.Lab()
		a.Facts.Fibres = append(a.Facts.Fibres, trouble.Fibre{Kind: c.Fibre, Preparation: c.Preparation, Share: c.Share, StapleMM: c.Staple, Colour: &lab})
	}
	a.Facts.Layers = v.Steps(a.Unit).LaidPlan.Layers
	passes := v.State.Units[a.Unit].Passes
	if pass >= 1 && pass <= len(passes) {
		facts := passes[pass-1].Facts
		number := func(w run.What) *float64 {
			if e, ok := facts[w]; ok {
				return &e.Number
			}
			return nil
		}
		a.Facts.ClearanceMM, a.Facts.TurnsPerMin = number(run.Clearance), number(run.Pace)
		if mg, ok := passes[pass-1].Mg(run.Residue); ok {
			g := floor.InGrams(mg)
			a.Facts.ResidueG = &g
		}
	}
	return a
}

// AmissInLayup is what is known of a lay-up.
func AmissInLayup(l laying.Layup, pass int, step trouble.Stage) Amiss {
	bed := l.Bed
	a := Amiss{Facts: trouble.Facts{Bed: &bed, Pass: pass, Step: step, Layers: l.LaidPlan.Layers}, Equipment: l.EquipmentID}
	var sum float64
	for _, f := range l.LaidFibres {
		sum += f.Grams
	}
	for i, f := range l.LaidFibres {
		lab := f.Colour
		a.Facts.Fibres = append(a.Facts.Fibres, trouble.Fibre{
			Kind: l.Fibres[i].KindProperties(), Preparation: f.Preparation, Share: f.Grams / max(sum, 1e-9), StapleMM: f.StapleMM, Colour: &lab,
		})
	}
	return a
}

// HelpedBefore are the causes that did it before on a piece of equipment, on any where it is 0.
func (s *Room) HelpedBefore(ctx context.Context, equipment int64) (causes []string, err error) {
	list, err := s.Store.Helped(ctx, equipment)
	for _, v := range list {
		if _, cause, ok := strings.Cut(v, " "); ok && !slices.Contains(causes, cause) {
			causes = append(causes, cause)
		}
	}
	return causes, err
}
