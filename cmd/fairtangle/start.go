package main

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"crypto/tls"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"strconv"
	"strings"
	"time"

	"fairtangle/store"
)

// version is that of a release; the linker sets it.
var version string

// versionSaid is which program this is.
func versionSaid() string {
	said, of := version, ""
	if info, ok := debug.ReadBuildInfo(); ok {
		for _, s := range info.Settings {
			if s.Key == "vcs.revision" {
				of = s.Value[:min(len(s.Value), 12)]
			}
		}
	}
	if said == "" {
		said = "of its makers' own"
	}
	return strings.Join(strings.Fields(fmt.Sprintf("Fair Tangle %s %s %s/%s", said, of, runtime.GOOS, runtime.GOARCH)), " ")
}

// nearBy is how many ports are tried where the first one is taken.
const nearBy = 20

// listenNear listens at an address; where its port is taken, and near is wanted, at the next free one.
func listenNear(addr, pass string, near bool) (net.Listener, error) {
	l, err := listen(addr, pass)
	host, port, wrong := net.SplitHostPort(addr)
	n, notNumber := strconv.Atoi(port)
	if err == nil || !near || wrong != nil || notNumber != nil {
		return l, err
	}
	for i := 1; i <= nearBy && n+i < 1<<16; i++ {
		if l, wrong := listen(net.JoinHostPort(host, strconv.Itoa(n+i)), pass); wrong == nil {
			return l, nil
		}
	}
	return nil, err
}

// runningFile says beside the data where the program that works in it answers, and how it is ended.
const runningFile = "running.json"

type running struct{ Address, Secret string }

// sayRunning writes down where it answers, until it is closed.
func (w *world) sayRunning() error {
	w.secret = rand.Text()
	text, err := json.Marshal(running{w.address, w.secret})
	if err != nil {
		return err
	}
	path := filepath.Join(w.dir, runningFile)
	w.undo = append(w.undo, func() { _ = os.Remove(path) })
	return os.WriteFile(path, text, 0o600)
}

func runningIn(dir string) (v running, ok bool) {
	text, err := os.ReadFile(filepath.Join(dir, runningFile))
	return v, err == nil && json.Unmarshal(text, &v) == nil && v.Address != ""
}

// stopPath is where a program on this computer that knows the secret ends this one.
const stopPath = "/-/stop"

func (w *world) stopped(to http.ResponseWriter, r *http.Request) {
	said := r.Header.Get("X-Stop")
	w.asking.RLock()
	defer w.asking.RUnlock()
	if r.Method != http.MethodPost || subtle.ConstantTimeCompare([]byte(said), []byte(w.secret)) != 1 {
		http.NotFound(to, r)
		return
	}
	to.WriteHeader(http.StatusNoContent)
	w.end()
}

// start serves the maker's own data and shows it in her browser; one that runs already is shown.
func start(ctx context.Context, args []string, out, logs io.Writer) error {
	a := asked{verb: "start", near: true, ready: func(at string) { show(browsable(at)) }}
	if err := a.read(args, logs); err != nil {
		return err
	}
	dir, err := dataDir(a.data, false)
	if err != nil {
		return err
	}
	if at, ok := runningIn(dir); ok {
		if unlock, err := store.Lock(dir); err == nil {
			_ = unlock() // it was killed
		} else {
			fmt.Fprintf(out, "it runs already at %s\n", browsable(at.Address))
			show(browsable(at.Address))
			return nil
		}
	}
	return work(ctx, a, out, logs)
}

// browsable is an address that a browser on this computer opens.
func browsable(at string) string {
	for _, all := range []string{"[::]", "0.0.0.0"} {
		at = strings.Replace(at, "//"+all+":", "//localhost:", 1)
	}
	return at
}

// show opens a page in the browser, where there is one.
func show(at string) {
	name, args := "xdg-open", []string{at}
	switch runtime.GOOS {
	case "darwin":
		name = "open"
	case "windows":
		name, args = "rundll32", []string{"url.dll,FileProtocolHandler", at}
	}
	if cmd := exec.Command(name, args...); cmd.Start() == nil {
		go func() { _ = cmd.Wait() }()
	}
}

// endsWithin is how long a program may take to end.
const endsWithin = 15 * time.Second

// stopIt ends the program that works in the data, and waits until it has.
func stopIt(ctx context.Context, args []string, out, logs io.Writer) error {
	a := asked{verb: "stop"}
	if err := a.read(args, logs); err != nil {
		return err
	}
	dir, err := dataDir(a.data, false)
	if err != nil {
		return err
	}
	at, ok := runningIn(dir)
	if !ok {
		return fmt.Errorf("nothing runs in %s", dir)
	}
	r, err := http.NewRequestWithContext(ctx, http.MethodPost, browsable(at.Address)+stopPath, nil)
	if err != nil {
		return err
	}
	r.Header.Set("X-Stop", at.Secret)
	// Who answers proves itself by ending: its certificate is of its own making.
	to := &http.Client{Timeout: 5 * time.Second, Transport: &http.Transport{TLSClientConfig: &tls.Config{InsecureSkipVerify: true}}}
	res, err := to.Do(r)
	if err != nil {
		return fmt.Errorf("nothing answers at %s: %w", at.Address, err)
	}
	_ = res.Body.Close()
	if res.StatusCode != http.StatusNoContent {
		return fmt.Errorf("at %s answers another program", at.Address)
	}
	for end := time.Now().Add(endsWithin); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		if _, still := runningIn(dir); !still {
			fmt.Fprintln(out, "it has ended")
			return nil
		}
	}
	return errors.New("it is still at work; try again in a while")
}
