package store_test

import (
	"context"
	"fmt"
	"os"
	"time"

	"fairtangle/store"
)

// What is kept by a deed is kept whole or not at all.
func ExampleStore_Deed() {
	dir, _ := os.MkdirTemp("", "store")
	defer os.RemoveAll(dir)
	db, err := store.Open(dir, time.Now)
	if err != nil {
		panic(err)
	}
	defer db.Close()
	ctx := context.Background()
	lot := store.Lot{Name: "undyed Romney", Kind: "romney", Preparation: "combed_top", Colours: []store.Colour{{Hex: "#d9cfb9", Share: 1}}}
	err = db.Deed(ctx, func(ctx context.Context) error {
		if _, err := db.CreateLots(ctx, []store.Lot{lot}, "", ""); err != nil {
			return err
		}
		return fmt.Errorf("the bag was another's")
	})
	_, all, _ := db.Lots(ctx, store.LotFilter{})
	fmt.Println(err, all)
	// Output: the bag was another's 0
}
