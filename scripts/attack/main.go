// Command attack does to a program of its own what must never hurt it, and prints
// what it measured: searches left behind, heavy pictures, a full disk, long lists,
// racing keys, and minutes of mixed load.
//
//	go run ./scripts/attack [-only NAME] [-load 5m] BINARY
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"strings"
	"time"
)

// attack is one thing that is tried.
type attack struct {
	name string
	run  func(ctx context.Context, p *program) error
}

func main() {
	only := flag.String("only", "", "names of attacks, with commas between them")
	load := flag.Duration("load", time.Minute, "how long the mixed load lasts")
	flag.Parse()
	if flag.NArg() != 1 {
		fmt.Fprintln(os.Stderr, "usage: attack [-only NAMES] [-load TIME] BINARY")
		os.Exit(2)
	}
	failed := false
	for _, a := range []attack{
		{"search", leftSearches}, {"slow", slowRequests}, {"names", otherNames}, {"pictures", heavyPictures}, {"calibration", manySamples}, {"disk", fullDisk},
		{"requests", badRequests}, {"keys", racingKeys}, {"shelf", longLists}, {"guesses", guesses},
		{"load", func(ctx context.Context, p *program) error { return mixedLoad(ctx, p, *load) }},
	} {
		if *only != "" && !strings.Contains(","+*only+",", ","+a.name+",") {
			continue
		}
		if err := tried(a, flag.Arg(0)); err != nil {
			fmt.Printf("%-12s FAILED: %v\n", a.name, err)
			failed = true
		}
	}
	if failed {
		os.Exit(1)
	}
}

// tried runs an attack against a fresh sample world.
func tried(a attack, binary string) error {
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Minute)
	defer cancel()
	dir, err := os.MkdirTemp("", "attack-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	p, err := start(binary, "demo", dir)
	if err != nil {
		return err
	}
	defer p.stop()
	p.name = a.name
	if err := a.run(ctx, p); err != nil {
		return err
	}
	return p.quiet(ctx)
}
