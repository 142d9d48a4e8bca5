package layingpages

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"fairtangle/core/carding"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
	"fairtangle/studio/laying"
	"fairtangle/studio/workshop"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// BedView is a lay-up as its page shows it; all texts are ready, numbers that
// the picture needs are beside them.
type BedView struct {
	ID        int64             `json:"id"`
	Version   int64             `json:"version"`
	Input     laying.LayupInput `json:"input"`
	Bed       bedShape          `json:"bed"`
	Fibres    []bedFibre        `json:"fibres"`
	Layers    []bedLayer        `json:"layers"`
	Lanes     []bedLane         `json:"lanes"`
	Rolls     *bedRolls         `json:"rolls"`
	Left      string            `json:"left"`
	AllLaid   bool              `json:"all_laid"`
	Off       bedOff            `json:"off"`
	AloneSaid string            `json:"alone_said"`
	ToolsSaid string            `json:"tools_said"`
	AloneSome bool              `json:"alone_some"`
	Fits      string            `json:"fits"` // in words, with why not
	TooFull   bool              `json:"too_full"`
	Right     string            `json:"right"` // what could be wrong and is not
	GaveWay   []gaveWay         `json:"gave_way"`
	Refeed    string            `json:"refeed"`
	Feeds     string            `json:"feeds"`
	Height    string            `json:"height"`
	Unit      string            `json:"unit"`
	Length    string            `json:"length_unit"`
	SmallUnit string            `json:"small_unit"`
	Passes    int               `json:"passes"`
	Turns     string            `json:"turns"` // strips and what joins, turn about
	UnitText  string            `json:"unit_text"`
	Equipment string            `json:"equipment"`
	// WidthText and LengthText are the far edges of the cloth, as typed.
	WidthText  string `json:"-"`
	LengthText string `json:"-"`
	FadeText   string `json:"-"` // how far over a lane fades out, usually
	frame.StepsView
}

// gaveWay is a school that does not hold here, and what would have it hold.
type gaveWay struct {
	School string `json:"school"`
	Said   string `json:"said"`
	Turn   string `json:"turn"` // on its button; empty: nothing would
}

func gaveWays(l laying.Layup) []gaveWay {
	out := []gaveWay{}
	for _, g := range l.GaveWay {
		v := gaveWay{School: g.School, Said: fmt.Sprintf("“%s” does not hold here. %s", schoolName(l, g.School), g.Why)}
		if g.Turn > 0 {
			v.Turn = "Plan " + show.Plural(g.Turn, "pass") + ", and let it hold"
		}
		out = append(out, v)
	}
	return out
}

func schoolName(l laying.Layup, matter string) string {
	for _, m := range layup.Matters() {
		for _, s := range m.Schools {
			if m.Key == matter && s.Key == l.School(matter) {
				return m.Name + ": " + s.Name
			}
		}
	}
	return matter
}

// bedShape is the cloth, in mm.
type bedShape struct {
	Type    string  `json:"type"`
	Width   float64 `json:"width"`
	Length  float64 `json:"length"`
	Pins    float64 `json:"pins"`
	Pitch   float64 `json:"pitch"` // between pins
	PinText string  `json:"pin_text"`
	// HidesGsm is what hides all but a third of what lies below, g/m².
	HidesGsm float64 `json:"hides_gsm"`
	SizeText string  `json:"size_text"`
}

