package advising

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// LookWhere is where a maker stands: in a making (need and fibres), at a blend, a gradient, a
// lay-up or a run. What is 0 is not told; without a lay-up it is the one touched last.
type LookWhere struct {
	Place    advice.Station
	Making   int64
	Blend    int64
	Gradient int64
	Layup    int64
	Run      int64

	unsaved *laying.Layup // a lay-up as its page has it
}

// SecondLook is what a practised eye says of a blend as it stands, where a maker stands.
type SecondLook struct {
	MakingID int64
	BlendID  int64
	Blend    string
	LayupID  int64            // that was looked at; 0: none
	Findings []advice.Finding // that are spoken of
	Quiet    []Quieted
	Unjudged []advice.Unjudged
	Told     []workshop.Told
	Plan     advice.Plan
	LotIDs   []int64 // of the components; 0: still to buy

	plan lookPlan
}

// Quieted is a finding that is not spoken of, and why.
type Quieted struct {
	advice.Finding
	Because string
}

// Weighty counts the stops and cautions that have their home at a station.
func (l SecondLook) Weighty(at advice.Station) (n int) {
	for _, f := range l.Findings {
		if f.Severity != advice.Hint && advice.Home(f.Rule) == at {
			n++
		}
	}
	return n
}

// LookFrom looks over what there is where a maker stands: each blend of a making, or one.
func (s *Room) LookFrom(ctx context.Context, at LookWhere) ([]SecondLook, error) {
	switch {
	case at.Gradient != 0:
		l, err := s.lookOfGradient(ctx, at.Gradient)
		return []SecondLook{l}, err
	case at.Making != 0:
		list, err := s.recipe.BlendsOf(ctx, at.Making)
		out := []SecondLook{}
		for _, b := range list {
			l, err := s.lookOf(ctx, b, at)
			if err != nil && floor.Aside(ctx, "blends", b.ID, b.Name, err) {
				continue
			}
			if err != nil {
				return nil, err
			}
			out = append(out, l)
		}
		return out, err
	}
	b, err := s.recipe.Blend(ctx, at.Blend)
	if err != nil {
		return nil, err
	}
	l, err := s.lookOf(ctx, b, at)
	return []SecondLook{l}, err
}

// LookOfLayup looks a lay-up over as its page has it.
func (s *Room) LookOfLayup(ctx context.Context, l laying.Layup) (SecondLook, error) {
	return s.lookOf(ctx, l.Blend, LookWhere{Place: advice.AtLayup, unsaved: &l})
}

// lookOf looks a blend over.
func (s *Room) lookOf(ctx context.Context, b recipe.Blend, at LookWhere) (SecondLook, error) {
	out := SecondLook{MakingID: b.MakingID, BlendID: b.ID, Blend: b.Name}
	p, err := s.planOfLook(ctx, b, at)
	if err != nil {
		return out, err
	}
	out.Plan, out.Told, out.plan = p.Plan, p.told, p
	if p.layup != nil {
		out.LayupID = p.layup.ID
	}
	for _, c := range b.Components {
		id := int64(0)
		if c.LotID != nil {
			id = *c.LotID
		}
		out.LotIDs = append(out.LotIDs, id)
	}
	if len(p.Fibres) == 0 {
		return out, nil
	}
	bounds, err := s.workshop.RuleBounds(ctx)
	if err != nil {
		return out, err
	}
	a := advice.Judge(p.Plan, bounds).With(p.Plan, p.laid)
	return out, s.sort(ctx, &out, a, at.Place, b.MakingID)
}

// sort puts what was found into what is spoken of at a station and what is quiet.
func (s *Room) sort(ctx context.Context, out *SecondLook, a advice.Answer, at advice.Station, making int64) error {
	quiet, err := s.Silences(ctx)
	if err != nil {
		return err
	}
	calm, err := s.shownCalm(ctx, out.plan.layup)
	if err != nil {
		return err
	}
	here := func(rule string) bool { return at == "" || advice.Belongs(rule, at) }
	for _, f := range a.Findings {
		i := slices.IndexFunc(quiet, func(v Silence) bool { return v.Rule == f.Rule && (v.MakingID == 0 || v.MakingID == making) })
		n := calm[f.Rule]
		switch {
		case !here(f.Rule):
		case i >= 0:
			out.Quiet = append(out.Quiet, Quieted{f, "You said: " + quiet[i].Reason})
		case n > 0 && f.Severity != advice.Stop:
			out.Quiet = append(out.Quiet, Quieted{f, fmt.Sprintf("%d runs on this equipment had it, and none of them went wrong.", n)})
		default:
			out.Findings = append(out.Findings, f)
		}
	}
	for _, u := range a.Unjudged {
		if here(u.Rule) {
			out.Unjudged = append(out.Unjudged, u)
		}
	}
	return nil
}

