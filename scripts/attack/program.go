package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// program is a running Fair Tangle.
type program struct {
	name string // of the attack
	cmd  *exec.Cmd
	url  string
	dir  string
	log  *bytes.Buffer
}

var listening = regexp.MustCompile(`listening on (http://\S+)`)

// start runs the binary in a data directory, with more of its environment.
func start(binary, verb, dir string, env ...string) (*program, error) {
	return startAt(binary, verb, dir, "127.0.0.1:0", env...)
}

func startAt(binary, verb, dir, addr string, env ...string) (*program, error) {
	p := &program{dir: dir, log: &bytes.Buffer{}}
	p.cmd = exec.Command(binary, verb, "-addr", addr, "-data", dir)
	p.cmd.Env = append(os.Environ(), env...)
	p.cmd.Stderr = p.log
	out, err := p.cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := p.cmd.Start(); err != nil {
		return nil, err
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	m := listening.FindStringSubmatch(line)
	if m == nil {
		_ = p.cmd.Wait()
		return nil, fmt.Errorf("it did not start: %w: %s", err, p.log)
	}
	p.url = m[1]
	return p, nil
}

func (p *program) stop() {
	_ = p.cmd.Process.Signal(os.Interrupt)
	_ = p.cmd.Wait()
}

// say prints a figure.
func (p *program) say(what string, values ...any) {
	fmt.Printf("%-12s %s\n", p.name, fmt.Sprintf(what, values...))
}

// status reads a line of the process's status, in kB.
func (p *program) status(key string) int {
	data, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.cmd.Process.Pid))
	for line := range strings.Lines(string(data)) {
		if rest, ok := strings.CutPrefix(line, key+":"); ok {
			n, _ := strconv.Atoi(strings.Fields(rest)[0])
			return n
		}
	}
	return 0
}

func (p *program) megabytes() int { return p.status("VmRSS") / 1024 }

// most is the most memory it had since the last forget.
func (p *program) most() int { return p.status("VmHWM") / 1024 }

func (p *program) forget() {
	_ = os.WriteFile(fmt.Sprintf("/proc/%d/clear_refs", p.cmd.Process.Pid), []byte("5"), 0)
}

// worked is how much processor time it has used, in seconds.
func (p *program) worked() float64 {
	data, _ := os.ReadFile(fmt.Sprintf("/proc/%d/stat", p.cmd.Process.Pid))
	_, rest, _ := strings.Cut(string(data), ") ")
	f := strings.Fields(rest)
	if len(f) < 13 {
		return 0
	}
	user, _ := strconv.ParseFloat(f[11], 64)
	system, _ := strconv.ParseFloat(f[12], 64)
	return (user + system) / 100
}

// quiet checks that nothing goes on working when all have left, and that nothing in
// the log is a mistake of the program's.
func (p *program) quiet(ctx context.Context) error {
	time.Sleep(300 * time.Millisecond)
	before := p.worked()
	time.Sleep(time.Second)
	if used := p.worked() - before; used > 0.2 {
		return fmt.Errorf("still working after all have left: %.2f s of a second", used)
	}
	if status, _, err := p.get(ctx, "/makings"); err != nil || status != 200 {
		return fmt.Errorf("does not answer any more: %d %w", status, err)
	}
	for line := range strings.Lines(p.log.String()) {
		if strings.Contains(line, "panic") {
			return errors.New(line)
		}
	}
	return nil
}

func (p *program) get(ctx context.Context, path string) (int, []byte, error) {
	return p.send(ctx, "GET", path, "", nil)
}

// post sends JSON and reads JSON.
func (p *program) post(ctx context.Context, path string, body any) (int, map[string]any, error) {
	data, err := json.Marshal(body)
	if err != nil {
		return 0, nil, err
	}
	status, answer, err := p.send(ctx, "POST", "/api/v1"+path, "application/json", bytes.NewReader(data))
	var out map[string]any
	_ = json.Unmarshal(answer, &out)
	return status, out, err
}

func (p *program) send(ctx context.Context, method, path, kind string, body io.Reader) (int, []byte, error) {
	r, err := http.NewRequestWithContext(ctx, method, p.url+path, body)
	if err != nil {
		return 0, nil, err
	}
	if kind != "" {
		r.Header.Set("Content-Type", kind)
	}
	client := http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	res, err := client.Do(r)
	if err != nil {
		return 0, nil, err
	}
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	return res.StatusCode, data, err
}

// timed runs f and returns how long it took.
func timed(f func() error) (time.Duration, error) {
	began := time.Now()
	err := f()
	return time.Since(began).Round(time.Millisecond), err
}
