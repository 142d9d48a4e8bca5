package reachpages

import (
	"fmt"
	"io"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// measureLot reads a colour of a lot with the reader, or takes it from a file.
func (s *Room) measureLot(c *gin.Context) error {
	l, err := s.shelf.Lot(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	at, _ := strconv.Atoi(c.PostForm("colour"))
	var m shelf.Measured
	if file, _, fileErr := c.Request.FormFile("spectra"); fileErr == nil {
		defer file.Close()
		data, readErr := io.ReadAll(io.LimitReader(file, answer.BodyLimit))
		if readErr != nil {
			return readErr
		}
		m, err = s.Studio.Shelf.ImportSpectrum(c.Request.Context(), l.ID, l.Version, at, data, c.PostForm("reading"))
	} else if c.PostForm("how") == "file" {
		err = fault.New("spectra", "Choose the CSV file of a colour reader.")
	} else {
		m, err = s.Studio.Shelf.MeasureLot(c.Request.Context(), l.ID, l.Version, at)
	}
	if err != nil {
		f := frame.NewForm()
		f.Values["reading"] = c.PostForm("reading")
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.shelf.ShowLot(c, http.StatusUnprocessableEntity, l, f)
	}
	frame.GoTo(c, fmt.Sprintf("/lots/%d", m.Lot.ID), "measured")
	return nil
}

// coloursBack takes the last change of a lot's colours back.
func (s *Room) coloursBack(c *gin.Context) error {
	l, err := s.shelf.Lot(c)
	if err != nil {
		return err
	}
	if _, err := s.Studio.Shelf.ColoursBack(c.Request.Context(), l.ID, l.Version); err != nil {
		return err
	}
	if frame.WantsJSON(c) {
		c.JSON(http.StatusOK, gin.H{"said": l.Name + " has its colour back."})
		return nil
	}
	frame.GoTo(c, fmt.Sprintf("/lots/%d", l.ID), "undone")
	return nil
}

// readUnder reads a colour with the workshop's reader; under is what the
// simulated stand-in gets to see.
func (s *Room) readUnder(c *gin.Context) error {
	var q struct {
		Under string `json:"under"`
	}
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	v, r, err := s.Studio.Shelf.ReadColour(c.Request.Context(), q.Under)
	if err != nil {
		return err
	}
	said := fmt.Sprintf("Read by %s in %d takes, noise %s %%.", r.Reader, r.Takes, show.Fixed(100*r.Noise, 1))
	if r.Simulated {
		said += " It is the simulated stand-in: it saw the colour that was wanted before, with noise."
	}
	c.JSON(http.StatusOK, gin.H{"hex": v.Hex, "said": said})
	return nil
}
