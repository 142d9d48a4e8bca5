package yarnspages

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/shelfpages"
	"fairtangle/web/show"
)

// needView is a need as its page shows it; all texts are ready.
type needView struct {
	ID      int64                  `json:"id"`
	Version int64                  `json:"version"`
	Input   yarns.NeedPlan         `json:"input"`
	Amiss   string                 `json:"amiss"`
	What    string                 `json:"what"`
	Way     string                 `json:"way"`
	Look    string                 `json:"look"`
	Lot     string                 `json:"lot"`
	Fields  []frame.NeedField      `json:"fields"`
	Allow   []frame.NeedField      `json:"allow"`
	Uses    []needUse              `json:"uses"`
	Big     string                 `json:"big"`
	Said    string                 `json:"said"`
	Lines   []layingpages.CardFact `json:"lines"`
	Flow    []needFlow             `json:"flow"`
	Blends  []needBlend            `json:"blends"`
	Apart   bool                   `json:"apart"`
	Units   []layingpages.CardFact `json:"units"`
	Lacks   []string               `json:"lacks"`
	frame.StepsView
}

type needUse struct {
	Name string `json:"name"`
	Text string `json:"text"`
	On   bool   `json:"on"`
}

type needFlow struct {
	Key   string  `json:"key"`
	Name  string  `json:"name"`
	Text  string  `json:"text"`
	Share float64 `json:"share"`
}

type needBlend struct {
	Key   int64  `json:"key"`
	Name  string `json:"name"`
	Href  string `json:"href"`
	Hex   string `json:"hex"`
	Part  string `json:"part"`
	Share string `json:"share"`
	Want  string `json:"want"`
	Now   string `json:"now"`
	Look  string `json:"look"`
	Apart bool   `json:"apart"`
}

var flowNames = map[string]string{
	"yarn": "yarn", "margin": "margin", "finishing": "lost in washing", "spinning": "lost in spinning", "felt": "felt", "batts": "batts", "fibre": "carded fibre",
	"carding": "lost in carding", "cloth": "kept by the cloth", "sample": "sample",
}

var useNames = map[string]string{"next-to-skin": "next to the skin", "hard-wearing": "hard wearing", "socks": "socks", "felting": "to be felted",
	"machine-wash": "machine washed"}

func (s *Room) needView(n yarns.Need, u show.Units, at frame.StepsView) needView {
	v := needView{
		ID: n.ID, Version: n.Version, Amiss: n.Amiss, Input: n.NeedPlan,
		What: n.What, Way: n.Way, Look: n.Look, Fields: needFields(n, u), Allow: needAllowances(n, u),
		Uses: []needUse{}, Lines: []layingpages.CardFact{}, Flow: []needFlow{}, Blends: []needBlend{}, Units: []layingpages.CardFact{},
		Lacks: []string{}, StepsView: at,
	}
	if n.LotID != nil {
		v.Lot = strconv.FormatInt(*n.LotID, 10)
	}
	for _, use := range yarns.NeedUses {
		v.Uses = append(v.Uses, needUse{use, useNames[use], slices.Contains(n.Uses, use)})
	}
	if n.Enough {
		v.answer(n, u)
	}
	for _, b := range n.Blends {
		row := needBlend{
			Key: b.ID, Look: b.Look, Name: b.Name, Href: fmt.Sprintf("/blends/%d", b.ID), Hex: b.Hex, Part: show.Number(round2(b.Parts)), Share: show.Percent(b.Share),
			Now: u.Grams(b.NowG), Apart: b.Apart,
		}
		if n.Way == "figure" {
			row.Part = u.Amount(b.Parts)
		}
		switch {
		case b.Eye:
			row.Part, row.Share, row.Want = "", "", "by eye"
		case b.Empty:
			row.Share, row.Want = "", "no fibre yet"
		case n.Enough:
			row.Want = u.Grams(b.WantG)
		}
		v.Apart = v.Apart || b.Apart
		v.Blends = append(v.Blends, row)
		for _, l := range b.Lacks {
			v.Lacks = append(v.Lacks, fmt.Sprintf("%s of %s for %s", u.Grams(l.Grams), l.Name, b.Name))
		}
	}
	return v
}

func round2(v float64) float64 { f, _ := strconv.ParseFloat(show.Fixed(v, 2), 64); return f }

