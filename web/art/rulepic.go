package art

// RulePicture is a small drawing of what a rule is about: as it goes wrong, and as it goes well.
// Most rules have none, as there is nothing to see.
func RulePicture(rule string) []RulePanel {
	d, ok := rulePictures[rule]
	if !ok {
		return nil
	}
	var bad, good pen
	d.bad(&bad)
	d.good(&good)
	return []RulePanel{{d.badWords, bad.list}, {d.goodWords, good.list}}
}

type rulePicture struct {
	badWords  string
	bad       func(*pen)
	goodWords string
	good      func(*pen)
}

// layered draws layers from the cloth up, each so thick; those in which something is in are warm.
func layered(p *pen, warm int, thick ...float64) {
	p.pins(10, 88, 160, 44, 8)
	y := 86.0
	for i, t := range thick {
		y -= t
		draw := func() { p.box(10, y, 160, t-1) }
		if i == warm {
			p.in(draw)
		} else {
			p.pale(draw)
		}
	}
}

// lanes draws strips of a width with their loads.
func lanes(p *pen, warm int, width []float64, load ...float64) {
	x := 10.0
	for i, w := range width {
		draw := func() { p.box(x, 88-load[i], w-2, load[i]) }
		if i == warm {
			p.in(draw)
		} else {
			p.pale(draw)
		}
		x += w
	}
	p.line(1, "M8 88H172")
}

// wheel draws two hues on a circle of colours.
func wheel(p *pen, x1, y1, x2, y2 float64) {
	p.pale(func() { p.circle(90, 50, 40, 3) })
	p.in(func() { p.dot(x1, y1, 8) })
	p.dot(x2, y2, 8)
	p.pale(func() { p.line(1.2, "M%.1f %.1fL%.1f %.1f", x1, y1, x2, y2) })
}

// stairs are colours that follow each other, by their heights.
func stairs(p *pen, warm int, high ...float64) {
	w := 160 / float64(len(high))
	for i, h := range high {
		draw := func() { p.box(10+float64(i)*w, 92-h, w-2, h) }
		if i == warm {
			p.in(draw)
		} else {
			p.pale(draw)
		}
	}
}

// board is cut into rolags, with locks at places along it.
func board(p *pen, locks ...float64) {
	p.line(1.2, "M30 6H150V94H30Z")
	p.pale(func() { p.line(1, "M30 35H150M30 65H150") })
	p.in(func() {
		for i, y := range locks {
			p.lock(48+float64(i%2)*34, y)
		}
	})
}

