package reach

import (
	"context"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// SampleInput is a blend that was carded even, and the colour it then had.
// Without components those of the blend are taken as they are now.
type SampleInput struct {
	Name     string               `json:"name"`
	BlendID  *int64               `json:"blend_id"`
	Measured workshop.ColourInput `json:"measured"`
	Source   string               `json:"source"`
	Note     string               `json:"note"`
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

// Apart says how what was measured differs from what was predicted.
func (p SamplePoint) Apart() colour.Apart {
	at := func(v [3]float64) colour.Lab { return colour.Lab{L: v[0], A: v[1], B: v[2]} }
	return colour.Compare(at(p.Predicted.Lab), at(p.Measured.Lab))
}

// LabHex is a colour to plot and to show.
type LabHex struct {
	Hex string     `json:"hex"`
	Lab [3]float64 `json:"lab"`
}

func labHex(c colour.Lab) LabHex { return LabHex{c.Linear().Hex(), [3]float64{c.L, c.A, c.B}} }

// Calibration is what the samples say about the mixing model.
type Calibration struct {
	On            bool                `json:"on"`
	Extent        string              `json:"extent"` // nothing, parameter, strengths
	Model         workshop.ModelInput `json:"model"`
	Fitted        workshop.ModelInput `json:"fitted"`
	Strengths     []LotStrength       `json:"strengths"`
	Before        float64             `json:"before_delta_e"`
	After         float64             `json:"after_delta_e"`
	LeftOutBefore float64             `json:"left_out_before_delta_e"`
	LeftOut       float64             `json:"left_out_delta_e"`
	Fewest        int                 `json:"fewest_samples"`
	Fitting       bool                `json:"fitting"` // the samples changed; what is said of the fit is still the former one
	Samples       []SamplePoint       `json:"samples"`
}

// LotStrength is how much a gram of a lot counts beside others.
type LotStrength struct {
	LotID    int64   `json:"lot_id"`
	Name     string  `json:"name"`
	Strength float64 `json:"strength"`
}

// Calibration returns the samples with their errors and what was fitted.
func (s *Room) Calibration(ctx context.Context) (Calibration, error) {
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return Calibration{}, err
	}
	c, fitting, err := s.shelf.Fit(ctx, at)
	if err != nil {
		return Calibration{}, err
	}
	rows, err := store.Pieces[store.Sample](ctx, s.Store)
	if err != nil {
		return Calibration{}, err
	}
	rows = shelf.KnownSamples(ctx, rows)
	m := workshop.Model(at.Settings)
	out := Calibration{
		On: at.Settings.Calibrated, Extent: string(c.Extent), Model: workshop.ModelInput{Name: string(m.Name), Parameter: m.Parameter},
		Fitted: workshop.ModelInput{Name: string(c.Model.Name), Parameter: c.Model.Parameter}, Strengths: []LotStrength{}, Samples: []SamplePoint{},
		Before: c.Before, After: c.After, LeftOutBefore: c.LeftOutBefore, LeftOut: c.LeftOut, Fewest: mix.FewestSamples,
		Fitting: fitting,
	}
	names := map[int64]string{}
	samples := at.Samples(rows)
	predicted, fitted := mix.Predict(m, nil, samples), mix.Predict(c.Model, c.Strength, samples)
	for i, r := range rows {
		measured := floor.ReflectanceIn(r.Measured)
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
	for _, id := range floor.SortedKeys(c.Strength) {
		out.Strengths = append(out.Strengths, LotStrength{id, names[id], c.Strength[id]})
	}
	return out, nil
}

// AddSample records the colour that a carded blend really had.
func (s *Room) AddSample(ctx context.Context, in SampleInput) error {
	row, err := s.sample(ctx, in, nil)
	if err != nil {
		return err
	}
	_, err = store.AddPiece(ctx, s.Store, row)
	return err
}

// UpdateSample changes what was measured; the components stay as they were.
func (s *Room) UpdateSample(ctx context.Context, id, version int64, in SampleInput) error {
	old, err := store.Piece[store.Sample](ctx, s.Store, id)
	if err != nil {
		return err
	}
	row, err := s.sample(ctx, in, &old)
	if err != nil {
		return err
	}
	row.ID, row.Version = id, version
	_, err = store.SavePiece(ctx, s.Store, row, nil)
	return floor.ConvertStale(err, func(store.Sample) (Calibration, error) { return s.Calibration(ctx) })
}

func (s *Room) sample(ctx context.Context, in SampleInput, old *store.Sample) (store.Sample, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the sample", &in.Name, floor.MaxName, true)
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
	r, _, err := in.Measured.Read()
	l.Take("measured", err)
	source := mix.Source(in.Source)
	if source == "" {
		source = mix.Value
	}
	if !floor.KnownSource(source) {
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
		b, err := s.recipe.Blend(ctx, *in.BlendID)
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
func (s *Room) UseCalibration(ctx context.Context, on bool) error {
	_, err := s.workshop.ChangeSettings(ctx, 0, func(v *workshop.Settings) { v.Calibrated = on })
	return err
}
