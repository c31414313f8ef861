package main

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const root = "../.."

// The map of packages in the README has every package, and none that is gone.
func TestTheReadmeNamesEveryPackage(t *testing.T) {
	readme, err := os.ReadFile(filepath.Join(root, "README.md"))
	require.NoError(t, err)
	_, where, found := strings.Cut(string(readme), "## Where things are")
	require.True(t, found)
	named := map[string]bool{}
	for _, m := range regexp.MustCompile("`([a-z0-9/.]+)`").FindAllStringSubmatch(where, -1) {
		named[m[1]] = true
	}
	there := map[string]bool{}
	for folder, prefix := range map[string]string{"internal/core": "", "internal": "internal/", "cmd": "cmd/", ".": ""} {
		list, err := os.ReadDir(filepath.Join(root, folder))
		require.NoError(t, err)
		for _, e := range list {
			files, _ := filepath.Glob(filepath.Join(root, folder, e.Name(), "*.go"))
			if len(files) == 0 || folder == "." && e.Name() == "web" {
				continue
			}
			there[prefix+e.Name()] = true
			assert.True(t, named[prefix+e.Name()], "the README does not say what %s%s is for", prefix, e.Name())
		}
	}
	for name := range named {
		if strings.HasPrefix(name, "internal/") && name != "internal/core" {
			assert.True(t, there[name], "the README speaks of %s, which is gone", name)
		}
	}
}

// Every link between the pages leads somewhere.
func TestEveryLinkInTheDocsLeadsSomewhere(t *testing.T) {
	link := regexp.MustCompile(`\]\(([^)#]+)(#[^)]*)?\)`)
	n := 0
	pages := []string{filepath.Join(root, "README.md")}
	require.NoError(t, filepath.WalkDir(filepath.Join(root, "docs"), func(path string, _ os.DirEntry, err error) error {
		if strings.HasSuffix(path, ".md") {
			pages = append(pages, path)
		}
		return err
	}))
	for _, page := range pages {
		text, err := os.ReadFile(page)
		require.NoError(t, err)
		for _, m := range link.FindAllStringSubmatch(string(text), -1) {
			if strings.Contains(m[1], "://") {
				continue
			}
			n++
			_, err := os.Stat(filepath.Join(filepath.Dir(page), m[1]))
			assert.NoError(t, err, "%s: %s", page, m[1])
		}
	}
	assert.Greater(t, n, 30)
}
