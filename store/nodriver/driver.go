// Package sqlite3 stands in for the cgo driver that GORM's dialect imports but
// that is not used here: the pure Go driver is. With the race detector, which
// needs cgo, the real one would be compiled for minutes.
package sqlite3
