package recipepages

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/studio/carder"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// blendView is a blend as its page shows it: every text is made here, the
// script only puts it in its place.
type blendView struct {
	ID      int64             `json:"id"`
	Version int64             `json:"version"`
	Input   recipe.BlendInput `json:"input"`
	Rows    []blendRow        `json:"rows"`
	Total   string            `json:"total"`
	Quarter string            `json:"total_quarter"`
	Unit    string            `json:"unit"`
	StepS   float64           `json:"step_share"` // one scale step as a share
	Hex     string            `json:"hex"`
	Colour  string            `json:"colour"` // in words and values
	Around  [4]string         `json:"around"`
	Sigma   string            `json:"sigma"`
	Why     string            `json:"why"`
	Target  *blendTarget      `json:"target"`
	Limit   *blendLimit       `json:"limit"`
	WeighIn string            `json:"weigh_in"`
	Cost    string            `json:"cost"`
	Sample  string            `json:"sample"`
	Short   string            `json:"short"`
	Strand  string            `json:"strand"`
	IsNew   bool              `json:"is_new"`  // nothing is in it yet
	Streaks bool              `json:"streaks"` // fibre of several colours keeps them
	Came    *blendCame        `json:"came"`
	// Weighed is what came off of what was weighed so far, empty where nothing was
	// or all is; AllOf says of how much.
	Weighed string `json:"weighed"`
	AllOf   string `json:"all_of"`
	Batts   string `json:"batts"`
	frame.StepsView
}

// blendCame is how a blend came out, and what is added since.
type blendCame struct {
	Hex   string `json:"hex"`
	Said  string `json:"said"`
	Holds bool   `json:"holds"`
	Add   string `json:"add"`
}

func cameOf(b recipe.Blend, u show.Units) *blendCame {
	if b.Carded == nil {
		return nil
	}
	v := &blendCame{Hex: b.Carded.Hex, Holds: b.Carded.Holds}
	v.Said = fmt.Sprintf("%s were carded and came out %s.", u.Grams(b.Carded.Grams), b.Carded.Hex)
	if !v.Holds {
		v.Said += " The recipe no longer contains all of that, so the colour is foretold from the fibres alone."
		return v
	}
	var parts []string
	for i, g := range b.Carded.Add {
		if g > 0 {
			parts = append(parts, u.Grams(g)+" of "+b.Components[i].Name)
		}
	}
	v.Add = strings.Join(parts, " and ")
	return v
}

type blendRow struct {
	Key     string   `json:"key"`
	Letter  string   `json:"letter"`
	Name    string   `json:"name"`
	Sub     string   `json:"sub"`
	Href    string   `json:"href"`
	Tuft    art.Link `json:"tuft"`
	Band    string   `json:"band"`
	Share   float64  `json:"share"`
	Percent string   `json:"percent"`
	Weight  string   `json:"weight"`
	Parts   string   `json:"parts"`
	Locked  bool     `json:"locked"`
	Have    string   `json:"have"`
	Short   bool     `json:"short"`
	Bought  bool     `json:"bought"` // still to buy
}

type blendTarget struct {
	Hex    string `json:"hex"`
	DeltaE string `json:"delta_e"`
	Words  string `json:"words"`
}

type blendLimit struct {
	Weight string `json:"weight"`
	By     string `json:"by"`
	Ten    string `json:"ten"`  // 10 g of that fibre
	More   string `json:"more"` // of the blend, that as much gives
	Enough bool   `json:"enough"`
}

// blendShown is the view with the number of units, which the workshop decides.
func (s *Room) blendShown(c *gin.Context, b recipe.Blend, u show.Units, set workshop.Settings, at frame.StepsView) (blendView, error) {
	v := s.blendView(b, u, set, at)
	n, e, err := s.Studio.Laying.UnitsFor(c.Request.Context(), b)
	if n > 0 {
		v.Batts = fmt.Sprintf("%s of %s on %s", frame.UnitWord(e.Type, n), u.Grams(b.TotalG/float64(n)), e.Name)
	}
	return v, err
}

