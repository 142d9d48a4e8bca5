package store

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPiecesAreKeptByVersion(t *testing.T) {
	s := open(t)
	ctx := context.Background()
	a, err := AddPiece(ctx, s, ScrapBag{Name: "ends", Scraps: []Scrap{{Name: "blue", Kind: "merino", Hex: "#123456", Grams: 2}}})
	require.NoError(t, err)
	first := a
	a.Name = "all ends"
	b, err := SavePiece(ctx, s, a, nil)
	require.NoError(t, err)
	assert.Equal(t, int64(2), b.Version)
	first.Name = "too late"
	_, err = SavePiece(ctx, s, first, nil)
	var stale Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "all ends", stale.Current.(ScrapBag).Name)
	got, err := Piece[ScrapBag](ctx, s, a.ID)
	require.NoError(t, err)
	assert.Equal(t, b.Name, got.Name)
	assert.Equal(t, a.Scraps, got.Scraps)
	_, err = Piece[Photo](ctx, s, a.ID)
	assert.ErrorIs(t, err, ErrNotFound)
	require.NoError(t, s.Discard(ctx, "scrap_sets", a.ID))
	_, err = SavePiece(ctx, s, b, nil)
	assert.ErrorIs(t, err, ErrNotFound, "what lies in the bin is not saved")
	list, err := Pieces[ScrapBag](ctx, s)
	require.NoError(t, err)
	assert.Empty(t, list)
}

func TestSamplesMarkFollowsEveryChange(t *testing.T) {
	s := open(t)
	ctx := context.Background()
	seen := map[[2]int64]bool{}
	look := func() {
		mark, err := s.SamplesMark(ctx)
		require.NoError(t, err)
		assert.False(t, seen[mark], "a mark that stood for something else")
		seen[mark] = true
	}
	look()
	a, err := AddPiece(ctx, s, Sample{Name: "a", Components: []SampleComponent{}, Measured: Colour{Hex: "#808080"}})
	require.NoError(t, err)
	look()
	_, err = AddPiece(ctx, s, Sample{Name: "b", Components: []SampleComponent{}, Measured: Colour{Hex: "#808080"}})
	require.NoError(t, err)
	look()
	_, err = SavePiece(ctx, s, a, nil)
	require.NoError(t, err)
	look()
	require.NoError(t, s.Discard(ctx, "samples", a.ID))
	look()
	require.NoError(t, s.Restore(ctx, "samples", a.ID))
	look()
}

func TestFilesAreNamedByTheirContent(t *testing.T) {
	s := open(t)
	a, err := s.KeepFile([]byte("one picture"))
	require.NoError(t, err)
	again, err := s.KeepFile([]byte("one picture"))
	require.NoError(t, err)
	other, err := s.KeepFile([]byte("another"))
	require.NoError(t, err)
	assert.Equal(t, a, again)
	assert.NotEqual(t, a, other)
	data, err := s.File(a)
	require.NoError(t, err)
	assert.Equal(t, "one picture", string(data))
	left, err := os.ReadDir(filepath.Join(s.dir, "photos"))
	require.NoError(t, err)
	assert.Len(t, left, 2, "nothing half-written stays")
	for _, name := range []string{"", "../fairtangle.db", a + "/../x", "..%2f" + a, a[:63] + ".png"} {
		_, err := s.File(name)
		assert.ErrorIs(t, err, ErrNotFound, name)
	}
}

// A file as any earlier release left it is brought up to date and keeps what
// is in it.
func TestFilesOfEarlierReleasesOpen(t *testing.T) {
	for release := 1; release < len(migrations()); release++ {
		t.Run(migrations()[release-1].ID, func(t *testing.T) { opensFrom(t, release) })
	}
}

