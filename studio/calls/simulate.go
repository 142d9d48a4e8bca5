package calls

import (
	"context"
	"fmt"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/mix"
	"fairtangle/core/weigh"
	"fairtangle/studio/laying"
	"fairtangle/studio/workshop"
)

// SimulateComponent is a component of a batt that is foretold.
type SimulateComponent struct {
	Name   string               `json:"name"`
	Colour workshop.ColourInput `json:"colour"`
	ManyColours
	Kind    string  `json:"kind"`
	Joins   int     `json:"joins_at_pass"`
	Alone   int     `json:"alone_first"`
	LossPct float64 `json:"loss_pct"` // in each carding
}

// SimulateLay is a lay of it. A place that is left out is the whole width or length.
type SimulateLay struct {
	Component int      `json:"component"`
	From      float64  `json:"from"`
	To        *float64 `json:"to"`
	Start     float64  `json:"start"`
	End       *float64 `json:"end"`
	Grams     float64  `json:"grams"`
	Method    string   `json:"method"`
	Chunky    float64  `json:"chunky"`
}

// SimulateRequest asks what becomes of a lay-up, pass by pass.
type SimulateRequest struct {
	Equipment  BedInput            `json:"equipment"`
	Components []SimulateComponent `json:"components"`
	Layers     []struct {
		Lays []SimulateLay `json:"lays"`
	} `json:"layers"`
	Passes []struct {
		Split  int    `json:"split"`
		Refeed string `json:"refeed"`
		Turned bool   `json:"turned"`
		ByHand bool   `json:"by_hand"`
		Turns  int    `json:"turns_about"`
	} `json:"passes"`
	Seed  uint64               `json:"seed"`
	Model *workshop.ModelInput `json:"model"`
}

// SimulatedSide is what is seen from one side.
type SimulatedSide struct {
	PatchDeltaE  float64 `json:"patch_delta_e"`
	AcrossDeltaE float64 `json:"across_delta_e"`
}

// SimulatedStage is the batt after a pass.
type SimulatedStage struct {
	Pass               int                      `json:"pass"`
	Grams              []float64                `json:"grams"`
	LostG              []float64                `json:"lost_g"`
	Irregularity       []float64                `json:"irregularity"`
	StrandIrregularity []float64                `json:"strand_irregularity"`
	LocalIrregularity  []float64                `json:"local_irregularity"`
	PatchDeltaE        float64                  `json:"patch_delta_e"`
	Look               string                   `json:"look"`
	Sides              map[string]SimulatedSide `json:"sides"` // face, back, cut
	AcrossDeltaE       float64                  `json:"across_delta_e"`
	Graded             bool                     `json:"graded"`
	SidesDeltaE        float64                  `json:"sides_delta_e"`
	TwoSided           bool                     `json:"two_sided"`
	LaneShares         [][]float64              `json:"lane_shares"`
	EvenColour         workshop.ColourOutput    `json:"even_colour"`
	// ColourG are grams by component and colour, LaneColourShares the shares of every colour, component after component; left out
	// where each component has one.
	ColourG          [][]float64 `json:"colour_g,omitempty"`
	LaneColourShares [][]float64 `json:"lane_colour_shares,omitempty"`
}

// SimulateAnswer are the stages, the first being the batt as first laid and lifted.
type SimulateAnswer struct {
	Stages []SimulatedStage `json:"stages"`
	Notes  []workshop.Note  `json:"notes,omitempty"`
}

// simulation is a request made ready.
type simulation struct {
	plan    carding.Plan
	params  carding.Params
	grid    carding.Grid
	eye     carding.Eye
	colours []colour.Reflectance
	model   mix.Model
	crimp   string         // of what there is most of
	fibres  []layup.Fibre  // by slot
	slots   []carding.Slot // a colour of a component each
	of      []int          // the component of each slot
	many    bool           // a component has more than one
	lots    []colourLot
	// merged is how many colours are followed with their nearest, mergedBy how far off the farthest of them was.
	merged   int
	mergedBy float64
}

