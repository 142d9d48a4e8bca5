package art

import (
	"bytes"
	"encoding/xml"
	"io"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

func wellFormed(t require.TestingT, svg []byte) {
	d := xml.NewDecoder(bytes.NewReader(svg))
	for {
		if _, err := d.Token(); err == io.EOF {
			return
		} else {
			require.NoError(t, err)
		}
	}
}

func draw(t *rapid.T) Fibre {
	f := Fibre{
		Family: rapid.SampledFrom([]string{"wool", "silk", "sparkle", "texture", ""}).Draw(t, "family"),
		Crimp:  rapid.SampledFrom([]string{"none", "low", "medium", "high", "?"}).Draw(t, "crimp"),
		Lustre: rapid.SampledFrom([]string{"matt", "mirror", ""}).Draw(t, "lustre"),
		Prep:   rapid.SampledFrom([]string{"combed_top", "locks", "neps", ""}).Draw(t, "prep"),
		Length: rapid.Float64Range(1, 900).Draw(t, "px"), Seed: rapid.Uint64().Draw(t, "seed"),
	}
	for range rapid.IntRange(0, 4).Draw(t, "colours") {
		f.Hexes = append(f.Hexes, rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, "hex"))
	}
	return f
}

var numbers = regexp.MustCompile(`NaN|Inf`)

// Every drawing is well-formed, without a number that is none, and the same
// the next time.
func TestDrawingsAreSound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := draw(t)
		layer := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) Stripe {
			from, start := rapid.Float64Range(0, 1).Draw(t, "from"), rapid.Float64Range(0, 1).Draw(t, "start")
			return Stripe{
				Fibre: f, Letter: rapid.SampledFrom([]string{"A", "<"}).Draw(t, "letter"), From: from, To: rapid.Float64Range(from, 1).Draw(t, "to"),
				Start: start, End: rapid.Float64Range(start, 1).Draw(t, "end"), Grams: rapid.Float64Range(0, 300).Draw(t, "grams"),
			}
		}), 0, 3).Draw(t, "layer")
		for what, picture := range map[string]func() []byte{
			"tuft": func() []byte { return Tuft(f) }, "band": func() []byte { return Band(f, WholeTile) }, "small band": func() []byte { return Band(f, SmallTile) },
			"strand": func() []byte { return Strand(f, 0.5, []float64{0.3}, "#e7e6e2") },
			"bar":    func() []byte { return Bar(layer) }, "layers": func() []byte { return Layers([][]Stripe{layer, layer}) },
			"bed": func() []byte { return Bed([][]Stripe{layer}, 200, 700) }, "no bed": func() []byte { return Bed(nil, 0, 0) },
		} {
			got := picture()
			wellFormed(t, got)
			assert.False(t, numbers.Match(got), what)
			assert.Equal(t, got, picture(), what)
		}
	})
}

// A tuft is as long as its staple: the picture's width follows the length, and
// a longer fibre reaches further.
func TestTuftIsAsLongAsItsStaple(t *testing.T) {
	reach := func(length float64) float64 {
		svg := string(Tuft(Fibre{Hexes: []string{"#5b7d96"}, Crimp: "medium", Family: "wool", Length: length, Seed: 4}))
		var most float64
		for _, m := range regexp.MustCompile(`L([\d.]+) `).FindAllStringSubmatch(svg, -1) {
			x, err := strconv.ParseFloat(m[1], 64)
			require.NoError(t, err)
			most = math.Max(most, x)
		}
		return most
	}
	for _, length := range []float64{40, 80, 160, 300} {
		assert.InDelta(t, length, reach(length), 0.06*length+4)
	}
}

// The colours of a drawing lie around the colour of the fibre: their mean in
// linear light is within 10 CIEDE2000 of it.
func TestDrawingHasTheFibresColour(t *testing.T) {
	hexes := regexp.MustCompile(`stroke="(#[0-9a-f]{6})"`)
	for _, hex := range []string{"#5b7d96", "#c69a52", "#1d4c55", "#a2473f"} {
		want, err := colour.ParseHex(hex)
		require.NoError(t, err)
		var sum colour.Linear
		all := hexes.FindAllStringSubmatch(string(Band(Fibre{Hexes: []string{hex}, Crimp: "medium", Lustre: "semi", Seed: 9}, WholeTile)), -1)
		for _, m := range all {
			c, err := colour.ParseHex(m[1])
			require.NoError(t, err)
			for i := range sum {
				sum[i] += c[i] / float64(len(all))
			}
		}
		assert.Less(t, colour.CIEDE2000(want.Lab(), sum.Lab()), 10.0, hex)
	}
}

// What lies ahead on the strand is paler than what is done.
func TestStrandPalesAhead(t *testing.T) {
	f := Fibre{Hexes: []string{"#1d4c55"}, Seed: 2}
	mean := func(done float64) (l float64) {
		all := regexp.MustCompile(`stroke="(#[0-9a-f]{6})"`).FindAllStringSubmatch(string(Strand(f, done, nil, "#e7e6e2")), -1)
		for _, m := range all {
			c, _ := colour.ParseHex(m[1])
			l += c.Lab().L / float64(len(all))
		}
		return l
	}
	assert.Greater(t, mean(0), mean(0.5)+5)
	assert.Greater(t, mean(0.5), mean(1.2)+5)
	assert.Equal(t, "#80807f", blendHex("#000000", "#fffffe", 0.5))
}

// In the pile no lay hides another one, and each is there once: what lies at several places along the cloth is one stripe.
func TestLayersHideNothing(t *testing.T) {
	lay := func(letter string, from, to float64) Stripe {
		return Stripe{Fibre: Fibre{Hexes: []string{"#5b7d96"}}, Letter: letter, From: from, To: to}
	}
	rows := apart([]Stripe{lay("A", 0, 1), lay("B", 0, 1), lay("B", 0, 1), lay("C", 0, 0.5), lay("D", 0.5, 1)})
	var got []string
	for _, row := range rows {
		letters := ""
		for _, p := range row {
			letters += p.Letter
		}
		got = append(got, letters)
	}
	assert.Equal(t, []string{"A", "B", "CD"}, got)
	svg := string(Layers([][]Stripe{{lay("A", 0, 1), lay("B", 0, 1)}, {lay("C", 0, 0.5)}}))
	assert.Contains(t, svg, `height="54"`, "three rows")
	assert.Equal(t, 3, strings.Count(svg, "<text"))
}
