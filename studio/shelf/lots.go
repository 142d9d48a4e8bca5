package shelf

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// LotColour is one colour of a lot. Share is of the lot; the shares of all its
// colours add up to 1. Source is how the colour became known.
type LotColour struct {
	Hex    string  `json:"hex"`
	Share  float64 `json:"share"`
	Source string  `json:"source"`
	// Reflectance is what a colour reader measured, 36 bands; empty where only
	// the colour is known. The hex follows from it.
	Reflectance []float64 `json:"reflectance,omitempty"`
	// Sigma is how unsure a foreseen colour is, in CIEDE2000.
	Sigma float64 `json:"sigma_delta_e,omitempty"`
}

// LotInput is what describes a lot.
type LotInput struct {
	Name        string      `json:"name"`
	Kind        string      `json:"kind"`
	Preparation string      `json:"preparation"`
	Colours     []LotColour `json:"colours"`
	StapleMM    *float64    `json:"staple_mm"`
	Superwash   bool        `json:"superwash"`
	CostPer100g *float64    `json:"cost_per_100g"`
	Lies        string      `json:"lies"` // how its colours lie; empty: as its preparation has it
	// RunCM is how long one colour runs along, or how large a blotch is; 0: as usual.
	RunCM float64 `json:"run_cm"`
	// PhotoID is a photo that shows it; null: none.
	PhotoID *int64 `json:"photo_id"`
	fibre.Words
}

// Lot is a lot of the shelf.
type Lot struct {
	ID      int64 `json:"id"`
	Version int64 `json:"version"`
	LotInput
	Grams    float64 `json:"grams"`
	MeanHex  string  `json:"mean_hex"`
	KindName string  `json:"kind_name"`
	// Made is of what it was made here; null where it came from elsewhere.
	Made *Made `json:"made"`
	// ColoursBefore are those before they were last changed; empty at first.
	ColoursBefore []LotColour `json:"colours_before"`
	layBefore     string
	ranBefore     float64
	// WorkingStapleMM is the measured staple, or the middle of the kind's.
	WorkingStapleMM float64 `json:"working_staple_mm"`
	Measured        bool    `json:"staple_measured"`

	Fibre fibre.Kind `json:"-"`
}

// KindProperties returns what a tuft of this lot is drawn from.
func (l Lot) KindProperties() fibre.Kind { return l.Fibre }

// PreparationName is the preparation in words.
func (l Lot) PreparationName() string { return PreparationName(l.Preparation) }

func PreparationName(key string) string {
	p, _ := fibre.FindPreparation(key)
	return p.Name
}

// Sources of a lot's colour as stored, with the words shown.
var colourSources = []mix.Source{mix.Picker, mix.Value, mix.Photo, mix.Reader, mix.Foreseen}

func (in *LotInput) check(kinds workshop.Kinds) error {
	var l fault.List
	floor.CheckText(&l, "name", "the lot", &in.Name, floor.MaxName, true)
	for _, w := range in.Words.Each() {
		most := floor.MaxName
		if w.Long {
			most = floor.MaxNote
		}
		floor.CheckText(&l, w.Name, "", w.Text, most, false)
	}
	if _, ok := kinds.Find(in.Kind); !ok {
		l.Add("kind", "Choose a kind of fibre from the list, or add one of your own in the workshop.")
	}
	if _, ok := fibre.FindPreparation(in.Preparation); !ok {
		l.Add("preparation", "Choose a preparation from the list.")
	}
	if can := fibre.Can.StapleMM; in.StapleMM != nil && !can.Holds(*in.StapleMM) {
		l.Add("staple_mm", "The staple lies between %s and %s. Leave it empty to use the kind's.", unit.Millimetres(can.Least), unit.Millimetres(can.Most))
	}
	if in.CostPer100g != nil && !(*in.CostPer100g >= 0 && *in.CostPer100g <= 1e6) {
		l.Add("cost_per_100g", "The cost is 0 or more and at most 1,000,000.")
	}
	in.checkColours(&l)
	if in.Lies != "" && !slices.ContainsFunc(fibre.Lies, func(v fibre.Lie) bool { return v.Key == in.Lies }) {
		l.Add("lies", "Colours lie along, across, in patches, at the tips, or stirred.")
	}
	if !(in.RunCM >= 0 && in.RunCM <= mostRunCM) {
		l.Add("run_cm", "A colour runs for above %s, at most for %s. Leave it empty for what is usual.", unit.Millimetres(0), unit.Millimetres(mostRunCM*10))
	}
	if in.Lies == "tips" && len(in.Colours) != 2 {
		l.Add("lies", "A staple with a tip has two colours.")
	}
	return l.Err()
}

// mostRunCM is how long a colour runs at most.
const mostRunCM = 200

// MostColours of a lot: as many as a forecast follows of one fibre.
const MostColours = 24

