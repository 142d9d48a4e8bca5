package calls

import (
	"context"
	"fmt"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/yarn"
	"fairtangle/studio/workshop"
)

// Drawn is how fibre is drawn, and how it was prepared; left out, nothing is said of the size of the yarn.
type Drawn struct {
	Draw     string `json:"draw"`
	Prepared string `json:"prepared"`
}

// YarnSize is how thick a yarn is; left out where nobody said how it is drawn.
type YarnSize struct {
	DiameterMM   *float64 `json:"diameter_mm,omitempty"`
	WrapsPerInch *float64 `json:"wraps_per_inch,omitempty"`
	Packing      *float64 `json:"packing,omitempty"`
}

// size is how thick a yarn is, where it was said how it is drawn.
func (d Drawn) size(tex, takeUp float64, ply string, of yarn.Body) (out YarnSize, err error) {
	if d.Draw == "" && d.Prepared == "" {
		return out, nil
	}
	if d.Draw == "" {
		d.Draw = yarn.Draws[0]
	}
	if d.Prepared == "" {
		d.Prepared = "batt"
	}
	s, err := yarn.SizeOf(tex, takeUp, yarn.PliesOf(ply), d.Draw, d.Prepared, of.Density, of.Crimp)
	if err != nil {
		return out, err
	}
	return YarnSize{&s.DiameterMM, &s.WrapsPerInch, &s.Packing}, nil
}

// mixed is the body of fibres by their grams; of a kind that is not known, that of a wool.
func mixed(kinds []string, grams []float64) yarn.Body {
	standard := workshop.StandardKinds()
	densities, crimps := make([]float64, len(kinds)), make([]string, len(kinds))
	for i, key := range kinds {
		k, ok := standard.Find(key)
		if !ok {
			k, _ = standard.Find("corriedale")
		}
		densities[i], crimps[i] = k.Density, k.Crimp
	}
	return yarn.BodyOf(grams, densities, crimps)
}

// bodyOf is what the fibre of a batt is.
func bodyOf(list []SimulateComponent, p carding.Plan) yarn.Body {
	kinds, grams := make([]string, len(list)), make([]float64, len(list))
	for i, c := range list {
		kinds[i], grams[i] = c.Kind, 1e-9
	}
	if len(p.Components) == len(list) {
		for _, layer := range p.Layers {
			for _, v := range layer {
				grams[v.Component] += v.Grams
			}
		}
	}
	return mixed(kinds, grams)
}

// SequencePart is a fibre of a rung.
type SequencePart struct {
	Name   string               `json:"name"`
	Colour workshop.ColourInput `json:"colour"`
	ManyColours
	Parts float64 `json:"parts"`
	Share float64 `json:"share"` // in place of parts
	Kind  string  `json:"kind"`
}

// SequenceRung is fibre that is spun after what stands before it: of one colour, of several fibres mixed even, or a batt.
type SequenceRung struct {
	Name       string                `json:"name"`
	Grams      float64               `json:"grams"`
	Colour     *workshop.ColourInput `json:"colour"`
	Components []SequencePart        `json:"components"`
	Batt       *YarnRequest          `json:"batt"`
}

// SequenceRequest asks for the yarn of rungs, one after the other.
type SequenceRequest struct {
	Rungs   []SequenceRung `json:"rungs"`
	Strands int            `json:"strands"`
	Split   string         `json:"split"`
	Plain   []struct {
		Colour workshop.ColourInput `json:"colour"`
	} `json:"plain"`
	Ply       string   `json:"ply"`
	Tex       *float64 `json:"singles_tex"`
	TakeUpPct *float64 `json:"take_up_pct"`
	WastePct  *float64 `json:"waste_pct"`
	Jump      *float64 `json:"jump"`
	Drawn
	Model *workshop.ModelInput `json:"model"`
}

