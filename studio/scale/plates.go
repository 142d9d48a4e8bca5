package scale

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"sync"
	"time"

	"fairtangle/core/plate"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// PlateState is what the place at the scale shows to every window that watches it.
type PlateState struct {
	plate.Shown
	Mode     plate.Mode
	Gross    unit.Milligrams
	Stable   bool
	Heard    bool  // a reading is there
	ScaleID  int64 // that is listened to; 0: none
	Scale    string
	ScaleG   float64 // its step
	Auto     bool    // the scale that suits each weight is taken
	FineNot  bool    // the scale is not fine enough for what is wanted
	Better   string  // a scale that is, where there is one
	Problem  string  // why nothing is heard
	At       *Cell
	Together bool   // it is weighed for all units at once
	Version  int64  // of the weigh-out
	Changes  int64  // how often something was changed here
	Holder   string // the window that weighs
	Free     bool   // nobody weighs
	HeldBy   string // what it calls itself
	Watching int    // how many windows look on
}

// ErrHeld is returned to a window that is not the one that weighs.
type ErrHeld struct{ By string }

func (e ErrHeld) Error() string { return fmt.Sprintf("%s weighs here", e.By) }

// plates are the places at which weigh-outs are weighed, and the scales that are listened
// to for them. All of it is gone with the program; nothing that was booked rests on it.
type plates struct {
	mu     sync.Mutex
	places map[int64]*weighPlace // by weigh-out
	lines  map[int64]*scaleLine  // by scale
	ended  bool
}

// weighPlace is where one weigh-out is weighed. Its plates are guarded by plates.mu.
type weighPlace struct {
	state   PlateState
	on      map[int64]*plate.Plate // by scale
	mode    plate.Mode
	windows map[string]*placeWindow
	wanted  unit.Milligrams
	step    unit.Milligrams
	waiting map[chan struct{}]bool
	taken   map[string]unit.Milligrams // from the plate, by key
	latest  Weighout                   // as it was last brought here
}

// placeWindow is a window that watches, or did a moment ago.
type placeWindow struct {
	name    string
	watches int // open streams of it
}

// A window that goes is waited for before another may weigh unasked, and the place stays
// as it was for longer: a phone sleeps, a page is loaded again.
const (
	windowStays = 5 * time.Second
	placeStays  = 30 * time.Minute
)

// free reports whether nobody weighs here.
func (at *weighPlace) free() bool { return at.windows[at.state.Holder] == nil }

// Window is one browser window that watches a plate.
type Window struct {
	s      *Room
	id     int64
	window string
	told   chan struct{}
}

// weighedAt is the weigh-out of a place; an empty one where the shelf is counted.
func (s *Room) weighedAt(ctx context.Context, id int64) (Weighout, error) {
	if id == shelf.StockTaking {
		return Weighout{}, nil
	}
	return s.Weighout(ctx, id)
}

// WatchPlace lets a window watch where a weigh-out is weighed. It takes nothing: who is first to
// change something there weighs. Close it again.
func (s *Room) WatchPlace(ctx context.Context, id int64, window, name string) (*Window, error) {
	w, err := s.weighedAt(ctx, id)
	if err != nil {
		return nil, err
	}
	scales, err := s.workshop.Scales(ctx)
	if err != nil {
		return nil, err
	}
	p := &s.plates
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.ended {
		return nil, floor.ErrEnding
	}
	if p.places == nil {
		p.places, p.lines = map[int64]*weighPlace{}, map[int64]*scaleLine{}
	}
	at := p.places[id]
	if at == nil {
		at = &weighPlace{on: map[int64]*plate.Plate{}, mode: plate.Bowl, windows: map[string]*placeWindow{}, waiting: map[chan struct{}]bool{},
			taken: map[string]unit.Milligrams{}}
		at.state.Auto, at.state.Mode = true, at.mode
		p.places[id] = at
	}
	if at.windows[window] == nil {
		at.windows[window] = &placeWindow{}
	}
	at.windows[window].name = name
	at.windows[window].watches++
	watch := &Window{s, id, window, make(chan struct{}, 1)}
	at.waiting[watch.told] = true
	p.bring(at, w, scales)
	return watch, nil
}

// Next waits until something has changed, or ctx ends, and gives what the place shows.
func (w *Window) Next(ctx context.Context) (PlateState, bool) {
	select {
	case <-w.told:
	case <-ctx.Done():
		return PlateState{}, false
	}
	p := &w.s.plates
	p.mu.Lock()
	defer p.mu.Unlock()
	at := p.places[w.id]
	if at == nil || p.ended {
		return PlateState{}, false
	}
	v := at.state
	v.Watching, v.Free = len(at.windows), at.free()
	return v, true
}

// Close ends the watching.
func (w *Window) Close() {
	p := &w.s.plates
	p.mu.Lock()
	defer p.mu.Unlock()
	at := p.places[w.id]
	if at == nil {
		return
	}
	delete(at.waiting, w.told)
	at.windows[w.window].watches--
	time.AfterFunc(windowStays, func() { p.leave(w.id, w.window) })
}

