package advice

// rollRules: Rolags, punis, doffing, dizzing and labels
var rollRules = []rule{
	{
		Text: Text{
			ID: "R60", Key: "rolag_density", Group: "Rolags, punis, doffing, dizzing and labels",
			When:    "a rolag has more than 0.06 or less than 0.02 g in a cubic centimetre.",
			Why:     "A tight rolag grips itself and drafts in jerks; a loose one sheds, flattens and drifts apart.",
			Do:      "Roll it until 0.035 g are in a cubic centimetre.",
			Schools: "Long-draw spinners like loose ones; others roll firm with dowels to keep them for travel.",
		},
		at:      []Station{AtYarn},
		figures: Bounds{"tight": 0.06, "loose": 0.02},
		judge:   rolagDensity,
	},
	{
		Text: Text{
			ID: "R61", Key: "wrap_length", Group: "Rolags, punis, doffing, dizzing and labels",
			When:    "what is drawn off the board for a rolag is less than one and a half or more than two staples of the main fibre.",
			Why:     "Shorter leaves no lap, so the rolag falls open. Longer builds thick layers that no longer draft in order.",
			Do:      "Draw off one and three quarters of a staple, and make as many rolags as that gives.",
			Schools: "Some draw thin for one to two board lengths and judge by feel.",
		},
		at:      []Station{AtLayup, AtYarn},
		figures: Bounds{"short": 1.5, "long": 2},
		matter:  "rolags",
		judge:   wrapLength,
		laid:    []string{"wrap_length"},
	},
	{
		Text: Text{
			ID: "R62", Key: "dowel_choice", Group: "Rolags, punis, doffing, dizzing and labels",
			When:    "the rod is more than 0.6 of the shortest main staple round, or less than 0.2 of the longest.",
			Why:     "The fibre must lap round the dowel to hold, yet not so tightly that it cannot slip off.",
			Do:      "Take a rod round which a third of the staple laps: 6, 8, 10, 12 or 15 mm; smooth, tapered or waxed for fine fibre.",
			Schools: "Two thin rods against one thick one is a matter of habit.",
		},
		at:      []Station{AtYarn},
		figures: Bounds{"of the shortest": 0.6, "of the longest": 0.2},
		judge:   dowel,
		mend:    mendRod,
	},
	{
		Text: Text{
			ID: "R63", Key: "puni_for_short", Group: "Rolags, punis, doffing, dizzing and labels",
			When:    "short fibre is more than 60 % and rolags are made.",
			Why:     "Cotton and short down have few overlaps. A firm thin roll keeps them in order until twist reaches them.",
			Do:      "Make punis: on a rod of 5 to 8 mm, 1.5 to 3 g each, firmer than a rolag.",
			Schools: "Cotton spinners differ on firm or soft punis; charkha-type spinners roll firmer.",
		},
		at:      []Station{AtLayup, AtYarn},
		figures: Bounds{"short": 0.60},
		judge:   puni,
		mend:    mendPuni,
		laid:    []string{"punis"},
	},
	{
		Text: Text{
			ID: "R64", Key: "dizz_direction", Group: "Rolags, punis, doffing, dizzing and labels",
			When:    "roving is drawn off across the fibre, or through a hole that is not 3 to 8 mm wide.",
			Why:     "Pulled in the direction in which the fibres lie, they slide past each other and stay in line; pulled across, they fold and catch.",
			Do:      "Draw in the direction of the drum, through a hole of 4 mm for fine and 6 mm for medium fibre, half a staple at a time.",
			Schools: "For woollen-style yarn some tear or pull across on purpose for air.",
		},
		at:      []Station{AtYarn},
		figures: Bounds{"from": 3, "to": 8},
		judge:   dizz,
		mend:    mendHole,
	},
	{
		Text: Text{
			ID: "R65", Key: "strip_direction", Group: "Rolags, punis, doffing, dizzing and labels",
			When:    "a batt is lifted off sideways, against the lean of the pins, or with the drum turning forward.",
			Why:     "Wires hold fibre pulled against their lean. Fibre lifts off freely along the lean, so a wrong pull tears the web and bends wires.",
			Do:      "Part it at the seam with the doffing rod, then ease it off while the drum is turned back by hand.",
			Schools: "Some roll onto a stick, some lift with paper or cloth; direction is agreed.",
		},
		at:    []Station{AtCard},
		judge: stripping,
		mend:  done("Along the lean, the drum turned back.", tells("lifted_wrong", 0)),
	},
	{
		Text: Text{
			ID: "R66", Key: "contents_label", Group: "Rolags, punis, doffing, dizzing and labels",
			When:    "a finished batt does not say what is in it, how much, when it was made and how to wash it; or it is for sale.",
			Why:     "Memory fades and burn tests are poor evidence. Buyers rely on fibre content, and law may require a given wording.",
			Do:      "Write what is in it by what came off, the most first, and whether it is superwash; for sale, look up the local rules.",
			Schools: "For oneself a word may do; who sells writes down all of it.",
		},
		at:    []Station{AtYarn, AtNeed},
		judge: label,
		mend:  done("A label says what is in it.", tells("labelled", 1)),
	},
}
