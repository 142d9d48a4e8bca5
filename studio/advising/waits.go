package advising

import (
	"context"
	"time"

	"fairtangle/core/advice"
	"fairtangle/studio/shelf"
)

// LotWaits is a lot that is not ready, and why.
type LotWaits struct {
	shelf.Lot
	Why []advice.Wait
}

// mostWaiting is how many lots are looked through for those that wait.
const mostWaiting = 500

// LotsThatWait lists the lots with fibre left that should not be carded yet, or be looked at.
func (s *Room) LotsThatWait(ctx context.Context) ([]LotWaits, error) {
	halfAYear, _ := advice.QuestionOf("moth_signs")
	rows, err := s.Store.LotsToLookAt(ctx, time.Now().Add(-time.Duration(halfAYear.Hours)*time.Hour), mostWaiting)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return nil, err
	}
	bounds, err := s.workshop.RuleBounds(ctx)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	told, err := s.workshop.ToldOf(ctx, advice.OfLot, ids...)
	if err != nil {
		return nil, err
	}
	var out []LotWaits
	for _, r := range rows {
		l := shelf.LotOf(r, kinds)
		p := advice.Plan{Fibres: []advice.Fibre{{Name: l.Name, Kind: l.Fibre, Preparation: l.Preparation}}}
		for _, t := range told {
			if t.ID == l.ID {
				p.Tell(t.Key, 0, *t.Value)
			}
		}
		if why := p.Fibres[0].Waits(time.Since(r.CreatedAt).Hours(), bounds); len(why) > 0 {
			out = append(out, LotWaits{l, why})
		}
	}
	return out, nil
}
