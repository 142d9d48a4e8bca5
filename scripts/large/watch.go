package main

import (
	"bufio"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"slices"
	"strings"
	"time"
)

const (
	nothing = "/nowhere" // the answer that has nothing in it
	bound   = 60         // times as long, at most, in 19 of 20
	starts  = 300 * time.Millisecond
	opened  = 20 // times each
	each    = 3  // pages of a sort
)

var (
	listening = regexp.MustCompile(`listening on (http://\S+)`)
	linked    = regexp.MustCompile(`(?:href|src|data-src)="(/[^"#]*)`)
	numbers   = regexp.MustCompile(`\d+`)
	given     = regexp.MustCompile(`=[^&]*`)
)

// page is a page with how long it took, the shortest first, and how much it was.
type page struct {
	path  string
	took  []time.Duration
	bytes int
}

func (p page) late() time.Duration   { return p.took[len(p.took)*19/20-1] }
func (p page) middle() time.Duration { return p.took[len(p.took)/2] }

// watch starts the program on dir, opens what its pages lead to, some of each sort, and says what
// takes longest.
func watch(ctx context.Context, dir, program string) error {
	var best time.Duration
	var p *exec.Cmd
	var url string
	for range 3 {
		if p != nil {
			_ = p.Process.Signal(os.Interrupt)
			_ = p.Wait()
		}
		began := time.Now()
		var err error
		if p, url, err = start(program, dir); err != nil {
			return err
		}
		if took := time.Since(began); best == 0 || took < best {
			best = took
		}
	}
	defer func() { _ = p.Process.Signal(os.Interrupt); _ = p.Wait() }()
	pages, err := walk(ctx, url)
	if err != nil {
		return err
	}
	empty := pages[slices.IndexFunc(pages, func(p page) bool { return p.path == nothing })].late()
	slices.SortFunc(pages, func(a, b page) int { return cmp.Compare(b.late(), a.late()) })
	over := 0
	fmt.Printf("starts in %v; an empty answer takes %v at most in 19 of 20; %d pages:\n",
		best.Round(time.Millisecond), empty.Round(10*time.Microsecond), len(pages))
	for i, p := range pages {
		times := float64(p.late()) / float64(empty)
		if times > bound {
			over++
		}
		if times > bound || i < 25 {
			fmt.Printf("%7.1f × %8v (middle %8v) %6d kB  %s\n",
				times, p.late().Round(100*time.Microsecond), p.middle().Round(100*time.Microsecond), p.bytes/1024, p.path)
		}
	}
	if over > 0 || best > starts {
		return fmt.Errorf("%d pages take more than %d times as long as an empty answer; it starts in %v", over, bound, best)
	}
	return nil
}

// start runs the program until it listens.
func start(program, dir string) (*exec.Cmd, string, error) {
	cmd := exec.Command(program, "serve", "-addr", "127.0.0.1:0", "-data", dir)
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, "", err
	}
	if err := cmd.Start(); err != nil {
		return nil, "", err
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	m := listening.FindStringSubmatch(line)
	if m == nil {
		return nil, "", errors.Join(errors.New("it did not start"), err, cmd.Wait())
	}
	return cmd, m[1], nil
}

// walk opens pages from the first on, at most some of each sort.
func walk(ctx context.Context, url string) (out []page, err error) {
	met, sorts := map[string]bool{}, map[string]int{}
	way := []string{nothing, "/makings", "/api/v1/lots", "/api/v1/makings", "/api/v1/runs", "/api/v1/claims"}
	for len(way) > 0 {
		path := way[0]
		way = way[1:]
		sort := given.ReplaceAllString(numbers.ReplaceAllString(path, "N"), "=")
		if met[path] || sorts[sort] >= each || strings.Contains(path, "/live") || strings.HasPrefix(path, "/static/") {
			continue
		}
		met[path] = true
		sorts[sort]++
		p := page{path: path}
		for range opened {
			began := time.Now()
			text, err := fetched(ctx, url+path)
			if err != nil {
				return nil, err
			}
			took := time.Since(began)
			p.took, p.bytes = append(p.took, took), len(text)
			if len(p.took) == 1 {
				for _, m := range linked.FindAllStringSubmatch(text, -1) {
					way = append(way, strings.ReplaceAll(m[1], "&amp;", "&"))
				}
			}
			if took > time.Second { // once is enough
				p.took = slices.Repeat(p.took[:1], opened)
				break
			}
		}
		slices.Sort(p.took)
		out = append(out, p)
	}
	return out, nil
}

func fetched(ctx context.Context, url string) (string, error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, url, nil)
	if err != nil {
		return "", err
	}
	answer, err := http.DefaultClient.Do(req)
	if err != nil {
		return "", err
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err == nil && answer.StatusCode >= 500 {
		err = fmt.Errorf("%s answers %s", url, answer.Status)
	}
	return string(text), err
}
