package calls

import (
	"fmt"
	"math"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/mix"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// AdviceComponent is a component of a plan that is looked over. What is left out was not told.
type AdviceComponent struct {
	Name        string                `json:"name,omitempty"`
	Kind        string                `json:"kind"`
	Preparation string                `json:"preparation,omitempty"`
	Colour      *workshop.ColourInput `json:"colour,omitempty"`
	ManyColours
	Share        float64  `json:"share"`
	StapleMM     float64  `json:"staple_mm,omitempty"`
	PreparedMM   float64  `json:"prepared_mm,omitempty"`
	Superwash    bool     `json:"superwash,omitempty"`
	Locked       bool     `json:"locked,omitempty"`
	JoinsAtPass  int      `json:"joins_at_pass,omitempty"`
	HaveG        *float64 `json:"have_g,omitempty"`
	WashedHours  *float64 `json:"washed_hours_ago,omitempty"`
	Damp         *bool    `json:"damp,omitempty"`
	OverWeight   *float64 `json:"over_weight_pct,omitempty"`
	DyedByHand   *bool    `json:"dyed_by_hand,omitempty"`
	BleedTested  *bool    `json:"bleed_tested,omitempty"`
	Tacky        *bool    `json:"tacky,omitempty"`
	Dusty        *bool    `json:"dusty,omitempty"`
	PlantPct     *float64 `json:"plant_pct,omitempty"`
	Burrs        *bool    `json:"burrs,omitempty"`
	SecondCuts   *float64 `json:"second_cuts_pct,omitempty"`
	TenderTips   *bool    `json:"tender,omitempty"`
	CoatsSettled *bool    `json:"parted,omitempty"` // of a double coat: parted, or kept on purpose
	MothSigns    *bool    `json:"moth_signs,omitempty"`
}

// AdviceLayer is a layer of it, from the cloth outwards.
type AdviceLayer struct {
	Lays []SimulateLay `json:"lays"`
}

// AdviceRequest asks what a practised eye would say. A rule whose inputs are not sent is not
// judged.
type AdviceRequest struct {
	Components []AdviceComponent `json:"components"`
	Equipment  *BedInput         `json:"equipment"`
	Layers     []AdviceLayer     `json:"layers"`
	Passes     int               `json:"passes"`
	Use        string            `json:"use"`
	Goal       string            `json:"goal"`
	Product    string            `json:"product"`
	TotalG     float64           `json:"total_g"`
	StepG      float64           `json:"step_g"`
	Units      int               `json:"units"`

	Sampled     *bool     `json:"sampled"`
	HumidityPct *float64  `json:"humidity_pct"`
	ForSale     *bool     `json:"for_sale"`
	Labelled    *bool     `json:"labelled"`
	Turns       *float64  `json:"turns"`
	PerMinute   *float64  `json:"per_minute"`
	Wisps       *bool     `json:"wisps"`
	Strips      *int      `json:"split"`
	Rolags      *int      `json:"rolags"`
	Brush       string    `json:"brush"`
	Specks      *int      `json:"specks"`
	BeforeL     *float64  `json:"lightness_before"`
	BeforeShed  *bool     `json:"before_shed"`
	Cleaned     *bool     `json:"cleaned"`
	BattsG      []float64 `json:"batts_g"`
	BobbinsG    []float64 `json:"bobbins_g"`
	TargetG     *float64  `json:"target_g"`
	LossPct     *float64  `json:"loss_pct"`
	SampleG     *float64  `json:"sample_g"`
	RolagG      *float64  `json:"rolag_g"`
	RolagCM3    *float64  `json:"rolag_cm3"`
	DrawOffMM   *float64  `json:"draw_off_mm"`
	DowelMM     *float64  `json:"dowel_mm"`
	DizzMM      *float64  `json:"dizz_mm"`
	PullAcross  *bool     `json:"pull_across"`
	LiftedWrong *bool     `json:"lifted_wrong"`
	Stored      string    `json:"stored"`
	AgeMonths   *float64  `json:"age_months"`
	Starting    *bool     `json:"starting"`
	Ticked      *bool     `json:"ticked"`
	Next        string    `json:"next"`
	Unplugged   *bool     `json:"unplugged"`
	UsesDye     *bool     `json:"uses_dye"`
	ChildNear   *bool     `json:"child_near"`
	Manual      *bool     `json:"manual"`
	Before      string    `json:"before"`
	DustCared   *bool     `json:"dust_cared"`

	// Told are answers to questions, as a mend gives them.
	Told []AdviceTelling `json:"told"`

	Bounds map[string]float64   `json:"bounds"`
	Model  *workshop.ModelInput `json:"model"`
}

// AdviceFinding is something that is likely to go wrong. Values are parts of 1, grams,
// millimetres or counts, as their names say; Component and Layer are -1 where it is of none.
type AdviceFinding struct {
	Rule      string             `json:"rule"`
	Key       string             `json:"key"`
	Severity  string             `json:"severity"`
	Component int                `json:"component"`
	Layer     int                `json:"layer"`
	Values    map[string]float64 `json:"values"`
	What      string             `json:"what"`
	Why       string             `json:"why"`
	Do        string             `json:"do"`
	Schools   string             `json:"schools"`
	Stake     AdviceCost         `json:"at_stake"`
	Mend      *AdviceMend        `json:"mend,omitempty"`
	CannotBe  string             `json:"cannot_be_mended,omitempty"`
}

// AdviceMend is a change that ends a finding: what it does, which findings go and which come, and
// the shares, passes and units after it.
type AdviceMend struct {
	Verb    string    `json:"verb"`
	Preview string    `json:"preview"`
	Ends    []string  `json:"ends"`
	Comes   []string  `json:"comes"`
	Shares  []float64 `json:"shares"`
	TotalG  float64   `json:"total_g"`
	Passes  int       `json:"passes"`
	Units   int       `json:"units"`
	// Tells are the answers that the mend gives, by question; -1 is of no component.
	Tells []AdviceTelling `json:"tells,omitempty"`
	// Input is what takes the place of the fields of the request: sent so, the finding is not found.
	Input AdviceMended `json:"input"`
}

// AdviceTelling is an answer: 1 or 0 for yes or no, the place of a choice, else a figure.
type AdviceTelling struct {
	Question  string  `json:"question"`
	Component int     `json:"component"`
	Value     float64 `json:"value"`
}

// AdviceCost is what is at stake: grams of fibre, minutes, and the look (CIEDE2000 or chroma).
type AdviceCost struct {
	Grams   float64 `json:"grams"`
	Minutes float64 `json:"minutes"`
	Look    float64 `json:"look"`
}

// AdviceAnswer is what the second look sees.
type AdviceAnswer struct {
	Findings []AdviceFinding  `json:"findings"`
	Checked  []string         `json:"checked"`
	Unjudged []AdviceUnjudged `json:"not_judged"`
}

// AdviceUnjudged is a rule that was not judged, and the thing to tell so that it can be.
type AdviceUnjudged struct {
	Rule string `json:"rule"`
	Key  string `json:"key"`
	Tell string `json:"tell"`
}

var (
	adviceProducts = []string{"", "batt", "rolags", "punis", "roving"}
	adviceNext     = []string{"", "feed", "card", "brush", "doff", "pick", "clean", "clear", "adjust"}
)

// How many components and lays are looked over at once: more than lie on any table.
const (
	mostAdvised     = 64
	mostAdvisedLays = 400
)

// bounded finds more components or lays than are looked at, or fewer components than least.
func (q *AdviceRequest) bounded(least int) error {
	if n := len(q.Components); n < least || n > mostAdvised {
		return fault.New("components", "There are 1 to %d components.", mostAdvised)
	}
	lays := 0
	for _, y := range q.Layers {
		lays += len(y.Lays)
	}
	if lays > mostAdvisedLays || len(q.Layers) > mostAdvisedLays {
		return fault.New("layers", "There are at most %d lays.", mostAdvisedLays)
	}
	return nil
}

// plan reads the request.
func (q *AdviceRequest) plan() (p advice.Plan, err error) {
	var l fault.List
	if err := q.bounded(1); err != nil {
		return p, err
	}
	p = advice.Plan{Passes: q.Passes, Goal: q.Goal, Product: q.Product, TotalG: q.TotalG, StepG: q.StepG, Units: q.Units}
	if q.Use != "" {
		p.Uses = []string{q.Use}
	}
	one := func(field, v string, of []string) {
		if !slices.Contains(of, v) {
			l.Add(field, "Choose one of %v.", of)
		}
	}
	one("use", q.Use, append([]string{""}, yarns.NeedUses...))
	one("goal", q.Goal, append([]string{""}, yarns.NeedLooks...))
	one("product", q.Product, adviceProducts)
	one("next", q.Next, adviceNext)
	if q.Passes < 0 || q.Passes > losses.MaxPasses {
		l.Add("passes", "There are 0 to %d passes.", losses.MaxPasses)
	}
	for field, v := range map[string]float64{"total_g": q.TotalG, "step_g": q.StepG} {
		if !(v >= 0 && v <= 1e6) {
			l.Add(field, "A weight is from 0 to 1,000 kg.")
		}
	}
	if q.Units < 0 || q.Units > 1000 {
		l.Add("units", "There are 0 to 1000 units.")
	}
	q.answers(&l)
	colours := q.fibres(&p, &l)
	q.layers(&p, &l)
	p.Told = q.answered()
	if q.Equipment != nil {
		bed, err := q.Equipment.bed()
		l.Take("", err)
		p.Bed = &bed
		held := bed.TakenUp(max(q.Units, 1))
		p.Told.ClothG = &held
	}
	q.tell(&p, &l)
	m, err := q.Model.Model()
	l.Take("", err)
	if len(colours) == len(p.Fibres) {
		p.Mix = func(shares []float64) colour.Lab {
			r := m.Even(colours, shares)
			return r.Lab()
		}
	}
	return p, l.Err()
}

// fibres reads the components; it returns their colours where all have one.
func (q *AdviceRequest) fibres(p *advice.Plan, l *fault.List) (colours []colour.Reflectance) {
	kinds := workshop.StandardKinds()
	sum := 0.0
	for i, c := range q.Components {
		at := fmt.Sprintf("components[%d].", i)
		kind, ok := kinds.Find(c.Kind)
		if !ok {
			l.Add(at+"kind", "There is no kind called %q.", c.Kind)
		}
		if !(c.Share >= 0 && c.Share <= 1) {
			l.Add(at+"share", "A share is from 0 to 1.")
		}
		sum += c.Share
		if c.Name == "" {
			c.Name = kind.Name
		}
		f := advice.Fibre{
			Name: c.Name, Kind: kind, Preparation: c.Preparation, Share: c.Share, StapleMM: c.StapleMM, PreparedMM: c.PreparedMM, Superwash: c.Superwash,
			Locked: c.Locked, Joins: max(c.JoinsAtPass, 1), HaveG: c.HaveG, WashedHours: c.WashedHours, Damp: c.Damp, OverWeightPct: c.OverWeight,
			DyedByHand: c.DyedByHand, BleedTested: c.BleedTested, Tacky: c.Tacky, Dusty: c.Dusty, PlantPct: c.PlantPct, Burrs: c.Burrs, SecondCutsPct: c.SecondCuts,
			Tender: c.TenderTips, Parted: c.CoatsSettled, MothSigns: c.MothSigns,
		}
		if c.Colour != nil || c.any() {
			r := c.one(c.Colour, mix.Default(), at, l)
			lab := r.Lab()
			f.Lab = &lab
			colours = append(colours, r)
		}
		p.Fibres = append(p.Fibres, f)
	}
	if math.Abs(sum-1) > 0.02 { // what is told in whole percent may be off by its rounding
		l.Add("components", "Shares add up to 1.")
	} else {
		for i := range p.Fibres {
			p.Fibres[i].Share /= sum
		}
	}
	return colours
}

func (q *AdviceRequest) layers(p *advice.Plan, l *fault.List) {
	for i, y := range q.Layers {
		var layer layup.Layer
		for k, v := range y.Lays {
			at := fmt.Sprintf("layers[%d].lays[%d].", i, k)
			lay := layup.Lay{Component: v.Component, From: v.From, To: 1, Start: v.Start, End: 1, Grams: v.Grams, Method: layup.Method(v.Method)}
			if v.To != nil {
				lay.To = *v.To
			}
			if v.End != nil {
				lay.End = *v.End
			}
			if v.Component < 0 || v.Component >= len(q.Components) {
				l.Add(at+"component", "There is no such component.")
			}
			if !(lay.From >= 0 && lay.To <= 1 && lay.From < lay.To && lay.Start >= 0 && lay.End <= 1 && lay.Start < lay.End) {
				l.Add(at+"from", "A place lies between 0 and 1.")
			}
			if !(v.Grams >= 0 && v.Grams <= 1e5) {
				l.Add(at+"grams", "A weight is from 0 to 100 kg.")
			}
			if !slices.Contains([]layup.Method{layup.Feed, layup.Paint, layup.Place}, lay.Method) {
				l.Add(at+"method", "Fibre is laid by feed, paint or place.")
			}
			layer.Lays = append(layer.Lays, lay)
		}
		p.Layers = append(p.Layers, layer)
	}
}

// Advice looks a plan over, from nothing but the request.
func Advice(q AdviceRequest) (AdviceAnswer, error) {
	p, err := q.plan()
	if err != nil {
		return AdviceAnswer{}, err
	}
	a := advice.Judge(p, q.Bounds)
	out := AdviceAnswer{Findings: []AdviceFinding{}, Checked: a.Checked, Unjudged: []AdviceUnjudged{}}
	for _, f := range a.Findings {
		t, _ := advice.TextOf(f.Rule)
		v := AdviceFinding{
			Rule: f.Rule, Key: f.Key, Severity: string(f.Severity), Component: f.Component, Layer: f.Layer, Values: f.Values, What: f.What.String(),
			Why: t.Why, Do: t.Do, Schools: t.Schools, CannotBe: f.CannotBe, Stake: AdviceCost(f.Cost),
		}
		if m := f.Mend; m != nil {
			v.Mend = &AdviceMend{
				Verb: m.Verb, Preview: m.Preview.String(), Ends: append([]string{}, m.Ends...), Comes: append([]string{}, m.Comes...), TotalG: m.After.TotalG,
				Passes: m.After.Passes, Units: m.After.Units,
			}
			for _, c := range m.After.Fibres {
				v.Mend.Shares = append(v.Mend.Shares, c.Share)
			}
			for _, t := range m.Tells {
				v.Mend.Tells = append(v.Mend.Tells, AdviceTelling{t.Key, t.Fibre, t.Value})
			}
			v.Mend.Input = q.mended(p, *m)
		}
		out.Findings = append(out.Findings, v)
	}
	for _, u := range a.Unjudged {
		out.Unjudged = append(out.Unjudged, AdviceUnjudged(u))
	}
	return out, nil
}
