package colour

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/fault"
)

// HueFrom is the chroma in OKLCH below which a colour has no hue.
const HueFrom = 0.03

// OKLCH is a colour by lightness, chroma and the angle of its hue in degrees, 0 to 360.
func (c Linear) OKLCH() (l, chroma, hue float64) {
	k := c.OKLab()
	hue = math.Atan2(k.B, k.A) * 180 / math.Pi
	if hue < 0 {
		hue += 360
	}
	return k.L, math.Hypot(k.A, k.B), hue
}

// Schemes are ways for colours to lie around the wheel, with the angles from a hue at which they lie.
var schemes = map[string][]float64{
	"neighbours": {-30, 30}, "opposite": {180}, "split": {150, 210}, "triad": {120, 240}, "square": {90, 180, 270}, "tints": {0}, "greys": {},
}

// WheelPlace is a place on the wheel, with what lies there: the numbers of colours and how far off each is, nearest first.
type WheelPlace struct {
	Hue  float64
	Fits []WheelFit
}

// WheelFit is a colour near a place.
type WheelFit struct {
	Of  int
	Off float64 // degrees
}

// UsualWheelWidth is how wide a place is, degrees from side to side.
const UsualWheelWidth = 25

// Around finds which of some colours lie where a scheme has them around one, within places so many degrees wide; grey are those
// that have no hue. A colour without a hue has nothing around it but greys.
func Around(of Linear, scheme string, width float64, list []Linear) (places []WheelPlace, grey []int, err error) {
	angles, ok := schemes[scheme]
	if !ok {
		return nil, nil, fault.New("scheme", "A scheme is neighbours, opposite, split, triad, square, tints or greys.")
	}
	if !(width > 0 && width <= 360) {
		return nil, nil, fault.New("width_deg", "A place is above 0 and at most 360 degrees wide.")
	}
	_, chroma, hue := of.OKLCH()
	places, grey = []WheelPlace{}, []int{}
	for i, c := range list {
		if _, own, _ := c.OKLCH(); own < HueFrom {
			grey = append(grey, i)
		}
	}
	if chroma < HueFrom {
		return places, grey, nil
	}
	for _, angle := range angles {
		p := WheelPlace{Hue: math.Mod(hue+angle+360, 360), Fits: []WheelFit{}}
		for i, c := range list {
			_, own, at := c.OKLCH()
			off := math.Abs(math.Mod(at-p.Hue+540, 360) - 180)
			if own >= HueFrom && off <= width/2+1e-9 {
				p.Fits = append(p.Fits, WheelFit{i, off})
			}
		}
		slices.SortStableFunc(p.Fits, func(a, b WheelFit) int { return cmp.Compare(a.Off, b.Off) })
		places = append(places, p)
	}
	return places, grey, nil
}
