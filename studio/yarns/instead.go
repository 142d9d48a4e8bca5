package yarns

import (
	"context"
	"errors"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/core/yarn"
	"fairtangle/studio/floor"
)

// OldYarn is a yarn as an old pattern tells it.
type OldYarn struct {
	BallM, BallG   float64 // metres in so many grams
	Plies          int     // 0: not told
	Stitches, Rows float64 // on 10 cm; 0: not told
	NeedM          float64 // of it; 0: that of Balls
	Balls          float64
	WrapsPerInch   float64 // 0: not told
	InPlies        int     // to be spun in; 0: as is near
}

// Instead is what is spun in its place.
type Instead struct {
	yarn.Instead
	Turns   yarn.Turns // of the way that comes nearest
	NeedM   float64
	FibreG  float64 // carded, with the usual allowances
	Spun    float64 // m of singles, before washing
	GristM  float64 // of the yarn, m in 100 g
	SinGM   float64 // of a single on the bobbin
	Shorter float64 // by washing, as a part
}

// InsteadOf works out what is spun in place of a yarn, of the fibre of a making where it has any, else of wool.
func (s *Room) InsteadOf(ctx context.Context, making int64, o OldYarn) (out Instead, err error) {
	if err := o.check(); err != nil {
		return out, err
	}
	blends, err := s.recipe.BlendsOf(ctx, making)
	if err != nil {
		return out, err
	}
	var grams, densities []float64
	var crimps []string
	var parts []yarn.Fibre
	staple, most := 75.0, 0.0
	for _, b := range blends {
		for _, c := range b.Components {
			grams, densities, crimps = append(grams, c.Grams), append(densities, c.Fibre.Density), append(crimps, c.Fibre.Crimp)
			parts = append(parts, yarn.Fibre{Coat: coatOf(c.Fibre, c.Lot != nil && c.Lot.Superwash), Share: c.Grams, DiameterU: c.Fibre.DiameterUM.Mid()})
			if c.Grams > most && c.Fibre.Role != "texture" {
				most, staple = c.Grams, max(c.Fibre.StapleMM.Mid(), 1)
			}
		}
	}
	of := yarn.BodyOf(grams, densities, crimps)
	shown, err := s.ShownBySkeins(ctx)
	if err != nil {
		return out, err
	}
	allow := (&Need{shown: shown}).allowances(blends, 0.1).Allowances
	out.NeedM = o.NeedM
	if out.NeedM == 0 {
		out.NeedM = o.Balls * o.BallM
	}
	out.GristM = 100 * o.BallM / o.BallG
	out.Instead = yarn.InsteadOf(yarn.Old{MetresPer100g: out.GristM, Plies: o.Plies, Gauge: yarn.Gauge{Stitches: o.Stitches, Rows: o.Rows}, Metres: out.NeedM,
		WrapsLoose: o.WrapsPerInch}, o.InPlies, allow.TakeUp, of.Density, of.Crimp)
	near := out.Nearest(1)[0]
	out.Turns = yarn.TurnsOf(out.SinglesTex, staple, near.Draw, out.Plies, false, of.Density, near.Packing)
	out.Shorter = yarn.WashedOf(parts, near.Draw).Shorter
	up := 1 + allow.TakeUp
	if out.Plies == 1 {
		up = 1
	}
	out.Spun = out.NeedM * float64(out.Plies) * up / (1 - out.Shorter)
	out.SinGM = 100_000 / (out.SinglesTex * (1 - out.Shorter) / (1 - allow.Finishing))
	out.FibreG = out.Grams * (1 + allow.Margin) / ((1 - allow.Waste) * (1 - allow.Finishing))
	return out, nil
}

func (o OldYarn) check() error {
	var l fault.List
	within := func(field string, v, least, most float64, sentence string) {
		if !(v >= least && v <= most) {
			l.Add(field, "%s", sentence)
		}
	}
	within("ball_m", o.BallM, 1, 1e5, "A ball of it is above 0 long.")
	if !(o.BallG > 0 && o.BallG <= float64(unit.MaxGrams)) {
		l.Add("ball_g", "It weighs above %s.", unit.Grams(0))
	}
	if o.NeedM == 0 && o.Balls == 0 {
		l.Add("balls", "Say how many balls, or what length the piece takes.")
	}
	within("balls", o.Balls, 0, 1000, "There are 0 to 1,000 balls.")
	within("plies", float64(o.Plies), 0, 12, "Plies are counted from 1 to 12.")
	within("in_plies", float64(o.InPlies), 0, 4, "It is spun in one to four plies.")
	within("wraps", o.WrapsPerInch, 0, 200, "Wraps per inch are above 0 and at most 200.")
	within("stitches", o.Stitches, 0, 200, "There are from 1 to 200 of them.")
	within("rows", o.Rows, 0, 200, "There are from 1 to 200 of them.")
	if grist := 100 * o.BallM / o.BallG; len(l) == 0 && !(grist >= 10 && grist <= 20_000) {
		l.Add("ball_m", "No yarn is so: look at the length and the weight once more.")
	}
	return l.Err()
}

// TakeInstead makes what is spun in place of a yarn the need of a making: so much of that grist, in so many plies.
func (s *Room) TakeInstead(ctx context.Context, making int64, o OldYarn, what string) (Need, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (Need, error) {
		v, err := s.InsteadOf(ctx, making, o)
		if err != nil {
			return Need{}, err
		}
		n, err := s.NeedOf(ctx, making)
		plan := n.NeedPlan
		switch {
		case errors.Is(err, floor.ErrNotFound):
			plan = NeedPlan{What: what}
		case err != nil:
			return Need{}, err
		}
		plan.Way, plan.Plies, plan.WPI, plan.Locked = NeedWays[0], v.Plies, 0, slices.DeleteFunc(plan.Locked, func(f string) bool { return f != "felt" })
		plan.Length, plan.Grist = math.Round(v.NeedM), math.Round(v.GristM*10)/10
		plan.Weight = 100 * plan.Length / plan.Grist
		if n.ID == 0 {
			return s.StartNeed(ctx, making, plan)
		}
		return s.SaveNeed(ctx, n.ID, n.Version, plan)
	})
}