// blendView makes the page's view of a blend. The strand's progress is the
// page's own; the script keeps it.
func (s *Room) blendView(b recipe.Blend, u show.Units, set workshop.Settings, at frame.StepsView) blendView {
	v := blendView{
		StepsView: at, ID: b.ID, Version: b.Version, Input: b.Input(), Total: u.Amount(b.TotalG), Quarter: u.Plain(b.TotalG / 4), Unit: u.Weight(),
		StepS: float64(set.StepMg.Grams()) / b.TotalG, Hex: b.Hex, Around: b.Around, Streaks: b.Streaks(),
		Strand: frame.StrandURL(b.Components, b.MakingID, 0.4, frame.StrandKnots, set.Ground), Rows: []blendRow{},
	}
	var short []string
	for i, c := range b.Components {
		v.Rows = append(v.Rows, rowOf(i, c, u))
		if u.Shows(c.ShortG) {
			short = append(short, fmt.Sprintf("%s by %s", c.Name, u.Grams(c.ShortG)))
		}
	}
	if len(short) > 0 {
		v.Short = "Short for this weight: " + strings.Join(short, ", ") + "."
	}
	if len(b.Components) == 0 {
		v.IsNew = true
		return v
	}
	v.Sigma = "±\u00a0" + show.Fixed(b.Sigma, 0)
	v.Colour = fmt.Sprintf("%s · L %s, a %s, b %s", b.Hex, show.Fixed(b.Lab[0], 0), show.Fixed(b.Lab[1], 0), show.Fixed(b.Lab[2], 0))
	v.Why = fmt.Sprintf("An estimate, not calibrated yet: ± %s from how the lots’ colours are known, ± %s from the mixing model.",
		show.Fixed(b.Sure.Lots, 1), show.Fixed(b.Sure.Model, 1))
	if b.Calibrated {
		v.Why = fmt.Sprintf("Calibrated by your own samples: ± %s from how the lots’ colours are known, ± %s that the samples left open.",
			show.Fixed(b.Sure.Lots, 1), show.Fixed(b.Sure.Model, 1))
	}
	if b.Fitting {
		v.Why += " Your samples have changed and are being fitted; this is still as it was before."
	}
	v.WeighIn = u.Grams(b.WeighInG)
	v.Came = cameOf(b, u)
	if off := b.WeighedOffG(); off > 0 && off < b.TotalG-0.5 {
		v.Weighed, v.AllOf = u.Plain(off), u.Grams(b.TotalG)
	}
	v.Sample = u.Grams(b.SampleG)
	if b.Cost != nil {
		v.Cost = u.Cost(*b.Cost)
		if b.CostKnown < len(b.Components) {
			v.Cost += fmt.Sprintf(" for %d of %d, the rest is not known", b.CostKnown, len(b.Components))
		}
	}
	if t := b.Target; t != nil {
		v.Target = &blendTarget{t.Hex, show.Fixed(t.DeltaE, 1), t.Words}
	}
	if b.LargestG != nil {
		v.Limit = &blendLimit{
			Weight: u.Grams(*b.LargestG),
			By:     b.Components[b.LimitedBy].Name,
			Ten:    u.WriteWeight(10),
			More:   u.Grams(b.TenMoreG),
			Enough: *b.LargestG >= b.TotalG-1e-9,
		}
	}
	return v
}

func rowOf(i int, c recipe.Component, u show.Units) blendRow {
	seed := int64(i + 1)
	r := blendRow{
		Key: c.Key, Letter: show.Letter(i), Name: c.Name, Share: c.Share, Percent: show.Number(c.Share * 100), Weight: u.Plain(c.Grams),
		Parts: show.Number(c.Parts), Locked: c.Locked, Bought: c.HaveG == nil,
		Band: art.BandLink(c.KindProperties(), c.Hexes(), i, art.WholeTile),
	}
	length := u.Length(c.StapleMM())
	if c.Lot != nil {
		seed = c.Lot.ID
		r.Sub = c.Lot.KindName + " · " + length
		r.Href = fmt.Sprintf("/lots/%d", c.Lot.ID)
		r.Have = "of " + u.Weighs(u.Amount(*c.HaveG))
		if c.InBin {
			r.Have, r.Href = "in the bin", "/bin"
		}
	} else {
		r.Sub = c.KindProperties().Name + " · " + length
		r.Have = "still to buy"
		if c.OwnG > 0 {
			r.Have = "of " + u.Weighs(u.Amount(c.OwnG)) + ", no lot"
		}
	}
	r.Short = u.Shows(c.ShortG)
	r.Tuft = art.TuftLink(c.KindProperties(), c.Preparation, c.Hexes(), nil, c.StapleMM(), art.RowScale, seed)
	return r
}

type blendBody struct {
	View         blendView
	Making       recipe.Making
	Siblings     []recipe.Blend
	Families     []string
	Kinds        map[string][]fibre.Kind
	Preparations []fibre.Preparation
	Tools        toolsBody
	Again        *carder.Changed
	Wants        *wantsOfBlend // what the need of its making wants of it
}

// Blend is the blend of the path.
func (s *Room) Blend(c *gin.Context) (recipe.Blend, error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return recipe.Blend{}, err
	}
	return s.Studio.Recipe.Blend(c.Request.Context(), n)
}

