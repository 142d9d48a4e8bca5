package api

import (
	"context"

	"fairtangle/core/fibre"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
)

func (s *server) kinds(at methods) {
	at.get("/kinds", answer.List(s.allKinds))
	at.post("/kinds", answer.Created(func(ctx context.Context, k kindJSON) (kindJSON, error) { return s.saveKind(ctx, 0, k.Version, k) }))
	at.put("/kinds/:id", answer.Saved(s.saveKind))
	s.bin(at, "/kinds", "kinds")
	at.get("/preparations", answer.List(preparations))
}

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
	LossDecay      float64 `json:"loss_decay"` // what each later pass loses of what the one before did; 0: as usual for its family
	Note           string  `json:"note"`
}

func (k kindJSON) own(id, version int64) workshop.OwnKind {
	return workshop.OwnKind{ID: id, Version: version, Kind: fibre.Kind{
		Name: k.Name, Family: k.Family, Role: k.Role,
		DiameterUM: fibre.Range{Low: k.DiameterLowUM, High: k.DiameterHighUM}, StapleMM: fibre.Range{Low: k.StapleLowMM, High: k.StapleHighMM},
		Density: k.Density, Crimp: k.Crimp, Cohesion: k.Cohesion, Lustre: k.Lustre,
		LossPct: fibre.Range{Low: k.LossLowPct, High: k.LossHighPct}, Decay: k.LossDecay, Note: k.Note,
	}}
}

func kindOf(k fibre.Kind) kindJSON {
	return kindJSON{
		Key: k.Key, Name: k.Name, Family: k.Family, Role: k.Role, DiameterLowUM: k.DiameterUM.Low, DiameterHighUM: k.DiameterUM.High,
		StapleLowMM: k.StapleMM.Low, StapleHighMM: k.StapleMM.High, Density: k.Density, Crimp: k.Crimp, Cohesion: k.Cohesion,
		Lustre: k.Lustre, LossLowPct: k.LossPct.Low, LossHighPct: k.LossPct.High, LossDecay: k.Decay,
	}
}

func ownKind(k workshop.OwnKind) kindJSON {
	out := kindOf(k.Kind)
	out.ID, out.Version, out.Note = k.ID, k.Version, k.Note
	return out
}

func (s *server) allKinds(ctx context.Context) ([]kindJSON, error) {
	var out []kindJSON
	for _, k := range fibre.Kinds() {
		out = append(out, kindOf(k))
	}
	own, err := s.studio.Workshop.OwnKinds(ctx)
	for _, k := range own {
		out = append(out, ownKind(k))
	}
	return out, err
}

func (s *server) saveKind(ctx context.Context, id, version int64, k kindJSON) (kindJSON, error) {
	now, err := s.studio.Workshop.SaveKind(ctx, k.own(id, version))
	if other, ok := answer.StaleAs[workshop.OwnKind](err); ok {
		return kindJSON{}, floor.Stale{Current: ownKind(other)}
	}
	return ownKind(now), err
}

type preparation struct {
	Key     string  `json:"key"`
	Name    string  `json:"name"`
	LowPct  float64 `json:"ready_loss_pct_low"`
	HighPct float64 `json:"ready_loss_pct_high"`
}

func preparations(context.Context) ([]preparation, error) {
	var out []preparation
	for _, p := range fibre.Preparations() {
		out = append(out, preparation{p.Key, p.Name, p.ReadyLossPct.Low, p.ReadyLossPct.High})
	}
	return out, nil
}
