package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// What lies on the bare cloth: the first layer in which something joins at once, and whether half of it grips.
func TestWhatLiesOnTheBareCloth(t *testing.T) {
	slick := wool("slick", 20)
	slick.Family, slick.Cohesion = "silk", "slippery"
	dots := wool("dots", 5)
	dots.Preparation, dots.Role, dots.Family = "neps", "texture", "texture"
	fibres := []Fibre{wool("white", 30), slick, dots, wool("grey", 10)}
	layer := func(lays ...Lay) Layer { return Layer{Lays: lays} }
	for _, c := range []struct {
		name  string
		plan  Plan
		want  Bottom
		joins []int
	}{
		{"wool", Plan{Layers: []Layer{layer(whole(0, 30, Feed)), layer(whole(1, 20, Paint))}}, Bottom{Layer: 0, Wool: 0}, nil},
		{"silk", Plan{Layers: []Layer{layer(whole(1, 20, Paint)), layer(whole(0, 30, Feed))}}, Bottom{Layer: 0, Wool: 0, Slides: true}, nil},
		{"dots", Plan{Layers: []Layer{layer(whole(2, 5, Place)), layer(whole(0, 30, Feed))}}, Bottom{Layer: 0, Wool: 0, Slides: true, Extras: true}, nil},
		{"silk that joins later", Plan{Layers: []Layer{layer(whole(1, 20, Paint)), layer(whole(3, 10, Feed))}}, Bottom{Layer: 1, Wool: 0}, []int{1, 2, 1, 1}},
		{"all joins later", Plan{Layers: []Layer{layer(whole(1, 20, Paint))}}, Bottom{Layer: -1, Wool: 0}, []int{1, 2, 1, 1}},
		{"wool that joins later", Plan{Layers: []Layer{layer(whole(3, 10, Feed))}}, Bottom{Layer: 0, Wool: 3}, []int{2, 1, 1, 1}},
	} {
		c.plan.Joins = c.joins
		assert.Equal(t, c.want, c.plan.Bottom(fibres), c.name)
	}
	assert.Equal(t, Bottom{Layer: 0, Wool: -1}, Plan{Layers: []Layer{layer(whole(0, 20, Paint))}}.Bottom([]Fibre{slick}), "no wool to advise")
}

// A lane is too full by itself, or where all of it is, by being so many times as full as the rest.
func TestALaneIsTooFullByItself(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := Loads{Fill: rapid.Float64Range(0, 3).Draw(t, "fill")}
		v := Lane{Load: rapid.Float64Range(0, 6).Draw(t, "load")}
		got := l.TooFull(v, LaneFull, farTooFull)
		switch {
		case v.Load <= LaneFull:
			assert.False(t, got)
		case l.Fill <= 1:
			assert.True(t, got)
		default:
			assert.Equal(t, v.Load > 1.25*l.Fill, got, "a quarter fuller than the rest")
		}
		if got { // a fuller one is too full as well
			assert.True(t, l.TooFull(Lane{Load: v.Load * 1.5}, LaneFull, farTooFull))
		}
	})
}
