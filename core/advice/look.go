package advice

import (
	"slices"
	"strings"

	"fairtangle/core/unit"
)

// look is one rule looking at one plan.
type look struct {
	Plan
	bounds  Bounds
	rule    *rule
	missing string
	found   []Finding
}

// known reports whether something that a rule needs was told; the first that was not is named.
func (l *look) known(ok bool, what string) bool {
	if !ok && l.missing == "" {
		l.missing = what
	}
	return ok
}

// waits reports whether the rule hangs on what nobody knows of a fibre yet, and names the first that is enough to matter.
func (l *look) waits() bool {
	const toMatter = 0.05 // of the weight
	for _, f := range l.Fibres {
		if l.rule.waits != nil && atLeast(f.Share, toMatter) && l.rule.waits(f) {
			return !l.known(false, "of what kind "+f.Name+" is")
		}
	}
	return false
}

// b is a bound of the rule.
func (l *look) b(name string) float64 {
	if v, ok := l.bounds[l.rule.ID+" "+name]; ok {
		return v
	}
	return l.rule.figures[name]
}

func (l *look) find(sev Severity, values map[string]float64, what string, args ...any) *Finding {
	l.found = append(l.found, Finding{
		Rule: l.rule.ID, Key: l.rule.Key, Severity: sev, Component: -1, Layer: -1, Values: values, What: unit.Say(what, args...),
	})
	return &l.found[len(l.found)-1]
}

func (f *Finding) of(component int) *Finding {
	f.Component = component
	return f
}

// most is for what several have part in: it names the one with the largest share.
func (l *look) most(f *Finding, such func(Fibre) bool) {
	f.whole = true
	for i, v := range l.Fibres {
		if such(v) && (f.Component < 0 || v.Share > l.Fibres[f.Component].Share) {
			f.Component = i
		}
	}
}

func (f *Finding) at(layer int) *Finding {
	f.Layer = layer
	return f
}

// alone reports whether there is one fibre and no other.
func (l *look) alone() bool {
	n := 0
	for _, f := range l.Fibres {
		if f.Share > 0 {
			n++
		}
	}
	return n == 1
}

// fineBase reports whether the batt itself is of fine wool: half of it or more wears as easily.
func (l *look) fineBase() bool {
	return atLeast(l.Sum(func(f Fibre) bool { return f.Kind.Family == "wool" && f.Kind.Fragile }), 0.5)
}

type values = map[string]float64

// Bounds are figures that a maker has set otherwise than they usually are, such as "R08 from".
type Bounds map[string]float64

// Of is a figure by its key: the maker's own, else the usual one.
func (b Bounds) Of(key string) float64 {
	if v, ok := b[key]; ok {
		return v
	}
	id, name, _ := strings.Cut(key, " ")
	if r := byID[id]; r != nil {
		return r.figures[name]
	}
	return 0
}

// Defaults are the usual bounds of all rules.
func Defaults() Bounds {
	out := Bounds{}
	for _, r := range rules {
		for name, v := range r.figures {
			out[r.ID+" "+name] = v
		}
	}
	return out
}

// Answer is what the second look sees.
type Answer struct {
	Findings []Finding
	Checked  []string
	Unjudged []Unjudged
}

// Judge looks a plan over with all rules, and offers mends that end what they are for.
func Judge(p Plan, b Bounds) Answer {
	a := judged(p, b)
	for i := range a.Findings {
		if i == mostMended {
			break
		}
		a.Findings[i].mend(p, b, a)
	}
	return a
}

// mostMended is for how many findings, the dearest first, a mend is worked out: each is judged by
// all rules again. Where there are more, the others come when these are mended.
const mostMended = 40

// judged looks without offering mends.
func judged(p Plan, b Bounds) (a Answer) {
	for i := range rules {
		r := &rules[i]
		if r.judge == nil {
			continue
		}
		l := look{Plan: p, bounds: b, rule: r}
		if !l.waits() {
			r.judge(&l)
		}
		if l.missing != "" && len(l.found) == 0 {
			a.Unjudged = append(a.Unjudged, Unjudged{r.ID, r.Key, l.missing})
			continue
		}
		a.Checked = append(a.Checked, r.ID)
		a.Findings = append(a.Findings, l.found...)
	}
	for i := range a.Findings {
		a.Findings[i].Cost = p.cost(a.Findings[i])
	}
	slices.SortStableFunc(a.Findings, Dearer)
	return a
}

// With takes in what is seen of the lay-up itself. A rule that a lay-up is looked over by is judged there alone, as that knows
// the cloth by the gram and the press that ends it: what the plan says of it goes, also where nothing is seen; its mend stays.
func (a Answer) With(p Plan, l Laid) Answer {
	seen := map[string]bool{}
	var out []Finding
	for _, v := range l.Findings {
		if v.Rule == "R63" && p.Product == "punis" { // it was told that punis are made
			continue
		}
		f := Finding{Rule: v.Rule, Key: v.Key, Severity: v.Severity, Component: v.Component, Layer: v.Layer, What: v.What, Laid: &v, whole: v.Component < 0}
		for _, o := range a.Findings {
			if o.Rule == v.Rule && (o.Component == v.Component || v.Component < 0) {
				f.Mend, f.CannotBe, f.Values, f.Component = o.Mend, o.CannotBe, o.Values, o.Component
			}
		}
		f.Cost = p.cost(f)
		seen[v.Rule] = true
		out = append(out, f)
	}
	for _, f := range a.Findings {
		if !seen[f.Rule] && (f.beside || !l.Looked || len(byID[f.Rule].laid) == 0) {
			out = append(out, f)
		}
	}
	slices.SortStableFunc(out, Dearer)
	a.Findings = out
	return a
}

// Stops counts the findings that say stop.
func (a Answer) Stops() (n int) {
	for _, f := range a.Findings {
		if f.Severity == Stop {
			n++
		}
	}
	return n
}
