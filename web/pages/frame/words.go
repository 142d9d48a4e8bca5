package frame

import (
	"fairtangle/web/show"
)

// UnitWord is what one filling of the equipment gives is called.
func UnitWord(equipment string, n int) string {
	word := map[string]string{"drum": "batt", "board": "board", "hands": "handful"}[equipment]
	if word == "" {
		return show.Plural(n, "loading")
	}
	return show.Plural(n, word)
}

// UnitWords are what one filling of the equipment is called.
var UnitWords = map[string]string{"drum": "Batt", "board": "Board", "hand_cards": "Pair of cards", "hands": "Pile"}

// NeedField is a number of the need. Lock says what its lock does, where it has one.
type NeedField struct {
	Name   string `json:"name"`
	Label  string `json:"label"`
	Text   string `json:"text"`
	Lock   string `json:"lock"`
	Locked bool   `json:"locked"`
	Hint   string `json:"hint"`
	Usual  bool   `json:"usual"`
}
