package studio

import (
	"context"
	_ "embed"
	"encoding/csv"
	"slices"
	"strconv"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/store"
)

//go:embed devices.csv
var devicesCSV string

// Presets gives the equipment presets that come with the program.
func Presets() []store.Equipment {
	rows, err := csv.NewReader(strings.NewReader(devicesCSV)).ReadAll()
	if err != nil {
		panic("studio: embedded devices.csv is damaged: " + err.Error())
	}
	out := make([]store.Equipment, 0, len(rows)-1)
	for _, r := range rows[1:] {
		v := map[string]string{}
		for i, col := range rows[0] {
			v[col] = r[i]
		}
		n := func(col string) float64 { // empty where it does not apply
			f, _ := strconv.ParseFloat(v[col], 64)
			return f
		}
		out = append(out, store.Equipment{
			Preset: v["key"], Name: v["name"], Type: v["kind"], Drive: v["drive"], WidthMM: n("cloth_width_mm"),
			LengthMM: n("length_mm"), TPI: n("tpi"), ToothMM: n("tooth_height_mm"), SmoothG: n("smooth_capacity_g"),
			LoftyG: n("lofty_capacity_g"), Minutes: n("minutes_per_batt"), FeedG: n("feed_g_per_turn"),
		})
	}
	return out
}

// furnish gives an empty workshop its first two pieces: the standard drum and
// the large board. The other presets are a click away.
func (s *Studio) furnish(ctx context.Context) error {
	have, err := s.store.Equipment(ctx)
	if err != nil || len(have) > 0 {
		return err
	}
	bin, err := s.store.Bin(ctx)
	if err != nil || slices.ContainsFunc(bin, func(b store.BinItem) bool { return b.Table == "equipment" }) {
		return err
	}
	for _, p := range Presets() {
		if p.Preset == "drum_standard_hand" || p.Preset == "board_large" {
			if _, err := s.store.CreateEquipment(ctx, p); err != nil {
				return err
			}
		}
	}
	return nil
}

// Equipment lists what stands in the workshop.
func (s *Studio) Equipment(ctx context.Context) ([]store.Equipment, error) {
	return s.store.Equipment(ctx)
}

// OneEquipment gives one piece.
func (s *Studio) OneEquipment(ctx context.Context, id int64) (store.Equipment, error) {
	return s.store.OneEquipment(ctx, id)
}

// EquipmentTypes and Drives are the words offered.
var (
	EquipmentTypes = []string{"drum", "board", "hand_cards"}
	Drives         = []string{"hand", "electric"}
)

// SaveEquipment adds a piece (ID 0) or saves one.
func (s *Studio) SaveEquipment(ctx context.Context, e store.Equipment) (store.Equipment, error) {
	var l fault.List
	checkText(&l, "name", "it", &e.Name, maxName, true)
	checkText(&l, "note", "", &e.Note, maxNote, false)
	if !slices.Contains(EquipmentTypes, e.Type) {
		l.Add("type", "Choose a drum, a board or hand cards.")
	}
	if !slices.Contains(Drives, e.Drive) {
		l.Add("drive", "Choose hand or electric.")
	}
	within := func(field string, v, lo, hi float64, what string) {
		if !(v >= lo && v <= hi) {
			l.Add(field, "%s lies between %g and %g.", what, lo, hi)
		}
	}
	within("width_mm", e.WidthMM, 10, 2000, "The width in mm")
	within("length_mm", e.LengthMM, 10, 5000, "The length in mm")
	within("tpi", e.TPI, 5, 500, "Points per square inch")
	within("tooth_mm", e.ToothMM, 1, 60, "The tooth height in mm")
	within("smooth_g", e.SmoothG, 0.5, 5000, "The load of smooth fibre in g")
	within("lofty_g", e.LoftyG, 0.5, 5000, "The load of lofty fibre in g")
	within("minutes", e.Minutes, 0, 600, "Minutes for one filling")
	within("feed_g", e.FeedG, 0, 100, "Grams fed in a turn")
	if err := l.Err(); err != nil {
		return e, err
	}
	if e.ID == 0 {
		return s.store.CreateEquipment(ctx, e)
	}
	return s.store.UpdateEquipment(ctx, e)
}

