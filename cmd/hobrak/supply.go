package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"hobrak/internal/core/supply"
)

type suppliedCircuit struct {
	ID    string        `json:"id"`
	Limit float64       `json:"limit"`
	Sets  []suppliedSet `json:"sets"`
}

type suppliedSet struct {
	Stations []string `json:"stations"`
	Amps     float64  `json:"amps"`
	Over     bool     `json:"over"`
}

type suppliedCord struct {
	Station string       `json:"station"`
	Outlet  string       `json:"outlet"`
	Length  float64      `json:"length"`
	Has     float64      `json:"has"`
	Crosses [][2]float64 `json:"crosses"`
}

type suppliedLight struct {
	Station string  `json:"station"`
	Lux     float64 `json:"lux"`
	Wanted  float64 `json:"wanted"`
}

type suppliedAir struct {
	Area    string  `json:"area"`
	Changes float64 `json:"changes_per_hour"`
}

type suppliedFinding struct {
	Code  string `json:"code"`
	Where string `json:"where"`
	What  string `json:"what"`
	Do    string `json:"do"`
}

// supplied is what hobrak supply prints.
type supplied struct {
	Circuits []suppliedCircuit `json:"circuits"`
	Cords    []suppliedCord    `json:"cords"`
	Light    []suppliedLight   `json:"light"`
	Air      suppliedAir       `json:"air"`
	Airs     []suppliedAir     `json:"airs"`
	Findings []suppliedFinding `json:"findings"`
}

func supplyCommand() *cobra.Command {
	var file, in string
	c := &cobra.Command{
		Use:   "supply --shop FILE [--mode M]",
		Short: "Say which cords reach, what runs together on each circuit, how bright it is and how often the air changes, as JSON",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := readShop(file)
			if err != nil {
				return err
			}
			out := supplied{Circuits: []suppliedCircuit{}, Cords: []suppliedCord{}, Light: []suppliedLight{}, Airs: []suppliedAir{}, Findings: []suppliedFinding{}}
			for _, x := range s.Circuits {
				out.Circuits = append(out.Circuits, suppliedCircuit{x.ID, x.Amps, []suppliedSet{}})
			}
			for i := range s.Areas {
				r, err := supply.Of(s, s.Areas[i].ID, in)
				if err != nil {
					return &exit{code: exitInput, err: fmt.Errorf("--mode: %w", err)}
				}
				out.add(s.Areas[i].ID, r)
			}
			out.Air = out.Airs[0]
			return printed(c, s, out)
		},
	}
	c.Flags().StringVar(&file, "shop", "", "shop file to read")
	c.Flags().StringVar(&in, "mode", "", "arrangement of the floor; as it stands when left out")
	required(c, "shop")
	return c
}

// add a room.
func (o *supplied) add(area string, r *supply.Room) {
	for _, l := range r.Loads {
		for k := range o.Circuits {
			if o.Circuits[k].ID == l.Circuit {
				o.Circuits[k].Sets = append(o.Circuits[k].Sets, suppliedSet{l.Stations, l.Amps, l.Over})
			}
		}
	}
	for _, p := range r.Plugs {
		o.Cords = append(o.Cords, suppliedCord{p.Station, p.Outlet, p.Need, p.Have, p.Crosses})
	}
	for _, l := range r.Lit {
		o.Light = append(o.Light, suppliedLight{l.Station, l.Evening, l.Wants})
	}
	o.Airs = append(o.Airs, suppliedAir{area, r.Air.Times})
	for _, x := range r.Cautions {
		o.Findings = append(o.Findings, suppliedFinding{x.Code, x.On, x.Says, x.Do})
	}
}
