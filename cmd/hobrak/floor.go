package main

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"hobrak/internal/core/access"
	"hobrak/internal/core/arrange"
	"hobrak/internal/core/feed"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
)

// finding of an arrangement, as hobrak floor prints it.
type floorFinding struct {
	Code  string `json:"code"`
	Hard  bool   `json:"hard"`
	Where string `json:"where"`
	What  string `json:"what"`
	Do    string `json:"do,omitempty"`
}

type floorRect struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	W float64 `json:"w"`
	D float64 `json:"d"`
}

type floorWay struct {
	W       float64 `json:"w"`
	X       float64 `json:"x"`
	Y       float64 `json:"y"`
	Station string  `json:"station"`
}

type floorMode struct {
	ID          string         `json:"id"`
	Area        string         `json:"area"`
	Findings    []floorFinding `json:"findings"`
	LargestFree floorRect      `json:"largest_free"`
	NarrowestW  *floorWay      `json:"narrowest_way"`
	Unreachable []string       `json:"unreachable"`
}

type floorLimits struct {
	In    string `json:"in"`
	Out   string `json:"out"`
	Left  string `json:"left"`
	Right string `json:"right"`
	Thick string `json:"thick,omitempty"`
}

type floorMachine struct {
	Station  string      `json:"station"`
	Mode     string      `json:"mode"`
	Longest  float64     `json:"longest"`
	Widest   float64     `json:"widest"`
	Thickest float64     `json:"thickest,omitempty"`
	Limits   floorLimits `json:"limits"`
	Steps    []feed.Step `json:"steps"`
}

func floorCommand() *cobra.Command {
	var file, in string
	c := &cobra.Command{
		Use:   "floor --shop FILE [--mode M]",
		Short: "Say what clashes and how wide one walks in each mode, and what every machine can take there, as JSON",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := readShop(file)
			if err != nil {
				return err
			}
			modes := []string{in}
			switch in {
			case "now":
				modes = []string{""}
			case "":
				for i := range s.Modes {
					modes = append(modes, s.Modes[i].ID)
				}
			}
			out := struct {
				Modes    []floorMode    `json:"modes"`
				Machines []floorMachine `json:"machines"`
			}{[]floorMode{}, []floorMachine{}}
			hard := false
			for _, id := range modes {
				far, err := unreached(s, id)
				if err != nil {
					return &exit{code: exitInput, err: fmt.Errorf("--mode: %w", err)}
				}
				for i := range s.Areas {
					l, err := mode.Of(s, id, s.Areas[i].ID)
					if err != nil {
						return &exit{code: exitInput, err: fmt.Errorf("--mode: %w", err)}
					}
					hard = hard || l.Hard()
					out.Modes = append(out.Modes, seenMode(l, id, s.Areas[i].ID, far[s.Areas[i].ID]))
				}
				takes, err := feed.Of(s, id)
				if err != nil {
					return &exit{code: exitInput, err: err}
				}
				for i := range takes {
					t := &takes[i]
					out.Machines = append(out.Machines, floorMachine{t.Station, id, t.Longest, t.Widest(), t.Thick, floorLimits{first(t.In), first(t.Out), side(t.ByLeft), side(t.ByRight), t.ByThick}, t.Steps})
				}
			}
			if err := printed(c, s, out); err != nil {
				return err
			}
			if hard {
				return &exit{code: exitBroken, quiet: true, err: fmt.Errorf("a rule is broken")}
			}
			return nil
		},
	}
	c.Flags().StringVar(&file, "shop", "", "shop file to read")
	c.Flags().StringVar(&in, "mode", "", "one mode; now: as the floor stands; that and all modes when left out")
	required(c, "shop")
	return c
}

func seenMode(l *mode.Layout, id, area string, far []string) floorMode {
	out := floorMode{ID: id, Area: area, Findings: []floorFinding{}, LargestFree: floorRect{l.Open.X, l.Open.Y, l.Open.W, l.Open.D}, Unreachable: append([]string{}, far...)}
	for _, b := range l.Breaches {
		out.Findings = append(out.Findings, floorFinding{b.Code, b.Hard, strings.Join(b.Of, " "), b.Says, b.Do})
	}
	least := math.Inf(1)
	for _, w := range l.Ways {
		if w.Wide < least {
			least = w.Wide
			out.NarrowestW = &floorWay{w.Wide, w.X, w.Y, w.Station}
		}
	}
	return out
}

// first that a piece comes up against, in words.
func first(stops []feed.Stop) string {
	if len(stops) == 0 {
		return "nothing known"
	}
	return side(&stops[0])
}

func side(s *feed.Stop) string {
	if s == nil {
		return "nothing known"
	}
	return fmt.Sprintf("%s at %s", s.Name, length.Whole(s.At))
}

// unreached are the places of each area that nobody gets at in a mode, from any station of theirs.
func unreached(s *shop.Shop, id string) (map[string][]string, error) {
	then := s
	if id != "" {
		var err error
		if then, err = s.InMode(id); err != nil {
			return nil, err
		}
	}
	m, err := access.NewMap(then)
	if err != nil {
		return nil, err
	}
	out := map[string][]string{}
	// A small thing that may be used anywhere: where it is got at from no station at nine spots of the place, nothing is.
	small := shop.Item{ID: "-", W: 50 * length.Millimetre, H: 50 * length.Millimetre, D: 50 * length.Millimetre, UsesPerWeek: 1}
	uses := make([]access.Use, len(then.Stations))
	for i := range then.Stations {
		small.UsedAt = []string{then.Stations[i].ID}
		uses[i] = m.UseOf(&small)
	}
	for i := range then.Places {
		p := &then.Places[i]
		_, root := m.Index.Chain(&p.At)
		if root.Away {
			if p.At.Away && !s.Places[i].At.Away { // it is there in other modes only
				out[m.Index.Area(root.Area).ID] = append(out[m.Index.Area(root.Area).ID], p.ID)
			}
			continue
		}
		got := slices.ContainsFunc(uses, func(u access.Use) bool {
			for _, x := range [3]float64{.1, .5, .9} {
				for _, z := range [3]float64{.1, .5, .9} {
					if _, ok := m.Weekly(&u, i, keeping.Grip{X: x * p.W.MM(), Z: z * p.H.MM()}, 0); ok {
						return true
					}
				}
			}
			return false
		})
		if !got && len(then.Stations) > 0 {
			area := then.Areas[0].ID
			if a := m.Index.Area(root.Area); root.Station == "" && a != nil {
				area = a.ID
			} else if st := m.Index.Station(root.Station); st != nil {
				area = m.Index.Area(st.Area).ID
			}
			out[area] = append(out[area], p.ID)
		}
	}
	return out, nil
}

