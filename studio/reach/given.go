package reach

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/given"
	"fairtangle/core/match"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// Taking is how a recipe that was given is made here. Lots are those that stand in, by component; 0 is bought, and where it is empty the
// nearest are taken. Anew finds the shares anew for the colour that the recipe has.
type Taking struct {
	Recipe given.Recipe
	TotalG float64
	Lots   []int64
	Anew   bool
}

// GivenPart is a component of a recipe with what stands in for it here.
type GivenPart struct {
	given.Component
	Grams   float64 // finished, as it was given
	Near    []GivenLot
	Chosen  *GivenLot // nil: to buy
	AnewPct float64   // its share where shares are found anew
}

// GivenLot is a lot that may stand in, and how near it comes.
type GivenLot struct {
	given.Near
	Lot   shelf.Lot
	FreeG float64 // finished
	Words string  // of the difference in colour
}

// GivenSeen is a recipe that was given, as near as this shelf comes.
type GivenSeen struct {
	Parts      []GivenPart
	Colour     string // that it has where it was given
	Here, Anew string // that it has here, with its shares and with those found anew; empty where none were found
	HereDE     float64
	AnewDE     float64
	HereSaid   string
	AnewSaid   string
	shares     []float64 // found anew
}

// nearShown is how many lots are offered for a component.
const nearShown = 6

// GivenTo is a recipe as near as this shelf comes to it.
func GivenTo(ctx context.Context, s *Room, q Taking) (out GivenSeen, err error) {
	if !(q.TotalG >= 1 && q.TotalG <= 100_000) {
		return out, fault.New("grams", "How much it is to be lies from %s to %s.", unit.Grams(1), unit.Grams(100_000))
	}
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return out, err
	}
	rows, err := s.Store.Stocked(ctx)
	if err != nil {
		return out, err
	}
	if rows, err = s.Promises.Unclaimed(ctx, rows, 0); err != nil {
		return out, err
	}
	ids := make([]int64, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	whole, err := s.Store.LotsByID(ctx, ids)
	if err != nil {
		return out, err
	}
	lots := make([]given.Lot, len(rows))
	for i, free := range rows {
		r := whole[free.ID]
		r.GramsMg = free.GramsMg // what nobody has spoken for
		rows[i] = r
		l := shelf.LotOf(r, at.Kinds)
		lots[i] = given.Lot{ID: r.ID, Kind: l.Fibre, Preparation: r.Preparation, StapleMM: l.WorkingStapleMM, Lab: floor.MeanLinear(r.Colours).Lab(),
			Grams: shelf.WayOf(l.Fibre, q.Recipe.Passes).Finished(floor.InGrams(r.GramsMg))}
	}
	grams := q.Recipe.Grams(q.TotalG, floor.InGrams(at.Settings.StepMg))
	stand := given.Stand(q.Recipe, grams, lots)
	for i, c := range q.Recipe.Components {
		p := GivenPart{Component: c, Grams: grams[i]}
		want, _ := colour.ParseHex(c.Colour)
		for _, n := range given.Nearest(c, grams[i], lots, len(lots)) {
			chosen := n.Lot == stand[i]
			if len(q.Lots) > 0 {
				chosen = i < len(q.Lots) && lots[n.Lot].ID == q.Lots[i]
			}
			if len(p.Near) >= nearShown && !chosen {
				continue
			}
			l := GivenLot{n, shelf.LotOf(rows[n.Lot], at.Kinds), lots[n.Lot].Grams, colour.Words(want.Lab(), lots[n.Lot].Lab)}
			p.Near = append(p.Near, l)
			if chosen {
				p.Chosen = &p.Near[len(p.Near)-1]
			}
		}
		out.Parts = append(out.Parts, p)
	}
	return out, s.seenHere(ctx, q, at, &out)
}

