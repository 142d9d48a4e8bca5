package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"net"
	"slices"
	"strings"
	"sync"
	"time"
)

// manyToBuy is a search among so many fibres, each of another colour.
func manyToBuy(n, most int) map[string]any {
	var list []map[string]any
	for i := range n {
		list = append(list, map[string]any{"id": fmt.Sprint(i), "colour": map[string]any{"hex": fmt.Sprintf("#%06x", (i*2654435)&0xffffff)}})
	}
	return map[string]any{
		"target": map[string]any{"hex": "#7f9296"}, "components": list, "max_components": most, "total_g": 60, "step_g": 0.1, "count": 5, "thorough": true,
	}
}

// leftSearches leaves searches that would run for hours, many at once, and looks how
// pages do meanwhile.
func leftSearches(ctx context.Context, p *program) error {
	endless := manyToBuy(200, 8)
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	var all sync.WaitGroup
	for range 12 {
		all.Go(func() { _, _, _ = p.post(ctx, "/match", endless) })
	}
	time.Sleep(500 * time.Millisecond)
	var pages []time.Duration
	for range 40 {
		took, err := timed(func() error { _, _, err := p.get(context.Background(), "/shelf"); return err })
		if err != nil {
			return err
		}
		pages = append(pages, took)
	}
	slices.Sort(pages)
	p.say("with 12 endless searches asked for: shelf median %v, slowest %v", pages[20], pages[39])
	before := p.worked()
	cancel()
	all.Wait()
	time.Sleep(100 * time.Millisecond)
	left := p.worked()
	time.Sleep(time.Second)
	p.say("left all: %.2f s of work in the 100 ms after, %.2f s in the second after that", left-before, p.worked()-left)
	took, err := timed(func() error {
		status, out, err := p.post(context.Background(), "/match", endless)
		if err == nil && (status != 200 || out["complete"] != false) {
			err = fmt.Errorf("a thorough search that is too long: %d", status)
		}
		return err
	})
	p.say("a thorough search that would take hours answers after %v", took)
	return err
}

// otherNames asks by names that are not this machine's.
func otherNames(_ context.Context, p *program) error {
	addr := strings.TrimPrefix(p.url, "http://")
	codes := map[string]int{}
	for _, host := range []string{"rebound.example", "127.0.0.1.example.org", "localhost.example", "10.0.0.1", "[::2]", "", "localhost", addr} {
		line, _, err := raw(addr, "GET /api/v1/lots HTTP/1.1\r\nHost: "+host+"\r\nConnection: close\r\n\r\n")
		if err != nil {
			return err
		}
		codes[line]++
	}
	p.say("eight names, two of them its own: %v", codes)
	if codes["200"] != 2 {
		return fmt.Errorf("answers to a name that is not its own")
	}
	return nil
}

// raw sends bytes and reads the status.
func raw(addr, request string) (status, body string, err error) {
	c, err := net.DialTimeout("tcp", addr, time.Second)
	if err != nil {
		return "", "", err
	}
	defer c.Close()
	_ = c.SetDeadline(time.Now().Add(10 * time.Second))
	if _, err := c.Write([]byte(request)); err != nil {
		return "", "", err
	}
	var out bytes.Buffer
	_, _ = out.ReadFrom(c)
	f := strings.Fields(out.String())
	if len(f) < 2 {
		return "closed", out.String(), nil
	}
	return f[1], out.String(), nil
}

