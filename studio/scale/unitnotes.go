package scale

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// lose works out what was lost of each unit: of what was weighed for it, and of
// what was carded before where this is an addition to that.
func (w *Weighout) lose(r store.Weighout) {
	for i := range w.Units {
		u := &w.Units[i]
		if in := u.WeighedG + floor.InGrams(r.AddedToMg); u.OffG != nil && u.Done && u.WeighedG > 0 {
			lost := 1 - *u.OffG/in
			u.LostShare = &lost
		}
	}
}

// NoteInput is what came off of a unit, with a note.
type NoteInput struct {
	Version int64    `json:"version"` // of the note; 0 where there is none yet
	OffG    *float64 `json:"off_g"`
	Note    string   `json:"note"`
}

// NoteUnit keeps what came off of a unit.
func (s *Room) NoteUnit(ctx context.Context, id int64, unitNo int, in NoteInput) (Weighout, error) {
	var l fault.List
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
	row := store.WeighoutNote{WeighoutID: id, Version: in.Version, Unit: unitNo, Note: in.Note}
	if in.OffG != nil {
		floor.CheckGrams(&l, "off_g", *in.OffG)
		mg := unit.Grams(*in.OffG).Milligrams()
		row.OffMg = &mg
	}
	row.Note = in.Note
	w, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return Weighout{}, err
	}
	if unitNo < 0 || unitNo >= w.Units {
		l.Add("unit", "There is no such unit in this weigh-out.")
	}
	if err := l.Err(); err != nil {
		return Weighout{}, err
	}
	if w, err = s.Store.NoteUnit(ctx, row); err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	return s.weighoutView(ctx, w)
}
