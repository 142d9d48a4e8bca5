package store

import (
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"
)

// migrations only go forward. A migration that was released is never changed.
func migrations() []*gormigrate.Migration {
	return []*gormigrate.Migration{
		{ID: "0001-first-slice", Migrate: statements(firstSlice)},
		{ID: "0002-colour-by-intent", Migrate: statements(colourByIntent)},
		{ID: "0003-lay-up", Migrate: statements(layUp)},
		{ID: "0004-steps", Migrate: statements(steps)},
		{ID: "0005-sent-keys", Migrate: statements(sentKeys)},
		{ID: "0006-carder-fits", Migrate: statements(carderFits)},
		{ID: "0007-scales", Migrate: statements(scales)},
		{ID: "0008-runs", Migrate: statements(runs)},
		{ID: "0009-notebook", Migrate: statements(notebook)},
		{ID: "0010-needs", Migrate: statements(needs)},
		{ID: "0011-buying", Migrate: statements(buying)},
		{ID: "0012-yarns", Migrate: statements(yarns)},
		{ID: "0013-advice", Migrate: statements(advice)},
		{ID: "0014-tellings", Migrate: statements(tellings)},
		{ID: "0015-deeds", Migrate: statements(deeds)},
		{ID: "0016-summaries", Migrate: summarise},
		{ID: "0017-places", Migrate: statements(`ALTER TABLE lots ADD COLUMN place TEXT NOT NULL DEFAULT ''`)},
		{ID: "0018-hours", Migrate: statements(`UPDATE tellings SET key = 'washed_hours_ago' WHERE key = 'washed_hours'`)},
		{ID: "0019-again", Migrate: statements(`ALTER TABLE blends ADD COLUMN again_of INTEGER`)},
		{ID: "0020-sample", Migrate: statements(`ALTER TABLE settings ADD COLUMN sample TEXT`)},
		{ID: "0021-lies", Migrate: statements(`ALTER TABLE lots ADD COLUMN lies TEXT NOT NULL DEFAULT ''`)},
		{ID: "0022-partings", Migrate: statements(partings)},
		{ID: "0023-runs-of-colour", Migrate: statements(`ALTER TABLE lots ADD COLUMN run_cm REAL NOT NULL DEFAULT 0`)},
		{ID: "0024-lay-before", Migrate: statements("ALTER TABLE lots ADD COLUMN lies_before TEXT NOT NULL DEFAULT ''\n--\n" +
			"ALTER TABLE lots ADD COLUMN run_cm_before REAL NOT NULL DEFAULT 0")},
		{ID: "0025-copies", Migrate: statements(`ALTER TABLE settings ADD COLUMN copies_folder TEXT NOT NULL DEFAULT ''`)},
		{ID: "0026-alone", Migrate: statements(`ALTER TABLE weighout_components ADD COLUMN alone_first INTEGER NOT NULL DEFAULT 0`)},
		{ID: "0027-tools", Migrate: statements(`CREATE TABLE tools (` + base + `,
	name TEXT NOT NULL, kind TEXT NOT NULL, minutes REAL NOT NULL, loss_pct REAL NOT NULL, cleaning TEXT NOT NULL, note TEXT NOT NULL)`)},
		{ID: "0028-doors", Migrate: statements("CREATE TABLE sessions (token TEXT PRIMARY KEY, data BLOB NOT NULL, expires DATETIME NOT NULL)\n--\n" +
			"CREATE TABLE tokens (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, hash TEXT NOT NULL UNIQUE, made DATETIME NOT NULL, used DATETIME)")},
		{ID: "0029-tags", Migrate: statements(`ALTER TABLE lots ADD COLUMN tags TEXT NOT NULL DEFAULT ''`)},
		{ID: "0030-benches", Migrate: statements(apart)},
		{ID: "0031-short-names", Migrate: statements(`ALTER TABLE settings ADD COLUMN short_names TEXT`)},
		{ID: "0032-lot-photo", Migrate: statements(`ALTER TABLE lots ADD COLUMN photo_id INTEGER`)},
		{ID: "0033-rates", Migrate: statements(`ALTER TABLE settings ADD COLUMN rates TEXT`)},
		{ID: "0034-sales", Migrate: statements(`CREATE TABLE sales (` + base + `,
	name TEXT NOT NULL, how TEXT NOT NULL, pieces INTEGER NOT NULL, cents INTEGER NOT NULL, cost_cents INTEGER NOT NULL, minutes REAL NOT NULL,
	blend_id INTEGER REFERENCES blends (id), note TEXT NOT NULL)`)},
		{ID: "0035-content-names", Migrate: statements(`ALTER TABLE settings ADD COLUMN content_names TEXT`)},
		{ID: "0036-practices", Migrate: statements(`CREATE TABLE practices (` + base + `,
	name TEXT NOT NULL, skill TEXT NOT NULL, level INTEGER NOT NULL, seed INTEGER NOT NULL, by_lightness BOOLEAN NOT NULL, score REAL NOT NULL,
	answer TEXT NOT NULL)`)},
		{ID: "0037-rounds", Migrate: statements(rounds)},
	}
}

