package advising

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// TellLook keeps what was told, all or none, and returns what was told before, to be told again when it
// is taken back.
func (s *Room) TellLook(ctx context.Context, list ...workshop.Told) ([]workshop.Told, error) {
	var l fault.List
	rows, values := make([]store.Telling, len(list)), make([]*float64, len(list))
	for i, t := range list {
		q, ok := advice.QuestionOf(t.Key)
		switch {
		case !ok || q.Of != t.Of:
			l.Add("key", "There is no such question.")
		case t.Value != nil && !q.Takes(*t.Value):
			l.Add("value", "%s", wantedAnswer(q))
		default:
			if err := s.subject(ctx, t); err != nil {
				l.Add("id", "What it is told of is not there any more.")
			}
		}
		rows[i], values[i] = store.Telling{Of: t.Of, OfID: t.ID, About: t.About, Key: t.Key}, t.Value
	}
	if err := l.Err(); err != nil {
		return nil, err
	}
	was, err := s.Store.Tell(ctx, rows, values)
	if err != nil {
		return nil, err
	}
	before := slices.Clone(list)
	for i := range before {
		before[i].Value = was[i]
	}
	return before, nil
}

// wantedAnswer says what an answer to a question is like.
func wantedAnswer(q advice.Question) string {
	if q.Figure {
		return strings.TrimSpace(fmt.Sprintf("A figure from 0 to %g %s", q.Most, q.Unit)) + "."
	}
	return "Choose one of the answers."
}

// subject finds what a telling is of.
func (s *Room) subject(ctx context.Context, t workshop.Told) (err error) {
	switch t.Of {
	case advice.OfLot:
		_, err = s.shelf.Lot(ctx, t.ID)
	case advice.OfWorkshop:
		if t.ID != 0 {
			err = floor.ErrNotFound
		}
	default:
		_, err = s.Store.Blend(ctx, t.ID)
	}
	return err
}

// toldByMaker takes what was told of a blend, its lots and the workshop into a plan.
func (s *Room) toldByMaker(ctx context.Context, b recipe.Blend, p *advice.Plan) (list []workshop.Told, err error) {
	lots := map[int64][]int{}
	var ids []int64
	for i, c := range b.Components {
		if c.LotID != nil {
			lots[*c.LotID] = append(lots[*c.LotID], i)
			ids = append(ids, *c.LotID)
		}
	}
	for _, of := range []struct {
		what string
		ids  []int64
	}{{advice.OfWorkshop, []int64{0}}, {advice.OfPlan, []int64{b.ID}}, {advice.OfPart, []int64{b.ID}}, {advice.OfLot, ids}} {
		told, err := s.workshop.ToldOf(ctx, of.what, of.ids...)
		if err != nil {
			return nil, err
		}
		list = append(list, told...)
		for _, t := range told {
			switch of.what {
			case advice.OfLot:
				for _, i := range lots[t.ID] {
					p.Tell(t.Key, i, *t.Value)
				}
			case advice.OfPart:
				i := slices.IndexFunc(b.Components, func(c recipe.Component) bool { return c.Name == t.About })
				p.Tell(t.Key, i, *t.Value)
			default:
				p.Tell(t.Key, -1, *t.Value)
			}
		}
	}
	return list, nil
}

// tellingsOf turns what a mend tells into tellings of a blend, its parts and its lots. A fibre that
// is no lot yet has nothing told of it.
func tellingsOf(b recipe.Blend, list []advice.Telling) (out []workshop.Told, err error) {
	for _, t := range list {
		q, _ := advice.QuestionOf(t.Key)
		v := t.Value
		told := workshop.Told{Of: q.Of, Key: t.Key, Value: &v}
		switch q.Of {
		case advice.OfPlan:
			told.ID = b.ID
		case advice.OfPart:
			told.ID, told.About = b.ID, b.Components[t.Fibre].Name
		case advice.OfLot:
			if b.Components[t.Fibre].LotID == nil {
				return nil, errNoLot
			}
			told.ID = *b.Components[t.Fibre].LotID
		}
		out = append(out, told)
	}
	return out, nil
}

var errNoLot = errors.New("the fibre is not on the shelf yet")
