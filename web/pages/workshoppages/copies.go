package workshoppages

import (
	"errors"
	"fmt"
	"mime"
	"mime/multipart"
	"net/http"
	"net/url"
	"path/filepath"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type copiesBody struct {
	Form   frame.Form
	Copies []copyRow
	Now    copyRow
	Folder string // where they are kept
	Usual  string // where they are kept if nothing is said
	Wrong  string // what kept the last try from being a copy
	Demo   bool   // begun anew at each start
	Next   string // the copy that the program begins with the next time
	Again  bool   // the program can begin again by itself
	Came   string // the name of the copy that was just taken in
	Began  bool   // the program has just begun again
}

// copyRow is a copy in a maker's words.
type copyRow struct {
	Name, At, Size string
	Holds          []string
	Wrong          string // empty: it is whole
}

// holds says what there is.
func holds(r workshop.Holding, u show.Units) []string {
	out := []string{show.Plural(r.Makings, "making"), show.Plural(r.Lots, "lot") + ", " + u.Grams(r.Grams), show.Plural(r.Runs, "run"),
		show.Plural(r.Photos, "photo")}
	if !r.Latest.IsZero() {
		out = append(out, "fibre last booked "+r.Latest.Local().Format("2 January 2006, 15:04"))
	}
	return out
}

// copies lists the copies of all that is here.
func (s *Room) copies(c *gin.Context) error {
	_, set, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values = map[string]string{"version": strconv.FormatInt(set.Version, 10), "folder": set.CopiesFolder}
	return s.showCopies(c, http.StatusOK, f)
}

func (s *Room) showCopies(c *gin.Context, status int, f frame.Form) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	body := copiesBody{Form: f, Demo: s.World.Demo, Again: s.World.Again != nil, Came: c.Query("came"), Began: c.Query("did") == "begun",
		Usual: s.Studio.Workshop.Vault.CopiesBeside()}
	if body.Folder, err = s.Studio.Workshop.Vault.CopiesFolder(ctx); err != nil {
		return err
	}
	list, wrong, err := s.Studio.Workshop.Vault.Copies(ctx)
	if err != nil {
		return err
	}
	body.Wrong = wrong
	next := s.Studio.Workshop.Vault.BeginsWith()
	if next != "" {
		body.Next = filepath.Base(next) // it may be gone
	}
	for _, v := range list {
		row := copyRow{Name: v.Name, At: v.At.Format("2 January 2006, 15:04:05"), Size: size(v.Bytes), Wrong: "It was not looked over."}
		if v.Report != nil {
			row.Holds, row.Wrong = holds(*v.Report, u), ""
			if len(v.Report.Wrong) > 0 {
				row.Wrong = v.Report.Wrong[0]
			}
		}
		if v.Path == next {
			body.Next = row.At
		}
		body.Copies = append(body.Copies, row)
	}
	now, err := s.Studio.Workshop.Vault.Holds(ctx)
	if err != nil {
		return err
	}
	body.Now.Holds = holds(now, u)
	s.Render(c, status, "copies", frame.Page{Title: "Copies", Here: "workshop"}, body)
	return nil
}

// size is so many bytes in words.
func size(n int64) string {
	if n < 1e6 {
		return show.Fixed(float64(n)/1e3, 0) + "\u00a0kB"
	}
	return show.Fixed(float64(n)/1e6, 1) + "\u00a0MB"
}

// makeCopy copies all that is here.
func (s *Room) makeCopy(c *gin.Context) error {
	if _, err := s.Studio.Workshop.Vault.MakeCopy(c.Request.Context()); err != nil && !told(err) {
		return err
	}
	frame.GoTo(c, "/copies", "")
	return nil
}

// told reports whether what went wrong is said on the page of the copies.
func told(err error) bool {
	var l fault.List
	return errors.As(err, &l)
}

// copiesFolder has copies kept elsewhere.
func (s *Room) copiesFolder(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	version, _ := strconv.ParseInt(c.PostForm("version"), 10, 64)
	err := s.Studio.Workshop.Vault.SetCopiesFolder(c.Request.Context(), version, c.PostForm("folder"))
	if err == nil {
		frame.GoTo(c, "/copies", "saved")
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showCopies(c, http.StatusUnprocessableEntity, f)
}

// beginWith has the program begin with a copy the next time, or stay.
func (s *Room) beginWith(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	err := s.Studio.Workshop.Vault.BeginWith(c.Request.Context(), c.PostForm("copy"))
	if err == nil && c.PostForm("copy") != "" && s.World.Again != nil {
		s.World.Again()
		frame.GoTo(c, "/copies", "begun")
		return nil
	}
	if err == nil {
		frame.GoTo(c, "/copies", "")
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showCopies(c, http.StatusUnprocessableEntity, f)
}

// takeCopy gives a copy as one file.
func (s *Room) takeCopy(c *gin.Context) error {
	v, err := s.Studio.Workshop.Vault.OneCopy(c.Request.Context(), c.Param("name"))
	if err != nil {
		return err
	}
	c.Header("Content-Type", "application/zip")
	c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": fmt.Sprintf("fair-tangle %s.zip", v.Name)}))
	_ = http.NewResponseController(c.Writer).SetWriteDeadline(time.Now().Add(uploadTakes))
	return streamed(c, v.Zip(c.Writer))
}

// takeIn takes in a copy that was taken along from another computer.
func (s *Room) takeIn(c *gin.Context) error {
	_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(uploadTakes)) // it is large, and a network may be slow
	head, err := c.FormFile("file")
	if err != nil {
		err = fault.New("file", "Choose the zip that was taken along.")
	} else {
		var file multipart.File
		if file, err = head.Open(); err != nil {
			return err
		}
		defer file.Close()
		var v workshop.Copy
		if v, err = s.Studio.Workshop.Vault.TakeIn(c.Request.Context(), file, head.Size); err == nil {
			c.Redirect(http.StatusSeeOther, "/copies?came="+url.QueryEscape(v.Name))
			return nil
		}
	}
	f := frame.NewForm()
	_, set, wrong := s.Units(c)
	if wrong != nil {
		return wrong
	}
	f.Values = map[string]string{"version": strconv.FormatInt(set.Version, 10), "folder": set.CopiesFolder}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showCopies(c, http.StatusUnprocessableEntity, f)
}

// uploadTakes is how long a copy may take to come, or to go.
const uploadTakes = 30 * time.Minute
