package shop

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
)

// Schema is the JSON Schema (draft 2020-12) of the shop file, made from the
// same tags that reading obeys.
func Schema() []byte {
	defs := map[string]any{}
	root := schemaOf(reflect.TypeOf(Shop{}), field{}, defs).(map[string]any)
	doc := map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema",
		"title":   fmt.Sprintf("Hobrak shop file, version %d", Version),
		"$defs":   defs,
		"$ref":    root["$ref"],
	}
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	if err := enc.Encode(doc); err != nil {
		panic(err)
	}
	return b.Bytes()
}

func schemaOf(t reflect.Type, f field, defs map[string]any) any {
	switch {
	case t.Kind() == reflect.Pointer:
		return schemaOf(t.Elem(), f, defs)
	case t == spotType:
		return map[string]any{"anyOf": []any{
			map[string]any{"enum": spotStates},
			map[string]any{"type": "object", "required": []string{"floor"}, "additionalProperties": false, "properties": map[string]any{
				"floor": schemaOf(reflect.TypeOf(Point{}), field{}, defs), "rot": map[string]any{"type": "number"}}},
		}}
	}
	switch t.Kind() {
	case reflect.Struct:
		name := strings.ToLower(t.Name())
		if _, known := defs[name]; !known {
			defs[name] = nil // breaks loops
			defs[name] = objectSchema(t, defs)
		}
		return map[string]any{"$ref": "#/$defs/" + name}
	case reflect.Slice:
		return map[string]any{"type": "array", "items": schemaOf(t.Elem(), f, defs)}
	case reflect.Array:
		return map[string]any{"type": "array", "minItems": t.Len(), "maxItems": t.Len(), "items": map[string]any{"type": "number"}}
	case reflect.Map:
		return map[string]any{"type": "object", "additionalProperties": schemaOf(t.Elem(), field{}, defs)}
	case reflect.String:
		out := map[string]any{"type": "string", "maxLength": 4000}
		if f.enum != nil {
			out["enum"] = f.enum
		}
		return out
	case reflect.Bool:
		return map[string]any{"type": "boolean"}
	}
	out := map[string]any{"type": "number"}
	if t.Kind() != reflect.Float64 && t != lengthType && t != weightType {
		out["type"] = "integer"
	}
	for key, v := range map[string]*float64{"minimum": f.min, "maximum": f.max, "exclusiveMinimum": f.over} {
		if v != nil {
			out[key] = *v
		}
	}
	return out
}

func objectSchema(t reflect.Type, defs map[string]any) map[string]any {
	props, required := map[string]any{}, []string{}
	for _, f := range fieldsOf(t) {
		s := schemaOf(t.Field(f.index).Type, f, defs)
		if m, ok := s.(map[string]any); ok && f.doc != "" {
			m["description"] = f.doc
		}
		props[f.name] = s
		if f.need {
			required = append(required, f.name)
		}
	}
	return map[string]any{"type": "object", "additionalProperties": false, "properties": props, "required": required}
}
