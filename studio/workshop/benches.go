package workshop

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/store/benches"
)

// Thing is something that another bench has otherwise than this one.
type Thing = benches.Thing

// Choice is what becomes of it.
type Choice = benches.Choice

// TakenOver is what was taken over from another bench.
type TakenOver = benches.Taken

// NewerIn lists what a copy of another bench has otherwise than here.
func (s *Vault) NewerIn(ctx context.Context, name string) (Copy, []Thing, error) {
	c, err := s.OneCopy(ctx, name)
	if err != nil {
		return c, nil, err
	}
	if c.Report == nil || len(c.Report.Wrong) > 0 {
		return c, nil, fault.New("take", "This copy is not whole, and nothing can be taken over from it.")
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
