package api

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"
)

// change is something that changed, and where it is read.
type change struct {
	Of      string `json:"of"`
	ID      int64  `json:"id"`
	Version int64  `json:"version"`
	At      string `json:"at"`
	Binned  bool   `json:"binned"`
	Href    string `json:"href"`
}

// homes are the addresses of records by their tables; what has none is read with what it belongs to.
var homes = map[string]string{
	"lots": "/lots/", "makings": "/makings/", "blends": "/blends/", "weighouts": "/weighouts/", "gradients": "/gradients/", "scrap_sets": "/scraps/",
	"photos": "/photos/", "samples": "/samples/", "layups": "/layups/", "runs": "/runs/", "sources": "/sources/", "buy_lists": "/buylists/",
	"yarn_samples": "/yarnsamples/", "skeins": "/skeins/", "needs": "/needs/", "yarns": "/yarns/", "kinds": "/kinds/",
}

// changes lists what changed since a moment.
func (s server) changes(c *gin.Context) error {
	v, err := s.studio.Floor.ChangedSince(c.Request.Context(), c.Query("since"), c.Query("limit"))
	if err != nil {
		return err
	}
	out := struct {
		Changes []change `json:"changes"`
		Until   string   `json:"until"`
		More    bool     `json:"more"`
	}{[]change{}, v.Until, v.More}
	for _, r := range v.List {
		row := change{Of: r.Of, ID: r.ID, Version: r.Version, At: r.At, Binned: r.Binned}
		if home := homes[r.Of]; home != "" {
			row.Href = Root + home + strconv.FormatInt(r.ID, 10)
		}
		out.Changes = append(out.Changes, row)
	}
	c.JSON(http.StatusOK, out)
	return nil
}
