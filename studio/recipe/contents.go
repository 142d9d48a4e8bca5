package recipe

import (
	"context"

	"fairtangle/core/fibre"
	"fairtangle/core/label"
)

// Label is what stands on the label of a blend: its finished contents in whole percent, through the batts that it was made of, and the
// care of the tenderest fibre in it.
type Label struct {
	Contents []label.Content
	Care     []string
}

// LabelOf works out the label of what so much of components makes together: a blend's, or those of several blends that became one yarn.
func (s *Room) LabelOf(ctx context.Context, components ...Component) (out Label, err error) {
	list, err := s.workshop.AllKinds(ctx, true)
	if err != nil || len(components) == 0 {
		return out, err
	}
	in := make([]BlendComponent, len(components))
	for i, c := range components {
		in[i] = c.BlendComponent
	}
	lots, err := s.lotsIn(ctx, in)
	if err != nil {
		return out, err
	}
	set, err := s.workshop.Settings(ctx)
	if err != nil {
		return out, err
	}
	var parts []label.Part
	var kinds []fibre.Kind
	var superwash []bool
	add := func(kind string, washed bool, grams float64) {
		k := list.Named(kind)
		kinds, superwash = append(kinds, k), append(superwash, washed)
		parts = append(parts, label.Part{Content: set.ContentName(k.Content()), Grams: grams})
	}
	for _, c := range components {
		if c.LotID != nil {
			if lot, ok := lots[*c.LotID]; ok {
				if lot.Made != nil && len(lot.Made.Of) > 0 { // a batt is what it was made of
					for _, of := range lot.Made.Of {
						add(of.Kind, of.Superwash, c.Grams*of.Share)
					}
					continue
				}
				add(c.Kind, lot.Superwash, c.Grams)
				continue
			}
		}
		add(c.Kind, false, c.Grams)
	}
	out.Care = fibre.Care(kinds, superwash)
	out.Contents, err = label.Contents(parts)
	for i, c := range out.Contents {
		if c.Content == label.Others {
			out.Contents[i].Content = set.ContentName(c.Content)
		}
	}
	return out, err
}
