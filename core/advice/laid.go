package advice

import (
	"encoding/json"

	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// LaidFinding is something that is likely to go wrong, why, and what to do. Layer,
// Lay and Component are -1 where it is not about one. Mend names the change
// that puts it right, where there is one: place, fit, clear, bury, uneven,
// rolags, joins, passes, refeed, gather, units, use; Others are more such.
type LaidFinding struct {
	Rule      string        `json:"-"` // of the table
	Key       string        `json:"key"`
	Severity  Severity      `json:"severity"`
	What      unit.Sentence `json:"what"`
	Why       unit.Sentence `json:"why"`
	Do        unit.Sentence `json:"do"`
	Layer     int           `json:"layer"`
	Lay       int           `json:"lay"`
	Component int           `json:"component"`
	Mend      string        `json:"mend,omitempty"`
	Times     int           `json:"times,omitempty"` // of the mend, where it takes a number
	Others    []Way         `json:"others,omitempty"`
}

// MarshalJSON adds the quantities of What, so that nobody has to read them out of
// the sentence.
func (f LaidFinding) MarshalJSON() ([]byte, error) {
	type said LaidFinding
	return json.Marshal(struct {
		said
		Values []unit.Quantity `json:"values"`
	}{said(f), f.What.Quantities()})
}

// Way is another change that puts a finding right.
type Way struct {
	Mend  string `json:"mend"`
	Do    string `json:"do"`
	Times int    `json:"times,omitempty"`
}

// Laid is what is seen of a lay-up.
type Laid struct {
	Looked   bool          `json:"-"` // false: nothing is laid
	Findings []LaidFinding `json:"findings"`
	// Right names what could have been wrong and is not: locks_clear.
	Right []string `json:"right"`
	// FullLane is the load from which a lane is too full, ThinLane the part of the mean load
	// below which it is thin.
	FullLane float64 `json:"-"`
	ThinLane float64 `json:"-"`
}

// LaidPlan is a lay-up to be looked at, of a blend that goes through so many passes. Schools are
// those that the maker chose, by matter; what nothing was chosen for is not held against it.
type LaidPlan struct {
	Plan    layup.Plan
	Bed     layup.Bed
	Fibres  []layup.Fibre
	Passes  int
	Schools map[string]string
	Survey  layup.Survey // of the plan
}

// Judge looks a checked lay-up over, with the maker's own bounds.
func (v LaidPlan) Judge(own Bounds) Laid {
	last := v.Plan.Last(v.Bed, v.Passes)
	s := &cloth{
		list: []LaidFinding{}, plan: v.Plan.Within(last), bed: v.Bed, fibres: v.Fibres, loads: v.Survey.Loads, rolls: v.Survey.Rolls, last: last,
		schools: v.Schools, right: []string{}, own: own,
	}
	s.all()
	return Laid{s.loads.TotalG > speck, s.list, s.right, s.b("R19 load as laid"), s.b("R20 of the mean")}
}

// b is a bound by its key.
func (s *cloth) b(key string) float64 { return s.own.Of(key) }

// speck is the weight below which nothing counts as fibre, in grams.
const speck = 1e-6

// cloth gathers what is found of a lay-up.
type cloth struct {
	list   []LaidFinding
	plan   layup.Plan
	bed    layup.Bed
	fibres []layup.Fibre
	loads  layup.Loads
	rolls  *layup.Rolls

	last    int               // pass
	schools map[string]string // that were chosen
	right   []string
	own     Bounds
}

// add finds something that is said without a quantity.
func (s *cloth) add(key string, sev Severity, mend, what, why, do string) *LaidFinding {
	return s.measured(key, sev, mend, plain(what), plain(why), plain(do))
}

func plain(text string) unit.Sentence { return unit.Say("%s", text) }

// measured finds something that is said with weights or lengths.
func (s *cloth) measured(key string, sev Severity, mend string, what, why, do unit.Sentence) *LaidFinding {
	s.list = append(s.list, LaidFinding{Rule: byLaid[key].ID, Key: key, Severity: sev, What: what, Why: why, Do: do, Layer: -1, Lay: -1, Component: -1,
		Mend: mend})
	return &s.list[len(s.list)-1]
}

// all looks a checked lay-up over.
func (s *cloth) all() {
	s.amounts()
	s.prepared()
	if s.loads.TotalG <= speck {
		return
	}
	s.fill()
	s.lanes()
	s.order()
	s.slides()
	if s.bed.Pins() {
		s.methods()
		s.later()
	}
	s.short()
	s.rolags()
	if s.schools["extras"] == "quarter" {
		s.tooManyExtras()
	}
}

// prepared finds fibre that is not ready for the cloth.
func (s *cloth) prepared() {
	for i, f := range s.fibres {
		if f.Preparation == "raw_fleece" {
			s.add("greasy_raw", Stop, "", f.Name+" is raw fleece.",
				"Grease glues dirt and short ends into the cloth and can rust the pins; up to half of what is weighed is dirt and grease.",
				"Wash, dry and pick it first, and put it on the shelf as what it is then.").Component = i
		}
	}
}
