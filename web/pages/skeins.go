package pages

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
	"fairtangle/web/show"
)

// yarnFormBody is the form of a skein or of a sample.
type yarnFormBody struct {
	Making recipe.Making
	ID     int64
	Form   form
	Lots   []spunLot
	Plies  []option
}

// spunLot is a lot of the making on the shelf, which may have been spun up.
type spunLot struct {
	ID   int64
	Name string
	On   bool
}

var plyOptions = []option{{"", "not said"}, {"single", "single"}, {"two", "two-ply"}, {"three", "three-ply"}, {"chain", "chain-ply"}}

// amounts are the fields that hold a length or a weight.
var yarnLengths, yarnWeights = []string{"singles_m", "raw_m", "length_m"}, []string{"fibre_g", "raw_g", "weight_g"}

// readAmounts reads lengths and weights that may be left out.
func (r *reader) amounts(u show.Units, fields []string, read func(show.Units, string, string) (float64, error)) map[string]float64 {
	out := map[string]float64{}
	for _, f := range fields {
		if text := strings.TrimSpace(r.v.Get(f)); text != "" {
			v, err := read(u, f, text)
			r.add(err)
			out[f] = v
		}
	}
	return out
}

func readYarnLength(u show.Units, f, text string) (float64, error) { return u.ReadYarn(f, text) }

func readYarnWeight(u show.Units, f, text string) (float64, error) { return u.ReadGrams(f, text) }

func amountTexts(f form, u show.Units, lengths, weights map[string]float64) {
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

func (s *server) newSkein(c *gin.Context) error {
	m, err := s.making(c)
	if err != nil {
		return err
	}
	f := newForm()
	skeins, err := s.studio.Yarns.SkeinsOf(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	f.Values["name"] = fmt.Sprintf("Skein %d", len(skeins)+1)
	if len(skeins) > 0 && skeins[0].GirthCM > 0 { // the same reel
		u, _, err := s.units(c)
		if err != nil {
			return err
		}
		f.Values["girth_cm"] = u.PlainLength(10 * skeins[0].GirthCM)
	}
	return s.showSkein(c, http.StatusOK, yarnFormBody{Making: m, Form: f})
}

func (s *server) skeinPage(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	k, err := s.studio.Yarns.OneSkein(c.Request.Context(), n)
	if err != nil {
		return err
	}
	m, err := s.studio.Recipe.Making(c.Request.Context(), k.MakingID)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	f := newForm()
	f.Values = map[string]string{"version": strconv.FormatInt(k.Version, 10), "name": k.Name, "ply": k.Ply, "gone": k.Gone, "note": k.Note}
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
	read  func(*reader, show.Units) T
	of    func(ctx context.Context, id int64) (making int64, err error)
	add   func(ctx context.Context, making int64, in T) (T, error)
	save  func(ctx context.Context, id, version int64, in T) (T, error)
	stale func(T) (version int64, name string)
	show  func(c *gin.Context, status int, b yarnFormBody) error
}

// saveYarnThing notes one of a making, or changes one; what is wrong stands in the form again.
func saveYarnThing[T any](s *server, c *gin.Context, t yarnThing[T]) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.posted(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	r := &reader{v: c.Request.PostForm}
	in := t.read(r, u)
	b := yarnFormBody{Form: typed(r.v)}
	added := strings.HasPrefix(c.FullPath(), "/makings/")
	if !added {
		b.ID = n
		if n, err = t.of(ctx, n); err != nil {
			return err
		}
	}
	if b.Making, err = s.studio.Recipe.Making(ctx, n); err != nil {
		return err
	}
	if err = r.wrong.Err(); err == nil && added {
		_, err = t.add(ctx, n, in)
	} else if err == nil {
		_, err = t.save(ctx, b.ID, r.version(), in)
	}
	if err == nil {
		goTo(c, fmt.Sprintf("/makings/%d/yarn", n), "saved")
		return nil
	}
	if now, ok := answer.StaleAs[T](err); ok {
		version, name := t.stale(now)
		b.Form.stale(version, fmt.Sprintf(", as “%s”", name))
		return t.show(c, http.StatusConflict, b)
	}
	if !s.blame(c, &b.Form, err) {
		return err
	}
	return t.show(c, http.StatusUnprocessableEntity, b)
}

func (s *server) saveSkein(c *gin.Context) error {
	return saveYarnThing(s, c, yarnThing[yarns.Skein]{
		read: readSkein, add: s.studio.Yarns.AddSkein, save: s.studio.Yarns.SaveSkein, show: s.showSkein,
		of: func(ctx context.Context, id int64) (int64, error) {
			k, err := s.studio.Yarns.OneSkein(ctx, id)
			return k.MakingID, err
		},
		stale: func(k yarns.Skein) (int64, string) { return k.Version, k.Name },
	})
}

func readSkein(r *reader, u show.Units) yarns.Skein {
	k := yarns.Skein{Name: r.v.Get("name")}
	k.Ply, k.Gone, k.Note, k.Lots = r.v.Get("ply"), r.v.Get("gone"), r.v.Get("note"), []int64{}
	long, heavy := r.amounts(u, yarnLengths, readYarnLength), r.amounts(u, yarnWeights, readYarnWeight)
	k.Singles, k.RawM, k.LengthM = long["singles_m"], long["raw_m"], long["length_m"]
	k.FibreG, k.RawG, k.WeightG = heavy["fibre_g"], heavy["raw_g"], heavy["weight_g"]
	if strings.TrimSpace(r.v.Get("turns")) != "" {
		k.Turns = r.count("turns", "the turns on the reel")
	}
	if text := strings.TrimSpace(r.v.Get("girth_cm")); text != "" {
		mm, err := u.ReadLength("girth_cm", text)
		r.add(err)
		k.GirthCM = mm / 10
	}
	for _, v := range r.v["lot"] {
		if id, err := strconv.ParseInt(v, 10, 64); err == nil {
			k.Lots = append(k.Lots, id)
		}
	}
	return k
}

func (s *server) showSkein(c *gin.Context, status int, b yarnFormBody) error {
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	b.Plies = plyOptions
	if b.ID == 0 {
		lots, err := s.studio.Yarns.MadeLots(c.Request.Context(), b.Making.ID)
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
	s.render(c, status, "skein", page{Title: title, Here: "makings", Scripts: []string{"js/busy.js"}}, b)
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
