package recipepages

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/core/yarn"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// paper is a sheet, in mm, with the margin that most printers leave.
type paper struct {
	Key, Name     string
	Width, Height float64
}

var papers = []paper{{"A4", "A4", 210, 297}, {"letter", "letter", 215.9, 279.4}}

// labelSize is a common size of a label, in mm.
type labelSize struct {
	Key, Name     string
	Width, Height float64
}

var labelSizes = []labelSize{
	{"small", "small", 64, 34}, {"band", "band round a batt", 190, 38}, {"tag", "hang tag", 50, 90}, {"large", "large", 95, 65},
	{"own", "a size of my own", 0, 0},
}

// Of a sheet, mm: what is left free at its edges and between labels, and how many labels are printed at most.
const (
	sheetMargin = 6.0
	labelGap    = 2.0
	leastLabel  = 20.0
	mostLabels  = 400
)

// Of the code on a label, mm: at most so large, of the label's width, and what stays free around it.
const (
	mostCode = 22.0
	codePart = 0.4
	codeFree = 2.0
)

// Labelled is what a sheet of labels is for.
type Labelled struct {
	Path   string // of its page
	Back   string // what the page is called that leads back to it
	Name   string
	Label  recipe.Label
	Sale   string            // the page that the code of one for sale leads to; its own where that is empty
	Known  map[string]string // what stands in the fields at first
	IsYarn bool
}

type labelsBody struct {
	Labelled
	Form     frame.Form
	Papers   []paper
	Sizes    []frame.Option
	Paper    paper
	Ruler    float64 // mm
	Ruled    string  // what it says
	Ticks    []float64
	Sheets   [][]labelAt
	Contents string
	Care     string
	ForSale  bool
	Yarn     string      // its length, ply and grist
	Code     *frame.Code // that opens the record; nil: none
}

// labelAt is a label with its place on the sheet, mm; its text has all of it but what the code takes.
type labelAt struct {
	X, Y, W, H           float64
	TextW                float64
	CodeX, CodeY, CodeMM float64
	Number               string
}

// labelFields are what stands on a label besides, and how it is printed.
var labelFields = []string{
	"name", "grams", "length", "ply", "price", "batch", "date", "more", "count", "start", "size", "width", "height", "paper", "style", "care", "numbered", "code",
}

// beside is the blend of the path with its making, and the page of something beside it.
func (s *Room) beside(c *gin.Context) (b recipe.Blend, m recipe.Making, p frame.Page, u show.Units, err error) {
	if b, err = s.Blend(c); err != nil {
		return b, m, p, u, err
	}
	if m, err = s.Studio.Recipe.Making(c.Request.Context(), b.MakingID); err != nil {
		return b, m, p, u, err
	}
	p, u, err = s.PageOf(c, m, "Blend", &b)
	return b, m, p, u, err
}

func (s *Room) labelsPage(c *gin.Context) error {
	b, _, p, u, err := s.beside(c)
	if err != nil {
		return err
	}
	l, err := s.Studio.Recipe.LabelOf(c.Request.Context(), b.Components...)
	if err != nil {
		return err
	}
	page := fmt.Sprintf("/blends/%d", b.ID)
	return s.Labels(c, p, u, Labelled{Path: page, Back: "Back to the blend", Name: b.Name, Label: l, Sale: page + "/price"})
}

