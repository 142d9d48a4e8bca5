package frame

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"html/template"
	"io"
	"io/fs"
	"net/http"
	"net/url"
	"path"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// Frame is what the handlers of pages share: who asks is answered in her units, and a page is put
// together with all that every page has.
type Frame struct {
	Studio *studio.Studio
	Turns  *answer.Turns
	Pans   map[string]string // pages of simulated scales, by address

	World     World
	files     fs.FS // the templates and scripts of all rooms
	templates templates
	assets    assets
}

// World is how the sample world is at hand.
type World struct {
	Demo   bool                                        // this is it, made anew at each start
	Sample func(context.Context, *studio.Studio) error // fills an empty studio with it; nil: it is not at hand
	Again  func()                                      // has the program begin again once nobody asks any more; nil: it can not
	Beyond Beyond
	Leave  func(http.ResponseWriter, *http.Request) error // signs out who asks; nil: nobody signs in
}

// Beyond is how the program is reached from other devices.
type Beyond struct {
	Addresses   []string // where it answers, as one types them; none: it answers to this computer alone
	TLS         bool
	Fingerprint string // of the certificate that the program made by itself; empty: it is another's
}

// New is a frame; files are the templates, styles and scripts of all rooms, each in a directory of its own.
func New(st *studio.Studio, world World, turns *answer.Turns, pans map[string]string, files fs.FS) *Frame {
	return &Frame{Studio: st, Turns: turns, Pans: pans, World: world, files: files}
}

// Load reads the templates and scripts of all rooms and serves the latter.
func (s *Frame) Load(e *gin.Engine) (err error) {
	if s.assets, err = loadAssets(s.files); err != nil {
		return err
	}
	if s.templates, err = loadTemplates(s.files, s.assets); err != nil {
		return err
	}
	e.GET("/favicon.ico", func(c *gin.Context) { c.Redirect(http.StatusMovedPermanently, s.assets.url("img/mark.svg")) })
	e.GET("/static/:version/*path", s.assets.serve)
	e.GET("/manifest.webmanifest", s.manifest)
	return nil
}

// manifest lets a phone or a computer keep the program among its own.
func (s *Frame) manifest(c *gin.Context) {
	icon := func(name, sizes, kind string) gin.H {
		return gin.H{"src": s.assets.url(name), "sizes": sizes, "type": kind}
	}
	c.Header("Content-Type", "application/manifest+json")
	c.JSON(http.StatusOK, gin.H{
		"name": "Fair Tangle", "short_name": "Fair Tangle", "start_url": "/", "scope": "/", "display": "standalone",
		"background_color": "#e7e5e0", "theme_color": "#e7e5e0",
		"icons": []gin.H{icon("img/mark.svg", "any", "image/svg+xml"), icon("img/icon.png", "512x512", "image/png")},
	})
}

// templates are the pages by name, each read when it is first shown.
type templates map[string]func() (*template.Template, error)

// execute writes a part of a page with its data.
func (t templates) execute(w io.Writer, page, part string, data any) error {
	read, known := t[page]
	if !known {
		return fmt.Errorf("there is no template %s", page)
	}
	set, err := read()
	if err != nil {
		return fmt.Errorf("template %s: %w", page, err)
	}
	return set.ExecuteTemplate(w, part, data)
}

// Page is what every page has. Body is the page's own data.
type Page struct {
	Title   string
	Here    string // which of the main places it belongs to
	Scripts []string
	Strand  *strand
	Wide    bool
	Bare    bool // without the ways to the rest of the program: for pupils of a class, and for a wall
	Body    any

	Ground string
	Path   string
	Demo   bool
	Notice string
	// Trouble is what the disk refused, shown above the page.
	Trouble string
	Amiss   []amiss
	Binned  *binned
	U       show.Units
}

// binned is what just went to the bin, for the notice with its undo.
type binned struct{ Table, ID, What string }