// What came off of runs is counted where they were kept before it was: of three units two have come off
// their last pass, and of the third something did, which was taken back.
func TestRunsOfEarlierReleasesAreCounted(t *testing.T) {
	dir := t.TempDir()
	db, err := Connect(filepath.Join(dir, FileName), 1)
	require.NoError(t, err)
	o := *gormigrate.DefaultOptions
	o.UseTransaction = true
	require.NoError(t, gormigrate.New(db, &o, migrations()[:15]).Migrate())
	const at = `'2026-11-01', '2026-11-01'`
	for _, sql := range []string{
		`INSERT INTO makings (id, version, created_at, updated_at, name, note) VALUES (1, 1, ` + at + `, 'throw', '')`,
		`INSERT INTO runs (id, version, created_at, updated_at, sort, name, making_id, units, passes, cloth_mg, plan)
			VALUES (1, 5, ` + at + `, 'carding', 'three batts', 1, 3, 2, 0, '{}')`,
		`INSERT INTO run_entries VALUES (1, 'a', 1, '2026-11-01', 0, 2, 'off', 30000, 0, '', NULL, NULL), (2, 'b', 1, '2026-11-01', 1, 1, 'off', 29000, 0, '', NULL, NULL),
			(3, 'c', 1, '2026-11-01', 1, 2, 'off', 28000, 0, '', NULL, NULL), (4, 'd', 1, '2026-11-01', 2, 2, 'off', 31000, 0, '', NULL, NULL),
			(5, 'e', 1, '2026-11-01', 2, 2, 'off', 0, 0, '', 4, NULL)`,
	} {
		require.NoError(t, db.Exec(sql).Error)
	}
	pool, err := db.DB()
	require.NoError(t, err)
	require.NoError(t, pool.Close())
	s, err := Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	r, err := s.Run(t.Context(), 1)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 2}, []int{r.CameOff, r.SomeOff})
	assert.EqualValues(t, 5, r.Version, "nothing else of it is touched")
	r, err = s.Enter(t.Context(), 1, []RunEntry{{Key: "a-key-of-its-own", Unit: 2, Pass: 1, What: "off", Mg: 30_500}}, func(Run) error { return nil })
	require.NoError(t, err)
	assert.Equal(t, []int{2, 3}, []int{r.CameOff, r.SomeOff}, "the third has begun to come off")
}

