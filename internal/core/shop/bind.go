package shop

import (
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"

	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

// A field's tags, read once for binding and for the schema.
type field struct {
	index    int
	name     string
	need     bool
	omit     bool
	doc      string
	enum     []string
	min, max *float64
	over     *float64
}

// known remembers the fields of each type: reading tags is slow.
var known sync.Map

func fieldsOf(t reflect.Type) []field {
	if f, ok := known.Load(t); ok {
		return f.([]field)
	}
	var out []field
	for i := range t.NumField() {
		f := t.Field(i)
		name, opts, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" || name == "-" {
			continue
		}
		x := field{index: i, name: name, need: f.Tag.Get("need") == "yes", omit: strings.Contains(opts, "omitempty"), doc: f.Tag.Get("doc")}
		if e := f.Tag.Get("enum"); e != "" {
			x.enum = strings.Split(e, ",")
		} else if w, ok := reflect.Zero(innermost(f.Type)).Interface().(worded); ok {
			x.enum = w.Words()
		}
		for tag, to := range map[string]**float64{"min": &x.min, "max": &x.max, "over": &x.over} {
			if s := f.Tag.Get(tag); s != "" {
				v, err := strconv.ParseFloat(s, 64)
				if err != nil {
					panic("bad tag " + tag + " of " + t.Name() + "." + f.Name)
				}
				*to = &v
			}
		}
		out = append(out, x)
	}
	known.Store(t, out)
	return out
}

// innermost type of pointers and lists.
func innermost(t reflect.Type) reflect.Type {
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	return t
}

var (
	lengthType = reflect.TypeOf(length.Length(0))
	weightType = reflect.TypeOf(weight.Weight(0))
	spotType   = reflect.TypeOf(Standing{})
)

// bind puts a JSON value into a Go value and notes every fault on the way.
func bind(n *node, v reflect.Value, path string, f field, faults *Faults) {
	t := v.Type()
	if t.Kind() == reflect.Pointer {
		if n.kind == nullNode {
			return
		}
		p := reflect.New(t.Elem())
		bind(n, p.Elem(), path, f, faults)
		v.Set(p)
		return
	}
	if t == spotType {
		bindSpot(n, v, path, faults)
		return
	}
	want := func(k kind) bool {
		if n.kind != k {
			faults.add(path, "this should be %s, not %s", k, n.kind)
			return false
		}
		return true
	}
	switch t.Kind() {
	case reflect.Struct:
		if want(objectNode) {
			bindStruct(n, v, path, faults)
		}
	case reflect.Slice:
		if !want(arrayNode) {
			return
		}
		s := reflect.MakeSlice(t, len(n.list), len(n.list))
		for i, x := range n.list {
			bind(x, s.Index(i), fmt.Sprintf("%s[%d]", path, i), f, faults)
		}
		if len(n.list) > 0 || !f.omit {
			v.Set(s)
		}
	case reflect.Array:
		if !want(arrayNode) {
			return
		}
		if len(n.list) != t.Len() {
			faults.add(path, "this should be a list of %d numbers, not of %d", t.Len(), len(n.list))
			return
		}
		for i, x := range n.list {
			bind(x, v.Index(i), fmt.Sprintf("%s[%d]", path, i), f, faults)
		}
	case reflect.Map:
		if !want(objectNode) {
			return
		}
		m := reflect.MakeMap(t)
		for _, x := range n.members {
			e := reflect.New(t.Elem()).Elem()
			bind(x.value, e, dot(path, x.name), field{}, faults)
			m.SetMapIndex(reflect.ValueOf(x.name), e)
		}
		if len(n.members) > 0 {
			v.Set(m)
		}
	case reflect.String:
		if !want(stringNode) {
			return
		}
		if len(n.text) > 4000 {
			faults.add(path, "a text has at most 4000 characters, this one %d", len(n.text))
			return
		}
		if f.enum != nil && !slices.Contains(f.enum, n.text) {
			faults.add(path, "%q is not known here; it should be %s", n.text, oneOf(f.enum))
			return
		}
		v.SetString(n.text)
	case reflect.Bool:
		if want(boolNode) {
			v.SetBool(n.yes)
		}
	case reflect.Int, reflect.Int64, reflect.Float64, reflect.Uint64:
		if want(numberNode) {
			bindNumber(n, v, path, f, faults)
		}
	default:
		panic("no binding for " + t.String())
	}
}

func bindStruct(n *node, v reflect.Value, path string, faults *Faults) {
	fields := fieldsOf(v.Type())
	given := map[string]bool{}
	for _, m := range n.members {
		i := slices.IndexFunc(fields, func(f field) bool { return f.name == m.name })
		if i < 0 {
			faults.add(dot(path, m.name), "there is no such field here; known are %s", names(fields))
			continue
		}
		given[m.name] = true
		bind(m.value, v.Field(fields[i].index), dot(path, m.name), fields[i], faults)
	}
	for _, f := range fields {
		if f.need && !given[f.name] {
			faults.add(dot(path, f.name), "this is missing: %s", f.doc)
		}
	}
}

