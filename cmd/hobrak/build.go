package main

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"hobrak/internal/core/build"
	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/sheet"
	"hobrak/internal/exchange"
)

// madePart is a part as the command writes it: a block l long, w wide and t thick, turned about x, y and z in this order, then put with
// its lowest corner at a spot of the unit.
type madePart struct {
	Name     string       `json:"name"`
	Of       string       `json:"of"`
	Count    int          `json:"count"`
	L        float64      `json:"l"`
	W        float64      `json:"w"`
	T        float64      `json:"t"`
	Material string       `json:"material"`
	Grain    string       `json:"grain"`
	At       [3]float64   `json:"at"`
	Turn     [3]float64   `json:"turn"`
	Cuts     []build.Box  `json:"cuts"`
	Holes    []build.Hole `json:"holes"`
}

// turned is how a block is turned so that its length and its thickness lie along axes.
var turned = map[[2]build.Axis][3]float64{ // length, thickness
	{build.AxisX, build.AxisZ}: {0, 0, 0}, {build.AxisX, build.AxisY}: {90, 0, 0}, {build.AxisY, build.AxisZ}: {0, 0, 90},
	{build.AxisY, build.AxisX}: {90, 0, 90}, {build.AxisZ, build.AxisX}: {0, -90, 0}, {build.AxisZ, build.AxisY}: {0, -90, 90},
}

// madeScrew is a screw in a wall.
type madeScrew struct {
	Wall string  `json:"wall"`
	X    float64 `json:"x"`
	Z    float64 `json:"z"`
	Stud bool    `json:"stud"`
}

func buildCommand() *cobra.Command {
	var file, unit, out string
	var o build.Choices
	c := &cobra.Command{
		Use:   "build --shop FILE --unit ID --out X.json|csv|svg|pdf|dxf",
		Short: "How a piece of storage is made: parts, fittings, steps, drawings, screws in its wall",
		Args:  cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			s, err := readShop(file)
			if err != nil {
				return err
			}
			u, err := build.Of(s, unit, o)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			wall := build.Fix(s, u)
			units := s.Settings.Units
			said := func(t string) string { return say.In(units, t) }
			var write func(w io.Writer) error
			switch form := strings.TrimPrefix(strings.ToLower(filepath.Ext(out)), "."); form {
			case "json":
				write = func(w io.Writer) error { return writeMade(w, u, wall, said) }
			case "csv":
				write = func(w io.Writer) error { return writeCutList(w, u) }
			case "dxf":
				var pages []sheet.Page // true to scale: each kind of part at full size
				for _, l := range u.CutList() {
					pages = append(pages, sheet.PartSheet(&u.Parts[l.Parts[0]]))
				}
				write = func(w io.Writer) error { return exchange.DXF(w, u.Name, pages) }
			case "svg", "pdf":
				paper := sheet.A4
				if units == length.Imperial {
					paper = sheet.Letter
				}
				pages := sheet.UnitSheets(u, wall, paper, units, said)
				write = func(w io.Writer) error { return exchange.SVG(w, u.Name, pages) }
				if form == "pdf" {
					write = func(w io.Writer) error { return exchange.PDF(w, u.Name, pages) }
				}
			default:
				return &exit{code: exitInput, err: fmt.Errorf("%s: the file should end in .json, .csv, .svg, .pdf or .dxf", out)}
			}
			if err := writeFile(out, write); err != nil {
				return &exit{code: exitInput, err: err}
			}
			return nil
		},
	}
	f := c.Flags()
	f.StringVar(&file, "shop", "", "shop file")
	f.StringVar(&unit, "unit", "", "id of a container, or of a place by itself")
	f.StringVar(&out, "out", "", "file to write; what it ends in says what")
	f.StringVar(&o.Sheet, "sheet", "", "kind of sheet; what is there when left out")
	f.Float64Var(&o.T, "thick", 0, "thickness of the parts that carry, mm; 18 when left out")
	f.StringVar(&o.Joint, "joint", "", "screws, rebates or dadoes; what suits the shop's tools when left out")
	f.StringVar(&o.Back, "back", "", "none, on or rebated")
	f.StringVar(&o.Runner, "runner", "", "none, side or undermount")
	f.StringVar(&o.Front, "front", "", "overlay or inset")
	required(c, "shop", "unit", "out")
	return c
}

func writeMade(w io.Writer, u *build.Unit, wall *build.OnWall, said func(string) string) error {
	parts := []madePart{}
	for i := range u.Parts {
		p := &u.Parts[i]
		grain := "l"
		if p.AnyWay {
			grain = "none"
		}
		parts = append(parts, madePart{p.Name, p.Of, 1, p.L, p.W, p.T, p.Material, grain, [3]float64{p.At.X, p.At.Y, p.At.Z}, turned[[2]build.Axis{p.Grain, p.Flat}], p.Cuts, p.Holes})
	}
	screws := []madeScrew{}
	if wall != nil {
		for _, x := range wall.Screws {
			screws = append(screws, madeScrew{wall.Wall, x.X, x.Z, x.Stud})
		}
	}
	steps, cautions := []string{}, []string{}
	for _, x := range u.Steps {
		steps = append(steps, said(x.Says))
	}
	for _, x := range u.Cautions {
		cautions = append(cautions, said(x))
	}
	hardware := []build.Fitting{}
	for _, f := range u.Fittings {
		f.Name = said(f.Name)
		hardware = append(hardware, f)
	}
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return e.Encode(map[string]any{"unit": u.ID, "title": u.Title, "size": [3]float64{u.W, u.D, u.H}, "kg": u.KG, "hours": u.Hours, "parts": parts, "hardware": hardware, "steps": steps, "screws": screws, "cautions": cautions})
}

// writeCutList writes the parts as the command cut reads them.
func writeCutList(w io.Writer, u *build.Unit) error {
	c := csv.NewWriter(w)
	mm := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	_ = c.Write([]string{"name", "count", "l", "w", "t", "material", "grain"}) // Flush says what went wrong
	for _, l := range u.CutList() {
		grain := "l"
		if l.AnyWay {
			grain = "none"
		}
		_ = c.Write([]string{l.Name, strconv.Itoa(l.Count), mm(l.L), mm(l.W), mm(l.T), l.Material, grain})
	}
	c.Flush()
	return c.Error()
}
