package web

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/store"
)

// kindJSON is a kind of fibre as the API shows and takes it.
type kindJSON struct {
	Key            string  `json:"key,omitempty"`
	ID             int64   `json:"id,omitempty"` // of the maker's own kinds
	Version        int64   `json:"version,omitempty"`
	Name           string  `json:"name"`
	Family         string  `json:"family"`
	Role           string  `json:"role"`
	DiameterLowUM  float64 `json:"diameter_um_low"`
	DiameterHighUM float64 `json:"diameter_um_high"`
	StapleLowMM    float64 `json:"staple_mm_low"`
	StapleHighMM   float64 `json:"staple_mm_high"`
	Density        float64 `json:"density_g_cm3"`
	Crimp          string  `json:"crimp"`
	Cohesion       string  `json:"cohesion"`
	Lustre         string  `json:"lustre"`
	LossLowPct     float64 `json:"carding_loss_pct_low"`
	LossHighPct    float64 `json:"carding_loss_pct_high"`
	Note           string  `json:"note"`
}

func (k kindJSON) row(n int64) store.Kind {
	return store.Kind{
		Base: store.Base{ID: n, Version: k.Version}, Name: k.Name, Family: k.Family, Role: k.Role,
		DiameterLow: k.DiameterLowUM, DiameterHigh: k.DiameterHighUM, StapleLow: k.StapleLowMM, StapleHigh: k.StapleHighMM,
		Density: k.Density, Crimp: k.Crimp, Cohesion: k.Cohesion, Lustre: k.Lustre, LossPctLow: k.LossLowPct, LossPctHigh: k.LossHighPct, Note: k.Note,
	}
}

func kindRow(r store.Kind) kindJSON {
	return kindJSON{
		Key: "own-" + strconv.FormatInt(r.ID, 10), ID: r.ID, Version: r.Version, Name: r.Name, Family: r.Family, Role: r.Role,
		DiameterLowUM: r.DiameterLow, DiameterHighUM: r.DiameterHigh, StapleLowMM: r.StapleLow, StapleHighMM: r.StapleHigh,
		Density: r.Density, Crimp: r.Crimp, Cohesion: r.Cohesion, Lustre: r.Lustre, LossLowPct: r.LossPctLow, LossHighPct: r.LossPctHigh, Note: r.Note,
	}
}

func (s *server) apiKinds(c *gin.Context) error {
	var out []kindJSON
	for _, k := range fibre.Kinds() {
		out = append(out, kindJSON{
			Key: k.Key, Name: k.Name, Family: k.Family, Role: k.Role, DiameterLowUM: k.DiameterUM.Low, DiameterHighUM: k.DiameterUM.High,
			StapleLowMM: k.StapleMM.Low, StapleHighMM: k.StapleMM.High, Density: k.Density, Crimp: k.Crimp, Cohesion: k.Cohesion,
			Lustre: k.Lustre, LossLowPct: k.LossPct.Low, LossHighPct: k.LossPct.High,
		})
	}
	own, err := s.studio.OwnKinds(c.Request.Context())
	for _, r := range own {
		out = append(out, kindRow(r))
	}
	return answer[[]kindJSON](c, http.StatusOK)(out, err)
}

func (s *server) apiCreateKind(c *gin.Context) error {
	var q kindJSON
	if err := decode(c, &q); err != nil {
		return err
	}
	r, err := s.studio.SaveKind(c.Request.Context(), q.row(0))
	return answer[kindJSON](c, http.StatusCreated)(kindRow(r), err)
}

func (s *server) apiUpdateKind(c *gin.Context) error {
	var q kindJSON
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	r, err := s.studio.SaveKind(c.Request.Context(), q.row(n))
	if now, ok := staleAs[store.Kind](err); ok {
		return store.Stale{Current: kindRow(now)}
	}
	return answer[kindJSON](c, http.StatusOK)(kindRow(r), err)
}

func (s *server) apiPreparations(c *gin.Context) error {
	type preparation struct {
		Key     string  `json:"key"`
		Name    string  `json:"name"`
		LowPct  float64 `json:"ready_loss_pct_low"`
		HighPct float64 `json:"ready_loss_pct_high"`
	}
	var out []preparation
	for _, p := range fibre.Preparations() {
		out = append(out, preparation{p.Key, p.Name, p.ReadyLossPct.Low, p.ReadyLossPct.High})
	}
	c.JSON(http.StatusOK, out)
	return nil
}
