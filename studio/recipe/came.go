package recipe

import (
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
)

// How a blend came out is kept with it once it is mended: the colour that it then
// has is foretold from that, and from what is added.

// Came is how a blend came out, kept as it is said.
type Came = store.Came

// Carded tells what stands of how a blend came out.
type Carded struct {
	Grams float64 `json:"grams"`
	Hex   string  `json:"hex"`
	// Holds tells that the recipe still contains all that was carded, so that the
	// colour rests on it; else it is foretold from the fibres alone.
	Holds bool `json:"holds"`
	// Add is what is to be added of each component, in finished grams.
	Add []float64 `json:"add"`
}

func checkCame(l *fault.List, c *Came) {
	if c == nil {
		return
	}
	if !(c.Grams > 0 && c.Grams <= float64(unit.MaxGrams)) {
		l.Add("came.grams", "What was carded weighs above 0.")
	}
	if _, err := colour.ParseHex(c.Hex); err != nil {
		l.Add("came.hex", "A colour is written as # and six digits or letters a to f.")
	}
	if n := len(c.Reflectance); n != 0 && n != colour.Bands {
		l.Add("came.reflectance", "A reflectance has 36 numbers, 380 to 730 nm by 10 nm; this has %d.", n)
	}
	for _, v := range c.Reflectance {
		if !(v >= 0 && v <= 1) {
			l.Add("came.reflectance", "A reflectance lies between 0 and 1.")
			break
		}
	}
	for _, p := range c.Of {
		if !(p.Grams >= 0 && p.Grams <= float64(unit.MaxGrams)) {
			l.Add("came.of", "A weight is 0 or more.")
			return
		}
	}
}

// came works out what a recipe adds to what was carded. It gives the tints and
// grams that its colour rests on, none where it does not hold.
func (b *Blend) came(at shelf.Mixing, c Came) (list []shelf.Tint, grams []float64) {
	out := &Carded{Grams: c.Grams, Hex: c.Hex, Holds: true, Add: make([]float64, len(b.Components))}
	b.Carded = out
	of := make([]float64, len(b.Components))
	for _, p := range c.Of {
		i := slices.IndexFunc(b.Components, func(v Component) bool { return v.Key == p.Key })
		if i < 0 {
			out.Holds = out.Holds && p.Grams < 0.005
			continue
		}
		of[i] = p.Grams
	}
	var sum float64
	for i, v := range b.Components {
		out.Add[i] = v.Grams - of[i]
		out.Holds = out.Holds && out.Add[i] > -0.005
		sum += of[i]
	}
	if !out.Holds || sum <= 0 {
		out.Holds = false
		return nil, nil
	}
	for i := range of {
		of[i] /= sum
	}
	done := shelf.Tint{
		Colour: floor.ReflectanceIn(store.Colour{Hex: c.Hex, Reflectance: c.Reflectance}),
		Sigma:  mix.Value.Sigma(),
		Own:    at.StrengthTogether(b.Tints, of),
	}
	list, grams = []shelf.Tint{done}, []float64{c.Grams}
	for i, g := range out.Add {
		if out.Add[i] = max(0, unit.Clean(g)); out.Add[i] > 0.0005 {
			list, grams = append(list, b.Tints[i]), append(grams, g)
		} else {
			out.Add[i] = 0
		}
	}
	return list, grams
}

// Addition is the weigh-out of what a mend adds.
func (b Blend) Addition(step unit.Milligrams) (store.Weighout, error) {
	if b.Carded == nil || !b.Carded.Holds {
		return store.Weighout{}, fault.New("", "Nothing is to be added to this blend.")
	}
	name := []rune(b.Name + ", mend")
	row := store.Weighout{BlendID: b.ID, Name: string(name[:min(len(name), floor.MaxName)]), Units: 1, StepMg: step,
		AddedToMg: unit.Grams(b.Carded.Grams).Milligrams(), CameHex: b.Carded.Hex}
	for i, c := range b.Components {
		mg := (unit.Grams(b.Carded.Add[i]).Milligrams() + step/2) / step * step
		if mg == 0 {
			continue
		}
		n := len(row.Components)
		row.FinishedMg += mg
		row.Components = append(row.Components, store.WeighoutComponent{
			Position: n, LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex, OnlyHex: c.Only,
			OwnMg: unit.Grams(c.OwnG).Milligrams(), JoinsAtPass: 1,
		})
		row.Cells = append(row.Cells, store.WeighoutCell{Position: n, PlannedMg: mg, TargetMg: mg})
	}
	if len(row.Cells) == 0 {
		return row, fault.New("", "Nothing is to be added to this blend.")
	}
	for i := range row.Components {
		row.Components[i].Share = float64(row.Cells[i].PlannedMg) / float64(row.FinishedMg)
	}
	return row, nil
}

// ThereNow is what there is of a blend that was carded: all of it as planned, or
// what was weighed so far, in finished grams by component.
func (b Blend) ThereNow(weighed bool, madeG float64) ([]float64, error) {
	of := make([]float64, len(b.Components))
	var sum float64
	for i, c := range b.Components {
		of[i] = c.Share
		if weighed {
			of[i] = b.WayOf(c).Finished(c.WeighedG)
		}
		sum += of[i]
	}
	if sum <= 0 {
		return nil, fault.New("there", "Nothing of it was weighed yet.")
	}
	for i := range of {
		of[i] *= madeG / sum
	}
	return of, nil
}

// WeighedOffG is what comes off of what was weighed so far.
func (b Blend) WeighedOffG() (sum float64) {
	for _, c := range b.Components {
		sum += b.WayOf(c).Finished(c.WeighedG)
	}
	return unit.Clean(sum)
}

// Grams are the finished grams of the components, times a part.
func (b Blend) Grams(part float64) []float64 {
	out := make([]float64, len(b.Components))
	for i, c := range b.Components {
		out[i] = c.Grams * part
	}
	return out
}
