package advice

import (
	"math"
	"slices"

	"fairtangle/core/unit"
)

// mender works out a plan that a finding is not found in, what kind of change it is, and what it
// does in a sentence; ok is false where there is none.
type mender func(p Plan, f Finding, b func(string) float64) (after Plan, verb string, said unit.Sentence, ok bool)

// answer gives an answer that the mend tells.
func (p *Plan) answer(key string, fibre int, v float64) {
	p.Tell(key, fibre, v)
	p.tells = append(p.tells, Telling{key, fibre, v})
}

// Mendable reports whether a rule has a change that ends it.
func Mendable(rule string) bool { return byID[rule] != nil && byID[rule].mend != nil }

// mend offers a change that ends a finding, where one does: none that leaves it, or that makes more
// stops than there were.
func (f *Finding) mend(p Plan, b Bounds, before Answer) {
	r := byID[f.Rule]
	if r.mend == nil {
		return
	}
	rule := f.Rule
	if r.kin != "" {
		rule = r.kin
	}
	bound := func(name string) float64 { return b.Of(rule + " " + name) }
	f.CannotBe = "Nothing that is in the plan would end it: it is your choice, or a matter for the shelf."
	for _, m := range []mender{r.mend, r.otherwise} {
		if m == nil {
			continue
		}
		after, verb, said, ok := m(p.clone(), *f, bound)
		if !ok {
			continue
		}
		now := judged(after, b)
		if now.has(*f) || now.Stops() > before.Stops() {
			f.CannotBe = "What would end it here brings a graver fault with it: it is yours to weigh."
			continue
		}
		out := Mend{Verb: verb, Preview: said, After: after, Tells: after.tells, Cloth: after.cloth}
		out.After.tells, out.After.cloth = nil, 0
		out.Ends, out.Comes = lacks(before.rules(), now.rules()), lacks(now.rules(), before.rules())
		f.Mend, f.CannotBe = &out, ""
		return
	}
	if r.shelf {
		if out := fromShelf(p, *f, b, before); out != nil {
			f.Mend, f.CannotBe = out, ""
		}
	}
}

// lacks are those of a list that another does not have.
func lacks(list, other []string) (out []string) {
	for _, v := range list {
		if !slices.Contains(other, v) {
			out = append(out, v)
		}
	}
	return out
}

// rules are those that found something, each once.
func (a Answer) rules() (out []string) {
	for _, f := range a.Findings {
		if !slices.Contains(out, f.Rule) {
			out = append(out, f.Rule)
		}
	}
	return out
}

// has reports whether a finding is there still: by the same rule, of the same component.
func (a Answer) has(f Finding) bool {
	return slices.ContainsFunc(a.Findings, func(o Finding) bool {
		return o.Rule == f.Rule && (f.whole || f.Component < 0 || o.Component == f.Component)
	})
}

func (p Plan) clone() Plan {
	p.Fibres = slices.Clone(p.Fibres)
	p.Layers = slices.Clone(p.Layers)
	for i := range p.Layers {
		p.Layers[i].Lays = slices.Clone(p.Layers[i].Lays)
	}
	return p
}

// reshare gives components other shares; what lies of each on the cloth follows.
func (p *Plan) reshare(shares []float64) {
	for i := range p.Fibres {
		old := p.Fibres[i].Share
		if old > 0 && old != shares[i] {
			for y := range p.Layers {
				for k := range p.Layers[y].Lays {
					if v := &p.Layers[y].Lays[k]; v.Component == i {
						v.Grams *= shares[i] / old
					}
				}
			}
		}
		p.Fibres[i].Share = shares[i]
	}
}

// carrierOf is the component that takes what others give up: an unlocked grippy wool, a carrier
// first, the one of which there is most; -1 where there is none.
func (p Plan) carrierOf(not func(Fibre) bool) int {
	best, rank := -1, 0.0
	for i, f := range p.Fibres {
		if f.Locked || not(f) || !f.grippyWool() || !f.body() || f.Share <= 0 {
			continue
		}
		r := f.Share
		if f.carrier() {
			r++
		}
		if best < 0 || r > rank {
			best, rank = i, r
		}
	}
	return best
}

// shrink brings the unlocked components that are such down in proportion until all of them
// together are so much; a wool takes the rest.
func (p *Plan) shrink(such func(Fibre) bool, to float64) (taker int, ok bool) {
	taker = p.carrierOf(such)
	var held, free float64
	shares := make([]float64, len(p.Fibres))
	for i, f := range p.Fibres {
		shares[i] = f.Share
		if such(f) && f.Locked {
			held += f.Share
		} else if such(f) {
			free += f.Share
		}
	}
	if taker < 0 || free <= 0 || held > to {
		return taker, false
	}
	part := (to - held) / free
	given := 0.0
	for i, f := range p.Fibres {
		if such(f) && !f.Locked {
			shares[i] *= part
			given += f.Share - shares[i]
		}
	}
	shares[taker] += given
	p.reshare(shares)
	return taker, true
}

// shareSaid says what gives up how much, and to whom; nothing where nobody takes it.
func (p Plan) shareSaid(taker int, what string, to float64) (said unit.Sentence) {
	if taker < 0 {
		return said
	}
	return unit.Say("%s %g %%, and %s %g %%.", what, percent(to), p.Fibres[taker].Name, percent(p.Fibres[taker].Share))
}