// bedFibre is a fibre to lay.
type bedFibre struct {
	Letter string   `json:"letter"`
	Name   string   `json:"name"`
	Sub    string   `json:"sub"`
	Hexes  []string `json:"hexes"`
	Look   string   `json:"look"` // wool, lock, dots, film: how it is drawn
	Crimp  string   `json:"crimp"`
	Lustre string   `json:"lustre"`
	Staple float64  `json:"staple"` // mm
	PerG   float64  `json:"mm_per_g"`
	Tuft   art.Link `json:"tuft"`
	Left   string   `json:"left"`
	LeftG  float64  `json:"left_g"`
	Grams  string   `json:"grams"`
	Usual  string   `json:"usual"`
	Joins  int      `json:"joins"`
	Alone  int      `json:"alone"` // how often it is carded alone first
	// CanAlone reports whether it can be.
	CanAlone bool   `json:"can_alone"`
	Gone     bool   `json:"gone"`
	Use      string `json:"use"`  // what it is there for
	Told     bool   `json:"told"` // by the maker
	// Many says that it has several colours that lie somewhere; Fed how it is used then, Abreast how many lengths side by side.
	Many    bool   `json:"many"`
	Fed     string `json:"fed"`
	Abreast string `json:"abreast"`
}

type bedLayer struct {
	Key    int64    `json:"key"`
	Number int      `json:"number"`
	Title  string   `json:"title"`
	Weight string   `json:"weight"`
	Feeds  string   `json:"feeds"`
	Lays   []bedLay `json:"lays"`
}

type bedLay struct {
	Key    int64  `json:"key"`
	Letter string `json:"letter"`
	Name   string `json:"name"`
	From   string `json:"from"`
	To     string `json:"to"`
	Start  string `json:"start"`
	End    string `json:"end"`
	Grams  string `json:"grams"`
	Method string `json:"method"`
	// Colours are where the colours of a fibre of several lie; the last lies on top.
	Colours []bedColour `json:"colours,omitempty"`
}

type bedColour struct {
	Hex   string  `json:"hex"`
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	Start float64 `json:"start"`
	End   float64 `json:"end"`
	Grams float64 `json:"grams"`
}

type bedLane struct {
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	Load  float64 `json:"load"`
	Text  string  `json:"text"`
	State string  `json:"state"` // "", full, thin
}

type bedRolls struct {
	Count int             `json:"count"`
	Cuts  []float64       `json:"cuts"`
	Clear []layup.Stretch `json:"clear"`
	Said  string          `json:"said"`
	Each  []bedRolag      `json:"each"`
}

type bedRolag struct {
	From float64 `json:"from"`
	To   float64 `json:"to"`
	Text string  `json:"text"`
}

// drawnAs is how a fibre is drawn on the bed.
func drawnAs(f laying.LayupFibre) string {
	switch k := f.KindProperties(); {
	case f.Preparation == "locks":
		return "lock"
	case f.Preparation == "neps" || k.Role == "texture":
		return "dots"
	case k.Family == "sparkle":
		return "film"
	}
	return "wool"
}

