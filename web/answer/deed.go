package answer

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio"
	"fairtangle/studio/floor"
)

// Deeds registers handlers that keep something: each is whole or not done.
func Deeds(st *studio.Studio, register func(string, Handler)) func(string, Handler) {
	return func(path string, h Handler) { register(path, Deed(st, h)) }
}

// errNotDone ends a deed whose handler has answered that it was not done.
var errNotDone = errors.New("answered that it was not done")

// Deed makes of a handler one unit of work: what it keeps is on disk before anything is answered,
// and nothing of it is kept where it answers with an error or the disk refuses. With a key (the
// field of a form, or the header Idempotency-Key) the same again gives the first answer.
func Deed(st *studio.Studio, h Handler) Handler {
	return func(c *gin.Context) error {
		key, content, err := sent(c)
		if err != nil {
			return err
		}
		w, r := c.Writer, c.Request
		var now *held
		before, err := st.Floor.Keyed(r.Context(), key, r.Method+" "+r.URL.RequestURI()+"\n"+string(content), func(ctx context.Context) (string, error) {
			now = &held{ResponseWriter: w, header: w.Header().Clone(), status: http.StatusOK}
			c.Writer, c.Request = now, r.WithContext(ctx)
			defer func() { c.Writer, c.Request = w, r }()
			if err := h(c); err != nil {
				return "", err
			}
			if now.status >= http.StatusBadRequest {
				return "", errNotDone
			}
			return now.said(key != "")
		})
		var trouble floor.Trouble
		switch {
		case errors.As(err, &trouble): // the handler shows it with what was typed
			c.Request = r.WithContext(floor.Refusing(r.Context(), trouble))
			c.Request.Body = io.NopCloser(bytes.NewReader(content))
			defer func() { c.Request = r }()
			return h(c)
		case err != nil && !errors.Is(err, errNotDone):
			return err
		case now == nil:
			return again(w, before)
		}
		return now.send(w)
	}
}

// sent is the key that a request carries, and what it says; it can be read once more.
func sent(c *gin.Context) (key string, content []byte, err error) {
	key = c.GetHeader("Idempotency-Key")
	var form url.Values
	if c.Request.MultipartForm != nil {
		form = c.Request.PostForm
		content = []byte(form.Encode())
	} else {
		if content, err = io.ReadAll(c.Request.Body); err != nil && !TooLarge(err) {
			err = BadShape{"", "The body could not be read to its end."}
		}
		c.Request.Body = io.NopCloser(bytes.NewReader(content))
		if c.ContentType() == gin.MIMEPOSTForm {
			form, _ = url.ParseQuery(string(content)) // who reads it whole says what is wrong with it
		}
	}
	if key == "" {
		key = form.Get("key")
	}
	if err == nil && len(key) > longestKey {
		err = fault.New("key", "A key has at most %d signs.", longestKey)
	}
	return key, content, err
}

// longestKey is how many bytes a key has at most.
const longestKey = 64

// held is an answer that is not sent yet.
type held struct {
	gin.ResponseWriter
	header http.Header
	status int
	body   bytes.Buffer
}

func (h *held) Header() http.Header               { return h.header }
func (h *held) WriteHeader(status int)            { h.status = status }
func (h *held) WriteHeaderNow()                   {}
func (h *held) Write(b []byte) (int, error)       { return h.body.Write(b) }
func (h *held) WriteString(s string) (int, error) { return h.body.WriteString(s) }
func (h *held) Status() int                       { return h.status }
func (h *held) Size() int                         { return h.body.Len() }
func (h *held) Written() bool                     { return h.body.Len() > 0 }

// spoken is an answer as it is kept with its key.
type spoken struct {
	Status   int    `json:"status"`
	Location string `json:"location,omitempty"`
	Type     string `json:"type,omitempty"`
	Body     string `json:"body,omitempty"`
}

// said is an answer as it is kept, where it is asked for again.
func (h *held) said(keep bool) (string, error) {
	if !keep {
		return "", nil
	}
	data, err := json.Marshal(spoken{h.status, h.header.Get("Location"), h.header.Get("Content-Type"), h.body.String()})
	return string(data), err
}

// send sends what was held.
func (h *held) send(w gin.ResponseWriter) error {
	for k, v := range h.header {
		w.Header()[k] = v
	}
	w.WriteHeader(h.status)
	if h.body.Len() == 0 {
		w.WriteHeaderNow()
		return nil
	}
	_, _ = w.Write(h.body.Bytes()) // what packs it writes the head; who has left reads nothing
	return nil
}

// again sends an answer that is kept.
func again(w gin.ResponseWriter, said string) error {
	var a spoken
	if err := json.Unmarshal([]byte(said), &a); err != nil {
		return err
	}
	h := held{header: http.Header{}, status: a.Status}
	for name, v := range map[string]string{"Location": a.Location, "Content-Type": a.Type} {
		if v != "" {
			h.header.Set(name, v)
		}
	}
	h.body.WriteString(a.Body)
	return h.send(w)
}
