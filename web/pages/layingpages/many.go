package layingpages

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type manyBody struct {
	Making   recipe.Making
	Form     frame.Form
	Choices  []choiceRow
	Builders []builderWord
	Offs     []frame.Option
	Blends   []manyBlend
	Loadings []loading
	Total    string
}

// manyBlend is a blend that may be laid up with the others.
type manyBlend struct {
	ID        int64
	Name, Hex string
	Sub       string
	Chosen    bool
	LayupID   int64
	LayupOf   string // its lay-up, where it has one
}

// loading is what is filled of a blend, in the order of the making.
type loading struct {
	First, Last int // of all, counted from 1
	Name, Hex   string
	Href, Sub   string
}

// manyOffs are the ways off any tool; where one is none there, the usual one is taken.
func manyOffs() []frame.Option {
	out := []frame.Option{{Value: "", Label: "as usual there"}}
	for _, way := range []layup.OffWay{layup.OffBatt, layup.OffRolags, layup.OffSheet, layup.OffHole, layup.OffStrips, layup.OffMini, layup.OffPunis} {
		name := offWords[way].Name
		if way == layup.OffRolags {
			name = "rolags"
		}
		out = append(out, frame.Option{Value: string(way), Label: name})
	}
	return out
}

func (s *Room) manyForm(c *gin.Context) error {
	f := frame.NewForm()
	f.Values = map[string]string{"builder": string(layup.Sandwich)}
	return s.showMany(c, http.StatusOK, f, nil)
}

func (s *Room) showMany(c *gin.Context, status int, f frame.Form, chosen []int64) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	list, err := s.Studio.Laying.LaidOf(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	p, u, err := s.PageOf(c, m, "Lay-up", nil)
	if err != nil {
		return err
	}
	equipment, err := s.Studio.Workshop.Equipment(c.Request.Context())
	if err != nil {
		return err
	}
	b := manyBody{Making: m, Form: f, Builders: builderWords, Offs: manyOffs()}
	b.fill(list, chosen, u)
	b.equip(list, equipment, u)
	p.Title, p.Scripts = "Lay up all of "+m.Name, []string{"js/print.js"}
	s.Render(c, status, "many", p, b)
	return nil
}

// fill turns the blends into texts; without a choice those are chosen that lie nowhere yet.
func (b *manyBody) fill(list []laying.Laid, chosen []int64, u show.Units) {
	names := map[int64]string{}
	n := 0
	for _, v := range list {
		for _, c := range v.Choices {
			names[c.EquipmentID] = c.Name
		}
		row := manyBlend{ID: v.Blend.ID, Name: v.Blend.Name, Hex: v.Blend.Hex, Sub: u.Grams(v.Blend.TotalG), Chosen: slices.Contains(chosen, v.Blend.ID)}
		if chosen == nil {
			row.Chosen = v.Layup == nil
		}
		if l := v.Layup; l != nil {
			row.LayupID, row.LayupOf = l.ID, names[l.EquipmentID]
			each := v.Blend.TotalG / float64(max(l.Units, 1))
			b.Loadings = append(b.Loadings, loading{
				First: n + 1, Last: n + l.Units, Name: v.Blend.Name, Hex: v.Blend.Hex, Href: fmt.Sprintf("/layups/%d", l.ID),
				Sub: fmt.Sprintf("%s on %s, %s finished each, %s", show.Plural(l.Units, "filling"), names[l.EquipmentID], u.Grams(each), show.Plural(l.Layers, "layer")),
			})
			n += l.Units
		}
		b.Blends = append(b.Blends, row)
	}
	b.Total = show.Plural(n, "filling")
}

// equip puts the equipment side by side, for all blends that are chosen together.
func (b *manyBody) equip(list []laying.Laid, equipment []workshop.Equipment, u show.Units) {
	for _, e := range equipment {
		sum := laying.EquipmentChoice{EquipmentID: e.ID, Name: e.Name, Type: e.Type, Equipment: e}
		for i, v := range list {
			if c, ok := v.On(e.ID); ok && b.Blends[i].Chosen {
				sum.Units, sum.Minutes, sum.Rolags, sum.Punis = sum.Units+c.Units, sum.Minutes+c.Minutes, sum.Rolags+c.Rolags, c.Punis
			}
		}
		if b.Form.V("equipment_id") == "" {
			b.Form.Values["equipment_id"] = strconv.FormatInt(e.ID, 10)
		}
		b.Choices = append(b.Choices, choiceRowOf(sum, u))
	}
}

// layMany lays the chosen blends up, all in the same way.
func (s *Room) layMany(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	in := laying.ManyInput{Blends: answer.Numbers(c.Request.PostForm["blend"])}
	in.Builder, in.Off.Way = layup.Builder(r.Values.Get("builder")), layup.OffWay(r.Values.Get("off"))
	if r.Values.Get("alone_first") != "" {
		in.AloneFirst = 1
	}
	if r.Values.Get("passes") != "" {
		in.Passes = r.Count("passes", "how many")
	}
	if in.EquipmentID, err = strconv.ParseInt(r.Values.Get("equipment_id"), 10, 64); err != nil {
		r.Wrong.Add("equipment_id", "Choose what to lay it on.")
	}
	if len(in.Blends) == 0 {
		r.Wrong.Add("blends", "Choose the blends to lay up.")
	}
	if err = r.Wrong.Err(); err == nil {
		if _, err = s.Studio.Laying.LayAll(c.Request.Context(), m.ID, in); err == nil {
			frame.GoTo(c, fmt.Sprintf("/makings/%d/layup", m.ID), "kept")
			return nil
		}
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	if in.Blends == nil {
		in.Blends = []int64{}
	}
	return s.showMany(c, http.StatusUnprocessableEntity, f, in.Blends)
}