// BedView is a lay-up as its page draws it.
func (s *Room) BedView(l laying.Layup, u show.Units, at frame.StepsView) BedView {
	u = u.WithStep(l.StepG)
	e := l.Equipment
	v := BedView{
		StepsView: at, ID: l.ID, Version: l.Version, Input: l.LayupInput, Unit: u.Weight(), Length: u.LengthUnit(), SmallUnit: u.SmallUnit(), Passes: l.LastPass,
		Fibres: []bedFibre{}, Layers: []bedLayer{}, Lanes: []bedLane{},
		Bed: bedShape{
			Type:     e.Type,
			Width:    e.WidthMM,
			Length:   e.LengthMM,
			Pins:     e.ToothMM,
			Pitch:    pitch(e.TPI),
			PinText:  pinText(e, u),
			HidesGsm: carding.DefaultParams().HidingGsm,
			SizeText: u.Size(e.WidthMM) + " wide, " + u.Size(e.LengthMM) + map[bool]string{true: " round", false: " long"}[e.Type == "drum"],
		},
		Fits: fitWords(l, u), TooFull: !l.Fits, Right: rightWords(l),
		GaveWay: gaveWays(l), Refeed: string(l.Refeed), Equipment: e.Name, UnitText: frame.UnitWord(e.Type, l.Units),
		Height: u.Millimetres(l.Loads.HeightMM), WidthText: u.PlainLength(e.WidthMM), LengthText: u.PlainLength(e.LengthMM),
		FadeText: u.PlainLength(layup.UsualFadeMM), Turns: strconv.Itoa(l.LaidPlan.Turns),
	}
	if l.Loads.Feeds > 0 {
		v.Feeds = show.Plural(l.Loads.Feeds, "feed")
	}
	var left float64
	for i, f := range l.Fibres {
		left += max(0, f.UnplacedG)
		v.Fibres = append(v.Fibres, s.bedFibre(i, f, l, u))
	}
	v.AloneSaid, v.AloneSome = aloneSaid(l, u)
	v.ToolsSaid = toolsSaid(l)
	v.Off = bedOffOf(l, u)
	v.Left, v.AllLaid = u.Plain(left), left < 0.0005
	colours := l.ColourParts()
	for i, layer := range l.Layers {
		v.Layers = append(v.Layers, bedLayerOf(i, layer, l, v.Fibres, u))
		for j := range layer.Lays {
			if colours != nil {
				v.Layers[i].Lays[j].Colours = shownColours(colours[i][j])
			}
		}
	}
	for _, lane := range l.Loads.Lanes {
		v.Lanes = append(v.Lanes, bedLane{lane.From, lane.To, lane.Load, u.Plain(lane.Grams), stateOfLane(lane, l)})
	}
	if r := l.Rolls; r != nil {
		v.Rolls = &bedRolls{
			Count: r.Count,
			Cuts:  r.Cuts,
			Clear: r.Clear,
			Said: fmt.Sprintf("%s, each of %s of the board and a wrap of %s: %s staples of the longest main fibre.",
				show.Plural(r.Count, "rolag"), u.Size(r.ZoneMM), u.Size(r.WrapMM), show.Fixed(r.Staples, 2)),
		}
		for _, each := range r.Each {
			v.Rolls.Each = append(v.Rolls.Each, bedRolag{each.Start, each.End, u.Grams(each.Grams)})
		}
	}
	return v
}

// fitWords says whether the cloth takes it, and why where it does not.
func fitWords(l laying.Layup, u show.Units) string {
	fill := show.Fixed(100*l.Loads.Fill, 0) + "\u00a0% full"
	switch l.FitsWhy {
	case "full":
		return "does not fit: " + fill
	case "high":
		return fmt.Sprintf("does not fit: %s high in one place, the pins end at %s", u.Millimetres(l.Loads.HeightMM), u.Millimetres(l.Equipment.ToothMM))
	}
	return "fits, " + fill
}

// rightWords says what could be wrong and is not.
func rightWords(l laying.Layup) string {
	words := map[string]string{"locks_clear": "Locks clear of the cuts."}
	var out []string
	for _, k := range l.Right {
		out = append(out, words[k])
	}
	return strings.Join(out, " ")
}

// stateOfLane reports whether a lane is too full, or too thin once all is laid.
func stateOfLane(v layup.Lane, l laying.Layup) string {
	switch {
	case v.Load > l.FullLane:
		return "full"
	case v.Load < l.ThinLane*l.Loads.Fill && !l.Uneven:
		return "thin"
	}
	return ""
}

// pinText says how high it may lie.
func pinText(e workshop.Equipment, u show.Units) string {
	if e.Type == string(layup.Hands) {
		return "as high as two hands hold, " + u.Millimetres(e.ToothMM)
	}
	return "where the pins end, " + u.Millimetres(e.ToothMM)
}

// pitch is the distance between pins in mm, from their number in a square
// inch.
func pitch(tpi float64) float64 {
	if tpi <= 0 {
		return 3
	}
	return unit.MMPerInch / math.Sqrt(tpi)
}

