package yarnspages

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/yarn"
	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// The yarn of all of a making. How it is spun stands in the address, its row as the blends that are spun in their order, and after a
// tilde those that are left out: nothing that is chosen is lost with the page.

type wholeBody struct {
	Making  recipe.Making
	Form    frame.Form
	Plies   []frame.Option
	Splits  []frame.Option
	Said    string
	LeftOn  string // on the bobbins
	Runs    []wholeRun
	Marks   []wholeMark
	Rungs   []wholeRung
	Unspun  []wholeRung
	Row     string
	Dyed    string   // what dyeing over leaves of the steps
	Parted  []string // rungs that lie on several bobbins by weight
	Piece   wholePiece
	Default string // the address without any choice; empty where that is what is shown
	Asked   url.Values
}

// wholeRun is a stretch of the bar, in thousandths of its length.
type wholeRun struct {
	X, W float64
	Hex  string
}

// wholeMark is a join over the bar.
type wholeMark struct {
	X      float64
	Abrupt bool
}

// wholeRung is a blend in the row, and the join after it.
type wholeRung struct {
	N                     int
	ID                    int64
	Name, Hex, Sub        string
	Up, Down, Leave, Back string // rows
	Join                  string
	Rows                  string // where it lies in the piece
	Abrupt                bool
	From, To              int64 // of a bridge
}

var wholeSplits = []frame.Option{{Value: yarn.EachRung, Label: "the same fade in every strand"},
	{Value: yarn.InParts, Label: "the first rungs against the last"}, {Value: yarn.ByWeight, Label: "the first against the last, equal by weight"}}

// wholeOf reads how it is spun from an address.
func wholeOf(q url.Values, u show.Units, f *frame.Form) (p yarns.WholePlan, err error) {
	order, leave, _ := strings.Cut(q.Get("row"), "~")
	p = yarns.WholePlan{Order: answer.Numbers(strings.Split(order, ",")), Leave: answer.Numbers(strings.Split(leave, ",")),
		Ply: q.Get("ply"), Split: q.Get("split")}
	if p.Ply == "" {
		p.Ply = yarn.Two
	}
	if p.Split == "" {
		p.Split = yarn.EachRung
	}
	r := &frame.Reader{Values: q}
	if q.Get("grist") != "" {
		grist, err := u.ReadGrist("grist", q.Get("grist"))
		r.Add(err)
		p.Grist = grist
	}
	for plain := range strings.SplitSeq(q.Get("plain"), ",") {
		if plain = strings.TrimSpace(plain); plain != "" {
			p.Plain = append(p.Plain, plain)
		}
	}
	p.Dye = strings.TrimSpace(q.Get("dye"))
	p.Depth = r.OrUsual("depth", "percent, such as 100") / 100
	p.Piece = readWorked(r, u)
	for name := range q {
		f.Values[name] = q.Get(name)
	}
	f.Values["ply"], f.Values["split"] = p.Ply, p.Split
	return p, r.Wrong.Err()
}

func (s *Room) wholePage(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	page, u, err := s.PageOf(c, m, "Yarn", nil)
	if err != nil {
		return err
	}
	b := wholeBody{Making: m, Form: frame.NewForm(), Splits: wholeSplits, Asked: c.Request.URL.Query()}
	for _, v := range yarn.Plies {
		b.Plies = append(b.Plies, frame.Option{Value: v, Label: plyWords[v]})
	}
	p, wrong := wholeOf(b.Asked, u, &b.Form)
	y, err := s.Studio.Yarns.Whole(c.Request.Context(), m.ID, p)
	if err == nil {
		err = wrong
	}
	status := http.StatusOK
	if l, ok := fault.From(err); ok {
		status = http.StatusUnprocessableEntity
		for _, v := range l {
			b.Form.Errors[wholeField(v.Field)] = v.In(u)
		}
	} else if err != nil {
		return err
	}
	b.fill(y, u)
	page.Title, page.Scripts = m.Name+", the yarn of all of it", []string{"js/print.js", "js/whole.js"}
	s.Render(c, status, "whole", page, b)
	return nil
}

// wholeField is the field of the form that a fault is of.
func wholeField(name string) string {
	switch name {
	case "singles_tex":
		return "grist"
	case "strands":
		return "plain"
	}
	return name
}

// fill turns a yarn into texts and addresses.
func (b *wholeBody) fill(y yarns.WholeYarn, u show.Units) {
	order := make([]int64, len(y.Rungs))
	for i, r := range y.Rungs {
		order[i] = r.ID
	}
	b.Row = rowText(order, y.Plan.Leave)
	joins := map[[2]int]yarn.Join{}
	for _, j := range y.Joins {
		if was, ok := joins[[2]int{j.From, j.To}]; !ok || j.Jump > was.Jump {
			joins[[2]int{j.From, j.To}] = j
		}
	}
	for i, r := range y.Rungs {
		row := wholeRung{N: i + 1, ID: r.ID, Name: r.Name, Hex: r.Hex, Sub: u.Grams(r.TotalG)}
		if long := y.LongOf(i); long > 0 {
			row.Sub += ", seen over " + u.Yarn(long)
		}
		row.Leave = rowText(order, append(slices.Clone(y.Plan.Leave), r.ID))
		if i > 0 {
			row.Up = rowText(swapped(order, i-1), y.Plan.Leave)
		}
		if i < len(order)-1 {
			row.Down = rowText(swapped(order, i), y.Plan.Leave)
			if j, ok := joins[[2]int{i, i + 1}]; ok {
				row.Join, row.Abrupt, row.From, row.To = joinSaid(j, u), j.Abrupt, r.ID, y.Rungs[i+1].ID
			}
		}
		row.Rows = rowsOfRung(y, i)
		b.Rungs = append(b.Rungs, row)
	}
	for _, r := range y.Left {
		row := wholeRung{ID: r.ID, Name: r.Name, Hex: r.Hex, Sub: "holds no fibre yet"}
		if i := slices.Index(y.Plan.Leave, r.ID); i >= 0 {
			row.Sub, row.Back = "left out", rowText(order, slices.Delete(slices.Clone(y.Plan.Leave), i, i+1))
		}
		b.Unspun = append(b.Unspun, row)
	}
	if len(b.Asked) > 0 {
		b.Default = fmt.Sprintf("/makings/%d/whole", b.Making.ID)
	}
	b.bar(y, u)
	b.piece(y, u)
	b.Parted = partedSaid(y, u)
	if y.Plan.Dye != "" && len(y.Rungs) > 1 && y.Plied > 0 {
		b.Dyed = fmt.Sprintf("The widest step between two of them is %s CIEDE2000 as they were carded, and %s dyed over.",
			show.Fixed(y.Jumps[0], 1), show.Fixed(y.Jumps[1], 1))
	}
}

