package studio

import (
	"context"
	"time"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/store"
)

// Making is one piece of work.
type Making struct {
	ID       int64  `json:"id"`
	Version  int64  `json:"version"`
	Name     string `json:"name"`
	Note     string `json:"note"`
	Archived bool   `json:"archived"`
	// Schools are what the maker holds to, by matter, every matter of the
	// lay-up.
	Schools map[string]string `json:"schools"`
}

// MakingInput is what can be said of a making.
type MakingInput struct {
	Name     string `json:"name"`
	Note     string `json:"note"`
	Archived bool   `json:"archived"`
	// Schools by matter; left out, they stay as they are.
	Schools map[string]string `json:"schools,omitempty"`
}

func (in *MakingInput) check() error {
	var l fault.List
	checkText(&l, "name", "the making", &in.Name, maxName, true)
	checkText(&l, "note", "", &in.Note, maxNote, false)
	chosen := layup.Chosen(in.Schools)
	for matter, school := range in.Schools {
		if chosen[matter] != school {
			l.Add("schools."+matter, "There is no such school.")
		}
	}
	return l.Err()
}

func makingOf(m store.Making) Making {
	return Making{ID: m.ID, Version: m.Version, Name: m.Name, Note: m.Note, Archived: m.ArchivedAt != nil, Schools: layup.Chosen(m.Schools)}
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

// MakingsPage lists a page of the makings at work, or of those put away, that a search finds; all is
// how many there are.
func (s *Studio) MakingsPage(ctx context.Context, archived bool, search string, offset, limit int) (out []Making, all int64, err error) {
	rows, all, err := s.store.MakingsPage(ctx, archived, search, offset, limit)
	for _, r := range rows {
		out = append(out, makingOf(r))
	}
	return out, all, err
}

// MakingName is a making by name alone, to be chosen.
type MakingName struct {
	ID   int64
	Name string
}

// MakingNames lists the makings at work by name, the latest touched first.
func (s *Studio) MakingNames(ctx context.Context) ([]MakingName, error) {
	rows, err := s.store.MakingNames(ctx)
	out := make([]MakingName, len(rows))
	for i, r := range rows {
		out[i] = MakingName{r.ID, r.Name}
	}
	return out, err
}

// BlendNames lists blends to choose from, those of the making touched last first.
func (s *Studio) BlendNames(ctx context.Context, limit int) ([]store.BlendName, error) {
	return s.store.BlendNames(ctx, limit)
}

// makingsOf are the names of the makings at work that blends belong to.
func (s *Studio) makingsOf(ctx context.Context, blends map[int64]Blend) (map[int64]string, error) {
	out := map[int64]string{}
	if len(blends) == 0 {
		return out, nil
	}
	var ids []int64
	for _, b := range blends {
		ids = append(ids, b.MakingID)
	}
	rows, err := s.store.MakingNames(ctx, ids...)
	for _, r := range rows {
		out[r.ID] = r.Name
	}
	return out, err
}

// blendsByID are blends as lists show them.
func (s *Studio) blendsByID(ctx context.Context, ids []int64) (map[int64]Blend, error) {
	rows, err := s.store.BlendsByID(ctx, ids)
	if err != nil {
		return nil, err
	}
	list, err := s.seenOf(ctx, rows)
	out := map[int64]Blend{}
	for _, b := range list {
		out[b.ID] = b
	}
	return out, err
}

// Making returns one making.
func (s *Studio) Making(ctx context.Context, id int64) (Making, error) {
	m, err := s.store.Making(ctx, id)
	return makingOf(m), err
}

// CreateMaking starts a piece of work.
func (s *Studio) CreateMaking(ctx context.Context, in MakingInput) (Making, error) {
	if err := in.check(); err != nil {
		return Making{}, err
	}
	m, err := s.store.CreateMaking(ctx, store.Making{Name: in.Name, Note: in.Note, Schools: in.Schools})
	return makingOf(m), err
}

// UpdateMaking saves name, note and whether it is put away.
func (s *Studio) UpdateMaking(ctx context.Context, id, version int64, in MakingInput) (Making, error) {
	if err := in.check(); err != nil {
		return Making{}, err
	}
	row := store.Making{Base: store.Base{ID: id, Version: version}, Name: in.Name, Note: in.Note, Schools: in.Schools}
	if in.Schools == nil {
		old, err := s.store.Making(ctx, id)
		if err != nil {
			return Making{}, err
		}
		row.Schools = old.Schools
	}
	if in.Archived {
		now := time.Now().UTC()
		row.ArchivedAt = &now
	}
	m, err := s.store.UpdateMaking(ctx, row)
	return makingOf(m), convertStale(err, func(r store.Making) (Making, error) { return makingOf(r), nil })
}

// CopyMaking copies a making with its blends and lay-ups, without its
// weigh-outs.
func (s *Studio) CopyMaking(ctx context.Context, id int64) (Making, error) {
	m, err := s.store.Making(ctx, id)
	if err != nil {
		return Making{}, err
	}
	name := []rune(m.Name + ", copy")
	m, err = s.store.CopyMaking(ctx, id, string(name[:min(len(name), maxName)]))
	return makingOf(m), err
}

// BlendsSeen lists the blends of makings as lists show them: all but how sure their colours are.
func (s *Studio) BlendsSeen(ctx context.Context, makings ...int64) ([]Blend, error) {
	rows, err := s.store.BlendsOf(ctx, makings)
	if err != nil {
		return nil, err
	}
	return s.seenOf(ctx, rows)
}

// BlendsOf lists the blends of makings, as views.
func (s *Studio) BlendsOf(ctx context.Context, makings ...int64) ([]Blend, error) {
	rows, err := s.store.BlendsOf(ctx, makings)
	if err != nil {
		return nil, err
	}
	return s.viewAll(ctx, rows)
}

// Far is how far a making has come beside its blends: what was carded of it, whether its need is
// told, and how many skeins came of it.
type Far struct {
	Carded Progress
	Need   bool
	Skeins int
}

// FarOf is how far makings have come.
func (s *Studio) FarOf(ctx context.Context, makings ...int64) (map[int64]Far, error) {
	rows, err := s.store.Far(ctx, makings)
	out := map[int64]Far{}
	for id, r := range rows {
		out[id] = Far{Progress{All: r.Units, Done: r.Off, Latest: r.Latest}, r.Needs > 0, r.Skeins}
	}
	return out, err
}

// WeighoutRow is a weigh-out in a list, with how far it has come.
type WeighoutRow struct {
	ID, BlendID int64
	Name        string
	Units       int
	LayupID     *int64 // that it follows
	Sample      bool   // some grams, to see
	Done, All   int    // components of units
}

// WeighoutsOf lists the weigh-outs of blends, the latest first.
func (s *Studio) WeighoutsOf(ctx context.Context, blends ...int64) ([]WeighoutRow, error) {
	rows, err := s.store.WeighoutsOf(ctx, blends)
	out := make([]WeighoutRow, len(rows))
	for i, r := range rows {
		out[i] = WeighoutRow{ID: r.ID, BlendID: r.BlendID, Name: r.Name, Units: r.Units, LayupID: r.LayupID, Sample: r.Sample, All: len(r.Cells)}
		for _, c := range r.Cells {
			if c.Done {
				out[i].Done++
			}
		}
	}
	return out, err
}
