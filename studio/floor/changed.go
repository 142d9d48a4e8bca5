package floor

import (
	"context"
	"strconv"
	"time"

	"fairtangle/core/fault"
	"fairtangle/store"
)

// Changes are what changed since a moment, up to another: the next are asked for from there.
type Changes struct {
	List  []store.Changed
	Until string
	More  bool // there is already
}

// How many changes are listed at once, where nothing is said, and at most.
const (
	usualChanges = 500
	mostChanges  = 5000
)

// ChangedSince lists what changed after a moment (RFC 3339; empty: from the beginning), so that another program can follow; limit is a
// count as it was asked for, empty: the usual one.
func (s *Floor) ChangedSince(ctx context.Context, since, limit string) (out Changes, err error) {
	var l fault.List
	from, most := time.Time{}, usualChanges
	if since != "" {
		if from, err = time.Parse(time.RFC3339Nano, since); err != nil {
			l.Add("since", "A moment is written like 2026-01-31T12:00:00Z.")
		}
	}
	if limit != "" {
		if most, err = strconv.Atoi(limit); err != nil || most < 1 || most > mostChanges {
			l.Add("limit", "The limit lies from 1 to %d.", mostChanges)
		}
	}
	if err := l.Err(); err != nil {
		return out, err
	}
	out.Until = from.UTC().Format(time.RFC3339Nano)
	out.List, out.More, err = s.Store.ChangedSince(ctx, from, most)
	if n := len(out.List); n > 0 {
		out.Until = out.List[n-1].At
	}
	return out, err
}
