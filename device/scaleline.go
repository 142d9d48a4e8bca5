package device

import (
	"bufio"
	"errors"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// ScaleLine is what one line of a bench scale says.
type ScaleLine struct {
	Grams  float64
	Mark   Mark
	Over   bool // more, or less, than it can weigh; Grams mean nothing
	Digits int  // behind the point, as the scale writes them
	Unit   string
}

// Mark is what a scale says of its reading.
type Mark int

// A reading of which the scale says nothing is stable once it stays the same.
const (
	Unmarked Mark = iota
	Stable
	Moving
)

// Errors of lines, and the longest line that is looked at, in bytes.
var (
	errNoWeight   = errors.New("the line holds no weight")
	errScaleUnit  = errors.New("the scale speaks in a unit that is neither grams nor ounces nor pounds")
	errTwoWeights = errors.New("the line holds more than one weight")
)

const longestScaleLine = 128

// scaleUnits are the grams of the units that scales write. The pound is 453.59237 g
// exactly, the ounce a sixteenth of it.
var scaleUnits = map[string]float64{"": 1, "G": 1, "GR": 1, "GM": 1, "GRAM": 1, "GRAMS": 1, "KG": 1000, "MG": 0.001, "OZ": 453.59237 / 16,
	"LB": 453.59237, "LBS": 453.59237}

var (
	stableWords = []string{"ST", "S", "STABLE", "STAB"}
	movingWords = []string{"US", "SD", "D", "U", "M", "MOT", "UNSTABLE", "DYN", "?", "~"}
	// Words that say what the number is, not what it weighs.
	otherWords = []string{"NT", "GS", "TR", "N", "NET", "GROSS", "WT", "W", "P", "PT", "+"}
	overWords  = []string{"OL", "OVER", "OVERLOAD", "UL", "UNDER", "UNDERLOAD", "O-L", "ERR"}

	weightWord = regexp.MustCompile(`[+-]?\s*\d[\d.,]*|[+-]?\s*[.,]\d+`)
	otherWord  = regexp.MustCompile(`[A-Za-z][A-Za-z-]*|[?~+]`)
	overSigns  = regexp.MustCompile(`^[\s,A-Za-z]*(-{3,}|\^{2,}|_{3,}|H{3,}|L{3,})[\s,A-Za-z]*$`)
)

// ParseScaleLine reads a line as bench scales write them: the unit before or behind the
// number or left out (grams), a point or a comma, marks of stability as words, signs that
// stand apart, pounds and ounces together.
func ParseScaleLine(line string) (ScaleLine, error) {
	line = strings.Trim(line, " \t\r\n\x00\x02\x03")
	if len(line) > longestScaleLine || !printable(line) {
		return ScaleLine{}, errNoWeight
	}
	if overSigns.MatchString(line) {
		return ScaleLine{Over: true}, nil
	}
	out := ScaleLine{}
	var units []string
	for _, w := range otherWord.FindAllString(strings.ToUpper(line), -1) {
		_, isUnit := scaleUnits[w]
		switch {
		case slices.Contains(overWords, w):
			out.Over = true
		case slices.Contains(movingWords, w):
			out.Mark = Moving
		case slices.Contains(stableWords, w):
			if out.Mark != Moving {
				out.Mark = Stable
			}
		case isUnit:
			units = append(units, w)
		case slices.Contains(otherWords, w):
		default:
			return out, errScaleUnit
		}
	}
	if out.Over {
		return out, nil
	}
	return out, out.weigh(weightWord.FindAllString(line, -1), units)
}

// weigh puts numbers and units together.
func (l *ScaleLine) weigh(numbers, units []string) error {
	switch {
	case len(numbers) == 0:
		return errNoWeight
	case len(numbers) == 2 && len(units) == 2 && units[0][0] == 'L' && units[1] == "OZ": // pounds and ounces
	case len(numbers) > 1 || len(units) > 1:
		return errTwoWeights
	}
	sign := 1.0
	for i, text := range numbers {
		v, digits, err := scaleNumber(text)
		if err != nil {
			return err
		}
		of := ""
		if i < len(units) {
			of = units[i]
		}
		if i == 0 && math.Signbit(v) {
			sign = -1
		}
		l.Grams += math.Abs(v) * scaleUnits[of]
		l.Digits, l.Unit = digits, of
	}
	l.Grams *= sign
	if !(math.Abs(l.Grams) <= 1e6) {
		return errNoWeight
	}
	return nil
}

// scaleNumber reads a number with a point or a comma; where it has both, the last one
// parts whole from broken.
func scaleNumber(text string) (v float64, digits int, err error) {
	text = strings.ReplaceAll(strings.ReplaceAll(text, " ", ""), "\t", "")
	if at := strings.LastIndexAny(text, ".,"); at >= 0 {
		digits = len(text) - at - 1
		text = strings.NewReplacer(".", "", ",", "").Replace(text[:at]) + "." + text[at+1:]
	}
	if v, err = strconv.ParseFloat(text, 64); err != nil {
		return 0, 0, errNoWeight
	}
	return v, digits, nil
}

func printable(s string) bool {
	return strings.IndexFunc(s, func(r rune) bool { return r < ' ' && r != '\t' || r > '~' }) < 0
}

// scaleLines reads lines that end with CR, LF or both. Of a line that is too long the
// rest is passed over, so that whatever is sent takes no room.
type scaleLines struct {
	r    *bufio.Reader
	line []byte
}

func (l *scaleLines) next() (string, error) {
	l.line = l.line[:0]
	long := false
	for {
		b, err := l.r.ReadByte()
		if err != nil {
			return "", err
		}
		switch {
		case b != '\r' && b != '\n':
			if len(l.line) > longestScaleLine {
				long = true
				continue
			}
			l.line = append(l.line, b)
		case long:
			return "", nil
		case len(l.line) > 0:
			return string(l.line), nil
		}
	}
}
