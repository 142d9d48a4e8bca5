package web

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/web/show"
)

// blendView is a blend as its page shows it: every text is made here, the
// script only puts it in its place.
type blendView struct {
	ID      int64             `json:"id"`
	Version int64             `json:"version"`
	Input   studio.BlendInput `json:"input"`
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
}

type blendRow struct {
	Letter  string  `json:"letter"`
	Name    string  `json:"name"`
	Sub     string  `json:"sub"`
	Href    string  `json:"href"`
	Tuft    tuft    `json:"tuft"`
	Band    string  `json:"band"`
	Share   float64 `json:"share"`
	Percent string  `json:"percent"`
	Weight  string  `json:"weight"`
	Parts   string  `json:"parts"`
	Locked  bool    `json:"locked"`
	Have    string  `json:"have"`
	Short   bool    `json:"short"`
	Bought  bool    `json:"bought"` // still to buy
}

type blendTarget struct {
	Hex    string `json:"hex"`
	DeltaE string `json:"delta_e"`
	Words  string `json:"words"`
}

type blendLimit struct {
	Weight string `json:"weight"`
	By     string `json:"by"`
	More   string `json:"more"`
	Enough bool   `json:"enough"`
}

// blendView makes the page's view of a blend. The strand's progress is the
// page's own; the script keeps it.
func (s *server) blendView(b studio.Blend, u show.Units, set store.Settings) blendView {
	v := blendView{
		ID: b.ID, Version: b.Version, Input: b.Input(), Total: u.Exact(b.TotalG), Quarter: u.Plain(b.TotalG / 4), Unit: u.Weight(),
		StepS: float64(set.StepMg.Grams()) / b.TotalG, Hex: b.Hex, Around: b.Around,
		Strand: strandURL(b.Components, b.MakingID, 0.4, strandKnots, set.Ground), Rows: []blendRow{},
	}
	for i, c := range b.Components {
		v.Rows = append(v.Rows, rowOf(i, c, u))
		if c.HaveG != nil && c.WeighG > *c.HaveG+1e-9 && v.Short == "" {
			v.Short = fmt.Sprintf("%s is short by %s for this weight.", c.Name, u.Grams(c.WeighG-*c.HaveG))
		}
	}
	if len(b.Components) == 0 {
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
	v.WeighIn = u.Grams(b.WeighInG)
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
		v.Limit = &blendLimit{Weight: u.Grams(*b.LargestG), By: b.Components[b.LimitedBy].Name, More: u.Grams(b.TenMoreG), Enough: *b.LargestG >= b.TotalG-1e-9}
	}
	return v
}

func rowOf(i int, c studio.Component, u show.Units) blendRow {
	seed := int64(i + 1)
	r := blendRow{
		Letter: letter(i), Name: c.Name, Share: c.Share, Percent: show.Number(c.Share * 100), Weight: u.Plain(c.Grams),
		Parts: show.Number(c.Parts), Locked: c.Locked, Bought: c.Lot == nil,
		Band: bandURL(c.KindProperties(), c.Hexes(), i),
	}
	length := u.Length(c.StapleMM())
	if c.Lot != nil {
		seed = c.Lot.ID
		r.Sub = c.Lot.KindName + " · " + length
		r.Href = fmt.Sprintf("/lots/%d", c.Lot.ID)
		r.Have = "of " + u.Exact(*c.HaveG) + "\u00a0" + u.Weight()
		r.Short = c.WeighG > *c.HaveG+1e-9
		if c.InBin {
			r.Have, r.Href = "in the bin", "/bin"
		}
	} else {
		r.Sub = c.KindProperties().Name + " · " + length
		r.Have = "still to buy"
	}
	r.Tuft = tuftOf(c.KindProperties(), c.Preparation, c.Hexes(), nil, c.StapleMM(), rowScale, seed)
	return r
}

type blendBody struct {
	View         blendView
	Making       studio.Making
	Siblings     []studio.Blend
	Families     []string
	Kinds        map[string][]fibre.Kind
	Preparations []fibre.Preparation
	Tools        toolsBody
}

