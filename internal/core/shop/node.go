package shop

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
)

// maxDepth is how deep a shop file may nest; the format needs eight.
const maxDepth = 32

// MaxFile is how large a shop file may be, in bytes. A shop of 3 000 things has about 1 MB.
const MaxFile = 24 << 20

// maxValues is how many numbers, texts, lists and objects a shop file may have; one of
// 3 000 things has about 60 000.
const maxValues = 600_000

// Fault is one thing that is wrong in a shop file.
type Fault struct {
	Path    string `json:"path" doc:"where in the document, as items[3].w"`
	Message string `json:"message" doc:"one plain sentence"`
}

// maxFaults is how many faults are reported of one document.
const maxFaults = 20

// Faults is the error of a shop file that cannot be used.
type Faults struct {
	List []Fault // the first twenty
	More int     // how many there are beyond them
}

func (f *Faults) Error() string {
	var b strings.Builder
	for i, x := range f.List {
		if i > 0 {
			b.WriteByte('\n')
		}
		if x.Path == "" {
			b.WriteString(x.Message)
		} else {
			fmt.Fprintf(&b, "%s: %s", x.Path, x.Message)
		}
	}
	if f.More > 0 {
		fmt.Fprintf(&b, "\nand %d more", f.More)
	}
	return b.String()
}

func (f *Faults) add(path, format string, args ...any) {
	if len(f.List) >= maxFaults {
		f.More++
		return
	}
	f.List = append(f.List, Fault{Path: path, Message: fmt.Sprintf(format, args...)})
}

func (f *Faults) orNil() error {
	if len(f.List) == 0 {
		return nil
	}
	return f
}

type kind int

const (
	nullNode kind = iota
	boolNode
	numberNode
	stringNode
	arrayNode
	objectNode
)

func (k kind) String() string {
	return [...]string{"null", "true or false", "a number", "a text", "a list", "an object"}[k]
}

// node is a JSON value as it was written.
type node struct {
	kind    kind
	text    string // of a string or number
	yes     bool
	list    []*node
	members []member
}

type member struct {
	name  string
	value *node
}

// plain is the value as encoding/json gives it, with json.Number for numbers.
func (n *node) plain() any {
	switch n.kind {
	case boolNode:
		return n.yes
	case numberNode:
		return json.Number(n.text)
	case stringNode:
		return n.text
	case arrayNode:
		out := make([]any, len(n.list))
		for i, x := range n.list {
			out[i] = x.plain()
		}
		return out
	case objectNode:
		out := make(map[string]any, len(n.members))
		for _, m := range n.members {
			out[m.name] = m.value.plain()
		}
		return out
	}
	return nil
}

// nodeOf is the opposite of plain.
func nodeOf(v any) *node {
	switch v := v.(type) {
	case bool:
		return &node{kind: boolNode, yes: v}
	case json.Number:
		return &node{kind: numberNode, text: v.String()}
	case string:
		return &node{kind: stringNode, text: v}
	case []any:
		n := &node{kind: arrayNode}
		for _, x := range v {
			n.list = append(n.list, nodeOf(x))
		}
		return n
	case map[string]any:
		n := &node{kind: objectNode}
		for _, name := range sortedKeys(v) {
			n.members = append(n.members, member{name, nodeOf(v[name])})
		}
		return n
	case nil:
		return &node{}
	}
	// A step has made a number of its own.
	return &node{kind: numberNode, text: fmt.Sprint(v)}
}

// errStop ends reading after a fault that makes the rest meaningless.
var errStop = errors.New("stop")

type nodeReader struct {
	dec    *json.Decoder
	data   []byte
	faults *Faults
	values int
}

// readNode reads one JSON document. Names that occur twice and anything after
// the document are faults, so that nothing is dropped silently.
func readNode(data []byte, faults *Faults) *node {
	if len(data) > MaxFile {
		faults.add("", "this has %d MB; a shop file has at most %d", len(data)>>20, MaxFile>>20)
		return nil
	}
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	r := &nodeReader{dec: json.NewDecoder(bytes.NewReader(data)), data: data, faults: faults}
	r.dec.UseNumber()
	n, err := r.value("", 0)
	if err != nil {
		return nil
	}
	if _, err := r.dec.Token(); err != io.EOF {
		faults.add("", "there is something after the end of the document, at %s", r.position())
		return nil
	}
	return n
}

