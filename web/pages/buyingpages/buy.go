package buyingpages

import (
	"bytes"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/formats"
	"fairtangle/studio/buying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/show"
)

type buyBody struct {
	Form    frame.Form
	Lists   []buyListLine
	Makings []recipe.MakingName
	Chosen  map[int64]bool
	Sources []sourceLine
}

type buyListLine struct {
	ID        int64
	Name, Sub string
}

type sourceLine struct {
	ID        int64
	Name, Sub string
}

// buyPage shows the lists and the sources.
func (s *Room) buyPage(c *gin.Context) error {
	f := frame.NewForm()
	return s.showBuy(c, http.StatusOK, f)
}

func (s *Room) showBuy(c *gin.Context, status int, f frame.Form) error {
	ctx := c.Request.Context()
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b := buyBody{Form: f, Chosen: map[int64]bool{}}
	lists, err := s.Studio.Buying.BuyLists(ctx)
	if err != nil {
		return err
	}
	for _, l := range lists {
		b.Lists = append(b.Lists, buyListLine{l.ID, l.Name, buyListWords(l, u)})
	}
	if b.Makings, err = s.Studio.Recipe.MakingNames(ctx); err != nil {
		return err
	}
	for _, v := range append(c.QueryArray("making"), c.PostFormArray("making")...) {
		if n, err := strconv.ParseInt(v, 10, 64); err == nil {
			b.Chosen[n] = true
		}
	}
	sources, err := s.Studio.Workshop.Sources(ctx)
	if err != nil {
		return err
	}
	for _, v := range sources {
		b.Sources = append(b.Sources, sourceLine{v.ID, v.Name, sourceWords(v, u)})
	}
	s.Render(c, status, "buy", frame.Page{Title: "To buy", Here: "shelf", Wide: true}, b)
	return nil
}

func buyListWords(l buying.BuyList, u show.Units) string {
	came := 0
	for _, v := range l.Items {
		if v.Came {
			came++
		}
	}
	out := fmt.Sprintf("%s, %d came", show.Plural(len(l.Items), "fibre"), came)
	if l.Total > 0 {
		out += ", " + u.Cost(l.Total) + " still to pay"
	}
	return out
}

func sourceWords(v workshop.Source, u show.Units) string {
	said := []string{"no postage"}
	if v.Postage > 0 {
		said[0] = "postage " + u.Cost(v.Postage)
		if v.FreeFrom > 0 {
			said[0] += ", none from " + u.Cost(v.FreeFrom)
		}
	}
	for _, d := range v.Discounts {
		said = append(said, fmt.Sprintf("%s\u00a0%% off from %s", show.Number(d.Pct), u.Cost(d.From)))
	}
	return strings.Join(said, ", ")
}

// startBuyList begins a list of what makings lack.
func (s *Room) startBuyList(c *gin.Context) error {
	if _, err := s.Posted(c); err != nil {
		return err
	}
	in := buying.BuyListInput{Name: strings.TrimSpace(c.PostForm("name"))}
	for _, v := range c.PostFormArray("making") {
		if n, err := strconv.ParseInt(v, 10, 64); err == nil {
			in.MakingIDs = append(in.MakingIDs, n)
		}
	}
	l, err := s.Studio.Buying.StartBuyList(c.Request.Context(), in)
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/buy/%d", l.ID), "")
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showBuy(c, http.StatusUnprocessableEntity, f)
}

type buyListBody struct {
	Form     frame.Form
	Price    frame.Form
	List     buying.BuyList
	Lines    []buyLine
	Bills    []layingpages.CardFact
	RoundUps []string
	Said     string
	Sources  []frame.Option
	Nobody   int // lines that nobody sells
	Open     int // lines that have not come
	Families []string
	Kinds    map[string][]fibre.Kind
}

type buyLine struct {
	buying.BuyItem
	Needed, Buy, Cost string
	Href              string
}

func (s *Room) buyListPage(c *gin.Context) error {
	return s.showBuyList(c, http.StatusOK, frame.NewForm(), frame.NewForm())
}

