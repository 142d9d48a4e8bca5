package weigh

import (
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Cell is what a unit gets of a component. What is wanted may have given way since it was planned;
// done means that nothing more of it is to be weighed.
type Cell struct {
	Unit, Component          int
	Planned, Wanted, Weighed unit.Milligrams
	Done                     bool
}

// Now is what the cell comes to as things stand: what was weighed where it is done, else what is
// wanted, or already lies in the bowl.
func (c Cell) Now() unit.Milligrams {
	if c.Done && c.Weighed > 0 {
		return c.Weighed
	}
	return max(c.Wanted, c.Weighed)
}

// Table is a weigh-out at the scale: its cells, and the step in which the scale reads. All weights
// are whole milligrams.
type Table struct {
	Step  unit.Milligrams
	Cells []Cell
}

// AsIs is the policy that leaves all other weights as they were planned.
const AsIs Policy = "as-is"

// Taking is a reading that is taken for a cell.
type Taking struct {
	Unit, Component int
	Weight          unit.Milligrams
	Policy          Policy
}

// Verdict says how a reading is beside what is wanted.
type Verdict string

// One step of the scale either way is fine.
const (
	Fine  Verdict = "fine"
	Over  Verdict = "over"
	Under Verdict = "under"
)

// Undecided is the error of a reading that is off by more than a step where no policy says what the
// others shall do. It is a fault of the field policy.
type Undecided struct {
	Off unit.Milligrams // weighed minus wanted
	why error
}

func (u Undecided) Error() string { return u.why.Error() }

// Unwrap gives the fault.
func (u Undecided) Unwrap() error { return u.why }

// undecided says that a reading is off, and what can be done.
func undecided(off unit.Milligrams, than, do string) error {
	word := "more"
	if off < 0 {
		word = "less"
	}
	return Undecided{off, fault.New("policy", "This is %s %s than "+than+". "+do, max(off, -off).Grams(), word)}
}

// Open finds the cell that a weight can be taken for: there is one, it is not done, and the weight is
// one that a scale can say. The error is a fault of the field grams or component.
func (t *Table) Open(in Taking) (*Cell, error) {
	if err := Weighable(in.Weight); err != nil {
		return nil, err
	}
	for i := range t.Cells {
		if c := &t.Cells[i]; c.Unit == in.Unit && c.Component == in.Component {
			if c.Done {
				return nil, fault.New("grams", "This one is weighed already. Undo it to weigh it again.")
			}
			return c, nil
		}
	}
	return nil, fault.New("component", "There is no such place in this weigh-out.")
}

// Weighable finds a weight that no scale says of fibre: nothing, or out of bounds.
func Weighable(mg unit.Milligrams) error {
	switch {
	case mg < 0 || mg > unit.MaxGrams.Milligrams():
		return fault.New("grams", "A weight is 0 or more and at most %s.", unit.MaxGrams)
	case mg == 0:
		return fault.New("grams", "Enter what the scale says, above 0.")
	}
	return nil
}

// Judge says how a weight is beside what a cell wants, and by how much it is off.
func (t *Table) Judge(c Cell, weight unit.Milligrams) (Verdict, unit.Milligrams) {
	switch off := c.Weighed + weight - c.Wanted; {
	case off > t.Step:
		return Over, off
	case off < -t.Step:
		return Under, off
	default:
		return Fine, off
	}
}

// Take puts a reading into its cell, and lets the others of its unit give way by the policy. Off by
// more than a step it needs one: else Undecided, and nothing has changed.
func (t *Table) Take(in Taking) error {
	c, err := t.Open(in)
	if err != nil {
		return err
	}
	verdict, off := t.Judge(*c, in.Weight)
	switch {
	case verdict == Fine, in.Policy == AsIs:
		c.Weighed += in.Weight
		c.Done = true
		return nil
	case in.Policy != KeepShares && in.Policy != KeepTotal:
		return undecided(off, "wanted", "Choose what the others shall do.")
	}
	c.Weighed += in.Weight
	return t.giveWay(in.Unit, in.Policy)
}

// giveWay lets the cells of a unit follow a policy: keep-shares goes back to the planned shares,
// keep-total starts from the weights wanted last.
func (t *Table) giveWay(u int, policy Policy) error {
	var cells []*Cell
	var lines []Line
	for i := range t.Cells {
		c := &t.Cells[i]
		if c.Unit != u || c.Planned == 0 {
			continue
		}
		base := c.Planned
		if policy == KeepTotal {
			base = max(c.Wanted, 1)
		}
		cells = append(cells, c)
		lines = append(lines, Line{Planned: base.Grams(), Weighed: c.Weighed.Grams(), Done: c.Weighed > 0})
	}
	fixed, err := Reweigh(lines, t.Step.Grams(), policy)
	if err != nil {
		return fmt.Errorf("follow the policy: %w", err)
	}
	for i, c := range cells {
		c.Wanted = fixed.ToWeigh[i].Milligrams()
		c.Done = c.Wanted == 0 || c.Weighed > 0 && c.Wanted-c.Weighed <= t.Step/2
	}
	return nil
}

// GivesWay reports whether another fibre of a unit is still to be weighed, so that it can give way to
// what is weighed too much of one.
func (t *Table) GivesWay(unit, component int) bool {
	for _, c := range t.Cells {
		if c.Unit == unit && c.Component != component && !c.Done && c.Weighed == 0 && c.Wanted > 0 {
			return true
		}
	}
	return false
}

// Replay works the cells of a unit out from the plan and from what was taken for it and stands, in
// its order. What was weighed stays weighed, whatever is wanted of it now.
func (t *Table) Replay(unit int, taken []Taking) error {
	for i := range t.Cells {
		if c := &t.Cells[i]; c.Unit == unit {
			c.Wanted, c.Weighed, c.Done = c.Planned, 0, c.Planned == 0
		}
	}
	for _, in := range taken {
		if in.Unit != unit {
			continue
		}
		for i := range t.Cells {
			if c := &t.Cells[i]; c.Unit == unit && c.Component == in.Component {
				c.Done = false
			}
		}
		if in.Policy == "" {
			in.Policy = AsIs
		}
		if err := t.Take(in); err != nil {
			return err
		}
	}
	return nil
}

// Rest is what is still to be weighed of a component.
func (t *Table) Rest(component int) (mg unit.Milligrams) {
	for _, c := range t.Cells {
		if c.Component == component && !c.Done {
			mg += max(0, c.Wanted-c.Weighed)
		}
	}
	return mg
}

// Untouched lists the units that have nothing of a component yet, and what they want in all.
func (t *Table) Untouched(component int) (units []int, wanted unit.Milligrams) {
	for _, c := range t.Cells {
		if c.Component == component && !c.Done && c.Weighed == 0 {
			units, wanted = append(units, c.Unit), wanted+c.Wanted
		}
	}
	return units, wanted
}

// Together divides one reading over all units that have nothing of a component yet: a taking for each,
// as it is, which add up to it. More than a step off for each it needs the policy as-is: else Undecided.
func (t *Table) Together(in Taking) ([]Taking, error) {
	if err := Weighable(in.Weight); err != nil {
		return nil, err
	}
	units, wanted := t.Untouched(in.Component)
	if len(units) == 0 {
		return nil, fault.New("component", "Every unit has some of this already.")
	}
	off := in.Weight - wanted
	if max(off, -off) > unit.Milligrams(len(units))*t.Step && in.Policy != AsIs {
		return nil, undecided(off, "all of them want", "Change it, or book it as it is.")
	}
	return t.divide(in.Component, in.Weight), nil
}

// divide shares a weight out over the untouched units of a component, in steps of the scale and in
// proportion to what each wants: the parts add up to it.
func (t *Table) divide(component int, all unit.Milligrams) []Taking {
	units, wanted := t.Untouched(component)
	step := max(1, t.Step)
	whole := int64(all / step)
	exact := make([]float64, 0, len(units))
	for _, c := range t.Cells {
		if c.Component == component && !c.Done && c.Weighed == 0 {
			exact = append(exact, float64(whole)*float64(c.Wanted)/float64(wanted))
		}
	}
	out := make([]Taking, len(units))
	for n, count := range Apportion(exact, whole) {
		out[n] = Taking{units[n], component, unit.Milligrams(count) * step, AsIs}
	}
	out[0].Weight += all - unit.Milligrams(whole)*step // a reading may be finer than the step
	return out
}

// Spread lets the untouched units of a component want no more than there is, each in proportion to what
// it wanted. Where there is enough it is a fault.
func (t *Table) Spread(component int, have unit.Milligrams) error {
	units, wanted := t.Untouched(component)
	if len(units) == 0 || wanted <= have {
		return fault.New("way", "There is enough of it.")
	}
	for _, part := range t.divide(component, have) {
		for i := range t.Cells {
			if c := &t.Cells[i]; c.Unit == part.Unit && c.Component == component {
				c.Wanted, c.Done = part.Weight, part.Weight == 0
			}
		}
	}
	return nil
}

// Spare lists the units, from the last one, that nothing was weighed into and that have to be left out
// so that what there is of a component is enough for the others; none where that does not help.
func (t *Table) Spare(component int, have unit.Milligrams) (units []int) {
	rest := t.Rest(component)
	for u := t.units() - 1; u > 0 && rest > have; u-- {
		var wants unit.Milligrams
		begun := false
		for _, c := range t.Cells {
			if c.Unit == u {
				begun = begun || c.Weighed > 0
				if c.Component == component && !c.Done {
					wants = c.Wanted
				}
			}
		}
		if !begun && wants > 0 {
			units, rest = append(units, u), rest-wants
		}
	}
	if rest > have {
		return nil
	}
	return units
}

// units is how many units there are.
func (t *Table) units() (n int) {
	for _, c := range t.Cells {
		n = max(n, c.Unit+1)
	}
	return n
}

// LeaveOut lets the units that Spare names want nothing.
func (t *Table) LeaveOut(component int, have unit.Milligrams) error {
	spare := t.Spare(component, have)
	if len(spare) == 0 {
		return fault.New("way", "Leaving units out does not help.")
	}
	for _, u := range spare {
		for i := range t.Cells {
			if c := &t.Cells[i]; c.Unit == u {
				c.Wanted, c.Done = 0, true
			}
		}
	}
	return nil
}
