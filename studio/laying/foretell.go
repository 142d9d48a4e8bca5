package laying

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"slices"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
)

// Division is how a batt is divided and fed again for each later pass. Strips 0 and an
// empty Refeed are those of the lay-up.
type Division struct {
	Strips int    `json:"strips"`
	Refeed string `json:"refeed"`
	If     string `json:"-"` // as it would be after the mend of this finding
}

// Foretelling is a lay-up made ready to be foretold.
type Foretelling struct {
	Layup    Layup
	Division Division
	Planned  int           // passes
	Shown    int           // stages that are shown
	Digest   string        // names what it rests on
	If       unit.Sentence // what was done to it first, where it is only asked
	Plan     carding.Plan  `json:"-"`
	Fit      *CarderFit    // of the carder, where a test batt was noted
	usual    carding.Params
	Params   carding.Params  `json:"-"` // usual, or as the fit has them
	Palette  carding.Palette `json:"-"`
	crimp    string
	sorts    []layup.Fibre        // what each slot is, to draw it
	of       []int                // the component of each slot: one for every colour that it is followed in
	own      []colour.Reflectance // of each slot
}

// stagesShown is how many passes are shown at least, so that one sees what more of them
// would do.
const stagesShown = 4

// CarderSeed is the seed of what is shown; forecasts use many.
const CarderSeed = 1

// Foretell readies a kept lay-up. Its plan is carded as the division says.
func (s *Room) Foretell(ctx context.Context, id int64, d Division) (*Foretelling, error) {
	l, err := s.Layup(ctx, id)
	if err != nil || d.If == "" {
		return s.foretold(ctx, l, d, err)
	}
	l, said, err := s.LayupMender.WhatIf(ctx, l, d.If)
	f, err := s.foretold(ctx, l, d, err)
	if f != nil {
		f.If = said
	}
	return f, err
}

// foretold is foretell of what was found.
func (s *Room) foretold(ctx context.Context, l Layup, d Division, err error) (*Foretelling, error) {
	if err != nil {
		return nil, err
	}
	return s.ForetellOf(ctx, l, d)
}

// usualBuilder lays a blend that has no lay-up yet, to see what carding will make of it.
const usualBuilder = "depth"

// ForetellBlend readies a blend as it is laid for a drum, latest, else as the usual builder lays it on the first drum of the
// workshop. Without a drum there is none.
func (s *Room) ForetellBlend(ctx context.Context, id int64) (*Foretelling, error) {
	b, err := s.recipe.Blend(ctx, id)
	if err != nil {
		return nil, err
	}
	laid, err := s.LayupsOf(ctx, id)
	if err != nil {
		return nil, err
	}
	for _, r := range laid {
		if l, err := s.Layup(ctx, r.ID); err == nil && l.Bed.Type == layup.Drum && len(l.LaidPlan.Layers) > 0 {
			return s.ForetellOf(ctx, l, Division{})
		}
	}
	choices, err := s.ChooseEquipment(ctx, id)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(choices, func(c EquipmentChoice) bool { return c.EquipmentID != 0 && c.Type == string(layup.Drum) })
	if at < 0 {
		return nil, fault.New("equipment", "A forecast needs a drum carder in the workshop.")
	}
	in, err := s.built(ctx, b, choices[at].EquipmentID, max(choices[at].Units, 1), b.Name, BuildInput{Builder: usualBuilder})
	if err != nil {
		return nil, err
	}
	l, err := s.WorkOutLayup(ctx, b, in, false)
	if err != nil {
		return nil, err
	}
	return s.ForetellOf(ctx, l, Division{})
}

