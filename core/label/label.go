// Package label says what is in a thing: its contents in whole percent of the finished weight, and its care.
package label

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/weigh"
)

// Part is fibre of a content in the finished thing.
type Part struct {
	Content string
	Grams   float64
}

// Content is a line of the contents. Percent 0 is under half a percent.
type Content struct {
	Content string
	Percent int64
}

// Others is what contents are called together that are under half a percent each.
const Others = "other fibres"

// Contents adds up what is called alike and gives whole percent that add up to 100 with the least error (largest remainder), most
// first, of equals by name. What comes to nothing is not lost: it stands as other fibres, with 0 percent where all of it together
// comes to none.
func Contents(parts []Part) ([]Content, error) {
	var l fault.List
	var names []string
	grams := map[string]float64{}
	var sum float64
	for i, p := range parts {
		name := strings.TrimSpace(p.Content)
		if name == "" {
			l.Add(fmt.Sprintf("components[%d].content", i), "Say what it is.")
		}
		if !(p.Grams >= 0 && p.Grams <= 1e6) {
			l.Add(fmt.Sprintf("components[%d].finished_g", i), "A weight is 0 or more.")
			continue
		}
		if _, there := grams[name]; !there {
			names = append(names, name)
		}
		grams[name] += p.Grams
		sum += p.Grams
	}
	if len(l) == 0 && !(sum > 0) {
		l.Add("components", "Something has to be in it.")
	}
	if err := l.Err(); err != nil {
		return nil, err
	}
	slices.SortStableFunc(names, func(a, b string) int { return cmp.Or(cmp.Compare(grams[b], grams[a]), cmp.Compare(a, b)) })
	exact := make([]float64, len(names))
	for i, n := range names {
		exact[i] = 100 * grams[n] / sum
	}
	out := []Content{}
	small := false
	for i, n := range weigh.Apportion(exact, 100) {
		switch {
		case n > 0:
			out = append(out, Content{names[i], n})
		case grams[names[i]] > 0:
			small = true
		}
	}
	if small {
		out = append(out, Content{Others, 0})
	}
	return out, nil
}

// Text is the contents and the care as they stand on a label.
func Text(contents []Content, care []string) string {
	var parts []string
	for _, c := range contents {
		if c.Percent == 0 {
			parts = append(parts, "under 1\u00a0% "+c.Content)
			continue
		}
		parts = append(parts, fmt.Sprintf("%d\u00a0%% %s", c.Percent, c.Content))
	}
	text := strings.Join(parts, ", ") + "."
	for _, v := range care {
		if v = strings.TrimSpace(v); v != "" {
			text += " " + strings.TrimSuffix(v, ".") + "."
		}
	}
	return text
}
