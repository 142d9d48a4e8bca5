// Package piles sorts scraps by colour into a few families, each of which can
// become one blend.
package piles

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Limits of a set of scraps.
const (
	MaxScraps = 300
	MinPiles  = 2
	MaxPiles  = 6
)

// Astray is the CIEDE2000 from the middle of its pile beyond which a scrap
// fits nowhere, Wide the weighted mean within a pile beyond which it is too
// wide for one blend.
const (
	Astray = 22.0
	Wide   = 11.0
)

// Scrap is a bit of fibre of one colour.
type Scrap struct {
	Colour colour.Lab
	Grams  float64
}

// Pile is a family of scraps.
type Pile struct {
	Scraps []int // indexes, rising
	Middle int   // the scrap that stands for it
	Spread float64
	// Stories are two piles to split it into, when it is too wide for one
	// blend.
	Stories [][]int
}

// Sorted is how scraps lie in piles.
type Sorted struct {
	Piles  []Pile // heaviest first
	Astray []int  // scraps that fit into no pile, though each lies in one
}

// Sort puts scraps into k piles so that the sum of grams times CIEDE2000 from
// the middle scrap of each pile is small: k-medoids by build and swap (Kaufman
// and Rousseeuw, "Finding groups in data", 1990, chapter 2). k = 0 chooses the
// number between 2 and 6 by the best average silhouette (Rousseeuw 1987). The
// answer does not depend on the order in which the scraps are given. Cancelling
// ctx ends it within some milliseconds.
func Sort(ctx context.Context, scraps []Scrap, k int) (Sorted, error) {
	var l fault.List
	if n := len(scraps); n < MinPiles || n > MaxScraps {
		l.Add("scraps", "There are %d to %d scraps to sort.", MinPiles, MaxScraps)
	}
	if k != 0 && (k < MinPiles || k > MaxPiles) {
		l.Add("piles", "Scraps are sorted into %d to %d piles.", MinPiles, MaxPiles)
	}
	for i, s := range scraps {
		if !(s.Grams > 0 && s.Grams <= 1e6) {
			l.Add(fmt.Sprintf("scraps[%d].grams", i), "A scrap weighs above %s and at most %s.", unit.Grams(0), unit.MaxGrams)
		}
	}
	if err := l.Err(); err != nil {
		return Sorted{}, err
	}
	c := newCluster(scraps)
	c.ctx = ctx
	middles := c.sort(k)
	if err := ctx.Err(); err != nil {
		return Sorted{}, err
	}
	return Describe(scraps, c.groups(middles)), nil
}

// Describe tells of piles that were made by hand or by Sort what Sort tells:
// middles, spreads, scraps astray and stories. Empty piles are left out.
func Describe(scraps []Scrap, groups [][]int) Sorted {
	var out Sorted
	c := newCluster(scraps)
	for _, g := range groups {
		if len(g) == 0 {
			continue
		}
		p := Pile{Scraps: slices.Clone(g), Middle: g[0]}
		slices.Sort(p.Scraps)
		least, grams := math.Inf(1), 0.0
		for _, m := range p.Scraps {
			if v := c.cost(p.Scraps, m); v < least-1e-9 {
				least, p.Middle = v, m
			}
			grams += scraps[m].Grams
		}
		p.Spread = least / grams
		if p.Spread > Wide && len(p.Scraps) >= 2 {
			part := c.only(p.Scraps)
			p.Stories = part.groups(part.sort(2))
		}
		for _, i := range p.Scraps {
			if c.d[i][p.Middle] > Astray {
				out.Astray = append(out.Astray, i)
			}
		}
		out.Piles = append(out.Piles, p)
	}
	slices.Sort(out.Astray)
	weight := func(p Pile) (g float64) {
		for _, i := range p.Scraps {
			g += scraps[i].Grams
		}
		return g
	}
	slices.SortStableFunc(out.Piles, func(a, b Pile) int { return cmp.Compare(weight(b), weight(a)) })
	return out
}

// Medoids returns the k colours that stand best for weighted colours, by the
// same rule as Sort, the weightiest group's first. It serves palettes.
func Medoids(ctx context.Context, colours []Scrap, k int) []int {
	c := newCluster(colours)
	c.ctx = ctx
	middles := c.swap(c.build(min(k, len(colours))))
	weight := map[int]float64{}
	for _, i := range c.order {
		weight[c.nearest(i, middles)] += colours[i].Grams
	}
	slices.SortStableFunc(middles, func(a, b int) int { return cmp.Compare(weight[b], weight[a]) })
	return middles
}

// cluster works on scraps in an order of its own, so that the order in which
// they were given does not matter.
type cluster struct {
	ctx    context.Context // cancelled: groups as they then are
	scraps []Scrap
	d      [][]float64
	order  []int // canonical: by colour, then grams
}

