package store

// Silence is a rule that is not to be spoken of, in a making or, where that is 0, for good.
type Silence struct {
	Base
	Name     string // what the rule is called
	Rule     string
	MakingID int64
	Reason   string
}

// RuleBound is a figure of a rule that the maker has set.
type RuleBound struct {
	Base
	Key   string
	Value float64
}
