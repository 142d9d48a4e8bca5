package web

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"fairtangle/studio"
)

// full is the sample world with 5,000 more lots and 50,000 movements.
func full(b *testing.B) client {
	c := sample(b)
	ctx := context.Background()
	var lots []studio.NewLot
	kinds := studio.StandardKinds().List
	for i := range 5000 {
		hex := fmt.Sprintf("#%06x", (i*7919+12345)%0xffffff)
		lots = append(lots, studio.NewLot{Grams: 100, LotInput: studio.LotInput{
			Name: fmt.Sprintf("lot %d", i), Kind: kinds[i%len(kinds)].Key, Preparation: "combed_top", Colours: []studio.LotColour{{Hex: hex}},
		}})
	}
	made, err := c.s.CreateLots(ctx, lots, "")
	require.NoError(b, err)
	for i := range 45_000 {
		reason := studio.WeighIn
		if i >= 22_500 {
			reason = studio.TakeOut
		}
		_, err := c.s.Move(ctx, made[i%5000].ID, studio.MoveInput{Reason: reason, Grams: 1})
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