var rulePictures = map[string]rulePicture{
	"R01": {"One is twice as long and more: it slides first, the short one comes in lumps.", func(p *pen) {
		p.tuft(6, 30, 164, 1.5, 1.4, 4)
		p.in(func() { p.tuft(16, 62, 44, 1.5, 1.4, 4); p.tuft(110, 62, 44, 1.5, 1.4, 4) })
	}, "Cut to a like length, they travel together.", func(p *pen) {
		p.tuft(6, 30, 76, 1.5, 1.4, 4)
		p.tuft(92, 30, 76, 1.5, 1.4, 4)
		p.in(func() { p.tuft(6, 62, 60, 1.5, 1.4, 4); p.tuft(92, 62, 60, 1.5, 1.4, 4) })
	}},
	"R03": {"The main drum has one end while the small one still holds the other.", func(p *pen) {
		p.drums()
		p.in(func() { p.line(2, "M24 58Q60 44 80 40T118 12") })
	}, "Shorter, it is let go before it is taken on.", func(p *pen) {
		p.drums()
		p.in(func() { p.line(2, "M4 46Q20 44 32 52M92 22Q104 12 118 12") })
	}},
	"R04": {"A stiff thick fibre drags fine ones along and rolls them up.", func(p *pen) {
		p.in(func() { p.fibre(6, 40, 168, 0.5, 5) })
		p.tuft(6, 52, 120, 2, 0.8, 6)
		p.dot(138, 58, 5)
		p.dot(154, 66, 4)
	}, "Of like thickness, all bend alike.", func(p *pen) {
		p.in(func() { p.fibre(6, 40, 168, 2, 1.4) })
		p.tuft(6, 52, 164, 2, 1, 6)
	}},
	"R06": {"Between pins far apart fine fibre is not caught.", func(p *pen) {
		p.pins(10, 80, 160, 40, 32)
		p.in(func() { p.tuft(14, 60, 150, 2, 0.8, 5) })
	}, "Pins close enough take hold of it.", func(p *pen) {
		p.pins(10, 80, 160, 40, 9)
		p.in(func() { p.tuft(14, 48, 150, 2, 0.8, 5) })
	}},
	"R07": {"Thick fibre packs tight between close thin pins.", func(p *pen) {
		p.pins(10, 80, 160, 40, 7)
		p.in(func() { p.tuft(14, 46, 150, 1, 4, 5) })
	}, "Pins farther apart let it lie, and let it go.", func(p *pen) {
		p.pins(10, 80, 160, 40, 24)
		p.in(func() { p.tuft(14, 46, 150, 1, 4, 5) })
	}},
	"R08": {"Straight and smooth: nothing holds on to anything.", func(p *pen) {
		p.in(func() { p.tuft(8, 24, 160, 0, 1.2, 12) })
		p.fibre(8, 70, 160, 4, 1.4)
	}, "Crimped wool between it binds the web.", func(p *pen) {
		for i := range 4 {
			y := 24 + 16*float64(i)
			p.fibre(8, y, 160, 4, 1.4)
			p.in(func() { p.fibre(8, y+8, 160, 0, 1.2) })
		}
	}},
	"R16": {"What lies above the pins is opened no more.", func(p *pen) { layered(p, 3, 16, 16, 14, 20) },
		"In two batts, all of it is between the pins.", func(p *pen) { layered(p, -1, 11, 11, 11) }},
	"R18": {"So thin a web falls apart as it is lifted.", func(p *pen) { layered(p, 0, 6) },
		"Fuller, fibres cross each spot and hold.", func(p *pen) { layered(p, -1, 11, 11) }},
	"R19": {"One lane is thick: it comes off as a ridge.", func(p *pen) { lanes(p, 1, []float64{40, 40, 40, 40}, 34, 70, 34, 34) },
		"Wider, it is as thick as the others.", func(p *pen) { lanes(p, 1, []float64{33, 62, 33, 32}, 43, 43, 43, 43) }},
	"R20": {"Along a thin lane the batt splits.", func(p *pen) { lanes(p, 2, []float64{40, 40, 40, 40}, 50, 50, 18, 50) },
		"Narrower, it is as thick as the others.", func(p *pen) { lanes(p, 2, []float64{48, 48, 17, 47}, 42, 42, 42, 42) }},
	"R21": {"A thick mat is torn, not opened.", func(p *pen) {
		p.drums()
		p.in(func() { p.box(2, 34, 22, 16) })
	}, "A veil that print can be read through is taken fibre by fibre.", func(p *pen) {
		p.drums()
		p.in(func() { p.box(2, 47, 22, 3) })
	}},
	"R24": {"Slippery fibre deepest: it stays in the cloth.", func(p *pen) { layered(p, 0, 12, 12, 12) },
		"Wool deepest brings all of it up.", func(p *pen) { layered(p, 1, 10, 12, 12) }},
	"R25": {"Bare dots drop as the batt comes off.", func(p *pen) {
		layered(p, -1, 12, 12)
		p.in(func() { p.dot(40, 57, 4); p.dot(84, 56, 4); p.dot(132, 57, 4) })
		p.arrow(150, 50, 168, 20)
	}, "A veil of wool over them holds them.", func(p *pen) {
		layered(p, -1, 12, 12)
		p.in(func() { p.dot(40, 57, 4); p.dot(84, 56, 4); p.dot(132, 57, 4) })
		p.tuft(12, 50, 152, 2, 1.2, 2)
	}},
	"R27": {"Each trip over the pins opens the curl.", func(p *pen) {
		p.drums()
		p.in(func() { p.fibre(82, 12, 60, 1, 2) })
	}, "Laid on by hand and last, it stays a curl.", func(p *pen) {
		p.drums()
		p.in(func() { p.lock(98, 10) })
	}},
	"R28": {"Over a cut a lock belongs to two rolags, and tears.", func(p *pen) { board(p, 35, 66) },
		"Clear of the cuts, each goes whole into one.", func(p *pen) { board(p, 20, 52, 81) }},
	"R29": {"The small drum throws bare dots down.", func(p *pen) {
		p.drums()
		p.in(func() { p.dot(20, 44, 4); p.dot(30, 88, 4); p.dot(44, 92, 4) })
	}, "Between two veils they ride in.", func(p *pen) {
		p.drums()
		p.fibre(2, 40, 22, 1, 1.2)
		p.in(func() { p.dot(8, 44, 3); p.dot(18, 44, 3) })
		p.fibre(2, 48, 22, 1, 1.2)
	}},
	"R30": {"Slick fibre winds round the small drum.", func(p *pen) {
		p.drums()
		p.in(func() { p.spiral(38, 66, 16, 24, 3) })
	}, "Held against the main drum, it goes where it should.", func(p *pen) {
		p.drums()
		p.in(func() { p.line(2, "M140 2Q122 4 108 14") })
	}},
	"R31": {"The next colour lies on a slab, not in it.", func(p *pen) { layered(p, 0, 24, 8, 8) },
		"In thin layers they lie between each other.", func(p *pen) {
			layered(p, -1, 8, 8, 8, 8, 8)
			p.in(func() { p.box(10, 70, 160, 7); p.box(10, 54, 160, 7) })
		}},
	"R32": {"Up the board, the brush lifts it off again.", func(p *pen) {
		board(p)
		p.in(func() { p.arrow(90, 84, 90, 16) })
	}, "From the handle down, the pins take it.", func(p *pen) {
		board(p)
		p.in(func() { p.arrow(90, 16, 90, 84) })
	}},
	"R33": {"One pass: a few thick layers.", func(p *pen) { layered(p, 1, 12, 12, 12) },
		"Each pass folds them to more and thinner ones.", func(p *pen) {
			layered(p, -1, 6, 6, 6, 6, 6, 6)
			p.in(func() { p.box(10, 74, 160, 5); p.box(10, 62, 160, 5); p.box(10, 50, 160, 5) })
		}},
	"R35": {"Whole, left stays left.", func(p *pen) {
		lanes(p, 0, []float64{54, 54, 52}, 40, 40, 40)
	}, "In strips, each over the whole width, they meet.", func(p *pen) {
		for i, y := range []float64{50, 62, 74} {
			draw := func() { p.box(10, y, 158, 10) }
			if i == 0 {
				p.in(draw)
			} else {
				p.pale(draw)
			}
		}
	}},
	"R38": {"Opposite each other, the two end as mud.", func(p *pen) { wheel(p, 50, 50, 130, 50) },
		"Nearer to each other, the mix stays a colour.", func(p *pen) { wheel(p, 66, 18, 122, 26) }},
	"R39": {"A jump shows as a line in the yarn.", func(p *pen) { stairs(p, 2, 20, 28, 76, 84) },
		"A bridge of both stands between.", func(p *pen) { stairs(p, 2, 20, 28, 52, 76, 84) }},
	"R40": {"What dark fibre left behind shows in the light one.", func(p *pen) {
		p.box(10, 34, 60, 40)
		p.arrow(76, 54, 98, 54)
		p.line(1.2, "M106 34h60v40h-60z")
		p.in(func() { p.fibre(112, 46, 20, 2, 1.4); p.fibre(134, 60, 24, 2, 1.4); p.fibre(116, 66, 14, 2, 1.4) })
	}, "Light first, or cleaned between.", func(p *pen) {
		p.line(1.2, "M10 34h60v40h-60z")
		p.arrow(76, 54, 98, 54)
		p.box(106, 34, 60, 40)
	}},
	"R60": {"Tight, it grips itself; loose, it falls open.", func(p *pen) {
		p.in(func() { p.spiral(50, 52, 1, 20, 8) })
		p.spiral(130, 52, 4, 36, 3)
	}, "In between, it lets go fibre by fibre.", func(p *pen) { p.spiral(90, 52, 3, 30, 5) }},
	"R61": {"Too short a wrap has no lap and opens.", func(p *pen) {
		p.in(func() { p.line(2, "M66 62A28 28 0 1 1 112 64") })
	}, "One and three quarters of a staple laps and still drafts.", func(p *pen) { p.spiral(90, 52, 22, 32, 1.75) }},
	"R62": {"Round a thick rod short fibre does not lap.", func(p *pen) {
		p.circle(90, 52, 34, 1.2)
		p.in(func() { p.line(2.4, "M62 26A38 38 0 0 1 118 26") })
	}, "Round a thin one it holds on, and slips off.", func(p *pen) {
		p.circle(90, 52, 10, 1.2)
		p.in(func() { p.line(2.4, "M78 44A14 14 0 1 1 84 65") })
	}},
	"R64": {"Drawn across the fibre, it folds and catches.", func(p *pen) {
		p.tuft(20, 30, 80, 1, 1.2, 12)
		p.in(func() { p.arrow(60, 20, 60, 2) })
	}, "Along it, through the hole, it stays in line.", func(p *pen) {
		p.tuft(10, 40, 70, 1, 1.2, 6)
		p.circle(100, 50, 12, 1.6)
		p.fibre(92, 50, 60, 1, 3)
		p.in(func() { p.arrow(146, 50, 174, 50) })
	}},
	"R65": {"Against the lean the web tears.", func(p *pen) {
		p.pins(10, 80, 150, 30, 12)
		p.tuft(14, 56, 140, 2, 1.2, 3)
		p.in(func() { p.arrow(60, 40, 14, 30) })
	}, "Along the lean it comes off freely.", func(p *pen) {
		p.pins(10, 80, 150, 30, 12)
		p.tuft(14, 56, 140, 2, 1.2, 3)
		p.in(func() { p.arrow(100, 40, 160, 26) })
	}},
	"L08": {"Spread over the width, the strips lay every colour everywhere.", func(p *pen) {
		for i, y := range []float64{46, 58, 70} {
			draw := func() { p.box(10, y, 158, 10) }
			if i == 1 {
				p.in(draw)
			} else {
				p.pale(draw)
			}
		}
	}, "Each in its own place, the lanes stay.", func(p *pen) { lanes(p, 1, []float64{54, 54, 52}, 40, 40, 40) }},
}

// Rules that are about the same thing share a drawing.
func init() {
	for rule, as := range map[string]string{
		"R02": "R01", "R09": "R08", "R17": "R16", "L04": "R16", "L05": "R19", "R37": "R27", "L06": "R01",
	} {
		rulePictures[rule] = rulePictures[as]
	}
}
