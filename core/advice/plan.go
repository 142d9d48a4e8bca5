package advice

import (
	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// Fibre is a component of a plan, with what was told of its lot; nil was not told.
type Fibre struct {
	Name        string
	Kind        fibre.Kind
	Preparation string
	Share       float64 // of the weight, 0..1
	StapleMM    float64 // 0: that of the kind
	PreparedMM  float64 // to which it was cut or pulled; 0: not
	Superwash   bool
	Lab         *colour.Lab
	Joins       int  // the pass at which it comes in, from 1
	Alone       int  // how often it is carded alone before
	Locked      bool // its share is not to be moved

	HaveG         *float64 // on the shelf
	WashedHours   *float64 // since it was washed
	Damp          *bool
	OverWeightPct *float64 // above its weight when conditioned
	DyedByHand    *bool
	BleedTested   *bool
	Tacky         *bool
	Dusty         *bool
	PlantPct      *float64 // bits of plants, by weight
	Burrs         *bool
	SecondCutsPct *float64
	Tender        *bool
	Parted        *bool // of a double coat: parted, or kept together on purpose
	MothSigns     *bool
}

func (f Fibre) staple() float64 {
	if f.StapleMM > 0 {
		return f.StapleMM
	}
	return f.Kind.StapleMM.Mid()
}

// unknown reports whether nobody has told of what kind it is.
func (f Fibre) unknown() bool { return f.Kind.Unknown() }

// unmeasured reports whether its length is not known: neither its kind nor its staple was told.
func (f Fibre) unmeasured() bool { return f.unknown() && f.StapleMM <= 0 && f.PreparedMM <= 0 }

func (f Fibre) thickUM() float64 { return f.Kind.DiameterUM.Mid() }

func (f Fibre) sparkle() bool { return f.Kind.Family == "sparkle" }

func (f Fibre) texture() bool { return f.Kind.Role == "texture" }

// body reports whether it is fibre that is carded, neither texture nor sparkle.
func (f Fibre) body() bool { return !f.texture() && !f.sparkle() }

func (f Fibre) slippery() bool { return f.body() && f.Kind.Cohesion == "slippery" }

func (f Fibre) grippyWool() bool { return f.Kind.Family == "wool" && f.Kind.Cohesion == "grippy" }

// carrier reports whether it carries others: a grippy wool of a length that drafts.
func (f Fibre) carrier() bool { return f.grippyWool() && f.staple() >= 50 && f.staple() <= 130 }

func (f Fibre) lock() bool {
	return f.Preparation == "locks" || f.Kind.Key == "locks_wool" || f.Kind.Key == "locks_mohair"
}

// dots reports whether it is balls that the teeth do not take.
func (f Fibre) dots() bool {
	switch f.Kind.Key {
	case "neps_wool", "neps_viscose", "knops_tweed":
		return true
	}
	return f.Preparation == "neps"
}

// loose reports whether it is held only by what lies over it.
func (f Fibre) loose() bool {
	switch f.Kind.Key {
	case "silk_noil", "yarn_snips":
		return true
	}
	return f.dots() || f.sparkle() || f.Preparation == "noil_waste" || f.Preparation == "threads"
}

// recycled reports whether it is made of used threads or waste yarn, whose dye nobody knows.
func (f Fibre) recycled() bool {
	return f.Preparation == "threads" || f.Kind.Key == "silk_threads_recycled" || f.Kind.Key == "yarn_snips"
}

// felts reports whether it felts in a wash that moves.
func (f Fibre) felts() bool { return f.Kind.Felts && !f.Superwash }

// Plan is what is judged. Zero values and nil are what was not told.
type Plan struct {
	Fibres  []Fibre
	Bed     *layup.Bed
	Layers  []layup.Layer // of one unit, from the cloth outwards
	Passes  int
	Uses    []string          // what it is used for; empty and not nil: nothing special
	Schools map[string]string // that the maker holds to, by matter
	Goal    string
	Product string
	TotalG  float64
	StepG   float64
	Units   int
	Told    Told
	Mix     func(shares []float64) colour.Lab // nil where colours are not known
	Others  []Cloth                           // other equipment of the workshop
	Shelf   func() []Stocked                  // wool that may be added, the nearest in colour first; nil: not known
	Uneven  bool                              // lanes are thick and thin on purpose
	Bare    bool                              // it lies straight on the cloth on purpose

	tells []Telling // that a mend gives
	cloth int64
}

// Cloth is a piece of equipment.
type Cloth struct {
	ID   int64
	Name string
	Bed  *layup.Bed
}

// Told are single things that may have been told.
type Told struct {
	Sampled     *bool
	HumidityPct *float64
	ForSale     *bool
	Labelled    *bool    // the finished batt carries what is in it
	Turns       *float64 // of the drum, that are planned
	PerMinute   *float64 // turns
	Wisps       *bool    // top is pulled into wisps
	Strips      *int     // that the batt is divided into between passes
	Rolags      *int     // that are cut across the board
	Brush       string   // down, up, across, both
	Specks      *int     // in a pinch of a gram, after a pass
	BeforeL     *float64 // lightness of what was on the equipment before
	BeforeShed  *bool    // that held film, dog down or coloured neps
	Cleaned     *bool    // since
	BattsG      []float64
	BobbinsG    []float64
	TargetG     *float64 // that is to come off
	LossPct     *float64 // of the blend, in all passes; nil: by its fibres
	ClothG      *float64 // that the cloth takes up
	SampleG     *float64 // that is carded before, and does not come back
	RolagG      *float64
	RolagCM3    *float64
	DrawOffMM   *float64 // drawn off for a rolag
	DowelMM     *float64
	DizzMM      *float64
	PullAcross  *bool
	LiftedWrong *bool // sideways, against the lean, or forward
	Stored      string
	AgeMonths   *float64
	Starting    *bool // a job with pins begins
	Ticked      *bool // the list for the drum
	Next        string
	Unplugged   *bool
	UsesDye     *bool
	ChildNear   *bool
	Manual      *bool // the maker's figures are noted
	DustCared   *bool // moving air, a mask, wiped up wet
}

// Sum adds up the shares of the fibres that are such.
func (p Plan) Sum(such func(Fibre) bool) (sum float64) {
	for _, f := range p.Fibres {
		if such(f) {
			sum += f.Share
		}
	}
	return sum
}

// UnitG is the grams of one unit: as laid, else the total by units; 0 where neither is known.
func (p Plan) UnitG() (sum float64) {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			sum += v.Grams
		}
	}
	if sum > 0 {
		return sum
	}
	return p.TotalG / float64(max(1, p.Units))
}

