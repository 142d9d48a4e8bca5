package studio

import (
	"context"
	"sync"
	"time"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/store"
)

// SampleInput is a blend that was carded even, and the colour it then had.
// Without components those of the blend are taken as they are now.
type SampleInput struct {
	Name     string      `json:"name"`
	BlendID  *int64      `json:"blend_id"`
	Measured ColourInput `json:"measured"`
	Source   string      `json:"source"`
	Note     string      `json:"note"`
}

// SamplePoint is a sample as a calibration sees it.
type SamplePoint struct {
	ID         int64                   `json:"id"`
	Version    int64                   `json:"version"`
	Name       string                  `json:"name"`
	BlendID    *int64                  `json:"blend_id"`
	Note       string                  `json:"note"`
	Source     string                  `json:"source"`
	Components []store.SampleComponent `json:"components"`
	Measured   LabHex                  `json:"measured"`
	Predicted  LabHex                  `json:"predicted"`
	Fitted     LabHex                  `json:"fitted"`
	Before     float64                 `json:"before_delta_e"`
	After      float64                 `json:"after_delta_e"`
}

// LabHex is a colour to plot and to show.
type LabHex struct {
	Hex string     `json:"hex"`
	Lab [3]float64 `json:"lab"`
}

func labHex(c colour.Lab) LabHex { return LabHex{c.Linear().Hex(), [3]float64{c.L, c.A, c.B}} }

// Calibration is what the samples say about the mixing model.
type Calibration struct {
	On            bool          `json:"on"`
	Extent        string        `json:"extent"` // nothing, parameter, strengths
	Model         ModelInput    `json:"model"`
	Fitted        ModelInput    `json:"fitted"`
	Strengths     []LotStrength `json:"strengths"`
	Before        float64       `json:"before_delta_e"`
	After         float64       `json:"after_delta_e"`
	LeftOutBefore float64       `json:"left_out_before_delta_e"`
	LeftOut       float64       `json:"left_out_delta_e"`
	Fewest        int           `json:"fewest_samples"`
	Fitting       bool          `json:"fitting"` // the samples changed; what is said of the fit is still the former one
	Samples       []SamplePoint `json:"samples"`
}

// LotStrength is how much a gram of a lot counts beside others.
type LotStrength struct {
	LotID    int64   `json:"lot_id"`
	Name     string  `json:"name"`
	Strength float64 `json:"strength"`
}

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

