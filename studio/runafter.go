package studio

import (
	"slices"
	"time"

	"fairtangle/core/carding"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
)

// Since is how many seconds ago the last entry was made; 0 where there is none.
func (v Run) Since() float64 {
	if n := len(v.row.Entries); n > 0 {
		return max(0, time.Since(v.row.Entries[n-1].At).Seconds())
	}
	return 0
}

// Ticks are the checks that were made.
func (v Run) Ticks() map[string]bool { return v.state.Ticks }

// Clean reports whether the cloth was clean at the beginning.
func (v Run) Clean() bool { return v.state.Clean }

// Steps are the steps of the work of a unit, through as many passes as it goes.
func (v Run) Steps(unitNo int) Layup { return v.StepsOf(len(v.state.Units[unitNo].Passes)) }

// StepsOf are the steps of the work through so many passes.
func (v Run) StepsOf(passes int) Layup {
	p, e := planOf(v.row.Plan.Layup), equipmentOf(v.row.Plan.Equipment)
	l := Layup{Equipment: e, bed: e.Bed(), plan: p, StepG: v.Weighout.StepG, LastPass: passes}
	l.PlanInput, l.Name, l.Units = PlanInputOf(p), v.Name, len(v.Units)
	if v.LayupID != nil {
		l.ID = *v.LayupID
	}
	for _, f := range v.row.Plan.Fibres {
		l.fibres = append(l.fibres, layup.Fibre{Name: f.Name, Grams: f.Grams, Loses: losses.Fall{First: f.LossPass, Decay: f.Decay}})
		l.Fibres = append(l.Fibres, LayupFibre{Name: f.Name, Hexes: []string{f.Hex}})
	}
	within := p.Within(l.LastPass)
	l.Survey.Steps = within.Steps(l.bed, l.fibres, l.LastPass)
	l.Survey.Rolls = within.Rolls(l.bed, l.fibres)
	return l
}

// Another judges whether another pass follows one of a unit.
func (v Run) Another(unitNo, pass int) run.Answer {
	u := v.state.Units[unitNo]
	school := layup.Chosen(v.row.Plan.Schools)
	q := run.Question{
		School: school["passes"], Specks: school["specks"], Pass: pass, Planned: v.row.Passes, Seen: run.Unknown, Now: v.rank(pass), Next: v.rank(pass + 1),
		Goal: v.rank(v.row.Passes), SpecksNow: run.Unknown, SpecksBefore: run.Unknown,
	}
	if pass >= 1 && pass <= len(u.Passes) {
		p := u.Passes[pass-1]
		if e, ok := p.Facts[run.Look]; ok {
			q.Seen = rankOf(e.Text)
		}
		if e, ok := p.Facts[run.Specks]; ok {
			q.SpecksNow = e.Number
		}
		if pass > 1 {
			if e, ok := u.Passes[pass-2].Facts[run.Specks]; ok {
				q.SpecksBefore = e.Number
			}
		}
	}
	plan := planOf(v.row.Plan.Layup)
	for i := range v.row.Plan.Fibres {
		q.Joins = q.Joins || plan.JoinsAt(i) > pass
	}
	return run.Another(q)
}

func (v Run) rank(pass int) int {
	if pass < 1 || pass > len(v.Foreseen) {
		return run.Unknown
	}
	return rankOf(v.Foreseen[pass-1].Look)
}

// rankOf is the place of a look among the looks, 0 for what is least carded; -1: there is no such.
func rankOf(look string) int { return slices.Index(carding.Looks(), carding.Look(look)) }

// Boarded reports whether rolags or punis come off.
func (v Run) Boarded() bool {
	t := layup.Type(v.Equipment.Type)
	return t == layup.Board || t == layup.Cards
}
