package fibre

import "fairtangle/core/losses"

// linesOf parts the loss of a class of fibre into droppings, specks and what flies (losses.md,
// section 2, percent of the mass in the first pass).
var linesOf = map[string]losses.Lines{
	"fine wool": {Droppings: 1.2, Picked: 0.8, Fly: 0.5}, "superwash wool": {Droppings: 0.8, Picked: 0.4, Fly: 0.3},
	"medium wool": {Droppings: 1.4, Picked: 0.3, Fly: 0.5}, "down-type wool": {Droppings: 1.5, Picked: 0.5, Fly: 0.5},
	"long wool": {Droppings: 1.1, Picked: 0.1, Fly: 0.4}, "double coat": {Droppings: 2.9, Picked: 0.4, Fly: 0.7},
	"hair": {Droppings: 1.2, Picked: 0.2, Fly: 0.6}, "shedding hair": {Droppings: 2.2, Picked: 0.6, Fly: 1.2},
	"down": {Droppings: 2.5, Picked: 1.2, Fly: 0.8}, "dog down": {Droppings: 4.0, Picked: 1.0, Fly: 1.5},
	"silk": {Droppings: 0.9, Picked: 0.8, Fly: 0.6}, "silk waste": {Droppings: 3.6, Picked: 0.6, Fly: 0.6},
	"cotton": {Droppings: 3.2, Picked: 0.9, Fly: 0.9}, "bast": {Droppings: 4.0, Picked: 0.2, Fly: 1.0}, "tow": {Droppings: 8.7, Picked: 0.5, Fly: 1.3},
	"regenerated": {Droppings: 0.7, Picked: 0.5, Fly: 0.3}, "synthetic": {Droppings: 0.7, Picked: 0.3, Fly: 0.4},
	"sparkle": {Droppings: 6.2, Fly: 1.5}, "texture": {Droppings: 8.8, Fly: 0.5}, "locks": {Droppings: 4.0, Picked: 0.2, Fly: 0.5},
	"unknown": {Droppings: 1.4, Picked: 0.3, Fly: 0.5}, // as medium wool, until the kind is told
}

// classOfKind is the class of kinds that differ from their family.
var classOfKind = map[string]string{
	"merino_superwash": "superwash wool", "southdown": "down-type wool", "suffolk": "down-type wool", "dorset": "down-type wool", "romney": "long wool",
	"border_leicester": "long wool", "wensleydale": "long wool", "lincoln": "long wool", "gotland": "long wool", "icelandic": "double coat",
	"navajo_churro": "double coat", "herdwick": "double coat", "llama": "shedding hair", "angora_rabbit": "shedding hair", "dog_down": "dog down",
	"silk_noil": "silk waste", "silk_throwsters_waste": "silk waste", "silk_threads_recycled": "silk waste", "flax_tow": "tow", "locks_wool": "locks",
	"locks_mohair": "locks", "yarn_snips": "locks",
}

// Lost parts what a kind loses into its lines; together they are 1.
func Lost(k Kind) losses.Lines {
	class, known := classOfKind[k.Key]
	switch {
	case known:
	case k.Family == "wool" && k.Fine():
		class = "fine wool"
	case k.Family == "wool":
		class = "medium wool"
	default:
		class = k.Family
	}
	v, known := linesOf[class]
	if !known {
		v = linesOf["medium wool"]
	}
	sum := v.Droppings + v.Picked + v.Fly
	return losses.Lines{Droppings: v.Droppings / sum, Picked: v.Picked / sum, Fly: v.Fly / sum}
}
