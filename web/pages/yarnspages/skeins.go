package yarnspages

import (
	"context"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// yarnFormBody is the form of a skein or of a sample.
type yarnFormBody struct {
	Making recipe.Making
	ID     int64
	Form   frame.Form
	Lots   []spunLot
	Plies  []frame.Option
}

// spunLot is a lot of the making on the shelf, which may have been spun up.
type spunLot struct {
	ID   int64
	Name string
	On   bool
}

var plyOptions = []frame.Option{
	{Value: "", Label: "not said"},
	{Value: "single", Label: "single"},
	{Value: "two", Label: "two-ply"},
	{Value: "three", Label: "three-ply"},
	{Value: "chain", Label: "chain-ply"},
}

// amounts are the fields that hold a length or a weight.
var yarnLengths, yarnWeights = []string{"singles_m", "raw_m", "length_m"}, []string{"fibre_g", "raw_g", "weight_g"}

func readYarnLength(u show.Units, f, text string) (float64, error) { return u.ReadYarn(f, text) }

func readYarnWeight(u show.Units, f, text string) (float64, error) { return u.ReadGrams(f, text) }

func amountTexts(f frame.Form, u show.Units, lengths, weights map[string]float64) {
	for k, v := range lengths {
		if v > 0 {
			f.Values[k] = u.PlainYarn(v)
		}
	}
	for k, v := range weights {
		if v > 0 {
			f.Values[k] = u.Amount(v)
		}
	}
}

func (s *Room) newSkein(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	skeins, err := s.Studio.Yarns.SkeinsOf(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	f.Values["name"] = fmt.Sprintf("Skein %d", len(skeins)+1)
	if len(skeins) > 0 && skeins[0].GirthCM > 0 { // the same reel
		u, _, err := s.Units(c)
		if err != nil {
			return err
		}
		f.Values["girth_cm"] = u.PlainLength(10 * skeins[0].GirthCM)
	}
	return s.showSkein(c, http.StatusOK, yarnFormBody{Making: m, Form: f})
}

func (s *Room) skeinPage(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	k, err := s.Studio.Yarns.OneSkein(c.Request.Context(), n)
	if err != nil {
		return err
	}
	m, err := s.Studio.Recipe.Making(c.Request.Context(), k.MakingID)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values = map[string]string{"version": strconv.FormatInt(k.Version, 10), "name": k.Name, "ply": k.Ply, "gone": k.Gone, "note": k.Note}
	if w := k.Later; w != nil {
		for name, v := range map[string]string{"on": w.On, "sheds": w.Sheds, "pills": w.Pills, "halo": w.Halo, "note": w.Note} {
			f.Values["later."+name] = v
		}
	}
	if k.Turns > 0 {
		f.Values["turns"] = strconv.Itoa(k.Turns)
	}
	if k.GirthCM > 0 {
		f.Values["girth_cm"] = u.PlainLength(10 * k.GirthCM)
	}
	amountTexts(f, u, map[string]float64{"singles_m": k.Singles, "raw_m": k.RawM, "length_m": k.LengthM},
		map[string]float64{"fibre_g": k.FibreG, "raw_g": k.RawG, "weight_g": k.WeightG})
	return s.showSkein(c, http.StatusOK, yarnFormBody{Making: m, ID: n, Form: f})
}

// yarnThing is how a skein or a sample is noted and changed from its form.
type yarnThing[T any] struct {
	read  func(*frame.Reader, show.Units) T
	of    func(ctx context.Context, id int64) (making int64, err error)
	add   func(ctx context.Context, making int64, in T) (T, error)
	save  func(ctx context.Context, id, version int64, in T) (T, error)
	stale func(T) (version int64, name string)
	show  func(c *gin.Context, status int, b yarnFormBody) error
}

// saveYarnThing notes one of a making, or changes one; what is wrong stands in the form again.
func saveYarnThing[T any](s *Room, c *gin.Context, t yarnThing[T]) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	r := &frame.Reader{Values: c.Request.PostForm}
	in := t.read(r, u)
	b := yarnFormBody{Form: frame.Typed(r.Values)}
	added := strings.HasPrefix(c.FullPath(), "/makings/")
	if !added {
		b.ID = n
		if n, err = t.of(ctx, n); err != nil {
			return err
		}
	}
	if b.Making, err = s.Studio.Recipe.Making(ctx, n); err != nil {
		return err
	}
	if err = r.Wrong.Err(); err == nil && added {
		_, err = t.add(ctx, n, in)
	} else if err == nil {
		_, err = t.save(ctx, b.ID, r.Version(), in)
	}
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/makings/%d/yarn", n), "saved")
		return nil
	}
	if now, ok := answer.StaleAs[T](err); ok {
		version, name := t.stale(now)
		b.Form.Stale(version, fmt.Sprintf(", as “%s”", name))
		return t.show(c, http.StatusConflict, b)
	}
	if !s.Blame(c, &b.Form, err) {
		return err
	}
	return t.show(c, http.StatusUnprocessableEntity, b)
}

