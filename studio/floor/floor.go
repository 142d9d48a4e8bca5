// Package floor is what all rooms of the studio stand on: a deed in one transaction, versions, steps,
// the bin, keys, what is left aside, and checks of what is typed. It asks no room.
package floor

import "fairtangle/store"

// Floor gives the rooms what is kept.
type Floor struct{ Store *store.Store }
