package layingpages

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/formats"
	"fairtangle/studio/laying"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// cardPicture draws a stage of a lay-up.
func (s *Room) cardPicture(c *gin.Context) error {
	f, _, err := s.foretelling(c)
	if err != nil {
		return err
	}
	return s.picture(c, f)
}

// blendLooks answers a script with what carding makes of a blend that the usual builder
// lays.
func (s *Room) blendLooks(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	f, err := s.Studio.Laying.ForetellBlend(c.Request.Context(), n)
	if err != nil {
		return err
	}
	stages, err := s.Studio.Laying.Stages(c.Request.Context(), f, true)
	if err != nil {
		return err
	}
	out := []cardStage{}
	for i, st := range stages {
		do := fmt.Sprintf("Plan %s", show.Plural(st.Pass, "pass"))
		if i == 0 || stages[i-1].Look != st.Look {
			do = "Make it " + string(st.Look)
		}
		out = append(out, cardStage{
			Do: do, Pass: st.Pass, Name: passName("pass", st.Pass, len(stages)), Look: string(st.Look), Said: cardSaid(st),
			Picture: fmt.Sprintf("/blends/%d/looks.png?of=%s&stage=%d&w=300&h=110", n, f.Digest, st.Pass),
			Wide:    fmt.Sprintf("/blends/%d/looks.png?of=%s&stage=%d&w=630&h=230", n, f.Digest, st.Pass),
		})
	}
	how := "In full layers on the " + f.Layup.Equipment.Name + "; a lay-up of its own says more."
	if f.Layup.ID != 0 {
		how = "As “" + f.Layup.Name + "” is laid on the " + f.Layup.Equipment.Name + "."
	}
	c.JSON(http.StatusOK, gin.H{"stages": out, "how": how, "even": evenFrom(stages)})
	return nil
}

// evenFrom says from which pass on the colour is seen that all of it has together.
func evenFrom(stages []carding.Stage) string {
	for _, st := range stages {
		if st.Look == carding.Even || st.Look == carding.Heathered {
			return fmt.Sprintf("Nobody sees this colour before pass %d: until then the colours lie apart.", st.Pass)
		}
	}
	return fmt.Sprintf("Nobody sees this colour, not after %s either: the colours lie apart.", show.Plural(len(stages), "pass"))
}

// blendPicture draws one of them.
func (s *Room) blendPicture(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	f, err := s.Studio.Laying.ForetellBlend(c.Request.Context(), n)
	if err != nil {
		return err
	}
	return s.picture(c, f)
}

// picture draws a stage as the address says. The address names what it rests on, so
// browsers keep it.
func (s *Room) picture(c *gin.Context, f *laying.Foretelling) error {
	v := laying.Sight{Side: c.DefaultQuery("side", "face"), Coarse: c.Query("coarse") != ""}
	v.ByWeight = c.Query("weight") != ""
	for name, into := range map[string]*int{"stage": &v.Stage, "w": &v.Width, "h": &v.Height, "parts": &v.Of, "part": &v.Part} {
		*into, _ = strconv.Atoi(c.Query(name))
	}
	for name, into := range map[string]*float64{"u": &v.U, "v": &v.V, "mm": &v.PerMM} {
		*into, _ = strconv.ParseFloat(c.Query(name), 64)
		if math.IsNaN(*into) || math.Abs(*into) > 5000 {
			return fault.New(name, "A loupe lies on the batt.")
		}
	}
	if v.Width < 16 || v.Width > 2000 || v.Height < 16 || v.Height > 2000 || v.PerMM > 40 {
		return fault.New("w", "A picture is 16 to 2000 pixels wide and high.")
	}
	if !slices.Contains([]string{"face", "back", "section"}, v.Side) {
		return fault.New("side", "A batt is seen from its face, its back or as a section.")
	}
	pic, err := s.Studio.Laying.Picture(c.Request.Context(), f, v)
	if err != nil {
		return err
	}
	return SendPicture(c, pic, f.Digest)
}

// SendPicture answers with a picture; where the address names what it rests on, browsers keep it.
func SendPicture(c *gin.Context, pic *appearance.Picture, digest string) error {
	data, err := formats.WritePNG(pic.W, pic.H, pic.RGBA(nil))
	if err != nil {
		return err
	}
	if c.Query("of") == digest {
		answer.ForEver(c)
	}
	c.Data(http.StatusOK, "image/png", data)
	return nil
}
