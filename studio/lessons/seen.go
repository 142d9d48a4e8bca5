package lessons

import (
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// MostHeld is what the cloth of equipment can hold by its size, grams.
func MostHeld(e store.Equipment) float64 {
	return layup.Bed{Type: layup.Type(e.Type), WidthMM: e.WidthMM, LengthMM: e.LengthMM, TPI: e.TPI}.Holds()
}

// ClothBefore is what the cloth held when a run began, where it was not cleaned for it.
func ClothBefore(r store.Run, s run.State) unit.Milligrams {
	if s.Clean {
		return 0
	}
	return r.ClothMg
}

// FillOf is by how much a cloth that holds so much grows with one more batt of a run.
func FillOf(p store.RunPlan, before unit.Milligrams) unit.Milligrams {
	most := p.ClothG
	if most == 0 {
		most = MostHeld(p.Equipment)
	}
	return unit.Grams(losses.Fill(most, float64(before.Grams()))).Milligrams()
}

// Forecast is a weight that was foreseen, as it was said then, beside what came off.
type Forecast struct {
	RunID int64     `json:"run_id"`
	Unit  int       `json:"unit"`
	Name  string    `json:"name"`
	At    string    `json:"at"`
	Said  RunWeight `json:"foreseen"`
	OffG  float64   `json:"off_g"`
	Held  bool      `json:"held"` // it lay in the range
}

// Compared is a number that was foreseen, as it was said then, beside what came: minutes of a
// pass, its look (1 streaky to 4 even), or how far the colour of a lot was off (CIEDE2000).
type Compared struct {
	RunID int64   `json:"run_id"`
	LotID int64   `json:"lot_id,omitempty"`
	Unit  int     `json:"unit"`
	Pass  int     `json:"pass,omitempty"`
	Name  string  `json:"name"`
	At    string  `json:"at"`
	Said  float64 `json:"foreseen"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	Came  float64 `json:"came"`
	Held  bool    `json:"held"` // it lay in the range
}

// LinesOf are the mass lines of the units of a run.
func LinesOf(r store.Run, s run.State, w store.Weighout, kinds workshop.Kinds) []run.Line {
	cloth := ClothBefore(r, s)
	lines := make([]run.Line, len(s.Units))
	for i, u := range s.Units {
		joins := make([]unit.Milligrams, len(u.Passes))
		for _, c := range w.Cells {
			if c.Unit == i {
				at := min(max(w.Components[c.Position].JoinsAtPass, 1), len(joins)) - 1
				joins[at] += floor.NowOf(c)
			}
		}
		grows := FillOf(r.Plan, cloth)
		lines[i] = u.Line(joins, grows, func(first, last int, in float64, droppings, picked bool) losses.Belief {
			return losses.Unweighed(wentThrough(w, kinds, i, first, last, in), kinds.Usual, func(kind string) float64 {
				return fibre.Lost(kinds.Named(kind)).Without(droppings, picked)
			})
		})
		if u.Began() {
			cloth += grows
		}
	}
	return lines
}
