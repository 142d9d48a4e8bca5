// Package demo makes the sample world: the Tide Table throw, the Samphire
// mitts and the Mudflat fleece, with the shelf they are made from.
package demo

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"fairtangle/core/fibre"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/yarns"
)

// marker tells a directory of the sample world from one with a maker's data.
const marker = "SAMPLE-WORLD"

// Clear empties the sample world's directory. A directory with data that is
// not the sample world's is left alone and refused.
func Clear(dir string) error {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	db := filepath.Join(dir, store.FileName)
	_, errMark := os.Stat(filepath.Join(dir, marker))
	if _, err := os.Stat(db); err == nil && errMark != nil {
		return fmt.Errorf("%s holds data that is not the sample world's; it is left as it is", dir)
	}
	for _, end := range []string{"", "-wal", "-shm"} {
		if err := os.Remove(db + end); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	if err := os.RemoveAll(filepath.Join(dir, "photos")); err != nil {
		return err
	}
	return os.WriteFile(filepath.Join(dir, marker), []byte("The sample world of Fair Tangle; made anew at each start.\n"), 0o600)
}

// HandOver makes a sample world the maker's own: what she does in it from now on is
// never made anew.
func HandOver(dir string) error {
	if err := os.Remove(filepath.Join(dir, marker)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return err
	}
	return nil
}

type lot struct {
	name, kind, prep string
	grams            float64
	colours          []shelf.LotColour
	staple, cost     float64
	note             string
	superwash        bool
	lies             string  // how its colours lie, where not as usual
	run              float64 // cm of one colour
}

func plain(hex string) []shelf.LotColour {
	return []shelf.LotColour{{Hex: hex, Share: 1, Source: "picker"}}
}

func photo(hex string) []shelf.LotColour {
	return []shelf.LotColour{{Hex: hex, Share: 1, Source: "photo"}}
}

func painted(pairs ...any) (out []shelf.LotColour) {
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, shelf.LotColour{Hex: pairs[i].(string), Share: pairs[i+1].(float64), Source: "photo"})
	}
	return out
}

