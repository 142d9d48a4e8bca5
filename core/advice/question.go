package advice

import (
	"slices"

	"fairtangle/core/fibre"
)

// What a question is about.
const (
	OfPlan     = "plan"
	OfPart     = "part" // a fibre in this plan
	OfLot      = "lot"
	OfWorkshop = "workshop"
)

// Question is something that a rule needs to know and a maker can tell. What is told is a number:
// 1 or 0 for yes or no, the place of a choice, else a figure in Unit.
type Question struct {
	Key     string
	Of      string // plan, part, lot, workshop
	Ask     string
	Unit    string   // of a figure: g, mm, cm³, %, hours, months; empty: a count
	Choices []string // in words; none and no figure: yes or no
	Words   []string // of the choices, as programs say them
	Figure  bool
	Most    float64 // of a figure
	Hours   float64 // for how long it holds; 0: until it is told otherwise
	tell    func(p *Plan, fibre int, v float64)
}

// Takes reports whether a number answers it.
func (q Question) Takes(v float64) bool {
	switch {
	case q.Figure:
		return v >= 0 && v <= q.Most
	case len(q.Choices) > 0:
		return v >= 0 && v < float64(len(q.Choices)) && v == float64(int(v))
	}
	return v == 0 || v == 1
}

func yes(v float64) *bool {
	b := v == 1
	return &b
}

func number(to func(*Told) **float64) func(*Plan, int, float64) {
	return func(p *Plan, _ int, v float64) { *to(&p.Told) = &v }
}

func flag(to func(*Told) **bool) func(*Plan, int, float64) {
	return func(p *Plan, _ int, v float64) { *to(&p.Told) = yes(v) }
}

func fibreFlag(to func(*Fibre) **bool) func(*Plan, int, float64) {
	return func(p *Plan, i int, v float64) { *to(&p.Fibres[i]) = yes(v) }
}

func fibreNumber(to func(*Fibre) **float64) func(*Plan, int, float64) {
	return func(p *Plan, i int, v float64) { *to(&p.Fibres[i]) = &v }
}

// beforeL is the lightness of what was on the equipment before, by choice.
var beforeL = []float64{90, 55, 20}

var (
	products = []string{"batt", "rolags", "punis", "roving"}
	brushes  = []string{"down", "up", "across", "both"}
	storages = []string{"loose", "compressed", "sealed"}
	befores  = []string{"pale", "middle", "dark"}
)

