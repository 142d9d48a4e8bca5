package advice

import "fairtangle/core/day"

// colourRules: Colour and cleanliness
var colourRules = []rule{
	{
		Text: Text{
			ID: "R38", Key: "muddy_mix", Group: "Colour and cleanliness",
			When: "two clear colours (chroma 20 or more) of a fifth or more lie opposite each other " +
				"(150° to 210° around), go through twice or more, and less than 40 % of their colour is left in the mix.",
			Why:     "Once fibres are mixed below what the eye can part, opposite hues cancel to grey or brown.",
			Do:      "Card it once and leave it streaky; or take one colour nearer to the other; or 15 % of one between them.",
			Schools: "Some want the broken grey with sparks of colour. What a screen shows of a mix is a forecast, so swatch.",
		},
		at:      []Station{AtBlend, AtNeed, AtGradient},
		figures: Bounds{"from": 150, "to": 210, "share": 0.20, "chroma": 20, "left": 0.40},
		judge:   muddy,
		stake:   dulled,
		mend:    mendOnce,
	},
	{
		Text: Text{
			ID: "R39", Key: "gradient_jump", Group: "Colour and cleanliness",
			When:    "a step of a gradient is more than twice as large as most, or its lightness jumps by more than 15 of 100.",
			Why:     "The eye finds the largest step. The lap of fibres softens an edge by about one staple length only.",
			Do:      "Put the two neighbours between them, mixed half and half.",
			Schools: "Smooth-fade makers want seven or more steps; others like three bold bands.",
		},
		at:      []Station{AtGradient, AtNeed, AtBlend},
		figures: Bounds{"of the median": 2, "lightness": 15},
		matter:  "gradient",
		judge:   gradientJump,
		stake:   jumped,
	},
	{
		Text: Text{
			ID: "R40", Key: "dark_then_light", Group: "Colour and cleanliness",
			When: "what comes next is lighter by 30 or more than what was on the equipment before, and nothing was cleaned between.",
			Why: "One to three grams of what was before stay in the cloth and leak into the next batts. Dark ends in pale fibre show at " +
				"a fraction of a percent.",
			Do:      "Card from light to dark; where that can’t be, clean it and run 5 g of scrap wool through.",
			Schools: "Agreed on order; some clean fully each time, others use a sacrifice batt.",
		},
		at:      []Station{AtCard, AtGradient, AtWeigh},
		figures: Bounds{"lightness": day.FullLighter},
		judge:   darkThenLight,
		stake:   cleaned,
		mend:    mendClean,
	},
	{
		Text: Text{
			ID: "R41", Key: "sparkle_then_plain", Group: "Colour and cleanliness",
			When:    "film, dog down or coloured neps were on it before, and what comes next is plain, for sale, or for someone with an allergy.",
			Why:     "Film slivers and short hair cling by static and turn up for many batts. A sticky first run of wool brings most away.",
			Do:      "Card what sheds last, and clean all of it, with some scrap wool run through.",
			Schools: "Some keep a second board or drum only for sparkle.",
		},
		at:    []Station{AtCard},
		judge: sparkleThenPlain,
		stake: cleaned,
		mend:  mendClean,
	},
	{
		Text: Text{
			ID: "R42", Key: "dye_bleed", Group: "Colour and cleanliness",
			When:    "fibre that was dyed by hand or recycled was not tested for bleeding, and a tenth or more of the blend is lighter by 30 or more.",
			Why:     "Loose dye moves in the first wet finish, and blending puts dark and pale fibre in close touch, so nothing can be parted later.",
			Do:      "Soak a gram in warm water with a drop of soap on white cloth for half an hour, and wait with the rest until you know.",
			Schools: "Some rinse all dark fibre again as habit; some trust known dye lots.",
		},
		at:      []Station{AtFibres, AtBlend, AtGradient, AtWeigh},
		figures: Bounds{"lightness": day.FullLighter, "share": 0.10},
		judge:   bleed,
		stake:   bled,
		mend:    done("Tested on white, wet: it holds its colour.", tells("bleed_tested", 1)),
	},
}
