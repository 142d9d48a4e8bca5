package yarns

import (
	"context"
	"fmt"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/yarn"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
)

// What is told of samples and skeins.
type (
	SampleTold = store.SampleTold
	SwatchTold = store.SwatchTold
	SkeinTold  = store.SkeinTold
	Worn       = store.Worn
)

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
)

func skeinOf(r store.Skein) Skein {
	if r.Told.Lots == nil {
		r.Told.Lots = []int64{}
	}
	t := r.Told
	return Skein{
		ID: r.ID, Version: r.Version, MakingID: r.MakingID, At: r.CreatedAt.Format(floor.TimeForm), Name: r.Name, SkeinTold: t,
		GristM: yarn.GristOf(t.LengthM, t.WeightG),
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

// SkeinsOf lists the skeins of a making, the latest first.
func (s *Room) SkeinsOf(ctx context.Context, making int64) ([]Skein, error) {
	return ofMaking(ctx, s, making, skeinOf, func(k Skein) int64 { return k.ID })
}

// ofMaking lists rows of a making, the latest first.
func ofMaking[R, V any](ctx context.Context, s *Room, making int64, as func(R) V, id func(V) int64) ([]V, error) {
	if _, err := s.recipe.Making(ctx, making); err != nil {
		return nil, err
	}
	rows, err := store.Pieces[R](ctx, s.Store, "making_id = ?", making)
	out := make([]V, len(rows))
	for i, r := range rows {
		out[i] = as(r)
	}
	floor.InOrder(out, func(a, b V) int { return int(id(b) - id(a)) })
	return out, err
}

// OneSkein returns a skein.
func (s *Room) OneSkein(ctx context.Context, id int64) (Skein, error) {
	r, err := store.Piece[store.Skein](ctx, s.Store, id)
	return skeinOf(r), err
}

// AddSkein notes a skein of a making. The lots that were spun up in it leave the shelf.
func (s *Room) AddSkein(ctx context.Context, making int64, in Skein) (Skein, error) {
	if _, err := s.recipe.Making(ctx, making); err != nil {
		return in, err
	}
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (Skein, error) { return s.addSkein(ctx, making, in) })
}

func (s *Room) addSkein(ctx context.Context, making int64, in Skein) (Skein, error) {
	in.ID, in.MakingID = 0, making
	lots := in.Lots
	for i, id := range lots {
		if _, err := s.shelf.Lot(ctx, id); err != nil {
			return in, fault.New(fmt.Sprintf("lots[%d]", i), "That lot is not on the shelf.")
		}
	}
	out, err := s.putSkein(ctx, in)
	if err != nil {
		return out, err
	}
	for _, id := range lots {
		l, err := s.shelf.Lot(ctx, id)
		if err != nil {
			return out, err
		}
		if l.Grams > 0 {
			key := fmt.Sprintf("skein-%d-lot-%d", out.ID, id)
			if _, err := s.shelf.Move(ctx, id, shelf.MoveInput{Reason: shelf.Spun, Grams: l.Grams, Note: out.Name, Key: key}); err != nil {
				return out, err
			}
		}
	}
	return out, nil
}

// SaveSkein replaces a skein, based on its version. What was spun up stays as it was told.
func (s *Room) SaveSkein(ctx context.Context, id, version int64, in Skein) (Skein, error) {
	old, err := s.OneSkein(ctx, id)
	if err != nil {
		return old, err
	}
	in.ID, in.Version, in.MakingID, in.Lots = id, version, old.MakingID, old.Lots
	return s.putSkein(ctx, in)
}

func (s *Room) putSkein(ctx context.Context, in Skein) (Skein, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the skein", &in.Name, floor.MaxName, true)
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
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
	checkWorn(&l, &in.Later, s.Store.Now())
	if in.Turns > 0 && in.GirthCM > 0 {
		in.LengthM = yarn.Wound(in.Turns, in.GirthCM)
	}
	if in.LengthM <= 0 && in.WeightG <= 0 {
		l.Add("length_m", "Give its length, its turns and girth, or its weight.")
	}
	if err := l.Err(); err != nil {
		return in, err
	}
	row, err := store.PutPiece(ctx, s.Store, store.Skein{
		Base: store.Base{ID: in.ID, Version: in.Version}, MakingID: in.MakingID, Name: in.Name, Told: in.SkeinTold,
	})
	return skeinOf(row), floor.ConvertStale(err, func(r store.Skein) (Skein, error) { return skeinOf(r), nil })
}

// MadeLots lists the lots that a making has put back on the shelf and that are not gone.
func (s *Room) MadeLots(ctx context.Context, making int64) ([]shelf.Lot, error) {
	shelf, err := s.shelf.Shelf(ctx, shelf.LotFilter{Stock: "some", Made: making, Sort: "name", Limit: 200})
	return shelf.Lots, err
}