// answer puts into words what was worked out.
func (v *needView) answer(n yarns.Need, u show.Units) {
	v.Big = u.Grams(n.FibreG)
	v.Said = "of carded fibre"
	if n.HighG-n.LowG > 0.5 {
		v.Said += fmt.Sprintf(", between %s and %s: the grist is estimated from wraps", u.Plain(n.LowG), u.Grams(n.HighG))
	}
	fact := func(name, value string) { v.Lines = append(v.Lines, layingpages.CardFact{Name: name, Value: value}) }
	if n.Way == "yarn" {
		fact("Yarn", u.Grams(n.YarnG))
		if n.SinglesM > 0 {
			fact("Singles to spin", fmt.Sprintf("%s, at %s", u.Yarn(n.SinglesM), u.Grist(n.SinglesGM)))
		}
		if len(n.PerPlyG) > 1 {
			text := ""
			for i, g := range n.PerPlyG {
				if text += u.Plain(g); i < len(n.PerPlyG)-1 {
					text += " + "
				}
			}
			fact(fmt.Sprintf("For each of %d plies", len(n.PerPlyG)), u.Weighs(text))
		}
	}
	fact("To weigh in", "~"+u.Grams(n.WeighInG))
	if u.Shows(n.ClothG) {
		fact("Stays in the cloth of "+n.MadeOn, "~"+u.Grams(n.ClothG))
	}
	fact("To set aside, with the sample", "~"+u.Grams(n.SetAsideG))
	for _, f := range n.Flow {
		if f.Grams > 1e-6 {
			v.Flow = append(v.Flow, needFlow{f.Key, flowNames[f.Key], u.Grams(f.Grams), 100 * f.Grams / n.SetAsideG})
		}
	}
	for _, e := range n.Units {
		v.Units = append(v.Units, layingpages.CardFact{Name: e.Name, Value: strconv.Itoa(e.Units)})
	}
}

// needFields are the numbers of the way in which the need is told.
func needFields(n yarns.Need, u show.Units) []frame.NeedField {
	field := func(name, label, text string, known bool) frame.NeedField {
		f := frame.NeedField{Name: name, Label: label, Locked: slices.Contains(n.Locked, name)}
		if known {
			f.Text = text
		}
		return f
	}
	locks := func(list ...frame.NeedField) []frame.NeedField {
		for i := range list {
			list[i].Lock = "Lock"
			if list[i].Locked {
				list[i].Lock = "Unlock"
			}
		}
		return list
	}
	switch n.Way {
	case "yarn":
		list := locks(
			field("length", "Length, "+u.YarnUnit(), u.PlainYarn(n.Length), n.Length > 0),
			field("grist", "Grist, "+u.GristUnit(), u.PlainGrist(n.Grist), n.Grist > 0),
			field("weight", "Weight of yarn, "+u.Weight(), u.Plain(n.Weight), n.Weight > 0),
		)
		if n.Measured != "" {
			list[1].Hint = "measured on " + n.Measured
		} else if n.WPI > 0 {
			list[1].Hint = "estimated; measure a skein, and put it here"
		}
		wpi := field("wpi", "or wraps per inch", show.Number(n.WPI), n.WPI > 0)
		return append(list[:2:2], wpi, list[2], field("plies", "Plies", strconv.Itoa(n.Plies), true))
	case "batts":
		return []frame.NeedField{
			field("count", "How many", strconv.Itoa(n.Count), n.Count > 0), field("each", "Each, "+u.Weight(), u.Amount(n.Each), n.Each > 0),
		}
	case "felt":
		return locks(
			field("area", "Area, "+u.AreaUnit(), u.PlainArea(n.Area), n.Area > 0),
			field("laid", "Laid, "+u.LaidUnit(), u.PlainLaid(n.Laid), n.Laid > 0),
			field("felt", "Felt, "+u.Weight(), u.Plain(n.NeedPlan.Felt), n.NeedPlan.Felt > 0),
		)
	}
	return []frame.NeedField{}
}

type needBody struct {
	View   needView
	Making recipe.Making
	Ways   []frame.Option
	Looks  []string
	Lots   shelfpages.LotChoices
	Wanted []string
}

var needWays = []frame.Option{
	{Value: "yarn", Label: "yarn"},
	{Value: "batts", Label: "batts or rolags"},
	{Value: "felt", Label: "felt"},
	{Value: "figure", Label: "a figure, part by part"},
	{Value: "lot", Label: "all of a lot"},
}