func bindNumber(n *node, v reflect.Value, path string, f field, faults *Faults) {
	x, err := strconv.ParseFloat(n.text, 64)
	if err != nil || math.IsInf(x, 0) || math.IsNaN(x) {
		faults.add(path, "%s is no number that can be used", firstWord([]byte(n.text)))
		return
	}
	t := v.Type()
	unit := ""
	switch t {
	case lengthType:
		unit = " mm"
		if math.Abs(x) > length.Max.MM() {
			faults.add(path, "%s mm is absurd: no length in a shop is over %d m", n.text, int(length.Max.Metres()))
			return
		}
		x = length.MM(x).MM() // what is kept is what is judged
	case weightType:
		unit = " kg"
		if math.Abs(x) > weight.Max.KG() {
			faults.add(path, "%s kg is absurd", n.text)
			return
		}
		x = weight.KG(x).KG()
	}
	switch {
	case f.over != nil && x <= *f.over:
		faults.add(path, "%s%s is too small: it should be more than %s%s", n.text, unit, number(*f.over), unit)
		return
	case f.min != nil && x < *f.min:
		faults.add(path, "%s%s is too small: it should be at least %s%s", n.text, unit, number(*f.min), unit)
		return
	case f.max != nil && x > *f.max:
		faults.add(path, "%s%s is too much: it should be at most %s%s", n.text, unit, number(*f.max), unit)
		return
	}
	switch {
	case t == lengthType:
		v.SetInt(int64(length.MM(x)))
	case t == weightType:
		v.SetInt(int64(weight.KG(x)))
	case t.Kind() == reflect.Float64:
		v.SetFloat(x)
	default:
		if x != math.Trunc(x) || math.Abs(x) > 1e15 {
			faults.add(path, "%s should be a whole number", n.text)
			return
		}
		if f.enum != nil && !slices.Contains(f.enum, n.text) {
			faults.add(path, "%s is not possible here; it should be %s", n.text, oneOf(f.enum))
			return
		}
		if t.Kind() == reflect.Uint64 {
			if x < 0 {
				faults.add(path, "%s is too small: it should be at least 0", n.text)
				return
			}
			v.SetUint(uint64(x))
			return
		}
		v.SetInt(int64(x))
	}
}

var spotStates = []string{"folded", "hoisted", "outdoors", "away"}

func bindSpot(n *node, v reflect.Value, path string, faults *Faults) {
	switch n.kind {
	case stringNode:
		if !slices.Contains(spotStates, n.text) {
			faults.add(path, "%q is not known here; it should be %s, or an object with floor", n.text, oneOf(spotStates))
			return
		}
		v.Set(reflect.ValueOf(Standing{State: n.text}))
	case objectNode:
		var onFloor struct {
			Floor Point   `json:"floor" need:"yes" doc:"left and lower edge of the footprint"`
			Rot   float64 `json:"rot,omitempty" min:"-360" max:"360"`
		}
		bindStruct(n, reflect.ValueOf(&onFloor).Elem(), path, faults)
		v.Set(reflect.ValueOf(Standing{Floor: onFloor.Floor, Rot: onFloor.Rot}))
	default:
		faults.add(path, "this should be %s or an object with floor, not %s", oneOf(spotStates), n.kind)
	}
}

// MarshalJSON writes a state as a text and a spot on the floor as an object.
func (s Standing) MarshalJSON() ([]byte, error) {
	if s.State != "" {
		return json.Marshal(s.State)
	}
	return json.Marshal(struct {
		Floor Point   `json:"floor"`
		Rot   float64 `json:"rot,omitempty"`
	}{s.Floor, s.Rot})
}

// UnmarshalJSON reads what MarshalJSON writes.
func (s *Standing) UnmarshalJSON(b []byte) error {
	faults := &Faults{}
	if n := readNode(b, faults); n != nil {
		bindSpot(n, reflect.ValueOf(s).Elem(), "spot", faults)
	}
	return faults.orNil()
}

func number(x float64) string { return strconv.FormatFloat(x, 'f', -1, 64) }

func oneOf(words []string) string {
	switch len(words) {
	case 0:
		return "nothing"
	case 1:
		return words[0]
	}
	return strings.Join(words[:len(words)-1], ", ") + " or " + words[len(words)-1]
}

func names(fields []field) string {
	var out []string
	for _, f := range fields {
		out = append(out, f.name)
	}
	return strings.Join(out, ", ")
}

// Choices are the words a field of a part of the shop file takes, as its tags say; the field
// must exist and have some.
func Choices[T any](name string) []string {
	for _, f := range fieldsOf(reflect.TypeFor[T]()) {
		if f.name == name && f.enum != nil {
			return f.enum
		}
	}
	panic("there is no field with choices " + name)
}

// Limits of a number of a part of the shop file, by the name of its field: what the tags
// say. Over tells that the least is not possible itself. They are infinite where there are
// none; a field that does not exist is a mistake of whoever asks.
func Limits[T any](name string) (least, most float64, over bool) {
	for _, f := range fieldsOf(reflect.TypeFor[T]()) {
		if f.name != name {
			continue
		}
		least, most = math.Inf(-1), math.Inf(1)
		if f.min != nil {
			least = *f.min
		}
		if f.over != nil {
			least, over = *f.over, true
		}
		if f.max != nil {
			most = *f.max
		}
		return least, most, over
	}
	panic("there is no field " + name)
}
