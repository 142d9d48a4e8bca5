package floor

import (
	"context"
	"encoding/json"
	"time"

	"fairtangle/core/fault"
	"fairtangle/store"
)

// Move is how a piece of work moves along its steps: one back ("undo"), one on
// ("redo"), or to the state of the step To, which is a step of its own.
type Move struct {
	Way string `json:"way"`
	To  int64  `json:"to"`
}

// Step is a state that can be gone back to. At is until when it was so.
type Step struct {
	ID    int64           `json:"id"`
	At    time.Time       `json:"at"`
	Said  string          `json:"said"` // what was then done, where it has a name
	State json.RawMessage `json:"state"`
}

// Steps are the states that a piece of work can go back to, and on to again,
// the nearest first.
type Steps struct {
	Back  []Step `json:"back"`
	Ahead []Step `json:"ahead"`
}

// StepsOf lists up to n steps of a piece each way.
func (s *Floor) StepsOf(ctx context.Context, piece string, id int64, n int) (out Steps, err error) {
	for _, side := range []struct {
		ahead bool
		to    *[]Step
	}{{false, &out.Back}, {true, &out.Ahead}} {
		rows, err := s.Store.Steps(ctx, piece, id, side.ahead, n)
		if err != nil {
			return out, err
		}
		*side.to = []Step{}
		for _, r := range rows {
			*side.to = append(*side.to, Step{r.ID, r.At, r.Said, json.RawMessage(r.State)})
		}
	}
	return out, nil
}

// StateAt reads the state that a move leads to into in.
func (s *Floor) StateAt(ctx context.Context, piece string, id int64, m Move, in any) (store.Way, error) {
	way := store.Way(m.Way)
	var row store.Step
	switch way {
	case store.Back, store.Forward:
		rows, err := s.Store.Steps(ctx, piece, id, way == store.Forward, 1)
		if err != nil {
			return way, err
		}
		if len(rows) == 0 {
			return way, fault.New(
				"way",
				"%s",
				map[store.Way]string{store.Back: "There is nothing to undo.", store.Forward: "There is nothing to do again."}[way],
			)
		}
		row = rows[0]
	case store.Onward:
		var err error
		if row, err = s.Store.Step(ctx, piece, id, m.To); err != nil {
			return way, err
		}
	default:
		return way, fault.New("way", "A way is undo or redo; left out, it goes to the step named.")
	}
	return way, json.Unmarshal([]byte(row.State), in)
}

// Leaving is the step that a save leaves behind; nil where nothing changed.
func Leaving(old, now any, way store.Way, said string) (*store.Leave, error) {
	was, err := json.Marshal(old)
	if err != nil {
		return nil, err
	}
	is, err := json.Marshal(now)
	if err != nil || way == store.Onward && string(was) == string(is) {
		return nil, err
	}
	return &store.Leave{Way: way, Said: said, State: string(was)}, nil
}

// Changed is one change to a piece as it stands, kept: read, applied, saved
// against the version that it is based on.
func Changed[V any](ctx context.Context, id, version int64, read func(context.Context, int64) (V, error), apply func(V) (V, error),
	save func(context.Context, int64, int64, V) (V, error)) (V, error) {
	now, err := read(ctx, id)
	if err != nil {
		return now, err
	}
	next, err := apply(now)
	if err != nil {
		return next, err
	}
	return save(ctx, id, version, next)
}
