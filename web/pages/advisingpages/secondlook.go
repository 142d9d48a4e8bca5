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
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// SecondView is the second look where a maker stands; all texts are ready.
type SecondView struct {
	Said  string         `json:"said"`
	Open  []findingView  `json:"open"` // three at most
	More  []findingView  `json:"more"`
	Asks  []askView      `json:"asks"` // what can be told here
	There []wayThere     `json:"there"`
	Told  []toldView     `json:"told"`
	Quiet []quietFinding `json:"quiet"`
}

type findingView struct {
	ID        string   `json:"id"`
	Rule      string   `json:"rule"`
	Key       string   `json:"key"`
	Component int      `json:"component"`
	Layer     int      `json:"layer"`
	Blend     int64    `json:"blend"`
	Layup     int64    `json:"layup"`
	Severity  string   `json:"severity"`
	Weight    string   `json:"weight"`
	What      string   `json:"what"`
	Why       string   `json:"why"`
	Do        string   `json:"do"`
	Schools   string   `json:"schools"`
	Href      string   `json:"href"`
	Quiet     string   `json:"quiet"`
	Stake     string   `json:"stake"`
	Mends     string   `json:"mends"` // what a press changes: blend, lay-up, told, weighout; empty: nothing
	Mend      string   `json:"mend"`
	Effect    string   `json:"effect"`
	Before    string   `json:"before"` // colours, where the mend moves it
	After     string   `json:"after"`
	Elsewhere string   `json:"elsewhere"`
	WhatIf    string   `json:"what_if"` // the page that shows what carding makes of it
	Ways      []bedWay `json:"ways"`    // presses of the lay-up
}

// bedWay is a press that ends a finding in the lay-up.
type bedWay struct {
	Mend      string `json:"mend"`
	Do        string `json:"do"`
	Times     int    `json:"times"`
	Component int    `json:"component"`
}

// askView is a question, of one thing.
type askView struct {
	ID      string   `json:"id"`
	Of      string   `json:"of"`
	About   int64    `json:"about"` // the number of what it is of
	Key     string   `json:"key"`
	Ask     string   `json:"ask"`
	Unit    string   `json:"unit"`
	Answers []string `json:"answers"` // in words, the first being 0; none: a figure
}

type wayThere struct {
	Text string `json:"text"`
	Href string `json:"href"`
}

type toldView struct {
	ID    string `json:"id"`
	Of    string `json:"of"`
	About int64  `json:"about"`
	Name  string `json:"name"`
	Key   string `json:"key"`
	Text  string `json:"text"`
}

type quietFinding struct {
	What    string `json:"what"`
	Because string `json:"because"`
}

// shownFindings is how many are open at once.
const shownFindings = 3

// stationOf reads where a maker stands.
func stationOf(c *gin.Context) (at advising.LookWhere, err error) {
	at.Place = advice.Station(c.Query("at"))
	if !slices.Contains(advice.Stations(), at.Place) {
		return at, floor.ErrNotFound
	}
	for name, to := range map[string]*int64{"making": &at.Making, "blend": &at.Blend, "gradient": &at.Gradient, "layup": &at.Layup, "run": &at.Run} {
		if v := c.Query(name); v != "" {
			if *to, err = strconv.ParseInt(v, 10, 64); err != nil {
				return at, floor.ErrNotFound
			}
		}
	}
	return at, nil
}

// secondLook answers a script with what a practised eye says where a maker stands.
func (s *Room) secondLook(c *gin.Context) error {
	at, err := stationOf(c)
	if err != nil {
		return err
	}
	looks, err := s.Studio.Advising.LookFrom(c.Request.Context(), at)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, SecondViewOf(looks, u))
	return nil
}

