package pages

import (
	"errors"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/floor"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// form is what a form shows: the values as typed, and what is wrong with them.
type form struct {
	Values   map[string]string
	Errors   map[string]string
	Conflict string // set when someone else saved in the meantime
}

// newForm is a form in which nothing was typed.
func newForm() form { return form{Values: map[string]string{}, Errors: map[string]string{}} }

// typed keeps everything as it was typed.
func typed(v url.Values) form {
	f := newForm()
	for k := range v {
		f.Values[k] = v.Get(k)
	}
	return f
}

// V is a field's value, E what is wrong with it.
func (f form) V(name string) string { return f.Values[name] }
func (f form) E(name string) string { return f.Errors[name] }

// Wrong reports whether anything is wrong.
func (f form) Wrong() bool { return len(f.Errors) > 0 }

// blame puts the faults in err at the fields of a form, in the maker's units, and
// what the disk refused above the page; false when err is of another sort.
func (s *server) blame(c *gin.Context, f *form, err error) bool {
	var trouble floor.Trouble
	if errors.As(err, &trouble) { // with what was typed, above the page
		_ = c.Error(err)
		c.Set(troubleKey, trouble.Sentence)
		return true
	}
	u, _, unitsErr := s.units(c)
	faults, ok := faultsByField(u, err)
	if !ok || unitsErr != nil {
		return false
	}
	for k, v := range faults {
		if f.Errors[k] == "" {
			f.Errors[k] = v
		}
	}
	return true
}

// faultsByField puts faults where a form shows them.
func faultsByField(u show.Units, err error) (map[string]string, bool) {
	l, ok := fault.From(err)
	out := map[string]string{}
	for _, f := range l {
		if out[f.Field] == "" {
			out[f.Field] = f.In(u)
		}
	}
	return out, ok
}

// stale tells that another window saved in the meantime and what stands there
// now; saving again is then based on that version.
func (f *form) stale(version int64, there string) {
	f.Conflict = "Another window saved this in the meantime" + there + ". What you typed is below. Save again to put yours in its place."
	f.Values["version"] = strconv.FormatInt(version, 10)
}

// parsed reads the posted form; one that can not be read is the sender's fault.
func parsed(c *gin.Context) error {
	err := c.Request.ParseForm()
	if err == nil {
		if err = c.Request.ParseMultipartForm(answer.InMemory); errors.Is(err, http.ErrNotMultipart) {
			err = nil
		}
	}
	if err == nil || answer.TooLarge(err) {
		return err
	}
	return answer.BadShape{Message: "The form could not be read: " + err.Error() + "."}
}

// reader reads fields and gathers what is wrong.
type reader struct {
	v     url.Values
	wrong fault.List
}

// add takes what is wrong of what was read elsewhere.
func (r *reader) add(err error) {
	if l, ok := fault.From(err); ok {
		r.wrong = append(r.wrong, l...)
	}
}

// number reads a number.
func (r *reader) number(field, what string) float64 {
	v, err := show.ReadNumber(field, r.v.Get(field), what)
	r.add(err)
	return v
}

// orUsual reads a number that may be left out: 0, for what is usual.
func (r *reader) orUsual(field, what string) float64 {
	if strings.TrimSpace(r.v.Get(field)) == "" {
		return 0
	}
	return r.number(field, what)
}

// count reads a whole number.
func (r *reader) count(field, what string) int {
	n, err := strconv.Atoi(r.v.Get(field))
	if err != nil {
		r.wrong.Add(field, "Enter %s as a whole number.", what)
	}
	return n
}

// grams reads a weight in the maker's unit.
func (r *reader) grams(u show.Units, field string) float64 {
	v, err := u.ReadGrams(field, r.v.Get(field))
	r.add(err)
	return v
}

// version is the version that a form is based on.
func (r *reader) version() int64 {
	n, _ := strconv.ParseInt(r.v.Get("version"), 10, 64)
	return n
}

// both puts the faults of reading and of checking together.
func (r *reader) both(err error) error {
	l, ok := fault.From(err)
	if err != nil && !ok {
		return err
	}
	seen := map[string]bool{}
	for _, f := range r.wrong {
		seen[f.Field] = true
	}
	out := append(fault.List(nil), r.wrong...)
	for _, f := range l {
		if !seen[f.Field] {
			out = append(out, f)
		}
	}
	return out.Err()
}

// option is one of a list to choose from.
type option struct{ Value, Label string }
