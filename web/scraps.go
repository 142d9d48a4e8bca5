package web

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/web/show"
)

// bagView is a bag of scraps as its page shows it.
type bagView struct {
	ID      int64              `json:"id"`
	Version int64              `json:"version"`
	Input   studio.ScrapsInput `json:"input"`
	Piles   []pileView         `json:"piles"`
	Unit    string             `json:"unit"`
	Said    string             `json:"said"`
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
	At     int    `json:"at"`
	Name   string `json:"name"`
	Colour string `json:"colour"`
	Weight string `json:"weight"`
	Grams  string `json:"grams"`
	Hex    string `json:"hex"`
	Tuft   tuft   `json:"tuft"`
	Astray bool   `json:"astray"`
}

// pilePlaces are the piles that always have a place on the table.
const pilePlaces = 6

func (s *server) bagView(v studio.Scraps, u show.Units, kinds studio.Kinds) bagView {
	b := bagView{ID: v.ID, Version: v.Version, Input: v.ScrapsInput, Unit: u.Weight(), Piles: make([]pileView, pilePlaces)}
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
			pile.Scraps = append(pile.Scraps, scrapView{
				At: i, Name: r.Name, Colour: v.Names[i], Weight: u.Grams(r.Grams), Grams: u.Exact(r.Grams), Hex: r.Hex, Astray: slices.Contains(v.Astray, i),
				Tuft: tuftOf(k, "combed_top", []string{r.Hex}, nil, min(k.StapleMM.Mid(), 110), 0.5, int64(i+1)),
			})
		}
	}
	switch {
	case len(v.ScrapsInput.Scraps) == 0:
		b.Said = "The bag is empty."
	case len(v.Astray) > 0:
		b.Said = fmt.Sprintf("%s in %s; %d fit nowhere and are underlined.", plural(len(v.ScrapsInput.Scraps), "scrap"), plural(len(v.Piles), "pile"), len(v.Astray))
	default:
		b.Said = fmt.Sprintf("%s in %s.", plural(len(v.ScrapsInput.Scraps), "scrap"), plural(len(v.Piles), "pile"))
	}
	return b
}

type bagsBody struct {
	Form form
	Bags []studio.Scraps
}

func (s *server) scrapBags(c *gin.Context) error { return s.showBags(c, http.StatusOK, newForm()) }

func (s *server) showBags(c *gin.Context, status int, f form) error {
	bags, err := s.studio.ScrapBags(c.Request.Context())
	if err != nil {
		return err
	}
	s.render(c, status, "scrapbags", page{Title: "Scraps", Here: "shelf"}, bagsBody{f, bags})
	return nil
}

func (s *server) createBag(c *gin.Context) error {
	if err := c.Request.ParseForm(); err != nil {
		return err
	}
	v, err := s.studio.CreateScraps(c.Request.Context(), studio.ScrapsInput{Name: c.PostForm("name"), Scraps: []store.Scrap{}})
	if err != nil {
		f := typed(c.Request.PostForm)
		if !f.with(err) {
			return err
		}
		return s.showBags(c, http.StatusUnprocessableEntity, f)
	}
	goTo(c, fmt.Sprintf("/scraps/%d", v.ID), "")
	return nil
}

type bagBody struct {
	View     bagView
	Makings  []studio.Making
	Families []string
	Kinds    map[string][]fibre.Kind
}

func (s *server) bagPage(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	v, err := s.studio.ScrapBag(c.Request.Context(), n)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	kinds, err := s.studio.AllKinds(c.Request.Context(), true)
	if err != nil {
		return err
	}
	b := bagBody{View: s.bagView(v, u, kinds)}
	b.Families, b.Kinds = studio.KindOptions(kinds.List)
	if b.Makings, err = s.studio.Makings(c.Request.Context(), false); err != nil {
		return err
	}
	s.render(c, http.StatusOK, "scraps", page{Title: v.Name, Here: "shelf", Scripts: []string{"js/scraps.js"}, Wide: true}, b)
	return nil
}

