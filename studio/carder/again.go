package carder

import (
	"context"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
)

// Again is a blend that is made once more.
type Again struct {
	Blend recipe.Blend `json:"blend"`
	// Found says that lots were gone or short, and the proportions were found anew from what is
	// there, so that the colour is near that of the first batch.
	Found   bool     `json:"found"`
	Lacking []string `json:"lacking"` // the lots that are gone or short
	// DeltaE is how far it will be from the first batch, seen side by side; Measured says that
	// the first was measured, not foreseen.
	DeltaE   float64 `json:"delta_e"`
	Measured bool    `json:"measured"`

	making int64
	in     recipe.BlendInput
}

// nearEnough is within what difference, in CIEDE2000, answers count as equal, so that the one
// is taken whose fibre is nearest to that of the first batch.
const nearEnough = 0.5

// mostAgain is of how many lots a blend that is found anew has at most.
const mostAgain = 5

// LookAgainAt is the blend of a run once more, in the proportions in which it was really
// weighed, with its colour as the one wanted. Where a lot is gone or there is not enough of it
// the proportions are found anew from the shelf. Nothing is kept: BeginAgain does that.
func (s *Room) LookAgainAt(ctx context.Context, id int64) (Again, error) {
	v, err := s.Run(ctx, id)
	if err != nil {
		return Again{}, err
	}
	if v.Sort != CardingRun {
		return Again{}, fault.New("run", "A raw fleece is not made again.")
	}
	all := make([]int, len(v.Units))
	for i := range all {
		all[i] = i
	}
	finished, _ := v.broughtIn(all)
	var total float64
	for _, g := range finished {
		total += g
	}
	if total <= 0 {
		return Again{}, fault.New("run", "Nothing was weighed for it, so nobody knows what lay in it.")
	}
	out := Again{Lacking: []string{}}
	name := []rune(v.Name + ", again")
	in := recipe.BlendInput{Name: string(name[:min(len(name), floor.MaxName)]), TotalG: floor.InGrams(unit.Grams(total).Milligrams()), Passes: v.Row.Passes}
	if in.Target, out.Measured, err = s.cameOutAs(ctx, v, finished); err != nil {
		return Again{}, err
	}
	for i, c := range v.Weighout.Components {
		if finished[i] > 0 {
			in.Components = append(in.Components, recipe.BlendComponent{
				LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex, Only: v.Weighout.Row.Components[i].OnlyHex, Parts: finished[i] / total,
			})
		}
	}
	b, err := s.recipe.Look(ctx, in)
	if err != nil {
		return Again{}, err
	}
	for _, c := range b.Components {
		if c.InBin || c.LotID != nil && c.ShortG > 0 {
			out.Lacking = append(out.Lacking, c.Name)
		}
	}
	if len(out.Lacking) > 0 {
		if in.Components, out.Found, err = s.foundAnew(ctx, in, b); err != nil {
			return Again{}, err
		}
	}
	out.making, out.in = v.MakingID, in
	return out, nil
}

// BeginAgain keeps a blend that is made once more.
func (s *Room) BeginAgain(ctx context.Context, out Again) (Again, error) {
	var err error
	if out.Blend, err = s.recipe.CreateBlend(ctx, out.making, out.in); err == nil && out.Blend.Target != nil {
		out.DeltaE = out.Blend.Target.DeltaE
	}
	return out, err
}

// cameOutAs is the colour that a run came out with: as a sample of its blend was measured, else
// as it was foreseen.
func (s *Room) cameOutAs(ctx context.Context, v Run, finished []float64) (hex string, measured bool, err error) {
	rows, err := store.Pieces[store.Sample](ctx, s.Store, "blend_id = ?", v.BlendID)
	if err != nil {
		return "", false, err
	}
	if len(rows) > 0 {
		return rows[0].Measured.Hex, true, nil
	}
	return foreseenColour(v.Weighout, finished).Hex, false, nil
}

// foundAnew finds the proportions that reach the colour from what is there: of those that come
// as near, the one whose families of fibre are nearest to the first. Where the shelf has
// nothing, the recipe stays as it was.
func (s *Room) foundAnew(ctx context.Context, in recipe.BlendInput, first recipe.Blend) ([]recipe.BlendComponent, bool, error) {
	a, err := s.reach.Find(ctx, in, reach.FindInput{MaxComponents: min(max(2, len(in.Components)), mostAgain), Count: 12}, nil)
	if _, isFault := fault.From(err); isFault || err == nil && len(a.Found) == 0 {
		return in.Components, false, nil
	}
	if err != nil {
		return nil, false, err
	}
	wanted := families(first)
	best, least := a.Found[0], math.Inf(1)
	nearest := math.Inf(1)
	for _, f := range a.Found {
		nearest = min(nearest, f.DeltaE)
	}
	for _, f := range a.Found {
		if f.DeltaE > nearest+nearEnough {
			continue
		}
		b, err := s.recipe.Look(ctx, recipe.BlendInput{Name: in.Name, TotalG: in.TotalG, Passes: in.Passes, Components: f.Components})
		if err != nil {
			return nil, false, err
		}
		if d := apart(wanted, families(b)); d < least {
			best, least = f, d
		}
	}
	return best.Components, true, nil
}

// families are the shares of a blend by family of fibre.
func families(b recipe.Blend) map[string]float64 {
	out := map[string]float64{}
	for _, c := range b.Components {
		out[c.Fibre.Family] += c.Share
	}
	return out
}

// apart is which part of one would have to be exchanged to have the other.
func apart(a, b map[string]float64) (sum float64) {
	for k, v := range a {
		sum += math.Max(0, v-b[k])
	}
	return sum
}
