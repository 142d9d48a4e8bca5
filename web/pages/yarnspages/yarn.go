package yarnspages

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/appearance"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/show"
)

// yarnView is a yarn as its page shows it; all texts are ready.
type yarnView struct {
	ID      int64                  `json:"id"`
	Version int64                  `json:"version"`
	Input   yarns.YarnPlan         `json:"input"`
	Why     string                 `json:"why"` // nothing can be foretold
	Pattern string                 `json:"pattern"`
	Said    string                 `json:"said"`
	Thick   string                 `json:"thick"` // how thick it is
	Need    string                 `json:"need"`
	Code    string                 `json:"code"`    // the plan, for addresses
	Picture string                 `json:"picture"` // address, to which what is drawn is added
	Felt    string                 `json:"felt"`    // the batt as a sheet
	Runs    []yarnRun              `json:"runs"`
	Parts   []layingpages.HeldView `json:"parts"`
	Off     []string               `json:"off"` // how it comes off, in sentences
	Fields  []frame.NeedField      `json:"fields"`
	Cloth   []frame.NeedField      `json:"clothfields"`
	Use     []layingpages.CardFact `json:"use"` // how it is twisted and what it is like
	Wheel   []frame.NeedField      `json:"wheelfields"`
	Piece   []frame.NeedField      `json:"piecefields"`
	Takes   string                 `json:"takes"` // what the piece takes
	Pools   string                 `json:"pools"` // how its colours fall in rows
	Marks   []yarnMark             `json:"marks"` // places to look at, from end to end
	Bar     yarnScale              `json:"scale"`
	frame.StepsView
}

// yarnRun is a stretch of one colour; Left and Width are percent of the bar.
type yarnRun struct {
	Left  float64 `json:"left"`
	Width float64 `json:"width"`
	Mark  int     `json:"mark"` // the place to look at
	Name  string  `json:"name"`
	Hex   string  `json:"hex"`
	Long  string  `json:"long"`
	From  string  `json:"from"`
	Rows  string  `json:"rows"`
	Holds string  `json:"holds"`
}

// yarnMark is a place on the yarn.
type yarnMark struct {
	M       string `json:"m"`     // for addresses
	Text    string `json:"text"`  // in the maker's units
	Strand  string `json:"from"`  // where the strand begins, m
	Cloth   string `json:"cloth"` // where the piece begins, m
	Piece   string `json:"piece"` // what the piece takes and from where
	AltText string `json:"alt"`
}

// yarnScale is the bar under the strand: so many percent of its width are a unit.
type yarnScale struct {
	Pct  float64 `json:"pct"`
	Text string  `json:"text"`
}

// marks is how many places are looked at between the ends of a yarn.
const marks = 60

// strandCM is how much of the yarn is shown as a strand.
const strandCM = 6.0

var patternWords = map[string]string{
	"long gradient": "One long gradient", "stripes": "Stripes", "barber pole": "A barber's pole: colours turn round each other", "marl": "A marl",
	"flecks": "One colour, with flecks", "even": "One colour throughout",
}

var plyWords = map[string]string{"single": "a single", "two": "two-ply", "three": "three-ply", "chain": "chain-ply"}

var wayWords = map[string]string{"strips": "strips", "halves": "halves", "whole": "the whole", "rolags": "rolags"}

