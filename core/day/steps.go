package day

import "slices"

// Span is what is done when. Job is −1 at a break; at a cleaning it is the one that it is for.
type Span struct {
	Kind     string // card, alone, clean, break
	Clean    Clean
	Job      int
	Piece    int  // of the job, counted from 0
	Last     bool // piece of the job
	From, To float64
}

// Spans lays an order out in time. A break comes between pieces of work, before one that would
// last longer than may be worked at a stretch.
func Spans(jobs []Job, order []int, t Times) (out []Span) {
	var now, worked float64
	add := func(s Span, minutes float64) {
		s.From, s.To = now, now+minutes
		now += minutes
		out = append(out, s)
	}
	for i, j := range order {
		clean := None
		if i > 0 {
			clean = Between(jobs[order[i-1]], jobs[j])
		}
		parts, pieces := jobs[j].parts()
		for k, each := range parts {
			if k > 0 {
				clean = None
			}
			need := t.of(clean) + each
			if t.rests(worked, need) {
				add(Span{Kind: "break", Job: -1}, t.Break)
				worked = 0
			}
			if clean != None && t.of(clean) > 0 {
				add(Span{Kind: "clean", Clean: clean, Job: j}, t.of(clean))
			}
			if n := k - len(parts) + pieces; n < 0 {
				add(Span{Kind: "alone", Job: j}, each)
			} else {
				add(Span{Kind: "card", Job: j, Piece: n, Last: n == pieces-1}, each)
			}
			worked += need
		}
	}
	return out
}

// rests reports whether there is a break before so many minutes more, after so many without one.
func (t Times) rests(worked, need float64) bool {
	return t.BreakEvery > 0 && t.Break > 0 && worked > 0 && worked+need > t.BreakEvery+1e-9
}

// mostLooked bounds how many beginnings of orders are looked at, which takes some hundredths of a second.
const mostLooked = 200_000

// soonest is, of the orders that need the least cleaning, the one with the fewest breaks: among equal ones the first
// in the order given. Where there are too many it is the best of those that were looked at, in that order.
func soonest(jobs []Job, t Times, between [][]float64, rest []float64, first int) []int {
	n := len(jobs)
	if n == 0 {
		return []int{}
	}
	all, looked := 1<<n-1, 0
	least := rest[1<<max(first, 0)*n+max(first, 0)]
	if first < 0 {
		for i := range n {
			least = min(least, rest[1<<i*n+i])
		}
	}
	var best []int
	fewest := 0
	var try func(order []int, set int, spent, worked float64, breaks int)
	try = func(order []int, set int, spent, worked float64, breaks int) {
		if looked++; best != nil && (looked > mostLooked || breaks >= fewest) {
			return
		}
		if set == all {
			best, fewest = slices.Clone(order), breaks
			return
		}
		for next := range n {
			if set>>next&1 == 1 || len(order) == 0 && first >= 0 && next != first {
				continue
			}
			cost, clean := 0.0, 0.0
			if len(order) > 0 {
				clean = between[order[len(order)-1]][next]
				cost = clean
			}
			if spent+cost+rest[(set|1<<next)*n+next] > least+1e-9 {
				continue
			}
			w, b := t.work(jobs[next], clean, worked)
			try(append(order, next), set|1<<next, spent+cost, w, breaks+b)
		}
	}
	try(make([]int, 0, n), 0, 0, 0, 0)
	return best
}

// work is how long there was no break when a job is done, and how many breaks came in it.
func (t Times) work(j Job, clean, worked float64) (after float64, breaks int) {
	parts, _ := j.parts()
	for k, need := range parts {
		if k == 0 {
			need += clean
		}
		if t.rests(worked, need) {
			worked = 0
			breaks++
		}
		worked += need
	}
	return worked, breaks
}
