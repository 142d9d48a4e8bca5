package main

import (
	"archive/zip"
	"bufio"
	"bytes"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is given away is the same bytes from the same sources, with all licences and the list of its parts, and not too large.
func TestWhatIsGivenAway(t *testing.T) {
	t.Chdir(filepath.Join("..", ".."))
	parts, err := inside()
	require.NoError(t, err)
	licences, err := licencesOf(parts)
	require.NoError(t, err)
	bill, err := billOf("1.2", parts)
	require.NoError(t, err)
	for _, p := range parts {
		assert.Contains(t, string(licences), "==== "+p.Path+" "+p.Version)
		assert.Contains(t, string(bill), p.Path)
	}
	for _, vendored := range []string{"alpine", "bootstrap", "literata"} {
		assert.Contains(t, strings.ToLower(string(licences)), vendored)
	}
	begin, err := os.ReadFile("scripts/dist/begin.txt")
	require.NoError(t, err)
	beside := map[string][]byte{"LICENCES.txt": licences, "sbom.cdx.json": bill, "README.txt": begin}
	name, first, err := built(runtime.GOOS+"/"+runtime.GOARCH, "1.2", beside)
	require.NoError(t, err)
	_, second, err := built(runtime.GOOS+"/"+runtime.GOARCH, "1.2", beside)
	require.NoError(t, err)
	assert.True(t, bytes.Equal(first, second), "the same bytes")
	assert.Contains(t, name, "fair-tangle-1.2-")
	z, err := zip.NewReader(bytes.NewReader(first), int64(len(first)))
	require.NoError(t, err)
	for _, f := range z.File {
		if strings.HasSuffix(f.Name, "fairtangle") {
			r, err := f.Open()
			require.NoError(t, err)
			program, err := io.ReadAll(r)
			require.NoError(t, err)
			assert.Less(t, len(program), 30_000_000)
			assert.EqualValues(t, 0o755, f.Mode().Perm())
			assert.Contains(t, string(program), "1.2")
			runsAnywhere(t, program)
		}
	}
}

// runsAnywhere starts a program in an empty home where there is nothing else, asks it for its first page, and ends it.
func runsAnywhere(t *testing.T, program []byte) {
	home := t.TempDir()
	bin := filepath.Join(home, "fairtangle")
	require.NoError(t, os.WriteFile(bin, program, 0o755))
	in := func(args ...string) *exec.Cmd {
		cmd := exec.Command(bin, args...)
		cmd.Dir, cmd.Env = home, []string{"HOME=" + home}
		return cmd
	}
	cmd := in("start", "-addr", "127.0.0.1:0")
	said, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	line, err := bufio.NewReader(said).ReadString('\n')
	require.NoError(t, err)
	page, err := http.Get(strings.TrimSpace(strings.TrimPrefix(line, "listening on ")) + "/makings")
	require.NoError(t, err)
	body, err := io.ReadAll(page.Body)
	require.NoError(t, err)
	require.NoError(t, page.Body.Close())
	assert.Contains(t, string(body), "do you come from another computer")
	out, err := in("stop").CombinedOutput()
	require.NoError(t, err, string(out))
	require.NoError(t, cmd.Wait())
	data, err := filepath.Glob(filepath.Join(home, ".config", "*", "fairtangle.db"))
	require.NoError(t, err)
	assert.Len(t, data, 1, "where the system expects it")
}
