package yarns

import (
	"context"
	"math"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/yarn"
)

// Spinning is how a batt is divided, spun and plied; see core/yarn for the names.
type Spinning struct {
	Way       string  `json:"way"`
	Parts     int     `json:"parts"`
	Even      bool    `json:"even"` // the parts weigh the same
	Order     string  `json:"order"`
	From      string  `json:"from"`
	Ply       string  `json:"ply"`
	Draw      string  `json:"draw"`
	Tex       float64 `json:"tex"` // of the single
	TakeUpPct float64 `json:"take_up_pct"`
	WastePct  float64 `json:"waste_pct"`
	S         bool    `json:"s"`        // singles spun S and plied Z
	Mirrored  bool    `json:"mirrored"` // of two batts, the second from its other end
}

// UsualSpinning is a two-ply of six strips.
func UsualSpinning() Spinning {
	return Spinning{Way: yarn.Strips, Parts: 6, Order: yarn.LeftToRight, From: yarn.End, Ply: yarn.Two, Tex: yarn.UsualTex, TakeUpPct: 5, WastePct: 3}
}

// SpunYarn is a yarn with what it takes to draw it.
type SpunYarn struct {
	*yarn.Yarn
	Spinning Spinning
	strand   *appearance.Strand
}

// spinSeed is the seed of how a hand wanders over the batt; what is shown is one such hand.
const spinSeed = 1

// Spin works out the yarn of a batt, or of two whose plies each are one of them.
func Spin(f carding.Field, second *carding.Field, p *carding.Palette, sp Spinning) (*SpunYarn, error) {
	room := make([]float32, f.N)
	q := yarn.Request{
		Field: fieldOf(f), Way: sp.Way, Parts: sp.Parts, Even: sp.Even, Order: sp.Order, From: sp.From, Ply: sp.Ply, Tex: sp.Tex,
		TakeUp: sp.TakeUpPct / 100, Waste: sp.WastePct / 100, Seed: spinSeed, Mirrored: sp.Mirrored,
		Mix: func(shares []float64) colour.Lab {
			for k, s := range shares {
				room[k] = float32(s)
			}
			return p.Even(room).Lab()
		},
	}
	unopened := f.Unopened
	if second != nil {
		other := fieldOf(*second)
		q.Second = &other
		unopened = make([]float64, f.N)
		for k := range unopened {
			unopened[k] = (f.Unopened[k] + second.Unopened[k]) / 2
		}
	}
	y, err := yarn.Plan(q)
	if err != nil {
		return nil, err
	}
	woollen := sp.Draw == "long" || sp.Draw == "from-fold"
	if sp.Draw == "" {
		woollen = sp.Way == yarn.Rolags || sp.From != yarn.End
	}
	return &SpunYarn{y, sp, appearance.NewStrand(y, p, unopened, appearance.Spun{Tex: sp.Tex, Woollen: woollen, S: sp.S}, spinSeed)}, nil
}

func fieldOf(f carding.Field) yarn.Field {
	return yarn.Field{WidthMM: f.WidthMM, LengthMM: f.LengthMM, Lanes: f.Lanes, Cells: f.Cells, N: f.N, Grams: f.Grams}
}

// Bounds of pictures of yarn.
const (
	leastStrandCM, mostStrandCM = 0.5, 200.0
	mostStitches, mostRows      = 120, 160
	leastStitchMM, mostStitchMM = 2.0, 80.0
)

// StrandView is which stretch of a yarn is drawn.
type StrandView struct {
	FromM    float64
	LengthCM float64
	Width    int // pixels
}

// Strand draws a stretch of the yarn at true scale; its height follows from how thick it is.
func (y *SpunYarn) Strand(v StrandView) (*appearance.Picture, error) {
	var l fault.List
	if v.Width < 16 || v.Width > 2000 {
		l.Add("width", "A picture is 16 to 2000 pixels wide.")
	}
	if !(v.LengthCM >= leastStrandCM && v.LengthCM <= mostStrandCM) {
		l.Add("length_cm", "A strand is shown over %g to %g cm.", leastStrandCM, mostStrandCM)
	} else if !(v.FromM >= 0 && v.FromM+v.LengthCM/100 <= y.PliedM+1e-9) {
		l.Add("from_m", "This yarn goes from 0 to %.1f m.", y.PliedM)
	}
	if err := l.Err(); err != nil {
		return nil, err
	}
	per := float64(v.Width) / (10 * v.LengthCM)
	high := int(math.Ceil((2*y.strand.Radius() + 5) * per))
	pic := appearance.NewPicture(v.Width, min(max(high, 12), 600))
	appearance.DrawStrand(pic, y.strand, 1000*v.FromM, per)
	return pic, nil
}

// Swatch draws a piece of stocking stitch knitted of the yarn, so many pixels wide at most.
func (y *SpunYarn) Swatch(ctx context.Context, w appearance.Swatch, width int) (*appearance.Picture, error) {
	var l fault.List
	checkPiece(&l, w, mostStitchMM)
	if err := l.Err(); err != nil {
		return nil, err
	}
	if !(w.FromM >= 0 && w.FromM+w.UsesM() <= y.PliedM+1e-9) {
		return nil, fault.New("from_m", "This swatch takes %.1f m, and the yarn goes from 0 to %.1f m.", w.UsesM(), y.PliedM)
	}
	// So many pixels to a stitch that it is as wide as asked, and no more than half as high again.
	_, tall := w.Size(1)
	per := min(max(min(float64(width)/(float64(w.Stitches)+2), 1.5*float64(width)/float64(tall)), 6), 48)
	wide, high := w.Size(per)
	pic := appearance.NewPicture(wide, high)
	return pic, appearance.DrawSwatch(ctx, pic, y.strand, w, per)
}

// mostHookedMM is the yarn in a stitch of crochet at most.
const mostHookedMM = 1000.0

// Crochet draws a crocheted piece of the yarn, so many pixels wide at most.
func (y *SpunYarn) Crochet(ctx context.Context, w appearance.Crocheted, width int) (*appearance.Picture, error) {
	var l fault.List
	checkPiece(&l, w.Swatch, mostHookedMM)
	if err := l.Err(); err != nil {
		return nil, err
	}
	if !(w.FromM >= 0 && w.FromM+w.UsesM() <= y.PliedM+1e-9) {
		return nil, fault.New("from_m", "This piece takes %.1f m, and the yarn goes from 0 to %.1f m.", w.UsesM(), y.PliedM)
	}
	_, tall := w.Size(1)
	per := min(max(min(float64(width)/(float64(w.Stitches)+2), 1.5*float64(width)/float64(tall)), 6), 48)
	wide, high := w.Size(per)
	pic := appearance.NewPicture(wide, high)
	return pic, appearance.DrawCrochet(ctx, pic, y.strand, w, per)
}

// checkPiece finds what can not be drawn of a piece.
func checkPiece(l *fault.List, w appearance.Swatch, mostMM float64) {
	if w.Stitches < 1 || w.Stitches > mostStitches {
		l.Add("stitches", "A swatch has 1 to %d stitches.", mostStitches)
	}
	if w.Rows < 1 || w.Rows > mostRows {
		l.Add("rows", "A swatch has 1 to %d rows.", mostRows)
	}
	if !(w.StitchMM >= leastStitchMM && w.StitchMM <= mostMM) {
		l.Add("stitch_mm", "A stitch takes %g to %g mm of yarn.", leastStitchMM, mostMM)
	}
}

// ThickMM is how thick the yarn is, mm.
func (y *SpunYarn) ThickMM() float64 { return 2 * y.strand.Radius() }
