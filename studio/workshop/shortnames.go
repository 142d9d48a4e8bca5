package workshop

import (
	"context"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// ShortName is what a maker calls a kind of fibre.
type ShortName = store.ShortName

// MostShortNames is how many of them there are.
const MostShortNames = 200

// KindNames are the names by which lines about fibre name kinds, besides the usual ones: the maker's own kinds, and her short names.
func KindNames(ctx context.Context, s *Room) (map[string]string, error) {
	set, err := s.Settings(ctx)
	if err != nil {
		return nil, err
	}
	own, err := s.OwnKinds(ctx)
	out := map[string]string{}
	for _, k := range own {
		out[strings.ToLower(k.Name)] = k.Key
	}
	for _, n := range set.ShortNames {
		out[strings.ToLower(n.Name)] = n.Kind
	}
	return out, err
}

// AddShortName notes what the maker calls a kind; what was called so before is called so no more.
func AddShortName(ctx context.Context, s *Room, version int64, in ShortName) error {
	kinds, err := s.AllKinds(ctx, false)
	if err != nil {
		return err
	}
	set, err := s.Settings(ctx)
	if err != nil {
		return err
	}
	var l fault.List
	floor.CheckText(&l, "short.name", "the name", &in.Name, 40, true)
	if _, known := kinds.Find(in.Kind); !known {
		l.Add("short.kind", "Choose a kind of fibre.")
	}
	if len(strings.Fields(in.Name)) > 3 {
		l.Add("short.name", "A name has at most three words.")
	}
	if len(set.ShortNames) >= MostShortNames {
		l.Add("short.name", "There are at most %d names.", MostShortNames)
	}
	if err := l.Err(); err != nil {
		return err
	}
	_, err = s.ChangeSettings(ctx, version, func(v *Settings) {
		v.ShortNames = append(without(v.ShortNames, in.Name), in)
		slices.SortFunc(v.ShortNames, func(a, b ShortName) int { return strings.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) })
	})
	return err
}

// DropShortName lets go of a name.
func DropShortName(ctx context.Context, s *Room, version int64, name string) error {
	_, err := s.ChangeSettings(ctx, version, func(v *Settings) { v.ShortNames = without(v.ShortNames, name) })
	return err
}

func without(list []ShortName, name string) []ShortName {
	return slices.DeleteFunc(slices.Clone(list), func(n ShortName) bool { return strings.EqualFold(n.Name, name) })
}
