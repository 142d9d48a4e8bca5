package advice

import (
	"fairtangle/core/day"
	"fairtangle/core/layup"
)

// defaults are the bounds of the table of rules; shares and loads are parts of 1.
var defaults = Bounds{
	"R01 share": 0.10, "R01 ratio": 2, "R01 to": 4,
	"R02 share": 0.15, "R02 ratio": 4,
	"R03 share": 0.05, "R03 mm": layup.TooLongMM,
	"R04 share": 0.10, "R04 fine": 22, "R04 ratio": 1.5,
	"R05 share": 0.05, "R05 thick": 30,
	"R06 share": 0.10, "R07 share": 0.05,
	"R08 from": 0.30, "R08 to": 0.60,
	"R09 from": 0.60, "R09 carrier": 0.25,
	"R11 share": 0.03, "R12 dots": 0.10, "R12 share": 0.35,
	"R13 short": 0.20, "R13 carrier": 0.50,
	"R14 share": 0.50, "R15 ratio": 1.4,
	"R16 from": 1, "R16 to": 1.25, "R17 from": 1.25, "R18 load": 0.3,
	"R19 of the mean": 1.25, "R19 load": 1, "R19 load as laid": layup.LaneFull, "R20 of the mean": layup.LaneThin,
	"R21 feed": 1.5, "R21 fine feed": 1, "R21 fine": 22,
	"R23 turns": 40, "R23 fine turns": 25, "R23 fine": 20, "R23 slippery": 0.25,
	"R24 depth": 0.10, "R24 grippy": 0.50, "R26 share": 0.30, "R31 of the cloth": 0.15,
	"R33 passes": 2, "R33 even": 3, "R33 small": 0.10,
	"R34 passes": 4, "R34 fine passes": 2, "R34 fine": 22, "R34 share": 0.30,
	"R36 specks": 10, "R36 stop": 30,
	"R38 from": 150, "R38 to": 210, "R38 share": 0.20, "R38 chroma": 20, "R38 left": 0.40,
	"R39 of the median": 2, "R39 lightness": 15,
	"R40 lightness": day.FullLighter, "R42 lightness": day.FullLighter, "R42 share": 0.10,
	"R43 weight": 0.03, "R44 weight": 0.02,
	"R46 grams": 100, "R46 fibres": 3, "R48 steps": 10,
	"R51 grams": 20, "R52 share": 3, "R53 share": 2, "R56 hours": 24, "R56 over": 5,
	"R57 share": 0.25, "R57 humidity": 45, "R58 share": 0.15,
	"R60 tight": 0.06, "R60 loose": 0.02, "R61 short": 1.5, "R61 long": 2, "R62 of the shortest": 0.6, "R62 of the longest": 0.2,
	"R63 short": 0.60, "R64 from": 3, "R64 to": 8, "R74 months": 6, "L05 variation": layup.LaneVariation, "L07 share": 0.25,
}
