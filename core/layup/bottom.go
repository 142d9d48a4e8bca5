package layup

// Bounds that are usual for lanes and fill; sources are the arithmetic of fill (a lane above
// 1.1 of its share, a variation above 0.15) and the makers' rules of load.
const (
	LaneFull      = 1.1
	LaneThin      = 0.6 // of the mean
	LaneVariation = 0.15
	farTooFull    = 1.25
	TooLongMM     = 150
)

// OverplacedG is by how much lays may take more than there is: what rounding to
// the scale's step leaves over when the number of units changes.
const OverplacedG = 0.05

// TooFull reports whether a lane is fuller than it may be, where not all of it is too full;
// a lane that is so many times as full as the rest is then.
func (l Loads) TooFull(v Lane, full, times float64) bool {
	return v.Load > full && (l.Fill <= 1 || v.Load > times*l.Fill)
}

// Bottom is what lies on the bare cloth: of what joins at the first pass, as what joins later
// lies on what was there before.
type Bottom struct {
	Layer  int  // the first with something of it
	Wool   int  // the component of which most grips; -1: none
	Slides bool // less than half of it grips, where wool that does is in the blend
	Extras bool // dots, noil or film lie there
}

// Bottom finds what lies on the bare cloth.
func (p Plan) Bottom(fibres []Fibre) Bottom {
	out := Bottom{Layer: -1, Wool: -1}
	for i, f := range fibres {
		if f.Grips() && p.JoinsAt(i) == 1 && (out.Wool < 0 || f.Grams > fibres[out.Wool].Grams) {
			out.Wool = i
		}
	}
	var loose, grip, all float64
	for i, l := range p.Layers {
		for _, v := range l.Lays {
			f := fibres[v.Component]
			if p.JoinsAt(v.Component) > 1 {
				continue
			}
			out.Layer, all = i, all+v.Grams
			if f.Extra() || f.Cohesion == "slippery" {
				loose += v.Grams
				out.Extras = out.Extras || f.Extra()
			}
			if f.Grips() {
				grip += v.Grams
			}
		}
		if out.Layer >= 0 {
			break
		}
	}
	out.Slides = out.Layer >= 0 && out.Wool >= 0 && (loose > 0 || grip < all/2-speck)
	return out
}
