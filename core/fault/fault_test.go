package fault

import (
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPathsGrowFromTheInside(t *testing.T) {
	err := Under("components[2]", Under("colour", New("hex", "wrong")))
	l, ok := From(fmt.Errorf("look: %w", err))
	require.True(t, ok)
	assert.Equal(t, "components[2].colour.hex", l[0].Field)
	assert.Equal(t, "components", Under("components", New("", "none")).(List)[0].Field)
	assert.Equal(t, "a[1]", Under("a", New("[1]", "x")).(List)[0].Field)
}

func TestOtherErrorsPass(t *testing.T) {
	disk := errors.New("disk full")
	assert.Equal(t, disk, Under("x", disk))
	_, ok := From(disk)
	assert.False(t, ok)
	var l List
	assert.NoError(t, l.Err())
	l.Add("grams", "at most %d g", 5)
	l.Add("", "and more")
	assert.EqualError(t, l.Err(), "grams: at most 5 g; and more")
}
