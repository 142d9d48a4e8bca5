package studio

import (
	"context"
	"errors"
	"math"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/store"
)

// SecondLook is what a practised eye says of a blend as it stands.
type SecondLook struct {
	Findings []advice.Finding // that are spoken of
	Quiet    []advice.Finding // that were silenced
	Unjudged []advice.Unjudged
	Plan     advice.Plan
}

// Weighty counts its stops and cautions.
func (l SecondLook) Weighty() (n int) {
	for _, f := range l.Findings {
		if f.Severity != advice.Hint {
			n++
		}
	}
	return n
}

// SecondLookAt looks a kept blend over.
func (s *Studio) SecondLookAt(ctx context.Context, id int64) (SecondLook, error) {
	b, err := s.Blend(ctx, id)
	if err != nil {
		return SecondLook{}, err
	}
	p, err := s.advicePlan(ctx, b)
	if err != nil || len(p.Fibres) == 0 {
		return SecondLook{Plan: p}, err
	}
	bounds, err := s.RuleBounds(ctx)
	if err != nil {
		return SecondLook{}, err
	}
	quiet, err := s.Silences(ctx)
	if err != nil {
		return SecondLook{}, err
	}
	a := advice.Judge(p, bounds)
	out := SecondLook{Unjudged: a.Unjudged, Plan: p}
	for _, f := range a.Findings {
		if slices.ContainsFunc(quiet, func(v Silence) bool { return v.Rule == f.Rule && (v.MakingID == 0 || v.MakingID == b.MakingID) }) {
			out.Quiet = append(out.Quiet, f)
		} else {
			out.Findings = append(out.Findings, f)
		}
	}
	return out, nil
}

// advicePlan is a blend as the rules know it, with what its need, its latest lay-up and the
// workshop tell.
func (s *Studio) advicePlan(ctx context.Context, b Blend) (p advice.Plan, err error) {
	set, err := s.Settings(ctx)
	if err != nil {
		return p, err
	}
	m, err := s.Making(ctx, b.MakingID)
	if err != nil {
		return p, err
	}
	p = advice.Plan{Passes: b.Passes, TotalG: b.WeighInG, StepG: inGrams(set.StepMg), Units: 1, Schools: m.Schools}
	for i, c := range b.Components {
		if c.Share <= 0 {
			continue
		}
		lab := b.tints[i].colour.Lab()
		f := advice.Fibre{
			Name: c.Name, Kind: c.kind, Preparation: c.Preparation, Share: c.Share, StapleMM: c.StapleMM(), Locked: c.Locked, Joins: 1, Lab: &lab,
		}
		if c.Lot != nil {
			f.Superwash = c.Lot.Superwash
		}
		if c.HaveG != nil {
			have := *c.HaveG + c.WeighedG
			f.HaveG = &have
		}
		p.Fibres = append(p.Fibres, f)
	}
	if len(p.Fibres) != len(b.Components) { // shares of 0 count for nothing, and the rest can not be told apart
		return advice.Plan{}, nil
	}
	at, err := s.stock(ctx)
	if err != nil {
		return p, err
	}
	p.Mix = func(shares []float64) colour.Lab {
		r := at.even(b.tints, shares)
		return r.Lab()
	}
	if err := s.toldByNeed(ctx, b.MakingID, &p); err != nil {
		return p, err
	}
	if err := s.toldByRuns(ctx, b.ID, &p); err != nil {
		return p, err
	}
	return p, s.toldByLayup(ctx, b, &p)
}

func (s *Studio) toldByNeed(ctx context.Context, making int64, p *advice.Plan) error {
	n, err := s.store.NeedOf(ctx, making)
	switch {
	case errors.Is(err, ErrNotFound):
		return nil
	case err != nil:
		return err
	}
	p.Uses, p.Goal = append([]string{}, n.Plan.Uses...), n.Plan.Look
	return nil
}

func (s *Studio) toldByRuns(ctx context.Context, blend int64, p *advice.Plan) error {
	list, err := s.WeighoutsOf(ctx, blend)
	if err != nil {
		return err
	}
	sampled := slices.ContainsFunc(list, func(w WeighoutRow) bool { return w.Sample })
	p.Told.Sampled = &sampled
	return nil
}

// toldByLayup takes the equipment and the layers of the lay-up touched last; without one, the
// equipment where there is only one in the workshop.
func (s *Studio) toldByLayup(ctx context.Context, b Blend, p *advice.Plan) error {
	rows, err := s.LayupsOf(ctx, b.ID)
	if err != nil {
		return err
	}
	if len(rows) == 0 {
		list, err := s.Equipment(ctx)
		if err == nil && len(list) == 1 {
			bed := list[0].Bed()
			p.Bed = &bed
		}
		return err
	}
	l, err := s.Layup(ctx, rows[0].ID)
	if err != nil {
		return err
	}
	bed := l.bed
	p.Bed, p.Units, p.Product = &bed, max(l.Units, 1), "batt"
	if bed.Type == layup.Board || bed.Type == layup.Cards {
		p.Product = "rolags"
	}
	if l.Rolls != nil && bed.Type == layup.Board {
		p.Told.Rolags = &l.Rolls.Count
	}
	if len(l.fibres) != len(p.Fibres) { // the blend has changed since
		return nil
	}
	p.Layers = l.plan.Layers
	for i := range p.Fibres {
		p.Fibres[i].Joins = max(l.plan.JoinsAt(i), 1)
	}
	if bed.Again() {
		strips := l.plan.StripsOf(bed)
		p.Told.Strips = &strips
	}
	return nil
}

