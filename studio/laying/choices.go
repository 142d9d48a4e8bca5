package laying

import (
	"context"
	"slices"

	"fairtangle/core/layup"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// EquipmentChoice is what a blend makes on one piece of equipment.
type EquipmentChoice struct {
	EquipmentID int64  `json:"equipment_id"`
	Name        string `json:"name"`
	Type        string `json:"type"`
	layup.Choice
	Equipment workshop.Equipment `json:"-"`
}

// standard is the preset that stands for a type that the workshop has not.
var standard = map[string]string{"drum": "drum_standard_hand", "board": "board_large", "hand_cards": "hand_cards_standard", "hands": "hands_two"}

// ChooseEquipment puts the equipment of the workshop side by side for a blend:
// units, grams, minutes, and how it comes out; of a type that the workshop has
// not, the standard preset with the id 0. How full follows the school of the
// making.
func (s *Room) ChooseEquipment(ctx context.Context, blendID int64) ([]EquipmentChoice, error) {
	b, err := s.recipe.Blend(ctx, blendID)
	if err != nil || len(b.Components) == 0 {
		return []EquipmentChoice{}, err
	}
	schools, err := s.schoolsOf(ctx, b.MakingID)
	if err != nil {
		return nil, err
	}
	b.Passes = layup.PassesBy(schools, b.Passes)
	list, err := s.workshop.Equipment(ctx)
	if err != nil {
		return nil, err
	}
	for _, p := range workshop.Presets() { // what is not there yet, one of each type
		if p.Preset == standard[p.Type] && !slices.ContainsFunc(list, func(e workshop.Equipment) bool { return e.Type == p.Type }) {
			list = append(list, p)
		}
	}
	out := []EquipmentChoice{}
	for _, e := range list {
		out = append(out, EquipmentChoice{e.ID, e.Name, e.Type, layup.Choose(e.Bed(), WeighedIn(b, e.Bed()), schools, b.Passes), e})
	}
	return out, nil
}

// WeighedIn is the fibre of the whole blend as it goes on a bed: so much that it comes off as heavy as the blend.
func WeighedIn(b recipe.Blend, on layup.Bed) []layup.Fibre {
	passes := layup.Plan{}.LosesIn(on, b.Passes)
	out := make([]layup.Fibre, len(b.Components))
	for i, c := range b.Components {
		out[i] = LayFibre(c.Name, c.Way(passes).WeighIn(c.Grams), c.Fibre, c.Preparation, c.StapleMM())
	}
	return out
}

// BuildOnto lets a builder lay a blend on a piece of equipment and keeps it.
// Left out, the units are those that the equipment needs, and the schools of
// the making decide what the request leaves open.
func (s *Room) BuildOnto(ctx context.Context, blendID, equipment int64, units int, name string, q BuildInput) (Layup, error) {
	b, err := s.recipe.Blend(ctx, blendID)
	if err != nil {
		return Layup{}, err
	}
	if units == 0 {
		units = 1
		choices, err := s.ChooseEquipment(ctx, blendID)
		if err != nil {
			return Layup{}, err
		}
		for _, c := range choices {
			if c.EquipmentID == equipment {
				units = c.Units
			}
		}
	}
	if name == "" {
		name = b.Name
	}
	in, err := s.built(ctx, b, equipment, units, name, q)
	if err != nil {
		return Layup{}, err
	}
	return s.CreateLayup(ctx, blendID, in)
}

// built is a lay-up as a builder makes it; it is not kept.
func (s *Room) built(ctx context.Context, b recipe.Blend, equipment int64, units int, name string, q BuildInput) (LayupInput, error) {
	empty, err := s.WorkOutLayup(ctx, b, LayupInput{Name: name, EquipmentID: equipment, Units: units}, true)
	if err != nil || q.Builder == "" {
		return empty.LayupInput, err
	}
	return empty.Change(LayupChange{Verb: "build", Build: &q})
}

// LayAgain lays a blend as another one was laid, fibre for fibre in their order; what is new in it is laid as its rest would be.
func (s *Room) LayAgain(ctx context.Context, layup int64, b recipe.Blend) (Layup, error) {
	was, err := s.Layup(ctx, layup)
	if err != nil {
		return Layup{}, err
	}
	in := was.LayupInput
	in.Name, in.Components = b.Name, nil
	next, err := s.WorkOutLayup(ctx, b, in, false)
	if err != nil {
		return Layup{}, err
	}
	n := len(was.LaidFibres)
	p := next.LaidPlan.Refit(next.Bed, was.LaidFibres, next.LaidFibres[:n], next.StepG)
	for i := n; i < len(next.LaidFibres); i++ {
		p = p.PlaceRest(next.Bed, next.LaidFibres, i, next.StepG)
	}
	in.PlanInput = PlanInputOf(p)
	return s.CreateLayup(ctx, b.ID, in)
}
