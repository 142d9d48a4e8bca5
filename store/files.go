package store

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
)

// PhotoDir holds the pictures inside the data directory.
const PhotoDir = "photos"

// partPattern names a picture that is not written to its end yet.
const partPattern = "part-*"

var fileName = regexp.MustCompile(`^[0-9a-f]{64}\.png$`)

// KeepFile writes a picture under the name of its content and gives that name.
// It is on disk when this returns.
func (s *Store) KeepFile(data []byte) (name string, err error) {
	sum := sha256.Sum256(data)
	name = hex.EncodeToString(sum[:]) + ".png"
	dir := filepath.Join(s.dir, PhotoDir)
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", troubled(fmt.Errorf("keep the picture: %w", err))
	}
	path := filepath.Join(dir, name)
	if _, err := os.Stat(path); err == nil {
		return name, nil
	}
	f, err := os.CreateTemp(dir, partPattern)
	if err != nil {
		return "", troubled(fmt.Errorf("keep the picture: %w", err))
	}
	defer os.Remove(f.Name())
	if _, err = f.Write(data); err == nil {
		err = f.Sync()
	}
	if e := f.Close(); err == nil {
		err = e
	}
	if err == nil {
		err = os.Rename(f.Name(), path)
	}
	if err != nil {
		return "", troubled(fmt.Errorf("keep the picture: %w", err))
	}
	return name, nil
}

// File reads a kept picture.
func (s *Store) File(name string) ([]byte, error) {
	if !fileName.MatchString(name) {
		return nil, ErrNotFound
	}
	data, err := os.ReadFile(filepath.Join(s.dir, PhotoDir, name))
	if os.IsNotExist(err) {
		return nil, ErrNotFound
	}
	return data, err
}

// sweep removes the pictures that no photo names: of uploads that were killed.
func (s *Store) sweep() error {
	list, err := os.ReadDir(filepath.Join(s.dir, PhotoDir))
	if os.IsNotExist(err) || len(list) == 0 {
		return nil
	}
	if err != nil {
		return err
	}
	var named []string
	if err := s.read.Unscoped().Model(&Photo{}).Pluck("file", &named).Error; err != nil {
		return err
	}
	keep := map[string]bool{}
	for _, n := range named {
		keep[n] = true
	}
	for _, f := range list {
		part, _ := filepath.Match(partPattern, f.Name())
		if part || fileName.MatchString(f.Name()) && !keep[f.Name()] {
			if err := os.Remove(filepath.Join(s.dir, PhotoDir, f.Name())); err != nil {
				return err
			}
		}
	}
	return nil
}
