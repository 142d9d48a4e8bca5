package workshoppages

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type devicesBody struct {
	Form   frame.Form
	Beyond frame.Beyond
	Codes  []frame.Code
	Tokens []tokenRow
	Secret string // of a token that was just made: it is shown this once
	Signs  bool   // one signs in
}

type tokenRow struct {
	ID         int64
	Name, Made string
	Used       string
}

// devices shows how the program is reached from another device, and who may ask.
func (s *Room) devices(c *gin.Context) error {
	return s.showDevices(c, http.StatusOK, frame.NewForm(), "")
}

func (s *Room) showDevices(c *gin.Context, status int, f frame.Form, secret string) error {
	b := devicesBody{Form: f, Beyond: s.World.Beyond, Secret: secret, Signs: s.World.Leave != nil}
	for _, at := range b.Beyond.Addresses {
		code, err := frame.CodeOf(at)
		if err != nil {
			return err
		}
		b.Codes = append(b.Codes, code)
	}
	list, err := s.Studio.Workshop.Doors.Tokens(c.Request.Context())
	if err != nil {
		return err
	}
	for _, t := range list {
		b.Tokens = append(b.Tokens, tokenRowOf(t))
	}
	s.Render(c, status, "devices", frame.Page{Title: "Other devices", Here: "workshop"}, b)
	return nil
}

func tokenRowOf(t workshop.Token) tokenRow {
	row := tokenRow{ID: t.ID, Name: t.Name, Made: show.Date(t.Made), Used: "never used"}
	if t.Used != nil {
		row.Used = "last used " + show.Date(*t.Used)
	}
	return row
}

// addToken lets a program in, and shows its secret this once.
func (s *Room) addToken(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	secret, err := s.Studio.Workshop.Doors.NewToken(c.Request.Context(), c.PostForm("name"))
	if err == nil {
		return s.showDevices(c, http.StatusOK, frame.NewForm(), secret)
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showDevices(c, http.StatusUnprocessableEntity, f, "")
}

// dropToken withdraws a program's token.
func (s *Room) dropToken(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	id, _ := strconv.ParseInt(c.PostForm("id"), 10, 64)
	if err := s.Studio.Workshop.Doors.DropToken(c.Request.Context(), id); err != nil {
		return err
	}
	frame.GoTo(c, "/devices", "withdrawn")
	return nil
}

// signOut signs this device out, or all of them.
func (s *Room) signOut(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	if c.PostForm("where") == "everywhere" {
		if err := s.Studio.Workshop.Doors.SignOutEverywhere(c.Request.Context()); err != nil {
			return err
		}
	}
	if s.World.Leave != nil {
		if err := s.World.Leave(c.Writer, c.Request); err != nil {
			return err
		}
	}
	c.Redirect(http.StatusSeeOther, "/")
	return nil
}
