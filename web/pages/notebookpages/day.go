package notebookpages

import (
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/floor"
	"fairtangle/studio/notebook"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type dayBody struct {
	Carders  []workshop.Equipment
	On       int64
	Waiting  []dayChoice
	Pages    frame.PageLinks // of what waits
	Form     frame.Form
	Plan     notebook.DayPlan
	Lines    []dayLine
	Said     string
	Compared string
	Calendar string
	Best     string // address of the best order, where it was moved by hand
	Minutes  string
	Problem  string // why what was chosen can not be put in order
}

// dayChoice is a weigh-out that can be part of the day.
type dayChoice struct {
	notebook.DayJob
	Chosen bool
}

// dayLine is what is done when.
type dayLine struct {
	Kind, Title, Sub, Time string
	Hex                    string
	Width                  float64 // of the minutes, for the bar
	Up, Down               string  // addresses that move it
	Note                   string  // address where a cleaning is noted
	Late                   bool    // beyond the time there is
}

// The usual times of a day, as they are offered.
var dayTimes = []struct{ field, value string }{
	{"cleaning", show.Number(notebook.UsualFullMin)}, {"quick", show.Number(notebook.UsualQuickMin)},
	{"free", ""}, {"every", "60"}, {"break", "10"}, {"at", "09:00"},
}

// dayJobs is how many weigh-outs that wait are offered at a time.
const dayJobs = 24

// dayOf reads the day from an address and plans it.
func (s *Room) dayOf(c *gin.Context) (b dayBody, begins time.Time, err error) {
	ctx := c.Request.Context()
	if b.Carders, err = s.Studio.Notebook.Carders(ctx); err != nil {
		return b, begins, err
	}
	b.On, _ = strconv.ParseInt(c.Query("on"), 10, 64)
	if b.On == 0 && len(b.Carders) > 0 {
		b.On = b.Carders[0].ID
	}
	b.Form = frame.NewForm()
	for _, t := range dayTimes {
		b.Form.Values[t.field] = c.DefaultQuery(t.field, t.value)
	}
	if b.On == 0 {
		return b, begins, nil
	}
	q := notebook.DayInput{}
	chosen := c.QueryArray("job")
	var beside []int64
	for _, v := range chosen {
		if n, err := strconv.ParseInt(v, 10, 64); err == nil {
			beside = append(beside, n)
		}
	}
	b.Pages = frame.PagesOf(c, dayJobs)
	jobs, all, err := s.Studio.Notebook.Waiting(ctx, b.On, b.Pages.Offset, dayJobs, beside...)
	if err != nil {
		return b, begins, err
	}
	b.Pages.Of(c, all)
	for _, j := range jobs {
		in := len(chosen) == 0 && c.Query("chosen") == "" || slices.Contains(chosen, strconv.FormatInt(j.WeighoutID, 10))
		b.Waiting = append(b.Waiting, dayChoice{j, in})
		if in {
			q.Weighouts = append(q.Weighouts, j.WeighoutID)
		}
	}
	for _, v := range strings.Split(c.Query("order"), ",") {
		if n, err := strconv.ParseInt(v, 10, 64); err == nil {
			q.Order = append(q.Order, n)
		}
	}
	if begins, err = timesOfDay(b.Form, &q); err == nil {
		b.Plan, err = notebook.PlanDay(ctx, jobs, q)
	}
	if l, ok := fault.From(err); ok {
		u, _, unitsErr := s.Units(c)
		b.blame(l, u)
		return b, begins, unitsErr
	}
	return b, begins, err
}

// timesOfDay reads when the day begins, how long it is and what cleaning and breaks take.
func timesOfDay(f frame.Form, q *notebook.DayInput) (begins time.Time, err error) {
	r := &frame.Reader{Values: url.Values{}}
	for k, v := range f.Values {
		r.Values.Set(k, v)
	}
	q.Times.Full, q.Times.Quick = r.Number("cleaning", "minutes"), r.Number("quick", "minutes")
	q.Times.BreakEvery, q.Times.Break = r.Number("every", "minutes"), r.Number("break", "minutes")
	if r.Values.Get("free") != "" {
		q.FreeMin = r.Number("free", "minutes, or nothing")
	}
	if begins, err = time.ParseInLocation("15:04", r.Values.Get("at"), time.Local); err != nil {
		r.Wrong.Add("at", "Enter a time such as 09:00.")
	}
	now := time.Now()
	return time.Date(now.Year(), now.Month(), now.Day(), begins.Hour(), begins.Minute(), 0, 0, time.Local), r.Wrong.Err()
}

// blame puts what is wrong to its field, and what is wrong with what waits beside them.
func (b *dayBody) blame(l fault.List, u show.Units) {
	for _, f := range l {
		if strings.HasPrefix(f.Field, "jobs") {
			b.Problem = f.In(u)
			continue
		}
		b.Form.Errors[dayField(f.Field)] = f.In(u)
	}
}

// dayField is the field of the form for one of the API.
func dayField(name string) string {
	if v, ok := map[string]string{"cleaning_min": "cleaning", "quick_min": "quick", "free_min": "free", "break_every_min": "every",
		"break_min": "break"}[name]; ok {
		return v
	}
	return name
}

func (s *Room) dayPage(c *gin.Context) error {
	b, begins, err := s.dayOf(c)
	if err != nil {
		return err
	}
	b.sayPlan(c.Request.URL, begins)
	status := http.StatusOK
	if b.Form.Wrong() {
		status = http.StatusUnprocessableEntity
	}
	s.Render(c, status, "day", frame.Page{Title: "Order of the day", Here: "notebook", Wide: true, Scripts: []string{"js/print.js"}}, b)
	return nil
}

// dayCalendar is the day as an iCalendar file.
func (s *Room) dayCalendar(c *gin.Context) error {
	b, begins, err := s.dayOf(c)
	if err != nil {
		return err
	}
	if b.Form.Wrong() || len(b.Plan.Steps) == 0 {
		return floor.ErrNotFound
	}
	var buf bytes.Buffer
	if err := b.Plan.WriteDay(&buf, begins, time.Now()); err != nil {
		return err
	}
	c.Header("Content-Disposition", `attachment; filename="day.ics"`)
	c.Data(http.StatusOK, "text/calendar; charset=utf-8", buf.Bytes())
	return nil
}

// ordered is the address of the same day in another order, of the same page of what waits.
func ordered(at *url.URL, order string) string {
	q := at.Query()
	q.Del("did")
	if q.Del("order"); order != "" {
		q.Set("order", order)
	}
	return at.Path + "?" + q.Encode()
}

// sayPlan puts the plan into words.
func (b *dayBody) sayPlan(at *url.URL, begins time.Time) {
	p := b.Plan
	if len(p.Steps) == 0 {
		return
	}
	ids := make([]string, len(p.Order))
	for i, j := range p.Order {
		ids[i] = strconv.FormatInt(p.Jobs[j].WeighoutID, 10)
	}
	moved := func(i, to int) string {
		if i < 0 || to < 0 || i >= len(ids) || to >= len(ids) {
			return ""
		}
		next := slices.Clone(ids)
		next[i], next[to] = next[to], next[i]
		return ordered(at, strings.Join(next, ","))
	}
	free, _ := strconv.ParseFloat(b.Form.V("free"), 64)
	b.lines(begins, free, moved)
	b.Said = fmt.Sprintf("%s min in all, %s of them cleaning; %s to %s.", show.Fixed(p.TotalMin, 0), show.Fixed(p.CleaningMin, 0), clock(begins, 0),
		clock(begins, p.TotalMin))
	if free > 0 && p.Fits < len(p.Jobs) {
		b.Said += fmt.Sprintf(" %d of %d fit into the time there is.", p.Fits, len(p.Jobs))
	}
	b.Compared = "No order of these needs less cleaning."
	if !p.Exact {
		b.Compared = "The best order that was found."
	}
	if at.Query().Get("order") != "" {
		b.Best = ordered(at, "")
		if p.TotalMin > p.BestMin+1e-9 {
			b.Compared = fmt.Sprintf("As you moved it, it takes %s min longer than the best order.", show.Fixed(p.TotalMin-p.BestMin, 0))
		}
	}
	b.Calendar = strings.Replace(at.RequestURI(), "/day", "/day.ics", 1)
	b.Minutes = "Minutes are those of the equipment; after three passes with a clock they are your own."
	for _, j := range p.Jobs {
		if j.Learned {
			b.Minutes = "Minutes are those that your own runs on it took."
		}
	}
}

// lines are what is done when; moved is the address at which a job stands in another place.
func (b *dayBody) lines(begins time.Time, free float64, moved func(i, to int) string) {
	p := b.Plan
	n := 0
	for _, s := range p.Stretches() {
		l := dayLine{Kind: s.Kind, Width: 100 * (s.To - s.From) / p.TotalMin, Late: free > 0 && s.To > free}
		l.Time = clock(begins, s.From) + " to " + clock(begins, s.To)
		switch s.Kind {
		case "card":
			j := p.Jobs[s.Job]
			l.Title, l.Hex = j.Name, j.Hex
			l.Sub = fmt.Sprintf("%s, %s, %s min", j.Making, s.Units(j.Units), show.Fixed(s.To-s.From, 0))
			if s.First == 1 {
				l.Up, l.Down = moved(n, n-1), moved(n, n+1)
				n++
			}
		case "alone":
			j := p.Jobs[s.Job]
			l.Title, l.Hex = strings.Join(j.Alone, ", ")+", each alone", j.AloneHex
			l.Sub = fmt.Sprintf("for %s, before it is laid, %s min", j.Name, show.Fixed(s.To-s.From, 0))
		case "clean":
			l.Title = map[string]string{"quick": "Brush over the cloth", "full": "Clean all of the cloth, then some scrap wool"}[string(s.Clean)]
			l.Sub = "before " + p.Jobs[s.Job].Name
			l.Note = fmt.Sprintf("/equipment/%d/book?full=%d#cloth", b.On, map[string]int{"full": 1}[string(s.Clean)])
		default:
			l.Title = "Break"
		}
		if l.Late {
			l.Sub = strings.TrimPrefix(l.Sub+", beyond the time there is", ", ")
		}
		b.Lines = append(b.Lines, l)
	}
}

func clock(begins time.Time, minutes float64) string {
	return begins.Add(time.Duration(minutes * float64(time.Minute))).Format("15:04")
}
