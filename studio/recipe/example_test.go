package recipe_test

import (
	"context"
	"fmt"
	"os"
	"time"

	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/studio/recipe"
)

// Three parts of white to one of black, 40 g of it: the grams of each, what has to be weighed in for
// them over two passes, and the colour.
func Example() {
	dir, _ := os.MkdirTemp("", "recipe")
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
	b, err := s.Recipe.WorkOut(ctx, recipe.BlendInput{Name: "salt and pepper", TotalG: 40, Passes: 2, Components: []recipe.BlendComponent{
		{Name: "white", Kind: "corriedale", Preparation: "combed_top", Hex: "#f1ece1", Parts: 3},
		{Name: "black", Kind: "corriedale", Preparation: "combed_top", Hex: "#1c1b1e", Parts: 1},
	}})
	if err != nil {
		panic(err)
	}
	for _, c := range b.Components {
		fmt.Printf("%s: %g g, %.1f g to weigh in\n", c.Name, c.Grams, c.WeighG)
	}
	fmt.Println(b.Hex)
	// Output:
	// white: 30 g, 31.0 g to weigh in
	// black: 10 g, 10.3 g to weigh in
	// #727171
}
