package laying

import (
	"context"
	"errors"
	"time"

	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// CarderFit is what one test batt told of a carder of one's own.
type CarderFit struct {
	LayupID int64
	Layup   string // the test batt's name then
	Looks   []carding.Look
	Known   carding.Known
	Used    bool // forecasts follow it
	At      time.Time
}

// CarderFit returns what is known of a carder; nil where no test batt was noted.
func (s *Room) CarderFit(ctx context.Context, equipment int64) (*CarderFit, error) {
	r, err := s.Store.CarderFit(ctx, equipment)
	if errors.Is(err, floor.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	f := &CarderFit{LayupID: r.LayupID, Layup: r.Layup, Used: r.Used, At: r.At}
	for _, l := range r.Looks {
		f.Looks = append(f.Looks, carding.Look(l))
	}
	for _, c := range r.Carders {
		f.Known.Carders, f.Known.Weights = append(f.Known.Carders, carding.Carder{Clumps: c.Clumps, Opens: c.Opens}), append(f.Known.Weights, c.Weight)
	}
	return f, nil
}

// FitCarder finds from the look that a lay-up had after each pass which carder it was
// carded on, and has forecasts on it follow that. A pass that was not noted is empty.
// done is told how far it is, and may be nil.
func (s *Room) FitCarder(ctx context.Context, layupID int64, d Division, noted []carding.Look, done func(of, n int)) error {
	f, err := s.Foretell(ctx, layupID, d)
	if err != nil {
		return err
	}
	if f.Layup.Bed.Type != layup.Drum {
		return fault.New("looks", "Only a drum carder can be fitted.")
	}
	for len(noted) > 0 && noted[len(noted)-1] == "" {
		noted = noted[:len(noted)-1]
	}
	known, err := carding.Fit(ctx, f.Plan, f.usual, &carding.Eye{Palette: f.Palette}, noted, done)
	if err != nil {
		return err
	}
	row := store.CarderFit{EquipmentID: f.Layup.EquipmentID, LayupID: layupID, Layup: f.Layup.Name, Used: true}
	for _, l := range noted {
		row.Looks = append(row.Looks, string(l))
	}
	known = known.Likely(carders)
	for i, c := range known.Carders {
		row.Carders = append(row.Carders, store.KnownCarder{Clumps: c.Clumps, Opens: c.Opens, Weight: known.Weights[i]})
	}
	return s.Store.KeepCarderFit(ctx, row)
}

// UseCarderFit has forecasts on a carder follow its test batt, or leave it out.
func (s *Room) UseCarderFit(ctx context.Context, equipment int64, used bool) error {
	return s.Store.UseCarderFit(ctx, equipment, used)
}
