package layup

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/blend"
	"fairtangle/core/unit"
)

// TrayTurns is how many turns of the drum one filled tray feeds that shows
// through: a tray of some 11 cm, drawn in at an eighteenth of the speed of a drum
// of 58 cm, 1.2 g over 20 cm at 0.3 g a turn.
const TrayTurns = 4

// trayGrace is by how much a tray may be fuller, so that a step of the scale more
// in one lane does not make a feed of its own.
const trayGrace = 1.03

// Lane is a lengthwise strip of the cloth and what lies in it.
type Lane struct {
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	Grams float64 `json:"grams"`
	// Load is the grams over what the strip holds: grams / (width × capacity).
	Load float64 `json:"load"`
}

// LayerLoad is what one layer weighs, in how many filled trays it is fed, and
// what each tray takes.
type LayerLoad struct {
	Grams    float64 `json:"grams"`
	Feeds    int     `json:"feeds"`
	PortionG float64 `json:"portion_g"`
}

// Loads is what a lay-up does to the cloth.
type Loads struct {
	PlacedG   []float64   `json:"placed_g"` // by component
	UnplacedG []float64   `json:"unplaced_g"`
	TotalG    float64     `json:"total_g"` // placed
	CapacityG float64     `json:"capacity_g"`
	Fill      float64     `json:"fill"` // placed / capacity
	Lanes     []Lane      `json:"lanes"`
	Variation float64     `json:"variation"` // standard deviation over mean of the lanes' loads
	Layers    []LayerLoad `json:"layers"`
	Feeds     int         `json:"feeds"`
	HeightMM  float64     `json:"height_mm"` // of the thickest place, packed
	PinMM     float64     `json:"pin_mm"`
	Over      bool        `json:"over_the_pins"`
}

// capacityOf is what the bed holds of one fibre alone.
func (b Bed) capacityOf(f Fibre) float64 {
	return float64(blend.CapacityOf(f.Crimp, f.Preparation, b.Smooth, b.Lofty))
}

// Capacity is what the bed holds of the blend: 1/Σ(share/capacity).
func (b Bed) Capacity(fibres []Fibre) float64 {
	shares, caps := make([]float64, len(fibres)), make([]unit.Grams, len(fibres))
	var sum float64
	for i, f := range fibres {
		sum += f.Grams
		shares[i], caps[i] = f.Grams, unit.Grams(b.capacityOf(f))
	}
	if sum <= 0 {
		return float64(b.Smooth+b.Lofty) / 2
	}
	for i := range shares {
		shares[i] /= sum
	}
	return float64(blend.Capacity(shares, caps))
}

// FullOf is the bed as a batt of fibres of so many grams fills it to the full: what it holds of smooth and of
// lofty fibre is measured by that batt, in the proportion in which it was. grams: above 0.
func (b Bed) FullOf(fibres []Fibre, grams float64) Bed {
	k := unit.Grams(grams / b.Capacity(fibres))
	b.Smooth, b.Lofty = b.Smooth*k, b.Lofty*k
	return b
}

// Loads works out what a checked lay-up does to the cloth.
func (p Plan) Loads(b Bed, fibres []Fibre) Loads {
	out := Loads{PlacedG: p.Placed(len(fibres)), UnplacedG: make([]float64, len(fibres)), CapacityG: b.Capacity(fibres), PinMM: b.ToothMM}
	for i, f := range fibres {
		out.UnplacedG[i] = f.Grams - out.PlacedG[i]
		if math.Abs(out.UnplacedG[i]) < speck {
			out.UnplacedG[i] = 0
		}
		out.TotalG += out.PlacedG[i]
	}
	out.Fill = out.TotalG / out.CapacityG
	out.Lanes = p.lanes(out.CapacityG)
	var sq float64
	for _, v := range out.Lanes {
		sq += (v.To - v.From) * (v.Load - out.Fill) * (v.Load - out.Fill)
	}
	if out.Fill > 0 {
		out.Variation = math.Sqrt(sq) / out.Fill
	}
	out.Layers = make([]LayerLoad, 0, len(p.Layers))
	for _, l := range p.Layers {
		v := l.load(b)
		out.Feeds += v.Feeds
		out.Layers = append(out.Layers, v)
	}
	out.HeightMM = p.height(b, fibres)
	out.Over = b.Pins() && out.HeightMM > b.ToothMM+overMM
	return out
}

// overMM is by how much a place stands above the pins before it counts: less
// than one sees on any ruler.
const overMM = 0.1

