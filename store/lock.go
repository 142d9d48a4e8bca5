package store

import (
	"fmt"
	"os"
	"path/filepath"

	"github.com/gofrs/flock"
)

// Lock keeps other programs out of a data directory until it is unlocked or this
// program ends, however it ends.
func Lock(dir string) (unlock func() error, err error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("data directory: %w", err)
	}
	l := flock.New(filepath.Join(dir, "in-use.lock"), flock.SetPermissions(0o600))
	got, err := l.TryLock()
	if err != nil {
		return nil, fmt.Errorf("data directory: %w", err)
	}
	if !got {
		return nil, fmt.Errorf("another Fair Tangle works in %s; stop that one, or name another directory with -data", dir)
	}
	return l.Unlock, nil
}