func (r *nodeReader) position() string {
	at := min(int(r.dec.InputOffset()), len(r.data))
	before := r.data[:at]
	line := bytes.Count(before, []byte("\n")) + 1
	column := at - bytes.LastIndexByte(before, '\n')
	return fmt.Sprintf("line %d, column %d", line, column)
}

func (r *nodeReader) token(path string) (json.Token, error) {
	t, err := r.dec.Token()
	if err == nil {
		return t, nil
	}
	rest := bytes.TrimLeft(r.data[min(int(r.dec.InputOffset()), len(r.data)):], " \t\r\n:,")
	switch {
	case err == io.EOF || errors.Is(err, io.ErrUnexpectedEOF):
		r.faults.add(path, "the document ends too early, at %s", r.position())
	case bytes.HasPrefix(rest, []byte("NaN")) || bytes.HasPrefix(rest, []byte("Infinity")) || bytes.HasPrefix(rest, []byte("-Infinity")):
		r.faults.add(path, "%s is not a number a shop file can hold, at %s; write a plain number", firstWord(rest), r.position())
	default:
		r.faults.add(path, "this is not valid JSON at %s: %s", r.position(), strings.TrimPrefix(err.Error(), "json: "))
	}
	return nil, errStop
}

func firstWord(b []byte) string {
	end := bytes.IndexAny(b, " \t\r\n,]}")
	if end < 0 {
		end = len(b)
	}
	return string(b[:min(end, 20)])
}

func (r *nodeReader) value(path string, depth int) (*node, error) {
	if r.values++; r.values > maxValues {
		r.faults.add(shorten(path), "there are more than %d values in it, more than any shop has", maxValues)
		return nil, errStop
	}
	if depth > maxDepth {
		r.faults.add(shorten(path), "nested deeper than %d levels; a shop file needs fewer than ten", maxDepth)
		return nil, errStop
	}
	t, err := r.token(path)
	if err != nil {
		return nil, err
	}
	switch v := t.(type) {
	case json.Delim:
		if v == '[' {
			return r.list(path, depth)
		}
		return r.object(path, depth)
	case string:
		return &node{kind: stringNode, text: v}, nil
	case json.Number:
		return &node{kind: numberNode, text: v.String()}, nil
	case bool:
		return &node{kind: boolNode, yes: v}, nil
	default:
		return &node{kind: nullNode}, nil
	}
}

func (r *nodeReader) list(path string, depth int) (*node, error) {
	n := &node{kind: arrayNode}
	for i := 0; r.dec.More(); i++ {
		v, err := r.value(fmt.Sprintf("%s[%d]", path, i), depth+1)
		if err != nil {
			return nil, err
		}
		n.list = append(n.list, v)
	}
	_, err := r.token(path)
	return n, err
}

func (r *nodeReader) object(path string, depth int) (*node, error) {
	n := &node{kind: objectNode}
	seen := map[string]bool{}
	for r.dec.More() {
		t, err := r.token(path)
		if err != nil {
			return nil, err
		}
		name, ok := t.(string)
		if !ok {
			r.faults.add(path, "a field name must be a text, at %s", r.position())
			return nil, errStop
		}
		at := dot(path, name)
		v, err := r.value(at, depth+1)
		if err != nil {
			return nil, err
		}
		if seen[name] {
			r.faults.add(at, "this field is given twice")
			continue
		}
		seen[name] = true
		n.members = append(n.members, member{name, v})
	}
	_, err := r.token(path)
	return n, err
}

func dot(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

// shorten keeps the path of a document nested without end readable.
func shorten(path string) string {
	if len(path) <= 60 {
		return path
	}
	return path[:40] + "…"
}
