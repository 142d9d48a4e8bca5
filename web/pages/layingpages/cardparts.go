package layingpages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/colour"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/web/show"
)

// partsView is what the parts of a foretold batt hold.
type partsView struct {
	Said  string     `json:"said"`
	Parts []HeldView `json:"parts"`
}

// HeldView is what one of them holds.
type HeldView struct {
	Name    string `json:"name"`
	Grams   string `json:"grams"`
	Hex     string `json:"hex"`
	Holds   string `json:"holds"`
	Differs string `json:"differs"`
	Picture string `json:"picture"`
}

// cardParts answers a script with what each strip, half or rolag holds.
func (s *Room) cardParts(c *gin.Context) error {
	f, u, err := s.foretelling(c)
	if err != nil {
		return err
	}
	stage, _ := strconv.Atoi(c.Query("stage"))
	n, _ := strconv.Atoi(c.Query("parts"))
	byWeight := c.Query("weight") != ""
	p, err := s.Studio.Laying.Parts(c.Request.Context(), f, stage, n, byWeight)
	if err != nil {
		return err
	}
	u = u.WithStep(f.Layup.StepG)
	noun, size := "strip", "w=620&h=64"
	if p.Rolags {
		noun, size = "rolag", "w=620&h=96"
	}
	v := partsView{Said: partsSaid(p, noun)}
	for i, part := range p.Parts {
		view := HeldView{
			Name: fmt.Sprintf("%s %d", noun, i+1), Grams: "~" + u.Grams(part.Total()), Hex: p.Even[i].Hex(), Holds: Holds(f.Together(part.Grams), f.Layup),
			Picture: fmt.Sprintf("/layups/%d/card.png?strips=%d&refeed=%s&of=%s&stage=%d&parts=%d&part=%d&%s",
				f.Layup.ID, f.Division.Strips, f.Division.Refeed, f.Digest, stage, len(p.Parts), i+1, size),
		}
		if byWeight {
			view.Picture += "&weight=1"
		}
		if !p.Rolags {
			view.Name += fmt.Sprintf(", %s wide", u.Size(part.To-part.From))
		}
		view.Differs = differs(p, i)
		v.Parts = append(v.Parts, view)
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// Holds says what a part is made of, the most first.
func Holds(grams []float64, l laying.Layup) string {
	var all float64
	var which []int
	for i, g := range grams {
		if all += g; g > 0 && i < len(l.Fibres) {
			which = append(which, i)
		}
	}
	floor.InOrder(which, func(a, b int) int {
		switch {
		case grams[a] > grams[b]:
			return -1
		case grams[a] < grams[b]:
			return 1
		}
		return 0
	})
	var out []string
	for _, i := range which {
		if share := grams[i] / all; share >= 0.005 {
			out = append(out, l.Fibres[i].Name+"\u00a0"+show.Percent(share))
		}
	}
	return strings.Join(out, ", ")
}

// differs says how a part differs from all of them mixed evenly.
func differs(p laying.Parted, i int) string {
	d := colour.Compare(p.All.Lab(), p.Even[i].Lab())
	if d.Same {
		return "the colour of the whole"
	}
	return fmt.Sprintf("%s than the whole · %s", d.Words, show.Fixed(d.DeltaE, 1))
}

// partsSaid says how far parts differ.
func partsSaid(p laying.Parted, noun string) string {
	switch {
	case len(p.Parts) == 1:
		return ""
	case p.Most < colour.SameTo:
		return fmt.Sprintf("The %ss are the same to the eye, mixed evenly (%s CIEDE2000 at most).", noun, show.Fixed(p.Most, 1))
	case p.Most < colour.LittleTo:
		return fmt.Sprintf("Spun one after the other the %ss blend into each other; they differ by %s CIEDE2000 at most.", noun, show.Fixed(p.Most, 1))
	}
	return fmt.Sprintf("Spun one after the other each %s is seen: they differ by up to %s CIEDE2000.", noun, show.Fixed(p.Most, 1))
}