// seenHere works out what colour it has here, as it was given and with shares found anew.
func (s *Room) seenHere(ctx context.Context, q Taking, at shelf.Mixing, out *GivenSeen) error {
	in, place := q.blend(*out, nil)
	b, err := s.recipe.WorkOut(ctx, in)
	if err != nil {
		return err
	}
	target, _ := colour.ParseHex(q.Recipe.Colour)
	want := target.Lab()
	lab := b.Even.Lab()
	out.Colour, out.Here, out.HereDE, out.HereSaid = q.Recipe.Colour, b.Hex, colour.CIEDE2000(want, lab), colour.Words(want, lab)
	step := floor.InGrams(at.Settings.StepMg)
	query := match.Query{
		Target: want, Model: at.Model, Components: len(in.Components), Total: math.Max(step, math.Round(q.TotalG/step)*step), Step: step, Count: 1,
	}
	for i, c := range in.Components {
		share := c.Parts / 100
		query.Lots = append(query.Lots, match.Lot{Colour: b.Tints[i].Colour, Strength: at.StrengthOf(b.Tints[i]), Available: math.Inf(1), Cost: math.NaN(),
			Least: share / moved, Most: math.Min(1, share*moved)})
	}
	for i, p := range out.Parts {
		if l := &query.Lots[place[i]]; p.Chosen != nil {
			l.Available = p.Chosen.FreeG
			l.Least = math.Min(l.Least, l.Available/query.Total)
		}
	}
	found, err := match.Quick(ctx, query)
	if l, none := fault.From(err); none && len(l) > 0 || err == nil && len(found.Set) == 0 {
		return nil // the shares as they were given are all there is
	}
	if err != nil || found.DeltaE >= out.HereDE-nearer {
		return err
	}
	steps, sum := make([]float64, len(in.Components)), 0.0
	for k, i := range found.Set {
		steps[i] = float64(found.Steps[k])
		sum += steps[i]
	}
	out.shares = make([]float64, len(out.Parts))
	for i, p := range out.Parts { // of a lot that stands in for several, each as much as it was given
		out.shares[i] = steps[place[i]] / max(sum, 1) * p.Share / (in.Components[place[i]].Parts / 100)
		out.Parts[i].AnewPct = 100 * out.shares[i]
	}
	lab = found.Colour.Lab()
	out.Anew, out.AnewDE, out.AnewSaid = found.Colour.Linear().Hex(), found.DeltaE, colour.Words(want, lab)
	return nil
}

// nearer is by how much shares found anew come nearer, in CIEDE2000, or they are not worth telling.
const nearer = 0.1

// moved is how many times as much, or as little, of a fibre there is at most where shares are found anew: it stays the same recipe.
const moved = 1.6

// blend is the blend that it becomes, with shares as given or others, and which of its components each part is: a lot that stands in for
// several is in it once.
func (q Taking) blend(seen GivenSeen, shares []float64) (in recipe.BlendInput, place []int) {
	in = recipe.BlendInput{Name: q.Recipe.Name, TotalG: q.TotalG, Passes: q.Recipe.Passes, Target: q.Recipe.Colour}
	for i, p := range seen.Parts {
		c := recipe.BlendComponent{Name: p.Name, Kind: cmp.Or(p.Kind, "unknown"), Preparation: p.Preparation, Hex: p.Colour, Parts: 100 * p.Share}
		if shares != nil {
			c.Parts = 100 * shares[i]
		}
		at := -1
		if p.Chosen != nil {
			c = recipe.BlendComponent{LotID: &p.Chosen.Lot.ID, Parts: c.Parts}
			at = slices.IndexFunc(in.Components, func(o recipe.BlendComponent) bool { return o.LotID != nil && *o.LotID == *c.LotID })
		}
		if at >= 0 {
			in.Components[at].Parts += c.Parts
		} else {
			at, in.Components = len(in.Components), append(in.Components, c)
		}
		place = append(place, at)
	}
	return in, place
}

// TakeGiven makes the blend of a recipe that was given, in a making or in a new one of its name.
func TakeGiven(ctx context.Context, s *Room, making int64, q Taking) (recipe.Blend, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (b recipe.Blend, err error) {
		seen, err := GivenTo(ctx, s, q)
		if err != nil {
			return b, err
		}
		shares := seen.shares
		if !q.Anew {
			shares = nil
		}
		in, _ := q.blend(seen, shares)
		if making == 0 {
			note := q.Recipe.Note
			if q.Recipe.By != "" {
				note = "Given by " + q.Recipe.By + ".\n" + note
			}
			m, err := s.recipe.CreateMaking(ctx, recipe.MakingInput{Name: q.Recipe.Name, Note: note})
			if err != nil {
				return b, err
			}
			making = m.ID
		}
		return s.recipe.CreateBlend(ctx, making, in)
	})
}
