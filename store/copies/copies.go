package copies

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"fairtangle/store"
)

// Copy is a copy of all data in the folder of the copies, named by when it was made.
type Copy struct {
	Name   string
	At     time.Time
	Bytes  int64
	Path   string
	Report *Report // what it held when it was looked over after it was made; nil: it was not
}

const (
	copyName  = "2006-01-02 15-04-05"
	copyAbout = "about.json"
)

// Beside is the folder for copies beside the data.
func Beside(dir string) string { return filepath.Clean(dir) + "-copies" }

// Make copies all data of dir into a folder, looks the copy over, and thins those that are there by age. The data is worked in meanwhile.
func Make(ctx context.Context, dir, folder string, now time.Time) (c Copy, err error) {
	sweepParts(folder, now.Add(-time.Hour))
	c = Copy{At: now.Local().Truncate(time.Second)}
	c.Name = c.At.Format(copyName)
	c.Path = filepath.Join(folder, c.Name)
	if err := Backup(ctx, dir, c.Path); err != nil {
		return c, err
	}
	if list, wrong := List(folder); wrong == nil && len(list) > 1 {
		shared(filepath.Join(list[1].Path, store.PhotoDir), filepath.Join(c.Path, store.PhotoDir))
	}
	r, err := Check(ctx, c.Path)
	if err != nil {
		return c, err
	}
	if err := about(c.Path, r); err != nil {
		return c, err
	}
	c.Report = &r
	list, err := List(folder)
	if err != nil {
		return c, err
	}
	at := make([]time.Time, len(list))
	for i, v := range list {
		at[i] = v.At
	}
	for i, keep := range Thinned(at) {
		if !keep {
			err = errors.Join(err, os.RemoveAll(list[i].Path))
		}
	}
	for _, v := range list {
		if v.Name == c.Name {
			c.Bytes = v.Bytes
		}
	}
	return c, err
}

// about writes beside a copy what it held when it was looked over.
func about(dir string, r Report) error {
	text, err := json.Marshal(r)
	if err != nil {
		return err
	}
	if err := os.WriteFile(filepath.Join(dir, copyAbout), text, 0o600); err != nil {
		return fmt.Errorf("write what the copy holds: %w", err)
	}
	return nil
}

// sweepParts removes what killed programs left half copied in a folder before a moment.
func sweepParts(folder string, before time.Time) {
	list, _ := filepath.Glob(filepath.Join(folder, ".fairtangle-part-*"))
	for _, path := range list {
		if v, err := os.Stat(path); err == nil && v.ModTime().Before(before) {
			_ = os.RemoveAll(path)
		}
	}
}

// shared has photos of a copy that lie in the one before it stand there once on the disk: they are named by their content and never
// change. Where a disk can not do that they stay copies.
func shared(before, now string) {
	list, _ := os.ReadDir(now)
	for _, d := range list {
		was, mine := filepath.Join(before, d.Name()), filepath.Join(now, d.Name())
		a, err := os.Stat(was)
		if b, wrong := os.Stat(mine); err != nil || wrong != nil || a.Size() != b.Size() || os.Link(was, mine+".same") != nil {
			continue
		}
		if os.Rename(mine+".same", mine) != nil {
			_ = os.Remove(mine + ".same")
		}
	}
}

// List lists the copies in a folder, the latest first; none where there is no folder.
func List(folder string) (out []Copy, err error) {
	list, err := os.ReadDir(folder)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	for _, d := range list {
		at, wrong := time.ParseInLocation(copyName, d.Name(), time.Local)
		if wrong != nil || !d.IsDir() {
			continue
		}
		c := Copy{Name: d.Name(), At: at, Path: filepath.Join(folder, d.Name())}
		if _, wrong := os.Stat(filepath.Join(c.Path, store.FileName)); wrong != nil {
			continue
		}
		_ = filepath.WalkDir(c.Path, func(_ string, d fs.DirEntry, wrong error) error {
			if wrong != nil {
				return wrong
			}
			if v, wrong := d.Info(); wrong == nil && v.Mode().IsRegular() {
				c.Bytes += v.Size()
			}
			return nil
		})
		if about, wrong := os.ReadFile(filepath.Join(c.Path, copyAbout)); wrong == nil {
			var r Report
			if json.Unmarshal(about, &r) == nil {
				c.Report = &r
			}
		}
		out = append(out, c)
	}
	slices.SortFunc(out, func(a, b Copy) int { return strings.Compare(b.Name, a.Name) })
	return out, err
}

// How copies are thinned.
const (
	lastKept  = 10
	daysKept  = 14
	weeksKept = 52
)

// Thinned says which of the copies of such moments, the latest first, are kept: the last ten, the last of each of the fourteen latest days
// and of each of the fifty-two latest weeks on which one was made.
func Thinned(at []time.Time) []bool {
	keep := make([]bool, len(at))
	latest := func(most int, of func(time.Time) string) {
		seen := map[string]bool{}
		for i, t := range at {
			if k := of(t); !seen[k] && len(seen) < most {
				seen[k], keep[i] = true, true
			}
		}
	}
	for i := range min(len(at), lastKept) {
		keep[i] = true
	}
	latest(daysKept, func(t time.Time) string { return t.Format("2006-01-02") })
	latest(weeksKept, func(t time.Time) string {
		year, week := t.ISOWeek()
		return fmt.Sprint(year, " ", week)
	})
	return keep
}

// Latest is when the latest copy in a folder was made; zero where there is none.
func Latest(folder string) (latest time.Time) {
	list, err := os.ReadDir(folder) // by name, and so by the moment
	if err != nil {
		return latest
	}
	for _, d := range slices.Backward(list) {
		at, err := time.ParseInLocation(copyName, d.Name(), time.Local)
		if err != nil {
			continue
		}
		if _, err := os.Stat(filepath.Join(folder, d.Name(), store.FileName)); err == nil {
			return at
		}
	}
	return latest
}

// One is a copy in a folder by its name.
func One(folder, name string) (Copy, error) {
	list, err := List(folder)
	if i := slices.IndexFunc(list, func(c Copy) bool { return c.Name == name }); i >= 0 {
		return list[i], nil
	}
	return Copy{}, errors.Join(store.ErrNotFound, err)
}

// Zip writes a copy as one file, in a directory of its name.
func (c Copy) Zip(w io.Writer) error {
	z := zip.NewWriter(w)
	err := filepath.WalkDir(c.Path, func(path string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() {
			return err
		}
		within, err := filepath.Rel(c.Path, path)
		if err != nil {
			return err
		}
		to, err := z.CreateHeader(&zip.FileHeader{Name: c.Name + "/" + filepath.ToSlash(within), Method: zip.Deflate, Modified: c.At})
		if err != nil {
			return err
		}
		from, err := os.Open(path)
		if err != nil {
			return err
		}
		_, err = io.Copy(to, from)
		return errors.Join(err, from.Close())
	})
	return errors.Join(err, z.Close())
}
