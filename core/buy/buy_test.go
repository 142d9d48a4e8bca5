package buy

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// 230 g in packs of 100 g at 6.00 and 50 g at 3.50: two of 100 g and one of 50 g, 15.50; from
// three packs of 100 g on at 5.00 each, three of them cost 15.00.
func TestPacksByHand(t *testing.T) {
	count, cents, ok, _ := Cover([]Pack{{100, 600, nil}, {50, 350, nil}}, 230)
	assert.True(t, ok)
	assert.Equal(t, []int{2, 1}, count)
	assert.EqualValues(t, 1550, cents)
	count, cents, _, _ = Cover([]Pack{{100, 600, []Break{{3, 500}}}, {50, 350, nil}}, 230)
	assert.Equal(t, []int{3, 0}, count)
	assert.EqualValues(t, 1500, cents)
	count, cents, _, _ = Cover([]Pack{{100, 600, []Break{{5, 200}}}}, 230)
	assert.Equal(t, []int{5}, count, "five are cheaper than three")
	assert.EqualValues(t, 1000, cents)
	_, _, ok, _ = Cover([]Pack{{1, 5, nil}}, 1e6)
	assert.False(t, ok)
}

// A source with 5 % off from 50.00 and 4.90 postage, free from 60.00: goods of 49.00 cost 53.90,
// of 50.00 they cost 52.40, of 60.00 57.00. Rounding 49.00 up to 50.00 saves 1.50.
func TestABillByHand(t *testing.T) {
	s := Source{Postage: 490, FreeFrom: 6000, Discounts: []Discount{{5000, 0.05}}}
	assert.EqualValues(t, 5390, s.Bill(4900).Total)
	assert.EqualValues(t, 5240, s.Bill(5000).Total)
	assert.EqualValues(t, 5700, s.Bill(6000).Total)
	assert.Zero(t, s.Bill(0).Total)
	p := Split([]Source{s}, []Item{{100, [][]Pack{{{100, 4900, nil}}}}})
	assert.Equal(t, []RoundUp{{0, 100, -150, 0.05}, {0, 1100, 310, 0}}, RoundUps([]Source{s}, p))
}

func drawn(t *rapid.T, sources, items int) (out []Source, list []Item) {
	for range rapid.IntRange(1, sources).Draw(t, "sources") {
		s := Source{Postage: rapid.Int64Range(0, 900).Draw(t, "postage"), FreeFrom: rapid.SampledFrom([]int64{0, 2000, 5000}).Draw(t, "free")}
		for range rapid.IntRange(0, 2).Draw(t, "discounts") {
			s.Discounts = append(s.Discounts, Discount{rapid.Int64Range(500, 6000).Draw(t, "from"), rapid.Float64Range(0, 0.3).Draw(t, "part")})
		}
		out = append(out, s)
	}
	for range rapid.IntRange(1, items).Draw(t, "items") {
		it := Item{Grams: rapid.Float64Range(1, 400).Draw(t, "grams")}
		for range out {
			var packs []Pack
			for range rapid.IntRange(0, 2).Draw(t, "packs") {
				p := Pack{Grams: rapid.SampledFrom([]float64{25, 50, 100}).Draw(t, "pack"), Cents: rapid.Int64Range(50, 1500).Draw(t, "price")}
				if rapid.Bool().Draw(t, "break") {
					p.Breaks = []Break{{rapid.IntRange(2, 6).Draw(t, "from"), p.Cents * 8 / 10}}
				}
				packs = append(packs, p)
			}
			it.Packs = append(it.Packs, packs)
		}
		list = append(list, it)
	}
	return out, list
}

// The split costs as little as the least of all splits; it is never dearer than all from one
// source; what is bought holds what is needed, and the bills add up.
func TestNoSplitCostsLess(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sources, items := drawn(t, 3, 5)
		p := Split(sources, items)
		assert.True(t, p.Exact)
		var total int64
		for _, b := range p.Bills {
			total += b.Total
		}
		assert.Equal(t, p.Total, total)
		goods := make([]int64, len(sources))
		for i, c := range p.Choices {
			if c.Source < 0 {
				for _, packs := range items[i].Packs {
					assert.Empty(t, packs)
				}
				continue
			}
			assert.GreaterOrEqual(t, c.Grams, items[i].Grams-slack)
			goods[c.Source] += c.Cents
		}
		for k, b := range p.Bills {
			assert.Equal(t, goods[k], b.Goods)
		}
		assert.Equal(t, brute(sources, items, make([]int64, len(sources)), 0), p.Total)
	})
}

