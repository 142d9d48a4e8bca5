package notebook

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"fairtangle/core/colour"
	"fairtangle/core/day"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/formats"
	"fairtangle/store"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// DayJob is a weigh-out that waits for a carder: so many batts alike.
type DayJob struct {
	WeighoutID int64
	Name       string
	Making     string
	Hex        string
	Units      int // that have not come off
	Minutes    float64
	Learned    bool // minutes are those of the maker's own runs
	Sheds      bool
	Fine       bool // most of it is
	Equipment  int64
	// Alone are the fibres that are carded alone first, palest first, which takes AloneMin in all; AloneHex is the first of them.
	Alone    []string
	AloneHex string
	AloneMin float64
}

// DayPlan is the work of a day in an order, with its time.
type DayPlan struct {
	Jobs  []DayJob
	Order []int // of the jobs
	Steps []day.Span
	// TotalMin is how long it takes in this order, BestMin in the one with the least cleaning.
	TotalMin, BestMin float64
	CleaningMin       float64 // of this order
	Exact             bool
	Fits              int
}

// DayInput asks for the order of a day: which weigh-outs, and the order chosen by hand, if any.
type DayInput struct {
	Weighouts []int64
	Order     []int64 // weigh-outs; what is missing comes after
	Times     day.Times
	FreeMin   float64
}

// Waiting lists weigh-outs that wait for equipment, those that follow a lay-up on it and of which
// units have not come off, a page of them, and those that are named beside. all is how many wait.
func (s *Room) Waiting(ctx context.Context, equipment int64, offset, limit int, beside ...int64) (out []DayJob, all int64, err error) {
	ids, all, err := s.Store.WaitingOn(ctx, equipment, offset, limit)
	if err != nil {
		return nil, 0, err
	}
	for _, id := range beside[:min(len(beside), day.MostJobs+1)] { // one too many is said so
		if !slices.Contains(ids, id) {
			ids = append(ids, id)
		}
	}
	out, err = s.jobs(ctx, equipment, ids)
	return out, all, err
}

// jobs are weigh-outs as jobs of a carder; what does not wait for it is left out.
func (s *Room) jobs(ctx context.Context, equipment int64, ids []int64) ([]DayJob, error) {
	out := []DayJob{}
	if len(ids) == 0 {
		return out, nil
	}
	list, err := s.toCard(ctx, equipment, ids)
	if err != nil {
		return nil, err
	}
	minutes, learned, err := s.minutesOn(ctx, equipment)
	if err != nil {
		return nil, err
	}
	e, err := s.workshop.AnyEquipment(ctx, equipment)
	if err != nil {
		return nil, err
	}
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return nil, err
	}
	tools, err := s.workshop.Rack.Tools(ctx)
	if err != nil {
		return nil, err
	}
	for _, v := range list {
		left := v.Units - v.off
		if left <= 0 {
			continue
		}
		j := DayJob{WeighoutID: v.ID, Name: v.Name, Making: v.making, Hex: v.blend.Hex, Units: left, Learned: learned, Equipment: equipment}
		plan := laying.PlanOf(v.layup.Plan)
		j.Minutes = float64(left*plan.Last(e.Bed(), v.blend.Passes))*minutes +
			workshop.ToolMinutes(tools, plan, v.blend.TotalG*float64(left)/float64(max(v.Units, 1)))
		if v.off == 0 {
			j.alone(v, e.Bed(), kinds, minutes)
		}
		most := 0.0
		for _, c := range v.Components {
			k := kinds.Named(c.Kind)
			j.Sheds = j.Sheds || k.Family == "sparkle" || k.Family == "down" || c.Preparation == "neps"
			if c.Share > most && k.Role != "texture" {
				most, j.Fine = c.Share, k.Fine()
			}
		}
		out = append(out, j)
	}
	return out, nil
}

