package store

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
)

// photoDir holds the pictures inside the data directory.
const photoDir = "photos"

var fileName = regexp.MustCompile(`^[0-9a-f]{64}\.png$`)

// KeepFile writes a picture under the name of its content and gives that name.
// It is on disk when this returns.
func (s *Store) KeepFile(data []byte) (name string, err error) {
	sum := sha256.Sum256(data)
	name = hex.EncodeToString(sum[:]) + ".png"
	dir := filepath.Join(s.dir, photoDir)
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", fmt.Errorf("keep the picture: %w", err)
	}
	path := filepath.Join(dir, name)
	if _, err := os.Stat(path); err == nil {
		return name, nil
	}
	f, err := os.CreateTemp(dir, "part-*")
	if err != nil {
		return "", fmt.Errorf("keep the picture: %w", err)
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
		return "", fmt.Errorf("keep the picture: %w", err)
	}
	return name, nil
}

// File reads a kept picture.
func (s *Store) File(name string) ([]byte, error) {
	if !fileName.MatchString(name) {
		return nil, ErrNotFound
	}
	data, err := os.ReadFile(filepath.Join(s.dir, photoDir, name))
	if os.IsNotExist(err) {
		return nil, ErrNotFound
	}
	return data, err
}
