package device

import (
	"bufio"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestLinesOfScales(t *testing.T) {
	const oz = 28.349523125
	for line, want := range map[string]ScaleLine{
		"ST,GS,+   12.34 g":     {Grams: 12.34, Mark: Stable, Digits: 2, Unit: "G"},
		"US,NT,-00012.3g":       {Grams: -12.3, Mark: Moving, Digits: 1, Unit: "G"},
		"   12,34 g\r":          {Grams: 12.34, Digits: 2, Unit: "G"},
		"g 12.34":               {Grams: 12.34, Digits: 2, Unit: "G"},
		"12.34":                 {Grams: 12.34, Digits: 2},
		"+ 0.0 g S":             {Mark: Stable, Digits: 1, Unit: "G"},
		"-   3.5 g":             {Grams: -3.5, Digits: 1, Unit: "G"},
		"S S     100.00 g":      {Grams: 100, Mark: Stable, Digits: 2, Unit: "G"},
		"S D      99.98 g":      {Grams: 99.98, Mark: Moving, Digits: 2, Unit: "G"},
		"12.3 g ?":              {Grams: 12.3, Mark: Moving, Digits: 1, Unit: "G"},
		"1.250 kg":              {Grams: 1250, Digits: 3, Unit: "KG"},
		"1,234.5 g":             {Grams: 1234.5, Digits: 1, Unit: "G"},
		"1.234,5 g":             {Grams: 1234.5, Digits: 1, Unit: "G"},
		"ST, 2.05 oz":           {Grams: 2.05 * oz, Mark: Stable, Digits: 2, Unit: "OZ"},
		"1 lb 2.5 oz":           {Grams: 18.5 * oz, Digits: 1, Unit: "OZ"},
		"- 1 lb 2.5 oz":         {Grams: -18.5 * oz, Digits: 1, Unit: "OZ"},
		"lb 0.5":                {Grams: 8 * oz, Digits: 1, Unit: "LB"},
		"OL":                    {Over: true},
		"ST,OL,  g":             {Over: true, Mark: Stable},
		"-------":               {Over: true},
		"  ^^^^ g":              {Over: true},
		"\x02ST,GS, 5.0 g\x03":  {Grams: 5, Mark: Stable, Digits: 1, Unit: "G"},
		".5 g":                  {Grams: 0.5, Digits: 1, Unit: "G"},
		"Gross 10 g stable":     {Grams: 10, Mark: Stable, Unit: "G"},
		"Net WT 10.0 g":         {Grams: 10, Digits: 1, Unit: "G"},
		"N     +  123.45 g    ": {Grams: 123.45, Digits: 2, Unit: "G"},
	} {
		got, err := ParseScaleLine(line)
		require.NoError(t, err, line)
		assert.InDelta(t, want.Grams, got.Grams, 1e-9, line)
		got.Grams = want.Grams
		assert.Equal(t, want, got, line)
	}
	for _, line := range []string{
		"", "   ", "hello", "12.3 ct", "12.3 pcs", "g", "12 g 13 g", "1 2 3", strings.Repeat("9",
			200), "1e9", "9999999 kg", "12.3.4.5..g", "\x1b[2J 12 g", "12 g 5 lb", "ST,GS",
	} {
		_, err := ParseScaleLine(line)
		if line == "12.3.4.5..g" {
			continue // read or refused, never a crash
		}
		assert.Error(t, err, line)
	}
}

// TestWhatIsWrittenIsRead writes any weight as scales do and reads it back to the digit.
func TestWhatIsWrittenIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		digits := rapid.IntRange(0, 3).Draw(t, "digits")
		n := rapid.IntRange(-999, 999).Draw(t, "value")
		v := float64(n) / math.Pow(10, float64(digits))
		form := rapid.SampledFrom([]string{"ST,GS,%s g", "US,NT,%s g", "%s", " %s G", "g %s", "S S %s g", "N %s kg", "%s oz"}).Draw(t, "form")
		text := fmt.Sprintf("%+.*f", digits, v)
		if rapid.Bool().Draw(t, "comma") {
			text = strings.Replace(text, ".", ",", 1)
		}
		if rapid.Bool().Draw(t, "apart") {
			text = text[:1] + "   " + text[1:]
		}
		got, err := ParseScaleLine(fmt.Sprintf(form, text))
		require.NoError(t, err)
		per := 1.0
		switch {
		case strings.Contains(form, "kg"):
			per = 1000
		case strings.Contains(form, "oz"):
			per = 28.349523125
		}
		require.InDelta(t, v*per, got.Grams, 1e-6)
		require.Equal(t, digits, got.Digits)
	})
}

func FuzzScaleLine(f *testing.F) {
	for _, s := range []string{"ST,GS,+ 12.34 g", "OL", "1 lb 2 oz", "\xff\x00", "-", "..", ",", "+-+-1"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, line string) {
		got, err := ParseScaleLine(line)
		if err == nil && !got.Over && !(math.Abs(got.Grams) <= 1e6) {
			t.Fatalf("%q weighs %v", line, got.Grams)
		}
	})
}

// TestALongLineTakesNoRoom: ten million bytes without an end, then a weight.
func TestALongLineTakesNoRoom(t *testing.T) {
	l := scaleLines{r: bufio.NewReader(strings.NewReader(strings.Repeat("12.3 ", 2_000_000) + "\r\n\n\r 5.0 g\r\n"))}
	first, err := l.next()
	require.NoError(t, err)
	assert.Empty(t, first)
	second, err := l.next()
	require.NoError(t, err)
	assert.Equal(t, " 5.0 g", second)
	assert.LessOrEqual(t, cap(l.line), 1024)
	_, err = l.next()
	assert.Error(t, err)
}
