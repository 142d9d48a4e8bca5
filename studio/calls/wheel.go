package calls

import (
	"fmt"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/studio/workshop"
)

// WheelRequest asks which lots lie where around a colour.
type WheelRequest struct {
	Lots []struct {
		ID     string               `json:"id"`
		Colour workshop.ColourInput `json:"colour"`
	} `json:"lots"`
	Around   workshop.ColourInput `json:"around"`
	Scheme   string               `json:"scheme"`
	WidthDeg float64              `json:"width_deg"`
}

// WheelPlace is a place on the wheel with what lies there, nearest first.
type WheelPlace struct {
	HueDeg float64    `json:"hue_deg"`
	Fits   []WheelFit `json:"fits"`
}

// WheelFit is a lot near a place.
type WheelFit struct {
	ID     string  `json:"id"`
	OffDeg float64 `json:"off_deg"`
}

// WheelAnswer is where the colour lies (OKLCH), and what lies around it; hue is null where it has none.
type WheelAnswer struct {
	HueDeg     *float64     `json:"hue_deg"`
	Chroma     float64      `json:"chroma"`
	Lightness  float64      `json:"lightness"`
	Places     []WheelPlace `json:"places"`
	WithoutHue []string     `json:"without_hue"`
}

// mostOnWheel is how many lots are looked through.
const mostOnWheel = 10_000

// shownAs is a colour as it is shown, without looking for the spectrum of one that is told by # and six digits.
func shownAs(c workshop.ColourInput) (colour.Linear, error) {
	if c.Hex != nil && c.Lab == nil && c.Reflectance == nil {
		return colour.ParseHex(*c.Hex)
	}
	r, _, err := c.Read()
	return r.Linear(), err
}

// Wheel finds which lots lie where around a colour, from nothing but the request.
func Wheel(q WheelRequest) (WheelAnswer, error) {
	var l fault.List
	if len(q.Lots) > mostOnWheel {
		l.Add("lots", "There are at most %d lots.", mostOnWheel)
		return WheelAnswer{}, l
	}
	around, _, err := q.Around.Read()
	l.Take("around", err)
	list := make([]colour.Linear, len(q.Lots))
	for i, v := range q.Lots {
		var err error
		list[i], err = shownAs(v.Colour)
		l.Take(fmt.Sprintf("lots[%d].colour", i), err)
	}
	if q.WidthDeg == 0 {
		q.WidthDeg = colour.UsualWheelWidth
	}
	places, grey, err := colour.Around(around.Linear(), q.Scheme, q.WidthDeg, list)
	l.Take("", err)
	if err := l.Err(); err != nil {
		return WheelAnswer{}, err
	}
	light, chroma, hue := around.Linear().OKLCH()
	a := WheelAnswer{Chroma: chroma, Lightness: light, Places: []WheelPlace{}, WithoutHue: []string{}}
	if chroma >= colour.HueFrom {
		a.HueDeg = &hue
	}
	for _, p := range places {
		out := WheelPlace{p.Hue, []WheelFit{}}
		for _, f := range p.Fits {
			out.Fits = append(out.Fits, WheelFit{q.Lots[f.Of].ID, f.Off})
		}
		a.Places = append(a.Places, out)
	}
	for _, i := range grey {
		a.WithoutHue = append(a.WithoutHue, q.Lots[i].ID)
	}
	return a, nil
}
