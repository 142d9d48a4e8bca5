package stash

import "strings"

// table reads lines of "what it leads to: word, word" into words with what they lead to.
func table(text string) map[string][]string {
	out := map[string][]string{}
	for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
		to, words, _ := strings.Cut(line, ": ")
		for _, w := range strings.Split(words, ", ") {
			out[w] = strings.Fields(to)
		}
	}
	return out
}

// kindWords are what makers call fibres, to the key of the kind. A word that fits several is unsure: the first is meant most
// often, the others are offered instead.
var kindWords = table(`
acrylic: acrylic
alpaca_huacaya: baby alpaca, huacaya
alpaca_huacaya alpaca_suri: alpaca
alpaca_suri: suri, suri alpaca
angora_rabbit: angora, rabbit
bamboo_viscose: bamboo
bison_down: bison
bluefaced_leicester: bfl, blueface, blue faced leicester, bluefaced
border_leicester: border leicester
camel_down: camel
cashmere: cashmere
corriedale: corrie, cdale
wool_unknown: mixed wool, unknown wool, mystery wool, wool unknown, some wool, mixed wools, wool mix
wool_unknown corriedale romney merino: wool, sheep
unknown: unknown, mystery, mystery fibre, unknown fibre, unidentified
cotton_brown: brown cotton
cotton_long_staple: long staple cotton
cotton_upland cotton_long_staple: cotton
dog_down: dog
film_flat_strip: tinsel
film_iridescent: iridescent film
film_metallised: glitter, metallised film
film_metallised film_iridescent: sparkle
finnsheep: finn
flax_top: linen
flax_top flax_tow: flax
flax_tow: flax tow, tow
hemp_top: hemp
icelandic: icelandic
knops_tweed: knops
llama: llama
locks_mohair: mohair locks
locks_wool: curls, curly locks
locks_wool locks_mohair: locks
lyocell: lyocell
merino merino_superfine merino_superwash: merino
merino_superfine: superfine merino, merino superfine, fine merino, extrafine merino
merino_superwash: superwash merino, merino superwash, sw merino
milk_protein: milk, milk protein
modal: modal
mohair_adult: adult mohair
mohair_kid: kid mohair
mohair_kid mohair_adult: mohair
navajo_churro: churro, navajo churro
neps_wool: nepps, nubs
neps_wool neps_viscose: neps
nylon nylon_trilobal: nylon
nylon_trilobal: trilobal nylon, trilobal
polwarth: polworth
polyester_recycled: polyester
qiviut: qiviut
ramie_top: ramie
shetland: shetland
silk_eri: eri, eri silk
silk_hankies: hankies, silk hankies
silk_mulberry: mulberry, mulberry silk
silk_mulberry silk_tussah: silk
silk_noil: noil, silk noil, noils
silk_threads_recycled: sari silk, recycled silk, silk threads
silk_throwsters_waste: throwsters waste
silk_tussah: tussah, tussar, tussah silk
soy_protein: soy, soya
viscose: viscose, rayon
yak_down: yak
yarn_snips: snips, yarn snips
`)

// preparationWords are what makers call the state of fibre.
var preparationWords = func() map[string]string {
	out := map[string]string{}
	for w, to := range table(`
batt: batt, batts
carded_sliver: roving, rovings, sliver, carded, carded sliver
combed_top: top, tops, combed, combed top
locks: locks, curls, curly locks
neps: neps, nepps, nubs, knops
noil_waste: noil, noils, silk noil, waste
picked_cloud: cloud, picked
raw_fleece: raw, raw fleece, greasy, in the grease
rolag: rolag, rolags
threads: threads, silk threads, sari silk, film, sparkle, glitter, tinsel
washed_locks: fleece, washed, scoured, washed fleece, washed locks
`) {
		out[w] = to[0]
	}
	return out
}()

// colourWords are colours as they are called, as # and six digits; what was guessed from a word is always unsure.
var colourWords = map[string]string{
	"white": "#f4f1ea", "cream": "#efe6d0", "ivory": "#efe6d0", "ecru": "#e4d9c0", "natural": "#e6dcc6", "undyed": "#e6dcc6",
	"oatmeal": "#cbbda2", "beige": "#cdbb9a",
	"fawn": "#b08a5e", "camel": "#b98d56", "tan": "#b5895a", "sand": "#c9b28a", "brown": "#6a4a34", "chocolate": "#4a3226",
	"black": "#1e1c1b", "grey": "#8a8a88", "gray": "#8a8a88",
	"silver": "#b8bbbd", "charcoal": "#3c3d3f", "slate": "#4f5961", "blue": "#2f5d9b", "navy": "#232f4e", "indigo": "#2c3566",
	"denim": "#4a6488", "sky": "#8fb8d8", "turquoise": "#2fa3a3",
	"teal": "#1d6f78", "aqua": "#5fb6b4", "mint": "#a9d3b8", "green": "#3f7d43", "olive": "#737438", "moss": "#6d7a3c", "sage": "#97a58a",
	"lime": "#a5c33c", "emerald": "#1f7a55", "forest": "#24482f",
	"yellow": "#e6c53a", "gold": "#c8952f", "mustard": "#c09a2e", "ochre": "#b98532", "orange": "#d9772c", "rust": "#a5512f",
	"madder": "#a84632", "cochineal": "#a3294e", "weld": "#d8c13a", "woad": "#4f6f9c", "logwood": "#4a3558", "walnut": "#6a4a33",
	"terracotta": "#b3603f", "copper": "#a5633c", "peach": "#eab592",
	"coral": "#e0735c", "red": "#b0332f", "scarlet": "#c4302b", "crimson": "#9b2335", "burgundy": "#5e2130", "maroon": "#5a2228",
	"wine": "#5e2130", "pink": "#d98aa0", "rose": "#c48f88",
	"magenta": "#b03a78", "fuchsia": "#b83a82", "plum": "#5c3350", "purple": "#6a3f86", "violet": "#6a55a0", "lavender": "#a99bc8",
	"lilac": "#b7a2cf", "mauve": "#a787a0", "heather": "#8d7f95",
}

// shadeWords are how much lighter (L*) or more coloured a word makes a colour.
var shadeWords = map[string]float64{"light": 14, "pale": 18, "dark": -16, "deep": -12, "bright": 4, "soft": 6, "dusty": 2, "muted": 0}

// passedOver are words that say nothing of what it is.
var passedOver = map[string]bool{
	"of": true, "the": true, "a": true, "an": true, "and": true, "in": true, "some": true, "bag": true, "bags": true, "about": true,
	"approx": true, "ca": true, "circa": true, "with": true,
	"fibre": true, "fiber": true, "dyed": true, "hand-dyed": true, "handdyed": true, "left": true, "x": true, "×": true, "ball": true,
	"bundle": true, "lot": true, "each": true, "for": true, "spinning": true,
	"bit": true, "more": true, "or": true, "less": true, "leicester": true, "&": true, "-": true, "–": true, "–—": true, "staple": true,
}
