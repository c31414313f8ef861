package upgrade_test

import (
	"encoding/json"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/upgrade"
)

// steps of a format that never was: a name is called title first, then weights are in grams.
var steps = upgrade.Steps{
	func(list string, part map[string]any, more upgrade.More) error {
		if v, ok := part["name"]; ok {
			part["title"] = v
			delete(part, "name")
		}
		return nil
	},
	func(list string, part map[string]any, more upgrade.More) error {
		if kg, ok := part["kg"].(json.Number); ok && list == "items" {
			f, err := kg.Float64()
			if err != nil {
				return err
			}
			part["grams"] = f * 1000
			delete(part, "kg")
		}
		if part["bad"] != nil {
			return errors.New("this cannot be brought on")
		}
		return nil
	},
}

func TestAPartIsBroughtThroughEveryStepFromItsVersion(t *testing.T) {
	for from, doc := range map[int]string{
		1: `{"id":"a","name":"Plane","kg":2.25,"n":12345678901234567890}`,
		2: `{"id":"a","title":"Plane","kg":2.25,"n":12345678901234567890}`,
		3: `{"grams":2250,"id":"a","n":12345678901234567890,"title":"Plane"}`,
	} {
		got, _, err := steps.Part("items", from, doc)
		require.NoError(t, err)
		assert.Equal(t, `{"grams":2250,"id":"a","n":12345678901234567890,"title":"Plane"}`, got, "from version %d", from)
	}
	got, _, err := steps.Part("containers", 1, `{"kg":3}`)
	require.NoError(t, err)
	assert.Equal(t, `{"kg":3}`, got, "the step is about items only")
}

func TestAFileIsBroughtOnPartByPart(t *testing.T) {
	var file map[string]any
	require.NoError(t, json.Unmarshal([]byte(`{"version":1,"shop":{"name":"S"},"items":[{"id":"a","name":"Plane"},7],"odd":{"name":"left"}}`), &file))
	require.NoError(t, steps.File(1, file))
	out, err := json.Marshal(file)
	require.NoError(t, err)
	assert.Equal(t, `{"items":[{"id":"a","title":"Plane"},7],"odd":{"name":"left"},"shop":{"title":"S"},"version":3}`, string(out))
}

func TestWhatCannotBeBroughtOnIsRefusedInWords(t *testing.T) {
	_, _, err := steps.Part("items", 4, `{}`)
	var newer *upgrade.NewerError
	require.ErrorAs(t, err, &newer)
	assert.ErrorContains(t, err, "version 4 of the format; this Hobrak reads up to version 3")
	_, _, err = steps.Part("items", 0, `{}`)
	assert.ErrorContains(t, err, "no version 0")
	_, _, err = steps.Part("items", 1, `{"bad":true}`)
	assert.ErrorContains(t, err, "from version 2 to 3: this cannot")
	_, _, err = steps.Part("items", 1, `[1]`)
	assert.Error(t, err)
}

func TestTheStepsReleasedLeadToTodaysFormat(t *testing.T) {
	assert.Equal(t, shop.Version, upgrade.Released.Version())
}