// MendByLook takes the mend of a finding: the shares, passes or the total that end it.
func (s *Studio) MendByLook(ctx context.Context, id int64, in BlendInput, rule string, component int) (BlendInput, error) {
	look, err := s.SecondLookAt(ctx, id)
	if err != nil {
		return in, err
	}
	at := slices.IndexFunc(look.Findings, func(f advice.Finding) bool { return f.Rule == rule && f.Component == component && f.Mend != nil })
	if at < 0 || !BlendMends[look.Findings[at].Mend.Verb] || len(look.Plan.Fibres) != len(in.Components) {
		return in, fault.New("rule", "This is not there any more, or is mended somewhere else.")
	}
	before, after := look.Plan, look.Findings[at].Mend.After
	in.Components = slices.Clone(in.Components)
	var parts float64
	for _, c := range in.Components {
		parts += c.Parts
	}
	for i, c := range in.Components { // what the page has must be what was looked over
		if parts <= 0 || math.Abs(c.Parts/parts-before.Fibres[i].Share) > 1e-6 || c.Locked != before.Fibres[i].Locked {
			return in, fault.New("rule", "The blend has changed since it was looked over.")
		}
	}
	for i := range in.Components {
		if math.Abs(after.Fibres[i].Share-before.Fibres[i].Share) > 1e-12 {
			in.Components[i].Parts = after.Fibres[i].Share * parts
		}
	}
	in.Passes = max(after.Passes, 1)
	if before.TotalG > 0 && after.TotalG != before.TotalG {
		in.TotalG = math.Floor(in.TotalG*after.TotalG/before.TotalG*1000+1e-6) / 1000
	}
	return in, nil
}

// BlendMends are the changes that a blend can take by itself.
var BlendMends = map[string]bool{"share": true, "passes": true, "total": true}

// Silence is a rule that is not to be spoken of, in a making or, where that is 0, for good.
type Silence struct {
	ID       int64  `json:"id"`
	Rule     string `json:"rule"`
	MakingID int64  `json:"making_id"`
	Reason   string `json:"reason"`
}

func silenceOf(r store.Silence) Silence { return Silence{r.ID, r.Rule, r.MakingID, r.Reason} }

// Silences lists the rules that are not spoken of, the latest first.
func (s *Studio) Silences(ctx context.Context) ([]Silence, error) { return piecesAs(ctx, s, silenceOf) }

// AddSilence has a rule be quiet.
func (s *Studio) AddSilence(ctx context.Context, in Silence) (Silence, error) {
	var l fault.List
	t, ok := advice.TextOf(in.Rule)
	if !ok {
		l.Add("rule", "There is no such rule.")
	}
	checkText(&l, "reason", "why it is not spoken of", &in.Reason, maxFew, true)
	if in.MakingID != 0 {
		if _, err := s.Making(ctx, in.MakingID); err != nil {
			l.Add("making_id", "There is no such making.")
		}
	}
	if err := l.Err(); err != nil {
		return in, err
	}
	row, err := store.AddPiece(ctx, s.store, store.Silence{Name: t.ID + " " + t.Key, Rule: in.Rule, MakingID: in.MakingID, Reason: in.Reason})
	return silenceOf(row), err
}

// RuleBounds are the figures of rules that the maker has set.
func (s *Studio) RuleBounds(ctx context.Context) (advice.Bounds, error) {
	rows, err := store.Pieces[store.RuleBound](ctx, s.store)
	out := advice.Bounds{}
	for _, r := range rows {
		out[r.Key] = r.Value
	}
	return out, err
}

// SetRuleBounds sets figures of rules.
func (s *Studio) SetRuleBounds(ctx context.Context, in map[string]float64) error {
	var l fault.List
	usual := advice.Defaults()
	for key, v := range in {
		if _, ok := usual[key]; !ok {
			l.Add(key, "There is no such figure.")
		}
		if !(v >= 0 && v <= 1e6) {
			l.Add(key, "A figure is from 0 to a million.")
		}
	}
	if err := l.Err(); err != nil {
		return err
	}
	rows, err := store.Pieces[store.RuleBound](ctx, s.store)
	if err != nil {
		return err
	}
	for key, v := range in {
		row := store.RuleBound{Key: key, Value: v}
		if at := slices.IndexFunc(rows, func(r store.RuleBound) bool { return r.Key == key }); at >= 0 {
			row.Base = rows[at].Base
		}
		if _, err := store.PutPiece(ctx, s.store, row); err != nil {
			return err
		}
	}
	return nil
}
