package shop_test

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	_ "hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/upgrade"
)

func demoShop(t *testing.T) *shop.Shop {
	t.Helper()
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return s
}

func TestAShopComesBackFromItsDocuments(t *testing.T) {
	s := demoShop(t)
	docs, err := s.Documents()
	require.NoError(t, err)
	whole, err := shop.ReadDocuments(docs, nil, nil)
	require.NoError(t, err)
	assert.Equal(t, string(shop.Write(s)), string(shop.Write(whole)))

	// What is changed is read again and judged, what is not is shared.
	next := s.Clone()
	next.Items[5].Notes = "otherwise"
	next.Homes = next.Homes[1:]
	changed, err := next.Documents()
	require.NoError(t, err)
	again, err := shop.ReadDocuments(changed, docs, whole)
	require.NoError(t, err)
	assert.Equal(t, string(shop.Write(next)), string(shop.Write(again)))
	fresh, err := shop.ReadDocuments(changed, nil, nil)
	require.NoError(t, err)
	assert.Equal(t, fresh, again, "read in part and as a whole alike")
}

func TestWhatCouldNotBeReadBackIsRefused(t *testing.T) {
	for path, spoil := range map[string]func(*shop.Shop){
		"areas[0].ceiling.joists.spacing": func(s *shop.Shop) { s.Areas[0].Ceiling.Joists.Spacing = 6 * length.Metre },
		"items[3].w":                      func(s *shop.Shop) { s.Items[3].W = 0 },
		"items[3].notes":                  func(s *shop.Shop) { s.Items[3].Notes = strings.Repeat("n", 5000) },
		"areas[0].walls[0].surface":       func(s *shop.Shop) { s.Areas[0].Walls[0].Surface = "marzipan" },
		"shop.units":                      func(s *shop.Shop) { s.Settings.Units = "cubits" },
		"homes[0].item":                   func(s *shop.Shop) { s.Homes[0].Item = "nothing" },
	} {
		s := demoShop(t)
		docs, err := s.Documents()
		require.NoError(t, err)
		next := s.Clone()
		spoil(next)
		changed, err := next.Documents()
		require.NoError(t, err)
		_, err = shop.ReadDocuments(changed, docs, s)
		var faults *shop.Faults
		require.ErrorAs(t, err, &faults, path)
		assert.Equal(t, path, faults.List[0].Path)
	}
	s := demoShop(t)
	s.Items[0].UsesPerWeek = math.Inf(1)
	_, err := s.Documents()
	assert.Error(t, err, "what JSON cannot hold")
}

func TestASizeThatRoundsToNothingIsTooSmall(t *testing.T) {
	data := strings.Replace(string(demo.Pantry), `"w": `, `"w": 0.0001, "x-w": `, 1)
	data = strings.Replace(data, `"x-w": `, `"notes": "", "z-w": `, 1)
	_, err := shop.Read([]byte(data))
	require.ErrorContains(t, err, "too small")
}

// apart tells whether two values have no memory in common that can be changed.
func apart(t *testing.T, a, b reflect.Value, path string) {
	switch a.Kind() {
	case reflect.Pointer, reflect.Map:
		if a.IsNil() || a.Type().Elem().Size() == 0 {
			return
		}
		assert.NotEqual(t, a.Pointer(), b.Pointer(), path)
		if a.Kind() == reflect.Pointer {
			apart(t, a.Elem(), b.Elem(), path)
		}
	case reflect.Slice:
		if a.Len() == 0 {
			return
		}
		assert.NotEqual(t, a.Pointer(), b.Pointer(), path)
		for i := range a.Len() {
			apart(t, a.Index(i), b.Index(i), path)
		}
	case reflect.Struct:
		for i := range a.NumField() {
			apart(t, a.Field(i), b.Field(i), path+"."+a.Type().Field(i).Name)
		}
	}
}

func TestACloneHasNothingInCommon(t *testing.T) {
	s := demoShop(t)
	c := s.Clone()
	assert.Equal(t, s, c)
	apart(t, reflect.ValueOf(s).Elem(), reflect.ValueOf(c).Elem(), "shop")
}

func TestAFileOfAnEarlierVersionIsBroughtOnWhenItIsRead(t *testing.T) {
	steps := append(slices.Clone(upgrade.Released), func(list string, part map[string]any, _ upgrade.More) error {
		if list == "items" {
			if v, ok := part["title"]; ok { // what a name was once called
				part["name"] = v
				delete(part, "title")
			}
		}
		return nil
	})
	newest := fmt.Sprintf(`"version": %d`, shop.Version)
	old := strings.ReplaceAll(string(demo.Pantry), `"name": "Block plane"`, `"title": "Block plane"`)
	_, err := shop.ReadWith(steps, []byte(old))
	var faults *shop.Faults
	require.ErrorAs(t, err, &faults)
	assert.Equal(t, "format", faults.List[0].Path, "all but the version itself, which this Hobrak does not know yet: %v", faults)
	raw, ok := shop.BroughtOn(steps, []byte(old))
	require.True(t, ok)
	assert.Contains(t, raw, `"name":"Block plane"`)
	assert.NotContains(t, raw, `"title"`)
	assert.Contains(t, raw, fmt.Sprintf(`"version":%d`, shop.Version+1))
	for version, says := range map[string]string{"99": fmt.Sprintf("version 99 of the format; this Hobrak reads up to version %d", shop.Version+1), "1.5": "no version of the format", "0": "no version of the format", "-1": "no version", "1e400": "no version"} {
		_, err := shop.ReadWith(steps, []byte(strings.Replace(old, newest, `"version": `+version, 1)))
		assert.ErrorContains(t, err, says)
	}
}

func BenchmarkCloneAndDocuments(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	one := s.Items[0]
	for i := range 2800 {
		it := one
		it.ID = fmt.Sprintf("more-%d", i)
		s.Items = append(s.Items, it)
	}
	b.Run("clone", func(b *testing.B) {
		for b.Loop() {
			s.Clone()
		}
	})
	docs, err := s.Documents()
	require.NoError(b, err)
	b.Run("documents", func(b *testing.B) {
		for b.Loop() {
			_, _ = s.Documents()
		}
	})
	b.Run("read one changed", func(b *testing.B) {
		next := s.Clone()
		next.Items[7].Notes = "x"
		changed, _ := next.Documents()
		for b.Loop() {
			_, err := shop.ReadDocuments(changed, docs, s)
			require.NoError(b, err)
		}
	})
}
