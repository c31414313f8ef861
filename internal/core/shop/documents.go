package shop

import (
	"encoding/json"
	"fmt"
	"reflect"
)

// Lists are the names of the lists a shop is made of, in an order in which
// whatever refers to something comes after it. "settings" has one document only.
var Lists = []string{"settings", "areas", "circuits", "stations", "containers", "places", "items", "homes", "modes", "kits", "targets"}

// Document is one part of a shop by itself: JSON as in the shop file.
type Document struct {
	ID   string
	JSON string
}

// Documents are the parts of a shop by list, in the order of the shop.
type Documents map[string][]Document

// Documents cuts the shop into its parts. Two homes of an item are told apart by their number.
// A shop with a number that JSON cannot hold is refused.
func (s *Shop) Documents() (Documents, error) {
	out := Documents{}
	v := reflect.ValueOf(s).Elem()
	homes := map[string]int{}
	for _, list := range Lists {
		field := v.FieldByIndex(listField(list))
		if list == "settings" {
			doc, err := document(list, "shop", field)
			if err != nil {
				return nil, err
			}
			out[list] = []Document{doc}
			continue
		}
		for i := range field.Len() {
			id := idOf(field.Index(i))
			if list == "homes" {
				homes[id]++
				id = fmt.Sprintf("%s %d", id, homes[id])
			}
			doc, err := document(list, id, field.Index(i))
			if err != nil {
				return nil, err
			}
			out[list] = append(out[list], doc)
		}
	}
	return out, nil
}

func document(list, id string, v reflect.Value) (Document, error) {
	raw, err := json.Marshal(v.Interface())
	if err != nil {
		return Document{}, fmt.Errorf("writing %s %s: %w", list, id, err)
	}
	return Document{id, string(raw)}, nil
}

// idOf a part; a home goes by its item.
func idOf(v reflect.Value) string {
	if h, ok := v.Interface().(Home); ok {
		return h.Item
	}
	return v.FieldByName("ID").String()
}

// listField is the field of a shop that holds a list.
func listField(list string) []int {
	name := list
	if list == "settings" {
		name = "shop"
	}
	for _, f := range fieldsOf(reflect.TypeFor[Shop]()) {
		if f.name == name {
			return []int{f.index}
		}
	}
	panic("a shop has no list " + list)
}

// ReadDocuments puts a shop together from its documents and checks it as Read checks a
// file: what it returns without an error can be written and read again. Documents that are
// the same in was, which old was read from, are not read again but shared with old; both
// may be nil. The error is *Faults.
func ReadDocuments(docs, was Documents, old *Shop) (*Shop, error) {
	s := &Shop{Format: Format, Version: Version}
	faults := &Faults{}
	for _, list := range Lists {
		into := reflect.ValueOf(s).Elem().FieldByIndex(listField(list))
		if list == "settings" {
			if len(docs[list]) != 1 {
				faults.add("shop", "there is one document of settings, not %d", len(docs[list]))
				return nil, faults
			}
			readDocument(docs[list][0], into, "shop", faults)
			continue
		}
		if len(docs[list]) == 0 {
			continue
		}
		known := map[string]int{}
		var from reflect.Value
		if old != nil {
			from = reflect.ValueOf(old).Elem().FieldByIndex(listField(list))
			for i, d := range was[list] {
				known[d.ID] = i
			}
		}
		parts := reflect.MakeSlice(into.Type(), len(docs[list]), len(docs[list]))
		for i, d := range docs[list] {
			if k, ok := known[d.ID]; ok && was[list][k].JSON == d.JSON {
				parts.Index(i).Set(from.Index(k))
				continue
			}
			readDocument(d, parts.Index(i), fmt.Sprintf("%s[%d]", list, i), faults)
		}
		into.Set(parts)
	}
	if len(faults.List) > 0 {
		return nil, faults
	}
	if err := s.Validate(); err != nil {
		return nil, err
	}
	return s, nil
}

func readDocument(d Document, into reflect.Value, path string, faults *Faults) {
	found := &Faults{}
	if n := readNode([]byte(d.JSON), found); n != nil {
		bind(n, into, path, field{}, faults)
		return
	}
	for _, f := range found.List {
		faults.add(dot(path, f.Path), "%s", f.Message)
	}
}

// Again is a document as it would be written today; as it is when it cannot be read.
func Again(list, doc string) string {
	t := reflect.TypeFor[Shop]().FieldByIndex(listField(list)).Type
	if list != "settings" {
		t = t.Elem()
	}
	faults, v := &Faults{}, reflect.New(t).Elem()
	readDocument(Document{JSON: doc}, v, "", faults)
	if out, err := document(list, "", v); err == nil && len(faults.List) == 0 {
		return out.JSON
	}
	return doc
}

// ReadDocument says what is wrong with a document by itself; *Faults.
func ReadDocument(list, doc string) error {
	faults := &Faults{}
	t := reflect.TypeFor[Shop]().FieldByIndex(listField(list)).Type
	if list != "settings" {
		t = t.Elem()
	}
	readDocument(Document{JSON: doc}, reflect.New(t).Elem(), "", faults)
	return faults.orNil()
}