func (s *Room) blendPage(c *gin.Context) error {
	b, err := s.Blend(c)
	if err != nil {
		return err
	}
	m, err := s.Studio.Recipe.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return err
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	kinds, err := s.Studio.Workshop.AllKinds(c.Request.Context(), false)
	if err != nil {
		return err
	}
	at, err := s.StepsView(c, "blends", b.ID)
	if err != nil {
		return err
	}
	view, err := s.blendShown(c, b, u, set, at)
	if err != nil {
		return err
	}
	body := blendBody{View: view, Making: m, Siblings: st.Blends, Preparations: fibre.Preparations()}
	body.Families, body.Kinds = workshop.KindOptions(kinds.List)
	if body.Again, err = s.Studio.Carder.ChangedSince(c.Request.Context(), b); err != nil {
		return err
	}
	if body.Wants, err = s.wantsOf(c, b, u); err != nil {
		return err
	}
	if body.Tools, err = s.tools(c, b, st.Blends, set); err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "blend", frame.Page{
		Title: b.Name + ", " + m.Name, Here: "makings", Strand: frame.StrandFor(m, st, "Blend", &b, set.Ground),
		Scripts: []string{"js/blend.js"}, Wide: true,
	}, body)
	return nil
}

// recipe is how a blend is changed on its page.
func (s *Room) recipe() frame.Piece[recipe.BlendInput, recipe.Change, recipe.Blend] {
	return frame.Piece[recipe.BlendInput, recipe.Change, recipe.Blend]{
		Table: "blends",
		Read:  readRecipe,
		Apply: func(ctx context.Context, id int64, in recipe.BlendInput, c *recipe.Change) (recipe.Blend, error) {
			return s.Studio.Recipe.ApplyAt(ctx, id, in, c)
		},
		Save: func(ctx context.Context, id, version int64, v recipe.Blend, said string) (recipe.Blend, error) {
			return s.Studio.Recipe.SaveBlend(ctx, id, version, v.Input(), said)
		},
		Step: s.Studio.Recipe.StepBlend,
		Mark: func(v *recipe.Blend, id, version int64) { v.ID, v.Version = id, version },
		View: func(c *gin.Context, v recipe.Blend, u show.Units, at frame.StepsView) (any, error) {
			_, set, err := s.Units(c)
			if err != nil {
				return nil, err
			}
			return s.blendShown(c, v, u, set, at)
		},
		Sum: frame.SumOf(func(in recipe.BlendInput, u show.Units) string {
			return show.Plural(len(in.Components), "fibre") + ", " + u.Grams(in.TotalG)
		}),
	}
}

// readRecipe turns typed fields into the change or the input that they mean.
func readRecipe(_ *gin.Context, q *frame.Edit[recipe.BlendInput, recipe.Change], u show.Units) error {
	for field, text := range q.Typed {
		if err := readOne(q, field, strings.TrimSpace(text), u); err != nil {
			return err
		}
	}
	return nil
}

func readOne(q *frame.Edit[recipe.BlendInput, recipe.Change], field, text string, u show.Units) error {
	switch field {
	case "name":
		q.Input.Name = text
		return nil
	case "target":
		if text = frame.HexOf(text); text != "" && !strings.HasPrefix(text, "#") {
			text = "#" + text
		}
		q.Input.Target = text
		return nil
	}
	var v float64
	var err error
	what := map[string]string{"percent": "a share in percent, such as 15", "parts": "a number of parts, such as 3", "passes": "the number of passes"}[field]
	if field == "weight" || field == "total" {
		v, err = u.ReadGrams(field, text)
	} else {
		v, err = show.ReadNumber(field, text, what)
	}
	if err != nil {
		return err
	}
	switch {
	case field == "total":
		q.Input.TotalG = v
	case field == "passes":
		if v != float64(int(v)) {
			return fault.New("passes", "Passes are counted in whole numbers.")
		}
		q.Input.Passes = int(v)
	case q.Change == nil:
		return fault.New(field, "Nothing here takes this value.")
	case field == "percent":
		q.Change.Value = v / 100
	default:
		q.Change.Value = v
	}
	return nil
}

// copyBlend copies a blend into its making and opens the copy.
func (s *Room) copyBlend(c *gin.Context) error {
	b, err := s.Blend(c)
	if err != nil {
		return err
	}
	if b, err = s.Studio.Recipe.CopyBlend(c.Request.Context(), b.ID); err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/blends/%d", b.ID), "copied")
	return nil
}

// setTarget makes a colour the one wanted of a blend, from a photo's page.
func (s *Room) setTarget(c *gin.Context) error {
	b, err := s.Blend(c)
	if err != nil {
		return err
	}
	in := b.Input()
	in.Target = c.PostForm("target")
	if _, err := s.Studio.Recipe.SaveBlend(c.Request.Context(), b.ID, b.Version, in, ""); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/blends/%d", b.ID))
	return nil
}