// brute is the least of all splits, every item from any source that sells it.
func brute(sources []Source, items []Item, goods []int64, n int) int64 {
	if n == len(items) {
		var total int64
		for k, g := range goods {
			total += sources[k].Bill(g).Total
		}
		return total
	}
	least, sold := int64(math.MaxInt64), false
	for k, packs := range items[n].Packs {
		if len(packs) == 0 {
			continue
		}
		_, cents, ok, _ := Cover(packs, items[n].Grams)
		if !ok {
			continue
		}
		sold = true
		goods[k] += cents
		least = min(least, brute(sources, items, goods, n+1))
		goods[k] -= cents
	}
	if !sold {
		return brute(sources, items, goods, n+1)
	}
	return least
}

// Four sources and twelve items are split exactly.
func TestTwelveItemsFromFourSourcesAreExact(t *testing.T) {
	var sources []Source
	for k := range 4 {
		sources = append(sources, Source{Postage: int64(390 + 70*k), FreeFrom: 6000, Discounts: []Discount{{5000, 0.05}, {9000, 0.08}}})
	}
	var items []Item
	for i := range 12 {
		it := Item{Grams: float64(60 + 17*i)}
		for k := range 4 {
			it.Packs = append(it.Packs, []Pack{{100, int64(480 + (i*37+k*53)%160), []Break{{5, int64(430 + (i*29+k*31)%120)}}}})
		}
		items = append(items, it)
	}
	p := Split(sources, items)
	assert.True(t, p.Exact)
	for k := range sources {
		var goods int64
		for _, it := range items {
			_, cents, _, _ := Cover(it.Packs[k], it.Grams)
			goods += cents
		}
		assert.LessOrEqual(t, p.Total, sources[k].Bill(goods).Total)
	}
}

// However many packs there are of however little, the search ends within its bound; what it finds
// holds what is wanted, and it says whether no other costs less. Where all ways are few it agrees
// with looking at all of them.
func TestCoverEnds(t *testing.T) {
	slow := []Pack{{1, 101, []Break{{7, 99}}}, {1.01, 102, []Break{{11, 98}}}, {0.99, 100, []Break{{13, 97}}}, {1.003, 101, []Break{{17, 96}}}}
	count, cents, ok, _ := Cover(slow, 480)
	require.True(t, ok)
	var held float64
	var price int64
	for i, n := range count {
		held += float64(n) * slow[i].Grams
		price += slow[i].price(n)
	}
	assert.GreaterOrEqual(t, held, 480-slack)
	assert.Equal(t, price, cents)
	rapid.Check(t, func(t *rapid.T) {
		packs := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) Pack {
			p := Pack{Grams: rapid.Float64Range(5, 60).Draw(t, "grams"), Cents: rapid.Int64Range(1, 900).Draw(t, "cents")}
			if rapid.Bool().Draw(t, "breaks") {
				p.Breaks = []Break{{rapid.IntRange(2, 6).Draw(t, "from"), rapid.Int64Range(1, 900).Draw(t, "less")}}
			}
			return p
		}), 1, 3).Draw(t, "packs")
		grams := rapid.Float64Range(1, 150).Draw(t, "wanted")
		_, cents, ok, exact := Cover(packs, grams)
		require.True(t, ok && exact)
		best := int64(math.MaxInt64)
		var all func(i int, rest float64, spent int64)
		all = func(i int, rest float64, spent int64) {
			if i == len(packs) {
				if rest <= slack {
					best = min(best, spent)
				}
				return
			}
			for n := 0; n <= int(math.Ceil(max(0, rest)/packs[i].Grams))+7; n++ {
				all(i+1, rest-float64(n)*packs[i].Grams, spent+packs[i].price(n))
			}
		}
		all(0, grams, 0)
		require.Equal(t, best, cents)
	})
}
