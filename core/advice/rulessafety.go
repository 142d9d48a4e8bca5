package advice

// safetyRules: Safety (always follow the maker's manual, local rules and licensed practice)
var safetyRules = []rule{
	{
		Text: Text{
			ID: "R67", Key: "sharp_pins", Group: "Safety (always follow the maker's manual, local rules and licensed practice)",
			When: "work with cloth, combs, a doffing rod, a flick card or a board begins.",
			Why:  "Wires pierce skin and carry dirt from fleece; broken bits can fly.",
			Do: "Cover what is stored, stroke away from the wrist, wear closed shoes, and glasses when brushing out; tetanus is a " +
				"matter for a doctor.",
			Schools: "Agreed.",
		},
		at:    []Station{AtCard},
		judge: pins,
	},
	{
		Text: Text{
			ID: "R68", Key: "moving_drum", Group: "Safety (always follow the maker's manual, local rules and licensed practice)",
			When:    "a drum is about to turn and its list is not ticked.",
			Why:     "Two toothed drums form an in-running nip that pulls in fingers, hair, cords, rings and loose sleeves.",
			Do:      "Hair tied, sleeves tight, no jewellery or cord, guards on, hands behind the edge of the tray, clamp tight.",
			Schools: "Agreed.",
		},
		at:    []Station{AtCard},
		judge: movingDrum,
		mend:  done("All of it done.", tells("ticked", 1)),
	},
	{
		Text: Text{
			ID: "R69", Key: "motor_unplug", Group: "Safety (always follow the maker's manual, local rules and licensed practice)",
			When:    "an electric carder is to be emptied, picked, cleaned, cleared or set.",
			Why:     "A switch can be knocked and a foot pedal trodden on. Only a pulled plug is safe.",
			Do:      "Switch it off, pull the plug, and wait until it stands still.",
			Schools: "Agreed; some manuals describe powered reverse doffing, and then only that manual counts.",
		},
		at:    []Station{AtCard},
		judge: unplug,
		mend:  done("Off, unplugged, and standing still.", tells("unplugged", 1)),
	},
	{
		Text: Text{
			ID: "R70", Key: "raw_hygiene", Group: "Safety (always follow the maker's manual, local rules and licensed practice)",
			When: "it is raw fleece, or comes straight from an animal.",
			Why:  "Fleece can carry dung, ticks, spores and treatment residues.",
			Do: "Gloves, a mask, a table of its own, no food; wash hands and clothes; who is pregnant keeps away from raw fleece; in " +
				"doubt ask a vet or a doctor.",
			Schools: "Agreed; rules on moving raw wool differ by region.",
		},
		at:    []Station{AtCard},
		judge: hygiene,
	},
	{
		Text: Text{
			ID: "R71", Key: "dye_and_acid", Group: "Safety (always follow the maker's manual, local rules and licensed practice)",
			When:    "dye powder, acid, bleach or mordant is used.",
			Why:     "Powder is breathed in, acid burns, and fumes can build up. Kitchen tools are not to go back to food.",
			Do:      "Read the safety sheet; gloves, glasses, a mask, pots of their own, acid into water and never the reverse, waste by local rules.",
			Schools: "Who dyes with vinegar or citric acid takes it more lightly; the powder and the heat are the same.",
		},
		at:    []Station{AtCard},
		judge: dye,
		mend:  done("No dye or acid any more today.", tells("uses_dye", 0)),
	},
	{
		Text: Text{
			ID: "R72", Key: "children", Group: "Safety (always follow the maker's manual, local rules and licensed practice)",
			When:    "a child or a pet is in the room, or who works there is under age.",
			Why:     "Reach and curiosity outrun warnings, and a moving drum or lying pin board hurts at once.",
			Do:      "Wait until somebody grown up watches and what has pins is covered; or mix by hand, or felt.",
			Schools: "Families differ on age for hand cards; the drum is for watched use only.",
		},
		at:    []Station{AtCard},
		judge: children,
		mend:  done("No child or pet near any more.", tells("child_near", 0)),
	},
	{
		Text: Text{
			ID: "R73", Key: "maker_manual", Group: "Safety (always follow the maker's manual, local rules and licensed practice)",
			When:    "the maker's own figures for load, speed and clearance are not noted.",
			Why:     "Clearance, cloth and gearing differ, so general figures can harm a given machine.",
			Do:      "Write the figures of the manual down; they come before these in every rule.",
			Schools: "Agreed.",
		},
		at:    []Station{AtCard},
		judge: manual,
		mend:  done("They are noted.", tells("manual", 1)),
	},
}
