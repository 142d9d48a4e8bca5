package yarns

import (
	"context"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/need"
	"fairtangle/core/unit"
	"fairtangle/core/yarn"
)

// WorkedPlan is the piece that is worked of the yarn of a making: in rows of stitches, or as the weft of a cloth. 0 is what is usual.
type WorkedPlan struct {
	Weft          bool
	Stitches      int // in the first row
	Grows         float64
	Rows          int // of a panel; 0: as many as there is yarn for
	Panels        int
	Round         bool
	GaugeStitches float64 // on 10 cm
	GaugeRows     float64
	WideMM        float64 // of a woven piece, finished
	LongMM        float64
}

// WorkedYarn is where the colours of a yarn fall in a piece.
type WorkedYarn struct {
	yarn.Worked
	StitchW float64 // of a stitch, mm
	StitchH float64
	Gauge   yarn.Gauge // with the sample that it was measured on, empty: it is usual for the yarn
	Of      string
	Fall    [][]int
	UsesM   float64
	MissesM float64      // of yarn that there is not
	Spans   []WorkedSpan // of each stretch of the yarn
}

// WorkedSpan is where a stretch of the yarn lies: from a row of a panel to another, from 1. It has no rows where it is not worked.
type WorkedSpan struct {
	Panel, Row     int
	ToPanel, ToRow int
	Rows           float64
}

// usualAcross is how many stitches are shown, where nothing was said.
const usualAcross = 80

// Usual finished size of what is woven, mm.
const usualWideMM, usualLongMM = 300.0, 1800.0

// worked is where the colours of a yarn fall.
func (s *Room) worked(ctx context.Context, making int64, y WholeYarn, p WorkedPlan) (w WorkedYarn, err error) {
	if err := p.check(); err != nil {
		return w, err
	}
	samples, err := s.YarnSamplesOf(ctx, making)
	if err != nil {
		return w, err
	}
	if w.Gauge, w.Of = MeasuredGauge(samples); w.Of == "" {
		w.Gauge = yarn.UsualGauge(y.Grist)
	}
	if p.GaugeStitches > 0 {
		w.Gauge.Stitches, w.Of = p.GaugeStitches, ""
	}
	if p.GaugeRows > 0 {
		w.Gauge.Rows, w.Of = p.GaugeRows, ""
	}
	if p.Weft {
		w.Worked = yarn.WeftOf(or(p.WideMM, usualWideMM), or(p.LongMM, usualLongMM), need.WrapsOf(y.Grist))
		w.Rows = min(w.Rows, yarn.MostRows)
		if most := min(yarn.MostAcross, yarn.MostDrawn/w.Rows); w.Stitches > most { // it is drawn coarser, of as much yarn
			w.StitchMM, w.Stitches = w.StitchMM*float64(w.Stitches)/float64(most), most
		}
	} else {
		w.Worked = yarn.Worked{Stitches: max(p.Stitches, 0), Grows: p.Grows, Rows: p.Rows, Panels: max(p.Panels, 1), Flat: !p.Round,
			StitchMM: yarn.KnitMM(w.Gauge.Stitches, w.Gauge.Rows)}
		if w.Stitches == 0 {
			w.Stitches = usualAcross
		}
		if w.Rows == 0 {
			w.Rows = max(1, w.RowsOf(y.Plied/float64(w.Panels), yarn.MostRows))
		}
	}
	w.StitchW, w.StitchH = 100/w.Gauge.Stitches, 100/w.Gauge.Rows
	if p.Weft {
		w.StitchW, w.StitchH = or(p.WideMM, usualWideMM)/float64(w.Stitches), or(p.LongMM, usualLongMM)/float64(w.Rows)
	}
	w.UsesM = w.PanelM() * float64(w.Panels)
	w.MissesM = max(0, w.UsesM-y.Plied)
	ends := make([]float64, len(y.Runs))
	for i, r := range y.Runs {
		ends[i] = r.To
	}
	w.Fall = w.Worked.Fall(ends)
	w.span(len(ends))
	return w, nil
}

// span finds from which row to which each stretch lies, and how many rows it makes.
func (w *WorkedYarn) span(stretches int) {
	w.Spans = make([]WorkedSpan, stretches)
	for r, row := range w.Fall {
		for _, i := range row {
			if i < 0 {
				continue
			}
			v := &w.Spans[i]
			if v.Row == 0 {
				v.Panel, v.Row = r/w.Rows+1, r%w.Rows+1
			}
			v.ToPanel, v.ToRow = r/w.Rows+1, r%w.Rows+1
			v.Rows += 1 / float64(len(row))
		}
	}
}

func (p WorkedPlan) check() error {
	var l fault.List
	within := func(field string, v, least, most float64, what string, args ...any) {
		if v != 0 && !(v >= least && v <= most) {
			l.Add(field, what, args...)
		}
	}
	within("stitches", float64(p.Stitches), 1, yarn.MostAcross, "A row has from 1 to %d of them.", yarn.MostAcross)
	within("rows", float64(p.Rows), 1, yarn.MostRows, "There are from 1 to %d of them.", yarn.MostRows)
	within("panels", float64(p.Panels), 1, yarn.MostPanels, "There are from 1 to %d of them.", yarn.MostPanels)
	within("grows", p.Grows, -20, 20, "A row has at most 20 stitches more or fewer than the one before.")
	within("gauge_stitches", p.GaugeStitches, 1, 200, "There are from 1 to 200 of them.")
	within("gauge_rows", p.GaugeRows, 1, 200, "There are from 1 to 200 of them.")
	for field, v := range map[string]float64{"wide_mm": p.WideMM, "long_mm": p.LongMM} {
		within(field, v, 5, 10_000, "A piece is from %s to %s.", unit.Millimetres(5), unit.Millimetres(10_000))
	}
	if all := float64(max(p.Rows, 1)*max(p.Panels, 1)) * (float64(p.Stitches) + math.Max(0, p.Grows)*float64(p.Rows)/2); all > yarn.MostDrawn {
		l.Add("rows", "A piece of more than two million stitches is not drawn.")
	}
	return l.Err()
}

// MeasuredGauge is the gauge that was measured on a sample: of the piece that was liked, else of the latest one; with the sample's name.
func MeasuredGauge(samples []YarnSample) (g yarn.Gauge, of string) {
	for _, liked := range []bool{true, false} {
		for _, v := range samples {
			for _, w := range v.Swatches {
				if w.Stitches > 0 && w.Rows > 0 && (w.Liked || !liked) {
					return yarn.Gauge{Stitches: w.Stitches, Rows: w.Rows}, v.Name
				}
			}
		}
	}
	return g, ""
}