// ForetellOf readies a lay-up as it is given, kept or not.
func (s *Room) ForetellOf(ctx context.Context, l Layup, d Division) (*Foretelling, error) {
	f := &Foretelling{Layup: l, Planned: l.LastPass, Shown: 1}
	if l.Bed.Type != layup.Board { // a board is not carded again
		f.Shown = min(max(l.LastPass, stagesShown), carding.Horizon)
	}
	if err := f.divide(d); err != nil {
		return nil, err
	}
	f.lay()
	if err := s.follow(ctx, f); err != nil {
		return f, err
	}
	if err := f.Plan.Check(); err != nil {
		return f, err
	}
	content, err := json.Marshal([]any{f.Plan.Bed, f.Plan.Components, f.Plan.Layers, f.Division, f.Palette.Linear, f.Palette.Strength, f.Params})
	if err != nil {
		return nil, err
	}
	f.Digest = fmt.Sprintf("%x", sha256.Sum256(content))[:16]
	return f, nil
}

// follow takes the carder as its test batt has shown it.
func (s *Room) follow(ctx context.Context, f *Foretelling) (err error) {
	f.Params = f.usual
	if f.Layup.Bed.Type != layup.Drum {
		return nil
	}
	if f.Fit, err = s.CarderFit(ctx, f.Layup.EquipmentID); err == nil && f.Fit != nil && f.Fit.Used {
		f.Params = f.Fit.Known.Mean().Of(f.usual)
	}
	return err
}

// divide chooses how the batt is divided: as asked, or as the lay-up has it, brought to
// what a forecast can follow.
func (f *Foretelling) divide(d Division) error {
	p := f.Layup.LaidPlan
	if d.Refeed == "" {
		if d.Refeed = string(p.Refeed); d.Refeed == "" {
			d.Refeed = string(carding.Spread)
		}
	}
	if !slices.Contains([]string{string(carding.OwnPlace), string(carding.Spread), string(carding.Pieces)}, d.Refeed) {
		return fault.New("refeed", "Strips are fed again in their own place, spread or in pieces.")
	}
	if d.Strips == 0 {
		d.Strips = layup.NearStrips(p.StripsOf(f.Layup.Bed))
	}
	if !slices.Contains(layup.StripCounts, d.Strips) {
		return fault.New("strips", "A forecast divides the batt into 1, 2, 3, 4, 6 or 8 strips.")
	}
	switch f.Layup.Bed.Type {
	case layup.Cards:
		d = Division{Strips: 1, Refeed: string(carding.OwnPlace), If: d.If}
	case layup.Hands:
		d = Division{Strips: 2, Refeed: string(carding.Pieces), If: d.If}
	}
	f.Division = d
	return nil
}

// lay turns the lay-up into what carding knows.
func (f *Foretelling) lay() {
	l := f.Layup
	n, hands := len(l.Blend.Components), l.Bed.Type == layup.Hands
	f.Plan = carding.Plan{
		Bed:        carding.Bed{WidthMM: l.Bed.WidthMM, LengthMM: l.Bed.LengthMM, FullG: l.Bed.Capacity(l.LaidFibres), Open: !l.Bed.Again()},
		Components: make([]carding.Component, n),
		Loss:       func(c, n int) float64 { return l.LaidFibres[c].Loses.In(n + l.LaidPlan.LosesAlone(l.Bed, c)) },
	}
	var cloth []carding.Fibre
	most := 0.0
	colours, strength := make([]colour.Reflectance, n), make([]float64, n)
	for i := range n {
		fibre, kind := l.LaidFibres[i], l.Fibres[i].kind
		f.Plan.Components[i] = carding.Component{Joins: min(l.LaidPlan.JoinsAt(i), f.Shown), Alone: l.LaidPlan.OpenedAlone(i)}
		f.Plan.Components[i].ThingG, f.Plan.Components[i].ThingMM = ThingOf(fibre)
		f.sorts = append(f.sorts, fibre)
		cloth = append(cloth, carding.Fibre{Grams: fibre.Grams, StapleMM: fibre.StapleMM, Density: kind.Density, Thickness: kind.Thickness()})
		if fibre.Grams > most {
			most, f.crimp = fibre.Grams, fibre.Crimp
		}
		colours[i], strength[i] = l.Blend.Tints[i].Colour, l.at.StrengthOf(l.Blend.Tints[i])
	}
	for _, layer := range l.LaidPlan.Layers {
		var lays []carding.Lay
		for _, v := range layer.Lays {
			if v.Component >= 0 && v.Component < n && v.Grams > 0 {
				lay := carding.Lay{
					Component: v.Component, From: v.From, To: v.To, Start: v.Start, End: v.End, Grams: v.Grams, Method: carding.Method(v.Method),
				}
				if hands && v.Method != layup.Place { // in handfuls that nothing has opened yet
					lay.Method, lay.Chunky = carding.FeedIt, carding.Lumps
				}
				lays = append(lays, lay)
			}
		}
		f.Plan.Layers = append(f.Plan.Layers, lays)
	}
	for range f.Shown - 1 {
		f.Plan.Passes = append(f.Plan.Passes, f.pass())
	}
	f.usual = carding.DefaultParams().For(cloth)
	f.part(colours, strength)
}

