package workshop

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/label"
	"fairtangle/studio/floor"
)

// longestContent is how long a name on a label is.
const longestContent = 60

// Contents are what can stand on a label, as it is usually called.
func Contents() []string { return append(fibre.Contents(), label.Others) }

// NameContents has contents called otherwise on labels, as the law of a country or its language wants it: a name for each of Contents, in
// their order; an empty one, or the usual one, is the usual one.
func NameContents(ctx context.Context, s *Room, version int64, names []string) error {
	var l fault.List
	called := map[string]string{}
	for i, usual := range Contents() {
		if i >= len(names) {
			break
		}
		name := names[i]
		floor.CheckText(&l, fmt.Sprint("content", i), "", &name, longestContent, false)
		if name != "" && name != usual {
			called[usual] = name
		}
	}
	if err := l.Err(); err != nil {
		return err
	}
	_, err := s.ChangeSettings(ctx, version, func(v *Settings) { v.ContentNames = called })
	return err
}

// ContentName is what something is called on a label.
func (v Settings) ContentName(usual string) string {
	if name := v.ContentNames[usual]; name != "" {
		return name
	}
	return usual
}