// partedSaid names the rungs that lie on several bobbins, where each takes the same weight.
func partedSaid(y yarns.WholeYarn, u show.Units) (out []string) {
	if y.Plan.Split != yarn.ByWeight {
		return nil
	}
	for i, r := range y.Rungs {
		var parts []string
		for s, held := range y.Held {
			for _, h := range held {
				if h.Rung == i {
					parts = append(parts, fmt.Sprintf("%s for bobbin %d", u.Grams(h.Grams), s+1))
				}
			}
		}
		if len(parts) > 1 {
			out = append(out, fmt.Sprintf("%s is parted: %s.", r.Name, strings.Join(parts, ", ")))
		}
	}
	return out
}

// bar draws the yarn and says what it is.
func (b *wholeBody) bar(y yarns.WholeYarn, u show.Units) {
	if y.Plied <= 0 {
		return
	}
	part := func(m float64) float64 { return 1000 * m / y.Plied }
	for _, r := range y.Runs {
		b.Runs = append(b.Runs, wholeRun{part(r.From), part(r.To - r.From), r.Colour.Hex()})
	}
	abrupt := 0
	for _, j := range y.Joins {
		b.Marks = append(b.Marks, wholeMark{part(j.At), j.Abrupt})
		if j.Abrupt {
			abrupt++
		}
	}
	b.Said = fmt.Sprintf("%s of yarn, %s.", u.Yarn(y.Plied), u.Grist(y.Grist))
	switch {
	case abrupt > 0:
		b.Said += fmt.Sprintf(" %s, marked above the bar.", show.Plural(abrupt, "abrupt step"))
	case len(y.Joins) > 0:
		b.Said += " No step in it is abrupt."
	}
	var left []string
	for i, m := range y.Sequenced.Left {
		if m > 0.05 {
			left = append(left, fmt.Sprintf("%s on bobbin %d", u.Yarn(m), i+1))
		}
	}
	if len(left) > 0 {
		b.LeftOn = "Left over: " + strings.Join(left, ", ") + "."
	}
}

func joinSaid(j yarn.Join, u show.Units) string {
	words := "a soft step"
	if j.Abrupt {
		words = "an abrupt step"
	}
	return fmt.Sprintf("at %s, %s (%s CIEDE2000 in the yarn)", u.Yarn(j.At), words, show.Fixed(j.Jump, 1))
}

func swapped(order []int64, i int) []int64 {
	out := slices.Clone(order)
	out[i], out[i+1] = out[i+1], out[i]
	return out
}

// rowText is a row as an address has it.
func rowText(order, leave []int64) string {
	if len(leave) == 0 {
		return idsText(order)
	}
	return idsText(order) + "~" + idsText(leave)
}

func idsText(ids []int64) string {
	out := make([]string, len(ids))
	for i, v := range ids {
		out[i] = strconv.FormatInt(v, 10)
	}
	return strings.Join(out, ",")
}

// addBridge makes a bridge between two blends, and puts it between them in the row.
func (s *Room) addBridge(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	id := func(name string) int64 {
		n, _ := strconv.ParseInt(c.PostForm(name), 10, 64)
		return n
	}
	b, err := s.Studio.Yarns.Bridge(c.Request.Context(), m.ID, id("from"), id("to"))
	if err != nil {
		return err
	}
	q, err := url.ParseQuery(c.PostForm("asked"))
	if err != nil { // no page of ours asks so
		q = url.Values{}
	}
	row, leave, _ := strings.Cut(c.PostForm("row"), "~")
	order := answer.Numbers(strings.Split(row, ","))
	if at := slices.Index(order, id("from")); at >= 0 {
		order = slices.Insert(order, at+1, b.ID)
	}
	q.Set("row", rowText(order, answer.Numbers(strings.Split(leave, ","))))
	q.Set("did", "saved")
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/makings/%d/whole?%s", m.ID, q.Encode()))
	return nil
}

// Query is how it is asked, without what was done last.
func (b wholeBody) Query() string { return b.kept("did").Encode() }

// Kept is what was chosen beside the row, as a form has it.
func (b wholeBody) Kept() url.Values { return b.kept("did", "row") }

func (b wholeBody) kept(without ...string) url.Values {
	q := url.Values{}
	for k, v := range b.Asked {
		if !slices.Contains(without, k) && v[len(v)-1] != "" {
			q[k] = v[len(v)-1:]
		}
	}
	return q
}
