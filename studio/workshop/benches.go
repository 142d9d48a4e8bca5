package workshop

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/store/benches"
)

// Thing is something that another bench has otherwise than this one.
type Thing = benches.Thing

// ThingSide is something in which it differs; Fibre is a fibre of a blend there.
type (
	ThingSide  = benches.Side
	ThingFibre = benches.Part
)

// Choice is what becomes of it.
type Choice = benches.Choice

// The states of a thing, and what can become of it.
const (
	ThingNew    = benches.New
	ThingBoth   = benches.Both
	ThingBooked = benches.Booked

	TakeTheirs = benches.Theirs
	TakeBeside = benches.Beside
	KeepMine   = benches.Mine
)

// TakenOver is what was taken over from another bench.
type TakenOver = benches.Taken

// NewerIn lists what a copy of another bench has otherwise than here.
func (s *Vault) NewerIn(ctx context.Context, name string) (Copy, []Thing, error) {
	c, err := s.OneCopy(ctx, name)
	if err != nil {
		return c, nil, err
	}
	if c.Report == nil || len(c.Report.Wrong) > 0 {
		return c, nil, fault.New("copy", "This copy is not whole, and nothing can be taken over from it.")
	}
	list, err := benches.Compare(ctx, s.room.Store, c)
	return c, list, err
}

// TakeOver takes over from a copy what was chosen, by the keys of what NewerIn lists. What is here is copied first.
func (s *Vault) TakeOver(ctx context.Context, name string, chosen map[string]Choice) (out TakenOver, err error) {
	c, err := s.OneCopy(ctx, name)
	if err != nil {
		return out, err
	}
	if len(chosen) == 0 {
		return out, fault.New("take", "Choose what to take over.")
	}
	if _, err := s.MakeCopy(ctx); err != nil {
		return out, err
	}
	return benches.TakeOver(ctx, s.room.Store, c, chosen)
}

// HomeOf is the page of what is here of a thing.
func (s *Vault) HomeOf(v Thing) string {
	if v.State == ThingBooked {
		return fmt.Sprintf("/lots/%d", v.Here)
	}
	sort, known := store.SortOf(v.Table)
	if !known {
		return ""
	}
	return sort.Home(v.Here)
}
