package carderpages

import (
	"fmt"
	"strings"

	"fairtangle/core/run"
	"fairtangle/core/trouble"
	"fairtangle/studio/carder"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/shelfpages"
	"fairtangle/web/show"
)

// lineView is a mass line as it is drawn: parts of what was weighed in, to scale.
type lineView struct {
	In    string     `json:"in"`
	Parts []linePart `json:"parts"`
	Left  []linePart `json:"left"` // what left on the way, alone
	Times string     `json:"times"`
	Hex   string     `json:"hex"`
	Said  string     `json:"said"`
}

// linePart is a part of a mass line. Share is of what is drawn.
type linePart struct {
	Key   string  `json:"key"`
	Name  string  `json:"name"`
	Text  string  `json:"text"`
	Share float64 `json:"share"`
}

// otherWay is what a part of the line is called that is below 0.
var otherWay = map[string]string{
	"between": "More was put in", "rest": "More came off than went in", "cloth": "Came out of the cloth", "open": "More is noted than went in",
}

// lineViewOf draws a mass line: what came off, what is still on its way, and what left. What
// came off beyond what went in is no part of that; it is said.
func lineViewOf(l carder.RunLine, u show.Units, hex string) lineView {
	out := lineView{In: u.Grams(l.InG), Parts: []linePart{}, Left: []linePart{}, Hex: hex}
	cloth := "Held by the cloth"
	if l.Guessed {
		cloth += ", reckoned"
	}
	var left float64
	for _, p := range []struct {
		key, name string
		g         float64
	}{
		{"off", "Came off", l.OffG}, {"open", "Not come off yet", l.OpenG}, {"kept", "Residue, kept", l.KeptG}, {"thrown", "Residue, thrown away", l.ThrownG},
		{"droppings", "Droppings", l.DroppingsG}, {"picked", "Specks picked out", l.PickedG}, {"cloth", cloth, l.ClothG},
		{"between", "Not put in again", l.BetweenG}, {"rest", "Not accounted for", l.RestG},
	} {
		if p.g == 0 && p.key != "off" || l.InG <= 0 {
			continue
		}
		part := linePart{p.key, p.name, u.Grams(p.g), max(0, p.g) / l.InG}
		if p.g < 0 {
			part.Name, part.Text = otherWay[p.key], u.Grams(-p.g)
		}
		out.Parts = append(out.Parts, part)
		if p.key != "off" && p.key != "open" && p.g > 0 {
			out.Left, left = append(out.Left, linePart{part.Key, part.Name, part.Text, p.g}), left+p.g
		}
	}
	for i := range out.Left {
		out.Left[i].Share /= left
	}
	if left > 0 && left < l.InG/2 {
		out.Times = fmt.Sprintf("%.0f times as large", l.InG/left)
	}
	var words []string
	for _, p := range out.Parts {
		words = append(words, strings.ToLower(p.Name[:1])+p.Name[1:]+" "+p.Text)
	}
	oil := ""
	if l.OilG > 0 {
		oil = ", " + u.Grams(l.OilG) + " of it oil"
	}
	out.Said = fmt.Sprintf("Of %s weighed in%s: %s.", out.In, oil, strings.Join(words, ", "))
	return out
}

// entryWords are what an entry told, by what it tells.
var entryWords = map[run.What]string{
	run.In: "%s put in", run.Off: "%s came off", run.Residue: "%s of residue on the small drum",
	run.Droppings: "%s of droppings", run.Picked: "%s of specks picked",
	run.Raw: "%s of raw fleece taken", run.Cloth: "%s more in the cloth", run.Piece: "one of them weighs %s", run.Shelved: "%s put on the shelf",
}

var residueWords = map[string]string{"returned": "given back", "kept": "kept", "thrown": "thrown away"}

// entrySaid is what an entry told.
func entrySaid(e carder.RunEntry, u show.Units) string {
	what := run.What(e.What)
	if e.Undoes != nil {
		return fmt.Sprintf("Taken back: entry %d", *e.Undoes)
	}
	if words, ok := entryWords[what]; ok {
		said := fmt.Sprintf(words, u.Grams(*e.Grams))
		switch what {
		case run.Residue:
			said += ", " + residueWords[e.Text]
		case run.Shelved:
			said += " as " + formWord(e.Text)
		}
		return said
	}
	n := show.Number(e.Number)
	switch what {
	case run.Step:
		return "at step " + show.Number(e.Number+1)
	case run.Pause:
		return "the clock stopped"
	case run.Specks:
		return n + " specks in a pinch"
	case run.Look:
		return "it looks " + e.Text
	case run.Minutes:
		return "the clock corrected to " + n + " min"
	case run.Clearance:
		return "clearance " + u.PlainSmall(e.Number) + "\u00a0" + u.SmallUnit()
	case run.Pace:
		return n + " turns in a minute"
	case run.Decided:
		return strings.TrimSuffix("decided: "+DecisionWords[int(e.Number)]+", "+e.Text, ", ")
	case run.Note:
		return "noted: " + e.Text
	case run.Photo:
		return "a photo"
	case run.Tick:
		if w := takeOutWords[e.Text]; w != "" {
			return "looked for and taken out: " + w
		}
		return "checked: " + checkWords[e.Text]
	case run.More:
		return "another pass follows"
	case run.Enough:
		return "no other pass follows"
	case run.Count:
		return n + " rolags came off"
	case run.Helped:
		return "it helped: " + trouble.Said(e.Text)
	case run.Parted:
		if e.Text == "" {
			return "a part is none any more"
		}
		return "a part: " + e.Text
	case run.Hex:
		return "its colour is " + e.Text
	case run.Oil:
		return "spinning oil, " + n + "\u00a0% of the weight"
	case run.Cleaned:
		return "the cloth was clean"
	}
	return e.What
}

var checkWords = map[string]string{"pins": "pins", "drum": "the drum", "unplugged": "unplugged", "still": "the crank let go", "manual": "the manual"}

// runLogOf lists the entries, the latest first.
func runLogOf(v carder.Run, u show.Units) []runLog {
	out := []runLog{}
	for i := len(v.Entries) - 1; i >= 0; i-- {
		e := v.Entries[i]
		if e.What == string(run.Step) {
			continue // where the work was is no news
		}
		l := runLog{ID: e.ID, When: shelfpages.Moment(e.At), Said: entrySaid(e, u), Stands: e.Stands, Undone: e.Undone, Undoes: e.Undoes != nil}
		if e.What == string(run.Tick) {
			l.Key = e.Text
		}
		if v.Fleece != nil {
			l.Where = fleeceWhere(v, e)
			if e.What == string(run.Look) {
				l.Said = "done"
			}
			out = append(out, l)
			continue
		}
		if e.Unit >= 0 {
			l.Where = fmt.Sprintf("%s %d", strings.ToLower(frame.UnitWords[v.Equipment.Type]), e.Unit+1)
		}
		if e.Pass > 0 {
			l.Where += fmt.Sprintf(", pass %d", e.Pass)
		}
		out = append(out, l)
	}
	return out
}