func (q *SimulateRequest) ready() (s simulation, err error) {
	bed, err := q.Equipment.bed()
	if err != nil {
		return s, err
	}
	var l fault.List
	m, err := q.Model.Model()
	l.Take("", err)
	if n := len(q.Components); n == 0 || n > weigh.MaxComponents {
		l.Add("components", "There are 1 to %d components.", weigh.MaxComponents)
		return s, l
	}
	if len(q.Passes) > 0 && bed.Type == layup.Board {
		l.Add("passes", "What is drawn on a board is not carded again.")
	}
	s.plan, s.model = q.plan(bed), m
	fibres, cloth := q.fibres(&s, &l)
	if err := l.Err(); err != nil {
		return s, err
	}
	for _, layer := range s.plan.Layers {
		for _, v := range layer {
			if v.Component >= 0 && v.Component < len(fibres) {
				fibres[v.Component].Grams += v.Grams
				cloth[v.Component].Grams += v.Grams
			}
		}
	}
	most := 0.0
	for _, f := range fibres {
		if f.Grams > most {
			most, s.crimp = f.Grams, f.Crimp
		}
	}
	for i, f := range fibres {
		s.plan.Components[i].ThingG, s.plan.Components[i].ThingMM = laying.ThingOf(f)
	}
	s.fibres = fibres
	s.plan.Bed.FullG = bed.Capacity(fibres)
	if err := s.plan.Check(); err != nil {
		return s, err
	}
	q.part(&s)
	if err := s.plan.Check(); err != nil {
		return s, err
	}
	s.params = carding.DefaultParams().For(cloth)
	s.grid = carding.FineGrid(bed.WidthMM, bed.LengthMM)
	s.eye = carding.Eye{Palette: carding.NewPalette(m, s.colours, nil)}
	return s, nil
}

// plan is the lay-up and the passes of a request.
func (q *SimulateRequest) plan(bed layup.Bed) carding.Plan {
	p := carding.Plan{
		Bed:        carding.Bed{WidthMM: bed.WidthMM, LengthMM: bed.LengthMM, Open: !bed.Again()},
		Components: make([]carding.Component, len(q.Components)),
		Loss:       func(c, _ int) float64 { return q.Components[c].LossPct / 100 },
	}
	for i, layer := range q.Layers {
		p.Layers = append(p.Layers, nil)
		for _, v := range layer.Lays {
			lay := carding.Lay{
				Component: v.Component, From: v.From, To: 1, Start: v.Start, End: 1, Grams: v.Grams, Method: carding.Method(v.Method), Chunky: v.Chunky,
			}
			if lay.Chunky == 0 && bed.Type == layup.Hands {
				lay.Chunky = carding.Lumps // nothing has opened it yet
			}
			if v.To != nil {
				lay.To = *v.To
			}
			if v.End != nil {
				lay.End = *v.End
			}
			p.Layers[i] = append(p.Layers[i], lay)
		}
	}
	for _, v := range q.Passes {
		p.Passes = append(p.Passes, carding.Pass{
			Strips: v.Split, Refeed: carding.Refeed(v.Refeed), Turned: v.Turned, ByHand: v.ByHand || bed.Type == layup.Hands, Turns: v.Turns,
		})
	}
	return p
}

// fibres reads the components: what the cloth and the eye have to know of them.
func (q *SimulateRequest) fibres(s *simulation, l *fault.List) ([]layup.Fibre, []carding.Fibre) {
	kinds := workshop.StandardKinds()
	out, cloth := make([]layup.Fibre, len(q.Components)), make([]carding.Fibre, len(q.Components))
	for i, c := range q.Components {
		at := fmt.Sprintf("components[%d].", i)
		if c.Kind == "" {
			c.Kind = "corriedale"
		}
		kind, ok := kinds.Find(c.Kind)
		if !ok {
			l.Add(at+"kind", "There is no kind called %q.", c.Kind)
		}
		r := c.one(&c.Colour, s.model, at, l)
		if c.Joins < 0 || c.Joins > len(q.Passes)+1 {
			l.Add(at+"joins_at_pass", "A component joins at one of the passes, 1 to %d.", len(q.Passes)+1)
		}
		if c.Alone < 0 || c.Alone > losses.MaxAlone {
			l.Add(at+"alone_first", "A component is carded alone 0 to %d times.", losses.MaxAlone)
			c.Alone = 0
		}
		if !(c.LossPct >= 0 && c.LossPct < 100) {
			l.Add(at+"loss_pct", "What is lost lies from 0 to below 100 %%.")
		}
		out[i] = laying.LayFibre(c.Name, 0, kind, "carded_sliver", kind.StapleMM.Mid())
		s.plan.Components[i].Joins, s.plan.Components[i].Alone = c.Joins, c.Alone
		cloth[i] = carding.Fibre{StapleMM: kind.StapleMM.Mid(), Density: kind.Density, Thickness: kind.Thickness()}
		s.colours = append(s.colours, r)
	}
	return out, cloth
}

