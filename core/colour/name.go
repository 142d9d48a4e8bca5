package colour

// Name returns a colour a plain name, such as "deep teal" or "pale warm grey",
// so that none is told by its swatch alone. Hues are divided by the CIELAB hue
// angle, lightness in five steps; neighbours may share a name.
func Name(c Lab) string {
	chroma := c.Chroma()
	if chroma < 14 {
		return neutral(c, chroma)
	}
	hue := hueName(c)
	switch {
	case c.L < 25:
		return "dark " + hue
	case c.L < 42:
		return "deep " + hue
	case c.L < 62:
		if chroma < 28 {
			return "muted " + hue
		}
		return hue
	case c.L < 80:
		if chroma < 28 {
			return "soft " + hue
		}
		return "bright " + hue
	}
	return "pale " + hue
}

func neutral(c Lab, chroma float64) string {
	shade, h := "mid ", c.Hue()
	switch {
	case c.L > 84 && chroma >= 5 && h > 70 && h < 115: // undyed wool
		return "cream"
	case c.L > 92 && chroma < 8:
		return pick(c.B > 2.5, "warm white", "white")
	case c.L < 16:
		return "black"
	case c.L > 78:
		shade = "pale "
	case c.L > 62:
		shade = "light "
	case c.L < 36:
		shade = "dark "
	}
	if chroma < 4 {
		return shade + "grey"
	}
	if h > 50 && h < 115 && c.L > 55 && chroma > 8 {
		return shade + "sand"
	}
	if h > 30 && h < 100 && c.L < 50 && chroma > 8 {
		return shade + "brown"
	}
	switch {
	case h < 30 || h >= 330:
		return shade + "rosy grey"
	case h < 115:
		return shade + "warm grey"
	case h < 190:
		return shade + "green grey"
	case h < 290:
		return shade + "blue grey"
	}
	return shade + "violet grey"
}

func hueName(c Lab) string {
	h, chroma := c.Hue(), c.Chroma()
	brownish := c.L < 55 && chroma < 50
	for _, v := range []struct {
		to   float64
		name string
	}{
		{16, pick(c.L > 50, "pink", "crimson")}, {42, pick(c.L > 68 && chroma < 45, "pink", "red")},
		{62, pick(brownish, "rust", "orange")}, {80, pick(brownish, "brown", "amber")},
		{98, pick(brownish, "olive brown", pick(chroma < 34, "sand", "yellow"))}, {118, pick(c.L < 62, "olive", "lime yellow")},
		{150, "green"}, {178, "sea green"}, {230, "teal"}, {255, "sky blue"}, {288, "blue"}, {312, "violet"}, {330, "purple"}, {360, pick(c.L > 45, "pink",
			"crimson")},
	} {
		if h <= v.to {
			if v.name == "sky blue" && c.L < 45 {
				return "sea blue"
			}
			return v.name
		}
	}
	return "crimson"
}
