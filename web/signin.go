package web

import (
	"crypto/sha256"
	_ "embed"
	"encoding/base64"
	"html/template"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"

	"fairtangle/studio/workshop"
	"fairtangle/web/pages"
)

// signIn is where the page to sign in sends the passphrase.
const signIn = "/sign-in"

// signedFor is how long one stays signed in on a device.
const signedFor = 30 * 24 * time.Hour

// door keeps who has signed in.
type door struct {
	doors    workshop.Doors
	sessions *scs.SessionManager
}

const insideKey = "in"

// newDoor keeps sessions beside the data, each as the hash of what its cookie says; secure cookies go over TLS alone.
func newDoor(doors workshop.Doors, secure bool) door {
	m := scs.New()
	m.Store, m.Lifetime, m.HashTokenInStore = doors, signedFor, true
	m.Cookie.Name, m.Cookie.Secure, m.Cookie.HttpOnly, m.Cookie.SameSite = "fair-tangle", secure, true, http.SameSiteLaxMode
	return door{doors, m}
}

// in reports whether who asks has signed in.
func (d door) in(r *http.Request) (bool, error) {
	cookie, err := r.Cookie(d.sessions.Cookie.Name)
	if err != nil {
		return false, nil // there is none
	}
	ctx, err := d.sessions.Load(r.Context(), cookie.Value)
	return err == nil && d.sessions.GetBool(ctx, insideKey), err
}

// open signs in who asks, under a new token.
func (d door) open(w http.ResponseWriter, r *http.Request) error {
	ctx, err := d.sessions.Load(r.Context(), "")
	if err != nil {
		return err
	}
	d.sessions.Put(ctx, insideKey, true)
	token, expires, err := d.sessions.Commit(ctx)
	if err != nil {
		return err
	}
	d.sessions.WriteSessionCookie(ctx, w, token, expires)
	return nil
}

// leave signs out who asks.
func (d door) leave(w http.ResponseWriter, r *http.Request) error {
	cookie, err := r.Cookie(d.sessions.Cookie.Name)
	if err != nil {
		return nil // nobody is in
	}
	ctx, err := d.sessions.Load(r.Context(), cookie.Value)
	if err != nil {
		return err
	}
	d.sessions.WriteSessionCookie(ctx, w, "", time.Time{})
	return d.sessions.Destroy(ctx)
}

//go:embed signin.css
var signInStyle string

//go:embed signin.html
var signInText string

var signInPage = template.Must(template.New("").Parse(signInText))

//go:embed away.html
var awayText string

//go:embed sw.js
var awayWorker []byte

var awayPage = template.Must(template.New("").Parse(awayText))

// away is the page that a browser keeps for when the program does not answer, and what has it do so.
func away(e *gin.Engine) {
	e.GET("/away", func(c *gin.Context) {
		c.Header("Content-Security-Policy", signInPolicy)
		c.Header("Content-Type", "text/html; charset=utf-8")
		if err := awayPage.Execute(c.Writer, struct{ Style template.CSS }{template.CSS(strings.TrimSpace(signInStyle))}); err != nil {
			_ = c.Error(err)
		}
	})
	e.GET("/sw.js", func(c *gin.Context) {
		c.Header("Cache-Control", "no-cache")
		c.Data(http.StatusOK, "text/javascript; charset=utf-8", awayWorker)
	})
}

// signInPolicy lets the page have its own style and nothing else: nothing of the program is served before one has signed in.
var signInPolicy = func() string {
	sum := sha256.Sum256([]byte(signInStyle))
	return "default-src 'none'; style-src 'sha256-" + base64.StdEncoding.EncodeToString(sum[:]) + "'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
}()

// show shows the page to sign in, which leads back to where one asked.
func (d door) show(c *gin.Context, status int) {
	c.Abort()
	c.Header("Content-Security-Policy", signInPolicy)
	c.Header("Content-Type", "text/html; charset=utf-8")
	c.Status(status)
	to, wrong := c.PostForm("to"), ""
	switch {
	case c.Request.Method == http.MethodGet:
		to = c.Request.URL.RequestURI()
	case c.Request.URL.Path != signIn:
		to = cameFrom(c.Request)
		wrong = "You were signed out, and what you sent was not taken. Go back: it is still there. Sign in in another tab, and send it again."
	case status == http.StatusTooManyRequests:
		wrong = "There were many wrong ones from here. Wait three seconds, and send it again."
	default:
		wrong = "That is not the passphrase. It is told where the program was started."
	}
	_, pupil := pages.ForGuests(c.Request.URL.Path)
	if err := signInPage.Execute(c.Writer, struct {
		Style     template.CSS
		To, Wrong string
		Pupil     bool // of a class that is over, or who tried many codes
	}{template.CSS(strings.TrimSpace(signInStyle)), to, wrong, pupil}); err != nil {
		_ = c.Error(err)
	}
}

// cameFrom is the page of this program from which something was sent; home where that is not told.
func cameFrom(r *http.Request) string {
	at, err := url.Parse(r.Referer())
	if err != nil || at.Host != r.Host {
		return "/"
	}
	return at.RequestURI()
}