func (s *Room) saveSkein(c *gin.Context) error {
	return saveYarnThing(s, c, yarnThing[yarns.Skein]{
		read: readSkein, add: s.Studio.Yarns.AddSkein, save: s.Studio.Yarns.SaveSkein, show: s.showSkein,
		of: func(ctx context.Context, id int64) (int64, error) {
			k, err := s.Studio.Yarns.OneSkein(ctx, id)
			return k.MakingID, err
		},
		stale: func(k yarns.Skein) (int64, string) { return k.Version, k.Name },
	})
}

func readSkein(r *frame.Reader, u show.Units) yarns.Skein {
	k := yarns.Skein{Name: r.Values.Get("name")}
	k.Ply, k.Gone, k.Note, k.Lots = r.Values.Get("ply"), r.Values.Get("gone"), r.Values.Get("note"), []int64{}
	long, heavy := r.Amounts(u, yarnLengths, readYarnLength), r.Amounts(u, yarnWeights, readYarnWeight)
	k.Singles, k.RawM, k.LengthM = long["singles_m"], long["raw_m"], long["length_m"]
	k.FibreG, k.RawG, k.WeightG = heavy["fibre_g"], heavy["raw_g"], heavy["weight_g"]
	later := func(name string) string { return r.Values.Get("later." + name) }
	k.Later = &yarns.Worn{On: later("on"), Sheds: later("sheds"), Pills: later("pills"), Halo: later("halo"), Note: later("note")}
	if strings.TrimSpace(r.Values.Get("turns")) != "" {
		k.Turns = r.Count("turns", "the turns on the reel")
	}
	if text := strings.TrimSpace(r.Values.Get("girth_cm")); text != "" {
		mm, err := u.ReadLength("girth_cm", text)
		r.Add(err)
		k.GirthCM = mm / 10
	}
	for _, v := range r.Values["lot"] {
		if id, err := strconv.ParseInt(v, 10, 64); err == nil {
			k.Lots = append(k.Lots, id)
		}
	}
	return k
}

func (s *Room) showSkein(c *gin.Context, status int, b yarnFormBody) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b.Plies = plyOptions
	if b.ID == 0 {
		lots, err := s.Studio.Yarns.MadeLots(c.Request.Context(), b.Making.ID)
		if err != nil {
			return err
		}
		for _, l := range lots {
			on := false
			for _, v := range c.Request.PostForm["lot"] {
				on = on || v == strconv.FormatInt(l.ID, 10)
			}
			b.Lots = append(b.Lots, spunLot{l.ID, fmt.Sprintf("%s, %s", l.Name, u.Grams(l.Grams)), on})
		}
	}
	title := "A skein of " + b.Making.Name
	if b.ID != 0 {
		title = b.Form.V("name")
	}
	s.Render(c, status, "skein", frame.Page{Title: title, Here: "makings", Scripts: []string{"js/busy.js"}}, b)
	return nil
}

// dayOf is the day of a moment that travelled as a text.
func dayOf(at string) string {
	t, err := time.Parse(time.RFC3339, at)
	if err != nil {
		return ""
	}
	return show.Date(t)
}
