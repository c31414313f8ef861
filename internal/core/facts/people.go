package facts

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode"

	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// usualStature is taken for an adult of whom nothing is said, mm.
const usualStature = 1700.0

// heights that may be measured on a person instead of derived from the stature.
var heights = []string{"eye", "shoulder", "elbow", "hip", "fingertip", "knee", "arm"}

var heightSays = map[string]string{"eye": "how high something can be seen", "shoulder": "where reaching begins to be a stretch", "elbow": "the height a bench suits", "hip": "how far one leans over an obstacle",
	"fingertip": "where bending begins", "knee": "where kneeling begins", "arm": "shoulder to grip: how far one reaches"}

// person is the group of one person's facts.
func person(s *shop.Shop, p *shop.Person, w writer) Group {
	at := "people/" + p.ID + "/"
	who := "an adult"
	if p.Child {
		who = "a child"
	}
	g := Group{ID: "people/" + p.ID, Name: p.ID, Does: who + " who uses the shop", Remove: at + "remove"}
	if p.Child {
		g.Does += "; what is flagged child is kept out of reach"
	} else if len(adults(s)) > 1 {
		g.Does += "; for what is nobody's in particular the one decides who reaches it worst"
	}
	add := func(field, label, text, usual, does string, choices ...string) {
		if choices == nil {
			choices = []string{}
		}
		g.Fields = append(g.Fields, Field{Path: at + field, Label: label, Text: text, Usual: usual, Choices: choices, Does: does})
	}
	add("name", "called", p.ID, "", "how answers speak of them")
	add("stature", "stature", w.length(p.Stature), "", "without shoes: every band of reach follows from it")
	add("left_handed", "left-handed", yes(p.LeftHanded), "", "at a bench, what hangs on the side of the other hand costs a turn", yesNo...)
	add("child", "a child", yes(p.Child), "", "things flagged child are kept from them, and their reach counts for nothing else", yesNo...)
	add("seated", "works seated", yes(p.Seated), "", "reaches from a seat of "+w.length(length.MM(reach.Seat))+", down to "+w.length(length.MM(reach.SeatedLow))+"; no step, no ladder", yesNo...)
	add("no_kneeling", "does not kneel", yes(p.NoKneeling), "", "what is under knee height costs the estimate for stooping", yesNo...)
	add("no_ladder", "climbs no ladder", yes(p.NoLadder), "", "what is higher than from a step is out of reach", yesNo...)
	lifts := ""
	if p.Lifts > 0 {
		lifts = weight.Format(p.Lifts, s.Settings.Units)
	}
	add("lifts", "lifts at most", lifts, "", "heavier things are a caution, and are put between hand and shoulder height only; ask a doctor what is yours")
	add("dim_sight", "reads labels badly", yes(p.DimSight), "", "searching takes longer, by the estimate", yesNo...)
	lean := ""
	if p.Lean != nil {
		lean = w.length(*p.Lean)
	}
	add("lean", "leans over", lean, w.length(length.MM(reach.DefaultLean)), "how far over a bench they reach")
	body := reach.NewBody(p.Stature.MM(), reach.DefaultLean, nil)
	derived := map[string]float64{"eye": body.Eye, "shoulder": body.Shoulder, "elbow": body.Elbow, "hip": body.Hip, "fingertip": body.Fingertip, "knee": body.Knee, "arm": body.Arm + reach.Shoes}
	for _, h := range heights {
		text := ""
		if l, ok := p.Measured[h]; ok {
			text = w.length(l)
		}
		add(h, h, text, w.length(length.MM(math.Round(derived[h]-reach.Shoes))), heightSays[h]+", measured without shoes")
	}
	return g
}

func adults(s *shop.Shop) (out []*shop.Person) {
	for i := range s.Settings.People {
		if !s.Settings.People[i].Child {
			out = append(out, &s.Settings.People[i])
		}
	}
	return out
}

// nameOf is a name as the shop keeps it: letters and digits, blanks made hyphens.
func nameOf(text string) (string, error) {
	name := strings.Trim(strings.Map(func(r rune) rune {
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			return r
		case r == ' ' || r == '-' || r == '.' || r == '_':
			return '-'
		}
		return -1
	}, strings.TrimSpace(text)), "-")
	if name == "" || len(name) > 40 {
		return "", fmt.Errorf("a person has a name of letters and digits, at most 40")
	}
	return name, nil
}

// enterPerson changes a person; "+" is a new one, of the name that was typed.
func enterPerson(s *shop.Shop, at []string, r reader) error {
	people := slices.Clone(s.Settings.People)
	if len(at) == 1 && at[0] == "+" {
		name, err := nameOf(r.text)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(people, func(p shop.Person) bool { return p.ID == name }) {
			return fmt.Errorf("there is somebody called %q already", name)
		}
		s.Settings.People = append(people, shop.Person{ID: name, Stature: length.MM(usualStature)})
		return nil
	}
	i := slices.IndexFunc(people, func(p shop.Person) bool { return p.ID == at[0] })
	if i < 0 || len(at) != 2 {
		return fmt.Errorf("there is nobody called %q", at[0])
	}
	p := &people[i]
	var err error
	switch field := at[1]; field {
	case "remove":
		s.Settings.People = slices.Delete(people, i, i+1)
		s.Tidy()
		return nil
	case "name":
		var name string
		if name, err = nameOf(r.text); err == nil && name != p.ID && slices.ContainsFunc(people, func(x shop.Person) bool { return x.ID == name }) {
			err = fmt.Errorf("there is somebody called %q already", name)
		}
		if err == nil {
			for k := range s.Items {
				if s.Items[k].Whose == p.ID {
					s.Items[k].Whose = name
				}
			}
		}
		p.ID = name
	case "stature":
		p.Stature, err = r.length(length.MM(500), length.MM(2500))
	case "left_handed", "child", "seated", "no_kneeling", "no_ladder", "dim_sight":
		var v string
		if v, err = r.choice(yesNo); err == nil {
			*map[string]*bool{"left_handed": &p.LeftHanded, "child": &p.Child, "seated": &p.Seated, "no_kneeling": &p.NoKneeling, "no_ladder": &p.NoLadder, "dim_sight": &p.DimSight}[field] = v == "yes"
		}
	case "lifts":
		p.Lifts = 0
		if r.text != "" {
			if p.Lifts, err = weight.Parse(r.text, r.units); err == nil && (p.Lifts <= 0 || p.Lifts.KG() > 100) {
				err = fmt.Errorf("%s should be more than nothing and at most %s", p.Lifts, weight.KG(100))
			}
		}
	case "lean":
		p.Lean = nil
		if r.text != "" {
			var l length.Length
			l, err = r.length(0, length.MM(400))
			p.Lean = &l
		}
	default:
		if !slices.Contains(heights, field) {
			return fmt.Errorf("a person has no %q", field)
		}
		measured := map[string]length.Length{}
		for k, v := range p.Measured {
			measured[k] = v
		}
		delete(measured, field)
		if r.text != "" {
			var l length.Length
			if l, err = r.length(length.MM(100), p.Stature); err == nil {
				measured[field] = l
			}
		}
		p.Measured = measured
		if len(measured) == 0 {
			p.Measured = nil
		}
	}
	if err == nil {
		s.Settings.People = people
	}
	return err
}
