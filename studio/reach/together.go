package reach

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// Colours together: the lots of the shelf spread out by hue, what lies around one of them, which go together, and what those that were
// picked make.

// mostOnTable is how many lots are spread out, those that there is most of.
const mostOnTable = 400

// Spread are the lots of the shelf as they lie on a table.
type Spread struct {
	Lots   []SpreadLot
	More   int // that have no room on it
	InHand *SpreadLot
	Places []SpreadPlace
	Greys  []SpreadFit // where the scheme asks for them, or the one in hand has no hue
	Sets   []SpreadSet
	Picked *Picked
}

// SpreadLot is a lot on the table: how light, how clear, at which hue; without one it lies in the middle.
type SpreadLot struct {
	shelf.Lot
	Light, Chroma, Hue float64
	Word               string // of its colour
	HasHue             bool
}

// SpreadPlace is where a scheme looks, with what lies there.
type SpreadPlace struct {
	Hue  float64
	Fits []SpreadFit
}

// SpreadFit is a lot near a place, so many degrees off.
type SpreadFit struct {
	SpreadLot
	Off float64
}

// SpreadSet is a set that is proposed.
type SpreadSet struct {
	Scheme string
	Lots   []SpreadLot
	LeastG float64
}

// Picked are lots that were picked: what they make in equal parts, and which pairs of them turn muddy.
type Picked struct {
	Lots  []SpreadLot
	Hex   string
	Words string
	Pairs []MuddyPair
}

// MuddyPair is two lots that turn muddy in each other: what is left of their colour in equal parts, and up to which share of the second
// the mix stays clear.
type MuddyPair struct {
	A, B        SpreadLot
	Left, Clear float64
}

// SpreadQuery is what is looked at on the table.
type SpreadQuery struct {
	Lot    int64
	Scheme string
	Width  float64 // degrees; 0: as is usual
	Picked []int64
}

// proposed is how many sets are proposed.
const proposed = 5

// SpreadOut spreads the shelf out.
func (s *Room) SpreadOut(ctx context.Context, q SpreadQuery) (out Spread, err error) {
	rows, _, err := s.Store.Lots(ctx, shelf.LotFilter{Stock: "some"})
	if err != nil {
		return out, err
	}
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return out, err
	}
	floor.InOrder(rows, func(a, b store.Lot) int { return int(b.GramsMg - a.GramsMg) })
	byID := map[int64]int{}
	var lain []colour.Lain
	for _, r := range rows {
		v := spreadOf(r, at.Kinds)
		if len(out.Lots) == mostOnTable && r.ID != q.Lot && !slices.Contains(q.Picked, r.ID) {
			out.More++
			continue
		}
		byID[r.ID] = len(out.Lots)
		out.Lots = append(out.Lots, v)
		c, _ := colour.ParseHex(v.MeanHex)
		lain = append(lain, colour.Lain{Colour: c, Grams: v.Grams})
	}
	for _, set := range colour.Sets(lain, proposed) {
		v := SpreadSet{Scheme: set.Scheme, LeastG: set.Least}
		for _, i := range set.Lots {
			v.Lots = append(v.Lots, out.Lots[i])
		}
		out.Sets = append(out.Sets, v)
	}
	if i, ok := byID[q.Lot]; ok {
		if err := out.around(i, lain, q); err != nil {
			return out, err
		}
	}
	return out, out.pick(rows, at, byID, q.Picked)
}

func spreadOf(r store.Lot, kinds workshop.Kinds) SpreadLot {
	v := SpreadLot{Lot: shelf.LotOf(r, kinds)}
	c, _ := colour.ParseHex(v.MeanHex)
	v.Light, v.Chroma, v.Hue = c.OKLCH()
	v.HasHue, v.Word = v.Chroma >= colour.HueFrom, colour.Name(c.Lab())
	return v
}

// around takes a lot in hand and finds what lies around it.
func (t *Spread) around(i int, lain []colour.Lain, q SpreadQuery) error {
	t.InHand = &t.Lots[i]
	list := make([]colour.Linear, len(lain))
	for k, v := range lain {
		list[k] = v.Colour
	}
	if q.Width == 0 {
		q.Width = colour.UsualWheelWidth
	}
	places, greys, err := colour.Around(list[i], q.Scheme, q.Width, list)
	if err != nil {
		return err
	}
	for _, p := range places {
		v := SpreadPlace{Hue: p.Hue}
		for _, f := range p.Fits {
			if f.Of != i {
				v.Fits = append(v.Fits, SpreadFit{t.Lots[f.Of], f.Off})
			}
		}
		t.Places = append(t.Places, v)
	}
	if q.Scheme == "greys" || !t.InHand.HasHue {
		for _, k := range greys {
			if k != i {
				t.Greys = append(t.Greys, SpreadFit{SpreadLot: t.Lots[k]})
			}
		}
	}
	return nil
}

