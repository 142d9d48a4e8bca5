package gradient

import (
	"context"
	"math/bits"
)

// exact is the largest number of stops whose order is found exactly.
const exact = 12

// Path returns the order of n stops with the least sum of jumps: d[i][j] is the
// jump between two of them. Up to 12 it is exact (Held and Karp, "A dynamic
// programming approach to sequencing problems", 1962); above that the best
// greedy start is improved by turning pieces round (2-opt). With keepEnds the
// first and the last stop stay; without, of an order and its reverse the one
// that starts with the lower index is given. Once ctx is cancelled it is what was found until then.
func Path(ctx context.Context, d [][]float64, keepEnds bool) []int {
	n := len(d)
	if n < 2 || keepEnds && n < 4 {
		out := make([]int, n)
		for i := range out {
			out[i] = i
		}
		return out
	}
	if keepEnds {
		d = tied(d)
	}
	var out []int
	if n <= exact {
		out = heldKarp(d)
	} else {
		out = twoOpt(ctx, d)
	}
	if keepEnds && out[0] != 0 || !keepEnds && out[0] > out[n-1] {
		turn(out)
	}
	return out
}

// tied makes the first and the last stop so far from everything that the best
// order has them at its ends, where each costs that only once.
func tied(d [][]float64) [][]float64 {
	n := len(d)
	far := 1.0
	for _, row := range d {
		for _, v := range row {
			far += v
		}
	}
	out := make([][]float64, n)
	for i := range d {
		out[i] = make([]float64, n)
		for j, v := range d[i] {
			out[i][j] = v
			if i != j && (i == 0 || i == n-1) {
				out[i][j] += far
			}
			if i != j && (j == 0 || j == n-1) {
				out[i][j] += far
			}
		}
	}
	return out
}

func turn(v []int) {
	for i, j := 0, len(v)-1; i < j; i, j = i+1, j-1 {
		v[i], v[j] = v[j], v[i]
	}
}

func heldKarp(d [][]float64) []int {
	n := len(d)
	const far = 1e300
	cost, from := make([]float64, n<<n), make([]int8, n<<n)
	for set := 1; set < 1<<n; set++ {
		for last := range n {
			if set>>last&1 == 0 {
				continue
			}
			at := set*n + last
			before := set &^ (1 << last)
			if before == 0 {
				continue
			}
			cost[at] = far
			for rest := before; rest != 0; rest &= rest - 1 {
				j := bits.TrailingZeros(uint(rest))
				if c := cost[before*n+j] + d[j][last]; c < cost[at] {
					cost[at], from[at] = c, int8(j)
				}
			}
		}
	}
	set, last := 1<<n-1, 0
	for j := range n {
		if cost[set*n+j] < cost[set*n+last] {
			last = j
		}
	}
	out := make([]int, n)
	for i := n - 1; i >= 0; i-- {
		out[i] = last
		set, last = set&^(1<<last), int(from[set*n+last])
	}
	return out
}

func length(d [][]float64, order []int) (sum float64) {
	for i := 1; i < len(order); i++ {
		sum += d[order[i-1]][order[i]]
	}
	return sum
}

// twoOpt starts greedily from each stop in turn, and turns pieces round until
// no turn shortens the way.
func twoOpt(ctx context.Context, d [][]float64) (best []int) {
	for start := range d {
		if best != nil && ctx.Err() != nil {
			break
		}
		order := greedy(d, start)
		for improved := true; improved && ctx.Err() == nil; {
			improved = false
			for i := range order {
				for j := i + 1; j < len(order); j++ {
					if gain(d, order, i, j) > 1e-9 {
						turn(order[i : j+1])
						improved = true
					}
				}
			}
		}
		if best == nil || length(d, order) < length(d, best)-1e-9 {
			best = order
		}
	}
	return best
}

// gain is by how much turning order[i..j] round shortens the way.
func gain(d [][]float64, o []int, i, j int) (g float64) {
	if i > 0 {
		g += d[o[i-1]][o[i]] - d[o[i-1]][o[j]]
	}
	if j < len(o)-1 {
		g += d[o[j]][o[j+1]] - d[o[i]][o[j+1]]
	}
	return g
}

func greedy(d [][]float64, start int) []int {
	used := make([]bool, len(d))
	order := []int{start}
	used[start] = true
	for len(order) < len(d) {
		last, next := order[len(order)-1], -1
		for j := range d {
			if !used[j] && (next < 0 || d[last][j] < d[last][next]) {
				next = j
			}
		}
		used[next] = true
		order = append(order, next)
	}
	return order
}