// alone fills in what is carded alone before the units are, on the equipment that the day is spent on; between two fibres the cloth
// is cleaned as it is between two jobs.
func (j *DayJob) alone(v cardable, b layup.Bed, kinds workshop.Kinds, minutes float64) {
	p := layup.Plan{}
	var fibres []layup.Fibre
	passes := laying.PlanOf(v.layup.Plan).Last(b, v.blend.Passes)
	for _, c := range v.Components {
		way := losses.Way{Fall: losses.Fall{First: c.LossPct / 100, Decay: c.Decay}, Alone: c.AloneFirst, Joins: c.JoinsAtPass, Passes: passes}
		k := kinds.Named(c.Kind)
		f := laying.LayFibre(c.Name, way.WeighIn(floor.InGrams(v.FinishedMg)*c.Share)*way.Laid(), k, c.Preparation, k.StapleMM.Mid())
		r := floor.ReflectanceOf(c.Hex)
		f.Colour, f.Loses = r.Lab(), way.Fall
		fibres, p.Alone = append(fibres, f), append(p.Alone, c.AloneFirst)
	}
	var before day.Job
	for i, l := range layup.PaleFirst(p.Loadings(b, fibres, v.Units), fibres) {
		now := day.Job{Colour: fibres[l.Component].Colour}
		if i == 0 {
			j.AloneHex = v.Components[l.Component].Hex
		} else {
			j.AloneMin += map[day.Clean]float64{day.Full: UsualFullMin, day.Quick: UsualQuickMin}[day.Between(before, now)]
		}
		before = now
		j.Alone, j.AloneMin = append(j.Alone, fibres[l.Component].Name), j.AloneMin+float64(l.Passes*l.Loads)*minutes
	}
}

// cardable is a weigh-out that follows a lay-up on a carder, with what lies around it.
type cardable struct {
	store.ToCard
	layup  store.Layup
	blend  recipe.Blend
	making string
	off    int // units that have come off
}

// toCard reads weigh-outs that follow a lay-up on a carder and whose making is at work, all at once.
func (s *Room) toCard(ctx context.Context, equipment int64, ids []int64) (out []cardable, err error) {
	rows, err := s.Store.ToCardByID(ctx, ids)
	if err != nil {
		return nil, err
	}
	off, err := s.Store.CameOff(ctx, ids)
	if err != nil {
		return nil, err
	}
	var laid, of []int64
	for _, r := range rows {
		of = append(of, r.BlendID)
		if r.LayupID != nil {
			laid = append(laid, *r.LayupID)
		}
	}
	list, err := store.Pieces[store.Layup](ctx, s.Store, "id IN ? AND equipment_id = ?", laid, equipment)
	if err != nil {
		return nil, err
	}
	layups := map[int64]store.Layup{}
	for _, l := range list {
		layups[l.ID] = l
	}
	blends, err := s.recipe.BlendsByID(ctx, of)
	if err != nil {
		return nil, err
	}
	makings, err := s.recipe.MakingsOf(ctx, blends)
	if err != nil {
		return nil, err
	}
	for _, id := range ids {
		r, known := rows[id]
		if !known || r.LayupID == nil {
			continue
		}
		l, laid := layups[*r.LayupID]
		b, there := blends[r.BlendID]
		m, live := makings[b.MakingID]
		if laid && there && live {
			out = append(out, cardable{r, l, b, m, off[id]})
		}
	}
	return out, nil
}

// minutesOn is how long a pass of one unit takes on equipment: as the runs on it have shown
// (the middle one), else as the equipment says.
func (s *Room) minutesOn(ctx context.Context, equipment int64) (minutes float64, learned bool, err error) {
	e, err := s.workshop.AnyEquipment(ctx, equipment)
	if err != nil {
		return 0, false, err
	}
	seen, err := s.carder.MinutesSeen(ctx, equipment)
	if err != nil || seen == nil || seen.Times < carder.FewestMinutes {
		return e.Minutes, false, err
	}
	return seen.Mid, true, nil
}

// UsualFullMin and UsualQuickMin are how many minutes the cleanings take where nobody said otherwise.
const (
	UsualFullMin  = day.FullMin
	UsualQuickMin = day.QuickMin
)

