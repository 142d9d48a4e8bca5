package recipe

import (
	"context"
	"time"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/floor"
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
	floor.CheckText(&l, "name", "the making", &in.Name, floor.MaxName, true)
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
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
func (s *Room) Makings(ctx context.Context, archived bool) ([]Making, error) {
	rows, err := s.Store.Makings(ctx, archived)
	out := make([]Making, len(rows))
	for i, r := range rows {
		out[i] = makingOf(r)
	}
	return out, err
}

// MakingsPage lists a page of the makings at work, or of those put away, that a search finds; all is
// how many there are.
func (s *Room) MakingsPage(ctx context.Context, archived bool, search string, offset, limit int) (out []Making, all int64, err error) {
	rows, all, err := s.Store.MakingsPage(ctx, archived, search, offset, limit)
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
func (s *Room) MakingNames(ctx context.Context) ([]MakingName, error) {
	rows, err := s.Store.MakingNames(ctx)
	out := make([]MakingName, len(rows))
	for i, r := range rows {
		out[i] = MakingName{r.ID, r.Name}
	}
	return out, err
}

// BlendNames lists blends to choose from, those of the making touched last first.
func (s *Room) BlendNames(ctx context.Context, limit int) ([]store.BlendName, error) {
	return s.Store.BlendNames(ctx, limit)
}

// MakingsOf are the names of the makings at work that blends belong to.
func (s *Room) MakingsOf(ctx context.Context, blends map[int64]Blend) (map[int64]string, error) {
	out := map[int64]string{}
	if len(blends) == 0 {
		return out, nil
	}
	var ids []int64
	for _, b := range blends {
		ids = append(ids, b.MakingID)
	}
	rows, err := s.Store.MakingNames(ctx, ids...)
	for _, r := range rows {
		out[r.ID] = r.Name
	}
	return out, err
}

// BlendsByID are blends as lists show them.
func (s *Room) BlendsByID(ctx context.Context, ids []int64) (map[int64]Blend, error) {
	rows, err := s.Store.BlendsByID(ctx, ids)
	if err != nil {
		return nil, err
	}
	list, err := s.SeenOf(ctx, rows)
	out := map[int64]Blend{}
	for _, b := range list {
		out[b.ID] = b
	}
	return out, err
}

// Making returns one making.
func (s *Room) Making(ctx context.Context, id int64) (Making, error) {
	m, err := s.Store.Making(ctx, id)
	return makingOf(m), err
}

// CreateMaking starts a piece of work.
func (s *Room) CreateMaking(ctx context.Context, in MakingInput) (Making, error) {
	if err := in.check(); err != nil {
		return Making{}, err
	}
	m, err := s.Store.CreateMaking(ctx, store.Making{Name: in.Name, Note: in.Note, Schools: in.Schools})
	return makingOf(m), err
}

// UpdateMaking saves name, note and whether it is put away.
func (s *Room) UpdateMaking(ctx context.Context, id, version int64, in MakingInput) (Making, error) {
	if err := in.check(); err != nil {
		return Making{}, err
	}
	row := store.Making{Base: store.Base{ID: id, Version: version}, Name: in.Name, Note: in.Note, Schools: in.Schools}
	if in.Schools == nil {
		old, err := s.Store.Making(ctx, id)
		if err != nil {
			return Making{}, err
		}
		row.Schools = old.Schools
	}
	if in.Archived {
		now := time.Now().UTC()
		row.ArchivedAt = &now
	}
	m, err := s.Store.UpdateMaking(ctx, row)
	return makingOf(m), floor.ConvertStale(err, func(r store.Making) (Making, error) { return makingOf(r), nil })
}

// CopyMaking copies a making with its blends and lay-ups, without its
// weigh-outs.
func (s *Room) CopyMaking(ctx context.Context, id int64) (Making, error) {
	m, err := s.Store.Making(ctx, id)
	if err != nil {
		return Making{}, err
	}
	name := []rune(m.Name + ", copy")
	m, err = s.Store.CopyMaking(ctx, id, string(name[:min(len(name), floor.MaxName)]))
	return makingOf(m), err
}

// BlendsSeen lists the blends of makings as lists show them: all but how sure their colours are.
func (s *Room) BlendsSeen(ctx context.Context, makings ...int64) ([]Blend, error) {
	rows, err := s.Store.BlendsOf(ctx, makings)
	if err != nil {
		return nil, err
	}
	return s.SeenOf(ctx, rows)
}

// BlendsOf lists the blends of makings, as views.
func (s *Room) BlendsOf(ctx context.Context, makings ...int64) ([]Blend, error) {
	rows, err := s.Store.BlendsOf(ctx, makings)
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
func (s *Room) WeighoutsOf(ctx context.Context, blends ...int64) ([]WeighoutRow, error) {
	rows, err := s.Store.WeighoutsOf(ctx, blends)
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

// Progress is how much of the carding is done, and the run that began last.
type Progress struct {
	All, Done int
	Latest    int64
}
