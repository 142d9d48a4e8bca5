package advisingpages

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/advice"
	"fairtangle/studio/advising"
	"fairtangle/studio/floor"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// ruleName is what a rule is called by its key.
func ruleName(t advice.Text) string {
	name := strings.ReplaceAll(t.Key, "_", " ")
	return strings.ToUpper(name[:1]) + name[1:]
}

type adviceBody struct {
	Groups   []ruleGroup
	Silences []silenceLine
}

type ruleGroup struct {
	Name  string
	Rules []ruleLine
}

type ruleLine struct{ ID, Name, Why string }

type silenceLine struct {
	ID                        int64
	Rule, Name, Where, Reason string
}

// advicePage lists all rules, and which are silenced.
func (s *Room) advicePage(c *gin.Context) error {
	var b adviceBody
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	for _, t := range advice.Texts() {
		if n := len(b.Groups); n == 0 || b.Groups[n-1].Name != t.Group {
			b.Groups = append(b.Groups, ruleGroup{Name: t.Group})
		}
		g := &b.Groups[len(b.Groups)-1]
		g.Rules = append(g.Rules, ruleLine{t.ID, ruleName(t), u.Prose(t.Why)})
	}
	list, err := s.Studio.Advising.Silences(c.Request.Context())
	if err != nil {
		return err
	}
	for _, v := range list {
		t, _ := advice.TextOf(v.Rule)
		line := silenceLine{v.ID, v.Rule, ruleName(t), "for good", v.Reason}
		if m, err := s.Studio.Recipe.Making(c.Request.Context(), v.MakingID); err == nil {
			line.Where = "in " + m.Name
		}
		b.Silences = append(b.Silences, line)
	}
	s.Render(c, http.StatusOK, "advice", frame.Page{Title: "What the second look looks at", Here: "workshop", Scripts: []string{"js/print.js"}}, b)
	return nil
}

type ruleBody struct {
	Text   advice.Text
	Name   string
	Panels []art.RulePanel // a drawing, where one helps
	Form   frame.Form
	Fields []frame.NeedField
	Quiet  string // where it is silenced: for good, in a making
	Action string
}

func (s *Room) ruleOf(c *gin.Context) (t advice.Text, err error) {
	t, ok := advice.TextOf(c.Param("rule"))
	if !ok {
		return t, floor.ErrNotFound
	}
	u, _, err := s.Units(c)
	t.When, t.Why, t.Do, t.Schools = u.Prose(t.When), u.Prose(t.Why), u.Prose(t.Do), u.Prose(t.Schools)
	return t, err
}

// rulePage says why a rule is one, and lets its figures be set.
func (s *Room) rulePage(c *gin.Context) error {
	t, err := s.ruleOf(c)
	if err != nil {
		return err
	}
	return s.showRule(c, http.StatusOK, t, frame.NewForm())
}

func (s *Room) showRule(c *gin.Context, status int, t advice.Text, f frame.Form) error {
	own, err := s.Studio.Workshop.RuleBounds(c.Request.Context())
	if err != nil {
		return err
	}
	b := ruleBody{Text: t, Name: ruleName(t), Panels: art.RulePicture(t.ID), Form: f, Quiet: "for good", Action: "/advice/" + t.ID + "/silence"}
	if id, err := strconv.ParseInt(c.Query("blend"), 10, 64); err == nil { // from beside a blend
		of, err := s.Studio.Recipe.Blend(c.Request.Context(), id)
		if err != nil {
			return err
		}
		m, err := s.Studio.Recipe.Making(c.Request.Context(), of.MakingID)
		if err != nil {
			return err
		}
		b.Quiet, b.Action = "in "+m.Name, fmt.Sprintf("%s?blend=%d", b.Action, id)
	}
	usual := advice.Defaults()
	var keys []string
	for k := range usual {
		if strings.HasPrefix(k, t.ID+" ") {
			keys = append(keys, k)
		}
	}
	slices.Sort(keys)
	for _, k := range keys {
		_, label, _ := strings.Cut(k, " ")
		v := usual[k]
		hint := "usual"
		if o, ok := own[k]; ok && o != v {
			v, hint = o, "your own; usual is "+show.Number(usual[k])
		}
		if _, kept := f.Values[k]; !kept {
			b.Form.Values[k] = show.Number(v)
		}
		b.Fields = append(b.Fields, frame.NeedField{Name: k, Label: label, Hint: hint})
	}
	s.Render(c, status, "rule", frame.Page{Title: b.Name, Here: "workshop", Scripts: []string{"js/print.js"}}, b)
	return nil
}

// saveBounds sets the figures of a rule.
func (s *Room) saveBounds(c *gin.Context) error {
	t, err := s.ruleOf(c)
	if err != nil {
		return err
	}
	if _, err := s.Posted(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	in := map[string]float64{}
	for k := range advice.Defaults() {
		if strings.HasPrefix(k, t.ID+" ") && r.Values.Has(k) {
			in[k] = r.Number(k, "a figure, such as 0.3")
		}
	}
	if err = r.Wrong.Err(); err == nil {
		err = s.Studio.Advising.SetRuleBounds(c.Request.Context(), in)
	}
	if err == nil {
		frame.GoTo(c, "/advice/"+t.ID, "saved")
		return nil
	}
	f := frame.Typed(r.Values)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showRule(c, http.StatusUnprocessableEntity, t, f)
}

// silenceRule has a rule be quiet: in the making of a blend, or for good.
func (s *Room) silenceRule(c *gin.Context) error {
	t, err := s.ruleOf(c)
	if err != nil {
		return err
	}
	if _, err := s.Posted(c); err != nil {
		return err
	}
	ctx := c.Request.Context()
	in := advising.Silence{Rule: t.ID, Reason: c.PostForm("reason")}
	back := "/advice"
	if id, err := strconv.ParseInt(c.Query("blend"), 10, 64); err == nil {
		b, err := s.Studio.Recipe.Blend(ctx, id)
		if err != nil {
			return err
		}
		in.MakingID, back = b.MakingID, fmt.Sprintf("/blends/%d", id)
	}
	if _, err = s.Studio.Advising.AddSilence(ctx, in); err == nil {
		frame.GoTo(c, back, "saved")
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showRule(c, http.StatusUnprocessableEntity, t, f)
}
