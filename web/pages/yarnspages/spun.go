package yarnspages

import (
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/show"
)

// makingYarnBody is what came of a making as yarn: its skeins against the need, and its samples.
type makingYarnBody struct {
	Making  recipe.Making
	Against yarns.Against
	Said    string
	Have    float64 // percent of what is needed, at most 100
	Skeins  []skeinLine
	Samples []sampleCard
	Layups  []frame.Option
}

type skeinLine struct {
	ID   int64
	Name string
	Sub  string
	Gone string
}

// sampleCard is a sample as it is shown beside others, and printed.
type sampleCard struct {
	ID     int64
	Name   string
	Liked  bool
	Facts  []layingpages.CardFact
	Pieces []workedPiece
	Over   string // what they are counted over
	Note   string
	When   string
}

// workedPiece is a piece that was worked of a sample.
type workedPiece struct {
	Tool, Stitches, Rows, Raw, Why string
	Liked                          bool
}

var goneWords = map[string]string{"used": "used", "given": "given away", "sold": "sold"}

func (s *Room) makingYarn(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	skeins, err := s.Studio.Yarns.SkeinsOf(ctx, m.ID)
	if err != nil {
		return err
	}
	samples, err := s.Studio.Yarns.YarnSamplesOf(ctx, m.ID)
	if err != nil {
		return err
	}
	b := makingYarnBody{Making: m}
	if b.Against, err = s.Studio.Yarns.SkeinsAgainst(ctx, m.ID); err != nil {
		return err
	}
	b.Said, b.Have = againstWords(b.Against, len(skeins), u)
	for _, k := range skeins {
		b.Skeins = append(b.Skeins, skeinLineOf(k, u))
	}
	for _, v := range samples {
		b.Samples = append(b.Samples, SampleCardOf(v, u))
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	for _, l := range st.Layups {
		b.Layups = append(b.Layups, frame.Option{Value: fmt.Sprintf("/layups/%d/yarn", l.ID), Label: l.Name})
	}
	s.Render(c, http.StatusOK, "makingyarn", frame.Page{
		Title: m.Name + ", samples and skeins", Here: "makings", Strand: frame.StrandFor(m, st, "Yarn", nil, set.Ground), Wide: true,
	}, b)
	return nil
}

// againstWords say whether the skeins are enough, and how much of the need they are in percent.
func againstWords(a yarns.Against, n int, u show.Units) (string, float64) {
	switch {
	case n == 0 && a.Told:
		return "Nothing is spun yet of " + needWords(a, u) + ".", 0
	case n == 0:
		return "Nothing is spun yet.", 0
	case !a.Told:
		return fmt.Sprintf("%s, %s in all.", u.Yarn(a.LengthM), u.Grams(a.WeightG)), 0
	}
	part, over := a.WeightG/a.NeedG, u.Grams(max(a.SpareG, -a.SpareG))
	have := u.Grams(a.WeightG)
	if a.NeedM > 0 {
		part, over, have = a.LengthM/a.NeedM, u.Yarn(max(a.SpareM, -a.SpareM)), u.Yarn(a.LengthM)
	}
	if a.Enough {
		return fmt.Sprintf("Enough: %s of %s, with %s to spare.", have, needWords(a, u), over), 100
	}
	return fmt.Sprintf("Not enough: %s of %s, %s are missing.", have, needWords(a, u), over), 100 * part
}

func needWords(a yarns.Against, u show.Units) string {
	if a.NeedM > 0 {
		return u.Yarn(a.NeedM) + " needed"
	}
	return u.Grams(a.NeedG) + " needed"
}

func skeinLineOf(k yarns.Skein, u show.Units) skeinLine {
	var parts []string
	for _, f := range SkeinFacts(k, u) {
		text := f.Value
		if f.Name != "Length" && f.Name != "Weight" && f.Name != "Grist" && f.Name != "Plied" && f.Name != "Note" && f.Name != "In use" {
			text = strings.ToLower(f.Name) + " " + text
		}
		parts = append(parts, text)
	}
	return skeinLine{k.ID, k.Name, strings.Join(parts, " · "), goneWords[k.Gone]}
}

// SkeinFacts are what is known of a skein.
func SkeinFacts(k yarns.Skein, u show.Units) (out []layingpages.CardFact) {
	add := func(known bool, name, value string) {
		if known {
			out = append(out, layingpages.CardFact{Name: name, Value: value})
		}
	}
	add(k.LengthM > 0, "Length", u.Yarn(k.LengthM))
	add(k.WeightG > 0, "Weight", u.Grams(k.WeightG))
	add(k.GristM > 0, "Grist", u.Grist(k.GristM))
	add(k.Ply != "", "Plied", plyWords[k.Ply])
	for _, v := range showedWords(k.Showed) {
		add(true, v.Name, v.Value)
	}
	add(k.Note != "", "Note", k.Note)
	if k.Later != nil {
		add(true, "In use", wornSaid(*k.Later))
	}
	return out
}

// wornSaid says how a yarn has worn, and when that was seen.
func wornSaid(w yarns.Worn) string {
	var said []string
	for _, v := range []struct{ what, much string }{{"sheds", w.Sheds}, {"pills", w.Pills}, {"hairs stand off", w.Halo}} {
		switch v.much {
		case "":
		case "no":
			said = append(said, map[string]string{"sheds": "does not shed", "pills": "does not pill", "hairs stand off": "its hairs lie"}[v.what])
		default:
			said = append(said, map[string]string{"some": "a little", "much": "much"}[v.much]+": "+v.what)
		}
	}
	if w.Note != "" {
		said = append(said, w.Note)
	}
	if t, err := time.Parse(time.DateOnly, w.On); err == nil {
		said = append(said, "seen on "+show.Date(t))
	}
	return strings.Join(said, "; ")
}

// showedWords is what was shown of losses.
func showedWords(v yarns.Showed) (out []layingpages.CardFact) {
	for _, f := range []struct {
		name string
		pct  *float64
	}{{"Lost in spinning", v.WastePct}, {"Lost in washing", v.FinishingPct}, {"Taken up", v.TakeUpPct}, {"Shorter by", v.ShrinkagePct}} {
		if f.pct != nil {
			out = append(out, layingpages.CardFact{Name: f.name, Value: show.Fixed(*f.pct, 1) + "\u00a0%"})
		}
	}
	return out
}

// SampleCardOf is the card of a yarn sample.
func SampleCardOf(v yarns.YarnSample, u show.Units) sampleCard {
	out := sampleCard{ID: v.ID, Name: v.Name, Liked: v.Liked, Note: v.Note, When: dayOf(v.At), Over: u.GaugeOver()}
	fact := func(known bool, name, value string) {
		if known {
			out.Facts = append(out.Facts, layingpages.CardFact{Name: name, Value: value})
		}
	}
	fact(v.Ply != "", "Plied", plyWords[v.Ply])
	fact(v.Twist != "", "Spun at", v.Twist)
	fact(v.Checked != "", "Twist checked", v.Checked)
	fact(v.TurnsPerM > 0, "Twist of the singles", u.Turns(v.TurnsPerM))
	fact(v.WPI > 0, "Wraps per inch", show.Number(v.WPI))
	fact(v.RawGristM > 0, "Before washing", u.Grist(v.RawGristM))
	fact(v.GristM > 0, "Washed", u.Grist(v.GristM))
	out.Facts = append(out.Facts, showedWords(v.Showed)...)
	fact(v.Sheds != "", "Sheds", v.Sheds)
	fact(v.Hand != "", "Feels", v.Hand)
	for _, w := range v.Swatches {
		if w.Tool != "" || w.Stitches > 0 || w.Rows > 0 {
			piece := workedPiece{Tool: w.Tool, Why: w.Why, Liked: w.Liked}
			if w.RawStitches > 0 && w.RawRows > 0 {
				piece.Raw = fmt.Sprintf("%s × %s before washing", u.Gauge(w.RawStitches), u.Gauge(w.RawRows))
			}
			if w.Stitches > 0 {
				piece.Stitches = u.Gauge(w.Stitches)
			}
			if w.Rows > 0 {
				piece.Rows = u.Gauge(w.Rows)
			}
			out.Pieces = append(out.Pieces, piece)
		}
	}
	return out
}