// Capacity is what the cloth takes of this blend, grams; 0 where it is not known.
func (p Plan) Capacity() float64 {
	if p.Bed == nil {
		return 0
	}
	list := make([]layup.Fibre, len(p.Fibres))
	for i, f := range p.Fibres {
		list[i] = layup.Fibre{Grams: f.Share, Crimp: f.Kind.Crimp, Preparation: f.Preparation, Role: f.Kind.Role, Family: f.Kind.Family}
	}
	return p.Bed.Capacity(list)
}

// fed reports whether a component goes through the small drum.
func (p Plan) fed(component int) bool {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if v.Component == component && v.Method == layup.Feed {
				return true
			}
		}
	}
	return false
}

// drum reports whether it is known to be a drum.
func (p Plan) drum() bool { return p.Bed != nil && p.Bed.Type == layup.Drum }

// Severity is how much a finding weighs.
type Severity string

// Stop means that the plan should change first, Caution that it is worth a
// thought, Hint that it may be known.
const (
	Stop    Severity = "stop"
	Caution Severity = "caution"
	Hint    Severity = "hint"
)

// Finding is something that is likely to go wrong. Component and Layer are -1 where it is not
// about one. Its values are parts of 1, millimetres, grams or counts, as their names say.
type Finding struct {
	Rule      string
	Key       string
	Severity  Severity
	Component int
	Layer     int
	Values    map[string]float64
	What      unit.Sentence
	Cost      Cost
	Laid      *LaidFinding // as the lay-up sees it, with presses of its own
	Mend      *Mend
	CannotBe  string // why it is not mended by a press, where that was tried

	whole  bool // it is of all of the plan, and Component is what has most part in it
	beside bool // a lay-up does not show it, though its rule is one of those that are judged there
}

// Mend is a change of the plan that ends a finding, and what else it does.
type Mend struct {
	Verb    string // share, add, total, passes, units, order, method, joins, division, equipment, sample; tell: only Tells
	Preview unit.Sentence
	After   Plan
	Add     int64     // the lot that the last fibre is of, which was not there before; 0: none was added
	Cloth   int64     // the equipment that it is laid on then; 0: as before
	Tells   []Telling // that are then told
	Ends    []string  // rules whose findings go
	Comes   []string  // rules whose findings come
}

// Telling is what was told to a question; Fibre is the component that it is of, -1: of none.
type Telling struct {
	Key   string
	Fibre int
	Value float64
}

// Unjudged is a rule that was not judged, and the thing to tell so that it can be.
type Unjudged struct {
	Rule, Key string
	Tell      string
}
