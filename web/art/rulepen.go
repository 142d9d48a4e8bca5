package art

import (
	"fmt"
	"math"
	"strings"
)

// RuleStroke is a part of a drawing beside a rule: a path of 180 by 100, drawn or filled.
type RuleStroke struct {
	D     string
	Width float64 // of the line; 0: it is filled
	Soft  bool    // paler than ink
	Warm  bool    // in the colour of what the rule is about
}

// RulePanel is one half of a drawing beside a rule.
type RulePanel struct {
	Words   string
	Strokes []RuleStroke
}

// pen draws a panel.
type pen struct {
	list []RuleStroke
	warm bool
	soft bool
}

func (p *pen) line(width float64, format string, args ...any) {
	p.list = append(p.list, RuleStroke{D: fmt.Sprintf(format, args...), Width: width, Soft: p.soft, Warm: p.warm})
}

func (p *pen) fill(format string, args ...any) {
	p.list = append(p.list, RuleStroke{D: fmt.Sprintf(format, args...), Soft: p.soft, Warm: p.warm})
}

// in draws in the colour of what it is about; pale in a paler one.
func (p *pen) in(draw func()) {
	p.warm = true
	draw()
	p.warm = false
}

func (p *pen) pale(draw func()) {
	p.soft = true
	draw()
	p.soft = false
}

// fibre is a crimped or straight fibre that lies from left to right.
func (p *pen) fibre(x, y, long, crimp, width float64) {
	var d strings.Builder
	fmt.Fprintf(&d, "M%.1f %.1f", x, y)
	for at := 4.0; at <= long; at += 4 {
		fmt.Fprintf(&d, "L%.1f %.1f", x+at, y+crimp*math.Sin(at*0.8))
	}
	p.line(width, "%s", d.String())
}

// tuft is several fibres over each other.
func (p *pen) tuft(x, y, long, crimp, width float64, n int) {
	for i := range n {
		p.fibre(x+float64(i%3)*2, y+float64(i)*3.4, long-float64(i%2)*3, crimp, width)
	}
}

// pins are those of a cloth, from left to right, leaning.
func (p *pen) pins(x, y, wide, high, apart float64) {
	var d strings.Builder
	for at := 0.0; at <= wide; at += apart {
		fmt.Fprintf(&d, "M%.1f %.1fl%.1f %.1f", x+at, y, high*0.25, -high)
	}
	p.line(1, "%sM%.1f %.1fH%.1f", d.String(), x, y, x+wide)
}

func (p *pen) box(x, y, wide, high float64) {
	p.fill("M%.1f %.1fh%.1fv%.1fh%.1fz", x, y, wide, high, -wide)
}

func (p *pen) circle(x, y, r, width float64) {
	p.line(width, "M%.1f %.1fa%.1f %.1f 0 1 0 %.1f 0a%.1f %.1f 0 1 0 %.1f 0", x-r, y, r, r, 2*r, r, r, -2*r)
}

func (p *pen) dot(x, y, r float64) {
	p.fill("M%.1f %.1fa%.1f %.1f 0 1 0 %.1f 0a%.1f %.1f 0 1 0 %.1f 0z", x-r, y, r, r, 2*r, r, r, -2*r)
}

// spiral is something rolled up, seen from its end.
func (p *pen) spiral(x, y, from, to, turns float64) {
	var d strings.Builder
	for a := 0.0; a <= turns*2*math.Pi; a += 0.3 {
		r := from + (to-from)*a/(turns*2*math.Pi)
		fmt.Fprintf(&d, "%s%.1f %.1f", map[bool]string{true: "M", false: "L"}[a == 0], x+r*math.Cos(a), y+r*math.Sin(a))
	}
	p.line(1.6, "%s", d.String())
}

// arrow goes from one place to another.
func (p *pen) arrow(x1, y1, x2, y2 float64) {
	a := math.Atan2(y2-y1, x2-x1)
	p.line(1.6, "M%.1f %.1fL%.1f %.1fM%.1f %.1fL%.1f %.1fL%.1f %.1f", x1, y1, x2, y2,
		x2-7*math.Cos(a-0.5), y2-7*math.Sin(a-0.5), x2, y2, x2-7*math.Cos(a+0.5), y2-7*math.Sin(a+0.5))
}

// lock is a curl that lies.
func (p *pen) lock(x, y float64) {
	p.line(2.2, "M%.1f %.1fq8 -9 14 0t14 0t14 0", x, y)
}

// drums are the small drum, left, and the main one.
func (p *pen) drums() {
	p.circle(38, 66, 16, 1.4)
	p.circle(118, 52, 40, 1.4)
	p.line(1, "M2 50H22")
}
