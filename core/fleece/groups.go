package fleece

import (
	"slices"

	"fairtangle/core/fibre"
)

// Group is animals, or plants, whose fleece yields alike: what each stage takes of what enters it, in percent, and what is looked for
// (fleece.md, sections 2 and 3; ranges are the mean and twice the deviation each way).
type Group struct {
	Key, Name                             string
	Skirt, Part, Tumble, Wash, Tips, Pick fibre.Range
	LookFor                               string
	// Not are what need not be looked for in it.
	Not   []string
	kinds []string
}

func r(low, high float64) fibre.Range { return fibre.Range{Low: low, High: high} }

var groups = []Group{
	{"fine", "fine wool", r(5, 15), r(0, 0), r(1, 3), r(35, 52), r(3, 10), r(1, 4),
		"whether it breaks in one place when a lock is pulled, heavy grease, sticky tips, knots", []string{"coat", "rise"},
		[]string{"merino_superfine", "merino", "merino_superwash", "rambouillet", "cormo", "polwarth"}},
	{"medium", "medium wool", r(5, 15), r(0, 0), r(1, 3), r(25, 40), r(2, 7), r(1, 3),
		"second cuts, plant bits, yellow stain, felted tips", []string{"coat"},
		[]string{"corriedale", "finnsheep", "bluefaced_leicester", "shetland", "jacob", "cheviot"}},
	{"down-type", "wool of the down type", r(5, 15), r(0, 0), r(1, 3), r(22, 38), r(2, 6), r(1, 3),
		"second cuts, chaff deep inside, felted tips", []string{"coat"}, []string{"southdown", "suffolk", "dorset"}},
	{"long", "longwool", r(4, 12), r(0, 0), r(1, 3), r(18, 32), r(2, 6), r(1, 2),
		"felted or weathered tips, how long the locks are for the drum, matting at the butt", []string{"coat"},
		[]string{"romney", "border_leicester", "wensleydale", "lincoln", "locks_wool"}},
	{"double", "a double coat, kept together", r(5, 15), r(0, 0), r(1, 3), r(12, 28), r(2, 8), r(1, 4),
		"the rise, kemp, and whether the coats part by hand", nil, []string{"gotland", "icelandic", "navajo_churro", "herdwick"}},
	{"alpaca", "alpaca", r(10, 30), r(0, 5), r(3, 8), r(3, 12), r(2, 6), r(1, 3),
		"dust and sand (shake it first), guard hair from bib and legs, tender tips", []string{"rise"}, []string{"alpaca_huacaya", "alpaca_suri"}},
	{"llama", "llama", r(10, 25), r(10, 35), r(3, 8), r(4, 12), r(2, 6), r(1, 3),
		"stiff guard hair all over, dust", []string{"rise"}, []string{"llama"}},
	{"mohair", "mohair", r(5, 15), r(0, 0), r(1, 3), r(10, 22), r(2, 6), r(1, 2),
		"kemp along the back, stiff tips, mats at the neck", []string{"rise", "coat"}, []string{"mohair_kid", "mohair_adult", "locks_mohair"}},
	{"angora", "angora rabbit", r(2, 10), r(0, 5), r(0, 0), r(0, 3), r(1, 4), r(0, 1),
		"guard hair (kept for the halo, or taken out), mats, plucked or clipped, static", []string{"tips", "rise"}, []string{"angora_rabbit"}},
	{"dog", "dog undercoat", r(5, 15), r(5, 25), r(0, 2), r(5, 15), r(2, 6), r(0, 2),
		"guard hair, flakes of skin, smell, insect eggs; wash it always", []string{"rise"}, []string{"dog_down"}},
	{"down", "down with its outer hair", r(3, 10), r(45, 75), r(0, 2), r(5, 20), r(2, 6), r(0, 2),
		"coarse outer hair, dandruff; combed out is cleaner than shorn", []string{"tips", "rise"},
		[]string{"cashmere", "camel_down", "yak_down", "qiviut", "bison_down"}},
	{"cotton", "cotton with its seed", r(2, 8), r(58, 67), r(1, 3), r(0, 0), r(2, 6), r(0, 1),
		"bits of seed coat, leaf, unripe knots", []string{"tips", "rise", "coat"}, []string{"cotton_upland", "cotton_long_staple", "cotton_brown"}},
	{"flax", "retted flax stems", r(2, 8), r(78, 86), r(1, 3), r(0, 0), r(40, 60), r(0, 1),
		"woody bits, over-retted weak fibre, mould", []string{"tips", "rise", "coat", "cuts"}, []string{"flax_top", "flax_tow"}},
}

// GroupOf is the group of a kind of fibre; without one, what is known of raw fleece of sheep as a whole (25 to 60 % are lost until it
// can be carded), its ends taken together.
func GroupOf(kind string) Group {
	i := slices.IndexFunc(groups, func(g Group) bool { return slices.Contains(g.kinds, kind) })
	if i < 0 {
		return Group{Skirt: r(5, 20), Part: r(0, 3), Wash: r(17.7, 39.4), Pick: r(4, 15)}
	}
	return groups[i]
}

// loses is what a stage takes of what enters it, percent.
func (g Group) loses(stage int) fibre.Range {
	return [Count + 1]fibre.Range{Skirted: g.Skirt, Sorted: g.Part, Tumbled: g.Tumble, Dried: g.Wash, Flicked: g.Tips, Picked: g.Pick}[stage]
}