// Changes are the changes of the tables, the first first, by their names.
func Changes() (ids []string) {
	for _, m := range migrations() {
		ids = append(ids, m.ID)
	}
	return ids
}

// Begin makes a database in an empty directory as it was after a change of the tables, with one connection. Who asked closes it.
func Begin(dir, change string) (*gorm.DB, error) {
	db, err := Connect(filepath.Join(dir, FileName), 1)
	if err != nil {
		return nil, err
	}
	return db, gormigrate.New(db, changing(), migrations()).MigrateTo(change)
}

func changing() *gormigrate.Options {
	o := *gormigrate.DefaultOptions
	o.UseTransaction, o.ValidateUnknownMigrations = true, true
	return &o
}

func migrate(db *gorm.DB) error {
	err := gormigrate.New(db, changing(), migrations()).Migrate()
	if errors.Is(err, gormigrate.ErrUnknownPastMigration) {
		return errors.New("it was written by a newer Fair Tangle; use that one, nothing was changed")
	}
	return err
}

// soundAt finds a damaged file by reading alone, before anything can touch it.
func soundAt(path string) error {
	if info, err := os.Stat(path); err != nil || info.Size() == 0 {
		return nil // a new one
	}
	db, err := sql.Open("sqlite", "file:"+path+"?mode=ro&_pragma=busy_timeout(5000)")
	if err != nil {
		return damaged(err.Error())
	}
	defer db.Close()
	var said string
	if err := db.QueryRow("PRAGMA quick_check(1)").Scan(&said); err != nil {
		return damaged(err.Error())
	}
	if said != "ok" {
		return damaged(said)
	}
	return nil
}

func damaged(how string) error {
	return fmt.Errorf("%s is damaged (%s); nothing was changed. Put a copy in its place with: fairtangle restore COPY -data DIR", FileName, how)
}

// statements runs SQL statements that are parted by lines holding only "--".
func statements(sql string) gormigrate.MigrateFunc {
	return func(tx *gorm.DB) error {
		for _, stmt := range strings.Split(sql, "\n--\n") {
			if err := tx.Exec(stmt).Error; err != nil {
				return err
			}
		}
		return nil
	}
}

const base = `id INTEGER PRIMARY KEY AUTOINCREMENT, version INTEGER NOT NULL, created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL, deleted_at DATETIME`

const rounds = `CREATE TABLE rounds (` + base + `,
	name TEXT NOT NULL, code TEXT NOT NULL, skill TEXT NOT NULL, level INTEGER NOT NULL, count INTEGER NOT NULL, seed INTEGER NOT NULL,
	by_lightness BOOLEAN NOT NULL, over BOOLEAN NOT NULL)
--
CREATE TABLE seats (` + base + `,
	round_id INTEGER NOT NULL REFERENCES rounds (id), name TEXT NOT NULL, word TEXT NOT NULL, answers TEXT NOT NULL)
--
CREATE INDEX seats_of_round ON seats (round_id)`

