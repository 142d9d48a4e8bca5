package yarnspages

import (
	"fmt"

	"github.com/gin-gonic/gin"

	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/recipepages"
)

// skeinLabels shows the labels of a skein: one, with what it weighs and how long it is.
func (s *Room) skeinLabels(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	k, err := s.Studio.Yarns.OneSkein(c.Request.Context(), n)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	l, err := s.Studio.Yarns.LabelOf(c.Request.Context(), k)
	if err != nil {
		return err
	}
	known := map[string]string{"count": "1", "ply": plyWords[k.Ply], "date": dayOf(k.At)}
	if k.WeightG > 0 {
		known["grams"] = u.Plain(k.WeightG)
	}
	if k.LengthM > 0 {
		known["length"] = u.PlainYarn(k.LengthM)
	}
	return s.recipe.Labels(c, frame.Page{Here: "makings"}, u, recipepages.Labelled{
		Path: fmt.Sprintf("/skeins/%d", k.ID), Back: "Back to the skein", Name: k.Name, Label: l, Known: known, IsYarn: true,
	})
}