// loadTemplates reads what the pages of the rooms share, and finds the pages. They are many, and a maker opens some of them: to read them
// all took half of what the program needs to start.
func loadTemplates(files fs.FS, a assets) (templates, error) {
	funcs := template.FuncMap{
		"asset":   a.url,
		"beneath": a.beneath,
		"percent": show.Percent,
		"num":     show.Number,
		"fixed":   show.Fixed,
		"date":    show.Date,
		"moment":  show.Moment,
		"letter":  show.Letter,
		"plural": func(n any, noun string) string {
			if v, ok := n.(int64); ok {
				return show.Plural(v, noun)
			}
			return show.Plural(n.(int), noun)
		},
		"each":  func(g float64, n int) float64 { return g / float64(max(1, n)) },
		"add":   func(a, b int) int { return a + b },
		"part":  func(i, n int) float64 { return 100 * float64(i) / float64(max(1, n)) },
		"list":  func(v ...string) []string { return v },
		"args":  func(v ...any) []any { return v },
		"field": NewField,
		"term":  termLink,
		"at":    func(f Form, name string) Field { return Field{Form: f, Name: name} },
		"wrong": func(f Form, name string) template.HTMLAttr {
			return Field{Form: f, Name: name}.blamed(`aria-invalid="true" `)
		},
		"tells":  func(f Form, name string) template.HTMLAttr { return Field{Form: f, Name: name}.blamed("") }, // a group of choices
		"newkey": rand.Text,                                                                                    // for a form that books something
		"words":  func(s string) string { return strings.ReplaceAll(s, "_", " ") },
	}
	layout, err := template.New("layout.html").Funcs(funcs).ParseFS(files, "frame/templates/layout.html", "frame/templates/parts/*.html")
	if err != nil {
		return nil, err
	}
	names, err := fs.Glob(files, "*/templates/*.html")
	if err != nil {
		return nil, err
	}
	out := templates{}
	for _, n := range names {
		name := strings.TrimSuffix(path.Base(n), ".html")
		if name == "layout" {
			continue
		}
		out[name] = sync.OnceValues(func() (*template.Template, error) {
			t, err := layout.Clone()
			if err != nil {
				return nil, err
			}
			return t.ParseFS(files, n)
		})
	}
	return out, nil
}

// notices are the sentences that a redirect can carry to the next page, by key.
var notices = map[string]string{
	"saved": "Saved.", "noted": "Noted.", "stepmoved": "Saved. The scale’s step is now one that scales in this unit have; change it if yours is another.",
	"added": "Added.", "restored": "Taken out of the bin again.", "copied": "Copied. This is the copy.",
	"archived": "Put away. It is under “put away” at the foot of the makings.", "unarchived": "Back at work.",
	"undone": "Undone.", "moved": "Booked in the ledger.", "helped": "Noted: it is tried first next time.",
	"parted": "Parted: each part is a lot of its own.", "together": "Put together.",
	"imported": "The lots are on the shelf.", "takenback": "All of them lie in the bin now.", "kept": "Kept. The amounts stay as they are now.",
	"measured":  "The lot is predicted from what was measured now.",
	"roundover": "The round is over: its code leads nowhere any more, and who was there is forgotten.",
	"again":     "Made again, in the proportions in which it was weighed, and laid as it was; the colour wanted is that of the first batch.",
	"anew": "Not everything is there any more; what is was kept, and the rest found anew. The colour wanted is that of the first batch: how far it is off " +
		"stands there. Where both meet in one piece, alternate them for some rows.",
	"shelved": "It is on the shelf now.",
	"given":   "This is the recipe, with what stands in for it here.",
	"made":    "The blends are in the making now.",
	"sampled": "This is the sample world. Look around, change what you like; it is put away by one press.",
	"away":    "The sample world is put away; it lies in the bin for 30 days.",
}

// troubleKey is where a request keeps what the disk refused.
const troubleKey = "trouble"

