package layup

import (
	"fmt"
	"slices"

	"fairtangle/core/fault"
)

// FedAs is how a fibre of several colours is used: its lengths one after the other, so many of them abreast, torn into short
// pieces, or stirred together in a pass of its own first. Left out, it is used in its order.
type FedAs struct {
	How     string `json:"how,omitempty"` // in-order, abreast, torn-up, stirred-first
	Abreast int    `json:"abreast,omitempty"`
}

// Ways to use a fibre of several colours, and how many lengths lie abreast at least and at most.
var FedWays = []string{"in-order", "abreast", "torn-up", "stirred-first"}

// MostAbreast lengths lie side by side.
const MostAbreast = 12

// FedOf is how a component of a plan is used.
func (p Plan) FedOf(component int) FedAs {
	v := FedAs{}
	if component < len(p.Fed) {
		v = p.Fed[component]
	}
	if v.How == "" {
		v.How = FedWays[0]
	}
	if v.How == "abreast" && v.Abreast < 2 {
		v.Abreast = 2
	}
	return v
}

// FedSo has a component of n used in a way.
func (p Plan) FedSo(component, n int, v FedAs) (Plan, error) {
	fed := make([]FedAs, n)
	copy(fed, p.Fed)
	fed[component] = v
	p.Fed = fed
	var l fault.List
	p.checkFed(&l, n)
	return p, l.Err()
}

func (p Plan) checkFed(l *fault.List, n int) {
	for i, v := range p.Fed {
		if i >= n || v.How != "" && !slices.Contains(FedWays, v.How) {
			l.Add(fmt.Sprintf("fed[%d].how", i), "It is used in-order, abreast, torn-up or stirred-first.")
		}
		if v.Abreast < 0 || v.Abreast > MostAbreast {
			l.Add(fmt.Sprintf("fed[%d].abreast", i), "2 to %d lengths lie abreast.", MostAbreast)
		}
	}
}
