package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"time"

	"fairtangle/store"
	"fairtangle/store/copies"
	"fairtangle/store/plain"
)

// backup copies the data into a new directory.
func backup(ctx context.Context, args []string, out, logs io.Writer) error {
	dir, into, err := named("backup", args, logs)
	if err != nil {
		return err
	}
	if err := copies.Backup(ctx, dir, into); err != nil {
		return err
	}
	fmt.Fprintf(out, "copied %s into %s\n", dir, into)
	return nil
}

// export writes all data as one zip of open forms.
func export(ctx context.Context, args []string, out, logs io.Writer) (err error) {
	dir, into, err := named("export", args, logs)
	if err != nil {
		return err
	}
	f, err := os.OpenFile(into, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	err = errors.Join(plain.Write(ctx, dir, f, time.Now()), f.Sync(), f.Close())
	if err != nil {
		return errors.Join(err, os.Remove(into))
	}
	fmt.Fprintf(out, "wrote %s into %s\n", dir, into)
	return nil
}

// restore puts a copy in the place of the data, which is moved aside.
func restore(ctx context.Context, args []string, out, logs io.Writer) error {
	dir, from, err := named("restore", args, logs)
	if err != nil {
		return err
	}
	unlock, err := store.Lock(dir)
	if err != nil {
		return err
	}
	defer func() { _ = unlock() }()
	if from, err = unpacked(ctx, dir, from); err != nil {
		return err
	}
	aside, err := copies.Restore(ctx, from, dir, time.Now())
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "%s is what was in %s now\n", dir, from)
	if aside != "" {
		fmt.Fprintf(out, "what was there before is in %s\n", aside)
	}
	return nil
}

// unpacked is the directory of a copy: one that came as a zip is put among the copies of the data first.
func unpacked(ctx context.Context, dir, from string) (string, error) {
	at, err := os.Stat(from)
	if err != nil || at.IsDir() {
		return from, nil // what is wrong with it is said by who reads it
	}
	zip, err := os.Open(from)
	if err != nil {
		return "", err
	}
	defer zip.Close()
	c, err := copies.TakeIn(ctx, zip, at.Size(), copies.Beside(dir), time.Now())
	if err != nil {
		return "", fmt.Errorf("%s: %w", from, err)
	}
	return c.Path, nil
}

// check says whether a data directory or a copy is whole, and what is in it.
func check(ctx context.Context, args []string, out io.Writer) error {
	if len(args) != 1 {
		return errors.New(usage)
	}
	r, err := copies.Check(ctx, args[0])
	if err != nil {
		return err
	}
	for _, w := range r.Wrong {
		fmt.Fprintln(out, w)
	}
	if len(r.Wrong) > 0 {
		return fmt.Errorf("%s is not whole", args[0])
	}
	fmt.Fprintf(out, "%s is whole: %d makings with %d blends, %d lots with %.1f g, %d runs, %d photos", args[0], r.Makings, r.Blends, r.Lots, r.Grams,
		r.Runs, r.Photos)
	if !r.Latest.IsZero() {
		fmt.Fprintf(out, "; fibre was booked last on %s", r.Latest.Local().Format("2 January 2006 at 15:04"))
	}
	fmt.Fprintln(out, ".")
	return nil
}

// named reads the flags of a verb that names one directory beside the data.
func named(verb string, args []string, logs io.Writer) (dir, other string, err error) {
	flags := flag.NewFlagSet(verb, flag.ContinueOnError)
	flags.SetOutput(logs)
	data := flags.String("data", "", "data directory")
	// The directory may come before the flags, as it is written in the usage.
	if len(args) > 0 && len(args[0]) > 0 && args[0][0] != '-' {
		other, args = args[0], args[1:]
	}
	if err := flags.Parse(args); err != nil {
		return "", "", err
	}
	if other == "" && flags.NArg() == 1 {
		other = flags.Arg(0)
	} else if other == "" || flags.NArg() > 0 {
		return "", "", errors.New(usage)
	}
	dir, err = dataDir(*data, false)
	return dir, other, err
}
