package advice

// Wait is why a lot on the shelf is not ready.
type Wait struct {
	Rule string // of the table, that will say so in a blend
	What string
}

// Waits are the reasons for which a lot should not be carded yet, or be looked at: it is raw, is
// damp, is tacky, was dyed by hand and not tested, or shows signs of moths, or has lain there for so
// many hours that somebody should look for them.
func (f Fibre) Waits(hoursOnShelf float64, own Bounds) (out []Wait) {
	add := func(rule, what string) { out = append(out, Wait{rule, what}) }
	if f.Preparation == "raw_fleece" {
		add("R49", "is raw: skirt, wash, dry and pick it")
	}
	if is(f.Damp) || f.WashedHours != nil && below(*f.WashedHours, own.Of("R56 hours")) || f.OverWeightPct != nil && above(*f.OverWeightPct, own.Of("R56 over")) {
		add("R56", "is damp: let it dry through")
	}
	if is(f.Tacky) {
		add("R50", "is tacky: wash it once more")
	}
	if is(f.DyedByHand) && !is(f.BleedTested) {
		add("R42", "was dyed by hand: test on white, wet, whether it bleeds")
	}
	switch {
	case is(f.MothSigns):
		add("R59", "shows signs of moths: put it apart")
	case f.MothSigns == nil && f.Asked("moth_signs") && above(hoursOnShelf, mothHours):
		add("R59", "has lain for half a year: look for moths")
	}
	return out
}