const firstSlice = `CREATE TABLE lots (` + base + `,
	name TEXT NOT NULL, kind TEXT NOT NULL, preparation TEXT NOT NULL, colours TEXT NOT NULL,
	shelf_order REAL NOT NULL, grams_mg INTEGER NOT NULL CHECK (grams_mg >= 0), staple_mm REAL,
	superwash NUMERIC NOT NULL, cents_per100g INTEGER, where_from TEXT NOT NULL, note TEXT NOT NULL,
	movement_count INTEGER NOT NULL)
--
CREATE INDEX lots_order ON lots (shelf_order, id) WHERE deleted_at IS NULL
--
CREATE TABLE movements (id INTEGER PRIMARY KEY AUTOINCREMENT, lot_id INTEGER NOT NULL REFERENCES lots (id),
	at DATETIME NOT NULL, delta_mg INTEGER NOT NULL, balance_mg INTEGER NOT NULL CHECK (balance_mg >= 0),
	reason TEXT NOT NULL, note TEXT NOT NULL, undoes_id INTEGER UNIQUE REFERENCES movements (id))
--
CREATE INDEX movements_lot ON movements (lot_id, id)
--
CREATE TRIGGER movements_stay BEFORE UPDATE ON movements BEGIN SELECT RAISE(ABORT, 'the ledger is only added to'); END
--
CREATE TRIGGER movements_never_go BEFORE DELETE ON movements BEGIN SELECT RAISE(ABORT, 'the ledger is only added to'); END
--
CREATE TABLE kinds (` + base + `, name TEXT NOT NULL, family TEXT NOT NULL, role TEXT NOT NULL,
	diameter_low REAL NOT NULL, diameter_high REAL NOT NULL, staple_low REAL NOT NULL, staple_high REAL NOT NULL,
	density REAL NOT NULL, crimp TEXT NOT NULL, cohesion TEXT NOT NULL, lustre TEXT NOT NULL,
	loss_pct_low REAL NOT NULL, loss_pct_high REAL NOT NULL, note TEXT NOT NULL)
--
CREATE TABLE makings (` + base + `, name TEXT NOT NULL, note TEXT NOT NULL, archived_at DATETIME)
--
CREATE TABLE blends (` + base + `, making_id INTEGER NOT NULL REFERENCES makings (id), name TEXT NOT NULL,
	total_mg INTEGER NOT NULL, passes INTEGER NOT NULL, target_hex TEXT NOT NULL)
--
CREATE INDEX blends_making ON blends (making_id)
--
CREATE TABLE blend_components (id INTEGER PRIMARY KEY AUTOINCREMENT, blend_id INTEGER NOT NULL REFERENCES blends (id),
	position INTEGER NOT NULL, lot_id INTEGER REFERENCES lots (id), name TEXT NOT NULL, kind TEXT NOT NULL,
	preparation TEXT NOT NULL, hex TEXT NOT NULL, parts REAL NOT NULL CHECK (parts > 0), locked NUMERIC NOT NULL,
	UNIQUE (blend_id, position))
--
CREATE INDEX blend_components_lot ON blend_components (lot_id)
--
CREATE TABLE equipment (` + base + `, preset TEXT NOT NULL, name TEXT NOT NULL, type TEXT NOT NULL, drive TEXT NOT NULL,
	width_mm REAL NOT NULL, length_mm REAL NOT NULL, tpi REAL NOT NULL, tooth_mm REAL NOT NULL, smooth_g REAL NOT NULL,
	lofty_g REAL NOT NULL, minutes REAL NOT NULL, feed_g REAL NOT NULL, note TEXT NOT NULL)
--
CREATE TABLE weighouts (` + base + `, blend_id INTEGER NOT NULL REFERENCES blends (id), name TEXT NOT NULL,
	units INTEGER NOT NULL, finished_mg INTEGER NOT NULL, passes INTEGER NOT NULL, step_mg INTEGER NOT NULL)
--
CREATE INDEX weighouts_blend ON weighouts (blend_id)
--
CREATE TABLE weighout_components (id INTEGER PRIMARY KEY AUTOINCREMENT, weighout_id INTEGER NOT NULL REFERENCES weighouts (id),
	position INTEGER NOT NULL, lot_id INTEGER REFERENCES lots (id), name TEXT NOT NULL, kind TEXT NOT NULL, preparation TEXT NOT NULL,
	hex TEXT NOT NULL, share REAL NOT NULL, loss_pct REAL NOT NULL, joins_at_pass INTEGER NOT NULL, UNIQUE (weighout_id, position))
--
CREATE TABLE weighout_cells (id INTEGER PRIMARY KEY AUTOINCREMENT, weighout_id INTEGER NOT NULL REFERENCES weighouts (id),
	unit INTEGER NOT NULL, position INTEGER NOT NULL, planned_mg INTEGER NOT NULL, target_mg INTEGER NOT NULL,
	weighed_mg INTEGER NOT NULL, done NUMERIC NOT NULL, UNIQUE (weighout_id, unit, position))
--
CREATE TABLE weighings (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, weighout_id INTEGER NOT NULL REFERENCES weighouts (id),
	unit INTEGER NOT NULL, position INTEGER NOT NULL, grams_mg INTEGER NOT NULL CHECK (grams_mg > 0), policy TEXT NOT NULL,
	movement_id INTEGER REFERENCES movements (id), at DATETIME NOT NULL, undone_at DATETIME, before TEXT NOT NULL)
--
CREATE INDEX weighings_weighout ON weighings (weighout_id, id)
--
CREATE TABLE settings (` + base + `, weight_unit TEXT NOT NULL, length_unit TEXT NOT NULL, step_mg INTEGER NOT NULL,
	ground TEXT NOT NULL, model TEXT NOT NULL, model_parameter REAL NOT NULL, covering_power NUMERIC NOT NULL, currency TEXT NOT NULL)
--
INSERT INTO settings VALUES (1, 1, CURRENT_TIMESTAMP, CURRENT_TIMESTAMP, NULL, 'g', 'cm', 100, 'light', 'stearns-noechel', 0.15, 0, '')`

