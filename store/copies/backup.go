// Package copies keeps what the maker has safe: copies of all data made while it is worked in, looked over, thinned by age, and put back.
package copies

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"fairtangle/store"

	"gorm.io/gorm"
)

// Backup copies the data of dir into a new directory, also while a program works
// in dir: the database as it is at one moment, by SQLite's own means, and the
// photos, which never change. The copy is made beside its place, written to the disk, and put
// there whole: what stands under that name is a copy, or nothing does.
func Backup(ctx context.Context, dir, into string) error {
	from := filepath.Join(dir, store.FileName)
	if _, err := os.Stat(from); err != nil {
		return fmt.Errorf("there is no data in %s: %w", dir, err)
	}
	return beside(into, func(part string) error {
		db, err := store.Connect(from, 1)
		if err != nil {
			return err
		}
		defer shut(db)
		if err := db.WithContext(ctx).Exec("VACUUM INTO ?", filepath.Join(part, store.FileName)).Error; err != nil {
			return fmt.Errorf("copy the database: %w", err)
		}
		return copyTree(filepath.Join(dir, store.PhotoDir), filepath.Join(part, store.PhotoDir))
	})
}

// beside fills a directory beside its place and then puts it there.
func beside(into string, fill func(part string) error) error {
	if list, err := os.ReadDir(into); err == nil && len(list) > 0 {
		return fmt.Errorf("%s is not empty; name a new directory for the copy", into)
	} else if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("directory of the copy: %w", err)
	}
	above := filepath.Dir(filepath.Clean(into))
	if err := os.MkdirAll(above, 0o700); err != nil {
		return fmt.Errorf("directory of the copy: %w", err)
	}
	part, err := os.MkdirTemp(above, ".fairtangle-part-*")
	if err != nil {
		return fmt.Errorf("directory of the copy: %w", err)
	}
	defer os.RemoveAll(part)
	if err := fill(part); err != nil {
		return err
	}
	if err := settled(part); err != nil {
		return fmt.Errorf("write the copy to the disk: %w", err)
	}
	if err := os.Rename(part, into); err != nil {
		return fmt.Errorf("put the copy in its place: %w", err)
	}
	return onDisk(above)
}

// settled makes all files of a directory the maker's own, and waits until they are on the disk.
func settled(dir string) error {
	return filepath.WalkDir(dir, func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		mode := fs.FileMode(0o600)
		if d.IsDir() {
			mode = 0o700
		}
		if err := os.Chmod(path, mode); err != nil {
			return err
		}
		return onDisk(path)
	})
}

// onDisk waits until a file, or the names in a directory, are on the disk.
func onDisk(path string) error {
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	defer f.Close()
	return f.Sync()
}

// copyTree copies a directory; where there is none, nothing.
func copyTree(from, to string) error {
	if _, err := os.Stat(from); errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err := os.CopyFS(to, os.DirFS(from)); err != nil {
		return fmt.Errorf("copy the photos: %w", err)
	}
	return nil
}

// copyFile copies a file; where there is none, nothing.
func copyFile(from, to string) error {
	in, err := os.Open(from)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	if _, err = io.Copy(out, in); err == nil {
		err = out.Sync()
	}
	return errors.Join(err, out.Close())
}

// taken copies the data of a directory as it lies there, without touching it: the database with
// what its log still holds.
func Taken(dir, into string) error {
	if _, err := os.Stat(filepath.Join(dir, store.FileName)); err != nil {
		return fmt.Errorf("there is no data in %s: %w", dir, err)
	}
	for _, end := range []string{"", "-wal"} {
		if err := copyFile(filepath.Join(dir, store.FileName+end), filepath.Join(into, store.FileName+end)); err != nil {
			return err
		}
	}
	return nil
}

// shut closes a database.
func shut(db *gorm.DB) {
	if pool, err := db.DB(); err == nil {
		_ = pool.Close()
	}
}

// Report is what a data directory or a copy holds, and what is wrong with it.
type Report struct {
	Makings, Blends, Lots, Runs, Photos int64
	Grams                               float64 // on the shelf
	Latest                              time.Time
	Wrong                               []string // sentences; none where it is whole
}