// OwnKind gives one of the maker's own kinds with its id and version.
func (s *Studio) OwnKind(ctx context.Context, id int64) (store.Kind, error) {
	return s.store.Kind(ctx, id)
}

// OwnKinds lists the maker's own kinds.
func (s *Studio) OwnKinds(ctx context.Context) ([]store.Kind, error) {
	return s.store.Kinds(ctx, false)
}

// SaveKind adds a kind of the maker's own (ID 0) or saves one.
func (s *Studio) SaveKind(ctx context.Context, k store.Kind) (store.Kind, error) {
	var l fault.List
	checkText(&l, "name", "the kind", &k.Name, maxName, true)
	checkText(&l, "note", "", &k.Note, maxNote, false)
	if err := kindOf(k).Check(); err != nil {
		more, _ := fault.From(err)
		for _, f := range more {
			if f.Field != "name" { // said above
				l = append(l, f)
			}
		}
	}
	if err := l.Err(); err != nil {
		return k, err
	}
	if k.ID == 0 {
		return s.store.CreateKind(ctx, k)
	}
	return s.store.UpdateKind(ctx, k)
}

// Settings gives the workshop's settings.
func (s *Studio) Settings(ctx context.Context) (store.Settings, error) { return s.store.Settings(ctx) }

// The words and steps that settings offer. A scale that reads ounces has its
// steps in whole milligrams all the same.
var (
	WeightUnits = []string{"g", "oz"}
	LengthUnits = []string{"cm", "in"}
	Grounds     = []string{"light", "mid", "dark"}
	ScaleSteps  = []unit.Milligrams{1, 5, 10, 50, 100, 200, 500, 1000, 2000, 5000}
	OunceSteps  = []unit.Milligrams{142, 283, 1417, 2835}
	Models      = []mix.Name{mix.StearnsNoechel, mix.Friele, mix.KubelkaMunk}
)

// SaveSettings saves the workshop's settings.
func (s *Studio) SaveSettings(ctx context.Context, v store.Settings) (store.Settings, error) {
	var l fault.List
	oneOf := func(field, v string, words []string) {
		if !slices.Contains(words, v) {
			l.Add(field, "Choose one of: %s.", strings.Join(words, ", "))
		}
	}
	oneOf("weight_unit", v.WeightUnit, WeightUnits)
	oneOf("length_unit", v.LengthUnit, LengthUnits)
	oneOf("ground", v.Ground, Grounds)
	if v.StepMg < 1 || v.StepMg > 100_000 {
		l.Add("step_g", "The scale's step lies between 0.001 and 100 g.")
	}
	m, err := mix.NewModel(mix.Name(v.Model), v.ModelParameter)
	if err != nil {
		more, _ := fault.From(err)
		l = append(l, more...)
	}
	checkText(&l, "currency", "", &v.Currency, 8, false)
	readerAddress(&l, &v.ReaderAddress)
	if err := l.Err(); err != nil {
		return v, err
	}
	v.Model, v.ModelParameter = string(m.Name), m.Parameter
	return s.store.UpdateSettings(ctx, v)
}

// Bin lists what can be taken back.
func (s *Studio) Bin(ctx context.Context) ([]store.BinItem, error) { return s.store.Bin(ctx) }

// Discard puts something into the bin.
func (s *Studio) Discard(ctx context.Context, table string, id int64) error {
	return s.store.Discard(ctx, table, id)
}

// Restore takes something out of the bin.
func (s *Studio) Restore(ctx context.Context, table string, id int64) error {
	return s.store.Restore(ctx, table, id)
}

// KindOptions lists kinds for a choice, family by family.
func KindOptions(kinds []fibre.Kind) (families []string, by map[string][]fibre.Kind) {
	by = map[string][]fibre.Kind{}
	for _, k := range kinds {
		by[k.Family] = append(by[k.Family], k)
	}
	for _, f := range fibre.Families {
		if len(by[f]) > 0 {
			families = append(families, f)
		}
	}
	return families, by
}