// mostPicked is how many lots can be picked at once.
const mostPicked = 12

// pick looks at what the picked lots make.
func (t *Spread) pick(rows []store.Lot, at shelf.Mixing, byID map[int64]int, picked []int64) error {
	if len(picked) > mostPicked {
		return fault.New("pick", "Pick at most %d of them.", mostPicked)
	}
	var list []shelf.Tint
	out := Picked{}
	for _, id := range picked {
		i, ok := byID[id]
		if !ok || slices.ContainsFunc(out.Lots, func(v SpreadLot) bool { return v.ID == id }) {
			continue
		}
		k := slices.IndexFunc(rows, func(r store.Lot) bool { return r.ID == id })
		tint, _ := shelf.TintOf(&rows[k], "", t.Lots[i].MeanHex, t.Lots[i].Fibre)
		list, out.Lots = append(list, tint), append(out.Lots, t.Lots[i])
	}
	if len(out.Lots) == 0 {
		return nil
	}
	even := make([]float64, len(list))
	for i := range even {
		even[i] = 1 / float64(len(list))
	}
	mixed := at.Even(list, even)
	out.Hex, out.Words = mixed.Linear().Hex(), colour.Name(mixed.Lab())
	bounds := advice.Defaults()
	for i := range list {
		for k := i + 1; k < len(list); k++ {
			if left, clear, muddy := muddied(at, list[i], list[k], bounds); muddy {
				out.Pairs = append(out.Pairs, MuddyPair{out.Lots[i], out.Lots[k], left, clear})
			}
		}
	}
	t.Picked = &out
	return nil
}

// muddied is what is left of the colour of two in equal parts, as the rule of muddy mixes has it, and up to which share of the second
// enough is left.
func muddied(at shelf.Mixing, a, b shelf.Tint, own advice.Bounds) (left, clear float64, muddy bool) {
	x, y := a.Colour.Lab(), b.Colour.Lab()
	apart := math.Abs(x.Hue() - y.Hue())
	if x.Chroma() < own["R38 chroma"] || y.Chroma() < own["R38 chroma"] || apart < own["R38 from"] || apart > own["R38 to"] {
		return 1, 0.5, false
	}
	of := func(share float64) float64 {
		m := at.Even([]shelf.Tint{a, b}, []float64{1 - share, share})
		return m.Lab().Chroma() / ((1-share)*x.Chroma() + share*y.Chroma())
	}
	if left = of(0.5); left >= own["R38 left"] {
		return left, 0.5, false
	}
	low, high := 0.0, 0.5
	for range 20 {
		if mid := (low + high) / 2; of(mid) >= own["R38 left"] {
			low = mid
		} else {
			high = mid
		}
	}
	return left, low, true
}

// BlendOf starts a blend of picked lots in equal parts, in a making or in a new one of that name.
func (s *Room) BlendOf(ctx context.Context, making int64, name string, picked []int64) (recipe.Blend, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (b recipe.Blend, err error) {
		in, have := recipe.BlendInput{Name: name, Passes: DefaultPasses}, math.Inf(1)
		for _, id := range picked {
			l, err := s.shelf.Lot(ctx, id)
			if err != nil {
				return b, err
			}
			in.Components = append(in.Components, recipe.BlendComponent{LotID: &l.ID, Parts: 1})
			have = math.Min(have, l.Grams)
		}
		if len(in.Components) == 0 {
			return b, fault.New("pick", "Pick at least one of them.")
		}
		in.TotalG = unit.Clean(math.Round(10*math.Min(usualBlendG, have*float64(len(picked))/2)) / 10)
		in.TotalG = max(in.TotalG, 1)
		if making == 0 {
			m, err := s.recipe.CreateMaking(ctx, recipe.MakingInput{Name: name})
			if err != nil {
				return b, err
			}
			making = m.ID
		}
		return s.recipe.CreateBlend(ctx, making, in)
	})
}

// usualBlendG is what a blend weighs that nobody said a weight of.
const usualBlendG = 100.0
