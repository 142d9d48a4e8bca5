package buying

import (
	"context"
	"math"
	"slices"
	"time"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Till is what went from the table: sold, given away, or kept for oneself.
type Till struct{ floor *floor.Floor }

// Sale is a piece or several that went. Money is for one, in the maker's currency; Cost is of its fibre, packing and
// machine, and what fees and tax take of one that is sold.
type Sale struct {
	ID, Version int64
	At          time.Time
	Name        string
	How         string
	Pieces      int64
	Price, Cost float64
	Minutes     float64 // that one took
	BlendID     *int64
	Note        string
}

// Hows are the ways in which something goes from the table.
var Hows = []string{"sold", "given", "kept"}

// Took is what sales together made.
type Took struct {
	Pieces      int64
	Money, Cost float64
	Hours       float64
}

// Left is what is left of the money once what went into the pieces is off it.
func (t Took) Left() float64 { return t.Money - t.Cost }

func saleOf(r store.Sale) Sale {
	return Sale{r.ID, r.Version, r.CreatedAt, r.Name, r.How, r.Pieces, float64(r.Cents) / 100, float64(r.CostCents) / 100, r.Minutes,
		r.BlendID, r.Note}
}

// Sales lists them, the latest first, with what those that were sold made.
func (t Till) Sales(ctx context.Context) (out []Sale, took Took, err error) {
	rows, err := store.Pieces[store.Sale](ctx, t.floor.Store)
	for _, r := range rows {
		v := saleOf(r)
		out = append(out, v)
		if v.How == Hows[0] {
			n := float64(v.Pieces)
			took = Took{took.Pieces + v.Pieces, took.Money + n*v.Price, took.Cost + n*v.Cost, took.Hours + n*v.Minutes/60}
		}
	}
	floor.InOrder(out, func(a, b Sale) int { return int(b.ID - a.ID) })
	return out, took, err
}

// Sale returns one.
func (t Till) Sale(ctx context.Context, id int64) (Sale, error) {
	row, err := store.Piece[store.Sale](ctx, t.floor.Store, id)
	return saleOf(row), err
}

// Save notes a sale (ID 0) or saves one. What was given or kept brought nothing.
func (t Till) Save(ctx context.Context, v Sale) (Sale, error) {
	var l fault.List
	floor.CheckText(&l, "name", "what went", &v.Name, floor.MaxName, true)
	floor.CheckText(&l, "note", "", &v.Note, floor.MaxNote, false)
	if !slices.Contains(Hows, v.How) {
		l.Add("how", "It was sold, given or kept.")
	}
	if v.Pieces < 1 || v.Pieces > 10_000 {
		l.Add("pieces", "There are 1 to 10000 pieces.")
	}
	money := func(field string, m float64) int64 {
		if !(m >= 0 && m <= 1e6) {
			l.Add(field, "Money is from 0 to 1000000.")
		}
		return int64(math.Round(100 * m))
	}
	if v.How != Hows[0] {
		v.Price = 0
	}
	cents, cost := money("price", v.Price), money("cost", v.Cost)
	if !(v.Minutes >= 0 && v.Minutes <= 1e5) {
		l.Add("minutes", "Minutes are from 0 to 100000.")
	}
	if err := l.Err(); err != nil {
		return v, err
	}
	if v.ID == 0 && v.BlendID != nil { // it may be gone by now
		if _, err := store.Piece[store.Blend](ctx, t.floor.Store, *v.BlendID); err != nil {
			return v, err
		}
	}
	row, err := store.PutPiece(ctx, t.floor.Store, store.Sale{Base: store.Base{ID: v.ID, Version: v.Version}, Name: v.Name, How: v.How, Pieces: v.Pieces,
		Cents: cents, CostCents: cost, Minutes: v.Minutes, BlendID: v.BlendID, Note: v.Note})
	return saleOf(row), floor.ConvertStale(err, func(r store.Sale) (Sale, error) { return saleOf(r), nil })
}
