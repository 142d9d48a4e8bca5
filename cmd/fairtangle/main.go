// Command fairtangle serves the planning bench for fibre blends.
package main

import (
	"context"
	"crypto/tls"
	"errors"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"
	"time"
	"unicode/utf8"

	"fairtangle/demo"
	"fairtangle/device"
	"fairtangle/studio"
	"fairtangle/studio/workshop"
	"fairtangle/web"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memoryGoal)
	}
	if err := run(ctx, os.Args[1:], os.Stdout, os.Stderr); err != nil {
		fmt.Fprintln(os.Stderr, "fairtangle:", err)
		os.Exit(1)
	}
}

// memoryGoal is where the collector begins to work harder, in bytes: a large
// picture takes half of it.
const memoryGoal = 400 << 20

const usage = `usage:
  fairtangle                                                    your own data, in your browser: as start
  fairtangle start [as serve]                                   the same; where the port is taken, at the next one that is free
  fairtangle stop [-data DIR]                                   ends what was started
  fairtangle version
  fairtangle serve [-addr HOST:PORT] [-host NAMES] [-proxy ADDRESSES] [-data DIR] [-tls] [-cert FILE -key FILE]
                                                                your own data
  fairtangle demo  [-addr HOST:PORT] [-host NAMES] [-data DIR]  the sample world, made anew at each start
  fairtangle backup [-data DIR] INTO                            a copy of the data, also while it is served
  fairtangle export [-data DIR] FILE.zip                        everything in open forms, also while it is served
  fairtangle restore FROM [-data DIR]                           a copy, its zip, or an export, in the place of the data, which is moved aside
  fairtangle check DIR                                          whether data or a copy is whole, and what is in it
  fairtangle reader [-addr HOST:PORT]                           a simulated colour reader, for the workshop
  fairtangle scale [-addr HOST:PORT] [-page HOST:PORT] [-step G] [-capacity G] [-ounces]
                                                                a simulated bench scale, and the page of its pan

It answers to localhost, to the address it listens on, and to the names that -host names. Behind a
proxy of your own, name its address with -proxy, so that who guesses is slowed and nobody else.

Listening on anything but this machine needs a passphrase of at least 12 signs
in the environment variable FAIRTANGLE_PASSPHRASE`

func run(ctx context.Context, args []string, out, logs io.Writer) error {
	if len(args) == 0 {
		args = []string{"start"}
	}
	switch verb, rest := args[0], args[1:]; verb {
	case "start":
		return start(ctx, rest, out, logs)
	case "stop":
		return stopIt(ctx, rest, out, logs)
	case "version":
		fmt.Fprintln(out, versionSaid())
		return nil
	case "reader":
		return reader(ctx, rest, out, logs)
	case "scale":
		return scale(ctx, rest, out, logs)
	case "backup":
		return backup(ctx, rest, out, logs)
	case "export":
		return export(ctx, rest, out, logs)
	case "restore":
		return restore(ctx, rest, out, logs)
	case "check":
		return check(ctx, rest, out)
	case "serve", "demo":
		a := asked{verb: verb}
		if err := a.read(rest, logs); err != nil {
			return err
		}
		return work(ctx, a, out, logs)
	}
	return errors.New(usage)
}

// sampleWorld fills the studio with the sample world and its simulated devices.
func sampleWorld(ctx context.Context, st *studio.Studio) ([]web.Pan, error) {
	if err := demo.Fill(ctx, st); err != nil {
		return nil, fmt.Errorf("sample world: %w", err)
	}
	if err := standIn(ctx, st); err != nil {
		return nil, err
	}
	return standInScales(ctx, st)
}

// asked is how a program is to serve.
type asked struct {
	verb, addr, data, host, proxy string
	sealed                        sealing
	near                          bool              // where its port is taken, the next free one is
	ready                         func(addr string) // called once it listens
}

// read reads the flags of a verb.
func (a *asked) read(args []string, logs io.Writer) error {
	flags := flag.NewFlagSet(a.verb, flag.ContinueOnError)
	flags.SetOutput(logs)
	flags.StringVar(&a.addr, "addr", "127.0.0.1:8080", "address to listen on")
	flags.StringVar(&a.data, "data", "", "data directory")
	flags.StringVar(&a.host, "host", "", "names that browsers may call it by, with commas between them")
	flags.StringVar(&a.proxy, "proxy", "", "addresses of proxies before it whose X-Forwarded-For is believed, with commas between them")
	flags.BoolVar(&a.sealed.wanted, "tls", false, "answer by TLS, with a certificate of its own where none is named")
	flags.StringVar(&a.sealed.cert, "cert", "", "file of a certificate, in PEM")
	flags.StringVar(&a.sealed.key, "key", "", "file of its key, in PEM")
	return flags.Parse(args)
}