func (s *Room) showBuyList(c *gin.Context, status int, f, price frame.Form) error {
	ctx := c.Request.Context()
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	l, err := s.Studio.Buying.OneBuyList(ctx, n)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	sources, err := s.Studio.Workshop.Sources(ctx)
	if err != nil {
		return err
	}
	kinds, err := s.Studio.Workshop.AllKinds(ctx, false)
	if err != nil {
		return err
	}
	b := buyListBody{Form: f, Price: price, List: l}
	b.Families, b.Kinds = workshop.KindOptions(kinds.List)
	names := map[int64]string{}
	for _, v := range sources {
		names[v.ID] = v.Name
		b.Sources = append(b.Sources, frame.Option{Value: strconv.FormatInt(v.ID, 10), Label: v.Name})
	}
	for _, v := range l.Items {
		line := buyLine{BuyItem: v, Needed: u.Grams(v.Grams)}
		switch {
		case v.Came:
			line.Href = fmt.Sprintf("/lots/%d", *v.LotID)
		case v.SourceID == 0:
			b.Nobody++
			b.Open++
		default:
			b.Open++
			line.Buy, line.Cost = packWords(v.Packs, u)+" from "+names[v.SourceID], u.Cost(v.Price)
		}
		b.Lines = append(b.Lines, line)
	}
	for _, v := range l.Sources {
		text := u.Cost(v.Goods)
		if v.Off > 0 {
			text += " − " + u.Cost(v.Off)
		}
		if v.Postage > 0 {
			text += " + " + u.Cost(v.Postage) + " postage"
		}
		if v.Off > 0 || v.Postage > 0 {
			text += " = " + u.Cost(v.Total)
		}
		b.Bills = append(b.Bills, layingpages.CardFact{Name: v.Name, Value: text})
	}
	for _, r := range l.RoundUps {
		b.RoundUps = append(b.RoundUps, roundUpWords(r, u))
	}
	b.Said = "No way to buy these from your sources costs less."
	if !l.Exact {
		b.Said = "The cheapest way that was found; with so many lines not all could be looked at."
	}
	s.Render(c, status, "buylist", frame.Page{Title: l.Name, Here: "shelf", Wide: true, Scripts: []string{"js/print.js"}}, b)
	return nil
}

func packWords(packs []buying.BuyPacks, u show.Units) string {
	var out []string
	for _, p := range packs {
		out = append(out, fmt.Sprintf("%d × %s", p.Count, u.Weighs(u.Amount(p.PackG))))
	}
	return strings.Join(out, " and ")
}

func roundUpWords(r buying.RoundUp, u show.Units) string {
	grants := "no postage is asked"
	if r.Pct > 0 {
		grants = show.Number(r.Pct) + "\u00a0% are taken off"
	}
	out := fmt.Sprintf("%s more from %s, and %s: ", u.Cost(r.More), r.Name, grants)
	switch {
	case r.Extra < -0.004:
		return out + "all then costs " + u.Cost(-r.Extra) + " less."
	case r.Extra < 0.005:
		return out + "all then costs the same."
	}
	return out + "all then costs " + u.Cost(r.Extra) + " more."
}

// buyListCSV writes a list as CSV.
func (s *Room) buyListCSV(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	l, err := s.Studio.Buying.OneBuyList(c.Request.Context(), n)
	if err != nil {
		return err
	}
	names := map[int64]string{}
	for _, v := range l.Sources {
		names[v.SourceID] = v.Name
	}
	var rows []formats.BuyRow
	for _, v := range l.Items {
		var packs []string
		for _, p := range v.Packs {
			packs = append(packs, fmt.Sprintf("%d x %s g", p.Count, show.Number(p.PackG)))
		}
		rows = append(rows, formats.BuyRow{
			Name: v.Name, Kind: v.Kind, Preparation: v.Preparation, Colour: v.Hex, For: v.For, Grams: v.Grams, Source: names[v.SourceID],
			Packs: strings.Join(packs, " + "), BoughtG: v.BoughtG, Price: v.Price, Came: v.Came,
		})
	}
	var buf bytes.Buffer
	if err := formats.WriteBuyList(&buf, rows); err != nil {
		return err
	}
	c.Header("Content-Disposition", `attachment; filename="to-buy.csv"`)
	c.Data(http.StatusOK, "text/csv; charset=utf-8", buf.Bytes())
	return nil
}

