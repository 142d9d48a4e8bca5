// Package fairtangle holds the check of the house's import arrows.
package fairtangle

import (
	"os/exec"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// may lists what each room imports of the others. Anything not listed is not
// allowed.
var may = map[string][]string{
	"core/fault":      {"core/unit"},
	"core/unit":       {},
	"core/colour":     {"core/fault"},
	"core/fibre":      {"core/fault", "core/losses", "core/unit"},
	"core/mix":        {"core/colour", "core/fault"},
	"core/blend":      {"core/fault", "core/unit"},
	"core/plate":      {"core/unit"},
	"core/losses":     {"core/fault", "core/unit"},
	"core/day":        {"core/colour", "core/fault"},
	"core/run":        {"core/losses", "core/unit"},
	"core/fleece":     {"core/fibre", "core/unit"},
	"core/buy":        {},
	"core/need":       {"core/fault", "core/losses", "core/unit"},
	"core/yarn":       {"core/colour", "core/fault"},
	"core/advice":     {"core/colour", "core/day", "core/fibre", "core/layup", "core/losses", "core/unit"},
	"core/given":      {"core/colour", "core/fault", "core/fibre", "core/unit", "core/weigh"},
	"core/train":      {"core/advice", "core/carding", "core/colour", "core/fault", "core/fibre", "core/hands", "core/layup", "core/losses", "core/mix", "core/unit", "core/weigh", "core/yarn"},
	"core/label":      {"core/fault", "core/weigh"},
	"core/price":      {"core/fault"},
	"core/stash":      {"core/colour", "core/fibre", "core/unit"},
	"core/hands":      {"core/layup"},
	"core/trouble":    {"core/colour", "core/fault", "core/fibre", "core/layup"},
	"core/weigh":      {"core/fault", "core/losses", "core/unit"},
	"core/layup":      {"core/blend", "core/colour", "core/fault", "core/losses", "core/unit", "core/weigh"},
	"core/appearance": {"core/carding", "core/colour", "core/yarn"},
	"core/carding":    {"core/colour", "core/fault", "core/mix", "core/unit"},
	"core/match":      {"core/colour", "core/fault", "core/mix", "core/unit"},
	"core/gradient":   {"core/colour", "core/fault", "core/mix", "core/unit", "core/weigh"},
	"core/piles":      {"core/colour", "core/fault", "core/unit"},
	"core/photo":      {"core/colour", "core/fault", "core/piles", "core/unit"},
	"device":          {"core/unit"},
	"formats":         {"core/colour", "core/fault", "core/fibre", "core/photo"},
	"store":           {"core/fault", "core/fibre", "core/layup", "core/losses", "core/price", "core/run", "core/train", "core/unit", "core/weigh"},
	"studio/calls": {
		"formats",
		"core/advice",
		"core/appearance",
		"core/blend",
		"core/carding",
		"core/colour",
		"core/day",
		"core/fault",
		"core/fibre",
		"core/gradient",
		"core/label",
		"core/layup",
		"core/losses",
		"core/match",
		"core/mix",
		"core/need",
		"core/stash",
		"core/trouble",
		"core/hands",
		"core/unit",
		"core/weigh",
		"core/yarn",
	},
	"store/copies":   {"store", "store/plain"},
	"store/plain":    {"store"},
	"store/benches":  {"store", "store/copies", "core/fault", "core/unit"},
	"studio":         {"store", "core/fault"},
	"demo":           {"studio", "store", "core/fibre", "core/fleece", "core/layup", "core/yarn"},
	"web/art":        {"core/colour", "core/fibre"},
	"web/show":       {"formats", "core/fault", "core/unit"},
	"web/answer":     {"studio", "web/show", "core/fault", "core/unit"},
	"web/api":        {"studio", "studio/calls", "formats", "web/answer", "core/appearance", "core/fibre", "core/layup"},
	"web/pages":      {"studio", "web/answer", "web/pages/frame"},
	"web":            {"studio", "web/answer", "web/api", "web/art", "web/pages"},
	"scripts/attack": {"scripts/slow"},
	"scripts/large":  {"demo", "store", "studio"},
	"scripts/dist":   {},
	"scripts/pack":   {},
	"scripts/mutate": {}, "scripts/readable": {"web/api"},
	"scripts/slow":   {"core/colour"},
	"cmd/fairtangle": {"demo", "device", "store", "store/copies", "store/plain", "studio", "web"},
}

// rooms are those of the studio, each below those that may ask it. All of them may use what is
// kept, devices, formats and the core; what is above them (calls, the whole studio, pages, API,
// the sample world) may ask any of them.
var rooms = []string{
	"floor", "workshop", "lessons", "shelf", "recipe", "reach", "laying", "yarns", "scale", "carder", "notebook", "buying", "advising", "practising", "teaching",
}

// pageRooms are those of the pages, each below those that show parts of its pages. All of them may
// use the rooms of the studio, and types of the core.
var pageRooms = []string{
	"frame", "guidepages", "workshoppages", "advisingpages", "shelfpages", "recipepages", "reachpages", "layingpages", "yarnspages", "scalepages", "carderpages",
	"notebookpages", "buyingpages", "practicepages",
}

// mayImport reports whether a room may import another.
func mayImport(room, other string) bool {
	of := func(path string) int { return slices.Index(rooms, strings.TrimPrefix(path, "studio/")) }
	below := of(other)
	if page, ok := strings.CutPrefix(room, "web/pages/"); ok {
		shown, isPage := strings.CutPrefix(other, "web/pages/")
		allowed := []string{"studio", "formats", "web/answer", "web/api", "web/art", "web/show"}
		return isPage && slices.Index(pageRooms, shown) < slices.Index(pageRooms, page) || below >= 0 || slices.Contains(allowed, other) ||
			strings.HasPrefix(other, "core/")
	}
	if room == "web/pages" && strings.HasPrefix(other, "web/pages/") {
		return true
	}
	switch at := of(room); {
	case at >= 0 && below >= 0:
		return below < at
	case at >= 0:
		return strings.HasPrefix(other, "store") || other == "device" || other == "formats" || strings.HasPrefix(other, "core/")
	case below >= 0 && !slices.Contains(may[room], other):
		return slices.Contains(may[room], "studio") || room == "studio" || room == "studio/calls" || room == "web/show"
	}
	return slices.Contains(may[room], other)
}

func TestImportArrows(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}}: {{join .Imports " "}}`, "./...").Output()
	require.NoError(t, err)
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		pkg, imports, _ := strings.Cut(line, ": ")
		room, ok := strings.CutPrefix(pkg, "fairtangle/")
		if !ok {
			continue // this package
		}
		if !slices.Contains(rooms, strings.TrimPrefix(room, "studio/")) && !slices.Contains(pageRooms, strings.TrimPrefix(room, "web/pages/")) {
			require.Contains(t, may, room, "a new room needs its arrows here")
		}
		for _, i := range strings.Fields(imports) {
			if other, ours := strings.CutPrefix(i, "fairtangle/"); ours {
				assert.True(t, mayImport(room, other), "%s must not import %s", room, other)
				continue
			}
			standard := !strings.Contains(strings.Split(i, "/")[0], ".")
			if strings.HasPrefix(room, "core/") {
				assert.True(t, standard || strings.HasPrefix(i, "gonum.org/"), "%s must not import %s", room, i)
				for _, out := range []string{"net/http", "os", "time", "math/rand", "math/rand/v2", "database/sql"} {
					assert.NotEqual(t, out, i, "%s must not reach outside", room)
				}
			}
		}
	}
}
