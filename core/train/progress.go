package train

import (
	"cmp"
	"slices"
)

// Turn is an exercise that was answered.
type Turn struct {
	Skill Skill
	Level int
	Score float64
	Day   int // on which it was, counted from any one
}

// Standing is where somebody is with a skill.
type Standing struct {
	Skill Skill
	Level int // of the next exercise
	Turns int
	Last  []float64 // scores, the latest last; ten at most
	Due   int       // the day on which it comes again; of nothing where it was never tried
}

// What moves one on: two answers on end at least so good lead to the next level, one below the floor back to the one before.
const (
	goodFrom = 80
	poorTo   = 40
	onEnd    = 2
	lastKept = 10
)

// Of the boxes: an answer at least so good moves the skill to the next, any other back to the first.
const (
	rightFrom = 70
	mostBox   = 5
)

// Progress tells of each skill where somebody stands after so many turns, in their order. When a skill comes again goes by boxes
// (Leitner, "So lernt man lernen", 1972): a right answer moves it on by one, a wrong one back to the first, and box n comes again
// after 2^(n-1) days.
func Progress(turns []Turn) []Standing {
	out := make([]Standing, len(Skills))
	for i, skill := range Skills {
		out[i] = Standing{Skill: skill, Level: 1}
		box, good := 0, 0
		for _, t := range turns {
			if t.Skill != skill {
				continue
			}
			v := &out[i]
			v.Turns++
			if v.Last = append(v.Last, t.Score); len(v.Last) > lastKept {
				v.Last = v.Last[1:]
			}
			if box++; t.Score < rightFrom {
				box = 1
			}
			box = min(box, mostBox)
			v.Due = t.Day + 1<<(box-1)
			if t.Level != v.Level {
				continue // tried for its own sake
			}
			switch {
			case t.Score < poorTo:
				v.Level, good = max(1, v.Level-1), 0
			case t.Score < goodFrom:
				good = 0
			default:
				if good++; good == onEnd {
					v.Level, good = min(MostLevel, v.Level+1), 0
				}
			}
		}
	}
	return out
}

// Next is the skill that comes next: what was never tried, then what is due the longest, the weaker first where days are the same.
func Next(of []Standing) Standing {
	return slices.MinFunc(of, func(a, b Standing) int {
		if a.Turns == 0 || b.Turns == 0 {
			return cmp.Compare(min(a.Turns, 1), min(b.Turns, 1))
		}
		return cmp.Or(cmp.Compare(a.Due, b.Due), cmp.Compare(mean(a.Last), mean(b.Last)))
	})
}

func mean(v []float64) (sum float64) {
	for _, x := range v {
		sum += x / float64(len(v))
	}
	return sum
}