// part has every colour of every component followed for itself; where these are too many, the nearest of one component together.
func (q *SimulateRequest) part(s *simulation) {
	lots := make([]colourLot, len(q.Components))
	for i, c := range q.Components {
		lots[i] = lotOf(s.colours[i:i+1], []float64{1}, nil)
		if !c.any() {
			continue
		}
		list, shares := c.read("", &fault.List{})
		if many := c.lying(shares); many != nil {
			lots[i], s.many = lotOf(list, shares, many), true
		}
	}
	fibres, plan := s.fibres, s.plan
	for {
		many := make([]*carding.Coloured, len(lots))
		for i := range lots {
			many[i] = lots[i].many
		}
		s.plan, s.slots = plan.Part(many, q.Seed)
		if n := s.plan.Slots(); n <= carding.MaxSlots || !s.many {
			break
		}
		de, ok := mergeNearest(lots, s.model)
		if !ok {
			break
		}
		s.merged, s.mergedBy = s.merged+1, max(s.mergedBy, de)
	}
	s.lots, s.colours, s.fibres = lots, nil, nil
	for _, v := range s.slots {
		s.of = append(s.of, v.Component)
		s.colours = append(s.colours, lots[v.Component].colours[v.Colour])
		s.fibres = append(s.fibres, fibres[v.Component])
	}
}

// gather has figures that are of components be of them, and adds those of their colours.
func (s simulation) gather(out *SimulatedStage, b *carding.Batt) {
	n := s.of[len(s.of)-1] + 1
	bySlot, lanes := out.Grams, out.LaneShares
	whole := b.Gathered(s.of, n)
	irregular := whole.Irregular(n)
	out.Grams, out.LostG = whole.Grams(n), whole.Lost(n)
	out.Irregularity, out.StrandIrregularity, out.LocalIrregularity = irregular.Section, irregular.Strand, irregular.Local
	out.ColourG, out.LaneShares, out.LaneColourShares = make([][]float64, n), nil, lanes
	for i, l := range s.lots {
		out.ColourG[i] = make([]float64, len(l.own))
	}
	for k, g := range bySlot {
		l := s.lots[s.of[k]]
		for _, m := range l.members[s.slots[k].Colour] {
			out.ColourG[s.of[k]][m] = g * l.own[m] / l.shares[s.slots[k].Colour]
		}
	}
	for _, lane := range lanes {
		out.LaneShares = append(out.LaneShares, s.together(lane))
	}
}

// together adds up what is by slot to what is by component.
func (s simulation) together(list []float64) []float64 {
	out := make([]float64, s.of[len(s.of)-1]+1)
	for k, v := range list {
		out[s.of[k]] += v
	}
	return out
}

// Simulate foretells a batt from nothing but the request.
func Simulate(ctx context.Context, q SimulateRequest) (SimulateAnswer, error) {
	s, err := q.ready()
	if err != nil {
		return SimulateAnswer{}, err
	}
	a := SimulateAnswer{Stages: []SimulatedStage{}}
	for i, c := range q.Components {
		c.Colour.NoteMoved(&a.Notes, fmt.Sprintf("components[%d].colour", i))
	}
	if s.merged > 0 {
		a.Notes = append(a.Notes, workshop.Note{Field: "components", Message: fmt.Sprintf(
			"%d colours are followed together with the nearest of their component, at most %.1f CIEDE2000 off.", s.merged, s.mergedBy)})
	}
	err = carding.Run(ctx, s.plan, s.params, s.grid, q.Seed, func(stage int, b *carding.Batt, _ []carding.Placed) error {
		out := stageOut(s.eye.Measure(b, stage), s)
		if s.many {
			s.gather(&out, b)
		}
		a.Stages = append(a.Stages, out)
		return nil
	})
	return a, err
}

func stageOut(v carding.Stage, s simulation) SimulatedStage {
	out := SimulatedStage{
		Pass: v.Pass, Grams: v.Grams, LostG: v.Lost, Irregularity: v.Irregular.Section, StrandIrregularity: v.Irregular.Strand,
		LocalIrregularity: v.Irregular.Local, PatchDeltaE: v.Patch, Look: string(v.Look), Sides: map[string]SimulatedSide{},
		AcrossDeltaE: v.Across, Graded: v.Graded(), SidesDeltaE: v.Turned, TwoSided: v.TwoSided(), EvenColour: workshop.ColourOut(s.model.Even(s.colours,
			sharesOf(v.Grams))),
	}
	for side, d := range v.Spreads {
		out.Sides[string(side)] = SimulatedSide{d.Patch, d.Across}
	}
	for _, g := range v.Lanes.Grams {
		out.LaneShares = append(out.LaneShares, sharesOf(g))
	}
	return out
}

// sharesOf are parts of a whole; nothing has none.
func sharesOf(grams []float64) []float64 {
	out := make([]float64, len(grams))
	var sum float64
	for _, g := range grams {
		sum += g
	}
	for i, g := range grams {
		if sum > 0 {
			out[i] = g / sum
		}
	}
	return out
}
