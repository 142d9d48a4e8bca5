package recipepages

import (
	"fmt"
	"html/template"
	"mime"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/given"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type giveBody struct {
	Making recipe.Making
	Blend  recipe.Blend
	Form   frame.Form
}

// giveFields are what a giver says besides.
var giveFields = []string{"by", "note", "grams"}

// givePage asks what goes along with a recipe.
func (s *Room) givePage(c *gin.Context) error {
	b, m, p, u, err := s.beside(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	for _, v := range giveFields {
		f.Values[v] = c.Query(v)
	}
	if f.Values["grams"] == "" {
		f.Values["grams"] = u.Plain(b.TotalG)
	}
	status := http.StatusOK
	if c.Query("as") != "" {
		r, err := checked(s.recipeGiven(c, b, u))
		if err == nil {
			return s.give(c, r, b, u)
		}
		if !s.Blame(c, &f, err) {
			return err
		}
		status = http.StatusUnprocessableEntity
	}
	p.Title = "Give " + b.Name + " away"
	s.Render(c, status, "give", p, giveBody{Making: m, Blend: b, Form: f})
	return nil
}

// recipeGiven is the recipe as the address says, with the latest lay-up of it.
func (s *Room) recipeGiven(c *gin.Context, b recipe.Blend, u show.Units) (r given.Recipe, err error) {
	if len(b.Components) == 0 {
		return r, fault.New("grams", "The blend is empty; there is nothing to give.")
	}
	r = b.Given(c.Query("by"), c.Query("note"))
	if c.Query("grams") != "" {
		if r.TotalG, err = u.ReadGrams("grams", c.Query("grams")); err != nil {
			return r, err
		}
	}
	l, laid, err := s.latestLayup(c, b)
	if err != nil || !laid {
		return r, err
	}
	for i, f := range l.Fibres[:min(len(l.Fibres), len(r.Components))] {
		if f.JoinsAt > 1 {
			r.Components[i].JoinsAt = f.JoinsAt
		}
	}
	for _, v := range l.LaidPlan.Layers {
		var layer given.Layer
		for _, y := range v.Lays {
			if y.Component < len(r.Components) && !l.Fibres[y.Component].Gone {
				layer.Lays = append(layer.Lays, given.Lay{Component: y.Component, From: y.From, To: y.To, Grams: y.Grams})
			}
		}
		r.Layers = append(r.Layers, layer)
	}
	return r, nil
}

// checked is a recipe that another Fair Tangle takes; what its giver wrote is named at its field.
func checked(r given.Recipe, err error) (given.Recipe, error) {
	if err != nil {
		return r, err
	}
	if l, bad := fault.From(r.Check()); bad {
		for _, f := range l {
			if f.Field == "by" || f.Field == "note" {
				return r, fault.New(f.Field, "This is longer than a recipe takes.")
			}
		}
		return r, fault.New("grams", "A recipe weighs at most %s.", unit.Grams(100_000))
	}
	return r, nil
}

// givenDocument is a recipe as one file: everything lies in it.
type givenDocument struct {
	Recipe given.Recipe
	Rows   []givenRow
	Total  string
	Laid   template.HTML // how one batt is laid; empty: not said
	Label  string
}

// givenRow is a fibre of it; its letter stands in the picture of the layers.
type givenRow struct {
	given.Component
	Letter, Kind, Prep, Staple, Percent, Weigh string
	Joins                                      string // empty: at the first pass
	Tuft                                       template.HTML
}

// give sends a recipe, as a page or as its JSON alone.
func (s *Room) give(c *gin.Context, r given.Recipe, b recipe.Blend, u show.Units) error {
	attach := func(ending string) {
		c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": b.Name + ending}))
	}
	if c.Query("as") == "json" {
		attach(".json")
		c.PureJSON(http.StatusOK, r)
		return nil
	}
	d, err := s.documentOf(c, r, b, u)
	if err != nil {
		return err
	}
	page, err := s.Document("give", d)
	if err != nil {
		return fmt.Errorf("the page of a recipe: %w", err)
	}
	attach(".html")
	c.Data(http.StatusOK, "text/html; charset=utf-8", page)
	return nil
}

// documentOf is what stands in the file of a recipe, and on its card.
func (s *Room) documentOf(c *gin.Context, r given.Recipe, b recipe.Blend, u show.Units) (d givenDocument, err error) {
	set, err := s.Studio.Workshop.Settings(c.Request.Context())
	if err != nil {
		return d, err
	}
	d = givenDocument{Recipe: r, Total: u.Grams(r.TotalG)}
	grams := r.Grams(r.TotalG, floor.InGrams(set.StepMg))
	for i, v := range r.Components {
		row := givenRow{Component: v, Letter: show.Letter(i), Percent: show.Percent(v.Share), Weigh: u.Grams(grams[i]), Kind: v.Content}
		comp := b.Components[i]
		row.Kind, row.Prep = comp.Fibre.Name, strings.ToLower(shelf.PreparationName(v.Preparation))
		if long := v.Staple(); long > 0 {
			row.Staple = u.Length(long)
		}
		if v.JoinsAt > 1 {
			row.Joins = fmt.Sprintf("joins at pass %d", v.JoinsAt)
		}
		row.Tuft = template.HTML(art.Tuft(art.Fibre{ // drawn here: colours and words of the tables alone
			Hexes: comp.Hexes(), Family: comp.Fibre.Family, Crimp: comp.Fibre.Crimp, Lustre: comp.Fibre.Lustre, Prep: v.Preparation,
			Length: comp.StapleMM() * art.RowScale, Seed: uint64(i + 1),
		}))
		d.Rows = append(d.Rows, row)
	}
	if len(r.Layers) > 0 {
		d.Laid = template.HTML(art.Layers(layersOf(r)))
	}
	l, err := s.Studio.Recipe.LabelOf(c.Request.Context(), b.Components...)
	if err != nil {
		return d, err
	}
	d.Label = contentsText(l)
	return d, nil
}

// layersOf are the lays of a recipe, to be drawn.
func layersOf(r given.Recipe) (out [][]art.Stripe) {
	for _, v := range r.Layers {
		var parts []art.Stripe
		for _, y := range v.Lays {
			parts = append(parts, art.Stripe{
				Fibre: art.Fibre{Hexes: []string{r.Components[y.Component].Colour}}, Letter: show.Letter(y.Component), From: y.From, To: y.To,
			})
		}
		out = append(out, parts)
	}
	return out
}

// recipeSchema serves the schema of recipes.
func (s *Room) recipeSchema(c *gin.Context) error {
	c.Data(http.StatusOK, "application/schema+json", given.Schema)
	return nil
}
