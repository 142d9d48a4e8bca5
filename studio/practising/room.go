// Package practising is the trainer: exercises that are made anew, what was answered to them, and how one stands. It asks no other room.
package practising

import (
	"context"
	"fmt"
	"slices"
	"time"

	"fairtangle/core/train"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	made *floor.Memo[train.Exercise] // some are carded to be made
	pics *floor.Memo[[]byte]         // of their batts
}

// New is the room.
func New(f *floor.Floor) *Room {
	const ofClasses = 16 * MostInRound // so that those of several classes stay made
	return &Room{f, floor.NewMemo[train.Exercise](ofClasses), floor.NewMemo[[]byte](ofClasses)}
}

// Practice is an exercise that was answered.
type Practice struct {
	ID          int64
	At          time.Time
	Skill       train.Skill
	Level       int
	Seed        uint64
	ByLightness bool
	Score       float64
	Answer      train.Answer
}

// Names are what the skills are called.
var Names = map[train.Skill]string{
	train.Difference: "Name the difference", train.Within: "What is in it?", train.Reaching: "Make this colour", train.Weighing: "Weigh it",
	train.Passes:    "How many passes?",
	train.Splitting: "What becomes of the gradient?", train.Piled: "Where does it go wrong?",
	train.Ordering: "What comes next?", train.Faults: "What goes wrong here?",
}

func practiceOf(r store.Practice) Practice {
	return Practice{r.ID, r.CreatedAt, train.Skill(r.Skill), int(r.Level), uint64(r.Seed), r.ByLightness, r.Score, r.Answer}
}

// MostSeed is the largest seed that is kept exactly everywhere.
const MostSeed = 1<<53 - 1

// Standings are how one stands with each skill, and whether the last exercise was made by lightness.
func (s *Room) Standings(ctx context.Context) (of []train.Standing, byLightness bool, err error) {
	rows, err := store.Pieces[store.Practice](ctx, s.Store)
	slices.SortFunc(rows, func(a, b store.Practice) int { return int(a.ID - b.ID) })
	turns := make([]train.Turn, len(rows))
	for i, r := range rows {
		turns[i] = train.Turn{Skill: train.Skill(r.Skill), Level: int(r.Level), Score: r.Score, Day: dayOf(r.CreatedAt)}
		byLightness = r.ByLightness
	}
	return train.Progress(turns), byLightness, err
}

// Exercise is the one of a skill, a level and a seed.
func (s *Room) Exercise(ctx context.Context, skill train.Skill, level int, seed uint64, byLightness bool) (train.Exercise, error) {
	return s.made.Of(ctx, keyOf(skill, level, seed, byLightness), func(context.Context) (train.Exercise, error) {
		return train.Make(skill, level, seed, byLightness)
	})
}

func keyOf(skill train.Skill, level int, seed uint64, byLightness bool) string {
	return fmt.Sprint(skill, " ", level, " ", seed, " ", byLightness)
}

// Take judges an answer to an exercise and keeps both.
func (s *Room) Take(ctx context.Context, p Practice) (Practice, error) {
	e, err := s.Exercise(ctx, p.Skill, p.Level, p.Seed, p.ByLightness)
	if err != nil {
		return p, err
	}
	j, err := e.Judge(p.Answer)
	if err != nil {
		return p, err
	}
	row, err := store.PutPiece(ctx, s.Store, store.Practice{
		Name: fmt.Sprintf("%s, level %d", Names[p.Skill], e.Level), Skill: string(p.Skill), Level: int64(e.Level), Seed: int64(p.Seed & MostSeed),
		ByLightness: e.ByLightness, Score: j.Score, Answer: p.Answer,
	})
	return practiceOf(row), err
}

// Taken is an exercise that was answered, made anew, with what is said to the answer.
func (s *Room) Taken(ctx context.Context, id int64) (p Practice, e train.Exercise, j train.Judged, err error) {
	row, err := store.Piece[store.Practice](ctx, s.Store, id)
	if err != nil {
		return p, e, j, err
	}
	p = practiceOf(row)
	if e, err = s.Exercise(ctx, p.Skill, p.Level, p.Seed, p.ByLightness); err != nil {
		return p, e, j, err
	}
	j, err = e.Judge(p.Answer)
	return p, e, j, err
}

const hoursOfDay = 24

// dayOf counts days, as they are where the maker is.
func dayOf(t time.Time) int {
	l := t.Local()
	return int(time.Date(l.Year(), l.Month(), l.Day(), 0, 0, 0, 0, time.UTC).Unix() / int64((hoursOfDay * time.Hour).Seconds()))
}

// DayAt is a day that was counted.
func DayAt(n int) time.Time { return time.Unix(0, 0).UTC().AddDate(0, 0, n) }

// Today is the day that it is.
func (s *Room) Today() int { return dayOf(s.Store.Now()) }
