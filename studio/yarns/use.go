package yarns

import (
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/fleece"
	"fairtangle/core/unit"
	"fairtangle/core/yarn"
)

// How a yarn is twisted, what it is like, what washing does to it, and what a piece of cloth takes of it.

// YarnUse is what follows for using it.
type YarnUse struct {
	TurnsPerM  float64 `json:"turns_per_m,omitempty"` // of the single
	LowTurns   float64 `json:"low_turns_per_m,omitempty"`
	HighTurns  float64 `json:"high_turns_per_m,omitempty"`
	PlyTurns   float64 `json:"ply_turns_per_m,omitempty"` // balanced
	AngleDeg   float64 `json:"surface_angle_deg,omitempty"`
	Loft       int     `json:"loft,omitempty"` // 1 to 5, as hairs and strength
	Hairs      int     `json:"hairs,omitempty"`
	Strength   int     `json:"strength,omitempty"`
	ShorterPct float64 `json:"shorter_pct,omitempty"` // by the first wash
	Thicker    float64 `json:"thicker,omitempty"`     // then, times as thick
	// Steamed under a light tension in place of it.
	SteamedPct     float64 `json:"steamed_shorter_pct,omitempty"`
	SteamedThicker float64 `json:"steamed_thicker,omitempty"`
	Piece          *Piece  `json:"piece,omitempty"`
}

// Piece is what a piece of cloth takes.
type Piece struct {
	Across   int     `json:"across"` // stitches, or ends
	Rows     int     `json:"rows"`   // or picks
	StitchMM float64 `json:"stitch_mm,omitempty"`
	Metres   float64 `json:"metres"`
	WarpM    float64 `json:"warp_m,omitempty"`
	Grams    float64 `json:"grams"`
	// Guessed says that the gauge is not that of stocking stitch, so that the yarn in a stitch is a guess to a fifth.
	Guessed bool    `json:"guessed,omitempty"`
	LaidMM2 float64 `json:"laid_mm2,omitempty"` // of felt: what is laid for it
	Shrinks float64 `json:"shrinks,omitempty"`  // of its length
}

// Tried is what the samples of the making showed, which takes the place of what is usual; empty names are of nothing that was tried.
type Tried struct {
	TurnsPerM float64
	TurnsOf   string
	Gauge     yarn.Gauge
	GaugeOf   string
	Wraps     float64 // to the inch, of a yarn of as many plies
	WrapsOf   string
}

// tried takes the twist of the sample that was liked, else of the latest that tells it; and the gauge of a piece likewise.
func (y *Yarn) tried(samples []YarnSample) {
	for _, liked := range []bool{true, false} {
		for _, v := range samples {
			if y.Tried.TurnsOf == "" && v.TurnsPerM > 0 && (v.Liked || !liked) {
				y.Tried.TurnsPerM, y.Tried.TurnsOf = v.TurnsPerM, v.Name
			}
			if y.Tried.WrapsOf == "" && v.WPI > 0 && v.Ply == y.YarnPlan.Ply && (v.Liked || !liked) {
				y.Tried.Wraps, y.Tried.WrapsOf = v.WPI, v.Name
			}
		}
	}
	y.Tried.Gauge, y.Tried.GaugeOf = MeasuredGauge(samples)
}

// coatOf is what sort of coat a fibre is of, as a yarn's character follows from it.
func coatOf(k fibre.Kind, superwash bool) string {
	if superwash || k.Key == "merino_superwash" {
		return "superwash"
	}
	switch g := fleece.GroupOf(k.Key).Key; g {
	case "long":
		return "longwool"
	case "llama":
		return "alpaca"
	case "dog":
		return "down"
	case "flax":
		return "bast"
	case "":
	default:
		return g
	}
	switch k.Family {
	case "silk", "regenerated", "cotton", "bast", "down":
		return k.Family
	case "synthetic", "sparkle":
		return "synthetic"
	case "hair":
		return "alpaca"
	}
	if k.DiameterUM.Mid() < 22 && k.DiameterUM.Mid() > 0 {
		return "fine"
	}
	return "medium"
}

// body is the fibres of a yarn by their coats, the staple of the one that there is most of, and whether it is to have a halo.
func (y *Yarn) body() (parts []yarn.Fibre, stapleMM float64, halo bool, of yarn.Body) {
	var grams, densities []float64
	var crimps []string
	most := -1.0
	for _, c := range y.Foretold.Layup.Blend.Components {
		grams, densities, crimps = append(grams, c.Grams), append(densities, c.Fibre.Density), append(crimps, c.Fibre.Crimp)
		coat := coatOf(c.Fibre, c.Lot != nil && c.Lot.Superwash)
		parts = append(parts, yarn.Fibre{Coat: coat, Share: c.Share, DiameterU: c.Fibre.DiameterUM.Mid()})
		if halo = halo || c.Share >= haloFrom && (coat == "angora" || coat == "mohair"); c.Share > most && c.Fibre.Role != "texture" {
			most, stapleMM = c.Share, c.Fibre.StapleMM.Mid()
		}
	}
	return parts, max(stapleMM, 1), halo, yarn.BodyOf(grams, densities, crimps)
}

// haloFrom is from which share on a haloed fibre decides the twist (judgement).
const haloFrom = 0.3

