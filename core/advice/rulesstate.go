package advice

// stateRules: State of the fibre
var stateRules = []rule{
	{
		Text: Text{
			ID: "R49", Key: "greasy_raw", Group: "State of the fibre",
			When: "it is raw fleece.",
			Why: "Wool grease glues dirt and short ends into the cloth, can rust wires and stains later work. The weighed share is also " +
				"up to half dirt and grease.",
			Do:      "Wash, dry and pick it, and plan with what it weighs then.",
			Schools: "Some spin in the grease, but from combed or flicked locks and not over shared cloth.",
		},
		at:    []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		judge: greasy,
		stake: spoiled,
		laid:  []string{"greasy_raw"},
	},
	{
		Text: Text{
			ID: "R50", Key: "residual_grease", Group: "State of the fibre",
			When:    "washed fibre is tacky, or sticks to paper when it is warmed in the hand.",
			Why:     "Left-over grease makes fibre cling in cords, loads the cloth and dulls colour.",
			Do:      "Wash it once more and hotter, and rinse it; no sudden change of heat, no rubbing.",
			Schools: "Some like a trace of grease for glide; most card fully clean and add a light finish if needed.",
		},
		at:    []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		judge: residualGrease,
		mend:  done("Washed again, hotter, and rinsed.", tells("tacky", 0)),
	},
	{
		Text: Text{
			ID: "R51", Key: "dust", Group: "State of the fibre",
			When:    "it is raw, dusty, bast, cotton, dog or camelid fibre, and more than 20 g of it.",
			Why:     "Opening throws fine dust and short hairs into the breathing zone.",
			Do:      "Work outdoors or in moving air, wear a mask that fits, wipe up wet rather than sweep.",
			Schools: "Habits differ; it is worth being said every time.",
		},
		at:      []Station{AtCard},
		figures: Bounds{"grams": 20},
		judge:   dust,
		mend:    done("Moving air, a mask that fits, wiped up wet.", tells("dust_cared", 1)),
	},
	{
		Text: Text{
			ID: "R52", Key: "vegetable_matter", Group: "State of the fibre",
			When:    "bits of plants are more than 3 % by weight, or there are burrs.",
			Why:     "Carding chops straw into more and smaller bits, and burrs bend wires.",
			Do:      "Pick and shake it before the first pass, and allow for what drops.",
			Schools: "Some let light chaff fall out while carding, others remove all before.",
		},
		at:      []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		figures: Bounds{"share": 3},
		judge:   plants,
		stake:   thatFibre,
		mend:    done("Picked and shaken out.", tells("burrs", 0), tells("plant_pct", 0)),
	},
	{
		Text: Text{
			ID: "R53", Key: "second_cuts", Group: "State of the fibre",
			When:    "bits under 20 mm of the same fleece are more than 2 %.",
			Why:     "They cannot bridge the teeth, ball up into specks and pill out of the yarn.",
			Do:      "Shake it, cut side down, over a mesh, tease it, and allow for 3 % more that is lost.",
			Schools: "Agreed; felters mind less.",
		},
		at:      []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		figures: Bounds{"share": 2},
		judge:   secondCuts,
		stake:   thatFibre,
		mend:    done("Shaken, cut side down, over a mesh.", tells("second_cuts_pct", 0)),
	},
	{
		Text: Text{
			ID: "R54", Key: "brittle_tips", Group: "State of the fibre",
			When:    "a lock tugged sharply at both ends crackles, or its tip breaks.",
			Why:     "Weak tips snap on the teeth and become specks that return at every pass.",
			Do:      "Trim the tips and card it twice at most; where it breaks in the middle, do not card it at all.",
			Schools: "Some keep sunburnt tips for their dye colour and flick them instead.",
		},
		at:    []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		judge: brittle,
		stake: thatFibre,
		mend:  done("The tips are trimmed.", tells("tender", 0)),
	},
	{
		Text: Text{
			ID: "R55", Key: "double_coat", Group: "State of the fibre",
			When: "nobody has said whether a fleece of two coats was parted, or kept together on purpose.",
			Why: "The down is short and fine, the outer hair long and coarse. Carded together they lag and roll up as two fibres do that " +
				"do not suit each other.",
			Do:      "Part it or keep it; parted, put two lots on the shelf, each with its own staple.",
			Schools: "Traditional use knows both: together for sturdy yarn, parted for soft and for strong.",
		},
		at:    []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		judge: doubleCoat,
		mend:  done("Parted, or kept together on purpose.", tells("parted", 1)),
	},
	{
		Text: Text{
			ID: "R56", Key: "damp", Group: "State of the fibre",
			When:    "fibre is damp, was washed less than 24 hours ago, or weighs more than 5 % above its weight when it is dry.",
			Why:     "Damp fibre mats and stretches, rusts wires, and false weight upsets the shares.",
			Do:      "Wait until two weighings six hours apart agree within 1 %.",
			Schools: "A faint mist against static is another thing.",
		},
		at:      []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		figures: Bounds{"hours": 24, "over": 5},
		judge:   damp,
		stake:   spoiled,
		mend:    done("Dry: two weighings, six hours apart, agree.", tells("damp", 0), tells("washed_hours_ago", 48), tells("over_weight_pct", 0)),
	},
	{
		Text: Text{
			ID: "R57", Key: "static_dry_air", Group: "State of the fibre",
			When: "a quarter or more of it charges up, and the room has less than 45 % humidity.",
			Why:  "Dry smooth fibre keeps its charge, flies, wraps the licker-in and will not lie flat.",
			Do:   "Bring the room to 50 to 60 % humidity, let the fibre rest in it for some hours, and turn slowly.",
			Schools: "Some mist the fibre lightly in a bag, or use a drop of spinning oil; others forbid any liquid near the cloth. Never " +
				"spray a motor.",
		},
		at:      []Station{AtCard},
		figures: Bounds{"share": 0.25, "humidity": 45},
		judge:   static,
		mend:    done("The room has 50 % humidity now, and the fibre has lain in it.", tells("humidity_pct", 50)),
	},
	{
		Text: Text{
			ID: "R58", Key: "felting_mix", Group: "State of the fibre",
			When: "what felts and what does not are at least 15 % each, and it is to be washed by machine or felted.",
			Why: "Untreated wool shrinks in agitated wash while treated wool, silk and man-made fibre do not. The cloth puckers, or " +
				"pills, or will not felt.",
			Do:      "Say “wash by hand, cool, without moving it”, or take all superwash, or for felt all that felts.",
			Schools: "Mixed-shrink effects are used on purpose in felt and texture yarn.",
		},
		at:      []Station{AtNeed, AtBlend, AtYarn},
		figures: Bounds{"share": 0.15},
		judge:   feltingMix,
	},
	{
		Text: Text{
			ID: "R59", Key: "moth_signs", Group: "State of the fibre",
			When:    "webs, grit, larvae or grazed ends are seen, or a new unwashed lot was not kept apart first.",
			Why:     "Larvae eat keratin, above all where it is soiled, and one infested lot spreads to the whole stash.",
			Do:      "Bag it and put it apart, freeze and thaw it more than once and look again, and clean the equipment.",
			Schools: "Freezing, heat and scented repellents all have followers. Repellents do not kill; follow local advice on any treatment.",
		},
		at:    []Station{AtFibres, AtBlend, AtWeigh, AtCard},
		judge: moths,
		stake: spoiled,
		mend:  done("Put apart, cared for, and no signs any more.", tells("moth_signs", 0)),
	},
	{
		Text: Text{
			ID: "R74", Key: "storage_squeezed", Group: "State of the fibre",
			When:    "what is finished is stored squeezed or sealed in plastic, or has lain for more than six months and nobody has looked.",
			Why:     "Pressure and damp make crimp set flat and fibres cling, so the batt drafts like felt. Still, dark places suit moths.",
			Do:      "Roll it loosely with paper, in a closed bag that breathes, dry and dark, and look twice a year.",
			Schools: "Sealed boxes against breathable bags; both work if the fibre is clean and truly dry.",
		},
		at:      []Station{AtYarn},
		figures: Bounds{"months": 6},
		judge:   stored,
		mend:    done("Rolled loosely, in a bag that breathes.", tells("stored", 0)),
	},
}
