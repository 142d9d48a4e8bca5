package advising

import (
	"context"
	"errors"

	"fairtangle/core/advice"
	"fairtangle/core/colour"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// lookPlan is a blend as the rules know it, with all that is known of it where a maker stands.
type lookPlan struct {
	advice.Plan
	blend recipe.Blend
	layup *laying.Layup // that is looked at; nil: none
	laid  advice.Laid
	told  []workshop.Told
}

// toJudge is a component as the rules know it.
func toJudge(c recipe.Component, t shelf.Tint) advice.Fibre {
	lab := t.Colour.Lab()
	f := advice.Fibre{
		Name: c.Name, Kind: c.Fibre, Preparation: c.Preparation, Share: c.Share, StapleMM: c.StapleMM(), Locked: c.Locked, Joins: 1, Lab: &lab,
	}
	if c.Lot != nil {
		f.Superwash = c.Lot.Superwash
	}
	if c.HaveG != nil {
		have := *c.HaveG + c.WeighedG
		f.HaveG = &have
	}
	return f
}

// planOfLook is a blend as the rules know it, with what its need, a lay-up (the one touched last
// where none is told), a run and the maker tell.
func (s *Room) planOfLook(ctx context.Context, b recipe.Blend, at LookWhere) (p lookPlan, err error) {
	if p.blend = b; len(b.Components) == 0 {
		return p, nil
	}
	set, err := s.workshop.Settings(ctx)
	if err != nil {
		return p, err
	}
	m, err := s.recipe.Making(ctx, b.MakingID)
	if err != nil {
		return p, err
	}
	p.Plan = advice.Plan{Passes: b.Passes, TotalG: b.WeighInG, StepG: floor.InGrams(set.StepMg), Units: 1, Schools: m.Schools}
	for i, c := range b.Components {
		p.Fibres = append(p.Fibres, toJudge(c, b.Tints[i]))
	}
	stock, err := s.shelf.Mixing(ctx)
	if err != nil {
		return p, err
	}
	p.Mix = func(shares []float64) colour.Lab {
		r := stock.Even(b.Tints, shares)
		return r.Lab()
	}
	if len(b.Tints) == len(b.Components) {
		p.Shelf = s.wools(ctx, b, stock)
	}
	if err := s.toldByNeed(ctx, b, &p.Plan); err != nil {
		return p, err
	}
	run, err := s.runOfLook(ctx, &at)
	if err != nil {
		return p, err
	}
	if at.unsaved != nil {
		p.takeLayup(*at.unsaved)
	} else if err := s.toldByLayup(ctx, at.Layup, &p); err != nil {
		return p, err
	}
	if p.layup == nil {
		p.joinAsUsual()
	}
	if err := s.toldByRuns(ctx, b, run, &p.Plan, p.layup); err != nil {
		return p, err
	}
	if p.told, err = s.toldByMaker(ctx, b, &p.Plan); err != nil {
		return p, err
	}
	list, err := s.workshop.Equipment(ctx)
	for _, e := range list {
		if p.layup == nil || e.ID != p.layup.EquipmentID {
			bed := e.Bed()
			p.Others = append(p.Others, advice.Cloth{ID: e.ID, Name: e.Name, Bed: &bed})
		}
	}
	return p, err
}

// runOfLook is the run that is looked at, and has its lay-up looked at where none is told; nil: none is.
func (s *Room) runOfLook(ctx context.Context, at *LookWhere) (*carder.Run, error) {
	if at.Run == 0 {
		return nil, nil
	}
	v, err := s.carder.Run(ctx, at.Run)
	if err != nil {
		return nil, err
	}
	if at.Layup == 0 && v.LayupID != nil {
		if _, err := store.Piece[store.Layup](ctx, s.Store, *v.LayupID); err == nil { // it may lie in the bin
			at.Layup = *v.LayupID
		}
	}
	return &v, nil
}

// toldByNeed takes what it is for, how it is to look, and what is to come off where one blend makes
// all of it.
func (s *Room) toldByNeed(ctx context.Context, b recipe.Blend, p *advice.Plan) error {
	n, err := s.Store.NeedOf(ctx, b.MakingID)
	switch {
	case errors.Is(err, floor.ErrNotFound):
		return nil
	case err != nil:
		return err
	}
	p.Uses, p.Goal = append([]string{}, n.Plan.Uses...), n.Plan.LookOf(b.ID)
	rows, err := s.Store.BlendsOf(ctx, []int64{b.MakingID})
	if err != nil || len(rows) != 1 {
		return err
	}
	full, err := s.yarns.NeedOf(ctx, b.MakingID)
	if err != nil {
		return err
	}
	if full.Enough && b.WeighInG > 0 {
		want, lost := full.FibreG, 100*(1-b.TotalG/b.WeighInG)
		p.Told.TargetG, p.Told.LossPct = &want, &lost
	}
	return nil
}

// toldByLayup takes the equipment and the layers of a lay-up; without one, the equipment where
// there is only one in the workshop.
func (s *Room) toldByLayup(ctx context.Context, id int64, p *lookPlan) error {
	if id == 0 {
		rows, err := s.laying.LayupsOf(ctx, p.blend.ID)
		if err != nil {
			return err
		}
		if len(rows) == 0 {
			list, err := s.workshop.Equipment(ctx)
			if err == nil && len(list) == 1 {
				bed := list[0].Bed()
				p.Bed = &bed
			}
			return err
		}
		id = rows[0].ID
	}
	row, err := store.Piece[store.Layup](ctx, s.Store, id)
	if err != nil {
		return err
	}
	if row.BlendID != p.blend.ID {
		return floor.ErrNotFound
	}
	l, err := s.laying.LayupIn(ctx, row, p.blend)
	if err != nil && floor.Aside(ctx, "layups", row.ID, row.Name, err) {
		return nil // it is looked at without
	}
	if err != nil {
		return err
	}
	p.takeLayup(l)
	return nil
}

// joinAsUsual has fibre wait for the pass for which a lay-up would keep it.
func (p *lookPlan) joinAsUsual() {
	list := make([]layup.Fibre, len(p.Fibres))
	for i, f := range p.Fibres {
		list[i] = laying.LayFibre(f.Name, f.Share*p.TotalG, f.Kind, f.Preparation, f.StapleMM)
	}
	for i, n := range layup.UsualJoins(list, p.Passes, p.Schools) {
		p.Fibres[i].Joins = n
	}
}

// takeLayup takes a lay-up in.
func (p *lookPlan) takeLayup(l laying.Layup) {
	bed := l.Bed
	off := l.LaidPlan.OffOf(bed)
	p.layup, p.Bed, p.Units, p.Product = &l, &bed, max(l.Units, 1), off.Makes()
	if rod := off.RodMM(bed); rod > 0 && l.LaidPlan.Off.Rods != "" {
		p.Told.DowelMM = &rod
	}
	if off.Way == layup.OffHole {
		p.Told.DizzMM = &off.HoleMM
	}
	p.Uneven, p.Bare, p.laid = l.LaidPlan.Uneven, l.LaidPlan.Bare, l.Laid
	if l.LaidPlan.Passes > 0 && bed.Type == layup.Drum {
		p.Passes = l.LaidPlan.Passes
	}
	if bed.Type != layup.Drum { // what lies on a board goes through nothing, and rounds by hand are no passes
		p.Passes = 0
	}
	if l.Rolls != nil && bed.Type == layup.Board {
		p.Told.Rolags = &l.Rolls.Count // the lay-up itself looks at what is drawn off
	}
	if bed.Again() {
		strips := l.LaidPlan.StripsOf(bed)
		p.Told.Strips = &strips
	}
	if len(l.LaidFibres) != len(p.Fibres) { // the blend has changed since
		return
	}
	p.Layers = l.LaidPlan.Layers
	for i := range p.Fibres {
		p.Fibres[i].Joins, p.Fibres[i].Alone = max(l.LaidPlan.JoinsAt(i), 1), l.LaidPlan.LosesAlone(bed, i)
	}
}

// toldByRuns takes what happened: whether a sample was weighed out, what a run showed so far, and
// what lay on the equipment before.
func (s *Room) toldByRuns(ctx context.Context, b recipe.Blend, at *carder.Run, p *advice.Plan, l *laying.Layup) error {
	list, err := s.recipe.WeighoutsOf(ctx, b.ID)
	if err != nil {
		return err
	}
	sampled, err := s.sampled(ctx, b, list)
	if err != nil {
		return err
	}
	p.Told.Sampled = &sampled
	if at != nil {
		toldByRun(p, *at)
	}
	equipment := int64(0)
	switch {
	case at != nil && at.EquipmentID != nil:
		equipment = *at.EquipmentID
	case l != nil:
		equipment = l.EquipmentID
	}
	if equipment == 0 {
		return nil
	}
	return s.toldByCloth(ctx, b, equipment, at, p)
}
