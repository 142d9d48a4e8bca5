package advice

import "fairtangle/core/layup"

// suitRules: Do these fibres suit each other and this cloth?
var suitRules = []rule{
	{
		Text: Text{
			ID: "R01", Key: "staple_mismatch", Group: "Do these fibres suit each other and this cloth?",
			When: "of the fibres that make up a tenth or more (texture and sparkle left out), the longest is more than twice as long as the " +
				"shortest; more than four times only where one of the two is less than 15 %.",
			Why: "Long fibre is carried forward by the teeth while short fibre lags and sinks into the cloth. When drafted, the long " +
				"ends slide first and the short ones come in lumps.",
			Do:      "Cut or pull the longer fibre to at most twice the shorter one and set its staple in the plan to that length.",
			Schools: "Smooth-yarn spinners want a ratio under 1.5; textured-yarn spinners like the slubs.",
		},
		at:        []Place{AtBlend, AtFibres, AtGradient, AtYarn},
		figures:   Bounds{"share": 0.10, "ratio": 2, "to": 4, "clash": 0.15},
		judge:     stapleMismatch,
		stake:     thatFibre,
		mend:      mendStaple,
		shelf:     true,
		otherwise: mendLess,
	},
	{
		Text: Text{
			ID: "R02", Key: "staple_clash", Group: "Do these fibres suit each other and this cloth?",
			When:    "of the fibres of 15 % or more, the longest is more than four times as long as the shortest.",
			Why:     "The two never travel together: one wraps, the other stays in the cloth. The weighed proportions are then not those of the yarn.",
			Do:      "Take another fibre in place of the shorter one, at most half as long as the longer, or spin two yarns and ply them.",
			Schools: "Broad agreement for drum carders; on hand cards or a board some do it knowingly for novelty yarn.",
		},
		at:        []Place{AtBlend, AtFibres, AtGradient, AtYarn},
		figures:   Bounds{"share": 0.15, "ratio": 4},
		judge:     stapleClash,
		stake:     spoiled,
		mend:      mendStaple,
		shelf:     true,
		otherwise: mendLess,
		kin:       "R01",
	},
	{
		Text: Text{
			ID: "R03", Key: "staple_too_long_for_drum", Group: "Do these fibres suit each other and this cloth?",
			When: "a fibre of 5 % or more, longer than 150 mm as it is prepared, goes in from the tray of a drum carder.",
			Why: "A long fibre is gripped by the main drum while its tail is still held by the licker-in, so it winds round one of them " +
				"and strains the teeth.",
			Do:      "Cut or pull it to 100 mm, or hold it against the drum instead.",
			Schools: "Some never cut and feed long wool butt first, very thin; others say the drum is simply the wrong tool and comb it.",
		},
		at:      []Place{AtLayup, AtBlend, AtFibres},
		figures: Bounds{"share": 0.05, "mm": layup.TooLongMM},
		judge:   tooLongForDrum,
		stake:   thatFibre,
		mend:    mendLength,
		laid:    []string{"too_long"},
	},
	{
		Text: Text{
			ID: "R04", Key: "diameter_mismatch", Group: "Do these fibres suit each other and this cloth?",
			When: "of two wools, hairs or downs of a tenth or more, the finer is 22 µm or less and rolls up easily, and the coarser is " +
				"more than one and a half times as thick.",
			Why: "Bending stiffness rises with about the fourth power of thickness. Stiff fibres drag through the fine ones and roll " +
				"them into specks, and the coarse ends work out to the yarn surface.",
			Do:      "Take a coarser fibre that is at most 1.4 times as thick as the finer.",
			Schools: "Most agree for soft yarn; makers of hard-wearing rustic yarn mix on purpose.",
		},
		at:      []Place{AtBlend, AtFibres, AtGradient},
		figures: Bounds{"share": 0.10, "fine": 22, "ratio": 1.5},
		judge:   diameterMismatch,
		stake:   thatFibre,
	},
	{
		Text: Text{
			ID: "R05", Key: "prickle_tail", Group: "Do these fibres suit each other and this cloth?",
			When: "it is worn next to the skin, and fibre thicker than 30 µm is 5 % or more.",
			Why: "Prickle comes from the few thick ends that press on skin without buckling, not from the average. A small share of " +
				"coarse fibre can spoil a soft blend.",
			Do:      "Take a finer fibre in its place, at most 28 µm thick, as near to it in length and shine as you have.",
			Schools: "The limit is put anywhere from 25 to 32 µm; skins differ more than carders do.",
		},
		at:      []Place{AtBlend, AtNeed, AtFibres, AtYarn},
		figures: Bounds{"share": 0.05, "thick": 30},
		judge:   prickle,
	},
	{
		Text: Text{
			ID: "R06", Key: "cloth_too_coarse", Group: "Do these fibres suit each other and this cloth?",
			When:    "a fibre of a tenth or more (texture and sparkle left out) wants more pins in a square inch than the cloth has.",
			Why:     "Fine fibre passes between wide-set teeth without being caught, so it is not opened, slides to the foundation and clumps.",
			Do:      "Take the coarsest cloth that still suits it; if there is none, keep that fibre to a tenth, between two layers that grip.",
			Schools: "Some card fine combed top at 72 pins with a light feed; others hold 120 as the least.",
		},
		at:        []Place{AtBlend, AtFibres, AtGradient},
		figures:   Bounds{"share": 0.10},
		judge:     clothTooCoarse,
		stake:     thatFibre,
		mend:      mendCloth,
		otherwise: mendLess,
	},
	{
		Text: Text{
			ID: "R07", Key: "cloth_too_fine", Group: "Do these fibres suit each other and this cloth?",
			When:    "a fibre of 5 % or more wants fewer pins in a square inch than the cloth has.",
			Why:     "Thick or long fibre packs tight between close, thin wires. It is hard to doff, may break, and the pull can bend the wires.",
			Do:      "Take the finest cloth that still suits it, or feed and fill half as much of that fibre.",
			Schools: "Agreed on protecting the wires; the limit differs between flexible and stiff cloth, so what your manual says comes first.",
		},
		at:        []Place{AtBlend, AtFibres, AtGradient},
		figures:   Bounds{"share": 0.05},
		judge:     clothTooFine,
		stake:     thatFibre,
		mend:      mendCloth,
		otherwise: mendLess,
	},
	{
		Text: Text{
			ID: "R08", Key: "slippery_share_high", Group: "Do these fibres suit each other and this cloth?",
			When: "slippery fibre is more than 30 % and up to 60 % of it.",
			Why: "Smooth straight fibre has little friction with the teeth or with itself. It hangs on the licker-in, slides about the " +
				"drum, and the batt droops and splits.",
			Do:      "Cut the slippery shares back in proportion to 30 % and give the freed share to the grippiest wool in the blend.",
			Schools: "Some stop at 20 to 25 %; others go to 50 % with thin veils and fine cloth.",
		},
		at:      []Place{AtBlend, AtFibres},
		figures: Bounds{"from": 0.30, "to": 0.60},
		judge:   slipperyHigh,
		stake:   beyond,
		mend:    mendSlippery,
		shelf:   true,
	},
	{
		Text: Text{
			ID: "R09", Key: "slippery_share_extreme", Group: "Do these fibres suit each other and this cloth?",
			When:    "on a drum carder, slippery fibre is more than 60 % and wool that carries is less than 25 %.",
			Why:     "There is too little crimp to bind the web, so it comes off in ribbons or stays in the cloth.",
			Do:      "Take a board or hand cards, or lay wool first and last, at least 15 % each, and less of the rest.",
			Schools: "A few experts card pure silk on very fine cloth by hand. If that is you, silence this with that as the reason.",
		},
		at:      []Place{AtBlend, AtFibres},
		figures: Bounds{"from": 0.60, "carrier": 0.25},
		judge:   slipperyExtreme,
		stake:   spoiled,
		mend:    mendSlippery,
		shelf:   true,
		kin:     "R08",
	},
	{
		Text: Text{
			ID: "R10", Key: "usual_share_exceeded", Group: "Do these fibres suit each other and this cloth?",
			When:    "a fibre is more of the blend than is usual for its kind.",
			Why:     "Above that share the weak point of the fibre (slip, shedding, shortness or weight) begins to rule the whole blend.",
			Do:      "Lower its share to what is usual, and give the rest to the wool.",
			Schools: "The figures are habits, and makers of art batts go far above them. Where yours is another, change the usual share of the kind.",
		},
		at:    []Place{AtBlend, AtFibres},
		judge: usualShare,
		stake: thatFibre,
		mend:  mendUsual,
		shelf: true,
	},
	{
		Text: Text{
			ID: "R11", Key: "sparkle_share_high", Group: "Do these fibres suit each other and this cloth?",
			When: "what glitters is more than 3 %.",
			Why: "Flat film has no crimp, so it falls out, scratches and charges up. Glitter depends on surface strands, so more grams " +
				"soon add little shine.",
			Do:      "Keep it to 2 %, in the last layer but one, under a thin cover.",
			Schools: "Purists use none or 1 %; makers of showy batts use 5 to 10 % and accept the shedding.",
		},
		at:      []Place{AtBlend, AtFibres},
		figures: Bounds{"share": 0.03},
		matter:  "extras",
		judge:   sparkleHigh,
		stake:   thatFibre,
		mend:    mendSparkle,
		shelf:   true,
	},
	{
		Text: Text{
			ID: "R12", Key: "texture_share_high", Group: "Do these fibres suit each other and this cloth?",
			When:    "neps and knops together are more than 10 %, or all texture together more than 35 %.",
			Why:     "Dots and locks bind nothing; the ground must hold them. With too little ground they shed from yarn and cloth.",
			Do:      "Take less of it, or add wool that holds it.",
			Schools: "Tweed makers stay at 5 to 10 %; art-yarn makers corespin 50 % locks over a thread.",
		},
		at:      []Place{AtBlend, AtFibres},
		figures: Bounds{"dots": 0.10, "share": 0.35},
		matter:  "extras",
		judge:   textureHigh,
		stake:   beyond,
		mend:    mendTexture,
		shelf:   true,
	},
	{
		Text: Text{
			ID: "R13", Key: "short_without_carrier", Group: "Do these fibres suit each other and this cloth?",
			When: "short fibre is 20 % or more, wool that carries is less than half, and no punis are made.",
			Why: "Short fibre bridges few teeth and sinks into the cloth. Longer crimped wool lifts it and later carries it through the " +
				"drafting zone.",
			Do:      "Raise a fine or medium wool that grips to half, or take fine hand cards or a fine board.",
			Schools: "Some blend short down straight with silk on fine cards; makers with a drum nearly all want wool.",
		},
		at:      []Place{AtBlend, AtFibres},
		figures: Bounds{"short": 0.20, "carrier": 0.50},
		judge:   shortAlone,
		stake:   beyond,
		mend:    mendShort,
		shelf:   true,
	},
	{
		Text: Text{
			ID: "R14", Key: "low_elasticity", Group: "Do these fibres suit each other and this cloth?",
			When:    "fibre with little crimp is more than half, and it is for socks, cuffs or anything that stretches.",
			Why:     "Crimp is the spring. Without it the yarn drapes, grows when worn and does not return.",
			Do:      "Give 15 % of the straightest fibre to a springy wool, of the down type or fine and crimped.",
			Schools: "Agreed on the effect; some add ply and twist instead of crimp.",
		},
		at:      []Place{AtBlend, AtNeed, AtFibres, AtYarn},
		figures: Bounds{"share": 0.50},
		judge:   lowElasticity,
		mend:    mendCrimp,
		shelf:   true,
	},
	{
		Text: Text{
			ID: "R15", Key: "coverage_not_weight", Group: "Do these fibres suit each other and this cloth?",
			When: "a gram of one colour covers more than 1.4 times as much as a gram of another: the finer and lighter the fibre, the " +
				"more it covers.",
			Why:     "A gram of fine, light fibre is a longer thread in all than a gram of coarse or heavy fibre, and colours more of the surface.",
			Do:      "Think of what each covers, not only of what it weighs, and swatch it.",
			Schools: "Most weigh and judge by eye; some always swatch. Film and neps are left out here: they are not round like a fibre.",
		},
		at:      []Place{AtBlend, AtFibres, AtGradient},
		figures: Bounds{"ratio": 1.4},
		judge:   coverage,
	},
}
