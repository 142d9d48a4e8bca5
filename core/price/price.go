// Package price works out what a piece of one's own work costs, what to ask for it, and what is left to live on.
package price

import (
	"math"

	"fairtangle/core/fault"
)

// Rates are what a maker counts with, kept from one price to the next: money in the maker's currency, shares in percent.
type Rates struct {
	Hour      float64 `json:"hour"`      // what an hour of one's own is to bring
	Machine   float64 `json:"machine"`   // what an hour of the machine costs
	Packing   float64 `json:"packing"`   // each
	MarkUp    float64 `json:"mark_up"`   // percent on top of all costs
	Wholesale float64 `json:"wholesale"` // the same, for a shop that buys
	Fees      float64 `json:"fees"`      // percent of what is asked that a market or a card takes
	Tax       float64 `json:"tax"`       // percent on top of the price, to hand on; 0: none
}

// Work is what is priced: so many pieces of a weight, with the fibre that goes in and the minutes that they take, all together.
type Work struct {
	Pieces  int
	Grams   float64 // each
	Fibre   float64 // money, of all
	Minutes float64 // of all
}

// Price is for one piece. Asked = Tax + Fees + Fibre + Machine + Packing + Left.
type Price struct {
	Fibre, Machine, Packing float64
	Work                    float64 // that the hours are to bring
	Exact, Asked            float64
	Tax, Fees               float64 // of what is asked
	Left                    float64 // for the work, and to live on
	LeftPerHour             float64 // NaN where it takes no time
	Per100G                 float64 // of what is asked
	Wholesale               float64 // asked of a shop, rounded; no market takes fees of it
}

// Limits of what is typed.
const (
	MostMoney   = 1e6
	MostPercent = 500
	MostFees    = 80
	MostPieces  = 10_000
	MostMinutes = 100_000
)

// Check finds what is out of bounds, by the names of the fields.
func (r Rates) Check(l *fault.List) {
	money := func(field string, v float64) {
		if !(v >= 0 && v <= MostMoney) {
			l.Add(field, "Money is from 0 to %d.", int(MostMoney))
		}
	}
	percent := func(field string, v, most float64) {
		if !(v >= 0 && v <= most) {
			l.Add(field, "Percent are from 0 to %g.", most)
		}
	}
	money("hour", r.Hour)
	money("machine", r.Machine)
	money("packing", r.Packing)
	percent("mark_up", r.MarkUp, MostPercent)
	percent("wholesale", r.Wholesale, MostPercent)
	percent("fees", r.Fees, MostFees)
	percent("tax", r.Tax, 100)
	if 1/(1+r.Tax/100)-r.Fees/100 < 0.05 {
		l.Add("fees", "Fees and tax together leave nothing of a price.")
	}
}

// Of works a price out: what all costs, with the mark-up, is what is left of the price once tax and fees are off it, so
// asked·(1/(1+tax) − fees) = costs·(1+mark-up); then it is rounded up to what one says at a table.
func Of(w Work, r Rates) (Price, error) {
	var l fault.List
	r.Check(&l)
	if w.Pieces < 1 || w.Pieces > MostPieces {
		l.Add("pieces", "There are 1 to %d pieces.", MostPieces)
	}
	if !(w.Minutes >= 0 && w.Minutes <= MostMinutes) {
		l.Add("minutes", "Minutes are from 0 to %d.", MostMinutes)
	}
	if !(w.Fibre >= 0 && w.Fibre <= MostMoney*MostPieces) {
		l.Add("fibre", "Fibre costs nothing or something.")
	}
	if err := l.Err(); err != nil {
		return Price{}, err
	}
	n := float64(w.Pieces)
	hours := w.Minutes / 60 / n
	p := Price{Fibre: w.Fibre / n, Machine: hours * r.Machine, Packing: r.Packing, Work: hours * r.Hour}
	costs := p.Fibre + p.Machine + p.Packing + p.Work
	kept := 1/(1+r.Tax/100) - r.Fees/100
	p.Exact = costs * (1 + r.MarkUp/100) / kept
	p.Asked = Table(p.Exact)
	p.Tax, p.Fees = p.Asked*(1-1/(1+r.Tax/100)), p.Asked*r.Fees/100
	p.Left = p.Asked - p.Tax - p.Fees - p.Fibre - p.Machine - p.Packing
	p.LeftPerHour = math.NaN()
	if hours > 0 {
		p.LeftPerHour = p.Left / hours
	}
	if w.Grams > 0 {
		p.Per100G = 100 * p.Asked / w.Grams
	}
	p.Wholesale = Table(costs * (1 + r.Wholesale/100) * (1 + r.Tax/100))
	return p, nil
}

// steps are to what one rounds a price at a table, by how much it is at most.
var steps = []struct{ most, step float64 }{{2, 0.1}, {50, 0.5}, {200, 1}, {1000, 5}, {math.Inf(1), 10}}

// Table rounds an amount of money up to what one says at a table.
func Table(v float64) float64 {
	for _, s := range steps {
		if v <= s.most {
			return math.Round(math.Ceil(v/s.step-1e-9)*s.step*100) / 100
		}
	}
	return v
}
