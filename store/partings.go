package store

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// The sorts of a parting: a lot into several, or several put together into one.
const (
	PartedLot  = "parted"
	TogetherIn = "together"
)

// Parting is fibre of one lot that became several, or of several that became one. It is taken back as a whole.
type Parting struct {
	ID         int64 `gorm:"primaryKey"`
	At         time.Time
	Sort       string
	LotID      int64 // that was parted, or into which the others went
	MovementID int64 // of it
	Parts      []PartingPart
	MissingMg  unit.Milligrams
	Why        string   // it is missing
	Before     []Colour `gorm:"serializer:json"` // of the lot that the others went into
	Undone     bool     `gorm:"serializer:yes"`
}

// PartingPart is a lot that came of a parting, or that went into another, with the line of its ledger.
type PartingPart struct {
	PartingID  int64 `gorm:"primaryKey"`
	LotID      int64 `gorm:"primaryKey"`
	MovementID int64
	Mg         unit.Milligrams
}

// PartLot takes so much out of a lot, all of it where that is 0, and makes lots of it; what they weigh less is missing, for
// the reason of the parting. For a key once.
func (s *Store) PartLot(ctx context.Context, p Parting, taken unit.Milligrams, lots []Lot, key string) (Parting, error) {
	var sum unit.Milligrams
	what := fmt.Sprintf("part %d of %d %s:", taken, p.LotID, p.Why)
	for _, l := range lots {
		sum += l.GramsMg
		what += fmt.Sprintf(" %q %d %v", l.Name, l.GramsMg, l.Colours)
	}
	return s.parting(ctx, key, what, func(tx *gorm.DB) (*Movement, error) {
		var from Lot
		if err := tx.First(&from, p.LotID).Error; err != nil {
			return nil, found(err)
		}
		if taken == 0 {
			taken = from.GramsMg
		}
		switch p.MissingMg = taken - sum; {
		case p.MissingMg < 0:
			return nil, fault.New("parts", "The parts weigh %s together, and %s were taken.", sum.Grams(), taken.Grams())
		case p.MissingMg > 0 && p.Why == "":
			return nil, fault.New("why", "%s are missing. Say why, or weigh again.", p.MissingMg.Grams())
		case taken > from.GramsMg:
			return nil, fault.New("taken_g", "Only %s of it are there.", from.GramsMg.Grams())
		}
		m, err := s.move(tx, &from, Movement{DeltaMg: -taken, Reason: Parted, Note: p.Why})
		if err != nil {
			return nil, err
		}
		if err := s.createLots(tx, lots, "parted from "+from.Name); err != nil {
			return nil, err
		}
		p.At, p.Sort, p.MovementID = m.At, PartedLot, m.ID
		for _, l := range lots {
			var opening Movement
			if err := tx.Where("lot_id = ?", l.ID).First(&opening).Error; err != nil {
				return nil, err
			}
			p.Parts = append(p.Parts, PartingPart{LotID: l.ID, MovementID: opening.ID, Mg: l.GramsMg})
		}
		return &m, tx.Create(&p).Error
	})
}

// PutTogether moves all fibre of some lots into another, which has the colours then that become of its row. For a key once.
func (s *Store) PutTogether(ctx context.Context, into Lot, others []int64, key string) (Parting, error) {
	what := fmt.Sprintf("%v into %d", others, into.ID)
	return s.parting(ctx, key, what, func(tx *gorm.DB) (*Movement, error) {
		p := Parting{Sort: TogetherIn, LotID: into.ID}
		var sum unit.Milligrams
		for _, id := range others {
			var l Lot
			if err := tx.First(&l, id).Error; err != nil {
				return nil, found(err)
			}
			if l.GramsMg == 0 {
				return nil, fault.New("lots", "Nothing of %s is left.", l.Name)
			}
			mg := l.GramsMg
			m, err := s.move(tx, &l, Movement{DeltaMg: -mg, Reason: Together, Note: "put to " + into.Name})
			if err != nil {
				return nil, err
			}
			sum += mg
			p.Parts = append(p.Parts, PartingPart{LotID: id, MovementID: m.ID, Mg: mg})
		}
		err := save(tx, &into, func(c *Lot) {
			p.Before = c.Colours
			c.Colours, c.ColoursBefore, c.ShelfOrder = into.Colours, c.Colours, into.ShelfOrder
			c.Version++
		})
		if err != nil {
			return nil, err
		}
		var now Lot
		if err := tx.First(&now, into.ID).Error; err != nil {
			return nil, err
		}
		m, err := s.move(tx, &now, Movement{DeltaMg: sum, Reason: Together})
		if err != nil {
			return nil, err
		}
		p.At, p.MovementID = m.At, m.ID
		return &m, tx.Create(&p).Error
	})
}

