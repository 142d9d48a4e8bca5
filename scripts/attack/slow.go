package main

import (
	"context"
	"fmt"
	"math/rand/v2"
	"strings"
	"time"

	"fairtangle/scripts/slow"
)

// tries is how often every shape of a slow request is drawn by chance.
const tries = 40

// slowRequests asks for the most of every call that can take long, and for less of it by chance; it
// leaves each at once, too, and looks how long the program goes on.
func slowRequests(ctx context.Context, p *program) error {
	ask := func(ctx context.Context, q slow.Request) (took time.Duration, n int, err error) {
		took, err = timed(func() error {
			status, body, err := p.send(ctx, "POST", "/api/v1/"+q.Path, "application/json", strings.NewReader(q.Body))
			n = len(body)
			if err == nil && status != 200 {
				err = fmt.Errorf("%s: %d %.200s", q.Path, status, body)
			}
			return err
		})
		return took, n, err
	}
	draw := rand.New(rand.NewPCG(1, uint64(time.Now().UnixNano())))
	for i, q := range slow.Requests() {
		took, n, err := ask(ctx, q)
		if err != nil {
			return err
		}
		name, _, _ := strings.Cut(q.Path, "?")
		var worst time.Duration
		for range tries {
			took, _, err := ask(ctx, slow.Random(draw)[i])
			if err != nil {
				return err
			}
			worst = max(worst, took)
		}
		left, leave := context.WithTimeout(ctx, took/4)
		_, _, _ = ask(left, q)
		leave()
		time.Sleep(100 * time.Millisecond)
		before := p.worked()
		time.Sleep(300 * time.Millisecond)
		p.say("%s at its bounds %v, %d kB; the slowest of %d by chance %v; left: %.2f s of work from 100 ms later on",
			name, took, n/1024, tries, worst, p.worked()-before)
	}
	return nil
}
