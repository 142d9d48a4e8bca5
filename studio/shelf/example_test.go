package shelf_test

import (
	"context"
	"fmt"
	"os"
	"time"

	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/studio/shelf"
)

// A bag is put on the shelf, some is taken out, and what was written of it finds it again.
func Example() {
	dir, _ := os.MkdirTemp("", "shelf")
	defer os.RemoveAll(dir)
	db, err := store.Open(dir, time.Now)
	if err != nil {
		panic(err)
	}
	defer db.Close()
	ctx := context.Background()
	s, err := studio.New(ctx, db)
	if err != nil {
		panic(err)
	}
	bag := shelf.NewLot{Grams: 262, LotInput: shelf.LotInput{
		Name: "grey-blue Corriedale", Kind: "corriedale", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#6b8799"}},
	}}
	bag.Place = "blue box, second shelf"
	lots, err := s.Shelf.CreateLots(ctx, []shelf.NewLot{bag}, "")
	if err != nil {
		panic(err)
	}
	if _, err := s.Shelf.Move(ctx, lots[0].ID, shelf.MoveInput{Reason: shelf.Spun, Grams: 40}); err != nil {
		panic(err)
	}
	found, err := s.Shelf.Shelf(ctx, shelf.LotFilter{Search: "blue box"})
	if err != nil {
		panic(err)
	}
	for _, l := range found.Lots {
		fmt.Printf("%s: %g g in the %s\n", l.Name, l.Grams, l.Place)
	}
	// Output: grey-blue Corriedale: 222 g in the blue box, second shelf
}
