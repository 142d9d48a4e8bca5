package advice

// weighRules: Weighing and planning
var weighRules = []rule{
	{
		Text: Text{
			ID: "R43", Key: "batch_drift", Group: "Weighing and planning",
			When:    "batts of one recipe differ by more than 2 points in a share or 3 % in weight, or use different dye lots of one colour.",
			Why:     "The eye sees small shifts side by side in knitted cloth. Filling batts one after another leaves the error in the last.",
			Do:      "Weigh each fibre once, divide it by the number of batts, and divide each dye lot over all of them.",
			Schools: "Some card all, mix strips of all batts and card again; others trust weighing alone.",
		},
		at:      []Station{AtYarn, AtCard},
		figures: Bounds{"weight": 0.03},
		judge:   drift,
	},
	{
		Text: Text{
			ID: "R44", Key: "bobbin_split", Group: "Weighing and planning",
			When:    "there are several bobbins, and a part differs from the mean by more than 2 %.",
			Why:     "Unequal parts leave unplied singles, and in a gradient the colours stop lining up.",
			Do:      "Divide it by weight into equal parts, each with the same layers and colours in the same order.",
			Schools: "Gradient spinners split lengthwise; for plain blends some wind off or ply from both ends and skip it.",
		},
		at:      []Station{AtYarn, AtWeigh},
		figures: Bounds{"weight": 0.02},
		judge:   bobbins,
	},
	{
		Text: Text{
			ID: "R45", Key: "no_loss_allowance", Group: "Weighing and planning",
			When:    "what is weighed in is less than what is to come off, with what is lost in the passes, the cloth and the sample.",
			Why:     "Dust, short ends, picked specks and fibre in the cloth never reach the yarn. Special items lose most, so the shares drift as well.",
			Do:      "Take more of each fibre, by what it loses.",
			Schools: "Some just add 10 %; that is safe for clean top and short for washed fleece.",
		},
		at:    []Station{AtNeed, AtBlend, AtWeigh},
		judge: noAllowance,
		stake: lacking,
		mend:  mendTotal,
	},
	{
		Text: Text{
			ID: "R46", Key: "no_sample", Group: "Weighing and planning",
			When:    "it is more than 100 g, or of three fibres or more, and no sample was carded.",
			Why:     "Ten grams show colour, slip, specks and hand for little cost. Fibre cannot be un-blended.",
			Do:      "Card 5 to 10 g in the same shares on the smallest equipment you have, then spin, ply and wash it.",
			Schools: "Some sample on hand cards and accept that drum results differ; free-style makers skip it.",
		},
		at:      []Station{AtBlend, AtNeed, AtWeigh},
		figures: Bounds{"grams": 100, "fibres": 3},
		judge:   noSample,
		mend:    mendSample,
	},
	{
		Text: Text{
			ID: "R47", Key: "stock_short", Group: "Weighing and planning",
			When:    "it takes more of a fibre than the shelf has.",
			Why:     "Running out midway forces a change of recipe in the same cloth.",
			Do:      "Make less of all of it, or buy that fibre first.",
			Schools: "Agreed.",
		},
		at:    []Station{AtBlend, AtNeed, AtWeigh},
		judge: stockShort,
		stake: lacking,
		mend:  mendStock,
	},
	{
		Text: Text{
			ID: "R48", Key: "scale_too_coarse", Group: "Weighing and planning",
			When:    "a batt takes less of a fibre than ten steps of the scale.",
			Why:     "A 0.5 g share on a 1 g scale is a guess, and sparkle or dark accents change the look at that level.",
			Do:      "Weigh that fibre once for all batts, mix it with five times its weight of wool, and divide the mixture.",
			Schools: "Agreed; many eyeball accents.",
		},
		at:      []Station{AtBlend, AtWeigh},
		figures: Bounds{"steps": 10},
		judge:   scaleCoarse,
	},
}
