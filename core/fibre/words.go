package fibre

// Words are what a maker writes of a lot in her own words. Forms, files, the API, the search and the
// pages of a lot know them by Each, so that one more is a field here, a column, and a line in the
// document of the API.
type Words struct {
	WhereFrom string `json:"where_from"`
	Place     string `json:"place"`
	Tags      string `json:"tags"`
	Note      string `json:"note"`
}

// Word is one of them: its name in forms, files and the API, what a page calls it, an example, and
// where it stands. A long one has several lines.
type Word struct {
	Name, Label, Like string
	Long              bool
	Text              *string
}

// Said is what was written.
func (w Word) Said() string { return *w.Text }

// Each lists the words of a lot, in the order in which they are shown.
func (w *Words) Each() []Word {
	return []Word{
		{Name: "where_from", Label: "Where from", Text: &w.WhereFrom},
		{Name: "place", Label: "Where it lies", Like: "blue box, second shelf", Text: &w.Place},
		{Name: "tags", Label: "Tags", Like: "sock, undyed, from the fair", Text: &w.Tags},
		{Name: "note", Label: "Note", Long: true, Text: &w.Note},
	}
}
