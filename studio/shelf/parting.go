package shelf

import (
	"context"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// MostParts is into how many lots one is parted at most.
const MostParts = 24

// PartInput is a lot that comes of another. What is left out is that of the other; colours are all of the other's, or those that
// Colours counts, or those that Own names.
type PartInput struct {
	Name     string      `json:"name"`
	Grams    float64     `json:"grams"`
	Colours  []int       `json:"colours,omitempty"`
	Own      []LotColour `json:"own_colours,omitempty"`
	StapleMM *float64    `json:"staple_mm"`
	Kind     string      `json:"kind,omitempty"`
}

// PartingInput asks to part a lot. Taken is how much of it; 0: all. What the parts weigh less than that is missing, for
// the reason Why. The same key a second time parts nothing.
type PartingInput struct {
	TakenG float64     `json:"taken_g"`
	Parts  []PartInput `json:"parts"`
	Why    string      `json:"why"`
	Key    string      `json:"key"`
}

// PartingLot is a lot of a parting with what it came with, or what it gave.
type PartingLot struct {
	ID    int64   `json:"id"`
	Name  string  `json:"name"`
	Hex   string  `json:"hex"`
	Grams float64 `json:"grams"`
}

// Parting is a lot that became several, or several that became one.
type Parting struct {
	ID       int64        `json:"id"`
	At       string       `json:"at"`
	Sort     string       `json:"sort"` // parted, together
	Lot      PartingLot   `json:"lot"`  // that was parted, or into which the others went
	Parts    []PartingLot `json:"parts"`
	MissingG float64      `json:"missing_g"`
	Why      string       `json:"why"`
	Undone   bool         `json:"undone"`
}

// The sorts of a parting.
const (
	PartedLot  = store.PartedLot
	TogetherIn = store.TogetherIn
)

// Part makes lots of a lot: the sum of what they weigh and of what is missing is what was taken.
func (s *Room) Part(ctx context.Context, lot int64, in PartingInput) (Parting, error) {
	l, err := s.Lot(ctx, lot)
	if err != nil {
		return Parting{}, err
	}
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return Parting{}, err
	}
	var wrong fault.List
	floor.CheckGrams(&wrong, "taken_g", in.TakenG)
	floor.CheckText(&wrong, "why", "", &in.Why, floor.MaxNote, false)
	if n := len(in.Parts); n < 1 || n > MostParts {
		wrong.Add("parts", "A lot is parted into 1 to %d.", MostParts)
		return Parting{}, wrong
	}
	var rows []store.Lot
	for i, p := range in.Parts {
		at := fmt.Sprintf("parts[%d]", i)
		row, err := partOf(l, p)
		if err == nil {
			err = row.check(kinds)
		}
		wrong.Take(at, err)
		floor.CheckGrams(&wrong, at+".grams", p.Grams)
		r := row.row()
		if r.GramsMg = unit.Grams(p.Grams).Milligrams(); r.GramsMg <= 0 && len(wrong) == 0 {
			wrong.Add(at+".grams", "Enter what it weighs.")
		}
		rows = append(rows, r)
	}
	if err := wrong.Err(); err != nil {
		return Parting{}, err
	}
	p, err := s.Store.PartLot(ctx, store.Parting{LotID: lot, Why: in.Why}, unit.Grams(in.TakenG).Milligrams(), rows, in.Key)
	if err != nil {
		return Parting{}, err
	}
	return s.partingOf(ctx, p)
}

// partOf is what describes a part of a lot.
func partOf(l Lot, p PartInput) (LotInput, error) {
	in := l.LotInput
	in.Name, in.Colours, in.Words.Place = p.Name, slices.Clone(l.Colours), ""
	if p.StapleMM != nil {
		in.StapleMM = p.StapleMM
	}
	if p.Kind != "" {
		in.Kind = p.Kind
	}
	switch {
	case len(p.Own) > 0:
		in.Colours = p.Own
	case len(p.Colours) > 0:
		in.Colours = nil
		for _, n := range p.Colours {
			if n < 0 || n >= len(l.Colours) {
				return in, fault.New("colours", "The lot has no such colour.")
			}
			in.Colours = append(in.Colours, l.Colours[n])
		}
	}
	if len(in.Colours) < 2 || in.Lies == "tips" && len(in.Colours) != 2 {
		in.Lies, in.RunCM = "", 0
	}
	return in, nil
}