// Labels shows a sheet of labels, as the address says.
func (s *Room) Labels(c *gin.Context, p frame.Page, u show.Units, of Labelled) (err error) {
	body := labelsBody{Labelled: of, Form: frame.NewForm(), Papers: papers, Sizes: sizesIn(u), Contents: contentsText(of.Label)}
	body.rule(u)
	q := c.Request.URL.Query()
	for f, known := range of.Known {
		body.Form.Values[f] = known
	}
	for f, usual := range map[string]string{
		"name": of.Name, "count": "8", "start": "1", "size": "small", "paper": "A4", "style": "home", "care": strings.Join(of.Label.Care, ". ") + ".",
	} {
		if body.Form.Values[f] == "" {
			body.Form.Values[f] = usual
		}
	}
	for _, f := range labelFields {
		if q.Has(f) || len(q) > 0 && (f == "numbered" || f == "code") {
			body.Form.Values[f] = q.Get(f)
		}
	}
	if body.Code, err = codeFor(c, body.Form, of); err != nil {
		return err
	}
	status := http.StatusOK
	err = body.lay(body.Form.Values, u)
	if err == nil {
		err = body.yarn(u)
	}
	if faults, ok := fault.From(err); ok {
		status = http.StatusUnprocessableEntity
		for _, v := range faults {
			body.Form.Errors[v.Field] = v.In(u)
		}
	}
	body.Care, body.ForSale = body.Form.Values["care"], body.Form.Values["style"] == "for-sale"
	p.Title, p.Scripts = "Labels for "+of.Name, []string{"js/print.js", "js/labels.js"}
	s.Render(c, status, "labels", p, body)
	return nil
}

// yarn writes the length, the ply and the grist of what is yarn: grist is of the weight and the length that stand on the label.
func (b *labelsBody) yarn(u show.Units) error {
	var said []string
	if ply := b.Form.Values["ply"]; ply != "" {
		said = append(said, ply)
	}
	if text := b.Form.Values["length"]; text != "" {
		m, err := u.ReadYarn("length", text)
		if err != nil {
			return err
		}
		said = append(said, u.Yarn(m))
		if text := b.Form.Values["grams"]; text != "" {
			grams, err := u.ReadGrams("grams", text)
			if err != nil {
				return err
			}
			if grist := yarn.GristOf(m, grams); grist > 0 {
				said = append(said, u.Grist(grist))
			}
		}
	}
	b.Yarn = strings.Join(said, ", ")
	return nil
}

// codeFor is the code of its page, or of the one where a press notes that it was sold; nil where none is wanted.
func codeFor(c *gin.Context, f frame.Form, of Labelled) (*frame.Code, error) {
	if f.V("code") == "" {
		return nil, nil
	}
	page := of.Path
	if f.V("style") == "for-sale" && of.Sale != "" {
		page = of.Sale
	}
	code, err := frame.CodeOf(addressOf(c, page))
	return &code, err
}

// addressOf is a page of this program as whoever asks reaches it.
func addressOf(c *gin.Context, path string) string {
	scheme := "http"
	if c.Request.TLS != nil {
		scheme = "https"
	}
	return scheme + "://" + c.Request.Host + path
}

// sizesIn are the common sizes in the maker's units.
func sizesIn(u show.Units) (out []frame.Option) {
	for _, v := range labelSizes {
		o := frame.Option{Value: v.Key, Label: v.Name}
		if v.Width > 0 {
			o.Label += fmt.Sprintf(", %s × %s\u00a0%s", u.PlainSmall(v.Width), u.PlainSmall(v.Height), u.SmallUnit())
		}
		out = append(out, o)
	}
	return out
}

// rule puts a ruler on the sheet, to hold another one beside: 5 cm, or 2 inches.
func (b *labelsBody) rule(u show.Units) {
	step, n := 10.0, 5
	if u.Inches {
		step, n = unit.MMPerInch/2, 4
	}
	b.Ruler, b.Ruled = step*float64(n), u.Size(step*float64(n))
	for i := range n + 1 {
		b.Ticks = append(b.Ticks, sheetMargin+2+step*float64(i))
	}
}

func contentsText(l recipe.Label) string {
	var out []string
	for _, c := range l.Contents {
		if c.Percent == 0 {
			out = append(out, "under 1\u00a0% "+c.Content)
			continue
		}
		out = append(out, fmt.Sprintf("%d\u00a0%% %s", c.Percent, c.Content))
	}
	return strings.Join(out, ", ")
}