// use works out how it is twisted, what it is like, and what a piece takes.
func (y *Yarn) use() {
	parts, staple, halo, of := y.body()
	sp, plies := y.Spun.Spinning, yarn.PliesOf(y.Spun.Spinning.Ply)
	prepared := preparedAs(y.Foretold.Layup, sp.Way)
	one, err := yarn.SizeOf(sp.Tex, 0, 1, sp.Draw, prepared, of.Density, of.Crimp)
	if err != nil {
		return
	}
	t := yarn.TurnsOf(sp.Tex, staple, sp.Draw, plies, halo, of.Density, one.Packing)
	firm := 1.0
	if y.Tried.TurnsPerM > 0 {
		firm = y.Tried.TurnsPerM / t.SinglesPerM
		t = t.At(y.Tried.TurnsPerM, plies, of.Density, one.Packing)
	}
	c := yarn.CharacterOf(parts, sp.Draw, prepared, one.Packing, plies, staple, firm)
	w := yarn.WashedOf(parts, sp.Draw)
	st := yarn.SteamedOf(parts, sp.Draw)
	y.YarnUse = YarnUse{SteamedPct: 100 * st.Shorter, SteamedThicker: st.Thicker,
		TurnsPerM: t.SinglesPerM, LowTurns: t.Low, HighTurns: t.High, PlyTurns: t.PlyPerM, AngleDeg: t.AngleDeg,
		Loft: c.Loft, Hairs: c.Hairs, Strength: c.Strength, ShorterPct: 100 * w.Shorter, Thicker: w.Thicker,
	}
	textured := 0.0
	for _, c := range y.Foretold.Layup.Blend.Components {
		if c.Fibre.Role == "texture" {
			textured += c.Share
		}
	}
	y.DrawAgainst = yarn.Against(parts, textured, staple, sp.Draw)
	y.piece(parts)
}

// feltShrinks is by how much felt shrinks in length, by the coat (yarn.md, section 7).
func feltShrinks(parts []yarn.Fibre) (by float64) {
	of := map[string]float64{
		"fine": 0.30, "medium": 0.25, "down-type": 0.15, "longwool": 0.15, "double": 0.25, "alpaca": 0.25, "mohair": 0.15, "angora": 0.25, "down": 0.25,
	}
	all := 0.0
	for _, p := range parts {
		by, all = by+p.Share*of[p.Coat], all+p.Share
	}
	if all > 0 {
		by /= all
	}
	return by
}

// piece is what a piece takes, once its size is told.
func (y *Yarn) piece(parts []yarn.Fibre) {
	p := y.YarnPlan
	if p.WideMM <= 0 || p.LongMM <= 0 || y.GristM <= 0 && y.Spun.GristM <= 0 {
		return
	}
	out := Piece{}
	switch {
	case p.Cloth == "weave":
		w := yarn.WovenM(p.WideMM, p.LongMM, y.WrapsPerInch)
		out.Across, out.Rows, out.WarpM, out.Metres = w.Ends, int(w.SettPerCM*w.LengthM*100), w.WarpM, w.WarpM+w.WeftM
	case p.Cloth == "felt":
		out.Shrinks = feltShrinks(parts)
		out.LaidMM2 = yarn.FeltedMM2(p.WideMM*p.LongMM, out.Shrinks)
		y.Piece = &out
		return
	default:
		g := yarn.Gauge{Stitches: or(p.GaugeStitches, y.Tried.Gauge.Stitches), Rows: or(p.GaugeRows, y.Tried.Gauge.Rows)}
		if g.Stitches <= 0 || g.Rows <= 0 {
			return
		}
		out.StitchMM = y.LoopMM()
		if p.Cloth == "knit" {
			out.StitchMM, out.Guessed = yarn.KnitMM(g.Stitches, g.Rows), !g.Balanced()
		}
		out.Across, out.Rows, out.Metres = yarn.WorkedM(p.WideMM, p.LongMM, g, out.StitchMM)
	}
	out.Grams = 100 * out.Metres / y.Spun.GristM
	y.Piece = &out
}

// Crocheted reports whether a cloth is crochet.
func Crocheted(cloth string) bool { return slices.Contains(yarn.Crochets, cloth) }

// LoopMM is the yarn in a stitch, mm: as it was told, or what the hook makes of it.
func (y Yarn) LoopMM() float64 {
	if !Crocheted(y.Cloth) {
		return y.StitchMM
	}
	return yarn.CrochetMM(y.Cloth, or(y.HookMM, usualHookMM), y.DiameterMM)
}

// usualHookMM is a hook for a middle yarn.
const usualHookMM = 4.0

// checkUse finds what is wrong with hook, wheel and piece.
func checkUse(in *YarnPlan, l *fault.List) {
	within := func(field string, v, least, most float64, what string) {
		if v != 0 && !(v >= least && v <= most) {
			l.Add(field, "%s", what)
		}
	}
	within("again_m", in.AgainM, 0.05, 100_000, "Colours come again after 5 cm to 100 km.")
	within("hook_mm", in.HookMM, 1, 40, "A hook is from 1 to 40 mm.")
	within("ratio", in.Ratio, 0.5, 60, "A wheel's ratio is from 0.5 to 60.")
	within("draw_m", in.DrawM, 0.05, 5, "An arm draws out from 5 cm to 5 m at a time.")
	within("gauge_stitches", in.GaugeStitches, 1, 200, "There are from 1 to 200 of them.")
	within("gauge_rows", in.GaugeRows, 1, 200, "There are from 1 to 200 of them.")
	for field, v := range map[string]float64{"wide_mm": in.WideMM, "long_mm": in.LongMM} {
		if v != 0 && !(v >= 5 && v <= 10_000) {
			l.Add(field, "A piece is from %s to %s.", unit.Millimetres(5), unit.Millimetres(10_000))
		}
	}
}

// or is a value, or where none was told the usual one.
func or(v, usual float64) float64 {
	if v == 0 {
		return usual
	}
	return v
}
