package shelf

import (
	"context"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/studio/floor"
)

// Several is what several lots are to have alike; what is empty they keep. Tags are added to those that they have.
type Several struct {
	Preparation string
	fibre.Words
}

// At is a lot as it was seen.
type At struct{ ID, Version int64 }

// mostSeveral is how many lots are changed at once.
const mostSeveral = 500

// ChangeSeveral changes lots alike, all of them or none: one that was changed in another window in the meantime stops it.
func ChangeSeveral(ctx context.Context, s *Room, lots []At, in Several) error {
	told := in.Preparation != ""
	for _, w := range in.Words.Each() {
		told = told || strings.TrimSpace(w.Said()) != ""
	}
	switch {
	case len(lots) == 0:
		return fault.New("lot", "Choose the lots.")
	case len(lots) > mostSeveral:
		return fault.New("lot", "At most %d lots are changed at once.", mostSeveral)
	case !told:
		return fault.New("change", "Say what they are to have alike.")
	}
	for _, at := range lots {
		l, err := s.Lot(ctx, at.ID)
		if err != nil {
			return err
		}
		if l.Version != at.Version {
			return fault.New("lot", "%s was changed in another window in the meantime; nothing was changed here. It is shown as it is now.", l.Name)
		}
		if in.Preparation != "" {
			l.Preparation = in.Preparation
		}
		news := in.Words.Each()
		for i, w := range l.Words.Each() {
			switch said := strings.TrimSpace(news[i].Said()); {
			case said == "":
			case w.Name == "tags":
				*w.Text = withTags(*w.Text, said)
			default:
				*w.Text = said
			}
		}
		if _, err := s.UpdateLot(ctx, at.ID, at.Version, l.LotInput); err != nil {
			return err
		}
	}
	return nil
}

// withTags are the tags of a lot with more of them, each once.
func withTags(have, more string) string {
	var out []string
	for tag := range strings.SplitSeq(have+","+more, ",") {
		if tag = strings.TrimSpace(tag); tag != "" && !slices.ContainsFunc(out, func(t string) bool { return strings.EqualFold(t, tag) }) {
			out = append(out, tag)
		}
	}
	return strings.Join(out, ", ")
}

// TagsInUse are the tags of the lots of a shelf, in their order.
func TagsInUse(lots []Lot) []string {
	all := ""
	for _, l := range lots {
		all = withTags(all, l.Tags)
	}
	out := strings.Split(all, ", ")
	floor.InOrder(out, func(a, b string) int { return strings.Compare(strings.ToLower(a), strings.ToLower(b)) })
	return slices.DeleteFunc(out, func(t string) bool { return t == "" })
}
