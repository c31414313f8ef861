package shop_test

import (
	"bytes"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

// small is a valid shop that the broken ones are made from.
const small = `{ "format": "hobrak-shop", "version": 1,
 "shop": { "name": "Small", "units": "metric", "people": [ { "id": "me", "stature": 1700 } ] },
 "areas": [ { "id": "main", "corners": [[0,0],[0,3000],[4000,3000],[4000,0]], "walls": [
   { "id": "A", "profile": [[0,2500],[3000,2500]], "claimed": true },
   { "id": "B", "profile": [[0,2500],[4000,2500]], "claimed": true, "studs": { "spacing": 600, "first": 300, "width": 45 } },
   { "id": "C", "profile": [[0,2500],[3000,2500]], "claimed": true },
   { "id": "D", "profile": [[0,2500],[4000,2500]], "claimed": true, "features": [ { "id": "door", "kind": "door", "x": 100, "z": 0, "w": 900, "h": 2000 } ] } ] } ],
 "stations": [ { "id": "bench", "name": "Bench", "kind": "bench", "x": 1000, "y": 2300, "w": 1500, "d": 600, "h": 900, "stand": [1700, 2000] } ],
 "containers": [ { "id": "K1", "kind": "cabinet", "at": { "floor": [3000, 2500] }, "w": 800, "h": 1800, "d": 400 } ],
 "places": [ { "id": "B1", "kind": "wall-field", "style": "screw", "at": { "wall": "B", "x": 1000, "z": 1000 }, "w": 1500, "h": 1000, "d": 200 },
   { "id": "K1-1", "kind": "shelf", "at": { "in": "K1", "x": 20, "z": 100 }, "w": 760, "h": 300, "d": 380, "access": "door" } ],
 "items": [ { "id": "plane", "name": "Plane", "w": 65, "h": 360, "d": 140, "kg": 2.3, "hold": ["hang"], "used_at": ["bench"] },
   { "id": "box", "name": "Box", "w": 200, "h": 100, "d": 150, "count": 3 } ],
 "homes": [ { "item": "plane", "place": "B1", "x": 10, "z": 20 } ],
 "modes": [ { "id": "day", "name": "Day", "spots": { "bench": "folded", "K1": { "floor": [10, 10], "rot": 90 } } } ]
}`

func TestWhatIsWrittenIsReadBackTheSame(t *testing.T) {
	for name, data := range map[string][]byte{"small": []byte(small), "slipway": demo.Slipway, "pantry": demo.Pantry} {
		s, err := shop.Read(data)
		require.NoError(t, err, name)
		once := shop.Write(s)
		again, err := shop.Read(once)
		require.NoError(t, err, name)
		assert.Equal(t, s, again, name)
		assert.Equal(t, string(once), string(shop.Write(again)), "%s is byte-stable", name)
		assert.Equal(t, s, s.Clone(), "%s and its clone", name)
	}
}

// broken documents: what is replaced in small, by what, where the fault is and a piece of its sentence.
var broken = []struct {
	name, old, new, path, says string
	schemaToo                  bool // the JSON Schema sees it as well
}{
	{"a text for a width", `"w": 65`, `"w": "65"`, "items[0].w", "should be a number, not a text", true},
	{"a negative size", `"w": 65`, `"w": -65`, "items[0].w", "too small", true},
	{"an absurd size", `"w": 65`, `"w": 6500000000`, "items[0].w", "absurd", true},
	{"a number no machine can hold", `"w": 65`, `"w": 1e999`, "items[0].w", "no number that can be used", false},
	{"NaN", `"w": 65`, `"w": NaN`, "items[0].w", "NaN is not a number", false},
	{"an unknown field", `"id": "plane"`, `"id": "plane", "colour": "red"`, "items[0].colour", "no such field", true},
	{"a field given twice", `"id": "plane"`, `"id": "plane", "id": "plane"`, "items[0].id", "given twice", false},
	{"a missing name", `"name": "Plane", `, ``, "items[0].name", "missing", true},
	{"an unknown kind", `"kind": "shelf"`, `"kind": "sling"`, "places[1].kind", `"sling" is not known here; it should be wall-field`, true},
	{"a reference to nothing", `"item": "plane"`, `"item": "plain"`, "homes[0].item", `no item "plain"`, false},
	{"a station that is not there", `["bench"]`, `["bank"]`, "items[0].used_at[0]", `no station "bank"`, false},
	{"a duplicate id", `"id": "box"`, `"id": "plane"`, "items[1].id", "already taken by items[0].id", false},
	{"an id of blanks", `"id": "box"`, `"id": " "`, "items[1].id", "cannot be an id", false},
	{"an outline that crosses itself", `[[0,0],[0,3000],[4000,3000],[4000,0]]`, `[[0,0],[4000,3000],[0,3000],[4000,0]]`, "areas[0].corners[0]", "crosses itself", false},
	{"an outline the wrong way round", `[[0,0],[0,3000],[4000,3000],[4000,0]]`, `[[0,0],[4000,0],[4000,3000],[0,3000]]`, "areas[0].corners", "anticlockwise", false},
	{"a place outside its wall", `"x": 1000, "z": 1000`, `"x": 3000, "z": 1000`, "places[0].at", "wall B is 4000 mm long", false},
	{"a place above its wall", `"x": 1000, "z": 1000`, `"x": 1000, "z": 1600`, "places[0].at", "only 2500 mm high", false},
	{"a shelf wider than its cabinet", `"w": 760`, `"w": 860`, "places[1].at", "does not fit into K1", false},
	{"a container inside itself", `"at": { "floor": [3000, 2500] }`, `"at": { "in": "K1" }`, "containers[0].at.in", "inside itself", false},
	{"two positions at once", `"at": { "floor": [3000, 2500] }`, `"at": { "floor": [3000, 2500], "away": true }`, "containers[0].at", "exactly one of", false},
	{"a future version", `"version": 1`, `"version": 3`, "version", "version 3 of the format; this Hobrak reads up to version 2", false},
	{"another format", `"hobrak-shop"`, `"other"`, "format", "should be hobrak-shop", true},
	{"a top edge that is too short", `[[0,2500],[4000,2500]], "claimed": true, "studs"`, `[[0,2500],[3900,2500]], "claimed": true, "studs"`, "areas[0].walls[1].profile", "length of this side", false},
	{"more homes than things", `"x": 10, "z": 20`, `"x": 10, "z": 20, "n": 2`, "homes[0].n", "only 1 of it", false},
	{"studs wider than their spacing", `"width": 45`, `"width": 650`, "areas[0].walls[1].studs.width", "at most 400", true},
	{"a door wider than its wall", `"w": 900, "h": 2000`, `"w": 9000, "h": 2000`, "areas[0].walls[3].features[0]", "the wall only 4000 mm long", false},
	{"an unknown state in a mode", `"folded"`, `"flying"`, "modes[0].spots.bench", "should be folded", true},
	{"an estimate nobody knows", `"units": "metric"`, `"units": "metric", "estimates": { "teleport": 1 }`, "shop.estimates.teleport", "no estimate", false},
	{"a bench outside the room", `"x": 1000, "y": 2300`, `"x": 3300, "y": 2300`, "stations[0]", "outside the area", false},
	{"an ending that is missing", `"rot": 90 } } } ]`, `"rot": 90 } }`, "", "ends too early", false},
}

func TestFaultsSayWhereAndWhat(t *testing.T) {
	for _, c := range broken {
		t.Run(c.name, func(t *testing.T) {
			doc := strings.Replace(small, c.old, c.new, 1)
			require.NotEqual(t, small, doc, "the fault was put in")
			_, err := shop.Read([]byte(doc))
			var faults *shop.Faults
			require.ErrorAs(t, err, &faults)
			found := false
			for _, f := range faults.List {
				found = found || strings.HasPrefix(f.Path, c.path) && strings.Contains(quantity.Metric(f.Message), c.says)
			}
			assert.True(t, found, "expected %s: …%s…, got\n%v", c.path, c.says, err)
		})
	}
}

func TestAtMostTwentyFaultsAreListed(t *testing.T) {
	var b strings.Builder
	for range 40 {
		b.WriteString(`,{"id":"x","name":"X","w":-1,"h":1,"d":1}`)
	}
	_, err := shop.Read([]byte(strings.Replace(small, `"count": 3 }`, `"count": 3 }`+b.String(), 1)))
	var faults *shop.Faults
	require.ErrorAs(t, err, &faults)
	assert.Len(t, faults.List, 20)
	assert.Equal(t, 20, faults.More)
}

func TestManyMegabytesOfNestingAreRefusedQuietly(t *testing.T) {
	for size, says := range map[int]string{20 << 20: "nested deeper than", 100 << 20: "this has 100 MB"} {
		_, err := shop.Read(bytes.Repeat([]byte("["), size))
		require.ErrorContains(t, err, says)
		assert.Less(t, len(err.Error()), 300)
	}
}

func TestSchemaIsCurrentAndAgrees(t *testing.T) {
	published, err := os.ReadFile("../../../docs/format/shop.schema.json")
	require.NoError(t, err)
	require.Equal(t, string(shop.Schema()), string(published), "run: go run ./cmd/hobrak describe shop > docs/format/shop.schema.json")

	c := jsonschema.NewCompiler()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(published))
	require.NoError(t, err)
	require.NoError(t, c.AddResource("shop.json", doc))
	schema, err := c.Compile("shop.json")
	require.NoError(t, err)
	valid := func(data []byte) error {
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
		if err != nil {
			return err
		}
		return schema.Validate(v)
	}
	assert.NoError(t, valid(demo.Slipway))
	assert.NoError(t, valid(demo.Pantry))
	assert.NoError(t, valid([]byte(small)))
	seen := 0
	for _, c := range broken {
		doc := strings.Replace(small, c.old, c.new, 1)
		if c.schemaToo {
			seen++
			assert.Error(t, valid([]byte(doc)), c.name)
		} else if json.Valid([]byte(doc)) && !strings.Contains(doc, "1e999") {
			assert.NoError(t, valid([]byte(doc)), "%s needs more than the schema, and is marked so", c.name)
		}
	}
	assert.GreaterOrEqual(t, len(broken), 20)
	assert.GreaterOrEqual(t, seen, 8)
}

func TestTopOfASlopingWall(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	a := s.Areas[0].Wall("A")
	assert.Equal(t, length.MM(2750), a.TopAt(length.MM(2300)), "halfway between 2400 and 3100")
	assert.Equal(t, length.MM(2400), a.TopOver(0, length.MM(4600)))
	f := s.Areas[0].Frame(0)
	x, out := f.Coordinates(f.Spot(1000, 250))
	assert.InDelta(t, 1000, x, 1e-6)
	assert.InDelta(t, 250, out, 1e-6)
	assert.True(t, s.Areas[0].Outline().Contains(f.Spot(1000, 250)), "inward is inside")
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(small))
	for _, c := range broken {
		f.Add([]byte(strings.Replace(small, c.old, c.new, 1)))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		s, err := shop.Read(data)
		if err != nil {
			var faults *shop.Faults
			require.ErrorAs(t, err, &faults)
			return
		}
		again, err := shop.Read(shop.Write(s))
		require.NoError(t, err)
		require.Equal(t, shop.Write(s), shop.Write(again))
	})
}
