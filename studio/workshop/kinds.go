package workshop

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Kinds returns all kinds by key, the maker's own ones after the built-in ones.
type Kinds struct {
	List []fibre.Kind
	at   map[string]int
}

// Find returns the kind of a key.
func (k Kinds) Find(key string) (fibre.Kind, bool) {
	i, ok := k.at[key]
	if !ok {
		return fibre.Kind{}, false
	}
	return k.List[i], true
}

// Named returns the kind, or a plain one under its key where it is gone.
func (k Kinds) Named(key string) fibre.Kind {
	if v, ok := k.Find(key); ok {
		return v
	}
	v, _ := fibre.FindKind("corriedale")
	v.Key, v.Name = key, key
	return v
}

// AllKinds returns the built-in kinds and the maker's own; withBin also those in
// the bin, which lots may still have.
func (s *Room) AllKinds(ctx context.Context, withBin bool) (Kinds, error) {
	k := Kinds{List: fibre.Kinds(), at: map[string]int{}}
	rows, err := s.Store.Kinds(ctx, withBin)
	if err != nil {
		return k, err
	}
	for _, r := range rows {
		k.List = append(k.List, ownKindOf(r).Kind)
	}
	for i, v := range k.List {
		k.at[v.Key] = i
	}
	return k, nil
}

// OwnKind is a kind of fibre that the maker added.
type OwnKind struct {
	ID, Version int64
	fibre.Kind
}

func ownKindOf(r store.Kind) OwnKind {
	k := OwnKind{r.ID, r.Version, fibre.Kind{
		Key: store.OwnKindKey(r.ID), Name: r.Name, Family: r.Family, Role: r.Role,
		DiameterUM: fibre.Range{Low: r.DiameterLow, High: r.DiameterHigh},
		StapleMM:   fibre.Range{Low: r.StapleLow, High: r.StapleHigh},
		Density:    r.Density, Crimp: r.Crimp, Cohesion: r.Cohesion, Lustre: r.Lustre,
		LossPct: fibre.Range{Low: r.LossPctLow, High: r.LossPctHigh}, Decay: r.LossDecay, Note: r.Note, Blended: r.OfBlend,
	}}
	if k.Decay == 0 {
		k.Decay = fibre.UsualDecay(k.Kind)
	}
	return k
}

// Row is the kind as it is kept.
func (k OwnKind) Row() store.Kind {
	return store.Kind{
		Base: store.Base{ID: k.ID, Version: k.Version}, Name: k.Name, Family: k.Family, Role: k.Role,
		DiameterLow: k.DiameterUM.Low, DiameterHigh: k.DiameterUM.High, StapleLow: k.StapleMM.Low, StapleHigh: k.StapleMM.High,
		Density: k.Density, Crimp: k.Crimp, Cohesion: k.Cohesion, Lustre: k.Lustre, LossPctLow: k.LossPct.Low, LossPctHigh: k.LossPct.High,
		LossDecay: k.Decay, Note: k.Note, OfBlend: k.Blended,
	}
}

// OwnKind returns one of the maker's own kinds.
func (s *Room) OwnKind(ctx context.Context, id int64) (OwnKind, error) {
	r, err := s.Store.Kind(ctx, id)
	return ownKindOf(r), err
}

// OwnKinds lists the maker's own kinds.
func (s *Room) OwnKinds(ctx context.Context) ([]OwnKind, error) {
	rows, err := s.Store.Kinds(ctx, false)
	out := make([]OwnKind, len(rows))
	for i, r := range rows {
		out[i] = ownKindOf(r)
	}
	return out, err
}

// SaveKind adds a kind of the maker's own (ID 0) or saves one.
func (s *Room) SaveKind(ctx context.Context, k OwnKind) (OwnKind, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the kind", &k.Name, floor.MaxName, true)
	floor.CheckText(&l, "note", "", &k.Note, floor.MaxNote, false)
	if err := k.Check(); err != nil {
		more, _ := fault.From(err)
		for _, f := range more {
			if f.Field != "name" { // said above
				l = append(l, f)
			}
		}
	}
	if err := l.Err(); err != nil {
		return k, err
	}
	save := s.Store.UpdateKind
	if k.ID == 0 {
		save = s.Store.CreateKind
	}
	r, err := save(ctx, k.Row())
	return ownKindOf(r), floor.ConvertStale(err, func(r store.Kind) (OwnKind, error) { return ownKindOf(r), nil })
}

// KindOptions lists kinds for a choice, family by family.
func KindOptions(kinds []fibre.Kind) (families []string, by map[string][]fibre.Kind) {
	by = map[string][]fibre.Kind{}
	for _, k := range kinds {
		by[k.Family] = append(by[k.Family], k)
	}
	for _, f := range fibre.Families {
		if len(by[f]) > 0 {
			families = append(families, f)
		}
	}
	return families, by
}

// StandardKinds are the built-in kinds alone, for answers that must not depend
// on what a maker added.
func StandardKinds() Kinds {
	k := Kinds{List: fibre.Kinds(), at: map[string]int{}}
	for i, v := range k.List {
		k.at[v.Key] = i
	}
	return k
}

// Usual is what is believed of a kind before anything was seen: its listed range is about two
// standard deviations to each side.
func (k Kinds) Usual(kind string) losses.Belief {
	r := k.Named(kind).LossPct
	return losses.Belief{Mean: r.Mid() / 100, SD: max(0.001, (r.High-r.Low)/400)}
}
