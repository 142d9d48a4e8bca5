package shelf

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Why a movement was booked.
const (
	FirstEver = store.FirstEver
	WeighIn   = store.WeighIn
	TakeOut   = store.TakeOut
	Recount   = store.Recount
	Weighed   = store.Weighed
	Undone    = store.Undone
	Given     = store.Given
	Sold      = store.Sold
	Spun      = store.Spun
	Prepared  = store.Prepared
	Parted    = store.Parted
	Together  = store.Together
)

// Movement is a line of a lot's ledger.
type Movement struct {
	ID       int64   `json:"id"`
	At       string  `json:"at"`
	Grams    float64 `json:"grams"`
	BalanceG float64 `json:"balance_g"`
	Reason   string  `json:"reason"`
	Note     string  `json:"note"`
	UndoesID *int64  `json:"undoes_id,omitempty"`
}

func movementOf(m store.Movement) Movement {
	return Movement{
		ID: m.ID, At: m.At.Format(floor.TimeForm), Grams: float64(m.DeltaMg.Grams()),
		BalanceG: float64(m.BalanceMg.Grams()), Reason: m.Reason, Note: m.Note, UndoesID: m.UndoesID,
	}
}

// Ledger returns the latest lines of a lot's ledger.
func (s *Room) Ledger(ctx context.Context, lot int64, limit int) ([]Movement, error) {
	rows, err := s.Store.Movements(ctx, lot, limit)
	out := make([]Movement, len(rows))
	for i, r := range rows {
		out[i] = movementOf(r)
	}
	return out, err
}

// MoveInput asks for a line of a lot's ledger. Grams is what came, what went, or
// what was counted. The same key a second time books nothing; it may be left out.
type MoveInput struct {
	Reason string  `json:"reason"` // weigh-in, take-out, given, sold, spun, recount
	Grams  float64 `json:"grams"`
	Note   string  `json:"note"`
	Key    string  `json:"key"`
}

// Move books a weigh-in, a take-out for a reason, or a recount of a lot.
func (s *Room) Move(ctx context.Context, lot int64, in MoveInput) (Movement, error) {
	reason, grams, note, key := in.Reason, in.Grams, in.Note, in.Key
	var l fault.List
	floor.CheckGrams(&l, "grams", grams)
	floor.CheckText(&l, "note", "", &note, floor.MaxNote, false)
	mg := unit.Grams(grams).Milligrams()
	switch reason {
	case store.WeighIn, store.TakeOut, store.Given, store.Sold, store.Spun:
		if mg == 0 && len(l) == 0 {
			l.Add("grams", "Enter a weight above 0.")
		}
	case store.Recount:
	default:
		l.Add("reason", "The reason is weigh-in, take-out, given, sold, spun or recount.")
	}
	if err := l.Err(); err != nil {
		return Movement{}, err
	}
	var m store.Movement
	var err error
	switch reason {
	case store.Recount:
		m, err = s.Store.CountTo(ctx, lot, mg, note, key)
	case store.TakeOut, store.Given, store.Sold, store.Spun:
		m, err = s.Store.AddMovement(ctx, store.Movement{LotID: lot, DeltaMg: -mg, Reason: reason, Note: note}, key)
	default:
		m, err = s.Store.AddMovement(ctx, store.Movement{LotID: lot, DeltaMg: mg, Reason: reason, Note: note}, key)
	}
	return movementOf(m), err
}

// UndoMove books the reverse of a line of the ledger.
func (s *Room) UndoMove(ctx context.Context, lot, movement int64) (Movement, error) {
	m, err := s.Store.UndoMovement(ctx, lot, movement)
	return movementOf(m), err
}
