package store

import (
	"cmp"
	"context"
	"time"

	"gorm.io/gorm"
)

// Step is a state that a piece of work had, kept so that it can be gone back
// to. State is the piece's input as JSON, as its use case writes it. Steps
// that were gone back over lie ahead.
type Step struct {
	ID      int64 `gorm:"primaryKey"`
	Piece   string
	PieceID int64
	At      time.Time // until when it was so
	Ahead   bool      `gorm:"serializer:yes"`
	Said    string    // what was then done, where it has a name
	State   string
}

// Way is how a save moves along the steps of a piece.
type Way string

// The ways: a new step, which drops what lies ahead; one back; one on.
const (
	Onward  Way = ""
	Back    Way = "undo"
	Forward Way = "redo"
)

// Leave is what a save leaves behind: the state before it, and how it moves
// along the steps.
type Leave struct {
	Way   Way
	Said  string
	State string
}

// maxSteps is how many steps of a piece are kept.
const maxSteps = 200

// leave books the step of a save in its transaction.
func (s *Store) leave(tx *gorm.DB, piece string, id int64, l Leave) error {
	of := func(ahead bool) *gorm.DB {
		return tx.Where("piece = ? AND piece_id = ? AND ahead = ?", piece, id, ahead)
	}
	new := Step{Piece: piece, PieceID: id, At: s.now().UTC(), State: l.State, Said: l.Said}
	switch l.Way {
	case Onward:
		if err := of(true).Delete(&Step{}).Error; err != nil {
			return err
		}
	default:
		var last Step
		if err := of(l.Way == Forward).Order("id DESC").First(&last).Error; err != nil {
			return found(err)
		}
		if err := tx.Delete(&last).Error; err != nil {
			return err
		}
		new.Ahead, new.Said = l.Way == Back, last.Said
	}
	if err := tx.Create(&new).Error; err != nil {
		return err
	}
	return of(false).Where("id NOT IN (?)", of(false).Model(&Step{}).Select("id").Order("id DESC").Limit(maxSteps)).Delete(&Step{}).Error
}

// Steps lists the steps of a piece that lie behind, or ahead, the nearest
// first, at most n. A piece that there is not is ErrNotFound.
func (s *Store) Steps(ctx context.Context, piece string, id int64, ahead bool, n int) (out []Step, err error) {
	var there int64
	if err := s.reading(ctx).Table(piece).Where("id = ?", id).Count(&there).Error; err != nil || there == 0 {
		return nil, cmp.Or(err, ErrNotFound)
	}
	return out, s.reading(ctx).Where("piece = ? AND piece_id = ? AND ahead = ?", piece, id, ahead).Order("id DESC").Limit(n).Find(&out).Error
}

// Step returns one step of a piece.
func (s *Store) Step(ctx context.Context, piece string, id, step int64) (out Step, err error) {
	return out, found(s.reading(ctx).Where("piece = ? AND piece_id = ?", piece, id).First(&out, step).Error)
}
