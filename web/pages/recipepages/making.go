package recipepages

import (
	"fmt"
	"net/http"
	"slices"
	"sort"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio/buying"
	"fairtangle/studio/laying"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// Making is the making of the path.
func (s *Room) Making(c *gin.Context) (recipe.Making, error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return recipe.Making{}, err
	}
	return s.Studio.Recipe.Making(c.Request.Context(), n)
}

type makingBody struct {
	Making  recipe.Making
	Form    frame.Form
	Blends  []MakingBlend
	Weighs  []weighRow
	Ladders []reach.Ladder
	Layups  []layupRow
	Need    []needRow
	Runs    []frame.RunRow
	NewForm frame.Form
	Wanted  []string // lots that others want too, and what lacks
}

// MakingBlend is a blend in the list of its making.
type MakingBlend struct {
	recipe.Blend
	Bands []BandPart
}

// BandPart is a fibre in a small share bar.
type BandPart struct {
	URL    string
	Name   string
	Share  float64
	X, W   float64
	Letter string
}

type weighRow struct {
	recipe.WeighoutRow
	Blend string
}

// layupRow is a lay-up with the name of its blend.
type layupRow struct {
	laying.LayupRow
	Blend string
}

// needRow is a lot with what all blends of the making want of it.
type needRow struct {
	Name, Sub string
	Href      string
	Tuft      art.Link
	NeedG     float64
	HaveG     *float64
	ShortG    float64
	Blends    int
}

