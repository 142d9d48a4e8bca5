package formats

import (
	"encoding/csv"
	"io"
	"strconv"
)

// BuyRow is a line of a list to buy. Source is empty where nobody sells it.
type BuyRow struct {
	Name, Kind, Preparation, Colour, For string
	Grams                                float64
	Source                               string
	Packs                                string
	BoughtG, Price                       float64
	Came                                 bool
}

// BuyColumns are the columns of a list to buy.
var BuyColumns = []string{"name", "kind", "preparation", "colour", "for", "grams", "source", "packs", "bought_g", "price", "came"}

// WriteBuyList writes a list to buy as CSV, as WriteLots does a shelf.
func WriteBuyList(w io.Writer, rows []BuyRow) error {
	c := csv.NewWriter(w)
	c.UseCRLF = true
	if err := c.Write(BuyColumns); err != nil {
		return err
	}
	for _, r := range rows {
		price := ""
		if r.Source != "" {
			price = strconv.FormatFloat(r.Price, 'f', 2, 64)
		}
		rec := []string{
			defuse(r.Name), defuse(r.Kind), defuse(r.Preparation), r.Colour, defuse(r.For), exact(r.Grams), defuse(r.Source), r.Packs, exact(r.BoughtG), price,
			yesNo(r.Came),
		}
		if err := c.Write(rec); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}
