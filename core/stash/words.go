package stash

// kindWords are what makers call fibres, by the words, to the key of the kind. A word that fits several is unsure: the first is
// meant most often, the others are offered instead.
var kindWords = map[string][]string{
	"bfl": {"bluefaced_leicester"}, "blueface": {"bluefaced_leicester"}, "blue faced leicester": {"bluefaced_leicester"},
	"bluefaced": {
		"bluefaced_leicester",
	}, "corrie": {"corriedale"}, "cdale": {"corriedale"}, "polworth": {"polwarth"}, "merino": {"merino", "merino_superfine", "merino_superwash"},
	"superfine merino": {
		"merino_superfine",
	}, "merino superfine": {"merino_superfine"}, "fine merino": {"merino_superfine"}, "extrafine merino": {"merino_superfine"},
	"superwash merino": {"merino_superwash"}, "merino superwash": {"merino_superwash"}, "sw merino": {"merino_superwash"}, "finn": {"finnsheep"},
	"shetland": {
		"shetland",
	}, "icelandic": {"icelandic"}, "churro": {"navajo_churro"}, "navajo churro": {"navajo_churro"}, "border leicester": {"border_leicester"},
	"mohair": {"mohair_kid", "mohair_adult"}, "kid mohair": {"mohair_kid"}, "adult mohair": {"mohair_adult"},
	"alpaca":      {"alpaca_huacaya", "alpaca_suri"},
	"baby alpaca": {"alpaca_huacaya"}, "suri": {"alpaca_suri"}, "suri alpaca": {"alpaca_suri"}, "huacaya": {"alpaca_huacaya"}, "llama": {"llama"},
	"angora": {"angora_rabbit"}, "rabbit": {"angora_rabbit"}, "cashmere": {"cashmere"}, "camel": {"camel_down"}, "yak": {"yak_down"},
	"qiviut": {"qiviut"},
	"bison":  {"bison_down"}, "dog": {"dog_down"}, "silk": {"silk_mulberry", "silk_tussah"}, "mulberry": {"silk_mulberry"},
	"mulberry silk": {"silk_mulberry"},
	"tussah": {
		"silk_tussah",
	}, "tussar": {"silk_tussah"}, "tussah silk": {"silk_tussah"}, "eri": {"silk_eri"}, "eri silk": {"silk_eri"}, "noil": {"silk_noil"},
	"silk noil": {
		"silk_noil",
	}, "noils": {"silk_noil"}, "throwsters waste": {"silk_throwsters_waste"}, "hankies": {"silk_hankies"}, "silk hankies": {"silk_hankies"},
	"sari silk": {
		"silk_threads_recycled",
	}, "recycled silk": {"silk_threads_recycled"}, "silk threads": {"silk_threads_recycled"}, "cotton": {"cotton_upland", "cotton_long_staple"},
	"brown cotton": {
		"cotton_brown",
	}, "long staple cotton": {"cotton_long_staple"}, "flax": {"flax_top",
		"flax_tow"}, "linen": {"flax_top"}, "flax tow": {"flax_tow"}, "tow": {"flax_tow"},
	"hemp": {
		"hemp_top",
	}, "ramie": {"ramie_top"}, "viscose": {"viscose"}, "rayon": {"viscose"}, "bamboo": {"bamboo_viscose"}, "lyocell": {"lyocell"}, "modal": {"modal"},
	"milk": {
		"milk_protein",
	}, "milk protein": {"milk_protein"}, "soy": {"soy_protein"}, "soya": {"soy_protein"}, "nylon": {"nylon",
		"nylon_trilobal"}, "trilobal nylon": {"nylon_trilobal"},
	"trilobal": {
		"nylon_trilobal",
	}, "polyester": {"polyester_recycled"}, "acrylic": {"acrylic"}, "sparkle": {"film_metallised", "film_iridescent"}, "glitter": {"film_metallised"},
	"tinsel": {
		"film_flat_strip",
	}, "metallised film": {"film_metallised"}, "iridescent film": {"film_iridescent"}, "nepps": {"neps_wool"}, "neps": {"neps_wool", "neps_viscose"},
	"nubs": {
		"neps_wool",
	}, "knops": {"knops_tweed"}, "locks": {"locks_wool",
		"locks_mohair"}, "curls": {"locks_wool"}, "curly locks": {"locks_wool"}, "mohair locks": {"locks_mohair"},
	"snips": {
		"yarn_snips",
	}, "yarn snips": {"yarn_snips"}, "wool": {"corriedale", "romney", "merino"}, "mixed wool": {"corriedale", "romney",
		"merino"}, "sheep": {"corriedale", "romney", "merino"},
}

// preparationWords are what makers call the state of fibre.
var preparationWords = map[string]string{
	"top": "combed_top", "tops": "combed_top", "combed": "combed_top", "combed top": "combed_top", "roving": "carded_sliver",
	"rovings": "carded_sliver", "sliver": "carded_sliver",
	"carded": "carded_sliver", "carded sliver": "carded_sliver", "raw": "raw_fleece", "raw fleece": "raw_fleece", "greasy": "raw_fleece",
	"in the grease": "raw_fleece", "fleece": "washed_locks",
	"washed": "washed_locks", "scoured": "washed_locks", "washed fleece": "washed_locks", "washed locks": "washed_locks", "locks": "locks",
	"curls": "locks", "curly locks": "locks",
	"batt": "batt", "batts": "batt", "rolag": "rolag", "rolags": "rolag", "cloud": "picked_cloud", "picked": "picked_cloud",
	"noil": "noil_waste", "noils": "noil_waste", "silk noil": "noil_waste", "waste": "noil_waste", "neps": "neps", "nepps": "neps", "nubs": "neps",
	"knops": "neps", "threads": "threads", "silk threads": "threads", "sari silk": "threads", "film": "threads", "sparkle": "threads",
	"glitter": "threads", "tinsel": "threads",
}

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
