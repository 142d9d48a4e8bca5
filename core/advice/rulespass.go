package advice

// passRules: How many passes?
var passRules = []rule{
	{
		Text: Text{
			ID: "R33", Key: "too_few_passes", Group: "How many passes?",
			When: "it is to be even or heathered, of two fibres or more, and goes through once (less than three times, if it is to be " +
				"even and a share is below a tenth).",
			Why: "Each pass only doubles or trebles the thin layers met in the thickness. A small share needs more doublings before it " +
				"is everywhere.",
			Do:      "Two passes for heathered, three for even, torn into strips between them.",
			Schools: "Spinners who like life in the yarn stop at one; knitters wanting solid colour use three or four.",
		},
		at:      []Station{AtBlend, AtNeed, AtLayup, AtCard},
		figures: Bounds{"passes": 2, "even": 3, "small": 0.10},
		matter:  "passes",
		judge:   tooFewPasses,
		mend:    mendPasses,
	},
	{
		Text: Text{
			ID: "R34", Key: "too_many_passes", Group: "How many passes?",
			When: "it goes through more than twice with 30 % or more of fibre below 22 µm that rolls up; or more than four times whatever it is.",
			Why:  "Evenness gains shrink with each pass, but broken ends and specks keep adding up, worst in fine fibre.",
			Do:   "Stop at two (or four), and mix by thinner layers and by hand first.",
			Schools: "A real divide: \"more passes, more even\" against \"open well, pass once\". Count the specks after each pass and let them " +
				"decide.",
		},
		at:      []Station{AtBlend, AtNeed, AtLayup, AtCard},
		figures: Bounds{"passes": 4, "fine passes": 2, "fine": 22, "share": 0.30},
		matter:  "passes",
		judge:   tooManyPasses,
		stake:   passesMore,
		mend:    mendPasses,
	},
	{
		Text: Text{
			ID: "R35", Key: "repass_not_split", Group: "How many passes?",
			When:    "it goes through twice or more, and is not torn into strips between.",
			Why:     "Feeding a batt whole keeps the left side left and the right side right, and it is far too thick for the licker-in.",
			Do:      "Tear it into strips of about 40 mm, draw each out to a veil, and feed them in any order but the old one.",
			Schools: "For gradients keep the strip order; for even blends shuffle. Some also turn strips by a quarter.",
		},
		at:    []Station{AtLayup, AtBlend, AtCard},
		judge: notSplit,
		mend:  mendStrips,
	},
	{
		Text: Text{
			ID: "R36", Key: "specks_after_pass", Group: "How many passes?",
			When:    "a pinch of a gram against a dark or light card shows more than 10 specks after a pass; above 30, no further pass.",
			Why:     "Specks are knots of broken or snapped-back fibre; more carding tightens them.",
			Do:      "Feed the next batt half as thick, turn slowly, pick the specks out and weigh them.",
			Schools: "Some pick at the carder, some while spinning, some keep them as character. Where tips break, picking has no end.",
		},
		at:      []Station{AtCard},
		figures: Bounds{"specks": 10, "stop": 30},
		matter:  "specks",
		judge:   specks,
	},
	{
		Text: Text{
			ID: "R37", Key: "texture_blended_away", Group: "How many passes?",
			When:    "neps, knops, locks, snips or film come in before the last pass.",
			Why:     "Each pass opens dots and curls, buries film in the core and drops more out below.",
			Do:      "Let them come in at the last pass.",
			Schools: "Firm felted neps can stand two passes; some like softened, half-opened dots.",
		},
		at:    []Station{AtLayup, AtBlend, AtCard},
		judge: blendedAway,
		stake: thatFibre,
		mend:  mendJoins,
		laid:  []string{"locks_opened", "extras_opened"},
	},
}