const colourByIntent = `ALTER TABLE lots ADD COLUMN colours_before TEXT
--
ALTER TABLE blend_components ADD COLUMN only_hex TEXT NOT NULL DEFAULT ''
--
ALTER TABLE settings ADD COLUMN calibrated NUMERIC NOT NULL DEFAULT 0
--
ALTER TABLE settings ADD COLUMN reader_address TEXT NOT NULL DEFAULT ''
--
CREATE TABLE gradients (` + base + `, making_id INTEGER NOT NULL REFERENCES makings (id), name TEXT NOT NULL, plan TEXT NOT NULL)
--
CREATE INDEX gradients_making ON gradients (making_id)
--
CREATE TABLE scrap_sets (` + base + `, name TEXT NOT NULL, scraps TEXT NOT NULL)
--
CREATE TABLE photos (` + base + `, name TEXT NOT NULL, file TEXT NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL, card TEXT)
--
CREATE TABLE samples (` + base + `, name TEXT NOT NULL, blend_id INTEGER REFERENCES blends (id), components TEXT NOT NULL,
	measured TEXT NOT NULL, note TEXT NOT NULL)`

const layUp = `ALTER TABLE makings ADD COLUMN schools TEXT
--
ALTER TABLE weighouts ADD COLUMN layup_id INTEGER REFERENCES layups (id)
--
ALTER TABLE weighouts ADD COLUMN lays TEXT
--
CREATE TABLE layups (` + base + `, blend_id INTEGER NOT NULL REFERENCES blends (id), equipment_id INTEGER NOT NULL REFERENCES equipment (id),
	name TEXT NOT NULL, units INTEGER NOT NULL, components TEXT NOT NULL, plan TEXT NOT NULL)
--
CREATE INDEX layups_blend ON layups (blend_id)`

const steps = `ALTER TABLE blend_components ADD COLUMN own_mg INTEGER NOT NULL DEFAULT 0
--
ALTER TABLE weighout_components ADD COLUMN own_mg INTEGER NOT NULL DEFAULT 0
--
ALTER TABLE weighout_components ADD COLUMN only_hex TEXT NOT NULL DEFAULT ''
--
CREATE TABLE steps (id INTEGER PRIMARY KEY AUTOINCREMENT, piece TEXT NOT NULL, piece_id INTEGER NOT NULL, at DATETIME NOT NULL,
	ahead NUMERIC NOT NULL, said TEXT NOT NULL, state TEXT NOT NULL)
--
CREATE INDEX steps_piece ON steps (piece, piece_id, ahead, id)
--
CREATE TABLE weighout_units (id INTEGER PRIMARY KEY AUTOINCREMENT, weighout_id INTEGER NOT NULL REFERENCES weighouts (id),
	version INTEGER NOT NULL, unit INTEGER NOT NULL, off_mg INTEGER CHECK (off_mg >= 0), note TEXT NOT NULL, UNIQUE (weighout_id, unit))
--
ALTER TABLE weighouts ADD COLUMN added_to_mg INTEGER NOT NULL DEFAULT 0
--
ALTER TABLE weighouts ADD COLUMN came_hex TEXT NOT NULL DEFAULT ''
--
ALTER TABLE blends ADD COLUMN came TEXT`

const sentKeys = `CREATE TABLE sent_keys (key TEXT NOT NULL PRIMARY KEY, what TEXT NOT NULL,
	movement_id INTEGER REFERENCES movements (id), at DATETIME NOT NULL)
	WITHOUT ROWID`

const carderFits = `CREATE TABLE carder_fits (equipment_id INTEGER PRIMARY KEY REFERENCES equipment (id), layup_id INTEGER NOT NULL, layup TEXT NOT NULL,
	looks TEXT NOT NULL, carders TEXT NOT NULL, used NUMERIC NOT NULL, at DATETIME NOT NULL)`

