package shop

import (
	"bytes"
	"encoding/json"
	"math"
	"reflect"
	"strconv"

	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/upgrade"
)

// Read reads and checks a shop file of this or an earlier version. The error is
// *Faults: every fault with its path, the first twenty of them.
func Read(data []byte) (*Shop, error) { return readWith(upgrade.Released, data) }

func readWith(steps upgrade.Steps, data []byte) (*Shop, error) {
	faults := &Faults{}
	n := readNode(data, faults)
	if n == nil || !bringOn(steps, n, faults) {
		return nil, faults
	}
	s := &Shop{}
	bind(n, reflect.ValueOf(s).Elem(), "", field{}, faults)
	if len(faults.List) > 0 {
		return nil, faults
	}
	if err := s.Validate(); err != nil {
		return nil, err
	}
	return s, nil
}

// bringOn brings a file of an earlier version to the newest, and refuses one of a later
// version before its unknown fields confuse anybody.
func bringOn(steps upgrade.Steps, n *node, faults *Faults) bool {
	if n.kind != objectNode {
		faults.add("", "a shop file is an object, not %s", n.kind)
		return false
	}
	for _, m := range n.members {
		if m.name != "version" || m.value.kind != numberNode {
			continue // what is missing or no number is said when it is bound
		}
		version, err := strconv.ParseFloat(m.value.text, 64)
		if err != nil || version != math.Trunc(version) || version < 1 || version > 1e6 {
			faults.add("version", "%s is no version of the format; the newest is %d", firstWord([]byte(m.value.text)), steps.Version())
			return false
		}
		if int(version) == steps.Version() {
			break
		}
		file, _ := n.plain().(map[string]any)
		if err := steps.File(int(version), file); err != nil {
			faults.add("version", "%v", err)
			return false
		}
		*n = *nodeOf(file)
		break
	}
	return true
}

// Write writes a shop file. The same shop always gives the same bytes, and
// reading them gives the same shop.
func Write(s *Shop) []byte {
	raw, err := json.Marshal(s)
	if err != nil {
		panic("a shop always has a JSON form: " + err.Error())
	}
	// A plan in the file has sentences of its own, and a file is for people to read.
	n := readNode(say.JSON(s.Settings.Units, raw), &Faults{})
	var b bytes.Buffer
	lay(&b, n, 0)
	b.WriteByte('\n')
	return b.Bytes()
}

// lineWidth is where a value is broken over several lines.
const lineWidth = 180

// lay writes short values on one line and breaks long ones, so that a shop file
// reads well and its versions compare line by line.
func lay(b *bytes.Buffer, n *node, depth int) {
	short := flat(n)
	if len(short)+2*depth <= lineWidth || n.kind != arrayNode && n.kind != objectNode {
		b.Write(short)
		return
	}
	open, end := byte('{'), byte('}')
	if n.kind == arrayNode {
		open, end = '[', ']'
	}
	b.WriteByte(open)
	line := func(i int) {
		if i > 0 {
			b.WriteByte(',')
		}
		b.WriteByte('\n')
		b.Write(bytes.Repeat([]byte("  "), depth+1))
	}
	for i, x := range n.list {
		line(i)
		lay(b, x, depth+1)
	}
	for i, m := range n.members {
		line(i)
		b.Write(quote(m.name))
		b.WriteString(": ")
		lay(b, m.value, depth+1)
	}
	b.WriteByte('\n')
	b.Write(bytes.Repeat([]byte("  "), depth))
	b.WriteByte(end)
}

func flat(n *node) []byte {
	var b bytes.Buffer
	switch n.kind {
	case nullNode:
		b.WriteString("null")
	case boolNode:
		if n.yes {
			b.WriteString("true")
		} else {
			b.WriteString("false")
		}
	case numberNode:
		b.WriteString(n.text)
	case stringNode:
		b.Write(quote(n.text))
	case arrayNode:
		b.WriteByte('[')
		for i, x := range n.list {
			if i > 0 {
				b.WriteString(", ")
			}
			b.Write(flat(x))
		}
		b.WriteByte(']')
	case objectNode:
		b.WriteString("{ ")
		for i, m := range n.members {
			if i > 0 {
				b.WriteString(", ")
			}
			b.Write(quote(m.name))
			b.WriteString(": ")
			b.Write(flat(m.value))
		}
		b.WriteString(" }")
	}
	return b.Bytes()
}

func quote(s string) []byte {
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	_ = enc.Encode(s)
	return bytes.TrimRight(b.Bytes(), "\n")
}

// KeptClear is the space an item wants to its neighbours: its own clearance or 20 mm.
func (it *Item) KeptClear() length.Length {
	if it.Clearance != nil {
		return *it.Clearance
	}
	return UsualClearance
}

// UsualClearance is kept between neighbours unless an item says otherwise.
const UsualClearance = 20 * length.Millimetre

// Number is how many alike the item stands for.
func (it *Item) Number() int {
	if it.Count == 0 {
		return 1
	}
	return it.Count
}

// Needs tells whether the item needs a home in the shop: what is only wished for does not yet.
func (it *Item) Needs() bool { return it.Status != "wished" }
