package train

import (
	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/mix"
)

// Of the batts of exercises: the cloth that they are laid on, and what carding takes of them each time.
const (
	battWideMM, battLongMM = 80, 360
	battFullG, battG       = 18.0, 10.0
	lostInEach             = 0.01
	battKind               = "corriedale"
)

// Laid is a batt ready to be carded: what carding.Run takes, with the eye that looks at it.
type Laid struct {
	Plan   carding.Plan
	Params carding.Params
	Grid   carding.Grid
	Eye    carding.Eye
	Crimp  string
	Seed   uint64
	Mix    func(shares []float64) colour.Lab // of the lots, carded until they are even
}

// Laying lays parts of the lots of an exercise in full layers over each other, as often as the exercise says, and feeds them again in its
// strips for so many passes after the first.
func (e Exercise) Laying(parts []float64, passes int) (l Laid, err error) {
	kind, _ := fibre.FindKind(battKind)
	l.Seed, l.Crimp = e.Seed, kind.Crimp
	l.Plan = carding.Plan{
		Bed:        carding.Bed{WidthMM: battWideMM, LengthMM: battLongMM, FullG: battFullG},
		Components: make([]carding.Component, len(e.Lots)), Loss: func(int, int) float64 { return lostInEach },
	}
	for range e.Layers {
		at, level := 0.0, []carding.Lay{}
		for i, share := range Shares(parts) {
			lay := carding.Lay{Component: i, To: 1, End: 1, Grams: battG * share / float64(e.Layers), Method: carding.FeedIt}
			switch {
			case share <= 0:
			case e.Lanes:
				lay.From, lay.To = at, min(1, at+share)
				level = append(level, lay)
			default:
				l.Plan.Layers = append(l.Plan.Layers, []carding.Lay{lay})
			}
			at += share
		}
		if e.Lanes {
			l.Plan.Layers = append(l.Plan.Layers, level)
		}
	}
	again := carding.Pass{Strips: e.Strips, Refeed: carding.Spread}
	if e.OwnPlace {
		again.Refeed = carding.OwnPlace
	}
	for range passes {
		l.Plan.Passes = append(l.Plan.Passes, again)
	}
	cloth, colours := make([]carding.Fibre, len(e.Lots)), make([]colour.Reflectance, len(e.Lots))
	for i, v := range e.Lots {
		cloth[i] = carding.Fibre{StapleMM: kind.StapleMM.Mid(), Density: kind.Density, Thickness: kind.Thickness()}
		colours[i] = known()[v.Hex]
	}
	l.Mix = func(shares []float64) colour.Lab {
		even := mix.Default().Even(colours, shares)
		return even.Lab()
	}
	l.Params, l.Grid = carding.DefaultParams().For(cloth), carding.FineGrid(battWideMM, battLongMM)
	l.Eye = carding.Eye{Palette: carding.NewPalette(mix.Default(), colours, nil)}
	return l, l.Plan.Check()
}
