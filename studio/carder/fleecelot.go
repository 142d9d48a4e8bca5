package carder

import (
	"context"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/fleece"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"strings"
)

// heavier finds a part or a fleece that would weigh more than at the stage before.
func heavier(v Run, in EntryInput, mg unit.Milligrams) (l fault.List) {
	if in.Unit < 0 || in.Unit >= len(v.State.Units) || in.Pass < 1 || in.Pass > fleece.Count || fleece.StageOf(in.Pass).Wet {
		return nil
	}
	p := partOf(v.State.Units[in.Unit])
	before, was := fleece.Stage{}, unit.Milligrams(0)
	for _, stage := range fleece.Stages() {
		if stage.Number == in.Pass {
			break
		}
		if w := p.Weights[stage.Number]; w > 0 && !stage.Wet {
			before, was = stage, w
		}
	}
	if was > 0 {
		if mg > was {
			l.Add("grams", "It weighed %s when it was %s; it can not weigh more now.", was.Grams(), strings.ToLower(before.Name))
		}
		return l
	}
	if raw := v.State.Units[0].Whole[run.Raw].Mg; in.Unit == 0 && raw > 0 && mg > raw {
		l.Add("grams", "The raw fleece weighed %s; it can not weigh more now.", raw.Grams())
	}
	return l
}

// lotOfFleece is the lot that a part of a fleece has become. What the raw fleece cost is
// shared out by the weight of the parts when it was parted.
func (s *Room) lotOfFleece(ctx context.Context, v Run, p FleecePart, in ShelfInput, mg unit.Milligrams) (store.Lot, error) {
	lots, err := s.Store.LotsByID(ctx, []int64{*v.LotID})
	if err != nil {
		return store.Lot{}, err
	}
	raw := lots[*v.LotID]
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return store.Lot{}, err
	}
	now, whole := partOf(v.State.Units[p.Unit]), partOf(v.State.Units[0])
	lot := store.Lot{
		Name: in.Name, Kind: raw.Kind, GramsMg: mg, Preparation: fleece.PreparationOf(now, whole, p.Stage, kinds.Named(raw.Kind).Family == "wool"),
		StapleMM: raw.StapleMM,
		Words:    fibre.Words{WhereFrom: raw.Name, Place: raw.Place, Note: in.Note},
		Colours:  []store.Colour{{Hex: p.Hex, Share: 1, Source: "picker"}},
	}
	if lot.Name == "" {
		lot.Name = v.Name + ", " + p.Name
		lot.Name = string([]rune(lot.Name)[:min(len([]rune(lot.Name)), floor.MaxName)])
	}
	lot.ShelfOrder = colour.ShelfOrder(floor.MeanLinear(lot.Colours))
	of := 1.0
	if sum := sortedG(v.Fleece.Parts); sum > 0 && p.StageG[fleece.Sorted-1] != nil {
		of = *p.StageG[fleece.Sorted-1] / sum
	}
	from := v.Fleece.RawG * of * floor.InGrams(mg) / max(p.NowG, 1e-9)
	lot.Made = &store.Made{
		RunID: v.ID, MakingID: v.MakingID, Form: "fleece", Of: []store.MadeOf{{Lot: raw.ID, Name: raw.Name, Kind: raw.Kind, Superwash: raw.Superwash, Share: 1}},
		From: []store.MadeIn{{Lot: raw.ID, Name: raw.Name, Mg: unit.Grams(from).Milligrams()}},
	}
	if raw.CentsPer100g != nil && from > 0 {
		per := int64(float64(*raw.CentsPer100g)*from/floor.InGrams(mg) + 0.5)
		lot.CentsPer100g = &per
	}
	return lot, nil
}

func sortedG(parts []FleecePart) (sum float64) {
	for _, p := range parts {
		if g := p.StageG[fleece.Sorted-1]; g != nil {
			sum += *g
		}
	}
	return sum
}
