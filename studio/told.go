package studio

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
	"fairtangle/store"
)

// Told is what was told to a question of the second look. Of is plan (a blend), part (a component
// of a blend, named in About), lot or workshop; Value is null where it is to be told no more.
type Told struct {
	Of    string    `json:"of"`
	ID    int64     `json:"id"`
	About string    `json:"about,omitempty"`
	Key   string    `json:"key"`
	Value *float64  `json:"value"`
	At    time.Time `json:"at"`
}

// TellLook keeps what was told, all or none, and returns what was told before, to be told again when it
// is taken back.
func (s *Studio) TellLook(ctx context.Context, list ...Told) ([]Told, error) {
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
	was, err := s.store.Tell(ctx, rows, values)
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
func (s *Studio) subject(ctx context.Context, t Told) (err error) {
	switch t.Of {
	case advice.OfLot:
		_, err = s.Lot(ctx, t.ID)
	case advice.OfWorkshop:
		if t.ID != 0 {
			err = ErrNotFound
		}
	default:
		_, err = s.store.Blend(ctx, t.ID)
	}
	return err
}

// ToldOf lists what was told of some plans, parts, lots or the workshop (0), the latest first, but
// for what a day has made old.
func (s *Studio) ToldOf(ctx context.Context, of string, ids ...int64) ([]Told, error) {
	rows, err := s.store.Tellings(ctx, of, ids...)
	out := []Told{}
	for _, r := range rows {
		q, ok := advice.QuestionOf(r.Key)
		hours := time.Since(r.At).Hours()
		if !ok || q.Hours > 0 && hours > q.Hours {
			continue
		}
		v := r.Value
		if r.Key == "washed_hours" {
			v += hours
		}
		out = append(out, Told{r.Of, r.OfID, r.About, r.Key, &v, r.At})
	}
	return out, err
}

// toldByMaker takes what was told of a blend, its lots and the workshop into a plan.
func (s *Studio) toldByMaker(ctx context.Context, b Blend, p *advice.Plan) (list []Told, err error) {
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
		told, err := s.ToldOf(ctx, of.what, of.ids...)
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
				i := slices.IndexFunc(b.Components, func(c Component) bool { return c.Name == t.About })
				p.Tell(t.Key, i, *t.Value)
			default:
				p.Tell(t.Key, -1, *t.Value)
			}
		}
	}
	return list, nil
}

// preparedMM is to which length fibres of a blend are cut or pulled, by name, where that was told.
func (s *Studio) preparedMM(ctx context.Context, blend int64) (map[string]float64, error) {
	list, err := s.ToldOf(ctx, advice.OfPart, blend)
	out := map[string]float64{}
	for _, t := range list {
		if t.Key == "prepared_mm" && *t.Value > 0 {
			out[t.About] = *t.Value
		}
	}
	return out, err
}

// tellingsOf turns what a mend tells into tellings of a blend, its parts and its lots. A fibre that
// is no lot yet has nothing told of it.
func tellingsOf(b Blend, list []advice.Telling) (out []Told, err error) {
	for _, t := range list {
		q, _ := advice.QuestionOf(t.Key)
		v := t.Value
		told := Told{Of: q.Of, Key: t.Key, Value: &v}
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