// questions are all of them; none holds forever that a day changes.
var questions = []Question{
	{Key: "product", Of: OfPlan, Ask: "What is made of it?", Choices: []string{"a batt", "rolags", "punis", "roving"}, Words: products,
		tell: func(p *Plan, _ int, v float64) { p.Product = products[int(v)] }},
	{Key: "for_sale", Of: OfPlan, Ask: "Is it for sale?", tell: flag(func(t *Told) **bool { return &t.ForSale })},
	{Key: "labelled", Of: OfPlan, Ask: "Does a label say what is in it?", tell: flag(func(t *Told) **bool { return &t.Labelled })},
	{Key: "wisps", Of: OfPlan, Ask: "Is the top pulled into wisps before it is fed?", tell: flag(func(t *Told) **bool { return &t.Wisps })},
	{Key: "turns", Of: OfPlan, Ask: "How many turns of the drum for one unit?", Figure: true, Most: 1e5,
		tell: number(func(t *Told) **float64 { return &t.Turns })},
	{Key: "per_minute", Of: OfPlan, Ask: "How many turns a minute?", Figure: true, Most: 1000, tell: number(func(t *Told) **float64 { return &t.PerMinute })},
	{Key: "brush", Of: OfPlan, Ask: "Which way is it brushed?", Choices: []string{"from the handle down", "up", "across", "both ways"}, Words: brushes,
		tell: func(p *Plan, _ int, v float64) { p.Told.Brush = brushes[int(v)] }},
	{Key: "specks", Of: OfPlan, Ask: "How many specks in a pinch of a gram, after a pass?", Figure: true, Most: 1000,
		tell: func(p *Plan, _ int, v float64) { n := int(v); p.Told.Specks = &n }},
	{Key: "before", Of: OfPlan, Ask: "What was on the equipment before?", Words: befores,
		Choices: []string{"nothing, or something pale", "a middle colour", "something dark"},
		tell:    func(p *Plan, _ int, v float64) { p.Told.BeforeL = &beforeL[int(v)] }},
	{Key: "before_shed", Of: OfPlan, Ask: "Were film, dog down or coloured neps on it before?", tell: flag(func(t *Told) **bool { return &t.BeforeShed })},
	{Key: "cleaned", Of: OfPlan, Ask: "Is it cleaned first?", tell: flag(func(t *Told) **bool { return &t.Cleaned })},
	{Key: "rolag_g", Of: OfPlan, Ask: "What does a rolag weigh?", Figure: true, Unit: "g", Most: 1000, tell: number(func(t *Told) **float64 { return &t.RolagG })},
	{Key: "rolag_cm3", Of: OfPlan, Ask: "How much room does a rolag take?", Figure: true, Unit: "cm³", Most: 1e5,
		tell: number(func(t *Told) **float64 { return &t.RolagCM3 })},
	{Key: "dowel_mm", Of: OfPlan, Ask: "How thick is the rod?", Figure: true, Unit: "mm", Most: 100, tell: number(func(t *Told) **float64 { return &t.DowelMM })},
	{Key: "dizz_mm", Of: OfPlan, Ask: "How wide is the hole it is drawn through?", Figure: true, Unit: "mm", Most: 100,
		tell: number(func(t *Told) **float64 { return &t.DizzMM })},
	{Key: "pull_across", Of: OfPlan, Ask: "Is it drawn off across the fibre?", tell: flag(func(t *Told) **bool { return &t.PullAcross })},
	{Key: "lifted_wrong", Of: OfPlan, Ask: "Is it lifted off sideways, against the lean, or with the drum going forward?",
		tell: flag(func(t *Told) **bool { return &t.LiftedWrong })},
	{Key: "dust_cared", Of: OfPlan, Hours: 12, Ask: "Is there moving air, and do you wear a mask?",
		tell: flag(func(t *Told) **bool { return &t.DustCared })},
	{Key: "stored", Of: OfPlan, Ask: "How is what is finished stored?", Words: storages,
		Choices: []string{"rolled loosely", "squeezed", "sealed in plastic"},
		tell:    func(p *Plan, _ int, v float64) { p.Told.Stored = storages[int(v)] }},
	{Key: "ticked", Of: OfPlan, Hours: 12, Ask: "Hair tied, sleeves tight, no jewellery, guards on, hands behind the edge of the tray?",
		tell: flag(func(t *Told) **bool { return &t.Ticked })},
	{Key: "unplugged", Of: OfPlan, Hours: 1, Ask: "Is the plug pulled?", tell: flag(func(t *Told) **bool { return &t.Unplugged })},
	{Key: "humidity_pct", Of: OfWorkshop, Hours: 12, Ask: "How humid is the room?", Figure: true, Unit: "%", Most: 100,
		tell: number(func(t *Told) **float64 { return &t.HumidityPct })},
	{Key: "child_near", Of: OfWorkshop, Hours: 12, Ask: "Is a child or a pet near?", tell: flag(func(t *Told) **bool { return &t.ChildNear })},
	{Key: "uses_dye", Of: OfWorkshop, Hours: 12, Ask: "Is dye, acid, bleach or mordant used today?", tell: flag(func(t *Told) **bool { return &t.UsesDye })},
	{Key: "manual", Of: OfWorkshop, Ask: "Are the maker’s figures for load, speed and clearance noted?", tell: flag(func(t *Told) **bool { return &t.Manual })},
	{Key: "prepared_mm", Of: OfPart, Ask: "Is it cut or pulled shorter, and how long is it then?", Figure: true, Unit: "mm", Most: 600,
		tell: func(p *Plan, i int, v float64) { p.Fibres[i].prepare(v) }},
	{Key: "washed_hours_ago", Of: OfLot, Ask: "How many hours ago was it washed?", Figure: true, Unit: "hours", Most: 1e5,
		tell: fibreNumber(func(f *Fibre) **float64 { return &f.WashedHours })},
	{Key: "damp", Of: OfLot, Ask: "Is it damp?", tell: fibreFlag(func(f *Fibre) **bool { return &f.Damp })},
	{Key: "over_weight_pct", Of: OfLot, Ask: "By how much is it heavier than when it is dry?", Figure: true, Unit: "%", Most: 200,
		tell: fibreNumber(func(f *Fibre) **float64 { return &f.OverWeightPct })},
	{Key: "dyed_by_hand", Of: OfLot, Ask: "Was it dyed by hand?", tell: fibreFlag(func(f *Fibre) **bool { return &f.DyedByHand })},
	{Key: "bleed_tested", Of: OfLot, Ask: "Was its dye tested on white, wet, and does it hold?", tell: fibreFlag(func(f *Fibre) **bool { return &f.BleedTested })},
	{Key: "tacky", Of: OfLot, Ask: "Is it tacky, though it was washed?", tell: fibreFlag(func(f *Fibre) **bool { return &f.Tacky })},
	{Key: "dusty", Of: OfLot, Ask: "Is it dusty?", tell: fibreFlag(func(f *Fibre) **bool { return &f.Dusty })},
	{Key: "plant_pct", Of: OfLot, Ask: "How much of it are bits of plants?", Figure: true, Unit: "%", Most: 100,
		tell: fibreNumber(func(f *Fibre) **float64 { return &f.PlantPct })},
	{Key: "burrs", Of: OfLot, Ask: "Are there burrs in it?", tell: fibreFlag(func(f *Fibre) **bool { return &f.Burrs })},
	{Key: "second_cuts_pct", Of: OfLot, Ask: "How much of it are second cuts?", Figure: true, Unit: "%", Most: 100,
		tell: fibreNumber(func(f *Fibre) **float64 { return &f.SecondCutsPct })},
	{Key: "tender", Of: OfLot, Ask: "Do its tips break when a lock is tugged?", tell: fibreFlag(func(f *Fibre) **bool { return &f.Tender })},
	{Key: "parted", Of: OfLot, Ask: "Were its two coats parted, or kept together on purpose?", tell: fibreFlag(func(f *Fibre) **bool { return &f.Parted })},
	{Key: "moth_signs", Of: OfLot, Hours: mothHours, Ask: "Are there signs of moths: webs, grit, grazed ends?",
		tell: fibreFlag(func(f *Fibre) **bool { return &f.MothSigns })},
}

