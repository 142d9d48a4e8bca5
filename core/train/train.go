// Package train makes exercises for the eye and for the sums of blending, each anew from a seed, and judges answers to them. It knows
// no pages and keeps nothing: the same skill, level and seed give the same exercise for everybody.
package train

import (
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Skill is what an exercise trains.
type Skill string

// The skills, in the order in which they are shown.
const (
	Difference Skill = "difference" // name how two colours differ
	Within     Skill = "within"     // how much of each lies in a batt
	Reaching   Skill = "reaching"   // which shares make a colour
	Weighing   Skill = "weighing"   // the sums at the scale
	Passes     Skill = "passes"     // after which pass colours are mixed
	Splitting  Skill = "splitting"  // what becomes of a gradient as it is divided and spun
	Piled      Skill = "laying"     // which layers are wrong, why, and what mends them
	Ordering   Skill = "order"      // what is done before what
	Faults     Skill = "faults"     // what goes wrong with a plan
)

// Skills lists them.
var Skills = []Skill{Difference, Within, Reaching, Passes, Splitting, Faults, Piled, Weighing, Ordering}

// MostLevel is the hardest level; the easiest is 1.
const MostLevel = 5

// MostParts is the most that can be said of one lot in an answer.
const MostParts = 20

// Lot is a fibre of an exercise, by the name it goes by and its colour.
type Lot struct {
	Name, Hex string
}

// Shape is what a batt was made into before it is shown.
type Shape string

// The shapes; the first is the batt itself.
const (
	AsBatt   Shape = "batt"
	AsRolag  Shape = "rolag"
	AsStrand Shape = "strand"
	AsSwatch Shape = "swatch"
)

// Choice is a question with options, of which one is chosen.
type Choice struct {
	Asked   string
	Options []unit.Sentence
	Menu    bool // there are many such: each is asked in a line
}

// Exercise is one task. What stands in it is what a maker sees; the truth is told by Best.
type Exercise struct {
	Skill       Skill
	Level       int
	Seed        uint64
	ByLightness bool // made so that hue does not matter
	Asked       unit.Sentence
	Patches     []Lot    // colours side by side
	Lots        []Lot    // whose shares are asked
	Layers      int      // of each lot, in the batt that is shown
	Lanes       bool     // lots lie side by side in it, not over each other
	OwnPlace    bool     // strips are fed again where they were, not spread over the whole width
	Strips      int      // that it is torn into to be fed again
	Passes      int      // how often it was fed again before it is shown
	Shape       Shape    // in which it is shown
	Steps       []string // of a piece of work
	Pile        []Layer  // of a lay-up, from the cloth up
	Choices     []Choice // that are asked one by one
	Grams       bool     // a weight is asked

	truth truth
}

// HangsOnHue reports whether seeing hues decides about it.
func (e Exercise) HangsOnHue() bool {
	return !e.ByLightness && !slices.Contains(seeingNothing, e.Skill)
}

// seeingNothing are the skills that no eye is needed for.
var seeingNothing = []Skill{Weighing, Ordering, Faults, Piled}

// Answer is what was said: parts by lot, an option of each choice, or grams.
type Answer struct {
	Parts  []float64  `json:"parts,omitempty"`
	Chosen []int      `json:"chosen,omitempty"`
	Grams  unit.Grams `json:"grams,omitempty"`
}

// Judged is what an answer came to.
type Judged struct {
	Score float64 // 0 to 100
	Why   []unit.Sentence
	Hex   string // the colour that the answer makes; empty where it makes none
}

// truth is what an exercise was made of.
type truth struct {
	best  Answer
	shown []float64 // parts of the batt that is shown
	judge func(Answer) Judged
}

// AsksParts reports whether parts of the lots are asked.
func (e Exercise) AsksParts() bool { return len(e.Choices) == 0 && !e.Grams }

// Best is the answer that gets all of the score.
func (e Exercise) Best() Answer { return e.truth.best }

// Shown are the parts of the batt that is shown; none where none is.
func (e Exercise) Shown() []float64 { return e.truth.shown }

// Make makes an exercise. A level outside 1 to MostLevel is brought within.
func Make(skill Skill, level int, seed uint64, byLightness bool) (Exercise, error) {
	level = min(max(level, 1), MostLevel)
	makers := map[Skill]func(*Exercise, *chance){
		Difference: difference, Within: within, Reaching: reaching, Weighing: weighing, Passes: passes, Splitting: splitting, Piled: laying,
		Ordering: ordering, Faults: faults,
	}
	maker, known := makers[skill]
	if !known {
		return Exercise{}, fault.New("skill", "There is no such exercise.")
	}
	e := Exercise{Skill: skill, Level: level, Seed: seed, ByLightness: byLightness && !slices.Contains(seeingNothing, skill)}
	var kind uint64
	for _, c := range skill {
		kind = kind*31 + uint64(c)
	}
	if e.ByLightness {
		kind++
	}
	from := chance(seed ^ (kind*16+uint64(level))<<32)
	from.next() // seeds that are near each other part here
	maker(&e, &from)
	return e, nil
}

// Judge says how near an answer came and why. An answer that says nothing, or of something else, is refused at its field.
func (e Exercise) Judge(a Answer) (Judged, error) {
	if err := e.check(a); err != nil {
		return Judged{}, err
	}
	return e.truth.judge(a), nil
}

func (e Exercise) check(a Answer) error {
	var l fault.List
	if n := len(e.Lots); n > 0 && e.AsksParts() {
		var sum float64
		if len(a.Parts) != n {
			l.Add("parts", "Say how many parts there are of each.")
			return l
		}
		for _, p := range a.Parts {
			if !(p >= 0 && p <= MostParts) {
				l.Add("parts", "Parts are numbers from 0 to %d.", MostParts)
				return l
			}
			sum += p
		}
		if sum <= 0 {
			l.Add("parts", "Give at least one of them a part.")
		}
	}
	if len(a.Chosen) != len(e.Choices) {
		l.Add("chosen", "Choose an answer.")
		return l
	}
	for i, n := range a.Chosen {
		if n < 0 || n >= len(e.Choices[i].Options) {
			l.Add("chosen", "Choose an answer.")
			break
		}
	}
	if e.Grams && !(a.Grams > 0 && a.Grams <= unit.MaxGrams) {
		l.Add("grams", "Say how much it is.")
	}
	return l.Err()
}

// near is a score that falls from 100 where an answer is no farther off than free to 0 at most.
func near(off, free, most float64) float64 {
	return 100 * math.Max(0, math.Min(1, 1-(off-free)/(most-free)))
}

// Shares are parts as shares that add up to 1.
func Shares(parts []float64) []float64 {
	var sum float64
	for _, p := range parts {
		sum += p
	}
	out := make([]float64, len(parts))
	for i, p := range parts {
		out[i] = p / sum
	}
	return out
}