func (s *Room) bedFibre(i int, f laying.LayupFibre, l laying.Layup, u show.Units) bedFibre {
	k := f.KindProperties()
	out := bedFibre{
		Letter: show.Letter(i), Name: f.Name, Hexes: f.Hexes, Look: drawnAs(f), Crimp: k.Crimp, Lustre: k.Lustre, Staple: f.StapleMM, PerG: l.Thickness(i),
		Left: u.Plain(max(0, f.UnplacedG)), LeftG: max(0, f.UnplacedG), Grams: u.Grams(f.Grams), Usual: string(f.Usual), Joins: f.JoinsAt, Gone: f.Gone,
		Alone: f.Alone, CanAlone: l.LaidFibres[i].CanAlone(),
		Tuft: art.TuftLink(k, f.Preparation, f.Hexes, nil, f.StapleMM, art.RowScale, frame.SeedOf(f.LotID, i)), Sub: k.Name + " · " + u.Length(f.StapleMM),
	}
	out.Use, out.Told = string(l.LaidPlan.UseOf(l.LaidFibres, i)), slices.Contains(l.LaidPlan.Told, i)
	if !f.Gone && l.Blend.Components[i].Lies() != "" {
		fed := l.LaidPlan.FedOf(i)
		out.Many, out.Fed, out.Abreast = true, fed.How, strconv.Itoa(fed.Abreast)
	}
	if w := useWord(out.Use); w != "" {
		out.Sub += " · " + w
	}
	switch {
	case f.Gone:
		out.Sub = "no longer in the blend"
	case f.UnplacedG < -0.0005:
		out.Sub += " · too much laid"
	case f.JoinsAt > 1:
		out.Sub += fmt.Sprintf(" · joins at pass %d", f.JoinsAt)
	}
	if f.Alone > 0 && !f.Gone {
		out.Sub += " · carded alone first, " + show.Times(f.Alone)
	}
	return out
}

func bedLayerOf(i int, layer laying.LayerInput, l laying.Layup, fibres []bedFibre, u show.Units) bedLayer {
	load := l.Loads.Layers[i]
	out := bedLayer{Key: layer.Key, Number: i + 1, Weight: u.Plain(load.Grams), Title: LayerTitle(layer, l), Lays: []bedLay{}}
	if load.Feeds > 0 {
		out.Feeds = fmt.Sprintf("%s of %s", show.Plural(load.Feeds, "feed"), u.Grams(load.PortionG))
	}
	for _, v := range layer.Lays {
		f := fibres[v.Component]
		out.Lays = append(out.Lays, bedLay{v.Key, f.Letter, f.Name, u.PlainLength(*v.From * l.Equipment.WidthMM), u.PlainLength(*v.To * l.Equipment.WidthMM),
			u.PlainLength(*v.Start * l.Equipment.LengthMM), u.PlainLength(*v.End * l.Equipment.LengthMM), u.Amount(v.Grams), string(v.Method), nil})
	}
	return out
}

// mostShown is how many stretches of colour of one lay a picture has; torn finer, the rest lies below.
const mostShown = 120

func shownColours(list []laying.ColourPart) (out []bedColour) {
	for _, p := range list[max(0, len(list)-mostShown):] {
		out = append(out, bedColour{p.Hex, p.From, p.To, p.Start, p.End, p.Grams})
	}
	return out
}

// LayerTitle says in a few words what a layer is.
func LayerTitle(layer laying.LayerInput, l laying.Layup) string {
	var names []string
	seen := map[int]bool{}
	wide := true
	for _, v := range layer.Lays {
		if !seen[v.Component] {
			seen[v.Component] = true
			names = append(names, l.Fibres[v.Component].Name)
		}
		wide = wide && *v.From < 0.001 && *v.To > 0.999 && *v.Start < 0.001 && *v.End > 0.999
	}
	switch {
	case len(names) == 0:
		return "empty"
	case len(names) > 2:
		return fmt.Sprintf("%d fibres, %s", len(names), map[bool]string{true: "whole width", false: "side by side"}[wide])
	case wide:
		return strings.Join(names, " and ") + ", whole width"
	case len(layer.Lays) > 2:
		return strings.Join(names, " and ") + fmt.Sprintf(", in %d places", len(layer.Lays))
	}
	return strings.Join(names, " and ")
}