func (in *LotInput) checkColours(l *fault.List) {
	if n := len(in.Colours); n == 0 || n > MostColours {
		l.Add("colours", "A lot has 1 to %d colours.", MostColours)
	}
	var sum float64
	for i := range in.Colours {
		c := &in.Colours[i]
		field := fmt.Sprintf("colours[%d]", i)
		if len(c.Reflectance) > 0 {
			r, _, err := (workshop.ColourInput{Reflectance: c.Reflectance}).Read()
			l.Take(field, err)
			if err == nil {
				c.Hex = r.Linear().Hex()
			}
		}
		c.Hex = strings.ToLower(strings.TrimSpace(c.Hex))
		if _, err := colour.ParseHex(c.Hex); err != nil {
			*l = append(*l, fault.Under(field, err).(fault.List)...)
		}
		if c.Source == "" {
			c.Source = string(mix.Picker)
		}
		if !slices.Contains(colourSources, mix.Source(c.Source)) {
			l.Add(field+".source", "A colour comes from a picker, a value, a photo or a reader.")
		}
		if c.Source != string(mix.Foreseen) || !(c.Sigma >= 0 && c.Sigma <= 100) {
			c.Sigma = 0
		}
		if c.Share == 0 && len(in.Colours) == 1 {
			c.Share = 1
		}
		if !(c.Share > 0 && c.Share <= 1e6) {
			l.Add(field+".share", "A colour's share is above 0.")
			continue
		}
		sum += c.Share
	}
	if len(*l) == 0 {
		for i := range in.Colours {
			in.Colours[i].Share /= sum
		}
	}
}

func (in LotInput) row() store.Lot {
	r := store.Lot{
		Name: in.Name, Kind: in.Kind, Preparation: in.Preparation, StapleMM: in.StapleMM,
		Superwash: in.Superwash, Lies: in.Lies, RunCM: in.RunCM, PhotoID: in.PhotoID, Words: in.Words,
	}
	if in.CostPer100g != nil {
		cents := int64(math.Round(*in.CostPer100g * 100))
		r.CentsPer100g = &cents
	}
	for _, c := range in.Colours {
		r.Colours = append(r.Colours, store.Colour(c))
	}
	r.ShelfOrder = colour.ShelfOrder(floor.MeanLinear(r.Colours))
	return r
}

// LotOf is a kept lot as it is shown.
func LotOf(r store.Lot, kinds workshop.Kinds) Lot {
	l := Lot{
		ID: r.ID, Version: r.Version, Grams: float64(r.GramsMg.Grams()), Fibre: kinds.Named(r.Kind),
		LotInput: LotInput{
			Name: r.Name, Kind: r.Kind, Preparation: r.Preparation, StapleMM: r.StapleMM,
			Superwash: r.Superwash, Lies: r.Lies, RunCM: r.RunCM, PhotoID: r.PhotoID, Words: r.Words, Colours: []LotColour{},
		},
	}
	for _, c := range r.Colours {
		l.Colours = append(l.Colours, LotColour(c))
	}
	l.ColoursBefore, l.layBefore, l.ranBefore = []LotColour{}, r.LiesBefore, r.RunCMBefore
	for _, c := range r.ColoursBefore {
		l.ColoursBefore = append(l.ColoursBefore, LotColour(c))
	}
	l.MeanHex = floor.MeanLinear(r.Colours).Hex()
	if r.CentsPer100g != nil {
		c := float64(*r.CentsPer100g) / 100
		l.CostPer100g = &c
	}
	l.Made = madeOf(r.Made)
	l.KindName, l.WorkingStapleMM = l.Fibre.Name, l.Fibre.StapleMM.Mid()
	if r.StapleMM != nil {
		l.WorkingStapleMM, l.Measured = *r.StapleMM, true
	}
	return l
}

// LotFilter picks lots of the shelf.
type LotFilter = store.LotFilter

// Filter returns the filter for words, a kind ("family:x" for a family), what
// there is of it and an order.
func (s *Room) Filter(ctx context.Context, words, kind, stock, order string) (LotFilter, error) {
	f := LotFilter{Search: words, Sort: order, Stock: stock}
	if kind == "" {
		return f, nil
	}
	f.Kinds = []string{kind}
	if family, ok := strings.CutPrefix(kind, "family:"); ok {
		kinds, err := s.workshop.AllKinds(ctx, true)
		if err != nil {
			return f, err
		}
		f.Kinds = []string{}
		for _, k := range kinds.List {
			if k.Family == family {
				f.Kinds = append(f.Kinds, k.Key)
			}
		}
	}
	return f, nil
}

// Shelf is a page of the shelf.
type Shelf struct {
	Lots  []Lot `json:"lots"`
	Total int64 `json:"total"`
}

