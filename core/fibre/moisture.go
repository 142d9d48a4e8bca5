package fibre

// woolRegainPct is the moisture that wool takes up near 65 % humidity, percent of its dry mass.
const woolRegainPct = 16

// drier is what of wool's moisture the kinds of the table do not take up, by key and as the mean of
// each family.
var drier, drierOf = func() (map[string]float64, map[string]float64) {
	byKey, sum, many := map[string]float64{}, map[string]float64{}, map[string]float64{}
	for _, r := range table("fibres.csv", fibresCSV) {
		less := max(0, 1-number(r, "moisture_regain_pct")/woolRegainPct)
		byKey[r["key"]] = less
		sum[r["family"]], many[r["family"]] = sum[r["family"]]+less, many[r["family"]]+1
	}
	for family := range sum {
		sum[family] /= many[family]
	}
	return byKey, sum
}()

// Drier is what of wool's moisture the kind does not take up, parts of 1: from its regain near 65 % humidity
// (table of fibres); a kind of the maker's own does as its family on the whole.
func (k Kind) Drier() float64 {
	if less, ok := drier[k.Key]; ok {
		return less
	}
	return drierOf[k.Family]
}