var lots = []lot{
	{name: "grey-blue Corriedale", kind: "corriedale", prep: "combed_top", grams: 310, colours: photo("#6b8799"), staple: 110, cost: 4.2},
	{name: "undyed Romney", kind: "romney", prep: "carded_sliver", grams: 420, colours: photo("#d9cfb9"), staple: 130, cost: 2.9},
	{name: "tussah, raw honey", kind: "silk_tussah", prep: "combed_top", grams: 96, colours: plain("#c69a52"), staple: 115, cost: 11.5},
	{
		name:    "flax, bleached",
		kind:    "flax_top",
		prep:    "combed_top",
		grams:   140,
		colours: plain("#d8ceaa"),
		staple:  190,
		cost:    3.6,
		note:    "Cut to 11 cm before it goes near the drum.",
	},
	{name: "deep teal Merino", kind: "merino", prep: "combed_top", grams: 84, colours: photo("#1d4c55"), staple: 80, cost: 5.4},
	{name: "slack-water green Polwarth", kind: "polwarth", prep: "combed_top", grams: 132, colours: photo("#6f8b7b"), cost: 5.9},
	{name: "silt brown Shetland", kind: "shetland", prep: "carded_sliver", grams: 205, colours: photo("#6a5546"), staple: 75, cost: 3.1},
	{name: "wet sand Bluefaced Leicester", kind: "bluefaced_leicester", prep: "combed_top", grams: 178, colours: plain("#b39b7a"), cost: 5.1},
	{name: "foam white Merino", kind: "merino_superfine", prep: "combed_top", grams: 150, colours: plain("#f1ece1"), cost: 6.8},
	{name: "ebb violet Merino", kind: "merino", prep: "combed_top", grams: 62, colours: plain("#5f4f73"), cost: 5.4},
	{name: "saltmarsh olive Corriedale", kind: "corriedale", prep: "combed_top", grams: 118, colours: photo("#76743f"), cost: 4.2},
	{name: "samphire green Merino", kind: "merino_superwash", prep: "combed_top", grams: 90, colours: plain("#5d8a45"), cost: 5.0, superwash: true},
	{name: "samphire red tips", kind: "finnsheep", prep: "combed_top", grams: 38, colours: plain("#a2473f"), cost: 4.8},
	{name: "storm slate Gotland", kind: "gotland", prep: "combed_top", grams: 160, colours: photo("#4c5257"), staple: 120, cost: 4.4},
	{name: "mussel navy Corriedale", kind: "corriedale", prep: "combed_top", grams: 145, colours: photo("#26324a"), staple: 105, cost: 4.2},
	{name: "dawn rose Polwarth", kind: "polwarth", prep: "combed_top", grams: 71, colours: plain("#c48f88"), cost: 5.9},
	{name: "lichen yellow Cheviot", kind: "cheviot", prep: "picked_cloud", grams: 55, colours: plain("#c2ae46"), cost: 2.4},
	{name: "undyed Southdown", kind: "southdown", prep: "picked_cloud", grams: 240, colours: plain("#e2d8c3"), staple: 55, cost: 1.9},
	{name: "mulberry silk, white", kind: "silk_mulberry", prep: "combed_top", grams: 48, colours: plain("#f3efe6"), cost: 14.0},
	{name: "silk noil, natural", kind: "silk_noil", prep: "noil_waste", grams: 60, colours: plain("#d8c8a4"), cost: 6.0},
	{name: "lyocell, undyed", kind: "lyocell", prep: "combed_top", grams: 75, colours: plain("#f0ede3"), cost: 3.2},
	{name: "kid mohair, silver", kind: "mohair_kid", prep: "combed_top", grams: 66, colours: plain("#b6babb"), cost: 9.8},
	{name: "crimped alpaca, fawn", kind: "alpaca_huacaya", prep: "combed_top", grams: 110, colours: plain("#a9835c"), cost: 6.5},
	{name: "yak down, brown", kind: "yak_down", prep: "combed_top", grams: 30, colours: plain("#4a382c"), cost: 18.0},
	{name: "trilobal nylon, ice", kind: "nylon_trilobal", prep: "combed_top", grams: 25, colours: plain("#e6eef2"), cost: 4.0},
	{name: "metallised film, silver", kind: "film_metallised", prep: "threads", grams: 12, colours: plain("#b9c2c8"), cost: 30.0},
	{name: "tweed neps, rust", kind: "neps_wool", prep: "neps", grams: 18, colours: plain("#a5512f"), cost: 5.0},
	{
		name:    "curly locks, kelp",
		kind:    "locks_wool",
		prep:    "locks",
		grams:   42,
		colours: painted("#4a5a2f", 0.5, "#8a7f3c", 0.3, "#31423f", 0.2),
		staple:  80,
		cost:    9.0,
	},
	{
		name:    "painted top “Estuary”",
		kind:    "bluefaced_leicester",
		prep:    "combed_top",
		grams:   100,
		colours: painted("#33586b", 0.4, "#86a79c", 0.35, "#d6b36a", 0.25),
		cost:    8.5,
		note:    "Unloved as it is: too many colours side by side.",
	},
	{name: "upland cotton, white", kind: "cotton_upland", prep: "carded_sliver", grams: 80, colours: plain("#f4f0e6"), cost: 2.0},
	{
		name:    "Mudflat fleece, skirted",
		kind:    "romney",
		prep:    "washed_locks",
		grams:   860,
		colours: photo("#8d8172"),
		staple:  120,
		cost:    0.8,
		note:    "Last year’s fleece, washed twice; the rise is still in the shoulder.",
	},
	{
		name:    "Mudflat fleece, dark side",
		kind:    "romney",
		prep:    "washed_locks",
		grams:   240,
		colours: photo("#51473e"),
		staple:  110,
		cost:    0.8,
		note:    "The darker side of last year’s fleece.",
	},
	{
		name:    "Mudflat fleece, raw",
		kind:    "romney",
		prep:    "raw_fleece",
		grams:   2650,
		colours: photo("#85786a"),
		staple:  125,
		cost:    0.4,
		note:    "This year’s fleece, as it was shorn.",
	},
}

type part struct {
	lot   string
	parts float64
}

type blend struct {
	name   string
	total  float64
	target string
	parts  []part
}

