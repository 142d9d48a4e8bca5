// Package buy finds what a list costs least: which packs, from which sources, with their price
// breaks, discounts and postage. Money is whole cents.
package buy

import (
	"math"
	"slices"
)

// Pack is a size in which something is sold.
type Pack struct {
	Grams  float64
	Cents  int64 // of one
	Breaks []Break
}

// Break is the price of each pack from so many on.
type Break struct {
	From  int
	Cents int64
}

// price is what so many packs cost.
func (p Pack) price(n int) int64 {
	each := p.Cents
	for _, b := range p.Breaks {
		if n >= b.From {
			each = min(each, b.Cents)
		}
	}
	return int64(n) * each
}

// Source is where things are bought. FreeFrom is the price of goods from which nothing is asked
// for postage; 0: it always is.
type Source struct {
	Postage   int64
	FreeFrom  int64
	Discounts []Discount
}

// Discount takes a part off an order of so much.
type Discount struct {
	From int64
	Part float64
}

// Bill is what an order costs.
type Bill struct{ Goods, Off, Postage, Total int64 }

// Bill is that of goods of a price; nothing ordered costs nothing.
func (s Source) Bill(goods int64) Bill {
	if goods == 0 {
		return Bill{}
	}
	b := Bill{Goods: goods, Postage: s.Postage}
	part := 0.0
	for _, d := range s.Discounts {
		if goods >= d.From {
			part = max(part, d.Part)
		}
	}
	b.Off = int64(math.Round(part * float64(goods)))
	if s.FreeFrom > 0 && goods >= s.FreeFrom {
		b.Postage = 0
	}
	b.Total = b.Goods - b.Off + b.Postage
	return b
}

// Item is what is needed, and the packs in which each source sells it; none where it does not.
type Item struct {
	Grams float64
	Packs [][]Pack
}

// Choice is where an item is bought, and how many of each of the packs there. Source is -1 where
// nobody sells it.
type Choice struct {
	Source int
	Count  []int
	Grams  float64
	Cents  int64 // before the discount of the order
}

// Plan is where everything is bought.
type Plan struct {
	Choices []Choice // of the items, in their order
	Bills   []Bill   // of the sources
	Total   int64
	Exact   bool // no split costs less; else it is the best that was found
}

// mostPacks bounds the packs of one size.
const mostPacks = 500

// mostCovers bounds the ways to cover an item that are looked at; see TestCoverEnds.
const mostCovers = 400_000

// Cover is the cheapest number of each pack that holds so many grams together; ok is false where
// it takes too many, and exact where no other number can cost less: not every one was looked at
// where there are too many of them.
func Cover(packs []Pack, grams float64) (count []int, cents int64, ok, exact bool) {
	count = make([]int, len(packs))
	best := make([]int, len(packs))
	cents = math.MaxInt64
	gram := make([]float64, len(packs)+1) // the least that a gram costs in the packs from one on
	gram[len(packs)] = math.Inf(1)
	for i := len(packs) - 1; i >= 0; i-- {
		gram[i] = min(gram[i+1], packs[i].least()/packs[i].Grams)
	}
	looked := 0
	var try func(i int, rest float64, spent int64)
	try = func(i int, rest float64, spent int64) {
		if looked++; looked > mostCovers || spent >= cents {
			return
		}
		if rest > slack && float64(spent)+(rest-slack)*gram[i]-1e-6 >= float64(cents) {
			return
		}
		if i == len(packs) {
			if rest <= slack {
				cents, ok = spent, true
				copy(best, count)
			}
			return
		}
		need := int(max(0, math.Ceil((rest-slack)/packs[i].Grams)))
		if need <= mostPacks {
			from := 0
			if i == len(packs)-1 { // fewer of the last do not hold it
				from = need
			}
			for n := from; n <= need; n++ {
				count[i] = n
				try(i+1, rest-float64(n)*packs[i].Grams, spent+packs[i].price(n))
			}
			for _, b := range packs[i].Breaks { // more than is needed may cost less
				if b.From > need && b.From <= mostPacks {
					count[i] = b.From
					try(i+1, rest-float64(b.From)*packs[i].Grams, spent+packs[i].price(b.From))
				}
			}
		}
		count[i] = 0
	}
	try(0, grams, 0)
	return best, cents, ok, looked <= mostCovers
}

// least is the least that one pack costs, however many are bought.
func (p Pack) least() float64 {
	each := p.Cents
	for _, b := range p.Breaks {
		each = min(each, b.Cents)
	}
	return float64(each)
}

// slack is the weight below which nothing is missing: a milligram.
const slack = 1e-3

// mostLooked bounds the splits that are looked at; four sources and twelve items stay far below.
const mostLooked = 4_000_000

