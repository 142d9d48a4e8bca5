package studio

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/yarn"
	"fairtangle/store"
)

// What is told of samples and skeins.
type (
	SampleTold = store.SampleTold
	SwatchTold = store.SwatchTold
	SkeinTold  = store.SkeinTold
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
	Showed
}

// Skein is yarn that is done, with what it shows.
type Skein struct {
	ID       int64  `json:"id"`
	Version  int64  `json:"version"`
	MakingID int64  `json:"making_id"`
	At       string `json:"at"`
	Name     string `json:"name"`
	SkeinTold
	GristM float64 `json:"grist_m_per_100g"`
	Showed
}

// Showed is what a sample or a skein showed of itself; null is not known.
type Showed struct {
	WastePct     *float64 `json:"waste_pct"`
	FinishingPct *float64 `json:"finishing_pct"`
	TakeUpPct    *float64 `json:"take_up_pct"`
	ShrinkagePct *float64 `json:"shrinkage_pct"`
}

func showedOf(m yarn.Measured) Showed {
	pct := func(v float64, known bool) *float64 {
		if !known {
			return nil
		}
		v *= 100
		return &v
	}
	s := m.Showed()
	return Showed{pct(s.Waste, s.KnowsWaste), pct(s.Finishing, s.KnowsFinishing), pct(s.TakeUp, s.KnowsTakeUp), pct(s.Shrinkage, s.KnowsShrinkage)}
}

// Limits of what is told of yarn.
const (
	mostYarnM    = 1e6
	mostYarnG    = 1e5
	mostSwatches = 3
	maxFew       = 200
)

func yarnSampleOf(r store.YarnSample) YarnSample {
	if r.Told.Swatches == nil {
		r.Told.Swatches = []SwatchTold{}
	}
	t := r.Told
	return YarnSample{
		ID: r.ID, Version: r.Version, MakingID: r.MakingID, At: r.CreatedAt.Format(timeForm), Name: r.Name, SampleTold: t,
		RawGristM: yarn.GristOf(t.RawM, t.RawG), GristM: yarn.GristOf(t.LengthM, t.WeightG),
		Showed: showedOf(yarn.Measured{
			Plies: yarn.PliesOf(t.Ply), FibreG: t.FibreG, SinglesM: t.Singles, RawM: t.RawM, RawG: t.RawG, LengthM: t.LengthM, WeightG: t.WeightG,
		}),
	}
}

func skeinOf(r store.Skein) Skein {
	if r.Told.Lots == nil {
		r.Told.Lots = []int64{}
	}
	t := r.Told
	return Skein{
		ID: r.ID, Version: r.Version, MakingID: r.MakingID, At: r.CreatedAt.Format(timeForm), Name: r.Name, SkeinTold: t, GristM: yarn.GristOf(t.LengthM, t.WeightG),
		Showed: showedOf(yarn.Measured{
			Plies: yarn.PliesOf(t.Ply), FibreG: t.FibreG, SinglesM: t.Singles, RawM: t.RawM, RawG: t.RawG, LengthM: t.LengthM, WeightG: t.WeightG,
		}),
	}
}

// checkPly finds a ply that there is not; none is told where it is empty.
func checkPly(l *fault.List, ply string) {
	if ply != "" && !slices.Contains(yarn.Plies, ply) {
		l.Add("ply", "A yarn is a single, two- or three-ply, or chain-plied.")
	}
}

func checkAmounts(l *fault.List, lengths, weights map[string]float64) {
	for field, v := range lengths {
		if !(v >= 0 && v <= mostYarnM) {
			l.Add(field, "A length is from 0 to a million metres.")
		}
	}
	for field, v := range weights {
		if !(v >= 0 && v <= mostYarnG) {
			l.Add(field, "A weight is from 0 to 100 kg.")
		}
	}
}

