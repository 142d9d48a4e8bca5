package laying

import (
	"context"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/studio/recipe"
)

// MostAtOnce is how many blends are laid up at once at most.
const MostAtOnce = 100

// ManyInput lays blends of a making all in the same way: on one piece of equipment, by one builder, off the tool alike. Without Blends
// all that hold fibre and do not lie on it yet.
type ManyInput struct {
	EquipmentID int64     `json:"equipment_id"`
	Blends      []int64   `json:"blends"`
	Off         layup.Off `json:"off,omitzero"`
	BuildInput
}

// Laid is a blend of a making with what it takes on a piece of equipment, and its lay-up there that was touched last, if it has one.
type Laid struct {
	Blend   recipe.Blend
	Layup   *LayupRow
	Choices []EquipmentChoice
}

// LaidOf lists the blends of a making that hold fibre, in their order, with what each takes.
func (s *Room) LaidOf(ctx context.Context, making int64) (out []Laid, err error) {
	blends, err := s.recipe.BlendsOf(ctx, making)
	if err != nil {
		return nil, err
	}
	for _, b := range blends {
		if len(b.Components) == 0 {
			continue
		}
		v := Laid{Blend: b}
		if v.Choices, err = s.ChooseEquipment(ctx, b.ID); err != nil {
			return nil, err
		}
		rows, err := s.LayupsOf(ctx, b.ID)
		if err != nil {
			return nil, err
		}
		if len(rows) > 0 {
			v.Layup = &rows[0]
		}
		out = append(out, v)
	}
	return out, nil
}

// On is what a blend takes on a piece of equipment.
func (v Laid) On(equipment int64) (EquipmentChoice, bool) {
	i := slices.IndexFunc(v.Choices, func(c EquipmentChoice) bool { return c.EquipmentID == equipment })
	if i < 0 {
		return EquipmentChoice{}, false
	}
	return v.Choices[i], true
}

// LayAll lays blends of a making up in one deed: all of them, or none.
func (s *Room) LayAll(ctx context.Context, making int64, in ManyInput) (out []Layup, err error) {
	list, err := s.LaidOf(ctx, making)
	if err != nil {
		return nil, err
	}
	var l fault.List
	if len(in.Blends) > MostAtOnce {
		l.Add("blends", "At most %d blends are laid up at once.", MostAtOnce)
	}
	var chosen []Laid
	for _, v := range list {
		if slices.Contains(in.Blends, v.Blend.ID) || len(in.Blends) == 0 && (v.Layup == nil || v.Layup.EquipmentID != in.EquipmentID) {
			chosen = append(chosen, v)
		}
	}
	if len(l) == 0 && (len(chosen) == 0 || len(in.Blends) > 0 && len(chosen) < len(in.Blends)) {
		l.Add("blends", "Choose blends of this making that hold fibre.")
	}
	if in.Builder == "" {
		l.Add("builder", "Choose how they are laid.")
	}
	if err := l.Err(); err != nil {
		return nil, err
	}
	err = s.Deed(ctx, func(ctx context.Context) error {
		out = nil
		for _, v := range chosen {
			laid, err := s.layOne(ctx, v, in)
			if err != nil {
				return err
			}
			out = append(out, laid)
		}
		return nil
	})
	return out, err
}

// layOne lays one of many.
func (s *Room) layOne(ctx context.Context, v Laid, in ManyInput) (Layup, error) {
	units := 1
	if c, ok := v.On(in.EquipmentID); ok {
		units = c.Units
	}
	at, err := s.built(ctx, v.Blend, in.EquipmentID, units, v.Blend.Name, in.BuildInput)
	if err != nil {
		return Layup{}, err
	}
	at.Off = in.Off
	return s.CreateLayup(ctx, v.Blend.ID, at)
}
