package stash

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Headings as people write them.
func TestColumnsAreRecognised(t *testing.T) {
	for heading, want := range map[string]struct {
		role Role
		unit string
	}{
		"Name": {CalledIt, ""}, "What I call it": {CalledIt, ""}, "Fiber type": {WhatItIs, ""}, "Breed": {WhatItIs, ""}, "Colour": {Coloured, ""},
		"COLORWAY":   {Coloured, ""},
		"Weight (g)": {Weighs, "g"}, "ounces": {Weighs, "oz"}, "Amount left, oz": {Weighs, "oz"}, "Qty": {Weighs, ""}, "lbs": {Weighs, "lb"},
		"Price paid": {LeftOut, ""}, "Price per oz": {LeftOut, ""}, "Storage location": {LeftOut, ""}, "Bought": {LeftOut, ""}, "": {LeftOut, ""},
		"Preparation": {WhatItIs, ""}, "3": {LeftOut, ""}, "Notes": {LeftOut, ""}, "Description": {WhatItIs, ""},
	} {
		role, unit := RoleOf(heading)
		assert.Equal(t, want.role, role, heading)
		assert.Equal(t, want.unit, unit, heading)
	}
}

// A row is understood like a line: amounts in the unit of the column, or of the cell where it names one.
func TestRowsBecomeLines(t *testing.T) {
	roles, units := []Role{CalledIt, WhatItIs, LeftOut, Coloured, Weighs}, []string{"", "", "", "", "oz"}
	for _, c := range []struct {
		cells        []string
		kind, name   string
		grams        float64
		unsureColour bool
	}{
		{[]string{"Sunday", "corriedale top", "blue box", "grey-blue", "4"}, "corriedale", "Sunday", 4 * oz, true},
		{[]string{"", "Romney roving", "", "", "400 g"}, "romney", "", 400, false},
		{[]string{"red silk noil", "", "", "", "1 1/2"}, "silk_noil", "red silk noil", 1.5 * oz, true},
	} {
		line, name := LineOf(c.cells, roles, units)
		assert.Equal(t, c.name, name)
		l := Read(line, "g", nil)
		assert.Equal(t, c.kind, l.Kind, line)
		require.NotNil(t, l.Grams, line)
		assert.InDelta(t, c.grams, *l.Grams, 1e-6, line)
		assert.Equal(t, c.unsureColour, l.Hex != "", line)
	}
	line, _ := LineOf([]string{"a", "b", "c", "d", "e", "f"}, roles[:1], nil)
	assert.Equal(t, "a", line, "columns that nobody told of are left out")
}
