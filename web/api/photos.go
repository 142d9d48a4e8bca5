package api

import (
	"context"
	"io"
	"net/http"
	"os"

	"github.com/gin-gonic/gin"

	"fairtangle/formats"
	"fairtangle/studio/reach"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
)

func (s *server) photos(at methods) {
	at.get("/photos", answer.List(s.studio.Shelf.Photos))
	at.ask("/photos", s.addPhoto)
	at.get("/photos/:id", answer.One(s.studio.Shelf.Photo))
	at.put("/photos/:id", answer.Saved(s.renamePhoto))
	at.get("/photos/:id/picture.png", answer.Picture(s.studio.Shelf.PhotoFile))
	at.post("/photos/:id/card", answer.Saved(s.card))
	at.ask("/photos/:id/read", answer.Asked(s.studio.Shelf.ReadSpot))
	at.ask("/photos/:id/look", s.long(answer.Asked(s.studio.Shelf.LookOfPhoto)))
	at.ask("/photos/:id/runs", s.long(answer.Asked(s.studio.Shelf.RunsOfPhoto)))
	at.ask("/photos/:id/palette", s.long(answer.Asked(s.palette)))
	s.bin(at, "/photos", "photos")
}

// addPhoto takes the picture itself as the body.
func (s *server) addPhoto(c *gin.Context) error {
	// A body waits on disk for its turn, so that many of them take no memory.
	body, err := os.CreateTemp("", "photo-*")
	if err != nil {
		return err
	}
	defer os.Remove(body.Name())
	defer body.Close()
	if _, err := io.Copy(body, io.LimitReader(c.Request.Body, formats.MaxPhotoBytes+1)); err != nil {
		if answer.TooLarge(err) {
			return err
		}
		return answer.BadShape{Message: "The body could not be read to its end."}
	}
	name := c.Query("name")
	if name == "" {
		name = "photo"
	}
	return answer.JSON[shelf.Photo](c, http.StatusCreated)(s.studio.Shelf.AddPhoto(c.Request.Context(), name, body))
}

type named struct {
	Name string `json:"name"`
}

func (s *server) renamePhoto(ctx context.Context, id, version int64, q named) (shelf.Photo, error) {
	return s.studio.Shelf.RenamePhoto(ctx, id, version, q.Name)
}

// card balances a photo; without a spot the balance is taken off.
type card struct {
	Spot       *shelf.Spot `json:"spot"`
	ReflectPct float64     `json:"reflects_pct"`
}

func (s *server) card(ctx context.Context, id, version int64, q card) (shelf.Photo, error) {
	return s.studio.Shelf.SetCard(ctx, id, version, q.Spot, q.ReflectPct)
}

type palette struct {
	Colours int     `json:"colours"`
	TotalG  float64 `json:"total_g"`
}

func (s *server) palette(ctx context.Context, id int64, q palette) ([]reach.PaletteColour, error) {
	return s.studio.Reach.Palette(ctx, id, q.Colours, q.TotalG)
}