// pass is one more pass as the batt is divided, or one more round by hand.
func (f *Foretelling) pass() carding.Pass {
	p := carding.Pass{Strips: f.Division.Strips, Refeed: carding.Refeed(f.Division.Refeed), ByHand: f.Layup.Bed.Type == layup.Hands}
	if p.Turns = f.Layup.LaidPlan.Turns; p.Refeed != carding.OwnPlace { // between strips there is no more room
		p.Turns = min(p.Turns, max(1, p.Strips-1))
	}
	return p
}

// ThingsOf are what was placed of components, as it is drawn.
func ThingsOf(list []carding.Placed, fibres []layup.Fibre) (out []appearance.Thing) {
	for _, p := range list {
		f := fibres[p.Component]
		t := appearance.Thing{Component: p.Component, Along: p.Y, Across: p.X, Angle: p.Angle, LongMM: p.LongMM, Grams: p.Grams, Seed: p.Seed, WideMM: 11,
			Shows: p.Shows}
		t.CrimpMM, t.HighMM = fibre.Wave(f.Crimp)
		switch {
		case f.Preparation == "locks":
			t.Sort = appearance.Lock
		case f.Family == "sparkle":
			t.Sort = appearance.Glint
		case f.Role == "texture" || f.Preparation == "neps":
			t.Sort = appearance.Nep
		default:
			t.Sort = appearance.Lock
		}
		out = append(out, t)
	}
	return out
}

// ThingOf is how heavy and how long the things are that a fibre is placed in.
func ThingOf(f layup.Fibre) (grams, long float64) {
	switch {
	case f.Preparation == "locks":
		return 1, f.StapleMM
	case f.Family == "sparkle":
		return 0.002, 30
	case f.Role == "texture" || f.Preparation == "neps":
		return 0.01, 5
	}
	return 1, f.StapleMM
}

// Grid is into how many cells a batt is divided; coarse is enough for a first answer.
func (f *Foretelling) Grid(coarse bool) carding.Grid {
	g := carding.FineGrid(f.Plan.Bed.WidthMM, f.Plan.Bed.LengthMM)
	if coarse {
		return g.Coarse()
	}
	return g
}

// Stages foretells every pass that is shown; coarse answers sooner.
func (s *Room) Stages(ctx context.Context, f *Foretelling, coarse bool) ([]carding.Stage, error) {
	key := fmt.Sprintf("%s %t", f.Digest, coarse)
	return s.stages.Of(ctx, key, func(ctx context.Context) (out []carding.Stage, err error) {
		e := carding.Eye{Palette: f.Palette}
		err = carding.Run(ctx, f.Plan, f.Params, f.Grid(coarse), CarderSeed, func(stage int, b *carding.Batt, _ []carding.Placed) error {
			st := e.Measure(b, stage)
			if len(f.of) > len(f.Layup.Blend.Components) {
				st.Irregular = b.Gathered(f.of, len(f.Layup.Blend.Components)).Irregular(len(f.Layup.Blend.Components))
			}
			out = append(out, st)
			return nil
		})
		return out, err
	})
}

// carders is how many carders a forecast of passes is worked out for.
const carders = 15

