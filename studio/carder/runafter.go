package carder

import (
	"time"

	"fairtangle/core/colour"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/workshop"
)

// Since is how many seconds ago the last entry was made; 0 where there is none.
func (v Run) Since() float64 {
	if n := len(v.Row.Entries); n > 0 {
		return max(0, time.Since(v.Row.Entries[n-1].At).Seconds())
	}
	return 0
}

// Ticks are the checks that were made.
func (v Run) Ticks() map[string]bool { return v.State.Ticks }

// Clean reports whether the cloth was clean at the beginning.
func (v Run) Clean() bool { return v.State.Clean }

// Steps are the steps of the work of a unit, through as many passes as it goes.
func (v Run) Steps(unitNo int) laying.Layup { return v.StepsOf(len(v.State.Units[unitNo].Passes)) }

// StepsOf are the steps of the work through so many passes.
func (v Run) StepsOf(passes int) laying.Layup {
	p, e := laying.PlanOf(v.Row.Plan.Layup), workshop.EquipmentOf(v.Row.Plan.Equipment)
	l := laying.Layup{Equipment: e, Bed: e.Bed(), LaidPlan: p, StepG: v.Weighout.StepG, LastPass: passes}
	l.PlanInput, l.Name, l.Units = laying.PlanInputOf(p), v.Name, len(v.Units)
	if v.LayupID != nil {
		l.ID = *v.LayupID
	}
	for _, f := range v.Row.Plan.Fibres {
		l.LaidFibres = append(l.LaidFibres, layup.Fibre{Name: f.Name, Grams: f.Grams, Loses: losses.Fall{First: f.LossPass, Decay: f.Decay},
			Crimp: f.Crimp, Preparation: f.Preparation, Family: f.Family, Role: f.Role, Colour: colourOf(f.Hex)})
		l.Fibres = append(l.Fibres, laying.LayupFibre{Name: f.Name, Hexes: []string{f.Hex}})
	}
	within := p.Within(l.LastPass)
	l.Survey.Steps = within.Steps(l.Bed, l.LaidFibres, l.LastPass)
	l.Survey.Rolls = within.Rolls(l.Bed, l.LaidFibres)
	return l
}

// Another judges whether another pass follows one of a unit.
func (v Run) Another(unitNo, pass int) run.Answer {
	u := v.State.Units[unitNo]
	school := layup.Chosen(v.Row.Plan.Schools)
	q := run.Question{
		School: school["passes"], Specks: school["specks"], Pass: pass, Planned: v.Row.Passes, Seen: run.Unknown, Now: v.rank(pass), Next: v.rank(pass + 1),
		Goal: v.rank(v.Row.Passes), SpecksNow: run.Unknown, SpecksBefore: run.Unknown,
	}
	if pass >= 1 && pass <= len(u.Passes) {
		p := u.Passes[pass-1]
		if e, ok := p.Facts[run.Look]; ok {
			q.Seen = floor.RankOf(e.Text)
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
	plan := laying.PlanOf(v.Row.Plan.Layup)
	for i := range v.Row.Plan.Fibres {
		q.Joins = q.Joins || plan.JoinsAt(i) > pass
	}
	return run.Another(q)
}

func (v Run) rank(pass int) int {
	if pass < 1 || pass > len(v.Foreseen) {
		return run.Unknown
	}
	return floor.RankOf(v.Foreseen[pass-1].Look)
}

// Rolls is what is rolled off it, rolags or punis; empty where a batt or a strand comes off.
func (v Run) Rolls() string {
	b := workshop.EquipmentOf(v.Row.Plan.Equipment).Bed()
	if made := laying.PlanOf(v.Row.Plan.Layup).OffOf(b).Makes(); made == "rolags" || made == "punis" {
		return made
	}
	return ""
}

func colourOf(hex string) colour.Lab {
	r := floor.ReflectanceOf(hex)
	return r.Lab()
}
