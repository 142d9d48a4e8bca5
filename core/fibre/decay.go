package fibre

// Decays of the loss over passes by class (losses.md, section 2): of the family, and of the
// kinds that differ from it.
var (
	decayOfFamily = map[string]float64{
		"wool": 0.6, "hair": 0.7, "down": 0.9, "silk": 1, "cotton": 0.9, "bast": 0.8, "regenerated": 0.8, "synthetic": 0.8, "sparkle": 1, "texture": 1,
		"unknown": 0.8,
	}
	decayOfKind = map[string]float64{
		"merino_superwash": 0.8, "southdown": 0.7, "suffolk": 0.7, "dorset": 0.7, "icelandic": 0.7, "navajo_churro": 0.7, "herdwick": 0.7, "llama": 0.9,
		"angora_rabbit": 0.9, "dog_down": 0.8, "silk_noil": 0.8, "silk_throwsters_waste": 0.8, "silk_threads_recycled": 0.8, "flax_tow": 0.7,
	}
)

// fineUM is the mean diameter below which a wool is a fine one, whose fibre goes on breaking.
const fineUM = 24.0

// Fine reports whether it is fine wool, or down: fibre in which a coarse hair is felt.
func (k Kind) Fine() bool {
	return (k.Family == "wool" || k.Family == "down") && k.DiameterUM.Mid() < fineUM
}

// UsualDecay is what each pass loses of a kind, of what the pass before lost.
func UsualDecay(k Kind) float64 {
	if d, ok := decayOfKind[k.Key]; ok {
		return d
	}
	if k.Family == "wool" && k.Fine() {
		return 0.9
	}
	return decayOfFamily[k.Family]
}
