// Package calc offers the calculators of the core by name: typed inputs in, a
// result with its source out. The command line and the screens use the same.
package calc

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

// Input of a calculator.
type Input struct {
	Name    string `json:"name" doc:"key on the command line"`
	Kind    string `json:"kind" doc:"length, weight, number, text or list"`
	Default string `json:"default,omitempty" doc:"used when left out; empty means it must be given"`
	About   string `json:"about" doc:"what it is"`
}

// Calculator works one thing out.
type Calculator struct {
	Name   string  `json:"name" doc:"name on the command line"`
	About  string  `json:"about" doc:"what it works out"`
	Source string  `json:"source" doc:"where the formula comes from"`
	Inputs []Input `json:"inputs" doc:"what it needs"`
	run    func(*args) map[string]any
}

// Result of a calculation. Lengths are in mm, weights in kg, times in s.
type Result struct {
	Name   string         `json:"name"`
	Inputs map[string]any `json:"inputs"`
	Result map[string]any `json:"result"`
	Source string         `json:"source"`
}

// InputError says which input was wrong and what would be right.
type InputError struct{ Input, Reason string }

func (e *InputError) Error() string { return e.Input + ": " + e.Reason }

// All calculators, by name.
func All() []Calculator {
	return slices.SortedFunc(slices.Values(registry), func(a, b Calculator) int { return strings.Compare(a.Name, b.Name) })
}

// Run a calculator. Values are texts as typed; lengths and weights take any unit.
func Run(name string, values map[string]string, system length.System) (*Result, error) {
	i := slices.IndexFunc(registry, func(c Calculator) bool { return c.Name == name })
	if i < 0 {
		var names []string
		for _, c := range All() {
			names = append(names, c.Name)
		}
		return nil, &InputError{name, "there is no such calculator; known are " + strings.Join(names, ", ")}
	}
	c := registry[i]
	for _, key := range slices.Sorted(maps.Keys(values)) {
		if !slices.ContainsFunc(c.Inputs, func(in Input) bool { return in.Name == key }) {
			return nil, &InputError{key, fmt.Sprintf("%s has no such input; it takes %s", name, strings.Join(inputNames(c), ", "))}
		}
	}
	a := &args{system: system, shown: map[string]any{}, values: values, inputs: c.Inputs}
	out := c.run(a)
	if a.err != nil {
		return nil, a.err
	}
	return &Result{Name: name, Inputs: a.shown, Result: out, Source: c.Source}, nil
}

func inputNames(c Calculator) []string {
	var out []string
	for _, in := range c.Inputs {
		out = append(out, in.Name)
	}
	return out
}

// args reads inputs and keeps the first fault.
type args struct {
	system length.System
	values map[string]string
	inputs []Input
	shown  map[string]any
	err    error
}

func (a *args) fail(name, format string, more ...any) {
	if a.err == nil {
		a.err = &InputError{name, fmt.Sprintf(format, more...)}
	}
}

func (a *args) text(name string) string {
	if v, ok := a.values[name]; ok {
		a.shown[name] = v
		return v
	}
	for _, in := range a.inputs {
		if in.Name == name {
			if in.Default == "" {
				a.fail(name, "this is missing: %s", in.About)
			}
			a.shown[name] = in.Default
			return in.Default
		}
	}
	return ""
}

// length in mm; below low is refused.
func (a *args) length(name string, low float64) float64 {
	s := a.text(name)
	if a.err != nil {
		return 0
	}
	l, err := length.Parse(s, a.system)
	if err != nil {
		a.fail(name, "%v", err)
		return 0
	}
	if l.MM() < low {
		a.fail(name, "%s is too small; it should be at least %v mm", l, low)
	}
	a.shown[name] = l.MM()
	return l.MM()
}

// kg of a weight.
func (a *args) kg(name string) float64 {
	s := a.text(name)
	if a.err != nil {
		return 0
	}
	w, err := weight.Parse(s, a.system)
	if err != nil {
		a.fail(name, "%v", err)
		return 0
	}
	a.shown[name] = w.KG()
	return w.KG()
}

func (a *args) number(name string, low, high float64) float64 {
	s := a.text(name)
	if a.err != nil {
		return 0
	}
	x, err := strconv.ParseFloat(s, 64)
	if err != nil || !(x >= low && x <= high) {
		a.fail(name, "%q should be a number from %v to %v", s, low, high)
		return 0
	}
	a.shown[name] = x
	return x
}

func (a *args) choice(name string, words ...string) string {
	s := a.text(name)
	if a.err == nil && !slices.Contains(words, s) {
		a.fail(name, "%q should be one of %s", s, strings.Join(words, ", "))
	}
	return s
}
