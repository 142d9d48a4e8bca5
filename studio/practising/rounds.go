package practising

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"fairtangle/core/fault"
	"fairtangle/core/train"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Round is a class at the same exercises.
type Round struct {
	ID          int64
	At          time.Time
	Name        string
	Code        string // by which pupils come to it; empty once it is over
	Skill       train.Skill
	Level       int
	Count       int
	Seed        uint64
	ByLightness bool
	Over        bool
}

// Seat is a pupil of a round; without a name once it is over.
type Seat struct {
	ID      int64
	Name    string
	Word    string // by which the pupil comes back to it
	Answers []store.Said
}

// MostInRound is the most exercises of a round.
const MostInRound = store.MostInRound

// How many pupils a round has at most, and how long a name is.
const (
	mostSeats   = 60
	longestName = 40
)

// signs are those of codes: none is taken for another, and they spell nothing.
const signs = "BCDFGHJKMNPQRTVWXYZ2346789"

// How many signs a round's code has, and a seat's word, which is guessed at by nobody who sits in the same room.
const codeSigns, wordSigns = 5, 8

func drawn(n int) string {
	out := make([]byte, 0, n)
	var b [1]byte
	for len(out) < n {
		_, _ = rand.Read(b[:]) // never fails
		if int(b[0]) < 256/len(signs)*len(signs) {
			out = append(out, signs[int(b[0])%len(signs)])
		}
	}
	return string(out)
}

// Typed is a code as it was meant, whatever case it was typed in.
func Typed(code string) string {
	return strings.ToUpper(strings.Join(strings.Fields(code), ""))
}

func roundOf(r store.Round) Round {
	return Round{r.ID, r.CreatedAt, r.Name, r.Code, train.Skill(r.Skill), int(r.Level), int(r.Count), uint64(r.Seed), r.ByLightness, r.Over}
}

func seatOf(r store.Seat) Seat { return Seat{r.ID, r.Name, r.Word, r.Answers} }

// Rounds lists all rounds, the latest first.
func (s *Room) Rounds(ctx context.Context) (out []Round, err error) {
	rows, err := store.Pieces[store.Round](ctx, s.Store)
	for _, r := range rows {
		out = append(out, roundOf(r))
	}
	slices.SortFunc(out, func(a, b Round) int { return cmp.Compare(b.ID, a.ID) })
	return out, err
}

// OpenRound opens a round for a class, with its code.
func (s *Room) OpenRound(ctx context.Context, r Round) (Round, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the round", &r.Name, longestName, false)
	if r.Count < 1 || r.Count > MostInRound {
		l.Add("count", "A round has 1 to %d exercises.", MostInRound)
	}
	if r.Skill != "" && Names[r.Skill] == "" {
		l.Add("skill", "There is no such exercise.")
	}
	if err := l.Err(); err != nil {
		return r, err
	}
	r.Level, r.Seed = min(max(r.Level, 1), train.MostLevel), r.Seed&(MostSeed>>1)
	if r.Name == "" {
		r.Name = "Class"
	}
	for r.Code == "" {
		code := drawn(codeSigns)
		switch _, err := s.ByCode(ctx, code); {
		case errors.Is(err, floor.ErrNotFound):
			r.Code = code
		case err != nil:
			return r, err
		}
	}
	row, err := store.PutPiece(ctx, s.Store, store.Round{
		Name: r.Name, Code: r.Code, Skill: string(r.Skill), Level: int64(r.Level), Count: int64(r.Count), Seed: int64(r.Seed), ByLightness: r.ByLightness,
	})
	return roundOf(row), err
}

// Round is one with its pupils, in the order in which they came.
func (s *Room) Round(ctx context.Context, id int64) (Round, []Seat, error) {
	row, err := store.Piece[store.Round](ctx, s.Store, id)
	if err != nil {
		return Round{}, nil, err
	}
	seats, err := s.seats(ctx, id)
	return roundOf(row), seats, err
}

func (s *Room) seats(ctx context.Context, round int64) (out []Seat, err error) {
	rows, err := store.Pieces[store.Seat](ctx, s.Store, "round_id = ?", round)
	for _, r := range rows {
		out = append(out, seatOf(r))
	}
	slices.SortFunc(out, func(a, b Seat) int { return cmp.Compare(a.ID, b.ID) })
	return out, err
}

// Task is the exercise of a round by its number, of which the first is 1.
func (s *Room) Task(ctx context.Context, r Round, n int) (train.Exercise, error) {
	if n < 1 || n > r.Count {
		return train.Exercise{}, floor.ErrNotFound
	}
	skill := r.Skill
	if Names[skill] == "" {
		skill = train.Skills[(n-1)%len(train.Skills)]
	}
	return s.Exercise(ctx, skill, r.Level, r.Seed+uint64(n), r.ByLightness)
}

