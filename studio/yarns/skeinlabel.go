package yarns

import (
	"context"

	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// LabelOf works out what stands on the label of a skein: of the lots that were spun up in it by their weights, or where none are told
// of all blends of its making by theirs.
func (s *Room) LabelOf(ctx context.Context, k Skein) (recipe.Label, error) {
	var of []recipe.Component
	lots, err := s.Store.LotsByID(ctx, k.Lots)
	if err != nil {
		return recipe.Label{}, err
	}
	for _, id := range k.Lots {
		spun, err := s.Store.Left(ctx, id, shelf.Spun)
		if err != nil {
			return recipe.Label{}, err
		}
		if spun > 0 {
			of = append(of, recipe.Component{BlendComponent: recipe.BlendComponent{LotID: &id, Kind: lots[id].Kind}, Grams: floor.InGrams(spun)})
		}
	}
	if len(of) == 0 {
		blends, err := s.recipe.BlendsOf(ctx, k.MakingID)
		if err != nil {
			return recipe.Label{}, err
		}
		for _, b := range blends {
			of = append(of, b.Components...)
		}
	}
	return s.recipe.LabelOf(ctx, of...)
}