func mendSlippery(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	to := b("from")
	i, ok := p.shrink(Fibre.slippery, to)
	return p, "share", p.shareSaid(i, "Slippery fibre", to), ok
}

func mendUsual(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	name, most := p.Fibres[f.Component].Name, p.Fibres[f.Component].Kind.MaxPct/100
	only := f.Component
	i, ok := p.shrinkOne(only, most)
	return p, "share", p.shareSaid(i, name, most), ok
}

// shrinkOne brings one component down to a share.
func (p *Plan) shrinkOne(at int, to float64) (int, bool) {
	if p.Fibres[at].Locked {
		return -1, false
	}
	taker := -1
	for i, f := range p.Fibres {
		if i != at && !f.Locked && f.grippyWool() && f.body() && f.Share > 0 && (taker < 0 || f.Share > p.Fibres[taker].Share) {
			taker = i
		}
	}
	if taker < 0 {
		return -1, false
	}
	shares := make([]float64, len(p.Fibres))
	for i, f := range p.Fibres {
		shares[i] = f.Share
	}
	shares[taker] += shares[at] - to
	shares[at] = to
	p.reshare(shares)
	return taker, true
}

func mendSparkle(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	to := math.Min(0.02, b("share"))
	i, ok := p.shrink(Fibre.sparkle, to)
	return p, "share", p.shareSaid(i, "What glitters", to), ok
}

func mendTexture(p Plan, f Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	dots, share := p.Sum(Fibre.dots), b("share")
	such, to := Fibre.texture, share
	if above(dots, b("dots")) {
		such, to = Fibre.dots, b("dots")
	}
	i, ok := p.shrink(such, to)
	if !ok {
		return p, "", unit.Sentence{}, false
	}
	if rest := p.Sum(Fibre.texture); above(rest, share) { // both were too much
		if i, ok = p.shrink(Fibre.texture, share); !ok {
			return p, "", unit.Sentence{}, false
		}
	}
	return p, "share", p.shareSaid(i, "Texture", p.Sum(such)), true
}

// raise brings a component up to a share; the other unlocked ones give way in proportion.
func (p *Plan) raise(at int, to float64) bool {
	var free float64
	for i, f := range p.Fibres {
		if i != at && !f.Locked {
			free += f.Share
		}
	}
	more := to - p.Fibres[at].Share
	if more <= 0 || free <= more {
		return false
	}
	shares := make([]float64, len(p.Fibres))
	for i, f := range p.Fibres {
		if shares[i] = f.Share; i != at && !f.Locked {
			shares[i] *= 1 - more/free
		}
	}
	shares[at] = to
	p.reshare(shares)
	return true
}

func mendShort(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	at := p.carrierOf(func(f Fibre) bool { return !f.carrier() })
	if at < 0 || !p.raise(at, b("carrier")) {
		return p, "", unit.Sentence{}, false
	}
	return p, "share", unit.Say("%s %g %%; it lifts the short fibre and carries it.", p.Fibres[at].Name, percent(p.Fibres[at].Share)), true
}

func mendCrimp(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	flat := func(f Fibre) bool { return f.Kind.Crimp == "none" || f.Kind.Crimp == "low" }
	to := math.Min(b("share"), p.Sum(flat)-0.15)
	i, ok := p.shrink(flat, math.Max(to, 0))
	if !ok {
		return p, "", unit.Sentence{}, false
	}
	return p, "share", unit.Say("%s %g %%, for the spring.", p.Fibres[i].Name, percent(p.Fibres[i].Share)), true
}

// leastCut is the length below which nothing is cut for the sake of another, mm.
const leastCut = 40

func mendStaple(p Plan, f Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	l := look{Plan: p}
	long, short, _ := l.staples(b("share"))
	if long < 0 {
		return p, "", unit.Sentence{}, false
	}
	to := b("ratio") * p.Fibres[short].staple()
	if to < leastCut {
		return p, "", unit.Sentence{}, false
	}
	p.answer("prepared_mm", long, to)
	return p, "tell", unit.Say("%s pulled or cut to %s.", p.Fibres[long].Name, unit.Millimetres(to)), true
}

// mendLess brings the fibre that it is about, or the short one of two that clash, below the share
// from which it counts.
func mendLess(p Plan, f Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	at, to := f.Component, b("share")-0.01
	if f.Rule == "R01" || f.Rule == "R02" {
		l := look{Plan: p}
		_, at, _ = l.staples(b("share"))
	}
	if at < 0 || to <= 0 {
		return p, "", unit.Sentence{}, false
	}
	name := p.Fibres[at].Name
	i, ok := p.shrinkOne(at, to)
	return p, "share", p.shareSaid(i, name, to), ok
}

func mendLength(p Plan, f Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	to := math.Min(100, b("mm"))
	p.answer("prepared_mm", f.Component, to)
	return p, "tell", unit.Say("%s pulled or cut to %s.", p.Fibres[f.Component].Name, unit.Millimetres(to)), true
}

func mendPuni(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.answer("product", -1, 2)
	return p, "tell", unit.Say("Punis: firm, thin, rolled on one rod."), true
}
