package main

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"path/filepath"
	"sync"
	"time"

	"fairtangle/demo"
	"fairtangle/store"
	"fairtangle/store/copies"
	"fairtangle/studio"
	"fairtangle/web"
)

// world is the data that is worked in, and who answers for it. It can begin again with other data while the program runs: who asks
// meanwhile waits.
type world struct {
	dir       string
	demo      bool
	options   web.Options
	address   string // where it answers
	end       func() // ends the program
	secret    string // of who may end it: it stands beside the data
	out, logs io.Writer

	asking sync.RWMutex  // held by each who is being answered
	turn   sync.Mutex    // of wait
	wait   chan struct{} // closed once it has begun again; nil: it goes on
	wanted chan struct{} // has it begin again; of one place

	closing sync.Mutex // held while the data is closed or opened

	handler http.Handler
	st      *studio.Studio
	stop    func()   // what goes on by itself
	undo    []func() // what closing takes besides, the latest first
}

// copiesLooked is how often it is looked whether a copy is due.
const copiesLooked = 10 * time.Minute

// open opens the data; begins puts in place first what the maker chose to go back to.
func (w *world) open(ctx context.Context, begins bool) (err error) {
	defer func() {
		if err != nil {
			w.close()
		}
	}()
	ctx, w.stop = context.WithCancel(ctx)
	if err := w.settle(ctx, begins); err != nil {
		return err
	}
	if err := w.sayRunning(); err != nil {
		return err
	}
	back, err := receiveIn(filepath.Join(w.dir, "incoming"))
	if err != nil {
		return err
	}
	w.undo = append(w.undo, back)
	db, err := store.Open(w.dir, time.Now)
	if err != nil {
		return err
	}
	w.undo = append(w.undo, func() { _ = db.Close() })
	if w.st, err = studio.New(ctx, db); err != nil {
		return err
	}
	o := w.options
	if w.demo {
		if o.Pans, err = sampleWorld(ctx, w.st); err != nil {
			return err
		}
	} else {
		o.Again = w.beginAgain
		go w.st.Workshop.Vault.KeepCopies(ctx, copiesLooked)
	}
	w.handler, err = web.New(w.st, o)
	return err
}

// settle locks the directory, and lays out in it what is to be worked in. Data that takes the place of other data comes with its
// directory, which is locked anew.
func (w *world) settle(ctx context.Context, begins bool) error {
	if err := copies.Finish(w.dir); err != nil {
		return err
	}
	unlock, err := store.Lock(w.dir)
	if err != nil {
		return err
	}
	defer func() { w.undo = append(w.undo, func() { _ = unlock() }) }()
	if w.demo {
		return demo.Clear(w.dir)
	}
	if err := demo.HandOver(w.dir); err != nil || !begins {
		return err
	}
	switch from, aside, err := copies.Begin(ctx, w.dir, time.Now()); {
	case err != nil:
		fmt.Fprintf(w.logs, "the copy in %s could not be put in place, and nothing was changed: %v\n", from, err)
	case from != "":
		fmt.Fprintf(w.logs, "begins with the copy in %s; what was there before is in %s\n", from, aside)
		_ = unlock()
		if unlock, err = store.Lock(w.dir); err != nil {
			unlock = func() error { return nil }
			return err
		}
	}
	return nil
}

// close closes the data.
func (w *world) close() {
	w.stop()
	for i := len(w.undo) - 1; i >= 0; i-- {
		w.undo[i]()
	}
	w.undo = nil
}

// hush ends what would go on for ever.
func (w *world) hush() {
	w.asking.RLock()
	defer w.asking.RUnlock()
	w.st.Scale.Hush()
}

// beginAgain has the program begin again, once those are answered who have asked; who asks from now on waits for it.
func (w *world) beginAgain() {
	w.turn.Lock()
	defer w.turn.Unlock()
	if w.wait == nil {
		w.wait = make(chan struct{})
		w.wanted <- struct{}{}
	}
}

// again begins again whenever that is wanted, until ctx ends.
func (w *world) again(ctx context.Context) error {
	for {
		select {
		case <-ctx.Done():
			return nil
		case <-w.wanted:
		}
		if err := w.anew(ctx); err != nil {
			return fmt.Errorf("begin again: %w", err)
		}
	}
}

// anew closes the data, once nobody is being answered any more, and opens what is to be begun with.
func (w *world) anew(ctx context.Context) error {
	w.hush()
	w.asking.Lock()
	defer w.asking.Unlock()
	w.closing.Lock()
	defer w.closing.Unlock()
	w.close()
	err := w.open(ctx, true)
	w.turn.Lock()
	defer w.turn.Unlock()
	close(w.wait)
	w.wait = nil
	return err
}

// shut closes the data for good; where it is just being opened anew, after that.
func (w *world) shut() {
	w.closing.Lock()
	defer w.closing.Unlock()
	w.close()
}

// ServeHTTP answers, or waits until the program has begun again.
func (w *world) ServeHTTP(to http.ResponseWriter, r *http.Request) {
	if r.URL.Path == stopPath {
		w.stopped(to, r)
		return
	}
	w.turn.Lock()
	wait := w.wait
	w.turn.Unlock()
	if wait != nil {
		select {
		case <-wait:
		case <-r.Context().Done():
			return
		}
	}
	w.asking.RLock()
	defer w.asking.RUnlock()
	w.handler.ServeHTTP(to, r)
}
