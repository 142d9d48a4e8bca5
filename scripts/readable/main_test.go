package main

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// What the page of the API shows is what openapi.yaml says.
func TestThePageIsWhatTheDocumentSays(t *testing.T) {
	text, err := os.ReadFile("../../web/api/openapi.yaml")
	require.NoError(t, err)
	want, err := read(text)
	require.NoError(t, err)
	got, err := api.Readable()
	require.NoError(t, err)
	assert.Equal(t, want, got, "go generate ./web/api")
	assert.NotEmpty(t, got.Groups)
}
