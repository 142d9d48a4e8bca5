package carder

import (
	"fairtangle/core/losses"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/scale"
)

// weightsForeseen is what each unit of a run is expected to weigh when it comes off, by what
// is known of losses now, without what the cloth takes up.
func weightsForeseen(w scale.Weighout, r store.Run) (out []store.Weight) {
	cloth := r.ClothMg
	believe := func(kind string) losses.Belief { return w.At.Known.Of(*r.EquipmentID, w.At.Kinds, kind) }
	for u := range w.Units {
		var parts []losses.Went
		for _, c := range w.Row.Cells {
			if p := w.Row.Components[c.Position]; c.Unit == u {
				parts = append(parts, losses.Went{
					Kind: p.Kind, Grams: float64(floor.NowOf(c).Grams()), First: 1, Last: p.AloneFirst + r.Passes - max(p.JoinsAtPass, 1) + 1, Decay: p.Decay,
					Drier: w.At.Kinds.Named(p.Kind).Drier(),
				})
			}
		}
		g, sd := losses.Expect(parts, believe, func(a, b string) float64 { return w.At.Known.Cov(*r.EquipmentID, a, b) }, w.StepG)
		grows := lessons.FillOf(r.Plan, cloth)
		cloth += grows
		out = append(out, store.Weight{Grams: g - floor.InGrams(grows), SD: sd})
	}
	return out
}
