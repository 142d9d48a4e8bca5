package practicepages

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// classroomBody is what a class weighs, bag by bag, and what each does at her place.
type classroomBody struct {
	Making recipe.Making
	Bags   []openBag
	Open   *openBag // the one that is open now; nil: all is weighed
	Places []place
	Left   string
	Start  bool // nothing is planned to be weighed yet
}

// openBag is a bag with who takes how much of it.
type openBag struct {
	Name    string
	HexList []string
	Short   string
	Pupils  []portion
	Done    int
}

// portion is what a pupil takes of a bag.
type portion struct {
	Name, Grams, Href string
	Done              bool
}

// place is the sheet of a pupil.
type place struct {
	Name, Hex string
	Weigh     []portion
	Total     string
	On        string
	Passes    int
	Layers    []string
}

// classroom is what stands of the lesson that is a making.
func (s *Room) classroom(c *gin.Context) (b classroomBody, list scale.WeighList, u show.Units, err error) {
	id, u, err := s.Named(c)
	if err != nil {
		return b, list, u, err
	}
	if b.Making, err = s.Studio.Recipe.Making(c.Request.Context(), id); err != nil {
		return b, list, u, err
	}
	if list, err = s.Studio.Scale.WeighListOf(c.Request.Context(), id, nil); err != nil {
		return b, list, u, err
	}
	b.Left, b.Start = u.Grams(max(0, list.TotalG-list.WeighedG)), len(list.Columns) == 0
	for _, f := range list.Fibres {
		bag := openBag{Name: f.Name, HexList: f.HexList}
		if u.Shows(f.ShortG) {
			bag.Short = "short by " + u.Grams(f.ShortG)
		}
		for n, g := range f.Grams {
			if g <= 0 {
				continue
			}
			v := list.Columns[n]
			bag.Pupils = append(bag.Pupils, portion{v.Name, u.Grams(g), fmt.Sprintf("/weighouts/%d/scale", v.WeighoutID), f.Done[n]})
			if f.Done[n] {
				bag.Done++
			}
		}
		b.Bags = append(b.Bags, bag)
	}
	for i := range b.Bags {
		if b.Open == nil && b.Bags[i].Done < len(b.Bags[i].Pupils) {
			b.Open = &b.Bags[i]
		}
	}
	return b, list, u, nil
}

// classWall shows who has weighed what: one bag is open at a time.
func (s *Room) classWall(c *gin.Context) error {
	b, _, _, err := s.classroom(c)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "classwall", frame.Page{Title: b.Making.Name, Here: "makings", Scripts: []string{"js/wall.js"}}, b)
	return nil
}

// placeSheets are the sheets for the places, to print.
func (s *Room) placeSheets(c *gin.Context) error {
	b, list, u, err := s.classroom(c)
	if err != nil {
		return err
	}
	rows, err := s.Studio.Laying.LayupsOfMaking(c.Request.Context(), b.Making.ID)
	if err != nil {
		return err
	}
	laid := map[int64]laying.Layup{}
	for _, r := range rows {
		if _, known := laid[r.BlendID]; known {
			continue // the latest touched counts
		}
		l, err := s.Studio.Laying.Layup(c.Request.Context(), r.ID)
		if err != nil {
			return err
		}
		laid[r.BlendID] = l
	}
	for n, v := range list.Columns {
		p := place{Name: v.Name, Hex: v.Hex}
		for _, f := range list.Fibres {
			if f.Grams[n] > 0 {
				p.Weigh = append(p.Weigh, portion{Name: f.Name, Grams: u.Grams(f.Grams[n])})
			}
		}
		p.Total = u.Grams(v.TotalG)
		if l, known := laid[v.BlendID]; known {
			p.On, p.Passes = l.Equipment.Name, l.LastPass
			p.Layers = layersIn(l, u)
		}
		b.Places = append(b.Places, p)
	}
	s.Render(c, http.StatusOK, "placesheets", frame.Page{Title: "Sheets for the places", Here: "makings", Scripts: []string{"js/print.js"}}, b)
	return nil
}

// layersIn are the layers of a lay-up in words, from the cloth up.
func layersIn(l laying.Layup, u show.Units) (out []string) {
	for _, layer := range l.LaidPlan.Layers {
		var of []string
		for _, v := range layer.Lays {
			how := ""
			if v.Method != layup.Feed {
				how = ", by hand"
			}
			of = append(of, u.Grams(v.Grams)+" of "+l.LaidFibres[v.Component].Name+how)
		}
		out = append(out, strings.Join(of, "; beside it "))
	}
	return out
}
