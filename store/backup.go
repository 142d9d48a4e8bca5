package store

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
)

// Backup copies the data of dir into a new directory, also while a program works
// in dir: the database as it is at one moment, by SQLite's own means, and the
// photos, which never change.
func Backup(ctx context.Context, dir, into string) error {
	from := filepath.Join(dir, FileName)
	if _, err := os.Stat(from); err != nil {
		return fmt.Errorf("there is no data in %s: %w", dir, err)
	}
	if list, err := os.ReadDir(into); err == nil && len(list) > 0 {
		return fmt.Errorf("%s is not empty; name a new directory for the copy", into)
	}
	if err := os.MkdirAll(into, 0o700); err != nil {
		return fmt.Errorf("directory of the copy: %w", err)
	}
	db, err := connect(from, 1)
	if err != nil {
		return err
	}
	pool, err := db.DB()
	if err != nil {
		return err
	}
	defer pool.Close()
	copied := filepath.Join(into, FileName)
	if err := db.WithContext(ctx).Exec("VACUUM INTO ?", copied).Error; err != nil {
		return fmt.Errorf("copy the database: %w", err)
	}
	if err := os.Chmod(copied, 0o600); err != nil {
		return err
	}
	photos := os.DirFS(filepath.Join(dir, photoDir))
	if _, err := os.Stat(filepath.Join(dir, photoDir)); err != nil {
		return nil // none yet
	}
	if err := os.CopyFS(filepath.Join(into, photoDir), photos); err != nil {
		return fmt.Errorf("copy the photos: %w", err)
	}
	return nil
}
