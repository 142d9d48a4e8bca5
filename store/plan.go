package store

// What a lay-up and a weigh-out keep of a plan, in words of its own: a file of last
// year reads the same whatever the rules call things today.

// LayupPlan is the layers of a lay-up from the cloth outwards.
type LayupPlan struct {
	Layers      []PlanLayer `json:"layers"`
	Joins       []int       `json:"joins_at_pass"`
	Rolags      int         `json:"rolags"`
	Draft       float64     `json:"draft"`
	Uneven      bool        `json:"uneven"`
	MirrorPairs bool        `json:"mirror_pairs"`
	Bare        bool        `json:"bare,omitempty"`
	Passes      int         `json:"passes,omitempty"`
	Refeed      string      `json:"refeed,omitempty"`
	Strips      int         `json:"strips,omitempty"`
	Turns       int         `json:"turns_about,omitempty"`
	Uses        []string    `json:"as,omitempty"`
	Told        []int       `json:"told,omitempty"`
	Fed         []PlanFed   `json:"fed,omitempty"`
	Alone       []int       `json:"alone_first,omitempty"`
	Off         PlanOff     `json:"off,omitzero"`
	Before      []string    `json:"before,omitempty"`
	After       []string    `json:"after,omitempty"`
	StepG       float64     `json:"step_g,omitempty"`
}

// PlanOff is how it comes off the tool.
type PlanOff struct {
	Way     string  `json:"way,omitempty"`
	Rods    string  `json:"rods,omitempty"`
	Tight   bool    `json:"tight,omitempty"`
	HoleMM  float64 `json:"hole_mm,omitempty"`
	Crossed bool    `json:"crossed,omitempty"` // one layer across the other
}

// PlanFed is how a fibre of several colours is used.
type PlanFed struct {
	How     string `json:"how,omitempty"`
	Abreast int    `json:"abreast,omitempty"`
}

// PlanLayer is what lies on one level.
type PlanLayer struct {
	Lays []PlanLay `json:"lays"`
	Key  int64     `json:"key,omitempty"`
}

// PlanLay is fibre of one component in one place of a layer.
type PlanLay struct {
	Component int     `json:"component"`
	From      float64 `json:"from"`
	To        float64 `json:"to"`
	Start     float64 `json:"start"`
	End       float64 `json:"end"`
	Grams     float64 `json:"grams"`
	Method    string  `json:"method"`
	Key       int64   `json:"key,omitempty"`
}
