package reachpages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/recipepages"
	"fairtangle/web/pages/shelfpages"
	"fairtangle/web/show"
)

// photoView is a photo as its page shows it.
type photoView struct {
	ID      int64              `json:"id"`
	Version int64              `json:"version"`
	Name    string             `json:"name"`
	URL     string             `json:"url"`
	Width   int                `json:"width"`
	Height  int                `json:"height"`
	Card    *shelf.NeutralCard `json:"card"`
	Said    string             `json:"said"`
}

// ViewPhoto is a photo as a list shows it.
func ViewPhoto(p shelf.Photo) photoView {
	v := photoView{p.ID, p.Version, p.Name, fmt.Sprintf("/photos/%d/picture.png?v=%.12s", p.ID, p.File), p.Width, p.Height, p.Card, ""}
	v.Said = "Not balanced: colours are as the camera took them."
	if p.Card != nil {
		v.Said = fmt.Sprintf("Balanced by the card at the mark, which reflects %s %%.", show.Number(p.Card.ReflectPct))
	}
	return v
}

type photoBody struct {
	View    photoView
	Lots    shelfpages.LotChoices
	Makings []recipe.MakingName
	Blend   *recipe.Blend
	Making  int64          // whose samples it shows; 0: of none
	Samples []frame.Option // the blends of it
	Next    string         // of them, after the one that was kept
	Photo   shelf.Photo
	Of      *photoOf
	Length  string // the maker's unit
}

// photoOf is the pass of a run that a photo shows.
type photoOf struct {
	Run      int64
	Unit     int
	Pass     int
	Name     string
	Foreseen string
}

// photoShows reads which pass of a run a photo shows from its address.
func (s *Room) photoShows(c *gin.Context) (*photoOf, error) {
	id, err := strconv.ParseInt(c.Query("run"), 10, 64)
	u, p, ok := strings.Cut(c.Query("place"), ".")
	if err != nil || !ok {
		return nil, nil
	}
	of := &photoOf{Run: id}
	of.Unit, _ = strconv.Atoi(u)
	of.Pass, _ = strconv.Atoi(p)
	v, err := s.Studio.Carder.Run(c.Request.Context(), id)
	if err == floor.ErrNotFound || err == nil && (of.Unit < 0 || of.Unit >= len(v.Units) || of.Pass < 1) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	of.Name = fmt.Sprintf("%s, %s %d, pass %d", v.Name, strings.ToLower(frame.UnitWords[v.Equipment.Type]), of.Unit+1, of.Pass)
	if of.Pass <= len(v.Foreseen) {
		f := v.Foreseen[of.Pass-1]
		of.Foreseen = fmt.Sprintf("Foreseen: %s, patches differ by %s; colour %s", f.Look, show.Fixed(f.PatchDeltaE, 1), v.Units[of.Unit].Hex)
	}
	return of, nil
}

func (s *Room) photoPage(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	p, err := s.Studio.Shelf.Photo(c.Request.Context(), n)
	if err != nil {
		return err
	}
	b := photoBody{View: ViewPhoto(p), Photo: p}
	if b.Makings, err = s.Studio.Recipe.MakingNames(c.Request.Context()); err != nil {
		return err
	}
	if b.Of, err = s.photoShows(c); err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b.Length = u.LengthUnit()
	if b.Lots, err = s.shelf.LotChoices(c.Request.Context(), u, "", nil); err != nil {
		return err
	}
	if n, err := strconv.ParseInt(c.Query("blend"), 10, 64); err == nil {
		if v, err := s.Studio.Recipe.Blend(c.Request.Context(), n); err == nil {
			b.Blend = &v
		}
	}
	if n, err := strconv.ParseInt(c.Query("making"), 10, 64); err == nil {
		blends, err := s.Studio.Recipe.BlendsOf(c.Request.Context(), n)
		if err != nil {
			return err
		}
		for i, v := range blends {
			b.Making = n
			if c.Query("kept") == strconv.FormatInt(v.ID, 10) && i+1 < len(blends) {
				b.Next = strconv.FormatInt(blends[i+1].ID, 10)
			}
			b.Samples = append(b.Samples, frame.Option{Value: strconv.FormatInt(v.ID, 10), Label: v.Name})
		}
	}
	s.Render(c, http.StatusOK, "photo", frame.Page{Title: p.Name, Here: "shelf", Scripts: []string{"js/photo.js"}, Wide: true}, b)
	return nil
}

