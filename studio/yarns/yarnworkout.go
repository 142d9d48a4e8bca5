package yarns

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/core/yarn"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
)

// usualYarn fills in what was not told, and what was told of what comes off otherwise now; rolags are as many as the lay-up rolls.
func usualYarn(in *YarnPlan, l laying.Layup) {
	usual := UsualSpinning()
	usual.off(l)
	off := string(l.LaidPlan.OffOf(l.Bed).Way)
	if in.Off != "" && in.Off != off { // it comes off otherwise now, and is spun as that is
		in.Way, in.Parts, in.Order, in.Draw = "", 0, "", ""
	}
	in.Off = off
	for _, v := range []struct {
		to    *string
		usual string
	}{{&in.Way, usual.Way}, {&in.Order, usual.Order}, {&in.From, usual.From}, {&in.Ply, usual.Ply}, {&in.Cloth, Cloths[0]}} {
		if *v.to == "" {
			*v.to = v.usual
		}
	}
	if in.Draw == "" {
		in.Draw = usualDraw(*in)
	}
	if in.Parts == 0 {
		in.Parts = usual.Parts
	}
	if in.Way == yarn.Rolags && l.LaidPlan.Rolags > 0 {
		in.Parts = l.LaidPlan.Rolags
	}
	if in.Stitches == 0 {
		in.Stitches, in.Rows = usualStitches, usualRows
	}
	if in.Rows == 0 {
		in.Rows = usualRows
	}
	if in.StitchMM == 0 {
		in.StitchMM = usualStitchMM
	}
}

// roundsOff is into how many rounds a batt is drawn off through a hole: an own figure, a strand of some 3 cm of its width.
const roundsOff = 8

// off has a batt spun as it comes off the tool: rolags from their ends, a strand that was drawn off round by round, strips.
func (sp *Spinning) off(l laying.Layup) {
	switch l.LaidPlan.OffOf(l.Bed).Way {
	case layup.OffRolags:
		sp.Way, sp.Parts = yarn.Rolags, 4
		if l.Bed.Type == layup.Drum {
			sp.Parts = layup.SuggestRolags(l.Bed, 1, l.LaidFibres)
		}
	case layup.OffSheet, layup.OffPunis:
		sp.Way, sp.Parts = yarn.Rolags, 1
	case layup.OffHole:
		sp.Way, sp.Parts, sp.Order = yarn.Strips, roundsOff, yarn.BackAndForth
	}
}

// usualDraw is how fibre is usually drawn that is spun so: airy from rolags and from the side, short along the fibre.
func usualDraw(in YarnPlan) string {
	switch {
	case in.From == yarn.Fold:
		return "from-fold"
	case in.Way == yarn.Rolags, in.From == yarn.Across:
		return "long"
	}
	return "short-backward"
}

// preparedAs is what fibre is when it is spun, as a yarn's size has it.
func preparedAs(l laying.Layup, way string) string {
	switch made := l.LaidPlan.OffOf(l.Bed).Makes(); {
	case way == yarn.Rolags || l.LaidPlan.LieOf(l.Bed) == layup.Crossed: // its fibres do not lie along
		return "rolag"
	case made == "roving":
		return "roving"
	}
	return "batt"
}

// size is how thick the yarn will be.
func (y *Yarn) size() error {
	_, _, _, of := y.body()
	sp := y.Spun.Spinning
	takeUp := sp.TakeUpPct / 100
	if sp.Ply == yarn.Single {
		takeUp = 0
	}
	v, err := yarn.SizeOf(sp.Tex, takeUp, yarn.PliesOf(sp.Ply), sp.Draw, preparedAs(y.Foretold.Layup, sp.Way), of.Density, of.Crimp)
	if err == nil && y.Tried.Wraps > 0 {
		v = v.Wrapped(y.Tried.Wraps)
	}
	y.DiameterMM, y.WrapsPerInch, y.Packing = v.DiameterMM, v.WrapsPerInch, v.Packing
	return err
}

func checkYarn(in *YarnPlan) error {
	var l fault.List
	if !slices.Contains(Cloths, in.Cloth) {
		l.Add("cloth", "It is shown knitted, woven, felted or crocheted.")
	}
	if !slices.Contains(yarn.Draws, in.Draw) {
		l.Add("draw", "A draw is long, from the fold, short backward or short forward.")
	}
	if !slices.Contains(YarnPairs, in.Pair) {
		l.Add("pair", "A second batt is spun as the first or from its other end.")
	}
	if !(in.Grist == 0 || in.Grist >= 20 && in.Grist <= 20_000) {
		l.Add("singles", "A single has from 20 to 20,000 m in 100 g.")
	}
	if in.Stitches < 1 || in.Stitches > mostStitches {
		l.Add("stitches", "A row has 1 to %d of them.", mostStitches)
	}
	if in.Rows < 1 || in.Rows > mostRows {
		l.Add("rows", "There are 1 to %d of them.", mostRows)
	}
	if !(in.StitchMM >= leastStitchMM && in.StitchMM <= mostStitchMM) {
		l.Add("stitch_mm", "A stitch takes %g to %g mm of yarn.", leastStitchMM, mostStitchMM)
	}
	checkUse(in, &l)
	return l.Err()
}

