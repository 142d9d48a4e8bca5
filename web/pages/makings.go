package pages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
)

type makingsBody struct {
	Form     form
	Archived bool
	Fibre    bool // some is on the shelf
	List     []makingRow
}

type makingRow struct {
	studio.Making
	Strand string
	Blends []studio.Blend
	Status string
}

func (s *server) makings(c *gin.Context) error { return s.showMakings(c, http.StatusOK, newForm()) }

func (s *server) showMakings(c *gin.Context, status int, f form) error {
	b := makingsBody{Form: f, Archived: c.Query("show") == "put-away"}
	shelf, err := s.studio.Shelf(c.Request.Context(), studio.LotFilter{Limit: 1})
	if err != nil {
		return err
	}
	b.Fibre = shelf.Total > 0
	list, err := s.studio.Makings(c.Request.Context(), b.Archived)
	if err != nil {
		return err
	}
	_, set, err := s.units(c)
	if err != nil {
		return err
	}
	for _, m := range list {
		st, err := s.stateOf(c, m.ID)
		if err != nil {
			return err
		}
		b.List = append(b.List, makingRow{m, strandURL(st.components(), m.ID, st.done, "", set.Ground), st.blends, st.words()})
	}
	s.render(c, status, "makings", page{Title: "Makings", Here: "makings"}, b)
	return nil
}

func (s *server) createMaking(c *gin.Context) error {
	if err := parsed(c); err != nil {
		return err
	}
	m, err := s.studio.CreateMaking(c.Request.Context(), studio.MakingInput{Name: c.PostForm("name")})
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