// bagChange is one thing done on the page of a bag.
type bagChange struct {
	Version int64              `json:"version"`
	Input   studio.ScrapsInput `json:"input"`
	Verb    string             `json:"verb"`
	At      int                `json:"at"`
	To      int                `json:"to"`
	Text    string             `json:"text"`
	Scrap   *store.Scrap       `json:"scrap"`
	Keep    bool               `json:"keep"`
}

func (s *server) changeBag(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	var q bagChange
	if err := decode(c, &q); err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	in, err := s.applyBag(c, q, u)
	if err != nil {
		return err
	}
	kinds, err := s.studio.AllKinds(c.Request.Context(), true)
	if err != nil {
		return err
	}
	var v studio.Scraps
	if q.Keep {
		v, err = s.studio.SaveScraps(c.Request.Context(), n, q.Version, in)
	} else {
		v, err = s.studio.LookScraps(c.Request.Context(), in)
		v.ID, v.Version = n, q.Version
	}
	return edited(c, v, err, func(v studio.Scraps) any { return s.bagView(v, u, kinds) })
}

// applyBag does one change to the scraps.
func (s *server) applyBag(c *gin.Context, q bagChange, u show.Units) (studio.ScrapsInput, error) {
	in := q.Input
	ctx := c.Request.Context()
	switch q.Verb {
	case "":
	case "name":
		in.Name = strings.TrimSpace(q.Text)
	case "sort":
		v, err := s.studio.SortScraps(ctx, in, q.To)
		return v.ScrapsInput, err
	case "split":
		v, err := s.studio.SplitPile(ctx, in, q.At)
		return v.ScrapsInput, err
	case "add":
		if q.Scrap == nil {
			return in, fault.New("scrap", "Say what the scrap is.")
		}
		v := *q.Scrap
		var err error
		if v.Grams, err = u.ReadGrams("grams", q.Text); err != nil {
			return in, err
		}
		in.Scraps = append(in.Scraps, v)
	case "small": // lots of the shelf with at most so much left
		most, err := u.ReadGrams("most", q.Text)
		if err != nil {
			return in, err
		}
		more, err := s.studio.ScrapsFromShelf(ctx, most)
		if err != nil {
			return in, err
		}
		before := len(in.Scraps)
		for _, v := range more {
			if !slices.ContainsFunc(in.Scraps, func(o store.Scrap) bool { return o.LotID != nil && *o.LotID == *v.LotID }) {
				in.Scraps = append(in.Scraps, v)
			}
		}
		if len(in.Scraps) == before {
			return in, fault.New("most", "No lot on the shelf that is not here already has so little left.")
		}
	case "move", "remove", "scrapname", "grams", "hex":
		if q.At < 0 || q.At >= len(in.Scraps) {
			return in, fault.New("at", "There is no such scrap.")
		}
		v := &in.Scraps[q.At]
		var err error
		switch q.Verb {
		case "remove":
			in.Scraps = slices.Delete(in.Scraps, q.At, q.At+1)
		case "move":
			v.Pile = min(max(q.To, 0), pilePlaces-1)
		case "scrapname":
			v.Name = q.Text
		case "hex":
			v.Hex = q.Text
		case "grams":
			v.Grams, err = u.ReadGrams(fmt.Sprintf("scraps[%d].grams", q.At), q.Text)
		}
		return in, err
	default:
		return in, fault.New("verb", "There is no change called %q.", q.Verb)
	}
	return in, nil
}

// bagBlends makes a blend of every pile in the making that was chosen.
func (s *server) bagBlends(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	if err := c.Request.ParseForm(); err != nil {
		return err
	}
	making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
	if _, err := s.studio.ScrapBlends(c.Request.Context(), n, making); err != nil {
		return err
	}
	goTo(c, fmt.Sprintf("/makings/%d", making), "made")
	return nil
}
