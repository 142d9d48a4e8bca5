package store

import (
	"context"
	"crypto/sha256"
	"fmt"

	"gorm.io/gorm"
)

// deed is a unit of work that is going on: all of it is kept, or nothing.
type deed struct {
	tx    *gorm.DB
	after []func(context.Context) // done once it is kept
	ended []func()                // done once it is over, kept or not
}

// deedKey is where a context carries the deed of a store.
type deedKey struct{ s *Store }

// refusedKey is where a context carries why nothing can be kept.
type refusedKey struct{}

// Refusing is a context in which every deed is refused, with the error given.
func Refusing(ctx context.Context, why error) context.Context {
	return context.WithValue(ctx, refusedKey{}, why)
}

func (s *Store) deedIn(ctx context.Context) *deed {
	d, _ := ctx.Value(deedKey{s}).(*deed)
	return d
}

// Deed runs f as one unit of work: what f writes and reads through the context that it is
// given is one transaction, kept when f returns nil and undone as if it never was when it
// returns an error. Deeds come one after the other, each from what the one before left, so a
// version that is looked at inside holds until the end. A client that leaves while it waits
// ends its waiting; once begun, a deed is done whoever leaves. A deed within a deed is part of
// it; where it fails, only its own part is undone.
//
// When it returns nil, all of it is on disk, in the file that is there.
func (s *Store) Deed(ctx context.Context, f func(context.Context) error) error {
	if why, refused := ctx.Value(refusedKey{}).(error); refused {
		return why
	}
	if d := s.deedIn(ctx); d != nil {
		return d.tx.Transaction(func(*gorm.DB) error { return f(ctx) })
	}
	if err := s.There(); err != nil {
		return err
	}
	select {
	case s.turn <- struct{}{}:
	case <-ctx.Done():
		return ctx.Err()
	}
	outside := context.WithoutCancel(ctx)
	var d deed
	err := s.alone(outside, &d, f)
	for _, f := range d.ended {
		f()
	}
	if err != nil {
		return troubled(err)
	}
	s.idle.Reset(quiet)
	for _, f := range d.after {
		f(outside)
	}
	return s.There()
}

// alone runs f in a transaction of its own; the turn is given back however it ends.
func (s *Store) alone(ctx context.Context, d *deed, f func(context.Context) error) error {
	defer func() { <-s.turn }()
	return s.write.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		d.tx = tx
		return f(context.WithValue(ctx, deedKey{s}, d))
	})
}

// After does something once the deed of a context is kept, with a context outside of it; never
// where it is not kept, and at once where there is no deed.
func (s *Store) After(ctx context.Context, f func(context.Context)) {
	if d := s.deedIn(ctx); d != nil {
		d.after = append(d.after, f)
		return
	}
	f(ctx)
}

// tx runs f in the deed of its context, or in one of its own.
func (s *Store) tx(ctx context.Context, f func(*gorm.DB) error) error {
	return s.Deed(ctx, func(ctx context.Context) error { return f(s.deedIn(ctx).tx) })
}

// reading is where a context reads: what its deed has written, else what is kept.
func (s *Store) reading(ctx context.Context) *gorm.DB {
	if d := s.deedIn(ctx); d != nil {
		return d.tx
	}
	return s.read.WithContext(ctx)
}

// retold says that what the runs teach has changed, and reweighed that what was weighed for them
// has: at once for the deed itself, and for everybody else when it is over.
func (s *Store) retold(ctx context.Context, reweighed bool) {
	add := func() {
		s.lessons.Add(1)
		if reweighed {
			s.reweighed.Add(1)
		}
	}
	add()
	if d := s.deedIn(ctx); d != nil {
		d.ended = append(d.ended, add)
	}
}

// forgetDays is for how long the answers of deeds are kept with their keys: nobody presses a form
// again after that.
const forgetDays = 30

// forget lets go of answers that nobody asks for any more.
func (s *Store) forget() error {
	return s.write.Where("answer <> '' AND at < ?", s.now().UTC().AddDate(0, 0, -forgetDays)).Delete(&sentKey{}).Error
}

// Keyed is Deed for what a form or a program sends with a key, of what is sent as content: the
// same content under the same key does nothing a second time and gives what was answered the
// first time. Without a key it is always done.
func (s *Store) Keyed(ctx context.Context, key, content string, f func(context.Context) (answer string, err error)) (answer string, err error) {
	err = s.Deed(ctx, func(ctx context.Context) error {
		if key == "" {
			answer, err = f(ctx)
			return err
		}
		sum := fmt.Sprintf("%x", sha256.Sum256([]byte(key+"\x00"+content)))
		tx := s.deedIn(ctx).tx
		var before sentKey
		if err := tx.Where("key = ?", sum).Limit(1).Find(&before).Error; err != nil {
			return err
		}
		if before.Key != "" {
			answer = before.Answer
			return nil
		}
		if answer, err = f(ctx); err != nil {
			return err
		}
		return tx.Create(&sentKey{Key: sum, What: "a deed", Answer: answer, At: s.now().UTC()}).Error
	})
	return answer, err
}
