package recipepages

import (
	"fmt"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/match"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// The tools of the blend page: find proportions, mend, dull. They look at the
// recipe as it is on the page and keep nothing; taking an answer is a change
// like any other.

// RecipeView is a recipe that a tool offers.
type RecipeView struct {
	Hex        string                  `json:"hex"`
	DeltaE     string                  `json:"delta_e"`
	Words      string                  `json:"words"`
	Rows       []blendRow              `json:"rows"`
	Facts      string                  `json:"facts"`
	Add        string                  `json:"add"` // what is added, of a mend
	Out        string                  `json:"out"` // what is drawn out
	Components []recipe.BlendComponent `json:"components"`
	TotalG     float64                 `json:"total_g"`
	Came       *recipe.Came            `json:"came,omitempty"` // of a mend
}

// Offered shows a recipe of a weight.
func (s *Room) Offered(c *gin.Context, u show.Units, in recipe.BlendInput, components []recipe.BlendComponent, total float64) (RecipeView, error) {
	in.Components, in.TotalG = components, total
	b, err := s.Studio.Recipe.WorkOut(c.Request.Context(), in)
	if err != nil {
		return RecipeView{}, err
	}
	v := RecipeView{Hex: b.Hex, Components: components, TotalG: total}
	for i, p := range b.Components {
		row := rowOf(i, p, u)
		row.Percent = show.Fixed(100*p.Share, 1)
		v.Rows = append(v.Rows, row)
	}
	return v, nil
}

type findRequest struct {
	Input     recipe.BlendInput `json:"input"`
	Target    string            `json:"target"`
	Most      int               `json:"most"`
	Wool      string            `json:"wool"` // percent, as typed
	NoSparkle bool              `json:"no_sparkle"`
	Kind      string            `json:"kind"`
	Unclaimed bool              `json:"unclaimed"` // leave what other makings have spoken for
	AnyForm   bool              `json:"any_form"`  // raw fleece and rolags as well
	Quick     bool              `json:"quick"`
}

type findView struct {
	Found    []RecipeView `json:"found"`
	Target   string       `json:"target"`
	Said     string       `json:"said"`
	Complete bool         `json:"complete"`
}

// readFind reads a request and turns what was typed into the studio's question.
func (s *Room) readFind(c *gin.Context) (q findRequest, in reach.FindInput, err error) {
	if err := answer.Decode(c, &q); err != nil {
		return q, in, err
	}
	in = reach.FindInput{Target: q.Target, MaxComponents: q.Most, Count: 6, Wish: reach.Wish{NoSparkle: q.NoSparkle, Kind: q.Kind}}
	in.Wish.Unclaimed, in.Wish.AnyForm = &q.Unclaimed, q.AnyForm
	if in.Wish.MakingID, err = s.makingOf(c); err != nil {
		return q, in, err
	}
	if q.Wool != "" {
		v, err := show.ReadNumber("wool", q.Wool, "a share in percent, such as 60")
		if err != nil {
			return q, in, err
		}
		if v < 0 || v > 100 {
			return q, in, fault.New("wool", "A share lies from 0 to 100 %%.")
		}
		in.Wish.LeastWoolShare = v / 100
	}
	return q, in, nil
}

// makingOf is the making of the blend of a page: what that has spoken for is its own.
func (s *Room) makingOf(c *gin.Context) (int64, error) {
	b, err := s.Blend(c)
	return b.MakingID, err
}

func (s *Room) findProportions(c *gin.Context) error {
	q, in, err := s.readFind(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	var a reach.FindAnswer
	if q.Quick {
		a, err = s.Studio.Reach.Quickly(ctx, q.Input, in)
	} else {
		done, busy := s.Turns.Take(ctx, answer.Impatient)
		if busy != nil {
			return busy
		}
		defer done()
		a, err = s.Studio.Reach.Find(ctx, q.Input, in, reach.InTime())
	}
	if err != nil {
		return err
	}
	v, err := s.findView(c, q.Input, a)
	if err == nil {
		c.JSON(http.StatusOK, v)
	}
	return err
}

func (s *Room) findView(c *gin.Context, in recipe.BlendInput, a reach.FindAnswer) (findView, error) {
	u, _, err := s.Units(c)
	if err != nil {
		return findView{}, err
	}
	v := findView{Target: a.Target, Complete: a.Complete, Found: []RecipeView{}}
	v.Said = fmt.Sprintf("Looked at %d sets of %d lots", a.Examined, a.Lots)
	if a.Complete {
		v.Said += ", all that there are."
	} else {
		v.Said += ", the most promising ones."
	}
	v.Said += " Within half a unit of the best they count as equal: fewest fibres come first, then those that forgive a slip and that there is plenty of."
	for _, f := range a.Found {
		r, err := s.Offered(c, u, in, f.Components, in.TotalG)
		if err != nil {
			return v, err
		}
		r.DeltaE, r.Words = show.Fixed(f.DeltaE, 1), f.Words
		r.Facts = fmt.Sprintf("Weighed %s too much or too little, its colour is off by %s.", u.StepText(), show.Fixed(f.Slip, 1))
		if f.Slip < 0.05 {
			r.Facts = fmt.Sprintf("Weighed %s too much or too little, it looks the same.", u.StepText())
		}
		if f.Cost != nil {
			r.Facts += " It costs " + u.Cost(*f.Cost) + "."
		}
		v.Found = append(v.Found, r)
	}
	return v, nil
}

// findAll examines every set of lots. It answers with lines of JSON: progress
// now and then, at last the outcome. Closing the connection stops it; the
// search also ends by itself before the connection would.
func (s *Room) findAll(c *gin.Context) error {
	q, in, err := s.readFind(c)
	if err != nil {
		return err
	}
	in.Thorough = true
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	return s.InLines(c, u, func(say func(any) bool) (any, error) {
		inTime, last := reach.InTime(), time.Now()
		a, err := s.Studio.Reach.Find(c.Request.Context(), q.Input, in, func(p match.Progress) bool {
			if now := time.Now(); now.Sub(last) > 150*time.Millisecond {
				last = now
				said := fmt.Sprintf("%d of %d sets, best so far %s", p.Done, p.Of, show.Fixed(p.Best, 2))
				if !say(gin.H{"part": float64(p.Done) / float64(max(1, p.Of)), "said": said}) {
					return false
				}
			}
			return inTime(p)
		})
		if err != nil {
			return nil, err
		}
		v, err := s.findView(c, q.Input, a)
		return gin.H{"answer": v}, err
	})
}

type mendRequest struct {
	Input    recipe.BlendInput `json:"input"`
	Made     string            `json:"made"` // weight, as typed
	Most     int               `json:"most"`
	Added    string            `json:"added"`
	There    string            `json:"there"` // planned, weighed
	How      string            `json:"how"`   // predicted, measured, said
	Measured string            `json:"measured"`
	Said     []match.Said      `json:"said"`
}

type mendView struct {
	BeforeHex string       `json:"before_hex"`
	TargetHex string       `json:"target_hex"`
	Before    string       `json:"before"`
	Words     string       `json:"words"`
	Mends     []RecipeView `json:"mends"`
	TakeOut   []RecipeView `json:"take_out"`
}

func (s *Room) mendBlend(c *gin.Context) error {
	var q mendRequest
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	var l fault.List
	making, err := s.makingOf(c)
	if err != nil {
		return err
	}
	in := reach.MendInput{There: q.There, MaxComponents: q.Most, Count: 4, Wish: reach.Wish{NoSparkle: true, MakingID: making}}
	in.MadeG, err = u.ReadGrams("made.grams", q.Made)
	l.Take("", err)
	in.MaxAddedG, err = u.ReadGrams("max_added_g", q.Added)
	l.Take("", err)
	switch q.How {
	case "measured":
		measured := frame.HexOf(q.Measured)
		in.Measured = &workshop.ColourInput{Hex: &measured}
	case "said":
		in.Said = q.Said
		if len(q.Said) == 0 {
			l.Add("said", "Say what is wrong with it: choose at least one word.")
		}
	}
	if err := l.Err(); err != nil {
		return err
	}
	a, err := s.Studio.Reach.Mend(c.Request.Context(), n, q.Input, in)
	if err != nil {
		return err
	}
	v := mendView{BeforeHex: a.BeforeHex, TargetHex: a.TargetHex, Before: show.Fixed(a.BeforeDeltaE, 1), Words: a.Words,
		Mends: []RecipeView{}, TakeOut: []RecipeView{}}
	for _, m := range a.Mends {
		then := q.Input
		then.Came = &m.Came
		r, err := s.Offered(c, u, then, m.Components, m.TotalG)
		if err != nil {
			return err
		}
		r.Came = &m.Came
		r.Hex, r.DeltaE, r.Words = m.Hex, show.Fixed(m.DeltaE, 1), m.Words
		for i, part := range m.Add {
			if i > 0 {
				r.Add += " and "
			}
			r.Add += u.Grams(part.Grams) + " " + nameIn(r.Rows, m.Components, part.BlendComponent)
		}
		r.Facts = fmt.Sprintf("makes %s", u.Grams(m.TotalG))
		v.Mends = append(v.Mends, r)
	}
	if v.TakeOut, err = s.takeOuts(c, u, q.Input, a.TakeOut); err != nil {
		return err
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// nameIn finds the name of a lot among the rows of a recipe.
func nameIn(rows []blendRow, components []recipe.BlendComponent, p recipe.BlendComponent) string {
	for i, v := range components {
		if v.LotID != nil && p.LotID != nil && *v.LotID == *p.LotID && v.Only == "" {
			return rows[i].Name
		}
	}
	return p.Name
}

type dullRequest struct {
	Input recipe.BlendInput `json:"input"`
	Drop  float64           `json:"drop"` // percent
}

type dullView struct {
	Hex  string        `json:"hex"`
	Said string        `json:"said"`
	Ways []dullWayView `json:"ways"`
}

type dullWayView struct {
	Way   string      `json:"way"`
	Why   string      `json:"why"`
	None  string      `json:"none"`
	Row   *blendRow   `json:"row"`
	Share string      `json:"share"`
	Short string      `json:"short"`
	Then  *RecipeView `json:"then"`
}

var dullWays = map[string][3]string{
	match.Complement: {
		"a little of the complement",
		"The opposite hue takes colour away fastest; the blend keeps its weight in colour and looks deep.",
		"No lot on the shelf is nearly opposite in hue.",
	},
	match.Grey:  {"a grey lot", "Grey takes colour away evenly; it needs more, and leaves the hue where it was.", "No lot on the shelf is grey enough."},
	match.Brown: {"a brown lot", "Brown takes colour away and warms and darkens a little, as weather does.", "No lot on the shelf is a dull brown."},
}

func (s *Room) dullBlend(c *gin.Context) error {
	var q dullRequest
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	making, err := s.makingOf(c)
	if err != nil {
		return err
	}
	a, err := s.Studio.Reach.Dull(c.Request.Context(), q.Input, reach.DullInput{Drop: q.Drop / 100, Wish: reach.Wish{NoSparkle: true, MakingID: making}})
	if err != nil {
		return err
	}
	v := dullView{Said: fmt.Sprintf("Chroma from %s to %s", show.Fixed(a.Chroma, 0), show.Fixed(a.WantChroma, 0))}
	for _, w := range a.Ways {
		words := dullWays[w.Way]
		d := dullWayView{Way: words[0], Why: words[1], None: words[2]}
		if w.Component != nil {
			r, err := s.Offered(c, u, q.Input, w.Components, q.Input.TotalG)
			if err != nil {
				return err
			}
			r.Hex, r.DeltaE, r.Words = w.Hex, show.Fixed(w.DeltaE, 1), w.Words
			for i, p := range w.Components {
				if p.LotID != nil && *p.LotID == *w.Component.LotID && p.Only == "" {
					d.Row = &r.Rows[i]
				}
			}
			d.Share, d.Then, d.None = show.Percent(w.Share)+" · "+u.Grams(w.Grams), &r, ""
			if !w.Enough {
				d.Short = "more than is on the shelf"
			}
		}
		v.Ways = append(v.Ways, d)
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// aims are the colours that a target can be taken from: other blends of the
// making.
func aims(blends []recipe.Blend, but int64) (out []frame.Option) {
	for _, b := range blends {
		if b.ID != but && b.Hex != "" {
			out = append(out, frame.Option{Value: b.Hex, Label: b.Name})
		}
	}
	return out
}

// toolsBody is what the tools offer to choose from.
type toolsBody struct {
	Aims   []frame.Option
	Kinds  []frame.Option
	Photos bool
	Reader bool
}

func (s *Room) tools(c *gin.Context, b recipe.Blend, blends []recipe.Blend, set workshop.Settings) (toolsBody, error) {
	out := toolsBody{Aims: aims(blends, b.ID), Reader: set.ReaderAddress != ""}
	kinds, err := s.Studio.Shelf.KindsInUse(c.Request.Context())
	if err != nil {
		return out, err
	}
	for _, k := range kinds {
		out.Kinds = append(out.Kinds, frame.Option{Value: k.Key, Label: k.Name})
	}
	photos, err := s.Studio.Shelf.Photos(c.Request.Context())
	out.Photos = len(photos) > 0
	return out, err
}
