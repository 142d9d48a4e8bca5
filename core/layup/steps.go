package layup

// Action is what is done in a step of the work.
type Action string

// The actions of a lay-up, in the order in which they come.
const (
	Ready Action = "ready"  // before the hands come near the pins
	Put   Action = "lay"    // a layer, or the part of it that is laid in a pass
	Lift  Action = "lift"   // the batt comes off the drum
	Again Action = "refeed" // the batt is divided and goes through again
	Roll  Action = "roll"   // rolags come off the board
	Card  Action = "card"   // hand cards: stroke, and roll
	Clean Action = "finish" // and leave the cloth covered
)

// Step is one step of the work at the carder.
type Step struct {
	Action   Action  `json:"action"`
	Pass     int     `json:"pass"`
	Layer    int     `json:"layer"` // -1 where it is not a layer
	Lays     []Lay   `json:"lays"`
	Grams    float64 `json:"grams"`
	Feeds    int     `json:"feeds"`
	PortionG float64 `json:"portion_g"`
	// Cautions come first and are short; the maker's manual and local rules go
	// before them.
	Cautions []string `json:"cautions"`
}

// What is said where hands come near pins or a drive.
const (
	ManualFirst = "The maker’s manual and local rules come first."
	SharpPins   = "Pins pierce skin: strokes go away from the wrist, closed shoes, eyes covered when brushing out."
	MovingDrum  = "The drums draw in fingers, hair, cords and sleeves: hair tied, sleeves tight, no rings or lanyard, guards on, clamp tight, hands behind the edge of the tray."
	Unplug      = "Switch off, pull the plug, wait until everything stands still."
	StandStill  = "Let go of the crank before a hand goes near the pins."
	CoverCloth  = "Cover the cloth before it is put away."
)

// Steps is the order of the work: what is laid at the first pass from the
// cloth outwards, then lifted; for each later pass at which something joins,
// the batt goes through again and the newcomers are laid between.
func (p Plan) Steps(b Bed, passes int) []Step {
	ready := Step{Action: Ready, Pass: 1, Layer: -1, Cautions: []string{ManualFirst, SharpPins}}
	if b.Type == Drum {
		ready.Cautions = append(ready.Cautions, MovingDrum)
	}
	out := []Step{ready}
	last := 1
	if b.Type == Drum {
		last = max(1, passes)
	}
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			last = max(last, p.JoinsAt(v.Component))
		}
	}
	for pass := 1; pass <= last; pass++ {
		if pass > 1 {
			out = append(out, Step{Action: Again, Pass: pass, Layer: -1, Cautions: []string{MovingDrum}})
		}
		for i, l := range p.Layers {
			var now Layer
			for _, v := range l.Lays {
				if p.JoinsAt(v.Component) == pass {
					now.Lays = append(now.Lays, v)
				}
			}
			if len(now.Lays) == 0 {
				continue
			}
			load := now.load(b)
			out = append(out, Step{Action: Put, Pass: pass, Layer: i, Lays: now.Lays, Cautions: []string{}, Grams: load.Grams, Feeds: load.Feeds, PortionG: load.PortionG})
		}
		if b.Type == Drum {
			lift := Step{Action: Lift, Pass: pass, Layer: -1, Cautions: []string{StandStill, SharpPins}}
			if b.Electric {
				lift.Cautions[0] = Unplug
			}
			out = append(out, lift)
		}
	}
	switch b.Type {
	case Board:
		out = append(out, Step{Action: Roll, Pass: last, Layer: -1, Cautions: []string{SharpPins}})
	case Cards:
		out = append(out, Step{Action: Card, Pass: last, Layer: -1, Cautions: []string{SharpPins}})
	}
	out = append(out, Step{Action: Clean, Pass: last, Layer: -1, Cautions: []string{CoverCloth}})
	for i := range out {
		if out[i].Lays == nil {
			out[i].Lays = []Lay{}
		}
	}
	return out
}