// work serves data, or the sample world.
func work(ctx context.Context, a asked, out, logs io.Writer) error {
	isDemo := a.verb == "demo"
	dir, err := dataDir(a.data, isDemo)
	if err != nil {
		return err
	}
	// Nothing is touched before it is sure that this program can work here.
	pass := os.Getenv("FAIRTANGLE_PASSPHRASE")
	listener, err := listenNear(a.addr, pass, a.near)
	if err != nil {
		return err
	}
	defer listener.Close()
	names := hostNames(a.addr, a.host)
	seal, beyond, err := a.sealed.ready(dir, names, listener.Addr())
	if err != nil {
		return err
	}
	at := addressOf(beyond.TLS, listener.Addr().String())
	if seal != nil {
		listener = tls.NewListener(listener, seal)
	}
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	w := &world{dir: dir, demo: isDemo, out: out, logs: logs, address: at, end: stop, wanted: make(chan struct{}, 1), options: web.Options{
		Log: slog.New(slog.NewTextHandler(logs, nil)), Passphrase: pass, Demo: isDemo, Sample: demo.Fill, Hosts: names,
		Proxies: listed(a.proxy), Beyond: beyond,
	}}
	if err := w.open(ctx, !isDemo); err != nil {
		return err
	}
	defer w.shut()
	if a.ready != nil {
		a.ready(at)
	}
	return serve(ctx, listener, w, out)
}

// receiveIn lets what is brought in wait in a directory beside the data, not in
// one that may lie in memory, and sweeps what a killed program left there.
func receiveIn(dir string) (back func(), err error) {
	if err := os.RemoveAll(dir); err != nil {
		return nil, err
	}
	if err := os.Mkdir(dir, 0o700); err != nil {
		return nil, err
	}
	const name = "TMPDIR"
	before, was := os.LookupEnv(name)
	if err := os.Setenv(name, dir); err != nil {
		return nil, err
	}
	return func() {
		_ = os.RemoveAll(dir)
		if !was {
			_ = os.Unsetenv(name)
			return
		}
		_ = os.Setenv(name, before)
	}, nil
}

// reader runs the simulated colour reader alone, until it is stopped.
func reader(ctx context.Context, args []string, out, logs io.Writer) error {
	flags := flag.NewFlagSet("reader", flag.ContinueOnError)
	flags.SetOutput(logs)
	addr := flags.String("addr", "127.0.0.1:7036", "address to listen on")
	if err := flags.Parse(args); err != nil {
		return err
	}
	l, err := listen(*addr, "")
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "the simulated colour reader listens on %s\n", l.Addr())
	return device.ServeStandIn(ctx, l, 1)
}

// standIn starts the simulated colour reader beside the sample world and puts
// its address into the workshop.
func standIn(ctx context.Context, st *studio.Studio) error {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return fmt.Errorf("simulated colour reader: %w", err)
	}
	go func() { _ = device.ServeStandIn(ctx, l, 1) }() // ends with the program
	_, err = st.Workshop.ChangeSettings(ctx, 0, func(set *workshop.Settings) { set.ReaderAddress = l.Addr().String() })
	return err
}

// hostNames are the names that it answers to besides this machine's own: those named, and where it listens in every network this
// machine's addresses in them and its name.
func hostNames(addr, named string) (out []string) {
	host, _, err := net.SplitHostPort(addr)
	if ip := net.ParseIP(host); err == nil && (host == "" || ip != nil && ip.IsUnspecified()) {
		if name, err := os.Hostname(); err == nil {
			out = append(out, name, name+".local")
		}
		list, _ := net.InterfaceAddrs()
		for _, a := range list {
			if at, ok := a.(*net.IPNet); ok && !at.IP.IsLoopback() && !at.IP.IsLinkLocalUnicast() {
				out = append(out, at.IP.String())
			}
		}
	}
	if err == nil && host != "" {
		out = append(out, host)
	}
	return append(out, listed(named)...)
}

// listed are the words of a list with commas.
func listed(text string) (out []string) {
	for _, n := range strings.Split(text, ",") {
		if n = strings.TrimSpace(n); n != "" {
			out = append(out, n)
		}
	}
	return out
}

// dataDir is the directory asked for, or the usual one of this user; the
// sample world has one of its own.
func dataDir(asked string, isDemo bool) (string, error) {
	if asked != "" {
		return asked, nil
	}
	base, err := os.UserConfigDir()
	if err != nil {
		return "", fmt.Errorf("find a data directory (name one with -data): %w", err)
	}
	name := "fair-tangle"
	if isDemo {
		name = "fair-tangle-demo"
	}
	return filepath.Join(base, name), nil
}

// listen opens the port; anything but a loopback address needs a passphrase.
func listen(addr, pass string) (net.Listener, error) {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return nil, fmt.Errorf("address %q: %w", addr, err)
	}
	ip := net.ParseIP(host)
	loopback := host == "localhost" || (ip != nil && ip.IsLoopback())
	signs := map[rune]bool{}
	for _, r := range pass {
		signs[r] = true
	}
	if !loopback && (utf8.RuneCountInString(pass) < 12 || len(signs) < 4) {
		return nil, errors.New("listening beyond this machine needs a passphrase of at least 12 signs, 4 of them different, in FAIRTANGLE_PASSPHRASE")
	}
	return net.Listen("tcp", addr)
}

// serve answers until ctx ends, or the world can not go on.
func serve(ctx context.Context, l net.Listener, w *world, out io.Writer) error {
	srv := &http.Server{
		Handler: w, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute,
	}
	srv.RegisterOnShutdown(w.hush)
	failed := make(chan error, 2)
	go func() { failed <- srv.Serve(l) }()
	go func() {
		if err := w.again(ctx); err != nil {
			failed <- err
		}
	}()
	fmt.Fprintf(out, "listening on %s\n", w.address)
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	end, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	return srv.Shutdown(end)
}
