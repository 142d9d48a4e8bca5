package yarn

// What stands against a way of drawing.
const (
	Slips   = "slips"   // long draw of what slips: it parts before twist holds it
	Stands  = "stands"  // short draw of neps: each stands out of a smooth yarn
	TooLong = "long"    // long draw of a long staple: it drafts in lumps
	NoFold  = "no-fold" // a staple that is too short to be folded over a finger
)

// From which part or staple a draw does not suit (judgement).
const (
	slipsFrom  = 0.5
	standsFrom = 0.03
	longFrom   = 110.0 // mm
	foldFrom   = 75.0
)

// slippery are the coats that slip.
var slippery = map[string]bool{"silk": true, "regenerated": true, "superwash": true, "synthetic": true, "mohair": true}

// Against is what stands against a draw of fibres of a main staple in mm; textured is the part of neps and other bits among them.
func Against(parts []Fibre, textured, stapleMM float64, draw string) (out []string) {
	slips, all := 0.0, 0.0
	for _, f := range parts {
		if all += f.Share; slippery[f.Coat] {
			slips += f.Share
		}
	}
	if draw == "long" && all > 0 && slips >= slipsFrom*all {
		out = append(out, Slips)
	}
	if (draw == "short-backward" || draw == "short-forward") && textured >= standsFrom {
		out = append(out, Stands)
	}
	if draw == "long" && stapleMM >= longFrom {
		out = append(out, TooLong)
	}
	if draw == "from-fold" && stapleMM < foldFrom {
		out = append(out, NoFold)
	}
	return out
}