func checkSample(in *YarnSample) error {
	var l fault.List
	checkText(&l, "name", "the sample", &in.Name, maxName, true)
	checkPly(&l, in.Ply)
	for field, v := range map[string]*string{"twist": &in.Twist, "checked": &in.Checked, "hand": &in.Hand} {
		checkText(&l, field, "", v, maxFew, false)
	}
	checkText(&l, "note", "", &in.Note, maxNote, false)
	if !slices.Contains([]string{"", "yes", "no"}, in.Sheds) {
		l.Add("sheds", "It sheds, or it does not.")
	}
	if !(in.WPI >= 0 && in.WPI <= 200) {
		l.Add("wpi", "Wraps per inch are from 0 to 200.")
	}
	checkAmounts(&l, map[string]float64{"singles_m": in.Singles, "raw_m": in.RawM, "length_m": in.LengthM},
		map[string]float64{"fibre_g": in.FibreG, "raw_g": in.RawG, "weight_g": in.WeightG})
	if len(in.Swatches) > mostSwatches {
		l.Add("swatches", "A sample has at most %d pieces side by side.", mostSwatches)
	}
	for i := range in.Swatches {
		w := &in.Swatches[i]
		checkText(&l, fmt.Sprintf("swatches[%d].tool", i), "", &w.Tool, maxFew, false)
		for field, v := range map[string]float64{"stitches": w.Stitches, "rows": w.Rows} {
			if !(v >= 0 && v <= 500) {
				l.Add(fmt.Sprintf("swatches[%d].%s", i, field), "Over 10 cm there are 0 to 500 of them.")
			}
		}
	}
	return l.Err()
}

// YarnSamplesOf lists the samples of a making, the latest first.
func (s *Studio) YarnSamplesOf(ctx context.Context, making int64) ([]YarnSample, error) {
	if _, err := s.Making(ctx, making); err != nil {
		return nil, err
	}
	rows, err := store.Pieces[store.YarnSample](ctx, s.store, "making_id = ?", making)
	out := make([]YarnSample, len(rows))
	for i, r := range rows {
		out[i] = yarnSampleOf(r)
	}
	slices.SortFunc(out, func(a, b YarnSample) int { return int(b.ID - a.ID) })
	return out, err
}

// OneYarnSample returns a sample.
func (s *Studio) OneYarnSample(ctx context.Context, id int64) (YarnSample, error) {
	r, err := store.Piece[store.YarnSample](ctx, s.store, id)
	return yarnSampleOf(r), err
}

// AddYarnSample notes a sample of a making.
func (s *Studio) AddYarnSample(ctx context.Context, making int64, in YarnSample) (YarnSample, error) {
	if _, err := s.Making(ctx, making); err != nil {
		return in, err
	}
	in.ID, in.MakingID = 0, making
	return s.putYarnSample(ctx, in)
}

// SaveYarnSample replaces a sample, based on its version.
func (s *Studio) SaveYarnSample(ctx context.Context, id, version int64, in YarnSample) (YarnSample, error) {
	old, err := s.OneYarnSample(ctx, id)
	if err != nil {
		return old, err
	}
	in.ID, in.Version, in.MakingID = id, version, old.MakingID
	return s.putYarnSample(ctx, in)
}

func (s *Studio) putYarnSample(ctx context.Context, in YarnSample) (YarnSample, error) {
	if err := checkSample(&in); err != nil {
		return in, err
	}
	row, err := store.PutPiece(ctx, s.store, store.YarnSample{
		Base: store.Base{ID: in.ID, Version: in.Version}, MakingID: in.MakingID, Name: in.Name, Told: in.SampleTold,
	})
	return yarnSampleOf(row), convertStale(err, func(r store.YarnSample) (YarnSample, error) { return yarnSampleOf(r), nil })
}

// SkeinsOf lists the skeins of a making, the latest first.
func (s *Studio) SkeinsOf(ctx context.Context, making int64) ([]Skein, error) {
	if _, err := s.Making(ctx, making); err != nil {
		return nil, err
	}
	rows, err := store.Pieces[store.Skein](ctx, s.store, "making_id = ?", making)
	out := make([]Skein, len(rows))
	for i, r := range rows {
		out[i] = skeinOf(r)
	}
	slices.SortFunc(out, func(a, b Skein) int { return int(b.ID - a.ID) })
	return out, err
}

