package workshop

import (
	"context"
	_ "embed"
	"encoding/csv"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

//go:embed devices.csv
var devicesCSV string

// Equipment is a carder, a board or a pair of cards. Its loads are of smooth and
// of lofty fibre; minutes are those of one filling.
type Equipment struct {
	ID, Version int64
	Preset      string
	Name        string
	Type        string // drum, board, hand_cards, hands
	Drive       string // hand, electric
	WidthMM     float64
	LengthMM    float64
	TPI         float64
	ToothMM     float64
	SmoothG     float64
	LoftyG      float64
	Minutes     float64
	FeedG       float64
	Note        string
	Binned      bool // lay-ups on it stay what they are
}

// EquipmentOf is a row of the equipment as it is shown.
func EquipmentOf(r store.Equipment) Equipment {
	return Equipment{
		ID: r.ID, Version: r.Version, Preset: r.Preset, Name: r.Name, Type: r.Type, Drive: r.Drive, WidthMM: r.WidthMM, LengthMM: r.LengthMM,
		TPI: r.TPI, ToothMM: r.ToothMM, SmoothG: r.SmoothG, LoftyG: r.LoftyG, Minutes: r.Minutes, FeedG: r.FeedG, Note: r.Note, Binned: r.DeletedAt.Valid,
	}
}

// Row is the equipment as it is kept.
func (e Equipment) Row() store.Equipment {
	return store.Equipment{
		Base: store.Base{ID: e.ID, Version: e.Version}, Preset: e.Preset, Name: e.Name, Type: e.Type, Drive: e.Drive, WidthMM: e.WidthMM,
		LengthMM: e.LengthMM, TPI: e.TPI, ToothMM: e.ToothMM, SmoothG: e.SmoothG, LoftyG: e.LoftyG, Minutes: e.Minutes, FeedG: e.FeedG, Note: e.Note,
	}
}

// Presets returns the equipment presets that come with the program.
func Presets() []Equipment {
	rows, err := csv.NewReader(strings.NewReader(devicesCSV)).ReadAll()
	if err != nil {
		panic("studio: embedded devices.csv is damaged: " + err.Error())
	}
	out := make([]Equipment, 0, len(rows)-1)
	for _, r := range rows[1:] {
		v := map[string]string{}
		for i, col := range rows[0] {
			v[col] = r[i]
		}
		n := func(col string) float64 { // empty where it does not apply
			f, _ := strconv.ParseFloat(v[col], 64)
			return f
		}
		out = append(out, Equipment{
			Preset: v["key"], Name: v["name"], Type: v["kind"], Drive: v["drive"], WidthMM: n("cloth_width_mm"),
			LengthMM: n("length_mm"), TPI: n("tpi"), ToothMM: n("tooth_height_mm"), SmoothG: n("smooth_capacity_g"),
			LoftyG: n("lofty_capacity_g"), Minutes: n("minutes_per_batt"), FeedG: n("feed_g_per_turn"),
		})
	}
	return out
}

// Furnish returns an empty workshop its first two pieces: the standard drum and
// the large board. The other presets are a click away.
func (s *Room) Furnish(ctx context.Context) error {
	var first []store.Equipment
	for _, p := range Presets() {
		if p.Preset == "drum_standard_hand" || p.Preset == "board_large" {
			first = append(first, p.Row())
		}
	}
	return s.Store.Furnish(ctx, first)
}

// Equipment lists what stands in the workshop.
func (s *Room) Equipment(ctx context.Context) ([]Equipment, error) {
	rows, err := s.Store.Equipment(ctx)
	out := make([]Equipment, len(rows))
	for i, r := range rows {
		out[i] = EquipmentOf(r)
	}
	return out, err
}

// OneEquipment returns one piece.
func (s *Room) OneEquipment(ctx context.Context, id int64) (Equipment, error) {
	r, err := s.Store.OneEquipment(ctx, id)
	return EquipmentOf(r), err
}

// AnyEquipment returns one piece, also from the bin: lay-ups on it stay what they
// are.
func (s *Room) AnyEquipment(ctx context.Context, id int64) (Equipment, error) {
	r, err := s.Store.AnyEquipment(ctx, id)
	return EquipmentOf(r), err
}

// LaidOn is what something that is kept was laid on; where nothing is kept of it any more, a usual
// one stands for it, binned and called so.
func (s *Room) LaidOn(ctx context.Context, id int64) (Equipment, error) {
	e, err := s.AnyEquipment(ctx, id)
	if errors.Is(err, floor.ErrNotFound) {
		e = Presets()[0]
		e.ID, e.Version, e.Binned, e.Name = id, 0, true, fmt.Sprintf("equipment %d, no longer known", id)
		return e, nil
	}
	return e, err
}

// EquipmentTypes and Drives are the words offered.
var (
	EquipmentTypes = []string{"drum", "board", "hand_cards", "hands"}
	Drives         = []string{"hand", "electric"}
)

// SaveEquipment adds a piece (ID 0) or saves one.
func (s *Room) SaveEquipment(ctx context.Context, e Equipment) (Equipment, error) {
	var l fault.List
	floor.CheckText(&l, "name", "it", &e.Name, floor.MaxName, true)
	floor.CheckText(&l, "note", "", &e.Note, floor.MaxNote, false)
	if !slices.Contains(EquipmentTypes, e.Type) {
		l.Add("type", "Choose a drum, a board, hand cards or bare hands.")
	}
	if !slices.Contains(Drives, e.Drive) {
		l.Add("drive", "Choose hand or electric.")
	}
	within := func(field string, v float64, can unit.Limits, what string, of func(float64) any) {
		if !can.Holds(v) {
			l.Add(field, "%s lies between %v and %v.", what, of(can.Least), of(can.Most))
		}
	}
	plain := func(v float64) any { return v }
	mm := func(v float64) any { return unit.Millimetres(v) }
	grams := func(v float64) any { return unit.Grams(v) }
	within("width_mm", e.WidthMM, layup.Can.WidthMM, "The width", mm)
	within("length_mm", e.LengthMM, layup.Can.LengthMM, "The length", mm)
	if e.Bed().Pins() {
		within("tpi", e.TPI, layup.Can.TPI, "Points per square inch", plain)
	} else {
		e.TPI, e.FeedG = 0, 0 // hands have neither pins nor a tray
	}
	within("tooth_mm", e.ToothMM, layup.Can.ToothMM, "The tooth height", mm)
	within("smooth_g", e.SmoothG, layup.Can.SmoothG, "The load of smooth fibre", grams)
	within("lofty_g", e.LoftyG, layup.Can.LoftyG, "The load of lofty fibre", grams)
	within("minutes", e.Minutes, layup.Can.Minutes, "Minutes for one filling", plain)
	within("feed_g", e.FeedG, layup.Can.FeedG, "What is fed in a turn", grams)
	if err := l.Err(); err != nil {
		return e, err
	}
	save := s.Store.UpdateEquipment
	if e.ID == 0 {
		save = s.Store.CreateEquipment
	}
	r, err := save(ctx, e.Row())
	return EquipmentOf(r), floor.ConvertStale(err, func(r store.Equipment) (Equipment, error) { return EquipmentOf(r), nil })
}

// A batt that is as full as it goes is told by what it is of.
const (
	FullSmooth = "smooth"
	FullWool   = "wool"
	FullLofty  = "lofty"
)

// FullOf are the words for what a full batt is of, in the order in which they are offered.
var FullOf = []string{FullWool, FullSmooth, FullLofty}

// FilledBy is the equipment as a batt that is as full as it goes measures it: so many grams of carded wool of medium
// crimp, of smooth fibre, or of lofty fibre. Its loads of smooth and lofty fibre keep their proportion.
func (e Equipment) FilledBy(of string, grams float64) (Equipment, error) {
	fibres := map[string]layup.Fibre{
		FullWool: {Grams: 1, Crimp: "medium", Preparation: "carded_sliver"}, FullSmooth: {Grams: 1, Crimp: "none"}, FullLofty: {Grams: 1, Crimp: "high"},
	}
	f, known := fibres[of]
	switch {
	case !known:
		return e, fault.New("full_of", "Choose what the batt is of.")
	case !layup.Can.SmoothG.Holds(grams):
		return e, fault.New("full_g", "A full batt weighs between %s and %s.", unit.Grams(layup.Can.SmoothG.Least), unit.Grams(layup.Can.SmoothG.Most))
	}
	full := e.Bed().FullOf([]layup.Fibre{f}, grams)
	e.SmoothG, e.LoftyG = unit.Clean(float64(full.Smooth)), unit.Clean(float64(full.Lofty))
	return e, nil
}

// Measured reports whether what it holds is the maker's own figure, and not that of the preset.
func (e Equipment) Measured() bool {
	for _, p := range Presets() {
		if p.Preset == e.Preset {
			return e.SmoothG != p.SmoothG || e.LoftyG != p.LoftyG
		}
	}
	return true
}

// Bed is the equipment as core/layup has it.
func (e Equipment) Bed() layup.Bed {
	return layup.Bed{
		Type: layup.Type(e.Type), Electric: e.Drive == "electric", WidthMM: e.WidthMM, LengthMM: e.LengthMM, ToothMM: e.ToothMM, TPI: e.TPI,
		Smooth: unit.Grams(e.SmoothG), Lofty: unit.Grams(e.LoftyG), FeedG: e.FeedG, Minutes: e.Minutes,
	}
}