func opensFrom(t *testing.T, release int) {
	dir := t.TempDir()
	db, err := Connect(filepath.Join(dir, FileName), 1)
	require.NoError(t, err)
	o := *gormigrate.DefaultOptions
	o.UseTransaction = true
	require.NoError(t, gormigrate.New(db, &o, migrations()[:release]).Migrate())
	const at = `'2026-11-01', '2026-11-01'`
	for _, sql := range []string{
		`INSERT INTO lots (id, version, created_at, updated_at, name, kind, preparation, colours, shelf_order, grams_mg, superwash, cents_per100g, where_from, note, movement_count)
			VALUES (1, 3, ` + at + `, 'blue', 'merino', 'combed_top', '[{"hex":"#6b8799","share":1,"source":"photo"}]', 1.5, 30000, 0, 420, '', '', 1)`,
		`INSERT INTO movements VALUES (1, 1, '2026-11-01', 30000, 30000, 'opening', '', NULL)`,
		`INSERT INTO makings (id, version, created_at, updated_at, name, note) VALUES (1, 1, ` + at + `, 'throw', '')`,
		`INSERT INTO blends (id, version, created_at, updated_at, making_id, name, total_mg, passes, target_hex) VALUES (1, 2, ` + at + `, 1, 'slack', 60000, 2, '#7f9296')`,
		`INSERT INTO blend_components (id, blend_id, position, lot_id, name, kind, preparation, hex, parts, locked) VALUES (1, 1, 0, 1, '', '', '', '', 3, 1)`,
		`INSERT INTO equipment VALUES (1, 1, ` + at + `, NULL, 'drum_standard_hand', 'drum', 'drum', 'hand', 200, 580, 72, 10, 90, 50, 22, 0.3, '')`,
		`INSERT INTO weighouts (id, version, created_at, updated_at, blend_id, name, units, finished_mg, passes, step_mg)
			VALUES (1, 4, ` + at + `, 1, 'four', 4, 60000, 2, 100)`,
		`INSERT INTO weighout_components (id, weighout_id, position, lot_id, name, kind, preparation, hex, share, loss_pct, joins_at_pass)
			VALUES (1, 1, 0, 1, 'blue', 'merino', 'combed_top', '#6b8799', 1, 2.5, 1)`,
		`INSERT INTO weighout_cells VALUES (1, 1, 0, 0, 63100, 63100, 10000, 0)`,
		`INSERT INTO movements VALUES (2, 1, '2026-11-01', -10000, 20000, 'weighing', 'four', NULL)`,
		`UPDATE lots SET grams_mg = 20000, movement_count = 2`,
		`INSERT INTO weighings VALUES (1, 'a-key-of-its-own', 1, 0, 0, 10000, 'as-is', 2, '2026-11-01', NULL, '[{"ID":1,"Unit":0}]')`,
	} {
		require.NoError(t, db.Exec(sql).Error)
	}
	pool, err := db.DB()
	require.NoError(t, err)
	require.NoError(t, pool.Close())

	s, err := Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	ctx := context.Background()
	l, err := s.Lot(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, []Colour{{Hex: "#6b8799", Share: 1, Source: "photo"}}, l.Colours)
	assert.Empty(t, l.ColoursBefore)
	b, err := s.Blend(ctx, 1)
	require.NoError(t, err)
	require.Len(t, b.Components, 1)
	assert.Empty(t, b.Components[0].OnlyHex)
	assert.True(t, b.Components[0].Locked)
	set, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.False(t, set.Calibrated)
	drift, err := s.Drift(ctx)
	require.NoError(t, err)
	assert.Empty(t, drift)
	l.Colours = []Colour{{Hex: "#111111", Share: 1, Source: "value"}}
	l, err = s.UpdateLot(ctx, l)
	require.NoError(t, err)
	assert.Equal(t, "#6b8799", l.ColoursBefore[0].Hex)

	w, err := s.Weighout(ctx, 1)
	require.NoError(t, err)
	assert.Nil(t, w.LayupID)
	used, err := s.UsedFor(ctx, []int64{1})
	require.NoError(t, err)
	assert.Equal(t, []Used{{BlendID: 1, LotID: 1, Mg: 10000}}, used)
	assert.Empty(t, w.Lays)
	assert.Len(t, w.Cells, 4, "the table is made whole")
	assert.EqualValues(t, 63100, w.Cells[0].PlannedMg)
	m, err := s.Making(ctx, 1)
	require.NoError(t, err)
	assert.Empty(t, m.Schools)
	m.Schools = map[string]string{"loading": "thin"}
	m, err = s.UpdateMaking(ctx, m)
	require.NoError(t, err)
	assert.Equal(t, "thin", m.Schools["loading"])
	plan := LayupPlan{Draft: 1.75, Layers: []PlanLayer{{Lays: []PlanLay{{To: 1, End: 1, Grams: 12.5, Method: "feed"}}}}, Joins: []int{1}}
	laid, err := AddPiece(
		ctx,
		s,
		Layup{BlendID: 1, EquipmentID: 1, Name: "first", Units: 4, Components: []LayupComponent{{LotID: &l.ID, Name: "blue"}}, Plan: plan},
	)
	require.NoError(t, err)
	got, err := Piece[Layup](ctx, s, laid.ID)
	require.NoError(t, err)
	assert.Equal(t, plan, got.Plan)
	copied, err := s.CopyMaking(ctx, 1, "again")
	require.NoError(t, err)
	blends, err := s.BlendsOf(ctx, []int64{copied.ID})
	require.NoError(t, err)
	require.Len(t, blends, 1)
	layups, err := Pieces[Layup](ctx, s, "blend_id = ?", blends[0].ID)
	require.NoError(t, err)
	require.Len(t, layups, 1, "lay-ups are copied with their blend")
	assert.Equal(t, plan, layups[0].Plan)
}
