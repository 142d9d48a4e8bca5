package pages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

type makingsBody struct {
	Form     form
	Archived bool
	Fibre    bool // some is on the shelf
	Q        string
	Pages    pageLinks
	List     []makingRow
}

// makingsPage is how many makings a page shows.
const makingsPage = 24

type makingRow struct {
	recipe.Making
	Strand string
	Blends []recipe.Blend
	Status string
}

func (s *server) makings(c *gin.Context) error { return s.showMakings(c, http.StatusOK, newForm()) }

func (s *server) showMakings(c *gin.Context, status int, f form) error {
	b := makingsBody{Form: f, Archived: c.Query("show") == "put-away"}
	shelf, err := s.studio.Shelf.Shelf(c.Request.Context(), shelf.LotFilter{Limit: 1})
	if err != nil {
		return err
	}
	b.Fibre = shelf.Total > 0
	b.Q, b.Pages = c.Query("q"), pagesOf(c, makingsPage)
	list, all, err := s.studio.Recipe.MakingsPage(c.Request.Context(), b.Archived, b.Q, b.Pages.Offset, b.Pages.Size)
	if err != nil {
		return err
	}
	b.Pages.of(c, all)
	ids := make([]int64, len(list))
	for i, m := range list {
		ids[i] = m.ID
	}
	states, err := s.statesOf(c, ids...)
	if err != nil {
		return err
	}
	_, set, err := s.units(c)
	if err != nil {
		return err
	}
	for _, m := range list {
		st := states[m.ID]
		b.List = append(b.List, makingRow{m, strandURL(st.components(), m.ID, st.done, "", set.Ground), st.blends, st.words()})
	}
	s.render(c, status, "makings", page{Title: "Makings", Here: "makings"}, b)
	return nil
}

func (s *server) createMaking(c *gin.Context) error {
	if err := parsed(c); err != nil {
		return err
	}
	m, err := s.studio.Recipe.CreateMaking(c.Request.Context(), recipe.MakingInput{Name: c.PostForm("name")})
	if err != nil {
		f := typed(c.Request.PostForm)
		if !s.blame(c, &f, err) {
			return err
		}
		return s.showMakings(c, http.StatusUnprocessableEntity, f)
	}
	goTo(c, fmt.Sprintf("/makings/%d", m.ID), "added")
	return nil
}
