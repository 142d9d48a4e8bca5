package run

// Question is what is known where a pass ends, to judge whether another follows. Looks are
// ranks, 0 for streaky and more the evener it is; −1: not known.
type Question struct {
	School  string // how many passes: few, one, look
	Specks  string // what passes do to specks: make, show
	Pass    int    // that ended
	Planned int
	Joins   bool // something is still to join at a later pass
	Seen    int  // by the maker
	Now     int  // foreseen after this pass
	Next    int  // foreseen after one more
	Goal    int  // foreseen after those planned
	// SpecksNow and SpecksBefore are those in a pinch after this pass and the one before.
	SpecksNow, SpecksBefore float64
}

// Unknown is a look or a number of specks that nobody told.
const Unknown = -1

// The schools of how many passes, and of what passes do to specks.
const (
	FewPasses  = "few"
	OnePass    = "one"
	UntilLook  = "look"
	MakeSpecks = "make"
	ShowSpecks = "show"
)

// mostOfFew is the last of "two or three".
const mostOfFew = 3

// Answer is what is advised, and why.
type Answer struct {
	More bool
	Why  string
}

// Another judges whether another pass follows. What the maker saw goes before what was
// foreseen; what still has to join, before any school.
func Another(q Question) Answer {
	look := q.Seen
	if look == Unknown {
		look = q.Now
	}
	reached := look != Unknown && q.Goal != Unknown && look >= q.Goal
	rising := q.SpecksNow != Unknown && q.SpecksBefore != Unknown && q.SpecksNow > q.SpecksBefore
	switch {
	case q.Joins:
		return Answer{true, "Fibre that waits for a later pass is still to be laid."}
	case rising && q.Specks == MakeSpecks && q.Pass >= q.Planned:
		return Answer{false, "There are more specks in a pinch than after the pass before; another would make more of them."}
	case q.School == OnePass && q.Pass < q.Planned:
		return Answer{true, "More passes than one are planned for it."}
	case q.School == OnePass:
		return Answer{false, "One pass keeps the streaks, as you hold it in this making."}
	case q.School == UntilLook && reached:
		return Answer{false, "The look that was wanted is reached."}
	case q.School == UntilLook:
		if q.Next != Unknown && q.Now != Unknown && q.Next <= q.Now && q.Pass >= q.Planned {
			return Answer{true, "It is not as even yet as was planned; one more changes little by the forecast, a second one may."}
		}
		return Answer{true, "It is not as even yet as was planned."}
	case q.Pass < q.Planned && q.Seen != Unknown && q.Goal != Unknown && q.Seen >= q.Goal && q.Pass >= 2:
		return Answer{false, "You see it as even as was planned already."}
	case q.Pass < q.Planned:
		return Answer{true, "More passes are planned for it."}
	case q.Seen != Unknown && !reached && q.Pass < mostOfFew:
		return Answer{true, "You see it less even than was planned; two or three passes are what you hold to."}
	}
	return Answer{false, "All passes that were planned are done."}
}