func yarnViewOf(y yarns.Yarn, u show.Units, at frame.StepsView) yarnView {
	v := yarnView{
		ID: y.ID, Version: y.Version, Input: y.YarnPlan, Runs: []yarnRun{}, Parts: []layingpages.HeldView{}, Off: []string{},
		Fields: yarnFields(y, u), Cloth: clothFields(y, u),
		Marks: []yarnMark{}, StepsView: at, Use: []layingpages.CardFact{}, Wheel: wheelFields(y, u), Piece: pieceFields(y, u),
	}
	if y.Spun == nil {
		return v
	}
	l := y.Foretold.Layup
	v.Pattern, v.Said, v.Need = patternWords[y.Pattern], yarnSaid(y, u), yarnNeed(y, u)
	v.Thick, v.Use, v.Takes = thickSaid(y, u), useFacts(y, u), pieceSaid(y, u)
	v.Pools = poolsSaid(y)
	v.Picture, v.Code = yarnAddress(y), planCode(y.YarnPlan)
	d := y.Foretold.Division
	v.Felt = fmt.Sprintf("/layups/%d/card.png?of=%s&stage=%d&strips=%d&refeed=%s&side=face&w=720&h=330",
		l.ID, y.Foretold.Digest, y.Stage0(), d.Strips, d.Refeed)
	v.Marks = yarnMarks(y, u)
	for _, r := range y.Runs {
		long := r.ToM - r.FromM
		v.Runs = append(v.Runs, yarnRun{
			Left: 100 * r.FromM / y.PliedM, Width: 100 * long / y.PliedM, Mark: int((r.FromM + r.ToM) / 2 / y.PliedM * marks), Name: r.Leads, Hex: r.Hex,
			Long: u.Yarn(long), From: u.Yarn(r.FromM), Rows: show.Fixed(y.RowsIn(long), 1), Holds: layingpages.Holds(r.Shares, l),
		})
	}
	fine := u.WithStep(l.StepG)
	for i, g := range y.PartsG() {
		p := y.Parts[i]
		noun := "strip"
		switch {
		case y.Way == "rolags":
			noun = "rolag"
		case len(y.Parts) == 1:
			noun = "the batt"
		case y.Way == "halves":
			noun = "half"
		}
		v.Parts = append(
			v.Parts,
			layingpages.HeldView{Name: fmt.Sprintf("%s %d", noun, i+1), Grams: "~" + fine.Grams(g), Hex: y.PartHex(i), Holds: layingpages.Holds(p.Shares, l)},
		)
	}
	v.Off = offTheDrum(y)
	v.Bar = yarnScale{100 / strandCM, "1 cm"}
	if u.Inches {
		v.Bar = yarnScale{100 * 2.54 / strandCM, "1 in"}
	}
	return v
}

func yarnSaid(y yarns.Yarn, u show.Units) string {
	said := fmt.Sprintf("%s of %s at %s, from %s of singles", u.Yarn(y.PliedM), plyWords[y.Ply], u.Grist(y.GristM), u.Yarn(y.Singles))
	if y.Ply == "single" {
		said = fmt.Sprintf("%s of single at %s", u.Yarn(y.PliedM), u.Grist(y.GristM))
	}
	if y.LeftM > 0.5 {
		said += fmt.Sprintf("; of one %s are left", u.Yarn(y.LeftM))
	}
	return said
}

func yarnNeed(y yarns.Yarn, u show.Units) string {
	if y.NeedM <= 0 {
		return ""
	}
	of := "batt"
	if y.Foretold.Layup.Equipment.Type == string(layup.Board) {
		of = "board"
	}
	return fmt.Sprintf("%s are needed: %s like this.", u.Yarn(y.NeedM), show.Plural(y.Batts(), of))
}

// yarnAddress is where pictures of a yarn are found.
func yarnAddress(y yarns.Yarn) string {
	return fmt.Sprintf("/layups/%d/yarn.png?of=%s&plan=%s", y.LayupID, y.Digest, planCode(y.YarnPlan))
}

// planCode is a plan as it stands in an address.
func planCode(p yarns.YarnPlan) string {
	text, _ := json.Marshal(p)
	return base64.RawURLEncoding.EncodeToString(text)
}

// thickSaid says how thick a yarn will be, and what that rests on.
func thickSaid(y yarns.Yarn, u show.Units) string {
	if y.DiameterMM <= 0 {
		return ""
	}
	airy := "fairly dense"
	switch {
	case y.Packing < 0.2:
		airy = "airy"
	case y.Packing < 0.3:
		airy = "springy"
	}
	of := "A sample of your own says more."
	if y.Tried.WrapsOf != "" {
		of = "As " + y.Tried.WrapsOf + " showed."
	}
	return fmt.Sprintf("About %s thick, %s wraps to the inch; %s. %s", u.Millimetres(math.Round(y.DiameterMM*20)/20),
		show.Fixed(y.WrapsPerInch, 0), airy, of)
}