func (s *server) blend(c *gin.Context) (studio.Blend, error) {
	n, err := id(c, "id")
	if err != nil {
		return studio.Blend{}, err
	}
	return s.studio.Blend(c.Request.Context(), n)
}

func (s *server) blendPage(c *gin.Context) error {
	b, err := s.blend(c)
	if err != nil {
		return err
	}
	m, err := s.studio.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return err
	}
	st, err := s.stateOf(c, m.ID)
	if err != nil {
		return err
	}
	u, set, err := s.units(c)
	if err != nil {
		return err
	}
	kinds, err := s.studio.AllKinds(c.Request.Context(), false)
	if err != nil {
		return err
	}
	body := blendBody{View: s.blendView(b, u, set), Making: m, Siblings: st.blends, Preparations: fibre.Preparations()}
	body.Families, body.Kinds = studio.KindOptions(kinds.List)
	if body.Tools, err = s.tools(c, b, st.blends, set); err != nil {
		return err
	}
	s.render(c, http.StatusOK, "blend", page{
		Title: b.Name + ", " + m.Name, Here: "makings", Strand: strandFor(m, st, "Blend", &b, set.Ground),
		Scripts: []string{"js/blend.js"}, Wide: true,
	}, body)
	return nil
}

// changeRequest is one change made on the blend page. Text is what was typed,
// in the unit of the field; Keep saves the outcome.
type changeRequest struct {
	Version int64             `json:"version"`
	Input   studio.BlendInput `json:"input"`
	Change  *studio.Change    `json:"change"`
	Text    *string           `json:"text"`
	Field   string            `json:"field"`
	Keep    bool              `json:"keep"`
}

// changeBlend applies a change, keeps it where asked to, and answers with the
// page's view.
func (s *server) changeBlend(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	var q changeRequest
	if err := decode(c, &q); err != nil {
		return err
	}
	u, set, err := s.units(c)
	if err != nil {
		return err
	}
	if err := q.read(u); err != nil {
		return err
	}
	var b studio.Blend
	if q.Change != nil {
		b, err = s.studio.Apply(c.Request.Context(), q.Input, *q.Change)
	} else {
		b, err = s.studio.Look(c.Request.Context(), q.Input)
	}
	if err != nil {
		return err
	}
	if q.Keep {
		b, err = s.studio.SaveBlend(c.Request.Context(), n, q.Version, b.Input())
	} else {
		b.ID, b.Version = n, q.Version
	}
	return edited(c, b, err, func(b studio.Blend) any { return s.blendView(b, u, set) })
}

// edited answers a change on a page that saves as it goes: with the view of
// what stands there now, or, where another window was first, with that of what
// stands there instead.
func edited[T any](c *gin.Context, now T, err error, view func(T) any) error {
	if other, ok := staleAs[T](err); ok {
		return store.Stale{Current: view(other)}
	}
	if err == nil {
		c.JSON(http.StatusOK, view(now))
	}
	return err
}

// read turns the typed text into the change or the input that it means.
func (q *changeRequest) read(u show.Units) error {
	if q.Text == nil {
		return nil
	}
	text := strings.TrimSpace(*q.Text)
	switch q.Field {
	case "name":
		q.Input.Name = text
		return nil
	case "target":
		if text != "" && !strings.HasPrefix(text, "#") {
			text = "#" + text
		}
		q.Input.Target = text
		return nil
	}
	var v float64
	var err error
	what := map[string]string{"percent": "a share in percent, such as 15", "parts": "a number of parts, such as 3", "passes": "the number of passes"}[q.Field]
	if q.Field == "weight" || q.Field == "total" {
		v, err = u.ReadGrams(q.Field, text)
	} else {
		v, err = show.ReadNumber(q.Field, text, what)
	}
	if err != nil {
		return err
	}
	switch {
	case q.Field == "total":
		q.Input.TotalG = v
	case q.Field == "passes":
		if v != float64(int(v)) {
			return fault.New("passes", "Passes are counted in whole numbers.")
		}
		q.Input.Passes = int(v)
	case q.Change == nil:
		return fault.New(q.Field, "Nothing here takes this value.")
	case q.Field == "percent":
		q.Change.Value = v / 100
	default:
		q.Change.Value = v
	}
	return nil
}
