package facts

import (
	"cmp"
	"fmt"
	"slices"

	"hobrak/internal/core/shop"
)

const notKnown = "not known"

// circuits of the installation: what each carries.
func circuits(s *shop.Shop) Group {
	g := Group{ID: "circuits", Name: "Circuits", Does: "as they are named at the panel; an outlet of the survey names its circuit. Only an electrician judges circuits and outlets", Fields: []Field{}}
	field := func(path, label, text, unit, usual, does string) {
		g.Fields = append(g.Fields, Field{Path: path, Label: label, Text: text, Unit: unit, Usual: usual, Choices: []string{}, Does: does})
	}
	for _, c := range s.Circuits {
		at := "circuits/" + c.ID + "/"
		field(at+"id", "circuit", c.ID, "", "", "leave it empty to forget the circuit")
		field(at+"volts", c.ID+", voltage", orEmpty(c.Volts), "V", "", "makes amperes of watts typed with a machine")
		g.Fields = append(g.Fields, Field{Path: at + "guard", Label: c.ID + ", residual-current protection", Text: cmp.Or(c.Guard, notKnown), Choices: []string{notKnown, "yes", "no"}, Does: "asked for outdoors and in the damp"})
		field(at+"amps", c.ID+", breaker", orEmpty(c.Amps), "A", "", "a machine that draws more than any breaker carries is a caution")
	}
	field("circuits/+", "another circuit", "", "", "", "its name or number at the panel")
	return g
}

// enterCircuit changes a circuit; "+" is a new one, of the name that was typed.
func enterCircuit(s *shop.Shop, at []string, r reader) error {
	taken := func(id string) bool {
		return slices.ContainsFunc(s.Circuits, func(c shop.Circuit) bool { return c.ID == id })
	}
	if len(at) == 1 && at[0] == "+" {
		if r.text == "" {
			return nil
		}
		name, err := nameOf(r.text)
		if err == nil && taken(name) {
			err = fmt.Errorf("there is a circuit %q already", name)
		}
		if err == nil {
			s.Circuits = append(slices.Clone(s.Circuits), shop.Circuit{ID: name})
		}
		return err
	}
	i := slices.IndexFunc(s.Circuits, func(c shop.Circuit) bool { return c.ID == at[0] })
	if i < 0 || len(at) != 2 {
		return fmt.Errorf("there is no circuit %q", at[0])
	}
	c := s.Circuits[i]
	var err error
	switch at[1] {
	case "volts":
		c.Volts, err = orNone(r, 1000)
	case "amps":
		c.Amps, err = orNone(r, 400)
	case "guard":
		switch r.text {
		case "", notKnown:
			c.Guard = ""
		case "yes", "no":
			c.Guard = r.text
		default:
			return fmt.Errorf("%q should be yes, no or %s", r.text, notKnown)
		}
	case "id":
		name := ""
		if r.text != "" {
			if name, err = nameOf(r.text); err == nil && name != c.ID && taken(name) {
				err = fmt.Errorf("there is a circuit %q already", name)
			}
		}
		if err != nil {
			return err
		}
		// What names it names it as it is called now, or no longer does.
		for a := range s.Areas {
			for w := range s.Areas[a].Walls {
				for f := range s.Areas[a].Walls[w].Features {
					if x := &s.Areas[a].Walls[w].Features[f]; x.Circuit == c.ID {
						x.Circuit = name
					}
				}
			}
		}
		if name == "" {
			s.Circuits = slices.Delete(slices.Clone(s.Circuits), i, i+1)
			return nil
		}
		c.ID = name
	default:
		return fmt.Errorf("a circuit has no %q", at[1])
	}
	if err == nil {
		s.Circuits = slices.Clone(s.Circuits)
		s.Circuits[i] = c
	}
	return err
}