// mothHours is for how long a look for moths holds: half a year.
const mothHours = 183 * 24

// asks are the questions that tell what a rule misses.
var asks = map[string][]string{
	"what is made of it: a batt, rolags, punis, roving": {"product"}, "whether it is for sale": {"for_sale", "labelled"},
	"whether the top is pulled into wisps": {"wisps"}, "the turns of the drum": {"turns"}, "how fast you turn": {"per_minute"},
	"which way it is brushed": {"brush"}, "the specks in a pinch": {"specks"}, "what was on the equipment before": {"before"},
	"whether film, dog down or coloured neps were on it before": {"before_shed"}, "what a rolag weighs and measures": {"rolag_g", "rolag_cm3"},
	"how thick the rod is": {"dowel_mm"}, "how it is drawn off": {"pull_across", "dizz_mm"}, "how it is lifted off": {"lifted_wrong"},
	"how it is stored": {"stored"}, "whether the list for the drum is ticked": {"ticked"}, "whether the plug is pulled": {"unplugged"},
	"how humid the room is": {"humidity_pct"}, "whether a child or a pet is near": {"child_near"}, "whether dye or acid is used": {"uses_dye"},
	"whether the maker's figures are noted": {"manual"}, "when it was washed": {"damp", "washed_hours_ago"}, "whether it was dyed by hand": {"dyed_by_hand"},
	"whether washed fibre is still tacky": {"tacky"}, "how much of plants is in it": {"burrs", "plant_pct"}, "how many second cuts are in it": {"second_cuts_pct"},
	"whether the tips are sound": {"tender"}, "whether the coats were parted": {"parted"}, "whether there are signs of moths": {"moth_signs"},
}

// Asks are the questions whose answer lets the rule be judged; none where something else has to be
// there first.
func (u Unjudged) Asks() (out []Question) {
	for _, key := range asks[u.Tell] {
		q, _ := QuestionOf(key)
		out = append(out, q)
	}
	return out
}

// QuestionOf finds a question by its key.
func QuestionOf(key string) (Question, bool) {
	i := slices.IndexFunc(questions, func(q Question) bool { return q.Key == key })
	if i < 0 {
		return Question{}, false
	}
	return questions[i], true
}

// QuestionsOf lists what can be told of a plan, a lot or the workshop.
func QuestionsOf(of string) (out []Question) {
	for _, q := range questions {
		if q.Of == of {
			out = append(out, q)
		}
	}
	return out
}

// Asked reports whether a question of a lot is one for such a fibre: of moths in what was an animal's,
// of bits of plants in what was a fleece.
func (f Fibre) Asked(key string) bool {
	fleece := slices.Contains([]string{"raw_fleece", "washed_fleece", "washed_locks", "locks"}, f.Preparation)
	switch key {
	case "moth_signs":
		return slices.Contains([]string{"wool", "hair", "down"}, f.Kind.Family)
	case "tacky", "plant_pct", "burrs", "second_cuts_pct", "tender":
		return fleece
	case "parted":
		return fibre.TwoCoats(f.Kind, f.Preparation)
	}
	return true
}

// Tell takes an answer into the plan; fibre is the component that it is of, where it is of one. An answer that is none, or of a
// fibre that is not there, changes nothing.
func (p *Plan) Tell(key string, fibre int, v float64) {
	q, ok := QuestionOf(key)
	if !ok || !q.Takes(v) || (q.Of == OfLot || q.Of == OfPart) && (fibre < 0 || fibre >= len(p.Fibres)) {
		return
	}
	q.tell(p, fibre, v)
}

// prepare has a fibre cut or pulled to a length.
func (f *Fibre) prepare(mm float64) {
	if mm <= 0 {
		return
	}
	f.PreparedMM = mm
	if f.staple() > mm {
		f.StapleMM = mm
	}
}