// SequenceRun is a stretch of the yarn of one colour; rung is that of its first strand.
type SequenceRun struct {
	Rung   int                   `json:"rung"`
	Rungs  []int                 `json:"rungs"` // of each strand
	FromM  float64               `json:"from_m"`
	ToM    float64               `json:"to_m"`
	Colour workshop.ColourOutput `json:"colour"`
}

// SequenceJoin is where the yarn goes on to another rung.
type SequenceJoin struct {
	AtM    float64         `json:"at_m"`
	Jump   float64         `json:"jump"`
	Abrupt bool            `json:"abrupt"`
	Bridge *SequenceBridge `json:"bridge,omitempty"` // where it is abrupt
}

// SequenceBridge is a rung between two that would soften a join: a third of the lighter of its neighbours from each of them.
type SequenceBridge struct {
	Components []SequenceShare `json:"components"`
	Grams      float64         `json:"grams"`
}

// SequenceShare is what a rung gives to a bridge.
type SequenceShare struct {
	Rung  int     `json:"rung"`
	Name  string  `json:"name"`
	Share float64 `json:"share"`
}

// SequenceAnswer is the yarn of a sequence.
type SequenceAnswer struct {
	SinglesM float64        `json:"singles_m"`
	PliedM   float64        `json:"plied_m"`
	GristM   float64        `json:"grist_m_per_100g"`
	Runs     []SequenceRun  `json:"runs"`
	Joins    []SequenceJoin `json:"joins"`
	LeftM    []float64      `json:"left_m"` // of single, of each strand
	YarnSize
}

// usual figures of a sequence where nothing is told, as those of the call.
const (
	sequenceTex    = 100.0
	sequenceTakeUp = 5.0
	sequenceWaste  = 3.0
)

// mostBatts is how many rungs are foretold as batts: each is carded first.
const mostBatts = 12

// sequencing is a request made ready: of names the rung that each stretch of the sequence is of.
type sequencing struct {
	of   yarn.Sequence
	rung []int
	body yarn.Body
}

// SequenceOf works out the yarn of rungs, from nothing but the request.
func SequenceOf(ctx context.Context, q SequenceRequest) (SequenceAnswer, error) {
	s, err := q.ready(ctx)
	if err != nil {
		return SequenceAnswer{}, err
	}
	y, err := s.of.Spin()
	if err != nil {
		return SequenceAnswer{}, err
	}
	a := SequenceAnswer{SinglesM: y.Singles, PliedM: y.Plied, GristM: y.Grist, LeftM: y.Left, Runs: []SequenceRun{}, Joins: []SequenceJoin{}}
	if a.YarnSize, err = q.size(s.of.Tex, s.of.TakeUp, s.of.Ply, s.body); err != nil {
		return a, err
	}
	for _, r := range y.Runs {
		seen, _ := r.Colour.Reflectance()
		run := SequenceRun{FromM: r.From, ToM: r.To, Colour: workshop.ColourOut(seen)}
		for _, i := range r.Rungs {
			run.Rungs = append(run.Rungs, s.rung[i])
		}
		run.Rung = run.Rungs[0]
		a.Runs = append(a.Runs, run)
	}
	for _, j := range y.Joins {
		from, to := s.rung[j.From], s.rung[j.To]
		if from == to { // within a batt
			continue
		}
		out := SequenceJoin{AtM: j.At, Jump: j.Jump, Abrupt: j.Abrupt}
		if j.Abrupt {
			share := func(i int) SequenceShare { return SequenceShare{i, q.Rungs[i].Name, 0.5} }
			out.Bridge = &SequenceBridge{[]SequenceShare{share(from), share(to)}, 2 * min(q.Rungs[from].Grams, q.Rungs[to].Grams) / 3}
		}
		a.Joins = append(a.Joins, out)
	}
	return a, nil
}

