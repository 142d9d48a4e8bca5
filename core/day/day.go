// Package day puts the work of a day on one carder in the order that saves cleaning, and
// lays it out in time. Minutes are from the beginning.
package day

import (
	"context"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
)

// Job is one piece of work: a batt, or several alike.
type Job struct {
	Name    string
	Colour  colour.Lab
	Sheds   bool // film, down or neps, which turn up for many batts
	Fine    bool // fine fibre, in which every coarse hair that was left is felt
	Minutes float64
	Pieces  int // alike, between which there may be a break; 0: one
	// Ahead is how many minutes of what is carded alone go before the pieces, Begins the colour with which that begins; nil: Colour.
	Ahead  float64
	Begins *colour.Lab
}

// parts are the minutes of what is done of a job without a break: what goes ahead, if there is any, and each piece.
func (j Job) parts() (out []float64, pieces int) {
	pieces = max(1, j.Pieces)
	if j.Ahead > 0 {
		out = append(out, j.Ahead)
	}
	for range pieces {
		out = append(out, j.Minutes/float64(pieces))
	}
	return out, pieces
}

// begins is the colour with which a job begins.
func (j Job) begins() colour.Lab {
	if j.Begins != nil {
		return *j.Begins
	}
	return j.Colour
}

// Clean is how a cloth is cleaned between two jobs.
type Clean string

// The cleanings: none, a brush over it, or all of it with scrap wool after.
const (
	None  Clean = ""
	Quick Clean = "quick"
	Full  Clean = "full"
)

// From where on what is left of one job shows in the next: lighter by so much in L* (rule R40
// goes by it for a full cleaning), or less chromatic by so much and not much darker: what is dark swallows it.
const (
	FullLighter  = 30.0
	quickLighter = 10.0
	duller       = 15.0
)

// FullMin and QuickMin are how many minutes the cleanings take where nobody said otherwise. They are ours.
const (
	FullMin  = 12.0
	QuickMin = 4.0
)

// Between is the cleaning that one job needs after another.
func Between(before, next Job) Clean {
	chroma := func(c colour.Lab) float64 { return math.Hypot(c.A, c.B) }
	first := next.begins()
	lighter := first.L - before.Colour.L
	switch {
	case lighter >= FullLighter || before.Sheds && !next.Sheds:
		return Full
	case lighter >= quickLighter, next.Fine && !before.Fine, lighter > -quickLighter && chroma(before.Colour)-chroma(first) >= duller:
		return Quick
	}
	return None
}

// Times are how long the cleanings take, and when there is a break; 0: never.
type Times struct{ Full, Quick, BreakEvery, Break float64 }

func (t Times) of(c Clean) float64 {
	return map[Clean]float64{Full: t.Full, Quick: t.Quick}[c]
}

// Changeovers are the minutes of cleaning between any two jobs, from the row's to the column's.
func Changeovers(jobs []Job, t Times) [][]float64 {
	out := make([][]float64, len(jobs))
	for i := range jobs {
		out[i] = make([]float64, len(jobs))
		for j := range jobs {
			if i != j {
				out[i][j] = t.of(Between(jobs[i], jobs[j]))
			}
		}
	}
	return out
}

// Cost is the cleaning of an order.
func Cost(between [][]float64, order []int) (sum float64) {
	for i := 1; i < len(order); i++ {
		sum += between[order[i-1]][order[i]]
	}
	return sum
}

// MostExact is up to how many jobs the order is the best there is.
const MostExact = 12

// Order is the order with the least cleaning; of equal ones the one that is done first, breaks and all, as far as they are looked
// at; of those that which keeps to the order in which they are given. first is the job that comes first, −1: any. It is exact up to
// MostExact jobs (dynamic programming over sets; Held and Karp 1962, cited from memory); beyond
// that, the best found by moving jobs, of as many beginnings as a budget of moves allows. Cancelling
// ctx ends it within some milliseconds, with what was found until then and ctx's error.
func Order(ctx context.Context, jobs []Job, t Times, first int) (order []int, exact bool, err error) {
	between, n := Changeovers(jobs, t), len(jobs)
	if n <= MostExact {
		rest := held(between)
		return soonest(jobs, t, between, rest, first), true, nil
	}
	best, budget := math.Inf(1), mostMoves
	for start := range n {
		if first >= 0 && start != first || order != nil && (budget <= 0 || ctx.Err() != nil) {
			continue
		}
		o := improved(ctx, between, greedy(between, start), first >= 0, &budget)
		if c := Cost(between, o); c < best-1e-9 {
			best, order = c, o
		}
	}
	return order, false, ctx.Err()
}

