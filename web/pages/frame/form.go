package frame

import (
	"errors"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/stash"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// Form is what a form shows: the values as typed, and what is wrong with them.
type Form struct {
	Values   map[string]string
	Errors   map[string]string
	Conflict string // set when someone else saved in the meantime
}

// NewForm is a form in which nothing was typed.
func NewForm() Form { return Form{Values: map[string]string{}, Errors: map[string]string{}} }

// Typed keeps everything as it was typed.
func Typed(v url.Values) Form {
	f := NewForm()
	for k := range v {
		f.Values[k] = v.Get(k)
	}
	return f
}

// V is a field's value, E what is wrong with it.
func (f Form) V(name string) string { return f.Values[name] }
func (f Form) E(name string) string { return f.Errors[name] }

// Wrong reports whether anything is wrong.
func (f Form) Wrong() bool { return len(f.Errors) > 0 }

// Blame puts the faults in err at the fields of a form, in the maker's units, and
// what the disk refused above the page; false when err is of another sort.
func (s *Frame) Blame(c *gin.Context, f *Form, err error) bool {
	var trouble floor.Trouble
	if errors.As(err, &trouble) { // with what was typed, above the page
		_ = c.Error(err)
		c.Set(troubleKey, trouble.Sentence)
		return true
	}
	u, _, unitsErr := s.Units(c)
	faults, ok := FaultsByField(u, err)
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

// FaultsByField puts faults where a form shows them.
func FaultsByField(u show.Units, err error) (map[string]string, bool) {
	l, ok := fault.From(err)
	out := map[string]string{}
	for _, f := range l {
		if out[f.Field] == "" {
			out[f.Field] = f.In(u)
		}
	}
	return out, ok
}

// Stale tells that another window saved in the meantime and what stands there
// now; saving again is then based on that version.
func (f *Form) Stale(version int64, there string) {
	f.Conflict = "Another window saved this in the meantime" + there + ". What you typed is below. Save again to put yours in its place."
	f.Values["version"] = strconv.FormatInt(version, 10)
}

// Parsed reads the posted form; one that can not be read is the sender's fault.
func Parsed(c *gin.Context) error {
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

// Reader reads fields and gathers what is wrong.
type Reader struct {
	Values url.Values `json:"-"`
	Wrong  fault.List `json:"-"`
}

// Add takes what is wrong of what was read elsewhere.
func (r *Reader) Add(err error) {
	if l, ok := fault.From(err); ok {
		r.Wrong = append(r.Wrong, l...)
	}
}

// Number reads a number.
func (r *Reader) Number(field, what string) float64 {
	v, err := show.ReadNumber(field, r.Values.Get(field), what)
	r.Add(err)
	return v
}

// OrUsual reads a number that may be left out: 0, for what is usual.
func (r *Reader) OrUsual(field, what string) float64 {
	if strings.TrimSpace(r.Values.Get(field)) == "" {
		return 0
	}
	return r.Number(field, what)
}

// Count reads a whole number.
func (r *Reader) Count(field, what string) int {
	n, err := strconv.Atoi(r.Values.Get(field))
	if err != nil {
		r.Wrong.Add(field, "Enter %s as a whole number.", what)
	}
	return n
}

// Grams reads a weight in the maker's unit.
func (r *Reader) Grams(u show.Units, field string) float64 {
	v, err := u.ReadGrams(field, r.Values.Get(field))
	r.Add(err)
	return v
}

// Version is the version that a form is based on.
func (r *Reader) Version() int64 {
	n, _ := strconv.ParseInt(r.Values.Get("version"), 10, 64)
	return n
}

// Both puts the faults of reading and of checking together.
func (r *Reader) Both(err error) error {
	l, ok := fault.From(err)
	if err != nil && !ok {
		return err
	}
	seen := map[string]bool{}
	for _, f := range r.Wrong {
		seen[f.Field] = true
	}
	out := append(fault.List(nil), r.Wrong...)
	for _, f := range l {
		if !seen[f.Field] {
			out = append(out, f)
		}
	}
	return out.Err()
}

// HexOf is a colour as it was typed: named in words it is that of the words, else what was typed.
func HexOf(text string) string {
	if hex := stash.ColourOf(text); hex != "" {
		return hex
	}
	return text
}

// Option is one of a list to choose from.
type Option struct{ Value, Label string }

// IDIn is the id that a form is about, 0 for a new one.
func IDIn(r *Reader) int64 {
	n, _ := strconv.ParseInt(r.Values.Get("id"), 10, 64)
	return n
}

// Kept reads a weight that is a whole number of milligrams: ounces are rounded to it.
func (r *Reader) Kept(u show.Units, field string) float64 {
	return show.WholeMilligrams(r.Grams(u, field))
}

// Amounts reads lengths and weights that may be left out.
func (r *Reader) Amounts(u show.Units, fields []string, read func(show.Units, string, string) (float64, error)) map[string]float64 {
	out := map[string]float64{}
	for _, f := range fields {
		if text := strings.TrimSpace(r.Values.Get(f)); text != "" {
			v, err := read(u, f, text)
			r.Add(err)
			out[f] = v
		}
	}
	return out
}

// OwnPath is a page of this program to go back to, or another where what was
// sent is none.
func OwnPath(back, other string) string {
	strange := func(r rune) bool { return r <= ' ' || r == '\\' || r == 0x7f }
	u, err := url.Parse(back)
	if err != nil || !strings.HasPrefix(back, "/") || strings.HasPrefix(back, "//") || strings.ContainsFunc(back, strange) || u.Host != "" || u.Scheme != "" {
		return other
	}
	return back
}

// StepOptions are the steps that scales in the maker's unit have, with the one that
// is set where it is another.
func StepOptions(u show.Units) (out []Option) {
	steps := workshop.ScaleSteps
	if u.Ounces {
		steps = workshop.OunceSteps
	}
	if !slices.Contains(steps, u.Step) {
		steps = append([]unit.Milligrams{u.Step}, steps...)
	}
	for _, mg := range steps {
		u.Step = mg
		out = append(out, Option{show.Number(float64(mg.Grams())), u.StepText()})
	}
	return out
}