const scales = `CREATE TABLE scales (` + base + `, name TEXT NOT NULL, address TEXT NOT NULL, step_mg INTEGER NOT NULL, capacity_mg INTEGER NOT NULL)
--
CREATE TABLE containers (` + base + `, name TEXT NOT NULL, weight_mg INTEGER NOT NULL)
--
ALTER TABLE weighouts ADD COLUMN by_fibre NUMERIC NOT NULL DEFAULT 0`

const runs = `CREATE TABLE runs (` + base + `, sort TEXT NOT NULL, name TEXT NOT NULL, making_id INTEGER NOT NULL REFERENCES makings (id),
	weighout_id INTEGER REFERENCES weighouts (id), layup_id INTEGER REFERENCES layups (id), equipment_id INTEGER REFERENCES equipment (id),
	lot_id INTEGER REFERENCES lots (id), units INTEGER NOT NULL, passes INTEGER NOT NULL, cloth_mg INTEGER NOT NULL, plan TEXT NOT NULL, foreseen TEXT)
--
CREATE INDEX runs_making ON runs (making_id)
--
CREATE INDEX runs_weighout ON runs (weighout_id)
--
CREATE TABLE run_entries (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, run_id INTEGER NOT NULL REFERENCES runs (id),
	at DATETIME NOT NULL, unit INTEGER NOT NULL, pass INTEGER NOT NULL, what TEXT NOT NULL, mg INTEGER NOT NULL, number REAL NOT NULL, text TEXT NOT NULL,
	undoes_id INTEGER UNIQUE REFERENCES run_entries (id), movement_id INTEGER REFERENCES movements (id))
--
CREATE INDEX run_entries_run ON run_entries (run_id, id)
--
CREATE TRIGGER run_entries_stay BEFORE UPDATE ON run_entries BEGIN SELECT RAISE(ABORT, 'entries are only added'); END
--
CREATE TRIGGER run_entries_never_go BEFORE DELETE ON run_entries BEGIN SELECT RAISE(ABORT, 'entries are only added'); END
--
ALTER TABLE lots ADD COLUMN made TEXT
--
ALTER TABLE blends ADD COLUMN place TEXT NOT NULL DEFAULT ''
--
ALTER TABLE kinds ADD COLUMN of_blend NUMERIC NOT NULL DEFAULT 0
--
ALTER TABLE settings ADD COLUMN learning NUMERIC NOT NULL DEFAULT 1`

const notebook = `ALTER TABLE kinds ADD COLUMN loss_decay REAL NOT NULL DEFAULT 0
--
ALTER TABLE weighout_components ADD COLUMN decay REAL NOT NULL DEFAULT 0
--
ALTER TABLE weighouts ADD COLUMN sample NUMERIC NOT NULL DEFAULT 0
--
ALTER TABLE runs ADD COLUMN sample NUMERIC NOT NULL DEFAULT 0
--
CREATE TABLE cleanings (` + base + `, name TEXT NOT NULL, equipment_id INTEGER NOT NULL REFERENCES equipment (id), at DATETIME NOT NULL, full NUMERIC NOT NULL,
	brought_mg INTEGER CHECK (brought_mg >= 0), held_mg INTEGER NOT NULL, minutes REAL NOT NULL, note TEXT NOT NULL)
--
CREATE INDEX cleanings_equipment ON cleanings (equipment_id, at)
--
CREATE INDEX runs_at ON runs (created_at DESC, id DESC, sort, sample, making_id, name) WHERE deleted_at IS NULL
--
CREATE INDEX samples_at ON samples (created_at DESC, id DESC, blend_id, name) WHERE deleted_at IS NULL`

const needs = `CREATE TABLE needs (` + base + `, making_id INTEGER NOT NULL UNIQUE REFERENCES makings (id), plan TEXT NOT NULL)`

const buying = `CREATE TABLE sources (` + base + `, name TEXT NOT NULL, postage_cents INTEGER NOT NULL, free_from_cents INTEGER NOT NULL,
	discounts TEXT, note TEXT NOT NULL)
--
CREATE TABLE offers (` + base + `, source_id INTEGER NOT NULL REFERENCES sources (id), name TEXT NOT NULL, kind TEXT NOT NULL, hex TEXT NOT NULL,
	pack_mg INTEGER NOT NULL CHECK (pack_mg > 0), cents INTEGER NOT NULL CHECK (cents >= 0), breaks TEXT)
--
CREATE INDEX offers_source ON offers (source_id)
--
CREATE TABLE buy_lists (` + base + `, name TEXT NOT NULL, makings TEXT NOT NULL, items TEXT NOT NULL)`

