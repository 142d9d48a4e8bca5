package carder

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/shelf"
)

// SampleOfRun keeps the colour that a photo shows of a unit as a sample of its blend, with
// the components as they were weighed for it.
func (s *Room) SampleOfRun(ctx context.Context, id int64, unitNo int, look shelf.PhotoLook, source string) error {
	v, err := s.Run(ctx, id)
	if err != nil {
		return err
	}
	if v.Sort != CardingRun || unitNo < 0 || unitNo >= len(v.Units) {
		return fault.New("unit", "There is no such unit in this run.")
	}
	finished, _ := v.broughtIn([]int{unitNo})
	var all float64
	for _, g := range finished {
		all += g
	}
	if all <= 0 {
		return fault.New("unit", "Nothing was weighed for it, so nobody knows what lies in it.")
	}
	blend := v.BlendID
	row := store.Sample{
		Name: unitName(v, unitNo), BlendID: &blend, Note: fmt.Sprintf("measured from a photo, patches differ by %.1f", look.PatchDeltaE),
		Measured: store.Colour{Share: 1, Source: source, Hex: look.Hex},
	}
	for i, c := range v.Weighout.Components {
		t := v.Weighout.Tints[i]
		row.Components = append(row.Components, store.SampleComponent{
			LotID: c.LotID, Name: c.Name, Kind: c.Kind, Hex: t.Colour.Linear().Hex(), Reflectance: t.Colour[:], Share: finished[i] / all,
		})
	}
	_, err = store.AddPiece(ctx, s.Store, row)
	return err
}
