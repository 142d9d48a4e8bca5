package workshop

import (
	"context"
	"errors"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"fairtangle/core/fault"
	"fairtangle/store/copies"
	"fairtangle/studio/floor"
)

// Copy is a copy of all that is here.
type Copy = copies.Copy

// Holding is what is here, or in a copy.
type Holding = copies.Report

// CopiesBeside is where copies are kept if nothing is said.
func (s *Vault) CopiesBeside() string { return copies.Beside(s.room.Store.Dir()) }

// Holds is what is here now.
func (s *Vault) Holds(ctx context.Context) (Holding, error) { return copies.Holds(ctx, s.room.Store) }

// BeginsWith is the copy that the program begins with the next time; empty: with what is here.
func (s *Vault) BeginsWith() string { return copies.BeginsWith(s.room.Store.Dir()) }

// CopiesDue are how long after the last copy the next one is made by itself, and how long without one a maker is told.
const (
	CopiesDue  = 24 * time.Hour
	CopiesLate = 7 * 24 * time.Hour
)

// Vault is where copies of all that is here are kept: one is made at a time; what was wrong with the last try is read meanwhile.
type Vault struct {
	room  *Room
	turn  sync.Mutex
	wrong atomic.Pointer[string]
}

func (s *Vault) said() string {
	if v := s.wrong.Load(); v != nil {
		return *v
	}
	return ""
}

// CopiesFolder is where copies are kept: where the settings say, else beside the data.
func (s *Vault) CopiesFolder(ctx context.Context) (string, error) {
	set, err := s.room.Settings(ctx)
	if err != nil || set.CopiesFolder != "" {
		return set.CopiesFolder, err
	}
	return copies.Beside(s.room.Store.Dir()), nil
}

// Copies lists the copies, the latest first; wrong is what kept the last try from being one.
func (s *Vault) Copies(ctx context.Context) (list []Copy, wrong string, err error) {
	folder, err := s.CopiesFolder(ctx)
	if err != nil {
		return nil, "", err
	}
	list, err = copies.List(folder)
	if err != nil {
		return nil, "The folder of the copies can not be read: " + err.Error() + ".", nil
	}
	return list, s.said(), nil
}

// OneCopy is a copy by its name.
func (s *Vault) OneCopy(ctx context.Context, name string) (Copy, error) {
	folder, err := s.CopiesFolder(ctx)
	if err != nil {
		return Copy{}, err
	}
	c, err := copies.One(folder, name)
	if err != nil {
		return c, floor.ErrNotFound
	}
	return c, nil
}

// TakeIn takes in a copy that was taken along from another computer, as one file of so many bytes.
func (s *Vault) TakeIn(ctx context.Context, r io.ReaderAt, size int64) (Copy, error) {
	folder, err := s.CopiesFolder(ctx)
	if err != nil {
		return Copy{}, err
	}
	c, err := copies.TakeIn(ctx, r, size, folder, s.room.Store.Now())
	if errors.Is(err, copies.ErrNoCopy) {
		why := strings.TrimSuffix(strings.TrimPrefix(err.Error(), copies.ErrNoCopy.Error()+": "), ".")
		return c, fault.New("file", "This is no copy that can be taken in, and nothing was changed: %s.", why)
	}
	return c, err
}

// MakeCopy copies all that is here into the folder of the copies.
func (s *Vault) MakeCopy(ctx context.Context) (Copy, error) {
	folder, err := s.CopiesFolder(ctx)
	if err != nil {
		return Copy{}, err
	}
	asked := time.Now()
	s.turn.Lock()
	defer s.turn.Unlock()
	if list, err := copies.List(folder); err == nil && len(list) > 0 && asked.Sub(list[0].At) < 2*time.Second {
		return list[0], nil // pressed twice, or made while this waited
	}
	c, err := copies.Make(ctx, s.room.Store.Dir(), folder, s.room.Store.Now())
	wrong := ""
	switch {
	case err != nil && ctx.Err() == nil:
		wrong = "The copy could not be made: " + err.Error() + "."
		err = fault.New("copy", "%s", wrong)
	case err == nil && len(c.Report.Wrong) > 0:
		wrong = "The copy is not whole: " + c.Report.Wrong[0]
	}
	s.wrong.Store(&wrong)
	return c, err
}

// KeepCopies makes a copy by itself where the last one is a day old, and looks again every so often until ctx ends.
func (s *Vault) KeepCopies(ctx context.Context, every time.Duration) {
	for tick := time.NewTicker(every); ; {
		select {
		case <-ctx.Done():
			tick.Stop()
			return
		case <-tick.C:
		}
		if folder, err := s.CopiesFolder(ctx); err == nil && time.Since(copies.Latest(folder)) >= CopiesDue {
			_, _ = s.MakeCopy(ctx) // what is wrong stands on the page of the copies, and is tried again
		}
	}
}

// CopiesOld reports whether nothing was copied for a week: since the last copy, or since the first making where there is none. What can
// not be read of the copies is said on their own page.
func (s *Vault) CopiesOld(ctx context.Context) (last time.Time, old bool) {
	folder, err := s.CopiesFolder(ctx)
	if err != nil {
		return last, false
	}
	if last = copies.Latest(folder); !last.IsZero() {
		return last, time.Since(last) > CopiesLate
	}
	began, err := s.room.Store.Began(ctx)
	return last, err == nil && !began.IsZero() && time.Since(began) > CopiesLate
}

// BeginWith has the program begin with a copy when it starts the next time, empty: stay with what is here.
func (s *Vault) BeginWith(ctx context.Context, name string) error {
	if name == "" {
		return copies.BeginWith(s.room.Store.Dir(), "")
	}
	c, err := s.OneCopy(ctx, name)
	if err != nil {
		return err
	}
	r, err := copies.Check(ctx, c.Path)
	if err != nil {
		return err
	}
	if len(r.Wrong) > 0 {
		return fault.New("copy", "This copy is not whole, and nothing was changed: %s", r.Wrong[0])
	}
	return copies.BeginWith(s.room.Store.Dir(), c.Path)
}

// SetCopiesFolder has copies kept elsewhere, based on a version of the settings; empty: beside the data.
func (s *Vault) SetCopiesFolder(ctx context.Context, version int64, folder string) error {
	if folder = strings.TrimSpace(folder); folder != "" {
		folder = filepath.Clean(folder)
		switch at, err := os.Stat(folder); {
		case !filepath.IsAbs(folder):
			return fault.New("folder", "Name the folder from the root of the disk on, such as /media/disk/copies.")
		case err != nil:
			return fault.New("folder", "There is no such folder on this computer. Make it first.")
		case !at.IsDir():
			return fault.New("folder", "That is a file, not a folder.")
		}
		probe, err := os.MkdirTemp(folder, ".fairtangle-part-*")
		if err != nil {
			return fault.New("folder", "Nothing can be written there.")
		}
		_ = os.Remove(probe)
	}
	_, err := s.room.ChangeSettings(ctx, version, func(v *Settings) { v.CopiesFolder = folder })
	return err
}