// spinningOf is how a plan is spun, with what the making's need and the maker's skeins say.
func spinningOf(in YarnPlan, n *Need, shown Shown) Spinning {
	sp := Spinning{
		Way: in.Way, Parts: in.Parts, Even: in.Even, Order: in.Order, From: in.From, Ply: in.Ply, Draw: in.Draw, S: in.S, Mirrored: in.Pair == "mirrored",
	}
	usual := UsualSpinning()
	sp.TakeUpPct, sp.WastePct = usual.TakeUpPct, usual.WastePct
	grist := yarn.GristOf(1000, yarn.UsualTex)
	if n != nil {
		sp.TakeUpPct, sp.WastePct = n.Allowance("take_up_pct"), n.Allowance("waste_pct")
		if n.SinglesGM > 0 {
			grist = n.SinglesGM
		}
	} else {
		sp.TakeUpPct, sp.WastePct = 100*shown.or("take_up_pct", sp.TakeUpPct/100), 100*shown.or("waste_pct", sp.WastePct/100)
	}
	if in.Grist > 0 {
		grist = in.Grist
	}
	if in.TakeUpPct != nil {
		sp.TakeUpPct = *in.TakeUpPct
	}
	if in.WastePct != nil {
		sp.WastePct = *in.WastePct
	}
	sp.Tex = yarn.TexOf(grist)
	return sp
}

// workOutYarn works out the yarn of a lay-up and keeps nothing.
func (s *Room) workOutYarn(ctx context.Context, layupID int64, in YarnPlan) (Yarn, error) {
	f, err := s.laying.Foretell(ctx, layupID, laying.Division{})
	if f == nil {
		return Yarn{}, err
	}
	usualYarn(&in, f.Layup)
	out := Yarn{YarnPlan: in, LayupID: layupID, Parts: []YarnPart{}, Runs: []YarnRun{}, Foretold: f}
	if err != nil { // nothing can be foretold yet
		return out, err
	}
	if err := checkYarn(&in); err != nil {
		return out, err
	}
	b, err := s.recipe.Blend(ctx, f.Layup.BlendID)
	if err != nil {
		return out, err
	}
	var need *Need
	switch n, err := s.NeedOf(ctx, b.MakingID); {
	case err == nil:
		need = &n
		if n.Way == NeedWays[0] {
			out.NeedM, out.NeedPlyM = n.Length, n.PlyM
		}
	case !errors.Is(err, floor.ErrNotFound):
		return out, err
	}
	shown, err := s.ShownBySkeins(ctx)
	if err != nil {
		return out, err
	}
	if out.Spun, out.Digest, err = s.spun(ctx, f, f.Stage(in.Stage), spinningOf(in, need, shown), in.Pair != ""); err != nil {
		return out, err
	}
	samples, err := s.YarnSamplesOf(ctx, b.MakingID)
	if err != nil {
		return out, err
	}
	out.tried(samples)
	if err := out.size(); err != nil {
		return out, err
	}
	if out.Worn, err = s.worn(ctx, b); err != nil {
		return out, err
	}
	out.answer()
	out.use()
	s.looks.Keep(yarnKey(layupID, out.Digest, in), out)
	return out, nil
}

func (y *Yarn) answer() {
	p := y.Spun
	y.Singles, y.PliedM, y.GristM, y.LeftM, y.Pattern, y.PlyDE = p.SinglesM, p.PliedM, p.GristM, p.LeftM, p.Pattern, p.PlyDE
	for _, v := range p.Yarn.Parts {
		y.Parts = append(y.Parts, YarnPart{v.Grams, y.Foretold.Together(v.Shares), v.Shares})
	}
	for _, r := range p.Yarn.Stretches {
		y.Runs = append(y.Runs, YarnRun{r.FromM, r.ToM, r.Lab.Linear().Hex(), y.Foretold.Together(r.Shares), y.Foretold.Leading(r.Shares)})
	}
}

func yarnKey(layupID int64, digest string, in YarnPlan) string {
	return fmt.Sprintf("%d %s %+v", layupID, digest, in)
}

// spun works out a yarn, or finds it among those that were worked out last; digest names what it
// rests on.
func (s *Room) spun(ctx context.Context, f *laying.Foretelling, stage int, sp Spinning, pair bool) (y *SpunYarn, digest string, err error) {
	how, err := json.Marshal([]any{f.Digest, stage, pair, sp})
	if err != nil {
		return nil, "", err
	}
	digest = fmt.Sprintf("%x", sha256.Sum256(how))[:16]
	y, err = s.yarns.Of(ctx, digest, func(ctx context.Context) (*SpunYarn, error) {
		first, err := s.field(ctx, f, stage, laying.CarderSeed)
		if err != nil {
			return nil, err
		}
		if !pair {
			return Spin(first, nil, &f.Palette, sp)
		}
		second, err := s.field(ctx, f, stage, laying.CarderSeed+1)
		if err != nil {
			return nil, err
		}
		return Spin(first, &second, &f.Palette, sp)
	})
	return y, digest, err
}

