package facts_test

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/facts"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func fields(s *shop.Shop) map[string]facts.Field {
	out := map[string]facts.Field{}
	for _, g := range facts.Of(s) {
		for _, f := range g.Fields {
			out[f.Path] = f
		}
	}
	return out
}

// What is shown of a fact can be typed again and is the same; one change touches no other fact, and the shop stays one that can
// be kept.
func TestEveryFactIsReadBackAsItIsShown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Made(8, 6, rapid.Uint64().Draw(t, "seed"))
		s.Settings.Units = rapid.SampledFrom([]length.System{length.Metric, length.Imperial}).Draw(t, "units")
		before := fields(s)
		for path, f := range before {
			if strings.HasSuffix(path, "/name") || path == "name" {
				continue
			}
			require.NoError(t, facts.Enter(s, path, f.Text), "%s: %q", path, f.Text)
		}
		require.Equal(t, before, fields(s))
		require.NoError(t, s.Validate())
	})
}

// Whatever is typed into whatever field is taken or refused with the field's path, and never breaks the shop.
func TestWhateverIsTypedIntoAFactTheShopStaysWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Made(8, 6, rapid.Uint64().Draw(t, "seed"))
		all := fields(s)
		paths := []string{"people/+", "circuits/+", "circuits/c1/id", "no/such", "people/nobody/stature"}
		for p := range all {
			paths = append(paths, p)
		}
		path := rapid.SampledFrom(paths).Draw(t, "path")
		text := rapid.SampledFrom([]string{"", "0", "-1", "12", "1720", "5' 8\"", "yes", "no", "metric", "imperial", "99999", "1,5", "none", "NaN", "Ann", "a/b", "🪚"}).Draw(t, "text")
		was := s.Clone()
		err := facts.Enter(s, path, text)
		if err != nil {
			var f *facts.FieldError
			require.ErrorAs(t, err, &f)
			require.Equal(t, path, f.Path)
			require.Equal(t, was, s, "what is refused changes nothing")
			return
		}
		require.NoError(t, s.Validate(), "%s: %q", path, text)
	})
}

func TestPeopleComeAndGo(t *testing.T) {
	s := &shop.Shop{Settings: shop.Settings{Units: length.Imperial}}
	require.NoError(t, facts.Enter(s, "people/+", "Ann"))
	require.NoError(t, facts.Enter(s, "people/Ann/stature", `5' 3"`))
	require.NoError(t, facts.Enter(s, "people/Ann/left_handed", "yes"))
	require.NoError(t, facts.Enter(s, "people/Ann/knee", `18"`))
	assert.Equal(t, shop.Person{ID: "Ann", Stature: 63 * length.Inch, LeftHanded: true, Measured: map[string]length.Length{"knee": 18 * length.Inch}}, s.Settings.People[0])
	require.Error(t, facts.Enter(s, "people/+", "Ann"))
	require.NoError(t, facts.Enter(s, "people/Ann/name", "Anna"))
	require.NoError(t, facts.Enter(s, "people/Anna/remove", "yes"))
	assert.Empty(t, s.Settings.People)
}

// No field of the settings is without a place where it is set.
func TestEverySettingIsSetSomewhere(t *testing.T) {
	elsewhere := map[string]string{"together": "Fit", "prices": "prices/", "notes": "the shop file", "people": "people/+", "ways": "ways/", "mode": "Floor", "target": "Evenings", "jobs": "Floor", "cut_lists": "Wood", "running": "Supply", "upkeep": "Upkeep", "dull_batch": "Upkeep", "frost_moves": "Upkeep", "limbo_days": "Upkeep", "trials": "Upkeep", "regrets": "Upkeep", "projects": "Projects", "projects_most": "Projects", "stalled_days": "Projects", "aims": "Review", "strips": "Supply", "stored": "Supply", "quiet_from": "Supply", "quiet_to": "Supply", "estimates": "estimates/", "clearances": "clear/"}
	s := &shop.Shop{Settings: shop.Settings{Units: length.Metric, People: []shop.Person{{ID: "me", Stature: length.MM(1700)}}}}
	all := fields(s)
	for i := range reflect.TypeFor[shop.Settings]().NumField() {
		name, _, _ := strings.Cut(reflect.TypeFor[shop.Settings]().Field(i).Tag.Get("json"), ",")
		_, here := all[name]
		assert.True(t, here || elsewhere[name] != "", "%s is set nowhere", name)
	}
	for i := range reflect.TypeFor[shop.Clearances]().NumField() {
		name, _, _ := strings.Cut(reflect.TypeFor[shop.Clearances]().Field(i).Tag.Get("json"), ",")
		assert.Contains(t, all, "clear/"+name)
	}
}