// yarnOptions are what the page offers to choose from.
type yarnOptions struct{ Ways, Orders, Froms, Draws, Plies, Pairs, Cloths []frame.Option }

var yarnChoices = yarnOptions{
	Ways: []frame.Option{
		{Value: "strips", Label: "strips"},
		{Value: "halves", Label: "halves"},
		{Value: "whole", Label: "whole"},
		{Value: "rolags", Label: "rolags"},
	},
	Orders: []frame.Option{
		{Value: "left-to-right", Label: "left to right"}, {Value: "right-to-left", Label: "right to left"}, {Value: "back-and-forth", Label: "back and forth"},
	},
	Froms: []frame.Option{{Value: "end", Label: "the end"}, {Value: "fold", Label: "the fold"}, {Value: "across", Label: "the side"}},
	Draws: []frame.Option{{Value: "long", Label: "long"}, {Value: "from-fold", Label: "from the fold"}, {Value: "short-backward", Label: "short, backward"},
		{Value: "short-forward", Label: "short, forward"}},
	Plies: []frame.Option{
		{Value: "single", Label: "single"},
		{Value: "two", Label: "two-ply"},
		{Value: "three", Label: "three-ply"},
		{Value: "chain", Label: "chain-ply"},
	},
	Pairs: []frame.Option{{Value: "", Label: "one batt"}, {Value: "second", Label: "two batts alike"}, {Value: "mirrored", Label: "two, one turned round"}},
	Cloths: []frame.Option{{Value: "knit", Label: "knitted"}, {Value: "weave", Label: "woven"}, {Value: "felt", Label: "as felt"},
		{Value: "crochet-single", Label: "single crochet"}, {Value: "crochet-half", Label: "half double"}, {Value: "crochet-double", Label: "double"}},
}

type yarnBody struct {
	View   yarnView
	Layup  laying.Layup
	Blend  recipe.Blend
	Making recipe.Making
	Offer  yarnOptions
	Stages []int
	Stage  int
	Beside []frame.Option
}

func (s *Room) yarnPage(c *gin.Context) error {
	l, b, m, u, p, err := s.laying.LayupAround(c)
	if err != nil {
		return err
	}
	for i := range p.Strand.Stops {
		p.Strand.Stops[i].Here = p.Strand.Stops[i].Name == "Yarn"
	}
	y, err := s.Studio.Yarns.YarnOf(c.Request.Context(), l.ID)
	body := yarnBody{Layup: l, Blend: b, Making: m, Offer: yarnChoices}
	if faults, ok := frame.FaultsByField(u, err); ok {
		for _, v := range faults {
			body.View.Why = v
		}
	} else if err != nil {
		return err
	} else {
		at, err := s.StepsView(c, "yarns", y.ID)
		if err != nil {
			return err
		}
		body.View, body.Stage = yarnViewOf(y, u, at), y.Stage0()
		for i := range y.Foretold.Shown {
			body.Stages = append(body.Stages, i+1)
		}
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	for _, r := range st.Layups {
		if r.ID != l.ID {
			body.Beside = append(body.Beside, frame.Option{Value: strconv.FormatInt(r.ID, 10), Label: r.Name})
		}
	}
	p.Title, p.Scripts = l.Name+", as yarn", []string{"js/yarn.js"}
	s.Render(c, http.StatusOK, "yarn", p, body)
	return nil
}

// yarnAsked is the yarn of the lay-up of the path, spun as the plan of the address says.
func (s *Room) yarnAsked(c *gin.Context) (y yarns.Yarn, u show.Units, err error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return y, u, err
	}
	if u, _, err = s.Units(c); err != nil {
		return y, u, err
	}
	var plan yarns.YarnPlan
	if text := c.Query("plan"); text != "" {
		plain, err := base64.RawURLEncoding.DecodeString(text)
		if err != nil || json.Unmarshal(plain, &plan) != nil {
			return y, u, fault.New("plan", "This is not how a yarn is spun.")
		}
	}
	y, err = s.Studio.Yarns.YarnAs(c.Request.Context(), n, plan, c.Query("of"))
	return y, u, err
}

