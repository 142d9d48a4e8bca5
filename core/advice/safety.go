package advice

import (
	"slices"
)

func pins(l *look) {
	if l.known(l.Told.Starting != nil, "whether work begins now") && *l.Told.Starting && l.known(l.Bed != nil, "the equipment") && l.Bed.Pins() {
		l.find(Caution, values{}, "Pins pierce skin: cover what is stored, stroke away from the wrist, wear closed shoes.")
	}
}

func movingDrum(l *look) {
	if !l.known(l.Told.Starting != nil, "whether work begins now") || !*l.Told.Starting || !l.known(l.Bed != nil, "the equipment") || !l.drum() {
		return
	}
	if l.known(l.Told.Ticked != nil, "whether the list for the drum is ticked") && !*l.Told.Ticked {
		l.find(Stop, values{}, "Before the drum turns: hair tied, sleeves tight, no jewellery, guards on, hands behind the edge of the tray.")
	}
}

func unplug(l *look) {
	if !l.known(l.Bed != nil, "the equipment") || !l.Bed.Electric || !l.known(l.Told.Next != "", "what is done next") {
		return
	}
	if !slices.Contains([]string{"doff", "pick", "clean", "clear", "adjust"}, l.Told.Next) {
		return
	}
	if l.known(l.Told.Unplugged != nil, "whether the plug is pulled") && !*l.Told.Unplugged {
		l.find(Stop, values{}, "Switch off, pull the plug, and wait until it stands still.")
	}
}

func hygiene(l *look) {
	for i, f := range l.Fibres {
		if f.Preparation == "raw_fleece" && f.Share > 0 {
			l.find(Caution, values{"share": f.Share}, "%s comes straight from the animal: gloves, a mask, a table of its own, no food.", f.Name).of(i)
			return
		}
	}
}

func dye(l *look) {
	if l.known(l.Told.UsesDye != nil, "whether dye or acid is used") && *l.Told.UsesDye {
		l.find(Stop, values{}, "Dye powder and acid: safety sheet read, gloves, eye cover, mask, pots of their own.")
	}
}

func children(l *look) {
	if l.known(l.Told.ChildNear != nil, "whether a child or a pet is near") && *l.Told.ChildNear {
		l.find(Stop, values{}, "A child or a pet is near: somebody grown up watches, and what has pins is covered.")
	}
}

func manual(l *look) {
	if l.known(l.Told.Manual != nil, "whether the maker's figures are noted") && !*l.Told.Manual {
		l.find(Hint, values{}, "The maker's own figures for load, speed and clearance are not noted; they come before these.")
	}
}