// OneSkein returns a skein.
func (s *Studio) OneSkein(ctx context.Context, id int64) (Skein, error) {
	r, err := store.Piece[store.Skein](ctx, s.store, id)
	return skeinOf(r), err
}

// AddSkein notes a skein of a making. The lots that were spun up in it leave the shelf.
func (s *Studio) AddSkein(ctx context.Context, making int64, in Skein) (Skein, error) {
	if _, err := s.Making(ctx, making); err != nil {
		return in, err
	}
	in.ID, in.MakingID = 0, making
	lots := in.Lots
	for i, id := range lots {
		if _, err := s.Lot(ctx, id); err != nil {
			return in, fault.New(fmt.Sprintf("lots[%d]", i), "That lot is not on the shelf.")
		}
	}
	out, err := s.putSkein(ctx, in)
	if err != nil {
		return out, err
	}
	for _, id := range lots {
		l, err := s.Lot(ctx, id)
		if err != nil {
			return out, err
		}
		if l.Grams > 0 {
			key := fmt.Sprintf("skein-%d-lot-%d", out.ID, id)
			if _, err := s.Move(ctx, id, MoveInput{Reason: Spun, Grams: l.Grams, Note: out.Name, Key: key}); err != nil {
				return out, err
			}
		}
	}
	return out, nil
}

// SaveSkein replaces a skein, based on its version. What was spun up stays as it was told.
func (s *Studio) SaveSkein(ctx context.Context, id, version int64, in Skein) (Skein, error) {
	old, err := s.OneSkein(ctx, id)
	if err != nil {
		return old, err
	}
	in.ID, in.Version, in.MakingID, in.Lots = id, version, old.MakingID, old.Lots
	return s.putSkein(ctx, in)
}

func (s *Studio) putSkein(ctx context.Context, in Skein) (Skein, error) {
	var l fault.List
	checkText(&l, "name", "the skein", &in.Name, maxName, true)
	checkText(&l, "note", "", &in.Note, maxNote, false)
	checkPly(&l, in.Ply)
	checkAmounts(&l, map[string]float64{"singles_m": in.Singles, "raw_m": in.RawM, "length_m": in.LengthM},
		map[string]float64{"fibre_g": in.FibreG, "raw_g": in.RawG, "weight_g": in.WeightG})
	if in.Turns < 0 || in.Turns > 100_000 {
		l.Add("turns", "Turns are counted, from 0 to 100,000.")
	}
	if !(in.GirthCM >= 0 && in.GirthCM <= 1000) {
		l.Add("girth_cm", "A reel is from 0 to 10 m round.")
	}
	if !slices.Contains([]string{"", "used", "given", "sold"}, in.Gone) {
		l.Add("gone", "It was used, given away or sold.")
	}
	if in.Turns > 0 && in.GirthCM > 0 {
		in.LengthM = yarn.Wound(in.Turns, in.GirthCM)
	}
	if in.LengthM <= 0 && in.WeightG <= 0 {
		l.Add("length_m", "Give its length, its turns and girth, or its weight.")
	}
	if err := l.Err(); err != nil {
		return in, err
	}
	row, err := store.PutPiece(ctx, s.store, store.Skein{
		Base: store.Base{ID: in.ID, Version: in.Version}, MakingID: in.MakingID, Name: in.Name, Told: in.SkeinTold,
	})
	return skeinOf(row), convertStale(err, func(r store.Skein) (Skein, error) { return skeinOf(r), nil })
}

// Against is what the skeins of a making are beside its need.
type Against struct {
	LengthM float64 `json:"length_m"` // of all of them
	WeightG float64 `json:"weight_g"`
	NeedM   float64 `json:"need_m"` // 0: no length is needed
	NeedG   float64 `json:"need_g"`
	Told    bool    `json:"told"`   // there is a need to meet
	Enough  bool    `json:"enough"` // it is met, in length where that is told
	SpareM  float64 `json:"spare_m"`
	SpareG  float64 `json:"spare_g"`
}

