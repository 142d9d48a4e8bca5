package scale

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/core/plate"
	"fairtangle/core/unit"
	"fairtangle/device"
	"fairtangle/studio/workshop"
)

// PlateChange is one thing done at a place at the scale, named by its verb:
//
//	hold   this window weighs from now on
//	first  this window weighs, where nobody else does
//	at     Unit and Component are weighed next, or Together for all units at once
//	tare   what lies there counts as nothing
//	zero   the scale finds its zero
//	put    a container of Grams stands there; 0: none
//	mode   Text: bowl or dishes
//	scale  ScaleID is listened to; 0: the one that suits, -1: none
type PlateChange struct {
	Verb      string  `json:"verb"`
	Unit      int     `json:"unit"`
	Component int     `json:"component"`
	Grams     float64 `json:"grams"`
	Text      string  `json:"text"`
	ScaleID   int64   `json:"scale_id"`
	Together  bool    `json:"together"`
}

// ChangePlate does one thing at the place of a weigh-out, for a window that watches it, and gives how many changes there have
// been: what the place showed before the last of them is older than what that window chose.
func (s *Room) ChangePlate(ctx context.Context, id int64, window string, c PlateChange) (int64, error) {
	w, err := s.weighedAt(ctx, id)
	if err != nil {
		return 0, err
	}
	scales, err := s.workshop.Scales(ctx)
	if err != nil {
		return 0, err
	}
	p := &s.plates
	p.mu.Lock()
	defer p.mu.Unlock()
	at := p.places[id]
	if at == nil || at.windows[window] == nil {
		return 0, fault.New("window", "This window does not watch the scale. Load the page again.")
	}
	st := &at.state
	if c.Verb == "hold" {
		st.Holder, st.HeldBy = window, at.windows[window].name
		st.Changes++
		at.tell()
		return st.Changes, nil
	}
	if st.Holder != window && !at.free() {
		return 0, ErrHeld{st.HeldBy}
	}
	st.Holder, st.HeldBy = window, at.windows[window].name
	if err := p.change(at, w, scales, c); err != nil {
		return 0, err
	}
	p.bring(at, w, scales)
	st.Changes++
	p.again(at)
	return st.Changes, nil
}

func (p *plates) change(at *weighPlace, w Weighout, scales []workshop.Scale, c PlateChange) error {
	st, v := &at.state, at.on[at.state.ScaleID]
	if v == nil && (c.Verb == "tare" || c.Verb == "put" || c.Verb == "zero") {
		return fault.New("scale", "No scale is listened to.")
	}
	switch c.Verb {
	case "first":
	case "at":
		if c.Unit < 0 || c.Unit >= len(w.Units) || c.Component < 0 || c.Component >= len(w.Components) {
			return fault.New("at", "There is no such place in this weigh-out.")
		}
		st.At, st.Together = &Cell{c.Unit, c.Component}, c.Together
	case "tare":
		v.Tare()
	case "zero":
		if l := p.lines[st.ScaleID]; l != nil {
			go func(scale *device.Scale) { _ = scale.Zero() }(l.scale) // what it says next shows whether it did
		}
		v.Put(0)
	case "put":
		if !(c.Grams >= 0 && c.Grams <= 1e5) {
			return fault.New("grams", "A container weighs %s or more.", unit.Grams(0))
		}
		v.Put(unit.Grams(c.Grams).Milligrams())
	case "mode":
		if c.Text != string(plate.Bowl) && c.Text != string(plate.Dishes) {
			return fault.New("mode", "Fibre goes into a bowl or into dishes.")
		}
		at.mode, st.Mode = plate.Mode(c.Text), plate.Mode(c.Text)
		for _, o := range at.on {
			o.Mode = at.mode
		}
	case "scale":
		st.Auto = c.ScaleID == 0
		var to *workshop.Scale
		for i := range scales {
			if scales[i].ID == c.ScaleID {
				to = &scales[i]
			}
		}
		if c.ScaleID > 0 && to == nil {
			return fault.New("scale", "There is no such scale.")
		}
		if !st.Auto {
			p.listen(at, to)
		}
	default:
		return fault.New("verb", "There is no change called %q.", c.Verb)
	}
	return nil
}
