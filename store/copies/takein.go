package copies

import (
	"archive/zip"
	"bytes"
	"compress/flate"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"time"

	"fairtangle/store"
	"fairtangle/store/plain"
)

// What is taken in of a copy that comes as one file: so many files, so large, unpacked no more than so many times as large as it came.
const (
	mostFiles    = 60_000
	mostFile     = 8 << 30
	mostUnpacked = 32 << 30
	mostPacked   = 400      // times
	mostListed   = 16 << 20 // bytes of the list of files in a zip
)

// ErrNoCopy is what was brought in that is no copy of ours; it says why in a maker's words.
var ErrNoCopy = errors.New("it is no copy of Fair Tangle")

func noCopy(why string, args ...any) error {
	return fmt.Errorf("%w: %s", ErrNoCopy, fmt.Sprintf(why, args...))
}

// within is what a zip of a copy holds, below the directory of its name; a path that goes elsewhere is none of these.
var within = regexp.MustCompile(`^([^/\\]{1,80})/(` + regexp.QuoteMeta(store.FileName) + `(-wal)?|` + regexp.QuoteMeta(copyAbout) + `|` +
	store.PhotoDir + `/[0-9a-f]{64}\.png)$`)

// inside is the name of a file of a copy below its directory; empty where no copy has it.
func inside(name string) string {
	if m := within.FindStringSubmatch(name); m != nil {
		return m[2]
	}
	return ""
}

// TakeIn unpacks a copy that Zip made, or makes one of a zip in open forms, so many bytes of r, into a folder of copies, and looks it over:
// what is no whole copy leaves nothing behind. One that is there already is left as it is.
func TakeIn(ctx context.Context, r io.ReaderAt, size int64, folder string, now time.Time) (c Copy, err error) {
	if err := listed(r, size); err != nil {
		return c, err
	}
	z, err := zip.NewReader(r, size)
	if err != nil {
		return c, noCopy("the file is not a zip, or it was cut off")
	}
	if at, ok := plain.Is(z); ok {
		return takePlain(ctx, z, size, folder, at, now)
	}
	name, err := named(z, size, inside, store.FileName)
	if err != nil {
		return c, err
	}
	if _, err := time.ParseInLocation(copyName, name, time.Local); err != nil {
		name = now.Local().Format(copyName)
	}
	if have, err := One(folder, name); err == nil {
		return have, nil
	}
	into := filepath.Join(folder, name)
	err = beside(into, func(part string) error {
		for _, f := range z.File {
			if err := ctx.Err(); err != nil {
				return err
			}
			if err := unpack(f, filepath.Join(part, filepath.FromSlash(inside(f.Name)))); err != nil {
				return err
			}
		}
		return lookOver(ctx, part)
	})
	if err != nil {
		return c, err
	}
	return One(folder, name)
}

// lookOver looks over what was taken in, and notes what it holds.
func lookOver(ctx context.Context, part string) error {
	report, err := Check(ctx, part)
	if err != nil {
		return noCopy("%s", err.Error())
	}
	if len(report.Wrong) > 0 {
		return noCopy("%s", report.Wrong[0])
	}
	return about(part, report)
}

// takePlain makes a copy of a zip in open forms: its tables become a database, its photos files.
func takePlain(ctx context.Context, z *zip.Reader, size int64, folder string, at, now time.Time) (c Copy, err error) {
	if _, err := named(z, size, plain.Within, plain.Head); err != nil {
		return c, err
	}
	if at.IsZero() || at.After(now) {
		at = now
	}
	name := at.Local().Format(copyName)
	for _, err := One(folder, name); err == nil; _, err = One(folder, name) { // what stands under it may be another
		at = at.Add(time.Second)
		name = at.Local().Format(copyName)
	}
	err = beside(filepath.Join(folder, name), func(part string) error {
		if err := plain.Read(ctx, z, part); err != nil {
			if errors.Is(err, plain.ErrNot) {
				return noCopy("%s", strings.TrimPrefix(err.Error(), plain.ErrNot.Error()+": "))
			}
			return err
		}
		for _, f := range z.File {
			if in := plain.Within(f.Name); strings.HasPrefix(in, store.PhotoDir+"/") {
				if err := unpack(f, filepath.Join(part, filepath.FromSlash(in))); err != nil {
					return err
				}
			}
		}
		return lookOver(ctx, part)
	})
	if err != nil {
		return c, err
	}
	return One(folder, name)
}

// listed refuses a zip whose list of files is too long to be read at all: that is known from its last lines.
func listed(r io.ReaderAt, size int64) error {
	const end, most = 22, 22 + 1<<16
	tail := make([]byte, min(size, most))
	if _, err := r.ReadAt(tail, size-int64(len(tail))); err != nil && !errors.Is(err, io.EOF) {
		return err
	}
	at := bytes.LastIndex(tail, []byte("PK\x05\x06"))
	if at < 0 || len(tail)-at < end {
		return noCopy("the file is not a zip, or it was cut off")
	}
	long, from := binary.LittleEndian.Uint32(tail[at+12:]), binary.LittleEndian.Uint32(tail[at+16:])
	if here := size - int64(len(tail)-at); long > mostListed || int64(from) > here || here-int64(from) > mostListed {
		return noCopy("it holds more files than a copy has")
	}
	return nil
}

// named is the directory in which all files of a copy lie, once each of them is one that it has, and the one that it needs is there.
func named(z *zip.Reader, size int64, inside func(string) string, needs string) (name string, err error) {
	var sum uint64
	seen := map[string]bool{}
	if len(z.File) > mostFiles {
		return "", noCopy("it holds more files than a copy has")
	}
	for _, f := range z.File {
		above, _, _ := strings.Cut(f.Name, "/")
		switch {
		case inside(f.Name) == "" || !f.Mode().IsRegular():
			return "", noCopy("it holds “%.60s”, which no copy has", strings.ToValidUTF8(f.Name, "?"))
		case name != "" && above != name, seen[f.Name]:
			return "", noCopy("it holds two copies, or one file twice")
		case f.UncompressedSize64 > mostFile:
			return "", noCopy("a file in it is larger than any copy's")
		}
		name, seen[f.Name], sum = above, true, sum+f.UncompressedSize64
	}
	switch {
	case !seen[name+"/"+needs]:
		return "", noCopy("there is no database in it")
	case sum > mostUnpacked || sum > mostPacked*uint64(size):
		return "", noCopy("unpacked it would be larger than any copy")
	}
	return name, nil
}

// unpack writes a file of a zip, and no more of it than it said it has.
func unpack(f *zip.File, to string) error {
	if err := os.MkdirAll(filepath.Dir(to), 0o700); err != nil {
		return err
	}
	from, err := f.Open()
	if err != nil {
		return noCopy("a file in it can not be read")
	}
	defer from.Close()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, io.LimitReader(from, int64(f.UncompressedSize64)+1))
	if wrong := out.Close(); err == nil && wrong != nil {
		return wrong
	}
	if corrupt := flate.CorruptInputError(0); errors.As(err, &corrupt) || errors.Is(err, zip.ErrChecksum) || errors.Is(err, zip.ErrFormat) ||
		errors.Is(err, io.ErrUnexpectedEOF) {
		return noCopy("a file in it is damaged")
	}
	return err
}
