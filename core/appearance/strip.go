package appearance

import (
	"math"

	"fairtangle/core/carding"
)

// Strip is the part of a sheet between two places across, as it is torn off: whole lanes,
// one at least.
func (s *Sheet) Strip(fromMM, toMM float64) *Sheet {
	lane := s.WidthMM / float64(s.view.Lanes)
	from := min(max(int(math.Round(fromMM/lane)), 0), s.view.Lanes-1)
	to := min(max(int(math.Round(toMM/lane)), from+1), s.view.Lanes)
	cells := s.view.Cells
	out := *s
	out.WidthMM = float64(to-from) * lane
	out.view = carding.View{
		Lanes: to - from, Cells: cells, Components: s.view.Components, Cover: s.view.Cover[from*cells : to*cells],
		Shares: s.view.Shares[from*cells*s.view.Components : to*cells*s.view.Components],
		Patch:  s.view.Patch[from*cells*s.view.Components : to*cells*s.view.Components],
	}
	out.even = s.even[3*from*cells : 3*to*cells]
	out.Things = nil
	for _, t := range s.Things {
		if t.Across -= float64(from) * lane; t.Across >= 0 && t.Across < out.WidthMM {
			out.Things = append(out.Things, t)
		}
	}
	return &out
}
