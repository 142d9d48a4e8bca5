package workshop

import (
	"context"
	"net"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Settings are the workshop's own.
type Settings struct {
	Version        int64
	WeightUnit     string // g, oz
	LengthUnit     string // cm, in
	StepMg         unit.Milligrams
	Ground         string // light, mid, dark
	Model          string
	ModelParameter float64
	CoveringPower  bool
	Currency       string
	Calibrated     bool   // predictions follow the samples
	Learning       bool   // losses follow what the runs have taught
	ReaderAddress  string // of the colour reader, host:port
	// Sample is what came with the sample world, the last id of each table; empty: it is not here.
	Sample map[string]int64
	// CopiesFolder is where copies of all of it are kept; empty: beside the data.
	CopiesFolder string
	ShortNames   []ShortName  // what the maker calls kinds
	Rates        *store.Rates // what prices are counted with
	// ContentNames are what contents are called on labels, by what they are usually called.
	ContentNames map[string]string
}

func settingsOf(r store.Settings) Settings {
	return Settings{
		Version: r.Version, WeightUnit: r.WeightUnit, LengthUnit: r.LengthUnit, StepMg: r.StepMg, Ground: r.Ground, Model: r.Model,
		ModelParameter: r.ModelParameter, CoveringPower: r.CoveringPower, Currency: r.Currency, Calibrated: r.Calibrated, Learning: r.Learning,
		ReaderAddress: r.ReaderAddress, Sample: r.Sample, CopiesFolder: r.CopiesFolder, ShortNames: r.ShortNames, Rates: r.Rates, ContentNames: r.ContentNames,
	}
}

func (v Settings) row() store.Settings {
	return store.Settings{
		Base: store.Base{Version: v.Version}, WeightUnit: v.WeightUnit, LengthUnit: v.LengthUnit, StepMg: v.StepMg, Ground: v.Ground, Model: v.Model,
		ModelParameter: v.ModelParameter, CoveringPower: v.CoveringPower, Currency: v.Currency, Calibrated: v.Calibrated, Learning: v.Learning,
		ReaderAddress: v.ReaderAddress, Sample: v.Sample, CopiesFolder: v.CopiesFolder, ShortNames: v.ShortNames, Rates: v.Rates, ContentNames: v.ContentNames,
	}
}

// Settings returns the workshop's settings.
func (s *Room) Settings(ctx context.Context) (Settings, error) {
	r, err := s.Store.Settings(ctx)
	return settingsOf(r), err
}

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

// ChangeSettings changes the settings as they stand; what change does not name
// stays. With a version they must still be those of that version; with 0 the
// change is made to whatever stands there.
func (s *Room) ChangeSettings(ctx context.Context, version int64, change func(*Settings)) (Settings, error) {
	for {
		v, err := s.Settings(ctx)
		if err != nil {
			return v, err
		}
		if version != 0 {
			v.Version = version
		}
		change(&v)
		if err := v.check(); err != nil {
			return v, err
		}
		r, err := s.Store.UpdateSettings(ctx, v.row())
		if floor.IsStale(err) && version == 0 {
			continue
		}
		return settingsOf(r), floor.ConvertStale(err, func(r store.Settings) (Settings, error) { return settingsOf(r), nil })
	}
}

func (v *Settings) check() error {
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
		l.Add("step_g", "The scale's step lies between %s and %s.", unit.Grams(0.001), unit.Grams(100))
	}
	m, err := mix.NewModel(mix.Name(v.Model), v.ModelParameter)
	if err != nil {
		more, _ := fault.From(err)
		l = append(l, more...)
	}
	floor.CheckText(&l, "currency", "", &v.Currency, 8, false)
	readerAddress(&l, &v.ReaderAddress)
	v.Model, v.ModelParameter = string(m.Name), m.Parameter
	return l.Err()
}

// readerAddress finds an address that can not be one of a reader.
func readerAddress(l *fault.List, v *string) {
	*v = strings.TrimSpace(*v)
	if *v == "" {
		return
	}
	host, port, err := net.SplitHostPort(*v)
	if err != nil || host == "" || port == "" || len(*v) > 200 {
		l.Add("reader_address", "The reader's address is a host and a port, such as 127.0.0.1:7036, or empty.")
	}
}

// Model returns the mixing model of the settings.
func Model(v Settings) mix.Model {
	m, err := mix.NewModel(mix.Name(v.Model), v.ModelParameter)
	if err != nil {
		return mix.Default()
	}
	return m
}
