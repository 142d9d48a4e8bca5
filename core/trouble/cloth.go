package trouble

import (
	"slices"

	"fairtangle/core/layup"
)

// tpiLow: the cloth is too coarse for a main fibre.
func tpiLow(f Facts) value {
	return f.bed(func(b layup.Bed) value {
		return f.of(func() value {
			return so(slices.ContainsFunc(f.Fibres, func(v Fibre) bool {
				return v.body() && v.Share >= mainShare-1e-9 && b.TPI > 0 && b.TPI < v.Kind.MinTPI
			}))
		})
	})
}

// each goes through what is laid of fibre that is known.
func (f Facts) each(of func(layer int, v layup.Lay, fibre Fibre)) {
	for i, l := range f.Layers {
		for _, v := range l.Lays {
			if v.Component >= 0 && v.Component < len(f.Fibres) {
				of(i, v, f.Fibres[v.Component])
			}
		}
	}
}

func (f Facts) grams(of func(layup.Lay) bool) (sum float64) {
	for _, l := range f.Layers {
		for _, v := range l.Lays {
			if of(v) {
				sum += v.Grams
			}
		}
	}
	return sum
}

func all(layup.Lay) bool { return true }

// load is what lies on the cloth over what it holds of the blend.
func load(f Facts) value {
	return f.bed(func(b layup.Bed) value {
		return f.of(func() value {
			return f.laid(func() value {
				list := make([]layup.Fibre, len(f.Fibres))
				for i, v := range f.Fibres {
					list[i] = layup.Fibre{Grams: v.Share, Crimp: v.Kind.Crimp, Preparation: v.Preparation}
					if v.Preparation == "washed_locks" { // that lie on the cloth were opened (worked case 20)
						list[i].Preparation = ""
					}
				}
				return value{number: f.grams(all) / b.Capacity(list)}
			})
		})
	})
}

// lanes is into how many equal lanes the width is looked at.
const lanes = 10

// lane is one of the lanes by its grams, over their mean.
func lane(which func([]float64) float64) func(Facts) value {
	return func(f Facts) value {
		return f.laid(func() value {
			var by []float64
			var sum float64
			p := layup.Plan{Layers: f.Layers}
			for i := range lanes {
				var g float64
				for _, v := range p.InStrip(float64(i)/lanes, float64(i+1)/lanes, f.components()) {
					g += v
				}
				by, sum = append(by, g), sum+g
			}
			if sum == 0 {
				return missing("layers")
			}
			return value{number: which(by) / (sum / lanes)}
		})
	}
}

// components is how many the layers count in.
func (f Facts) components() (n int) {
	n = len(f.Fibres)
	for _, l := range f.Layers {
		for _, v := range l.Lays {
			n = max(n, v.Component+1)
		}
	}
	return n
}

// painted is the part of the grams, in percent, that was not fed.
func painted(f Facts) value {
	return f.laid(func() value {
		sum := f.grams(all)
		if sum == 0 {
			return missing("layers")
		}
		return value{number: 100 * f.grams(func(v layup.Lay) bool { return v.Method != layup.Feed }) / sum}
	})
}

// baseBad: what lies first holds what slides or binds nothing, or is less than half wool that grips.
func baseBad(f Facts) value {
	return f.of(func() value {
		return f.laid(func() value {
			var sum, grips float64
			loose := false
			f.each(func(layer int, v layup.Lay, fibre Fibre) {
				if layer > 0 {
					return
				}
				if sum += v.Grams; fibre.grips() {
					grips += v.Grams
				}
				loose = loose || !fibre.body() || fibre.Kind.Cohesion == "slippery" && !fibre.superwash()
			})
			return so(loose || grips < sum/2-1e-9)
		})
	})
}

// topBare: what lies last holds dots or sparkle.
func topBare(f Facts) value {
	return f.of(func() value {
		return f.laid(func() value {
			bare := false
			f.each(func(layer int, _ layup.Lay, fibre Fibre) {
				bare = bare || layer == len(f.Layers)-1 && (fibre.dots() || fibre.Kind.Role == "sparkle")
			})
			return so(bare)
		})
	})
}

// fed: some fibre that is so went through the tray.
func fed(is func(Fibre) bool) func(Facts) value {
	return func(f Facts) value {
		return f.of(func() value {
			return f.laid(func() value {
				some := false
				f.each(func(_ int, v layup.Lay, fibre Fibre) { some = some || v.Method == layup.Feed && is(fibre) })
				return so(some)
			})
		})
	}
}

// feedRatio is how thickly it is fed, over what is usual for the drum; where there is no tray it is neither thick nor thin.
func feedRatio(f Facts) value {
	return f.bed(func(b layup.Bed) value {
		switch {
		case b.Type != layup.Drum || b.FeedG <= 0:
			return value{never: true}
		case f.FeedGPerTurn == nil:
			return missing("feed_g_per_turn")
		}
		return value{number: *f.FeedGPerTurn / b.FeedG}
	})
}

// residue is what stayed on the small drum, in percent of what was fed.
func residue(f Facts) value {
	return f.laid(func() value {
		if f.ResidueG == nil {
			return missing("residue_g")
		}
		through := f.grams(func(v layup.Lay) bool { return v.Method == layup.Feed })
		if through == 0 {
			return value{never: true}
		}
		return value{number: 100 * *f.ResidueG / through}
	})
}