// PutTogether puts all fibre of other lots to a lot: of one kind, prepared in one way. Its colours are those of all, by weight.
func (s *Room) PutTogether(ctx context.Context, lot, version int64, others []int64, key string) (Parting, error) {
	into, err := s.Lot(ctx, lot)
	if err != nil {
		return Parting{}, err
	}
	if len(others) == 0 || len(others) > MostParts {
		return Parting{}, fault.New("lots", "Choose what is put to it.")
	}
	all := []Lot{into}
	for _, id := range others {
		l, err := s.Lot(ctx, id)
		switch {
		case err != nil || id == lot:
			return Parting{}, fault.New("lots", "Choose another lot of the shelf.")
		case l.Kind != into.Kind || l.Preparation != into.Preparation || l.Superwash != into.Superwash:
			return Parting{}, fault.New("lots", "%s is another kind of fibre or prepared another way: it keeps its own bag.", l.Name)
		}
		all = append(all, l)
	}
	in := into.LotInput
	if in.Colours = coloursTogether(all); len(in.Colours) > MostColours {
		return Parting{}, fault.New("lots", "Together they have %d colours; a lot has at most %d.", len(in.Colours), MostColours)
	}
	row := in.row()
	row.ID, row.Version = lot, version
	p, err := s.Store.PutTogether(ctx, row, others, key)
	if err != nil {
		kinds, kindsErr := s.workshop.AllKinds(ctx, true)
		if kindsErr != nil {
			return Parting{}, kindsErr
		}
		return Parting{}, floor.ConvertStale(err, func(r store.Lot) (Lot, error) { return LotOf(r, kinds), nil })
	}
	return s.partingOf(ctx, p)
}

// coloursTogether are the colours of lots with their shares of all of it; what is the same colour twice is one.
func coloursTogether(lots []Lot) (out []LotColour) {
	var all float64
	for _, l := range lots {
		all += l.Grams
	}
	for _, l := range lots {
		for _, c := range l.Colours {
			c.Share *= l.Grams / math.Max(all, 1e-9)
			same := func(o LotColour) bool { return o.Hex == c.Hex && slices.Equal(o.Reflectance, c.Reflectance) }
			if i := slices.IndexFunc(out, same); i >= 0 {
				out[i].Share += c.Share
			} else if c.Share > 0 {
				out = append(out, c)
			}
		}
	}
	return out
}

// Unpart takes a parting of a lot back as a whole.
func (s *Room) Unpart(ctx context.Context, lot, parting int64) (Parting, error) {
	p, err := s.Store.Unpart(ctx, lot, parting)
	if err != nil {
		return Parting{}, err
	}
	return s.partingOf(ctx, p)
}

// Partings are those that a lot came of, went into or was parted in, the latest first.
func (s *Room) Partings(ctx context.Context, lot int64) ([]Parting, error) {
	rows, err := s.Store.PartingsOf(ctx, lot)
	out := make([]Parting, 0, len(rows))
	for _, r := range rows {
		p, err := s.partingOf(ctx, r)
		if err != nil {
			return nil, err
		}
		out = append(out, p)
	}
	return out, err
}

func (s *Room) partingOf(ctx context.Context, r store.Parting) (Parting, error) {
	ids := []int64{r.LotID}
	out := Parting{ID: r.ID, At: r.At.Format(floor.TimeForm), Sort: r.Sort, Parts: []PartingLot{}, MissingG: float64(r.MissingMg.Grams()), Why: r.Why,
		Undone: r.Undone}
	var sum unit.Milligrams
	for _, p := range r.Parts {
		ids, sum = append(ids, p.LotID), sum+p.Mg
	}
	lots, err := s.Store.LotsByID(ctx, ids)
	of := func(id int64, mg unit.Milligrams) PartingLot {
		return PartingLot{ID: id, Name: lots[id].Name, Hex: floor.MeanLinear(lots[id].Colours).Hex(), Grams: float64(mg.Grams())}
	}
	out.Lot = of(r.LotID, sum+r.MissingMg)
	for _, p := range r.Parts {
		out.Parts = append(out.Parts, of(p.LotID, p.Mg))
	}
	return out, err
}

// PartsBy proposes how a lot is parted: by its colours, into its two coats, or by hand into n; all weights in whole milligrams.
func (l Lot) PartsBy(by string, n int) (out []PartInput) {
	shares, names := []float64{}, []string{}
	switch {
	case by == "colour" && len(l.Colours) > 1:
		for i, c := range l.Colours {
			shares, names = append(shares, c.Share), append(names, fmt.Sprintf("%s, colour %d", l.Name, i+1))
		}
	case by == "coat":
		n = 2
		shares, names = []float64{0.5, 0.5}, []string{l.Name + ", undercoat", l.Name + ", outer coat"}
	default:
		by = "hand"
		for i := range n {
			shares, names = append(shares, 1), append(names, fmt.Sprintf("%s, %d of %d", l.Name, i+1, n))
		}
	}
	var sum float64
	for _, v := range shares {
		sum += v
	}
	left := unit.Grams(l.Grams).Milligrams()
	for i, v := range shares {
		mg := unit.Grams(math.Floor(l.Grams*v/sum*10) / 10).Milligrams()
		if i == len(shares)-1 {
			mg = left
		}
		left -= mg
		p := PartInput{Name: names[i], Grams: float64(mg.Grams())}
		if by == "colour" {
			p.Colours = []int{i}
		}
		out = append(out, p)
	}
	return out
}