// changeStep is a move as hobrak change prints it; to is a spot or a state.
type changeStep struct {
	N         int     `json:"n"`
	What      string  `json:"what"`
	Do        string  `json:"do"`
	To        any     `json:"to"`
	Temporary bool    `json:"temporary"`
	Seconds   float64 `json:"seconds"`
	People    int     `json:"people"`
	Caution   string  `json:"caution,omitempty"`
}

func changeCommand() *cobra.Command {
	var file, from, to string
	c := &cobra.Command{
		Use:   "change --shop FILE --from M1 --to M2",
		Short: "Say what is moved from one arrangement of the floor to another, in order, as JSON",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := readShop(file)
			if err != nil {
				return err
			}
			for _, x := range []*string{&from, &to} {
				if *x == "now" {
					*x = ""
				}
			}
			plan, err := shift.Between(s, from, to)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			out := struct {
				Seconds float64      `json:"seconds"`
				Limit   float64      `json:"limit,omitempty"`
				Fewest  bool         `json:"fewest"`
				Steps   []changeStep `json:"steps"`
				Stuck   []string     `json:"stuck"`
			}{plan.Seconds, plan.Limit, plan.Fewest, []changeStep{}, plan.Stuck}
			for i, m := range plan.Moves {
				out.Steps = append(out.Steps, changeStep{i + 1, m.ID, m.Do, stands(&m), m.Do == "set aside", m.Seconds, m.People, m.Caution})
			}
			if err := printed(c, s, out); err != nil {
				return err
			}
			if len(plan.Stuck) > 0 {
				return &exit{code: exitBroken, quiet: true, err: fmt.Errorf("something cannot be brought to its spot")}
			}
			return nil
		},
	}
	c.Flags().StringVar(&file, "shop", "", "shop file to read")
	c.Flags().StringVar(&from, "from", "", "mode the floor is in; now: as it stands")
	c.Flags().StringVar(&to, "to", "", "mode it is to be in; now: as it stands")
	required(c, "shop")
	return c
}

// stands is where something is after a move, as a mode of the shop file has it.
func stands(m *shift.Move) any {
	if m.To != nil && m.Do != "fold" {
		return map[string]any{"floor": [2]float64{m.To.X, m.To.Y}, "rot": m.To.Rot}
	}
	switch m.Do {
	case "fold":
		return "folded"
	case "hoist":
		return "hoisted"
	case "roll outdoors":
		return "outdoors"
	}
	return "away"
}

func arrangeCommand() *cobra.Command {
	var in, out, of, area string
	var seconds float64
	var homes bool
	c := &cobra.Command{
		Use:   "arrange --shop FILE --out FILE [--mode M]",
		Short: "Look for a better arrangement of the stations and write the shop with their spots; a summary as JSON",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if seconds <= 0 {
				return &exit{code: exitInput, err: fmt.Errorf("--seconds %v: give the search more than 0 seconds", seconds)}
			}
			s, err := readShop(in)
			if err != nil {
				return err
			}
			deadline := time.Now().Add(time.Duration(seconds * .55 * float64(time.Second)))
			if area == "" {
				area = s.Areas[0].ID
			}
			best, err := arrange.Shortest(s, of, arrange.Options{Area: area, Done: func() bool { return time.Now().After(deadline) }})
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			if homes {
				if best.Shop, err = arrange.WithHomes(best.Shop); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			if err := writeFile(out, func(w io.Writer) error { _, err := w.Write(shop.Write(best.Shop)); return err }); err != nil {
				return &exit{code: exitInternal, err: err}
			}
			type walking struct {
				Before float64 `json:"before"`
				After  float64 `json:"after"`
				Bound  float64 `json:"bound"`
			}
			return printed(c, s, struct {
				Walking  walking        `json:"walking"`
				Handling [2]float64     `json:"handling"`
				Clashes  [2]int         `json:"clashes"`
				Follow   arrange.Follow `json:"follow"`
				Moved    int            `json:"moved"`
			}{walking{best.Before.Walking, best.After.Walking, best.Bound}, [2]float64{best.Before.Handling, best.After.Handling}, [2]int{best.Before.Clashes, best.After.Clashes}, best.Follow, len(best.Moved)})
		},
	}
	c.Flags().StringVar(&in, "shop", "", "shop file to read")
	c.Flags().StringVar(&out, "out", "", "where the shop with the new spots is written")
	c.Flags().StringVar(&of, "mode", "", "mode whose spots are looked for: only what moves then; the floor as it stands when left out")
	c.Flags().StringVar(&area, "area", "", "area that is arranged; the first when left out")
	c.Flags().Float64Var(&seconds, "seconds", 10, "how long to search at most, about")
	c.Flags().BoolVar(&homes, "homes", false, "look for new homes as well; they stay as they are when left out")
	required(c, "shop", "out")
	return c
}
