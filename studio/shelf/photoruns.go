package shelf

import (
	"context"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/photo"
)

// SameColour is how near, in CIEDE2000, runs of one colour are.
const SameColour = photo.SameColour

// RunsInput asks for the runs of a painted top in a photo. Places are parts of its width and height, 0 to 1: two corners of a part
// of the top, and two ends of a known length.
type RunsInput struct {
	Top      [4]float64 `json:"top"`    // x, y of one corner, then of the opposite one
	Length   [4]float64 `json:"length"` // x, y of one end, then of the other
	LengthMM float64    `json:"length_mm"`
}

// PhotoRun is one colour of a top, from where to where of the part that was marked.
type PhotoRun struct {
	Hex    string  `json:"hex"`
	Name   string  `json:"name"`
	FromMM float64 `json:"from_mm"`
	ToMM   float64 `json:"to_mm"`
}

// PhotoRuns is how a top is painted, as a photo shows it.
type PhotoRuns struct {
	Runs        []PhotoRun  `json:"runs"`
	Colours     []LotColour `json:"colours"` // each once, in the order in which they come first
	RunCM       float64     `json:"run_cm"`  // how long one runs, on average
	SigmaDeltaE float64     `json:"sigma_delta_e"`
	Balanced    bool        `json:"balanced"`
}

// RunsOfPhoto reads the runs of a painted top from a photo.
func (s *Room) RunsOfPhoto(ctx context.Context, id int64, in RunsInput) (PhotoRuns, error) {
	r, err := s.Photo(ctx, id)
	if err != nil {
		return PhotoRuns{}, err
	}
	p, area, perMM, err := s.marked(ctx, r, "top", "top", in.Top, in.Length, in.LengthMM)
	if err != nil {
		return PhotoRuns{}, err
	}
	runs, err := p.Stretches(area, perMM, BalanceOf(r))
	if err != nil {
		return PhotoRuns{}, err
	}
	source := mix.Picker // without a card a photo is no better than an eye
	if r.Card != nil {
		source = mix.Photo
	}
	painted := photo.PaintedOf(runs)
	out := PhotoRuns{SigmaDeltaE: source.Sigma(), Balanced: r.Card != nil, RunCM: math.Round(painted.RunMM) / 10}
	for _, v := range runs {
		out.Runs = append(out.Runs, PhotoRun{Hex: v.Colour.Hex(), Name: colour.Name(v.Colour.Lab()), FromMM: v.FromMM, ToMM: v.ToMM})
	}
	for i, c := range painted.Colours {
		out.Colours = append(out.Colours, LotColour{Hex: c.Hex(), Share: painted.Shares[i], Source: string(source)})
	}
	return out, nil
}

// GiveRuns makes the colours of a top in a photo those of a lot, lying along it.
func (s *Room) GiveRuns(ctx context.Context, id, lot int64, in RunsInput) (Lot, PhotoRuns, error) {
	v, err := s.RunsOfPhoto(ctx, id, in)
	if err != nil {
		return Lot{}, v, err
	}
	l, err := s.Lot(ctx, lot)
	if err != nil {
		return l, v, fault.New("lot", "Choose a lot.")
	}
	if len(v.Colours) > MostColours {
		return l, v, fault.New("lot", "The top has %d colours; a lot holds %d.", len(v.Colours), MostColours)
	}
	next := l.LotInput
	next.Colours, next.Lies, next.RunCM = v.Colours, "along", min(v.RunCM, mostRunCM)
	if len(v.Colours) == 1 {
		next.Lies, next.RunCM = l.Lies, l.RunCM
	}
	l, err = s.UpdateLot(ctx, lot, l.Version, next)
	return l, v, err
}
