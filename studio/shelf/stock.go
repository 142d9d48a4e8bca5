package shelf

import (
	"context"
	"time"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
)

// Counted is a lot with what was counted of it lately.
type Counted struct {
	Lot
	Count *Movement // the recount; nil where there was none
	WasG  float64   // what the ledger had before it
}

// countedLately is how long a count belongs to the stock-taking that goes on.
const countedLately = 18 * time.Hour

// Stock lists lots by name, a page of them, with what was counted of them lately; all is how many
// there are. Lots that came together, from first to last, are listed as they came; 0: all lots.
func (s *Room) Stock(ctx context.Context, first, last int64, offset, limit int) (list []Counted, all int64, err error) {
	f := LotFilter{First: first, Last: last, Sort: "name", Offset: offset, Limit: limit}
	if first != 0 {
		f.Sort = "came"
	}
	found, err := s.Shelf(ctx, f)
	if err != nil {
		return nil, 0, err
	}
	counts, err := s.Store.CountsSince(ctx, time.Now().Add(-countedLately))
	if err != nil {
		return nil, 0, err
	}
	out := make([]Counted, len(found.Lots))
	for i, l := range found.Lots {
		out[i] = countedOf(l, counts)
	}
	return out, found.Total, nil
}

func countedOf(l Lot, counts map[int64]store.Movement) Counted {
	v := Counted{Lot: l, WasG: l.Grams}
	if m, ok := counts[l.ID]; ok {
		count := movementOf(m)
		v.Count, v.WasG = &count, unit.Clean(count.BalanceG-count.Grams)
	}
	return v
}

// Count recounts a lot: the difference to its ledger is booked. Window is which window
// counts, where one does.
func (s *Room) Count(ctx context.Context, lot int64, grams float64, key, window string) (Counted, error) {
	if err := s.Places.Held(StockTaking, window); err != nil {
		return Counted{}, err
	}
	if len(key) < 8 || len(key) > 64 {
		return Counted{}, fault.New("key", "A count carries a key of 8 to 64 signs that is its own.")
	}
	if _, err := s.Move(ctx, lot, MoveInput{Reason: Recount, Grams: grams, Note: "stock-taking", Key: key}); err != nil {
		return Counted{}, err
	}
	return s.counted(ctx, lot)
}

// CountBack takes the latest count of a lot back.
func (s *Room) CountBack(ctx context.Context, lot, movement int64) (Counted, error) {
	if _, err := s.UndoMove(ctx, lot, movement); err != nil {
		return Counted{}, err
	}
	return s.counted(ctx, lot)
}

func (s *Room) counted(ctx context.Context, lot int64) (Counted, error) {
	l, err := s.Lot(ctx, lot)
	if err != nil {
		return Counted{}, err
	}
	counts, err := s.Store.CountsSince(ctx, time.Now().Add(-countedLately))
	return countedOf(l, counts), err
}

// Places knows which window holds a place at the scale; the stock-taking is one.
type Places interface {
	Held(place int64, window string) error
}

// StockTaking is the place at which the shelf is counted; no weigh-out has its number.
const StockTaking = 0