// SecondViewOf shows what was seen of one or several blends, the weightiest first.
func SecondViewOf(looks []advising.SecondLook, u show.Units) SecondView {
	v := SecondView{
		Open: []findingView{}, More: []findingView{}, Asks: []askView{}, There: []wayThere{}, Told: []toldView{}, Quiet: []quietFinding{}, Said: secondSaid(looks),
	}
	type one struct {
		f advice.Finding
		l advising.SecondLook
	}
	var all []one
	for _, l := range looks {
		for _, f := range l.Findings {
			all = append(all, one{f, l})
		}
		for _, q := range l.Quiet {
			v.Quiet = append(v.Quiet, quietFinding{of(l, looks) + q.What.In(u), q.Because})
		}
		v.asks(l, u)
	}
	floor.InOrder(all, func(a, b one) int { return advice.Dearer(a.f, b.f) })
	for i, a := range all {
		w := findingViewOf(a.f, a.l, u)
		w.What = of(a.l, looks) + w.What
		if i < shownFindings {
			v.Open = append(v.Open, w)
		} else {
			v.More = append(v.More, w)
		}
	}
	return v
}

// of names the blend of a look where there are several.
func of(l advising.SecondLook, looks []advising.SecondLook) string {
	if len(looks) < 2 {
		return ""
	}
	return l.Blend + ": "
}

func secondSaid(looks []advising.SecondLook) string {
	counts, found, quietly, fibres := map[string]int{}, 0, 0, 0
	for _, l := range looks {
		for _, f := range l.Findings {
			counts[string(f.Severity)]++
			found++
		}
		quietly += len(l.Quiet)
		fibres += len(l.Plan.Fibres)
	}
	quiet := ""
	if quietly > 0 {
		quiet = fmt.Sprintf(" %d more %s quiet.", quietly, map[bool]string{true: "is", false: "are"}[quietly == 1])
	}
	switch {
	case fibres == 0:
		return "There is nothing to look at yet: put fibre into a blend."
	case found == 0:
		return "Nothing stands out." + quiet
	}
	var parts []string
	for _, w := range []string{"stop", "caution", "hint"} {
		if n := counts[w]; n > 0 {
			parts = append(parts, show.Plural(n, w))
		}
	}
	return strings.Join(parts, ", ") + "." + quiet
}

func findingViewOf(f advice.Finding, l advising.SecondLook, u show.Units) findingView {
	t, _ := advice.TextOf(f.Rule)
	v := findingView{
		ID: fmt.Sprintf("%d %s %d %d", l.BlendID, f.Rule, f.Component, f.Layer), Rule: f.Rule, Key: ruleName(t), Component: f.Component, Layer: f.Layer,
		Blend: l.BlendID, Layup: l.LayupID, Severity: string(f.Severity), Weight: severityWords[f.Severity] + ":", What: f.What.In(u),
		Why: u.Prose(
			t.Why,
		), Do: u.Prose(t.Do), Schools: campWords(f.Rule, l.Plan.Schools, u.Prose(t.Schools)), Href: "/advice/" + f.Rule, Quiet: "/advice/" + f.Rule + "/silence",
		Stake: stakeWords(f.Cost, u), Ways: []bedWay{},
	}
	if l.BlendID != 0 {
		v.Quiet += fmt.Sprintf("?blend=%d", l.BlendID)
	}
	if f.Laid != nil {
		v.Why, v.Do = f.Laid.Why.In(u), f.Laid.Do.In(u)
		if f.Laid.Mend != "" {
			v.Ways = append(v.Ways, bedWay{f.Laid.Mend, f.Laid.Do.In(u), f.Laid.Times, f.Component})
		}
		for _, w := range f.Laid.Others {
			v.Ways = append(v.Ways, bedWay{w.Mend, w.Do, w.Times, f.Component})
		}
	}
	if l.BlendID == 0 && f.Rule == "R39" { // of a gradient: the rung before the jump
		v.Ways = append(v.Ways, bedWay{"bridge", "One more bridge there", 1, f.Component - 1})
	}
	m := f.Mend
	if m == nil {
		if v.Elsewhere = f.CannotBe; v.Elsewhere == "" && len(v.Ways) == 0 && !advice.Mendable(f.Rule) {
			v.Elsewhere = "To do: " + v.Do
		}
		return v
	}
	if v.Mends = l.Mends(m); v.Mends == "" {
		v.Elsewhere = "To do: " + m.Preview.In(u)
		return v
	}
	v.Mend = m.Preview.In(u)
	v.effect(m, l.Plan, u)
	if l.LayupID != 0 && slices.Contains([]string{advising.MendsBlend, advising.MendsBoth, advising.MendsLayup}, v.Mends) {
		v.WhatIf = fmt.Sprintf("/layups/%d/card?what=%s_%d_%d#beside", l.LayupID, f.Rule, f.Component, f.Layer)
	}
	return v
}