// bringUpToDate brings a list to what its makings lack now.
func (s *Room) bringUpToDate(c *gin.Context) error {
	return s.changedList(c, func(n int64, r *frame.Reader, _ show.Units) error {
		_, err := s.Studio.Buying.BringUpToDate(c.Request.Context(), n, r.Version())
		return err
	})
}

// cameIn weighs in what has come.
func (s *Room) cameIn(c *gin.Context) error {
	return s.changedList(c, func(n int64, r *frame.Reader, u show.Units) error {
		in := buying.CameInput{Item: frame.IDIn(r), Grams: r.Grams(u, "grams"), DyeLot: r.Values.Get("dye_lot")}
		if err := r.Wrong.Err(); err != nil {
			return err
		}
		_, err := s.Studio.Buying.Came(c.Request.Context(), n, r.Version(), in)
		return err
	})
}

// changedList does something to a list and shows it again, or what is wrong.
func (s *Room) changedList(c *gin.Context, do func(n int64, r *frame.Reader, u show.Units) error) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	err = do(n, r, u)
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/buy/%d", n), "saved")
		return nil
	}
	f := frame.Typed(r.Values)
	if _, ok := answer.StaleAs[buying.BuyList](err); ok {
		f.Errors["list"] = "Another window changed the list in the meantime. It stands here as it is now; what you typed is still in its field."
		return s.showBuyList(c, http.StatusConflict, f, frame.NewForm())
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showBuyList(c, http.StatusUnprocessableEntity, f, frame.NewForm())
}

// notePrice notes on a list what a source asks for one of its lines.
func (s *Room) notePrice(c *gin.Context) error {
	ctx := c.Request.Context()
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	l, err := s.Studio.Buying.OneBuyList(ctx, n)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	o := readOffer(r, u)
	source, _ := strconv.ParseInt(r.Values.Get("source"), 10, 64)
	for _, v := range l.Items {
		if v.Key == frame.IDIn(r) {
			o.Name, o.Kind, o.Hex = v.Name, v.Kind, v.Hex
		}
	}
	if source == 0 {
		r.Wrong.Add("source", "Choose a source, or add one first.")
	}
	if err = r.Wrong.Err(); err == nil {
		_, err = s.Studio.Workshop.AddOffer(ctx, source, o)
	}
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/buy/%d#prices", n), "saved")
		return nil
	}
	f := frame.Typed(r.Values)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showBuyList(c, http.StatusUnprocessableEntity, frame.NewForm(), f)
}

// breakRows is how many price breaks the form of a price has room for.
const breakRows = 3

// readOffer reads a pack, its price and its price breaks.
func readOffer(r *frame.Reader, u show.Units) workshop.Offer {
	o := workshop.Offer{PackG: r.Grams(u, "pack_g"), Price: r.Number("price", "a price, such as 6.50"), Breaks: []workshop.PriceBreak{}}
	for i := range breakRows {
		from, price := fmt.Sprintf("breaks[%d].from", i), fmt.Sprintf("breaks[%d].price", i)
		if strings.TrimSpace(r.Values.Get(from)+r.Values.Get(price)) != "" {
			o.Breaks = append(o.Breaks, workshop.PriceBreak{From: r.Count(from, "from how many packs"), Price: r.Number(price, "a price, such as 5.90")})
		}
	}
	return o
}

type sourceBody struct {
	Form     frame.Form
	Offer    frame.Form
	ID       int64
	OfferID  int64
	Offers   []offerLine
	Families []string
	Kinds    map[string][]fibre.Kind
}

type offerLine struct {
	workshop.Offer
	Sub string
}
