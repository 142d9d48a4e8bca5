package store

import (
	"context"

	"gorm.io/gorm"

	"fairtangle/core/train"
)

// MostInRound is the most exercises that a round has.
const MostInRound = 12

// Round is a class at the same exercises: what they are is made anew from skill, level and seed.
type Round struct {
	Base
	Name        string
	Code        string // by which pupils come to it while it is open
	Skill       string // empty: some of each
	Level       int64
	Count       int64 // of exercises
	Seed        int64
	ByLightness bool `gorm:"serializer:yes"`
	Over        bool `gorm:"serializer:yes"`
}

// Seat is a pupil of a round. Its name goes when the round is over.
type Seat struct {
	Base
	RoundID int64
	Name    string
	Word    string // by which the pupil comes back to it
	Answers []Said `gorm:"serializer:json"`
}

// Said is an answer to one exercise of a round.
type Said struct {
	N      int          `json:"n"` // of the exercise, the first is 1
	Score  float64      `json:"score"`
	Answer train.Answer `json:"answer"`
}

// OpenRounds is how many rounds are open.
func (s *Store) OpenRounds(ctx context.Context) (n int64, err error) {
	return n, s.reading(ctx).Model(&Round{}).Where("NOT over").Count(&n).Error
}

// EndRound ends a round, and forgets who its pupils were.
func (s *Store) EndRound(ctx context.Context, id int64) error {
	return s.tx(ctx, func(tx *gorm.DB) error {
		now := s.now().UTC()
		r := tx.Exec("UPDATE rounds SET over = 1, code = '', updated_at = ?, version = version + 1 WHERE id = ? AND deleted_at IS NULL AND NOT over", now, id)
		if r.Error != nil {
			return r.Error
		}
		return tx.Exec("UPDATE seats SET name = '', word = '', updated_at = ?, version = version + 1 WHERE round_id = ? AND word <> ''", now, id).Error
	})
}
