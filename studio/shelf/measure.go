package shelf

import (
	"context"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/device"
	"fairtangle/formats"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// Measured is a reading that was put into a lot.
type Measured struct {
	Lot    Lot     `json:"lot"`
	DeltaE float64 `json:"delta_e"` // from the colour that the lot had
	Noise  float64 `json:"noise"`   // of the reader, in reflectance
	Reader string  `json:"reader"`
}

// PutReflectance returns a lot of one colour a measured reflectance.
func (s *Room) PutReflectance(ctx context.Context, id, version int64, at int, r colour.Reflectance) (Measured, error) {
	l, err := s.Lot(ctx, id)
	if err != nil {
		return Measured{}, err
	}
	if at < 0 || at >= len(l.Colours) {
		return Measured{}, fault.New("colour", "The lot has no such colour.")
	}
	was := floor.ReflectanceIn(store.Colour(l.Colours[at]))
	in := l.LotInput
	in.Colours = slices.Clone(in.Colours)
	in.Colours[at].Reflectance, in.Colours[at].Source = r[:], string(mix.Reader)
	l, err = s.UpdateLot(ctx, id, version, in)
	return Measured{Lot: l, DeltaE: colour.CIEDE2000(was.Lab(), r.Lab())}, err
}

// MeasureLot reads a colour of a lot with the colour reader of the workshop.
// The simulated stand-in is told what the lot is taken to look like, so that
// it has something to read.
func (s *Room) MeasureLot(ctx context.Context, id, version int64, at int) (Measured, error) {
	l, err := s.Lot(ctx, id)
	if err != nil {
		return Measured{}, err
	}
	if at < 0 || at >= len(l.Colours) {
		return Measured{}, fault.New("colour", "The lot has no such colour.")
	}
	under := floor.ReflectanceIn(store.Colour(l.Colours[at]))
	r, err := s.read(ctx, &under)
	if err != nil {
		return Measured{}, err
	}
	m, err := s.PutReflectance(ctx, id, version, at, r.Reflectance)
	m.Noise, m.Reader = r.Noise, r.Reader
	return m, err
}

// ReadColour reads what lies under the reader of the workshop. under is what
// the simulated stand-in is given to look at.
func (s *Room) ReadColour(ctx context.Context, under string) (workshop.ColourOutput, device.Reading, error) {
	var sample *colour.Reflectance
	if under != "" {
		r := floor.ReflectanceOf(under)
		sample = &r
	}
	r, err := s.read(ctx, sample)
	return workshop.ColourOut(r.Reflectance), r, err
}

func (s *Room) read(ctx context.Context, under *colour.Reflectance) (device.Reading, error) {
	set, err := s.workshop.Settings(ctx)
	if err != nil {
		return device.Reading{}, err
	}
	if set.ReaderAddress == "" {
		return device.Reading{}, fault.New("reader", "No colour reader is set up. Give its address in the workshop.")
	}
	r, err := device.ReadColour(ctx, set.ReaderAddress, (*[device.Bands]float64)(under))
	if err != nil {
		text := err.Error()
		return r, fault.New("reader", "%s.", strings.ToUpper(text[:1])+text[1:])
	}
	return r, nil
}

// ImportSpectrum puts a reading of a CSV file into a lot: the one of this name,
// or the only one there is.
func (s *Room) ImportSpectrum(ctx context.Context, id, version int64, at int, data []byte, name string) (Measured, error) {
	list, err := formats.ReadSpectra(data)
	if err != nil {
		return Measured{}, err
	}
	var found []formats.Spectrum
	var names []string
	for _, v := range list {
		names = append(names, v.Name)
		if v.Name == name {
			found = append(found, v)
		}
	}
	switch {
	case len(list) == 1:
		found = list
	case len(found) == 0 && name == "":
		return Measured{}, fault.New(
			"reading",
			"The file has %d readings: %s. Name the one that is of this lot.",
			len(list),
			strings.Join(names[:min(len(names), 12)], ", "),
		)
	case len(found) == 0:
		return Measured{}, fault.New("reading", "The file has no reading called %q. It has: %s.", name, strings.Join(names[:min(len(names), 12)], ", "))
	}
	return s.PutReflectance(ctx, id, version, at, found[0].Reflectance)
}