// needOfMaking goes to the need of a making, or asks what it is.
func (s *Room) needOfMaking(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	n, err := s.Studio.Yarns.NeedOf(c.Request.Context(), m.ID)
	if err == nil {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/needs/%d", n.ID))
		return nil
	}
	if !errors.Is(err, floor.ErrNotFound) {
		return err
	}
	return s.showNeed(c, m, needBody{Making: m, Ways: needWays})
}

// startNeed begins the need of a making.
func (s *Room) startNeed(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	n, err := s.Studio.Yarns.StartNeed(c.Request.Context(), m.ID, yarns.NeedPlan{Way: c.PostForm("way")})
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/needs/%d", n.ID), "")
	return nil
}

func (s *Room) needPage(c *gin.Context) error {
	id, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	n, err := s.Studio.Yarns.Need(ctx, id)
	if err != nil {
		return err
	}
	m, err := s.Studio.Recipe.Making(ctx, n.MakingID)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	at, err := s.StepsView(c, "needs", n.ID)
	if err != nil {
		return err
	}
	b := needBody{View: s.needView(n, u, at), Making: m, Ways: needWays, Looks: yarns.NeedLooks}
	if b.Lots, err = s.shelf.LotChoices(ctx, u, "some", n.LotID); err != nil {
		return err
	}
	if b.Wanted, err = s.recipe.WantedToo(c, m.ID, u); err != nil {
		return err
	}
	return s.showNeed(c, m, b)
}

func (s *Room) showNeed(c *gin.Context, m recipe.Making, b needBody) error {
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	_, set, err := s.Units(c)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "need", frame.Page{
		Title: "What " + m.Name + " needs", Here: "makings", Strand: frame.StrandFor(m, st, "Need", nil, set.Ground), Scripts: []string{"js/need.js"}, Wide: true,
	}, b)
	return nil
}

// need is how a need is changed on its page.
func (s *Room) need() frame.Piece[yarns.NeedPlan, yarns.NeedChange, yarns.Need] {
	return frame.Piece[yarns.NeedPlan, yarns.NeedChange, yarns.Need]{
		Table: "needs",
		Read:  readNeed,
		Apply: s.Studio.Yarns.ApplyNeed,
		Save: func(ctx context.Context, id, version int64, v yarns.Need, _ string) (yarns.Need, error) {
			return s.Studio.Yarns.SaveNeed(ctx, id, version, v.NeedPlan)
		},
		Step: s.Studio.Yarns.StepNeed,
		Mark: func(v *yarns.Need, id, version int64) { v.ID, v.Version = id, version },
		View: func(_ *gin.Context, v yarns.Need, u show.Units, at frame.StepsView) (any, error) {
			return s.needView(v, u, at), nil
		},
		Sum: frame.SumOf(func(in yarns.NeedPlan, u show.Units) string {
			switch {
			case in.Way == "yarn" && in.Length > 0:
				return in.What + ", " + u.Yarn(in.Length)
			case in.Way == "batts" && in.Count > 0:
				return fmt.Sprintf("%s, %d of %s", in.What, in.Count, u.Grams(in.Each))
			}
			return in.What
		}),
	}
}

// readNeed turns typed fields into the change that they mean.
func readNeed(_ *gin.Context, q *frame.Edit[yarns.NeedPlan, yarns.NeedChange], u show.Units) (err error) {
	if q.Change == nil {
		return nil
	}
	for field, text := range q.Typed {
		read := map[string]func(string, string) (float64, error){
			"length": u.ReadYarn, "grist": u.ReadGrist, "weight": u.ReadGrams, "each": u.ReadGrams, "felt": u.ReadGrams, "sample_g": u.ReadGrams, "area": u.ReadArea,
			"laid": u.ReadLaid,
		}[field]
		switch {
		case field == "part" && q.Input.Way == "figure":
			if q.Change.Value = 0; strings.Trim(text, " 0.,") != "" { // nothing: by eye
				q.Change.Value, err = u.ReadGrams(field, text)
			}
		case read != nil:
			q.Change.Value, err = read(field, text)
		case field == "plies" || field == "count":
			q.Change.Value, err = show.Whole(field, text, "how many")
		default:
			q.Change.Value, err = show.ReadNumber(field, text, "a number, such as 10")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// giveWeights gives the blends of a need their weights.
func (s *Room) giveWeights(c *gin.Context) error {
	id, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	var only []int64
	if n, err := strconv.ParseInt(c.PostForm("blend"), 10, 64); err == nil {
		only = []int64{n}
	}
	if _, err := s.Studio.Yarns.GiveWeights(c.Request.Context(), id, only...); err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/needs/%d", id), "saved")
	return nil
}