// renamePhoto answers the page's script.
func (s *Room) renamePhoto(c *gin.Context) error {
	var q struct {
		Version int64  `json:"version"`
		Name    string `json:"name"`
	}
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	p, err := s.Studio.Shelf.RenamePhoto(c.Request.Context(), n, q.Version, q.Name)
	return frame.Edited(c, p, err, func(p shelf.Photo) any { return ViewPhoto(p) })
}

func (s *Room) setCard(c *gin.Context) error {
	var q struct {
		Version int64       `json:"version"`
		Spot    *shelf.Spot `json:"spot"`
		Text    string      `json:"text"` // what the card reflects, percent
	}
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	var pct float64
	if q.Spot != nil {
		if pct, err = show.ReadNumber("reflects", q.Text, "what the card reflects in percent, such as 18"); err != nil {
			return err
		}
	}
	p, err := s.Studio.Shelf.SetCard(c.Request.Context(), n, q.Version, q.Spot, pct)
	return frame.Edited(c, p, err, func(p shelf.Photo) any { return ViewPhoto(p) })
}

// readSpot returns the colour of a spot with its words.
func (s *Room) readSpot(c *gin.Context) error {
	var q shelf.Spot
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	r, err := s.Studio.Shelf.ReadSpot(c.Request.Context(), n, q)
	if err != nil {
		return err
	}
	said := fmt.Sprintf(
		"%s · L %s, a %s, b %s · uneven by %s over %d pixels",
		r.Hex,
		show.Fixed(r.Lab[0], 0),
		show.Fixed(r.Lab[1], 0),
		show.Fixed(r.Lab[2], 0),
		show.Fixed(r.Spread, 1),
		r.Pixels,
	)
	if r.Spread > 6 {
		said += ". That is a lot: choose a smaller or plainer spot."
	}
	if !r.InGamut {
		said += ". The value is clipped to what a screen shows."
	}
	c.JSON(http.StatusOK, gin.H{"hex": r.Hex, "name": r.Name, "said": said, "balanced": r.Balanced})
	return nil
}

// photoLook reads the look of a batt from a photo; with Run it is kept there too: the look of
// a pass, or the colour as a sample of the blend.
func (s *Room) photoLook(c *gin.Context) error {
	var q struct {
		shelf.LookInput
		Text string `json:"text"` // how long the known length is
		Run  int64  `json:"run"`
		Unit int    `json:"unit"`
		Pass int    `json:"pass"`
		Keep string `json:"keep"` // look, colour
		Key  string `json:"key"`
	}
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	if q.LengthMM, err = u.ReadLength("length_mm", q.Text); err != nil {
		return err
	}
	ctx := c.Request.Context()
	v, err := s.Studio.Shelf.LookOfPhoto(ctx, n, q.LookInput)
	if err != nil {
		return err
	}
	said := lookSaid(v, u)
	switch q.Keep {
	case "look":
		if _, err := s.Studio.Carder.Tell(ctx, q.Run, carder.EntryInput{Key: q.Key, Unit: q.Unit, Pass: q.Pass, What: "look", Text: v.Look}); err != nil {
			return err
		}
		said = "Noted: it looks " + v.Look + "."
	case "colour":
		source := "picker"
		if v.Balanced {
			source = "photo"
		}
		if err := s.Studio.Carder.SampleOfRun(ctx, q.Run, q.Unit, v, source); err != nil {
			return err
		}
		said = "Kept as a sample; predictions can follow it."
	}
	c.JSON(http.StatusOK, gin.H{"hex": v.Hex, "look": v.Look, "sure": v.Sure, "said": said, "facts": lookFacts(v)})
	return nil
}

// lookSaid is what a reading of a look says in a sentence.
func lookSaid(v shelf.PhotoLook, u show.Units) string {
	between := fmt.Sprintf("%s to %s", show.Fixed(v.LowDeltaE, 1), show.Fixed(v.HighDeltaE, 1))
	switch {
	case !v.Sure:
		return fmt.Sprintf("How much the patches differ can not be told from this photo: it lies between %s.", between)
	case len(v.Looks) == 1:
		return fmt.Sprintf(
			"It is %s: patches of %s differ by %s, %s at the outside.",
			v.Look,
			u.Millimetres(shelf.PatchMM),
			show.Fixed(v.PatchDeltaE, 1),
			between,
		)
	}
	return fmt.Sprintf("It is %s, or nearly %s: patches of %s differ by %s, %s at the outside.", v.Look, otherLook(v), u.Millimetres(shelf.PatchMM),
		show.Fixed(v.PatchDeltaE, 1), between)
}

