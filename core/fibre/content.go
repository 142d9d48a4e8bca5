package fibre

import (
	"maps"
	"slices"
	"strings"
)

// contents are what kinds are called on a label, by the beginning of their key; the longest that fits holds. Names are the common
// ones; the law of a country may want others.
var contents = map[string]string{
	"mohair": "mohair", "alpaca": "alpaca", "llama": "llama", "angora": "angora", "cashmere": "cashmere", "camel": "camel", "yak": "yak", "qiviut": "muskox",
	"bison": "bison", "dog": "dog hair", "silk": "silk", "cotton": "cotton", "flax": "linen", "hemp": "hemp", "ramie": "ramie", "viscose": "viscose",
	"bamboo_viscose": "viscose", "lyocell": "lyocell", "modal": "modal", "milk": "protein fibre", "soy": "protein fibre", "nylon": "polyamide",
	"polyester": "polyester", "acrylic": "acrylic", "polylactide": "polylactide", "film": "metallised polyester", "neps_viscose": "viscose",
	"locks_mohair": "mohair",
}

// Content is what a kind is called on a label; wool where nothing else fits a fibre of the wool family, else the name of the kind.
func (k Kind) Content() string {
	best, name := 0, ""
	for begins, content := range contents {
		if strings.HasPrefix(k.Key, begins) && len(begins) > best {
			best, name = len(begins), content
		}
	}
	switch {
	case k.Family == "unknown":
		return "fibre not known"
	case name != "":
		return name
	case k.Family == "wool", k.Family == "texture":
		return "wool"
	}
	return strings.ToLower(k.Name)
}

// Contents are what the kinds of the table are called on labels, each once, by name.
func Contents() []string {
	seen := map[string]bool{}
	for _, k := range kinds {
		seen[k.Content()] = true
	}
	return slices.Sorted(maps.Keys(seen))
}

// Care are the lines of care that the tenderest of kinds asks for; a wool that is superwash is named in superwash.
func Care(kinds []Kind, superwash []bool) []string {
	tender, machine, film := false, false, false
	for i, k := range kinds {
		switch k.Family {
		case "wool", "hair", "down", "silk", "texture", "unknown":
			if !superwash[i] {
				tender = true
			} else {
				machine = true
			}
		case "sparkle":
			film = true
		}
	}
	out := []string{"Machine wash at 40 °C"}
	switch {
	case tender:
		out = []string{"Hand wash cool, do not wring", "Dry flat"}
	case machine:
		out = []string{"Gentle machine wash at 30 °C", "Dry flat"}
	}
	if film {
		out = append(out, "Do not iron")
	}
	return out
}
