package recipepages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/web/pages/frame"
)

type makingsBody struct {
	Form     frame.Form
	Archived bool
	Fibre    bool // some is on the shelf
	Q        string
	Pages    frame.PageLinks
	List     []makingRow
	// Sample: the sample world lies here; Offered: it can be laid out; Demo: there is nothing else.
	Sample, Offered, Demo bool
	Uncopied              string // since when nothing was copied, where that is long ago
}

// makingsPage is how many makings a page shows.
const makingsPage = 24

type makingRow struct {
	recipe.Making
	Strand string
	Blends []recipe.Blend
	Status string
}

func (s *Room) makings(c *gin.Context) error { return s.showMakings(c, http.StatusOK, frame.NewForm()) }

func (s *Room) showMakings(c *gin.Context, status int, f frame.Form) error {
	b := makingsBody{Form: f, Archived: c.Query("show") == "put-away"}
	shelf, err := s.Studio.Shelf.Shelf(c.Request.Context(), shelf.LotFilter{Limit: 1})
	if err != nil {
		return err
	}
	b.Fibre = shelf.Total > 0
	b.Demo = s.World.Demo
	if b.Sample, err = s.Studio.SampleHere(c.Request.Context()); err != nil {
		return err
	}
	if s.World.Sample != nil && !b.Fibre {
		if b.Offered, err = s.Studio.Nothing(c.Request.Context()); err != nil {
			return err
		}
	}
	if !b.Demo && !b.Archived {
		if last, old := s.Studio.Workshop.Vault.CopiesOld(c.Request.Context()); old {
			b.Uncopied = "No copy of all this was made yet."
			if !last.IsZero() {
				b.Uncopied = "The last copy of all this was made on " + last.Format("2 January 2006") + "."
			}
		}
	}
	b.Q, b.Pages = c.Query("q"), frame.PagesOf(c, makingsPage)
	list, all, err := s.Studio.Recipe.MakingsPage(c.Request.Context(), b.Archived, b.Q, b.Pages.Offset, b.Pages.Size)
	if err != nil {
		return err
	}
	b.Pages.Of(c, all)
	ids := make([]int64, len(list))
	for i, m := range list {
		ids[i] = m.ID
	}
	states, err := s.StatesOf(c, ids...)
	if err != nil {
		return err
	}
	_, set, err := s.Units(c)
	if err != nil {
		return err
	}
	for _, m := range list {
		st := states[m.ID]
		b.List = append(b.List, makingRow{m, frame.StrandURL(st.Components(), m.ID, st.Done, "", set.Ground), st.Blends, st.Words()})
	}
	s.Render(c, status, "makings", frame.Page{Title: "Makings", Here: "makings"}, b)
	return nil
}

func (s *Room) createMaking(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	m, err := s.Studio.Recipe.CreateMaking(c.Request.Context(), recipe.MakingInput{Name: c.PostForm("name")})
	if err != nil {
		f := frame.Typed(c.Request.PostForm)
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.showMakings(c, http.StatusUnprocessableEntity, f)
	}
	frame.GoTo(c, fmt.Sprintf("/makings/%d", m.ID), "added")
	return nil
}

// laySampleOut fills an empty studio with the sample world.
func (s *Room) laySampleOut(c *gin.Context) error {
	if s.World.Sample == nil {
		return floor.ErrNotFound
	}
	if err := s.Studio.LaySampleOut(c.Request.Context(), s.World.Sample); err != nil {
		f := frame.NewForm()
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.showMakings(c, http.StatusUnprocessableEntity, f)
	}
	frame.GoTo(c, "/makings", "sampled")
	return nil
}

// putSampleAway puts the sample world into the bin.
func (s *Room) putSampleAway(c *gin.Context) error {
	if err := s.Studio.PutSampleAway(c.Request.Context()); err != nil {
		return err
	}
	frame.GoTo(c, "/makings", "away")
	return nil
}
