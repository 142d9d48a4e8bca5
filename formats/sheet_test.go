package formats

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Whatever a table holds: no more lines than asked for, no line without anything, no cell longer than is kept.
func FuzzReadSheet(f *testing.F) {
	f.Add([]byte("What,Colour,Grams\nRomney,grey,100\n"))
	f.Add([]byte("\xef\xbb\xbfName;g\n\"a;b\";\"1,5\"\n\n"))
	f.Add([]byte("a\tb\n1\t2\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		const most = 50
		s, err := ReadSheet(data, most)
		if err != nil {
			return
		}
		assert.LessOrEqual(t, len(s.Rows), most)
		for _, r := range append(s.Rows, s.Head) {
			assert.LessOrEqual(t, len(r), MostColumns)
			assert.NotEmpty(t, strings.TrimSpace(strings.Join(r, "")))
			for _, c := range r {
				assert.LessOrEqual(t, len([]rune(c)), longestCell+1)
			}
		}
	})
}
