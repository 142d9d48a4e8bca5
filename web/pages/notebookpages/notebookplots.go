package notebookpages

import (
	"fmt"
	"math"

	"fairtangle/core/carding"
	"fairtangle/studio/lessons"
	"fairtangle/studio/notebook"
	"fairtangle/web/show"
)

// weightPlot has numbers that were foreseen over time, with their ranges.
type weightPlot struct {
	Points []plotWeight
	Ticks  []plotLabel
	Name   string
	Said   string
}

type plotWeight struct {
	X, Low, High, Said, Off float64
	Held                    bool
	Title                   string
	Href                    string
}

type plotLabel struct {
	Y    float64
	Text string
}

// plotted is what was foreseen of a number, and what came.
type plotted struct {
	said, low, high, came float64
	held                  bool
	title, href           string
}

// plotOf plots the latest of them between bounds that hold them all; tick writes a number. With
// whole, the plot goes from the least number to the greatest and has a line at each.
func plotOf(list []plotted, least, most float64, whole bool, tick func(float64) string) (out weightPlot) {
	list = list[max(0, len(list)-plotMost):]
	if len(list) == 0 {
		return out
	}
	low, high, lines := least, most, most-least+1
	if !whole {
		low, high, lines = math.Inf(1), math.Inf(-1), 4
		for _, f := range list {
			low, high = min(low, f.low, f.came), max(high, f.high, f.came)
		}
		pad := max(least, 0.06*(high-low))
		low, high = max(0, low-pad), high+pad
	}
	y := func(g float64) float64 { return plotFoot - (g-low)/(high-low)*(plotFoot-plotTop) }
	for i, f := range list {
		out.Points = append(out.Points, plotWeight{
			X: plotLeft + plotWide*(float64(i)+0.5)/float64(len(list)), Low: y(f.low), High: y(f.high), Said: y(f.said), Off: y(f.came), Held: f.held,
			Title: f.title, Href: f.href,
		})
	}
	for i := range int(lines) {
		g := low + (high-low)*float64(i)/(lines-1)
		out.Ticks = append(out.Ticks, plotLabel{y(g), tick(g)})
	}
	return out
}

// plotsOf are the plots of weights, minutes, colours and looks, each with a sentence.
func plotsOf(r notebook.Record, u show.Units) (out []weightPlot) {
	add := func(name, said string, p weightPlot) {
		p.Name, p.Said = name, said
		out = append(out, p)
	}
	of := func(n int, what string, held int) string {
		return fmt.Sprintf("Of %s foreseen, %d lay in the range that was stated (it should be 9 of 10).", show.Plural(n, what), held)
	}
	var weights []plotted
	for _, f := range r.Weights {
		title := fmt.Sprintf("%s, %d: foreseen %s (%s to %s), came off %s", f.Name, f.Unit+1, u.Grams(f.Said.Grams), u.Plain(f.Said.LowG),
			u.Grams(f.Said.HighG), u.Grams(f.OffG))
		weights = append(weights, plotted{f.Said.Grams, f.Said.LowG, f.Said.HighG, f.OffG, f.Held, title, fmt.Sprintf("/runs/%d/record", f.RunID)})
	}
	if len(weights) > 0 {
		add("Weight", of(len(weights), "weight", r.Held), plotOf(weights, 0.5, 0, false, u.Grams))
	}
	if list, held := comparedOf(r.Minutes, func(v float64) string { return show.Fixed(v, 0) + " min" }); len(list) > 0 {
		add("Minutes of a pass", of(len(list), "time", held), plotOf(list, 1, 0, false, func(v float64) string { return show.Fixed(v, 0) + "\u00a0min" }))
	}
	if list, held := comparedOf(r.Colours, func(v float64) string { return show.Fixed(v, 1) }); len(list) > 0 {
		add("Colour, how far off in CIEDE2000", of(len(list), "colour", held), plotOf(list, 0.5, 0, false, func(v float64) string { return show.Fixed(v, 1) }))
	}
	if list, held := comparedOf(r.LookList, lookName); len(list) > 0 {
		said := fmt.Sprintf("Of %s foreseen, %d came as foreseen.", show.Plural(len(list), "look"), held)
		add("Look", said, plotOf(list, 1, float64(len(carding.Looks())), true, lookName))
	}
	return out
}

func lookName(v float64) string {
	return string(carding.Looks()[min(max(int(v+0.5), 1), len(carding.Looks()))-1])
}

// comparedOf is what is plotted of numbers that were foreseen, and how many lay in their range.
func comparedOf(list []lessons.Compared, words func(float64) string) (out []plotted, held int) {
	for _, f := range list {
		where := fmt.Sprintf("%s, %d, pass %d", f.Name, f.Unit+1, f.Pass)
		href := fmt.Sprintf("/runs/%d/record", f.RunID)
		if f.LotID != 0 {
			where, href = f.Name, fmt.Sprintf("/lots/%d", f.LotID)
		}
		said := words(f.Said)
		switch {
		case f.LotID != 0:
			said = "at most " + words(f.High)
		case f.High > f.Low:
			said += fmt.Sprintf(" (%s to %s)", words(f.Low), words(f.High))
		}
		out = append(out, plotted{f.Said, f.Low, f.High, f.Came, f.Held, fmt.Sprintf("%s: foreseen %s, came %s", where, said, words(f.Came)), href})
		if f.Held {
			held++
		}
	}
	return out, held
}
