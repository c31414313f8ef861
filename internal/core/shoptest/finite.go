package shoptest

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"reflect"
	"strconv"
)

// Finite says which number in a value, as far as others get to see it, is infinite or
// not a number, and whether the value has a JSON form at all; nil when all is well.
func Finite(v any) error {
	if err := finite(reflect.ValueOf(v), "", 0); err != nil {
		return err
	}
	if _, err := json.Marshal(v); err != nil {
		return fmt.Errorf("it has no JSON form: %w", err)
	}
	return nil
}

func finite(v reflect.Value, path string, depth int) error {
	if depth > 40 {
		return nil
	}
	switch v.Kind() {
	case reflect.Float64:
		if f := v.Float(); math.IsInf(f, 0) || math.IsNaN(f) {
			return fmt.Errorf("%s is %v", path, f)
		}
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			return finite(v.Elem(), path, depth+1)
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			if err := finite(v.Index(i), fmt.Sprintf("%s[%d]", path, i), depth+1); err != nil {
				return err
			}
		}
	case reflect.Map:
		for it := v.MapRange(); it.Next(); {
			if err := finite(it.Value(), fmt.Sprintf("%s[%v]", path, it.Key()), depth+1); err != nil {
				return err
			}
		}
	case reflect.Struct:
		t := v.Type()
		for i := range t.NumField() {
			if f := t.Field(i); f.IsExported() && f.Tag.Get("json") != "-" {
				if err := finite(v.Field(i), path+"."+f.Name, depth+1); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// Seeds is how many random shops a test tries: n, or so many times as many as the
// environment variable HOBRAK_LONG says (make check-long).
func Seeds(n uint64) uint64 {
	times, err := strconv.ParseUint(os.Getenv("HOBRAK_LONG"), 10, 32)
	if err != nil {
		return n
	}
	return n * max(1, times)
}
