package floor

import (
	"errors"

	"fairtangle/formats"
	"fairtangle/store"
)

// What can go wrong with what is kept, as those who call the studio see it.
type (
	// Stale is a change based on an old version; it carries what stands there now.
	Stale = store.Stale
	// Trouble is returned when the disk did not keep what was given to it.
	Trouble = store.Trouble
	// Short is a lot that has not as much as was to be taken.
	Short = store.Short
)

// ErrBusy is returned where as many long computations run already as may.
var ErrBusy = formats.ErrBusy

// ErrEnding is returned to who begins to watch a program that ends.
var ErrEnding = errors.New("the program ends")

// ErrNotFound is returned for what is not there or lies in the bin.
var ErrNotFound = store.ErrNotFound
