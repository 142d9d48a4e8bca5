package yarn

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWhatStandsAgainstADraw(t *testing.T) {
	wool, silk := Fibre{Coat: "medium", Share: 0.5}, Fibre{Coat: "silk", Share: 0.5}
	for _, c := range []struct {
		parts            []Fibre
		textured, staple float64
		draw             string
		want             []string
	}{
		{[]Fibre{wool, silk}, 0, 80, "long", []string{Slips}}, {[]Fibre{wool, wool, silk}, 0, 80, "long", nil}, {[]Fibre{silk}, 0, 80, "short-forward", nil},
		{[]Fibre{wool}, 0.03, 80, "short-backward", []string{Stands}}, {[]Fibre{wool}, 0.03, 80, "long", nil}, {[]Fibre{wool}, 0.02, 80, "short-forward", nil},
		{[]Fibre{wool}, 0, 110, "long", []string{TooLong}}, {[]Fibre{wool}, 0, 109, "long", nil}, {[]Fibre{silk}, 0, 150, "long", []string{Slips, TooLong}},
		{[]Fibre{wool}, 0, 74, "from-fold", []string{NoFold}}, {[]Fibre{wool}, 0, 75, "from-fold", nil}, {nil, 0, 80, "long", nil},
	} {
		assert.Equal(t, c.want, Against(c.parts, c.textured, c.staple, c.draw), "%v", c)
	}
}