func otherLook(v shelf.PhotoLook) string {
	for _, l := range v.Looks {
		if l != v.Look {
			return l
		}
	}
	return v.Look
}

// lookFacts are what a reading of a look rests on.
func lookFacts(v shelf.PhotoLook) []string {
	out := []string{
		fmt.Sprintf("Mean colour %s, ± %s", v.Hex, show.Fixed(v.SigmaDeltaE, 0)),
		fmt.Sprintf("%d patches; the fibre runs at %s° to the level", v.Patches, show.Fixed(v.AngleDeg, 0)),
		fmt.Sprintf("Taken off: texture of single fibres %s, light %s darker at one end", show.Fixed(v.Texture, 1), show.Percent(v.Shade)),
	}
	if !v.Balanced {
		out = append(out, "Without a grey card the colour is no surer than by eye")
	}
	return out
}

// spotToLot makes the colour of a spot that of a lot.
func (s *Room) spotToLot(c *gin.Context) error {
	var q struct {
		Spot shelf.Spot `json:"spot"`
		Lot  int64      `json:"lot"`
	}
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	r, err := s.Studio.Shelf.ReadSpot(c.Request.Context(), n, q.Spot)
	if err != nil {
		return err
	}
	l, err := s.Studio.Shelf.Lot(c.Request.Context(), q.Lot)
	if err != nil {
		return fault.New("lot", "Choose a lot.")
	}
	if len(l.Colours) > 1 {
		return fault.New("lot", "%s has several colours. Change them on its own page.", l.Name)
	}
	in := l.LotInput
	source := "photo"
	if !r.Balanced {
		source = "picker" // without a card a photo is no better than an eye
	}
	in.Colours = []shelf.LotColour{{Hex: r.Hex, Share: 1, Source: source}}
	if _, err := s.Studio.Shelf.UpdateLot(c.Request.Context(), l.ID, l.Version, in); err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{"said": fmt.Sprintf("%s is %s now, %s.", l.Name, r.Hex, r.Name), "href": fmt.Sprintf("/lots/%d", l.ID), "lot": l.ID})
	return nil
}

type paletteView struct {
	Name string                  `json:"name"`
	Hex  string                  `json:"hex"`
	Part string                  `json:"part"`
	None bool                    `json:"none"`
	Then *recipepages.RecipeView `json:"then"`
}

type paletteRequest struct {
	Colours int    `json:"colours"`
	Text    string `json:"text"` // the weight of each blend
}

func (s *Room) photoPalette(c *gin.Context) error {
	var q paletteRequest
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	total, err := u.ReadGrams("total_g", q.Text)
	if err != nil {
		return err
	}
	list, err := s.Studio.Reach.Palette(c.Request.Context(), n, q.Colours, total)
	if err != nil {
		return err
	}
	out := []paletteView{}
	for _, p := range list {
		v := paletteView{Name: p.Name, Hex: p.Hex, Part: show.Fixed(100*p.Part, 0) + "\u00a0% of the picture", None: p.Blend == nil}
		if p.Blend != nil {
			r, err := s.recipe.Offered(c, u, recipe.BlendInput{Name: p.Name, Passes: 2}, p.Blend.Components, total)
			if err != nil {
				return err
			}
			r.Hex, r.DeltaE, r.Words = p.Blend.Hex, show.Fixed(p.Blend.DeltaE, 1), p.Blend.Words
			v.Then = &r
		}
		out = append(out, v)
	}
	c.JSON(http.StatusOK, gin.H{"colours": out})
	return nil
}

// throwFromPhoto makes the palette's blends in a making.
func (s *Room) throwFromPhoto(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	total, err := u.ReadGrams("total_g", c.PostForm("total_g"))
	if err != nil {
		return err
	}
	making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
	colours, _ := strconv.Atoi(c.PostForm("colours"))
	blends, err := s.Studio.Reach.ThrowOf(c.Request.Context(), n, colours, total)
	if err != nil {
		return err
	}
	return answer.Deed(s.Studio, func(c *gin.Context) error {
		if _, err := s.Studio.Recipe.CreateBlends(c.Request.Context(), making, blends); err != nil {
			return err
		}
		frame.GoTo(c, fmt.Sprintf("/makings/%d", making), "made")
		return nil
	})(c)
}
