package yarns

import (
	"context"
	"fmt"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/yarn"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// YarnSample is a piece of yarn that was tried, with what it shows.
type YarnSample struct {
	ID       int64  `json:"id"`
	Version  int64  `json:"version"`
	MakingID int64  `json:"making_id"`
	At       string `json:"at"`
	Name     string `json:"name"`
	SampleTold
	RawGristM float64 `json:"raw_grist_m_per_100g"` // before washing; 0: not known
	GristM    float64 `json:"grist_m_per_100g"`     // after it
	TurnsPerM float64 `json:"turns_per_m"`          // of the single, from what it made of itself; 0: not known
	Showed
}

func yarnSampleOf(r store.YarnSample) YarnSample {
	if r.Told.Swatches == nil {
		r.Told.Swatches = []SwatchTold{}
	}
	t := r.Told
	return YarnSample{
		ID: r.ID, Version: r.Version, MakingID: r.MakingID, At: r.CreatedAt.Format(floor.TimeForm), Name: r.Name, SampleTold: t,
		RawGristM: yarn.GristOf(t.RawM, t.RawG), GristM: yarn.GristOf(t.LengthM, t.WeightG),
		TurnsPerM: yarn.PliedBack(t.BumpsCM),
		Showed: showedOf(yarn.Measured{
			Plies: yarn.PliesOf(t.Ply), FibreG: t.FibreG, SinglesM: t.Singles, RawM: t.RawM, RawG: t.RawG, LengthM: t.LengthM, WeightG: t.WeightG,
		}),
	}
}

func checkSample(in *YarnSample) error {
	var l fault.List
	floor.CheckText(&l, "name", "the sample", &in.Name, floor.MaxName, true)
	checkPly(&l, in.Ply)
	for field, v := range map[string]*string{"twist": &in.Twist, "checked": &in.Checked, "hand": &in.Hand} {
		floor.CheckText(&l, field, "", v, floor.MaxFew, false)
	}
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
	if !slices.Contains([]string{"", "yes", "no"}, in.Sheds) {
		l.Add("sheds", "It sheds, or it does not.")
	}
	if !(in.WPI >= 0 && in.WPI <= 200) {
		l.Add("wpi", "Wraps per inch are from 0 to 200.")
	}
	checkAmounts(&l, map[string]float64{"singles_m": in.Singles, "raw_m": in.RawM, "length_m": in.LengthM},
		map[string]float64{"fibre_g": in.FibreG, "raw_g": in.RawG, "weight_g": in.WeightG})
	if !(in.BumpsCM >= 0 && in.BumpsCM <= 100) {
		l.Add("bumps_per_cm", "There are from 0 to 100 of them.")
	}
	liked := 0
	if len(in.Swatches) > mostSwatches {
		l.Add("swatches", "A sample has at most %d pieces side by side.", mostSwatches)
	}
	for i := range in.Swatches {
		w := &in.Swatches[i]
		floor.CheckText(&l, fmt.Sprintf("swatches[%d].tool", i), "", &w.Tool, floor.MaxFew, false)
		floor.CheckText(&l, fmt.Sprintf("swatches[%d].why", i), "", &w.Why, floor.MaxFew, false)
		if w.Liked {
			liked++
		}
		for field, v := range map[string]float64{"stitches": w.Stitches, "rows": w.Rows, "raw_stitches": w.RawStitches, "raw_rows": w.RawRows} {
			if !(v >= 0 && v <= 500) {
				l.Add(fmt.Sprintf("swatches[%d].%s", i, field), "Over 10 cm there are 0 to 500 of them.")
			}
		}
	}
	if liked > 1 {
		l.Add("swatches", "Of several pieces one is the one.")
	}
	return l.Err()
}

// YarnSamplesOf lists the samples of a making, the latest first.
func (s *Room) YarnSamplesOf(ctx context.Context, making int64) ([]YarnSample, error) {
	return ofMaking(ctx, s, making, yarnSampleOf, func(v YarnSample) int64 { return v.ID })
}

// OneYarnSample returns a sample.
func (s *Room) OneYarnSample(ctx context.Context, id int64) (YarnSample, error) {
	r, err := store.Piece[store.YarnSample](ctx, s.Store, id)
	return yarnSampleOf(r), err
}

// AddYarnSample notes a sample of a making.
func (s *Room) AddYarnSample(ctx context.Context, making int64, in YarnSample) (YarnSample, error) {
	if _, err := s.recipe.Making(ctx, making); err != nil {
		return in, err
	}
	in.ID, in.MakingID = 0, making
	return s.putYarnSample(ctx, in)
}

// SaveYarnSample replaces a sample, based on its version.
func (s *Room) SaveYarnSample(ctx context.Context, id, version int64, in YarnSample) (YarnSample, error) {
	old, err := s.OneYarnSample(ctx, id)
	if err != nil {
		return old, err
	}
	in.ID, in.Version, in.MakingID = id, version, old.MakingID
	return s.putYarnSample(ctx, in)
}

func (s *Room) putYarnSample(ctx context.Context, in YarnSample) (YarnSample, error) {
	if err := checkSample(&in); err != nil {
		return in, err
	}
	row, err := store.PutPiece(ctx, s.Store, store.YarnSample{
		Base: store.Base{ID: in.ID, Version: in.Version}, MakingID: in.MakingID, Name: in.Name, Told: in.SampleTold,
	})
	return yarnSampleOf(row), floor.ConvertStale(err, func(r store.YarnSample) (YarnSample, error) { return yarnSampleOf(r), nil })
}
