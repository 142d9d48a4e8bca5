package train

import "math"

// Tasks are mixtures of n lots for so many pupils, each another one, in whole parts: points of the smallest simplex lattice that has enough
// in which at least two lots meet (H. Scheffé, "Experiments with mixtures", J. R. Stat. Soc. B 20, 1958), the middle first, then each as
// far as can be from those before. Of one lot all are the same.
func Tasks(n, pupils int) [][]int {
	if n < 1 || pupils < 1 {
		return nil
	}
	if n == 1 {
		out := make([][]int, pupils)
		for i := range out {
			out[i] = []int{1}
		}
		return out
	}
	for m := 2; ; m++ {
		var points [][]int
		for _, p := range lattice(n, m) {
			if meets(p) {
				points = append(points, p)
			}
		}
		if len(points) >= pupils {
			return spread(points, pupils)
		}
	}
}

// lattice lists all ways to share m parts among n.
func lattice(n, m int) (out [][]int) {
	if n == 1 {
		return [][]int{{m}}
	}
	for first := m; first >= 0; first-- {
		for _, rest := range lattice(n-1, m-first) {
			out = append(out, append([]int{first}, rest...))
		}
	}
	return out
}

// meets reports whether two at least have a part.
func meets(p []int) bool {
	some := 0
	for _, v := range p {
		some += min(v, 1)
	}
	return some >= 2
}

// spread takes k of some points: the one nearest the middle, then each the farthest from those that were taken.
func spread(points [][]int, k int) (out [][]int) {
	far := make([]float64, len(points))
	for i, p := range points {
		var sum, off float64
		for _, v := range p {
			sum += float64(v)
		}
		for _, v := range p {
			off += math.Pow(float64(v)-sum/float64(len(p)), 2)
		}
		far[i] = 1e6 - off
	}
	for len(out) < k {
		best := 0
		for i, f := range far {
			if f > far[best] {
				best = i
			}
		}
		out = append(out, points[best])
		if len(out) == 1 {
			for i := range far {
				far[i] = math.Inf(1)
			}
		}
		for i, p := range points {
			var off float64
			for j, v := range p {
				off += math.Pow(float64(v-points[best][j]), 2)
			}
			far[i] = math.Min(far[i], off)
		}
	}
	return out
}
