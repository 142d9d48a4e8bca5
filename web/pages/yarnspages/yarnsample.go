package yarnspages

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

func (s *Room) newYarnSample(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	list, err := s.Studio.Yarns.YarnSamplesOf(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	f.Values["name"] = fmt.Sprintf("Sample %d", len(list)+1)
	return s.showYarnSample(c, http.StatusOK, yarnFormBody{Making: m, Form: f})
}

func (s *Room) yarnSample(c *gin.Context) (v yarns.YarnSample, m recipe.Making, err error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return v, m, err
	}
	if v, err = s.Studio.Yarns.OneYarnSample(c.Request.Context(), n); err != nil {
		return v, m, err
	}
	m, err = s.Studio.Recipe.Making(c.Request.Context(), v.MakingID)
	return v, m, err
}

func (s *Room) yarnSamplePage(c *gin.Context) error {
	v, m, err := s.yarnSample(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(v.Version, 10), "name": v.Name, "ply": v.Ply, "twist": v.Twist, "checked": v.Checked, "sheds": v.Sheds,
		"hand": v.Hand, "note": v.Note,
	}
	if v.Liked {
		f.Values["liked"] = "yes"
	}
	if v.BumpsCM > 0 {
		f.Values["bumps_per_cm"] = show.Number(math.Round(100*u.InBumps(v.BumpsCM)) / 100)
	}
	if v.WPI > 0 {
		f.Values["wpi"] = show.Number(v.WPI)
	}
	amountTexts(f, u, map[string]float64{"singles_m": v.Singles, "raw_m": v.RawM, "length_m": v.LengthM},
		map[string]float64{"fibre_g": v.FibreG, "raw_g": v.RawG, "weight_g": v.WeightG})
	for i, w := range v.Swatches {
		f.Values[swatchField(i, "tool")] = w.Tool
		f.Values[swatchField(i, "why")] = w.Why
		if w.Liked {
			f.Values["liked_piece"] = strconv.Itoa(i)
		}
		for name, n := range map[string]float64{"stitches": w.Stitches, "rows": w.Rows, "raw_stitches": w.RawStitches, "raw_rows": w.RawRows} {
			if n > 0 {
				f.Values[swatchField(i, name)] = u.Gauge(n)
			}
		}
	}
	return s.showYarnSample(c, http.StatusOK, yarnFormBody{Making: m, ID: v.ID, Form: f})
}

func swatchField(i int, name string) string { return fmt.Sprintf("swatches[%d].%s", i, name) }

func (s *Room) saveYarnSample(c *gin.Context) error {
	return saveYarnThing(s, c, yarnThing[yarns.YarnSample]{
		read: readYarnSample, add: s.Studio.Yarns.AddYarnSample, save: s.Studio.Yarns.SaveYarnSample, show: s.showYarnSample,
		of: func(ctx context.Context, id int64) (int64, error) {
			v, err := s.Studio.Yarns.OneYarnSample(ctx, id)
			return v.MakingID, err
		},
		stale: func(v yarns.YarnSample) (int64, string) { return v.Version, v.Name },
	})
}

// swatchRows is how many pieces lie side by side in the form.
const swatchRows = 3

func readYarnSample(r *frame.Reader, u show.Units) yarns.YarnSample {
	v := yarns.YarnSample{Name: r.Values.Get("name")}
	for field, to := range map[string]*string{"ply": &v.Ply, "twist": &v.Twist, "checked": &v.Checked, "sheds": &v.Sheds, "hand": &v.Hand, "note": &v.Note} {
		*to = r.Values.Get(field)
	}
	v.Liked = r.Values.Get("liked") != ""
	v.WPI = r.OrUsual("wpi", "wraps, such as 14")
	v.BumpsCM = u.FromBumps(r.OrUsual("bumps_per_cm", "how many there are, such as 4"))
	long, heavy := r.Amounts(u, yarnLengths, readYarnLength), r.Amounts(u, yarnWeights, readYarnWeight)
	v.Singles, v.RawM, v.LengthM = long["singles_m"], long["raw_m"], long["length_m"]
	v.FibreG, v.RawG, v.WeightG = heavy["fibre_g"], heavy["raw_g"], heavy["weight_g"]
	v.Swatches = []yarns.SwatchTold{}
	for i := range swatchRows {
		w := yarns.SwatchTold{Tool: r.Values.Get(swatchField(i, "tool")), Why: r.Values.Get(swatchField(i, "why"))}
		w.Liked = r.Values.Get("liked_piece") == strconv.Itoa(i)
		for name, to := range map[string]*float64{"stitches": &w.Stitches, "rows": &w.Rows, "raw_stitches": &w.RawStitches, "raw_rows": &w.RawRows} {
			field := swatchField(i, name)
			if text := strings.TrimSpace(r.Values.Get(field)); text != "" {
				n, err := u.ReadGauge(field, text)
				r.Add(err)
				*to = n
			}
		}
		if strings.TrimSpace(w.Tool+w.Why) != "" || w.Liked || w.Stitches+w.Rows+w.RawStitches+w.RawRows != 0 {
			v.Swatches = append(v.Swatches, w)
		}
	}
	return v
}

func (s *Room) showYarnSample(c *gin.Context, status int, b yarnFormBody) error {
	b.Plies = plyOptions
	title := "A sample for " + b.Making.Name
	if b.ID != 0 {
		title = b.Form.V("name")
	}
	s.Render(c, status, "yarnsample", frame.Page{Title: title, Here: "makings", Scripts: []string{"js/busy.js"}}, b)
	return nil
}

type yarnSampleCardBody struct {
	Making recipe.Making
	Card   sampleCard
	Sizes  []string
	Size   string
}

// yarnSampleCard is a sample to print.
func (s *Room) yarnSampleCard(c *gin.Context) error {
	v, m, err := s.yarnSample(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b := yarnSampleCardBody{Making: m, Card: SampleCardOf(v, u), Sizes: frame.CardSizes, Size: frame.CardSize(c, "A6")}
	s.Render(c, http.StatusOK, "yarnsamplecard", frame.Page{Title: v.Name + ", sample card", Here: "makings", Scripts: []string{"js/print.js"}}, b)
	return nil
}
