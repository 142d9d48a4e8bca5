package layup

// Survey is what follows from a plan: what it does to the cloth, how a board is rolled, and
// the order of the work.
type Survey struct {
	Loads Loads  `json:"-"`
	Rolls *Rolls `json:"rolls"`
	Steps []Step `json:"steps"`
	// Fits tells whether the cloth takes it; where not, Why is full (too much in
	// all) or high (too much in one place).
	Fits    bool   `json:"fits"`
	FitsWhy string `json:"fits_why,omitempty"`
}

// Survey looks a checked plan over, of a blend that goes through so many
// passes.
func (p Plan) Survey(b Bed, fibres []Fibre, passes int) Survey {
	last := p.Last(b, passes)
	p = p.Within(last)
	out := Survey{Loads: p.Loads(b, fibres), Rolls: p.Rolls(b, fibres)}
	out.Steps = p.Steps(b, fibres, last)
	out.Loads.Feeds = 0
	for _, s := range out.Steps {
		out.Loads.Feeds += s.Feeds
	}
	switch l := out.Loads; {
	case l.Fill > 1+1e-9:
		out.FitsWhy = "full"
	case l.Over:
		out.FitsWhy = "high"
	}
	out.Fits = out.FitsWhy == ""
	return out
}
