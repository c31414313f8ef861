package e2e

import (
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
)

// A client that was generated from the description by a generator that is not ours does what
// its author would want; what it says is held against what it did.
func TestAStrangersClientFindsItsWay(t *testing.T) {
	p := opened(t, "/find", demo.Slipway, `document.querySelector('main')`)
	resp, err := http.Get(p.url + "/api/v1/openapi-3.0.json")
	require.NoError(t, err)
	spec, err := io.ReadAll(resp.Body)
	resp.Body.Close()
	require.NoError(t, err)
	dir := filepath.Join("testdata", "stranger", "client")
	require.NoError(t, os.MkdirAll(dir, 0o755))
	description := filepath.Join(t.TempDir(), "openapi.json")
	require.NoError(t, os.WriteFile(description, spec, 0o600))
	out, err := exec.CommandContext(t.Context(), "go", "tool", "oapi-codegen", "-generate", "types,client", "-package", "client", "-o", filepath.Join(dir, "client.go"), description).CombinedOutput()
	require.NoError(t, err, string(out))
	out, err = exec.CommandContext(t.Context(), "go", "run", "./testdata/stranger", p.url).CombinedOutput()
	require.NoError(t, err, string(out))
	said := strings.Split(strings.TrimSpace(string(out)), "\n")
	said = slices.DeleteFunc(said, func(l string) bool { return strings.HasPrefix(l, "go: ") }) // what was fetched to build it
	require.Len(t, said, 6, string(out))
	assert.Equal(t, []string{"added: spokeshave", "refused: urn:hobrak:problem:stale", "noted: used true", "saves: true", "moved: true"}, said[1:])
	s := p.shop()
	assert.Len(t, s.Events, 1)
	assert.NotEmpty(t, p.homes("spokeshave"), "the plan gave it a home")
}
