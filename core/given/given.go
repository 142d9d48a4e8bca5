// Package given is a recipe that is handed on: what stands in it, how it is read, and how near another shelf comes to it.
package given

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"math"
	"regexp"
	"unicode/utf8"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
)

// Schema is the JSON schema of a recipe.
//
//go:embed recipe.schema.json
var Schema []byte

// Format is what a recipe calls itself.
const Format = "fair-tangle-recipe"

// Recipe is a blend as it is given away: nothing of it names a record of the giver's.
type Recipe struct {
	Format     string      `json:"format"`
	Version    int         `json:"version"`
	Name       string      `json:"name"`
	By         string      `json:"by,omitempty"`
	Note       string      `json:"note,omitempty"`
	TotalG     float64     `json:"total_g"` // finished
	Passes     int         `json:"passes"`
	Colour     string      `json:"colour"` // that it has, as #rrggbb
	Components []Component `json:"components"`
	Layers     []Layer     `json:"layers,omitempty"` // of one batt, from the cloth outwards
}

// Component is a fibre of it.
type Component struct {
	Name        string  `json:"name"`
	Kind        string  `json:"kind"`    // a key of the table of fibres; empty for one of the giver's own
	Content     string  `json:"content"` // what a label calls it
	Preparation string  `json:"preparation"`
	Colour      string  `json:"colour"` // #rrggbb
	Share       float64 `json:"share"`  // of the finished weight, parts of 1
	StapleMM    float64 `json:"staple_mm,omitempty"`
	JoinsAt     int     `json:"joins_at_pass,omitempty"` // 0: at the first
}

// Layer is what lies on one level, across the cloth.
type Layer struct {
	Lays []Lay `json:"lays"`
}

// Lay is a stripe of it: from where to where, in parts of the width.
type Lay struct {
	Component int     `json:"component"`
	From      float64 `json:"from"`
	To        float64 `json:"to"`
	Grams     float64 `json:"grams"`
}

// Limits of a recipe.
const (
	MostComponents = 24
	MostLayers     = 60
	MostLays       = 60
	mostName       = 120
	mostNote       = 4000
	mostTotalG     = 100_000
	mostPasses     = 12
	longest        = 1 << 20 // bytes
)

var hex = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// marks are what stands around the JSON in a page.
var marks = regexp.MustCompile(`(?s)<script type="application/json" id="` + Format + `">(.*?)</script>`)

// Read reads a recipe from its page or from its JSON. What is wrong is said in a maker's words, at the field "file".
func Read(data []byte) (r Recipe, err error) {
	wrong := func(why string, args ...any) error { return fault.New("file", why, args...) }
	if len(data) > longest*8 {
		return r, wrong("The file is larger than any recipe.")
	}
	text := bytes.TrimSpace(bytes.TrimPrefix(data, []byte("\ufeff")))
	if len(text) == 0 {
		return r, wrong("Choose the file of a recipe.")
	}
	if text[0] != '{' {
		m := marks.FindSubmatch(text)
		if m == nil {
			return r, wrong("There is no recipe of Fair Tangle in this file.")
		}
		text = m[1]
	}
	if len(text) > longest || !utf8.Valid(text) || json.Unmarshal(text, &r) != nil || r.Format != Format {
		return Recipe{}, wrong("There is no recipe of Fair Tangle in this file.")
	}
	if r.Version != 1 {
		return Recipe{}, wrong("This recipe was written by a newer Fair Tangle.")
	}
	if l, bad := fault.From(r.Check()); bad {
		return Recipe{}, wrong("This recipe is damaged: %s.", l[0].Field)
	}
	return r, nil
}

// Check finds what is out of bounds, by the names of the schema.
func (r Recipe) Check() error {
	var l fault.List
	bad := func(ok bool, field string) {
		if !ok {
			l.Add(field, "It is out of bounds.")
		}
	}
	text := func(s string, most int) bool { return utf8.RuneCountInString(s) <= most }
	bad(r.Name != "" && text(r.Name, mostName), "name")
	bad(text(r.By, mostName), "by")
	bad(text(r.Note, mostNote), "note")
	bad(r.TotalG > 0 && r.TotalG <= mostTotalG, "total_g")
	bad(r.Passes >= 0 && r.Passes <= mostPasses, "passes")
	bad(hex.MatchString(r.Colour), "colour")
	bad(len(r.Components) > 0 && len(r.Components) <= MostComponents, "components")
	bad(len(r.Layers) <= MostLayers, "layers")
	sum := 0.0
	for _, c := range r.Components {
		_, known := fibre.FindKind(c.Kind)
		_, prepared := fibre.FindPreparation(c.Preparation)
		bad(c.Name != "" && text(c.Name, mostName) && text(c.Content, mostName), "components.name")
		bad((known || c.Kind == "") && prepared, "components.kind")
		bad(hex.MatchString(c.Colour), "components.colour")
		bad(c.Share > 0 && c.Share <= 1+1e-9, "components.share")
		bad(c.StapleMM == 0 || fibre.Can.StapleMM.Holds(c.StapleMM), "components.staple_mm")
		bad(c.JoinsAt == 0 || c.JoinsAt > 1 && c.JoinsAt <= mostPasses, "components.joins_at_pass")
		sum += c.Share
	}
	bad(math.Abs(sum-1) < 1e-6, "components.share")
	for _, v := range r.Layers {
		bad(len(v.Lays) <= MostLays, "layers.lays")
		for _, y := range v.Lays {
			bad(y.Component >= 0 && y.Component < len(r.Components) && y.From >= 0 && y.From < y.To && y.To <= 1+1e-9 &&
				y.Grams >= 0 && y.Grams <= mostTotalG, "layers.lays")
		}
	}
	return l.Err()
}

// Grams are the weights of its fibres for so much finished, in whole steps of a scale that add up.
func (r Recipe) Grams(totalG, stepG float64) []float64 {
	exact, out := make([]float64, len(r.Components)), make([]float64, len(r.Components))
	for i, c := range r.Components {
		exact[i] = c.Share * totalG / stepG
	}
	for i, n := range weigh.Apportion(exact, int64(math.Round(totalG/stepG))) {
		out[i] = unit.Clean(float64(n) * stepG)
	}
	return out
}

// Family is the family of a component's kind; empty where the kind is the giver's own.
func (c Component) Family() string {
	k, _ := fibre.FindKind(c.Kind)
	return k.Family
}

// Staple is its staple in mm: the one that was measured, else the middle of its kind's; 0 where neither is known.
func (c Component) Staple() float64 {
	if c.StapleMM > 0 {
		return c.StapleMM
	}
	k, known := fibre.FindKind(c.Kind)
	if !known {
		return 0
	}
	return k.StapleMM.Mid()
}