// Needs forecasts how many cardings it takes to each look. done is told how far it is.
func (f *Foretelling) Needs(ctx context.Context, done func(of, n int)) (map[carding.Look]carding.Needed, error) {
	e := carding.Eye{Palette: f.Palette}
	p := f.Plan
	if len(p.Passes) == 0 {
		p.Passes = []carding.Pass{f.pass()}
	}
	known := carding.Unknown(carders)
	if f.Fit != nil && f.Fit.Used {
		known = f.Fit.Known
	}
	return carding.CardingsTo(ctx, p, f.usual, &e, known, done)
}

// Sight is which picture of a foretold batt is wanted: after a stage, from a side
// (face, back, section), in pixels. PerMM above 0 is a loupe that shows so many pixels
// to a millimetre from U, V on (mm along and across). Of above 0 is one of so many parts,
// counted from 1: a strip of the face, on a board a rolag.
type Sight struct {
	Stage, Width, Height int
	Side                 string
	Coarse               bool
	U, V, PerMM          float64
	Of, Part             int
	ByWeight             bool
}

// Picture draws a foretold batt.
func (s *Room) Picture(ctx context.Context, f *Foretelling, v Sight) (*appearance.Picture, error) {
	if v.Stage < 1 || v.Stage > f.Shown {
		return nil, floor.ErrNotFound
	}
	pic := appearance.NewPicture(v.Width, v.Height)
	key := fmt.Sprintf("%s %d %s %t", f.Digest, v.Stage, v.Side, v.Coarse)
	if v.Side == "section" {
		return pic, s.after(ctx, f, v, func(b *carding.Batt, _ []carding.Placed) {
			appearance.DrawSection(pic, appearance.NewSection(b, &f.Palette, CarderSeed))
		})
	}
	sheet, err := s.sheets.Of(ctx, key, func(ctx context.Context) (sheet *appearance.Sheet, err error) {
		err = s.after(ctx, f, v, func(b *carding.Batt, put []carding.Placed) {
			long, high := fibre.Wave(f.crimp)
			sheet = appearance.NewSheet(b, &f.Palette, carding.Side(v.Side), uint64(v.Stage), long, high, ThingsOf(put, f.sorts)...)
		})
		return sheet, err
	})
	if err != nil {
		return pic, err
	}
	if v.Of > 0 {
		return pic, s.drawPart(ctx, f, v, pic, sheet)
	}
	w := sheet.Whole(v.Width, v.Height)
	if v.PerMM > 0 {
		w = appearance.Window{U: v.U, V: v.V, PerMM: v.PerMM}
	}
	appearance.Draw(pic, sheet, w)
	return pic, ctx.Err()
}

// after cards a batt up to the stage of a sight, and shows it.
func (s *Room) after(ctx context.Context, f *Foretelling, v Sight, show func(*carding.Batt, []carding.Placed)) error {
	p := f.Plan
	p.Passes = p.Passes[:v.Stage-1]
	return carding.Run(ctx, p, f.Params, f.Grid(v.Coarse), CarderSeed, func(stage int, b *carding.Batt, put []carding.Placed) error {
		if stage == v.Stage {
			show(b, put)
		}
		return nil
	})
}

// Stage is a stage of carding that is asked for; 0 is the one that is planned.
func (f *Foretelling) Stage(n int) int {
	if n < 1 {
		n = max(f.Planned, 1)
	}
	return min(n, f.Shown)
}

// BreaksTheLine names the fibres that lie in the batt of a stage as they were placed, across the
// others: it can not be drawn off in one length.
func (f *Foretelling) BreaksTheLine(stage int) (out []string) {
	for _, layer := range f.Plan.Layers {
		for _, v := range layer {
			joins := max(f.Plan.Components[v.Component].Joins, 1)
			if name := f.Layup.Fibres[f.of[v.Component]].Name; v.Method == carding.PlaceIt && joins == stage && !slices.Contains(out, name) {
				out = append(out, name)
			}
		}
	}
	return out
}
