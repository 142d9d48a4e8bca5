package calls

import (
	"context"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/yarn"
	"fairtangle/formats"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// YarnRequest asks what yarn a foretold batt becomes. What is left out is as usual: the batt
// after its last pass, six strips, a two-ply of 100 tex.
type YarnRequest struct {
	SimulateRequest
	Stage    int `json:"stage"`
	Division struct {
		Way   string `json:"way"`
		Parts int    `json:"parts"`
		Even  bool   `json:"by_weight"`
	} `json:"division"`
	Spin struct {
		Order string `json:"order"`
		From  string `json:"from"`
		Twist string `json:"twist"` // z, or s: of the singles
	} `json:"spin"`
	Ply       string   `json:"ply"`
	Pair      string   `json:"pair"` // second, mirrored: each of two plies is a batt of its own
	Tex       *float64 `json:"singles_tex"`
	TakeUpPct *float64 `json:"take_up_pct"`
	WastePct  *float64 `json:"waste_pct"`
	Drawn
}

// YarnPart is a part of the batt, in the order in which they are spun.
type YarnPart struct {
	Grams  float64   `json:"grams"`
	Shares []float64 `json:"shares"`
}

// YarnRun is a stretch of the yarn of one colour.
type YarnRun struct {
	FromM  float64               `json:"from_m"`
	ToM    float64               `json:"to_m"`
	Colour workshop.ColourOutput `json:"colour"`
	Shares []float64             `json:"shares"`
}

// YarnAnswer is the yarn.
type YarnAnswer struct {
	SinglesM  float64    `json:"singles_m"`
	PliedM    float64    `json:"plied_m"`
	GristM    float64    `json:"grist_m_per_100g"`
	LeftM     float64    `json:"left_m"` // of single, where of two batts one is heavier
	Parts     []YarnPart `json:"parts"`
	Runs      []YarnRun  `json:"runs"`
	Pattern   string     `json:"pattern"`
	PlyDeltaE float64    `json:"ply_delta_e"` // how far the plies differ, side by side
	YarnSize
}

// spinning reads how it is spun.
func (q *YarnRequest) spinning() (yarns.Spinning, error) {
	sp := yarns.UsualSpinning()
	for _, v := range []struct {
		to   *string
		from string
	}{{&sp.Way, q.Division.Way}, {&sp.Order, q.Spin.Order}, {&sp.From, q.Spin.From}, {&sp.Ply, q.Ply}} {
		if v.from != "" {
			*v.to = v.from
		}
	}
	sp.Even = q.Division.Even
	if q.Division.Parts != 0 {
		sp.Parts = q.Division.Parts
	}
	for _, v := range []struct{ to, from *float64 }{{&sp.Tex, q.Tex}, {&sp.TakeUpPct, q.TakeUpPct}, {&sp.WastePct, q.WastePct}} {
		if v.from != nil {
			*v.to = *v.from
		}
	}
	var l fault.List
	switch q.Spin.Twist {
	case "", "z":
	case "s":
		sp.S = true
	default:
		l.Add("spin.twist", "Singles are spun z or s.")
	}
	switch q.Pair {
	case "", "second":
	case "mirrored":
		sp.Mirrored = true
	default:
		l.Add("pair", "A second batt is spun as the first (second) or from its other end (mirrored).")
	}
	return sp, l.Err()
}

// spin cards the batt and works out its yarn.
func (q *YarnRequest) spin(ctx context.Context) (*yarns.SpunYarn, simulation, error) {
	s, err := q.ready()
	if err != nil {
		return nil, s, err
	}
	sp, err := q.spinning()
	if err != nil {
		return nil, s, err
	}
	last := len(s.plan.Passes) + 1
	if q.Stage == 0 {
		q.Stage = last
	}
	if q.Stage < 1 || q.Stage > last {
		return nil, s, fault.New("stage", "The stages of this batt are 1 to %d.", last)
	}
	s.plan.Passes = s.plan.Passes[:q.Stage-1]
	field, err := q.field(ctx, s, q.Seed)
	if err != nil {
		return nil, s, err
	}
	var second *carding.Field
	if q.Pair != "" { // the second batt is laid alike, and comes out a little differently
		other, err := q.field(ctx, s, q.Seed+1)
		if err != nil {
			return nil, s, err
		}
		second = &other
	}
	y, err := yarns.Spin(field, second, &s.eye.Palette, sp)
	return y, s, err
}

func (q *YarnRequest) field(ctx context.Context, s simulation, seed uint64) (f carding.Field, err error) {
	err = carding.Run(ctx, s.plan, s.params, s.grid, seed, func(stage int, b *carding.Batt, _ []carding.Placed) error {
		if stage == q.Stage {
			f = b.Field(len(s.slots))
		}
		return nil
	})
	return f, err
}

// Yarn works out the yarn that a batt becomes, from nothing but the request.
func Yarn(ctx context.Context, q YarnRequest) (YarnAnswer, error) {
	y, s, err := q.spin(ctx)
	if err != nil {
		return YarnAnswer{}, err
	}
	a := YarnAnswer{
		SinglesM: y.SinglesM, PliedM: y.PliedM, GristM: y.GristM, LeftM: y.LeftM, Pattern: y.Pattern, PlyDeltaE: y.PlyDE,
		Parts: []YarnPart{}, Runs: []YarnRun{},
	}
	if a.YarnSize, err = q.size(y.Spinning.Tex, y.Spinning.TakeUpPct/100, y.Spinning.Ply, bodyOf(q.Components, q.plan(layup.Bed{}))); err != nil {
		return YarnAnswer{}, err
	}
	for _, p := range y.Parts {
		a.Parts = append(a.Parts, YarnPart{p.Grams, s.together(p.Shares)})
	}
	for _, r := range y.Stretches {
		a.Runs = append(a.Runs, YarnRun{r.FromM, r.ToM, workshop.ColourOut(s.model.Even(s.colours, r.Shares)), s.together(r.Shares)})
	}
	return a, nil
}

// StrandPicture draws a stretch of the yarn as PNG.
func StrandPicture(ctx context.Context, q YarnRequest, v yarns.StrandView) ([]byte, error) {
	y, _, err := q.spin(ctx)
	if err != nil {
		return nil, err
	}
	return png(y.Strand(v))
}

// SwatchPicture draws a piece knitted of the yarn as PNG.
func SwatchPicture(ctx context.Context, q YarnRequest, w appearance.Swatch) ([]byte, error) {
	y, _, err := q.spin(ctx)
	if err != nil {
		return nil, err
	}
	return png(y.Swatch(ctx, w, swatchPixels))
}

// ClothKinds are what a piece of the yarn can be.
var ClothKinds = append([]string{"knitted", "woven", "felted"}, yarn.Crochets...)

// ClothPicture draws a piece of the yarn as PNG: knitted, crocheted, woven (w.Stitches ends, w.Rows picks), or the batt as a sheet to be
// felted. A stitch without a size takes what is usual.
func ClothPicture(ctx context.Context, q YarnRequest, kind string, w appearance.Swatch) ([]byte, error) {
	y, _, err := q.spin(ctx)
	if err != nil {
		return nil, err
	}
	switch kind {
	case "knitted":
		if w.StitchMM == 0 {
			w.StitchMM = usualStitchMM
		}
		return png(y.Swatch(ctx, w, swatchPixels))
	case "woven":
		v := appearance.Woven{Ends: w.Stitches, Picks: w.Rows, WidthMM: float64(w.Stitches) * 2 * y.ThickMM(), FromM: w.FromM}
		if err := checkWoven(v, y); err != nil {
			return nil, err
		}
		return png(y.Woven(v, swatchPixels), nil)
	case "felted":
		return Face(ctx, q.SimulateRequest, FaceRequest{Stage: max(q.Stage, 1), Side: "top", Width: swatchPixels, Height: swatchPixels * 9 / 16})
	}
	if w.StitchMM == 0 {
		w.StitchMM = yarn.CrochetMM(kind, usualHookMM, y.ThickMM())
	}
	return png(y.Crochet(ctx, appearance.Crocheted{Swatch: w, As: appearance.Crochet(kind)}, swatchPixels))
}

// checkWoven finds what can not be woven of a yarn.
func checkWoven(w appearance.Woven, y *yarns.SpunYarn) error {
	var l fault.List
	if w.Ends < 2 || w.Ends > mostThreads {
		l.Add("across", "A piece has 2 to %d ends.", mostThreads)
	}
	if w.Picks < 1 || w.Picks > mostThreads {
		l.Add("rows", "A piece has 1 to %d picks.", mostThreads)
	}
	if len(l) == 0 && !(w.FromM >= 0 && w.FromM+w.UsesM() <= y.PliedM+1e-9) {
		l.Add("from_m", "This piece takes %.1f m of weft, and the yarn goes from 0 to %.1f m.", w.UsesM(), y.PliedM)
	}
	return l.Err()
}

// mostThreads is how many threads of a woven piece are drawn at most, either way.
const mostThreads = 160

// Of a piece, where nothing else is said.
const (
	usualStitchMM = 12.0
	usualHookMM   = 4.0
)

// swatchPixels is how wide a swatch is drawn at most, as long as a stitch is seen.
const swatchPixels = 900

func png(pic *appearance.Picture, err error) ([]byte, error) {
	if err != nil {
		return nil, err
	}
	return formats.WritePNG(pic.W, pic.H, pic.RGBA(nil))
}
