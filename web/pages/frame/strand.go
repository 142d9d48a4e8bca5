package frame

import (
	"fmt"

	"github.com/gin-gonic/gin"

	"fairtangle/core/advice"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/web/art"
	"fairtangle/web/show"
)

// strand is the way around a making: its stops along a length of sliver.
type strand struct {
	URL        string
	Name, Href string
	Stops      []stop

	blend, layup int64 // that the stops lead to; 0: none
}

type stop struct {
	Name, Href string
	Here       bool
	Ahead      bool
	Class      string
	Waits      int // stops and cautions of the second look there
}

// The places of the stops along the strand. Only those that exist are shown.
const StrandKnots = "0.06,0.205,0.35,0.495,0.64,0.785,0.93"

// State is how far a making has come.
type State struct {
	Blends   []recipe.Blend       `json:"-"`
	Weighs   []recipe.WeighoutRow `json:"-"`
	Done     float64              `json:"-"` // along the strand, 0..1
	weighed  int
	cells    int
	latestOf map[int64]int64   // blend to its latest weigh-out
	Layups   []laying.LayupRow `json:"-"`
	laidOf   map[int64]int64   // blend to the lay-up touched last
	carded   recipe.Progress
	need     bool // it is told
	skeins   int
}

// StateOf is how far a making has come.
func (s *Frame) StateOf(c *gin.Context, making int64) (State, error) {
	list, err := s.StatesOf(c, making)
	if err != nil {
		return State{}, err
	}
	return *list[making], nil
}

// PageOf is a page of a making at a stop of its way, of one of its blends where it is of one, and the units of who looks.
func (s *Frame) PageOf(c *gin.Context, m recipe.Making, stop string, b *recipe.Blend) (Page, show.Units, error) {
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return Page{}, show.Units{}, err
	}
	u, set, err := s.Units(c)
	return Page{Here: "makings", Strand: StrandFor(m, st, stop, b, set.Ground), Wide: true}, u, err
}

// StatesOf are the states of makings, read at once.
func (s *Frame) StatesOf(c *gin.Context, makings ...int64) (map[int64]*State, error) {
	out := map[int64]*State{}
	for _, id := range makings {
		out[id] = &State{}
	}
	if len(makings) == 0 {
		return out, nil
	}
	ctx := c.Request.Context()
	blends, err := s.Studio.Recipe.BlendsSeen(ctx, makings...)
	if err != nil {
		return nil, err
	}
	ids, of := make([]int64, len(blends)), map[int64]*State{}
	for i, b := range blends {
		ids[i], of[b.ID] = b.ID, out[b.MakingID]
		out[b.MakingID].Blends = append(out[b.MakingID].Blends, b)
	}
	weighs, err := s.Studio.Recipe.WeighoutsOf(ctx, ids...)
	if err != nil {
		return nil, err
	}
	for _, w := range weighs {
		of[w.BlendID].Weighs = append(of[w.BlendID].Weighs, w)
	}
	layups, err := s.Studio.Laying.LayupsOf(ctx, ids...)
	if err != nil {
		return nil, err
	}
	for _, l := range layups {
		of[l.BlendID].Layups = append(of[l.BlendID].Layups, l)
	}
	far, err := s.Studio.Scale.FarOf(ctx, makings...)
	if err != nil {
		return nil, err
	}
	for id, st := range out {
		st.carded, st.need, st.skeins = far[id].Carded, far[id].Need, far[id].Skeins
		st.sum()
	}
	return out, nil
}

// sum works out how far along the strand the work has come.
func (st *State) sum() {
	st.latestOf = map[int64]int64{}
	for _, w := range st.Weighs {
		st.latestOf[w.BlendID] = max(st.latestOf[w.BlendID], w.ID)
		st.cells, st.weighed = st.cells+w.All, st.weighed+w.Done
	}
	st.laidOf = map[int64]int64{}
	for _, l := range st.Layups {
		if st.laidOf[l.BlendID] == 0 {
			st.laidOf[l.BlendID] = l.ID
		}
	}
	filled := false
	for _, b := range st.Blends {
		filled = filled || len(b.Components) > 0
	}
	switch {
	case st.skeins > 0:
		st.Done = 0.99
	case st.carded.Done > 0:
		st.Done = 0.785 + 0.07*float64(st.carded.Done)/float64(st.carded.All)
	case st.cells > 0:
		st.Done = 0.57 + 0.20*float64(st.weighed)/float64(st.cells)
	case len(st.Layups) > 0:
		st.Done = 0.53
	case filled:
		st.Done = 0.40
	case len(st.Blends) > 0:
		st.Done = 0.27
	default:
		st.Done = 0.13
	}
}

