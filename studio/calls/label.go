package calls

import (
	"fairtangle/core/fault"
	"fairtangle/core/label"
)

// LabelRequest asks what stands on a label.
type LabelRequest struct {
	Components []struct {
		Content   string  `json:"content"`
		FinishedG float64 `json:"finished_g"`
	} `json:"components"`
	Care  []string `json:"care"`
	Style string   `json:"style"`
}

// LabelContent is a line of the contents.
type LabelContent struct {
	Content string `json:"content"`
	Percent int64  `json:"percent"`
}

// LabelAnswer is what stands on it.
type LabelAnswer struct {
	Contents []LabelContent `json:"contents"`
	Text     string         `json:"text"`
}

// Label gives contents in whole percent, from nothing but the request.
func Label(q LabelRequest) (LabelAnswer, error) {
	var l fault.List
	if q.Style != "" && q.Style != "home" && q.Style != "for-sale" {
		l.Add("style", "A label is for home or for-sale.")
	}
	if len(q.Components) > mostAdvised || len(q.Care) > mostAdvised {
		l.Add("components", "There are at most %d components, and lines of care.", mostAdvised)
	}
	parts := make([]label.Part, len(q.Components))
	for i, c := range q.Components {
		parts[i] = label.Part{Content: c.Content, Grams: c.FinishedG}
	}
	contents, err := label.Contents(parts)
	l.Take("", err)
	if err := l.Err(); err != nil {
		return LabelAnswer{}, err
	}
	a := LabelAnswer{Contents: []LabelContent{}, Text: label.Text(contents, q.Care)}
	for _, c := range contents {
		a.Contents = append(a.Contents, LabelContent(c))
	}
	return a, nil
}