// Shelf finds lots. Search also finds the names of kinds.
func (s *Room) Shelf(ctx context.Context, f LotFilter) (Shelf, error) {
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return Shelf{}, err
	}
	rows, total, err := s.Store.Lots(ctx, f)
	out := Shelf{Lots: make([]Lot, len(rows)), Total: total}
	for i, r := range rows {
		out.Lots[i] = LotOf(r, kinds)
	}
	return out, err
}

// KindsInUse returns the kinds that lie on the shelf, by name, without what was blended here.
func (s *Room) KindsInUse(ctx context.Context) ([]fibre.Kind, error) {
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return nil, err
	}
	used, err := s.Store.KindsInUse(ctx)
	var out []fibre.Kind
	for _, k := range kinds.List {
		if slices.Contains(used, k.Key) && !k.Blended {
			out = append(out, k)
		}
	}
	return out, err
}

// Lot returns one lot.
func (s *Room) Lot(ctx context.Context, id int64) (Lot, error) {
	r, err := s.Store.Lot(ctx, id)
	if err != nil {
		return Lot{}, err
	}
	return s.withKinds(ctx, r)
}

func (s *Room) withKinds(ctx context.Context, r store.Lot) (Lot, error) {
	kinds, err := s.workshop.AllKinds(ctx, true)
	return LotOf(r, kinds), err
}

// NewLot is a lot with the grams it starts with.
type NewLot struct {
	LotInput
	Grams float64 `json:"grams"`
}

// CreateLots puts lots on the shelf, all or none. Faults carry the lot's index
// when there are several.
func (s *Room) CreateLots(ctx context.Context, in []NewLot, note string) ([]Lot, error) {
	return s.createLots(ctx, in, note, "")
}

func (s *Room) createLots(ctx context.Context, in []NewLot, note, key string) ([]Lot, error) {
	rows, err := s.newLots(ctx, in, note, key)
	if err != nil {
		return nil, err
	}
	kinds, err := s.workshop.AllKinds(ctx, false)
	out := make([]Lot, len(rows))
	for i, r := range rows {
		out[i] = LotOf(r, kinds)
	}
	return out, err
}

// BringIn is CreateLots for lots that were read from a file: the same key a second
// time brings in nothing.
func (s *Room) BringIn(ctx context.Context, in []NewLot, key string) ([]Lot, error) {
	return s.createLots(ctx, in, "brought in from a file", key)
}

func (s *Room) newLots(ctx context.Context, in []NewLot, note, key string) ([]store.Lot, error) {
	check, err := s.LotChecker(ctx)
	if err != nil {
		return nil, err
	}
	rows := make([]store.Lot, len(in))
	for i := range in {
		if err := check(&in[i]); err != nil {
			if len(in) > 1 {
				return nil, fault.Under(fmt.Sprintf("lots[%d]", i), err)
			}
			return nil, err
		}
		if err := s.shows(ctx, in[i].PhotoID); err != nil {
			return nil, err
		}
		rows[i] = in[i].row()
		rows[i].GramsMg = unit.Grams(in[i].Grams).Milligrams()
	}
	return s.Store.CreateLots(ctx, rows, note, key)
}

// UpdateLot saves what describes a lot, based on a version of it.
func (s *Room) UpdateLot(ctx context.Context, id, version int64, in LotInput) (Lot, error) {
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return Lot{}, err
	}
	if err := in.check(kinds); err != nil {
		return Lot{}, err
	}
	if err := s.showsNow(ctx, id, in.PhotoID); err != nil {
		return Lot{}, err
	}
	row := in.row()
	row.ID, row.Version = id, version
	row, err = s.Store.UpdateLot(ctx, row)
	return LotOf(row, kinds), floor.ConvertStale(err, func(r store.Lot) (Lot, error) { return LotOf(r, kinds), nil })
}

// ColoursBack puts the colours back that a lot had before the last change.
func (s *Room) ColoursBack(ctx context.Context, id, version int64) (Lot, error) {
	l, err := s.Lot(ctx, id)
	if err != nil {
		return l, err
	}
	if len(l.ColoursBefore) == 0 {
		return l, fault.New("colours", "The colour of this lot was not changed yet.")
	}
	in := l.LotInput
	in.Colours, in.Lies, in.RunCM = l.ColoursBefore, l.layBefore, l.ranBefore
	return s.UpdateLot(ctx, id, version, in)
}

// BlendsUsing names the blends in which a lot is a component.
func (s *Room) BlendsUsing(ctx context.Context, lot int64) ([]BlendName, error) {
	rows, err := s.Store.BlendsUsing(ctx, lot)
	out := make([]BlendName, len(rows))
	for i, r := range rows {
		out[i] = BlendName{r.ID, r.Name}
	}
	return out, err
}

// BlendName is a blend by its name.
type BlendName struct {
	ID   int64  `json:"id"`
	Name string `json:"name"`
}
