package reachpages

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// Colours together. What is in hand and what was picked stands in the address; every choice is a button of one form.

type togetherBody struct {
	Lots    []laidLot
	More    int
	InHand  *laidLot
	Scheme  string
	Schemes []frame.Option
	Bands   []string // paths of the places
	Places  []togetherPlace
	Sets    []togetherSet
	Picked  []laidLot
	Makes   string // a colour
	Said    string
	Muddy   []string
	Makings []recipe.MakingName
	Name    string
	Wrong   string
	Asked   string
}

// laidLot is a lot as it lies on the table; X and Y are percent of it.
type laidLot struct {
	ID            int64
	Name, Say     string
	Hex           string
	Tuft          art.Link
	X, Y          float64
	Held, Taken   bool
	Fits          bool
	Off           string
	With, Without string // what is picked with it, and without it
}

type togetherPlace struct {
	Name string
	Lots []laidLot
}

type togetherSet struct {
	Name, Why string
	Lots      []laidLot
	Pick      string
}

var schemeWords = []frame.Option{
	{Value: "neighbours", Label: "neighbours"}, {Value: "opposite", Label: "its opposite"}, {Value: "split", Label: "both beside the opposite"},
	{Value: "triad", Label: "three around"}, {Value: "square", Label: "four around"}, {Value: "tints", Label: "its tints and shades"},
	{Value: "greys", Label: "greys"},
}

// setWhy is why a set goes together.
var setWhy = map[string]string{
	"neighbours": "Neighbours: one family, calm together.", "split": "A colour against the two beside its opposite: lively, and still one tone.",
	"triad": "Three evenly around: bright, each apart from the others.", "square": "Four evenly around: the most colour; let one of them lead.",
}

// clearest is the chroma that lies at the edge of the table; muted ones are drawn out a little, since most fibre is.
const (
	clearest = 0.20
	drawnOut = 0.75
)

func (s *Room) together(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	asked := c.Request.URL.Query()
	q := reach.SpreadQuery{Scheme: last(asked, "scheme"), Picked: picks(asked)}
	if q.Scheme == "" {
		q.Scheme = "neighbours"
	}
	q.Lot, _ = strconv.ParseInt(last(asked, "lot"), 10, 64)
	return s.showTogether(c, http.StatusOK, q, u, "")
}

// picks are the lots that were picked, as an address or a form has them.
func picks(v url.Values) (out []int64) { return answer.Numbers(strings.Split(last(v, "pick"), ",")) }

// last is what a button says after what its form has kept.
func last(v url.Values, name string) string {
	list := v[name]
	if len(list) == 0 {
		return ""
	}
	return list[len(list)-1]
}

func (s *Room) showTogether(c *gin.Context, status int, q reach.SpreadQuery, u show.Units, wrong string) error {
	ctx := c.Request.Context()
	t, err := s.Studio.Reach.SpreadOut(ctx, q)
	if l, ok := fault.From(err); ok {
		q.Scheme, q.Picked, wrong, status = "neighbours", nil, l[0].In(u), http.StatusUnprocessableEntity
		t, err = s.Studio.Reach.SpreadOut(ctx, q)
	}
	if err != nil {
		return err
	}
	b := togetherBody{Scheme: q.Scheme, Schemes: schemeWords, More: t.More, Wrong: wrong, Asked: numbersSaid(q.Picked)}
	b.lay(t, q, u)
	if b.Makings, err = s.Studio.Recipe.MakingNames(ctx); err != nil {
		return err
	}
	s.Render(c, status, "together", frame.Page{Title: "Colours together", Here: "shelf", Scripts: []string{"js/together.js"}, Wide: true}, b)
	return nil
}

// lay turns what lies there into pictures and words.
func (b *togetherBody) lay(t reach.Spread, q reach.SpreadQuery, u show.Units) {
	fits := map[int64]bool{}
	laid := func(v reach.SpreadLot) laidLot {
		o := laidLot{ID: v.ID, Name: v.Name, Hex: v.MeanHex, Say: v.Word + ", " + u.Grams(v.Grams), Held: v.ID == q.Lot, Fits: fits[v.ID]}
		var hexes []string
		var shares []float64
		for _, c := range v.Colours {
			hexes, shares = append(hexes, c.Hex), append(shares, c.Share)
		}
		o.Tuft = art.TuftLink(v.Fibre, v.Preparation, hexes, shares, min(v.WorkingStapleMM, 100), 0.5, v.ID)
		var others []int64
		for _, id := range q.Picked {
			if o.Taken = o.Taken || id == v.ID; id != v.ID {
				others = append(others, id)
			}
		}
		o.Without, o.With = numbersSaid(others), numbersSaid(append(others, v.ID))
		return o
	}
	for _, p := range t.Places {
		b.Bands = append(b.Bands, band(p.Hue))
		place := togetherPlace{Name: hueWord(p.Hue)}
		for _, f := range p.Fits {
			fits[f.ID] = true
			l := laid(f.SpreadLot)
			l.Off = fmt.Sprintf("%.0f° off", f.Off)
			place.Lots = append(place.Lots, l)
		}
		b.Places = append(b.Places, place)
	}
	if len(t.Greys) > 0 {
		place := togetherPlace{Name: "Without a hue"}
		for _, f := range t.Greys {
			fits[f.ID] = true
			place.Lots = append(place.Lots, laid(f.SpreadLot))
		}
		b.Places = append(b.Places, place)
	}
	for _, v := range t.Lots {
		b.Lots = append(b.Lots, laid(v))
	}
	spread(b.Lots, t.Lots)
	if t.InHand != nil {
		l := laid(*t.InHand)
		b.InHand = &l
	}
	for _, set := range t.Sets {
		v := togetherSet{Name: setWhy[set.Scheme], Why: "At least " + u.Grams(set.LeastG) + " of each."}
		var ids []int64
		for _, l := range set.Lots {
			v.Lots, ids = append(v.Lots, laid(l)), append(ids, l.ID)
		}
		v.Pick = numbersSaid(ids)
		b.Sets = append(b.Sets, v)
	}
	b.pick(t.Picked, laid)
}