const yarns = `CREATE TABLE yarns (` + base + `, layup_id INTEGER NOT NULL UNIQUE REFERENCES layups (id), plan TEXT NOT NULL)
--
CREATE TABLE yarn_samples (` + base + `, making_id INTEGER NOT NULL REFERENCES makings (id), name TEXT NOT NULL, told TEXT NOT NULL)
--
CREATE INDEX yarn_samples_making ON yarn_samples (making_id)
--
CREATE INDEX yarn_samples_at ON yarn_samples (created_at DESC, id DESC, making_id, name) WHERE deleted_at IS NULL
--
CREATE TABLE skeins (` + base + `, making_id INTEGER NOT NULL REFERENCES makings (id), name TEXT NOT NULL, told TEXT NOT NULL)
--
CREATE INDEX skeins_making ON skeins (making_id)
--
CREATE INDEX skeins_at ON skeins (created_at DESC, id DESC, making_id, name) WHERE deleted_at IS NULL`

const advice = `CREATE TABLE silences (` + base + `, name TEXT NOT NULL, rule TEXT NOT NULL, making_id INTEGER NOT NULL, reason TEXT NOT NULL)
--
CREATE TABLE rule_bounds (` + base + `, key TEXT NOT NULL UNIQUE, value REAL NOT NULL)`

const tellings = `CREATE TABLE tellings (id INTEGER PRIMARY KEY AUTOINCREMENT, "of" TEXT NOT NULL, of_id INTEGER NOT NULL, about TEXT NOT NULL,
	key TEXT NOT NULL, value REAL NOT NULL, at DATETIME NOT NULL, UNIQUE ("of", of_id, about, key))`

const deeds = `ALTER TABLE sent_keys ADD COLUMN answer TEXT NOT NULL DEFAULT ''`

const summaries = `ALTER TABLE runs ADD COLUMN came_off INTEGER NOT NULL DEFAULT 0
--
ALTER TABLE runs ADD COLUMN some_off INTEGER NOT NULL DEFAULT 0
--
CREATE INDEX lots_kind ON lots (kind, shelf_order, id) WHERE deleted_at IS NULL
--
CREATE INDEX lots_grams ON lots (grams_mg DESC, shelf_order, id) WHERE deleted_at IS NULL
--
CREATE INDEX lots_name ON lots (name COLLATE NOCASE, id, grams_mg, preparation, created_at) WHERE deleted_at IS NULL
--
CREATE INDEX lots_made ON lots (id) WHERE made IS NOT NULL
--
CREATE INDEX lots_making ON lots (` + makingOfLot + `) WHERE made IS NOT NULL
--
CREATE INDEX runs_lot ON runs (lot_id) WHERE lot_id IS NOT NULL
--
CREATE INDEX weighout_components_lot ON weighout_components (lot_id)
--
ALTER TABLE blends ADD COLUMN shelf_order REAL
--
CREATE INDEX blends_order ON blends (shelf_order, id) WHERE deleted_at IS NULL
--
CREATE INDEX layups_equipment ON layups (equipment_id)
--
CREATE INDEX weighouts_layup ON weighouts (layup_id) WHERE layup_id IS NOT NULL
--
CREATE INDEX makings_touched ON makings (updated_at DESC, id DESC) WHERE deleted_at IS NULL
--
CREATE INDEX runs_equipment ON runs (equipment_id, created_at DESC, id DESC)`

// makingOfLot is the making that a lot came of, also where what is kept of that is broken.
const makingOfLot = `CASE WHEN json_valid(made) THEN json_extract(made, '$.making_id') END`

// summarise gives lists what they need, and counts what came off of the runs that are there.
func summarise(tx *gorm.DB) error {
	if err := statements(summaries)(tx); err != nil {
		return err
	}
	var list []Run
	return tx.Unscoped().Preload("Entries", byID).Where("sort = ?", CardingRun).FindInBatches(&list, 200, func(*gorm.DB, int) error {
		for _, r := range list {
			last, some := r.off()
			if err := tx.Model(&Run{}).Unscoped().Where("id = ?", r.ID).UpdateColumns(map[string]any{"came_off": last, "some_off": some}).Error; err != nil {
				return err
			}
		}
		return nil
	}).Error
}
