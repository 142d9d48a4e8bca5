package formats

import (
	"bytes"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is written is read again as it was, with signs that the format means otherwise.
func TestACalendarIsReadAgain(t *testing.T) {
	from := time.Date(2026, 11, 26, 9, 0, 0, 0, time.UTC)
	list := []Appointment{{"Slack, four batts; pass 1", from, from.Add(22 * time.Minute)}, {"Break", from.Add(22 * time.Minute), from.Add(32 * time.Minute)}}
	var b bytes.Buffer
	require.NoError(t, WriteCalendar(&b, list, from, "day"))
	c, err := ics.ParseCalendar(strings.NewReader(b.String()))
	require.NoError(t, err)
	require.Len(t, c.Events(), 2)
	for i, e := range c.Events() {
		start, err := e.GetStartAt()
		require.NoError(t, err)
		end, err := e.GetEndAt()
		require.NoError(t, err)
		assert.True(t, start.Equal(list[i].From) && end.Equal(list[i].To))
		assert.Equal(t, list[i].Title, e.GetProperty(ics.ComponentPropertySummary).Value)
	}
	assert.True(t, strings.HasPrefix(b.String(), "BEGIN:VCALENDAR\r\n"))
}
