package main

import (
	"errors"
	"io"

	"github.com/spf13/cobra"

	"hobrak/internal/core/moves"
	"hobrak/internal/core/shop"
)

// movedStep is a step as hobrak moves prints it: from and to are always there, and what is built, shifted or taken down goes by what
// is done to it.
type movedStep struct {
	moves.Step
	From  *shop.Home `json:"from"`
	To    *shop.Home `json:"to"`
	Build string     `json:"build,omitempty"`
	Shift string     `json:"shift,omitempty"`
	Clear string     `json:"clear,omitempty"`
}

type movedEvening struct {
	moves.Evening
	Steps []movedStep `json:"steps"`
}

// written is a plan as it is printed.
func written(p *moves.Plan) any {
	out := struct {
		*moves.Plan
		Evenings []movedEvening `json:"evenings"`
	}{p, []movedEvening{}}
	for _, e := range p.Evenings {
		x := movedEvening{e, []movedStep{}}
		for _, s := range e.Steps {
			m := movedStep{Step: s, From: s.From, To: s.To}
			switch s.Do {
			case moves.Build:
				m.Build = s.What
			case moves.Shift:
				m.Shift = s.What
			case moves.Clear:
				m.Clear = s.What
			}
			x.Steps = append(x.Steps, m)
		}
		out.Evenings = append(out.Evenings, x)
	}
	return out
}

func movesCommand() *cobra.Command {
	var file, target, out string
	o := moves.Options{}
	c := &cobra.Command{
		Use:   "moves --shop FILE --target FILE",
		Short: "Say how the shop gets from one file to the other, an evening at a time, lawful after every step; as JSON",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			now, err := readShop(file)
			if err != nil {
				return err
			}
			then, err := readShop(target)
			if err != nil {
				return err
			}
			p, err := moves.Of(now, then, o)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			if out == "" {
				err = printed(c, now, written(p))
			} else {
				err = writeFile(out, func(w io.Writer) error { return asJSON(w, now.Settings.Units, written(p)) })
			}
			if err != nil {
				return &exit{code: exitInternal, err: err}
			}
			if len(p.Stuck) > 0 {
				return &exit{code: exitBroken, units: now.Settings.Units, err: errors.New("not everything can be done: " + p.Stuck[0])}
			}
			return nil
		},
	}
	c.Flags().StringVar(&file, "shop", "", "shop file as things are now")
	c.Flags().StringVar(&target, "target", "", "shop file as they are to be: other homes, storage or spots of stations")
	c.Flags().StringVar(&out, "out", "", "where the evenings are written; printed when left out")
	c.Flags().Float64Var(&o.Minutes, "minutes", 60, "how long an evening is")
	c.Flags().Float64Var(&o.Pace, "pace", 1, "how much longer than usual everything takes you")
	c.Flags().StringSliceVar(&o.Leave, "leave", nil, "ids of things that stay where they are")
	required(c, "shop", "target")
	return c
}
