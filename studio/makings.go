package studio

import (
	"context"
	"time"

	"fairtangle/core/fault"
	"fairtangle/store"
)

// Making is one piece of work.
type Making struct {
	ID       int64  `json:"id"`
	Version  int64  `json:"version"`
	Name     string `json:"name"`
	Note     string `json:"note"`
	Archived bool   `json:"archived"`
}

// MakingInput is what can be said of a making.
type MakingInput struct {
	Name     string `json:"name"`
	Note     string `json:"note"`
	Archived bool   `json:"archived"`
}

func (in *MakingInput) check() error {
	var l fault.List
	checkText(&l, "name", "the making", &in.Name, maxName, true)
	checkText(&l, "note", "", &in.Note, maxNote, false)
	return l.Err()
}

func makingOf(m store.Making) Making {
	return Making{ID: m.ID, Version: m.Version, Name: m.Name, Note: m.Note, Archived: m.ArchivedAt != nil}
}

// Makings lists the makings at work, or those put away.
func (s *Studio) Makings(ctx context.Context, archived bool) ([]Making, error) {
	rows, err := s.store.Makings(ctx, archived)
	out := make([]Making, len(rows))
	for i, r := range rows {
		out[i] = makingOf(r)
	}
	return out, err
}

// Making gives one making.
func (s *Studio) Making(ctx context.Context, id int64) (Making, error) {
	m, err := s.store.Making(ctx, id)
	return makingOf(m), err
}

// CreateMaking starts a piece of work.
func (s *Studio) CreateMaking(ctx context.Context, in MakingInput) (Making, error) {
	if err := in.check(); err != nil {
		return Making{}, err
	}
	m, err := s.store.CreateMaking(ctx, store.Making{Name: in.Name, Note: in.Note})
	return makingOf(m), err
}

// UpdateMaking saves name, note and whether it is put away.
func (s *Studio) UpdateMaking(ctx context.Context, id, version int64, in MakingInput) (Making, error) {
	if err := in.check(); err != nil {
		return Making{}, err
	}
	row := store.Making{Base: store.Base{ID: id, Version: version}, Name: in.Name, Note: in.Note}
	if in.Archived {
		now := time.Now().UTC()
		row.ArchivedAt = &now
	}
	m, err := s.store.UpdateMaking(ctx, row)
	return makingOf(m), convertStale(err, func(r store.Making) (Making, error) { return makingOf(r), nil })
}

// CopyMaking copies a making with its blends and without its weigh-outs.
func (s *Studio) CopyMaking(ctx context.Context, id int64) (Making, error) {
	m, err := s.store.Making(ctx, id)
	if err != nil {
		return Making{}, err
	}
	name := []rune(m.Name + ", copy")
	m, err = s.store.CopyMaking(ctx, id, string(name[:min(len(name), maxName)]))
	return makingOf(m), err
}

// BlendsOf lists the blends of makings, as views.
func (s *Studio) BlendsOf(ctx context.Context, makings ...int64) ([]Blend, error) {
	rows, err := s.store.BlendsOf(ctx, makings)
	if err != nil {
		return nil, err
	}
	return s.viewAll(ctx, rows)
}

// WeighoutsOf lists the weigh-outs of blends.
func (s *Studio) WeighoutsOf(ctx context.Context, blends ...int64) ([]store.Weighout, error) {
	return s.store.WeighoutsOf(ctx, blends)
}
