package workshoppages

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/formats"
	"fairtangle/studio/floor"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

type outBody struct {
	Lists   []workshop.ListOut
	Makings []recipe.MakingName
	Form    frame.Form
}

// outPage says in which forms what is here goes out, and comes in.
func (s *Room) outPage(c *gin.Context) error { return s.showOut(c, http.StatusOK, frame.NewForm()) }

func (s *Room) showOut(c *gin.Context, status int, f frame.Form) error {
	makings, err := s.Studio.Recipe.MakingNames(c.Request.Context())
	if err != nil {
		return err
	}
	s.Render(c, status, "out", frame.Page{Title: "Out, and in again", Here: "workshop", Scripts: []string{"js/busy.js"}},
		outBody{Lists: workshop.ListsOut(), Makings: makings, Form: f})
	return nil
}

// attached sends a file under a name.
func attached(c *gin.Context, name, sort string) {
	c.Header("Content-Type", sort)
	c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
}

// allOut is everything as one zip. It is written as it goes: where that fails the zip has no end, and is none.
func (s *Room) allOut(c *gin.Context) error {
	attached(c, "fair-tangle.zip", "application/zip")
	_ = http.NewResponseController(c.Writer).SetWriteDeadline(time.Now().Add(uploadTakes)) // it is large, and a network may be slow
	return streamed(c, s.Studio.Workshop.Vault.AllOut(c.Request.Context(), c.Writer))
}

// streamed ends an answer that is written as it is made: where that failed and half of it went out, the connection ends with it, so that
// nobody takes the half for all.
func streamed(c *gin.Context, err error) error {
	if err == nil || !c.Writer.Written() {
		return err
	}
	_ = c.Error(err)
	panic(http.ErrAbortHandler)
}

// listOut is a list as CSV.
func (s *Room) listOut(c *gin.Context) error {
	var b bytes.Buffer
	t := formats.NewTable(&b)
	if err := s.Studio.Workshop.Vault.ListOut(c.Request.Context(), c.Param("list"), t.Line); err != nil {
		if _, none := fault.From(err); none {
			return floor.ErrNotFound
		}
		return err
	}
	if err := t.End(); err != nil {
		return err
	}
	attached(c, c.Param("list")+".csv", "text/csv; charset=utf-8")
	_, err := b.WriteTo(c.Writer)
	return err
}

// shelfPalette is the shelf as a palette, as text or for drawing programs, or what a colour reader measured of it.
func (s *Room) shelfPalette(c *gin.Context) error {
	found, err := s.Studio.Shelf.Shelf(c.Request.Context(), shelf.LotFilter{Sort: "name"})
	if err != nil {
		return err
	}
	var list []formats.Swatch
	var spectra []formats.Spectrum
	for _, l := range found.Lots {
		for i, v := range l.Colours {
			name := l.Name
			if len(l.Colours) > 1 {
				name += fmt.Sprintf(", colour %d", i+1)
			}
			list = append(list, formats.Swatch{Name: name, Hex: v.Hex})
			if s := (formats.Spectrum{Name: name}); len(v.Reflectance) == len(s.Reflectance) {
				copy(s.Reflectance[:], v.Reflectance)
				spectra = append(spectra, s)
			}
		}
	}
	if c.Param("form") == "spectra.txt" {
		attached(c, "spectra.txt", "text/plain; charset=utf-8")
		return formats.WriteCGATS(c.Writer, spectra)
	}
	return palette(c, c.Param("form"), "Shelf", list)
}

// makingPalette is a making's blends as a palette: what each will look like, and nothing of one that is empty.
func (s *Room) makingPalette(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	m, err := s.Studio.Recipe.Making(c.Request.Context(), n)
	if err != nil {
		return err
	}
	blends, err := s.Studio.Recipe.BlendsSeen(c.Request.Context(), n)
	if err != nil {
		return err
	}
	var list []formats.Swatch
	for _, b := range blends {
		if b.Hex != "" {
			list = append(list, formats.Swatch{Name: b.Name, Hex: b.Hex})
		}
	}
	return palette(c, c.Param("form"), m.Name, list)
}

func palette(c *gin.Context, form, name string, list []formats.Swatch) (err error) {
	var b bytes.Buffer
	switch form {
	case "palette.gpl":
		err = formats.WriteGPL(&b, name, list)
	case "palette.ase":
		err = formats.WriteASE(&b, list)
	default:
		return floor.ErrNotFound
	}
	if err != nil {
		return err
	}
	attached(c, form, "application/octet-stream")
	_, err = b.WriteTo(c.Writer)
	return err
}

// mostFromPalette is how many blends a palette becomes at once.
const mostFromPalette = 60

// paletteIn makes a blend to be found for each colour of a palette.
func (s *Room) paletteIn(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
	in, err := s.blendsOf(c, making)
	if err == nil {
		err = answer.Deed(s.Studio, func(c *gin.Context) error {
			if _, err := s.Studio.Recipe.CreateBlends(c.Request.Context(), making, in); err != nil {
				return err
			}
			frame.GoTo(c, fmt.Sprintf("/makings/%d", making), "made")
			return nil
		})(c)
		if err == nil {
			return nil
		}
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showOut(c, http.StatusUnprocessableEntity, f)
}

// blendsOf are the blends that a palette becomes.
func (s *Room) blendsOf(c *gin.Context, making int64) ([]recipe.BlendInput, error) {
	head, err := c.FormFile("palette")
	if err != nil {
		return nil, fault.New("palette", "Choose the file of a palette.")
	}
	file, err := head.Open()
	if err != nil {
		return nil, err
	}
	defer file.Close()
	data, err := io.ReadAll(io.LimitReader(file, formats.MaxBytes))
	if err != nil {
		return nil, err
	}
	list, err := formats.ReadPalette(data)
	var not formats.ErrNotPalette
	switch {
	case errors.As(err, &not):
		return nil, fault.New("palette", "%s", not.Message)
	case err != nil:
		return nil, err
	case len(list) == 0:
		return nil, fault.New("palette", "There is no colour in it.")
	case len(list) > mostFromPalette:
		return nil, fault.New("palette", "It holds more than %d colours, as many as a making takes at once. Leave in it those that you want.", mostFromPalette)
	}
	grams, err := s.Studio.Yarns.NewBlendG(c.Request.Context(), making)
	if err != nil {
		return nil, err
	}
	in := make([]recipe.BlendInput, len(list))
	for i, v := range list {
		in[i] = recipe.BlendInput{Name: firstSigns(v.Name), TotalG: grams, Passes: reach.DefaultPasses, Target: v.Hex}
	}
	return in, nil
}

// firstSigns is as much of a text as a name holds.
func firstSigns(s string) string {
	if r := []rune(s); len(r) > floor.MaxName {
		return string(r[:floor.MaxName])
	}
	return s
}
