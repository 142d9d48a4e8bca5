package shelf

import (
	"context"
	"sync"
	"time"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// lastFit is the latest calibration, what it was computed from, and the one
// that is being computed.
type lastFit struct {
	mu      sync.Mutex
	key     fitKey
	done    bool
	c       mix.Calibration
	next    fitKey
	running chan struct{} // closed when next is done
}

type fitKey struct {
	samples  [2]int64
	model    mix.Model
	covering bool
}

// How long an answer waits for a calibration before the former one serves, and
// how long one may take at all.
const (
	fitPatience = 250 * time.Millisecond
	fitLimit    = 30 * time.Second
)

// Fit gives the calibration of the settings' model with all samples. It is
// computed anew, beside the answers, when something that it rests on has
// changed; fitting tells that this takes longer than an answer can wait, and
// that c is the former one.
func (s *Room) Fit(ctx context.Context, at Mixing) (c mix.Calibration, fitting bool, err error) {
	mark, err := s.Store.SamplesMark(ctx)
	if err != nil {
		return c, false, err
	}
	key := fitKey{mark, workshop.Model(at.Settings), at.Settings.CoveringPower}
	f := &s.fitted
	f.mu.Lock()
	if f.done && f.key == key {
		defer f.mu.Unlock()
		return f.c, false, nil
	}
	if f.running == nil || f.next != key {
		f.next, f.running = key, make(chan struct{})
		go s.fitNow(context.WithoutCancel(ctx), at, key, f.running)
	}
	running := f.running
	f.mu.Unlock()
	select {
	case <-running:
	case <-time.After(fitPatience):
	case <-ctx.Done():
		return c, false, ctx.Err()
	}
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.done && f.key.model == key.model && f.key.covering == key.covering {
		return f.c, f.key != key, nil
	}
	return mix.Calibration{Extent: mix.Nothing, Model: key.model}, true, nil
}

// fitNow computes a calibration; what fails leaves the former one, and is tried
// again when it is asked for.
func (s *Room) fitNow(ctx context.Context, at Mixing, key fitKey, running chan struct{}) {
	ctx, cancel := context.WithTimeout(ctx, fitLimit)
	defer cancel()
	var c mix.Calibration
	rows, err := store.Pieces[store.Sample](ctx, s.Store)
	if err == nil {
		c, err = mix.Calibrate(ctx, key.model, at.Samples(KnownSamples(ctx, rows)))
	}
	f := &s.fitted
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.running == running {
		f.running = nil
	}
	if err == nil && f.next == key {
		f.key, f.done, f.c = key, true, c
	}
	close(running)
}

// KnownSamples are those of which it is known what went into them; the others are put aside.
func KnownSamples(ctx context.Context, rows []store.Sample) (out []store.Sample) {
	for _, r := range rows {
		sum, amiss := 0.0, false
		for _, c := range r.Components {
			sum += c.Share
			amiss = amiss || !(c.Share >= 0 && c.Share <= 1)
		}
		if amiss || !(sum > 0) {
			floor.Aside(ctx, "samples", r.ID, r.Name, fault.New("components", "It is not known any more what went into it; it is left out."))
			continue
		}
		out = append(out, r)
	}
	return out
}

// Samples are kept samples as the calibration wants them.
func (b Mixing) Samples(rows []store.Sample) []mix.Sample {
	out := make([]mix.Sample, len(rows))
	for i, r := range rows {
		n := len(r.Components)
		v := mix.Sample{Source: mix.Source(r.Measured.Source), Lots: make([]int64, n), Colours: make([]colour.Reflectance, n), Shares: make([]float64, n)}
		m := floor.ReflectanceIn(r.Measured)
		v.Measured = m.Lab()
		thickness := make([]float64, n)
		for j, c := range r.Components {
			v.Colours[j] = floor.ReflectanceIn(store.Colour{Hex: c.Hex, Reflectance: c.Reflectance})
			v.Shares[j], thickness[j] = c.Share, b.Kinds.Named(c.Kind).Thickness()
			if c.LotID != nil {
				v.Lots[j] = *c.LotID
			}
		}
		if b.Settings.CoveringPower {
			v.Shares = mix.Cover(v.Shares, thickness)
		}
		out[i] = v
	}
	return out
}
