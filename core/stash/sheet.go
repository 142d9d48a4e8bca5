package stash

import (
	"regexp"
	"strings"
)

// Role is what a column of somebody's own table says of a lot.
type Role string

// The roles: a name goes before what was made of a line; what it is may stand in several columns; a weight is in the unit of its heading
// or of its cell.
const (
	CalledIt Role = "name"
	WhatItIs Role = "what"
	Coloured Role = "colour"
	Weighs   Role = "weight"
	LeftOut  Role = ""
)

// Roles lists them in the order in which they are offered.
func Roles() []Role { return []Role{LeftOut, CalledIt, WhatItIs, Coloured, Weighs} }

// headings are words of a heading that say what stands below it.
var headings = func() map[string]Role {
	out := map[string]Role{}
	for w, to := range table(`
name: name, call, called, title, label, nickname
what: fibre, fiber, breed, type, kind, sheep, wool, material, description, item, prep, preparation, form, state, details, content, contents, animal
colour: colour, color, colourway, colorway, shade, hue, dye, dyed, colours, colors
weight: weight, amount, quantity, qty, grams, gram, g, gr, kg, oz, ounces, ounce, lb, lbs, pounds, left, stock, remaining, how
`) {
		out[w] = Role(to[0])
	}
	return out
}()

// unitsOf are units as a heading names them.
var unitsOf = map[string]string{
	"g": "g", "gr": "g", "gram": "g", "grams": "g", "kg": "kg", "oz": "oz", "ounce": "oz", "ounces": "oz", "lb": "lb", "lbs": "lb", "pounds": "lb",
}

var letters = regexp.MustCompile(`\p{L}+`)

// RoleOf is what a column seems to say, by the words of its heading, and the unit that it names; the first word that is known tells. A
// heading that says a price, a place or a date says nothing that is read.
func RoleOf(heading string) (role Role, unit string) {
	words := letters.FindAllString(strings.ToLower(heading), -1)
	for _, w := range words {
		switch w {
		case "price", "cost", "paid", "value", "date", "bought", "year", "location", "storage", "bin", "box", "place", "shop", "source", "notes", "note",
			"comment", "comments":
			return LeftOut, ""
		}
	}
	for _, w := range words {
		if role == LeftOut {
			role = headings[w]
		}
		if unit == "" {
			unit = unitsOf[w]
		}
	}
	if role != Weighs {
		unit = ""
	}
	return role, unit
}

// bareAmount is a cell with an amount and nothing else.
var bareAmount = regexp.MustCompile(`^\s*[0-9][0-9.,/ ]*\s*$`)

// LineOf is a row of a table as one would write it on a line: how much, of which colour, what it is. The name stands apart.
func LineOf(cells []string, roles []Role, units []string) (line, name string) {
	var weight, colour, what []string
	for i, c := range cells {
		c = strings.Join(strings.Fields(c), " ")
		if i >= len(roles) || c == "" {
			continue
		}
		switch roles[i] {
		case CalledIt:
			name = strings.TrimSpace(name + " " + c)
		case WhatItIs:
			what = append(what, c)
		case Coloured:
			colour = append(colour, c)
		case Weighs:
			if bareAmount.MatchString(c) && i < len(units) && units[i] != "" {
				c = strings.TrimSpace(c) + " " + units[i]
			}
			weight = append(weight, c)
		}
	}
	parts := append(append(weight, colour...), what...)
	if len(what) == 0 && name != "" { // the name is all that says what it is
		parts = append(parts, name)
	}
	return strings.Join(parts, " "), name
}
