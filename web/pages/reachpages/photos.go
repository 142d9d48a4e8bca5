package reachpages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

type photosBody struct {
	Form   frame.Form
	Photos []shelf.Photo
	Blend  string // for which a colour is wanted
}

func (s *Room) photos(c *gin.Context) error { return s.showPhotos(c, http.StatusOK, frame.NewForm()) }

func (s *Room) showPhotos(c *gin.Context, status int, f frame.Form) error {
	list, err := s.Studio.Shelf.Photos(c.Request.Context())
	if err != nil {
		return err
	}
	s.Render(c, status, "photos", frame.Page{Title: "Photos", Here: "shelf", Scripts: []string{"js/busy.js"}}, photosBody{f, list, wantedFor(c)})
	return nil
}

// wantedFor is the blend that a colour is looked for, as part of an address.
func wantedFor(c *gin.Context) string {
	if n, err := strconv.ParseInt(c.Query("blend"), 10, 64); err == nil && n > 0 {
		return "?blend=" + strconv.FormatInt(n, 10)
	}
	return ""
}

func (s *Room) addPhoto(c *gin.Context) error {
	f := frame.NewForm()
	err := frame.Parsed(c)
	if err != nil && !answer.TooLarge(err) {
		return err
	}
	file, head, fileErr := c.Request.FormFile("photo")
	if err == nil {
		err = fileErr
	}
	if err != nil {
		if answer.TooLarge(err) {
			f.Errors["photo"] = "The picture is larger than 20 MB."
			return s.showPhotos(c, http.StatusRequestEntityTooLarge, f)
		}
		f.Errors["photo"] = "Choose a JPEG, PNG or WebP picture."
		return s.showPhotos(c, http.StatusUnprocessableEntity, f)
	}
	defer file.Close()
	f.Values["name"] = c.PostForm("name")
	name := strings.TrimSpace(c.PostForm("name"))
	if name == "" {
		name, _, _ = strings.Cut(head.Filename, ".")
	}
	if name = strings.ToValidUTF8(name, ""); name == "" {
		name = "photo"
	}
	p, err := s.Studio.Shelf.TakePicture(c.Request.Context(), name, file)
	if err != nil {
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.showPhotos(c, http.StatusUnprocessableEntity, f)
	}
	return answer.Deed(s.Studio, func(c *gin.Context) error {
		v, err := s.Studio.Shelf.KeepPicture(c.Request.Context(), p)
		if err == nil {
			c.Redirect(http.StatusSeeOther, fmt.Sprintf("/photos/%d%s", v.ID, wantedFor(c)))
			return nil
		}
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.showPhotos(c, http.StatusUnprocessableEntity, f)
	})(c)
}