var throw = []blend{
	{
		"Low Water",
		240,
		"#6d5f53",
		[]part{{"silt brown Shetland", 45}, {"wet sand Bluefaced Leicester", 25}, {"storm slate Gotland", 20}, {"crimped alpaca, fawn", 10}},
	},
	{"First Flood", 240, "", []part{{"wet sand Bluefaced Leicester", 34}, {"grey-blue Corriedale", 30}, {"undyed Romney", 30}, {"tussah, raw honey", 6}}},
	{"Mid Flood", 240, "", []part{{"grey-blue Corriedale", 46}, {"mussel navy Corriedale", 24}, {"undyed Romney", 22}, {"lyocell, undyed", 8}}},
	{
		"Slack",
		240,
		"#85968c",
		[]part{{"grey-blue Corriedale", 38}, {"undyed Romney", 22}, {"tussah, raw honey", 18}, {"flax, bleached", 16}, {"deep teal Merino", 6}},
	},
	{"Ebb", 240, "", []part{{"storm slate Gotland", 34}, {"ebb violet Merino", 20}, {"undyed Romney", 36}, {"kid mohair, silver", 10}}},
	{
		"Saltmarsh",
		240,
		"#818859",
		[]part{{"saltmarsh olive Corriedale", 40}, {"slack-water green Polwarth", 30}, {"lichen yellow Cheviot", 12}, {"undyed Southdown", 18}},
	},
	{
		"Border",
		57,
		"",
		[]part{
			{"mussel navy Corriedale", 14},
			{"storm slate Gotland", 14},
			{"grey-blue Corriedale", 14},
			{"slack-water green Polwarth", 14},
			{"undyed Romney", 14},
			{"wet sand Bluefaced Leicester", 14},
			{"saltmarsh olive Corriedale", 14},
			{"metallised film, silver", 2},
		},
	},
}

var mitts = []blend{
	{"Samphire", 42, "", []part{{"samphire green Merino", 60}, {"samphire red tips", 16}, {"undyed Southdown", 18}, {"silk noil, natural", 6}}},
}

// cuffs came to the mitts last, when the board was bought.
var cuffs = blend{"Cuffs", 28, "", []part{{"undyed Southdown", 30}, {"samphire green Merino", 34}, {"samphire red tips", 16}, {"curly locks, kelp", 20}}}

var fleece = []blend{
	{"Mudflat, both sides", 300, "", []part{{"Mudflat fleece, skirted", 75}, {"Mudflat fleece, dark side", 25}}},
}

// Fill makes the sample world in an empty studio.
func Fill(ctx context.Context, s *studio.Studio) error {
	ids, err := fillShelf(ctx, s, lots)
	if err != nil {
		return err
	}
	makings, made := map[string]int64{}, map[string]int64{}
	for _, m := range []struct {
		name, note string
		blends     []blend
	}{
		{"Mudflat fleece", "Last year’s fleece, washed at home, for a plain dark-and-light yarn; this year’s is half done.", fleece},
		{"Samphire mitts", "Rolags from the board, loosely rolled, three to a board.", mitts},
		{"Tide Table throw", "Six panels for the states of the tide. Four batts of 60 g a panel, carded twice.", throw},
	} {
		making, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: m.name, Note: m.note})
		if err != nil {
			return err
		}
		makings[m.name] = making.ID
		for _, b := range m.blends {
			v, err := fillBlend(ctx, s, making.ID, b, ids)
			if err != nil {
				return fmt.Errorf("%s: %w", b.name, err)
			}
			made[b.name] = v.ID
		}
	}
	if err := fillIntent(ctx, s, makings["Tide Table throw"], ids, made); err != nil {
		return err
	}
	v, err := fillBlend(ctx, s, makings["Samphire mitts"], cuffs, ids)
	if err != nil {
		return err
	}
	made[cuffs.name] = v.ID
	laid, err := fillLayups(ctx, s, made)
	if err != nil {
		return err
	}
	if err := fillNeed(ctx, s, makings["Tide Table throw"], made["Border"], made["Low Water"]); err != nil {
		return fmt.Errorf("need of the throw: %w", err)
	}
	if err := weighHalf(ctx, s, made["Slack"], laid["Slack"]); err != nil {
		return fmt.Errorf("weigh Slack: %w", err)
	}
	if err := fillYarns(ctx, s, laid["Border"], makings["Samphire mitts"]); err != nil {
		return fmt.Errorf("yarns: %w", err)
	}
	if err := fillRuns(ctx, s, made["Cuffs"], laid["Cuffs"], makings["Mudflat fleece"], ids["Mudflat fleece, raw"]); err != nil {
		return err
	}
	if err := fillShawl(ctx, s, ids); err != nil {
		return err
	}
	return touch(ctx, s, makings["Tide Table throw"])
}

