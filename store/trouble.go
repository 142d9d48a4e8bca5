package store

import (
	"errors"
	"io/fs"
	"os"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Trouble is returned when the disk did not keep what was given to it. Nothing
// of it is on disk then.
type Trouble struct {
	Sentence string // for the maker, with the way on
	Full     bool
	cause    error
}

// Error is the sentence.
func (t Trouble) Error() string { return t.Sentence }

// Unwrap gives what the disk or the database said.
func (t Trouble) Unwrap() error { return t.cause }

const (
	fullDisk = "The disk is full, so this was not saved. Make room on it, then save again."
	readOnly = "The data can only be read, not written, so this was not saved. Make the data directory writable, then save again."
	gone     = "The data directory was removed or replaced while the program runs, so nothing is saved any more. " +
		"Stop the program, put the directory back, and start it again."
	brokenDisk = "The disk reported an error, so this was not saved. Copy what is there to another disk before going on."
)

// troubled turns what the disk refused into a Trouble; other errors pass.
func troubled(err error) error {
	var known Trouble
	if err == nil || errors.As(err, &known) {
		return err
	}
	var said *sqlite.Error
	code := 0
	if errors.As(err, &said) {
		code = said.Code() & 0xff
	}
	switch {
	case code == sqlite3.SQLITE_FULL || errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EDQUOT):
		return Trouble{fullDisk, true, err}
	case code == sqlite3.SQLITE_READONLY || errors.Is(err, syscall.EROFS) || errors.Is(err, fs.ErrPermission):
		return Trouble{readOnly, false, err}
	case code == sqlite3.SQLITE_IOERR || code == sqlite3.SQLITE_CANTOPEN || code == sqlite3.SQLITE_CORRUPT:
		return Trouble{brokenDisk, false, err}
	}
	return err
}

// There finds the data directory or its files removed or replaced since it was
// opened; what is written then is lost.
func (s *Store) There() error {
	for path, opened := range s.files {
		if now, err := os.Stat(path); err != nil || !os.SameFile(now, opened) {
			return Trouble{gone, false, err}
		}
	}
	return nil
}