// lay puts the labels onto sheets, row by row, from the place on that is still free on the first.
func (b *labelsBody) lay(values map[string]string, u show.Units) error {
	r := &frame.Reader{Values: url.Values{}}
	for k, v := range values {
		r.Values.Set(k, v)
	}
	count, start := r.Count("count", "how many"), r.Count("start", "a place")
	b.Paper = papers[0]
	for _, p := range papers {
		if p.Key == values["paper"] {
			b.Paper = p
		}
	}
	w, h := labelSizes[0].Width, labelSizes[0].Height
	for _, size := range labelSizes {
		if size.Key == values["size"] {
			w, h = size.Width, size.Height
		}
	}
	if values["size"] == "own" {
		var err error
		w, err = u.ReadSmall("width", values["width"])
		r.Add(err)
		h, err = u.ReadSmall("height", values["height"])
		r.Add(err)
	}
	usable := [2]float64{b.Paper.Width - 2*sheetMargin, b.Paper.Height - 2*sheetMargin}
	if len(r.Wrong) == 0 && !(w >= leastLabel && w <= usable[0]) {
		r.Wrong.Add("width", "A label is %s to %s wide on this paper.", unit.Millimetres(leastLabel), unit.Millimetres(usable[0]))
	}
	if len(r.Wrong) == 0 && !(h >= leastLabel && h <= usable[1]) {
		r.Wrong.Add("height", "A label is %s to %s high on this paper.", unit.Millimetres(leastLabel), unit.Millimetres(usable[1]))
	}
	if len(r.Wrong) == 0 && (count < 1 || count > mostLabels) {
		r.Wrong.Add("count", "Print 1 to %d labels.", mostLabels)
	}
	if err := r.Wrong.Err(); err != nil {
		return err
	}
	cols, rows := int((usable[0]+labelGap)/(w+labelGap)), int((usable[1]+labelGap)/(h+labelGap))
	if start < 1 || start > cols*rows {
		r.Wrong.Add("start", "A sheet has %d places.", cols*rows)
		return r.Wrong.Err()
	}
	b.place(count, start, [2]int{cols, rows}, [2]float64{w, h}, values["numbered"] != "")
	return nil
}

// place puts so many labels of a size onto sheets of columns and rows, from a place on.
func (b *labelsBody) place(count, start int, sheet [2]int, size [2]float64, numbered bool) {
	cols, rows, w, h := sheet[0], sheet[1], size[0], size[1]
	left := (b.Paper.Width - float64(cols)*w - float64(cols-1)*labelGap) / 2
	top := (b.Paper.Height - float64(rows)*h - float64(rows-1)*labelGap) / 2
	for i := range count {
		at := start - 1 + i
		if sheet := at / (cols * rows); sheet >= len(b.Sheets) {
			b.Sheets = append(b.Sheets, nil)
		}
		place := at % (cols * rows)
		label := labelAt{X: round1(left + float64(place%cols)*(w+labelGap)), Y: round1(top + float64(place/cols)*(h+labelGap)), W: w, H: h}
		if label.TextW = w; b.Code != nil {
			label.coded()
		}
		if numbered {
			label.Number = fmt.Sprintf("%d of %d", i+1, count)
		}
		b.Sheets[len(b.Sheets)-1] = append(b.Sheets[len(b.Sheets)-1], label)
	}
}

// coded makes room for the code at the lower right: beside the text, or below it on a label that is long.
func (l *labelAt) coded() {
	l.CodeMM = round1(min(mostCode, l.W*codePart, l.H-2*codeFree))
	l.CodeX, l.CodeY = round1(l.X+l.W-l.CodeMM-codeFree), round1(l.Y+l.H-l.CodeMM-codeFree)
	if l.H < 3*l.CodeMM {
		l.TextW = round1(l.W - l.CodeMM - codeFree)
	}
}

func round1(mm float64) float64 { return math.Round(mm*10) / 10 }
