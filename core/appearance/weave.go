package appearance

import "math"

// Woven is a piece of plain weave with the yarn as its weft, over a warp of pale undyed yarn.
type Woven struct {
	Ends, Picks int
	WidthMM     float64 // between the selvedges
	FromM       float64
}

// UsesM is the weft in it, m; over and under, a pick is a twentieth longer than it is wide.
func (w Woven) UsesM() float64 { return float64(w.Picks) * w.pickM() }

func (w Woven) pickM() float64 { return w.WidthMM * 1.05 / 1000 }

// A pick is so high beside the width of an end, and goes over so much of two ends: the weft covers
// most of the warp.
const (
	pickHigh = 0.62
	overEnds = 0.84
)

// Size is how large a picture of it is, with so many pixels to an end.
func (w Woven) Size(perEnd float64) (width, height int) {
	return int(math.Ceil((float64(w.Ends) + 2) * perEnd)), int(math.Ceil((float64(w.Picks)*pickHigh + 2) * perEnd))
}

// DrawWoven draws a woven piece over a picture of its Size. Picks are thrown to and fro, from below.
func DrawWoven(pic *Picture, s *Strand, w Woven, perEnd float64) {
	big := NewPicture(pic.W*samples, pic.H*samples)
	cell := perEnd * samples
	t := s.stretch(1000*w.FromM, 1000*w.UsesM(), max(w.WidthMM/float64(w.Ends)/2, 2))
	twist := s.twisted()
	f := fine{perMM: float32(cell / (w.WidthMM / float64(w.Ends))), shows: float32(min(max((perEnd-4)/6, 0), 1))}
	warp := [3]float32{0.62, 0.58, 0.50}
	var here [3]local
	for pick := range w.Picks {
		top, high := (1+float64(w.Picks-1-pick)*pickHigh)*cell, pickHigh*cell
		sense := 1 - 2*float32(pick%2) // thrown back, it is turned by half a turn
		for x := int(cell); x < int(cell*(1+float64(w.Ends))); x++ {
			across := (float64(x)+0.5)/cell - 1 // in ends
			part := across / float64(w.Ends)
			if pick%2 == 1 {
				part = 1 - part
			}
			mm := 1000 * (w.FromM + (float64(pick)+part)*w.pickM())
			for i := range s.plies {
				s.local(t, mm, i, &here[i])
			}
			at := twist.at(mm)
			off := math.Mod(across+0.5+float64(pick%2), 2) - 1 // of the middle of where it goes over, in ends
			for y := int(top); y < min(big.H, int(top+high+1)); y++ {
				down := 2*(float64(y)+0.5-top)/high - 1
				over := overEnds * math.Sqrt(max(0, 1-0.55*down*down))
				own := s.light(&here[0], fine{}, seen{shade: 0.22})
				c := [3]float32{0.7*own[0] + 0.03, 0.7*own[1] + 0.03, 0.7*own[2] + 0.025}
				switch under := 1 - math.Abs(off); {
				case math.Abs(off) < over && down > -1 && down < 1:
					v := at.see(sense * float32(down))
					bend := off / over
					lit := (0.45 + 0.55*math.Sqrt(1-down*down)) * (0.55 + 0.45*math.Sqrt(1-bend*bend))
					v.shade = (v.shade*f.shows + (1-f.shows)*0.92) * float32(lit)
					c = s.light(&here[v.ply], f, v)
				case under < 0.2:
					lit := float32(0.35 + 0.4*math.Sqrt(1-under*under/0.04))
					c = [3]float32{warp[0] * lit, warp[1] * lit, warp[2] * lit}
				}
				q := big.Pix[4*(y*big.W+x):][:4]
				q[0], q[1], q[2], q[3] = c[0], c[1], c[2], 1
			}
		}
	}
	pic.shrink(big)
	shade(pic, cast{0.10, 0.25, 0.35, 0.35}, perEnd)
}