// Split buys every item from one source such that all bills together are the least. What nobody
// sells is left out of the bills.
func Split(sources []Source, items []Item) Plan {
	s := search{sources: sources, items: items, at: make([]int, len(items)), goods: make([]int64, len(sources)), cost: make([][]Choice, len(items))}
	s.best = Plan{Total: math.MaxInt64}
	for i, it := range items {
		s.cost[i] = make([]Choice, len(sources))
		for k := range sources {
			s.cost[i][k] = Choice{Source: -1}
			if k < len(it.Packs) && len(it.Packs[k]) > 0 {
				count, cents, ok, exact := Cover(it.Packs[k], it.Grams)
				s.rough = s.rough || !exact
				if ok {
					c := Choice{Source: k, Count: count, Cents: cents}
					for p, n := range count {
						c.Grams += float64(n) * it.Packs[k][p].Grams
					}
					s.cost[i][k] = c
				}
			}
		}
		if slices.ContainsFunc(s.cost[i], func(c Choice) bool { return c.Source >= 0 }) {
			s.order = append(s.order, i)
		}
		s.at[i] = -1
	}
	s.run()
	out := s.best
	out.Exact = s.looked < mostLooked && !s.rough
	return out
}

type search struct {
	sources []Source
	items   []Item
	cost    [][]Choice // of each item at each source
	order   []int      // items that somebody sells, the dearest first
	at      []int      // source of each item
	goods   []int64
	rest    []float64 // the least that the items from one in the order on cost
	looked  int
	rough   bool // an item has more ways to cover it than were looked at
	best    Plan
}

// least is the least part of a price that is left after a source's discounts.
func (s Source) least() float64 {
	part := 0.0
	for _, d := range s.Discounts {
		part = max(part, d.Part)
	}
	return 1 - part
}

func (s *search) run() {
	low := func(i int) float64 {
		v := math.Inf(1)
		for k, c := range s.cost[i] {
			if c.Source >= 0 {
				v = min(v, float64(c.Cents)*s.sources[k].least())
			}
		}
		return v
	}
	slices.SortStableFunc(s.order, func(a, b int) int { return int(math.Copysign(1, low(b)-low(a))) })
	s.rest = make([]float64, len(s.order)+1)
	for i := len(s.order) - 1; i >= 0; i-- {
		s.rest[i] = s.rest[i+1] + low(s.order[i])
	}
	for k := range s.sources { // all from one source, as far as it goes, is where to begin
		s.greedy(k)
	}
	s.greedy(-1)
	s.try(0)
}

// greedy buys all from one source, and what it does not sell where it is cheapest; with -1 all
// where it is cheapest.
func (s *search) greedy(from int) {
	for _, i := range s.order {
		k := from
		if k < 0 || s.cost[i][k].Source < 0 {
			k = -1
			for j, c := range s.cost[i] {
				if c.Source >= 0 && (k < 0 || c.Cents < s.cost[i][k].Cents) {
					k = j
				}
			}
		}
		s.at[i] = k
		s.goods[k] += s.cost[i][k].Cents
	}
	s.keep()
	clear(s.goods)
}

// keep takes the split as it stands where it costs less than the best.
func (s *search) keep() {
	var total int64
	for k, g := range s.goods {
		total += s.sources[k].Bill(g).Total
	}
	if total >= s.best.Total {
		return
	}
	s.best = Plan{Total: total, Choices: make([]Choice, len(s.items)), Bills: make([]Bill, len(s.sources))}
	for i := range s.items {
		s.best.Choices[i] = Choice{Source: -1}
		if k := s.at[i]; k >= 0 {
			s.best.Choices[i] = s.cost[i][k]
		}
	}
	for k, g := range s.goods {
		s.best.Bills[k] = s.sources[k].Bill(g)
	}
}

// try gives the items from n on to sources, as long as that can still be less than the best.
func (s *search) try(n int) {
	if s.looked++; s.looked >= mostLooked {
		return
	}
	bound := s.rest[n]
	for k, g := range s.goods {
		if g > 0 {
			bound += float64(g) * s.sources[k].least()
			if s.sources[k].FreeFrom == 0 {
				bound += float64(s.sources[k].Postage)
			}
		}
	}
	if bound-float64(len(s.sources)) >= float64(s.best.Total) { // bills are rounded to cents
		return
	}
	if n == len(s.order) {
		s.keep()
		return
	}
	i := s.order[n]
	for k, c := range s.cost[i] {
		if c.Source >= 0 {
			s.at[i] = k
			s.goods[k] += c.Cents
			s.try(n + 1)
			s.goods[k] -= c.Cents
		}
	}
}

// RoundUp is what it costs to order more from a source until it grants something.
type RoundUp struct {
	Source int
	More   int64   // goods to add
	Extra  int64   // that all costs more then; below 0: it costs less
	Part   float64 // the discount that it brings; 0: no postage is asked any more
}

// RoundUps are the next discount and the free postage of each source that is ordered from.
func RoundUps(sources []Source, p Plan) (out []RoundUp) {
	for k, s := range sources {
		now := p.Bills[k]
		if now.Goods == 0 {
			continue
		}
		next := Discount{From: math.MaxInt64}
		for _, d := range s.Discounts {
			if d.From > now.Goods && d.From < next.From {
				next = d
			}
		}
		if next.From != math.MaxInt64 {
			out = append(out, RoundUp{k, next.From - now.Goods, s.Bill(next.From).Total - now.Total, next.Part})
		}
		if s.FreeFrom > now.Goods && s.Postage > 0 {
			out = append(out, RoundUp{k, s.FreeFrom - now.Goods, s.Bill(s.FreeFrom).Total - now.Total, 0})
		}
	}
	return out
}