// held finds exactly what the best order costs: rest[set*n+last] is the least that is still to come when
// these were done and last was the last of them.
func held(between [][]float64) (rest []float64) {
	n := len(between)
	if n == 0 {
		return nil
	}
	all := 1<<n - 1
	rest = make([]float64, (all+1)*n)
	for set := all - 1; set > 0; set-- {
		for last := range n {
			if set>>last&1 == 0 {
				continue
			}
			least := math.Inf(1)
			for next := range n {
				if set>>next&1 == 0 {
					least = min(least, between[last][next]+rest[(set|1<<next)*n+next])
				}
			}
			rest[set*n+last] = least
		}
	}
	return rest
}

// greedy goes on with what needs the least cleaning.
func greedy(between [][]float64, start int) []int {
	out := []int{start}
	for len(out) < len(between) {
		best := -1
		for j := range between {
			if !slices.Contains(out, j) && (best < 0 || between[out[len(out)-1]][j] < between[out[len(out)-1]][best]) {
				best = j
			}
		}
		out = append(out, best)
	}
	return out
}

// mostMoves bounds the moves that are looked at, which takes some hundredths of a second.
const mostMoves = 10_000_000

// improved moves runs of one to three jobs to better places until none is left, or the budget of
// moves is used up.
func improved(ctx context.Context, between [][]float64, order []int, keepFirst bool, budget *int) []int {
	least := 0
	if keepFirst {
		least = 1
	}
	for again := true; again && *budget > 0; {
		again = false
		for length := 1; length <= 3; length++ {
			for from := least; from+length <= len(order) && ctx.Err() == nil; from++ {
				for to := least; to+length <= len(order); to++ {
					if *budget--; saved(between, order, from, length, to) < -1e-9 {
						moved := slices.Clone(order[from : from+length])
						rest := slices.Concat(order[:from], order[from+length:])
						order, again = slices.Concat(rest[:to], moved, rest[to:]), true
					}
				}
			}
		}
	}
	return order
}

// saved is by how much the cost of an order changes where a run of jobs is taken out and put in
// again, before the job that is then at a place.
func saved(between [][]float64, order []int, from, length, to int) float64 {
	if to == from {
		return 0
	}
	n := len(order)
	rest := func(i int) int { // of the others
		switch {
		case i < 0 || i >= n-length:
			return -1
		case i < from:
			return order[i]
		}
		return order[i+length]
	}
	cost := func(a, b int) float64 {
		if a < 0 || b < 0 {
			return 0
		}
		return between[a][b]
	}
	a, b, p, q, head, tail := rest(from-1), rest(from), rest(to-1), rest(to), order[from], order[from+length-1]
	return cost(a, b) - cost(a, head) - cost(tail, b) + cost(p, head) + cost(tail, q) - cost(p, q)
}

// Total is how long it takes, breaks and all.
func Total(spans []Span) float64 {
	if len(spans) == 0 {
		return 0
	}
	return spans[len(spans)-1].To
}

// Fits is how many jobs are done in so many minutes.
func Fits(spans []Span, minutes float64) (n int) {
	for _, s := range spans {
		if s.Kind == "card" && s.Last && s.To <= minutes+1e-9 {
			n++
		}
	}
	return n
}

// Limits of a day.
const (
	MostJobs    = 200
	mostMinutes = 10_000.0
)

// Check finds what is wrong with jobs and times; fields are those of the API.
func Check(jobs []Job, t Times, free float64, first int) error {
	var l fault.List
	if len(jobs) == 0 || len(jobs) > MostJobs {
		l.Add("jobs", "There are 1 to %d jobs.", MostJobs)
	}
	for i, j := range jobs {
		if !(j.Minutes >= 0 && j.Minutes <= mostMinutes) {
			l.Add(fmt.Sprintf("jobs[%d].minutes", i), "A job takes 0 to %g minutes.", mostMinutes)
		}
		if !(j.Ahead >= 0 && j.Ahead <= mostMinutes) {
			l.Add(fmt.Sprintf("jobs[%d].ahead_min", i), "What is carded alone takes 0 to %g minutes.", mostMinutes)
		}
	}
	for _, v := range []struct {
		field   string
		minutes float64
	}{{"cleaning_min", t.Full}, {"quick_min", t.Quick}, {"break_every_min", t.BreakEvery}, {"break_min", t.Break}, {"free_min", free}} {
		if !(v.minutes >= 0 && v.minutes <= mostMinutes) {
			l.Add(v.field, "This is from 0 to %g minutes.", mostMinutes)
		}
	}
	if first < -1 || first >= len(jobs) {
		l.Add("fixed_first", "There is no such job.")
	}
	return l.Err()
}