// leave forgets a window that did not come back; where nobody is left the scale is let go.
func (p *plates) leave(id int64, window string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	at := p.places[id]
	if at == nil || at.windows[window] == nil || at.windows[window].watches > 0 {
		return
	}
	delete(at.windows, window)
	if len(at.windows) > 0 {
		at.tell()
		return
	}
	p.listen(at, nil)
	time.AfterFunc(placeStays, func() {
		p.mu.Lock()
		defer p.mu.Unlock()
		if len(at.windows) == 0 && p.places[id] == at {
			delete(p.places, id)
		}
	})
}

// Hush ends all watching: the program ends.
func (s *Room) Hush() {
	p := &s.plates
	p.mu.Lock()
	defer p.mu.Unlock()
	p.ended = true
	for _, at := range p.places {
		p.listen(at, nil)
		at.tell()
	}
}

func (at *weighPlace) tell() {
	for c := range at.waiting {
		select {
		case c <- struct{}{}:
		default:
		}
	}
}

// bring brings a place to a weigh-out as it stands: where it weighs, what is wanted there,
// and on which scale. Who read it before something was weighed and comes after brings nothing back.
func (p *plates) bring(at *weighPlace, w Weighout, scales []workshop.Scale) {
	if w.Version < at.latest.Version {
		w = at.latest
	}
	at.latest = w
	st := &at.state
	st.Version = w.Version
	if st.At == nil || st.At.Unit >= len(w.Units) || st.At.Component >= len(w.Components) || w.Units[st.At.Unit].Cells[st.At.Component].Done {
		st.At, st.Together = w.Next, false
	}
	at.wanted, at.step = 0, unit.Grams(w.StepG).Milligrams()
	if st.At != nil {
		c := w.Units[st.At.Unit].Cells[st.At.Component]
		at.wanted = unit.Grams(c.TargetG - c.WeighedG).Milligrams()
		if all, units := w.TogetherG(st.At.Component); st.Together && units > 1 {
			at.wanted = unit.Grams(all).Milligrams()
		}
	}
	load := floor.InGrams(at.wanted)
	if at.mode == plate.Bowl && st.At != nil { // all of it comes into one bowl
		load = w.Units[st.At.Unit].TotalG
	}
	suits, _ := workshop.Suits(scales, load)
	if w.ID == shelf.StockTaking && len(scales) > 0 { // nobody knows before what a bag weighs
		most := slices.MaxFunc(scales, func(a, b workshop.Scale) int { return cmp.Compare(a.CapacityG, b.CapacityG) })
		suits = &most
	}
	st.FineNot, st.Better = false, ""
	if suits != nil && at.wanted > 0 && floor.InGrams(at.wanted) < workshop.FewestSteps*suits.StepG {
		st.FineNot = true
		if other, fine := workshop.Suits(scales, floor.InGrams(at.wanted)); fine {
			st.Better = other.Name
		}
	}
	switch {
	case !st.Auto:
		for i := range scales {
			if scales[i].ID == st.ScaleID {
				p.listen(at, &scales[i])
			}
		}
	case at.wanted > 0 || st.ScaleID == 0:
		p.listen(at, suits)
	}
	for _, v := range at.on {
		v.Want(at.wanted, at.step)
	}
	at.tell()
}

// Held reports who else weighs a weigh-out. Windows that nobody watches with, and
// programs, are free.
func (s *Room) Held(id int64, window string) error { return s.plates.held(id, window) }

func (p *plates) held(id int64, window string) error {
	p.mu.Lock()
	defer p.mu.Unlock()
	at := p.places[id]
	if at == nil || window == "" || at.state.Holder == window || at.free() {
		return nil
	}
	return ErrHeld{at.state.HeldBy}
}

// weighed brings a place to a weigh-out that has changed: what a reading booked was taken
// from the plate, where it lay there; weighings with these keys were taken back.
func (s *Room) weighed(ctx context.Context, w Weighout, in *Reading, back ...string) {
	s.Store.After(ctx, func(ctx context.Context) { s.BroughtOn(ctx, w, in, back) })
}

// BroughtOn is weighed without waiting for the commit.
func (s *Room) BroughtOn(ctx context.Context, w Weighout, in *Reading, back []string) {
	p := &s.plates
	p.mu.Lock()
	none := p.places[w.ID] == nil
	p.mu.Unlock()
	if none {
		return
	}
	scales, err := s.workshop.Scales(ctx)
	p.mu.Lock()
	defer p.mu.Unlock()
	at := p.places[w.ID]
	if err != nil || at == nil {
		return
	}
	if v := at.on[at.state.ScaleID]; v != nil && at.state.Heard {
		if in != nil {
			net := unit.Grams(in.Grams).Milligrams()
			_, before := at.taken[in.Key] // a weighing that is sent again was taken before
			if !before && (in.Live || v.Holds(net)) {
				v.Taken(net)
				at.taken[in.Key] = net
			}
		}
		for _, key := range back {
			if net, was := at.taken[key]; was {
				v.Back(net)
				delete(at.taken, key)
			}
		}
	}
	p.bring(at, w, scales)
	p.again(at)
}
