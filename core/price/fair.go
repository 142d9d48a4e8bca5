package price

import (
	"math"

	"fairtangle/core/fault"
)

// Ware is something that could lie on the table of a fair: what one is sold for, how long one takes, and how many there is fibre for.
type Ware struct {
	Price   float64
	Minutes float64
	Most    int
}

// Stall is how many of each ware to make.
type Stall struct {
	Counts  []int
	Takes   float64 // money, if all is sold
	Minutes float64
	Enough  bool // it takes what was wanted, within the time
}

// coin is to what prices are counted: those at a table are whole coins.
const coin = 0.1

// MostStall is the most money that a stall is planned for.
const MostStall = 20_000

// Fair says what to make so that a table takes so much money in so many minutes: of all ways the one that takes the least time; where there
// is no time or fibre for that much, the one that takes the most money in the time there is, and of those the quickest. It is exact to the
// coin (a knapsack by money, of which each amount keeps the least minutes).
func Fair(wares []Ware, minutes, wanted float64) (Stall, error) {
	var l fault.List
	if !(minutes > 0 && minutes <= MostMinutes) {
		l.Add("hours", "Say for how many hours.")
	}
	if !(wanted > 0 && wanted <= MostStall) {
		l.Add("wanted", "A table takes above 0 and at most %d.", MostStall)
	}
	if err := l.Err(); err != nil {
		return Stall{}, err
	}
	goal, dearest := coins(wanted), 0
	for _, w := range wares {
		dearest = max(dearest, coins(w.Price))
	}
	size := goal + dearest + 1
	least := make([]float64, size) // minutes by coins
	for i := 1; i < size; i++ {
		least[i] = math.Inf(1)
	}
	var bundles []bundle
	var taken [][]bool // by bundle and coins: it is in the quickest way to them
	for i, w := range wares {
		each := coins(w.Price)
		if each <= 0 {
			continue
		}
		for left, n := min(w.Most, (size-1)/each), 1; left > 0; left, n = left-n, min(2*n, left-n) {
			b := bundle{i, n, n * each, float64(n) * w.Minutes}
			in := make([]bool, size)
			for at := size - 1; at >= b.coins; at-- {
				if t := least[at-b.coins] + b.minutes; t < least[at]-1e-9 {
					least[at], in[at] = t, true
				}
			}
			bundles, taken = append(bundles, b), append(taken, in)
		}
	}
	at, enough := pick(least, goal, minutes)
	out := Stall{Counts: make([]int, len(wares)), Takes: float64(at) * coin, Minutes: least[at], Enough: enough}
	for k := len(bundles) - 1; k >= 0; k-- {
		if taken[k][at] {
			out.Counts[bundles[k].ware] += bundles[k].n
			at -= bundles[k].coins
		}
	}
	return out, nil
}

// bundle is several of one ware, taken or left together.
type bundle struct {
	ware, n, coins int
	minutes        float64
}

// coins are those of an amount, rounded.
func coins(money float64) int { return int(math.Round(money / coin)) }

// pick is the amount that takes the least time of those that are enough and within the time; else the largest within it.
func pick(least []float64, goal int, minutes float64) (at int, enough bool) {
	at = -1
	for i := goal; i < len(least); i++ {
		if least[i] <= minutes+1e-9 && (at < 0 || least[i] < least[at]-1e-9) {
			at = i
		}
	}
	if at >= 0 {
		return at, true
	}
	for i := min(goal, len(least)) - 1; i >= 0; i-- {
		if least[i] <= minutes+1e-9 {
			return i, false
		}
	}
	return 0, false
}
