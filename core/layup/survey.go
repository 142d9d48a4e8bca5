package layup

// Survey is everything that follows from a plan: what it does to the cloth, how
// a board is rolled, what may go wrong and what is right, and the order of the
// work.
type Survey struct {
	Loads    Loads     `json:"-"`
	Rolls    *Rolls    `json:"rolls"`
	Findings []Finding `json:"findings"`
	// Right names what could have been wrong and is not: locks_clear.
	Right []string `json:"right"`
	Steps []Step   `json:"steps"`
	// Fits tells whether the cloth takes it; where not, Why is full (too much in
	// all) or high (too much in one place).
	Fits    bool   `json:"fits"`
	FitsWhy string `json:"fits_why,omitempty"`
}

// Survey looks a checked plan over, of a blend that goes through so many
// passes. Schools are those that the maker chose, by matter; what nothing was
// chosen for is not held against the plan.
func (p Plan) Survey(b Bed, fibres []Fibre, passes int, schools map[string]string) Survey {
	last := p.Last(b, passes)
	p = p.Within(last)
	out := Survey{Loads: p.Loads(b, fibres), Rolls: p.Rolls(b, fibres), Right: []string{}}
	out.Steps = p.Steps(b, fibres, last)
	out.Loads.Feeds = 0
	for _, s := range out.Steps {
		out.Loads.Feeds += s.Feeds
	}
	switch l := out.Loads; {
	case l.Fill > full+1e-9:
		out.FitsWhy = "full"
	case l.Over:
		out.FitsWhy = "high"
	}
	out.Fits = out.FitsWhy == ""
	s := &findings{list: []Finding{}, plan: p, bed: b, fibres: fibres, loads: out.Loads, rolls: out.Rolls, last: last, schools: schools}
	s.all()
	out.Findings, out.Right = s.list, append(out.Right, s.right...)
	return out
}