// WaitingAt counts what waits at each stop of a blend's way: the stops and cautions of the second
// look that have their home there.
func (s *Room) WaitingAt(ctx context.Context, blend, layupID int64) (map[advice.Station]int, error) {
	list, err := s.LookFrom(ctx, LookWhere{Blend: blend, Layup: layupID})
	if err != nil {
		return nil, err
	}
	out := map[advice.Station]int{}
	for _, at := range advice.Stations() {
		out[at] = list[0].Weighty(at)
	}
	return out, nil
}

// stopsAsPlan is a gradient as the rules know it: its stops as fibres, by their grams.
func (s *Room) stopsAsPlan(ctx context.Context, at shelf.Mixing, g reach.Ladder) (advice.Plan, error) {
	stops := advice.Plan{Goal: "gradient", Passes: g.PassesPlanned(), Uses: []string{}}
	for _, v := range g.Stops {
		f := advice.Fibre{Name: v.Name, Share: v.Grams, Kind: at.Kinds.Named(v.Kind)}
		r := floor.ReflectanceOf(v.Hex)
		lab := r.Lab()
		f.Lab = &lab
		if v.LotID != nil {
			l, err := s.shelf.Lot(ctx, *v.LotID)
			if err == nil {
				f.Kind, f.StapleMM, f.Preparation, f.Superwash = l.Fibre, l.WorkingStapleMM, l.Preparation, l.Superwash
			} else if !errors.Is(err, floor.ErrNotFound) {
				return stops, err
			}
		}
		stops.Fibres = append(stops.Fibres, f)
		if v.LotID == nil {
			continue
		}
		told, err := s.workshop.ToldOf(ctx, advice.OfLot, *v.LotID)
		if err != nil {
			return stops, err
		}
		for _, t := range told {
			stops.Tell(t.Key, len(stops.Fibres)-1, *t.Value)
		}
	}
	return stops, nil
}

// lookOfGradient looks a gradient over: the fibres of its stops, and the colours of its rungs.
func (s *Room) lookOfGradient(ctx context.Context, id int64) (SecondLook, error) {
	g, err := s.reach.Gradient(ctx, id)
	out := SecondLook{MakingID: g.MakingID, Blend: g.Name}
	if err != nil {
		return out, err
	}
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return out, err
	}
	stops, err := s.stopsAsPlan(ctx, at, g)
	if err != nil {
		return out, err
	}
	rungs := advice.Plan{Goal: "gradient"}
	for _, v := range g.Steps {
		r := floor.ReflectanceOf(v.Hex)
		lab := r.Lab()
		rungs.Fibres = append(rungs.Fibres, advice.Fibre{Name: v.Name, Share: v.Grams, Lab: &lab})
	}
	if len(stops.Fibres) == 0 || g.TotalG <= 0 {
		return out, nil
	}
	for _, p := range []*advice.Plan{&stops, &rungs} {
		for i := range p.Fibres {
			p.Fibres[i].Share /= g.TotalG
		}
	}
	bounds, err := s.workshop.RuleBounds(ctx)
	if err != nil {
		return out, err
	}
	a := advice.Judge(stops, bounds)
	a.Findings = slices.DeleteFunc(a.Findings, func(f advice.Finding) bool { return f.Rule == "R39" })
	for _, f := range advice.Judge(rungs, bounds).Findings {
		if f.Rule == "R39" {
			a.Findings = append(a.Findings, f)
		}
	}
	for i := range a.Findings {
		a.Findings[i].Mend, a.Findings[i].CannotBe = nil, ""
	}
	a.Unjudged = nil
	out.Plan = stops
	return out, s.sort(ctx, &out, a, advice.AtGradient, g.MakingID)
}
