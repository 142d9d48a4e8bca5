package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/studio"
	"fairtangle/web/art"
)

// tuft is a picture of a lock of fibre with its size in px.
type tuft struct {
	URL  string
	W, H int
}

// shelfScale is the one length scale of tufts on the shelf, px per mm; rows of
// a table use rowScale.
const (
	shelfScale = 0.85
	rowScale   = 0.62
)

// tuftOf links the picture of a fibre at a length scale.
func tuftOf(k fibre.Kind, prep string, hexes []string, shares []float64, stapleMM, scale float64, seed int64) tuft {
	length := stapleMM * scale
	q := url.Values{
		"c": {bare(hexes, shares)}, "f": {k.Family}, "w": {k.Crimp}, "l": {k.Lustre}, "p": {prep},
		"px": {strconv.FormatFloat(length, 'f', 0, 64)}, "s": {strconv.FormatInt(seed, 10)},
	}
	w := length + 8
	if prep == "neps" || length < 14 {
		w = 64
	}
	return tuft{"/art/tuft.svg?" + q.Encode(), int(w), int(art.TuftHeight)}
}

func lotTuft(l studio.Lot, scale float64) tuft {
	var hexes []string
	var shares []float64
	for _, c := range l.Colours {
		hexes, shares = append(hexes, c.Hex), append(shares, c.Share)
	}
	return tuftOf(l.KindProperties(), l.Preparation, hexes, shares, l.WorkingStapleMM, scale, l.ID)
}

func bandURL(k fibre.Kind, hexes []string, seed int) string {
	q := url.Values{"c": {bare(hexes, nil)}, "w": {k.Crimp}, "l": {k.Lustre}, "s": {strconv.Itoa(seed)}}
	return "/art/band.svg?" + q.Encode()
}

// bare writes colours and shares as "5b7d96-60,c9a24a-40".
func bare(hexes []string, shares []float64) string {
	out := make([]string, len(hexes))
	for i, h := range hexes {
		out[i] = strings.TrimPrefix(h, "#")
		if len(shares) == len(hexes) {
			out[i] += fmt.Sprintf("-%.0f", 1+shares[i]*999)
		}
	}
	return strings.Join(out, ",")
}

// fibreFrom reads a drawing's parameters. Wrong ones draw something plain:
// only this program writes such links.
func fibreFrom(c *gin.Context) art.Fibre {
	f := art.Fibre{Family: c.Query("f"), Crimp: c.Query("w"), Lustre: c.Query("l"), Prep: c.Query("p")}
	var sum float64
	for _, part := range strings.Split(c.Query("c"), ",") {
		hex, weight, _ := strings.Cut(part, "-")
		if _, err := colour.ParseHex("#" + strings.ToLower(hex)); err != nil || len(f.Hexes) >= 200 {
			continue
		}
		n, err := strconv.ParseFloat(weight, 64)
		if err != nil || !(n > 0 && n < 1e6) {
			n = 1
		}
		f.Hexes, f.Shares = append(f.Hexes, "#"+strings.ToLower(hex)), append(f.Shares, n)
		sum += n
	}
	for i := range f.Shares {
		f.Shares[i] /= sum
	}
	f.Seed, _ = strconv.ParseUint(c.Query("s"), 10, 64)
	px, err := strconv.ParseFloat(c.Query("px"), 64)
	if err != nil || !(px >= 1 && px <= 900) {
		px = 60
	}
	f.Length = px
	return f
}

func svgAnswer(c *gin.Context, data []byte) {
	forEver(c)
	c.Data(http.StatusOK, "image/svg+xml", data)
}

func drawTuft(c *gin.Context) { svgAnswer(c, art.Tuft(fibreFrom(c))) }
func drawBand(c *gin.Context) { svgAnswer(c, art.Band(fibreFrom(c))) }

func drawStrand(c *gin.Context) {
	done, err := strconv.ParseFloat(c.Query("done"), 64)
	if err != nil || !(done >= 0 && done <= 2) {
		done = 1
	}
	var knots []float64
	for _, k := range strings.Split(c.Query("knots"), ",") {
		if v, err := strconv.ParseFloat(k, 64); err == nil && v > 0 && v < 1 && len(knots) < 10 {
			knots = append(knots, v)
		}
	}
	svgAnswer(c, art.Strand(fibreFrom(c), done, knots, groundHex(c.Query("g"))))
}

// groundHex is the page's ground by name; the style sheet has the same values.
func groundHex(name string) string {
	switch name {
	case "mid":
		return "#a3a29f"
	case "dark":
		return "#272726"
	}
	return "#e7e6e2"
}

// strandURL links the strand of a blend's components.
func strandURL(components []studio.Component, seed int64, done float64, knots string, ground string) string {
	var hexes []string
	var shares []float64
	for _, c := range components {
		all := c.Hexes()
		for _, h := range all {
			hexes, shares = append(hexes, h), append(shares, c.Share/float64(len(all)))
		}
	}
	if len(hexes) == 0 {
		hexes, shares, done = []string{"#b9b6ad"}, []float64{1}, 0
	}
	q := url.Values{"c": {bare(hexes, shares)}, "s": {strconv.FormatInt(seed, 10)}, "done": {strconv.FormatFloat(done, 'f', 3, 64)}, "g": {ground}}
	if knots != "" {
		q.Set("knots", knots)
	}
	return "/art/strand.svg?" + q.Encode()
}
