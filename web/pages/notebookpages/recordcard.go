package notebookpages

import (
	"fmt"
	"html/template"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/web/art"
	"fairtangle/web/pages/carderpages"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/recipepages"
	"fairtangle/web/show"
)

// recordCardBody is a run on one sheet, to print and keep.
type recordCardBody struct {
	Run      carder.Run
	View     carderpages.RunView
	Blend    recipe.Blend
	Bands    []recipepages.BandPart
	Facts    []layingpages.CardFact
	Contents []layingpages.CardFact
	Layers   []string
	Laid     template.HTML // drawn
	Picture  string
	When     string
	Size     string
	Sizes    []string
	Dense    string
	Lock     bool // with the place for a lock of it
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
		Size:  frame.CardSize(c, "A5"),
		Sizes: frame.CardSizes,
		Lock:  c.Query("lock") != "" || v.Sample && c.Query("size") == "", // a sample is kept with its lock
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
	if len(l.LaidPlan.Layers) > 0 {
		b.Laid = template.HTML(art.Layers(recipepages.LaidParts(l)))
	}
	lines := len(b.Contents) + len(b.Facts)/2 + len(b.Layers)*3/2 + 6
	for _, unit := range b.View.Units {
		lines += len(unit.Passes)
		for _, pass := range unit.Passes {
			for _, id := range pass.Photos {
				b.Picture = b.View.Photos[id].URL
			}
		}
	}
	b.Dense = frame.Dense(lines)
	p.Title, p.Scripts = v.Name+", record card", []string{"js/print.js"}
	s.Render(c, http.StatusOK, "recordcard", p, b)
	return nil
}
