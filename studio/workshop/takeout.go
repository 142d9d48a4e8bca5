package workshop

import (
	"context"
	"io"

	"fairtangle/core/fault"
	"fairtangle/store/plain"
)

// ListOut is a list of what a maker has, for any program.
type ListOut = plain.List

// ListsOut are all of them.
func ListsOut() []ListOut { return plain.Lists() }

// ListOut gives the headings of a list by its key, and then its lines, to a function.
func (s *Vault) ListOut(ctx context.Context, key string, line func([]string) error) error {
	for _, l := range plain.Lists() {
		if l.Key == key {
			return l.Read(ctx, s.room.Store.Dir(), line)
		}
	}
	return fault.New("list", "There is no such list.")
}

// AllOut writes all that is here as one zip of open forms.
func (s *Vault) AllOut(ctx context.Context, w io.Writer) error {
	return plain.Write(ctx, s.room.Store.Dir(), w, s.room.Store.Now())
}
