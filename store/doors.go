package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Session is who has signed in; its token is kept as its hash alone.
type Session struct {
	Token   string `gorm:"primaryKey"`
	Data    []byte
	Expires time.Time
}

// Token lets a program in: what it sends is kept as its hash alone.
type Token struct {
	ID   int64
	Name string
	Hash string
	Made time.Time
	Used *time.Time
}

// SessionOf returns a session that has not run out; ErrNotFound where there is none.
func (s *Store) SessionOf(ctx context.Context, token string) (v Session, err error) {
	return v, found(s.reading(ctx).Take(&v, "token = ? AND expires > ?", token, s.now()).Error)
}

// KeepSession keeps a session, and forgets those that have run out.
func (s *Store) KeepSession(ctx context.Context, v Session) error {
	return s.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.Delete(&Session{}, "expires <= ?", s.now()).Error; err != nil {
			return err
		}
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&v).Error
	})
}

// ForgetSessions forgets a session, or all of them where none is named.
func (s *Store) ForgetSessions(ctx context.Context, token string) error {
	return s.tx(ctx, func(tx *gorm.DB) error { return tx.Delete(&Session{}, "? = '' OR token = ?", token, token).Error })
}

// Tokens lists the tokens, the latest first.
func (s *Store) Tokens(ctx context.Context) (out []Token, err error) {
	return out, s.reading(ctx).Order("id DESC").Find(&out).Error
}

// AddToken keeps a token.
func (s *Store) AddToken(ctx context.Context, v Token) (Token, error) {
	v.Made = s.now()
	return v, s.create(ctx, &v)
}

// DropToken withdraws a token.
func (s *Store) DropToken(ctx context.Context, id int64) error {
	return s.tx(ctx, func(tx *gorm.DB) error { return tx.Delete(&Token{}, id).Error })
}

// TokenOf finds a token by its hash; ErrNotFound where there is none. When it was last used is noted by the hour.
func (s *Store) TokenOf(ctx context.Context, hash string) (v Token, err error) {
	if err := found(s.reading(ctx).Take(&v, "hash = ?", hash).Error); err != nil {
		return v, err
	}
	if now := s.now(); v.Used == nil || now.Sub(*v.Used) > time.Hour {
		return v, s.tx(ctx, func(tx *gorm.DB) error { return tx.Model(&v).Update("used", now).Error })
	}
	return v, nil
}
