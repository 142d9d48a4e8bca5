// Package fairtangle holds the check of the house's import arrows.
package fairtangle

import (
	"os/exec"
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
	"core/fibre":      {"core/fault"},
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
	"core/advice":     {"core/colour", "core/fibre", "core/layup", "core/unit"},
	"core/weigh":      {"core/fault", "core/losses", "core/unit"},
	"core/layup":      {"core/blend", "core/colour", "core/fault", "core/losses", "core/unit", "core/weigh"},
	"core/appearance": {"core/carding", "core/colour", "core/yarn"},
	"core/carding":    {"core/colour", "core/fault", "core/mix", "core/unit"},
	"core/match":      {"core/colour", "core/fault", "core/mix", "core/unit"},
	"core/gradient":   {"core/colour", "core/fault", "core/mix", "core/unit", "core/weigh"},
	"core/piles":      {"core/colour", "core/fault", "core/unit"},
	"core/photo":      {"core/colour", "core/fault", "core/piles"},
	"device":          {"core/unit"},
	"formats":         {"core/colour", "core/fault", "core/photo"},
	"store":           {"core/fault", "core/run", "core/unit"},
	"studio": {"store", "formats", "device", "core/advice", "core/appearance", "core/blend", "core/buy", "core/day",
		"core/carding", "core/colour", "core/fault", "core/fibre", "core/fleece", "core/gradient", "core/layup",
		"core/losses", "core/match", "core/mix", "core/need", "core/photo", "core/piles", "core/plate", "core/run", "core/unit", "core/weigh", "core/yarn"},
	"studio/calls": {
		"studio",
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
		"core/layup",
		"core/losses",
		"core/match",
		"core/mix",
		"core/need",
		"core/unit",
		"core/weigh",
	},
	"demo":       {"studio", "store", "core/fleece", "core/layup", "core/yarn"},
	"web/art":    {"core/colour", "core/fibre"},
	"web/show":   {"studio", "formats", "core/fault", "core/unit"},
	"web/answer": {"studio", "web/show", "core/fault", "core/unit"},
	"web/api":    {"studio", "studio/calls", "formats", "web/answer", "core/appearance", "core/fibre", "core/layup"},
	"web/pages": {"studio", "formats", "web/answer", "web/api", "web/art", "web/show", "core/advice", "core/appearance", "core/carding", "core/colour",
		"core/fault", "core/fibre", "core/fleece", "core/layup",
		"core/losses", "core/match", "core/piles", "core/plate", "core/run", "core/unit"},
	"web":            {"studio", "web/answer", "web/api", "web/art", "web/pages"},
	"scripts/attack": {"scripts/slow"},
	"scripts/large":  {"demo", "store", "studio"},
	"scripts/mutate": {},
	"scripts/slow":   {"core/colour"},
	"cmd/fairtangle": {"demo", "device", "store", "studio", "web"},
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
		require.Contains(t, may, room, "a new room needs its arrows here")
		for _, i := range strings.Fields(imports) {
			if other, ours := strings.CutPrefix(i, "fairtangle/"); ours {
				assert.Contains(t, may[room], other, "%s must not import %s", room, other)
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