// campWords says what the maker holds to, and the other camps with their reasons.
func campWords(rule string, schools map[string]string, said string) string {
	own, others, ok := advice.Camps(rule, schools)
	if !ok {
		return said
	}
	words := fmt.Sprintf("%s You hold to “%s”: %s.", said, own.Name, own.Reason)
	for _, o := range others {
		words += fmt.Sprintf(" Others: “%s”, %s.", o.Name, o.Reason)
	}
	return words
}

// stakeWords says what is at stake; nothing where that is not known.
func stakeWords(c advice.Cost, u show.Units) string {
	var parts []string
	if c.Grams >= 0.05 {
		parts = append(parts, u.Grams(c.Grams))
	}
	if c.Minutes >= 0.5 {
		parts = append(parts, show.Fixed(c.Minutes, 0)+" min")
	}
	if c.Look >= 0.5 {
		parts = append(parts, "a colour off by "+show.Fixed(c.Look, 0))
	}
	if len(parts) == 0 {
		return ""
	}
	return "At stake: " + strings.Join(parts, ", ") + "."
}

// effect says what a mend does beside ending its finding.
func (v *findingView) effect(m *advice.Mend, p advice.Plan, u show.Units) {
	done := m.Does(p)
	if c := done.Colour; c != nil {
		v.Before, v.After = c.Before.Linear().Hex(), c.After.Linear().Hex()
		v.Effect = "The colour stays."
		if !c.Same {
			v.Effect = fmt.Sprintf("It is then %s (%s CIEDE2000).", c.Words, show.Fixed(c.DeltaE, 1))
		}
	}
	var moved []string
	for _, f := range done.Moved {
		moved = append(moved, f.Name+" "+u.Signed(float64(f.By)))
	}
	if len(moved) > 0 {
		v.Effect += " " + strings.Join(moved, ", ") + "."
	}
	name := func(list []string) string {
		var out []string
		for _, id := range list {
			t, _ := advice.TextOf(id)
			out = append(out, strings.ToLower(ruleName(t)))
		}
		return strings.Join(out, ", ")
	}
	if len(m.Ends) > 1 {
		v.Effect += " Ends: " + name(m.Ends) + "."
	}
	if len(m.Comes) > 0 {
		v.Effect += " Brings: " + name(m.Comes) + "."
	}
	v.Effect = strings.TrimSpace(v.Effect)
}

// lookMend names a finding whose mend is taken, or is what a mend changed.
type lookMend struct {
	At        string `json:"at"`
	Blend     int64  `json:"blend"`
	Layup     int64  `json:"layup"`
	Run       int64  `json:"run"`
	Rule      string `json:"rule"`
	Component int    `json:"component"`
	Layer     int    `json:"layer"`
}

// takeMend takes a mend from a page that does not change it itself.
func (s *Room) takeMend(c *gin.Context) error {
	var q lookMend
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	at := advising.LookWhere{Place: advice.Station(q.At), Blend: q.Blend, Layup: q.Layup, Run: q.Run}
	out, err := s.Studio.Advising.TakeMend(c.Request.Context(), at, q.Rule, q.Component, q.Layer)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, out)
	return nil
}

// undoMend takes it back.
func (s *Room) undoMend(c *gin.Context) error {
	var q advising.LookTaken
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	if err := s.Studio.Advising.UndoMend(c.Request.Context(), q); err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{})
	return nil
}

var severityWords = map[advice.Severity]string{advice.Stop: "Stop", advice.Caution: "Mind", advice.Hint: "Note"}