func newCluster(scraps []Scrap) *cluster {
	c := &cluster{ctx: context.Background(), scraps: scraps, d: make([][]float64, len(scraps)), order: make([]int, len(scraps))}
	for i := range scraps {
		c.order[i] = i
		c.d[i] = make([]float64, len(scraps))
		for j := range i {
			c.d[i][j] = colour.CIEDE2000(scraps[i].Colour, scraps[j].Colour)
			c.d[j][i] = c.d[i][j]
		}
	}
	slices.SortStableFunc(c.order, func(i, j int) int {
		a, b := scraps[i], scraps[j]
		return cmp.Or(cmp.Compare(a.Colour.L, b.Colour.L), cmp.Compare(a.Colour.A, b.Colour.A), cmp.Compare(a.Colour.B, b.Colour.B), cmp.Compare(a.Grams, b.Grams))
	})
	return c
}

// only is the same cluster with some of the scraps.
func (c *cluster) only(which []int) *cluster {
	out := &cluster{ctx: c.ctx, scraps: c.scraps, d: c.d}
	for _, i := range c.order {
		if slices.Contains(which, i) {
			out.order = append(out.order, i)
		}
	}
	return out
}

func (c *cluster) cost(group []int, middle int) (sum float64) {
	for _, i := range group {
		sum += c.scraps[i].Grams * c.d[i][middle]
	}
	return sum
}

func (c *cluster) nearest(i int, middles []int) int {
	best := middles[0]
	for _, m := range middles[1:] {
		if c.d[i][m] < c.d[i][best] {
			best = m
		}
	}
	return best
}

func (c *cluster) total(middles []int) (sum float64) {
	for _, i := range c.order {
		sum += c.scraps[i].Grams * c.d[i][c.nearest(i, middles)]
	}
	return sum
}

func (c *cluster) sort(k int) []int {
	if k != 0 {
		return c.swap(c.build(min(k, len(c.order))))
	}
	var best []int
	value := math.Inf(-1)
	for k := MinPiles; k <= min(MaxPiles, len(c.order)); k++ {
		m := c.swap(c.build(k))
		if v := c.silhouette(m); v > value+1e-9 {
			best, value = m, v
		}
	}
	return best
}

// build adds one middle after the other, each the one that helps most.
func (c *cluster) build(k int) (middles []int) {
	for len(middles) < k {
		best, value := -1, math.Inf(1)
		for _, i := range c.order {
			if best >= 0 && c.ctx.Err() != nil || slices.Contains(middles, i) {
				continue
			}
			if v := c.total(append(slices.Clone(middles), i)); v < value-1e-9 {
				best, value = i, v
			}
		}
		middles = append(middles, best)
	}
	return middles
}

// swap exchanges middles for others as long as that helps. What a middle is
// worth is kept per scrap as its nearest and second nearest, so that a swap is
// judged in one walk.
func (c *cluster) swap(middles []int) []int {
	value := c.total(middles)
	for range 50 {
		at, by, least := -1, -1, value
		for m := range middles {
			rest := slices.Delete(slices.Clone(middles), m, m+1)
			left := make([]float64, len(c.scraps))
			for _, i := range c.order {
				left[i] = math.Inf(1)
				if len(rest) > 0 {
					left[i] = c.d[i][c.nearest(i, rest)]
				}
			}
			for _, o := range c.order {
				if c.ctx.Err() != nil || slices.Contains(middles, o) {
					continue
				}
				var v float64
				for _, i := range c.order {
					v += c.scraps[i].Grams * min(left[i], c.d[i][o])
				}
				if v < least-1e-9 {
					at, by, least = m, o, v
				}
			}
		}
		if at < 0 {
			break
		}
		middles[at], value = by, least
	}
	return middles
}

func (c *cluster) groups(middles []int) [][]int {
	out := make([][]int, len(middles))
	for _, i := range c.order {
		g := slices.Index(middles, c.nearest(i, middles))
		out[g] = append(out[g], i)
	}
	return out
}

// silhouette is the weighted average silhouette of a grouping, -1 to 1.
func (c *cluster) silhouette(middles []int) float64 {
	groups := c.groups(middles)
	var sum, weight float64
	for g, own := range groups {
		for _, i := range own {
			w := c.scraps[i].Grams
			weight += w
			if len(own) == 1 {
				continue
			}
			a, b := c.meanTo(i, own, true), math.Inf(1)
			for o, other := range groups {
				if o != g && len(other) > 0 {
					b = min(b, c.meanTo(i, other, false))
				}
			}
			if m := max(a, b); m > 0 && !math.IsInf(b, 1) {
				sum += w * (b - a) / m
			}
		}
	}
	return sum / weight
}

func (c *cluster) meanTo(i int, group []int, own bool) float64 {
	var sum, weight float64
	for _, j := range group {
		if own && j == i {
			continue
		}
		sum += c.scraps[j].Grams * c.d[i][j]
		weight += c.scraps[j].Grams
	}
	return sum / weight
}
