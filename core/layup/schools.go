package layup

import "slices"

// School is a way that makers hold to in a matter where they differ, with its
// reason.
type School struct {
	Key    string `json:"key"`
	Name   string `json:"name"`
	Reason string `json:"reason"`
}

// Matter is where makers differ. The first school is what is taken until the
// maker chooses.
type Matter struct {
	Key     string   `json:"key"`
	Name    string   `json:"name"`
	Schools []School `json:"schools"`
	// Touches is what work it touches: lay-up, carding, fleece.
	Touches string `json:"touches"`
}

// What a matter touches.
const (
	OfLayup   = "lay-up"
	OfCarding = "carding"
	OfFleece  = "fleece"
)

// Matters are where makers differ.
func Matters() []Matter {
	return []Matter{
		{"loading", "How full", []School{
			{"full", "as full as the cloth takes", "fewer units, a firm batt that comes off in one"},
			{"thin", "thin and see-through", "each pin meets a few fibres; more even, fewer specks, more units"},
		}, OfLayup},
		{"delicate", "Delicate fibre", []School{
			{"late", "second pass only", "the wool is opened first; silk and down are only spread"},
			{"between", "first pass, between wool", "mixes more evenly; the wool holds it on both sides"},
		}, OfLayup},
		{"gradient", "A gradient", []School{
			{"lanes", "lanes side by side", "strips of the batt follow each other in the yarn"},
			{"layers", "layers through the depth", "every strip has all colours, one over the other"},
			{"bundles", "separate bundles with bridges", "each colour is carded by itself; the order is made in spinning"},
		}, OfLayup},
		{"rolags", "Rolags from a board", []School{
			{"staple", "as many as the staple suggests", "each wraps one and three quarter staples"},
			{"one", "one big roll of the whole board", "no cuts; spun from the end or drawn off through a hole"},
			{"three", "three", "a handful each; stripes up the board are in every one, bands across it go one to a rolag"},
			{"five", "four or five", "small and quick to spin, shorter in the wrap"},
		}, OfLayup},
		{"extras", "Shine, silk and texture", []School{
			{"quarter", "up to a quarter of the weight", "the wool still holds the yarn together"},
			{"free", "as you like", "at the price of a ropy or shedding yarn"},
		}, OfLayup},
		{"first", "First onto the cloth", []School{
			{"base", "a prepared base first, always", "it lifts the rest off and keeps short fibre out of the cloth"},
			{"bare", "straight on", "no colour is covered; fine with grippy fibre"},
		}, OfLayup},
		{"passes", "How many passes", []School{
			{"few", "two or three", "an even batt without working the fibre too hard"},
			{"one", "one, and keep the streaks", "the colours stay apart, and the fibre is handled least"},
			{"look", "until the look is reached", "as many as the eye asks for"},
		}, OfCarding},
		{"specks", "Specks", []School{
			{"make", "more passes make more", "fine and short fibre rolls up the more it is carded"},
			{"show", "more passes show them", "what was in there comes to light and can be picked out"},
		}, OfCarding},
		{"fleece", "Preparing fleece", []School{
			{"out", "take out outer coat, rise and tips", "what is left is soft, and does not break or roll up"},
			{"leave", "leave them", "nothing is lost, and the yarn keeps the character of the fleece"},
		}, OfFleece},
		{"oil", "Spinning oil", []School{
			{"none", "none", "nothing to wash out, and the cloth stays clean"},
			{"some", "some before carding", "less fly and static, and fewer ends break"},
		}, OfFleece},
	}
}

// MattersOf are those that touch such work.
func MattersOf(touches ...string) (out []Matter) {
	for _, m := range Matters() {
		if slices.Contains(touches, m.Touches) {
			out = append(out, m)
		}
	}
	return out
}

// Chosen returns the school of each matter: the maker's choice, or the first.
func Chosen(choices map[string]string) map[string]string {
	out := map[string]string{}
	for _, m := range Matters() {
		out[m.Key] = m.Schools[0].Key
		for _, s := range m.Schools {
			if choices[m.Key] == s.Key {
				out[m.Key] = s.Key
			}
		}
	}
	return out
}
