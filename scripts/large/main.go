// Command large makes a studio of many years out of the sample world, and says how long its
// program takes to start, and every sort of page, beside an answer that has nothing in it:
//
//	go run ./scripts/large [-data DIR] bin/fairtangle
//
// It holds some 20,000 lots, 2,500 blends, 4,000 runs and 1,000 yarns. With -data it is kept in DIR.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"time"

	"fairtangle/demo"
	"fairtangle/store"
	"fairtangle/studio"
)

func main() {
	data := flag.String("data", "", "where to keep it; else it goes at the end")
	flag.Parse()
	if err := measured(*data, flag.Arg(0)); err != nil {
		fmt.Fprintln(os.Stderr, "large:", err)
		os.Exit(1)
	}
}

func measured(dir, program string) error {
	if program == "" {
		return errors.New("name the program to measure, as bin/fairtangle")
	}
	if dir == "" {
		var err error
		if dir, err = os.MkdirTemp("", "large-*"); err != nil {
			return err
		}
		defer os.RemoveAll(dir)
	}
	ctx := context.Background()
	if _, err := os.Stat(dir + "/" + store.FileName); err != nil {
		if err := made(ctx, dir); err != nil {
			return err
		}
	}
	return watch(ctx, dir, program)
}

// made fills dir with the sample world, and that with copies of itself.
func made(ctx context.Context, dir string) error {
	began := time.Now()
	db, err := store.Open(dir, time.Now)
	if err != nil {
		return err
	}
	st, err := studio.New(ctx, db)
	if err == nil {
		err = demo.Fill(ctx, st)
	}
	if err := errors.Join(err, db.Close()); err != nil {
		return err
	}
	if err := many(dir); err != nil {
		return err
	}
	fmt.Printf("made in %.1f s\n", time.Since(began).Seconds())
	return nil
}