// PlanDay puts jobs in the order that saves cleaning, or as it was moved by hand.
func PlanDay(ctx context.Context, jobs []DayJob, q DayInput) (DayPlan, error) {
	p := DayPlan{}
	for _, j := range jobs {
		if slices.Contains(q.Weighouts, j.WeighoutID) {
			p.Jobs = append(p.Jobs, j)
		}
	}
	work := make([]day.Job, len(p.Jobs))
	for i, j := range p.Jobs {
		lab := colour.Lab{L: 50}
		if c, err := colour.ParseHex(j.Hex); err == nil {
			lab = c.Lab()
		}
		work[i] = day.Job{Name: j.Name, Colour: lab, Sheds: j.Sheds, Fine: j.Fine, Minutes: j.Minutes, Pieces: j.Units, Ahead: j.AloneMin}
		if c, err := colour.ParseHex(j.AloneHex); err == nil {
			first := c.Lab()
			work[i].Begins = &first
		}
	}
	if len(work) == 0 {
		return p, nil
	}
	if err := day.Check(work, q.Times, q.FreeMin, -1); err != nil {
		return p, err
	}
	between := day.Changeovers(work, q.Times)
	best, exact, err := day.Order(ctx, work, q.Times, -1)
	if err != nil {
		return p, err
	}
	p.Order, p.Exact = best, exact
	p.BestMin = day.Total(day.Spans(work, best, q.Times))
	if len(q.Order) > 0 {
		p.Order = byHand(p.Jobs, best, q.Order)
	}
	p.Steps = day.Spans(work, p.Order, q.Times)
	p.TotalMin, p.CleaningMin, p.Fits = day.Total(p.Steps), day.Cost(between, p.Order), len(work)
	if q.FreeMin > 0 {
		p.Fits = day.Fits(p.Steps, q.FreeMin)
	}
	return p, nil
}

// byHand is an order as it was moved: what it does not name comes after, in the best order.
func byHand(jobs []DayJob, best []int, wanted []int64) (out []int) {
	for _, id := range wanted {
		i := slices.IndexFunc(jobs, func(j DayJob) bool { return j.WeighoutID == id })
		if i >= 0 && !slices.Contains(out, i) {
			out = append(out, i)
		}
	}
	for _, i := range best {
		if !slices.Contains(out, i) {
			out = append(out, i)
		}
	}
	return out
}

// DayStretch is what is done at a stretch: units of a job one after the other, a cleaning, or
// a break.
type DayStretch struct {
	day.Span
	First int // unit, counted from 1; the last one is Piece + 1
}

// Units says which units of so many it is.
func (s DayStretch) Units(of int) string {
	switch {
	case of == 1:
		return "1 unit"
	case s.First == 1 && s.Piece+1 == of:
		return fmt.Sprintf("%d units", of)
	case s.First == s.Piece+1:
		return fmt.Sprintf("unit %d of %d", s.First, of)
	}
	return fmt.Sprintf("units %d to %d of %d", s.First, s.Piece+1, of)
}

// Stretches are the steps with units alike that follow each other as one.
func (p DayPlan) Stretches() (out []DayStretch) {
	for _, s := range p.Steps {
		if n := len(out); n > 0 && s.Kind == "card" && out[n-1].Kind == "card" && out[n-1].Job == s.Job {
			out[n-1].To, out[n-1].Piece, out[n-1].Last = s.To, s.Piece, s.Last
			continue
		}
		out = append(out, DayStretch{s, s.Piece + 1})
	}
	return out
}

// WriteDay writes a day as an iCalendar file that begins at a moment.
func (p DayPlan) WriteDay(w io.Writer, begins, now time.Time) error {
	var list []formats.Appointment
	for _, s := range p.Stretches() {
		a := formats.Appointment{From: begins.Add(minutesOf(s.From)), To: begins.Add(minutesOf(s.To))}
		switch s.Kind {
		case "card":
			a.Title = fmt.Sprintf("Card %s: %s", p.Jobs[s.Job].Name, s.Units(p.Jobs[s.Job].Units))
		case "alone":
			a.Title = fmt.Sprintf("Card alone, for %s: %s", p.Jobs[s.Job].Name, strings.Join(p.Jobs[s.Job].Alone, ", "))
		case "clean":
			a.Title = "Clean the cloth: " + map[day.Clean]string{day.Quick: "brush over it", day.Full: "all of it, then some scrap wool"}[s.Clean]
		default:
			a.Title = "Break"
		}
		list = append(list, a)
	}
	return formats.WriteCalendar(w, list, now, "day-"+begins.UTC().Format("20060102T150405"))
}

func minutesOf(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }

// Carders are the pieces of equipment on which a day can be spent: those with a cloth.
func (s *Room) Carders(ctx context.Context) (out []workshop.Equipment, err error) {
	list, err := s.workshop.Equipment(ctx)
	for _, e := range list {
		if layup.Type(e.Type) != layup.Hands {
			out = append(out, e)
		}
	}
	return out, err
}