// Check looks a data directory or a copy over without touching it.
func Check(ctx context.Context, dir string) (r Report, err error) {
	part, err := os.MkdirTemp("", "fairtangle-check-*")
	if err != nil {
		return r, err
	}
	defer os.RemoveAll(part)
	if err := Taken(dir, part); err != nil {
		return r, err
	}
	db, err := store.Connect(filepath.Join(part, store.FileName), 1)
	if err != nil {
		return Report{Wrong: []string{"The database can not be opened: " + err.Error() + "."}}, nil
	}
	defer shut(db)
	db = db.WithContext(ctx)
	var said []string
	if err := db.Raw("PRAGMA integrity_check(5)").Scan(&said).Error; err != nil || len(said) != 1 || said[0] != "ok" {
		return Report{Wrong: []string{fmt.Sprintf("The database is damaged: %v.", errors.Join(err, errors.New(fmt.Sprint(said))))}}, nil
	}
	if foreign, err := store.Foreign(db); err != nil || foreign != "" {
		return Report{Wrong: []string{foreign}}, err
	}
	var orphans []struct{ Table string }
	if err := db.Raw("PRAGMA foreign_key_check").Scan(&orphans).Error; err == nil && len(orphans) > 0 {
		r.Wrong = append(r.Wrong, fmt.Sprintf("%d records name others that are not there.", len(orphans)))
	}
	count := func(into any, query string) {
		if err := db.Raw(query).Scan(into).Error; err != nil {
			r.Wrong = append(r.Wrong, "It is no data of Fair Tangle, or of a version before this one: "+err.Error()+".")
		}
	}
	if r.count(count); len(r.Wrong) > 0 {
		return r, nil
	}
	var drift int64
	count(&drift, "SELECT count(*) FROM lots l WHERE grams_mg <> (SELECT coalesce(sum(delta_mg), 0) FROM movements m WHERE m.lot_id = l.id)")
	if drift > 0 {
		r.Wrong = append(r.Wrong, fmt.Sprintf("%d lots do not weigh what their ledger says.", drift))
	}
	var files []string
	count(&files, "SELECT file FROM photos WHERE deleted_at IS NULL")
	missing := 0
	for _, f := range files {
		if _, err := os.Stat(filepath.Join(dir, store.PhotoDir, filepath.Base(f))); err != nil {
			missing++
		}
	}
	if missing > 0 {
		r.Wrong = append(r.Wrong, fmt.Sprintf("%d photos are not there.", missing))
	}
	return r, nil
}

// count counts what there is.
func (r *Report) count(count func(into any, query string)) {
	for _, v := range []struct {
		into  any
		query string
	}{
		{&r.Makings, "SELECT count(*) FROM makings WHERE deleted_at IS NULL"}, {&r.Blends, "SELECT count(*) FROM blends WHERE deleted_at IS NULL"},
		{&r.Lots, "SELECT count(*) FROM lots WHERE deleted_at IS NULL"}, {&r.Runs, "SELECT count(*) FROM runs WHERE deleted_at IS NULL"},
		{&r.Photos, "SELECT count(*) FROM photos WHERE deleted_at IS NULL"},
		{&r.Grams, "SELECT coalesce(sum(grams_mg), 0) / 1000.0 FROM lots WHERE deleted_at IS NULL"},
	} {
		count(v.into, v.query)
	}
	var latest []store.Movement
	if count(&latest, "SELECT * FROM movements ORDER BY id DESC LIMIT 1"); len(latest) == 1 {
		r.Latest = latest[0].At
	}
}

// Holds is what is here now.
func Holds(ctx context.Context, s *store.Store) (r Report, err error) {
	r.count(func(into any, query string) { err = errors.Join(err, s.Asked(ctx, into, query)) })
	return r, err
}

// restoring is what the data of a copy is called beside the directory whose place it is to take.
const restoring = "-restoring-"

// Finish ends a Restore that was killed: where what was there is moved aside already, the copy, which is whole, takes its place; where it
// is not, the copy's copy goes.
func Finish(dir string) error {
	dir = filepath.Clean(dir)
	list, err := filepath.Glob(dir + restoring + "*")
	if err != nil || len(list) == 0 {
		return err
	}
	if _, err := os.Stat(dir); errors.Is(err, fs.ErrNotExist) {
		last := len(list) - 1
		if err := os.Rename(list[last], dir); err != nil {
			return fmt.Errorf("put the copy in its place: %w", err)
		}
		list = list[:last]
	}
	for _, path := range list {
		if err := os.RemoveAll(path); err != nil {
			return err
		}
	}
	return onDisk(filepath.Dir(dir))
}

// Restore puts the data of a copy in the place of what is in dir, which is moved aside to a
// directory beside it that is named with the moment; aside is empty where there was nothing. No
// program may work in dir. The copy is looked over before anything is moved, and stays as it is.
func Restore(ctx context.Context, from, dir string, now time.Time) (aside string, err error) {
	r, err := Check(ctx, from)
	if err != nil {
		return "", err
	}
	if len(r.Wrong) > 0 {
		return "", fmt.Errorf("%s is not whole, and nothing was changed: %s", from, r.Wrong[0])
	}
	dir = filepath.Clean(dir)
	part := dir + restoring + now.Format("20060102-150405")
	err = beside(part, func(part string) error {
		if err := Taken(from, part); err != nil {
			return err
		}
		db, err := store.Connect(filepath.Join(part, store.FileName), 1) // brings the log into the file
		if err != nil {
			return err
		}
		err = store.Branch(db)
		shut(db)
		if err != nil {
			return err
		}
		return copyTree(filepath.Join(from, store.PhotoDir), filepath.Join(part, store.PhotoDir))
	})
	if err != nil {
		return "", err
	}
	if _, err := os.Stat(dir); err == nil {
		aside = dir + now.Format("-before-20060102-150405")
		if err := os.Rename(dir, aside); err != nil {
			_ = os.RemoveAll(part)
			return "", fmt.Errorf("move what is there aside: %w", err)
		}
	}
	if err := os.Rename(part, dir); err != nil {
		if aside != "" {
			err = errors.Join(err, os.Rename(aside, dir))
		}
		return "", fmt.Errorf("put the copy in its place: %w", err)
	}
	return aside, onDisk(filepath.Dir(dir))
}
