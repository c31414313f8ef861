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
	"fmt"
)

// Step changes a part of a shop, in place, from one version to the next. List
// is the list it is in, or "settings". Numbers are json.Number, so that none
// loses a digit.
type Step func(list string, part map[string]any) error

// Steps in their order: the first takes version 1 to version 2.
type Steps []Step

// Released are the steps up to today's format.
var Released = Steps{}

// Version that the steps lead to.
func (s Steps) Version() int { return len(s) + 1 }

// Part brings one part, as JSON, from a version to the newest.
func (s Steps) Part(list string, from int, doc string) (string, error) {
	if from == s.Version() {
		return doc, nil
	}
	if err := s.knows(from); err != nil {
		return "", err
	}
	d := json.NewDecoder(bytes.NewReader([]byte(doc)))
	d.UseNumber()
	part := map[string]any{}
	if err := d.Decode(&part); err != nil {
		return "", fmt.Errorf("reading a part of %s: %w", list, err)
	}
	if err := s.walk(list, from, part); err != nil {
		return "", err
	}
	out, err := json.Marshal(part)
	return string(out), err
}

// File brings a whole shop file, decoded with json.Number, from a version to the newest, in place.
func (s Steps) File(from int, file map[string]any) error {
	if err := s.knows(from); err != nil {
		return err
	}
	for list, value := range file {
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
			if err := s.walk(list, from, part); err != nil {
				return fmt.Errorf("%s[%d]: %w", list, i, err)
			}
		}
	}
	file["version"] = json.Number(fmt.Sprint(s.Version()))
	return nil
}

func (s Steps) walk(list string, from int, part map[string]any) error {
	for v, step := range s[from-1:] {
		if err := step(list, part); err != nil {
			return fmt.Errorf("from version %d to %d: %w", from+v, from+v+1, err)
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