// ByCode is the open round of a code, as it may have been typed.
func (s *Room) ByCode(ctx context.Context, code string) (Round, error) {
	rows, err := store.Pieces[store.Round](ctx, s.Store, "code = ? AND code <> '' AND NOT over", Typed(code))
	if err == nil && len(rows) == 0 {
		err = floor.ErrNotFound
	}
	if err != nil {
		return Round{}, err
	}
	return roundOf(rows[0]), nil
}

// AnyOpen reports whether a round is open.
func (s *Room) AnyOpen(ctx context.Context) (bool, error) {
	n, err := s.Store.OpenRounds(ctx)
	return n > 0, err
}

// Sit gives a pupil a seat in the round of a code, under a name that nobody else has there.
func (s *Room) Sit(ctx context.Context, code, name string) (Seat, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (Seat, error) {
		r, err := s.ByCode(ctx, code)
		if err != nil {
			return Seat{}, err
		}
		there, err := s.seats(ctx, r.ID)
		if err != nil {
			return Seat{}, err
		}
		var l fault.List
		floor.CheckText(&l, "name", "you", &name, longestName, false)
		name = strings.Join(strings.Fields(name), " ")
		switch {
		case len(l) > 0:
			return Seat{}, l
		case name == "":
			return Seat{}, fault.New("name", "Say what you are called here: a first name, or one that you make up.")
		case len(there) >= mostSeats:
			return Seat{}, fault.New("name", "There are %d at it already; more do not fit.", mostSeats)
		case slices.ContainsFunc(there, func(o Seat) bool { return strings.EqualFold(o.Name, name) }):
			return Seat{}, fault.New("name", "Somebody is called that here. If it is you, the teacher’s page leads back to your place; else add a letter.")
		}
		row, err := store.PutPiece(ctx, s.Store, store.Seat{RoundID: r.ID, Name: name, Word: drawn(wordSigns), Answers: []store.Said{}})
		return seatOf(row), err
	})
}

// Seat is the one of a word in the round of a code.
func (s *Room) Seat(ctx context.Context, code, word string) (Round, Seat, error) {
	r, row, err := s.seat(ctx, code, word)
	return r, seatOf(row), err
}

func (s *Room) seat(ctx context.Context, code, word string) (r Round, row store.Seat, err error) {
	if r, err = s.ByCode(ctx, code); err != nil {
		return r, row, err
	}
	rows, err := store.Pieces[store.Seat](ctx, s.Store, "round_id = ? AND word = ? AND word <> ''", r.ID, Typed(word))
	if err == nil && len(rows) == 0 {
		err = floor.ErrNotFound
	}
	if err != nil {
		return r, row, err
	}
	return r, rows[0], nil
}

// Said is what a seat said to an exercise.
func (v Seat) Said(n int) (store.Said, bool) {
	i := slices.IndexFunc(v.Answers, func(a store.Said) bool { return a.N == n })
	if i < 0 {
		return store.Said{}, false
	}
	return v.Answers[i], true
}

// Next is the first exercise of a round that a seat said nothing to yet; 0: there is none.
func (v Seat) Next(r Round) int {
	for n := 1; n <= r.Count; n++ {
		if _, said := v.Said(n); !said {
			return n
		}
	}
	return 0
}

// Say takes a pupil's answer to an exercise of its round. The first one counts.
func (s *Room) Say(ctx context.Context, code, word string, n int, a train.Answer) error {
	return s.Deed(ctx, func(ctx context.Context) error {
		r, row, err := s.seat(ctx, code, word)
		if err != nil {
			return err
		}
		e, err := s.Task(ctx, r, n)
		if err != nil {
			return err
		}
		if _, said := seatOf(row).Said(n); said {
			return nil
		}
		j, err := e.Judge(a)
		if err != nil {
			return err
		}
		row.Answers = append(row.Answers, store.Said{N: n, Score: j.Score, Answer: a})
		_, err = store.PutPiece(ctx, s.Store, row)
		return err
	})
}

// EndRound ends a round: its code leads nowhere any more, and who its pupils were is forgotten.
func (s *Room) EndRound(ctx context.Context, id int64) error {
	if _, err := store.Piece[store.Round](ctx, s.Store, id); err != nil {
		return err
	}
	return s.Store.EndRound(ctx, id)
}

// Mean is the mean score of what a seat said; 0 where it said nothing.
func (v Seat) Mean() (sum float64) {
	for _, a := range v.Answers {
		sum += a.Score / float64(len(v.Answers))
	}
	return sum
}

// Of says of which exercises a round is.
func (r Round) Of() string {
	of := "some of each"
	if name := Names[r.Skill]; name != "" {
		of = name
	}
	return fmt.Sprintf("%s, level %d", of, r.Level)
}
