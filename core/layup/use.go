package layup

import (
	"fmt"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Use is what a fibre is there for in a blend.
type Use string

// The uses: under and over all the rest, a lane or a layer of its own, a little between everything, a stroke, in spots, a thin
// sheet, and upon chosen lanes, fading out to their sides.
const (
	AsBase    Use = "base"
	AsLane    Use = "lane"
	AsScatter Use = "scatter"
	AsPaint   Use = "paint"
	AsSpot    Use = "spot"
	AsVeil    Use = "veil"
	AsOver    Use = "over"
)

// Uses lists them in the order in which they are offered.
func Uses() []Use {
	return []Use{AsBase, AsLane, AsScatter, AsVeil, AsOver, AsPaint, AsSpot}
}

// Purpose is what a component is there for, and where. Without a use it is the usual one of its kind.
type Purpose struct {
	As     Use     `json:"as,omitempty"`
	Near   []int   `json:"near,omitempty"`    // the components whose lanes it goes with; none: the one that is most like it in colour
	FadeMM float64 `json:"fade_mm,omitempty"` // how wide the border is in which it fades out; 0: as usual
}

// Of a fade and a stroke, mm: own figures, as wide as a hand lays them.
const (
	UsualFadeMM = 15
	strokeMM    = 20
	MostFadeMM  = 500
)

// Holds reports whether a strip of it holds together by itself: wool, and hair and down that do not slide.
func (f Fibre) Holds() bool {
	if !f.Ground() {
		return false
	}
	return f.Family == "wool" || (f.Family == "hair" || f.Family == "down") && f.Cohesion != "slippery"
}

// UsualUses are the uses of fibres where nothing is said: what holds by itself is laid in lanes or layers, what does not is
// scattered between it where there is enough to hold it, locks lie in spots.
func UsualUses(fibres []Fibre) []Use {
	var all, holds float64
	for _, f := range fibres {
		if all += f.Grams; f.Holds() {
			holds += f.Grams
		}
	}
	out := make([]Use, len(fibres))
	for i, f := range fibres {
		switch {
		case f.Lock():
			out[i] = AsSpot
		case f.Extra(), !f.Holds() && holds >= carrierLeast*all && f.Grams <= holds:
			out[i] = AsScatter
		default:
			out[i] = AsLane
		}
	}
	return out
}

// UseOf is what a component is there for in a plan: what was said, or the usual.
func (p Plan) UseOf(fibres []Fibre, component int) Use {
	if component < len(p.Uses) && p.Uses[component] != "" {
		return p.Uses[component]
	}
	return UsualUses(fibres)[component]
}

// sort puts the components in their places by what they are there for. Without anything that carries the rest, all that
// could is laid in layers.
func (k *build) sort() {
	usual := UsualUses(k.fibres)
	k.plan.Uses = make([]Use, len(k.fibres))
	for i := range k.fibres {
		k.plan.Uses[i] = usual[i]
		if said := k.purpose(i).As; said != "" {
			k.plan.Uses[i], k.plan.Told = said, append(k.plan.Told, i)
		}
		if k.isBase(i) && k.fibres[i].Ground() {
			k.plan.Uses[i] = AsBase
		}
	}
	carries := func(i int) bool {
		return k.fibres[i].Grams >= speck && (k.plan.Uses[i] == AsBase || k.plan.Uses[i] == AsLane)
	}
	all := k.o.order(len(k.fibres))
	if !slices.ContainsFunc(all, carries) {
		for i, f := range k.fibres {
			if f.Ground() {
				k.plan.Uses[i] = AsLane
			}
		}
	}
	bright := k.brightest(all)
	for _, i := range all {
		if k.fibres[i].Grams < speck {
			continue
		}
		switch k.plan.Uses[i] {
		case AsBase:
			if k.o.Base == nil && !k.o.Bare {
				k.o.Base = &i
			}
			k.ground = append(k.ground, i)
		case AsLane:
			if bright[i] {
				k.bright, k.plan.Uses[i] = append(k.bright, i), AsOver
				continue
			}
			k.ground = append(k.ground, i)
		case AsScatter:
			if bright[i] {
				k.bright, k.plan.Uses[i] = append(k.bright, i), AsOver
				continue
			}
			k.extras = append(k.extras, i)
		case AsSpot:
			k.locks = append(k.locks, i)
		default:
			k.upon = append(k.upon, i)
		}
	}
}

func (k *build) purpose(i int) Purpose {
	if i < len(k.o.Purposes) {
		return k.o.Purposes[i]
	}
	return Purpose{}
}

// handG is as much as a hand lays thinly over a board.
const handG = 2.0

// tray is what one lay of scattered fibre weighs at most, as far as there are gaps for it: a tray that shows through, or what a
// hand lays.
func (b Bed) tray() float64 {
	if b.Type == Drum && b.FeedG > 0 {
		return TrayTurns * b.FeedG
	}
	return handG
}

// mostGaps is between how many layers at most scattered fibre makes room for itself: beyond, who lays it sees no end.
const mostGaps = 4

// lanesOf are the stretches across in which components lie beside others, from the left; the whole width where they do not.
func (p Plan) lanesOf(components []int) (out [][2]float64) {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if v.To-v.From < 0.999 && slices.Contains(components, v.Component) {
				out = append(out, [2]float64{v.From, v.To})
			}
		}
	}
	if len(out) == 0 {
		return [][2]float64{{0, 1}}
	}
	slices.SortFunc(out, func(a, b [2]float64) int { return slices.Compare(a[:], b[:]) })
	joined := out[:1]
	for _, v := range out[1:] {
		if last := &joined[len(joined)-1]; v[0] <= last[1]+1e-6 {
			last[1] = max(last[1], v[1])
			continue
		}
		joined = append(joined, v)
	}
	return joined
}

// checkPurposes finds what a component can not be there for.
func (o *Options) checkPurposes(l *fault.List, n int) {
	for i, v := range o.Purposes {
		at := fmt.Sprintf("components[%d].", i)
		if i >= n || v.As != "" && !slices.Contains(Uses(), v.As) {
			l.Add(at+"as", "A fibre is there as base, lane, scatter, veil, over, paint or spot.")
		}
		if !(v.FadeMM >= 0 && v.FadeMM <= MostFadeMM) {
			l.Add(at+"fade_mm", "It fades out over %s to %s.", unit.Millimetres(0), unit.Millimetres(MostFadeMM))
		}
		for j, near := range v.Near {
			if near < 0 || near >= n || near == i {
				l.Add(fmt.Sprintf("%snear[%d]", at, j), "It goes with another component of the blend, counted from 0.")
			}
		}
	}
	if o.Turns < 0 || o.Turns > MaxTurns {
		l.Add("turns_about", "Strips and what joins are fed turn about 1 to %d times; 0 leaves it as usual.", MaxTurns)
	}
}

// checkUses finds what is no use, and turns that can not be.
func (p Plan) checkUses(l *fault.List, n int) {
	for i, v := range p.Uses {
		if i >= n || v != "" && !slices.Contains(Uses(), v) {
			l.Add(fmt.Sprintf("as[%d]", i), "A fibre is there as base, lane, scatter, veil, over, paint or spot.")
			break
		}
	}
	if p.Turns < 0 || p.Turns > MaxTurns {
		l.Add("turns_about", "Strips and what joins are fed turn about 1 to %d times; 0 lays it in one place.", MaxTurns)
	}
}
