package layup

import "testing"

// forty is a lay-up of 40 layers of twelve lays.
func forty() (Plan, []Fibre) {
	var fibres []Fibre
	for range 12 {
		fibres = append(fibres, wool("", 5))
	}
	p := Plan{Draft: DefaultDraft}
	for range 40 {
		var l Layer
		for j := range fibres {
			l.Lays = append(l.Lays, Lay{Component: j, From: float64(j) / 12, To: float64(j+1) / 12, End: 1, Grams: 0.125, Method: Feed})
		}
		p.Layers = append(p.Layers, l)
	}
	return p, fibres
}

func BenchmarkLoads40x12(b *testing.B) {
	p, fibres := forty()
	b.ReportAllocs()
	for b.Loop() {
		p.Survey(standardDrum, fibres, 1)
	}
}

// The floor: the grams added up, and nothing else.
func BenchmarkLoads40x12Floor(b *testing.B) {
	p, fibres := forty()
	b.ReportAllocs()
	for b.Loop() {
		p.Placed(len(fibres))
	}
}
