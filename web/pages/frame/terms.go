package frame

import (
	"fmt"
	"html/template"
	"slices"
)

// Term is a word of the field, or of this program, in one plain sentence.
type Term struct {
	ID, Word, Means string
	Drawn           bool // the guide has a drawing of it
}

// Terms are all of them, by their words.
var Terms = []Term{
	{
		ID: "at-stake", Word: "at stake",
		Means: "What is lost if a thing goes wrong that the second look speaks of: grams of fibre, minutes, or how far the colour is off.",
	},
	{ID: "batt", Word: "batt", Means: "The sheet of fibre that is lifted off a drum carder or a board in one piece.", Drawn: true},
	{
		ID: "bridge", Word: "bridge", Drawn: true,
		Means: "A small blend of two neighbours in a gradient, laid between them so that the step from one to the other is half as large.",
	},
	{
		ID: "ciede2000", Word: "CIEDE2000", Drawn: true,
		Means: "How far two colours are apart to the eye. Below 1 one hardly sees it side by side, 2 to 5 is a little, above 10 they are two colours.",
	},
	{ID: "depth", Word: "depth", Means: "Colours in full layers one over the other: the batt shows one on each face, and is spun as streaks."},
	{ID: "draft", Word: "draft", Means: "To draw fibre out thinner between the hands; 1.5 times is half as long again."},
	{ID: "felt", Word: "felting", Means: "Wool whose scales catch for good when it is rubbed wet and warm; superwash wool does not."},
	{
		ID: "grist", Word: "grist", Drawn: true,
		Means: "How long a yarn is for its weight: a fine yarn has a high grist, since there is more of it in a skein.",
	},
	{ID: "heathered", Word: "heathered", Means: "One colour from afar, several when one looks near.", Drawn: true},
	{ID: "lane", Word: "lane", Means: "A strip of the width that has a colour of its own; side by side they make a striped batt.", Drawn: true},
	{ID: "marled", Word: "marled", Means: "Fine streaks of each colour, still told apart at arm’s length.", Drawn: true},
	{ID: "nep", Word: "nep", Means: "A tight little ball of fibre. Some are put in on purpose; those that carding makes are called specks here."},
	{ID: "overlay", Word: "overlay", Means: "Brighter fibre laid thinly over a colour that is there already."},
	{ID: "pass", Word: "pass", Means: "Once through the carder. Each further pass mixes more and breaks a little more."},
	{ID: "points", Word: "pt (points)", Means: "Hundredths of the whole: from 30 % to 33 % are 3 points."},
	{ID: "puni", Word: "puni", Means: "A thin firm roll of short fibre such as cotton, spun from its end."},
	{ID: "residue", Word: "residue", Means: "Fibre that stays on the small drum of a carder; it is fed back, kept or thrown away."},
	{ID: "rolag", Word: "rolag", Means: "A loose roll of carded fibre with the fibre lying round it: spun from the end it gives an airy yarn.", Drawn: true},
	{ID: "rung", Word: "rung", Means: "One batt or bundle of a gradient; a stop where it has a colour of its own, a bridge where it is mixed of two."},
	{ID: "sandwich", Word: "sandwich", Means: "Slippery or delicate fibre between two layers of wool that hold it.", Drawn: true},
	{
		ID: "school", Word: "school",
		Means: "One of several ways in which practised makers do a thing. You choose yours; the others stand beside it with their reasons.",
	},
	{ID: "second-look", Word: "second look", Means: "What a practised eye would say of the plan, with what ends it by a press."},
	{ID: "staple", Word: "staple", Means: "How long the single fibres are.", Drawn: true},
	{ID: "step", Word: "step of the scale", Means: "The smallest difference that your scale shows; everything to weigh is a multiple of it."},
	{ID: "streaky", Word: "streaky", Means: "Strips of one colour beside another, as they were laid."},
	{ID: "tex", Word: "tex", Means: "What so much length of a yarn weighs: the higher the tex, the thicker the yarn."},
	{ID: "take-up", Word: "take-up", Means: "By how much singles are longer than the yarn that is plied of them, since they wind round each other."},
	{ID: "unit", Word: "unit", Means: "What is carded in one go: one batt, one board, one pair of rolags, one handful."},
	{ID: "unsure", Word: "±", Means: "Where it lies nine times of ten: 12 ± 2 is from 10 to 14."},
	{ID: "yield", Word: "yield", Means: "What is left at the end of what was weighed in at the beginning."},
}

// termLink is a word as a link to what it means; said is how it stands in the sentence, where that is not the word itself.
func termLink(id string, said ...string) (template.HTML, error) {
	i := slices.IndexFunc(Terms, func(t Term) bool { return t.ID == id })
	if i < 0 {
		return "", fmt.Errorf("the guide has no word %q", id)
	}
	word := Terms[i].Word
	if len(said) > 0 {
		word = said[0]
	}
	return template.HTML(fmt.Sprintf(`<a class="term" href="/guide#%s" title="%s">%s</a>`,
		id, template.HTMLEscapeString(Terms[i].Means), template.HTMLEscapeString(word))), nil
}
