package copies

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// nextFile names the copy that the program begins with when it starts the next time.
const nextFile = "begin-with"

// BeginWith has the program begin with a copy when it starts the next time; without a path it stays with what is here.
func BeginWith(dir, path string) error {
	at := filepath.Join(dir, nextFile)
	if path == "" {
		if err := os.Remove(at); !errors.Is(err, fs.ErrNotExist) {
			return err
		}
		return nil
	}
	if err := os.WriteFile(at, []byte(path), 0o600); err != nil {
		return fmt.Errorf("note the copy to begin with: %w", err)
	}
	return onDisk(at)
}

// BeginsWith is the copy that the program begins with the next time; empty: with what is here.
func BeginsWith(dir string) string {
	path, err := os.ReadFile(filepath.Join(dir, nextFile))
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(path))
}

// Begin puts the copy that was chosen in the place of the data, as Restore does; from is empty where none was chosen. A choice that can
// not be followed is dropped, and the data stays. No program may work in dir.
func Begin(ctx context.Context, dir string, now time.Time) (from, aside string, err error) {
	if from = BeginsWith(dir); from == "" {
		return "", "", nil
	}
	if aside, err = Restore(ctx, from, dir, now); err != nil {
		return from, "", errors.Join(err, os.Remove(filepath.Join(dir, nextFile)))
	}
	return from, aside, os.Remove(filepath.Join(aside, nextFile))
}