func (q SequenceRequest) ready(ctx context.Context) (s sequencing, err error) {
	var l fault.List
	m, err := q.Model.Model()
	l.Take("", err)
	or := func(v *float64, usual float64) float64 {
		if v == nil {
			return usual
		}
		return *v
	}
	s.of = yarn.Sequence{Strands: q.Strands, Split: q.Split, Ply: q.Ply, Tex: or(q.Tex, sequenceTex), TakeUp: or(q.TakeUpPct, sequenceTakeUp) / 100,
		Waste: or(q.WastePct, sequenceWaste) / 100, Jump: or(q.Jump, yarn.UsualJump)}
	if s.of.Ply == "" {
		s.of.Ply = yarn.Two
	}
	if s.of.Split == "" {
		s.of.Split = yarn.EachRung
	}
	for i, p := range q.Plain {
		c, _, err := p.Colour.Read()
		l.Take(fmt.Sprintf("plain[%d].colour", i), err)
		s.of.Plain = append(s.of.Plain, c.Linear())
	}
	if n := len(q.Rungs); n == 0 || n > yarn.MaxRungs {
		l.Add("rungs", "A sequence has 1 to %d rungs.", yarn.MaxRungs)
		return s, l
	}
	var kinds []string
	var grams []float64
	batts := 0
	for i, r := range q.Rungs {
		at := fmt.Sprintf("rungs[%d].", i)
		for _, c := range r.Components {
			kinds, grams = append(kinds, c.Kind), append(grams, r.Grams*max(c.Share, c.Parts, 1e-9))
		}
		switch {
		case r.Batt != nil:
			if batts++; batts > mostBatts {
				l.Add(at+"batt", "At most %d rungs are batts.", mostBatts)
				return s, l
			}
			s.batt(ctx, i, r, at, &l)
		case len(r.Components) > 0:
			s.add(i, r.Grams, evenOf(r.Components, m.Even, at, &l))
		case r.Colour != nil:
			c, _, err := r.Colour.Read()
			l.Take(at+"colour", err)
			s.add(i, r.Grams, c.Linear())
		default:
			l.Add(at+"colour", "Say its colour, what it is mixed of, or how it is carded.")
		}
	}
	s.body = yarn.BodyOf(nil, nil, nil)
	if len(kinds) > 0 {
		s.body = mixed(kinds, grams)
	}
	return s, l.Err()
}

func (s *sequencing) add(rung int, grams float64, c colour.Linear) {
	s.of.Rungs, s.rung = append(s.of.Rungs, yarn.Rung{Grams: grams, Colour: c}), append(s.rung, rung)
}

// batt puts the runs of a batt, spun as a single, in the place of a rung.
func (s *sequencing) batt(ctx context.Context, i int, r SequenceRung, at string, l *fault.List) {
	q := *r.Batt
	q.Ply, q.Pair = yarn.Single, ""
	y, sim, err := q.spin(ctx)
	if err != nil {
		l.Take(at+"batt", err)
		return
	}
	for _, run := range y.Stretches {
		c := sim.model.Even(sim.colours, run.Shares)
		s.add(i, r.Grams*(run.ToM-run.FromM)/y.PliedM, c.Linear())
	}
}

// evenOf is the colour of fibres mixed even.
func evenOf(list []SequencePart, even func([]colour.Reflectance, []float64) colour.Reflectance, at string, l *fault.List) colour.Linear {
	var lots []colour.Reflectance
	var shares []float64
	var sum float64
	for i := range list {
		p := &list[i]
		if p.Parts == 0 {
			p.Parts = p.Share
		}
		if !(p.Parts > 0 && p.Parts <= 1e6) {
			l.Add(fmt.Sprintf("%scomponents[%d].parts", at, i), "Parts are above 0.")
		}
		var c colour.Reflectance
		if p.any() {
			list, own := p.read(fmt.Sprintf("%scomponents[%d].", at, i), l)
			c = even(list, own)
		} else {
			var err error
			c, _, err = p.Colour.Read()
			l.Take(fmt.Sprintf("%scomponents[%d].colour", at, i), err)
		}
		lots, shares, sum = append(lots, c), append(shares, p.Parts), sum+p.Parts
	}
	for i := range shares {
		shares[i] /= max(sum, 1e-12)
	}
	c := even(lots, shares)
	return c.Linear()
}