// parting books one for a key once; pressed again it is the one that was booked.
func (s *Store) parting(ctx context.Context, key, what string, book func(*gorm.DB) (*Movement, error)) (out Parting, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		m, err := s.once(tx, key, what, func() (*Movement, error) { return book(tx) })
		if err != nil || m == nil {
			return err
		}
		return found(tx.Preload("Parts").Where("movement_id = ?", m.ID).First(&out).Error)
	})
	return out, err
}

// PartingsOf are those that a lot came of, went into or was parted in, the latest first.
func (s *Store) PartingsOf(ctx context.Context, lot int64) (out []Parting, err error) {
	return out, s.reading(ctx).Preload("Parts").
		Where("lot_id = ? OR id IN (SELECT parting_id FROM parting_parts WHERE lot_id = ?)", lot, lot).
		Order("id DESC").Find(&out).Error
}

// Unpart takes a parting back as a whole: all is where it was before. What of it was used since is named and nothing is done.
func (s *Store) Unpart(ctx context.Context, lot, parting int64) (out Parting, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.Preload("Parts").Where("lot_id = ?", lot).First(&out, parting).Error; err != nil {
			return found(err)
		}
		if out.Undone {
			return fault.New("", "This was taken back already.")
		}
		if err := s.unpart(tx, out); err != nil {
			return err
		}
		out.Undone = true
		return tx.Model(&Parting{}).Where("id = ?", out.ID).Update("undone", 1).Error
	})
	return out, err
}

func (s *Store) unpart(tx *gorm.DB, p Parting) error {
	ids := []int64{p.MovementID}
	for _, v := range p.Parts {
		ids = append(ids, v.MovementID)
	}
	if p.Sort == TogetherIn { // first out of the one, then back into the others
		var into Lot
		if err := tx.Unscoped().First(&into, p.LotID).Error; err != nil {
			return found(err)
		}
		if len(into.ColoursBefore) > 0 && slices.EqualFunc(into.ColoursBefore, p.Before, sameColour) {
			into.Colours, into.ColoursBefore = p.Before, into.Colours
			into.Version++
			if err := tx.Unscoped().Select("colours", "colours_before", "version").Updates(&into).Error; err != nil {
				return err
			}
		}
	} else {
		ids = append(ids[1:], ids[0])
		if err := s.unusedParts(tx, p); err != nil {
			return err
		}
	}
	for _, id := range ids {
		var m Movement
		if err := tx.First(&m, id).Error; err != nil {
			return found(err)
		}
		if _, err := s.reverse(tx, m); err != nil {
			return err
		}
	}
	if p.Sort == TogetherIn {
		return nil
	}
	for _, v := range p.Parts {
		now := s.now().UTC()
		if err := tx.Exec("UPDATE lots SET deleted_at = ?, version = version + 1 WHERE id = ? AND deleted_at IS NULL", now, v.LotID).Error; err != nil {
			return err
		}
	}
	return nil
}

// unusedParts names the first part of which fibre came or went since.
func (s *Store) unusedParts(tx *gorm.DB, p Parting) error {
	for _, v := range p.Parts {
		var l Lot
		if err := tx.Unscoped().First(&l, v.LotID).Error; err != nil {
			return found(err)
		}
		if l.GramsMg != v.Mg {
			return fault.New("", "%s holds %s and not the %s that it came with: take back what was done with it first.", l.Name, l.GramsMg.Grams(), v.Mg.Grams())
		}
	}
	return nil
}

func sameColour(a, b Colour) bool { return a.Hex == b.Hex && a.Share == b.Share }

// partings are the tables of what was parted and put together.
const partings = `
CREATE TABLE partings (
	id INTEGER PRIMARY KEY AUTOINCREMENT,
	at DATETIME NOT NULL,
	sort TEXT NOT NULL,
	lot_id INTEGER NOT NULL REFERENCES lots (id),
	movement_id INTEGER NOT NULL REFERENCES movements (id),
	missing_mg INTEGER NOT NULL DEFAULT 0,
	why TEXT NOT NULL DEFAULT '',
	before TEXT,
	undone INTEGER NOT NULL DEFAULT 0
)
--
CREATE INDEX partings_lot ON partings (lot_id)
--
CREATE UNIQUE INDEX partings_movement ON partings (movement_id)
--
CREATE TABLE parting_parts (
	parting_id INTEGER NOT NULL REFERENCES partings (id),
	lot_id INTEGER NOT NULL REFERENCES lots (id),
	movement_id INTEGER NOT NULL REFERENCES movements (id),
	mg INTEGER NOT NULL,
	PRIMARY KEY (parting_id, lot_id)
)
--
CREATE INDEX parting_parts_lot ON parting_parts (lot_id)`
