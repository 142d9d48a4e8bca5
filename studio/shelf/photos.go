package shelf

import (
	"bytes"
	"context"
	"io"
	"math"
	"sync"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/photo"
	"fairtangle/formats"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// lastPicture keeps the picture looked at last, so that each click does not
// decode it again.
type lastPicture struct {
	mu   sync.Mutex
	file string
	p    *photo.Picture
}

// NeutralCard is the spot of a photo that shows a neutral card.
type NeutralCard = store.NeutralCard

// Photo is a picture that is kept.
type Photo struct {
	ID      int64        `json:"id"`
	Version int64        `json:"version"`
	Name    string       `json:"name"`
	Width   int          `json:"width"`
	Height  int          `json:"height"`
	Card    *NeutralCard `json:"card"` // what it is balanced by
	File    string       `json:"file"` // named by its content
}

func photoOf(r store.Photo) Photo {
	return Photo{r.ID, r.Version, r.Name, r.Width, r.Height, r.Card, r.File}
}

// Picture is a picture that was read and lies on disk, and is no photo yet.
type Picture struct{ row store.Photo }

// TakePicture reads a JPEG, PNG or WebP picture.
func (s *Room) TakePicture(ctx context.Context, name string, in io.ReadSeeker) (Picture, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the photo", &name, floor.MaxName, true)
	p, err := formats.ReadPhoto(ctx, in)
	if _, isFault := fault.From(err); err != nil && !isFault {
		return Picture{}, err
	}
	l.Take("", err)
	if err := l.Err(); err != nil {
		return Picture{}, err
	}
	out, err := formats.WritePhoto(p)
	if err != nil {
		return Picture{}, err
	}
	file, err := s.Store.KeepFile(out)
	return Picture{store.Photo{Name: name, File: file, Width: p.W, Height: p.H}}, err
}

// KeepPicture makes a photo of a picture.
func (s *Room) KeepPicture(ctx context.Context, p Picture) (Photo, error) {
	r, err := store.AddPiece(ctx, s.Store, p.row)
	return photoOf(r), err
}

// AddPhoto takes a JPEG, PNG or WebP picture in.
func (s *Room) AddPhoto(ctx context.Context, name string, in io.ReadSeeker) (Photo, error) {
	p, err := s.TakePicture(ctx, name, in)
	if err != nil {
		return Photo{}, err
	}
	return s.KeepPicture(ctx, p)
}

// Photos lists the photos, the latest first.
func (s *Room) Photos(ctx context.Context) ([]Photo, error) {
	return workshop.PiecesAs(ctx, s.workshop, photoOf)
}

// Photo returns one.
func (s *Room) Photo(ctx context.Context, id int64) (Photo, error) {
	r, err := store.Piece[store.Photo](ctx, s.Store, id)
	return photoOf(r), err
}

// PhotoFile returns the picture as PNG.
func (s *Room) PhotoFile(ctx context.Context, id int64) ([]byte, error) {
	r, err := s.Photo(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.Store.File(r.File)
}

// RenamePhoto changes a photo's name.
func (s *Room) RenamePhoto(ctx context.Context, id, version int64, name string) (Photo, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the photo", &name, floor.MaxName, true)
	if err := l.Err(); err != nil {
		return Photo{}, err
	}
	return s.changePhoto(ctx, id, version, func(r *store.Photo) { r.Name = name })
}

func (s *Room) changePhoto(ctx context.Context, id, version int64, change func(*store.Photo)) (Photo, error) {
	r, err := store.Piece[store.Photo](ctx, s.Store, id)
	if err != nil {
		return photoOf(r), err
	}
	r.Version = version
	change(&r)
	r, err = store.SavePiece(ctx, s.Store, r, nil)
	return photoOf(r), floor.ConvertStale(err, func(r store.Photo) (Photo, error) { return photoOf(r), nil })
}

// Picture is the picture of a photo, decoded.
func (s *Room) Picture(ctx context.Context, r Photo) (*photo.Picture, error) {
	s.seen.mu.Lock()
	defer s.seen.mu.Unlock()
	if s.seen.file == r.File {
		return s.seen.p, nil
	}
	data, err := s.Store.File(r.File)
	if err != nil {
		return nil, err
	}
	p, err := formats.ReadPhoto(ctx, bytes.NewReader(data))
	if err == nil {
		s.seen.file, s.seen.p = r.File, p
	}
	return p, err
}

// Spot is a round part of a photo, in fractions: X of the width, Y of the
// height, Radius of the longer side.
type Spot struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Radius float64 `json:"radius"`
}

// LeastRadius and MostRadius bound a spot.
const (
	LeastRadius = 0.002
	MostRadius  = 0.5
)

func (v Spot) area(r Photo) (photo.Area, error) {
	if !(v.X >= 0 && v.X <= 1 && v.Y >= 0 && v.Y <= 1) {
		return photo.Area{}, fault.New("area", "The spot lies outside the photo.")
	}
	if !(v.Radius >= LeastRadius && v.Radius <= MostRadius) {
		return photo.Area{}, fault.New("radius", "The spot's radius lies from %.1f to %.0f %% of the longer side.", 100*LeastRadius, 100*MostRadius)
	}
	long := math.Max(float64(r.Width), float64(r.Height))
	dx, dy := v.Radius*long/float64(r.Width), v.Radius*long/float64(r.Height)
	return photo.Area{X0: max(0, v.X-dx), Y0: max(0, v.Y-dy), X1: min(1, v.X+dx), Y1: min(1, v.Y+dy)}, nil
}

// BalanceOf is how the light of a photo is evened out.
func BalanceOf(r Photo) photo.Balance {
	if r.Card == nil {
		return photo.Unbalanced
	}
	return photo.Balance(r.Card.Gains)
}

// SetCard balances a photo by a spot that shows a neutral card; nil takes the
// balance off.
func (s *Room) SetCard(ctx context.Context, id, version int64, spot *Spot, reflectPct float64) (Photo, error) {
	r, err := s.Photo(ctx, id)
	if err != nil {
		return r, err
	}
	if spot == nil {
		return s.changePhoto(ctx, id, version, func(r *store.Photo) { r.Card = nil })
	}
	a, err := spot.area(r)
	if err != nil {
		return r, err
	}
	p, err := s.Picture(ctx, r)
	if err != nil {
		return r, err
	}
	b, _, err := p.Card(a, reflectPct/100)
	if err != nil {
		return r, err
	}
	return s.changePhoto(ctx, id, version, func(r *store.Photo) {
		r.Card = &NeutralCard{X: spot.X, Y: spot.Y, Radius: spot.Radius, ReflectPct: reflectPct, Gains: b}
	})
}

// PhotoReading is the colour of a spot. Spread is how uneven it is.
type PhotoReading struct {
	Hex      string     `json:"hex"`
	Lab      [3]float64 `json:"lab"`
	Name     string     `json:"name"`
	Spread   float64    `json:"spread_delta_e"`
	Pixels   int        `json:"pixels"`
	Balanced bool       `json:"balanced"`
	InGamut  bool       `json:"in_gamut"`
}

// ReadSpot returns the colour of a spot of a photo.
func (s *Room) ReadSpot(ctx context.Context, id int64, spot Spot) (PhotoReading, error) {
	r, err := s.Photo(ctx, id)
	if err != nil {
		return PhotoReading{}, err
	}
	a, err := spot.area(r)
	if err != nil {
		return PhotoReading{}, err
	}
	p, err := s.Picture(ctx, r)
	if err != nil {
		return PhotoReading{}, err
	}
	v, err := p.Read(a, BalanceOf(r))
	if err != nil {
		return PhotoReading{}, err
	}
	lab := v.Colour.Lab()
	return PhotoReading{
		Hex: v.Colour.Hex(), Lab: [3]float64{lab.L, lab.A, lab.B}, Name: colour.Name(lab), Spread: v.Spread, Pixels: v.Pixels,
		Balanced: r.Card != nil, InGamut: v.Colour.InGamut(),
	}, nil
}
