package pages

import (
	"context"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

func (s *server) newYarnSample(c *gin.Context) error {
	m, err := s.making(c)
	if err != nil {
		return err
	}
	f := newForm()
	list, err := s.studio.Yarns.YarnSamplesOf(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	f.Values["name"] = fmt.Sprintf("Sample %d", len(list)+1)
	return s.showYarnSample(c, http.StatusOK, yarnFormBody{Making: m, Form: f})
}

func (s *server) yarnSample(c *gin.Context) (v yarns.YarnSample, m recipe.Making, err error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return v, m, err
	}
	if v, err = s.studio.Yarns.OneYarnSample(c.Request.Context(), n); err != nil {
		return v, m, err
	}
	m, err = s.studio.Recipe.Making(c.Request.Context(), v.MakingID)
	return v, m, err
}

func (s *server) yarnSamplePage(c *gin.Context) error {
	v, m, err := s.yarnSample(c)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	f := newForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(v.Version, 10), "name": v.Name, "ply": v.Ply, "twist": v.Twist, "checked": v.Checked, "sheds": v.Sheds,
		"hand": v.Hand, "note": v.Note,
	}
	if v.Liked {
		f.Values["liked"] = "yes"
	}
	if v.WPI > 0 {
		f.Values["wpi"] = show.Number(v.WPI)
	}
	amountTexts(f, u, map[string]float64{"singles_m": v.Singles, "raw_m": v.RawM, "length_m": v.LengthM},
		map[string]float64{"fibre_g": v.FibreG, "raw_g": v.RawG, "weight_g": v.WeightG})
	for i, w := range v.Swatches {
		f.Values[swatchField(i, "tool")] = w.Tool
		for name, n := range map[string]float64{"stitches": w.Stitches, "rows": w.Rows} {
			if n > 0 {
				f.Values[swatchField(i, name)] = u.Gauge(n)
			}
		}
	}
	return s.showYarnSample(c, http.StatusOK, yarnFormBody{Making: m, ID: v.ID, Form: f})
}

func swatchField(i int, name string) string { return fmt.Sprintf("swatches[%d].%s", i, name) }

func (s *server) saveYarnSample(c *gin.Context) error {
	return saveYarnThing(s, c, yarnThing[yarns.YarnSample]{
		read: readYarnSample, add: s.studio.Yarns.AddYarnSample, save: s.studio.Yarns.SaveYarnSample, show: s.showYarnSample,
		of: func(ctx context.Context, id int64) (int64, error) {
			v, err := s.studio.Yarns.OneYarnSample(ctx, id)
			return v.MakingID, err
		},
		stale: func(v yarns.YarnSample) (int64, string) { return v.Version, v.Name },
	})
}

// swatchRows is how many pieces lie side by side in the form.
const swatchRows = 3

func readYarnSample(r *reader, u show.Units) yarns.YarnSample {
	v := yarns.YarnSample{Name: r.v.Get("name")}
	v.Ply, v.Twist, v.Checked, v.Sheds, v.Hand, v.Note = r.v.Get("ply"), r.v.Get("twist"), r.v.Get("checked"), r.v.Get("sheds"), r.v.Get("hand"), r.v.Get("note")
	v.Liked = r.v.Get("liked") != ""
	v.WPI = r.orUsual("wpi", "wraps, such as 14")
	long, heavy := r.amounts(u, yarnLengths, readYarnLength), r.amounts(u, yarnWeights, readYarnWeight)
	v.Singles, v.RawM, v.LengthM = long["singles_m"], long["raw_m"], long["length_m"]
	v.FibreG, v.RawG, v.WeightG = heavy["fibre_g"], heavy["raw_g"], heavy["weight_g"]
	v.Swatches = []yarns.SwatchTold{}
	for i := range swatchRows {
		w := yarns.SwatchTold{Tool: r.v.Get(swatchField(i, "tool"))}
		for field, to := range map[string]*float64{swatchField(i, "stitches"): &w.Stitches, swatchField(i, "rows"): &w.Rows} {
			if text := strings.TrimSpace(r.v.Get(field)); text != "" {
				n, err := u.ReadGauge(field, text)
				r.add(err)
				*to = n
			}
		}
		if strings.TrimSpace(w.Tool) != "" || w.Stitches != 0 || w.Rows != 0 {
			v.Swatches = append(v.Swatches, w)
		}
	}
	return v
}

func (s *server) showYarnSample(c *gin.Context, status int, b yarnFormBody) error {
	b.Plies = plyOptions
	title := "A sample for " + b.Making.Name
	if b.ID != 0 {
		title = b.Form.V("name")
	}
	s.render(c, status, "yarnsample", page{Title: title, Here: "makings", Scripts: []string{"js/busy.js"}}, b)
	return nil
}

// cardSizes are the papers that a card fits.
var cardSizes = []string{"A6", "A5", "A4"}

type yarnSampleCardBody struct {
	Making recipe.Making
	Card   sampleCard
	Sizes  []string
	Size   string
}

// yarnSampleCard is a sample to print.
func (s *server) yarnSampleCard(c *gin.Context) error {
	v, m, err := s.yarnSample(c)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	b := yarnSampleCardBody{Making: m, Card: sampleCardOf(v, u), Sizes: cardSizes, Size: cardSizes[0]}
	for _, size := range cardSizes {
		if c.Query("size") == size {
			b.Size = size
		}
	}
	s.render(c, http.StatusOK, "yarnsamplecard", page{Title: v.Name + ", sample card", Here: "makings", Scripts: []string{"js/print.js"}}, b)
	return nil
}
