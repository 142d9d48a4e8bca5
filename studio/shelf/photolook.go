package shelf

import (
	"context"
	"math"

	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/photo"
	"fairtangle/studio/floor"
)

// PatchMM is the side of the patches of which the difference is read.
const PatchMM = photo.PatchMM

// LookInput asks for the look of a batt in a photo. Places are parts of its width and
// height, 0 to 1: two corners of what shows the batt, and two ends of a known length.
type LookInput struct {
	Batt     [4]float64 `json:"batt"`   // x, y of one corner, then of the opposite one
	Length   [4]float64 `json:"length"` // x, y of one end, then of the other
	LengthMM float64    `json:"length_mm"`
}

// PhotoLook is the look that a photo shows.
type PhotoLook struct {
	Hex         string     `json:"hex"`
	Lab         [3]float64 `json:"lab"`
	SigmaDeltaE float64    `json:"sigma_delta_e"` // of the colour
	PatchDeltaE float64    `json:"patch_delta_e"`
	LowDeltaE   float64    `json:"low_delta_e"`
	HighDeltaE  float64    `json:"high_delta_e"`
	Look        string     `json:"look"`
	// Looks are those that lie in the range.
	Looks    []string `json:"looks"`
	Sure     bool     `json:"sure"` // within 1.5 CIEDE2000
	AngleDeg float64  `json:"angle_deg"`
	Texture  float64  `json:"texture_delta_e"` // taken off
	Shade    float64  `json:"shade"`           // by which part one end was lit darker, taken off
	Patches  int      `json:"patches"`
	PixelsMM float64  `json:"pixels_per_mm"`
	Balanced bool     `json:"balanced"`
}

// marked is a part of a photo that was marked, and how many pixels a millimetre is there. as is what the part is called.
func (s *Room) marked(ctx context.Context, r Photo, as, of string, part, length [4]float64, lengthMM float64) (*photo.Picture, photo.Area, float64, error) {
	var l fault.List
	for i := range 4 {
		if !(part[i] >= 0 && part[i] <= 1) {
			l.Add(as, "The %s lies within the photo: places are from 0 to 1.", of)
			break
		}
	}
	long := math.Hypot((length[2]-length[0])*float64(r.Width), (length[3]-length[1])*float64(r.Height))
	switch {
	case !(lengthMM >= 10 && lengthMM <= 2000):
		l.Add("length_mm", "Enter how long it is, from 1 to 200 cm.")
	case !(long >= 20):
		l.Add("length", "Click both ends of something whose length you know; as far apart as can be.")
	}
	a := photo.Area{X0: min(part[0], part[2]), X1: max(part[0], part[2]), Y0: min(part[1], part[3]), Y1: max(part[1], part[3])}
	if err := l.Err(); err != nil {
		return nil, a, 0, err
	}
	p, err := s.Picture(ctx, r)
	return p, a, long / lengthMM, err
}

// LookOfPhoto reads mean colour and patch difference of a batt from a photo.
func (s *Room) LookOfPhoto(ctx context.Context, id int64, in LookInput) (PhotoLook, error) {
	r, err := s.Photo(ctx, id)
	if err != nil {
		return PhotoLook{}, err
	}
	p, a, perMM, err := s.marked(ctx, r, "batt", "batt", in.Batt, in.Length, in.LengthMM)
	if err != nil {
		return PhotoLook{}, err
	}
	v, err := p.Look(a, perMM, BalanceOf(r))
	if err != nil {
		return PhotoLook{}, err
	}
	source := mix.Picker // without a card a photo is no better than an eye
	if r.Card != nil {
		source = mix.Photo
	}
	lab := v.Mean.Lab()
	out := PhotoLook{
		Hex: v.Mean.Hex(), Lab: [3]float64{lab.L, lab.A, lab.B}, SigmaDeltaE: math.Hypot(source.Sigma(), v.MeanError), PatchDeltaE: v.Patch, LowDeltaE: v.Low,
		HighDeltaE: v.High, Look: string(carding.LookOf(v.Patch)), Looks: []string{}, Sure: v.Sure, AngleDeg: v.Angle, Texture: v.Texture, Shade: v.Shade,
		Patches: v.Patches, PixelsMM: perMM, Balanced: r.Card != nil,
	}
	first, last := floor.RankOf(string(carding.LookOf(v.High))), floor.RankOf(string(carding.LookOf(v.Low)))
	for _, look := range carding.Looks()[first : last+1] {
		out.Looks = append(out.Looks, string(look))
	}
	return out, nil
}
