package scale

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
)

// WeighoutLay is one lay of a component with its grams in each unit. Layer -1
// is what the lay-up leaves over.
type WeighoutLay struct {
	Component int       `json:"component"`
	Layer     int       `json:"layer"`
	Lay       layup.Lay `json:"lay"`
	Grams     []float64 `json:"grams"` // by unit
	TotalG    float64   `json:"total_g"`
}

// laysOf is the lays of a lay-up as a weigh-out keeps them, with what is not
// laid of each component last.
func laysOf(l laying.Layup) (out []store.WeighoutLay) {
	for i, f := range l.Fibres {
		if f.Gone || l.LaidPlan.LosesAlone(l.Bed, i) > 0 { // what is carded alone first is divided when it comes off
			continue
		}
		for n, layer := range l.LaidPlan.Layers {
			for _, v := range layer.Lays {
				if v.Component == i {
					out = append(out, store.WeighoutLay{Position: i, Layer: n, PlanLay: laying.KeptLay(v)})
				}
			}
		}
		if f.UnplacedG > 0.0005 {
			out = append(out, store.WeighoutLay{Position: i, Layer: -1, PlanLay: store.PlanLay{Component: i, Grams: f.UnplacedG}})
		}
	}
	return out
}

// followed returns the lay-up that a weigh-out of a blend is to follow.
func (s *Room) followed(ctx context.Context, b recipe.Blend, id *int64) (*laying.Layup, error) {
	if id == nil {
		return nil, nil
	}
	row, err := store.Piece[store.Layup](ctx, s.Store, *id)
	if err != nil || row.BlendID != b.ID {
		return nil, fault.New("layup_id", "There is no such lay-up of this blend.")
	}
	l, err := s.laying.LayupIn(ctx, row, b)
	return &l, err
}

// divide shares each cell of a weigh-out out over its component's lays, in
// steps of the scale, by largest remainder: lays add up to their component in
// every unit.
func (w *Weighout) divide(r store.Weighout) {
	step := float64(max(1, r.StepMg))
	lays := make([]WeighoutLay, len(r.Lays))
	by := make([][]int, len(r.Components))
	for i, v := range r.Lays {
		lays[i] = WeighoutLay{Component: v.Position, Layer: v.Layer, Lay: laying.Lay(v.PlanLay), Grams: make([]float64, r.Units)}
		if v.Position < len(by) {
			by[v.Position] = append(by[v.Position], i)
		}
	}
	for _, c := range r.Cells {
		list := by[c.Position]
		if len(list) == 0 {
			continue
		}
		now := floor.NowOf(c)
		var sum float64
		for _, i := range list {
			sum += r.Lays[i].Grams
		}
		exact := make([]float64, len(list))
		for n, i := range list {
			exact[n] = float64(now) / step * r.Lays[i].Grams / sum
		}
		whole := int64(float64(now) / step)
		counts := weigh.Apportion(exact, whole)
		rest := now - unit.Milligrams(whole)*r.StepMg // a reading may be finer than the step
		for n, i := range list {
			mg := unit.Milligrams(counts[n]) * r.StepMg
			if n == 0 {
				mg += rest
			}
			lays[i].Grams[c.Unit] = floor.InGrams(mg)
		}
	}
	for i := range lays {
		for _, v := range lays[i].Grams {
			lays[i].TotalG = unit.Clean(lays[i].TotalG + v)
		}
	}
	w.Lays = lays
}
