package advice

// orderRules: What goes on in which order?
var orderRules = []rule{
	{
		Text: Text{
			ID: "R24", Key: "base_layer", Group: "What goes on in which order?",
			When: "the first tenth of what is laid is less than half wool that grips, or has film, texture or slippery fibre in it.",
			Why: "The deepest fibre is the hardest to lift. Crimped wool stays joined and brings the rest up with it; loose silk or film " +
				"stays in the cloth.",
			Do:      "Lay a tenth of the batt first, of the wool that grips best.",
			Schools: "Some start every batt this way; others only when slippery fibre is above 15 %.",
		},
		at:      []Station{AtLayup},
		figures: Bounds{"depth": 0.10, "grippy": 0.50},
		matter:  "first",
		judge:   baseLayer,
		stake:   firstTenth,
		mend:    mendBase,
		laid:    []string{"base_layer"},
	},
	{
		Text: Text{
			ID: "R25", Key: "cover_layer", Group: "What goes on in which order?",
			When:    "noil, neps, knops, snips or film lie last.",
			Why:     "Loose bits are held only by fibre lying across them. With no veil on top they drop at doffing and at the wheel.",
			Do:      "A veil of wool over it, a twentieth of the batt, taken from the wool that is in it.",
			Schools: "Locks are an exception. Some leave the last sparkle bare for show and accept losing it.",
		},
		at:    []Station{AtLayup},
		judge: coverLayer,
		stake: thatFibre,
		mend:  mendCover,
		laid:  []string{"cover_layer"},
	},
	{
		Text: Text{
			ID: "R26", Key: "fragile_too_early", Group: "What goes on in which order?",
			When:    "fragile fibre, 30 % or less, comes in before the last of two or more passes.",
			Why:     "Every pass breaks, tangles or dulls delicate fibre. The wool needs the opening; the silk or down only needs spreading.",
			Do:      "Let it come in at the last pass, between two layers of wool.",
			Schools: "Those after a dead even blend put all in from pass one and accept some specks.",
		},
		at:      []Station{AtLayup, AtBlend, AtCard},
		figures: Bounds{"share": 0.30},
		matter:  "delicate",
		judge:   fragileEarly,
		stake:   worn,
		mend:    mendJoins,
	},
	{
		Text: Text{
			ID: "R27", Key: "locks_last_and_painted", Group: "What goes on in which order?",
			When:    "locks go in from the tray, or do not lie in the last two layers, or a whole pass follows them.",
			Why:     "The licker-in pulls locks straight or wraps them, and each pass over the teeth opens the curl that was the reason to use them.",
			Do:      "Lay them on by hand, in the last layer, at the last pass.",
			Schools: "Some feed half-opened locks by tray for a soft halo, and paint the show locks after.",
		},
		at:    []Station{AtLayup, AtBlend, AtCard},
		judge: locksLast,
		stake: thatFibre,
		mend:  mendLocks,
		laid:  []string{"locks_last"},
	},
	{
		Text: Text{
			ID: "R28", Key: "locks_across_cut_lines", Group: "What goes on in which order?",
			When:    "a lock lies across the line between two rolags on the board.",
			Why:     "A lock that crosses the line belongs to two rolags. It is torn or pulls a hole when the first one is rolled off.",
			Do:      "Move each lock into the band that holds most of it, 10 mm clear of the line.",
			Schools: "Agreed; some roll the whole board into one long rolag and so avoid it.",
		},
		at:    []Station{AtLayup},
		judge: locksAcross,
		mend:  mendCut,
		laid:  []string{"locks_cut"},
	},
	{
		Text: Text{
			ID: "R29", Key: "neps_bare_via_licker", Group: "What goes on in which order?",
			When: "neps, knops or noil go in from the tray in a layer by themselves.",
			Why:  "A ball has no long ends for the drum to take. The small drum throws it down, or it lodges between the pins.",
			Do:   "Feed them between two veils, with three times their weight in wool, or scatter them on the drum and cover them.",
			Schools: "Three camps: sandwich through the licker-in for an even scatter, sprinkle straight on the drum for bold dots, or feed " +
				"bare and sweep up the loss.",
		},
		at:    []Station{AtLayup},
		judge: nepsBare,
		stake: thatFibre,
		mend:  mendDots,
		laid:  []string{"fed_bare"},
	},
	{
		Text: Text{
			ID: "R30", Key: "licker_limits", Group: "What goes on in which order?",
			When: "fibre that winds round the small drum goes in from the tray; or fibre that has to go in thin goes in thicker than the " +
				"carder takes.",
			Why:     "Slick, stiff or endless fibre clings to or winds on the licker-in, while the drum has nothing to pull by.",
			Do:      "Hold what winds against the main drum, between layers of wool; feed the other half as thick.",
			Schools: "Some send silk top by tray in veils without trouble; the kind of small drum matters.",
		},
		at:    []Station{AtLayup},
		judge: lickerLimits,
		stake: thatFibre,
		mend:  mendLicker,
		laid:  []string{"licker_in"},
	},
	{
		Text: Text{
			ID: "R31", Key: "layer_slab", Group: "What goes on in which order?",
			When:    "it is to be even or heathered, and a layer of one fibre fills more than 15 % of the cloth.",
			Why:     "A thick layer fills the teeth as a block, so the next colour lies on top instead of beside it.",
			Do:      "Lay it in equal parts of less than 8 % of the cloth, between the other layers.",
			Schools: "For bold stripes thick layers are right; say that it is to be streaky, and this is quiet.",
		},
		at:      []Station{AtLayup},
		figures: Bounds{"of the cloth": 0.15},
		judge:   slab,
		mend:    mendSlab,
	},
	{
		Text: Text{
			ID: "R32", Key: "board_brush_direction", Group: "What goes on in which order?",
			When: "a board is brushed or painted up, across or both ways.",
			Why: "Board wires lean so that fibre drawn from the handle edge to the lower edge catches. Brushing back lifts it off and " +
				"stands the ends up.",
			Do:      "From the handle to the lower edge only, in light strokes, and packed after each layer.",
			Schools: "Agreed for brushing. Painting aslant for effect is a taste, as long as the pull stays downward.",
		},
		at:    []Station{AtCard, AtLayup},
		judge: brushDirection,
		mend:  mendBrush,
	},
}