// AgainstNeed compares skeins with a need. A skein whose length was not measured counts by its
// weight and the others' grist, or the need's.
func AgainstNeed(list []Skein, n *Need) (a Against) {
	var long, heavy float64
	for _, k := range list {
		if k.LengthM > 0 && k.WeightG > 0 {
			long, heavy = long+k.LengthM, heavy+k.WeightG
		}
	}
	grist := yarn.GristOf(long, heavy)
	if n != nil && grist == 0 {
		grist = n.Grist
	}
	for _, k := range list {
		l, g := k.LengthM, k.WeightG
		if l <= 0 {
			l = g * grist / 100
		}
		if g <= 0 && grist > 0 {
			g = 100 * l / grist
		}
		a.LengthM, a.WeightG = a.LengthM+l, a.WeightG+g
	}
	if n == nil || !n.Enough || n.Way != NeedWays[0] {
		return a
	}
	a.Told, a.NeedM, a.NeedG = true, n.Length, n.YarnG
	a.SpareM, a.SpareG = a.LengthM-a.NeedM, a.WeightG-a.NeedG
	if a.NeedM > 0 {
		a.Enough = a.SpareM >= 0
	} else {
		a.Enough = a.SpareG >= 0
	}
	return a
}

// Shown is what the maker's own skeins and samples have shown, as parts of 1, and how many did.
type Shown struct {
	Mean map[string]float64 `json:"mean"` // waste_pct, finishing_pct, take_up_pct
	N    map[string]int     `json:"n"`
}

func (v Shown) or(field string, usual float64) float64 {
	if v.N[field] == 0 {
		return usual
	}
	return v.Mean[field]
}

// shownFrom is how many of the latest skeins and samples count.
const shownFrom = 20

// ShownBySkeins are the means of what the latest skeins and samples showed.
func (s *Studio) ShownBySkeins(ctx context.Context) (Shown, error) {
	out := Shown{map[string]float64{}, map[string]int{}}
	skeins, err := store.Pieces[store.Skein](ctx, s.store)
	if err != nil {
		return out, err
	}
	samples, err := store.Pieces[store.YarnSample](ctx, s.store)
	if err != nil {
		return out, err
	}
	add := func(list ...Showed) {
		for _, v := range list {
			for field, p := range map[string]*float64{"waste_pct": v.WastePct, "finishing_pct": v.FinishingPct, "take_up_pct": v.TakeUpPct} {
				if p != nil && out.N[field] < shownFrom && !math.IsNaN(*p) {
					out.Mean[field] += *p / 100
					out.N[field]++
				}
			}
		}
	}
	for _, r := range skeins {
		add(skeinOf(r).Showed)
	}
	for _, r := range samples {
		add(yarnSampleOf(r).Showed)
	}
	for field, n := range out.N {
		out.Mean[field] /= float64(n)
	}
	return out, nil
}

// MeasuredGrist is the grist that the sample that was liked, or else the latest that was measured,
// has after washing; 0 where none was.
func MeasuredGrist(list []YarnSample) (grist float64, of string) {
	for _, v := range list {
		if v.GristM > 0 && (grist == 0 || v.Liked) {
			grist, of = v.GristM, v.Name
			if v.Liked {
				return grist, of
			}
		}
	}
	return grist, of
}

// SkeinsAgainst compares the skeins of a making with its need.
func (s *Studio) SkeinsAgainst(ctx context.Context, making int64) (Against, error) {
	list, err := s.SkeinsOf(ctx, making)
	if err != nil {
		return Against{}, err
	}
	n, err := s.NeedOf(ctx, making)
	switch {
	case errors.Is(err, ErrNotFound):
		return AgainstNeed(list, nil), nil
	case err != nil:
		return Against{}, err
	}
	return AgainstNeed(list, &n), nil
}

// MadeLots lists the lots that a making has put back on the shelf and that are not gone.
func (s *Studio) MadeLots(ctx context.Context, making int64) ([]Lot, error) {
	shelf, err := s.Shelf(ctx, LotFilter{Stock: "some", Made: making, Sort: "name", Limit: 200})
	return shelf.Lots, err
}
