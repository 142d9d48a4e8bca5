package layingpages

// drawing is a small picture: paths with what they are drawn like, on 96 × 44.
type drawing struct {
	Key   string
	Paths []stroke
}

type stroke struct{ Class, D string }

// offArt are the ways off the tool.
var offArt = []drawing{
	{"batt", []stroke{{"fill", "M10 12Q48 6 86 12L86 34Q48 40 10 34Z"}, {"", "M14 18Q48 13 82 18M14 24Q48 20 82 24M14 30Q48 34 82 30"}}},
	{"rolag", []stroke{{"deep", "M4 20h88v4h-88z"}, {"fill", "M18 12h58a10 10 0 0 1 0 20H18z"},
		{"", "M26 12q-7 10 0 20M38 12q-7 10 0 20M50 12q-7 10 0 20M62 12q-7 10 0 20M74 12q-7 10 0 20"}}},
	{"sheet", []stroke{{"fill", "M10 8h50v28H10z"}, {"mid", "M60 8a8 8 0 0 1 16 0v28a8 8 0 0 1-16 0z"}, {"", "M14 14h46M14 22h46M14 30h46M68 12v20"}}},
	{"hole", []stroke{{"fill", "M4 8h30v28H4z"}, {"", "M8 14h22M8 22h22M8 30h22M46 8v28M46 19a3 3 0 0 0 0 6"}, {"thick", "M34 22h14M48 22Q66 12 92 24"}}},
	{"strips", []stroke{{"fill", "M6 6h30v7H6zM6 16h30v7H6zM6 26h30v7H6z"}, {"thick", "M40 38Q60 26 92 36"}, {"", "M40 9h10M40 19h10M40 29h10"}}},
	{"mini", []stroke{{"fill", "M8 8h22v13H8zM36 8h22v13H36zM64 8h22v13H64zM8 26h22v13H8zM36 26h22v13H36zM64 26h22v13H64z"}}},
	{"puni", []stroke{{"deep", "M2 21h92v2h-92z"}, {"fill", "M22 15h52a7 7 0 0 1 0 14H22z"}, {"", "M28 15l6 14M38 15l6 14M48 15l6 14M58 15l6 14M68 15l6 14"}}},
	{"heap", []stroke{{"fill", "M14 36Q20 14 48 10Q76 14 82 36Z"}, {"mid", "M26 36Q40 20 60 36Z"}, {"", "M24 30Q40 16 72 30M36 14l8 8M56 14l-6 9"}}},
}

// lieArt are the ways in which fibre lies in what came off.
var lieArt = []drawing{
	{"along", []stroke{{"fill", "M8 8h80v28H8z"}, {"", "M12 14Q48 11 84 14M12 20Q48 18 84 20M12 26Q48 28 84 26M12 31Q48 34 84 31"}}},
	{"round", []stroke{{"fill", "M14 10h68v24H14z"}, {"", "M20 10q9 12 0 24M30 10q9 12 0 24M40 10q9 12 0 24M50 10q9 12 0 24M60 10q9 12 0 24M70 10q9 12 0 24"}}},
	{"crossed", []stroke{{"fill", "M8 8h80v28H8z"}, {"", "M12 14h72M12 22h72M12 30h72M20 9v26M34 9v26M48 9v26M62 9v26M76 9v26"}}},
}
