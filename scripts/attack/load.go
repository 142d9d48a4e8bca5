package main

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"slices"
	"strings"
	"sync"
	"time"
)

// mixedLoad sends twenty requests a second: pages, changes, searches, photos and
// samples, and says how long the plain pages took.
func mixedLoad(ctx context.Context, p *program, lasts time.Duration) error {
	if _, _, err := p.send(ctx, "PUT", "/api/v1/calibration", "application/json", strings.NewReader(`{"on":true}`)); err != nil {
		return err
	}
	img := image.NewRGBA(image.Rect(0, 0, 4000, 3000))
	noisy(img.Pix)
	var picture bytes.Buffer
	if err := jpeg.Encode(&picture, img, nil); err != nil {
		return err
	}
	plain := []string{"/shelf", "/makings", "/makings/1", "/blends/1", "/blends/2", "/lots/1", "/workshop", "/scraps", "/photos", "/api/v1/lots", "/layups/1"}
	var mu sync.Mutex
	var pages []time.Duration
	codes := map[int]int{}
	note := func(status int, err error, took time.Duration, page bool) {
		mu.Lock()
		defer mu.Unlock()
		if err != nil {
			status = 0
		}
		codes[status]++
		if page {
			pages = append(pages, took)
		}
	}
	rng := rand.New(rand.NewPCG(1, 1))
	var all sync.WaitGroup
	var memory []string
	tick := time.NewTicker(50 * time.Millisecond)
	defer tick.Stop()
	began := time.Now()
	for n := 0; time.Since(began) < lasts; n++ {
		<-tick.C
		if n%1200 == 600 {
			memory = append(memory, fmt.Sprint(p.megabytes()))
		}
		what, path := rng.IntN(100), plain[rng.IntN(len(plain))]
		all.Go(func() {
			var status int
			var err error
			took, _ := timed(func() error {
				switch {
				case what < 3:
					status, _, err = p.post(ctx, fmt.Sprintf("/blends/%d/find", 1+what%3), map[string]any{"target": "#7f9296", "max_components": 4, "count": 5,
						"wish": map[string]any{}})
				case what < 4:
					status, err = p.photo(ctx, picture.Bytes())
				case what < 5:
					status, _, err = p.post(ctx, "/samples", map[string]any{"name": "s", "blend_id": 1, "source": "reader", "measured": map[string]any{"hex": "#70878c"}})
				case what < 15:
					status, _, err = p.post(ctx, "/lots/1/movements", map[string]any{"reason": "weigh-in", "grams": 0.1})
				default:
					status, _, err = p.get(ctx, path)
				}
				return err
			})
			note(status, err, took, what >= 15)
		})
	}
	all.Wait()
	slices.Sort(pages)
	at := func(q float64) time.Duration { return pages[int(q*float64(len(pages)-1))] }
	p.say("%v at 20 a second: %v; plain pages p50 %v, p99 %v, slowest %v; MB each minute %s", lasts, codes, at(0.5), at(0.99), at(1), strings.Join(memory, " "))
	return nil
}

// guesses tries passphrases.
func guesses(ctx context.Context, p *program) error {
	dir, err := os.MkdirTemp("", "guessed-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	q, err := start(p.cmd.Path, "serve", dir, "FAIRTANGLE_PASSPHRASE=correct and long")
	if err != nil {
		return err
	}
	defer q.stop()
	codes := map[int]int{}
	ask := func(pass string) (int, error) {
		r, err := http.NewRequestWithContext(ctx, "GET", q.url+"/makings", nil)
		if err != nil {
			return 0, err
		}
		r.SetBasicAuth("", pass)
		res, err := http.DefaultClient.Do(r)
		if err != nil {
			return 0, err
		}
		return res.StatusCode, res.Body.Close()
	}
	took, err := timed(func() error {
		for i := range 2000 {
			status, err := ask(fmt.Sprintf("guess number %d", i))
			if err != nil {
				return err
			}
			codes[status]++
		}
		return nil
	})
	p.say("2,000 guesses in %v: %v looked at and refused, the others not looked at; %d lines in the log", took, codes, strings.Count(q.log.String(),
		"wrong passphrase"))
	return err
}

// fullDisk lets a program work on a disk of 8 MB until it is full. It needs the
// right to mount one.
func fullDisk(ctx context.Context, p *program) error {
	dir, err := os.MkdirTemp("", "full-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	if err := exec.Command("mount", "-t", "tmpfs", "-o", "size=8m", "tmpfs", dir).Run(); err != nil {
		p.say("not tried: no right to mount a small disk")
		return nil
	}
	defer func() { _ = exec.Command("umount", "-l", dir).Run() }()
	q, err := start(p.cmd.Path, "serve", dir)
	if err != nil {
		return err
	}
	note := strings.Repeat("wool ", 700)
	kept, codes := 0, map[int]int{}
	var said string
	for range 4000 {
		status, out, err := q.post(ctx, "/lots", map[string]any{
			"name": "a lot", "kind": "merino", "preparation": "combed_top", "note": note, "grams": 5, "colours": []map[string]any{{"hex": "#112233"}},
		})
		if err != nil {
			return err
		}
		if codes[status]++; status == 201 {
			kept++
		} else if said = fmt.Sprint(out["detail"]); codes[status] > 20 {
			break
		}
	}
	if _, page, err := q.get(ctx, "/shelf"); err != nil || !bytes.Contains(page, []byte("a lot")) {
		return fmt.Errorf("the shelf can not be read on a full disk: %w", err)
	}
	_ = q.cmd.Process.Kill()
	_ = q.cmd.Wait()
	if err := exec.Command("mount", "-o", "remount,size=64m", dir).Run(); err != nil {
		return err
	}
	q, err = start(p.cmd.Path, "serve", dir)
	if err != nil {
		return err
	}
	defer q.stop()
	_, body, err := q.get(ctx, "/api/v1/lots?limit=1")
	if err != nil {
		return err
	}
	total := strings.TrimSuffix(between(string(body), `"total":`, "\n"), "}")
	p.say("disk of 8 MB: %v, “%s”; killed, given room: %d acknowledged, %s there", codes, said, kept, total)
	if total != fmt.Sprint(kept) {
		return fmt.Errorf("%d acknowledged, %s there", kept, total)
	}
	return nil
}
