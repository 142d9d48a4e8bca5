package web

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"fairtangle/demo"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// full is the sample world with 5,000 more lots and 50,000 movements.
func full(b *testing.B) client {
	c := sample(b)
	ctx := context.Background()
	var lots []shelf.NewLot
	kinds := workshop.StandardKinds().List
	for i := range 5000 {
		hex := fmt.Sprintf("#%06x", (i*7919+12345)%0xffffff)
		lots = append(lots, shelf.NewLot{Grams: 100, LotInput: shelf.LotInput{
			Name: fmt.Sprintf("lot %d", i), Kind: kinds[i%len(kinds)].Key, Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: hex}},
		}})
	}
	made, err := c.s.Shelf.CreateLots(ctx, lots, "")
	require.NoError(b, err)
	for i := range 45_000 {
		reason := shelf.WeighIn
		if i >= 22_500 {
			reason = shelf.TakeOut
		}
		_, err := c.s.Shelf.Move(ctx, made[i%5000].ID, shelf.MoveInput{Reason: reason, Grams: 1})
		require.NoError(b, err)
	}
	return c
}

// The pages that a maker with a very full cupboard opens most, as whole
// requests without the network.
func BenchmarkFullShelf(b *testing.B) {
	c := full(b)
	for name, path := range map[string]string{
		"wall": "/shelf", "table": "/shelf?view=table&page=20", "search": "/shelf?q=49&sort=grams", "lot": "/lots/40", "blend": "/blends/6", "making": "/makings/3",
	} {
		b.Run(name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if w := c.do("GET", path, "", ""); w.Code != 200 {
					b.Fatal(w.Code)
				}
			}
		})
	}
}

// lived is the sample world with 4,000 more runs of its board: 20,000 entries in the notebook.
func lived(b *testing.B) client {
	ctx := context.Background()
	db, err := store.Open(b.TempDir(), time.Now)
	require.NoError(b, err)
	b.Cleanup(func() { db.Close() })
	st, err := studio.New(ctx, db)
	require.NoError(b, err)
	require.NoError(b, demo.Fill(ctx, st))
	first, err := db.Run(ctx, 1)
	require.NoError(b, err)
	for i := range 4000 {
		next := first
		next.Entries = nil
		r, err := store.AddPiece(ctx, db, next)
		require.NoError(b, err)
		list := []store.RunEntry{
			{What: "off", Mg: 27_100}, {What: "droppings", Mg: 200}, {What: "look", Text: "streaky"}, {What: "minutes", Number: 18}, {What: "note", Text: "as ever"},
		}
		for k := range list {
			list[k].Key, list[k].Pass = fmt.Sprintf("lived-%d-%d", i, k), 1
		}
		_, err = db.Enter(ctx, r.ID, list, func(store.Run) error { return nil })
		require.NoError(b, err)
	}
	h, err := New(st, Options{Log: quiet, Hosts: []string{"example.com"}})
	require.NoError(b, err)
	return client{b, h, st}
}

// The notebook of many years beside an empty one: list, search and plots.
func BenchmarkFullNotebook(b *testing.B) {
	for world, c := range map[string]client{"empty": sample(b), "full": lived(b)} {
		for name, path := range map[string]string{"list": "/notebook", "search": "/notebook?q=cuffs", "late": "/notebook?page=100"} {
			b.Run(world+"/"+name, func(b *testing.B) {
				for b.Loop() {
					if w := c.do("GET", path, "", ""); w.Code != 200 {
						b.Fatal(w.Code)
					}
				}
			})
		}
	}
}
