package fibre

import (
	"math"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/fault"
)

func TestEmbeddedTablesAreSound(t *testing.T) {
	key := regexp.MustCompile(`^[a-z0-9_]+$`)
	assert.Len(t, Kinds(), 71)
	seen := map[string]bool{}
	for _, k := range Kinds() {
		assert.NoError(t, k.Check(), k.Key)
		assert.Regexp(t, key, k.Key)
		assert.False(t, seen[k.Key], "%s stands twice", k.Key)
		seen[k.Key] = true
		assert.LessOrEqual(t, k.MaxPct, 100.0, k.Key)
	}
	assert.Len(t, Preparations(), 11)
	for _, p := range Preparations() {
		assert.Regexp(t, key, p.Key)
		assert.NotEmpty(t, p.Name)
		assert.GreaterOrEqual(t, p.ReadyLossPct.High, p.ReadyLossPct.Low, p.Key)
	}
}

// Worked by hand from the table: Corriedale 25-31 µm, 1.31 g/cm³.
func TestThickness(t *testing.T) {
	k, ok := FindKind("corriedale")
	require.True(t, ok)
	assert.InDelta(t, 36.68, k.Thickness(), 1e-9)
	assert.Equal(t, 115.0, k.StapleMM.Mid())
	_, ok = FindKind("unicorn")
	assert.False(t, ok)
}

func TestCheckNamesTheField(t *testing.T) {
	good, _ := FindKind("merino")
	tests := map[string]func(*Kind){
		"name":                  func(k *Kind) { k.Name = "  " },
		"family":                func(k *Kind) { k.Family = "stone" },
		"diameter_um_low":       func(k *Kind) { k.DiameterUM.Low = math.NaN() },
		"staple_mm_high":        func(k *Kind) { k.StapleMM.High = 10 },
		"carding_loss_pct_high": func(k *Kind) { k.LossPct.High = math.Inf(1) },
		"density_g_cm3":         func(k *Kind) { k.Density = 0 },
	}
	for field, spoil := range tests {
		k := good
		spoil(&k)
		l, ok := fault.From(k.Check())
		require.True(t, ok, field)
		require.Len(t, l, 1, field)
		assert.Equal(t, field, l[0].Field)
	}
}

// What has no crimp lies straight.
func TestWithoutCrimpItLiesStraight(t *testing.T) {
	for _, crimp := range []string{"none", "", "unheard of"} {
		long, high := Wave(crimp)
		assert.Zero(t, long, crimp)
		assert.Zero(t, high, crimp)
	}
}
