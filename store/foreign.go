package store

import (
	"sync"

	"gorm.io/gorm"
)

// acting are the triggers and views of a database, by name with how they are written: they act by themselves.
func acting(db *gorm.DB) (map[string]string, error) {
	var list []struct{ Name, Sql string }
	err := db.Raw("SELECT name, coalesce(sql, '') AS sql FROM sqlite_master WHERE type IN ('trigger', 'view')").Scan(&list).Error
	out := map[string]string{}
	for _, v := range list {
		out[v.Name] = v.Sql
	}
	return out, err
}

// own are those that this release writes.
var own = sync.OnceValues(func() (map[string]string, error) {
	db, err := Connect(":memory:", 1)
	if err != nil {
		return nil, err
	}
	if pool, err := db.DB(); err == nil {
		defer pool.Close()
	}
	if err := migrate(db); err != nil {
		return nil, err
	}
	return acting(db)
})

// Foreign says what a database has that no program of this release wrote: views and triggers of another's, or changes of a newer
// release. Empty: nothing.
func Foreign(db *gorm.DB) (string, error) {
	ours, err := own()
	if err != nil {
		return "", err
	}
	list, err := acting(db)
	if err != nil {
		return "", err
	}
	for name, sql := range list {
		if ours[name] != sql {
			return "It holds views or triggers that Fair Tangle never writes.", nil
		}
	}
	known := map[string]bool{"SCHEMA_INIT": true}
	for _, m := range migrations() {
		known[m.ID] = true
	}
	var done []string
	if err := db.Raw("SELECT id FROM migrations").Scan(&done).Error; err != nil {
		return "It is no data of Fair Tangle.", nil
	}
	for _, id := range done {
		if !known[id] {
			return "It was written by a newer Fair Tangle; use that one.", nil
		}
	}
	return "", nil
}