// manySamples records two hundred samples and asks for a blend after each of the
// last.
func manySamples(ctx context.Context, p *program) error {
	if _, _, err := p.send(ctx, "PUT", "/api/v1/calibration", "application/json", strings.NewReader(`{"on":true}`)); err != nil {
		return err
	}
	var slowest time.Duration
	for i := range 200 {
		status, out, err := p.post(ctx, "/samples", map[string]any{
			"name": fmt.Sprintf("sample %d", i), "blend_id": 1 + i%6, "source": "reader",
			"measured": map[string]any{"hex": fmt.Sprintf("#%02x%02x%02x", 90+i%40, 100+i*7%50, 110+i*3%40)},
		})
		if err != nil || status != 201 {
			return fmt.Errorf("sample: %d %v %w", status, out, err)
		}
		if i < 150 && i%25 != 0 {
			continue
		}
		took, err := timed(func() error { _, _, err := p.get(ctx, "/blends/1"); return err })
		if err != nil {
			return err
		}
		slowest = max(slowest, took)
	}
	p.say("blend page after each of the last of 200 samples: slowest %v", slowest)
	return nil
}

// badRequests sends what can not be read in every way.
func badRequests(ctx context.Context, p *program) error {
	addr := strings.TrimPrefix(p.url, "http://")
	codes := map[string]int{}
	paths := []string{"/lots/new", "/lots/1/move", "/makings", "/workshop", "/shelf/import/confirm", "/scraps", "/kinds/new", "/api/v1/lots",
		"/api/v1/match", "/photos", "/api/v1/photos"}
	for _, path := range paths {
		for _, kind := range []string{"application/x-www-form-urlencoded", "application/json", "multipart/form-data; boundary=x", "text/plain", ""} {
			head := "POST " + path + " HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\nContent-Type: " + kind + "\r\n"
			for _, body := range []string{
				"Transfer-Encoding: chunked\r\n\r\n5\r\nname=\r\nzz\r\n", "Content-Length: 5\r\n\r\n%zz%%", "Content-Length: 7\r\n\r\na=1;b=2",
				"Content-Length: 2\r\n\r\n{]", "Content-Length: 24000\r\n\r\n" + strings.Repeat("a=&",
					8000), "Content-Length: 60000\r\n\r\n" + strings.Repeat("a=1&&", 12000),
				"Content-Length: 8\r\n\r\n--x\r\n\r\n\r", "Content-Length: 40000\r\n\r\n" + strings.Repeat("[", 40000),
			} {
				status, text, err := raw(addr, head+body)
				if err != nil {
					return err
				}
				codes[status[:1]+"xx"]++
				if status[:1] == "5" {
					return fmt.Errorf("%s, %s, %.40q: %.300s", path, kind, body, text)
				}
			}
		}
	}
	for _, words := range []int{20, 1000, 50_000} {
		_, _, err := p.get(ctx, "/shelf?q="+strings.Repeat("a+", words))
		if err != nil {
			return err
		}
	}
	before := p.megabytes()
	for i := range 820 {
		if _, _, err := p.get(ctx, fmt.Sprintf("/shelf?q=%s", strings.Repeat(fmt.Sprintf("w%d+", i), 1+i%25))); err != nil {
			return err
		}
	}
	p.say("%d broken requests: %v; 820 searches of up to 25 words: %d MB, then %d MB", len(paths)*5*8, codes, before, p.megabytes())
	return nil
}

// racingKeys sends each of many movements four times at once.
func racingKeys(ctx context.Context, p *program) error {
	grams := func() float64 {
		_, body, _ := p.get(ctx, "/api/v1/lots/1")
		var lot struct {
			Grams float64 `json:"grams"`
		}
		_ = json.Unmarshal(body, &lot)
		return lot.Grams
	}
	before := grams()
	var all sync.WaitGroup
	const movements = 200
	for i := range movements {
		for range 4 {
			all.Go(func() {
				_, _, _ = p.post(ctx, "/lots/1/movements", map[string]any{"reason": "weigh-in", "grams": 0.5, "key": fmt.Sprintf("the key of %d", i)})
			})
		}
	}
	all.Wait()
	booked := grams() - before
	p.say("%d movements of 0.5 g sent four times each, all at once: %.1f g booked", movements, booked)
	if math.Abs(booked-movements*0.5) > 1e-6 {
		return fmt.Errorf("booked %g g, sent %g g", booked, movements*0.5)
	}
	return nil
}