func (s *Room) makingPage(c *gin.Context) error {
	m, err := s.Making(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values = map[string]string{"name": m.Name, "note": m.Note, "version": strconv.FormatInt(m.Version, 10)}
	return s.ShowMaking(c, http.StatusOK, m, f, frame.NewForm())
}

// ShowMaking shows a making.
func (s *Room) ShowMaking(c *gin.Context, status int, m recipe.Making, f, blendForm frame.Form) error {
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	b := makingBody{Making: m, Form: f, NewForm: blendForm, Need: needsOf(st)}
	names := map[int64]string{}
	for _, v := range st.Blends {
		names[v.ID] = v.Name
		b.Blends = append(b.Blends, MakingBlend{v, BandsOf(v)})
	}
	for _, l := range st.Layups {
		b.Layups = append(b.Layups, layupRow{l, names[l.BlendID]})
	}
	for _, w := range st.Weighs {
		b.Weighs = append(b.Weighs, weighRow{w, names[w.BlendID]})
	}
	runs, err := s.Studio.Carder.RunsOf(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	b.Runs = frame.RunRows(runs, u)
	if b.Ladders, err = s.Studio.Reach.GradientsOf(c.Request.Context(), m.ID); err != nil {
		return err
	}
	if b.Wanted, err = s.WantedToo(c, m.ID, u); err != nil {
		return err
	}
	s.Render(c, status, "making", frame.Page{
		Title: m.Name, Here: "makings", Wide: true, Strand: frame.StrandFor(m, st, "Fibres", nil, set.Ground), Scripts: []string{"js/look.js"},
	}, b)
	return nil
}

// BandsOf places the bands of a small share bar, in percent of its width.
func BandsOf(b recipe.Blend) (out []BandPart) {
	var x float64
	for i, v := range b.Components {
		out = append(out, BandPart{art.BandLink(v.KindProperties(), v.Hexes(), i, art.SmallTile), v.Name, v.Share, x * 100, v.Share * 100, show.Letter(i)})
		x += v.Share
	}
	return out
}

// needsOf adds up what the blends still want of each lot, the shortest first.
func needsOf(st frame.State) (out []needRow) {
	at := map[string]int{}
	for _, b := range st.Blends {
		for _, v := range b.Components {
			need := max(0, v.WeighG-v.WeighedG)
			key := "buy " + v.Name + v.Kind + v.Hex
			row := needRow{Name: v.Name, Sub: v.KindProperties().Name + ", still to buy", HaveG: v.HaveG}
			if v.Lot == nil && v.HaveG != nil {
				key = "own " + v.Name + v.Kind + v.Hex
				row.Sub, row.HaveG = v.KindProperties().Name+", no lot", new(float64)
			}
			if v.Lot != nil {
				key = strconv.FormatInt(v.Lot.ID, 10) + v.Only
				row.Sub, row.Href = v.Lot.KindName+" · "+v.Lot.PreparationName(), fmt.Sprintf("/lots/%d", v.Lot.ID)
				if v.InBin {
					row.Sub, row.Href = row.Sub+" · in the bin", "/bin"
				}
			}
			i, ok := at[key]
			if !ok {
				i = len(out)
				at[key] = i
				seed := int64(i + 1)
				if v.Lot != nil {
					seed = v.Lot.ID
				}
				row.Tuft = art.TuftLink(v.KindProperties(), v.Preparation, v.Hexes(), nil, v.StapleMM(), art.RowScale, seed)
				out = append(out, row)
			}
			if v.Lot == nil && v.HaveG != nil { // each blend has its own of it
				*out[i].HaveG += max(0, *v.HaveG-v.WeighedG)
			}
			out[i].NeedG += need
			out[i].Blends++
		}
	}
	for i, r := range out {
		if r.HaveG != nil {
			out[i].ShortG = max(0, r.NeedG-*r.HaveG)
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].ShortG > out[b].ShortG })
	return out
}

func (s *Room) updateMaking(c *gin.Context) error {
	m, err := s.Making(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	_, err = s.Studio.Recipe.UpdateMaking(
		c.Request.Context(),
		m.ID,
		r.Version(),
		recipe.MakingInput{Name: r.Values.Get("name"), Note: r.Values.Get("note"), Archived: m.Archived},
	)
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/makings/%d", m.ID), "saved")
		return nil
	}
	f := frame.Typed(r.Values)
	if now, ok := answer.StaleAs[recipe.Making](err); ok {
		f.Stale(now.Version, fmt.Sprintf(", under the name “%s”, with the note “%s”", now.Name, now.Note))
		return s.ShowMaking(c, http.StatusConflict, m, f, frame.NewForm())
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.ShowMaking(c, http.StatusUnprocessableEntity, m, f, frame.NewForm())
}

func (s *Room) copyMaking(c *gin.Context) error {
	m, err := s.Making(c)
	if err != nil {
		return err
	}
	if m, err = s.Studio.Recipe.CopyMaking(c.Request.Context(), m.ID); err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/makings/%d", m.ID), "copied")
	return nil
}

func (s *Room) archiveMaking(c *gin.Context) error {
	m, err := s.Making(c)
	if err != nil {
		return err
	}
	_, err = s.Studio.Recipe.UpdateMaking(c.Request.Context(), m.ID, m.Version, recipe.MakingInput{Name: m.Name, Note: m.Note, Archived: !m.Archived})
	if err != nil {
		return err
	}
	frame.GoTo(c, "/makings", map[bool]string{true: "unarchived", false: "archived"}[m.Archived])
	return nil
}

func (s *Room) createBlend(c *gin.Context) error {
	m, err := s.Making(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	total, err := s.Studio.Yarns.NewBlendG(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	b, err := s.Studio.Recipe.CreateBlend(c.Request.Context(), m.ID, recipe.BlendInput{
		Name: c.PostForm("blend_name"), TotalG: total, Passes: layup.PassesBy(m.Schools, reach.DefaultPasses),
	})
	if err != nil {
		f := frame.Typed(c.Request.PostForm)
		if !s.Blame(c, &f, err) {
			return err
		}
		mf := frame.NewForm()
		mf.Values = map[string]string{"name": m.Name, "note": m.Note, "version": strconv.FormatInt(m.Version, 10)}
		return s.ShowMaking(c, http.StatusUnprocessableEntity, m, mf, f)
	}
	frame.GoTo(c, fmt.Sprintf("/blends/%d", b.ID), "")
	return nil
}

// WantedToo says which lots of a making others want too, where there is not enough for all: who
// was first, and what each lacks.
func (s *Room) WantedToo(c *gin.Context, making int64, u show.Units) (out []string, err error) {
	claims, err := s.Studio.Buying.ClaimsOf(c.Request.Context(), making)
	if err != nil {
		return nil, err
	}
	of := map[int64][]buying.Claim{}
	for _, v := range claims {
		of[v.LotID] = append(of[v.LotID], v)
	}
	for _, v := range claims {
		list := of[v.LotID]
		if v.MakingID != making || len(list) < 2 || !slices.ContainsFunc(list, func(c buying.Claim) bool { return c.LacksG > 0 }) {
			continue
		}
		lot, err := s.Studio.Shelf.Lot(c.Request.Context(), v.LotID)
		if err != nil {
			return nil, err
		}
		var said []string
		for _, w := range list {
			text := fmt.Sprintf("%s wants %s", w.Making, u.Grams(w.Grams))
			if w.LacksG > 0 {
				text += fmt.Sprintf(" and lacks %s", u.Grams(w.LacksG))
			}
			said = append(said, text)
		}
		out = append(out, fmt.Sprintf("%s, %s: first %s.", lot.Name, u.Grams(lot.Grams), strings.Join(said, ", then ")))
	}
	return out, nil
}
