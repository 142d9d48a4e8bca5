package scale

import (
	"context"
	"time"

	"fairtangle/core/plate"
	"fairtangle/core/unit"
	"fairtangle/device"
	"fairtangle/studio/workshop"
)

// scaleLine is a scale that is listened to, as long as a place wants it.
type scaleLine struct {
	scale *device.Scale
	at    string // its address
	stop  context.CancelFunc
	heard map[*weighPlace]bool
}

// listen has a place listen to a scale, or to none.
func (p *plates) listen(at *weighPlace, to *workshop.Scale) {
	st := &at.state
	if to != nil && st.ScaleID == to.ID && p.lines[to.ID] != nil && p.lines[to.ID].at == to.Address {
		return
	}
	if l := p.lines[st.ScaleID]; l != nil {
		delete(l.heard, at)
		if len(l.heard) == 0 {
			l.stop()
			delete(p.lines, st.ScaleID)
		}
	}
	st.ScaleID, st.Scale, st.ScaleG, st.Heard, st.Problem = 0, "", 0, false, ""
	if to == nil {
		return
	}
	st.ScaleID, st.Scale, st.ScaleG, st.Problem = to.ID, to.Name, to.StepG, "Looking for the scale."
	if at.on[to.ID] == nil {
		at.on[to.ID] = &plate.Plate{Mode: at.mode}
		at.on[to.ID].Want(at.wanted, at.step)
	}
	l := p.lines[to.ID]
	others := map[*weighPlace]bool{}
	if l != nil && l.at != to.Address { // it was moved in the workshop
		l.stop()
		l, others = nil, l.heard
	}
	if l == nil {
		scale, err := device.NewScale(to.Address)
		if err != nil {
			st.Problem = "Its address is none; see the workshop."
			return
		}
		ctx, stop := context.WithCancel(context.Background())
		l = &scaleLine{scale, to.Address, stop, others}
		p.lines[to.ID] = l
		id := to.ID
		mine := l
		go scale.Watch(ctx, func(h device.ScaleHeard) { p.hear(id, mine, h) })
	}
	l.heard[at] = true
}

// hear passes on what a scale says over a line; one that was let go says nothing any more.
func (p *plates) hear(scale int64, from *scaleLine, h device.ScaleHeard) {
	p.mu.Lock()
	defer p.mu.Unlock()
	l := p.lines[scale]
	if l == nil || l != from {
		return
	}
	for at := range l.heard {
		st := &at.state
		if st.Problem, st.Heard = h.Problem, h.Problem == ""; st.Heard {
			st.Gross, st.Stable = unit.Grams(h.Grams).Milligrams(), h.Stable
			st.Shown = at.on[scale].Hear(plate.Heard{Gross: st.Gross, Stable: h.Stable, Over: h.Over, At: time.Now().UnixMilli()})
		}
		at.tell()
	}
}

// again shows what follows from the last reading after something else changed.
func (p *plates) again(at *weighPlace) {
	st := &at.state
	if v := at.on[st.ScaleID]; v != nil && st.Heard {
		st.Shown = v.Hear(plate.Heard{Gross: st.Gross, Stable: st.Stable, Over: st.Phase == plate.Overload, At: time.Now().UnixMilli()})
	}
	at.tell()
}