// fit gives the calibration of the settings' model with all samples. It is
// computed anew, beside the answers, when something that it rests on has
// changed; fitting tells that this takes longer than an answer can wait, and
// that c is the former one.
func (s *Studio) fit(ctx context.Context, at stock) (c mix.Calibration, fitting bool, err error) {
	mark, err := s.store.SamplesMark(ctx)
	if err != nil {
		return c, false, err
	}
	key := fitKey{mark, model(at.set), at.set.CoveringPower}
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
func (s *Studio) fitNow(ctx context.Context, at stock, key fitKey, running chan struct{}) {
	ctx, cancel := context.WithTimeout(ctx, fitLimit)
	defer cancel()
	var c mix.Calibration
	rows, err := store.Pieces[store.Sample](ctx, s.store)
	if err == nil {
		c, err = mix.Calibrate(ctx, key.model, at.samples(rows))
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

// samples are kept samples as the calibration wants them.
func (b stock) samples(rows []store.Sample) []mix.Sample {
	out := make([]mix.Sample, len(rows))
	for i, r := range rows {
		n := len(r.Components)
		v := mix.Sample{Source: mix.Source(r.Measured.Source), Lots: make([]int64, n), Colours: make([]colour.Reflectance, n), Shares: make([]float64, n)}
		m := reflectanceIn(r.Measured)
		v.Measured = m.Lab()
		thickness := make([]float64, n)
		for j, c := range r.Components {
			v.Colours[j] = reflectanceIn(store.Colour{Hex: c.Hex, Reflectance: c.Reflectance})
			v.Shares[j], thickness[j] = c.Share, b.kinds.Named(c.Kind).Thickness()
			if c.LotID != nil {
				v.Lots[j] = *c.LotID
			}
		}
		if b.set.CoveringPower {
			v.Shares = mix.Cover(v.Shares, thickness)
		}
		out[i] = v
	}
	return out
}

// Calibration returns the samples with their errors and what was fitted.
func (s *Studio) Calibration(ctx context.Context) (Calibration, error) {
	at, err := s.stock(ctx)
	if err != nil {
		return Calibration{}, err
	}
	c, fitting, err := s.fit(ctx, at)
	if err != nil {
		return Calibration{}, err
	}
	rows, err := store.Pieces[store.Sample](ctx, s.store)
	if err != nil {
		return Calibration{}, err
	}
	m := model(at.set)
	out := Calibration{
		On: at.set.Calibrated, Extent: string(c.Extent), Model: ModelInput{string(m.Name), m.Parameter},
		Fitted: ModelInput{string(c.Model.Name), c.Model.Parameter}, Strengths: []LotStrength{}, Samples: []SamplePoint{},
		Before: c.Before, After: c.After, LeftOutBefore: c.LeftOutBefore, LeftOut: c.LeftOut, Fewest: mix.FewestSamples,
		Fitting: fitting,
	}
	names := map[int64]string{}
	samples := at.samples(rows)
	predicted, fitted := mix.Predict(m, nil, samples), mix.Predict(c.Model, c.Strength, samples)
	for i, r := range rows {
		measured := reflectanceIn(r.Measured)
		at := measured.Lab()
		out.Samples = append(out.Samples, SamplePoint{
			ID: r.ID, Version: r.Version, Name: r.Name, BlendID: r.BlendID, Note: r.Note, Source: r.Measured.Source, Components: r.Components,
			Measured: labHex(at), Predicted: labHex(predicted[i]), Fitted: labHex(fitted[i]),
			Before: colour.CIEDE2000(at, predicted[i]), After: colour.CIEDE2000(at, fitted[i]),
		})
		for _, v := range r.Components {
			if v.LotID != nil {
				names[*v.LotID] = v.Name
			}
		}
	}
	for _, id := range sortedKeys(c.Strength) {
		out.Strengths = append(out.Strengths, LotStrength{id, names[id], c.Strength[id]})
	}
	return out, nil
}

// AddSample records the colour that a carded blend really had.
func (s *Studio) AddSample(ctx context.Context, in SampleInput) error {
	row, err := s.sample(ctx, in, nil)
	if err != nil {
		return err
	}
	_, err = store.AddPiece(ctx, s.store, row)
	return err
}

// UpdateSample changes what was measured; the components stay as they were.
func (s *Studio) UpdateSample(ctx context.Context, id, version int64, in SampleInput) error {
	old, err := store.Piece[store.Sample](ctx, s.store, id)
	if err != nil {
		return err
	}
	row, err := s.sample(ctx, in, &old)
	if err != nil {
		return err
	}
	row.ID, row.Version = id, version
	_, err = store.SavePiece(ctx, s.store, row, nil)
	return convertStale(err, func(store.Sample) (Calibration, error) { return s.Calibration(ctx) })
}

func (s *Studio) sample(ctx context.Context, in SampleInput, old *store.Sample) (store.Sample, error) {
	var l fault.List
	checkText(&l, "name", "the sample", &in.Name, maxName, true)
	checkText(&l, "note", "", &in.Note, maxNote, false)
	r, _, err := in.Measured.Read()
	l.Take("measured", err)
	source := mix.Source(in.Source)
	if source == "" {
		source = mix.Value
	}
	if !knownSource(source) {
		l.Add("source", "A colour comes from a picker, a value, a photo or a reader.")
	}
	row := store.Sample{Name: in.Name, Note: in.Note, Measured: store.Colour{Share: 1, Source: string(source), Hex: r.Linear().Hex()}}
	if in.Measured.Reflectance != nil {
		row.Measured.Reflectance = in.Measured.Reflectance
	}
	switch {
	case old != nil:
		row.BlendID, row.Components = old.BlendID, old.Components
	case in.BlendID == nil:
		l.Add("blend_id", "Choose the blend that was carded.")
	default:
		b, err := s.Blend(ctx, *in.BlendID)
		if err != nil {
			l.Add("blend_id", "There is no such blend.")
			break
		}
		if len(b.Components) == 0 {
			l.Add("blend_id", "This blend is empty.")
		}
		row.BlendID = in.BlendID
		for _, c := range b.Components {
			v := store.SampleComponent{LotID: c.LotID, Name: c.Name, Kind: c.Kind, Hex: c.Hex, Share: c.Share}
			if c.Lot != nil && len(c.Lot.Colours) == 1 {
				v.Reflectance = c.Lot.Colours[0].Reflectance
			}
			row.Components = append(row.Components, v)
		}
	}
	return row, l.Err()
}

// UseCalibration switches the calibrated prediction on or off.
func (s *Studio) UseCalibration(ctx context.Context, on bool) error {
	_, err := s.ChangeSettings(ctx, 0, func(v *Settings) { v.Calibrated = on })
	return err
}
