package reachpages

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// The blends of a making side by side, in the order and widths of the piece. The order stands in the address.

type familyBody struct {
	Making  recipe.Making
	Bands   []familyBand
	Said    string
	Common  []frame.Option
	Choices []frame.Option
	Grey    bool
	Asked   string // the order
	Wrong   string
}

// familyBand is a blend of it; X and W are thousandths of the width.
type familyBand struct {
	N              int
	ID             int64
	Name, Hex, Sub string
	X, W           float64
	Grey           string // its lightness alone
	Join           string
	Abrupt         bool
	Up, Down       string
	Own            string
}

func (s *Room) family(c *gin.Context) error { return s.showFamily(c, http.StatusOK, "") }

func (s *Room) showFamily(c *gin.Context, status int, wrong string) error {
	id, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	m, err := s.Studio.Recipe.Making(ctx, id)
	if err != nil {
		return err
	}
	page, u, err := s.PageOf(c, m, "Blend", nil)
	if err != nil {
		return err
	}
	asked := c.Request.URL.Query()
	f, err := s.Studio.Reach.FamilyOf(ctx, id, answer.Numbers(strings.Split(last(asked, "row"), ",")))
	if err != nil {
		return err
	}
	b := familyBody{Making: m, Grey: last(asked, "grey") == "1", Asked: last(asked, "row"), Wrong: wrong}
	b.fill(f, u)
	if len(f.Common) > 0 {
		table, err := s.Studio.Reach.SpreadOut(ctx, reach.SpreadQuery{Scheme: "neighbours"})
		if err != nil {
			return err
		}
		for _, l := range table.Lots {
			b.Choices = append(b.Choices, frame.Option{Value: strconv.FormatInt(l.ID, 10), Label: l.Name + ", " + u.Grams(l.Grams)})
		}
	}
	page.Title = m.Name + ", its blends side by side"
	s.Render(c, status, "family", page, b)
	return nil
}

// fill turns a family into bands and words.
func (b *familyBody) fill(f reach.Family, u show.Units) {
	var all, at float64
	ids := make([]int64, len(f.Blends))
	for i, v := range f.Blends {
		all += v.TotalG
		ids[i] = v.ID
	}
	for i, v := range f.Blends {
		w := 1000 * v.TotalG / math.Max(all, 1e-9)
		grey := int(math.Round(255 * math.Pow((v.Lightness+16)/116, 3) * 0.999))
		band := familyBand{N: i + 1, ID: v.ID, Name: v.Name, Hex: v.Hex, Sub: u.Grams(v.TotalG), X: at, W: w, Grey: greyOf(grey), Abrupt: v.Abrupt,
			Own: ownSaid(v, f)}
		at += w
		if i+1 < len(f.Blends) {
			band.Join = fmt.Sprintf("a jump of %s to the next", show.Fixed(v.Jump, 1))
			switch {
			case v.Lighter > 0.5:
				band.Join += fmt.Sprintf(", lighter by %s", show.Fixed(v.Lighter, 0))
			case v.Lighter < -0.5:
				band.Join += fmt.Sprintf(", darker by %s", show.Fixed(-v.Lighter, 0))
			default:
				band.Join += ", as light: in grey they are one"
			}
			if v.Abrupt {
				band.Join += "; it stands out"
			}
			band.Down = movedRow(ids, i)
		}
		if i > 0 {
			band.Up = movedRow(ids, i-1)
		}
		b.Bands = append(b.Bands, band)
	}
	for _, c := range f.Common {
		b.Common = append(b.Common, frame.Option{Value: strconv.FormatInt(c.LotID, 10), Label: fmt.Sprintf("%s, %s to %s", c.Name, show.Percent(c.Low),
			show.Percent(c.High))})
	}
	switch {
	case len(f.Blends) < 2:
	case len(f.Common) == 0:
		b.Said = "Nothing is in all of them. A fibre that all share ties a family together."
	default:
		var names []string
		for _, c := range b.Common {
			names = append(names, c.Label)
		}
		b.Said = "In all of them: " + strings.Join(names, "; ") + "."
	}
}

// ownSaid is what a blend holds beside what all share, where they share anything.
func ownSaid(v reach.FamilyBlend, f reach.Family) string {
	if len(f.Common) == 0 {
		return ""
	}
	return strings.Join(v.Own, ", ")
}

// greyOf is a grey of a lightness, from its light (0 to 255 of linear light).
func greyOf(linear int) string {
	v := float64(linear) / 255
	s := 12.92 * v
	if v > 0.0031308 {
		s = 1.055*math.Pow(v, 1/2.4) - 0.055
	}
	n := int(math.Round(255 * math.Min(math.Max(s, 0), 1)))
	return fmt.Sprintf("#%02x%02x%02x", n, n, n)
}

// movedRow is the order with one and the next having changed places.
func movedRow(ids []int64, i int) string {
	out := slices.Clone(ids)
	out[i], out[i+1] = out[i+1], out[i]
	return numbersSaid(out)
}

// changeBase puts another lot in the place of one that all share.
func (s *Room) changeBase(c *gin.Context) error {
	id, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	from, _ := strconv.ParseInt(c.PostForm("from"), 10, 64)
	to, _ := strconv.ParseInt(c.PostForm("to"), 10, 64)
	_, err = s.Studio.Reach.ChangeBase(c.Request.Context(), id, from, to)
	if l, ok := fault.From(err); ok {
		return s.showFamily(c, http.StatusUnprocessableEntity, l[0].In(u))
	}
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/makings/%d/family", id), "saved")
	return nil
}
