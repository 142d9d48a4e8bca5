package carder

import (
	"context"
	"fmt"
	"slices"

	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/mix"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// ShelfInput puts what came off onto the shelf, as a lot of its own. Without grams it is
// all that came off and does not lie there yet; of the residue, all that was kept.
type ShelfInput struct {
	Key   string   `json:"key"`
	Unit  int      `json:"unit"` // −1: of all units together
	Form  string   `json:"form"` // batt, rolags, punis, roving, cloud, leftover
	Name  string   `json:"name"`
	Grams *float64 `json:"grams"`
	Count int      `json:"count"` // of rolags or punis
	Note  string   `json:"note"`
}

// Forms are what can come off, with the preparation that it then is.
var Forms = []Form{
	{"batt", "Batt", "batt"}, {"rolags", "Rolags", "rolag"}, {"punis", "Punis", "rolag"}, {"roving", "Roving", "carded_sliver"},
	{"cloud", "Loose cloud", "picked_cloud"}, {"leftover", "Leftover or residue", "picked_cloud"},
}

// Form is what can come off.
type Form struct{ Key, Name, Preparation string }

// leftover is what is no finished work: the rest of a batt, what was kept of the residue.
const leftover = "leftover"

func formOf(key string) (Form, bool) {
	i := slices.IndexFunc(Forms, func(f Form) bool { return f.Key == key })
	if i < 0 {
		return Form{}, false
	}
	return Forms[i], true
}

// Shelve puts what came off onto the shelf.
func (s *Room) Shelve(ctx context.Context, id int64, in ShelfInput) (Run, error) {
	v, err := s.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	if v.told(in.Key) {
		return v, nil
	}
	var l fault.List
	ownKeyed(&l, in.Key)
	floor.CheckText(&l, "name", "", &in.Name, floor.MaxName, false)
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
	f, ok := formOf(in.Form)
	if !ok {
		l.Add("form", "Choose what it is: a batt, rolags, punis, roving, a loose cloud or a leftover.")
	}
	if in.Unit < -1 || in.Unit >= len(v.Units) || v.Sort != CardingRun {
		l.Add("unit", "There is no such unit in this run.")
	}
	if in.Count < 0 || in.Count > mostRolls {
		l.Add("count", "Count from 0 to %d.", mostRolls)
	}
	if err := l.Err(); err != nil {
		return Run{}, err
	}
	units := []int{in.Unit}
	if in.Unit < 0 {
		units = units[:0]
		for i := range v.Units {
			units = append(units, i)
		}
	}
	mg, err := in.howMuch(v.leftToShelve(units, f.Key))
	if err != nil {
		return Run{}, err
	}
	lot, kind, err := s.lotFrom(ctx, v, units, f, in, mg)
	if err != nil {
		return Run{}, err
	}
	return s.putThere(ctx, v, in, f.Key, lot, nil, &kind)
}

// howMuch is what goes onto the shelf of what there is: all of it, or what was asked.
func (in ShelfInput) howMuch(have unit.Milligrams) (mg unit.Milligrams, err error) {
	var l fault.List
	mg = have
	if in.Grams != nil {
		floor.CheckGrams(&l, "grams", *in.Grams)
		mg = unit.Grams(*in.Grams).Milligrams()
	}
	switch {
	case len(l) > 0:
	case have <= 0:
		l.Add("grams", "Nothing came off there that is not on the shelf yet. Weigh what came off first.")
	case mg <= 0:
		l.Add("grams", "Enter a weight above %s.", unit.Grams(0))
	case mg > have:
		l.Add("grams", "Only %s came off there and is not on the shelf yet.", have.Grams())
	}
	return mg, l.Err()
}

// putThere puts a lot that came of a run onto the shelf.
func (s *Room) putThere(ctx context.Context, v Run, in ShelfInput, form string, lot store.Lot, told []store.Telling, kind *store.Kind) (Run, error) {
	e := store.RunEntry{Key: in.Key, Unit: in.Unit, What: string(run.Shelved), Mg: lot.GramsMg, Text: form}
	row, err := s.Store.Shelve(ctx, v.ID, e, lot, told, kind, func(now store.Run) error {
		if now.Version != v.Version {
			return floor.Stale{Current: now}
		}
		return nil
	})
	if err != nil {
		return Run{}, s.staleRun(ctx, err)
	}
	return s.runView(ctx, row)
}

// leftToShelve is what came off of units and does not lie on the shelf yet; as a leftover
// also the residue that was kept.
func (v Run) leftToShelve(units []int, form string) unit.Milligrams {
	off := func(u RunUnit) (mg unit.Milligrams) {
		mg = unit.Grams(u.Line.OffG).Milligrams()
		if form == leftover {
			mg += unit.Grams(u.Line.KeptG).Milligrams()
		}
		return mg
	}
	var left, all unit.Milligrams
	for _, u := range v.Units {
		all += off(u) - unit.Grams(u.ShelvedG).Milligrams()
	}
	for _, e := range v.State.Shelved {
		all -= e.Mg
	}
	for _, i := range units {
		left += off(v.Units[i]) - unit.Grams(v.Units[i].ShelvedG).Milligrams()
	}
	return max(0, min(left, all))
}

// ToShelve is what came off of a unit and does not lie on the shelf yet.
func (v Run) ToShelve(unitNo int) float64 { return floor.InGrams(v.leftToShelve([]int{unitNo}, "")) }

// AllToShelve is what came off of all units and does not lie on the shelf yet.
func (v Run) AllToShelve() float64 {
	all := make([]int, len(v.Units))
	for i := range all {
		all[i] = i
	}
	return floor.InGrams(v.leftToShelve(all, ""))
}

// lotsOfParts are the lots of the components of a weigh-out, by number.
func (s *Room) lotsOfParts(ctx context.Context, parts []scale.WeighoutPart) (map[int64]store.Lot, error) {
	var ids []int64
	for _, c := range parts {
		if c.LotID != nil {
			ids = append(ids, *c.LotID)
		}
	}
	if len(ids) == 0 {
		return map[int64]store.Lot{}, nil
	}
	return s.Store.LotsByID(ctx, ids)
}

// lotFrom is the lot that the units of a run have become, and what fibre that is.
func (s *Room) lotFrom(ctx context.Context, v Run, units []int, f Form, in ShelfInput, mg unit.Milligrams) (lot store.Lot, kind store.Kind, err error) {
	w := v.Weighout
	b, err := s.Store.Blend(ctx, w.BlendID)
	if err != nil {
		return lot, kind, err
	}
	made := &store.Made{RunID: v.ID, MakingID: v.MakingID, BlendID: b.ID, Form: f.Key, Count: in.Count, Place: b.Place}
	lots, err := s.lotsOfParts(ctx, w.Components)
	if err != nil {
		return lot, kind, err
	}
	finished, weighed := v.broughtIn(units)
	var list []blend.Ingredient
	staples := map[int64]float64{}
	superwash, cents, known := true, 0.0, true
	for i, c := range w.Components {
		if weighed[i] <= 0 {
			continue
		}
		var row *store.Lot
		from := store.MadeIn{Name: c.Name, Mg: unit.Grams(weighed[i]).Milligrams()}
		if c.LotID != nil {
			l := lots[*c.LotID]
			row, from.Lot, from.Name = &l, l.ID, l.Name
			if l.StapleMM != nil {
				staples[l.ID] = *l.StapleMM
			}
		}
		if row == nil || row.CentsPer100g == nil {
			known = false
		} else {
			cents += float64(*row.CentsPer100g) * weighed[i] / 100
		}
		superwash = superwash && row != nil && row.Superwash
		list = append(list, shelf.Ingredient(row, c.Name, c.Kind, finished[i]))
		made.From = append(made.From, from)
	}
	if len(list) == 0 {
		return lot, kind, fault.New("unit", "Nothing was weighed for it, so nobody knows what lies in it.")
	}
	contents := blend.Contents(list)
	made.Of = shelf.KeptContents(contents)
	in.Name = nameOr(in.Name, v, in.Unit, f)
	own := workshop.OwnKind{Kind: shelf.KindOfAll(in.Name, contents, w.At.Kinds, staples)}
	kind = own.Row()
	lot = store.Lot{
		Name: in.Name, Preparation: f.Preparation, GramsMg: mg, Superwash: superwash, Words: fibre.Words{WhereFrom: "carded here", Note: in.Note}, Made: made,
		Colours: []store.Colour{foreseenColour(w, finished)},
	}
	said := lot.Colours[0]
	made.Said = &said
	lot.ShelfOrder = colour.ShelfOrder(floor.MeanLinear(lot.Colours))
	if all := v.cameOffG(units, finished); known && all > 0 {
		per := int64(cents/all*100 + 0.5)
		lot.CentsPer100g = &per
	}
	return lot, kind, nil
}

// cameOffG is what came off of units by the scale; where one of them was not weighed, what is expected of all of them.
func (v Run) cameOffG(units []int, finished []float64) (grams float64) {
	for _, u := range units {
		off, weighed := v.State.Units[u].OffAtLast()
		if !weighed || off <= 0 {
			grams = 0
			for _, g := range finished {
				grams += g
			}
			return grams
		}
		grams += floor.InGrams(off)
	}
	return grams
}

// broughtIn is what was weighed of each component for units, and what of it is expected to
// have come off.
func (v Run) broughtIn(units []int) (finished, weighed []float64) {
	w := v.Weighout
	finished, weighed = make([]float64, len(w.Components)), make([]float64, len(w.Components))
	for _, u := range units {
		passes := len(v.State.Units[u].Passes)
		for i, c := range w.Units[u].Cells {
			p := w.Components[i]
			weighed[i] = unit.Clean(weighed[i] + c.WeighedG)
			finished[i] += p.Way(passes).Finished(c.WeighedG)
		}
	}
	return finished, weighed
}

// foreseenColour is the colour of finished grams of each component, mixed even, and how
// sure it is.
func foreseenColour(w scale.Weighout, finished []float64) store.Colour {
	list, grams := w.Tints, finished
	if w.Added != nil {
		list, grams = append(slices.Clip(w.Tints), *w.Added), append(slices.Clip(finished), w.AddedToG)
	}
	sigmas := make([]float64, len(list))
	shares := w.At.Counts(list, grams)
	for i, t := range list {
		sigmas[i] = t.Sigma
	}
	even := w.At.Even(list, grams)
	sure := mix.Sure(w.At.Model, shelf.Colours(list), shares, sigmas, w.At.LeftOut)
	return store.Colour{Hex: even.Linear().Hex(), Share: 1, Source: string(mix.Foreseen), Reflectance: even[:], Sigma: sure.Sigma}
}

// nameOr is the name of what went onto the shelf.
func nameOr(name string, v Run, unitNo int, f Form) string {
	if name != "" {
		return name
	}
	switch {
	case f.Key == leftover:
		name = v.Name + ", leftover"
	case unitNo < 0:
		name = fmt.Sprintf("%s, %s", v.Name, f.Key)
	default:
		name = unitName(v, unitNo)
	}
	runes := []rune(name)
	return string(runes[:min(len(runes), floor.MaxName)])
}
