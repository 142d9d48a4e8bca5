package demo

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/png"
	"math"
	"math/rand/v2"
	"sync"

	"fairtangle/studio"
	"fairtangle/studio/reach"
	"fairtangle/studio/workshop"
)

// scraps are the ends that were left from dyeing for the throw.
var scraps = []struct {
	name, kind, hex string
	grams           float64
}{
	{"slate end", "gotland", "#4c5257", 6.5}, {"deep pool", "merino", "#22414f", 4.2}, {"flood blue", "corriedale", "#5b7d96", 9.1},
	{"shallows", "polwarth", "#8fb0b5", 5.4}, {"first light", "merino", "#c9d3d2", 3.8}, {"wet sand end", "bluefaced_leicester", "#b39b7a", 7.7},
	{"dry sand", "romney", "#d6c29a", 6.0}, {"honey end", "silk_tussah", "#c69a52", 3.1}, {"gorse", "cheviot", "#d9b23a", 2.6},
	{"marsh olive", "corriedale", "#76743f", 8.3}, {"samphire end", "merino_superwash", "#5d8a45", 5.9}, {"eelgrass", "merino", "#3f6b4a", 4.4},
	{
		"rust neps",
		"neps_wool",
		"#a5512f",
		3.3,
	}, {"crab red", "finnsheep", "#a2473f", 4.0}, {"silt", "shetland", "#6a5546", 7.2}, {"party pink", "merino", "#e0469a", 1.4},
}

// samples are blends of the throw, carded even in small and measured.
var samples = []struct{ name, blend, hex string }{
	{"Low Water, 6 g by hand", "Low Water", "#776759"}, {"First Flood, 6 g by hand", "First Flood", "#a4a295"},
	{"Mid Flood, carded three times", "Mid Flood", "#6a7d8f"}, {"Slack, 6 g by hand", "Slack", "#929f92"},
	{"Ebb, 8 g by hand", "Ebb", "#837e88"}, {"Saltmarsh, 6 g by hand", "Saltmarsh", "#8d8d5b"},
}

// fillIntent adds what starts from a colour: a gradient, a bag of scraps, a
// photo and samples of carded blends.
func fillIntent(ctx context.Context, s *studio.Studio, making int64, ids map[string]int64, blends map[string]int64) error {
	plan := reach.GradientPlan{School: "thirds", Bridges: 2, MaxJump: reach.DefaultJump, Stops: []reach.Stop{}}
	for _, v := range []struct {
		lot, hex string
		grams    float64
	}{
		{"mussel navy Corriedale", "#26324a", 30}, {"grey-blue Corriedale", "#6b8799", 60}, {"slack-water green Polwarth", "#6f8b7b",
			45}, {"wet sand Bluefaced Leicester", "#b39b7a", 45},
	} {
		id := ids[v.lot]
		l, err := s.Shelf.Lot(ctx, id)
		if err != nil {
			return err
		}
		plan.Stops = append(plan.Stops, reach.Stop{LotID: &id, Name: v.lot, Kind: l.Kind, Preparation: l.Preparation, Hex: v.hex, Grams: v.grams})
	}
	if _, err := s.Reach.CreateGradient(ctx, making, reach.GradientInput{Name: "Deep water to shore", GradientPlan: plan}); err != nil {
		return err
	}
	bag := reach.BagInput{Name: "Ends of the tide"}
	for _, v := range scraps {
		bag.Scraps = append(bag.Scraps, reach.Scrap{Name: v.name, Kind: v.kind, Hex: v.hex, Grams: v.grams})
	}
	sorted, err := s.Reach.SortBag(ctx, bag, 5)
	if err != nil {
		return err
	}
	if _, err := s.Reach.CreateBag(ctx, sorted.BagInput); err != nil {
		return err
	}
	for _, v := range samples {
		id, hex := blends[v.blend], v.hex
		if err := s.Reach.AddSample(ctx, reach.SampleInput{Name: v.name, BlendID: &id, Measured: workshop.ColourInput{Hex: &hex}, Source: "photo"}); err != nil {
			return err
		}
	}
	data, err := drawn()
	if err != nil {
		return err
	}
	_, err = s.Shelf.AddPhoto(ctx, "Estuary at first light, with a grey card", bytes.NewReader(data))
	return err
}

// drawn is the picture; it is the same each time.
var drawn = sync.OnceValues(estuary)

// estuary draws a picture of the tide: sky, far shore, water, sand, mud and
// saltmarsh in uneven bands, taken with a warm cast and a grey card at the edge.
func estuary() ([]byte, error) {
	const w, h = 600, 400
	rng := rand.New(rand.NewPCG(7, 11))
	bands := []struct {
		to float64
		c  [3]float64
	}{
		{0.20, [3]float64{196, 205, 210}}, {0.30, [3]float64{150, 143, 166}}, {0.36, [3]float64{78, 88, 96}}, {0.56, [3]float64{92, 128, 146}},
		{0.66, [3]float64{138, 164, 154}}, {0.80, [3]float64{188, 164, 122}}, {0.90, [3]float64{112, 92, 76}}, {1.2, [3]float64{116, 122, 66}},
	}
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	cast := [3]float64{1.06, 0.98, 0.84}
	for y := range h {
		for x := range w {
			fx, fy := float64(x)/w, float64(y)/h
			fy += 0.022*math.Sin(7*fx+3*fy) + 0.012*math.Sin(19*fx+2) + 0.008*rng.NormFloat64()
			i := 0
			for bands[i].to < fy {
				i++
			}
			c := bands[i].c
			light := 1 + 0.05*rng.NormFloat64() + 0.06*math.Sin(40*fy+9*fx)
			if x > 27 && x < 100 && y > 287 && y < 373 {
				c, light = [3]float64{118, 118, 118}, 1+0.01*rng.NormFloat64()
			}
			var p [3]uint8
			for ch := range p {
				p[ch] = uint8(min(max(c[ch]*light*cast[ch], 2), 250))
			}
			img.SetRGBA(x, y, color.RGBA{p[0], p[1], p[2], 255})
		}
	}
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}
