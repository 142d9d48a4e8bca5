package carder

import (
	"context"
	"errors"
	"math"
	"slices"

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
	// Instead are the lots that take the place of what is lacking.
	Instead []string `json:"instead"`
	// LayupID is the lay-up of the first batch, laid with this one; 0: it had none, or that equipment is gone.
	LayupID int64 `json:"layup_id"`

	making int64
	in     recipe.BlendInput
	first  []recipe.BlendComponent
	layup  *int64
}

// nearEnough is within what difference, in CIEDE2000, answers count as equal, so that the one
// is taken whose fibre is nearest to that of the first batch.
const nearEnough = 0.5

// mostNew is how many lots at most take the place of what is gone. What is left of a lot is used from this part of what is wanted.
const (
	mostNew   = 2
	leastKept = 0.1
)

// WorkOutAgain is the blend of a run once more, in the proportions in which it was really
// weighed, with its colour as the one wanted. Where a lot is gone or there is not enough of it
// the proportions are found anew from the shelf. Nothing is kept: BeginAgain does that.
func (s *Room) WorkOutAgain(ctx context.Context, id int64) (Again, error) {
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
	out := Again{Lacking: []string{}, Instead: []string{}}
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
	b, err := s.recipe.WorkOut(ctx, in)
	if err != nil {
		return Again{}, err
	}
	for _, c := range b.Components {
		if c.InBin || c.LotID != nil && c.ShortG > 0 {
			out.Lacking = append(out.Lacking, c.Name)
		}
	}
	out.first, out.layup = in.Components, v.Row.LayupID
	if len(out.Lacking) > 0 {
		if in.Components, out.Found, err = s.foundAnew(ctx, in, b, v.MakingID); err != nil {
			return Again{}, err
		}
	}
	in.AgainOf = &v.ID
	out.making, out.in = v.MakingID, in
	return out, nil
}

// BeginAgain keeps a blend that is made once more, and lays it as the first batch was laid.
func (s *Room) BeginAgain(ctx context.Context, out Again) (Again, error) {
	var err error
	if out.Blend, err = s.recipe.CreateBlend(ctx, out.making, out.in); err != nil {
		return out, err
	}
	if out.Blend.Target != nil {
		out.DeltaE = out.Blend.Target.DeltaE
	}
	for _, c := range out.Blend.Components {
		if !slices.ContainsFunc(out.first, c.SameFibre) {
			out.Instead = append(out.Instead, c.Name)
		}
	}
	if out.layup == nil || len(out.Blend.Components) < len(out.first) {
		return out, nil
	}
	l, err := s.laying.LayAgain(ctx, *out.layup, out.Blend)
	if _, isFault := fault.From(err); isFault || errors.Is(err, floor.ErrNotFound) {
		return out, nil // that equipment, or that lay-up, is not there any more
	}
	out.LayupID = l.ID
	return out, err
}

// Changed is what a blend that is made again has in other than the run had.
type Changed struct {
	Run     store.Run
	Gone    []string // that is in it no more
	Instead []string // that is new
}

// ChangedSince tells what is other in a blend than in the run that it is made again after; nil where it is made after none, or that
// is gone.
func (s *Room) ChangedSince(ctx context.Context, b recipe.Blend) (*Changed, error) {
	row, err := s.Store.Blend(ctx, b.ID)
	if err != nil || row.AgainOf == nil {
		return nil, err
	}
	r, err := s.Store.Run(ctx, *row.AgainOf)
	if errors.Is(err, floor.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	out := &Changed{Run: r}
	var names []string
	for _, c := range b.Components {
		names = append(names, c.Name)
	}
	was := map[string]bool{}
	for _, f := range r.Plan.Fibres {
		if was[f.Name] = true; !slices.Contains(names, f.Name) {
			out.Gone = append(out.Gone, f.Name)
		}
	}
	for _, name := range names {
		if !was[name] {
			out.Instead = append(out.Instead, name)
		}
	}
	return out, nil
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

// foundAnew keeps what is there, each fibre in its share or as far as it reaches, and finds from the shelf what takes the place of
// the rest, so that the colour is reached: of what comes as near, that whose families of fibre are nearest to the first. Where the
// shelf has nothing, the recipe stays as it was.
func (s *Room) foundAnew(ctx context.Context, in recipe.BlendInput, first recipe.Blend, making int64) ([]recipe.BlendComponent, bool, error) {
	wish := reach.Wish{MakingID: making, NoBatches: true, Kept: make([]float64, len(first.Components))}
	kept := 0
	for i, c := range first.Components {
		wish.Kept[i] = c.Share
		if c.InBin {
			wish.Kept[i] = 0
		} else if c.LotID != nil && c.ShortG > 0 {
			left := c.Way(in.Passes).Finished(*c.HaveG) / in.TotalG
			if wish.Kept[i] = min(c.Share, left); left < leastKept*c.Share {
				wish.Kept[i] = 0
			}
		}
		if wish.Kept[i] > 0 {
			kept++
		}
	}
	a, err := s.reach.Find(ctx, in, reach.FindInput{MaxComponents: kept + mostNew, Count: 12, Wish: wish}, nil)
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
		b, err := s.recipe.WorkOut(ctx, recipe.BlendInput{Name: in.Name, TotalG: in.TotalG, Passes: in.Passes, Components: f.Components})
		if err != nil {
			return nil, false, err
		}
		if d := apart(wanted, families(b)); d < least {
			best, least = f, d
		}
	}
	return inOrder(in.Components, best.Components), true, nil
}

// inOrder puts what was found into the order of the first batch: what is kept in its place, what is new in that of what is gone, the
// rest last.
func inOrder(first, found []recipe.BlendComponent) []recipe.BlendComponent {
	var out, fresh []recipe.BlendComponent
	for _, c := range found {
		if !slices.ContainsFunc(first, c.SameFibre) {
			fresh = append(fresh, c)
		}
	}
	for _, c := range first {
		switch i := slices.IndexFunc(found, c.SameFibre); {
		case i >= 0:
			out = append(out, found[i])
		case len(fresh) > 0:
			out, fresh = append(out, fresh[0]), fresh[1:]
		}
	}
	return append(out, fresh...)
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
