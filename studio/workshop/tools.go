package workshop

import (
	"cmp"
	"context"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Tool is a tool beside the carders: a picker, combs, a hackle, a flicker. What a maker says of hers goes before what is usual.
type Tool struct {
	ID, Version int64
	Name        string
	Kind        layup.Tool
	Minutes     float64 // for 100 g
	LossPct     float64 // of what goes through; 0: not told
	Cleaning    string  // what is to be cleared out, and when
	Note        string
}

// ToolKinds are the kinds of tools that can stand in a workshop.
var ToolKinds = []string{string(layup.ToolPicker), string(layup.ToolFlick), string(layup.ToolCombs), string(layup.ToolHackle)}

func toolOf(r store.Tool) Tool {
	return Tool{r.ID, r.Version, r.Name, layup.Tool(r.Kind), r.Minutes, r.LossPct, r.Cleaning, r.Note}
}

// Rack is where the tools hang.
type Rack struct{ floor *floor.Floor }

// Tools lists them by kind, in the order in which they were put there.
func (r Rack) Tools(ctx context.Context) ([]Tool, error) {
	rows, err := store.Pieces[store.Tool](ctx, r.floor.Store)
	out := make([]Tool, len(rows))
	for i, row := range rows {
		out[i] = toolOf(row)
	}
	floor.InOrder(out, func(a, b Tool) int {
		at := func(t Tool) int { return slices.Index(ToolKinds, string(t.Kind)) }
		return cmp.Or(cmp.Compare(at(a), at(b)), cmp.Compare(a.ID, b.ID))
	})
	return out, err
}

// ToolOf is the first of a kind, nil where there is none.
func ToolOf(tools []Tool, kind layup.Tool) *Tool {
	i := slices.IndexFunc(tools, func(t Tool) bool { return t.Kind == kind })
	if i < 0 {
		return nil
	}
	return &tools[i]
}

// ToolMinutes is how long the tools of a plan take for so many grams: as the workshop says of its own, else as is usual.
func ToolMinutes(tools []Tool, p layup.Plan, grams float64) (sum float64) {
	for _, t := range append(slices.Clone(p.Before), p.After...) {
		if own := ToolOf(tools, t); own != nil {
			sum += own.Minutes * grams / 100
		} else {
			sum += t.Minutes(grams)
		}
	}
	return sum
}

// Tool returns one.
func (r Rack) Tool(ctx context.Context, id int64) (Tool, error) {
	row, err := store.Piece[store.Tool](ctx, r.floor.Store, id)
	return toolOf(row), err
}

// Save adds a tool (ID 0) or saves one.
func (r Rack) Save(ctx context.Context, v Tool) (Tool, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the tool", &v.Name, floor.MaxName, true)
	floor.CheckText(&l, "cleaning", "", &v.Cleaning, floor.MaxNote, false)
	floor.CheckText(&l, "note", "", &v.Note, floor.MaxNote, false)
	if !slices.Contains(ToolKinds, string(v.Kind)) {
		l.Add("kind", "Choose a picker, a flicker, combs or a hackle.")
	}
	if !(v.Minutes > 0 && v.Minutes <= 600) {
		l.Add("minutes", "It takes above 0 and at most 600 minutes.")
	}
	if !(v.LossPct >= 0 && v.LossPct <= 90) {
		l.Add("loss_pct", "What stays behind is from 0 to 90 %%.")
	}
	if err := l.Err(); err != nil {
		return v, err
	}
	row, err := store.PutPiece(ctx, r.floor.Store, store.Tool{Base: store.Base{ID: v.ID, Version: v.Version}, Name: v.Name, Kind: string(v.Kind),
		Minutes: v.Minutes, LossPct: v.LossPct, Cleaning: v.Cleaning, Note: v.Note})
	return toolOf(row), floor.ConvertStale(err, func(r store.Tool) (Tool, error) { return toolOf(r), nil })
}
