package calc_test

import (
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/calc"
	"hobrak/internal/core/length"
)

const pages = "../../../docs/rules/calc"

var (
	command = regexp.MustCompile(`(?m)^hobrak calc ([a-z-]+)((?: [a-z-]+=(?:"(?:\\.|[^"\\])*"|[^ "\n]+))*)$`)
	given   = regexp.MustCompile(`([a-z-]+)=("(?:\\.|[^"\\])*"|[^ "\n]+)`)
	line    = regexp.MustCompile(`(?m)^\| ([a-z_0-9]+) \| (\S+) \|$`)
)

// Every calculator has a page whose example, worked by hand, it gives itself.
func TestEveryCalculatorHasItsPageAndAgreesWithIt(t *testing.T) {
	index, err := os.ReadFile(filepath.Join(pages, "README.md"))
	require.NoError(t, err)
	known := map[string]bool{"README.md": true}
	for _, c := range calc.All() {
		known[c.Name+".md"] = true
		assert.Contains(t, string(index), "("+c.Name+".md)")
		text, err := os.ReadFile(filepath.Join(pages, c.Name+".md"))
		if !assert.NoError(t, err) {
			continue
		}
		m := command.FindStringSubmatch(string(text))
		require.NotNil(t, m, c.Name)
		assert.Equal(t, c.Name, m[1])
		in := map[string]string{}
		for _, g := range given.FindAllStringSubmatch(m[2], -1) {
			v := g[2]
			if strings.HasPrefix(v, `"`) {
				v, err = strconv.Unquote(v)
				require.NoError(t, err)
			}
			in[g[1]] = v
		}
		r, err := calc.Run(c.Name, in, length.Metric)
		require.NoError(t, err, c.Name)
		within := .005
		if c.Name == "path" {
			within = .015
		}
		want := line.FindAllStringSubmatch(string(text), -1)
		require.NotEmpty(t, want, "%s says no result", c.Name)
		for _, w := range want {
			got, ok := r.Result[w[1]]
			require.True(t, ok, "%s has no result %s", c.Name, w[1])
			if x, err := strconv.ParseFloat(w[2], 64); err == nil {
				assert.InEpsilon(t, x, got, within, "%s: %s", c.Name, w[1])
			} else {
				assert.Equal(t, w[2], fmt.Sprint(got), "%s: %s", c.Name, w[1])
			}
		}
	}
	files, err := os.ReadDir(pages)
	require.NoError(t, err)
	for _, f := range files {
		assert.True(t, known[f.Name()], "%s is the page of no calculator", f.Name())
	}
}