// touch has a making stand first, as the latest that was worked at.
func touch(ctx context.Context, s *studio.Studio, making int64) error {
	m, err := s.Recipe.Making(ctx, making)
	if err != nil {
		return err
	}
	_, err = s.Recipe.UpdateMaking(ctx, m.ID, m.Version, recipe.MakingInput{Name: m.Name, Note: m.Note, Schools: m.Schools})
	return err
}

// fillNeed says what the throw takes: of a two-ply of 220 m in 100 g as much as its blends make.
func fillNeed(ctx context.Context, s *studio.Studio, making, border, low int64) error {
	tops := 2.0 // almost all of it was combed and washed by others
	_, err := s.Yarns.StartNeed(ctx, making, yarns.NeedPlan{
		What: "a throw in six panels with a border", Way: "yarn", Grist: 220, Weight: 1293.68, Length: 2846.1, Locked: []string{"weight"}, Plies: 2, Look: "heather",
		Looks:        []yarns.NeedLook{{BlendID: border, Look: "striped"}, {BlendID: low, Look: "streaky"}},
		FinishingPct: &tops,
	})
	return err
}

// placeOf is where a lot lies: what there is little of lies at hand.
func placeOf(grams float64) string {
	if grams < 60 {
		return "basket by the carder"
	}
	return "cupboard, second shelf"
}

// fillShelf puts lots on the shelf and gives them by name.
func fillShelf(ctx context.Context, s *studio.Studio, lots []lot) (map[string]int64, error) {
	var in []shelf.NewLot
	for _, l := range lots {
		n := shelf.NewLot{Grams: l.grams, LotInput: shelf.LotInput{
			Name: l.name, Kind: l.kind, Preparation: l.prep, Colours: l.colours, Superwash: l.superwash, Lies: l.lies, RunCM: l.run,
			Words: fibre.Words{Note: l.note, WhereFrom: "odd lots", Place: placeOf(l.grams)},
		}}
		if l.staple > 0 {
			n.StapleMM = &l.staple
		}
		if l.cost > 0 {
			n.CostPer100g = &l.cost
		}
		in = append(in, n)
	}
	made, err := s.Shelf.CreateLots(ctx, in, "")
	ids := map[string]int64{}
	for _, l := range made {
		ids[l.Name] = l.ID
	}
	return ids, err
}

func fillBlend(ctx context.Context, s *studio.Studio, making int64, b blend, ids map[string]int64) (recipe.Blend, error) {
	in := recipe.BlendInput{Name: b.name, TotalG: b.total, Passes: 2, Target: b.target}
	if once[b.name] {
		in.Passes = 1
	}
	for _, p := range b.parts {
		id, ok := ids[p.lot]
		if !ok {
			return recipe.Blend{}, fmt.Errorf("no lot %q", p.lot)
		}
		in.Components = append(in.Components, recipe.BlendComponent{LotID: &id, Parts: p.parts})
	}
	return s.Recipe.CreateBlend(ctx, making, in)
}

// weighHalf plans four batts of 60 g as they are laid up, and weighs the first
// two, the second as far as its middle.
func weighHalf(ctx context.Context, s *studio.Studio, blend, layup int64) error {
	in := scale.WeighoutInput{Name: "Slack, four batts", Units: 4, FinishedG: 60, Passes: 2, StepG: 0.1, LayupID: &layup}
	w, err := s.Scale.CreateWeighout(ctx, blend, in)
	if err != nil {
		return err
	}
	for i := 0; w.Next != nil && i < 7; i++ {
		at := *w.Next
		cell := w.Units[at.Unit].Cells[at.Component]
		w, err = s.Scale.Weigh(ctx, w.ID, scale.Reading{
			Key: fmt.Sprintf("sample-world-%d", i), Version: w.Version, Unit: at.Unit, Component: at.Component, Grams: cell.TargetG,
		})
		if err != nil {
			return err
		}
	}
	return nil
}