// Render answers with a page. Pages carry an ETag, so that going back to an
// unchanged one costs little.
func (s *Frame) Render(c *gin.Context, status int, name string, p Page, body any) {
	_, set, err := s.Units(c)
	if err != nil {
		set = workshop.Settings{Ground: "light", StepMg: 100}
	}
	p.Body, p.Ground, p.Path, p.Demo, p.U = body, set.Ground, c.Request.URL.RequestURI(), s.World.Demo, show.From(set)
	if p.Bare = p.Bare || ForGuests(c.Request.URL.Path); !p.Bare {
		p.Notice, p.Amiss = notices[c.Query("did")], amissOf(c, p.U)
	}
	if p.Strand != nil {
		if err := s.waits(c, p.Strand); err != nil {
			_ = c.Error(err) // the way is shown without
		}
	}
	if p.Trouble = c.GetString(troubleKey); p.Trouble != "" {
		status = http.StatusInsufficientStorage
	} else if err := s.Studio.Floor.There(); err != nil {
		p.Trouble = err.Error()
	}
	table, n, _ := strings.Cut(c.Query("binned"), "-")
	if sort, known := floor.SortOf(table); known && !p.Bare {
		p.Binned = &binned{Table: table, ID: n, What: sort.Word}
	}
	var buf bytes.Buffer
	if err := s.templates.execute(&buf, name, "layout.html", p); err != nil {
		_ = c.Error(err)
		c.String(http.StatusInternalServerError, "This page can not be shown.")
		return
	}
	if status == http.StatusOK && c.Request.Method == http.MethodGet {
		sum := sha256.Sum256(buf.Bytes())
		tag := `W/"` + hex.EncodeToString(sum[:12]) + `"`
		c.Header("ETag", tag)
		c.Header("Cache-Control", "no-cache")
		if c.GetHeader("If-None-Match") == tag {
			c.Status(http.StatusNotModified)
			return
		}
	}
	c.Data(status, "text/html; charset=utf-8", buf.Bytes())
}

// Class is where pupils of a class come in.
const Class = "/class"

// ForGuests reports whether an address is for the pupils of a class, who are let in by its code.
func ForGuests(path string) bool { return path == Class || strings.HasPrefix(path, Class+"/") }

// Document is a page that stands alone, as a file: the part "document" of a template.
func (s *Frame) Document(name string, data any) ([]byte, error) {
	var out bytes.Buffer
	err := s.templates.execute(&out, name, "document", data)
	return out.Bytes(), err
}

// Units returns the maker's units and settings, loaded once a request.
func (s *Frame) Units(c *gin.Context) (show.Units, workshop.Settings, error) {
	if known, ok := c.Get("settings"); ok {
		set := known.(workshop.Settings)
		return show.From(set), set, nil
	}
	set, err := s.Studio.Workshop.Settings(c.Request.Context())
	if err == nil {
		c.Set("settings", set)
	}
	return show.From(set), set, err
}

// Named is the id of the path, and the maker's units.
func (s *Frame) Named(c *gin.Context) (int64, show.Units, error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return n, show.Units{}, err
	}
	u, _, err := s.Units(c)
	return n, u, err
}

// Asked is named with the body of a script's request.
func Asked[Q any](s *Frame, c *gin.Context, q *Q) (int64, show.Units, error) {
	n, err := answer.WithBody(c, q)
	if err != nil {
		return n, show.Units{}, err
	}
	u, _, err := s.Units(c)
	return n, u, err
}

// Posted reads a posted form and gives the maker's units to read it in.
func (s *Frame) Posted(c *gin.Context) (show.Units, error) {
	if err := Parsed(c); err != nil {
		return show.Units{}, err
	}
	u, _, err := s.Units(c)
	return u, err
}

// AskedBefore reads a posted form that goes on from a page whose choices stand in its address: which record, and what was asked there.
func (s *Frame) AskedBefore(c *gin.Context) (id int64, u show.Units, asked url.Values, err error) {
	if id, err = answer.ID(c, "id"); err != nil {
		return 0, u, nil, err
	}
	if u, err = s.Posted(c); err != nil {
		return 0, u, nil, err
	}
	if asked, err = url.ParseQuery(c.PostForm("asked")); err != nil {
		err = fault.New("asked", "What was asked can not be read.")
	}
	return id, u, asked, err
}

// GoTo sends the browser on after something was done; did names a notice.
func GoTo(c *gin.Context, url, did string) {
	if did != "" {
		sep := "?"
		if strings.Contains(url, "?") {
			sep = "&"
		}
		url += sep + "did=" + did
	}
	c.Redirect(http.StatusSeeOther, url)
}

// SeedOf is from what a tuft is drawn: the lot, or the place in a list.
func SeedOf(lot *int64, i int) int64 {
	if lot != nil {
		return *lot
	}
	return int64(i + 1)
}
