// Package upgrade brings documents of an older format to today's. A shop file
// and every stored part carry the version they were written in; each step takes
// one part from a version to the next and knows nothing but that part, so that
// old revisions can be read, and undone, long after the format moved on.
//
// A step is never changed once it has been released, and the files in testdata
// of the store and of the shop file keep it honest.
package upgrade

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
)

// Step changes a part of a shop, in place, from one version to the next. List
// is the list it is in, or "settings". What moves out of the part into another list
// is handed to more. Numbers are json.Number, so that none loses a digit.
type Step func(list string, part map[string]any, more More) error

// More takes a part that a step made for another list.
type More func(list string, part map[string]any)

// Extra is such a part, as JSON.
type Extra struct{ List, JSON string }

// Steps in their order: the first takes version 1 to version 2.
type Steps []Step

// Released are the steps up to today's format.
var Released = Steps{usesBecomeEvents}

// Version that the steps lead to.
func (s Steps) Version() int { return len(s) + 1 }

// Part brings one part, as JSON, from a version to the newest, with what moves out of it.
func (s Steps) Part(list string, from int, doc string) (string, []Extra, error) {
	if from == s.Version() {
		return doc, nil, nil
	}
	if err := s.knows(from); err != nil {
		return "", nil, err
	}
	d := json.NewDecoder(bytes.NewReader([]byte(doc)))
	d.UseNumber()
	part := map[string]any{}
	if err := d.Decode(&part); err != nil {
		return "", nil, fmt.Errorf("reading a part of %s: %w", list, err)
	}
	var made []made
	if err := s.walk(list, from, part, &made); err != nil {
		return "", nil, err
	}
	out, err := json.Marshal(part)
	var extra []Extra
	for _, m := range made {
		raw, e := json.Marshal(m.part)
		extra, err = append(extra, Extra{m.list, string(raw)}), errors.Join(err, e)
	}
	return string(out), extra, err
}

// made is a part that a step made, of the newest version.
type made struct {
	list string
	part map[string]any
}

// File brings a whole shop file, decoded with json.Number, from a version to the newest, in place.
func (s Steps) File(from int, file map[string]any) error {
	if err := s.knows(from); err != nil {
		return err
	}
	var made []made
	for _, list := range slices.Sorted(maps.Keys(file)) {
		value := file[list]
		var parts []any
		switch v := value.(type) {
		case []any:
			parts = v
		case map[string]any:
			if list != "shop" {
				continue
			}
			list, parts = "settings", []any{v}
		}
		for i, p := range parts {
			part, ok := p.(map[string]any)
			if !ok {
				continue // what is wrong there is said when the file is read
			}
			if err := s.walk(list, from, part, &made); err != nil {
				return fmt.Errorf("%s[%d]: %w", list, i, err)
			}
		}
	}
	for _, m := range made {
		list, _ := file[m.list].([]any)
		file[m.list] = append(list, m.part)
	}
	file["version"] = json.Number(fmt.Sprint(s.Version()))
	return nil
}

func (s Steps) walk(list string, from int, part map[string]any, out *[]made) error {
	for v, step := range s[from-1:] {
		var moved []made
		if err := step(list, part, func(list string, part map[string]any) { moved = append(moved, made{list, part}) }); err != nil {
			return fmt.Errorf("from version %d to %d: %w", from+v, from+v+1, err)
		}
		for _, m := range moved { // what a step made goes through those after it
			if err := s.walk(m.list, from+v+1, m.part, out); err != nil {
				return err
			}
			*out = append(*out, m)
		}
	}
	return nil
}

// knows refuses versions there are no steps from.
func (s Steps) knows(from int) error {
	switch {
	case from > s.Version():
		return &NewerError{from, s.Version()}
	case from < 1:
		return fmt.Errorf("there is no version %d of the format; the first is 1", from)
	}
	return nil
}

// NewerError refuses what a later Hobrak wrote.
type NewerError struct{ Version, Known int }

func (e *NewerError) Error() string {
	return fmt.Sprintf("this is version %d of the format; this Hobrak reads up to version %d. Open it with the Hobrak that wrote it, or a newer one", e.Version, e.Known)
}
