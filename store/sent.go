package store

import (
	"time"

	"gorm.io/gorm"

	"fairtangle/core/fault"
)

// sentKey is a key that a form or a program chose for what it sends, with what
// was booked for it.
type sentKey struct {
	Key        string `gorm:"primaryKey"`
	What       string // names the content
	MovementID *int64
	Answer     string // what a deed answered
	At         time.Time
}

// LongestKey is how many bytes a key has at most.
const LongestKey = 64

// once books what a key stands for, once: the same again books nothing and gives
// the movement of the first time. Other content under the same key is refused,
// and so is what was undone since. Without a key it always books.
func (s *Store) once(tx *gorm.DB, key, what string, book func() (*Movement, error)) (*Movement, error) {
	if key == "" {
		return book()
	}
	if len(key) > LongestKey {
		return nil, fault.New("key", "A key has at most %d signs.", LongestKey)
	}
	var before sentKey
	if err := tx.Where("key = ?", key).Limit(1).Find(&before).Error; err != nil {
		return nil, err
	}
	if before.Key == "" {
		m, err := book()
		if err != nil {
			return m, err
		}
		sent := sentKey{Key: key, What: what, At: s.now().UTC()}
		if m != nil {
			sent.MovementID = &m.ID
		}
		return m, tx.Create(&sent).Error
	}
	if before.What != what {
		return nil, fault.New("key", "This was sent already with other content, and that was booked. Load the page again before you enter more.")
	}
	if before.MovementID == nil {
		return nil, nil
	}
	var undone int64
	if err := tx.Model(&Movement{}).Where("undoes_id = ?", *before.MovementID).Count(&undone).Error; err != nil {
		return nil, err
	}
	if undone > 0 {
		return nil, fault.New("key", "This was booked already and undone since. Load the page again before you enter it once more.")
	}
	var m Movement
	return &m, tx.First(&m, *before.MovementID).Error
}
