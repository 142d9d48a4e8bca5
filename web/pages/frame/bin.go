package frame

// Homes are the pages to go to after something went to the bin.
var Homes = map[string]string{
	"lots":       "/shelf",
	"makings":    "/makings",
	"blends":     "/makings",
	"weighouts":  "/makings",
	"equipment":  "/workshop",
	"kinds":      "/kinds",
	"gradients":  "/makings",
	"scrap_sets": "/scraps",
	"photos":     "/photos",
	"samples":    "/calibration",
	"layups":     "/makings",
	"scales":     "/scales",
	"containers": "/scales",
	"runs":       "/makings",
	"cleanings":  "/workshop",
	"sources":    "/buy",
	"offers":     "/buy",
	"buy_lists":  "/buy",

	"yarn_samples": "/makings",
	"skeins":       "/makings",
	"silences":     "/advice",
}
