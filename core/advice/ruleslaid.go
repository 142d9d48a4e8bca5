package advice

import "fairtangle/core/layup"

// laidRules: As it lies in the lay-up
var laidRules = []rule{
	{
		Text: Text{
			ID: "L01", Key: "overplaced", Group: "As it lies in the lay-up",
			When:    "the lays of a fibre take more than its unit has.",
			Why:     "The blend or the number of units changed after it was laid; what is planned can't be weighed out.",
			Do:      "Fit the lays to the blend.",
			Schools: "Agreed.",
		},
		at:   []Station{AtLayup},
		laid: []string{"overplaced"},
	},
	{
		Text: Text{
			ID: "L02", Key: "unplaced", Group: "As it lies in the lay-up",
			When:    "a unit has fibre that no layer takes.",
			Why:     "Fibre that is weighed but not laid is missing in the blend.",
			Do:      "Lay the rest.",
			Schools: "Agreed.",
		},
		at:   []Station{AtLayup},
		laid: []string{"unplaced"},
	},
	{
		Text: Text{
			ID: "L03", Key: "rounds_to_nothing", Group: "As it lies in the lay-up",
			When:    "a unit would take less of a fibre than a step of the scale.",
			Why:     "What rounds to nothing is missing in the batt.",
			Do:      "Weigh it once for all units and divide it by eye, mix it into another fibre first, or take a finer scale.",
			Schools: "Agreed.",
		},
		at:   []Station{AtLayup, AtWeigh},
		laid: []string{"rounds_to_nothing"},
	},
	{
		Text: Text{
			ID: "L04", Key: "over_pins", Group: "As it lies in the lay-up",
			When:    "the fibre stands higher than the pins in one place, though all of it fits.",
			Why:     "What lies above the pins is not held by them.",
			Do:      "Spread the thickest place wider.",
			Schools: "Agreed.",
		},
		at:   []Station{AtLayup},
		laid: []string{"over_pins"},
	},
	{
		Text: Text{
			ID: "L05", Key: "thick_and_thin", Group: "As it lies in the lay-up",
			When:    "the loads of the lanes vary by more than 15 % around their mean, and it is not said that this is meant.",
			Why:     "One sees and feels it in the batt, and it is spun thick and thin.",
			Do:      "Widen the full lanes, or say that it is meant so.",
			Schools: "Makers of textured yarn want it.",
		},
		at:      []Station{AtLayup},
		figures: Bounds{"variation": layup.LaneVariation},
		laid:    []string{"thick_and_thin"},
	},
	{
		Text: Text{
			ID: "L06", Key: "companion_long", Group: "As it lies in the lay-up",
			When:    "fibre for punis has a companion of a tenth or more that is much longer.",
			Why:     "The long fibre drafts first and the short comes after it in lumps.",
			Do:      "Cut the companion, or keep it under a tenth.",
			Schools: "Some draw it out at an angle and leave it long.",
		},
		at:   []Station{AtLayup},
		laid: []string{"companion_long"},
	},
	{
		Text: Text{
			ID: "L07", Key: "extras", Group: "As it lies in the lay-up",
			When:    "shine, silk and texture are more than a quarter of the weight, for those who keep to a quarter.",
			Why:     "They bind nothing by themselves; the yarn may turn out ropy and shed.",
			Do:      "Add wool, or choose the other school.",
			Schools: "The other school takes as much as it likes.",
		},
		at:      []Station{AtLayup},
		figures: Bounds{"share": 0.25},
		matter:  "extras",
		laid:    []string{"extras"},
	},
	{
		Text: Text{
			ID: "L08", Key: "lanes_lost", Group: "As it lies in the lay-up",
			When:    "colours lie side by side before a later pass whose strips are spread over the width.",
			Why:     "Strips that are fed again over the whole width lay every colour everywhere; the stripes are gone.",
			Do:      "Feed each strip back in its own place, or card it once.",
			Schools: "Who wants a heather spreads them on purpose.",
		},
		at:   []Station{AtLayup},
		laid: []string{"lanes_lost"},
	},
	{
		Text: Text{
			ID: "L09", Key: "strokes_lost", Group: "As it lies in the lay-up",
			When:    "something is painted over a part of the length before a later pass.",
			Why:     "The batt is drawn out lengthwise as it is fed again; a stroke becomes a streak, then a tint.",
			Do:      "Let it join at the last pass, or card it once.",
			Schools: "Agreed.",
		},
		at:   []Station{AtLayup},
		laid: []string{"strokes_lost"},
	},
	{
		Text: Text{
			ID: "L10", Key: "joins_scattered", Group: "As it lies in the lay-up",
			When:    "what joins at a later pass is drawn in several places.",
			Why:     "What lay there before is fed again in two halves; all that joins then goes between them.",
			Do:      "Draw it where it will lie.",
			Schools: "Agreed.",
		},
		at:   []Station{AtLayup},
		laid: []string{"joins_scattered"},
	},
	{
		Text: Text{
			ID: "L11", Key: "depth_lost", Group: "As it lies in the lay-up",
			When:    "three fibres or more lie one over the other, each once, before a later pass.",
			Why:     "Each strip is drawn out to a veil and laid anew; a gradient through the depth ends, as lanes do.",
			Do:      "Card it once, or lay the depth in the last pass.",
			Schools: "Who wants a heather lays them so on purpose.",
		},
		at:   []Station{AtLayup},
		laid: []string{"depth_lost"},
	},
	{
		Text: Text{
			ID: "L12", Key: "strip_slides", Group: "As it lies in the lay-up",
			When:    "in a strip of the width lies more slippery fibre than wool that carries it, though the blend has wool enough.",
			Why:     "A strip of silk, nylon or plant fibre does not hold together: the batt splits there, and it drafts in lumps.",
			Do:      "Scatter it between the layers, or lay it over a lane of wool.",
			Schools: "Agreed.",
		},
		at:   []Station{AtLayup},
		laid: []string{"strip_slides"},
	},
}