// edges returns the places where anything begins or ends, rising, with 0 and 1.
func (p Plan) edges(of func(Lay) (float64, float64)) []float64 {
	out := []float64{0, 1}
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			a, b := of(v)
			out = append(out, a, b)
		}
	}
	slices.Sort(out)
	out = slices.CompactFunc(out, func(a, b float64) bool { return math.Abs(a-b) < 1e-9 })
	out[0], out[len(out)-1] = 0, 1 // and not a hair beside them
	return out
}

func across(v Lay) (float64, float64) { return v.From, v.To }
func along(v Lay) (float64, float64)  { return v.Start, v.End }

// finest is the width below which a strip is no lane of its own, a twentieth
// of the cloth.
const finest = 0.05

// lanes cuts the width where lays begin and end, joins what is too narrow to
// be a lane to its neighbour, and adds up. The grams of all lanes are those of
// the lay-up.
func (p Plan) lanes(capacity float64) []Lane {
	edges := p.edges(across)
	joined := edges[:1:1]
	for _, x := range edges[1:] {
		if x-joined[len(joined)-1] < finest && x < 1 {
			continue
		}
		if x == 1 && len(joined) > 1 && 1-joined[len(joined)-1] < finest {
			joined[len(joined)-1] = 1
			continue
		}
		joined = append(joined, x)
	}
	out := make([]Lane, len(joined)-1)
	for i := range out {
		out[i] = Lane{From: joined[i], To: joined[i+1], Grams: p.gramsIn(across, joined[i], joined[i+1], nil)}
		out[i].Load = out[i].Grams / ((out[i].To - out[i].From) * capacity)
	}
	return out
}

// gramsIn adds up what lies in a stretch; by, where given, gets it by
// component.
func (p Plan) gramsIn(of func(Lay) (float64, float64), from, to float64, by []float64) (sum float64) {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			a, b := of(v)
			if part := min(b, to) - max(a, from); part > 0 {
				g := v.Grams * part / (b - a)
				sum += g
				if by != nil {
					by[v.Component] += g
				}
			}
		}
	}
	return sum
}

// InStrip is the grams of each of n components between two places across.
func (p Plan) InStrip(from, to float64, n int) []float64 {
	by := make([]float64, n)
	p.gramsIn(across, from, to, by)
	return by
}

// load tells in how many trays a layer is fed: the grams that lie on the tray
// in front of any place of the drum are no more than it takes in TrayTurns
// turns, so that the tray shows through.
func (l Layer) load(b Bed) (out LayerLoad) {
	var fed float64
	type edge struct{ at, density float64 }
	var edges []edge
	for _, v := range l.Lays {
		out.Grams += v.Grams
		if v.Method == Feed {
			fed += v.Grams
			d := v.Grams / (v.To - v.From)
			edges = append(edges, edge{v.From, d}, edge{v.To, -d})
		}
	}
	if fed == 0 || b.FeedG <= 0 {
		return out
	}
	slices.SortFunc(edges, func(a, b edge) int {
		return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.density, b.density))
	})
	var here, most float64
	for _, e := range edges {
		here += e.density
		most = max(most, here)
	}
	out.Feeds = int(max(1, math.Ceil(most/(trayGrace*TrayTurns*b.FeedG)-1e-9)))
	out.PortionG = fed / float64(out.Feeds)
	return out
}

// Thickness is how high a lay stands where it lies, in mm, packed as the full
// cloth packs it: a bed full of the fibre is as high as the pins.
func (b Bed) Thickness(v Lay, f Fibre) float64 {
	return b.ToothMM * v.Grams / (b.capacityOf(f) * (v.To - v.From) * (v.End - v.Start))
}

// height is that of the thickest place. It adds up rectangles over the grid of
// all edges by differences.
func (p Plan) height(b Bed, fibres []Fibre) (most float64) {
	xs, ys := p.edges(across), p.edges(along)
	w := len(ys)
	diff := make([]float64, len(xs)*w)
	at := func(list []float64, x float64) int {
		i, _ := slices.BinarySearch(list, x-1e-9)
		return i
	}
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			h := b.Thickness(v, fibres[v.Component])
			x0, x1, y0, y1 := at(xs, v.From), at(xs, v.To), at(ys, v.Start), at(ys, v.End)
			diff[x0*w+y0] += h
			diff[x1*w+y0] -= h
			diff[x0*w+y1] -= h
			diff[x1*w+y1] += h
		}
	}
	for i := range xs {
		for j := 1; j < w; j++ {
			diff[i*w+j] += diff[i*w+j-1]
		}
		for j := range w {
			if i > 0 {
				diff[i*w+j] += diff[(i-1)*w+j]
			}
			most = max(most, diff[i*w+j])
		}
	}
	return most
}
