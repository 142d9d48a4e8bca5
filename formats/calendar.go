package formats

import (
	"fmt"
	"io"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Appointment is a piece of a day.
type Appointment struct {
	Title    string
	From, To time.Time
}

// WriteCalendar writes appointments as an iCalendar file (RFC 5545). now is when it is written;
// key tells one file's entries from another's.
func WriteCalendar(w io.Writer, list []Appointment, now time.Time, key string) error {
	c := ics.NewCalendar()
	c.SetMethod(ics.MethodPublish)
	c.SetProductId("-//Fair Tangle//Order of the day//EN")
	for i, a := range list {
		e := c.AddEvent(fmt.Sprintf("%s-%d@fairtangle", key, i))
		e.SetDtStampTime(now)
		e.SetStartAt(a.From)
		e.SetEndAt(a.To)
		e.SetSummary(a.Title)
	}
	return c.SerializeTo(w, ics.WithNewLine("\r\n"))
}
