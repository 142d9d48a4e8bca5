package reachpages

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/core/piles"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// bagView is a bag of scraps as its page shows it.
type bagView struct {
	ID      int64          `json:"id"`
	Version int64          `json:"version"`
	Input   reach.BagInput `json:"input"`
	Piles   []pileView     `json:"piles"`
	Unit    string         `json:"unit"`
	Said    string         `json:"said"`
	frame.StepsView
}

type pileView struct {
	Pile   int         `json:"pile"`
	Name   string      `json:"name"`
	Weight string      `json:"weight"`
	Hex    string      `json:"hex"`
	Scraps []scrapView `json:"scraps"`
	Wide   bool        `json:"wide"`
	Said   string      `json:"said"`
}

type scrapView struct {
	Key    int64    `json:"key"`
	Name   string   `json:"name"`
	Colour string   `json:"colour"`
	Weight string   `json:"weight"`
	Grams  string   `json:"grams"`
	Hex    string   `json:"hex"`
	Own    []string `json:"own"` // its colours, where it is no lot
	Tuft   art.Link `json:"tuft"`
	Astray bool     `json:"astray"`
}

func (s *Room) bagView(v reach.Bag, u show.Units, kinds workshop.Kinds, at frame.StepsView) bagView {
	b := bagView{ID: v.ID, Version: v.Version, Input: v.BagInput, Unit: u.Weight(), Piles: make([]pileView, piles.MaxPiles), StepsView: at}
	for i := range b.Piles {
		b.Piles[i] = pileView{Pile: i, Name: fmt.Sprintf("Pile %d", i+1), Scraps: []scrapView{}}
	}
	for _, p := range v.Piles {
		pile := &b.Piles[p.Pile]
		pile.Name, pile.Weight, pile.Hex, pile.Wide = p.Name, u.Grams(p.Grams), p.Hex, p.Wide
		pile.Said = fmt.Sprintf("spread %s", show.Fixed(p.Spread, 1))
		if p.Wide {
			pile.Said = fmt.Sprintf("too wide for one blend, spread %s", show.Fixed(p.Spread, 1))
		}
		for _, i := range p.Scraps {
			r := v.Scraps[i]
			k, ok := kinds.Find(r.Kind)
			if !ok {
				k = kinds.List[0]
			}
			var own []string
			if r.LotID == nil {
				own = v.Shown[i]
			}
			pile.Scraps = append(pile.Scraps, scrapView{
				Own: own, Key: r.Key, Name: r.Name, Colour: v.Names[i], Weight: u.Grams(r.Grams), Grams: u.Amount(r.Grams), Hex: r.Hex,
				Astray: slices.Contains(v.Astray, i),
				Tuft:   art.TuftLink(k, "combed_top", v.Shown[i], nil, min(k.StapleMM.Mid(), 110), 0.5, int64(i+1)),
			})
		}
	}
	switch {
	case len(v.BagInput.Scraps) == 0:
		b.Said = "The bag is empty."
	case len(v.Astray) > 0:
		b.Said = fmt.Sprintf(
			"%s in %s; %d fit nowhere and are underlined.",
			show.Plural(len(v.BagInput.Scraps), "scrap"),
			show.Plural(len(v.Piles), "pile"),
			len(v.Astray),
		)
	default:
		b.Said = fmt.Sprintf("%s in %s.", show.Plural(len(v.BagInput.Scraps), "scrap"), show.Plural(len(v.Piles), "pile"))
	}
	return b
}

type bagBody struct {
	View     bagView
	Makings  []recipe.MakingName
	Families []string
	Kinds    map[string][]fibre.Kind
}

func (s *Room) bagPage(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	v, err := s.Studio.Reach.Bag(c.Request.Context(), n)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	kinds, err := s.Studio.Workshop.AllKinds(c.Request.Context(), true)
	if err != nil {
		return err
	}
	at, err := s.StepsView(c, "scrap_sets", v.ID)
	if err != nil {
		return err
	}
	b := bagBody{View: s.bagView(v, u, kinds, at)}
	b.Families, b.Kinds = workshop.KindOptions(kinds.List)
	if b.Makings, err = s.Studio.Recipe.MakingNames(c.Request.Context()); err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "scraps", frame.Page{Title: v.Name, Here: "shelf", Scripts: []string{"js/scraps.js"}, Wide: true}, b)
	return nil
}

// bag is how a bag of scraps is changed on its page.
func (s *Room) bag() frame.Piece[reach.BagInput, reach.BagChange, reach.Bag] {
	return frame.Piece[reach.BagInput, reach.BagChange, reach.Bag]{
		Table: "scrap_sets",
		Read:  readBag,
		Apply: func(ctx context.Context, _ int64, in reach.BagInput, c *reach.BagChange) (reach.Bag, error) {
			return s.Studio.Reach.ApplyBag(ctx, in, c)
		},
		Save: func(ctx context.Context, id, version int64, v reach.Bag, _ string) (reach.Bag, error) {
			return s.Studio.Reach.SaveBag(ctx, id, version, v.BagInput)
		},
		Step: s.Studio.Reach.StepBag,
		Mark: func(v *reach.Bag, id, version int64) { v.ID, v.Version = id, version },
		View: func(c *gin.Context, v reach.Bag, u show.Units, at frame.StepsView) (any, error) {
			kinds, err := s.Studio.Workshop.AllKinds(c.Request.Context(), true)
			return s.bagView(v, u, kinds, at), err
		},
		Sum: frame.SumOf(func(in reach.BagInput, _ show.Units) string {
			return in.Name + ", " + show.Plural(len(in.Scraps), "scrap")
		}),
	}
}

// readBag turns typed fields into the change that they mean.
func readBag(_ *gin.Context, q *frame.Edit[reach.BagInput, reach.BagChange], u show.Units) (err error) {
	if q.Change == nil {
		return nil
	}
	for _, field := range []string{"grams", "most"} {
		text, ok := q.Typed[field]
		if !ok {
			continue
		}
		if q.Change.Value, err = u.ReadGrams(field, text); err != nil {
			return err
		}
		if q.Change.Scrap != nil {
			q.Change.Scrap.Grams = q.Change.Value
		}
	}
	return nil
}

// bagBlends makes a blend of every pile in the making that was chosen.
func (s *Room) bagBlends(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
	if _, err := s.Studio.Reach.BagBlends(c.Request.Context(), n, making); err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/makings/%d", making), "made")
	return nil
}
