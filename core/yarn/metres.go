package yarn

import "math"

// How many metres of yarn a piece of cloth takes (yarn.md, section 7).

// hookOf is the yarn in a stitch of crochet, in turns round the hook and the yarn on it (judgement).
var hookOf = map[string]float64{"crochet-single": 2.8, "crochet-half": 3.9, "crochet-double": 5.2}

// Crochets are the kinds of crochet, from the shortest stitch to the tallest.
var Crochets = []string{"crochet-single", "crochet-half", "crochet-double"}

// CrochetMM is the yarn in a stitch of crochet, mm, of yarn of a diameter on a hook; 0 where there is no such stitch.
func CrochetMM(kind string, hookMM, diameterMM float64) float64 {
	return hookOf[kind] * math.Pi * (hookMM + diameterMM)
}

// loop is the square root of the density constant of wet relaxed plain knitting, 21.6.
var loop = math.Sqrt(21.6)

// KnitMM is the yarn in a stitch of stocking stitch, mm, of so many stitches and rows on 10 cm of washed cloth.
func KnitMM(stitches, rows float64) float64 { return loop * math.Sqrt(100/stitches*(100/rows)) }

// Gauge is how many stitches and rows lie on 10 cm.
type Gauge struct{ Stitches, Rows float64 }

// Balanced reports whether a gauge is that of plain stocking stitch: outside, the yarn in a stitch is a guess to a fifth.
func (g Gauge) Balanced() bool {
	tall := g.Rows / g.Stitches // width of a stitch by its height
	return tall >= 1.15 && tall <= 1.45
}

// edges is what casting on and edges take besides.
const edges = 1.03

// WorkedM is what a piece of so many mm takes, worked at a gauge with so much yarn in a stitch, m; rows and stitches are whole ones.
func WorkedM(wideMM, longMM float64, g Gauge, stitchMM float64) (stitches, rows int, metres float64) {
	stitches, rows = max(1, int(math.Round(wideMM*g.Stitches/100))), max(1, int(math.Round(longMM*g.Rows/100)))
	return stitches, rows, float64(stitches) * float64(rows) * stitchMM / 1000 * edges
}

// Woven is a piece of cloth on a loom, of what is usual there; parts (judgement): how much the threads bend in warp and weft, what
// it draws in, and what it shrinks by in length and width.
type Woven struct {
	Ends              int
	SettPerCM         float64
	ReedMM, LengthM   float64 // in the reed, and off the loom
	WarpM, WeftM      float64
	WidthMM, FinishMM float64 // off the loom, and finished
}

// Of weaving.
const (
	plainSett  = 0.5 // of the loose wraps
	crimpWarp  = 0.08
	crimpWeft  = 0.06
	drawsIn    = 0.07
	shrinkLong = 0.10
	shrinkWide = 0.08
	loomWasteM = 0.6
)

// WovenM is what a finished piece of plain weave takes, of a yarn of so many loose wraps to the inch, as many picks as ends.
func WovenM(wideMM, longMM, wraps float64) Woven {
	w := Woven{SettPerCM: wraps * plainSett / 2.54, WidthMM: wideMM / (1 - shrinkWide), LengthM: longMM / 1000 / (1 - shrinkLong), FinishMM: wideMM}
	w.ReedMM = w.WidthMM / (1 - drawsIn)
	w.Ends = int(math.Round(w.ReedMM / 10 * w.SettPerCM))
	w.WarpM = float64(w.Ends) * (w.LengthM*(1+crimpWarp) + loomWasteM)
	w.WeftM = w.SettPerCM * 100 * w.LengthM * w.WidthMM / 1000 * (1 + crimpWeft)
	return w
}

// WeftOf is a finished piece of plain weave as it is worked of its weft: its picks are rows, its ends what they cross.
func WeftOf(wideMM, longMM, wraps float64) Worked {
	w := WovenM(wideMM, longMM, wraps)
	across := max(1, int(math.Round(w.WidthMM/10*w.SettPerCM)))
	return Worked{Stitches: across, Rows: max(1, int(math.Round(w.SettPerCM*100*w.LengthM))), Panels: 1, Flat: true,
		StitchMM: w.WidthMM * (1 + crimpWeft) / float64(across)}
}

// usualCover is how close usual stocking stitch is: the square root of the tex of its yarn by the yarn in a stitch in mm (0.9 to 1.6).
const usualCover = 1.25

// UsualGauge is the gauge that a yarn of so many m in 100 g usually has in stocking stitch, from the wet relaxed loop: width 1/4.1 and
// height 1/5.3 of it.
func UsualGauge(gristM float64) Gauge {
	stitch := math.Sqrt(100_000/gristM) / usualCover
	return Gauge{100 * 4.1 / stitch, 100 * 5.3 / stitch}
}

// FeltedMM2 is the area to be laid for a finished one, of felt that shrinks by a part of its length.
func FeltedMM2(finished, shrinks float64) float64 { return finished / ((1 - shrinks) * (1 - shrinks)) }