// Components are those of all blends, as the strand shows them.
func (st State) Components() (out []recipe.Component) {
	for _, b := range st.Blends {
		out = append(out, b.Components...)
	}
	if len(out) > 40 {
		out = out[:40]
	}
	return out
}

// StrandFor draws the way around a making; blend is the one at hand, if any.
func StrandFor(m recipe.Making, st State, here string, blend *recipe.Blend, ground string) *strand {
	components := st.Components()
	if blend == nil && len(st.Blends) > 0 {
		blend = &st.Blends[0]
	} else if blend != nil {
		components = blend.Components
	}
	out := &strand{
		URL:  StrandURL(components, m.ID, st.Done, StrandKnots, ground),
		Name: m.Name, Href: fmt.Sprintf("/makings/%d", m.ID),
	}
	out.Stops = []stop{{Name: "Need", Href: out.Href + "/need", Class: "stop-0", Ahead: !st.need}, {Name: "Fibres", Href: out.Href, Class: "stop-1"}}
	if blend != nil {
		out.blend, out.layup = blend.ID, st.laidOf[blend.ID]
		out.Stops = append(out.Stops, stop{Name: "Blend", Href: fmt.Sprintf("/blends/%d", blend.ID), Class: "stop-2"})
		lay := fmt.Sprintf("/blends/%d/layup", blend.ID)
		if l := st.laidOf[blend.ID]; l != 0 {
			lay = fmt.Sprintf("/layups/%d", l)
		}
		out.Stops = append(out.Stops, stop{Name: "Lay-up", Href: lay, Class: "stop-3", Ahead: len(st.Layups) == 0})
		weigh := fmt.Sprintf("/blends/%d/weigh", blend.ID)
		if w := st.latestOf[blend.ID]; w != 0 {
			weigh = fmt.Sprintf("/weighouts/%d", w)
		}
		out.Stops = append(out.Stops, stop{Name: "Weigh", Href: weigh, Class: "stop-4", Ahead: st.cells == 0})
		card := stop{Name: "Card", Class: "stop-5", Ahead: st.carded.Done == 0, Href: lay} // it is laid up first
		if l := st.laidOf[blend.ID]; l != 0 {
			card.Href = fmt.Sprintf("/layups/%d/card", l)
		} else if st.carded.Latest != 0 {
			card.Href = fmt.Sprintf("/runs/%d", st.carded.Latest)
		}
		out.Stops = append(out.Stops, card)
		spun := stop{Name: "Yarn", Class: "stop-6", Ahead: st.skeins == 0, Href: out.Href + "/yarn"}
		if l := st.laidOf[blend.ID]; l != 0 {
			spun.Href = fmt.Sprintf("/layups/%d/yarn", l)
		}
		out.Stops = append(out.Stops, spun)
	}
	for i := range out.Stops {
		out.Stops[i].Here = out.Stops[i].Name == here
	}
	return out
}

// StrandURL links the strand of a blend's components.
func StrandURL(components []recipe.Component, seed int64, done float64, knots string, ground string) string {
	var hexes []string
	var shares []float64
	for _, c := range components {
		all := c.Hexes()
		for _, h := range all {
			hexes, shares = append(hexes, h), append(shares, c.Share/float64(len(all)))
		}
	}
	if len(hexes) == 0 {
		hexes, shares, done = []string{"#b9b6ad"}, []float64{1}, 0
	}
	return art.StrandLink(hexes, shares, seed, done, knots, ground)
}

// Words say in a line how far the work has come.
func (st State) Words() string {
	switch {
	case len(st.Blends) == 0:
		return "no blend yet"
	case st.cells == 0:
		return show.Plural(len(st.Blends), "blend") + ", nothing weighed yet"
	case st.weighed == st.cells:
		return show.Plural(len(st.Blends), "blend") + ", all weighed"
	}
	return fmt.Sprintf("%s, %d of %d weighed", show.Plural(len(st.Blends), "blend"), st.weighed, st.cells)
}

// stationsOfStops are where a maker stands at the stops.
var stationsOfStops = map[string]advice.Station{
	"Need": advice.AtNeed, "Fibres": advice.AtFibres, "Blend": advice.AtBlend, "Lay-up": advice.AtLayup, "Weigh": advice.AtWeigh, "Card": advice.AtCard,
	"Yarn": advice.AtYarn,
}

// waits marks the knots where the second look has stops or cautions.
func (s *Frame) waits(c *gin.Context, st *strand) error {
	if st.blend == 0 {
		return nil
	}
	counts, err := s.Studio.Advising.WaitingAt(c.Request.Context(), st.blend, st.layup)
	for i := range st.Stops {
		st.Stops[i].Waits = counts[stationsOfStops[st.Stops[i].Name]]
	}
	return err
}
