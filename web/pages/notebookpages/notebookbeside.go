package notebookpages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/notebook"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/carderpages"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/recipepages"
	"fairtangle/web/pages/yarnspages"
	"fairtangle/web/show"
)

// besideBody is two lines of the notebook side by side.
type besideBody struct {
	Names [2]notebookLine
	Rows  []besideRow
	Only  bool // fewer than two were chosen
}

type besideRow struct {
	Name   string
	Values [2]string
}

// notebookBeside sets two runs side by side.
func (s *Room) notebookBeside(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	var b besideBody
	chosen := c.QueryArray("with")
	b.Only = len(chosen) < 2
	for i, v := range chosen[:min(len(chosen), 2)] {
		_, number, _ := strings.Cut(v, "-")
		n, err := strconv.ParseInt(number, 10, 64)
		if err != nil || !strings.HasPrefix(v, "carding-") {
			return floor.ErrNotFound
		}
		r, err := s.Studio.Carder.Run(c.Request.Context(), n)
		if err != nil {
			return err
		}
		at, _ := time.Parse(time.RFC3339, r.At)
		l := notebook.NotebookLine{Run: &r}
		l.Name, l.Sort, l.ID, l.At = r.Name, "carding", r.ID, at
		b.Names[i] = notebookLineOf(l, u)
		facts := append([]layingpages.CardFact{{Name: "When", Value: show.Date(at)}}, contentFacts(r)...)
		for _, f := range append(facts, b.Names[i].Facts...) {
			b.put(i, f)
		}
	}
	s.Render(c, http.StatusOK, "beside", frame.Page{Title: "Side by side", Here: "notebook", Wide: true}, b)
	return nil
}

func (b *besideBody) put(i int, f layingpages.CardFact) {
	for k := range b.Rows {
		if b.Rows[k].Name == f.Name && b.Rows[k].Values[i] == "" {
			b.Rows[k].Values[i] = f.Value
			return
		}
	}
	row := besideRow{Name: f.Name}
	row.Values[i] = f.Value
	b.Rows = append(b.Rows, row)
}

// contentFacts are the fibres of a run and their shares.
func contentFacts(v carder.Run) (out []layingpages.CardFact) {
	for _, c := range v.Weighout.Components {
		out = append(out, layingpages.CardFact{Name: c.Name, Value: show.Percent(c.FinishedShare)})
	}
	return out
}

// recordCardBody is a run on one sheet, to print and keep.
type recordCardBody struct {
	Run      carder.Run
	View     carderpages.RunView
	Blend    recipe.Blend
	Bands    []recipepages.BandPart
	Facts    []layingpages.CardFact
	Contents []layingpages.CardFact
	Layers   []string
	Picture  string
	When     string
	Size     string
	Sizes    []string
}

// recordCard is the record of a run as a card, from A6 to A4.
func (s *Room) recordCard(c *gin.Context) error {
	v, blend, u, p, err := s.carder.RunAround(c)
	if err != nil {
		return err
	}
	if v.Sort == carder.FleeceRun {
		return floor.ErrNotFound
	}
	b := recordCardBody{
		Run:   v,
		Blend: blend,
		Bands: recipepages.BandsOf(blend),
		Facts: runFacts(v, u),
		Size:  c.DefaultQuery("size", "A5"),
		Sizes: yarnspages.CardSizes,
	}
	if b.View, err = s.carder.RunView(c, v, u); err != nil {
		return err
	}
	at, _ := time.Parse(time.RFC3339, v.At)
	b.When = show.Date(at)
	shown := u.WithStep(v.Weighout.StepG)
	for _, k := range v.Weighout.Components {
		b.Contents = append(b.Contents, layingpages.CardFact{Name: k.Name, Value: show.Percent(k.FinishedShare) + ", " + shown.Grams(k.TotalG) + " weighed in"})
	}
	l := v.Steps(0)
	for i, layer := range l.LayupInput.Layers {
		b.Layers = append(b.Layers, fmt.Sprintf("%d. %s", i+1, layingpages.LayerTitle(layer, l)))
	}
	for _, unit := range b.View.Units {
		for _, pass := range unit.Passes {
			for _, id := range pass.Photos {
				b.Picture = b.View.Photos[id].URL
			}
		}
	}
	p.Title, p.Scripts = v.Name+", record card", []string{"js/print.js"}
	s.Render(c, http.StatusOK, "recordcard", p, b)
	return nil
}
