package frame

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page is read when it is first shown: that each can be read is not left to the maker who opens
// it. No style sheet is forgotten by the one that pages link.
func TestEveryPageCanBeRead(t *testing.T) {
	files := os.DirFS("..")
	a, err := loadAssets(files)
	require.NoError(t, err)
	for name := range a.files {
		assert.False(t, strings.HasPrefix(name, "css/") && name != sheet, "%s is in no page", name)
	}
	for script, imported := range a.imports {
		for _, name := range imported {
			assert.NotNil(t, a.files[name], "%s imports %s", script, name)
		}
	}
	pages, err := loadTemplates(files, a)
	require.NoError(t, err)
	assert.Greater(t, len(pages), 60)
	for name, read := range pages {
		set, err := read()
		require.NoError(t, err, name)
		assert.True(t, set.Lookup("content") != nil || set.Lookup("document") != nil, name)
	}
}
