package unit

// Limits are the least and the most that a figure can be.
type Limits struct{ Least, Most float64 }

// Holds reports whether the figure can be v; what is no number never can.
func (l Limits) Holds(v float64) bool { return v >= l.Least && v <= l.Most }