// yarnPicture draws the whole yarn, a stretch of it, or a piece of it.
func (s *Room) yarnPicture(c *gin.Context) error {
	y, u, err := s.yarnAsked(c)
	if err != nil {
		return err
	}
	w, _ := strconv.Atoi(c.DefaultQuery("w", "960"))
	from, err := strconv.ParseFloat(c.DefaultQuery("from", "0"), 64)
	if err != nil || w < 16 || w > 2000 {
		return fault.New("w", "A picture is 16 to 2000 pixels wide.")
	}
	var pic *appearance.Picture
	switch c.Query("what") {
	case "bar":
		pic = y.Spun.Bar(w, 46)
	case "strand":
		long := min(strandCM, 100*y.PliedM)
		pic, err = y.Spun.Strand(yarns.StrandView{FromM: min(max(from, 0), y.PliedM-long/100), LengthCM: long, Width: w})
	case "cloth":
		p := pieceOf(y, u)
		from = min(max(from, 0), max(0, y.PliedM-p.uses))
		w0 := appearance.Swatch{Stitches: y.Stitches, Rows: p.rows, StitchMM: y.LoopMM(), FromM: from}
		switch {
		case yarns.Crocheted(y.YarnPlan.Cloth):
			pic, err = y.Spun.Crochet(c.Request.Context(), appearance.Crocheted{Swatch: w0, As: appearance.Crochet(y.YarnPlan.Cloth)}, w)
		case y.YarnPlan.Cloth == "weave":
			weft := weftOf(y, p.rows)
			weft.FromM = from
			pic = y.Spun.Woven(weft, w)
		default:
			pic, err = y.Spun.Swatch(c.Request.Context(), w0, w)
		}
	default:
		return floor.ErrNotFound
	}
	if err != nil {
		return err
	}
	return layingpages.SendPicture(c, pic, y.Digest)
}

// yarnPiece is how a yarn is changed on its page.
func (s *Room) yarnPiece() frame.Piece[yarns.YarnPlan, yarns.YarnChange, yarns.Yarn] {
	return frame.Piece[yarns.YarnPlan, yarns.YarnChange, yarns.Yarn]{
		Table: "yarns",
		Read:  readYarn,
		Apply: s.Studio.Yarns.ApplyYarn,
		Save: func(ctx context.Context, id, version int64, v yarns.Yarn, _ string) (yarns.Yarn, error) {
			return s.Studio.Yarns.SaveYarn(ctx, id, version, v.YarnPlan)
		},
		Step: s.Studio.Yarns.StepYarn,
		Mark: func(v *yarns.Yarn, id, version int64) { v.ID, v.Version = id, version },
		View: func(_ *gin.Context, v yarns.Yarn, u show.Units, at frame.StepsView) (any, error) {
			return yarnViewOf(v, u, at), nil
		},
		Sum: frame.SumOf(func(in yarns.YarnPlan, _ show.Units) string { return wayTitle(in) }),
	}
}

// readYarn turns typed fields into the change that they mean.
func readYarn(_ *gin.Context, q *frame.Edit[yarns.YarnPlan, yarns.YarnChange], u show.Units) (err error) {
	if q.Change == nil {
		return nil
	}
	for field, text := range q.Typed {
		switch field {
		case "singles":
			q.Change.Value, err = u.ReadGrist(field, text)
		case "stitch_mm", "hook_mm":
			q.Change.Value, err = u.ReadSmall(field, text)
		case "again_m", "wide_mm", "long_mm", "draw_m", "gauge_stitches", "gauge_rows", "ratio":
			q.Change.Value, err = readUse(u, field, text)
		case "parts", "stitches", "rows":
			q.Change.Value, err = show.Whole(field, text, "how many")
		default:
			q.Change.Value, err = show.ReadNumber(field, text, "a number, such as 5")
		}
		if err != nil {
			return err
		}
	}
	return nil
}
