package art

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
)

// Link is the address of a picture of a fibre with its size in px.
type Link struct {
	URL  string
	W, H int
}

// Length scales of tufts, px per mm: on the shelf, and in rows of a table.
const (
	ShelfScale = 0.85
	RowScale   = 0.62
)

// TuftLink links the lock of a fibre at a length scale.
func TuftLink(k fibre.Kind, prep string, hexes []string, shares []float64, stapleMM, scale float64, seed int64) Link {
	length := stapleMM * scale
	q := url.Values{
		"c": {bare(hexes, shares)}, "f": {k.Family}, "w": {k.Crimp}, "l": {k.Lustre}, "p": {prep},
		"px": {strconv.FormatFloat(length, 'f', 0, 64)}, "s": {strconv.FormatInt(seed, 10)},
	}
	w := length + 8
	if prep == "neps" || length < 14 {
		w = 64
	}
	return Link{"/art/tuft.svg?" + q.Encode(), int(w), int(TuftHeight)}
}

// BandLink links the strip of a share bar.
func BandLink(k fibre.Kind, hexes []string, seed int, tile Tile) string {
	q := url.Values{"c": {bare(hexes, nil)}, "w": {k.Crimp}, "l": {k.Lustre}, "s": {strconv.Itoa(seed)}}
	if tile == SmallTile {
		q.Set("small", "1")
	}
	return "/art/band.svg?" + q.Encode()
}

// StrandLink links a length of sliver, pale after done, with knots at places of
// it ("0.1,0.33"), on a ground.
func StrandLink(hexes []string, shares []float64, seed int64, done float64, knots, ground string) string {
	q := url.Values{"c": {bare(hexes, shares)}, "s": {strconv.FormatInt(seed, 10)}, "done": {strconv.FormatFloat(done, 'f', 3, 64)}, "g": {ground}}
	if knots != "" {
		q.Set("knots", knots)
	}
	return "/art/strand.svg?" + q.Encode()
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

// Routes draws what is linked.
func Routes(e *gin.Engine) {
	serve := func(name string, draw func(url.Values) []byte) {
		e.GET("/art/"+name+".svg", func(c *gin.Context) {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
			c.Data(http.StatusOK, "image/svg+xml", draw(c.Request.URL.Query()))
		})
	}
	serve("tuft", func(q url.Values) []byte { return Tuft(fibreFrom(q)) })
	serve("band", func(q url.Values) []byte { return Band(fibreFrom(q), tileFrom(q)) })
	serve("strand", strandFrom)
}

// fibreFrom reads a drawing's parameters. Wrong ones draw something plain:
// only this program writes such links.
func fibreFrom(q url.Values) Fibre {
	f := Fibre{Family: q.Get("f"), Crimp: q.Get("w"), Lustre: q.Get("l"), Prep: q.Get("p")}
	var sum float64
	for _, part := range strings.Split(q.Get("c"), ",") {
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
	f.Seed, _ = strconv.ParseUint(q.Get("s"), 10, 64)
	px, err := strconv.ParseFloat(q.Get("px"), 64)
	if err != nil || !(px >= 1 && px <= 900) {
		px = 60
	}
	f.Length = px
	return f
}

func tileFrom(q url.Values) Tile {
	if q.Get("small") != "" {
		return SmallTile
	}
	return WholeTile
}

func strandFrom(q url.Values) []byte {
	done, err := strconv.ParseFloat(q.Get("done"), 64)
	if err != nil || !(done >= 0 && done <= 2) {
		done = 1
	}
	var knots []float64
	for _, k := range strings.Split(q.Get("knots"), ",") {
		if v, err := strconv.ParseFloat(k, 64); err == nil && v > 0 && v < 1 && len(knots) < 10 {
			knots = append(knots, v)
		}
	}
	return Strand(fibreFrom(q), done, knots, groundHex(q.Get("g")))
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
