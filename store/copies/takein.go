package copies

import (
	"archive/zip"
	"bytes"
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

// TakeIn unpacks a copy that Zip made, so many bytes of r, into a folder of copies, and looks it over: what is no whole copy leaves nothing
// behind. One that is there already is left as it is.
func TakeIn(ctx context.Context, r io.ReaderAt, size int64, folder string, now time.Time) (c Copy, err error) {
	if err := listed(r, size); err != nil {
		return c, err
	}
	z, err := zip.NewReader(r, size)
	if err != nil {
		return c, noCopy("the file is not a zip, or it was cut off")
	}
	name, err := named(z, size)
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
			if err := unpack(f, filepath.Join(part, filepath.FromSlash(within.FindStringSubmatch(f.Name)[2]))); err != nil {
				return err
			}
		}
		report, err := Check(ctx, part)
		if err != nil {
			return noCopy("%s", err.Error())
		}
		if len(report.Wrong) > 0 {
			return noCopy("%s", report.Wrong[0])
		}
		return about(part, report)
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

// named is the directory in which all files of a copy lie, once each of them is one that a copy has.
func named(z *zip.Reader, size int64) (name string, err error) {
	var sum uint64
	seen := map[string]bool{}
	if len(z.File) > mostFiles {
		return "", noCopy("it holds more files than a copy has")
	}
	for _, f := range z.File {
		parts := within.FindStringSubmatch(f.Name)
		switch {
		case parts == nil || !f.Mode().IsRegular():
			return "", noCopy("it holds “%.60s”, which no copy has", strings.ToValidUTF8(f.Name, "?"))
		case name != "" && parts[1] != name, seen[f.Name]:
			return "", noCopy("it holds two copies, or one file twice")
		case f.UncompressedSize64 > mostFile:
			return "", noCopy("a file in it is larger than any copy's")
		}
		name, seen[f.Name], sum = parts[1], true, sum+f.UncompressedSize64
	}
	switch {
	case !seen[name+"/"+store.FileName]:
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
	if errors.Is(err, zip.ErrChecksum) || errors.Is(err, zip.ErrFormat) || errors.Is(err, io.ErrUnexpectedEOF) {
		return noCopy("a file in it is damaged")
	}
	return err
}