// field is the batt after a stage, as a spinner takes hold of it.
func (s *Room) field(ctx context.Context, f *laying.Foretelling, stage int, seed uint64) (carding.Field, error) {
	key := fmt.Sprintf("%s %d %d", f.Digest, stage, seed)
	return s.fields.Of(ctx, key, func(ctx context.Context) (out carding.Field, err error) {
		p := f.Plan
		p.Passes = p.Passes[:stage-1]
		err = carding.Run(ctx, p, f.Params, f.Grid(false), seed, func(n int, b *carding.Batt, _ []carding.Placed) error {
			if n == stage {
				out = b.Field(len(f.Plan.Components))
			}
			return nil
		})
		return out, err
	})
}

// YarnAs is the yarn of a lay-up spun as another plan says; one that was shown is named by what it
// rests on, and found again.
func (s *Room) YarnAs(ctx context.Context, layupID int64, p YarnPlan, digest string) (Yarn, error) {
	if y, ok := s.looks.Known(yarnKey(layupID, digest, p)); ok {
		return y, nil
	}
	return s.workOutYarn(ctx, layupID, p)
}

// FourWays are ways to spin a batt that make different yarns of it: as the plan has it is not
// among them.
func (y Yarn) FourWays() []YarnPlan {
	way := func(way string, parts int, order, from, ply string) YarnPlan {
		p := y.YarnPlan
		p.Way, p.Parts, p.Order, p.From, p.Ply, p.Pair, p.Draw = way, parts, order, from, ply, "", ""
		return p
	}
	if y.Foretold.Layup.Bed.Type == layup.Board {
		n := max(y.YarnPlan.Parts, 2)
		return []YarnPlan{
			way(yarn.Rolags, n, yarn.LeftToRight, yarn.Across, yarn.Chain), way(yarn.Rolags, n, yarn.LeftToRight, yarn.Across, yarn.Two),
			way(yarn.Strips, n, yarn.LeftToRight, yarn.End, yarn.Chain), way(yarn.Whole, 1, yarn.LeftToRight, yarn.Across, yarn.Single),
		}
	}
	return []YarnPlan{
		way(yarn.Strips, 6, yarn.LeftToRight, yarn.End, yarn.Chain), way(yarn.Strips, 6, yarn.BackAndForth, yarn.End, yarn.Two),
		way(yarn.Halves, 2, yarn.LeftToRight, yarn.End, yarn.Two), way(yarn.Whole, 1, yarn.LeftToRight, yarn.Across, yarn.Single),
	}
}

// Differ says how far two yarns differ, as yarn and as cloth.
func (y Yarn) Differ(o Yarn) yarn.Apart {
	seen := func(y Yarn) func(float64) colour.Linear {
		return func(part float64) colour.Linear { return y.Spun.strand.Seen(part * y.PliedM) }
	}
	return yarn.Differ(seen(y), seen(o))
}

// Bar draws all of the yarn.
func (y *SpunYarn) Bar(w, h int) *appearance.Picture {
	pic := appearance.NewPicture(w, h)
	appearance.DrawBar(pic, y.strand)
	return pic
}

// Woven draws a woven piece of it, so many pixels wide at most.
func (y *SpunYarn) Woven(w appearance.Woven, width int) *appearance.Picture {
	per := min(max(float64(width)/(float64(w.Ends)+2), 4), 30)
	wide, high := w.Size(per)
	pic := appearance.NewPicture(wide, high)
	appearance.DrawWoven(pic, y.strand, w, per)
	return pic
}

// Stage0 is the stage of carding whose batt is spun.
func (y Yarn) Stage0() int { return y.Foretold.Stage(y.YarnPlan.Stage) }

// PartHex is the colour of a part, mixed evenly.
func (y Yarn) PartHex(i int) string {
	shares := make([]float32, len(y.Parts[i].own))
	for k, v := range y.Parts[i].own {
		shares[k] = float32(v)
	}
	return y.Foretold.Palette.Even(shares).Hex()
}

// PartsG are the grams of the parts in whole steps of the scale that add up.
func (y Yarn) PartsG() []float64 {
	step := y.Foretold.Layup.StepG
	exact := make([]float64, len(y.Parts))
	var all float64
	for i, p := range y.Parts {
		exact[i] = p.Grams / step
		all += exact[i]
	}
	out := make([]float64, len(exact))
	for i, n := range weigh.Apportion(exact, int64(math.Round(all))) {
		out[i] = unit.Clean(float64(n) * step)
	}
	return out
}

// RowsIn is how many rows of the piece a stretch of the yarn makes, m.
func (y Yarn) RowsIn(long float64) float64 { return long / (float64(y.Stitches) * y.LoopMM() / 1000) }

// Batts is how many batts like this the need takes, with its margin and what washing takes of the length: whole ones, and two at a
// time where the plies are a batt each.
func (y Yarn) Batts() int {
	n := int(math.Ceil(y.NeedPlyM/y.PliedM - 1e-9))
	if y.Pair != "" {
		n *= 2
	}
	return n
}
