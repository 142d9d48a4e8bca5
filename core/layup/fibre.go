package layup

// rawFleece is fleece that was not washed.
const rawFleece = "raw_fleece"

// Lock reports whether the fibre is a lock laid for its curl. Washed fleece is
// not: its locks are opened before it is laid.
func (f Fibre) Lock() bool { return f.Preparation == "locks" }

// Extra reports whether the fibre binds nothing: dots, noil, threads, film. It
// lies neither first, where it stays in the cloth, nor last, where it drops.
func (f Fibre) Extra() bool {
	switch f.Preparation {
	case "neps", "noil_waste", "threads":
		return true
	case "locks":
		return false
	}
	return f.Role == "texture" || f.Role == "sparkle" || f.Family == "sparkle"
}

// Ground reports whether the fibre can carry others.
func (f Fibre) Ground() bool { return !f.Lock() && !f.Extra() }

// Grips reports whether the fibre lifts a batt off: a grippy wool.
func (f Fibre) Grips() bool {
	return f.Ground() && f.Family == "wool" && f.Cohesion == "grippy"
}

// delicate reports whether a school lets it wait for the last pass.
func (f Fibre) delicate() bool {
	return f.Ground() && (f.Fragile || f.Cohesion == "slippery" || f.LickerIn == "avoid")
}

// delicacy ranks ground fibres from sturdy to delicate.
func (f Fibre) delicacy() (n int) {
	if f.Cohesion == "slippery" {
		n += 2
	} else if f.Cohesion == "smooth" {
		n++
	}
	if f.Fragile {
		n += 2
	}
	if f.LickerIn == "avoid" {
		n++
	}
	return n
}

// Usual is the method that suits a fibre on a bed.
func (b Bed) Usual(f Fibre) Method {
	switch {
	case !f.Ground():
		return Place
	case b.Type != Drum, f.LickerIn == "avoid":
		return Paint
	}
	return Feed
}
