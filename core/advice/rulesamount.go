package advice

import "fairtangle/core/layup"

// amountRules: How much, how thick, how fast?
var amountRules = []rule{
	{
		Text: Text{
			ID: "R16", Key: "device_overloaded", Group: "How much, how thick, how fast?",
			When:    "a unit is more than the cloth holds of such a mix, up to a quarter more.",
			Why:     "Fibre above the tooth tips is no longer opened. It only piles up, hides unmixed clumps and resists doffing.",
			Do:      "Divide it into as many equal batts as it takes to fit.",
			Schools: "Users of a packing brush count on more; others stop at 80 % for a better web.",
		},
		at:      []Station{AtLayup, AtBlend},
		figures: Bounds{"from": 1, "to": 1.25},
		matter:  "loading",
		judge:   overloaded,
		stake:   abovePins,
		mend:    mendUnits,
		laid:    []string{"too_full"},
	},
	{
		Text: Text{
			ID: "R17", Key: "device_far_overloaded", Group: "How much, how thick, how fast?",
			When:    "a unit is more than a quarter above what the cloth holds of such a mix.",
			Why:     "The packed layer can lift the cloth, bend wires, overload a chain, belt or motor, and tear when stripped.",
			Do:      "Plan it again with more batts, each nine tenths full.",
			Schools: "Agreed, though the true limit is the maker's figure.",
		},
		at:      []Station{AtLayup, AtBlend},
		figures: Bounds{"from": 1.25},
		judge:   farOverloaded,
		stake:   spoiled,
		mend:    mendUnits,
		laid:    []string{"far_too_full"},
	},
	{
		Text: Text{
			ID: "R18", Key: "device_underloaded", Group: "How much, how thick, how fast?",
			When:    "a batt that is to come off whole fills less than 30 % of what the cloth holds.",
			Why:     "A thin web has too few fibres crossing each spot to hold together, and much of it stays below the doffing depth.",
			Do:      "Make fewer and fuller batts, at least half full, or take narrower equipment.",
			Schools: "Colour samplers card tiny amounts on purpose and dizz them straight off.",
		},
		at:      []Station{AtLayup, AtBlend},
		figures: Bounds{"load": 0.3},
		matter:  "loading",
		judge:   underloaded,
		stake:   onceMore,
		mend:    mendFewer,
		laid:    []string{"thin"},
	},
	{
		Text: Text{
			ID: "R19", Key: "lane_overloaded", Group: "How much, how thick, how fast?",
			When:    "a lane is filled to more than 1.25 times the mean of all, or above what it holds; once it is laid, by a tenth.",
			Why:     "A thick lane takes up the teeth while its neighbours run empty. It is stripped as a ridge and drafts as a thick strand.",
			Do:      "Move what is too much to the thinner lane beside it; where the colours are to stay, make the full lane wider.",
			Schools: "Agreed for striped batts; landscape-style batts may vary on purpose.",
		},
		at:      []Station{AtLayup},
		figures: Bounds{"of the mean": 1.25, "load": 1, "load as laid": layup.LaneFull},
		judge:   laneOverloaded,
		stake:   tornThere,
		mend:    mendWidths,
		laid:    []string{"lane_full"},
	},
	{
		Text: Text{
			ID: "R20", Key: "lane_thin", Group: "How much, how thick, how fast?",
			When:    "a lane is filled to less than 0.6 of the mean of all.",
			Why:     "The batt splits along the thin strip when lifted or rolled, and a gradient loses that colour too early.",
			Do:      "Top the lane up to 0.8 of the mean, with base wool in the nearest colour if the hue is short.",
			Schools: "Agreed.",
		},
		at:      []Station{AtLayup},
		figures: Bounds{"of the mean": layup.LaneThin},
		judge:   laneThin,
		stake:   tornThere,
		mend:    mendWidths,
		laid:    []string{"lane_thin"},
	},
	{
		Text: Text{
			ID: "R21", Key: "feed_too_thick", Group: "How much, how thick, how fast?",
			When: "with each turn of the drum more than one and a half times goes in than the carder takes; or more than it takes, where " +
				"a slippery fibre or one below 22 µm comes first.",
			Why: "Each tooth should meet a few fibres at a time. A thick mat is torn rather than opened, which breaks fibre, makes " +
				"specks and can jam the licker-in.",
			Do:      "Turn more often, and lay less on the tray for each.",
			Schools: "\"Read print through the layer\" is the common test; some feed thicker on pass one and thin after.",
		},
		at:      []Station{AtCard, AtLayup},
		figures: Bounds{"feed": 1.5, "fine feed": 1, "fine": 22},
		judge:   feedTooThick,
		mend:    mendTurns,
	},
	{
		Text: Text{
			ID: "R22", Key: "holding_back", Group: "How much, how thick, how fast?",
			When: "a strip longer than two staples is fed, or combed top goes in without being pulled into wisps.",
			Why: "If the hand or the rope's own weight holds the fibre while the drum pulls, fibre snaps or stretches, springs back as " +
				"specks and strains the gear.",
			Do:      "Pull it into wisps of one staple, lay them on the tray, and let go.",
			Schools: "A light drag to lay silk on a slowly hand-turned drum is accepted by some; never with a motor.",
		},
		at:    []Station{AtCard, AtLayup},
		judge: holdingBack,
		mend:  mendWisps,
	},
	{
		Text: Text{
			ID: "R23", Key: "crank_too_fast", Group: "How much, how thick, how fast?",
			When: "the handle goes round more than 40 times a minute, or more than 25 times with fibre below 20 µm or a quarter of " +
				"slippery fibre on the drum.",
			Why:     "Fast teeth jerk rather than comb, throw out short bits, raise static and snap fine ends.",
			Do:      "25 turns a minute; 18 with what is fine or slippery.",
			Schools: "Those with a motor turn faster with thinner feed; nearly all agree on slow for fine fibre.",
		},
		at:      []Station{AtCard, AtLayup},
		figures: Bounds{"turns": 40, "fine turns": 25, "fine": 20, "slippery": 0.25},
		judge:   tooFast,
		mend:    mendPace,
	},
}
