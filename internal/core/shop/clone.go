package shop

import (
	"reflect"
	"sync"
)

// Clone is a deep copy: whatever is done to it, the shop it was made of stays as it was.
func (s *Shop) Clone() *Shop {
	out := *s
	deepen(reflect.ValueOf(&out).Elem())
	return &out
}

// deepen replaces everything a value shares with another by a copy of it.
func deepen(v reflect.Value) {
	if !shares(v.Type()) {
		return
	}
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			p := reflect.New(v.Type().Elem())
			p.Elem().Set(v.Elem())
			deepen(p.Elem())
			v.Set(p)
		}
	case reflect.Slice:
		if v.IsNil() {
			return
		}
		s := reflect.MakeSlice(v.Type(), v.Len(), v.Len())
		reflect.Copy(s, v)
		if shares(v.Type().Elem()) {
			for i := range s.Len() {
				deepen(s.Index(i))
			}
		}
		v.Set(s)
	case reflect.Map:
		if v.IsNil() {
			return
		}
		m := reflect.MakeMapWithSize(v.Type(), v.Len())
		for it := v.MapRange(); it.Next(); {
			e := reflect.New(v.Type().Elem()).Elem()
			e.Set(it.Value())
			deepen(e)
			m.SetMapIndex(it.Key(), e)
		}
		v.Set(m)
	case reflect.Struct:
		for _, i := range sharingFields(v.Type()) {
			deepen(v.Field(i))
		}
	case reflect.Array:
		for i := range v.Len() {
			deepen(v.Index(i))
		}
	default:
		panic("a shop has no " + v.Kind().String())
	}
}

// shares tells whether a copy of a value of the type has memory in common with it.
func shares(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.Struct:
		return len(sharingFields(t)) > 0
	case reflect.Array:
		return shares(t.Elem())
	case reflect.Pointer, reflect.Slice, reflect.Map, reflect.Interface, reflect.Chan, reflect.Func:
		return true
	}
	return false
}

// sharing remembers which fields of a struct share memory with those of a copy.
var sharing sync.Map

func sharingFields(t reflect.Type) []int {
	if f, ok := sharing.Load(t); ok {
		return f.([]int)
	}
	var out []int
	for i := range t.NumField() {
		if shares(t.Field(i).Type) {
			out = append(out, i)
		}
	}
	sharing.Store(t, out)
	return out
}
