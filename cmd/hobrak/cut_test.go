package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/cutting"
)

func TestPartsAreCutFromTheCommandLine(t *testing.T) {
	parts := file(t, "p.csv", []byte("name,count,l,w,t,material,grain\nside,2,720,300,18,ply,l\nshelf,3,564,280,18,ply,none\n"))
	stock := file(t, "s.csv", []byte("name,count,l,w,t,material,price\nsheet,,2440,1220,18,ply,60\nleft over,1,800,700,18,ply,\n"))
	out := filepath.Join(t.TempDir(), "c.json")
	r := hobrak(t, "cut", "--parts", parts, "--stock", stock, "--out", out, "--seconds", ".3")
	require.Equal(t, 0, r.code, r.err)
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	var p cutting.Plan
	require.NoError(t, json.Unmarshal(data, &p))
	n := 0
	for _, x := range p.Pieces {
		n += len(x.Parts)
	}
	assert.Equal(t, 5, n)
	assert.LessOrEqual(t, p.Bound, p.Used)
	for says, csv := range map[string]string{
		`no column "w"`:          "name,count,l,t,material\nside,2,720,18,ply\n",
		`row 2, l: "long" is no`: "name,count,l,w,t,material\nside,2,long,300,18,ply\n",
		"a count of 0":           "name,count,l,w,t,material\nside,0,720,300,18,ply\n",
		"is empty":               "",
	} {
		r := hobrak(t, "cut", "--parts", file(t, "bad.csv", []byte(csv)), "--stock", stock, "--out", out)
		assert.Equal(t, 2, r.code, says)
		assert.Contains(t, r.err, says)
	}
	r = hobrak(t, "cut", "--parts", file(t, "big.csv", []byte("name,count,l,w,t,material\ntop,1,3000,600,18,ply\n")), "--stock", stock, "--out", out)
	assert.Equal(t, 1, r.code)
	assert.Contains(t, r.err, "1 parts find no stock: top")
}