// pick says what the picked ones make.
func (b *togetherBody) pick(p *reach.Picked, laid func(reach.SpreadLot) laidLot) {
	if p == nil {
		return
	}
	var names []string
	for _, v := range p.Lots {
		b.Picked, names = append(b.Picked, laid(v)), append(names, v.Word)
	}
	b.Makes, b.Name = p.Hex, strings.Join(names[:min(2, len(names))], " and ")
	b.Said = "In equal parts, mixed even: " + p.Words + "."
	if len(p.Lots) == 1 {
		b.Said = "Pick another to see what they make together."
	}
	for _, m := range p.Pairs {
		b.Muddy = append(b.Muddy, fmt.Sprintf("%s and %s turn muddy in each other: mixed half and half %s of their colour is left. "+
			"With up to %s of %s it stays clear.", m.A.Name, m.B.Name, show.Percent(m.Left), show.Percent(m.Clear), m.B.Name))
	}
	if len(p.Lots) > 1 && len(p.Pairs) == 0 {
		b.Muddy = append(b.Muddy, "No two of them turn muddy in each other.")
	}
}

func numbersSaid(list []int64) string {
	var out []string
	for _, v := range list {
		out = append(out, strconv.FormatInt(v, 10))
	}
	return strings.Join(out, ",")
}

// hueWord names a place by what lies there: red, yellow, green and so on.
func hueWord(deg float64) string {
	words := []string{"reds", "oranges and browns", "yellows", "yellow-greens", "greens", "blue-greens", "blues", "violets", "purples and pinks"}
	bounds := []float64{40, 70, 110, 135, 165, 215, 275, 310, 350}
	for i, b := range bounds {
		if deg < b {
			return "Among the " + words[i]
		}
	}
	return "Among the " + words[0]
}

// band is the path of a place on the table, from near the middle to the edge; its sides are straight, since a hue is a direction.
func band(hue float64) string {
	half := 12.5
	at := func(deg, r float64) string {
		a := deg * math.Pi / 180
		return fmt.Sprintf("%.2f %.2f", 50+r*math.Cos(a), 50-r*math.Sin(a))
	}
	return "M" + at(hue-half, 7) + "L" + at(hue-half, 49) + "A49 49 0 0 0 " + at(hue+half, 49) + "L" + at(hue+half, 7) + "Z"
}

// spread gives each lot its place: its hue around, the clearer the further out; those that would lie on each other are moved apart.
func spread(out []laidLot, lots []reach.SpreadLot) {
	for i, v := range lots {
		a, r := v.Hue*math.Pi/180, 46*math.Pow(math.Min(v.Chroma/clearest, 1), drawnOut)
		if !v.HasHue { // from light to dark in the middle
			a, r = math.Pi/2, 9*(2*v.Light-1)
		}
		out[i].X, out[i].Y = 50+r*math.Cos(a), 50-r*math.Sin(a)
	}
	least := math.Min(7.2, 62/math.Sqrt(float64(max(len(out), 1))))
	for range 60 {
		for i := range out {
			for k := range i {
				a, b := &out[i], &out[k]
				dx, dy := a.X-b.X, a.Y-b.Y
				d := math.Hypot(dx, dy)
				if d >= least {
					continue
				}
				if d < 1e-6 {
					dx, dy, d = math.Cos(float64(i)), math.Sin(float64(i)), 1
				}
				by := (least - d) / 2 / d
				a.X, a.Y, b.X, b.Y = inside(a.X+dx*by), inside(a.Y+dy*by), inside(b.X-dx*by), inside(b.Y-dy*by)
			}
		}
	}
}

func inside(v float64) float64 { return math.Min(math.Max(v, 4), 96) }

// togetherBlend starts a blend of what was picked.
func (s *Room) togetherBlend(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
	q := reach.SpreadQuery{Scheme: "neighbours", Picked: picks(c.Request.PostForm)}
	b, err := s.Studio.Reach.BlendOf(c.Request.Context(), making, c.PostForm("name"), q.Picked)
	if l, ok := fault.From(err); ok {
		return s.showTogether(c, http.StatusUnprocessableEntity, q, u, l[0].In(u))
	}
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/blends/%d", b.ID), "made")
	return nil
}
